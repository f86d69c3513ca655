import { randomBytes } from "node:crypto";
import type { Attachment } from "@gray-bench/contract/attachments";
import type { Kysely } from "kysely";
import { clearReceived, keepReading, keepReceived, type Reading, type Received } from "./received";
import type { AttachmentsTable, Schema } from "./schema";

/** What was taken off can be put back for so long. */
const KEPT_DAYS = 30;

const selected = (db: Kysely<Schema>) =>
  db
    .selectFrom("attachments")
    .innerJoin("received", "received.hash", "attachments.file")
    .leftJoin("readings", "readings.file", "attachments.file")
    .select([
      "attachments.id",
      "attachments.name",
      "attachments.type",
      "received.size as bytes",
      "attachments.file",
      "attachments.thing",
      "attachments.of",
      "attachments.at",
      "attachments.who",
      "readings.pages",
      "readings.empty",
      "attachments.gone",
    ]);

type Row = Awaited<ReturnType<ReturnType<typeof selected>["execute"]>>[number];

const attachmentOf = ({ empty, ...row }: Row): Attachment => ({
  ...row,
  empty: empty ?? 0,
});

/** By name; with those that were taken off. */
export const listAttachments = async (db: Kysely<Schema>, job: string): Promise<Attachment[]> =>
  (
    await selected(db)
      .where("attachments.job", "=", job)
      .orderBy("attachments.name")
      .orderBy("attachments.at")
      .orderBy("attachments.id")
      .execute()
  ).map(attachmentOf);

export type NewAttachment = Omit<AttachmentsTable, "id" | "gone">;

/** Attaches files that are there; one of the same name and thing is taken off for it. Part of the caller's transaction. */
export async function attachAll(tx: Kysely<Schema>, all: readonly NewAttachment[]): Promise<string[]> {
  const ids: string[] = [];
  for (const one of all) {
    await tx
      .updateTable("attachments")
      .set({ gone: one.at })
      .where("job", "=", one.job)
      .where("name", "=", one.name)
      .where("thing", "is", one.thing)
      .where("of", "is", one.of)
      .where("gone", "is", null)
      .execute();
    const id = randomBytes(6).toString("hex");
    await tx
      .insertInto("attachments")
      .values({ id, ...one, gone: null })
      .execute();
    ids.push(id);
  }
  return ids;
}

/** Attaches a file that has come in, with what it says. What was taken off long ago is let go. */
export function attach(
  db: Kysely<Schema>,
  one: NewAttachment,
  come: Received,
  reading: Reading | null,
): Promise<string> {
  return db.transaction().execute(async (tx) => {
    await keepReceived(tx, come);
    if (reading) await keepReading(tx, come.hash, reading);
    const [id] = await attachAll(tx, [one]);
    const before = new Date(Date.parse(one.at) - KEPT_DAYS * 24 * 3600 * 1000).toISOString();
    await tx.deleteFrom("attachments").where("gone", "<", before).execute();
    await clearReceived(tx);
    return id!;
  });
}

/** Takes one off, or puts it back. */
export const setGone = (db: Kysely<Schema>, id: string, gone: string | null) =>
  db.updateTable("attachments").set({ gone }).where("id", "=", id).execute();
