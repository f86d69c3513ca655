import { existsSync, rmSync, statSync } from "node:fs";
import { setImmediate } from "node:timers/promises";
import Database from "better-sqlite3";
import { Kysely, SqliteDialect, SqliteDriver, type DatabaseConnection, type Driver } from "kysely";
import { migrate, refuseNewer } from "./migrations";
import { isDiskFull, type Reserve } from "./reserve";
import type { Schema } from "./schema";
import { ensureShop } from "./shops";

export interface Store {
  db: Kysely<Schema>;
  /** Writes a consistent copy of the data file; nothing stays of one that found no room. */
  backup(file: string): Promise<void>;
  /** Gives the space of what was deleted back to the disk, in steps, between which others have their turn. */
  shrink(): Promise<void>;
  /**
   * Does what must be possible on a full disk too: what makes room, and what is written down of something done. Where the disk
   * is full it is done once more with the room that is kept back, so it must change nothing when it fails.
   */
  withReserve<T>(work: () => Promise<T>): Promise<T>;
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

/** A transaction that found no room has ended itself: rolling it back would hide why. */
class OurDialect extends SqliteDialect {
  readonly #raw: Database.Database;
  constructor(raw: Database.Database) {
    super({ database: raw });
    this.#raw = raw;
  }
  override createDriver(): Driver {
    const raw = this.#raw;
    return new (class extends SqliteDriver {
      override async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
        if (raw.inTransaction) await super.rollbackTransaction(connection);
      }
    })({ database: raw });
  }
}

/** Pages that are given back at once: 4 MB, about 10 ms. */
const SHRINK_PAGES = 1000;

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

/** Opens the data file and brings it up to date, on a full disk with the room that is kept back. */
async function openAnyhow(file: string, reserve: Reserve | undefined): Promise<Database.Database> {
  for (;;) {
    let raw: Database.Database | undefined;
    try {
      raw = open(file);
      migrate(raw);
      return raw;
    } catch (error) {
      raw?.close();
      if (!isDiskFull(error) || !reserve?.give()) throw error;
    }
  }
}

/**
 * Opens the data file and brings it up to date. One process at a time: a second one gets StoreInUse.
 * A write that was acknowledged survives a killed process and a lost power supply.
 * @param reserve room that is kept back for when the disk is full
 */
export async function openStore(file: string, reserve?: Reserve): Promise<Store> {
  const raw = await openAnyhow(file, reserve);
  const db = new Kysely<Schema>({ dialect: new OurDialect(raw) });
  await ensureShop(db, new Date().toISOString());
  reserve?.keep();
  /** In nobody's transaction: neither cutting off the log nor copying works within one. */
  const alone = (work: () => unknown): Promise<unknown> => db.connection().execute(() => Promise.resolve(work()));
  const free = (): number => raw.pragma("freelist_count", { simple: true }) as number;
  const shrink = async (): Promise<void> => {
    for (let before = Infinity, now = free(); now > 0 && now < before; before = now, now = free()) {
      await alone(() => {
        raw.pragma(`incremental_vacuum(${SHRINK_PAGES})`);
        // What was deleted is gone from the log of writes too, which then needs no more room than a step does.
        raw.pragma("wal_checkpoint(TRUNCATE)");
      });
      await setImmediate();
    }
    await alone(() => raw.pragma("wal_checkpoint(TRUNCATE)"));
  };
  return {
    db,
    shrink,
    async withReserve(work) {
      try {
        return await work();
      } catch (error) {
        if (!isDiskFull(error) || !reserve?.give()) throw error;
      }
      // What becomes free is not overwritten with blanks now, but by what is moved into it when the file gets shorter.
      raw.pragma("secure_delete = FAST");
      try {
        const done = await work();
        await shrink();
        return done;
      } finally {
        raw.pragma("secure_delete = ON");
        reserve.keep();
      }
    },
    async backup(to) {
      try {
        await alone(() => raw.prepare("VACUUM INTO ?").run(to));
      } catch (error) {
        rmSync(to, { force: true });
        throw error;
      }
    },
    async close() {
      await db.destroy();
      // Kysely closes only what it has opened with a first query.
      if (raw.open) raw.close();
    },
  };
}
