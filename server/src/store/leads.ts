import { gunzipSync, gzipSync } from "node:zlib";
import type { RunNow } from "@gray-bench/contract/wireprep";
import { leadStates, type LeadEvent } from "@gray-bench/core/wireprep/events";
import { chainsIn, type MadeBatch } from "@gray-bench/core/wireprep/batch";
import type { Kysely, Selectable, Transaction } from "kysely";
import { LEAD } from "@gray-bench/core/wireprep/event-kind";
import { appendSaid, readSaid } from "./events";
import type { BatchesTable, RunsTable, Schema } from "./schema";
import { fromJson } from "./json";

export type BatchRow = Omit<Selectable<BatchesTable>, "json"> & { batch: MadeBatch };
export type RunRow = Selectable<RunsTable>;

const unpacked = ({ json, ...rest }: Selectable<BatchesTable>): BatchRow => ({
  ...rest,
  batch: JSON.parse(gunzipSync(json).toString("utf8")) as MadeBatch,
});

export async function listBatches(db: Kysely<Schema>, job: string): Promise<BatchRow[]> {
  const rows = await db.selectFrom("batches").selectAll().where("job", "=", job).orderBy("number").execute();
  return rows.map(unpacked);
}

export async function findBatch(db: Kysely<Schema>, job: string, number: number): Promise<BatchRow | undefined> {
  const row = await db
    .selectFrom("batches")
    .selectAll()
    .where("job", "=", job)
    .where("number", "=", number)
    .executeTakeFirst();
  return row && unpacked(row);
}

export async function nextBatch(db: Kysely<Schema>, job: string): Promise<number> {
  const { n } = await db
    .selectFrom("batches")
    .select((e) => e.fn.max<number | null>("number").as("n"))
    .where("job", "=", job)
    .executeTakeFirstOrThrow();
  return (n ?? 0) + 1;
}

export async function claimed(db: Kysely<Schema>, job: string): Promise<Set<string>> {
  const rows = await db.selectFrom("claims").select("lead").where("job", "=", job).execute();
  return new Set(rows.map((r) => r.lead));
}

const LOT = 200;

async function inLots<T>(list: readonly T[], write: (some: T[]) => Promise<unknown>): Promise<void> {
  for (let i = 0; i < list.length; i += LOT) await write(list.slice(i, i + LOT));
}

/** Keeps a batch with its leads; nothing where one of them is in another batch. All or nothing. */
export function keepBatch(
  db: Kysely<Schema>,
  { batch, ...row }: Omit<BatchRow, "ended_at">,
): Promise<"kept" | "taken"> {
  return db.transaction().execute(async (tx) => {
    if ((await nextBatch(tx, row.job)) !== row.number) return "taken";
    const known = await claimed(tx, row.job);
    if (batch.leads.some((l) => known.has(l.wire))) return "taken";
    await tx
      .insertInto("batches")
      .values({ ...row, ended_at: null, json: gzipSync(JSON.stringify(batch)) })
      .execute();
    await inLots(batch.leads, (some) =>
      tx
        .insertInto("claims")
        .values(some.map((l) => ({ job: row.job, lead: l.wire, batch: row.number })))
        .execute(),
    );
    return "kept";
  });
}

/**
 * Ends a batch: leads that are not made, and whatever is crimped with them, are free for another one.
 * @returns false while files of it are at a machine
 */
export function endBatch(db: Kysely<Schema>, row: BatchRow, at: string): Promise<boolean> {
  return db.transaction().execute(async (tx) => {
    const runs = await listRuns(tx, row.job, row.number);
    if (runs.some((r) => r.takes === "leads" && isOpen(r))) return false;
    const chains = chainsIn(row.batch);
    const states = leadStates(chains, await readLeadEvents(tx, row.job, row.number));
    const free = chains.filter((c) => !c.every((lead) => states.get(lead)!.made)).flat();
    await inLots(free, (some) =>
      tx
        .deleteFrom("claims")
        .where("job", "=", row.job)
        .where("batch", "=", row.number)
        .where("lead", "in", some)
        .execute(),
    );
    await tx
      .updateTable("batches")
      .set({ ended_at: at })
      .where("job", "=", row.job)
      .where("number", "=", row.number)
      .execute();
    return true;
  });
}

/** Leads a batch wants of its machine that are in no file, in their order, each with the attempt that counts. */
export async function openLeads(db: Kysely<Schema>, { job, number, batch }: BatchRow): Promise<RunNow["leads"]> {
  const states = statesOf(batch, await readLeadEvents(db, job, number));
  const inRuns = await attemptsInRuns(db, job, number);
  return batch.plan.chains.flatMap((chain): RunNow["leads"] => {
    const at = chain.map((lead): [string, number] => [lead, states.get(lead)!.attempt]);
    // Made together: a chain goes whole, or not at all.
    return at.some(([lead, attempt]) => states.get(lead)!.made !== null || inRuns.has(attemptKey(lead, attempt)))
      ? []
      : at;
  });
}

/** How each lead of a batch stands. */
export const statesOf = (batch: MadeBatch, events: readonly LeadEvent[]) => leadStates(chainsIn(batch), events);

export const isOpen = ({ state }: Pick<RunRow, "state">): boolean => state === "sending" || state === "sent";

export const readLeadEvents = async (db: Kysely<Schema>, job: string, batch: number): Promise<LeadEvent[]> =>
  (await readSaid(db, job, LEAD, { thing: `B${batch}` })).events;

export const leadsOfRun = ({ leads }: Pick<RunRow, "leads">): RunNow["leads"] => fromJson(leads);

export const listRuns = (db: Kysely<Schema>, job: string, batch: number): Promise<RunRow[]> =>
  db.selectFrom("runs").selectAll().where("job", "=", job).where("batch", "=", batch).orderBy("seq").execute();

export const findRun = (db: Kysely<Schema>, name: string): Promise<RunRow | undefined> =>
  db.selectFrom("runs").selectAll().where("name", "=", name).executeTakeFirst();

/** Files whose end is not known yet, the oldest first. */
export const openRuns = (db: Kysely<Schema>): Promise<RunRow[]> =>
  db.selectFrom("runs").selectAll().where("state", "in", ["sending", "sent"]).orderBy("seq").execute();

/** Attempts at leads of a batch that are in a file. */
export async function attemptsInRuns(db: Kysely<Schema>, job: string, batch: number): Promise<Map<string, string>> {
  const rows = await db
    .selectFrom("run_leads")
    .select(["lead", "attempt", "run"])
    .where("job", "=", job)
    .where("batch", "=", batch)
    .execute();
  return new Map(rows.map((r) => [attemptKey(r.lead, r.attempt), r.run]));
}

export const attemptKey = (lead: string, attempt: number): string => `${attempt} ${lead}`;

/**
 * Keeps a file before it is sent. Each attempt at a lead is in one file at most: where another one has it, the whole fails.
 * @returns false where a lead of it is wanted no more, or the batch has ended
 */
export function keepRun(
  db: Kysely<Schema>,
  run: Omit<RunRow, "seq" | "state" | "machine_job" | "why">,
  leads: RunNow["leads"],
): Promise<boolean> {
  return db.transaction().execute(async (tx) => {
    if (leads.length > 0) {
      const row = await findBatch(tx, run.job, run.batch);
      if (!row || row.ended_at !== null) return false;
      const open = new Set((await openLeads(tx, row)).map(([lead, attempt]) => attemptKey(lead, attempt)));
      if (!leads.every(([lead, attempt]) => open.has(attemptKey(lead, attempt)))) return false;
    }
    await tx
      .insertInto("runs")
      .values({ ...run, state: "sending", machine_job: null, why: null })
      .execute();
    await inLots(leads, (some) =>
      tx
        .insertInto("run_leads")
        .values(some.map(([lead, attempt]) => ({ job: run.job, batch: run.batch, lead, attempt, run: run.name })))
        .execute(),
    );
    return true;
  });
}

export async function runSent(db: Kysely<Schema>, name: string, machineJob: number): Promise<void> {
  await db
    .updateTable("runs")
    .set({ state: "sent", machine_job: machineJob, why: null })
    .where("name", "=", name)
    .where("state", "in", ["sending", "sent"])
    .execute();
}

/** A file the machine never took: its attempts are free for another one. */
export function runRefused(db: Kysely<Schema>, name: string, why: string): Promise<void> {
  return db.transaction().execute(async (tx) => {
    await tx
      .updateTable("runs")
      .set({ state: "refused", why })
      .where("name", "=", name)
      .where("state", "=", "sending")
      .execute();
    await tx.deleteFrom("run_leads").where("run", "=", name).execute();
  });
}

/** A file the machine is through with, and what it said last. All or nothing. */
export function runEnded(
  db: Kysely<Schema>,
  run: RunRow,
  events: readonly LeadEvent[],
  why: string | null,
  now: Date,
): Promise<void> {
  return db.transaction().execute(async (tx: Transaction<Schema>) => {
    await appendSaid(tx, run.job, LEAD, events, now);
    await tx.updateTable("runs").set({ state: "ended", why }).where("name", "=", run.name).execute();
  });
}
