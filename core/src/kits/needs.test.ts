import fc from "fast-check";
import { lookUp } from "../design/lookup";
import type { Stock } from "../design/stock";
import { STOCK_FORMAT, STOCK_VERSION, readStock } from "../design/stock";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import type { Part } from "../design/model";
import { DOT, tiny } from "../test/tiny";
import { alternatesFor } from "./alternates";
import { daysBefore, isShort, needsOf, needsOver, startsOf, type JobNeeds } from "./needs";
import { readPicks } from "./events";
import { lineKey, type BillLine } from "./result";
import { purchaseTable, shortagesTable } from "./tables";

const line = (
  part: string,
  quantity: number,
  step: string,
  tags: string[],
  more: Partial<BillLine> = {},
): BillLine => ({
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
  longestMm: null,
  tags,
  terms: [],
  ...more,
});
const stock = (more: Partial<Stock>): Stock => ({
  format: STOCK_FORMAT,
  version: STOCK_VERSION,
  at: "2026-11-26T08:00:00Z",
  items: [],
  deliveries: [],
  reserved: [],
  ...more,
});
const BILL = [
  line("P", 3, "plate", ["-K1", "-K2", "-K3"]),
  line("P", 2, "door", ["-K8", "-K9"]),
  line("Q", 1, "plate", ["-U1"]),
];
const job = (code: string, bill = BILL, wanted: string | null = null): JobNeeds => ({
  job: code,
  wanted,
  parts: needsOf(bill),
});

test("of all steps together, what is built first gets it; a part of no known level is not judged", () => {
  const one = job("J");
  const needs = needsOver([one], stock({ items: [{ part: "P", free: 4 }] }));
  expect(needs.map((n) => [n.part, n.needed, n.there, n.missing, isShort(n)])).toEqual([
    ["P", 5, 4, 1, true],
    ["Q", 1, null, null, false],
  ]);
  expect(startsOf("J", one.parts, needs)).toEqual([
    { enclosure: "+A1", step: "plate", lacks: [] },
    {
      enclosure: "+A1",
      step: "door",
      lacks: [{ part: "P", text: "P", unit: "pcs", quantity: 1, tags: ["-K8", "-K9"] }],
    },
  ]);
  expect(needsOver([one], stock({ items: [{ part: "P", free: 5 }] })).some(isShort)).toBe(false);
  // In two places of the store.
  const twice = stock({
    items: [
      { part: "P", free: 2 },
      { part: "P", free: 3 },
    ],
  });
  expect(needsOver([one], twice)[0]!.missing).toBe(0);
});

test("what a job has reserved is its own and is counted once", () => {
  const reserved = [{ job: "J", part: "P", quantity: 3 }];
  const [need] = needsOver([job("J"), job("H")], stock({ items: [{ part: "P", free: 4 }], reserved }));
  expect(need).toMatchObject({ needed: 10, there: 7, missing: 3 });
  expect(need!.jobs.map((j) => [j.job, j.fromStock, j.missing])).toEqual([
    ["H", 4, 1],
    ["J", 3, 2],
  ]);
});

test("deliveries help whoever wants it first; those that come after the day are late", () => {
  const levels = stock({
    items: [{ part: "P", free: 1 }],
    deliveries: [
      { part: "P", quantity: 6, due: "2027-01-20" },
      { part: "P", quantity: 2, due: "2027-01-05" },
    ],
  });
  const [need] = needsOver([job("late", BILL, "2027-03-01"), job("soon", BILL, "2027-01-10")], levels);
  expect(need!.jobs).toEqual([
    {
      job: "soon",
      wanted: "2027-01-10",
      needed: 5,
      fromStock: 1,
      fromDeliveries: 2,
      late: 2,
      lateUntil: "2027-01-20",
      missing: 0,
    },
    {
      job: "late",
      wanted: "2027-03-01",
      needed: 5,
      fromStock: 0,
      fromDeliveries: 4,
      late: 0,
      lateUntil: null,
      missing: 1,
    },
  ]);
  expect([daysBefore("2027-02-19", 10), daysBefore(null, 3), daysBefore("soon", 3)]).toEqual([
    "2027-02-09",
    null,
    null,
  ]);
});

test("a job without a day is served last, and what comes on the day comes in time", () => {
  const [need] = needsOver([job("a"), job("z", BILL, "2027-01-10")], stock({ items: [{ part: "P", free: 6 }] }));
  expect(need!.jobs.map((j) => [j.job, j.fromStock, j.missing])).toEqual([
    ["z", 5, 0],
    ["a", 1, 4],
  ]);
  const on = (due: string) =>
    needsOver(
      [job("J", BILL, "2027-01-10")],
      stock({
        items: [{ part: "P", free: 0 }],
        deliveries: [{ part: "P", quantity: 5, due }],
      }),
    )[0]!.jobs.map((j) => [j.fromDeliveries, j.late]);
  expect(["2027-01-09", "2027-01-10", "2027-01-11"].map(on)).toEqual([[[5, 0]], [[5, 0]], [[0, 5]]]);
});

test("nothing is given twice and nothing is kept back, whatever there is", () => {
  const parts = fc.constantFrom("P", "Q", "R");
  const n = fc.integer({ min: 0, max: 9 });
  fc.assert(
    fc.property(
      fc.array(fc.record({ part: parts, quantity: fc.integer({ min: 1, max: 9 }) }), { maxLength: 6 }),
      fc.array(fc.record({ part: parts, free: n }), { maxLength: 4 }),
      fc.array(fc.record({ part: parts, quantity: n, day: fc.integer({ min: 1, max: 28 }) }), { maxLength: 5 }),
      fc.array(fc.record({ job: fc.constantFrom("J0", "J1", "J9"), part: parts, quantity: n }), { maxLength: 3 }),
      (asked, items, deliveries, reserved) => {
        const jobs = asked.map((a, i) =>
          job(`J${i}`, [line(a.part, a.quantity, "plate", [])], i % 3 === 0 ? null : `2027-01-1${i}`),
        );
        const due = deliveries.map((d) => ({ ...d, due: `2027-01-${String(d.day).padStart(2, "0")}` }));
        const levels = stock({ items, deliveries: due, reserved });
        for (const need of needsOver(jobs, levels)) {
          const of = <T extends { part: string }>(list: readonly T[], value: (t: T) => number): number =>
            list.filter((x) => x.part === need.part).reduce((sum, x) => sum + value(x), 0);
          const sum = (key: "needed" | "fromStock" | "fromDeliveries" | "late" | "missing"): number =>
            need.jobs.reduce((s, j) => s + j[key], 0);
          expect(sum("needed")).toBe(need.needed);
          if (!items.some((i) => i.part === need.part)) {
            expect([need.there, need.missing]).toEqual([null, null]);
            continue;
          }
          for (const j of need.jobs) expect(j.fromStock + j.fromDeliveries + j.late + j.missing).toBe(j.needed);
          expect(sum("missing")).toBe(need.missing);
          const own = need.jobs.map((j) =>
            Math.min(
              j.needed,
              of(
                reserved.filter((r) => r.job === j.job),
                (r) => r.quantity,
              ),
            ),
          );
          const free = of(items, (i) => i.free);
          const still = need.needed - own.reduce((a, b) => a + b, 0);
          expect(sum("fromStock")).toBe(need.needed - still + Math.min(still, free));
          expect(need.missing).toBe(Math.max(0, still - free - of(due, (d) => d.quantity)));
        }
      },
    ),
    { seed: 17, numRuns: runs(200) },
  );
});

test("what is picked is needed no more, first where it is built first", () => {
  const log = readPicks([
    { id: "1", kit: "K", line: lineKey(BILL[0]!), what: "picked", quantity: 4, who: "Ida", at: "2026-11-26T10:00:00Z" },
  ]);
  const [p] = needsOf(BILL, log);
  expect(p).toMatchObject({ quantity: 1, tags: ["-K8", "-K9"] });
  expect(p!.steps.map((s) => [s.step, s.quantity])).toEqual([["door", 1]]);
});

test("tables: what is short and what nobody knows; bought in whole packs", () => {
  const bill = [
    line("P", 23, "plate", ["-K1"], { pack: 10 }),
    line("Q", 7, "plate", ["-U1"], { pack: 4 }),
    line("R", 1, "door", []),
  ];
  const needs = needsOver(
    [job("J", bill, "2027-01-10")],
    stock({
      items: [
        { part: "P", free: 2 },
        { part: "R", free: 9 },
      ],
    }),
  );
  const short = shortagesTable(needs, "2026-11-26T08:00:00Z");
  expect(short.rows.map((r) => [r[0], r[4], r[6], r[15]])).toEqual([
    ["P", 2, 21, "2026-11-26T08:00:00Z"],
    ["Q", null, null, ""],
  ]);
  for (const row of short.rows) expect(row).toHaveLength(short.head.length);
  expect(purchaseTable(needs).rows.map((r) => [r[0], r[3], r[4], r[5], r[8]])).toEqual([
    ["P", 21, 3, 30, "yes"],
    ["Q", 7, 2, 8, "no"],
  ]);
});

test("an alternate has every pin in use, and says in what it differs", () => {
  const look = lookUp(demo("larkmoor"));
  const all = alternatesFor(look, "QM-PB", new Set(["13", "14"]));
  expect(all.map((a) => a.part)).toContain("QM-KS");
  expect(alternatesFor(look, "QM-PB", new Set(["no such pin"]))).toEqual([]);
  expect(alternatesFor(look, "NOPE", new Set())).toEqual([]);
});

test("in what an alternate differs: sizes, losses, openings, and the pins in use alone", () => {
  const pins = (more: object) => [
    { name: "1", sizeMin: 0.5, sizeMax: 2.5, clamp: "screw" as const, exit: "up" as const, ...more },
    { name: "2", sizeMax: 4 },
  ];
  const part = (number: string, more: Partial<Part>): Part => ({
    ...DOT,
    number,
    category: "relay",
    w: 20,
    pins: pins({}),
    lossW: 3,
    holes: [{ kind: "round", x: 5, y: 5, d: 22.3 }],
    ...more,
  });
  const parts = [
    part("A", {}),
    part("same", {}),
    part("wide", { w: 22.5, lossW: 4.5, weightKg: 0.2 }),
    part("open", { holes: [{ kind: "rect", x: 0, y: 0, w: 20, h: 30, r: 0 }], pins: [pins({})[0]!] }),
    part("pins", { pins: pins({ sizeMax: 1.5, clamp: "push-in", exit: "down" }) }),
    part("lamp", { category: "lamp" }),
  ];
  const found = (used: string[]) =>
    Object.fromEntries(alternatesFor(lookUp(tiny({ parts })), "A", new Set(used)).map((a) => [a.part, a.differs]));
  expect(found(["1"])).toEqual({
    same: [],
    wide: ["width 22.5 mm instead of 20 mm", "loss 4.5 W instead of 3 W", "weight 0.2 kg instead of not stated"],
    open: ["opening 20 × 30 mm instead of Ø 22.3 mm"],
    pins: ["pin 1 takes 0.5 to 1.5 mm²", "pin 1 is push-in", "pin 1 leads down"],
  });
  // Where pin 2 is in use too, a part that lacks it is none.
  expect(Object.keys(found(["1", "2"]))).toEqual(["same", "pins", "wide"]);
});

test("a library names alternates: they come first; openings are compared", () => {
  const lark = demo("larkmoor");
  const named = {
    ...lark,
    parts: lark.parts.map((p) => (p.number === "TT-CU600" ? { ...p, alternates: ["TT-CU1000"] } : p)),
  };
  const [first] = alternatesFor(lookUp(named), "TT-CU600", new Set());
  expect(first).toMatchObject({ part: "TT-CU1000", named: true });
  expect(first!.differs.join("; ")).toMatch(/opening \d+ × \d+ mm instead of \d+ × \d+ mm/);
});

test("a stock file is read as it says, and refused with its places", () => {
  const good = stock({ items: [{ part: "P", free: 3 }], deliveries: [{ part: "P", quantity: 2, due: "2027-01-05" }] });
  expect(readStock(JSON.stringify(good))).toEqual({ ok: true, value: good });
  const { format, version, at } = good;
  expect(readStock(JSON.stringify({ format, version, at, items: [] }))).toMatchObject({
    ok: true,
    value: { deliveries: [], reserved: [] },
  });
  const bad = (change: object): string[] => {
    const read = readStock(JSON.stringify({ ...good, ...change }));
    return read.ok ? [] : read.faults.map((f) => f.path);
  };
  expect(bad({ items: [{ part: "P", free: -1 }] })).toEqual(["items[0].free"]);
  expect(bad({ deliveries: [{ part: "P", quantity: 1, due: "2027-13-05" }] })).toEqual(["deliveries[0].due"]);
  expect(bad({ at: "yesterday" })).toEqual(["at"]);
  expect(bad({ format: "other" })).toEqual(["format"]);
  fc.assert(
    fc.property(fc.string(), (text) => {
      readStock(text);
    }),
    { seed: 5, numRuns: runs(100) },
  );
});

test("the opening of an alternate is its largest hole, a free outline by what it spans", () => {
  const part = (number: string, holes: NonNullable<Part["holes"]>): Part => ({ ...DOT, number, holes });
  const outline = [
    { x: 0, y: 0 },
    { x: 30, y: 5 },
    { x: 12, y: 40 },
  ];
  const parts = [
    part("A", [{ kind: "round", x: 0, y: 0, d: 22.3 }]),
    part("free", [
      { kind: "round", x: 0, y: 0, d: 5 },
      { kind: "polygon", points: outline },
    ]),
  ];
  const found = alternatesFor(lookUp(tiny({ parts })), "A", new Set()).find((a) => a.part === "free");
  expect(found).toMatchObject({ differs: ["opening outline of 30 × 40 mm instead of Ø 22.3 mm"] });
});
