import type { PickEvent } from "@gray-bench/core/kits/picks";
import type { Kysely } from "kysely";
import type { Schema } from "./schema";

/** Not told to the store yet; told; or nothing the store has to know. Anything else is why it refused. */
export const UNTOLD = "no";
export const TOLD = "yes";

/** Events of a job after a number, in the order they came. O(events) */
export async function readPicks(
  db: Kysely<Schema>,
  job: string,
  since = 0,
): Promise<{ events: PickEvent[]; last: number }> {
  const rows = await db
    .selectFrom("picks")
    .select(["seq", "event"])
    .where("job", "=", job)
    .where("seq", ">", since)
    .orderBy("seq")
    .execute();
  return {
    events: rows.map((r) => JSON.parse(r.event) as PickEvent),
    last: rows.length > 0 ? rows[rows.length - 1]!.seq : since,
  };
}

/** Appends; what is there already under its id is passed over. All or nothing. */
export async function appendPicks(db: Kysely<Schema>, job: string, events: readonly PickEvent[]): Promise<void> {
  if (events.length === 0) return;
  await db
    .insertInto("picks")
    .values(events.map((e) => ({ id: e.id, job, event: JSON.stringify(e), booked: UNTOLD, undoes: e.of ?? null })))
    .onConflict((c) => c.columns(["job", "id"]).doNothing())
    .execute();
}

export const countPicks = async (db: Kysely<Schema>, job: string): Promise<number> =>
  (
    await db
      .selectFrom("picks")
      .select((e) => e.fn.countAll<number>().as("n"))
      .where("job", "=", job)
      .executeTakeFirstOrThrow()
  ).n;

export interface Untold {
  seq: number;
  job: string;
  event: PickEvent;
}

/** Events the store has not been told of, the oldest first. */
export async function untoldPicks(db: Kysely<Schema>, most: number): Promise<Untold[]> {
  const rows = await db
    .selectFrom("picks")
    .select(["seq", "job", "event"])
    .where("booked", "=", UNTOLD)
    .orderBy("seq")
    .limit(most)
    .execute();
  return rows.map(({ seq, job, event }) => ({ seq, job, event: JSON.parse(event) as PickEvent }));
}

export async function setBooked(db: Kysely<Schema>, seq: number, booked: string): Promise<void> {
  await db.updateTable("picks").set({ booked }).where("seq", "=", seq).execute();
}

/** One event, and whether the store was told. */
export async function findPick(
  db: Kysely<Schema>,
  job: string,
  id: string,
): Promise<{ event: PickEvent; booked: string } | undefined> {
  const row = await db
    .selectFrom("picks")
    .select(["event", "booked"])
    .where("job", "=", job)
    .where("id", "=", id)
    .executeTakeFirst();
  return row && { event: JSON.parse(row.event) as PickEvent, booked: row.booked };
}

/** Whether an event was undone. */
export async function isUndone(db: Kysely<Schema>, job: string, id: string): Promise<boolean> {
  const row = await db
    .selectFrom("picks")
    .select("seq")
    .where("job", "=", job)
    .where("undoes", "=", id)
    .executeTakeFirst();
  return row !== undefined;
}

export async function countUntold(db: Kysely<Schema>): Promise<number> {
  const row = await db
    .selectFrom("picks")
    .select((e) => e.fn.countAll<number>().as("n"))
    .where("booked", "=", UNTOLD)
    .executeTakeFirstOrThrow();
  return row.n;
}

/** What the store refused, the last first. */
export async function refusedPicks(
  db: Kysely<Schema>,
  most: number,
): Promise<{ job: string; kit: string; line: string; why: string }[]> {
  const rows = await db
    .selectFrom("picks")
    .select(["job", "event", "booked"])
    .where("booked", "not in", [UNTOLD, TOLD])
    .orderBy("seq", "desc")
    .limit(most)
    .execute();
  return rows.map(({ job, event, booked }) => {
    const { kit, line } = JSON.parse(event) as PickEvent;
    return { job, kit, line, why: booked };
  });
}

/** What of a line of a kit is out of the store, by what the store was told: picked, less put back, less what was undone. O(events of the job) */
export async function takenOf(
  db: Kysely<Schema>,
  job: string,
  { kit, line }: Pick<PickEvent, "kit" | "line">,
): Promise<number> {
  const rows = await db.selectFrom("picks").select("event").where("job", "=", job).where("booked", "=", TOLD).execute();
  const told = rows.map((r) => JSON.parse(r.event) as PickEvent);
  const undone = new Set(told.flatMap((e) => (e.what === "undone" && e.of !== undefined ? [e.of] : [])));
  return told.reduce((sum, e) => {
    if (e.kit !== kit || e.line !== line || undone.has(e.id)) return sum;
    return e.what === "picked" ? sum + (e.quantity ?? 0) : e.what === "put back" ? sum - (e.quantity ?? 0) : sum;
  }, 0);
}
