import fc from "fast-check";
import { coloursOf } from "../design/landings";
import { lookUp } from "../design/lookup";
import { defaultsOf } from "../design/rule-kinds";
import { KIT_RULES, type Aisle, type KitRules } from "../design/kit-rules";
import { SHOP_RULES } from "../design/rules";
import type { Design } from "../design/model";
import { compute as computeLineups } from "../lineups/compute";
import { compute as computeMetalwork } from "../metalwork/compute";
import { compute as computePanel } from "../panel/compute";
import { runStages } from "../run";
import type { RoutesResult } from "../routes/result";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import { billOf } from "./bill";
import { isOpenBin, kitsOf } from "./kits";
import { issued } from "./packs";
import { shortagesOf } from "./shortage";
import { billChanges, bomTable, picksTable, purchaseTable, shortagesTable } from "./tables";
import { distancesFrom, rowFor, walkOf } from "./walk";

const RULES = defaultsOf(KIT_RULES) as unknown as KitRules;

const routesOf = new Map<string, RoutesResult>();
const bill = (design: Design, name: string, rules = RULES) => {
  const panel = computePanel(design);
  // Routes do not hang on options here: they are worked out once for each job.
  let routes = routesOf.get(name);
  if (!routes) routesOf.set(name, (routes = runStages(design).stages.routes as RoutesResult));
  return billOf(
    {
      look: lookUp(design),
      panel,
      routes,
      lineups: computeLineups(design, SHOP_RULES),
      metalwork: computeMetalwork(design, SHOP_RULES.metalwork, panel),
      colours: coloursOf(design, SHOP_RULES.classes),
    },
    rules,
  );
};

describe.each(["larkmoor", "hillfold"] as const)("the bill of %s", (name) => {
  const design = demo(name);
  const lines = bill(design, name);

  test("every device with the chosen options once, each in the step of where it goes", () => {
    const look = lookUp(design);
    const devices = lines.flatMap((l) => l.terms.filter((t) => t.text.startsWith("devices")).flatMap((t) => t.tags));
    expect([...devices].sort()).toEqual([...look.devices.keys()].sort());
    for (const l of lines)
      for (const t of l.terms.filter((x) => x.text.startsWith("devices"))) expect(t.quantity).toBe(t.tags.length);
    const door = lines.filter((l) => l.step === "door").flatMap((l) => l.tags);
    for (const d of computePanel(design).devices.filter((x) => x.carrier === null && x.face.endsWith("/door")))
      expect(door).toContain(d.tag);
  });

  test("terms add up to their line; metres of rails, ducts and wires are those of the design", () => {
    for (const l of lines) {
      const sum = l.terms.reduce((n, t) => n + t.quantity, 0);
      expect(l.quantity - sum).toBeGreaterThanOrEqual(-1e-9);
      expect(l.quantity - sum).toBeLessThan(l.unit === "pcs" ? 1 : 1e-6);
    }
    const metres = (why: RegExp) =>
      lines.flatMap((l) => l.terms.filter((t) => why.test(t.text))).reduce((n, t) => n + t.quantity, 0);
    const panel = computePanel(design);
    expect(metres(/^rails/)).toBeCloseTo(panel.rails.reduce((n, r) => n + r.length, 0) / 1000, 3);
    expect(metres(/^ducts/)).toBeCloseTo(panel.ducts.reduce((n, r) => n + r.length, 0) / 1000, 3);
    const { wires } = runStages(design).stages.routes as RoutesResult;
    const cut = wires.filter((w) => !w.marks.includes("core")).reduce((n, w) => n + (w.lengthMm ?? 0), 0) / 1000;
    expect(metres(/^cut lengths/)).toBeCloseTo(cut, 1);
    expect(metres(/^waste/)).toBeCloseTo(cut * 0.05, 1);
  });

  test("nothing is lost or double between bill and kits, but what comes from open bins", () => {
    const kits = kitsOf("JOB", lines, RULES, new Map());
    const key = (l: { part: string | null; text: string; unit: string }) => `${l.part ?? l.text} ${l.unit}`;
    const sum = (list: readonly { part: string | null; text: string; unit: string; quantity: number }[]) => {
      const all = new Map<string, number>();
      for (const l of list) all.set(key(l), (all.get(key(l)) ?? 0) + l.quantity);
      return new Map([...all].map(([k, v]) => [k, Math.round(v * 1e4) / 1e4]));
    };
    expect(sum(kits.flatMap((k) => k.lines))).toEqual(sum(lines.filter((l) => !isOpenBin(l, RULES))));
    expect(new Set(kits.map((k) => k.code)).size).toBe(kits.length);
  });
});

test("tables: every line of the bill, every line of every kit in its order; what is missing in whole packs", () => {
  const hill = demo("hillfold");
  const lines = bill(hill, "hillfold");
  const kits = kitsOf("HILL", lines, RULES, new Map());
  const bom = bomTable(lines);
  expect(bom.head.join()).toBe("enclosure,step,part,maker,text,quantity,unit,place,tags");
  expect(bom.rows).toHaveLength(lines.length);
  const picks = picksTable(kits, RULES);
  expect(picks.head.join()).toBe("kit,order,place,part,text,quantity,unit,tags");
  expect(picks.rows).toHaveLength(kits.reduce((n, k) => n + k.lines.length, 0));
  for (const kit of kits) {
    const rows = picks.rows.filter((r) => r[0] === kit.code);
    expect(rows.map((r) => r[1])).toEqual(rows.map((_, i) => i + 1));
    // A place is come to once.
    const places = rows.map((r) => r[2]).filter((p, i, all) => p !== all[i - 1]);
    expect(new Set(places).size).toBe(places.length);
  }
  const [first] = lines.filter((l) => l.part !== null && l.unit === "pcs" && l.pack !== null);
  const short = shortagesOf(lines, [{ part: first!.part!, free: 0 }]);
  expect(shortagesTable(short).rows).toHaveLength(1);
  const [row] = purchaseTable(short, lines).rows;
  expect(Number(row![5])).toBeGreaterThanOrEqual(short[0]!.missing);
  expect(Number(row![5]) % first!.pack!).toBe(0);
});

test("a revision with one device less needs that much less, and nothing else", () => {
  const hill = demo("hillfold");
  const gone = hill.devices.find((d) => d.part === "QM-PL")!;
  const less = { ...hill, devices: hill.devices.filter((d) => d !== gone) };
  const changes = billChanges(bill(hill, "hillfold"), bill(less, "hillfold"));
  expect(changes).toEqual([{ enclosure: "+A1", step: "door", line: "QM-PL (pcs)", before: 1, after: 0 }]);
  expect(billChanges(bill(hill, "hillfold"), bill(hill, "hillfold"))).toEqual([]);
});

test("options left out bring nothing; chosen, they do", () => {
  const lark = demo("larkmoor");
  const fitted = { ...lark, options: lark.options.map((o) => ({ ...o, chosen: "fitted" })) };
  const none = { ...lark, options: lark.options.map((o) => ({ ...o, chosen: "none" })) };
  const count = (d: Design) =>
    bill(d, "larkmoor")
      .flatMap((l) => l.terms.filter((t) => t.text.startsWith("devices")))
      .reduce((n, t) => n + t.quantity, 0);
  expect(count(fitted)).toBe(lookUp(fitted).devices.size);
  expect(count(none)).toBe(lookUp(none).devices.size);
  expect(count(fitted)).toBeGreaterThan(count(none));
});

test("a screw for each hole that is for one, by what fixes what; long and heavy things are kits of their own", () => {
  const lark = demo("larkmoor");
  const lines = bill(lark, "larkmoor");
  const panel = computePanel(lark);
  const { faces } = computeMetalwork(lark, SHOP_RULES.metalwork, panel);
  const threads = faces.flatMap((f) => f.holes).filter((h) => h.cut.kind === "thread" && h.from[0]!.thing !== "face");
  const screws = lines.filter((l) => l.text.startsWith("screw M")).reduce((n, l) => n + l.quantity, 0);
  expect(screws).toBe(threads.length);
  const kits = kitsOf("LARK", lines, { ...RULES, heavyKg: 2 }, new Map([["TT-CU1500", 2000]]));
  expect(kits.filter((k) => k.apart === "long").flatMap((k) => k.lines.map((l) => l.part))).toEqual(["TT-CU1500"]);
  expect(kits.some((k) => k.apart === "heavy")).toBe(true);
});

test("packs: whole ones, and what goes back", () => {
  expect(issued(23, 10)).toEqual({ packs: 3, quantity: 30, back: 7 });
  expect(issued(30, 10)).toEqual({ packs: 3, quantity: 30, back: 0 });
  expect(issued(12.34, 100)).toEqual({ packs: 1, quantity: 100, back: 87.66 });
  for (const odd of [null, 0, -3, NaN]) expect(issued(4, odd)).toEqual({ packs: 4, quantity: 4, back: 0 });
});

describe("the walk", () => {
  const aisles: Aisle[] = [
    { from: "desk", to: "A", metres: 5 },
    { from: "A", to: "B", metres: 4 },
    { from: "B", to: "C", metres: 4 },
    { from: "C", to: "desk", metres: 9 },
    { from: "A", to: "gate", metres: 3 },
  ];
  const places = ["A", "B", "C"].flatMap((r) => [1, 2, 3].map((n) => ({ begins: `${r}-${n}`, at: r, metres: 2 * n })));

  test("ways through the store are the shortest; the longest beginning names a place", () => {
    expect(Object.fromEntries(distancesFrom("desk", aisles))).toEqual({ desk: 0, A: 5, B: 9, C: 9, gate: 8 });
    expect(rowFor("A-2-07", [{ begins: "A", at: "x", metres: 0 }, ...places])).toMatchObject({ at: "A", metres: 4 });
    expect(rowFor("Z-1", places)).toBeUndefined();
  });

  test("against all orders to seven places, round and from one end to another; what is nowhere stands last", () => {
    const orders = (list: readonly string[]): string[][] =>
      list.length <= 1
        ? [[...list]]
        : list.flatMap((x, i) => orders(list.filter((_, k) => k !== i)).map((rest) => [x, ...rest]));
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...places.map((p) => `${p.begins}-x`)), { minLength: 1, maxLength: 7 }),
        fc.constantFrom("desk", "gate"),
        (list, end) => {
          const walk = walkOf([...list, "Z-9"], { aisles, places, start: "desk", end });
          expect([...walk.stops].sort()).toEqual([...list, "Z-9"].sort());
          expect([walk.stops[walk.stops.length - 1], walk.unknown]).toEqual(["Z-9", ["Z-9"]]);
          const far = (order: readonly string[]): number => {
            const at = (p: string) => {
              const row = rowFor(p, places)!;
              return row;
            };
            const between = (a: { at: string; metres: number }, b: { at: string; metres: number }) =>
              a.at === b.at
                ? Math.abs(a.metres - b.metres)
                : a.metres + distancesFrom(a.at, aisles).get(b.at)! + b.metres;
            const stops = [{ at: "desk", metres: 0 }, ...order.map(at), { at: end, metres: 0 }];
            return stops.slice(1).reduce((n, s, i) => n + between(stops[i]!, s), 0);
          };
          const best = Math.min(...orders(list).map(far));
          expect(walk.metres).toBeCloseTo(best, 6);
          expect(far(walk.stops.slice(0, -1))).toBeCloseTo(best, 6);
          expect(walk.boundMetres).toBeLessThanOrEqual(best + 1e-6);
          expect(walk.listMetres).toBeGreaterThanOrEqual(best - 1e-6);
        },
      ),
      { seed: 61, numRuns: runs(40) },
    );
  });

  test("nothing to fetch is no way", () => {
    expect(walkOf([], { aisles, places, start: "desk", end: "desk" })).toMatchObject({ stops: [], metres: 0 });
    expect(walkOf([], { aisles, places, start: "desk", end: "gate" }).metres).toBe(8);
  });
});
