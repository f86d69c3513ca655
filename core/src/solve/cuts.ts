import { byText } from "../design/order";
import { randomFrom } from "./random";

/** A piece to be cut from bars of one part. */
export interface Piece {
  /** What it is for: the tag of a rail, a duct, a cover. */
  of: string;
  lengthMm: number;
  /** What else is cut at it, in words: a mitre, a notch where another one comes in. */
  also?: string[];
}

/** How bars are cut. Lengths in mm. */
export interface Saw {
  stockMm: number;
  kerfMm: number;
  /** Taken off at each end of a bar before anything is cut from it. */
  trimMm: number;
  /** A rest of at least this is kept. */
  keepMm: number;
}

export interface Bar {
  lengthMm: number;
  /** From the shelf of what was kept; a new one otherwise. */
  kept: boolean;
  pieces: Piece[];
  /** Behind the last cut. */
  restMm: number;
}

export interface CutList {
  bars: Bar[];
  /** New bars; no way of cutting needs fewer than the bound. */
  fresh: number;
  bound: number;
  /** Longer than any bar gives. */
  tooLong: Piece[];
  /** Between two pieces, and before the first. */
  kerfMm: number;
  trimMm: number;
  /** A rest of at least this goes back to the shelf. */
  keepMm: number;
}

/** Steps of the search before the best so far is taken, and other beginnings that are tried before it. */
const MOST_STEPS = 3_000_000;
const BEGINNINGS = 24;
/** Of those that may stand beside the largest, left out by each other beginning. */
const LEFT_OUT = 0.15;
/** Beyond so many pieces each goes into the first bar it fits, and the bound is the sum of all. */
const MANY = 1500;
const EPS = 1e-9;

/**
 * Pieces from bars: what is kept on the shelf first, as full as it goes, then new bars, as few as can be. The first try
 * fills bar by bar with the best sum of pieces; where the bound says that fewer may do, a search goes through the ways to
 * fill a bar that no other way makes needless. What a bar gives is its length less two trims; between two pieces goes the saw.
 */
export function cutList(pieces: readonly Piece[], saw: Saw, shelf: readonly number[] = []): CutList {
  const { stockMm, kerfMm, trimMm } = saw;
  const room = (lengthMm: number): number => lengthMm - 2 * trimMm + kerfMm;
  const fullest = Math.max(room(stockMm), ...shelf.map(room));
  const sorted = [...pieces].sort((a, b) => b.lengthMm - a.lengthMm || byText(a.of, b.of));
  const tooLong = sorted.filter((p) => p.lengthMm + kerfMm > fullest + EPS);
  let left = sorted.filter((p) => p.lengthMm + kerfMm <= fullest + EPS);
  const bars: Bar[] = [];
  const size = (p: Piece): number => p.lengthMm + kerfMm;
  // The shortest that is kept first: long ones stay for long pieces.
  for (const lengthMm of [...shelf].sort((a, b) => a - b)) {
    const taken = fill(left.map(size), room(lengthMm));
    if (taken.length === 0) continue;
    const chosen = taken.map((i) => left[i]!);
    left = left.filter((_, i) => !taken.includes(i));
    bars.push(barOf(lengthMm, true, chosen, saw));
  }
  // What only a kept bar would have been long enough for, and did not come on one.
  const fits = left.filter((p) => size(p) <= room(stockMm) + EPS);
  tooLong.push(...left.filter((p) => size(p) > room(stockMm) + EPS));
  const packed = pack(fits.map(size), room(stockMm));
  for (const bin of packed.bins)
    bars.push(
      barOf(
        stockMm,
        false,
        bin.map((i) => fits[i]!),
        saw,
      ),
    );
  return { bars, fresh: packed.bins.length, bound: packed.bound, tooLong, kerfMm, trimMm, keepMm: saw.keepMm };
}

function barOf(lengthMm: number, kept: boolean, pieces: Piece[], { kerfMm, trimMm }: Saw): Bar {
  const used = pieces.reduce((sum, p) => sum + p.lengthMm + kerfMm, 0);
  return { lengthMm, kept, pieces, restMm: Math.max(0, lengthMm - trimMm - used) };
}

/** Which of the sizes fill a room best: largest first, depth first, no sum looked at twice worse. */
function fill(sizes: readonly number[], room: number, tries = 20_000): number[] {
  let best: number[] = [];
  let most = 0;
  const suffix = new Float64Array(sizes.length + 1);
  for (let i = sizes.length - 1; i >= 0; i--) suffix[i] = suffix[i + 1]! + sizes[i]!;
  const chosen: number[] = [];
  const go = (from: number, sum: number): boolean => {
    if (sum > most + EPS) {
      most = sum;
      best = [...chosen];
      if (room - most < EPS) return true;
    }
    for (let i = from; i < sizes.length; i++) {
      if (sum + suffix[i]! <= most + EPS) return false;
      if (sum + sizes[i]! > room + EPS) continue;
      // Equal sizes are equal: only the first of them is tried here.
      if (i > from && sizes[i] === sizes[i - 1]) continue;
      if (--tries < 0) return true;
      chosen.push(i);
      if (go(i + 1, sum + sizes[i]!)) return true;
      chosen.pop();
    }
    return false;
  };
  go(0, 0);
  return best;
}

/**
 * Fewer bins than this cannot do: sizes over half a room each have their own, and what fits beside none of them fills further
 * ones; over all thresholds (Martello and Toth 1990, L2). Sizes descending. O(n²)
 */
export function leastBins(sizes: readonly number[], room: number): number {
  const total = sizes.reduce((a, b) => a + b, 0);
  let best = Math.ceil(total / room - EPS);
  for (const small of [0, ...new Set(sizes.filter((s) => s <= room / 2))]) {
    const large = sizes.filter((s) => s > room - small + EPS).length;
    const middle = sizes.filter((s) => s > room / 2 && s <= room - small + EPS);
    const little = sizes.filter((s) => s <= room / 2 && s >= small - EPS).reduce((a, b) => a + b, 0);
    const beside = middle.reduce((sum, s) => sum + room - s, 0);
    best = Math.max(best, large + middle.length + Math.max(0, Math.ceil((little - beside) / room - EPS)));
  }
  return best;
}

interface Packed {
  bins: number[][];
  bound: number;
}

/** Sizes into as few rooms as the search finds. Sizes descending. */
export function pack(sizes: readonly number[], room: number): Packed {
  if (sizes.length > MANY) {
    const total = sizes.reduce((a, b) => a + b, 0);
    return { bins: byFirstFit(sizes, room), bound: Math.ceil(total / room - EPS) };
  }
  const bound = leastBins(sizes, room);
  let best = byBestSum(sizes, room);
  const firstFit = byFirstFit(sizes, room);
  if (firstFit.length < best.length) best = firstFit;
  const random = randomFrom(sizes.length);
  for (let k = 0; k < BEGINNINGS && best.length > bound; k++) {
    const other = byBestSum(sizes, room, () => random() >= LEFT_OUT);
    if (other.length < best.length) best = other;
  }
  if (best.length > bound) {
    const found = searched(sizes, room, best.length, bound);
    if (found) best = found;
  }
  return { bins: best, bound };
}

/** Largest first, each into the first room it fits. O(n · rooms) */
export function byFirstFit(sizes: readonly number[], room: number): number[][] {
  const bins: { left: number; items: number[] }[] = [];
  const smallest = sizes[sizes.length - 1] ?? 0;
  // What not even the smallest fits into is never looked at again.
  let open = 0;
  sizes.forEach((s, i) => {
    while (open < bins.length && bins[open]!.left < smallest - EPS) open++;
    let at = open;
    while (at < bins.length && bins[at]!.left < s - EPS) at++;
    const bin = bins[at];
    if (bin) {
      bin.left -= s;
      bin.items.push(i);
    } else bins.push({ left: room - s, items: [i] });
  });
  return bins.map((b) => b.items);
}

/** Room by room, each with the largest that is left and the best sum beside it of those that may stand there. */
function byBestSum(sizes: readonly number[], room: number, may: () => boolean = () => true): number[][] {
  const left = sizes.map((_, i) => i);
  const bins: number[][] = [];
  while (left.length > 0) {
    const first = left.shift()!;
    const places = left.flatMap((_, k) => (may() ? [k] : []));
    const beside = fill(
      places.map((k) => sizes[left[k]!]!),
      room - sizes[first]!,
    ).map((n) => places[n]!);
    bins.push([first, ...beside.map((k) => left[k]!)]);
    for (const k of [...beside].reverse()) left.splice(k, 1);
  }
  return bins;
}

/**
 * Fills room after room with the largest left and one of the fillings that leave the least, giving up where what is lost
 * already cannot come to fewer rooms than are known (bin completion, Korf 2002).
 */
function searched(sizes: readonly number[], room: number, known: number, bound: number): number[][] | null {
  let best: number[][] | null = null;
  let most = known;
  const steps = { left: MOST_STEPS };
  const total = sizes.reduce((a, b) => a + b, 0);
  const go = (left: number[], bins: number[][], lost: number): boolean => {
    if (left.length === 0) {
      best = bins.map((b) => [...b]);
      most = bins.length;
      return most <= bound;
    }
    // Lost room counts as if it were filled.
    if (Math.ceil((total + lost) / room - EPS) >= most) return false;
    if (steps.left <= 0) return true;
    const [first, ...others] = left;
    for (const filling of fillings(others, sizes, room - sizes[first!]!, steps)) {
      const waste = room - sizes[first!]! - filling.reduce((sum, i) => sum + sizes[i]!, 0);
      const gone = new Set(filling);
      if (
        go(
          others.filter((i) => !gone.has(i)),
          [...bins, [first!, ...filling]],
          lost + waste,
        )
      )
        return true;
    }
    return false;
  };
  go(
    sizes.map((_, i) => i),
    [],
    0,
  );
  return best;
}

const MOST_FILLINGS = 40;
/** Steps in finding the fillings of one room. */
const MOST_OF_ONE = 2000;

/** Fillings of a room into which nothing more fits, the fullest first; of equal sizes one stands for all. */
function fillings(
  left: readonly number[],
  sizes: readonly number[],
  room: number,
  steps: { left: number },
): number[][] {
  const found: { items: number[]; sum: number }[] = [];
  let tries = MOST_OF_ONE;
  const go = (from: number, chosen: number[], sum: number): void => {
    if (--tries < 0) return;
    steps.left -= left.length - from;
    let more = false;
    for (let k = from; k < left.length; k++) {
      const s = sizes[left[k]!]!;
      if (sum + s > room + EPS) continue;
      more = true;
      if (k > from && s === sizes[left[k - 1]!]) continue;
      go(k + 1, [...chosen, left[k]!], sum + s);
    }
    if (more) return;
    // Nothing behind fits any more; what was passed over before must not fit either.
    const gone = new Set(chosen);
    if (left.some((i) => !gone.has(i) && sum + sizes[i]! <= room + EPS)) return;
    found.push({ items: chosen, sum });
  };
  go(0, [], 0);
  return found
    .sort((a, b) => b.sum - a.sum)
    .slice(0, MOST_FILLINGS)
    .map((f) => f.items);
}
