/** Metric threads: what is drilled for them. mm */
interface Thread {
  /** Core hole before tapping (ISO 261, coarse). */
  core: number;
  /** Clearance hole for the screw (ISO 273, medium). */
  through: number;
  /** Hole for a rivet nut, thin sheet. */
  nut: number | null;
}

const THREADS: Readonly<Record<string, Thread>> = {
  M3: { core: 2.5, through: 3.4, nut: 5 },
  M4: { core: 3.3, through: 4.5, nut: 6 },
  M5: { core: 4.2, through: 5.5, nut: 7 },
  M6: { core: 5, through: 6.6, nut: 9 },
  M8: { core: 6.8, through: 9, nut: 11 },
  M10: { core: 8.5, through: 11, nut: 13 },
};

export const CORE_SOURCE = "ISO 261, coarse";
export const THROUGH_SOURCE = "ISO 273, medium";

/** Diameter of the core hole of a thread: of the table, else its diameter less its pitch; null where neither is known. */
export function coreOf(thread: string): number | null {
  const known = THREADS[thread];
  if (known) return known.core;
  const [, d, pitch] = /^M(\d+(?:\.\d+)?)(?:x(\d+(?:\.\d+)?))?$/.exec(thread) ?? [];
  return d !== undefined && pitch !== undefined ? Math.round((Number(d) - Number(pitch)) * 1000) / 1000 : null;
}

/** Clearance hole of a thread, and hole of its rivet nut; null where the tables do not know it. */
export const throughOf = (thread: string): number | null => THREADS[thread]?.through ?? null;
export const nutOf = (thread: string): number | null => THREADS[thread]?.nut ?? null;

/** A hole is for the screw whose clearance hole it is within so much. */
const NEAR_MM = 0.6;

/** The thread whose hole of a kind is nearest to a diameter; null where none is near. */
function nearest(d: number, of: (t: Thread) => number | null): string | null {
  const [best] = Object.entries(THREADS)
    .map(([thread, t]) => ({ thread, off: Math.abs((of(t) ?? Infinity) - d) }))
    .sort((a, b) => a.off - b.off);
  return best && best.off <= NEAR_MM ? best.thread : null;
}

/** The thread whose screw goes through a hole; null where none does. */
export const threadThrough = (d: number): string | null => nearest(d, (t) => t.through);

/** The thread whose rivet nut goes into a hole; null where none does. */
export const threadOfNut = (d: number): string | null => nearest(d, (t) => t.nut);
