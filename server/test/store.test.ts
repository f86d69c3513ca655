import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { openStore, StoreInUse, type Store } from "../src/store/database";
import {
  deleteJob,
  findJob,
  listJobs,
  listRevisions,
  readDesignJson,
  storeDesign,
  type NewDesign,
} from "../src/store/jobs";
import { listResults, readResult, storeResults } from "../src/store/results";

let folder: string;
let store: Store;
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), "gray-bench-"));
  store = await openStore(join(folder, "a.db"));
});
afterEach(async () => {
  await store.close();
  rmSync(folder, { recursive: true });
});

const design = (job: string, revision: string, hash: string, due: string | null = null): NewDesign => ({
  job,
  revision,
  hash,
  due,
  title: job,
  customer: null,
  imported_at: "2026-11-23T00:00:00Z",
  head: "{}",
  json: Buffer.from(`{"hash":"${hash}"}`),
});

const row = (name: string, text = name) => ({ name, etag: `"${text}"`, type: "text/plain", bytes: Buffer.from(text) });

test("jobs come in the order they are due, those without a date last", async () => {
  for (const d of [
    design("C", "1", "c"),
    design("B", "1", "b", "2027-03-01"),
    design("A", "1", "a", "2027-01-01"),
    design("D", "1", "d"),
  ])
    await storeDesign(store.db, d);
  expect((await listJobs(store.db)).map((j) => j.job)).toEqual(["A", "B", "C", "D"]);
});

test("the last revision stored counts; earlier ones stay readable", async () => {
  expect(await storeDesign(store.db, design("A", "1", "one"))).toBe("stored");
  expect(await storeDesign(store.db, design("A", "2", "two"))).toBe("stored");
  expect(await storeDesign(store.db, design("A", "1", "one"))).toBe("already");
  expect((await findJob(store.db, "A"))!.hash).toBe("two");
  expect((await listRevisions(store.db, "A")).map((r) => r.revision)).toEqual(["2", "1"]);
  expect((await readDesignJson(store.db, "one"))!.toString()).toBe('{"hash":"one"}');
});

test("another design at a revision that is taken is refused and changes nothing", async () => {
  await storeDesign(store.db, design("A", "1", "one"));
  await expect(storeDesign(store.db, design("A", "1", "other"))).rejects.toMatchObject({
    body: { code: "revision.taken" },
  });
  expect((await findJob(store.db, "A"))!.hash).toBe("one");
  expect(await listRevisions(store.db, "A")).toHaveLength(1);
});

test("two jobs may hold the very same design; deleting one keeps the results of the other", async () => {
  await storeDesign(store.db, design("A", "1", "same"));
  await storeDesign(store.db, design("B", "1", "same"));
  await storeDesign(store.db, design("A", "2", "own"));
  await storeResults(store.db, "same", [row("routes")]);
  await storeResults(store.db, "own", [row("routes")]);
  expect(await deleteJob(store.db, "A")).toBe(true);
  expect(await deleteJob(store.db, "A")).toBe(false);
  expect(await readResult(store.db, "same", "routes")).toBeDefined();
  expect(await readResult(store.db, "own", "routes")).toBeUndefined();
});

test("results are stored all or none, and may be stored again", async () => {
  const broken = { ...row("x"), bytes: undefined as unknown as Buffer };
  await expect(storeResults(store.db, "h", [row("panel"), broken])).rejects.toMatchObject({
    code: "SQLITE_CONSTRAINT_NOTNULL",
  });
  expect(await listResults(store.db, "h")).toEqual([]);
  await storeResults(store.db, "h", [row("panel", "old")]);
  await storeResults(store.db, "h", [row("panel", "new"), row("routes")]);
  expect((await readResult(store.db, "h", "panel"))!.bytes.toString()).toBe("new");
  expect((await listResults(store.db, "h")).map((r) => r.name)).toEqual(["panel", "routes"]);
});

test("a backup is a whole data file of its own", async () => {
  await storeDesign(store.db, design("A", "1", "one"));
  store.backup(join(folder, "copy.db"));
  const copy = await openStore(join(folder, "copy.db"));
  expect((await listJobs(copy.db)).map((j) => j.job)).toEqual(["A"]);
  await copy.close();
});

test("a second opening is refused while the first lasts, and works after it", async () => {
  const file = join(folder, "a.db");
  await expect(openStore(file)).rejects.toThrow(StoreInUse);
  await store.close();
  store = await openStore(file);
  expect(await listJobs(store.db)).toEqual([]);
});

test("a data file of a newer program is refused, untouched", async () => {
  const file = join(folder, "newer.db");
  const raw = new Database(file);
  raw.pragma("user_version = 99");
  raw.close();
  await expect(openStore(file)).rejects.toThrow(/newer Gray Bench \(schema 99/);
});
