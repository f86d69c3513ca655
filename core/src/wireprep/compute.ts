import type { Colours } from "../design/landings";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { listed, OpenPoints } from "../design/open-points";
import type { Rules } from "../design/rules";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { chainsOf } from "./chains";
import { leadsOf } from "./leads";
import { bundleRank, planOf, savingsOf, type Planned } from "./plan";
import { reelsFor } from "./reels";
import type { BatchPlan, WireprepResult } from "./result";

export interface WireprepNeeds {
  panel: PanelResult;
  routes: RoutesResult;
}

/** Leads of a job with both ends, a batch for each enclosure, the reels they are cut from, and what that saves. */
export function compute(
  design: Design,
  rules: Pick<Rules, "wireprep" | "classes">,
  colours: Colours,
  { panel, routes }: WireprepNeeds,
  progress: (share: number) => void = () => undefined,
): WireprepResult {
  const points = new OpenPoints("wireprep");
  const prep = rules.wireprep;
  const look = lookUp(design);
  const { leads, notMade } = leadsOf({ look, panel, routes, colours, classes: rules.classes }, prep, points);
  progress(0.3);
  const chains = chainsOf(leads);
  const plans = planOf(design.job.code, chains, panel, prep);
  progress(0.8);
  const made = plans.flatMap((p) => p.chains.flatMap((c) => c.leads));
  const packs = new Map(design.parts.flatMap((p) => (p.stock && p.stock.pack > 1 ? [[p.number, p.stock.pack]] : [])));
  const reels = reelsFor(made, prep, (part) => packs.get(part));
  const rank = bundleRank(panel);
  const bundles = [...new Set(leads.map((l) => l.bundle))].sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
  if (reels.tooLong.length > 0)
    points.add({
      severity: "check",
      kind: "longer than a reel",
      thing: "wire",
      of: reels.tooLong[0]!.wire,
      text: `no reel holds the whole of ${listed(reels.tooLong.map((l) => l.wire))}`,
      remedy: "State a larger pack with the wire in the library, or cut it by hand.",
    });
  for (const { machine, profile } of prep.machines.map((m) => ({ machine: m.name, profile: m.profile })))
    if (profile !== undefined && !prep.profiles.some((p) => p.profile === profile))
      points.add({
        severity: "check",
        kind: "machine without a file",
        thing: "job",
        of: design.job.code,
        text: `files for ${machine} are written as "${profile}", which the shop does not have`,
        remedy: "Add the profile to the shop, or name another one with the machine.",
      });
  return {
    job: design.job.code,
    leads,
    notMade,
    batches: plans.map(batchPlan),
    reels: reels.reels.map(({ leads: cut, ...reel }) => ({ ...reel, wires: cut.map((l) => l.wire) })),
    full: reels.full,
    tooLong: reels.tooLong.map((l) => l.wire),
    bundles,
    saved: savingsOf(plans, prep),
    open: points.list(),
  };
}

/** A batch with its leads named by their wires. */
export const batchPlan = ({ chains, bench, left, elsewhere: _, ...rest }: Planned): BatchPlan => ({
  ...rest,
  chains: chains.map((c) => c.leads.map((l) => l.wire)),
  bench: bench.map(({ lead, why }) => ({ wire: lead.wire, why })),
  left: left.map(({ lead, why }) => ({ wire: lead.wire, why })),
});
