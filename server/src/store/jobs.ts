import { sql, type Kysely, type Selectable } from "kysely";
import { revisionTaken } from "../errors";
import type { DesignsTable, Schema } from "./schema";
import { clearReceived } from "./received";
import { currentShop } from "./shops";
import type { DesignHead } from "@gray-bench/contract/jobs";
import type { NotLaid } from "../workers/tasks";
import { asJson, type Json } from "./json";

export interface JobRow extends Omit<Selectable<DesignsTable>, "json" | "order"> {
  /** Of the design as received; `hash` is that of the design with its edits. */
  received: string;
  unfitting: Json<NotLaid[]>;
  /** Hash of the shop it is computed with. */
  shop: string;
  /** Hash of the library that completes it; empty: none. */
  library: string;
  /** Key of the last computation that ended. */
  shown: string;
}

const COLUMNS = [
  "jobs.design_hash as hash",
  "jobs.received_hash as received",
  "jobs.unfitting",
  "jobs.shop_hash as shop",
  "jobs.library_hash as library",
  "jobs.shown_key as shown",
  "designs.job",
  "designs.revision",
  "designs.title",
  "designs.customer",
  "designs.due",
  "designs.imported_at",
] as const;

const current = (db: Kysely<Schema>) =>
  db
    .selectFrom("jobs")
    .innerJoin("designs", (j) =>
      j.onRef("designs.job", "=", "jobs.code").onRef("designs.hash", "=", "jobs.received_hash"),
    )
    .leftJoin("laid", "laid.hash", "jobs.design_hash")
    .select((eb) => [...COLUMNS, eb.fn.coalesce("laid.head", "designs.head").as("head")]);

const ESCAPED = /[%_\\]/g;

/** `*` any text, `?` one character; without them anywhere in the text. */
function likeOf(q: string): string {
  const like = q.replace(ESCAPED, "\\$&").replace(/\*/g, "%").replace(/\?/g, "_");
  return /[*?]/.test(q) ? like : `%${like}%`;
}

/** Which jobs: those that fit a text, and those computed with another shop than this one. */
export interface Wanted {
  q?: string | undefined;
  otherShop?: string | undefined;
}

const fitting = (db: Kysely<Schema>, { q, otherShop }: Wanted) => {
  let query = current(db);
  if (otherShop !== undefined) query = query.where("jobs.shop_hash", "!=", otherShop);
  if (q) {
    const like = likeOf(q);
    query = query.where(
      sql<boolean>`(designs.job LIKE ${like} ESCAPE '\\' OR designs.title LIKE ${like} ESCAPE '\\' OR designs.customer LIKE ${like} ESCAPE '\\')`,
    );
  }
  return query;
};

/** A page of the jobs, each at its current design; the ones due first come first, those without a date last. */
export async function listJobs(db: Kysely<Schema>, from: number, most: number, wanted: Wanted = {}): Promise<JobRow[]> {
  // Put in order by little, and only then read.
  const codes = (
    await fitting(db, wanted)
      .clearSelect()
      .select("designs.job")
      .orderBy((eb) => eb("designs.due", "is", null))
      .orderBy("designs.due")
      .orderBy("designs.job")
      .offset(from)
      .limit(most)
      .execute()
  ).map((r) => r.job);
  const rows = new Map((await current(db).where("jobs.code", "in", codes).execute()).map((r) => [r.job, r]));
  return codes.flatMap((code) => rows.get(code) ?? []);
}

export async function countJobs(db: Kysely<Schema>, wanted: Wanted = {}): Promise<number> {
  const row = await fitting(db, wanted)
    .clearSelect()
    .select((eb) => eb.fn.countAll<number>().as("n"))
    .executeTakeFirstOrThrow();
  return Number(row.n);
}

/** What every job is computed from, and what it shows. */
export const listTargets = (db: Kysely<Schema>): Promise<Pick<JobRow, "job" | "hash" | "shop" | "shown">[]> =>
  db
    .selectFrom("jobs")
    .select(["code as job", "design_hash as hash", "shop_hash as shop", "shown_key as shown"])
    .execute();

export const findJob = (db: Kysely<Schema>, code: string): Promise<JobRow | undefined> =>
  current(db).where("jobs.code", "=", code).executeTakeFirst();

export const listRevisions = (db: Kysely<Schema>, code: string) =>
  db
    .selectFrom("designs")
    .select(["revision", "hash", "imported_at"])
    .where("job", "=", code)
    .orderBy("order", "desc")
    .execute();

/**
 * The design of a revision as it stood last: with its edits, where they are kept; undefined where there is no such revision.
 */
export async function lastOfRevision(
  db: Kysely<Schema>,
  job: Pick<JobRow, "job" | "revision" | "hash">,
  revision: string,
): Promise<{ hash: string; edits: "in" | "none" | "lost" } | undefined> {
  const all = await listRevisions(db, job.job);
  const hash = all.find((r) => r.revision === revision)?.hash;
  if (hash === undefined) return undefined;
  if (revision === job.revision) {
    if (job.hash === hash) return { hash, edits: "none" };
    const edit = await db
      .selectFrom("log")
      .select("seq")
      .where("job", "=", job.job)
      .where("what", "=", "edit")
      .executeTakeFirst();
    return { hash: job.hash, edits: edit ? "in" : "none" };
  }
  const rows = await db
    .selectFrom("log")
    .select(["hash", "what"])
    .where("job", "=", job.job)
    .where("received", "=", hash)
    .orderBy("seq", "desc")
    .execute();
  const [last] = rows;
  if (!last || last.hash === hash) return { hash, edits: "none" };
  // Completed by the library alone it has no edits.
  const edited = rows.some((r) => r.what !== "library" && r.what !== "shop");
  const kept = (await readDesignJson(db, last.hash)) !== undefined;
  return kept ? { hash: last.hash, edits: edited ? "in" : "none" } : { hash, edits: "lost" };
}

export async function readDesignJson(db: Kysely<Schema>, hash: string): Promise<Buffer | undefined> {
  const row =
    (await db.selectFrom("designs").select("json").where("hash", "=", hash).executeTakeFirst()) ??
    (await db.selectFrom("laid").select("json").where("hash", "=", hash).executeTakeFirst());
  return row?.json;
}

export interface NewDesign extends Omit<JobRow, "received" | "unfitting" | "shop" | "library" | "shown"> {
  json: Buffer;
}

/** What came out of laying the edits of a job on a design. */
export interface LaidDesign {
  hash: string;
  head: Json<DesignHead>;
  json: Buffer;
  unfitting: Json<NotLaid[]>;
}

/** Makes a design the one that counts. Part of the caller's transaction. */
export async function setCurrent(tx: Kysely<Schema>, job: string, received: string, laid: LaidDesign): Promise<void> {
  const { hash, head, json, unfitting } = laid;
  if (hash !== received)
    await tx
      .insertInto("laid")
      .values({ hash, head, json })
      .onConflict((c) => c.column("hash").doNothing())
      .execute();
  await tx
    .updateTable("jobs")
    .set({ design_hash: hash, received_hash: received, unfitting })
    .where("code", "=", job)
    .execute();
}

/**
 * Stores a design: as a new job, or as the current revision of a known one. All or nothing.
 * @param laid the design completed and with the job's edits on top; null when it is as received
 * @param library the one that completes it: its row goes into the log, so that what came of it is found again
 * @param also what is written together with it, also where it was there already
 * @returns "already" when the very same design is stored for this job
 * @throws revision.taken when another design has this revision
 */
export function storeDesign(
  db: Kysely<Schema>,
  design: NewDesign,
  laid: LaidDesign | null = null,
  library: { hash: string; number: number; who: string } | null = null,
  also: (tx: Kysely<Schema>) => Promise<void> = async () => undefined,
): Promise<"stored" | "already"> {
  return db.transaction().execute(async (tx) => {
    const same = await tx
      .selectFrom("designs")
      .select("hash")
      .where("job", "=", design.job)
      .where("hash", "=", design.hash)
      .executeTakeFirst();
    if (same) {
      await also(tx);
      return "already";
    }
    const taken = await tx
      .selectFrom("designs")
      .select("hash")
      .where("job", "=", design.job)
      .where("revision", "=", design.revision)
      .executeTakeFirst();
    if (taken) throw revisionTaken(design.job, design.revision);
    await tx
      .insertInto("jobs")
      .values({
        code: design.job,
        design_hash: design.hash,
        received_hash: design.hash,
        unfitting: asJson<NotLaid[]>([]),
        shop_hash: (await currentShop(tx)).hash,
        library_hash: library?.hash ?? "",
        shown_key: "",
      })
      .onConflict((c) => c.column("code").doNothing())
      .execute();
    await tx.insertInto("designs").values(design).execute();
    await setCurrent(tx, design.job, design.hash, laid ?? { ...design, unfitting: asJson<NotLaid[]>([]) });
    if (library && laid) {
      const { hash: id, number, who } = library;
      await tx.updateTable("jobs").set({ library_hash: id }).where("code", "=", design.job).execute();
      await tx
        .insertInto("log")
        .values({
          job: design.job,
          what: "library",
          id,
          kind: `library version ${number}`,
          payload: "{}",
          why: null,
          who,
          at: design.imported_at,
          hash: laid.hash,
          received: design.hash,
        })
        .execute();
    }
    await also(tx);
    return "stored";
  });
}

/** Every design and shop that a job was ever computed from. */
export async function madeFrom(
  db: Kysely<Schema>,
  { job, hash, shop }: Pick<JobRow, "job" | "hash" | "shop">,
): Promise<{ designs: string[]; shops: string[] }> {
  const received = await db.selectFrom("designs").select("hash").where("job", "=", job).execute();
  const log = await db.selectFrom("log").select(["what", "id", "hash"]).where("job", "=", job).execute();
  const versions = await db.selectFrom("shops").select("hash").execute();
  const taken = log.flatMap((l) => (l.what === "shop" ? [l.id] : []));
  return {
    designs: [...new Set([hash, ...received.map((r) => r.hash), ...log.map((l) => l.hash)])],
    // What it began with stands nowhere: any version there was.
    shops: [...new Set([shop, ...taken, ...versions.map((v) => v.hash)])],
  };
}

/** Deletes a job with all its designs. */
export function deleteJob(db: Kysely<Schema>, code: string): Promise<boolean> {
  return db.transaction().execute(async (tx) => {
    // What is held for it in the store is given back when the store is told.
    await tx.updateTable("reservations").set({ releasing: 1 }).where("job", "=", code).execute();
    const gone = await tx.deleteFrom("jobs").where("code", "=", code).executeTakeFirst();
    await clearUnused(tx);
    await clearReceived(tx);
    return gone.numDeletedRows > 0n;
  });
}

/** So many designs that came out of edits are kept with their results, so that taking back is a look-up. */
const KEPT = 40;

/**
 * Throws away designs that came out of edits and that no job needs: all but those that count now and the
 * last ones, which taking back leads to.
 */
export async function clearUnused(tx: Kysely<Schema>): Promise<void> {
  const current = tx.selectFrom("jobs").select("design_hash");
  const last = tx
    .selectFrom("log")
    .select("hash")
    .groupBy("hash")
    .orderBy((eb) => eb.fn.max("seq"), "desc")
    .limit(KEPT);
  await tx.deleteFrom("laid").where("hash", "not in", current).where("hash", "not in", last).execute();
}

/** Remembers the last computation of a job that ended, if it still is of the design and shop that count. */
export async function setShown(
  db: Kysely<Schema>,
  { job, design, shop, key }: { job: string; design: string; shop: string; key: string },
): Promise<void> {
  await db
    .updateTable("jobs")
    .set({ shown_key: key })
    .where("code", "=", job)
    .where("design_hash", "=", design)
    .where("shop_hash", "=", shop)
    .execute();
}

/** Makes a job be computed with another version of the shop from now on, and writes it into its log. */
export function setShop(
  db: Kysely<Schema>,
  { job, hash: design, received }: Pick<JobRow, "job" | "hash" | "received">,
  shop: string,
  by: { who: string; at: string },
): Promise<void> {
  return db.transaction().execute(async (tx) => {
    await tx.updateTable("jobs").set({ shop_hash: shop }).where("code", "=", job).execute();
    await tx
      .insertInto("log")
      .values({ job, what: "shop", id: shop, kind: "shop", payload: "{}", why: null, ...by, hash: design, received })
      .execute();
  });
}

/** What names of files of a job begin with: its code and revision. */
export const fileStem = ({ job, revision }: Pick<JobRow, "job" | "revision">): string =>
  `${job}-${revision.replace(/[^\w.-]/g, "_")}`;
