import fc from "fast-check";
import { lookUp } from "../design/lookup";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import { putBack, standing, stateOf, type PickEvent } from "./picks";
import type { BillLine } from "./result";
import { alternatesFor, shortagesOf } from "./shortage";

const events = fc
  .array(
    fc.record({
      line: fc.constantFrom("a", "b", "c"),
      what: fc.constantFrom<PickEvent["what"]>("picked", "picked", "short", "put back", "undone"),
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
        expect(stateOf("K", [...order, ...again])).toEqual(stateOf("K", list));
        expect(standing([...again, ...order])).toEqual(standing(list));
      },
    ),
    { seed: 41, numRuns: runs(200) },
  );
});

test("picks add up, what is undone counts for nothing, a pick after a short one settles it", () => {
  const at = (n: number) => `2026-11-26T10:0${n}:00Z`;
  const list: PickEvent[] = [
    { id: "1", kit: "K", line: "a", what: "picked", quantity: 2, who: "Ida", at: at(1) },
    { id: "2", kit: "K", line: "a", what: "picked", quantity: 3, who: "Bo", at: at(2) },
    { id: "3", kit: "K", line: "a", what: "undone", of: "1", who: "Ida", at: at(3) },
    { id: "4", kit: "K", line: "b", what: "short", quantity: 4, reason: "bin empty", who: "Bo", at: at(4) },
    { id: "5", kit: "L", line: "a", what: "picked", quantity: 9, who: "Bo", at: at(5) },
  ];
  expect(Object.fromEntries(stateOf("K", list))).toEqual({
    a: { picked: 3, short: null, who: ["Bo"] },
    b: { picked: 0, short: { quantity: 4, reason: "bin empty", who: "Bo" }, who: [] },
  });
  const later: PickEvent = { id: "6", kit: "K", line: "b", what: "picked", quantity: 4, who: "Ida", at: at(6) };
  expect(stateOf("K", [...list, later]).get("b")).toEqual({ picked: 4, short: null, who: ["Ida"] });
});

test("two on one kit, and a revision that wants less: what is too much goes back, and putting it back settles it", () => {
  const picked = (id: string, who: string): PickEvent => ({
    id,
    kit: "K",
    line: "a",
    what: "picked",
    quantity: 5,
    who,
    at: "2026-11-26T10:00:00Z",
  });
  const twice = stateOf("K", [picked("1", "Ida"), picked("2", "Bo")]);
  const wanted = new Map([["a", 5]]);
  expect(putBack(wanted, twice)).toEqual([{ line: "a", quantity: 5 }]);
  const back: PickEvent = {
    id: "3",
    kit: "K",
    line: "a",
    what: "put back",
    quantity: 5,
    who: "Bo",
    at: "2026-11-26T10:01:00Z",
  };
  expect(putBack(wanted, stateOf("K", [picked("1", "Ida"), picked("2", "Bo"), back]))).toEqual([]);
  expect(putBack(new Map(), twice)).toEqual([{ line: "a", quantity: 10 }]);
});

describe("shortages", () => {
  const line = (part: string, quantity: number, step: string, tags: string[]): BillLine => ({
    enclosure: "+A1",
    step,
    part,
    maker: "m",
    text: part,
    quantity,
    unit: "pcs",
    place: null,
    pack: null,
    weightKg: null,
    tags,
    terms: [],
  });

  test("of all steps together, with what cannot be finished; a part of no known level is not judged", () => {
    const bill = [
      line("P", 3, "plate", ["-K1", "-K2", "-K3"]),
      line("P", 2, "door", ["-K9", "-K8"]),
      line("Q", 1, "plate", ["-U1"]),
    ];
    expect(shortagesOf(bill, [{ part: "P", free: 4 }])).toEqual([
      {
        part: "P",
        text: "P",
        needed: 5,
        free: 4,
        missing: 1,
        tags: ["-K1", "-K2", "-K3", "-K8", "-K9"],
        steps: [
          { enclosure: "+A1", step: "plate" },
          { enclosure: "+A1", step: "door" },
        ],
      },
    ]);
    expect(shortagesOf(bill, [{ part: "P", free: 5 }])).toEqual([]);
  });

  test("an alternate has every pin in use, and says in what it differs", () => {
    const look = lookUp(demo("larkmoor"));
    const all = alternatesFor(look, "QM-PB", new Set(["13", "14"]));
    expect(all.map((a) => a.part)).toContain("QM-KS");
    expect(all.find((a) => a.part === "QM-KS")!.differs.every((d) => d.length > 3)).toBe(true);
    expect(alternatesFor(look, "QM-PB", new Set(["no such pin"]))).toEqual([]);
    expect(alternatesFor(look, "NOPE", new Set())).toEqual([]);
    for (const a of alternatesFor(look, "OH-VD11", new Set(["U", "V"]))) expect(a.differs.length).toBeGreaterThan(0);
  });
});
