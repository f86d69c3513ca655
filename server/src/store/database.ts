import Database from "better-sqlite3";
import { Kysely, SqliteDialect } from "kysely";
import { migrate } from "./migrations";
import type { Schema } from "./schema";
import { ensureShop } from "./shops";

export interface Store {
  db: Kysely<Schema>;
  /** Writes a consistent copy of the data file. */
  backup(file: string): void;
  /** Gives the space of what was deleted back to the disk. */
  shrink(): void;
  close(): Promise<void>;
}

/** Where a running server says its address, beside its data file. */
export const ADDRESS_FILE = "address";

/** The data file is open in another process. */
export class StoreInUse extends Error {
  constructor(file: string) {
    super(
      `The data file ${file} is in use by another Gray Bench. Stop that one, or start this one with another --data folder.`,
    );
  }
}

/** The data file is no data file any more. */
export class StoreDamaged extends Error {
  constructor(file: string, reason: string) {
    super(
      `The data file ${file} is damaged: ${reason}. Put it aside and restore the last backup (npm run restore -- BACKUP); nothing was changed.`,
    );
  }
}

/** Opens the file alone, and looks whether it is whole. */
function open(file: string): Database.Database {
  const raw = new Database(file, { timeout: 500 });
  try {
    raw.pragma("locking_mode = EXCLUSIVE");
    // Before there is anything in it: space of what is deleted is given back, and its content is gone from the file.
    raw.pragma("auto_vacuum = INCREMENTAL");
    raw.pragma("journal_mode = WAL");
    raw.pragma("synchronous = FULL");
    raw.pragma("foreign_keys = ON");
    raw.pragma("secure_delete = ON");
    // The lock is taken with the first write and kept until the file is closed.
    raw.exec("BEGIN IMMEDIATE; COMMIT");
    const [{ quick_check: found }] = raw.pragma("quick_check(1)") as [{ quick_check: string }];
    if (found !== "ok") throw new StoreDamaged(file, found);
    return raw;
  } catch (error) {
    raw.close();
    const code = String((error as { code?: string }).code);
    if (code.startsWith("SQLITE_BUSY")) throw new StoreInUse(file);
    if (/^SQLITE_(CORRUPT|NOTADB)/.test(code)) throw new StoreDamaged(file, (error as Error).message);
    throw error;
  }
}

/**
 * Opens the data file and brings it up to date. One process at a time: a second one gets StoreInUse.
 * A write that was acknowledged survives a killed process and a lost power supply.
 */
export async function openStore(file: string): Promise<Store> {
  const raw = open(file);
  migrate(raw);
  const db = new Kysely<Schema>({ dialect: new SqliteDialect({ database: raw }) });
  await ensureShop(db, new Date().toISOString());
  return {
    db,
    shrink: () => void raw.pragma("incremental_vacuum"),
    backup: (to) => void raw.prepare("VACUUM INTO ?").run(to),
    async close() {
      await db.destroy();
      // Kysely closes only what it has opened with a first query.
      if (raw.open) raw.close();
    },
  };
}
