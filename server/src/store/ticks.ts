import type { Tick, TickRequest } from "@gray-bench/contract/api";
import { sql, type Kysely } from "kysely";
import type { Schema } from "./schema";

/** What counts of a list: what was made last of each item, whenever it came. O(log n) a row that was ever written */
export async function readTicks(db: Kysely<Schema>, job: string, list: string): Promise<Tick[]> {
  const rows = await db
    .selectFrom("ticks")
    .select(["item", "done", "who", "at", sql<string>`max(at || printf('%012d', seq))`.as("last")])
    .where("job", "=", job)
    .where("list", "=", list)
    .groupBy("item")
    .orderBy("last")
    .execute();
  // SQLite takes the other columns from the row of the greatest.
  return rows.map(({ item, done, who, at }) => ({ item, done: done === 1, who, at }));
}

/** Appends; what is there already under its id is passed over. All or nothing. */
export async function appendTicks(
  db: Kysely<Schema>,
  job: string,
  { list, who, ticks }: TickRequest,
  now: Date,
): Promise<void> {
  await db
    .insertInto("ticks")
    .values(
      ticks.map(({ id, item, done, agoMs = 0 }) => {
        const at = new Date(now.getTime() - agoMs).toISOString();
        return { id, job, list, item, done: done ? 1 : 0, who, at };
      }),
    )
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
