import type { JobDetail, JobFigure } from "@gray-bench/contract/jobs";
import { useEffect, useState } from "react";

/** A job as somebody saw it at this device. */
export interface Seen {
  /** When, as ISO text. */
  at: string;
  revision: string;
  figures: readonly Pick<JobFigure, "id" | "value" | "unit" | "outOf">[];
}

/** What a device keeps of a job: as it was seen last, and as it was seen when the visit before this one ended. */
export interface Visits {
  last: Seen;
  before: Seen | null;
}

/** Whoever comes back later than this comes anew. */
const APART_MS = 30 * 60_000;
/** So many jobs are remembered, those looked at last. */
const MOST_JOBS = 50;
const KEY = "gray-bench.seen";

/** What is kept once the job was seen so: a look that follows another closely belongs to the same visit. */
export function visited(kept: Visits | null, now: Seen): Visits {
  if (kept === null) return { last: now, before: null };
  const apart = Date.parse(now.at) - Date.parse(kept.last.at) > APART_MS;
  return { last: now, before: apart ? kept.last : kept.before };
}

/** Figures that had another value then, by their ids, as they were. */
export function changedFigures(
  before: Seen | null,
  figures: readonly JobFigure[],
): Map<string, Seen["figures"][number]> {
  const were = new Map((before?.figures ?? []).map((f) => [f.id, f]));
  return new Map(
    figures.flatMap((f) => {
      const was = were.get(f.id);
      return was && (was.value !== f.value || was.outOf !== f.outOf) ? [[f.id, was] as const] : [];
    }),
  );
}

const read = (): Record<string, Visits> => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, Visits>;
  } catch {
    return {};
  }
};

/** The job as this device saw it on the visit before; null on the first. Kept on the device alone. */
export function useBefore(job: JobDetail): Seen | null {
  const [told, setTold] = useState(() => ({ code: job.code, before: read()[job.code]?.before ?? null }));
  const { code, revision, figures } = job;
  useEffect(() => {
    if (job.run !== "done" || !figures) return;
    const { [code]: kept = null, ...others } = read();
    const slim = figures.map(({ id, value, unit, outOf }) => ({
      id,
      value,
      unit,
      ...(outOf === undefined ? {} : { outOf }),
    }));
    const now = visited(kept, { at: new Date().toISOString(), revision, figures: slim });
    const jobs = Object.entries(others).sort(([, a], [, b]) => (a.last.at < b.last.at ? 1 : -1));
    try {
      localStorage.setItem(KEY, JSON.stringify({ ...Object.fromEntries(jobs.slice(0, MOST_JOBS - 1)), [code]: now }));
    } catch {
      // Private windows may refuse; nothing is then told of the time before.
    }
    setTold({ code, before: now.before });
  }, [code, revision, figures, job.run]);
  // Of another job nothing is told, while this one has not been looked up yet.
  return told.code === code ? told.before : null;
}
