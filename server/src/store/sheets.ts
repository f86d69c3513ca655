import type { SheetEvent } from "@gray-bench/core/metalwork/events";
import type { Kysely } from "kysely";
import { appendEvents, readEvents } from "./events";
import type { Schema } from "./schema";

/** What happened to sheets of a job after a number, in the order it came. O(events) */
export async function readSheets(
  db: Kysely<Schema>,
  job: string,
  since = 0,
): Promise<{ events: SheetEvent[]; last: number }> {
  const { events, last } = await readEvents(db, job, "sheet", { since });
  return {
    events: events.map(({ id, thing, says, who, at }) => {
      const { sheet, what, ...more } = says as Pick<SheetEvent, "sheet" | "what">;
      return { id, face: thing, sheet, what, ...more, who, at };
    }),
    last,
  };
}

/** Appends; what is there already under its id is passed over. All or nothing. */
export const appendSheets = (
  db: Kysely<Schema>,
  job: string,
  events: readonly SheetEvent[],
  now: Date,
): Promise<void> =>
  db.transaction().execute((tx) =>
    appendEvents(
      tx,
      job,
      "sheet",
      events.map(({ id, face, who, at, ...says }) => ({
        id,
        thing: face,
        says,
        ...(says.of === undefined ? {} : { undoes: says.of }),
        who,
        at,
        came: now.toISOString(),
      })),
    ),
  );
