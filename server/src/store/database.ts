import Database from "better-sqlite3";
import { Kysely, SqliteDialect } from "kysely";
import { migrate } from "./migrations";
import type { Schema } from "./schema";
import { ensureShop } from "./shops";

export interface Store {
  db: Kysely<Schema>;
  /** Writes a consistent copy of the data file. */
  backup(file: string): void;
  close(): Promise<void>;
}

/** The data file is open in another process. */
export class StoreInUse extends Error {
  constructor(file: string) {
    super(
      `The data file ${file} is in use by another Gray Bench. Stop that one, or start this one with another --data folder.`,
    );
  }
}

/**
 * Opens the data file and brings it up to date. One process at a time: a second one gets StoreInUse.
 * A write that was acknowledged survives a killed process and a lost power supply.
 */
export async function openStore(file: string): Promise<Store> {
  const raw = new Database(file, { timeout: 500 });
  try {
    raw.pragma("locking_mode = EXCLUSIVE");
    raw.pragma("journal_mode = WAL");
    raw.pragma("synchronous = FULL");
    raw.pragma("foreign_keys = ON");
    // The lock is taken with the first write and kept until the file is closed.
    raw.exec("BEGIN IMMEDIATE; COMMIT");
  } catch (error) {
    raw.close();
    if (String((error as { code?: string }).code).startsWith("SQLITE_BUSY")) throw new StoreInUse(file);
    throw error;
  }
  migrate(raw);
  const db = new Kysely<Schema>({ dialect: new SqliteDialect({ database: raw }) });
  await ensureShop(db, new Date().toISOString());
  return {
    db,
    backup: (to) => void raw.prepare("VACUUM INTO ?").run(to),
    async close() {
      await db.destroy();
      // Kysely closes only what it has opened with a first query.
      if (raw.open) raw.close();
    },
  };
}
