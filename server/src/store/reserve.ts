import { randomFillSync } from "node:crypto";
import { closeSync, openSync, rmSync, statSync, writeSync } from "node:fs";
import { join } from "node:path";

/** Enough for what takes a job out of the data: what it frees is given back in steps smaller than this. */
const RESERVE_BYTES = 32 << 20;
const STEP_BYTES = 1 << 20;

/** Whether something failed because there is no room on the disk; that a file beside the data cannot grow is another word for it. */
export const isDiskFull = (error: unknown): boolean =>
  /^(SQLITE_FULL|SQLITE_IOERR_SHMSIZE|ENOSPC|EDQUOT)/.test(String((error as { code?: unknown } | null)?.code));

/**
 * Room on the disk of the data that is kept back in a file of its own. A disk that is full takes nothing more, not even the
 * few pages that a delete writes: then this file gives way.
 */
export class Reserve {
  readonly #file: string;
  readonly #bytes: number;

  /**
   * @param folder the folder of the data
   * @param bytes how much is kept back, where the disk has it
   */
  constructor(folder: string, bytes: number = RESERVE_BYTES) {
    this.#file = join(folder, "kept-back");
    this.#bytes = bytes;
  }

  /**
   * Keeps room back, as much of it as there is; what is kept back already stays as it is.
   * @returns bytes kept back
   */
  keep(): number {
    let kept = statSync(this.#file, { throwIfNoEntry: false })?.size ?? 0;
    if (kept >= this.#bytes) return kept;
    try {
      const to = openSync(this.#file, "a", 0o600);
      try {
        // Random: a file system may pack what repeats into nothing.
        const step = randomFillSync(Buffer.alloc(STEP_BYTES));
        while (kept < this.#bytes) kept += writeSync(to, step, 0, Math.min(STEP_BYTES, this.#bytes - kept));
      } finally {
        closeSync(to);
      }
    } catch (error) {
      if (!isDiskFull(error)) throw error;
    }
    return kept;
  }

  /** Lets the room go. @returns whether there was any */
  give(): boolean {
    if (!statSync(this.#file, { throwIfNoEntry: false })?.size) return false;
    rmSync(this.#file);
    return true;
  }
}
