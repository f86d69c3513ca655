import { randomBytes } from "node:crypto";
import type { RunNow, WireMachineNow } from "@gray-bench/contract/api";
import type { LeadEvent } from "@gray-bench/core/wireprep/events";
import { LEAD } from "@gray-bench/core/wireprep/event-kind";
import { LEADS_FILE } from "@gray-bench/core/wireprep/questions";
import { pushTo } from "@gray-bench/core/design/order";
import { BenchError, machineDeclined, noFileFor, noSuchMachine, nothingToSend } from "../errors";
import {
  ask,
  ASK_MS,
  awayText,
  exchange,
  heard,
  MOST_ANSWER,
  TooLong,
  type Answered,
  type MachineAddress,
} from "../machines/line";
import type { Bench } from "../server";
import {
  findBatch,
  findRun,
  isOpen,
  keepRun,
  leadsOfRun,
  listRuns,
  openLeads,
  openRuns,
  readLeadEvents,
  runEnded,
  runRefused,
  runSent,
  type BatchRow,
  type RunRow,
} from "../store/leads";
import { appendSaid } from "../store/events";
import { findJob } from "../store/jobs";
import { findShop } from "../store/shops";
import { jobOf, jobsOf, machineNow, type FileJob } from "./told";

/** How often machines are asked while files are at them. */
const FOLLOW_MS = 400;
/** Whoever asks within this gets what was told before. */
const FRESH_MS = 300;
/** What a machine spoils is made again so often without anybody being asked. */
const MOST_ATTEMPTS = 4;
/** Of why it does not do what somebody wants of it. */

interface Known {
  at: number;
  now: WireMachineNow;
}

const named = (e: BatchRow): string => `${e.job}-B${e.number}`;

/**
 * Files that go to machines for leads and to printers, and what comes back. A file is kept with the attempts in it before it is sent,
 * under a name no other file has; a machine takes a name once. So whatever is ended at any moment, nothing is made twice, and what a
 * machine did not make is known and made again.
 */
export class WireRoom {
  readonly #machines: readonly MachineAddress[];
  readonly #printers: readonly MachineAddress[];
  readonly #bench: Bench;
  readonly #trouble: (error: unknown) => void;
  readonly #known = new Map<string, Known>();
  readonly #timer: NodeJS.Timeout | null = null;
  /** Of each machine one thing after the other: a file is never sent by two at once. */
  readonly #last = new Map<string, Promise<unknown>>();
  /** Machines that are being asked: each is followed by itself, and a slow one holds up no other. */
  readonly #following = new Set<string>();
  readonly #leave = new AbortController();
  #closed = false;

  constructor(
    machines: readonly MachineAddress[],
    printers: readonly MachineAddress[],
    bench: Bench,
    trouble: (error: unknown) => void,
  ) {
    this.#machines = machines;
    this.#printers = printers;
    this.#bench = bench;
    this.#trouble = trouble;
    if (machines.length + printers.length === 0) return;
    this.#timer = setInterval(() => this.#tick(), FOLLOW_MS);
    this.#timer.unref();
  }

  async close(): Promise<void> {
    this.#closed = true;
    if (this.#timer) clearInterval(this.#timer);
    this.#leave.abort();
    await Promise.all(this.#last.values());
  }

  #alone<T>(machine: string, work: () => Promise<T>): Promise<T> {
    const done = (this.#last.get(machine) ?? Promise.resolve()).then(work);
    this.#last.set(
      machine,
      done.catch(() => undefined),
    );
    return done;
  }

  #tick(): void {
    if (this.#closed) return;
    void this.#openByMachine()
      .then((open) => {
        for (const [machine, runs] of open) {
          if (this.#following.has(machine)) continue;
          this.#following.add(machine);
          void this.#followOne(machine, runs)
            .catch(this.#trouble)
            .finally(() => this.#following.delete(machine));
        }
      })
      .catch(this.#trouble);
  }

  async #openByMachine(): Promise<Map<string, RunRow[]>> {
    const byMachine = new Map<string, RunRow[]>();
    for (const run of await openRuns(this.#bench.store.db)) pushTo(byMachine, `${run.takes} ${run.machine}`, run);
    return byMachine;
  }

  /** Asks after every file whose end is not known, at one machine or printer where it is named. */
  async follow(only?: string): Promise<void> {
    const open = [...(await this.#openByMachine())].filter(([machine]) => only === undefined || machine === only);
    await Promise.all(open.map(([machine, runs]) => this.#followOne(machine, runs)));
  }

  #followOne(machine: string, runs: readonly RunRow[]): Promise<void> {
    return this.#alone(machine, async () => {
      for (const { name } of runs) {
        if (this.#closed) return;
        // As it stands by now: it may have been settled while this waited.
        const run = await findRun(this.#bench.store.db, name);
        const at = run && isOpen(run) ? this.#address(run.takes, run.machine) : undefined;
        // One that does not answer is asked again at its next turn, not once for each of its files.
        if (run && at && !(await (run.state === "sending" ? this.#deliver(run, at) : this.#ask(run, at)))) return;
      }
    });
  }

  #address(takes: RunRow["takes"], name: string): MachineAddress | undefined {
    return (takes === "leads" ? this.#machines : this.#printers).find((m) => m.name === name);
  }

  /** @throws machine.unknown */
  find(takes: RunRow["takes"], name: string): MachineAddress {
    const at = this.#address(takes, name);
    if (!at) throw noSuchMachine(name);
    return at;
  }

  /** Sends all leads of a batch that are to be made and are in no file. @throws batch.nothing, batch.file, machine.unknown */
  send(row: BatchRow, who: string): Promise<void> {
    const machine = row.batch.plan.machine;
    if (machine === null) throw nothingToSend(`B${row.number}`, "it is made at the bench");
    const at = this.find("leads", machine);
    return this.#alone(`leads ${machine}`, async () => {
      const run = await this.#make(row, machine, who);
      if (!run) throw nothingToSend(`B${row.number}`, "its leads are made, or at the machine already");
      await this.#deliver(run, at);
    });
  }

  /** Sends the labels of a batch to a printer, unless they are on their way; again under another name. @throws batch.nothing, machine.unknown */
  print(row: BatchRow, printer: string, file: Buffer, who: string): Promise<void> {
    const at = this.find("labels", printer);
    return this.#alone(`labels ${printer}`, async () => {
      const runs = await listRuns(this.#bench.store.db, row.job, row.number);
      if (runs.some((r) => r.takes === "labels" && isOpen(r))) return;
      const run = await this.#keep(row, { takes: "labels", machine: printer, who, end: ".txt", leads: [], file });
      if (run) await this.#deliver(run, at);
    });
  }

  /** A file of what is open in a batch, kept and not sent yet; null where nothing is. */
  async #make(row: BatchRow, machine: string, who: string): Promise<RunRow | null> {
    const { db } = this.#bench.store;
    const leads = await openLeads(db, row);
    if (leads.length === 0) return null;
    const name = await this.#name(row);
    const job = (await findJob(db, row.job))!;
    const shop = (await findShop(db, job.shop))!;
    const written = await this.#bench.workers.ask(LEADS_FILE, {
      asked: { batch: row.batch, name, leads: leads.map(([lead]) => lead) },
      results: [],
      shop: shop.json,
    });
    if (!written.ok) throw noFileFor(machine, written.reasons.join("; "));
    const end = written.name.slice(written.name.lastIndexOf("."));
    return this.#keep(row, { takes: "leads", machine, who, end, leads, file: Buffer.from(written.bytes), stem: name });
  }

  /**
   * A name that never comes again: a job that is deleted and imported anew, a copy that is restored, a second server at the same machine
   * count from one too, and a machine tells files apart by their names alone.
   */
  async #name(row: BatchRow): Promise<string> {
    const nth = (await listRuns(this.#bench.store.db, row.job, row.number)).length + 1;
    return `${named(row)}-${nth}-${randomBytes(5).toString("hex")}`;
  }

  async #keep(
    row: BatchRow,
    made: Pick<RunRow, "takes" | "machine" | "who" | "file"> & { end: string; leads: RunNow["leads"]; stem?: string },
  ): Promise<RunRow | null> {
    const { end, leads, stem, ...rest } = made;
    const run = {
      ...rest,
      job: row.job,
      batch: row.number,
      name: `${stem ?? (await this.#name(row))}${end}`,
      leads: JSON.stringify(leads),
      at: this.#bench.now().toISOString(),
    };
    if (!(await keepRun(this.#bench.store.db, run, leads))) return null;
    return { ...run, seq: 0, state: "sending", machine_job: null, why: null };
  }

  /**
   * Looks whether a file is there, and sends it where it is not. A machine that cannot be reached is asked again later.
   * @returns whether it answered
   */
  async #deliver(run: RunRow, at: MachineAddress): Promise<boolean> {
    const { db } = this.#bench.store;
    try {
      const there = jobsOf(await heard(at.tells, "/")).find((j) => j.name === run.name);
      if (there) {
        await runSent(db, run.name, there.id);
        return true;
      }
      const file = Buffer.concat([Buffer.from(`${run.name}\n`), run.file]);
      const said = await exchange(at, file, this.#leave.signal);
      const taken = /^taken (\d+)/.exec(said);
      if (taken) await runSent(db, run.name, Number(taken[1]));
      else {
        // It may have come in by another way meanwhile: then it is there.
        const late = jobsOf(await heard(at.tells, "/")).find((j) => j.name === run.name);
        if (late) await runSent(db, run.name, late.id);
        else await runRefused(db, run.name, said.replace(/^refused: /, "").trim());
      }
      this.#known.delete(`${run.takes} ${at.name}`);
      return true;
    } catch (error) {
      if (!(error instanceof BenchError) && !isAway(error)) throw error;
      return false;
    }
  }

  /** What a machine says of a file: each lead it made is written down, and when it is through what it did not make. */
  async #ask(run: RunRow, at: MachineAddress): Promise<boolean> {
    let job: FileJob | null;
    try {
      job = jobOf(await heard(at.tells, `/jobs/${run.machine_job}`).catch(notThere));
      if (job?.name !== run.name) {
        const other = jobsOf(await heard(at.tells, "/")).find((j) => j.name === run.name);
        job = other ? jobOf(await heard(at.tells, `/jobs/${other.id}`)) : null;
        if (other) await runSent(this.#bench.store.db, run.name, other.id);
      }
    } catch {
      return false;
    }
    if (run.takes === "labels") await this.#labels(run, job);
    else await this.#leads(run, job, at);
    return true;
  }

  async #labels(run: RunRow, job: FileJob | null): Promise<void> {
    if (job && job.state !== "done" && job.state !== "stopped") return;
    const why = job === null ? "the printer does not know it any more" : job.state === "stopped" ? "stopped" : null;
    await runEnded(this.#bench.store.db, run, [], why, this.#bench.now());
  }

  async #leads(run: RunRow, job: FileJob | null, at: MachineAddress): Promise<void> {
    const { db } = this.#bench.store;
    const leads = leadsOfRun(run);
    const now = this.#bench.now().toISOString();
    const event = (nth: number, what: "made" | "failed", why?: string): LeadEvent => ({
      id: `${run.seq} ${nth} ${run.name}`.slice(0, 60),
      batch: `B${run.batch}`,
      lead: leads[nth]![0],
      attempt: leads[nth]![1],
      what,
      ...(why === undefined ? {} : { why }),
      run: run.name,
      who: run.machine,
      at: now,
    });
    // A result counts for the lead whose place it stands in, and only where it names that lead: from the first that names another one
    // on nobody knows what was made.
    const told = (job?.made ?? []).slice(0, leads.length);
    const strange = told.findIndex((m, i) => m.wire !== leads[i]![0]);
    const made = strange < 0 ? told : told.slice(0, strange);
    const events = made.map((m, i) => (m.result === "good" ? event(i, "made") : event(i, "failed", m.result)));
    if (job && job.state !== "done" && job.state !== "stopped") {
      const known = new Set((await readLeadEvents(db, run.job, run.batch)).map((e) => e.id));
      const fresh = events.filter((e) => !known.has(e.id));
      await appendSaid(db, run.job, LEAD, fresh, this.#bench.now());
      if (fresh.length > 0) this.#bench.said.told(run.job, LEAD, `B${run.batch}`);
      return;
    }
    const why =
      job === null
        ? "the machine does not know its file any more"
        : job.state === "stopped"
          ? "its file was stopped"
          : strange >= 0
            ? `the machine told of ${told[strange]!.wire || "no wire"} where ${leads[strange]![0]} stood: look at what it made`
            : "it was not in the file the machine took";
    for (let i = made.length; i < leads.length; i++) events.push(event(i, "failed", why));
    const through = job?.state === "done" && strange < 0;
    await runEnded(db, run, events, through ? null : why, this.#bench.now());
    this.#bench.said.told(run.job, LEAD, `B${run.batch}`);
    // What is not understood is not made again by itself.
    if (through) await this.#again(run, at);
  }

  /** What a machine spoiled goes to it again, unless it spoils the same lead over and over. */
  async #again(run: RunRow, at: MachineAddress): Promise<void> {
    const row = await findBatch(this.#bench.store.db, run.job, run.batch);
    if (!row || row.ended_at !== null) return;
    const open = await openLeads(this.#bench.store.db, row);
    if (open.length === 0 || open.some(([, attempt]) => attempt > MOST_ATTEMPTS)) return;
    const next = await this.#make(row, run.machine, run.who);
    if (next) await this.#deliver(next, at);
  }

  /** How every machine and printer is. */
  states(): Promise<WireMachineNow[]> {
    return Promise.all([
      ...this.#machines.map((m) => this.#state(m, "leads")),
      ...this.#printers.map((m) => this.#state(m, "labels")),
    ]);
  }

  async #state(at: MachineAddress, takes: RunRow["takes"]): Promise<WireMachineNow> {
    const before = this.#known.get(`${takes} ${at.name}`);
    const clock = this.#bench.now().getTime();
    if (before && clock - before.at < FRESH_MS && clock >= before.at) return before.now;
    let now: WireMachineNow;
    try {
      now = machineNow(at.name, takes, new Date(clock).toISOString(), await heard(at.tells, "/"));
    } catch (error) {
      const last = before?.now ?? machineNow(at.name, takes, null, {});
      now = { ...last, state: "away", why: awayText(error) };
    }
    this.#known.set(`${takes} ${at.name}`, { at: clock, now });
    return now;
  }

  /** What somebody does at a machine. @throws machine.declined, machine.away */
  async act(takes: RunRow["takes"], name: string, path: string, body: object = {}): Promise<void> {
    const at = this.find(takes, name);
    this.#known.delete(`${takes} ${name}`);
    let reply: Answered;
    try {
      reply = await ask(`${at.tells}${path}`, ASK_MS, MOST_ANSWER, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(body),
      });
    } catch (error) {
      throw machineDeclined(name, awayText(error));
    }
    if (reply.ok) return;
    let said: { error?: unknown } | null = null;
    try {
      said = JSON.parse(reply.text) as { error?: unknown } | null;
    } catch {
      // It says no reason that could be told.
    }
    throw machineDeclined(name, typeof said?.error === "string" ? said.error.slice(0, 200) : String(reply.status));
  }
}

const notThere = (error: unknown): null => {
  if (/answered with 404/.test((error as Error).message)) return null;
  throw error;
};

/** A machine that is off, slow, or talks nonsense: asked again later. */
const isAway = (error: unknown): boolean => {
  if (error instanceof TooLong) return true;
  const { name, message } = error as Error;
  return ["TypeError", "SyntaxError", "TimeoutError", "AbortError"].includes(name) || /answered with/.test(message);
};
