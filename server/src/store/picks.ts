import { PICK } from "@gray-bench/core/kits/event-kind";
import type { PickEvent } from "@gray-bench/core/kits/events";
import type { Kysely } from "kysely";
import { saidOf, type KeptEvent } from "./events";
import type { Schema } from "./schema";

/** Not told to the store yet; told; or nothing the store has to know. Anything else is why it refused. */
const UNTOLD = "no";
export const TOLD = "yes";

/** As rows of the table of events say it. */
const fromRow = ({ payload, ...row }: Omit<KeptEvent, "says" | "undoes" | "came"> & { payload: string }): PickEvent =>
  saidOf(PICK, { ...row, says: JSON.parse(payload) as object });

/** That the store is to be told of events, which are kept with them. */
export async function bookLater(db: Kysely<Schema>, job: string, ids: readonly string[]): Promise<void> {
  await db
    .insertInto("bookings")
    .columns(["seq", "booked"])
    .expression((e) =>
      e
        .selectFrom("events")
        .select(["seq", e.val(UNTOLD).as("booked")])
        .where("job", "=", job)
        .where("kind", "=", PICK.kind)
        .where("id", "in", ids),
    )
    .onConflict((c) => c.column("seq").doNothing())
    .execute();
}

const COLUMNS = ["events.id", "events.thing", "events.payload", "events.who", "events.at"] as const;

const booked = (db: Kysely<Schema>) => db.selectFrom("bookings").innerJoin("events", "events.seq", "bookings.seq");

export interface Untold {
  seq: number;
  job: string;
  event: PickEvent;
}

/** Events the store has not been told of, the oldest first. */
export async function untoldPicks(db: Kysely<Schema>, most: number): Promise<Untold[]> {
  const rows = await booked(db)
    .select(["bookings.seq", "events.job", ...COLUMNS])
    .where("bookings.booked", "=", UNTOLD)
    .orderBy("bookings.seq")
    .limit(most)
    .execute();
  return rows.map(({ seq, job, ...row }) => ({ seq, job, event: fromRow(row) }));
}

export async function setBooked(db: Kysely<Schema>, seq: number, how: string): Promise<void> {
  await db.updateTable("bookings").set({ booked: how }).where("seq", "=", seq).execute();
}

/** One event, and whether the store was told. */
export async function findPick(
  db: Kysely<Schema>,
  job: string,
  id: string,
): Promise<{ event: PickEvent; booked: string } | undefined> {
  const row = await booked(db)
    .select([...COLUMNS, "bookings.booked"])
    .where("events.job", "=", job)
    .where("events.kind", "=", PICK.kind)
    .where("events.id", "=", id)
    .executeTakeFirst();
  if (!row) return undefined;
  const { booked: how, ...event } = row;
  return { event: fromRow(event), booked: how };
}

/** Whether an event was undone. */
export async function isUndone(db: Kysely<Schema>, job: string, id: string): Promise<boolean> {
  const row = await db
    .selectFrom("events")
    .select("seq")
    .where("job", "=", job)
    .where("kind", "=", PICK.kind)
    .where("undoes", "=", id)
    .executeTakeFirst();
  return row !== undefined;
}

export async function countUntold(db: Kysely<Schema>): Promise<number> {
  const row = await db
    .selectFrom("bookings")
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
  const rows = await booked(db)
    .select(["events.job", "bookings.booked", ...COLUMNS])
    .where("bookings.booked", "not in", [UNTOLD, TOLD])
    .orderBy("bookings.seq", "desc")
    .limit(most)
    .execute();
  return rows.map(({ job, booked: why, ...row }) => {
    const { kit, line } = fromRow(row);
    return { job, kit, line, why };
  });
}

/** What of a line of a kit is out of the store, by what the store was told: picked, less put back, less what was undone. O(events of the job) */
export async function takenOf(
  db: Kysely<Schema>,
  job: string,
  { kit, line }: Pick<PickEvent, "kit" | "line">,
): Promise<number> {
  const rows = await booked(db)
    .select(COLUMNS)
    .where("events.job", "=", job)
    .where("events.kind", "=", PICK.kind)
    .where("bookings.booked", "=", TOLD)
    .execute();
  const told = rows.map(fromRow);
  const undone = new Set(told.flatMap((e) => (e.what === "undone" && e.of !== undefined ? [e.of] : [])));
  return told.reduce((sum, e) => {
    if (e.kit !== kit || e.line !== line || undone.has(e.id)) return sum;
    return e.what === "picked" ? sum + (e.quantity ?? 0) : e.what === "put back" ? sum - (e.quantity ?? 0) : sum;
  }, 0);
}
