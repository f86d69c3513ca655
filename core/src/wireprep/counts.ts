import type { PrepMachine } from "./rules";
import { byCount } from "../design/order";
import type { Lead, LeadEnd } from "./result";

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

/** Of two leads that the bench crimps together the first by its wire stands for the crimp, in whatever batch the other is. */
export const crimpsLater = ({ wire }: Pick<Lead, "wire">, { later }: LeadEnd): boolean =>
  later !== undefined && byCount(wire, later.with) < 0;

/** Leads, crimps, labels that are put on, and crimps that the bench puts on two leads of the machine, each once; on a machine that prints only those it does not print itself. O(leads) */
export function countsOf(
  leads: readonly Lead[],
  machine: Pick<PrepMachine, "prints"> | null = null,
): { n: number; crimps: number; labels: number; later: number } {
  const labels = labelsOf(machine?.prints ? leads.filter((l) => l.from.labelOn !== "printed") : leads);
  const later = leads.reduce((sum, l) => sum + [l.from, l.to].filter((e) => crimpsLater(l, e)).length, 0);
  return { n: leads.length, crimps: crimpsOf(leads), labels, later };
}
