import fc from "fast-check";
import { runs } from "../test/runs";
import { kitStanding, putBack, putBacksOf, readPicks, stateOf, type PickEvent } from "./events";
import { standing } from "../frame/events";
import { lineKey, type KitLine } from "./result";

const events = fc
  .array(
    fc.record({
      line: fc.constantFrom("a (pcs)", "b (pcs)", "c (m)"),
      what: fc.constantFrom<PickEvent["what"]>(
        "picked",
        "picked",
        "short",
        "put back",
        "undone",
        "at the bench",
        "used up",
      ),
      quantity: fc.integer({ min: 1, max: 9 }),
      who: fc.constantFrom("Ida", "Bo"),
      minute: fc.integer({ min: 0, max: 59 }),
      of: fc.integer({ min: 0, max: 19 }),
    }),
    { maxLength: 20 },
  )
  .map((list) =>
    list.map((e, i): PickEvent => ({
      id: `e${i}`,
      kit: "K",
      line: e.line,
      what: e.what,
      quantity: e.quantity,
      who: e.who,
      at: `2026-11-26T10:${String(e.minute).padStart(2, "0")}:00Z`,
      ...(e.what === "undone" ? { of: `e${e.of}` } : {}),
      ...(e.what === "short" ? { reason: "bin empty" } : {}),
    })),
  );

test("sent twice, late, or in another order: the state is the same", () => {
  fc.assert(
    fc.property(
      events.chain((list) =>
        fc.record({
          list: fc.constant(list),
          again: fc.shuffledSubarray(list),
          order: fc.shuffledSubarray(list, { minLength: list.length, maxLength: list.length }),
        }),
      ),
      ({ list, again, order }) => {
        expect(readPicks([...order, ...again])).toEqual(readPicks(list));
        expect(standing([...again, ...order])).toEqual(standing(list));
      },
    ),
    { seed: 41, numRuns: runs(200) },
  );
});

const at = (n: number): string => `2026-11-26T10:0${n}:00Z`;
const said = (id: string, what: PickEvent["what"], more: Partial<PickEvent> = {}): PickEvent => ({
  id,
  kit: "K",
  line: "a (pcs)",
  what,
  who: "Ida",
  at: at(Number(id)),
  ...more,
});

test("picks add up, what is undone counts for nothing, a pick after a short one settles it", () => {
  const list = [
    said("1", "picked", { quantity: 2 }),
    said("2", "picked", { quantity: 3, who: "Bo" }),
    said("3", "undone", { of: "1" }),
    said("4", "short", { line: "b (pcs)", quantity: 4, reason: "bin empty", who: "Bo" }),
    said("5", "picked", { kit: "L", quantity: 9, who: "Bo" }),
  ];
  expect(Object.fromEntries(stateOf("K", list))).toEqual({
    "a (pcs)": { picked: 3, short: null, who: ["Bo"] },
    "b (pcs)": { picked: 0, short: { quantity: 4, reason: "bin empty", who: "Bo" }, who: [] },
  });
  const later = said("6", "picked", { line: "b (pcs)", quantity: 4 });
  expect(stateOf("K", [...list, later]).get("b (pcs)")).toEqual({ picked: 4, short: null, who: ["Ida"] });
});

const line = (text: string, quantity: number): KitLine => ({
  part: null,
  text,
  quantity,
  unit: "pcs",
  place: `P-${text}`,
  tags: [],
});

test("a kit goes from planned over picking to picked, to the bench and used up; what is undone goes back a step", () => {
  const kit = { lines: [line("a", 2), line("b", 1)] };
  const state = (...list: PickEvent[]) => kitStanding(kit, readPicks(list).get("K"));
  const [one, short, carried, used] = [
    said("1", "picked", { quantity: 2 }),
    said("2", "short", { line: "b (pcs)", quantity: 1, reason: "bin empty" }),
    said("3", "at the bench", { line: "" }),
    said("4", "used up", { line: "" }),
  ];
  expect(state()).toEqual({ state: "planned", lines: 2, done: 0, short: 0 });
  expect(state(one)).toEqual({ state: "picking", lines: 2, done: 1, short: 0 });
  expect(state(one, short)).toEqual({ state: "picked", lines: 2, done: 1, short: 1 });
  expect(state(one, short, carried).state).toBe("at the bench");
  expect(state(one, short, carried, used).state).toBe("used up");
  expect(state(one, short, carried, used, said("5", "undone", { of: "4" })).state).toBe("at the bench");
  // Half of a line is not all of it.
  expect(state(said("1", "picked", { quantity: 1 }))).toMatchObject({ state: "picking", done: 0 });
  expect(kitStanding({ lines: [] }, undefined).state).toBe("planned");
});

test("two on one kit, and a revision that wants less: what is too much goes back, and putting it back settles it", () => {
  const twice = stateOf("K", [said("1", "picked", { quantity: 5 }), said("2", "picked", { quantity: 5, who: "Bo" })]);
  const wanted = new Map([["a (pcs)", 5]]);
  expect(putBack(wanted, twice)).toEqual([{ line: "a (pcs)", quantity: 5 }]);
  const list = [
    said("1", "picked", { quantity: 5 }),
    said("2", "picked", { quantity: 5, who: "Bo" }),
    said("3", "put back", { quantity: 5 }),
  ];
  expect(putBack(wanted, stateOf("K", list))).toEqual([]);
  expect(putBack(new Map(), twice)).toEqual([{ line: "a (pcs)", quantity: 10 }]);
});

test("what one kit has too much of goes over to one that lacks it; kits that are no more give all back", () => {
  const kits = [
    { code: "K", lines: [line("a", 1)] },
    { code: "L", lines: [line("a", 2)] },
  ];
  const log = readPicks([
    said("1", "picked", { quantity: 4 }),
    said("2", "picked", { kit: "gone", line: "z (pcs)", quantity: 2 }),
  ]);
  expect(putBacksOf(kits, log, [{ lines: [line("z", 2)] }])).toEqual([
    { kit: "K", line: "a (pcs)", quantity: 3, part: null, text: "a", place: "P-a", over: [{ kit: "L", quantity: 2 }] },
    { kit: "gone", line: "z (pcs)", quantity: 2, part: null, text: "z", place: "P-z", over: [] },
  ]);
});

test("what two kits have too much of goes over once to the one that lacks it", () => {
  const kits = ["K", "L", "M"].map((code) => ({ code, lines: [line("a", 2)] }));
  const log = readPicks([said("1", "picked", { quantity: 5 }), said("2", "picked", { kit: "M", quantity: 3 })]);
  expect(putBacksOf(kits, log).map((b) => [b.kit, b.quantity, b.over])).toEqual([
    ["K", 3, [{ kit: "L", quantity: 2 }]],
    ["M", 1, []],
  ]);
});

test("nothing is lost between wanted, picked and put back", () => {
  fc.assert(
    fc.property(events, fc.integer({ min: 0, max: 12 }), (list, wants) => {
      const kits = [{ code: "K", lines: ["a", "b"].map((t) => line(t, wants)) }];
      const log = readPicks(list);
      const back = new Map(putBacksOf(kits, log).map((b) => [b.line, b.quantity]));
      for (const [key, is] of log.get("K")?.lines ?? []) {
        const wanted = kits[0]!.lines.find((l) => lineKey(l) === key)?.quantity ?? 0;
        expect(back.get(key) ?? 0).toBe(Math.max(0, is.picked - wanted));
      }
    }),
    { seed: 12, numRuns: runs(100) },
  );
});
