/** One core in the section of a cable; the middle of the cable is 0, 0. */
export interface Placed {
  x: number;
  y: number;
  r: number;
}

const GAP = 0.06;

/**
 * Cores of a cable side by side in rings, as they are stranded: the middle first, then as many as each ring takes. The
 * answer is in parts of the radius of the cable, of which the sheath takes a tenth. O(cores)
 */
export function coreRings(cores: number): Placed[] {
  if (cores <= 0) return [];
  if (cores === 1) return [{ x: 0, y: 0, r: 0.55 }];
  // Radii in radii of a core: rings lie two of them apart.
  const rings: { at: number; n: number }[] = [];
  // Two to five lie round nothing; more have one in the middle.
  let left = cores;
  let at: number;
  if (cores <= 5) {
    at = 1 / Math.sin(Math.PI / cores);
    rings.push({ at, n: cores });
    left = 0;
  } else {
    rings.push({ at: 0, n: 1 });
    left -= 1;
    at = 0;
  }
  while (left > 0) {
    at += 2;
    const room = Math.floor(Math.PI / Math.asin(1 / at) + 1e-9);
    const n = Math.min(left, room);
    rings.push({ at, n });
    left -= n;
  }
  const outer = Math.max(...rings.map((ring) => ring.at)) + 1;
  const unit = 0.9 / outer;
  return rings.flatMap(({ at: far, n }) =>
    Array.from({ length: n }, (_, i): Placed => {
      const angle = (2 * Math.PI * i) / n - Math.PI / 2;
      return { x: far * unit * Math.cos(angle), y: far * unit * Math.sin(angle), r: unit * (1 - GAP) };
    }),
  );
}
