import fc from "fast-check";
import { runs } from "../test/runs";
import { eventsOfTicks, sheetsOf, sheetTicked, type SheetEvent } from "./events";

const F = "+A1/door";
let minute = 0;
const said = (id: string, what: SheetEvent["what"], sheet: number, more: Partial<SheetEvent> = {}): SheetEvent => ({
  id,
  what,
  face: F,
  sheet,
  who: "Ida",
  at: `2026-11-30T10:${String(minute++ % 60).padStart(2, "0")}:00Z`,
  ...more,
});

test("begun, done, scrapped with its reason, and the next one", () => {
  expect(sheetsOf(F, [])).toMatchObject([{ n: 1, state: "waiting", said: [] }]);
  const begun = said("b", "begun", 1);
  expect(sheetsOf(F, [begun])).toMatchObject([{ n: 1, state: "begun", who: "Ida", said: ["b"] }]);
  const done = said("d", "done", 1, { who: "Bo" });
  expect(sheetsOf(F, [done, begun])).toMatchObject([{ state: "done", who: "Bo", said: ["d"] }]);
  const spoilt = said("s", "scrapped", 1, { reason: "lay wrong: turned" });
  expect(sheetsOf(F, [spoilt, done, begun])).toMatchObject([
    { n: 1, state: "scrapped", reason: "lay wrong: turned" },
    { n: 2, state: "waiting" },
  ]);
  expect(sheetsOf("+A1/plate", [spoilt])).toMatchObject([{ n: 1, state: "waiting" }]);
});

test("taken back it is as before, whoever said it twice; of programs the last one of a set-up counts", () => {
  const [one, two] = [said("d1", "done", 1), said("d2", "done", 1)];
  const [sheet] = sheetsOf(F, [said("b", "begun", 1), one, two]);
  expect(sheet!.said).toEqual(["d1", "d2"]);
  const back = sheet!.said.map((of, i) => said(`u${i}`, "undone", 1, { of }));
  expect(sheetsOf(F, [said("b", "begun", 1), one, two, ...back])).toMatchObject([{ state: "begun", said: ["b"] }]);
  const sent = (id: string, setUp: number, program: string) =>
    said(id, "sent", 1, { setUp, machine: "Tallow 3", program });
  const all = [sent("p2", 2, "J-2"), sent("p1", 1, "J-1"), sent("p3", 1, "J-3")];
  expect(sheetsOf(F, all)[0]!.sent).toEqual([
    { setUp: 1, machine: "Tallow 3", program: "J-3" },
    { setUp: 2, machine: "Tallow 3", program: "J-2" },
  ]);
});

test("sent twice and in another order it comes to the same", () => {
  const event = fc.record({
    what: fc.constantFrom<SheetEvent["what"]>("begun", "done", "scrapped", "sent", "undone"),
    sheet: fc.integer({ min: 1, max: 3 }),
    of: fc.integer({ min: 0, max: 11 }),
    minute: fc.integer({ min: 0, max: 5 }),
  });
  let scrapped = 0;
  fc.assert(
    fc.property(fc.array(event, { maxLength: 12 }), fc.infiniteStream(fc.nat()), (list, order) => {
      const events = list.map((e, i) =>
        said(`e${i}`, e.what, e.sheet, {
          at: `2026-11-30T10:0${e.minute}:00Z`,
          ...(e.what === "undone" ? { of: `e${e.of}` } : {}),
          ...(e.what === "sent" ? { setUp: 1, machine: `M${i}`, program: `P${i}` } : {}),
        }),
      );
      const sheets = sheetsOf(F, events);
      if (sheets.length > 1 && sheets[0]!.state === "scrapped") scrapped++;
      const shuffled = [...events, ...events.slice(0, 3)]
        .map((e) => ({ e, k: order.next().value as number }))
        .sort((a, b) => a.k - b.k)
        .map(({ e }) => e);
      expect(sheetsOf(F, shuffled)).toEqual(sheets);
    }),
    { seed: 11, numRuns: runs(200, 50) },
  );
  expect(scrapped).toBeGreaterThan(3);
});

test("ticks of before come to events: what is ticked off undoes just what said the same", () => {
  const tick = (id: string, item: string, done = true) => ({ id, item, done, who: "Ida", at: `2026-11-2${id}` });
  const events = eventsOfTicks([
    tick("1", `${F}#1 sent 1 7 Tallow 3`),
    tick("2", `${F}#1 sent 2 8 Tallow 3`),
    tick("3", `${F}#1 sent 2 9 Wickett`),
    tick("4", `${F}#1 scrapped: bent`),
    tick("5", `${F}#1 scrapped: burnt`),
    tick("6", `${F}#1 sent 2 8 Tallow 3`, false),
    tick("7", `${F}#1 scrapped: burnt`, false),
    tick("8", "no sheet"),
    tick("9", `${F}#1 begun`, false),
  ]);
  expect(events.filter((e) => e.what === "undone").map((e) => [e.id, e.of])).toEqual([
    ["6", "2"],
    ["7", "5"],
  ]);
  expect(sheetsOf(F, events)[0]).toMatchObject({
    state: "scrapped",
    reason: "bent",
    sent: [
      { setUp: 1, machine: "Tallow 3", program: null },
      { setUp: 2, machine: "Wickett", program: null },
    ],
  });
  // What is known already is undone too, all of it.
  const off = eventsOfTicks([tick("8", `${F}#1 scrapped: bent`, false)], [...events, { ...events[3]!, id: "again" }]);
  expect(off.map((e) => [e.id, e.of])).toEqual([
    ["8", "4"],
    ["8 2", "again"],
  ]);
});

test("what ticks of sheets said before is read; what is none is not", () => {
  expect(sheetTicked("+A1/door#2 begun")).toEqual({ face: F, sheet: 2, what: "begun" });
  expect(sheetTicked("+A1/door#12 scrapped: lay wrong: turned")).toMatchObject({
    sheet: 12,
    what: "scrapped",
    reason: "lay wrong: turned",
  });
  expect(sheetTicked("+A#1/door#1 sent 2 7 Tallow 3")).toEqual({
    face: "+A#1/door",
    sheet: 1,
    what: "sent",
    setUp: 2,
    machine: "Tallow 3",
  });
  for (const text of ["nonsense", "+A1/door#x begun", "+A1/door#1 sent 7", "+A1/door#1 begun twice"])
    expect(sheetTicked(text)).toBeNull();
});
