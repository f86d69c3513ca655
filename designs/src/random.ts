/** Seeded random numbers (mulberry32): the same seed gives the same designs on every machine. */
export interface Random {
  /** 0 ≤ x < 1 */
  next(): number;
  /** Whole number from lo to hi, both included. */
  whole(lo: number, hi: number): number;
  pick<T>(items: readonly T[]): T;
}

export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const whole = (lo: number, hi: number): number => lo + Math.floor(next() * (hi - lo + 1));
  return { next, whole, pick: (items) => items[whole(0, items.length - 1)]! };
}
