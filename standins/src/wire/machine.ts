import type { Journal, Note } from "./journal";
import { readOrders } from "./read";
import type { Fault, Made, Order, WireTable } from "./table";

export interface WireJob {
  id: number;
  name: string;
  state: "waiting" | "running" | "done" | "stopped";
  orders: Order[];
  made: Made[];
}

/** Why it stands still: what it waits for. */
export type Wait =
  | { kind: "reel"; reel: string; why: "not mounted" | "run out" }
  | { kind: "magazine"; part: string }
  | { kind: "jam" }
  | null;

/** Chances of trouble, in a thousand; seeded, so that the same run goes the same way. */
export interface Trouble {
  pull: number;
  jam: number;
  seed: number;
  /** Leads whose crimps fail in any case, counted from one over all jobs. */
  spoils?: readonly number[];
}

/** A stream of numbers from 0 to 1 that begins anew with each lead: what was made before a stop does not shift it. */
function chance(seed: number, nth: number, what: number): number {
  let x = (seed * 2_654_435_761 + nth * 40_503 + what * 97) >>> 0;
  for (let i = 0; i < 3; i++) {
    x ^= x << 13;
    x >>>= 0;
    x ^= x >>> 17;
    x ^= x << 5;
    x >>>= 0;
  }
  return x / 2 ** 32;
}

/**
 * A machine that cuts, strips, crimps and marks leads one after the other. It keeps a journal: after it was ended at any moment it goes on
 * with the next lead, and what was under way is scrap.
 */
export class WireMachine {
  readonly table: WireTable;
  readonly #trouble: Trouble;
  readonly #journal: Journal;
  readonly #jobs: WireJob[] = [];
  readonly #magazines = new Map<string, number>();
  #reel: { reel: string; metres: number } | null = null;
  #ends: { a: string; b: string } = { a: "", b: "" };
  #wait: Wait = null;
  /** Seconds still to go on what is under way. */
  #leftS = 0;
  #under: Order | null = null;
  #count = 0;

  constructor(table: WireTable, journal: Journal, trouble: Trouble = { pull: 0, jam: 0, seed: 1 }) {
    this.table = table;
    this.#trouble = trouble;
    this.#journal = journal;
    for (const note of journal.read()) this.#replay(note);
  }

  /** Takes a file, or says what is wrong with it. */
  take(name: string, bytes: Uint8Array): { ok: true; job: WireJob } | { ok: false; faults: Fault[] } {
    const read = readOrders(bytes, this.table);
    if (!read.ok) return read;
    const known = this.#jobs.find((j) => j.name === name);
    if (known) return { ok: false, faults: [{ at: 1, text: `${name} was taken before, as job ${known.id}` }] };
    const job: WireJob = { id: this.#jobs.length + 1, name, state: "waiting", orders: read.orders, made: [] };
    this.#write({ what: "taken", id: job.id, name, orders: read.orders });
    this.#jobs.push(job);
    return { ok: true, job };
  }

  jobs(): readonly WireJob[] {
    return this.#jobs;
  }

  stop(id: number): boolean {
    const job = this.#jobs[id - 1];
    if (!job || job.state === "done" || job.state === "stopped") return false;
    this.#write({ what: "stopped", id });
    job.state = "stopped";
    if (this.#current() !== job) this.#drop();
    return true;
  }

  /** A reel is scanned and mounted; a wrong one is refused. */
  mount(reel: string, metres: number): string | null {
    const wanted = this.#next()?.reel;
    if (wanted !== undefined && reel !== wanted) return `${reel} is the wrong reel: ${wanted} is wanted`;
    if (!Number.isFinite(metres) || metres <= 0) return "a reel has metres";
    this.#write({ what: "mounted", reel, metres });
    this.#reel = { reel, metres };
    this.#leftS += this.table.seconds.reel;
    this.#wait = null;
    return null;
  }

  fill(part: string): void {
    this.#write({ what: "filled", part });
    this.#magazines.set(part, this.table.magazine);
    if (this.#wait?.kind === "magazine") this.#wait = null;
  }

  clear(): boolean {
    if (this.#wait?.kind !== "jam") return false;
    this.#wait = null;
    return true;
  }

  state() {
    const job = this.#current();
    return {
      name: this.table.name,
      state: this.#wait ? "waiting" : job ? "running" : "idle",
      wait: this.#wait,
      reel: this.#reel && { ...this.#reel },
      magazines: Object.fromEntries(this.#magazines),
      job: job?.id ?? null,
      readyS: job ? Math.round(this.#secondsFor(job)) : 0,
    };
  }

  /** Time goes on by so many seconds. */
  advance(seconds: number): void {
    let left = seconds;
    for (;;) {
      if (this.#wait) return;
      if (!this.#under && !this.#begin()) return;
      if (this.#leftS > left) {
        this.#leftS -= left;
        return;
      }
      left -= this.#leftS;
      this.#leftS = 0;
      this.#finish();
    }
  }

  #current(): WireJob | undefined {
    return this.#jobs.find((j) => j.state === "waiting" || j.state === "running");
  }

  #next(): Order | undefined {
    const job = this.#current();
    return job?.orders[job.made.length];
  }

  /** @returns whether a lead is begun */
  #begin(): boolean {
    const job = this.#current();
    const order = this.#next();
    if (!job || !order) return false;
    job.state = "running";
    if (this.#reel?.reel !== order.reel) return this.#waitFor({ kind: "reel", reel: order.reel, why: "not mounted" });
    if (this.#reel.metres * 1000 < order.length)
      return this.#waitFor({ kind: "reel", reel: order.reel, why: "run out" });
    const { lead, metre, end } = this.table.seconds;
    for (const { part } of [order.a, order.b])
      if (
        part !== "" &&
        (this.#magazines.get(part) ?? 0) < Number(order.a.part === part) + Number(order.b.part === part)
      )
        return this.#waitFor({ kind: "magazine", part });
    for (const [side, { part }] of [
      ["a", order.a],
      ["b", order.b],
    ] as const)
      if (part !== "" && this.#ends[side] !== part) {
        this.#leftS += end;
        this.#ends[side] = part;
      }
    this.#leftS += lead + (metre * order.length) / 1000;
    this.#under = order;
    return true;
  }

  #waitFor(wait: Wait): false {
    this.#wait = wait;
    return false;
  }

  #finish(): void {
    const job = this.#current()!;
    const order = this.#under!;
    this.#under = null;
    const nth = ++this.#count;
    const { pull, jam, seed, spoils = [] } = this.#trouble;
    const result: Made["result"] =
      chance(seed, nth, 1) * 1000 < jam
        ? "jammed"
        : spoils.includes(nth) || chance(seed, nth, 2) * 1000 < pull
          ? "pull force"
          : "good";
    this.#apply({ what: "made", id: job.id, wire: order.wire, length: order.length, result }, true);
    if (result === "jammed") this.#wait = { kind: "jam" };
  }

  #drop(): void {
    this.#under = null;
    this.#leftS = 0;
  }

  #secondsFor(job: WireJob): number {
    const { lead, metre } = this.table.seconds;
    return job.orders.slice(job.made.length).reduce((sum, o) => sum + lead + (metre * o.length) / 1000, this.#leftS);
  }

  #write(note: Note): void {
    this.#journal.write(note);
  }

  /** What is made is used up: wire, and what is on its ends. */
  #apply(note: Extract<Note, { what: "made" }>, write: boolean): void {
    if (write) this.#write(note);
    const job = this.#jobs[note.id - 1]!;
    const order = job.orders[job.made.length]!;
    job.made.push({ wire: note.wire, length: note.length, result: note.result });
    if (this.#reel) this.#reel.metres = Math.max(0, this.#reel.metres - order.length / 1000);
    for (const { part } of [order.a, order.b])
      if (part !== "") this.#magazines.set(part, Math.max(0, (this.#magazines.get(part) ?? 0) - 1));
    job.state = job.made.length === job.orders.length ? "done" : "running";
  }

  #replay(note: Note): void {
    switch (note.what) {
      case "taken":
        this.#jobs.push({ id: note.id, name: note.name, state: "waiting", orders: note.orders, made: [] });
        break;
      case "made":
        this.#count++;
        this.#apply(note, false);
        break;
      case "stopped":
        this.#jobs[note.id - 1]!.state = "stopped";
        break;
      case "mounted":
        this.#reel = { reel: note.reel, metres: note.metres };
        break;
      case "filled":
        this.#magazines.set(note.part, this.table.magazine);
        break;
    }
  }
}

/** What became of a job, a line for each lead: the file it leaves behind. */
export const resultFile = ({ made }: Pick<WireJob, "made">): string =>
  ["nr;wire;length_mm;result", ...made.map((m, i) => `${i + 1};${quoted(m.wire)};${m.length};${m.result}`)]
    .map((l) => `${l}\r\n`)
    .join("");

const quoted = (text: string): string => (/[;"\r\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text);
