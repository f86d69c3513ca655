import fc from "fast-check";
import { coloursOf } from "../wiring/landings";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { OpenPoints } from "../design/open-points";
import { PREP_RULES, type PrepRules } from "./rules";
import { defaultsOf } from "../shop/rule-kinds";
import { SHOP_RULES } from "../shop/rules";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { runStages } from "../run";
import { demo } from "../test/demo";
import { randomDesigns } from "../test/random-design";
import { runs } from "../test/runs";
import { batchOf, lackOf, minutesOf } from "./batches";
import { pieceFor } from "../wiring/wire-ends";
import { chainsOf } from "./chains";
import { labelFor, leadsOf } from "./leads";
import { leastChange } from "./order";
import { settingOf } from "./changes";
import { planOf, savingsOf } from "./plan";
import { WAYS } from "./result";
import { reelsFor } from "./reels";
import type { Lead } from "./result";
import { leadsTable, reelsTable } from "./tables";

const RULES = defaultsOf(PREP_RULES) as unknown as PrepRules;

const prepared = (design: Design, rules: Partial<PrepRules> = {}) => {
  const { stages } = runStages(design);
  const points = new OpenPoints("wireprep");
  const routes = stages.routes as RoutesResult;
  const made = leadsOf(
    {
      look: lookUp(design),
      panel: stages.panel as PanelResult,
      routes,
      colours: coloursOf(design, SHOP_RULES.classes),
    },
    { ...RULES, ...rules },
    points,
  );
  const panel = stages.panel as PanelResult;
  return { ...made, routes, panel, chains: chainsOf(made.leads), open: points.list() };
};

const lark = prepared(demo("larkmoor"));

describe.each(["larkmoor", "hillfold"] as const)("leads of %s", (name) => {
  const { leads, notMade, routes, chains, open } = name === "larkmoor" ? lark : prepared(demo(name));

  test("every wire that is no core is a lead, or says why it is none", () => {
    const wires = routes.wires.filter((w) => !w.marks.includes("core")).map((w) => w.id);
    expect([...leads.map((l) => l.wire), ...notMade.map((n) => n.wire)].sort()).toEqual([...wires].sort());
    for (const n of notMade) expect(n.why.length).toBeGreaterThan(3);
    const told = open.filter((p) => p.kind === "no lead yet");
    expect(told.length > 0).toBe(notMade.length > 0);
  });

  test("ends have what the rules say, with part and length to strip, or an open point", () => {
    const byWire = new Map(routes.wires.map((w) => [w.id, w]));
    const lacking = new Set(open.filter((p) => p.kind === "nothing for an end").map((p) => p.of));
    for (const lead of leads) {
      const wire = byWire.get(lead.wire)!;
      // An end that the bench crimps later is only stripped; the rule of its wire is the same.
      expect([lead.from, lead.to].map((e) => (e.later ? "twin ferrule" : e.treatment))).toEqual([
        wire.endFrom,
        wire.endTo,
      ]);
      expect(lead.lengthMm).toBe(wire.lengthMm);
      for (const end of [lead.from, lead.to]) {
        const piece = pieceFor(end.treatment, lead.sizeMm2, RULES.pieces);
        if (end.treatment === "bare") expect(end.part).toBeNull();
        else if (piece) {
          expect(end.part).toBe(piece.part);
          expect(end.stripMm).toBeGreaterThanOrEqual(piece.stripMm);
        } else expect(lacking).toContain(lead.wire);
      }
    }
  });

  test("pairs are never parted: whoever shares a crimp is in one chain, each lead in just one", () => {
    expect(chains.flatMap((c) => c.leads.map((l) => l.wire)).sort()).toEqual(leads.map((l) => l.wire).sort());
    const chainOf = new Map(chains.flatMap((c) => c.leads.map((l) => [l.wire, c] as const)));
    const at = new Map<string, Lead[]>();
    for (const lead of leads)
      for (const end of [lead.from, lead.to]) if (end.shared) at.set(end.shared, [...(at.get(end.shared) ?? []), lead]);
    for (const [, pair] of at) expect(new Set(pair.map((l) => chainOf.get(l.wire))).size).toBe(1);
    // A daisy chain stands in its order: each hangs on one before it.
    for (const { leads: chain } of chains)
      chain.slice(1).forEach((l, i) => {
        const before = new Set(chain.slice(0, i + 1).flatMap((x) => [x.from.shared, x.to.shared]));
        expect([l.from.shared, l.to.shared].some((s) => s !== null && before.has(s))).toBe(true);
      });
  });
});

test("the theatre has pairs, strings of several where the shop lets them be, and ends whose pin and ferrule disagree", () => {
  expect(lark.chains.filter((c) => c.leads.length === 2).length).toBeGreaterThan(10);
  expect(lark.chains.every((c) => c.leads.length <= 2)).toBe(true);
  expect(prepared(demo("larkmoor"), { chainMost: 1000 }).chains.some((c) => c.leads.length > 2)).toBe(true);
  expect(lark.leads.flatMap((l) => [l.from, l.to]).some((e) => e.stripWhy?.includes("the longer one is taken"))).toBe(
    true,
  );
});

test("labels by pattern; one too long for its sleeve, and a pattern that cannot be read, are open points", () => {
  const both = prepared(demo("hillfold"), { labelFrom: "{here}", labelTo: "{there}>{wire}" });
  const [lead] = both.leads;
  expect(lead!.from.label).toBe(`${lead!.from.device}:${lead!.from.pin}`);
  expect(lead!.to.label).toBe(`${lead!.from.device}:${lead!.from.pin}>${lead!.wire}`);
  const long = prepared(demo("hillfold"), { labelFrom: "{job} {here} {there}" });
  const row = labelFor(long.leads[0]!.sizeMm2, RULES.labels);
  expect(long.open.filter((p) => p.kind === "label too long").length).toBe(
    long.leads.filter((l) => [...l.from.label].length > row.holds).length,
  );
  const bad = prepared(demo("hillfold"), { labelFrom: "{here" });
  expect(
    bad.open
      .filter((p) => p.kind === "pattern of labels")
      .map((p) => p.text)
      .join(),
  ).toContain("at sign 1: this brace is not closed");
  expect(bad.leads.every((l) => l.from.label === "")).toBe(true);
});

test("a shop without material for an end says so once for each wire, and a clamp that is too small too", () => {
  const none = prepared(demo("hillfold"), { pieces: [] });
  const treated = none.leads.filter((l) => [l.from, l.to].some((e) => e.treatment !== "bare"));
  expect(new Set(none.open.filter((p) => p.kind === "nothing for an end").map((p) => p.of)).size).toBe(treated.length);
  const wide = prepared(demo("hillfold"), { pieces: RULES.pieces.map((p) => ({ ...p, needsMm2: 500 })) });
  expect(wide.open.some((p) => p.kind === "too wide for the clamp")).toBe(true);
});

test("a twin ferrule is one crimp for two: where one lands it is an open point and nothing is shared", () => {
  const design = demo("hillfold");
  const twins: Design = { ...design, rules: { ...design.rules, ends: [{ end: "twin ferrule" }] } };
  const { leads, open, routes } = prepared(twins, { chainMost: 1000 });
  const lands = new Map<string, number>();
  for (const w of routes.wires)
    for (const r of [w.fromRef, w.toRef])
      if (r) lands.set(`${r.device}:${r.pin}`, (lands.get(`${r.device}:${r.pin}`) ?? 0) + 1);
  const ends = leads.flatMap((l) => [l.from, l.to].map((e) => ({ e, n: lands.get(`${e.device}:${e.pin}`) })));
  expect(ends.every(({ e }) => e.treatment === "twin ferrule")).toBe(true);
  expect(ends.map(({ e }) => e.shared !== null)).toEqual(ends.map(({ n }) => n === 2));
  expect(ends.some(({ n }) => n === 2) && ends.some(({ n }) => n === 1)).toBe(true);
  expect(open.filter((p) => p.kind === "twin ferrule without a pair")).toHaveLength(
    ends.filter(({ n }) => n !== 2).length,
  );
});

describe("batches", () => {
  const machine = RULES.machines[1]!;

  test("each lead is in just one place, pairs together, whatever is wanted and whichever machine", () => {
    fc.assert(
      fc.property(
        fc.subarray(["+A1/plate", "+A1/door", "+A2/plate", "+B1/door"]),
        fc.boolean(),
        fc.constantFrom(...RULES.machines, null),
        (faces, on, m) => {
          const batch = batchOf(
            lark.chains,
            { faces, ...(on ? { fallbacks: { who: "Ida", why: "seen" } } : {}) },
            m,
            RULES,
          );
          const all = [
            ...batch.machine.flatMap((c) => c.leads),
            ...batch.bench.map((b) => b.lead),
            ...batch.left.map((b) => b.lead),
            ...batch.elsewhere.map((b) => b.lead),
          ].map((l) => l.wire);
          expect([...all].sort()).toEqual(lark.leads.map((l) => l.wire).sort());
          for (const { leads } of batch.machine)
            for (const l of leads) {
              expect(lackOf(l, m!)).toBeNull();
              if (!on) expect(l.fallback).toBe(false);
            }
          for (const { why } of [...batch.bench, ...batch.left, ...batch.elsewhere])
            expect(why.length).toBeGreaterThan(5);
          const place = new Map<string, string>();
          for (const c of batch.machine) for (const l of c.leads) place.set(l.wire, "machine");
          for (const b of batch.bench) place.set(b.lead.wire, "bench");
          for (const b of batch.left) place.set(b.lead.wire, "left");
          for (const b of batch.elsewhere) place.set(b.lead.wire, "elsewhere");
          for (const c of lark.chains) expect(new Set(c.leads.map((l) => place.get(l.wire))).size).toBe(1);
        },
      ),
      { seed: 2, numRuns: runs(24) },
    );
  });

  test("minutes: the machine is quicker than the bench, the bench than by hand, and order counts", () => {
    const batch = batchOf(lark.chains, {}, machine, RULES);
    const list = batch.machine.flatMap((c) => c.leads);
    const ordered = leastChange(batch.machine, machine);
    const best = minutesOf(
      ordered.chains.flatMap((c) => c.leads),
      RULES,
      machine,
    );
    const plain = minutesOf(list, RULES, machine);
    expect(best.machine).toBeLessThan(plain.machine);
    expect(best.bench).toBeCloseTo(plain.bench, 9);
    expect(best.machine).toBeLessThan(best.bench);
    expect(best.bench).toBeLessThan(best.hand);
    expect(minutesOf([], RULES, null)).toEqual({ machine: 0, bench: 0, hand: 0 });
    const table = leadsTable("B1", ordered.chains);
    expect(table.head.slice(0, 4)).toEqual(["batch", "order", "wire", "net"]);
    expect(table.rows).toHaveLength(list.length);
    for (const row of table.rows) expect(row).toHaveLength(table.head.length);
  });
});

describe("the plan", () => {
  test("each lead is in just one batch of one enclosure; every way makes the same leads, none quicker than the bound", () => {
    const plans = planOf("LARK", lark.chains, lark.panel, RULES);
    expect(plans.map((p) => p.name)).toEqual(["LARK +A1", "LARK +A2", "LARK +B1"]);
    const all = plans.flatMap((p) => [
      ...p.chains.flatMap((c) => c.leads),
      ...p.bench.map((b) => b.lead),
      ...p.left.map((b) => b.lead),
    ]);
    expect(all.map((l) => l.wire).sort()).toEqual(lark.leads.map((l) => l.wire).sort());
    for (const p of plans) {
      for (const way of WAYS) expect(p.ways[way]).toBeGreaterThanOrEqual(p.boundMinutes - 1e-9);
      for (const way of WAYS) expect(p.ways.least).toBeLessThanOrEqual(p.ways[way] + 1e-9);
      expect(p.ways.mixed).toBeLessThanOrEqual(p.ways.bundles + 1e-9);
      for (const { lead, why } of p.left)
        expect([lead.fallback || why.includes("crimped"), why.length > 5]).toEqual([true, true]);
    }
    const strict = planOf("LARK", lark.chains, lark.panel, RULES, "bundles")[0]!;
    // A chain may be made from its other end: leads that stand alone say where the bundles are.
    const bundles = strict.chains
      .flatMap((c) => (c.leads.length === 1 ? [c.leads[0]!.bundle] : []))
      .filter((bundle, i, list) => bundle !== list[i - 1]);
    expect(new Set(bundles).size).toBe(bundles.length);
    // They stand as they are wired: on each face from the top down, and from left to right.
    const stands = new Map(lark.panel.devices.map((d) => [d.tag, d]));
    const places = bundles.map((b) => stands.get(b)!);
    expect(places.length).toBeGreaterThan(20);
    places.slice(1).forEach((next, i) => {
      const last = places[i]!;
      const [down, right] = [last.centre.y - next.centre.y, next.centre.x - last.centre.x];
      expect(last.face < next.face || (last.face === next.face && (down > 0 || (down === 0 && right >= 0)))).toBe(true);
    });
    const saved = savingsOf(plans, RULES);
    expect(saved.machine).toBeLessThan(saved.bench);
    expect(saved.thanHand.hours).toBeGreaterThan(saved.thanBench.hours);
    expect(saved.thanHand.money).toBeCloseTo(saved.thanHand.hours * RULES.hourPrice, 6);
  });

  test("a shop without a machine makes all at the bench, with the reason", () => {
    const plans = planOf("LARK", lark.chains, lark.panel, { ...RULES, machines: [] });
    for (const p of plans) {
      expect([p.machine, p.chains]).toEqual([null, []]);
      expect(p.bench.every((b) => b.why === "it goes on no machine")).toBe(true);
    }
  });
});

describe("reels", () => {
  const lead = (wire: string, lengthMm: number, type = "W"): Lead => ({ ...lark.leads[0]!, wire, lengthMm, type });
  const none = { reelWastePercent: 0, reelEndM: 0 };

  test("each lead once, none begun where it does not fit; rests before full reels", () => {
    const leads = fc.array(fc.integer({ min: 100, max: 9000 }), { maxLength: 30 });
    const rests = fc.array(fc.integer({ min: 1, max: 20 }), { maxLength: 4 });
    fc.assert(
      fc.property(leads, rests, (lengths, metres) => {
        const list = lengths.map((mm, i) => lead(`w${i}`, mm));
        const reels = metres.map((m, i) => ({ reel: `r${i}`, part: "W", metres: m }));
        const plan = reelsFor(list, { ...none, reels }, () => 25);
        expect(plan.reels.flatMap((r) => r.leads.map((l) => l.wire)).sort()).toEqual(list.map((l) => l.wire).sort());
        for (const r of plan.reels) {
          expect(r.usedM).toBeLessThanOrEqual(r.metres + 1e-9);
          expect(r.leads.reduce((sum, l) => sum + l.lengthMm, 0) / 1000).toBeCloseTo(r.usedM, 9);
        }
        const names = plan.reels.flatMap((r) => r.reel ?? []);
        expect(new Set(names).size).toBe(names.length);
        for (const f of plan.full) expect(f.reels).toBeGreaterThanOrEqual(f.least);
        expect(reelsTable(plan.reels.map((r) => ({ ...r, wires: r.leads.map((l) => l.wire) }))).rows).toHaveLength(
          plan.reels.length,
        );
      }),
      { seed: 8, numRuns: runs(60) },
    );
  });

  test("against every way of laying few leads on full reels: none needs fewer", () => {
    const fewest = (sizes: readonly number[], room: number): number => {
      let best = sizes.length;
      const go = (i: number, rooms: number[]): void => {
        if (rooms.length >= best) return;
        if (i === sizes.length) {
          best = rooms.length;
          return;
        }
        rooms.forEach((r, k) => {
          if (r >= sizes[i]!)
            go(
              i + 1,
              rooms.map((x, n) => (n === k ? x - sizes[i]! : x)),
            );
        });
        go(i + 1, [...rooms, room - sizes[i]!]);
      };
      go(0, []);
      return best;
    };
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1000, max: 9000 }), { minLength: 1, maxLength: 8 }), (lengths) => {
        const plan = reelsFor(
          lengths.map((mm, i) => lead(`w${i}`, mm)),
          { ...none, reels: [] },
          () => 10,
        );
        expect(plan.full[0]!.reels).toBe(fewest(lengths, 10_000));
      }),
      { seed: 9, numRuns: runs(60) },
    );
  });

  test("a full reel of a wire without a pack is assumed, and marked; a rest is not", () => {
    const rests = [{ reel: "R1", part: "W", metres: 20 }];
    const plan = reelsFor([lead("a", 19_000), lead("b", 60_000)], { ...none, reels: rests }, () => undefined);
    expect(plan.reels.map((r) => [r.reel, r.metres, r.assumed ?? false])).toEqual([
      ["R1", 20, false],
      [null, 100, true],
    ]);
    expect(plan.full.map((f) => f.assumed)).toEqual([true]);
    expect(reelsFor([lead("a", 19_000)], { ...none, reels: [] }, () => 50).reels[0]).not.toHaveProperty("assumed");
  });

  test("waste and the end of a reel count; what is longer than any reel is told", () => {
    const plan = reelsFor(
      [lead("a", 9700), lead("b", 30_000)],
      { reelWastePercent: 2, reelEndM: 0.1, reels: [] },
      () => 10,
    );
    expect(plan.reels.map((r) => [r.leads.map((l) => l.wire), Math.round(r.usedM * 1000)])).toEqual([[["a"], 9894]]);
    expect(plan.tooLong.map((l) => l.wire)).toEqual(["b"]);
    expect(settingOf(lead("a", 1)).reel).toBe("W");
  });
});

test("random designs: leads, chains and batches lose nothing", () => {
  fc.assert(
    fc.property(randomDesigns, (design) => {
      const { leads, notMade, routes, chains } = prepared(design);
      expect(leads.length + notMade.length).toBe(routes.wires.filter((w) => !w.marks.includes("core")).length);
      expect(chains.flatMap((c) => c.leads)).toHaveLength(leads.length);
      const { chains: ordered, boundS, changeS } = leastChange(chains, RULES.machines[0]!);
      expect(ordered.flatMap((c) => c.leads)).toHaveLength(leads.length);
      expect(boundS).toBeLessThanOrEqual(changeS + 1e-6);
    }),
    { seed: 10, numRuns: runs(20) },
  );
});
