import type { Delivery, Level, Reserved } from "@gray-bench/core/design/stock";
import type { Kysely } from "kysely";
import { asJson, fromJson, type Json } from "./json";
import type { Schema } from "./schema";

/** What the store said last. */
export interface Seen {
  at: string;
  items: Level[];
  deliveries: Delivery[];
}

export async function readSeen(db: Kysely<Schema>): Promise<Seen | null> {
  const row = await db.selectFrom("stock").select(["at", "json"]).executeTakeFirst();
  return row ? { at: row.at, ...fromJson(row.json) } : null;
}

/** Keeps what was said in place of what was said before; what has not changed is not written again, only when it was said. */
export async function keepSeen(db: Kysely<Schema>, { at, ...rest }: Seen, before: Seen | null): Promise<void> {
  const json = asJson(rest);
  if (before && JSON.stringify({ items: before.items, deliveries: before.deliveries }) === json) {
    await db.updateTable("stock").set({ at }).execute();
    return;
  }
  await db
    .insertInto("stock")
    .values({ one: 1, at, json })
    .onConflict((c) => c.column("one").doUpdateSet({ at, json }))
    .execute();
}

export interface Held {
  job: string;
  id: string;
  lines: { part: string; quantity: number }[];
  who: string;
  at: string;
  releasing: boolean;
}

const heldOf = (row: { lines: Json<Held["lines"]>; releasing: number } & Omit<Held, "lines" | "releasing">): Held => ({
  ...row,
  lines: fromJson(row.lines),
  releasing: row.releasing === 1,
});

export const listHeld = async (db: Kysely<Schema>): Promise<Held[]> =>
  (await db.selectFrom("reservations").selectAll().orderBy("job").execute()).map(heldOf);

export async function findHeld(db: Kysely<Schema>, job: string): Promise<Held | undefined> {
  const row = await db.selectFrom("reservations").selectAll().where("job", "=", job).executeTakeFirst();
  return row && heldOf(row);
}

export async function keepHeld(db: Kysely<Schema>, held: Held): Promise<void> {
  const row = { ...held, lines: asJson(held.lines), releasing: held.releasing ? 1 : 0 };
  await db
    .insertInto("reservations")
    .values(row)
    .onConflict((c) => c.column("job").doUpdateSet(row))
    .execute();
}

export async function dropHeld(db: Kysely<Schema>, job: string): Promise<void> {
  await db.deleteFrom("reservations").where("job", "=", job).execute();
}

/** What is reserved for jobs, as needs are counted against it; what is being given back is free again. */
export const reservedOf = (held: readonly Held[]): Reserved[] =>
  held.flatMap(({ job, lines, releasing }) => (releasing ? [] : lines.map((l) => ({ job, ...l }))));
