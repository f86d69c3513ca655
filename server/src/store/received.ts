import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";
import type { Kysely } from "kysely";
import type { Schema } from "./schema";

const packed = promisify(gzip);
const unpacked = promisify(gunzip);

/** A file as received, ready to be kept. */
export interface Received {
  hash: string;
  gzip: Buffer;
  size: number;
}

/** Packs a file; elsewhere than where requests are answered. */
export async function receivedOf(bytes: Uint8Array): Promise<Received> {
  const [digest, packedBytes] = await Promise.all([
    crypto.subtle.digest("SHA-256", bytes as Uint8Array<ArrayBuffer>),
    packed(bytes, { level: 2 }),
  ]);
  return { hash: Buffer.from(digest).toString("hex"), gzip: packedBytes, size: bytes.byteLength };
}

/** Keeps a file as received; one that is there already stays. */
export async function keepReceived(db: Kysely<Schema>, file: Received): Promise<void> {
  await db
    .insertInto("received")
    .values(file)
    .onConflict((c) => c.column("hash").doNothing())
    .execute();
}

/** The bytes of a file as received. */
export async function readReceived(db: Kysely<Schema>, hash: string): Promise<Buffer | undefined> {
  const row = await db.selectFrom("received").select("gzip").where("hash", "=", hash).executeTakeFirst();
  return row && unpacked(row.gzip);
}

/** What a document says, ready to be kept. */
export interface Reading {
  version: number;
  pages: number;
  empty: number;
  gzip: Buffer;
}

/** Packs what was read of a document; elsewhere than where requests are answered. */
export const readingOf = async (json: Uint8Array, read: Omit<Reading, "gzip">): Promise<Reading> => ({
  ...read,
  gzip: await packed(json, { level: 2 }),
});

/** Keeps what a document says, with its file. */
export async function keepReading(db: Kysely<Schema>, file: string, reading: Reading): Promise<void> {
  await db
    .insertInto("readings")
    .values({ file, ...reading })
    .onConflict((c) => c.column("file").doUpdateSet(reading))
    .execute();
}

/** What documents say, as JSON, by their files; those that were read by another version of the program are not among them. */
export async function readReadings(
  db: Kysely<Schema>,
  files: readonly string[],
  version: number,
): Promise<Map<string, Buffer>> {
  if (files.length === 0) return new Map();
  const rows = await db
    .selectFrom("readings")
    .select(["file", "gzip"])
    .where("file", "in", files)
    .where("version", "=", version)
    .execute();
  return new Map(await Promise.all(rows.map(async (r) => [r.file, await unpacked(r.gzip)] as const)));
}

/** Throws away files that no job and no arrival has. */
export async function clearReceived(tx: Kysely<Schema>): Promise<void> {
  await tx
    .deleteFrom("received")
    .where("hash", "not in", tx.selectFrom("arrival_files").select("file"))
    .where("hash", "not in", tx.selectFrom("sources").select("file"))
    .where("hash", "not in", tx.selectFrom("attachments").select("file"))
    .execute();
}
