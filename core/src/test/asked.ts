import { FIGURES, type HeatResult } from "../heat/result";
import { lineKey, type KitsResult } from "../kits/result";
import type { MetalworkResult } from "../metalwork/result";
import type { RoutesResult } from "../routes/result";
import type { WireprepResult } from "../wireprep/result";

/** Every number that may be asked for, of every stage. */
export function asked(results: Record<string, unknown>): [stage: string, subject: Record<string, unknown>][] {
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
