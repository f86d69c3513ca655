import type { Kysely, Selectable } from "kysely";
import { isDiskFull } from "./reserve";
import type { ResultsTable, Schema } from "./schema";

/** A result as it is kept: compressed once, and sent so. */
export type ResultRow = Omit<Selectable<ResultsTable>, "used_at">;

const HOUR_MS = 3_600_000;

/** A result by key and name; being asked for keeps it from being cleared. */
export async function readResult(
  db: Kysely<Schema>,
  key: string,
  name: string,
  nowMs: number,
): Promise<ResultRow | undefined> {
  const row = await db
    .selectFrom("results")
    .select(["key", "name", "etag", "type", "gzip", "used_at"])
    .where("key", "=", key)
    .where("name", "=", name)
    .executeTakeFirst();
  if (!row) return undefined;
  const { used_at: _, ...result } = row;
  await keepFor(db, [row], nowMs);
  return result;
}

/** What is asked for is not cleared; written down once an hour. */
async function keepFor(db: Kysely<Schema>, rows: readonly { key: string; used_at: number }[], nowMs: number) {
  const old = rows.filter((r) => r.used_at < nowMs - HOUR_MS).map((r) => r.key);
  if (old.length === 0) return;
  try {
    await db.updateTable("results").set({ used_at: nowMs }).where("key", "in", old).execute();
  } catch (error) {
    // Reading goes on when the disk is full.
    if (!isDiskFull(error)) throw error;
  }
}

/** Which of several are there by one name; being asked for keeps them from being cleared. */
export async function touchResults(
  db: Kysely<Schema>,
  keys: readonly string[],
  name: string,
  nowMs: number,
): Promise<string[]> {
  const rows = await db
    .selectFrom("results")
    .select(["key", "used_at"])
    .where("key", "in", keys)
    .where("name", "=", name)
    .execute();
  await keepFor(db, rows, nowMs);
  return rows.map((r) => r.key);
}

/** Several by one name at once, by key; those that are not there are missing. */
export async function readResults(
  db: Kysely<Schema>,
  keys: readonly string[],
  name: string,
): Promise<Map<string, Buffer>> {
  const rows = await db
    .selectFrom("results")
    .select(["key", "gzip"])
    .where("key", "in", keys)
    .where("name", "=", name)
    .execute();
  return new Map(rows.map((r) => [r.key, r.gzip]));
}

export const listResults = (db: Kysely<Schema>, key: string): Promise<{ name: string }[]> =>
  db.selectFrom("results").select("name").where("key", "=", key).orderBy("name").execute();

/** Stores results at once, all or nothing. */
export function storeResults(db: Kysely<Schema>, rows: readonly ResultRow[], nowMs: number): Promise<void> {
  return db.transaction().execute(async (tx) => {
    for (const row of rows) {
      await tx
        .insertInto("results")
        .values({ ...row, used_at: nowMs })
        .onConflict((c) => c.columns(["key", "name"]).doUpdateSet({ ...row, used_at: nowMs }))
        .execute();
    }
  });
}

/** Throws away all that is kept under some keys. */
export async function dropResults(db: Kysely<Schema>, keys: readonly string[]): Promise<void> {
  // One after the other: the log of writes then never holds more than one of them.
  for (const key of keys) await db.deleteFrom("results").where("key", "=", key).execute();
}

export interface Room {
  /** So much is kept, compressed. */
  mostBytes: number;
  /** What nobody has asked for so long is cleared. */
  oldestMs: number;
}

const DAY_MS = 24 * HOUR_MS;
export const ROOM: Room = { mostBytes: 1 << 30, oldestMs: 30 * DAY_MS };

/**
 * Clears old results: those not asked for the longest go first, until what is left has room. Results in use
 * are never cleared, and what has one key goes together. O(results).
 * @returns of how many keys
 */
export async function clearOld(
  db: Kysely<Schema>,
  inUse: ReadonlySet<string>,
  nowMs: number,
  { mostBytes, oldestMs }: Room = ROOM,
): Promise<number> {
  const kept = await db
    .selectFrom("results")
    .select((eb) => [
      "key",
      eb.fn.max("used_at").as("used_at"),
      eb.fn.sum<number>(eb.fn<number>("length", ["gzip"])).as("bytes"),
    ])
    .groupBy("key")
    .orderBy("used_at", "desc")
    .execute();
  let bytes = kept.filter((r) => inUse.has(r.key)).reduce((sum, r) => sum + Number(r.bytes), 0);
  let gone = 0;
  for (const { key, used_at, bytes: size } of kept) {
    if (inUse.has(key)) continue;
    if (bytes + Number(size) <= mostBytes && used_at >= nowMs - oldestMs) {
      bytes += Number(size);
      continue;
    }
    gone++;
    await db.deleteFrom("results").where("key", "=", key).execute();
  }
  return gone;
}
