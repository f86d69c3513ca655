import type { PrepRules } from "./rules";
import { toPdf } from "../formats/pdf";
import type { Scene } from "../formats/scene";
import { csvFile, type Table } from "../formats/table";
import { benchSheets, bundleTickets, labelPages, printerFile } from "./labels";
import { chainsIn, type MadeBatch } from "./batch";
import { labelsOfBatch } from "./printed";
import { machineFile, type Written } from "./profile";
import type { Lead } from "./result";
import { allLeadsTable, benchTable, labelsTable, partedCrimps } from "./tables";

export type BatchDocument =
  "leads.csv" | "bench.csv" | "bench.pdf" | "labels.csv" | "labels.pdf" | "labels.txt" | "bundles.pdf" | "machine";

const leadsBy = ({ leads }: MadeBatch): Map<string, Lead> => new Map(leads.map((l) => [l.wire, l]));

/** The file of some leads of a batch for its machine, as they stand in it. */
export function fileOfLeads(batch: MadeBatch, name: string, leads: readonly string[], rules: PrepRules): Written {
  const machine = rules.machines.find((m) => m.name === batch.plan.machine);
  if (!machine) return { ok: false, reasons: [`the shop has no machine ${batch.plan.machine}`] };
  if (machine.profile === undefined) return { ok: false, reasons: [`the shop says no profile for ${machine.name}`] };
  const by = leadsBy(batch);
  const wanted = new Set(leads);
  const chains = batch.plan.chains
    .map((c) => ({ leads: c.filter((w) => wanted.has(w)).map((w) => by.get(w)!) }))
    .filter((c) => c.leads.length > 0);
  return machineFile(machine.profile, name, chains, rules);
}

/** A document of a batch. */
export async function documentOf(batch: MadeBatch, job: string, as: BatchDocument, rules: PrepRules): Promise<Written> {
  const { plan, leads } = batch;
  const pdf = async (title: string, scenes: readonly Scene[]): Promise<Written> =>
    scenes.length === 0
      ? { ok: false, reasons: [`there is nothing to draw in ${as}`] }
      : { ok: true, name: as, type: "application/pdf", bytes: await toPdf(`${plan.name}, ${title}`, scenes) };
  const csv = (table: Table): Written => ({ ok: true, ...csvFile(as, table) });
  const result = { leads, batches: [plan] };
  switch (as) {
    case "leads.csv":
      return csv(allLeadsTable(result));
    case "bench.csv":
      return csv(benchTable(result));
    case "bench.pdf": {
      const by = leadsBy(batch);
      const bench = plan.bench.map(({ wire, why }) => ({ lead: by.get(wire)!, why }));
      return pdf("bench list", benchSheets(`${plan.name}: leads at the bench`, bench, partedCrimps(leads)));
    }
    case "labels.csv":
      return csv(labelsTable(labelsOfBatch(batch, rules)));
    case "labels.pdf":
      return pdf("labels", labelPages(labelsOfBatch(batch, rules)));
    case "labels.txt": {
      const labels = labelsOfBatch(batch, rules);
      return labels.length === 0
        ? { ok: false, reasons: ["no end of it has a label from the printer"] }
        : { ok: true, name: as, type: "text/plain", bytes: printerFile(labels) };
    }
    case "bundles.pdf":
      return pdf("bundle tickets", bundleTickets(job, leads, [...new Set(leads.map((l) => l.bundle))]));
    case "machine":
      return fileOfLeads(batch, plan.name, chainsIn(batch).flat(), rules);
  }
}
