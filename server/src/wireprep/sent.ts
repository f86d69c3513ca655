import { randomBytes } from "node:crypto";
import type { RunNow, WireMachineNow } from "@gray-bench/contract/wireprep";
import type { LeadEvent } from "@gray-bench/core/wireprep/events";
import { LEAD } from "@gray-bench/core/wireprep/event-kind";
import { LEADS_FILE } from "@gray-bench/core/wireprep/questions";
import { pushTo } from "@gray-bench/core/design/order";
import { noFileFor, nothingToSend } from "./errors";
import { Following } from "../machines/following";
import type { MachineAddress } from "../machines/line";
import { isAway, type Machines } from "../machines/machines";
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
import { jobOf, type FileJob } from "./told";
import { asJson } from "../store/json";

/** What a machine spoils is made again so often without anybody being asked. */
const MOST_ATTEMPTS = 4;
const named = (e: BatchRow): string => `${e.job}-B${e.number}`;

/**
 * Files that go to machines for leads and to printers, and what comes back. A file is kept with the attempts in it before it is sent,
 * under a name no other file has; a machine takes a name once. So whatever is ended at any moment, nothing is made twice, and what a
 * machine did not make is known and made again.
 */
export class SentFiles {
  readonly #machines: Readonly<Record<RunRow["takes"], Machines<WireMachineNow>>>;
  readonly #bench: Bench;
  readonly #following: Following<RunRow> | null = null;
  #closed = false;

  constructor(
    machines: Readonly<Record<RunRow["takes"], Machines<WireMachineNow>>>,
    bench: Bench,
    trouble: (error: unknown) => void,
  ) {
    this.#machines = machines;
    this.#bench = bench;
    if (!machines.leads.some && !machines.labels.some) return;
    this.#following = new Following(
      () => this.#openByMachine(),
      (_, runs) => this.#followOne(runs),
      trouble,
    );
  }

  async close(): Promise<void> {
    this.#closed = true;
    this.#following?.close();
    await Promise.all([this.#machines.leads.close(), this.#machines.labels.close()]);
  }

  async #openByMachine(): Promise<Map<string, RunRow[]>> {
    const byMachine = new Map<string, RunRow[]>();
    for (const run of await openRuns(this.#bench.store.db)) pushTo(byMachine, `${run.takes} ${run.machine}`, run);
    return byMachine;
  }

  /** Asks after every file whose end is not known, at one machine or printer where it is named. */
  async follow(only?: string): Promise<void> {
    const open = [...(await this.#openByMachine())].filter(([machine]) => only === undefined || machine === only);
    await Promise.all(open.map(([, runs]) => this.#followOne(runs)));
  }

  /** @param runs at one machine */
  async #followOne(runs: readonly RunRow[]): Promise<void> {
    const { takes, machine } = runs[0]!;
    const at = this.#machines[takes].at(machine);
    if (!at) return;
    await this.#machines[takes].alone(at, async () => {
      for (const { name } of runs) {
        if (this.#closed) return;
        // As it stands by now: it may have been settled while this waited.
        const run = await findRun(this.#bench.store.db, name);
        if (!run || !isOpen(run)) continue;
        // One that does not answer is asked again at its next turn, not once for each of its files.
        if (!(await (run.state === "sending" ? this.#deliver(run, at) : this.#ask(run, at)))) return;
      }
    });
  }

  /** @throws machine.unknown */
  find(takes: RunRow["takes"], name: string): MachineAddress {
    return this.#machines[takes].find(name);
  }

  /** Sends all leads of a batch that are to be made and are in no file. @throws batch.nothing, batch.file, machine.unknown */
  send(row: BatchRow, who: string): Promise<void> {
    const machine = row.batch.plan.machine;
    if (machine === null) throw nothingToSend(`B${row.number}`, "it is made at the bench");
    const at = this.find("leads", machine);
    return this.#machines.leads.alone(at, async () => {
      const run = await this.#make(row, machine, who);
      if (!run) throw nothingToSend(`B${row.number}`, "its leads are made, or at the machine already");
      await this.#deliver(run, at);
    });
  }

  /** Sends the labels of a batch to a printer, unless they are on their way; again under another name. @throws batch.nothing, machine.unknown */
  print(row: BatchRow, printer: string, file: Buffer, who: string): Promise<void> {
    const at = this.find("labels", printer);
    return this.#machines.labels.alone(at, async () => {
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
      leads: asJson(leads),
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
    const machines = this.#machines[run.takes];
    try {
      const there = await machines.numberOf(at, run.name);
      if (there !== null) {
        await runSent(db, run.name, there);
        return true;
      }
      const given = await machines.give(at, run.name, run.file);
      if ("taken" in given) await runSent(db, run.name, given.taken);
      else {
        // It may have come in by another way meanwhile: then it is there.
        const late = await machines.numberOf(at, run.name);
        if (late !== null) await runSent(db, run.name, late);
        else await runRefused(db, run.name, given.refused);
      }
      return true;
    } catch (error) {
      if (!isAway(error)) throw error;
      return false;
    }
  }

  /** What a machine says of a file: each lead it made is written down, and when it is through what it did not make. */
  async #ask(run: RunRow, at: MachineAddress): Promise<boolean> {
    const machines = this.#machines[run.takes];
    let job: FileJob | null;
    try {
      job = jobOf(await machines.told(at, run.machine_job!));
      if (job?.name !== run.name) {
        const other = await machines.numberOf(at, run.name);
        job = other === null ? null : jobOf(await machines.told(at, other));
        if (other !== null) await runSent(this.#bench.store.db, run.name, other);
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
  async states(): Promise<WireMachineNow[]> {
    return (await Promise.all([this.#machines.leads.states(), this.#machines.labels.states()])).flat();
  }

  /** What somebody does at a machine. @throws machine.unknown, machine.declined */
  act(takes: RunRow["takes"], name: string, path: string, body?: object): Promise<void> {
    return this.#machines[takes].act(this.find(takes, name), path, body);
  }
}
