import type { Crossing } from "../design/model";
import { listed, type OpenPoints } from "../design/open-points";
import type { Bar, Foot } from "./bars";
import type { CrossingSwing } from "./result";

/** Two places between which wires pass over. */
export interface Link {
  from: Foot;
  to: Foot;
  nm: number;
  loopNm: number;
  crossing: Crossing | null;
  swing?: CrossingSwing;
}

/** Ducts side by side over one place, and stops of a bundle of such ducts, beyond which it is no bundle any more. */
const MOST_ABREAST = 12;
const MOST_BUNDLE_STOPS = 200_000;

/**
 * Where so many ducts lie on each other that wires could not be followed from one to the next at every place, they
 * pass over at both ends of each common stretch only. Changes `sides` and adds to `links`.
 */
export function loosenBundles(bars: readonly Bar[], links: Link[], points: OpenPoints): void {
  const own = ownStops(bars, links);
  for (const bundle of bundlesOf(bars)) {
    if (bundle.every((b) => abreast(b) <= MOST_ABREAST) && passOver(bars, bundle, own) !== null) continue;
    for (const a of bundle) {
      for (const { other, lo, hi, nm } of a.sides) {
        if (other < a.index) continue;
        for (const t of [lo, hi])
          links.push({ from: { bar: a.index, t }, to: { bar: other, t }, nm, loopNm: 0, crossing: null });
      }
    }
    for (const b of bundle) b.sides = [];
    points.add({
      severity: "stop",
      kind: "too many ducts side by side",
      thing: "duct",
      of: bundle[0]!.tag,
      text: `${bundle.length} ducts lie side by side or on each other: ${listed(bundle.map((b) => b.tag))}. Wires pass from one to the next only where their common stretch begins and ends, so that they may be led a longer way than there is`,
      remedy: "Draw one duct of the whole width, and every duct once.",
    });
  }
}

/** Bars that lie beside each other, directly or by way of others; lower numbers first. */
function bundlesOf(bars: readonly Bar[]): Bar[][] {
  const seen = new Uint8Array(bars.length);
  const bundles: Bar[][] = [];
  for (const bar of bars) {
    if (seen[bar.index] || bar.sides.length === 0) continue;
    const bundle = [bar];
    seen[bar.index] = 1;
    for (const { sides } of bundle) {
      for (const { other } of sides) {
        if (seen[other]) continue;
        seen[other] = 1;
        bundle.push(bars[other]!);
      }
    }
    bundles.push(bundle.sort((a, b) => a.index - b.index));
  }
  return bundles;
}

/** How many lie beside a bar over one place at most. O(sides log sides) */
function abreast(bar: Bar): number {
  const steps = bar.sides.flatMap(({ lo, hi }) => [
    { t: lo, by: 1 },
    { t: hi, by: -1 },
  ]);
  steps.sort((p, q) => p.t - q.t || q.by - p.by);
  let now = 0;
  let most = 0;
  for (const { by } of steps) most = Math.max(most, (now += by));
  return most;
}

/** Stops that a bar has without its neighbours: its ends, the places of links, the ends of common stretches. */
function ownStops(bars: readonly Bar[], links: readonly Link[]): Set<number>[] {
  const stops = bars.map((bar) => new Set([bar.t0, bar.t1]));
  for (const { from, to } of links) {
    stops[from.bar]!.add(from.t);
    stops[to.bar]!.add(to.t);
  }
  for (const { index, sides } of bars) for (const { lo, hi } of sides) stops[index]!.add(lo).add(hi);
  return stops;
}

/** The stops of a bundle with those passed on along common stretches, by bar; null where there are too many. */
function passOver(
  bars: readonly Bar[],
  bundle: readonly Bar[],
  own: readonly Set<number>[],
): Map<number, Set<number>> | null {
  const stops = new Map(bundle.map(({ index }) => [index, new Set(own[index])]));
  const queue = bundle.flatMap(({ index }) => [...own[index]!].map((t): Foot => ({ bar: index, t })));
  let looked = 0;
  for (let foot = queue.pop(); foot; foot = queue.pop()) {
    for (const { other, lo, hi } of bars[foot.bar]!.sides) {
      if (++looked > MOST_BUNDLE_STOPS) return null;
      const there = stops.get(other)!;
      if (foot.t < lo || foot.t > hi || there.has(foot.t)) continue;
      there.add(foot.t);
      queue.push({ bar: other, t: foot.t });
    }
  }
  return stops;
}

/**
 * Stops of every bar, ascending: its own and, along a side, every stop of the other bar that lies in the stretch.
 * Between these and the places of pins nothing can happen, so wires that pass over there pass over anywhere.
 */
export function layStops(bars: readonly Bar[], links: readonly Link[]): void {
  const stops = ownStops(bars, links);
  for (const bundle of bundlesOf(bars)) for (const [bar, all] of passOver(bars, bundle, stops)!) stops[bar] = all;
  for (const bar of bars) bar.stops = [...stops[bar.index]!].sort((p, q) => p - q);
}
