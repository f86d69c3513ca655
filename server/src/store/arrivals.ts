import type { Arrival, SourceList } from "@gray-bench/contract/intake";
import type { KeptMatching } from "@gray-bench/core/tables/kept";
import type { Kysely, Selectable } from "kysely";
import { attachAll } from "./attachments";
import { asJson, fromJson } from "./json";
import { clearReceived, keepReading, keepReceived, type Reading, type Received } from "./received";
import type { ArrivalsTable, Schema } from "./schema";

const arrivalOf = ({ job, tables, drawings, attachments, ...row }: Selectable<ArrivalsTable>): Arrival => ({
  ...row,
  job: fromJson(job),
  tables: fromJson(tables),
  drawings: fromJson(drawings),
  attachments: fromJson(attachments),
});

const rowOf = ({ job, tables, drawings, attachments, ...arrival }: Arrival) => ({
  ...arrival,
  job: asJson(job),
  tables: asJson(tables),
  drawings: asJson(drawings),
  attachments: asJson(attachments),
});

/** The one changed last first. */
export const listArrivals = async (db: Kysely<Schema>): Promise<Arrival[]> =>
  (await db.selectFrom("arrivals").selectAll().orderBy("at", "desc").orderBy("id").execute()).map(arrivalOf);

export async function findArrival(db: Kysely<Schema>, id: string): Promise<Arrival | undefined> {
  const row = await db.selectFrom("arrivals").selectAll().where("id", "=", id).executeTakeFirst();
  return row && arrivalOf(row);
}

/** Writes an arrival as it is now, with a file that has come into it. Files that nothing in it is of are let go. */
export function writeArrival(
  db: Kysely<Schema>,
  arrival: Arrival,
  come?: Received,
  reading?: Reading | null,
): Promise<void> {
  return db.transaction().execute(async (tx) => {
    const row = rowOf(arrival);
    await tx
      .insertInto("arrivals")
      .values(row)
      .onConflict((c) => c.column("id").doUpdateSet(row))
      .execute();
    if (come) await keepReceived(tx, come);
    if (come && reading) await keepReading(tx, come.hash, reading);
    const files = [...new Set([...arrival.tables, ...arrival.drawings, ...arrival.attachments].map((t) => t.file))];
    await tx.deleteFrom("arrival_files").where("arrival", "=", arrival.id).execute();
    if (files.length > 0)
      await tx
        .insertInto("arrival_files")
        .values(files.map((file) => ({ arrival: arrival.id, file })))
        .execute();
    await clearReceived(tx);
  });
}

export function deleteArrival(db: Kysely<Schema>, id: string): Promise<void> {
  return db.transaction().execute(async (tx) => {
    await tx.deleteFrom("arrivals").where("id", "=", id).execute();
    await clearReceived(tx);
  });
}

/** An arrival has become a revision: its files are what that was made of. Part of the caller's transaction. */
export async function settleArrival(
  tx: Kysely<Schema>,
  { id, tables, drawings, attachments }: Arrival,
  { job, design, ...by }: { job: string; design: string; at: string; who: string | null },
): Promise<void> {
  await tx.deleteFrom("sources").where("job", "=", job).where("design", "=", design).execute();
  const read = [
    ...tables.map(({ name, file, asked, matching }) => ({ name, file, read: { asked, matching } })),
    ...drawings.map(({ name, file, said }) => ({ name, file, read: { said } })),
  ];
  for (const [place, one] of read.entries())
    await tx
      .insertInto("sources")
      .values({ job, design, place, ...one, read: asJson(one.read) })
      .execute();
  await attachAll(
    tx,
    attachments.map(({ name, type, file }) => ({ job, name, type, file, thing: null, of: null, ...by })),
  );
  await tx.deleteFrom("arrivals").where("id", "=", id).execute();
  await clearReceived(tx);
}

/** What the revisions of a job were made of, the last first; those that came as one design file are not among them. */
export async function listSources(db: Kysely<Schema>, job: string): Promise<SourceList[]> {
  const rows = await db
    .selectFrom("sources")
    .innerJoin("designs", (j) =>
      j.onRef("designs.job", "=", "sources.job").onRef("designs.hash", "=", "sources.design"),
    )
    .innerJoin("received", "received.hash", "sources.file")
    .select(["designs.revision", "sources.file", "sources.name", "sources.read", "received.size"])
    .where("sources.job", "=", job)
    .orderBy("designs.order", "desc")
    .orderBy("sources.place")
    .execute();
  const lists = new Map<string, SourceList>();
  for (const { revision, file, name, read, size } of rows) {
    const list = lists.get(revision) ?? { revision, files: [] };
    lists.set(revision, list);
    const how = fromJson(read);
    const known = list.files.find((f) => f.file === file && f.name === name);
    if ("said" in how) list.files.push({ file, name, bytes: size, tables: [], said: how.said });
    else if (known) known.tables.push(how);
    else list.files.push({ file, name, bytes: size, tables: [how], said: null });
  }
  return [...lists.values()];
}

/** By name. */
export const listMatchings = async (db: Kysely<Schema>): Promise<KeptMatching[]> =>
  (await db.selectFrom("matchings").select(["name", "tables", "drawings"]).orderBy("name").execute()).map((row) => {
    const drawings = fromJson(row.drawings);
    return { name: row.name, tables: fromJson(row.tables), ...(drawings.length > 0 ? { drawings } : {}) };
  });

export async function keepMatching(
  db: Kysely<Schema>,
  { name, tables, drawings = [] }: KeptMatching,
  at: string,
): Promise<void> {
  const row = { name, tables: asJson(tables), drawings: asJson(drawings), at };
  await db
    .insertInto("matchings")
    .values(row)
    .onConflict((c) => c.column("name").doUpdateSet(row))
    .execute();
}

export const deleteMatching = (db: Kysely<Schema>, name: string) =>
  db.deleteFrom("matchings").where("name", "=", name).executeTakeFirst();
