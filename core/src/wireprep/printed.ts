import { byCount } from "../design/order";
import type { PrepRules } from "./rules";
import type { MadeBatch } from "./batch";
import type { BatchPlan, Lead, LeadEnd } from "./result";

/** One label that is put on: on what, and where. */
export interface EndLabel {
  wire: string;
  sizeMm2: number;
  end: LeadEnd;
  bundle: string;
}

/** Labels that come from the printer, lead by lead, the end it comes from first; what the machine prints on the wire is none of them. */
export const labelsFor = (leads: readonly Lead[], machinePrints: boolean): EndLabel[] =>
  leads.flatMap((l) =>
    [l.from, l.to].flatMap((end): EndLabel[] =>
      end.labelOn === "none" || end.label === "" || (end.labelOn === "printed" && machinePrints)
        ? []
        : [{ wire: l.wire, sizeMm2: l.sizeMm2, end, bundle: l.bundle }],
    ),
  );

/** Labels of a batch that come from the printer, medium by medium, in each in the order of its leads. @param by leads by their wires */
export function labelsOfPlan(
  { chains, bench, machine }: Pick<BatchPlan, "chains" | "bench" | "machine">,
  by: ReadonlyMap<string, Lead>,
  rules: Pick<PrepRules, "machines">,
): EndLabel[] {
  const some = (wires: readonly string[]): Lead[] => wires.map((w) => by.get(w)!);
  const all = [
    ...labelsFor(some(chains.flat()), rules.machines.find((m) => m.name === machine)?.prints === true),
    ...labelsFor(some(bench.map((b) => b.wire)), false),
  ];
  // Medium by medium: what is put into the printer is changed as seldom as can be.
  const medium = ({ end, sizeMm2 }: EndLabel): string =>
    `${end.labelOn === "printed" ? "sleeve" : end.labelOn} ${sizeMm2}`;
  const media = [...new Set(all.map(medium))].sort(byCount);
  return media.flatMap((m) => all.filter((l) => medium(l) === m));
}

export const labelsOfBatch = ({ plan, leads }: MadeBatch, rules: Pick<PrepRules, "machines">): EndLabel[] =>
  labelsOfPlan(plan, new Map(leads.map((l) => [l.wire, l])), rules);
