import { asJson } from "../src/store/json";
import { readLog } from "../src/store/log";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync, gzipSync } from "node:zlib";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
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
import { clearOld, listResults, readResult, storeResults, type ResultRow } from "../src/store/results";
import { appendAudit, readAudit } from "../src/store/record";
import { appendShop, currentShop, findShop, listShops, shopOf } from "../src/store/shops";

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
  head: asJson({ enclosures: [], hinges: {}, rules: {}, options: [] }),
  json: Buffer.from(`{"hash":"${hash}"}`),
});

const row = (key: string, name: string, text = name): ResultRow => ({
  key,
  name,
  etag: `"${text}"`,
  type: "text/plain",
  gzip: gzipSync(text),
});

const DAY_MS = 86_400_000;
const NOW = Date.UTC(2026, 10, 24);

test("jobs come in the order they are due, those without a date last", async () => {
  for (const d of [
    design("C", "1", "c"),
    design("B", "1", "b", "2027-03-01"),
    design("A", "1", "a", "2027-01-01"),
    design("D", "1", "d"),
  ])
    await storeDesign(store.db, d);
  expect((await listJobs(store.db, 0, 50)).map((j) => j.job)).toEqual(["A", "B", "C", "D"]);
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

test("two jobs may hold the very same design; deleting one leaves the other", async () => {
  await storeDesign(store.db, design("A", "1", "same"));
  await storeDesign(store.db, design("B", "1", "same"));
  expect([await deleteJob(store.db, "A"), await deleteJob(store.db, "A")]).toEqual([true, false]);
  expect((await readDesignJson(store.db, "same"))!.toString()).toBe('{"hash":"same"}');
});

test("results are stored all or none, and may be stored again", async () => {
  const broken = { ...row("h", "x"), gzip: undefined as unknown as Buffer };
  await expect(storeResults(store.db, [row("h", "panel"), broken], NOW)).rejects.toMatchObject({
    code: "SQLITE_CONSTRAINT_NOTNULL",
  });
  expect(await listResults(store.db, "h")).toEqual([]);
  await storeResults(store.db, [row("h", "panel", "old")], NOW);
  await storeResults(store.db, [row("h", "panel", "new"), row("h", "routes")], NOW);
  expect(gunzipSync((await readResult(store.db, "h", "panel", NOW))!.gzip).toString()).toBe("new");
  expect((await listResults(store.db, "h")).map((r) => r.name)).toEqual(["panel", "routes"]);
});

describe("old results", () => {
  const keys = async (): Promise<string[]> =>
    (await store.db.selectFrom("results").select("key").orderBy("key").execute()).map((r) => r.key);
  const fill = async (): Promise<void> => {
    for (const [i, key] of ["a", "b", "c", "d"].entries())
      await storeResults(store.db, [row(key, "result")], NOW - (40 - 10 * i) * DAY_MS);
  };

  test("are cleared by age, but for those in use", async () => {
    await fill();
    expect(await clearOld(store.db, new Set(["a"]), NOW)).toBe(0);
    expect(await clearOld(store.db, new Set(["a"]), NOW + 5 * DAY_MS)).toBe(1);
    expect(await keys()).toEqual(["a", "c", "d"]);
  });

  test("are cleared by size, the longest unasked first, but for those in use", async () => {
    await fill();
    const one = row("a", "result").gzip.length;
    expect(await clearOld(store.db, new Set(["b"]), NOW, { mostBytes: 2 * one, oldestMs: 100 * DAY_MS })).toBe(2);
    expect(await keys()).toEqual(["b", "d"]);
  });

  test("stay when they are asked for", async () => {
    await fill();
    await readResult(store.db, "a", "result", NOW);
    expect(await clearOld(store.db, new Set(), NOW + 11 * DAY_MS)).toBe(2);
    expect(await keys()).toEqual(["a", "d"]);
  });
});

test("copying and giving space back wait for a transaction that is under way", async () => {
  await storeResults(store.db, [row("k", "big", "x".repeat(100_000))], NOW);
  const order: string[] = [];
  let open = (): void => undefined;
  const held = new Promise<void>((done) => (open = done));
  const writing = store.db.transaction().execute(async (tx) => {
    await tx.deleteFrom("results").execute();
    await held;
    order.push("written");
  });
  const copying = store.backup(join(folder, "copy.db")).then(() => order.push("copied"));
  const shrinking = store.shrink().then(() => order.push("shrunk"));
  open();
  await Promise.all([writing, copying, shrinking]);
  expect(order[0]).toBe("written");
  expect([...order].sort()).toEqual(["copied", "shrunk", "written"]);
});

test("the record keeps to a number of entries: the oldest go", async () => {
  const entry = (detail: string) => ({
    at: "2026-11-24T00:00:00Z",
    what: "import" as const,
    job: "A",
    who: null,
    address: "::1",
    detail,
  });
  for (const detail of ["1", "2", "3", "4"]) await appendAudit(store.db, entry(detail), 3);
  expect((await readAudit(store.db, 10)).map((e) => e.detail)).toEqual(["4", "3", "2"]);
});

describe("the shop", () => {
  test("is there from the beginning, and every job has one", async () => {
    await storeDesign(store.db, design("A", "1", "one"));
    const shop = await currentShop(store.db);
    expect([shop.number, shopOf(shop)]).toEqual([1, DEFAULT_SHOP]);
    expect((await findJob(store.db, "A"))!.shop).toBe(shop.hash);
  });

  test("is only added to; an earlier one may come back", async () => {
    const other = { ...DEFAULT_SHOP, name: "other" };
    const by = { who: "A. Lund", why: null, at: "2026-11-24T00:00:00Z" };
    await appendShop(store.db, other, by);
    await appendShop(store.db, DEFAULT_SHOP, by);
    expect((await listShops(store.db)).map((s) => s.number)).toEqual([3, 2, 1]);
    expect((await findShop(store.db, (await currentShop(store.db)).hash))!.number).toBe(3);
    await store.close();
    store = await openStore(join(folder, "a.db"));
    expect(await listShops(store.db)).toHaveLength(3);
  });
});

test("a data file of before has its results made anew and its jobs given the shop", async () => {
  await storeDesign(store.db, design("A", "1", "one"));
  await store.close();
  const raw = new Database(join(folder, "a.db"));
  raw.exec(`DROP TABLE results; DROP TABLE shops; DROP TABLE bookings; DROP TABLE events;
    DROP TABLE stock; DROP TABLE reservations; DROP TABLE claims; DROP TABLE run_leads; DROP TABLE runs; DROP TABLE batches; DROP TABLE audit;
    DROP TABLE readings; DROP TABLE attachments; DROP TABLE sources; DROP TABLE arrival_files; DROP TABLE arrivals; DROP TABLE received; DROP TABLE matchings; DROP TABLE libraries;
    ALTER TABLE jobs DROP COLUMN library_hash;
    CREATE TABLE results (design_hash TEXT) STRICT;
    ALTER TABLE jobs DROP COLUMN shop_hash; ALTER TABLE jobs DROP COLUMN shown_key;
    ALTER TABLE log DROP COLUMN received;
    INSERT INTO log (job, what, id, kind, payload, why, who, at, hash)
      SELECT 'A', 'edit', 'e', 'turn', '{}', NULL, 'i', imported_at, 'h' FROM designs;
    PRAGMA user_version = 2;`);
  raw.close();
  store = await openStore(join(folder, "a.db"));
  const job = (await findJob(store.db, "A"))!;
  expect(job.shop).toBe((await currentShop(store.db)).hash);
  expect((await readLog(store.db, "A")).map((r) => r.received)).toEqual([job.received]);
});

test("a backup is a whole data file of its own", async () => {
  await storeDesign(store.db, design("A", "1", "one"));
  await store.backup(join(folder, "copy.db"));
  const copy = await openStore(join(folder, "copy.db"));
  expect((await listJobs(copy.db, 0, 50)).map((j) => j.job)).toEqual(["A"]);
  await copy.close();
});

test("a second opening is refused while the first lasts, and works after it", async () => {
  const file = join(folder, "a.db");
  await expect(openStore(file)).rejects.toThrow(StoreInUse);
  await store.close();
  store = await openStore(file);
  expect(await listJobs(store.db, 0, 50)).toEqual([]);
});

test("a data file of a newer program is refused, untouched", async () => {
  const file = join(folder, "newer.db");
  const raw = new Database(file);
  raw.pragma("user_version = 99");
  raw.close();
  await expect(openStore(file)).rejects.toThrow(/newer Gray Bench \(schema 99/);
});
