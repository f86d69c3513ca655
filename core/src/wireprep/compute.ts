import type { Colours } from "../wiring/landings";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { listed, OpenPoints } from "../design/open-points";
import type { Rules } from "../shop/rules";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { chainsOf, leadsIn } from "./chains";
import { leadsOf } from "./leads";
import { planOf, savingsOf, type Planned } from "./plan";
import { profileFaults } from "./profile";
import { workRank } from "./rank";
import { holdsWhole, reelsFor } from "./reels";
import { Again, sameThings } from "../frame/again";
import type { BatchPlan, Lead, WireprepResult } from "./result";

export interface WireprepNeeds {
  panel: PanelResult;
  routes: RoutesResult;
}

/** A lead that no reel holds. */
const tooLongOf = new Again<Lead, Lead>();

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
  const packs = new Map(design.parts.flatMap((p) => (p.stock && p.stock.pack > 1 ? [[p.number, p.stock.pack]] : [])));
  const said = leadsOf({ look, panel, routes, colours }, prep, points);
  const { notMade } = said;
  const whole = holdsWhole(prep, (part) => packs.get(part));
  const leads = said.leads.map((l) => (whole(l) ? l : tooLongOf.of(l, [], () => ({ ...l, noReel: true }))));
  progress(0.3);
  const chains = sameThings(leads, said.leads) ? said.chains : chainsOf(leads);
  const plans = planOf(design.job.code, chains, panel, prep);
  progress(0.8);
  const made = plans.flatMap((p) => leadsIn(p.chains));
  const reels = reelsFor(made, prep, (part) => packs.get(part));
  const rank = workRank(panel);
  const bundles = [...new Set(leads.map((l) => l.bundle))].sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
  const tooLong = leads.filter((l) => l.noReel).map((l) => l.wire);
  if (tooLong.length > 0)
    points.add({
      severity: "check",
      kind: "longer than a reel",
      thing: "wire",
      of: tooLong[0]!,
      text: `no reel holds the whole of ${listed(tooLong)}: the bench cuts them`,
      remedy: "State a larger pack with the wire in the library, or cut it by hand.",
    });
  for (const { name, profile } of prep.machines) {
    const faults = profile === undefined ? [] : profileFaults(profile, prep);
    if (faults.length > 0)
      points.add({
        severity: plans.some((p) => p.machine === name && p.chains.length > 0) ? "stop" : "check",
        kind: "machine without a file",
        thing: "job",
        of: design.job.code,
        text: `nothing can be written for ${name} as "${profile}": ${listed(faults, 3)}`,
        remedy: "Correct the profile and its columns in the shop, or name another one with the machine.",
        ...(plans.some((p) => p.machine === name && p.chains.length > 0) ? { withholds: `file for ${name}` } : {}),
      });
  }
  return {
    job: design.job.code,
    leads,
    notMade,
    batches: plans.map(batchPlan),
    reels: reels.reels.map(({ leads: cut, ...reel }) => ({ ...reel, wires: cut.map((l) => l.wire) })),
    full: reels.full,
    tooLong,
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
