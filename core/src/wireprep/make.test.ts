import { parse } from "csv-parse/sync";
import fc from "fast-check";
import type { PrepRules } from "./rules";
import { SHOP_RULES } from "../shop/rules";
import { DEFAULT_SHOP } from "../shop/shop";
import type { KitsResult } from "../kits/result";
import { runStages } from "../run";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import { documentOf, fileOfLeads } from "./documents";
import { explain } from "./explain";
import { files } from "./files";
import { printerFile } from "./labels";
import { labelsOfBatch } from "./printed";
import { chainsIn, madeOtherwise, panelLead, type BatchAsked, type MadeBatch } from "./batch";
import { makeBatch } from "./make";
import { piecesOf } from "./material";
import { WAYS, type Lead, type WireprepResult } from "./result";
import { wireprep } from "./stage";
import { face } from "./face";

const RULES: PrepRules = SHOP_RULES.wireprep;
const design = demo("larkmoor");
const result = runStages(design).stages.wireprep as WireprepResult;

const asked = (more: Partial<BatchAsked> = {}): BatchAsked => ({
  name: "LARK B1",
  faces: [],
  panels: 1,
  machine: "Brack 2",
  way: "least",
  fallbacks: null,
  ...more,
});
const made = (more: Partial<BatchAsked> = {}, taken: ReadonlySet<string> = new Set()): MadeBatch => {
  const batch = makeBatch(result, asked(more), taken, RULES);
  if ("wrong" in batch) throw new Error(batch.wrong);
  return batch;
};
const wiresOf = ({ plan }: MadeBatch): string[] => [...plan.chains.flat(), ...plan.bench.map((b) => b.wire)];

test("whatever is asked for, one batch after the other holds each lead once, and crimps are never parted", () => {
  const faces = [...new Set(result.leads.map((l) => l.face))];
  const one = fc.record({
    faces: fc.subarray(faces),
    panels: fc.integer({ min: 1, max: 2 }),
    machine: fc.constantFrom("Brack 2", "Sedgeley", null),
    way: fc.constantFrom(...WAYS),
  });
  fc.assert(
    fc.property(fc.array(one, { minLength: 1, maxLength: 3 }), (list) => {
      const taken = new Set<string>();
      for (const a of list) {
        const batch = makeBatch(result, asked(a), taken, RULES);
        if ("wrong" in batch) {
          expect(batch.remedy.length).toBeGreaterThan(10);
          continue;
        }
        const wires = wiresOf(batch);
        expect(new Set(wires).size).toBe(wires.length);
        expect(batch.leads.map((l) => l.wire).sort()).toEqual([...wires].sort());
        for (const w of wires) {
          expect(taken.has(w)).toBe(false);
          taken.add(w);
        }
        const by = new Map(batch.leads.map((l) => [l.wire, l]));
        const at = new Map(chainsIn(batch).flatMap((chain, i) => chain.map((w) => [w, i] as const)));
        const crimps = new Map<string, number>();
        for (const [wire, lead] of by)
          for (const s of [lead.from.shared, lead.to.shared]) {
            if (s === null) continue;
            expect(crimps.get(s) ?? at.get(wire)).toBe(at.get(wire));
            crimps.set(s, at.get(wire)!);
          }
        if (a.faces.length > 0)
          for (const chain of chainsIn(batch)) expect(chain.some((w) => a.faces.includes(by.get(w)!.face))).toBe(true);
      }
    }),
    { seed: 3, numRuns: runs(12) },
  );
});

test("equal panels are leads with names of their own and the same labels; a machine that is not there is said", () => {
  const two = made({ panels: 2 });
  const one = made();
  expect(two.leads).toHaveLength(2 * one.leads.length);
  const by = new Map(two.leads.map((l) => [l.wire, l]));
  for (const l of one.leads) {
    const second = by.get(panelLead(l.wire, 2))!;
    expect([second.from.label, second.lengthMm, second.from.part]).toEqual([l.from.label, l.lengthMm, l.from.part]);
  }
  // Equal work stands together: two panels change over no more than one.
  expect(two.plan.ways.least - one.plan.ways.least).toBeLessThan(one.plan.ways.least);
  expect(makeBatch(result, asked({ machine: "none" }), new Set(), RULES)).toMatchObject({
    wrong: "the shop has no machine none",
  });
  const all = new Set(result.leads.map((l) => l.wire));
  expect(makeBatch(result, asked(), all, RULES)).toMatchObject({ wrong: expect.stringContaining("nothing is left") });
  const clash = {
    ...result,
    leads: [...result.leads, { ...result.leads[0]!, wire: panelLead(result.leads[1]!.wire, 2) }],
  };
  expect(makeBatch(clash, asked({ panels: 2 }), new Set(), RULES)).toMatchObject({
    wrong: expect.stringContaining("named as leads of the next panel"),
  });
});

test("a batch of more leads than anybody could handle is refused before it is made, one of few faces is not", () => {
  const count = result.leads.length * 100;
  expect(makeBatch(result, asked({ panels: 100 }), new Set(), RULES)).toEqual({
    wrong: `${count} leads are more than one batch takes, which is 20000`,
    remedy: "Choose fewer faces, or fewer panels at once.",
  });
  expect(count).toBeGreaterThan(20_000);
  const faces = ["+A1/door"];
  const some = result.leads.filter((l) => l.face === "+A1/door" && !l.fallback).length;
  expect(some).toBeGreaterThan(0);
  expect(made({ panels: 100, faces }).leads.length).toBe(some * 100);
});

test("what the design of now makes otherwise is told of each panel, whatever its wires are called", () => {
  const base = result.leads[0]!;
  // Two wires of one number are leads `1` and `1 (2)`: the second is no panel of the first.
  const twins = [
    { ...base, wire: "1", lengthMm: 100 },
    { ...base, wire: "1 (2)", lengthMm: 200 },
  ];
  const told = (leads: Lead[], now: Lead[]): string[] => madeOtherwise({ leads }, now);
  expect(told(twins, twins)).toEqual([]);
  expect(told(twins, [twins[0]!, { ...twins[1]!, lengthMm: 205 }])).toEqual(["1 (2)"]);
  expect(told(twins, [twins[0]!])).toEqual(["1 (2)"]);
  const panels = made({ panels: 2 }).leads;
  expect(told(panels, [...result.leads])).toEqual([]);
  const [first] = panels;
  const longer = result.leads.map((l) =>
    l.wire === (first!.of ?? first!.wire) ? { ...l, lengthMm: l.lengthMm + 5 } : l,
  );
  expect(told(panels, longer)).toHaveLength(2);
  // Batches of before do not say whose the leads of further panels are.
  expect(
    told(
      panels.map(({ of: _, ...l }) => l),
      [...result.leads],
    ),
  ).toEqual([]);
});

test("leads on fallback lengths are left out by name, until somebody takes them on", () => {
  const doubted = result.leads.filter((l) => l.fallback).map((l) => l.wire);
  expect(doubted.length).toBeGreaterThan(0);
  const out = made().plan.left.map((l) => l.wire);
  expect(out).toEqual(expect.arrayContaining(doubted));
  const on = made({ fallbacks: { who: "Ina", why: "needed today" } });
  expect(on.plan.left).toEqual([]);
  expect(on.fallbacks).toEqual({ who: "Ina", why: "needed today" });
  expect(wiresOf(on)).toEqual(expect.arrayContaining(doubted));
});

test("a file of some leads holds just those, in their order; documents are drawn, empty ones are refused", async () => {
  const batch = made({ machine: "Brack 2" });
  const some = batch.plan.chains.flat().filter((_, i) => i % 3 === 0);
  const file = fileOfLeads(batch, "F1", some, RULES);
  if (!file.ok) throw new Error(file.reasons.join());
  const text = new TextDecoder().decode(file.bytes);
  expect([...text.matchAll(/<wire>([^<]*)<\/wire>/g)].map((m) => m[1])).toEqual(some);
  for (const as of ["bench.pdf", "labels.pdf", "bundles.pdf"] as const) {
    const drawn = await documentOf(batch, "LARK", as, RULES);
    expect(drawn.ok && new TextDecoder().decode(drawn.bytes.subarray(0, 5))).toBe("%PDF-");
  }
  const csv = await documentOf(batch, "LARK", "leads.csv", RULES);
  if (!csv.ok) throw new Error("no table");
  const rows = parse(Buffer.from(csv.bytes), { columns: true }) as Record<string, string>[];
  expect(rows.filter((r) => r.batch !== "").map((r) => r.wire)).toEqual(wiresOf(batch));
  const bare = { ...RULES, labels: [{ on: "none" as const, holds: 0 }] };
  const unlabelled = makeBatch(
    wireprep.compute({
      design,
      shop: { ...DEFAULT_SHOP, rules: { ...DEFAULT_SHOP.rules, wireprep: bare } },
      results: runStages(design).stages as never,
    }),
    asked(),
    new Set(),
    bare,
  ) as MadeBatch;
  expect((await documentOf(unlabelled, "LARK", "labels.txt", bare)).ok).toBe(false);
});

test("the printer's file names its media before its labels, and how many there were", () => {
  const batch = made({ machine: null });
  const labels = labelsOfBatch(batch, RULES);
  const lines = new TextDecoder().decode(printerFile(labels)).split("\n");
  expect(lines[0]).toBe("labels\t1");
  expect(lines[lines.length - 2]).toBe(`end\t${labels.length}`);
  expect(lines.filter((l) => l.startsWith("label\t"))).toHaveLength(labels.length);
  expect(labels).toHaveLength(batch.leads.length * 2);
  let media = "";
  let i = 0;
  for (const line of lines.slice(1, -2)) {
    const [what, a, b] = line.split("\t");
    if (what === "media") media = `${a} ${b}`;
    else {
      const { end, sizeMm2 } = labels[i++]!;
      expect([media, b]).toEqual([`${end.labelOn === "printed" ? "sleeve" : end.labelOn} ${sizeMm2}`, end.label]);
    }
  }
});

test("files of the job: every lead once with its batch, its reels, its labels; machine files with their form", async () => {
  const out = await files(design, RULES, result);
  const by = new Map(out.map((f) => [f.name, f]));
  const rows = (name: string) => parse(Buffer.from(by.get(name)!.bytes), { columns: true }) as Record<string, string>[];
  expect(
    rows("leads.csv")
      .map((r) => r.wire!.replace(/^'/, ""))
      .sort(),
  ).toEqual(result.leads.map((l) => l.wire).sort());
  expect(
    new TextDecoder()
      .decode(by.get("leads.csv")!.bytes)
      .startsWith(
        "batch,order,wire,net,colour,size_mm2,strand,type,length_mm,from,from_pin,end_from,end_from_part,strip_from_mm,label_from,to,to_pin,end_to,end_to_part,strip_to_mm,label_to,bundle,pair,marks,later",
      ),
  ).toBe(true);
  const bench = result.batches.flatMap((b) => b.bench);
  const told = rows("bench.csv").map((r) => [r.wire, r.why]);
  // Then the crimps of leads that are made apart, each a row.
  expect(told.slice(0, bench.length)).toEqual(bench.map((b) => [b.wire, b.why]));
  expect(told.slice(bench.length).every(([wire, why]) => /^\S+ \+ \S+$/.test(wire!) && why!.startsWith("crimp "))).toBe(
    true,
  );
  expect(rows("reels.csv")).toHaveLength(result.reels.length);
  const known = Object.keys(wireprep.files);
  for (const f of out)
    expect([f.name, known.includes(f.name) || wireprep.filesEach!.some((e) => e.like.test(f.name))]).toEqual([
      f.name,
      true,
    ]);
  expect(known.filter((n) => !by.has(n))).toEqual([]);
});

test("workings add up to the numbers they explain; there is one for each, and none for what is not there", () => {
  const sum = (w: ReturnType<typeof explain>): number => w!.terms.reduce((s, t) => s + (t.value ?? 0), 0);
  for (const b of result.batches)
    for (const by of ["machine", "bench", "hand"] as const) {
      const w = explain(result, { of: "minutes", batch: b.name, by }, RULES);
      expect(Math.abs(sum(w) - b.minutes[by])).toBeLessThan(0.06);
    }
  result.reels.forEach((r, i) => {
    const w = explain(result, { of: "reel", nth: i + 1 }, RULES);
    expect(Math.abs(sum(w) - r.usedM)).toBeLessThan(0.02);
  });
  for (const than of ["bench", "hand"] as const) {
    const w = explain(result, { of: "saved", than }, RULES);
    expect(Math.abs(sum(w) - (result.saved[than] - result.saved.machine))).toBeLessThan(0.1);
  }
  for (const l of result.leads.slice(0, 50))
    for (const end of ["from", "to"] as const)
      expect(explain(result, { of: "strip", wire: l.wire, end }, RULES)!.total).toBe(l[end].stripMm);
  expect(explain(result, { of: "strip", wire: "no such", end: "to" }, RULES)).toBeNull();
  expect(explain(result, { of: "minutes", batch: "no such", by: "hand" }, RULES)).toBeNull();
  expect(explain(result, { of: "reel", nth: 9999 }, RULES)).toBeNull();
});

test("pieces for ends: one for each crimp, a shared one once", () => {
  const pieces = piecesOf(result);
  const singles = result.leads.flatMap((l) => [l.from, l.to]).filter((e) => e.part !== null && e.shared === null);
  const shared = new Set(
    result.leads
      .flatMap((l) => [l.from, l.to])
      .flatMap((e) => (e.part !== null && e.shared !== null ? [e.shared] : [])),
  );
  expect(pieces.reduce((s, p) => s + p.count, 0)).toBe(singles.length + shared.size);
  // The bill calls them the same; it has those of cores of cables too.
  const { bill } = runStages(design).stages.kits as KitsResult;
  for (const p of pieces) {
    const lines = bill.filter((l) => l.part === p.part);
    expect([p.part, lines.reduce((s, l) => s + l.quantity, 0) >= p.count]).toEqual([p.part, true]);
  }
});

test("rows say which wires they take now: an end's row is the first that fits", () => {
  const use = wireprep.ruleUse!;
  const takes = use["wireprep.pieces"]!(design, DEFAULT_SHOP.rules);
  expect(takes).toHaveLength(RULES.pieces.length);
  const byPart = new Map(RULES.pieces.map((p, i) => [p.part, new Set(takes[i])]));
  for (const l of result.leads)
    for (const e of [l.from, l.to]) if (e.part !== null) expect(byPart.get(e.part)!.has(l.wire)).toBe(true);
  const labels = use["wireprep.labels"]!(design, DEFAULT_SHOP.rules);
  expect(labels.flat().length).toBeGreaterThan(0);
});

test("a pattern comes to what stands on the leads", () => {
  const example = face.examples!["wireprep.labelTo"]!;
  expect(example("{wire}>{there}", result)[0]).toBe(
    `${result.leads[0]!.wire}>${result.leads[0]!.from.device}:${result.leads[0]!.from.pin}`,
  );
  expect(example("{wire", result)).toEqual([]);
});
