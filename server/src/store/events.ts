import type { Kysely } from "kysely";
import type { EventKind } from "@gray-bench/core/frame/event-kind";
import type { Happened } from "@gray-bench/core/frame/events";
import type { Schema } from "./schema";

/** An event as it is kept: what every one has beside what its kind says. */
export interface KeptEvent {
  id: string;
  /** List, kit, batch or sheet it is about. */
  thing: string;
  /** What else it says. */
  says: object;
  /** Of one that undoes another: its id. */
  undoes?: string;
  who: string;
  /** When it happened, by the clock of whoever says it; when it came in. ISO date and time. */
  at: string;
  came: string;
}

const LOT = 200;

/** Appends; what is there already under its id is passed over. All or nothing within a transaction, in lots otherwise. */
async function appendEvents(
  db: Kysely<Schema>,
  job: string,
  kind: string,
  events: readonly KeptEvent[],
): Promise<void> {
  for (let i = 0; i < events.length; i += LOT)
    await db
      .insertInto("events")
      .values(
        events.slice(i, i + LOT).map(({ id, thing, says, undoes, who, at, came }) => ({
          job,
          kind,
          id,
          thing,
          payload: JSON.stringify(says),
          undoes: undoes ?? null,
          who,
          at,
          came,
        })),
      )
      .onConflict((c) => c.columns(["job", "kind", "id"]).doNothing())
      .execute();
}

/** Events of a kind, of one thing or of all, after a number, in the order they came. O(events) */
async function readEvents(
  db: Kysely<Schema>,
  job: string,
  kind: string,
  { thing, since = 0 }: { thing?: string; since?: number } = {},
): Promise<{ events: Omit<KeptEvent, "undoes">[]; last: number }> {
  let asked = db
    .selectFrom("events")
    .select(["seq", "id", "thing", "payload", "who", "at", "came"])
    .where("job", "=", job)
    .where("kind", "=", kind)
    .where("seq", ">", since);
  if (thing !== undefined) asked = asked.where("thing", "=", thing);
  const rows = await asked.orderBy("seq").execute();
  return {
    events: rows.map(({ id, thing: of, payload, who, at, came }) => ({
      id,
      thing: of,
      says: JSON.parse(payload) as object,
      who,
      at,
      came,
    })),
    last: rows.at(-1)?.seq ?? since,
  };
}

export const countEvents = async (db: Kysely<Schema>, job: string, kind: string): Promise<number> =>
  (
    await db
      .selectFrom("events")
      .select((e) => e.fn.countAll<number>().as("n"))
      .where("job", "=", job)
      .where("kind", "=", kind)
      .executeTakeFirstOrThrow()
  ).n;

/** Appends what was said of one kind; what is there already under its id is passed over. All or nothing within a transaction. */
export const appendSaid = <E extends Happened>(
  db: Kysely<Schema>,
  job: string,
  { kind, thing: { field }, kept }: EventKind<E>,
  events: readonly E[],
  now: Date,
): Promise<void> =>
  appendEvents(
    db,
    job,
    kind,
    events.map(({ id, who, at, ...rest }) => {
      const { [field as string]: thing, ...says } = rest as Record<string, unknown>;
      const undoes = says.of as string | undefined;
      return {
        id,
        thing: thing as string,
        says: kept ? kept.of(says) : says,
        ...(undoes === undefined ? {} : { undoes }),
        who,
        at,
        came: now.toISOString(),
      };
    }),
  );

/** An event as it is said, of what is kept. */
export const saidOf = <E extends Happened>(
  { thing: { field }, kept }: EventKind<E>,
  { id, thing, says, who, at }: Pick<KeptEvent, "id" | "thing" | "says" | "who" | "at">,
): E => ({ id, [field]: thing, ...(kept ? kept.back(says) : says), who, at }) as unknown as E;

/** What was said of one kind after a number, of one thing or of all, in the order it came. O(events) */
export async function readSaid<E extends Happened>(
  db: Kysely<Schema>,
  job: string,
  kind: EventKind<E>,
  asked: { thing?: string; since?: number } = {},
): Promise<{ events: E[]; last: number }> {
  const { events, last } = await readEvents(db, job, kind.kind, asked);
  return { events: events.map((e) => saidOf(kind, e)), last };
}

/** Number of the last event of a kind, of one thing or of all; 0 where there is none. */
export async function lastSaid<E extends Happened>(
  db: Kysely<Schema>,
  job: string,
  { kind }: EventKind<E>,
  thing?: string,
): Promise<number> {
  let asked = db
    .selectFrom("events")
    .select((e) => e.fn.max<number | null>("seq").as("last"))
    .where("job", "=", job)
    .where("kind", "=", kind);
  if (thing !== undefined) asked = asked.where("thing", "=", thing);
  return (await asked.executeTakeFirstOrThrow()).last ?? 0;
}
