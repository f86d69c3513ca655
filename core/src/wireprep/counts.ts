import type { PrepMachine } from "../design/prep-rules";
import type { Lead } from "./result";

/** Ends that are crimped, each shared crimp once. */
function crimpsOf(leads: readonly Lead[]): number {
  const shared = new Set<string>();
  let sum = 0;
  for (const lead of leads)
    for (const end of [lead.from, lead.to]) {
      if (end.treatment === "bare") continue;
      if (end.shared === null) sum++;
      else shared.add(end.shared);
    }
  return sum + shared.size;
}

const labelsOf = (leads: readonly Lead[]): number =>
  leads.reduce((sum, l) => sum + [l.from, l.to].filter((e) => e.labelOn !== "none" && e.label !== "").length, 0);

/** Leads, crimps, labels that are put on, and crimps that the bench puts on two leads of the machine, each once; on a machine that prints only those it does not print itself. O(leads) */
export function countsOf(
  leads: readonly Lead[],
  machine: Pick<PrepMachine, "prints"> | null = null,
): { n: number; crimps: number; labels: number; later: number } {
  const labels = labelsOf(machine?.prints ? leads.filter((l) => l.from.labelOn !== "printed") : leads);
  const later = new Set(leads.flatMap((l) => [l.from, l.to].flatMap((e) => e.later?.at ?? []))).size;
  return { n: leads.length, crimps: crimpsOf(leads), labels, later };
}
