import fc from "fast-check";
import { coloursOf } from "../wiring/landings";
import type { Design, Part } from "../design/model";
import type { PrepRules } from "./rules";
import { defaultsOf } from "../shop/rule-kinds";
import { PREP_RULES } from "./rules";
import { SHOP_RULES } from "../shop/rules";
import { DEFAULT_SHOP } from "../shop/shop";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { runStages } from "../run";
import { demo } from "../test/demo";
import { randomDesigns } from "../test/random-design";
import { runs } from "../test/runs";
import { batchOf, lackOf } from "./batches";
import { chainsOf, partedAt } from "./chains";
import { compute } from "./compute";
import { printedLabels } from "./files";
import { bundleTickets, printerFile } from "./labels";
import { makeBatch } from "./make";
import { planOf } from "./plan";
import { machineFile, profileFaults } from "./profile";
import { workRank } from "./rank";
import type { Lead, LeadEnd, WireprepResult } from "./result";
import { partedCrimps } from "./tables";

/** What may be crimped together, what goes to the bench and why, and that a batch holds what its plan said. */

const RULES = defaultsOf(PREP_RULES) as unknown as PrepRules;
const BRACK = RULES.machines.find((m) => m.name === "Brack 2")!;

const prepared = (design: Design, rules: Partial<PrepRules> = {}) => {
  const { stages } = runStages(design);
  const needs = { panel: stages.panel as PanelResult, routes: stages.routes as RoutesResult };
  const shop = { ...SHOP_RULES, wireprep: { ...RULES, ...rules } };
  return { ...compute(design, shop, coloursOf(design, shop.classes), needs), ...needs, rules: shop.wireprep };
};

const end = (more: Partial<LeadEnd> = {}): LeadEnd => ({
  device: "-K1",
  pin: "1",
  treatment: "twin ferrule",
  part: "S-T1.5",
  sleeve: "black",
  stripMm: 12,
  stripWhy: null,
  label: "",
  labelOn: "printed",
  shared: null,
  ...more,
});
const lead = (wire: string, from: Partial<LeadEnd> = {}, to: Partial<LeadEnd> = {}, bundle = "-K1"): Lead => ({
  wire,
  net: null,
  colour: "BK",
  sizeMm2: 1.5,
  strand: "fine",
  type: "W",
  lengthMm: 500,
  fallback: false,
  from: end(from),
  to: end(to),
  enclosure: "+A1",
  face: "+A1/plate",
  bundle,
});
/** A string of n leads in these bundles; joined to a ring. */
const string = (bundles: readonly string[], ring = false): Lead[] =>
  bundles.map((b, i) =>
    lead(
      `w${i}`,
      { shared: i > 0 ? `c${i}` : ring ? "c0" : null },
      { shared: i + 1 < bundles.length ? `c${i + 1}` : ring ? "c0" : null },
      b,
    ),
  );

test("a machine closes no twin ferrule over one wire: a core beside it, or another treatment, sends it to the bench", () => {
  const design = demo("larkmoor");
  const { leads, rules } = prepared(design);
  const twins = leads
    .flatMap((l) => [l.from, l.to].map((e) => ({ l, e })))
    .filter(({ e }) => e.treatment === "twin ferrule");
  const shared = new Map<string, number>();
  for (const { e } of twins) if (e.shared !== null) shared.set(e.shared, (shared.get(e.shared) ?? 0) + 1);
  expect(twins.length).toBeGreaterThan(20);
  expect([...shared.values()].every((n) => n === 2)).toBe(true);
  // By rule on a wire that lands by itself: closed over one wire as well.
  const hill = demo("hillfold");
  const forced = prepared({ ...hill, rules: { ...hill.rules, ends: [{ end: "twin ferrule" }] } });
  const lonely = forced.leads.filter((l) => [l.from, l.to].some((e) => e.alone === "nothing else lands there"));
  const onMachine = new Set(forced.batches.flatMap((b) => b.chains.flat()));
  expect(lonely.length).toBeGreaterThan(5);
  expect(lonely.filter((l) => onMachine.has(l.wire))).toEqual([]);
  const alone = lead("1", { alone: "a core lands there" });
  expect(lackOf(alone, BRACK)).toBe("its twin ferrule at -K1:1 would be closed over one wire: a core lands there");
  expect(batchOf([{ leads: [alone] }], {}, BRACK, rules).bench.map((b) => b.lead.wire)).toEqual(["1"]);
  // One of each pair becomes a core of a cable: its partner is left alone, and is told why.
  const [one] = [...shared.keys()];
  const [mine, other] = twins.filter(({ e }) => e.shared === one).map(({ l }) => l.wire);
  const cored: Design = {
    ...design,
    cables: [...design.cables, { tag: "-W999", type: "X", cores: [{ core: "1" }] }],
    wires: design.wires.map((w) => (w.number === other ? { ...w, core: { cable: "-W999", core: "1" } } : w)),
  };
  const left = prepared(cored).leads.find((l) => l.wire === mine)!;
  const there = [left.from, left.to].find((e) => `${e.device}:${e.pin}` === one)!;
  expect([there.shared, there.treatment]).toEqual([null, "twin ferrule"]);
  expect(lackOf(left, BRACK)).toContain("would be closed over one wire");
});

test("strings are parted into the fewest pieces, then into the fewest bundles: against all ways", () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom("a", "b", "c"), { minLength: 1, maxLength: 8 }),
      fc.integer({ min: 1, max: 4 }),
      fc.boolean(),
      (bundles, most, ring) => {
        const leads = string(bundles, ring && bundles.length > 2);
        const parted = partedAt([{ leads }], most);
        if (leads.length <= most) return expect(parted).toEqual([]);
        const cuts = new Set(parted.map((p) => p.at));
        const pieces: string[][] = [[]];
        leads.forEach((l, i) => {
          if (i > 0 && cuts.has(`c${i}`)) pieces.push([]);
          pieces[pieces.length - 1]!.push(l.bundle);
        });
        expect(pieces.every((p) => p.length <= most)).toBe(true);
        if (ring && bundles.length > 2) expect(cuts.has("c0")).toBe(true);
        const cost = (list: readonly string[][]): number =>
          list.length * 1000 + list.reduce((n, p) => n + new Set(p).size, 0);
        const all = (rest: readonly string[]): string[][][] =>
          rest.length === 0
            ? [[]]
            : Array.from({ length: Math.min(most, rest.length) }, (_, k) => k + 1).flatMap((k) =>
                all(rest.slice(k)).map((tail) => [rest.slice(0, k), ...tail]),
              );
        expect(cost(pieces)).toBe(Math.min(...all(bundles).map(cost)));
      },
    ),
    { seed: 31, numRuns: runs(150) },
  );
});

test("where a string is parted both are stripped for the ferrule, and the bench crimps them once", () => {
  const { leads, batches } = prepared(demo("larkmoor"));
  const later = leads.flatMap((l) => [l.from, l.to].flatMap((e) => (e.later ? [{ l, e }] : [])));
  expect(later.length).toBeGreaterThan(0);
  for (const { l, e } of later) {
    expect([e.treatment, e.part, e.shared]).toEqual(["bare", null, null]);
    expect(e.stripMm).toBeGreaterThan(8);
    const other = leads.find((o) => o.wire === e.later!.with)!;
    expect([other.from, other.to].some((o) => o.later?.with === l.wire && o.later.at === e.later!.at)).toBe(true);
  }
  const crimps = partedCrimps(leads);
  expect(crimps).toHaveLength(later.length / 2);
  expect(batches.flatMap((b) => b.chains).every((c) => c.length <= 2)).toBe(true);
});

test("a bundle is named by the device that comes first in the order of work", () => {
  for (const name of ["larkmoor", "hillfold"] as const) {
    const { leads, panel } = prepared(demo(name));
    const at = new Map(panel.devices.map((d) => [d.tag, d]));
    // The order as the document says it, once more: faces, from the top down, from left to right.
    const before = (a: string, b: string): boolean => {
      const [p, q] = [at.get(a), at.get(b)];
      if (!p || !q) return p !== undefined;
      if (p.face !== q.face) return p.face < q.face;
      if (p.centre.y !== q.centre.y) return p.centre.y > q.centre.y;
      return p.centre.x <= q.centre.x;
    };
    for (const l of leads) {
      const other = l.bundle === l.from.device ? l.to.device : l.from.device;
      expect([l.wire, l.bundle === other || before(l.bundle, other)]).toEqual([l.wire, true]);
    }
  }
});

test("a batch that is made of an enclosure's faces holds what its plan said, lead by lead", () => {
  let several = 0;
  const check = (result: WireprepResult, rules: PrepRules): void => {
    for (const plan of result.batches) {
      const faces = [...new Set(result.leads.map((l) => l.face))].filter((f) => f.startsWith(`${plan.enclosure}/`));
      if (faces.length === 0) continue;
      const made = makeBatch(
        result,
        { name: plan.name, faces, panels: 1, machine: plan.machine, way: plan.way, fallbacks: null },
        new Set(),
        rules,
      );
      const wanted = [...plan.chains.flat(), ...plan.bench.map((b) => b.wire)].sort();
      if (wanted.length === 0) continue;
      if (!("plan" in made)) throw new Error(made.wrong);
      expect(made.leads.map((l) => l.wire).sort()).toEqual(wanted);
      if (result.batches.length > 1) several++;
    }
  };
  const lark = prepared(demo("larkmoor"));
  check(lark, lark.rules);
  fc.assert(
    fc.property(randomDesigns, (design) => {
      const made = prepared(design);
      check(made, made.rules);
    }),
    { seed: 32, numRuns: runs(15) },
  );
  expect(several).toBeGreaterThan(1);
});

test("a length, an end or a strip beyond a machine, and what no reel holds, send the lead to the bench with the reason", () => {
  expect(lackOf(lead("1", { stripMm: 25 }), BRACK)).toBe("Brack 2 strips 3 to 20 mm; -K1:1 wants 25 mm");
  expect(lackOf(lead("1", { treatment: "bare", part: null, stripMm: null }), BRACK)).toBe(
    "nobody says how far it is stripped at -K1:1",
  );
  expect(lackOf({ ...lead("1"), noReel: true }, BRACK)).toBe("no reel holds the whole of it");
  const design = demo("hillfold");
  const bare: Design = {
    ...design,
    rules: { ...design.rules, ends: [{ end: "bare" }] },
    parts: design.parts.map((p): Part => ({
      ...p,
      ...(p.pins ? { pins: p.pins.map(({ strip: _, ...pin }) => pin) } : {}),
    })),
  };
  const { leads, open, batches } = prepared(bare);
  expect(leads.every((l) => l.from.stripMm === null)).toBe(true);
  const said = open.filter((p) => p.kind === "strip length not stated");
  expect(new Set(said.map((p) => p.of)).size).toBe(said.length);
  expect(batches.flatMap((b) => b.chains)).toEqual([]);
  const short = prepared(
    { ...design, parts: design.parts.map((p) => (p.wire && p.stock ? { ...p, stock: { ...p.stock, pack: 2 } } : p)) },
    { reelEndM: 1.5 },
  );
  expect(short.tooLong.length).toBeGreaterThan(0);
  const onMachine = new Set(short.batches.flatMap((b) => b.chains.flat()));
  expect(short.tooLong.some((w) => onMachine.has(w))).toBe(false);
});

test("one sign that an encoding lacks sends its lead to the bench, and names column and wire; a profile that cannot be is a stop", () => {
  const profiles = RULES.profiles.map((p) => (p.profile === "Sedgeley list" ? p : { ...p }));
  const rules = { ...RULES, profiles };
  const [sedgeley] = rules.machines;
  const single = { treatment: "ferrule" as const, part: "S-F1.5" };
  const leads = [lead("1", single, single), lead("2", { ...single, label: "Ω" }, single)];
  const batch = batchOf(chainsOf(leads), {}, sedgeley!, rules);
  expect(batch.machine.flatMap((c) => c.leads.map((l) => l.wire))).toEqual(["1"]);
  expect(batch.bench.map((b) => b.why)).toEqual([
    'column TextA: "Ω" is no sign of latin-1, in which Sedgeley list is written',
  ]);
  const whole = machineFile("Sedgeley list", "B", [{ leads }], rules);
  expect(whole).toEqual({
    ok: false,
    reasons: ['wire 2, column TextA: "Ω" is no sign of latin-1, in which Sedgeley list is written'],
  });
  // The name of the batch stands in files too: what its signs forbid is known before the file is written.
  const named = { ...rules, columns: rules.columns.map((c) => (c.name === "TextA" ? { ...c, value: "{batch}" } : c)) };
  expect(batchOf(chainsOf([leads[0]!]), {}, sedgeley!, named, "Ω +A1").machine).toEqual([]);
  const broken = { ...RULES, columns: RULES.columns.map((c) => (c.name === "mm" ? { ...c, value: "{length" } : c)) };
  expect(profileFaults("Brack orders", broken)).toEqual([
    "column mm of Brack orders, sign 1: this brace is not closed",
  ]);
  const { open } = prepared(demo("hillfold"), { columns: broken.columns });
  expect(open.filter((p) => p.withholds !== undefined)).toMatchObject([
    { severity: "stop", kind: "machine without a file", withholds: "file for Brack 2" },
  ]);
  expect(DEFAULT_SHOP.rules.wireprep.chainMost).toBe(2);
});

test("of several equal panels each has its own clamps for the bench", () => {
  const result = prepared(demo("hillfold"));
  const asked = { name: "B1", faces: [], machine: "Brack 2", way: "least" as const, fallbacks: null };
  const made = makeBatch(result, { ...asked, panels: 3 }, new Set(), result.rules);
  if (!("plan" in made)) throw new Error(made.wrong);
  const one = partedCrimps(result.leads);
  const all = partedCrimps(made.leads);
  expect(one.length).toBeGreaterThan(0);
  expect(all).toHaveLength(3 * one.length);
  expect(new Set(all.map((p) => p.at)).size).toBe(all.length);
  const wires = new Set(made.leads.map((l) => l.wire));
  for (const { wires: pair } of all) {
    expect(pair.every((w) => wires.has(w))).toBe(true);
    expect(new Set(pair.map((w) => / \((\d)\)$/.exec(w)?.[1] ?? "1")).size).toBe(1);
  }
});

test("what options leave out makes no twin of its neighbour", () => {
  const lark = demo("larkmoor");
  const prepared_: Design = {
    ...lark,
    options: lark.options.map((o) => (o.key === "spare-hoist" ? { ...o, chosen: "prepared" } : o)),
  };
  // Wire 52 leads on from -Q17 to a device that is left out: 51 lands there alone.
  const end51 = (d: Design): LeadEnd => {
    const l = prepared(d).leads.find((x) => x.wire === "51")!;
    return l.from.device === "-Q17" ? l.from : l.to;
  };
  const treated = ({ treatment, later }: LeadEnd): string => (later ? "twin ferrule" : treatment);
  expect([treated(end51(lark)), treated(end51(prepared_))]).toEqual(["twin ferrule", "ferrule"]);
});

test("tickets count what is in batches, labels come medium by medium", () => {
  const { leads, batches, bundles, rules } = prepared(demo("larkmoor"));
  const going = new Set(batches.flatMap((b) => [...b.chains.flat(), ...b.bench.map((x) => x.wire)]));
  expect(going.size).toBeLessThan(leads.length);
  const now = leads.filter((l) => going.has(l.wire));
  const counted = bundleTickets("J", now, bundles)
    .flatMap((s) => s.items.flatMap((i) => (i.kind === "text" ? (/^(\d+) leads?$/.exec(i.text)?.[1] ?? []) : [])))
    .reduce((sum, n) => sum + Number(n), 0);
  expect(counted).toBe(going.size);
  const labels = printedLabels({ batches: batches.slice(0, 1), leads }, rules);
  const lines = new TextDecoder().decode(printerFile(labels)).split("\n");
  const media = lines.filter((l) => l.startsWith("media\t"));
  expect(media.length).toBeGreaterThan(1);
  expect(new Set(media).size).toBe(media.length);
});

test("the plan counts its parted crimps at the bench", () => {
  const { leads, panel, rules } = prepared(demo("larkmoor"));
  const chains = chainsOf(leads);
  const with_ = planOf("J", chains, panel, rules);
  const without = planOf("J", chains, panel, { ...rules, crimpS: 0 });
  const parted = with_.map(
    (p) => partedCrimps([...p.chains.flatMap((c) => c.leads), ...p.bench.map((b) => b.lead)]).length,
  );
  const benchCrimps = with_.map((p) => {
    const ends = p.bench.flatMap((b) => [b.lead.from, b.lead.to]);
    return (
      ends.filter((e) => e.treatment !== "bare" && e.shared === null).length +
      new Set(ends.flatMap((e) => e.shared ?? [])).size
    );
  });
  expect(parted.reduce((a, b) => a + b, 0)).toBeGreaterThan(0);
  with_.forEach((p, i) =>
    expect(p.minutes.machine - without[i]!.minutes.machine).toBeCloseTo(
      ((parted[i]! + benchCrimps[i]!) * rules.crimpS) / 60,
      6,
    ),
  );
  expect(workRank(panel)("nothing")).toBe(Infinity);
});
