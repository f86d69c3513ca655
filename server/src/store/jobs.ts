import type { Kysely, Selectable } from "kysely";
import { revisionTaken } from "../errors";
import type { DesignsTable, Schema } from "./database";

export type JobRow = Omit<Selectable<DesignsTable>, "json" | "order">;

const COLUMNS = [
  "designs.hash",
  "designs.job",
  "designs.revision",
  "designs.title",
  "designs.customer",
  "designs.due",
  "designs.imported_at",
  "designs.head",
] as const;

const current = (db: Kysely<Schema>) =>
  db
    .selectFrom("jobs")
    .innerJoin("designs", (j) =>
      j.onRef("designs.job", "=", "jobs.code").onRef("designs.hash", "=", "jobs.design_hash"),
    );

/** All jobs, each at its current design; the ones due first come first, those without a date last. */
export const listJobs = (db: Kysely<Schema>): Promise<JobRow[]> =>
  current(db)
    .select(COLUMNS)
    .orderBy((eb) => eb("designs.due", "is", null))
    .orderBy("designs.due")
    .orderBy("designs.job")
    .execute();

export const findJob = (db: Kysely<Schema>, code: string): Promise<JobRow | undefined> =>
  current(db).select(COLUMNS).where("jobs.code", "=", code).executeTakeFirst();

export const listRevisions = (db: Kysely<Schema>, code: string) =>
  db
    .selectFrom("designs")
    .select(["revision", "hash", "imported_at"])
    .where("job", "=", code)
    .orderBy("order", "desc")
    .execute();

export async function readDesignJson(db: Kysely<Schema>, hash: string): Promise<Buffer | undefined> {
  const row = await db.selectFrom("designs").select("json").where("hash", "=", hash).executeTakeFirst();
  return row?.json;
}

export interface NewDesign extends JobRow {
  json: Buffer;
}

/**
 * Stores a design: as a new job, or as the current revision of a known one. All or nothing.
 * @returns "already" when the very same design is stored for this job
 * @throws revision.taken when another design has this revision
 */
export function storeDesign(db: Kysely<Schema>, design: NewDesign): Promise<"stored" | "already"> {
  return db.transaction().execute(async (tx) => {
    const same = await tx
      .selectFrom("designs")
      .select("hash")
      .where("job", "=", design.job)
      .where("hash", "=", design.hash)
      .executeTakeFirst();
    if (same) return "already";
    const taken = await tx
      .selectFrom("designs")
      .select("hash")
      .where("job", "=", design.job)
      .where("revision", "=", design.revision)
      .executeTakeFirst();
    if (taken) throw revisionTaken(design.job, design.revision);
    await tx
      .insertInto("jobs")
      .values({ code: design.job, design_hash: design.hash })
      .onConflict((c) => c.column("code").doUpdateSet({ design_hash: design.hash }))
      .execute();
    await tx.insertInto("designs").values(design).execute();
    return "stored";
  });
}

/** Deletes a job with all its designs; results no other job needs go with it. */
export function deleteJob(db: Kysely<Schema>, code: string): Promise<boolean> {
  return db.transaction().execute(async (tx) => {
    const gone = await tx.deleteFrom("jobs").where("code", "=", code).executeTakeFirst();
    await tx.deleteFrom("results").where("design_hash", "not in", tx.selectFrom("designs").select("hash")).execute();
    return gone.numDeletedRows > 0n;
  });
}
