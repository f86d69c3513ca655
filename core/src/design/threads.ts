export const THREAD_USES = ["screw", "entry"] as const;

/** A thread and what is drilled for it. Diameters and pitch in mm. */
export interface ThreadRow {
  thread: string;
  /** Entries are for glands and plugs: no plain hole is taken to be for one. */
  use: (typeof THREAD_USES)[number];
  core: number;
  pitch: number;
  /** Clearance hole; the hole of a rivet nut. */
  through?: number;
  nut?: number;
}

/** Threads as the shop as shipped knows them: what is drilled for them. Coarse ones stand before fine ones. mm */

const screw = (thread: string, core: number, pitch: number, through: number, nut?: number): ThreadRow => ({
  thread,
  use: "screw",
  core,
  pitch,
  through,
  ...(nut === undefined ? {} : { nut }),
});
const entry = (thread: string, core: number, pitch: number, through: number): ThreadRow => ({
  thread,
  use: "entry",
  core,
  pitch,
  through,
});

export const THREADS: readonly ThreadRow[] = [
  // ISO 261 coarse; clearance ISO 273 medium; rivet nuts for thin sheet.
  screw("M2", 1.6, 0.4, 2.4),
  screw("M2.5", 2.05, 0.45, 2.9),
  screw("M3", 2.5, 0.5, 3.4, 5),
  screw("M4", 3.3, 0.7, 4.5, 6),
  screw("M5", 4.2, 0.8, 5.5, 7),
  screw("M6", 5, 1, 6.6, 9),
  screw("M8", 6.8, 1.25, 9, 11),
  screw("M10", 8.5, 1.5, 11, 13),
  screw("M12", 10.2, 1.75, 13.5, 16),
  screw("M14", 12, 2, 15.5),
  screw("M16", 14, 2, 17.5),
  screw("M18", 15.5, 2.5, 20),
  screw("M20", 17.5, 2.5, 22),
  // ISO 261 fine: diameter less pitch.
  screw("M8x1", 7, 1, 9),
  screw("M10x1", 9, 1, 11),
  screw("M10x1.25", 8.8, 1.25, 11),
  screw("M12x1.25", 10.8, 1.25, 13.5),
  screw("M12x1.5", 10.5, 1.5, 13.5),
  // Entries: metric (EN 60423), conduit (DIN 40430), pipe (ASME B1.20.1).
  entry("M16x1.5", 14.5, 1.5, 16.3),
  entry("M20x1.5", 18.5, 1.5, 20.3),
  entry("M25x1.5", 23.5, 1.5, 25.3),
  entry("M32x1.5", 30.5, 1.5, 32.3),
  entry("M40x1.5", 38.5, 1.5, 40.3),
  entry("M50x1.5", 48.5, 1.5, 50.3),
  entry("M63x1.5", 61.5, 1.5, 63.3),
  entry("PG7", 11.4, 1.27, 12.8),
  entry("PG9", 14, 1.41, 15.5),
  entry("PG11", 17.25, 1.41, 18.9),
  entry("PG13.5", 19, 1.41, 20.7),
  entry("PG16", 21.25, 1.41, 22.8),
  entry("PG21", 27, 1.588, 28.6),
  entry("PG29", 35.5, 1.588, 37.3),
  entry("PG36", 45.5, 1.588, 47.3),
  entry("PG42", 52.5, 1.588, 54.3),
  entry("PG48", 58, 1.588, 59.6),
  entry("NPT1/4", 11.1, 1.411, 14),
  entry("NPT3/8", 14.3, 1.411, 17.5),
  entry("NPT1/2", 17.9, 1.814, 22.2),
  entry("NPT3/4", 23.2, 1.814, 27.8),
  entry("NPT1", 29, 2.209, 34.5),
];

export const CORE_SOURCE = "ISO 261; the shop's table of threads";
export const THROUGH_SOURCE = "ISO 273, medium; the shop's table of threads";

const rowOf = (thread: string, rows: readonly ThreadRow[]): ThreadRow | undefined =>
  rows.find((r) => r.thread === thread);

/** `M9x0.75` as diameter and pitch; null for other texts. */
function metric(thread: string): { d: number; pitch: number } | null {
  const [, d, pitch] = /^M(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)$/.exec(thread) ?? [];
  return d === undefined || pitch === undefined || Number(pitch) >= Number(d)
    ? null
    : { d: Number(d), pitch: Number(pitch) };
}

/** Diameter of the core hole of a thread: of the table, else its diameter less its pitch; null where neither is known. */
export function coreOf(thread: string, rows: readonly ThreadRow[]): number | null {
  const known = rowOf(thread, rows);
  if (known) return known.core;
  const m = metric(thread);
  return m && Math.round((m.d - m.pitch) * 1000) / 1000;
}

/** Pitch of a thread; null where it is not known. */
export const pitchOf = (thread: string, rows: readonly ThreadRow[]): number | null =>
  rowOf(thread, rows)?.pitch ?? metric(thread)?.pitch ?? null;

/** Clearance hole of a thread, and hole of its rivet nut; null where the table does not know it. */
export const throughOf = (thread: string, rows: readonly ThreadRow[]): number | null =>
  rowOf(thread, rows)?.through ?? null;
export const nutOf = (thread: string, rows: readonly ThreadRow[]): number | null => rowOf(thread, rows)?.nut ?? null;

/** A hole is for the screw whose clearance hole it is within so much. */
const NEAR_MM = 0.6;

/** The screw whose hole of a kind is nearest to a diameter, the first of equal ones; null where none is near. */
function nearest(d: number, of: "through" | "nut", rows: readonly ThreadRow[]): string | null {
  const [best] = rows
    .filter((r) => r.use === "screw" && r[of] !== undefined)
    .map(({ thread, [of]: hole }) => ({ thread, off: Math.abs(hole! - d) }))
    .sort((a, b) => a.off - b.off);
  return best && best.off <= NEAR_MM ? best.thread : null;
}

/** The thread whose screw goes through a hole; null where none does. */
export const threadThrough = (d: number, rows: readonly ThreadRow[]): string | null => nearest(d, "through", rows);

/** The thread whose rivet nut goes into a hole; null where none does. */
export const threadOfNut = (d: number, rows: readonly ThreadRow[]): string | null => nearest(d, "nut", rows);
