/** One core in the section of a cable; the middle of the cable is 0, 0. */
export interface Placed {
  x: number;
  y: number;
  r: number;
}

const GAP = 0.06;

interface Ring {
  /** From the middle, in radii of a core. */
  at: number;
  n: number;
}

/** Rings round so many cores in the middle: each lies two radii farther out, and takes as many as find room. */
function ringsRound(inner: number, cores: number): Ring[] {
  const rings: Ring[] = [{ at: inner === 1 ? 0 : 1 / Math.sin(Math.PI / inner), n: inner }];
  for (let left = cores - inner, { at } = rings[0]!; left > 0;) {
    at += 2;
    const n = Math.min(left, Math.floor(Math.PI / Math.asin(1 / at) + 1e-9));
    rings.push({ at, n });
    left -= n;
  }
  return rings;
}

const MOST_INNER = 5;

/**
 * Cores of a cable in rings, as they are stranded: with as many in the middle as make it thinnest. The answer is in parts of
 * the radius of the cable, of which the sheath takes a tenth. O(cores)
 */
export function coreRings(cores: number): Placed[] {
  if (cores <= 0) return [];
  if (cores === 1) return [{ x: 0, y: 0, r: 0.55 }];
  let rings: Ring[] = [];
  for (let inner = 1; inner <= Math.min(MOST_INNER, cores); inner++) {
    const next = ringsRound(inner, cores);
    if (rings.length === 0 || next[next.length - 1]!.at < rings[rings.length - 1]!.at - 1e-9) rings = next;
  }
  const unit = 0.9 / (rings[rings.length - 1]!.at + 1);
  return rings.flatMap(({ at: far, n }) =>
    Array.from({ length: n }, (_, i): Placed => {
      const angle = (2 * Math.PI * i) / n - Math.PI / 2;
      return { x: far * unit * Math.cos(angle), y: far * unit * Math.sin(angle), r: unit * (1 - GAP) };
    }),
  );
}
