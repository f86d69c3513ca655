import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { EditLog, EditReply } from "@gray-bench/contract/edits";
import type { JobDetail, JobSummary } from "@gray-bench/contract/jobs";
import type { Effect } from "@gray-bench/contract/results";
import type { ShopEffect, ShopEffects, ShopReply } from "@gray-bench/contract/shop";
import { contentHash } from "@gray-bench/core/design/hash";
import { readEdits } from "@gray-bench/core/frame/edits-file";
import { readDesign } from "@gray-bench/core/design/read";
import { DEFAULT_SHOP, readShop } from "@gray-bench/core/shop/shop";
import { withRule } from "@gray-bench/core/shop/shop-changes";
import { EDITS } from "@gray-bench/core/edits";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { startWorkers, type Workers } from "../src/workers/pool";
import { DESIGNS, post, start, WORKER, type Bench } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const JOB = "/api/jobs/HILL-2604";

let bench: Bench;
beforeEach(async () => {
  bench = await start();
  await post(bench.app, HILL);
  await get(`${JOB}/stages/routes`);
});
afterEach(() => bench.close());

const get = async <T>(url: string): Promise<T> => (await bench.app.inject({ method: "GET", url })).json<T>();
const send = (method: "POST" | "PUT", url: string, body: unknown) =>
  bench.app.inject({ method, url, headers: { "content-type": "application/json" }, payload: JSON.stringify(body) });

const SLACK = withRule(DEFAULT_SHOP, "routes.slackMm", 50);
const change = (shop: unknown, on = contentHash(DEFAULT_SHOP), who = "A. Lund") =>
  send("PUT", "/api/shop", { on, who, shop });
const total = (job: JobSummary): number => job.figures!.find((f) => f.id === "total")!.value;

describe("the shop", () => {
  test("is changed as a new version; a job keeps its own and is stale until the newer one is taken over", async () => {
    const before = await get<JobDetail>(JOB);
    const reply = await change(SLACK);
    expect(reply.json<ShopReply>()).toMatchObject({
      number: 2,
      hash: contentHash(SLACK),
      who: "A. Lund",
      changes: ["slack at an end: 50 mm (was 30)"],
    });
    const stale = await get<JobDetail>(JOB);
    expect([stale.shopNewer, stale.shopHash, total(stale)]).toEqual([true, before.shopHash, total(before)]);
    expect(stale.stages.slice(0, 3).map((s) => s.state)).toEqual(["ready", "ready", "stale"]);
    expect((await get<ShopReply>(`${JOB}/shop`)).number).toBe(1);

    await send("POST", `${JOB}/shop`, { who: "A. Lund" });
    await get(`${JOB}/stages/routes`);
    const taken = await get<JobDetail>(JOB);
    expect([taken.shopNewer, taken.shopHash]).toEqual([false, contentHash(SLACK)]);
    expect(total(taken)).toBeGreaterThan(total(before));

    // Back to the version of before: the old numbers are a look-up.
    await send("POST", `${JOB}/shop`, { who: "A. Lund", shop: before.shopHash });
    const back = await get<JobDetail>(JOB);
    expect([back.run, total(back), back.keys]).toEqual(["done", total(before), before.keys]);
  });

  test("an earlier version put back is a new version, and jobs that have it are not stale", async () => {
    await change(SLACK);
    await change(DEFAULT_SHOP, contentHash(SLACK));
    const { versions } = await get<{ versions: ShopReply[] }>("/api/shop/versions");
    expect(versions.map((v) => [v.number, v.changes])).toEqual([
      [3, ["slack at an end: 30 mm (was 50)"]],
      [2, ["slack at an end: 50 mm (was 30)"]],
      [1, []],
    ]);
    expect((await get<JobDetail>(JOB)).shopNewer).toBe(false);
    expect((await get<ShopReply>("/api/shop/versions/2")).shop).toEqual(SLACK);
  });

  test("tells what a change would do, and changes nothing", async () => {
    const reply = await send("POST", "/api/shop/effect", { shop: SLACK });
    const [effect] = reply.json<{ jobs: ShopEffect[] }>().jobs;
    const before = await get<JobDetail>(JOB);
    const metres = effect!.figures.find((f) => f.id === "total")!;
    expect([effect!.code, metres.before]).toEqual(["HILL-2604", total(before)]);
    expect(effect!.words[0]).toEqual({ text: "32 wires longer by {mm} in all", mm: metres.after - metres.before });
    expect([(await get<ShopReply>("/api/shop")).number, before.shopNewer]).toEqual([1, false]);
    // What was computed for the question is there when it is taken.
    await change(SLACK);
    const taken = (await send("POST", `${JOB}/shop`, { who: "A. Lund" })).json<JobSummary>();
    expect([taken.run, total(taken)]).toEqual(["done", metres.after]);
  });

  test("one job that cannot be computed does not keep the others from being told", async () => {
    const workers = startWorkers(WORKER, { threads: 1 });
    const failing: Workers = {
      ...workers,
      compute: (task, ...rest) =>
        Buffer.from(task.design.json).includes("LARK-2601")
          ? Promise.reject(new Error("something broke"))
          : workers.compute(task, ...rest),
    };
    const two = await start({ workers: failing });
    try {
      await post(two.app, HILL);
      await post(two.app, readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8"));
      const reply = await two.app.inject({
        method: "POST",
        url: "/api/shop/effect",
        headers: { "content-type": "application/json" },
        payload: JSON.stringify({ shop: SLACK }),
      });
      const { jobs, failed } = reply.json<ShopEffects>();
      expect([jobs.map((j) => j.code), failed.map((j) => j.code)]).toEqual([["HILL-2604"], ["LARK-2601"]]);
      expect(failed[0]!.why.length).toBeGreaterThan(10);
    } finally {
      await two.close();
      await workers.close();
    }
  });

  test("what cannot be is refused with every place, and nothing is changed", async () => {
    const wrong = withRule(withRule(DEFAULT_SHOP, "routes.slackMm", -1), "ends", [{ end: "glue" }]);
    for (const reply of [await change(wrong), await send("POST", "/api/shop/effect", { shop: wrong })]) {
      expect([reply.statusCode, reply.json<{ code: string }>().code]).toEqual([422, "shop.refused"]);
      expect(reply.json<{ faults: { path: string }[] }>().faults.map((f) => f.path)).toEqual([
        "rules.routes.slackMm",
        "rules.ends[0].end",
      ]);
    }
    expect((await get<ShopReply>("/api/shop")).number).toBe(1);
  });

  test("who changes a shop that was changed meanwhile is told what was done", async () => {
    await change(SLACK);
    const late = await change(withRule(DEFAULT_SHOP, "routes.stepMm", 10));
    expect([late.statusCode, late.json<{ changed: string[] }>().changed]).toEqual([
      409,
      ["A. Lund: slack at an end: 50 mm (was 30)"],
    ]);
  });

  test("goes out as a file that reads back, and an unknown version says so", async () => {
    const file = await bench.app.inject({ method: "GET", url: "/api/shop/file" });
    expect(file.headers["content-disposition"]).toBe('attachment; filename="shop-1.shop.json"');
    expect(readShop(file.payload)).toEqual({ ok: true, value: DEFAULT_SHOP });
    for (const url of ["/api/shop/versions/9"])
      expect((await bench.app.inject({ method: "GET", url })).statusCode).toBe(404);
    expect((await send("POST", `${JOB}/shop`, { who: "A. Lund", shop: "0".repeat(64) })).statusCode).toBe(404);
  });
});

describe("an edit", () => {
  const lay = async (kind: string, payload: object): Promise<EditReply> => {
    const { designHash: on } = await get<EditLog>(`${JOB}/edits`);
    const reply = await send("POST", `${JOB}/edits`, { on, who: "M. Orr", edits: [{ kind, payload }] });
    expect(reply.statusCode).toBe(201);
    await get(`${JOB}/stages/routes`);
    return reply.json<EditReply>();
  };

  test("computes only the stages it touches", async () => {
    const before = await get<JobDetail>(JOB);
    const rows = async (key: string) => (await get<JobDetail>(JOB)).keys![key];
    await lay("set wires", { wires: ["1"], colour: "PK" });
    const after = await get<JobDetail>(JOB);
    expect(after.key).not.toBe(before.key);
    expect(["intake", "panel", "routes"].map((s) => after.keys![s] === before.keys![s])).toEqual([false, true, true]);
    await lay("set wires", { wires: ["1"], sizeMm2: 4 });
    expect([await rows("panel"), (await rows("routes")) === before.keys!.routes]).toEqual([before.keys!.panel, false]);
  });

  test("tells what it came to", async () => {
    const { key } = await get<JobDetail>(JOB);
    await lay("set rules", { rules: { slackMm: 45 } });
    const effect = await get<Effect>(`${JOB}/effect?since=${key}`);
    expect(effect.words[0]).toMatchObject({ text: "32 wires longer by {mm} in all" });
    expect([effect.solved, effect.raised]).toEqual([0, 0]);
    const unknown = await bench.app.inject({ method: "GET", url: `${JOB}/effect?since=${"0".repeat(64)}` });
    expect([unknown.statusCode, unknown.json<{ code: string }>().code]).toEqual([404, "result.not-kept"]);
  });

  test("goes out with the others as a file; laid on the design as received it gives the current one", async () => {
    await lay("set wires", { wires: ["1"], colour: "PK" });
    const { ids } = await lay("set wires", { wires: ["2"], sizeMm2: 4 });
    await send("POST", `${JOB}/edits/${ids[0]}/back`, {
      on: (await get<EditLog>(`${JOB}/edits`)).designHash,
      who: "M. Orr",
    });
    const now = await get<JobDetail>(JOB);
    const design = await bench.app.inject({ method: "GET", url: `${JOB}/design/file` });
    const read = readDesign(design.payload);
    expect(read.ok && contentHash(read.design)).toBe(now.designHash);
    const edits = readEdits((await bench.app.inject({ method: "GET", url: `${JOB}/edits/file` })).payload);
    const received = readDesign(HILL);
    if (!edits.ok || !received.ok) throw new Error("not read");
    expect(edits.value.received).toBe(contentHash(received.design));
    expect(contentHash(EDITS.lay(received.design, edits.value.edits).design)).toBe(now.designHash);
  });
});

test("results are sent as they are kept, and unpacked for who cannot read that", async () => {
  const ask = (encoding: string) =>
    bench.app.inject({ method: "GET", url: `${JOB}/stages/routes`, headers: { "accept-encoding": encoding } });
  const [packed, plain] = [await ask("gzip, br"), await ask("identity")];
  expect([packed.headers["content-encoding"], plain.headers["content-encoding"]]).toEqual(["gzip", undefined]);
  expect(packed.rawPayload.length * 3).toBeLessThan(plain.rawPayload.length);
  expect(plain.json<RoutesResult>().wires.length).toBeGreaterThan(30);
  expect(packed.headers.etag).toBe(plain.headers.etag);
});
