import { existsSync, statSync } from "node:fs";
import Database from "better-sqlite3";
import { Kysely, SqliteDialect } from "kysely";
import { migrate, refuseNewer } from "./migrations";
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

/** A file is data of something else, or of nothing. */
export class StoreForeign extends Error {
  constructor(file: string, reason: string) {
    super(`${file} is no data file of Gray Bench: ${reason}. Nothing was changed.`);
  }
}

/** Tables that every version has. */
const OURS = ["jobs", "designs", "results"] as const;

/**
 * Looks at a file without touching it: whether it is whole, of this program, and of a version it knows.
 * @throws StoreInUse, StoreDamaged, StoreForeign
 */
export function lookAt(file: string): void {
  let raw: Database.Database | null = null;
  try {
    raw = new Database(file, { timeout: 500, readonly: true, fileMustExist: true });
    const tables = new Set(
      (raw.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").all() as { name: string }[]).map(
        (t) => t.name,
      ),
    );
    refuseNewer(raw);
    if (tables.size === 0) throw new StoreForeign(file, "it is empty");
    if (!OURS.every((t) => tables.has(t))) throw new StoreForeign(file, "its tables are others");
    const [{ quick_check: found }] = raw.pragma("quick_check(1)") as [{ quick_check: string }];
    if (found !== "ok") throw new StoreDamaged(file, found);
  } catch (error) {
    throw told(file, error);
  } finally {
    raw?.close();
  }
}

/** What went wrong with a data file, in our words where we have any. */
function told(file: string, error: unknown): unknown {
  const code = String((error as { code?: string }).code);
  if (code.startsWith("SQLITE_BUSY")) return new StoreInUse(file);
  if (/^SQLITE_(CORRUPT|NOTADB)/.test(code)) return new StoreDamaged(file, (error as Error).message);
  return error;
}

/** Opens the file alone, and looks whether it is whole: what is not is left as it was. */
function open(file: string): Database.Database {
  if (existsSync(file) && statSync(file).size > 0) lookAt(file);
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
    return raw;
  } catch (error) {
    raw.close();
    throw told(file, error);
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
    shrink() {
      raw.pragma("incremental_vacuum");
      // What was deleted is gone from the log of writes too.
      raw.pragma("wal_checkpoint(TRUNCATE)");
    },
    backup: (to) => void raw.prepare("VACUUM INTO ?").run(to),
    async close() {
      await db.destroy();
      // Kysely closes only what it has opened with a first query.
      if (raw.open) raw.close();
    },
  };
}
