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

/** Throws away files that no job and no arrival has. */
export async function clearReceived(tx: Kysely<Schema>): Promise<void> {
  await tx
    .deleteFrom("received")
    .where("hash", "not in", tx.selectFrom("arrival_files").select("file"))
    .where("hash", "not in", tx.selectFrom("sources").select("file"))
    .execute();
}
