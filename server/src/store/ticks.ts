import type { Tick, TickRequest } from "@gray-bench/contract/api";
import type { Kysely } from "kysely";
import type { Schema } from "./schema";

/** What counts of a list: the last that was said of each item. O(log n) a row that was ever written */
export async function readTicks(db: Kysely<Schema>, job: string, list: string): Promise<Tick[]> {
  const rows = await db
    .selectFrom("ticks")
    .select((e) => ["item", "done", "who", "at", e.fn.max("seq").as("last")])
    .where("job", "=", job)
    .where("list", "=", list)
    .groupBy("item")
    .orderBy("last")
    .execute();
  // SQLite takes the other columns from the row that has the greatest number.
  return rows.map(({ item, done, who, at }) => ({ item, done: done === 1, who, at }));
}

/** Appends; what is there already under its id is passed over. All or nothing. */
export async function appendTicks(
  db: Kysely<Schema>,
  job: string,
  { list, who, ticks }: TickRequest,
  at: string,
): Promise<void> {
  await db
    .insertInto("ticks")
    .values(ticks.map(({ id, item, done }) => ({ id, job, list, item, done: done ? 1 : 0, who, at })))
    .onConflict((c) => c.columns(["job", "id"]).doNothing())
    .execute();
}

export const countTicks = async (db: Kysely<Schema>, job: string): Promise<number> =>
  (
    await db
      .selectFrom("ticks")
      .select((e) => e.fn.countAll<number>().as("n"))
      .where("job", "=", job)
      .executeTakeFirstOrThrow()
  ).n;
