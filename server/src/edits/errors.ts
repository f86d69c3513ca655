import type { NotLaid } from "../workers/tasks";
import { BenchError } from "../errors";

export const revisionCounts = (job: string, revision: string): BenchError =>
  new BenchError(409, {
    code: "revision.counts",
    message: `Revision ${revision} of job ${job} counts already.`,
    where: "revision",
    remedy: "Read the job again.",
  });

export const noSuchEdit = (id: string): BenchError =>
  new BenchError(404, {
    code: "edit.unknown",
    message: `There is no edit ${id} in this job.`,
    where: id,
    remedy: "Read the history of the job again.",
  });

export const editRefused = (index: number, sentence: string, reason: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "edit.refused",
    message: `"${sentence}" does not fit: ${reason}. Nothing was changed.`,
    where: `edits[${index}]`,
    remedy,
  });

export const editTurned = (sentence: string, what: "back" | "again"): BenchError =>
  new BenchError(409, {
    code: "edit.turned",
    message: what === "back" ? `"${sentence}" was undone already.` : `"${sentence}" stands already.`,
    where: "edit",
    remedy: "Read the history of the job again.",
  });

export const editStands = (sentence: string, what: "back" | "again", standing: readonly NotLaid[]): BenchError =>
  new BenchError(409, {
    code: "edit.stands",
    message:
      what === "back"
        ? `"${sentence}" cannot be undone: ${standing.length === 1 ? "another edit stands" : `${standing.length} others stand`} on it.`
        : `"${sentence}" does not fit any more.`,
    where: "edit",
    remedy: what === "back" ? "Undo first what stands on it." : "Do it anew as it fits now.",
    standing: standing.map((s) => `${s.sentence} (${s.reason})`),
  });

export const editStale = (job: string, changed: string[]): BenchError =>
  new BenchError(409, {
    code: "edit.stale",
    message: `Job ${job} was changed meanwhile. Nothing was changed by this edit.`,
    where: job,
    remedy: "Read what changed; then do it again if it still holds.",
    changed,
  });
