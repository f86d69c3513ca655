import type { FileOut } from "../design/file-out";
import type { Design } from "../design/model";
import type { PrepRules } from "../design/prep-rules";
import { toCsv } from "../formats/csv";
import { toPdf } from "../formats/pdf";
import { toXlsx, XLSX_TYPE } from "../formats/xlsx";
import { benchSheets, bundleTickets, labelPages, printerFile } from "./labels";
import { labelsFor, type EndLabel } from "./printed";
import { machineFile } from "./profile";
import type { Chain, Lead, WireprepResult } from "./result";
import { allLeadsTable, batchesTable, benchTable, labelsTable, reelsTable, type Table } from "./tables";

const PDF = "application/pdf";
const NARROW = 12;
const WIDE: Readonly<Record<string, number>> = { why: 40, batch: 22, wire: 12, type: 18, label: 18, label_from: 18 };

const forFile = (text: string): string => text.replace(/[^A-Za-z0-9+._=-]/g, "-");

/** Chains of a batch, its wires found again. */
export const chainsOfWires = (chains: readonly (readonly string[])[], by: ReadonlyMap<string, Lead>): Chain[] =>
  chains.map((c) => ({ leads: c.flatMap((w) => by.get(w) ?? []) }));

const csvFile = (name: string, { head, rows }: Table): FileOut => ({
  name,
  type: "text/csv",
  bytes: toCsv(head, rows),
});

/** Labels of a job that come from the printer: of leads on machines that do not print, and of those at the bench. */
export function printedLabels(
  { batches, leads }: Pick<WireprepResult, "batches" | "leads">,
  rules: PrepRules,
): EndLabel[] {
  const by = new Map(leads.map((l) => [l.wire, l]));
  const some = (wires: readonly string[]): Lead[] => wires.flatMap((w) => by.get(w) ?? []);
  return batches.flatMap((b) => [
    ...labelsFor(some(b.chains.flat()), rules.machines.find((m) => m.name === b.machine)?.prints === true),
    ...labelsFor(some(b.bench.map((x) => x.wire)), false),
  ]);
}

/** Files for machines: one for each batch, with the description of its form where it has one. What cannot be written is left out. */
export function machineFiles(
  { batches, leads }: Pick<WireprepResult, "batches" | "leads">,
  rules: PrepRules,
): FileOut[] {
  const by = new Map(leads.map((l) => [l.wire, l]));
  const files = new Map<string, FileOut>();
  for (const b of batches) {
    const profile = rules.machines.find((m) => m.name === b.machine)?.profile;
    if (profile === undefined || b.chains.length === 0) continue;
    const written = machineFile(profile, b.name, chainsOfWires(b.chains, by), rules);
    if (!written.ok) continue;
    const end = written.name.slice(written.name.lastIndexOf("."));
    const name = `machine-${forFile(b.enclosure === "" ? "leads" : b.enclosure)}${end}`;
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
    {
      name: "wireprep.xlsx",
      type: XLSX_TYPE,
      bytes: await toXlsx(
        ...Object.entries(tables).map(([name, { head, rows }]) => ({
          name,
          header: head,
          widths: head.map((h) => WIDE[h] ?? NARROW),
          rows,
        })),
      ),
    },
    await pdf("bench.pdf", "bench list", benchSheets(`${heading}: leads at the bench`, bench)),
    await pdf("lead-labels.pdf", "labels of leads", labelPages(labels)),
    await pdf("bundles.pdf", "bundle tickets", bundleTickets(job.code, result.leads, result.bundles)),
    { name: "lead-labels.txt", type: "text/plain", bytes: printerFile(labels) },
    ...machineFiles(result, rules),
  ];
}
