import type { Kysely, Selectable } from "kysely";
import type { ResultsTable, Schema } from "./database";

/** Raised whenever a stage computes something else from the same design: older results no longer count. */
export const COMPUTED_BY = "3";

export type ResultRow = Omit<Selectable<ResultsTable>, "design_hash" | "computed_by">;

export const readResult = (db: Kysely<Schema>, hash: string, name: string): Promise<ResultRow | undefined> =>
  db
    .selectFrom("results")
    .select(["name", "etag", "type", "bytes"])
    .where("design_hash", "=", hash)
    .where("computed_by", "=", COMPUTED_BY)
    .where("name", "=", name)
    .executeTakeFirst();

export const listResults = (db: Kysely<Schema>, hash: string): Promise<{ name: string }[]> =>
  db
    .selectFrom("results")
    .select("name")
    .where("design_hash", "=", hash)
    .where("computed_by", "=", COMPUTED_BY)
    .orderBy("name")
    .execute();

/** Stores all results of a design at once. */
export function storeResults(db: Kysely<Schema>, hash: string, rows: readonly ResultRow[]): Promise<void> {
  return db.transaction().execute(async (tx) => {
    for (const row of rows) {
      await tx
        .insertInto("results")
        .values({ design_hash: hash, computed_by: COMPUTED_BY, ...row })
        .onConflict((c) =>
          c
            .columns(["design_hash", "computed_by", "name"])
            .doUpdateSet({ etag: row.etag, type: row.type, bytes: row.bytes }),
        )
        .execute();
    }
  });
}
