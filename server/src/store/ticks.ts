import type { TickEvent } from "@gray-bench/core/frame/ticks";
import type { Kysely } from "kysely";
import { appendEvents, readEvents } from "./events";
import type { Schema } from "./schema";

/** What a tick says beside what every event has. */
interface Says {
  item: string;
  done: boolean;
}

/** What was ticked of a list after a number, in the order it came. O(events) */
export async function readTicks(
  db: Kysely<Schema>,
  job: string,
  list: string,
  since = 0,
): Promise<{ events: TickEvent[]; last: number }> {
  const { events, last } = await readEvents(db, job, "tick", { thing: list, since });
  return {
    events: events.map(({ id, thing, says, who, at }) => {
      const { item, done } = says as Says;
      return { id, list: thing, item, what: done ? "ticked" : "unticked", who, at };
    }),
    last,
  };
}

/** Appends; what is there already under its id is passed over. All or nothing. */
export const appendTicks = (db: Kysely<Schema>, job: string, events: readonly TickEvent[], now: Date): Promise<void> =>
  db.transaction().execute((tx) =>
    appendEvents(
      tx,
      job,
      "tick",
      events.map(({ id, list, item, what, who, at }) => ({
        id,
        thing: list,
        says: { item, done: what === "ticked" } satisfies Says,
        who,
        at,
        came: now.toISOString(),
      })),
    ),
  );
