import { chmodSync, copyFileSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { ADDRESS_FILE, lookAt, openStore, StoreDamaged, StoreForeign, StoreInUse } from "./store/database";
import { Reserve } from "./store/reserve";

const USAGE = "usage: npm run backup -- FILE [--data FOLDER]\n       npm run restore -- FILE [--data FOLDER]";

class WrongCall extends Error {}

/** Asks the server that has the data open for a copy. */
async function copyOf(folder: string): Promise<string> {
  const address = readFileSync(join(folder, ADDRESS_FILE), "utf8").trim();
  const reply = await fetch(`${address}/api/backup`, { method: "POST" });
  const told = (await reply.json()) as { file: string; message?: string };
  if (!reply.ok) throw new Error(told.message ?? `the server answered ${reply.status}`);
  return join(folder, told.file);
}

/** Copies the data to a file, whether a server runs on it or not. */
async function backup(data: string, to: string): Promise<void> {
  if (existsSync(to)) throw new WrongCall(`${to} is there already; name another file`);
  mkdirSync(dirname(to), { recursive: true });
  try {
    const store = await openStore(data, new Reserve(dirname(data)));
    await store.backup(to);
    await store.close();
  } catch (error) {
    if (!(error instanceof StoreInUse)) throw error;
    const copy = await copyOf(dirname(data));
    copyFileSync(copy, to);
    rmSync(copy);
  }
  chmodSync(to, 0o600);
  console.log(`copied to ${to}`);
}

/** Puts a backup in the place of the data. What was there stays beside it under another name. */
async function restore(data: string, from: string): Promise<void> {
  lookAt(from);
  const part = `${data}.part`;
  rmSync(part, { force: true });
  mkdirSync(dirname(data), { recursive: true });
  copyFileSync(from, part);
  chmodSync(part, 0o600);
  try {
    // Whole, and of a version that this program can read.
    await (await openStore(part)).close();
    if (existsSync(data)) {
      // Nobody may have it open.
      try {
        await (await openStore(data)).close();
      } catch (error) {
        if (!(error instanceof StoreDamaged || error instanceof StoreForeign)) throw error;
      }
      const aside = `${data}.before-${new Date().toISOString().replace(/[:.]/g, "-")}`;
      // With its log: a damaged file may be worth nothing without it.
      for (const end of ["-wal", "-shm", ""])
        if (existsSync(`${data}${end}`)) renameSync(`${data}${end}`, `${aside}${end}`);
      console.log(`what was there is kept as ${aside}`);
    }
    renameSync(part, data);
  } finally {
    for (const end of ["", "-wal", "-shm"]) rmSync(`${part}${end}`, { force: true });
  }
  console.log(`restored from ${from}`);
}

/** @returns 0 done, 1 it could not be done, 2 wrong call */
async function run(args: readonly string[]): Promise<number> {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { data: { type: "string", default: "data/own" } },
    });
    const [what, file, ...rest] = positionals;
    if (!["backup", "restore"].includes(what ?? "") || file === undefined || rest.length > 0) throw new WrongCall("");
    process.umask(0o077);
    await (what === "backup" ? backup : restore)(join(resolve(values.data), "gray-bench.db"), resolve(file));
    return 0;
  } catch (error) {
    const { message, code } = error as Error & { code?: string };
    const wrong = error instanceof WrongCall || code?.startsWith("ERR_PARSE_ARGS");
    console.error(wrong ? [message, USAGE].filter(Boolean).join("\n") : message);
    return wrong ? 2 : 1;
  }
}

process.exitCode = await run(process.argv.slice(2));
