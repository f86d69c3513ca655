import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";
import type { Kysely, Selectable } from "kysely";
import type { LibrariesTable, Schema } from "./schema";

export type LibraryRow = Omit<Selectable<LibrariesTable>, "gzip">;

const packed = promisify(gzip);
const unpacked = promisify(gunzip);
const COLUMNS = ["number", "hash", "parts", "who", "why", "at"] as const;

/** Versions of the library, newest first. */
export const listLibraries = (db: Kysely<Schema>): Promise<LibraryRow[]> =>
  db.selectFrom("libraries").select(COLUMNS).orderBy("number", "desc").execute();

/** The version that counts for jobs to come; undefined where there is none yet. */
export const currentLibrary = (db: Kysely<Schema>): Promise<LibraryRow | undefined> =>
  db.selectFrom("libraries").select(COLUMNS).orderBy("number", "desc").executeTakeFirst();

/** The newest version with this content. */
export const findLibrary = (db: Kysely<Schema>, hash: string): Promise<LibraryRow | undefined> =>
  db.selectFrom("libraries").select(COLUMNS).where("hash", "=", hash).orderBy("number", "desc").executeTakeFirst();

export const libraryVersion = (db: Kysely<Schema>, number: number): Promise<LibraryRow | undefined> =>
  db.selectFrom("libraries").select(COLUMNS).where("number", "=", number).executeTakeFirst();

/** A library as JSON, compressed; empty where there is none. */
export async function libraryGzip(db: Kysely<Schema>, hash: string): Promise<Buffer | undefined> {
  const row = await db.selectFrom("libraries").select("gzip").where("hash", "=", hash).executeTakeFirst();
  return row?.gzip;
}

/** What a thread is told of the library that completes a job. */
export interface LibraryJson {
  hash: string;
  json: Uint8Array;
}

/** The library with a hash; null for none. */
export async function readLibraryJson(db: Kysely<Schema>, hash: string): Promise<LibraryJson | null> {
  if (hash === "") return null;
  const bytes = await libraryGzip(db, hash);
  if (!bytes) throw new Error(`library ${hash} is not kept`);
  return { hash, json: await unpacked(bytes) };
}

/** Appends a version. An earlier one put back is a new version too: nothing is changed or deleted. */
export async function appendLibrary(
  db: Kysely<Schema>,
  { json, ...row }: { hash: string; json: Uint8Array; parts: number; who: string; why: string | null; at: string },
): Promise<void> {
  await db
    .insertInto("libraries")
    .values({ ...row, gzip: await packed(json, { level: 4 }) })
    .execute();
}
