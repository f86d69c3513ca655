import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "./design/model";
import type { Working } from "./frame/working";
import { FIGURES } from "./heat/result";
import { lineKey, type KitsResult } from "./kits/result";
import type { MetalworkResult } from "./metalwork/result";
import type { RoutesResult } from "./routes/result";
import { runStages } from "./run";
import { DEFAULT_SHOP } from "./shop/shop";
import { STAGES } from "./stages";
import { golden } from "./test/golden";
import type { WireprepResult } from "./wireprep/result";
import type { HeatResult } from "./heat/result";

const whole = (name: string): Design =>
  JSON.parse(readFileSync(join(__dirname, `../../designs/whole/${name}.bench.json`), "utf8")) as Design;

/** Every number that may be asked for, of every stage. */
function asked(results: Record<string, unknown>): [stage: string, subject: Record<string, unknown>][] {
  const routes = results.routes as RoutesResult;
  const heat = results.heat as HeatResult;
  const metalwork = results.metalwork as MetalworkResult;
  const kits = results.kits as KitsResult;
  const wireprep = results.wireprep as WireprepResult;
  const of = (stage: string, subjects: Record<string, unknown>[]): [string, Record<string, unknown>][] =>
    subjects.map((s) => [stage, s]);
  return [
    ...of(
      "routes",
      routes.wires.flatMap(({ id: wire }) => ["length", "colour", "size"].map((what) => ({ of: what, wire }))),
    ),
    ...of(
      "routes",
      routes.edges.flatMap((e) => (e.kind === "piece" ? [{ of: "fill", piece: e.id }] : [])),
    ),
    ...of(
      "heat",
      heat.zones.flatMap(({ zone }) => FIGURES.map((what) => ({ of: what, zone }))),
    ),
    ...of(
      "metalwork",
      metalwork.faces.flatMap(({ face, holes }) => [
        ...holes.flatMap(({ number: hole }) => [
          { of: "x", face, hole },
          { of: "y", face, hole },
        ]),
        { of: "minutes", face },
      ]),
    ),
    ...of(
      "metalwork",
      metalwork.bars.map(({ kind, part }) => ({ of: "bars", kind, part })),
    ),
    ...of(
      "kits",
      kits.bill.map((l) => ({ of: "quantity", enclosure: l.enclosure, step: l.step, line: lineKey(l) })),
    ),
    ...of(
      "kits",
      kits.kits.flatMap(({ code: kit }) => [
        { of: "walk", kit },
        { of: "weight", kit },
      ]),
    ),
    ...of("kits", [{ of: "walk" }]),
    ...of(
      "wireprep",
      wireprep.leads.flatMap(({ wire }) => [
        { of: "strip", wire, end: "from" },
        { of: "strip", wire, end: "to" },
      ]),
    ),
    ...of(
      "wireprep",
      wireprep.batches.flatMap(({ name: batch }) =>
        ["machine", "bench", "hand"].map((by) => ({ of: "minutes", batch, by })),
      ),
    ),
    ...of(
      "wireprep",
      wireprep.reels.map((_, i) => ({ of: "reel", nth: i + 1 })),
    ),
    ...of("wireprep", [
      { of: "saved", than: "bench" },
      { of: "saved", than: "hand" },
    ]),
  ];
}

/** A line with its figures and names left out: lines that say the same in other figures are kept once. */
const plain = (line: string): string =>
  line.replace(/[^\s(]*[\d+][^\s),;]*/g, "#").replace(/\b(up|down|left|right|into|out of|[A-Z]{2,4}|L|N)\b/g, "#");

const lineOf = ({ text, value, detail, source, fallback, link }: Working["terms"][number]): string =>
  `  ${text}${value === undefined ? "" : `: ${value}`}${detail ? ` — ${detail}` : ""}${source ? ` (${source})` : ""}${fallback ? " FALLBACK" : ""}${link ? ` → ${link.thing} ${link.of}` : ""}`;

test("every number of the demo jobs is explained by terms that add up to it", () => {
  const lines: string[] = [];
  const seen = new Set<string>();
  const wrong: string[] = [];
  for (const name of ["larkmoor", "hillfold"]) {
    const design = whole(name);
    const results = runStages(design).stages as unknown as Record<string, object>;
    for (const [stage, subject] of asked(results as Record<string, unknown>)) {
      const { explain } = STAGES.find((s) => s.name === stage)!;
      const faults = explain!.schema.validate(subject, { convert: false }).error;
      if (faults) throw new Error(`${stage} ${JSON.stringify(subject)}: ${faults.message}`);
      const working = explain!.working(
        { design, shop: DEFAULT_SHOP, results, result: results[stage] } as never,
        subject as never,
      );
      if (!working) {
        wrong.push(`${stage} ${JSON.stringify(subject)} is not explained`);
        continue;
      }
      const { terms, total } = working;
      const sum = terms.reduce((s, t) => s + (t.value ?? 0), 0);
      if (typeof total === "number" && terms.some((t) => t.value !== undefined) && Math.abs(sum - total) > 0.06)
        wrong.push(`${stage} ${JSON.stringify(subject)}: ${sum}, told ${total}`);
      const title = ` ${working.title}: ${total} ${working.unit}`;
      const fresh = [title, ...terms.map(lineOf)].filter((line) => !seen.has(`${stage}${plain(line)}`));
      if (fresh.length === 0) continue;
      for (const line of fresh) seen.add(`${stage}${plain(line)}`);
      lines.push(`${name} ${stage} ${JSON.stringify(subject)}`, title, ...fresh.filter((line) => line !== title));
    }
  }
  expect(wrong).toEqual([]);
  golden("workings.txt", `${lines.join("\n")}\n`);
});
