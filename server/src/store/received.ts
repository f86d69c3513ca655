import { gunzipSync, gzipSync } from "node:zlib";
import type { Kysely } from "kysely";
import type { Schema } from "./schema";

/** Keeps a file as received; one that is there already stays. */
export async function keepReceived(db: Kysely<Schema>, hash: string, bytes: Uint8Array): Promise<void> {
  await db
    .insertInto("received")
    .values({ hash, gzip: gzipSync(bytes, { level: 2 }), size: bytes.byteLength })
    .onConflict((c) => c.column("hash").doNothing())
    .execute();
}

/** The bytes of a file as received. */
export async function readReceived(db: Kysely<Schema>, hash: string): Promise<Buffer | undefined> {
  const row = await db.selectFrom("received").select("gzip").where("hash", "=", hash).executeTakeFirst();
  return row && gunzipSync(row.gzip);
}

/** Throws away files that no job and no arrival has. */
export async function clearReceived(tx: Kysely<Schema>): Promise<void> {
  await tx
    .deleteFrom("received")
    .where("hash", "not in", tx.selectFrom("arrival_files").select("file"))
    .where("hash", "not in", tx.selectFrom("sources").select("file"))
    .execute();
}
