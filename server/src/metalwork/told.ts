import type { MachineJob, MachineNow } from "@gray-bench/contract/api";
import { BenchError, machineAway, machineRefused } from "../errors";
import { ask, ASK_MS, awayText, exchange, heard, MOST_ANSWER, NotReached, type MachineAddress } from "../machines/line";

/** Whoever asks within this gets what was told before: many screens are one question. */
const FRESH_MS = 400;
const MOST_JOBS = 50;

interface Known {
  at: number;
  now: MachineNow;
}

/** The machines of the shop, as they were last heard of. */
export class Machines {
  readonly #list: readonly MachineAddress[];
  readonly #known = new Map<string, Known>();
  readonly #asking = new Map<string, Promise<MachineNow>>();
  readonly #clock: () => number;

  constructor(list: readonly MachineAddress[], clock: () => number = Date.now) {
    this.#list = list;
    this.#clock = clock;
  }

  all(): Promise<MachineNow[]> {
    return Promise.all(this.#list.map((m) => this.#now(m)));
  }

  find(name: string): MachineAddress | undefined {
    return this.#list.find((m) => m.name === name);
  }

  #now(machine: MachineAddress): Promise<MachineNow> {
    const known = this.#known.get(machine.name);
    const sinceMs = known ? this.#clock() - known.at : -1;
    // A clock that was set back makes nothing fresh.
    if (known && sinceMs >= 0 && sinceMs < FRESH_MS) return Promise.resolve(known.now);
    let asking = this.#asking.get(machine.name);
    if (!asking) {
      asking = this.#ask(machine).finally(() => this.#asking.delete(machine.name));
      this.#asking.set(machine.name, asking);
    }
    return asking;
  }

  async #ask(machine: MachineAddress): Promise<MachineNow> {
    const before = this.#known.get(machine.name)?.now;
    const at = this.#clock();
    let now: MachineNow;
    try {
      const told = await heard(machine.tells, "");
      now = { name: machine.name, heardAt: new Date(at).toISOString(), ...readState(told) };
    } catch (error) {
      now = {
        name: machine.name,
        state: "away",
        heardAt: before?.heardAt ?? null,
        jobs: before?.jobs ?? [],
        why: awayText(error),
      };
    }
    this.#known.set(machine.name, { at, now });
    return now;
  }

  /**
   * Sends a program under its name; the machine says whether it takes it.
   * @returns its number there; null where the machine was reached and left before it said one: it may have it all the same
   * @throws machine.refused; NotReached
   */
  async send(machine: MachineAddress, name: string, program: Buffer): Promise<number | null> {
    let said: string;
    try {
      said = await exchange(machine, Buffer.concat([Buffer.from(`${name}\n`), program]));
    } catch (error) {
      if (error instanceof NotReached || !(error instanceof BenchError)) throw error;
      return await this.numberOf(machine, name);
    } finally {
      this.#known.delete(machine.name);
    }
    const taken = /^taken (\d+)/.exec(said);
    if (taken) return Number(taken[1]);
    throw machineRefused(machine.name, said.replace(/^refused: /, "").trim());
  }

  /** The number of a program at a machine; null where it does not know it, or does not answer. */
  async numberOf(machine: MachineAddress, name: string): Promise<number | null> {
    this.#known.delete(machine.name);
    return (await this.#now(machine)).jobs.find((j) => j.name === name)?.id ?? null;
  }

  /** Stops a program, or takes it out of the queue. */
  async stop(machine: MachineAddress, id: number): Promise<boolean> {
    this.#known.delete(machine.name);
    try {
      return (await ask(`${machine.tells}/jobs/${id}/stop`, ASK_MS, MOST_ANSWER, { method: "POST" })).ok;
    } catch {
      throw machineAway(machine.name);
    }
  }
}

const text = (v: unknown, most = 200): string => (typeof v === "string" ? v.slice(0, most) : "");
const number = (v: unknown): number => (typeof v === "number" && Number.isFinite(v) ? v : 0);

const STATES = ["waiting", "running", "done", "fault", "stopped"] as const;

/** What a machine tells, as far as it is understood. */
function readState(raw: unknown): Pick<MachineNow, "state" | "jobs"> {
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
