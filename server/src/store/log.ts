import type { LoggedEdit } from "@gray-bench/core/frame/edits";
import type { Kysely, Selectable } from "kysely";
import type { LogTable, Schema } from "./schema";
import { clearUnused, setCurrent, type LaidDesign } from "./jobs";

export type LogRow = Selectable<LogTable>;

export const readLog = (db: Kysely<Schema>, job: string): Promise<LogRow[]> =>
  db.selectFrom("log").selectAll().where("job", "=", job).orderBy("seq").execute();

/** The edits of a log in order, each with the mark of its taking back. */
export function editsOf(rows: readonly LogRow[]): LoggedEdit[] {
  const edits = new Map<string, LoggedEdit>();
  for (const row of rows) {
    if (row.what === "edit") {
      edits.set(row.id, {
        id: row.id,
        kind: row.kind,
        payload: JSON.parse(row.payload) as unknown,
        who: row.who,
        when: row.at,
        ...(row.why === null ? {} : { why: row.why }),
        back: null,
      });
    } else if (row.what === "back" || row.what === "again") {
      edits.get(row.id)!.back = row.what === "back" ? { who: row.who, when: row.at } : null;
    }
  }
  return [...edits.values()];
}

/**
 * Appends rows and makes the design that comes out of them the one that counts. All or nothing.
 * @param library hash of the one that completes it from here on; the same as before when absent
 */
export function appendLog(
  db: Kysely<Schema>,
  job: string,
  received: string,
  rows: readonly Omit<LogRow, "seq" | "received">[],
  laid: LaidDesign,
  library?: string,
): Promise<void> {
  return db.transaction().execute(async (tx) => {
    await tx
      .insertInto("log")
      .values(rows.map((row) => ({ ...row, received })))
      .execute();
    await setCurrent(tx, job, received, laid);
    if (library !== undefined)
      await tx.updateTable("jobs").set({ library_hash: library }).where("code", "=", job).execute();
    await clearUnused(tx);
  });
}
