import type { MachineJob, MachineNow } from "@gray-bench/contract/metalwork";
import type { Telling } from "../machines/machines";

const MOST_JOBS = 50;

/** What machines for sheets tell of themselves. */
export const SHEET_MACHINE: Telling<MachineNow> = {
  now: (name, heardAt, told) => ({ name, heardAt, ...stateOf(told) }),
  away: (name, before, why) => ({
    name,
    state: "away",
    heardAt: before?.heardAt ?? null,
    jobs: before?.jobs ?? [],
    why,
  }),
};

const text = (v: unknown, most = 200): string => (typeof v === "string" ? v.slice(0, most) : "");
const number = (v: unknown): number => (typeof v === "number" && Number.isFinite(v) ? v : 0);

const STATES = ["waiting", "running", "done", "fault", "stopped"] as const;

/** What a machine tells, as far as it is understood. */
function stateOf(raw: unknown): Pick<MachineNow, "state" | "jobs"> {
  const { state, jobs } = (raw ?? {}) as { state?: unknown; jobs?: unknown };
  return {
    state: state === "running" || state === "fault" ? state : "idle",
    jobs: (Array.isArray(jobs) ? jobs : []).slice(-MOST_JOBS).flatMap((j: unknown): MachineJob[] => {
      const job = (j ?? {}) as Record<string, unknown>;
      const its = STATES.find((s) => s === job.state);
      if (its === undefined || !Number.isInteger(job.id)) return [];
      const fault = (job.fault ?? null) as Record<string, unknown> | null;
      return [
        {
          id: job.id as number,
          name: text(job.name) || null,
          title: text(job.title),
          state: its,
          progress: Math.min(1, Math.max(0, number(job.progress))),
          line: number(job.line),
          seconds: number(job.seconds),
          fault: fault === null ? null : { line: number(fault.line), text: text(fault.text) },
        },
      ];
    }),
  };
}
