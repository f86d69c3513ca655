import type { PrepMachine, PrepRules } from "./rules";
import { enclosureOf } from "../design/geometry";
import { byText, pushTo } from "../design/order";
import type { PanelResult } from "../panel/result";
import { batchOf, minutesOf, type Apart, type Wanted } from "./batches";
import { faceOf, leadsIn } from "./chains";
import { workRank } from "./rank";
import { bundled, leastChange } from "./order";
import { Again } from "../frame/again";
import type { Chain, Minutes, Saved, Way } from "./result";

/** One batch as it would be made. */
export interface Planned {
  name: string;
  enclosure: string;
  machine: string | null;
  way: Way;
  /** In the order of the way that is chosen. */
  chains: Chain[];
  bench: Apart[];
  left: Apart[];
  elsewhere: Apart[];
  /** Minutes on the machine, each way; no order takes less than the bound. */
  ways: Record<Way, number>;
  boundMinutes: number;
  /** All leads of the batch: what goes on the machine there, the rest at the bench; and by other means. */
  minutes: Minutes;
  metres: number;
}

/** The way a shop has chosen. */
export const wayOf = ({ mixed }: Pick<PrepRules, "mixed">): Way =>
  mixed < 1 ? "least" : mixed === 1 ? "bundles" : "mixed";

/** The machine that makes the most of an enclosure, of equals the one that takes less time; null where the shop has none. */
function machineFor(chains: readonly Chain[], wanted: Wanted, rules: PrepRules): PrepMachine | null {
  let best: { machine: PrepMachine; leads: number; minutes: number } | null = null;
  for (const machine of rules.machines) {
    const made = leadsIn(batchOf(chains, wanted, machine, rules).machine);
    const minutes = minutesOf(made, rules, machine).machine;
    if (!best || made.length > best.leads || (made.length === best.leads && minutes < best.minutes))
      best = { machine, leads: made.length, minutes };
  }
  return best && best.leads > 0 ? best.machine : null;
}

/** The batch of an enclosure, by its first chain. */
const plannedOf = new Again<Chain, Planned>();

/**
 * A batch for each enclosure, on the machine that makes the most of it. A chain that leads through two
 * enclosures is in the batch of the face it counts to, as it is when a batch is made. Each lead is in just one batch.
 * O(leads · machines) and an order for each way; an enclosure of the very same chains is looked up
 */
export function planOf(
  job: string,
  chains: readonly Chain[],
  panel: Pick<PanelResult, "devices">,
  rules: PrepRules,
  way: Way = wayOf(rules),
): Planned[] {
  const rank = workRank(panel);
  const own = new Map<string, Chain[]>();
  const enclosures = new Map([["", ""]]);
  for (const chain of chains) {
    const face = faceOf(chain);
    let enclosure = enclosures.get(face);
    if (enclosure === undefined) enclosures.set(face, (enclosure = enclosureOf(face)));
    pushTo(own, enclosure, chain);
  }
  return [...own]
    .sort(([a], [b]) => byText(a, b))
    .map(([enclosure, here]): Planned => {
      return plannedOf.of(here[0]!, [job, enclosure, panel, rules, way, ...here], () => {
        const machine = machineFor(here, {}, rules);
        const name = [job, enclosure].filter((t) => t !== "").join(" ");
        return planned({ name, enclosure, chains: here, wanted: {}, machine, way }, rank, rules);
      });
    });
}

export interface Asked {
  name: string;
  enclosure: string;
  chains: readonly Chain[];
  wanted: Wanted;
  machine: PrepMachine | null;
  way: Way;
}

/** One batch of what is wanted of chains. O(leads) and an order for each way */
export function planned(
  { name, enclosure, chains, wanted, machine, way }: Asked,
  rank: (bundle: string) => number,
  rules: PrepRules,
): Planned {
  const { machine: made, bench, left, elsewhere } = batchOf(chains, wanted, machine, rules, name);
  const times = machine ?? { reelS: 0, endS: 0 };
  const least = leastChange(made, times);
  const orders: Record<Way, Chain[]> = {
    list: made,
    bundles: bundled(made, rank, 1, times).chains,
    mixed: rules.mixed < 1 ? least.chains : bundled(made, rank, rules.mixed, times).chains,
    least: least.chains,
  };
  const minutes = (list: readonly Chain[]): number => minutesOf(leadsIn(list), rules, machine).machine;
  const all = [...leadsIn(made), ...bench.map((b) => b.lead)];
  const byHand = minutesOf(all, rules, null);
  return {
    name,
    enclosure,
    way,
    machine: machine?.name ?? null,
    chains: orders[way],
    bench,
    left,
    elsewhere,
    ways: {
      list: minutes(orders.list),
      bundles: minutes(orders.bundles),
      mixed: minutes(orders.mixed),
      least: minutes(orders.least),
    },
    boundMinutes: minutes(orders.least) - (least.changeS - least.boundS) / 60,
    minutes: {
      machine:
        minutes(orders[way]) +
        minutesOf(
          bench.map((b) => b.lead),
          rules,
          null,
        ).bench,
      bench: byHand.bench,
      hand: byHand.hand,
    },
    metres: all.reduce((sum, l) => sum + l.lengthMm, 0) / 1000,
  };
}

/** What the machine saves against the bench and against hands, in hours and in money. */
export function savingsOf(
  plans: readonly Pick<Planned, "minutes">[],
  { hourPrice }: Pick<PrepRules, "hourPrice">,
): Saved {
  const sum = (of: keyof Minutes): number => plans.reduce((s, p) => s + p.minutes[of], 0);
  const [machine, bench, hand] = [sum("machine"), sum("bench"), sum("hand")];
  const saved = (than: number) => ({ hours: (than - machine) / 60, money: ((than - machine) / 60) * hourPrice });
  return { machine, bench, hand, thanBench: saved(bench), thanHand: saved(hand) };
}
