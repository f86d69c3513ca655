import { pushTo } from "../design/order";
import { tourOf } from "../solve/tour";
import { leadsIn } from "./chains";
import { changesOf, changeS, settingOf, type ChangeTimes, type Setting } from "./changes";
import type { Chain } from "./result";

export interface Ordered {
  chains: Chain[];
  /** Changing over in all, s. */
  changeS: number;
  /** No order of the chains takes less. */
  boundS: number;
  /** As they stand in the list. */
  listS: number;
}

/** Chains of equal work: their first and last settings, whichever of them comes first. */
interface Kind {
  chains: Chain[];
  first: Setting;
  last: Setting;
  /** Changing over within one of them, s. */
  withinS: number;
}

function kindsOf(chains: readonly Chain[], times: ChangeTimes): Kind[] {
  const kinds = new Map<string, Chain[]>();
  for (const chain of chains) pushTo(kinds, JSON.stringify(chain.leads.map(settingOf)), chain);
  return [...kinds.values()].map((same): Kind => {
    const { leads } = same[0]!;
    const settings = leads.map(settingOf);
    return {
      chains: same,
      first: settings[0]!,
      last: settings[settings.length - 1]!,
      withinS: settings.slice(1).reduce((sum, s, i) => sum + changeS(settings[i]!, s, times), 0),
    };
  });
}

/** How hard the order is looked for. */
const EFFORT = 1;

const backwards = (chain: Chain): Chain => ({ leads: [...chain.leads].reverse() });

/**
 * Chains in the order of least changing over. Equal ones come one after the other; a chain keeps its order, or is made from its other
 * end. Up to five kinds the best of all; beyond, as good as its bound says. O(chains + kinds² · steps of the bound)
 */
export function leastChange(chains: readonly Chain[], times: ChangeTimes): Ordered {
  const listS = changesOf(leadsIn(chains), times);
  if (chains.length < 2) return { chains: [...chains], changeS: listS, boundS: listS, listS };
  const kinds = kindsOf(chains, times);
  const { endS } = times;
  // Setting an end anew costs, letting it stand bare does not: half of it is put on either way, and the rest hangs on the last one alone.
  const bare = (s: Setting): number => Number(s.from === null) + Number(s.to === null);
  const potential = (s: Setting): number => (-endS / 2) * bare(s);
  const between = (a: Setting, b: Setting): number => changeS(a, b, times) - potential(b) + potential(a);
  // Two places for a kind whose ends differ: its first and its last, which stay side by side.
  interface Place {
    kind: number;
    setting: Setting;
    end: "first" | "last" | "both";
  }
  const places: Place[] = kinds.flatMap((k, kind): Place[] =>
    k.chains[0]!.leads.length === 1
      ? [{ kind, setting: k.first, end: "both" }]
      : [
          { kind, setting: k.first, end: "first" },
          { kind, setting: k.last, end: "last" },
        ],
  );
  const n = places.length + 3;
  // Dearer than whatever parting a chain could save.
  const apart = 2 * (times.reelS + 2 * endS) + 1;
  const cost = (i: number, j: number): number => {
    if (i > j) return cost(j, i);
    if (i === 0) return j === 1 || j === n - 1 ? 0 : apart * n;
    if (i === 1 && j === n - 1) return apart * n;
    if (i === 1) return apart + changeS(null, places[j - 2]!.setting, times) - potential(places[j - 2]!.setting);
    if (j === n - 1) return apart + endS + potential(places[i - 2]!.setting);
    const [a, b] = [places[i - 2]!, places[j - 2]!];
    return a.kind === b.kind ? 0 : apart + between(a.setting, b.setting);
  };
  const points = Array.from({ length: n }, (_, i) => ({ x: i, y: 0 }));
  const joined = places.length - kinds.length;
  const fixedS = apart * (n - 2 - joined);
  const tour = tourOf(points, (a, b) => cost(a.x, b.x), EFFORT, fixedS);
  const rest = tour.order.slice(1);
  const forward = (rest[0] === 1 ? rest : [...rest].reverse()).filter((i) => i !== 1 && i !== n - 1);
  const groups: Chain[][] = [];
  const done = new Set<number>();
  for (const i of forward) {
    const { kind, end } = places[i - 2]!;
    if (done.has(kind)) continue;
    done.add(kind);
    groups.push(toAndFro(end === "last" ? kinds[kind]!.chains.map(backwards) : kinds[kind]!.chains));
  }
  const order = turned(groups, times);
  const found = changesOf(leadsIn(order), times);
  // What stands within a chain is there in any order.
  const withinS = kinds.reduce((sum, kind) => sum + kind.withinS * kind.chains.length, 0);
  const boundS = tour.bound <= 0 ? 0 : Math.max(0, tour.bound - fixedS - endS + withinS);
  return found <= listS
    ? { chains: order, changeS: found, boundS: Math.min(boundS, found), listS }
    : { chains: [...chains], changeS: listS, boundS: Math.min(boundS, listS), listS };
}

/** Equal chains one after the other, each from where the one before it ended; the last of an even number goes on as the first did. */
const toAndFro = (chains: readonly Chain[]): Chain[] =>
  chains.map((c, i) => (i % 2 === 1 && !(i === chains.length - 1) ? backwards(c) : c));

/** Of even numbers of equal chains the last one may come back as well: where that changes over less, it does. O(chains) */
function turned(groups: readonly Chain[][], times: ChangeTimes): Chain[] {
  const order: Chain[] = [];
  groups.forEach((group, g) => {
    const last = group[group.length - 1]!;
    if (group.length % 2 === 1 || last.leads.length === 1) {
      order.push(...group);
      return;
    }
    const before = group[group.length - 2]!;
    const next = groups[g + 1]?.[0];
    const joint = (chain: Chain): number =>
      changesOf([...before.leads.slice(-1), ...chain.leads, ...(next ? next.leads.slice(0, 1) : [])], times);
    const back = backwards(last);
    order.push(...group.slice(0, -1), joint(back) < joint(last) ? back : last);
  });
  return order;
}

/**
 * Leads bundle by bundle as they are wired, of so many bundles at once in the order of least changing over: `mixed` 1 keeps every bundle
 * by itself, more is sorted apart at the bench. O(chains log chains) and an order for each lot
 * @param rank of a bundle in the order of work
 */
export function bundled(
  chains: readonly Chain[],
  rank: (bundle: string) => number,
  mixed: number,
  times: ChangeTimes,
): Ordered {
  const listS = changesOf(leadsIn(chains), times);
  const bundles = new Map<string, Chain[]>();
  // One that leads through several is wired with the first of them.
  const bundleOf = ({ leads }: Chain): string =>
    leads.reduce((first, l) => (rank(l.bundle) < rank(first) ? l.bundle : first), leads[0]!.bundle);
  for (const chain of chains) pushTo(bundles, bundleOf(chain), chain);
  const inOrder = [...bundles].sort(([a], [b]) => rank(a) - rank(b) || (a < b ? -1 : 1)).map(([, list]) => list);
  const order: Chain[] = [];
  const step = Math.max(1, Math.floor(mixed));
  for (let i = 0; i < inOrder.length; i += step)
    order.push(...leastChange(inOrder.slice(i, i + step).flat(), times).chains);
  return {
    chains: order,
    changeS: changesOf(leadsIn(order), times),
    boundS: leastChange(chains, times).boundS,
    listS,
  };
}
