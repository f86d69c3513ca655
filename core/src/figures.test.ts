import { allFiles, runStages } from "./run";
import { STAGES } from "./stages";
import type { Figure } from "./frame/stage";
import { demo } from "./test/demo";

/** Each figure that the desk shows, against what stands in the files that leave the house. */

/** Rows of a CSV file by their heads; fields with commas are quoted. */
function rowsOf(text: string): Record<string, string>[] {
  const cells = (line: string): string[] =>
    [...line.matchAll(/("(?:[^"]|"")*"|[^,]*)(?:,|$)/g)].map((m) => m[1]!.replace(/^"|"$/g, "").replaceAll('""', '"'));
  const [head, ...lines] = text
    .replace(/^\uFEFF/, "")
    .trimEnd()
    .split("\r\n");
  const names = cells(head!);
  return lines.map((line) => Object.fromEntries(cells(line).map((c, i) => [names[i]!, c])));
}

test.each(["hillfold", "larkmoor"] as const)("%s", async (name) => {
  const results = runStages(demo(name));
  const files = new Map((await allFiles(results)).map((f) => [f.name, f.bytes]));
  const rows = (file: string) => rowsOf(new TextDecoder().decode(files.get(file)));
  const figures = new Map<string, Figure>(
    STAGES.flatMap((s) =>
      s.figures(results.stages[s.name] as never).map((f): [string, Figure] => [`${s.name}.${f.id}`, f]),
    ),
  );
  const told = (id: string): [number, string] => [figures.get(id)!.value, figures.get(id)!.unit];
  const sum = (list: Record<string, string>[], field: string): number =>
    list.reduce((all, r) => all + Number(r[field]), 0);

  const wires = rows("wires.csv");
  const measured = wires.filter((w) => w.length_mm !== "");
  expect(told("routes.wires")).toEqual([measured.length, ""]);
  expect(figures.get("routes.wires")!.outOf).toBe(wires.length);
  expect(told("routes.total")).toEqual([sum(measured, "length_mm"), "mm in all"]);
  expect(told("routes.longest")).toEqual([Math.max(...measured.map((w) => Number(w.length_mm))), "mm"]);
  const fills = rows("ducts.csv").map((d) => Number(d.fill_percent));
  expect(told("routes.fill")).toEqual([Math.max(...fills), "%"]);
  expect(told("metalwork.holes")).toEqual([rows("holes.csv").length, ""]);
  const losses = rows("heat.csv").filter((r) => r.figure === "loss");
  expect(told("heat.loss")).toEqual([Math.round(sum(losses, "value")), "W"]);
  expect(told("kits.lines")).toEqual([rows("bom.csv").length, ""]);
  const leads = rows("leads.csv");
  expect(told("wireprep.leads")).toEqual([leads.length, ""]);
  expect(figures.get("wireprep.machine")!.outOf).toBe(leads.length);
  // The list of the bench names leads that are made there, and crimps that are made there later.
  const byHand = new Set(rows("bench.csv").map((r) => r.wire));
  const onMachine = leads.filter((l) => l.batch !== "" && !byHand.has(l.wire));
  expect(told("wireprep.machine")).toEqual([onMachine.length, ""]);
  // Nothing that is walked in a store, or saved there, is longer than a marathon.
  expect(figures.get("kits.walk")!.unit).toBe("m");
  expect(figures.get("kits.walk")!.value).toBeLessThan(42_195);
});
