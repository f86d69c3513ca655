import { load, Run, type Fault, type Made } from "./control";
import type { MachineTable } from "./table";

export type JobState = "waiting" | "running" | "done" | "fault" | "stopped";

export interface Job {
  id: number;
  /** The name under which it was sent. */
  name: string;
  /** For whoever stands at it: the first comment of the program, else its name. */
  title: string;
  state: JobState;
  /** Share of its blocks done, 0 to 1. */
  progress: number;
  /** Line that is worked, or where it stopped. */
  line: number;
  /** Of machine time. */
  seconds: number;
  fault: Fault | null;
  made: Made;
}

export interface Clock {
  /** Milliseconds. */
  now(): number;
  after(ms: number, run: () => void): void;
}

const REAL: Clock = {
  now: () => Date.now(),
  after: (ms, run) => void setTimeout(run, ms),
};

const MOST_WAITING = 50;
const MOST_KEPT = 200;
/** Blocks are worked in gulps of so much real time. ms */
const GULP = 20;

/** A machine with its queue: one program after the other, so many times as fast as a real one. */
export class DrillingMachine {
  readonly table: MachineTable;
  readonly #factor: number;
  readonly #clock: Clock;
  readonly #jobs: Job[] = [];
  readonly #texts = new Map<number, string>();
  #running: { job: Job; run: Run } | null = null;
  #next = 1;
  #doom: { share: number } | null = null;

  constructor(table: MachineTable, factor = 1, clock: Clock = REAL) {
    this.table = table;
    this.#factor = factor;
    this.#clock = clock;
  }

  /** Takes a program into the queue under its name, each name once, or says why not. */
  take(name: string, text: string): { ok: true; job: Job } | { ok: false; faults: Fault[] } {
    const there = this.#jobs.find((j) => j.name === name);
    if (there) return { ok: false, faults: [{ line: 0, text: `"${name}" was taken before, as program ${there.id}` }] };
    if (this.#jobs.filter((j) => j.state === "waiting").length >= MOST_WAITING)
      return { ok: false, faults: [{ line: 0, text: `the queue is full (${MOST_WAITING})` }] };
    const loaded = load(text, this.table);
    if (!loaded.ok) return loaded;
    const id = this.#next++;
    const title = /\(([^()]+)\)/.exec(text)?.[1]?.trim() ?? name;
    const job: Job = {
      id,
      name,
      title,
      state: "waiting",
      progress: 0,
      line: 0,
      seconds: 0,
      fault: null,
      made: { holes: [], contours: [] },
    };
    this.#jobs.push(job);
    this.#texts.set(id, text);
    while (this.#jobs.length > MOST_KEPT) {
      const old = this.#jobs.findIndex((j) => j.state !== "waiting" && j.state !== "running");
      if (old < 0) break;
      this.#texts.delete(this.#jobs[old]!.id);
      this.#jobs.splice(old, 1);
    }
    this.#start();
    return { ok: true, job };
  }

  list(): Omit<Job, "made">[] {
    return this.#jobs.map(({ made: _, ...job }) => job);
  }

  job(id: number): Job | null {
    return this.#jobs.find((j) => j.id === id) ?? null;
  }

  state(): "idle" | "running" | "fault" {
    if (this.#running) return "running";
    return this.#jobs[this.#jobs.length - 1]?.state === "fault" ? "fault" : "idle";
  }

  /** Stops what is running, or takes what waits out of the queue. */
  stop(id: number): boolean {
    const job = this.job(id);
    if (!job || (job.state !== "waiting" && job.state !== "running")) return false;
    job.state = "stopped";
    if (this.#running?.job === job) this.#running = null;
    this.#start();
    return true;
  }

  /** For trying out: the next program breaks off at this share of its blocks. */
  breakAt(share: number): void {
    this.#doom = { share };
  }

  #start(): void {
    if (this.#running) return;
    const job = this.#jobs.find((j) => j.state === "waiting");
    if (!job) return;
    const loaded = load(this.#texts.get(job.id)!, this.table);
    if (!loaded.ok) return;
    const run = new Run(loaded.lines, this.table);
    job.state = "running";
    job.made = run.made;
    this.#running = { job, run };
    this.#work(run, job, this.#clock.now());
  }

  #work(run: Run, job: Job, begun: number): void {
    if (this.#running?.run !== run) return;
    const due = ((this.#clock.now() - begun) / 1000) * this.#factor;
    while (job.seconds <= due) {
      if (this.#doom && run.at / run.blocks >= this.#doom.share) {
        this.#doom = null;
        this.#end(job, "fault", { line: job.line, text: "the tool broke" });
        return;
      }
      const block = run.step();
      if (!block) {
        this.#end(job, run.fault ? "fault" : "done", run.fault);
        return;
      }
      job.seconds += block.seconds;
      job.line = block.line;
      job.progress = run.at / run.blocks;
    }
    this.#clock.after(GULP, () => this.#work(run, job, begun));
  }

  #end(job: Job, state: "done" | "fault", fault: Fault | null): void {
    job.state = state;
    job.fault = fault;
    if (fault) job.line = fault.line;
    if (state === "done") job.progress = 1;
    this.#running = null;
    this.#start();
  }
}
