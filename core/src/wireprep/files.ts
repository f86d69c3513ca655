import { forFile, uniqueNames, type FileOut } from "../frame/file-out";
import type { Design } from "../design/model";
import type { PrepRules } from "./rules";
import { toPdf } from "../formats/pdf";
import { bookOf, csvFile, type Widths } from "../formats/table";
import { benchSheets, bundleTickets, labelPages, printerFile } from "./labels";
import { labelsOfPlan, type EndLabel } from "./printed";
import { machineFile } from "./profile";
import type { Chain, Lead, WireprepResult } from "./result";
import { allLeadsTable, batchesTable, benchTable, labelsTable, partedCrimps, reelsTable } from "./tables";

const PDF = "application/pdf";
const WIDTHS: Widths = {
  by: { why: 40, batch: 22, type: 18, label: 18, label_from: 18, label_to: 18 },
  other: 12,
};

/** Chains of a batch, its wires found again. */
export const chainsOfWires = (chains: readonly (readonly string[])[], by: ReadonlyMap<string, Lead>): Chain[] =>
  chains.map((c) => ({ leads: c.flatMap((w) => by.get(w) ?? []) }));

/** Labels of a job that come from the printer: of leads on machines that do not print, and of those at the bench. */
export function printedLabels(
  { batches, leads }: Pick<WireprepResult, "batches" | "leads">,
  rules: PrepRules,
): EndLabel[] {
  const by = new Map(leads.map((l) => [l.wire, l]));
  return batches.flatMap((b) => labelsOfPlan(b, by, rules));
}

/** Files for machines: one for each batch, with the description of its form where it has one. What cannot be written is a stop among the open points. */
export function machineFiles(
  { batches, leads }: Pick<WireprepResult, "batches" | "leads">,
  rules: PrepRules,
): FileOut[] {
  const by = new Map(leads.map((l) => [l.wire, l]));
  const files = new Map<string, FileOut>();
  const names = uniqueNames(batches.map((b) => `machine-${forFile(b.enclosure === "" ? "leads" : b.enclosure)}`));
  for (const [i, b] of batches.entries()) {
    const profile = rules.machines.find((m) => m.name === b.machine)?.profile;
    if (profile === undefined || b.chains.length === 0) continue;
    const written = machineFile(profile, b.name, chainsOfWires(b.chains, by), rules);
    if (!written.ok) continue;
    const end = written.name.slice(written.name.lastIndexOf("."));
    const name = `${names[i]!}${end}`;
    files.set(name, { name, type: written.type, bytes: written.bytes });
    if (written.xsd !== undefined) {
      const form = `machine-${forFile(profile)}.xsd`;
      files.set(form, { name: form, type: "application/xml", bytes: new TextEncoder().encode(written.xsd) });
    }
  }
  return [...files.values()];
}

/** All files of this stage. */
export async function files(
  { job }: Pick<Design, "job">,
  rules: PrepRules,
  result: WireprepResult,
): Promise<FileOut[]> {
  const by = new Map(result.leads.map((l) => [l.wire, l]));
  const labels = printedLabels(result, rules);
  const tables = {
    leads: allLeadsTable(result),
    bench: benchTable(result),
    labels: labelsTable(labels),
    reels: reelsTable(result.reels),
    batches: batchesTable(result),
  };
  const bench = result.batches.flatMap((b) => b.bench.map(({ wire, why }) => ({ lead: by.get(wire)!, why })));
  // What is left for later is in no bundle yet.
  const going = new Set(result.batches.flatMap((b) => [...b.chains.flat(), ...b.bench.map((x) => x.wire)]));
  const now = result.leads.filter((l) => going.has(l.wire));
  const parted = partedCrimps(now);
  const heading = `${job.code} ${job.title}, revision ${job.revision}`;
  const pdf = async (name: string, title: string, scenes: Parameters<typeof toPdf>[1]): Promise<FileOut> => ({
    name,
    type: PDF,
    bytes: await toPdf(`${job.code}, ${title}`, scenes),
  });
  return [
    csvFile("leads.csv", tables.leads),
    csvFile("bench.csv", tables.bench),
    csvFile("lead-labels.csv", tables.labels),
    csvFile("reels.csv", tables.reels),
    await bookOf("wireprep.xlsx", tables, WIDTHS),
    await pdf("bench.pdf", "bench list", benchSheets(`${heading}: leads at the bench`, bench, parted)),
    await pdf("lead-labels.pdf", "labels of leads", labelPages(labels)),
    await pdf("bundles.pdf", "bundle tickets", bundleTickets(job.code, now, result.bundles)),
    { name: "lead-labels.txt", type: "text/plain", bytes: printerFile(labels) },
    ...machineFiles(result, rules),
  ];
}
