import { asJson } from "../src/store/json";
import { readFileSync } from "node:fs";
import { request } from "node:http";
import { join } from "node:path";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { JobDetail, JobList } from "@gray-bench/contract/jobs";
import type { ProgressEvent } from "@gray-bench/contract/results";
import type { SearchReply } from "@gray-bench/contract/search";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
import { withRule } from "@gray-bench/core/shop/shop-changes";
import { contentHash } from "@gray-bench/core/design/hash";
import { LARGE, large } from "@gray-bench/designs/large";
import { serverBusy } from "../src/errors";
import { openStore } from "../src/store/database";
import { storeDesign } from "../src/store/jobs";
import { startWorkers, type Workers } from "../src/workers/pool";
import { DESIGNS, post, start, WORKER, type Bench } from "./helper";

const HILL = JSON.parse(readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8")) as {
  job: Record<string, string>;
};
const hill = (job: Record<string, string>): string => JSON.stringify({ ...HILL, job: { ...HILL.job, ...job } });

/** Workers whose computations never end by themselves; each shows how it may be ended. */
function endless(): { workers: Workers; begun: { design: string; signal: AbortSignal }[] } {
  const begun: { design: string; signal: AbortSignal }[] = [];
  const real = startWorkers(WORKER, { threads: 1 });
  const workers: Workers = {
    ...real,
    compute: ({ design }, signal) => {
      begun.push({ design: design.hash, signal });
      return new Promise((_, fail) => signal.addEventListener("abort", () => fail(signal.reason as Error)));
    },
  };
  return { workers, begun };
}
const aborted = (signal: AbortSignal): Promise<unknown> =>
  signal.aborted ? Promise.resolve() : new Promise((end) => signal.addEventListener("abort", end));

let bench: Bench | undefined;
afterEach(async () => {
  await bench?.close();
  bench = undefined;
});

test("a search passes over jobs that are deleted while it looks, and keeps nothing of them", async () => {
  const real = startWorkers(WORKER, { threads: 1 });
  let looked = 0;
  const remove = (job: string) => bench!.app.inject({ method: "DELETE", url: `/api/jobs/${job}` });
  const store = await openStore(":memory:");
  bench = await start({
    store,
    workers: {
      ...real,
      async index(task) {
        // The one that is just gathered goes, and one whose turn comes later.
        if (++looked === 1) for (const job of ["A", "C"]) await remove(job);
        return real.index(task);
      },
    },
  });
  const jobs: [string, string][] = [
    ["A", "2027-01-01"],
    ["B", "2027-01-02"],
    ["C", "2027-01-03"],
  ];
  for (const [code, due] of jobs) await post(bench.app, hill({ code, due }));
  const reply = await bench.app.inject("/api/search?q=-K1");
  expect(reply.statusCode).toBe(200);
  expect([...new Set(reply.json<SearchReply>().hits.map((h) => h.job))]).toEqual(["B"]);
  expect(looked).toBe(2);
  expect(await store.db.selectFrom("results").select("key").where("name", "=", "names").execute()).toHaveLength(1);
  // Whoever asks for one that went hears that it is not there.
  const gone = await bench.app.inject("/api/jobs/A/stages/routes");
  expect([gone.statusCode, gone.json<ErrorBody>().code]).toEqual([404, "job.unknown"]);
});

describe("two thousand jobs", () => {
  const JOBS = 2000;
  const padded = (i: number): string => String(i).padStart(4, "0");

  const LISTS = "enclosures faces rails ducts crossings parts devices nets wires cables strips options".split(" ");
  const EMPTY = Object.fromEntries(LISTS.map((l) => [l, []]));

  /** Jobs of which nothing is computed, put straight into the data. */
  async function filled(): Promise<Bench> {
    const store = await openStore(":memory:");
    for (let i = 0; i < JOBS; i++) {
      await storeDesign(store.db, {
        hash: `h${i}`,
        job: `J-${padded(i)}`,
        revision: "A",
        title: i === 7 ? "crane 100% new" : `press ${i}`,
        customer: i % 2 ? null : "Mill_One",
        due: i % 10 === 9 ? null : `2027-0${1 + (i % 9)}-01`,
        imported_at: "2026-11-26T00:00:00Z",
        head: asJson({ enclosures: [], hinges: {}, rules: {}, options: [] }),
        json: Buffer.from(JSON.stringify({ ...EMPTY, devices: [{ tag: `-K${i}`, part: "P" }] })),
      });
    }
    return start({ store });
  }
  const list = async (query: string): Promise<JobList> =>
    (await bench!.app.inject({ url: `/api/jobs?${query}` })).json<JobList>();

  test("come in pages, all of them once and in order", async () => {
    bench = await filled();
    const all: JobList["jobs"] = [];
    for (let from = 0; from < JOBS; from += 200) {
      const page = await list(`from=${from}&most=200`);
      expect([page.total, page.jobs.length]).toEqual([JOBS, 200]);
      all.push(...page.jobs);
    }
    expect(new Set(all.map((j) => j.code)).size).toBe(JOBS);
    const order = all.map((j) => `${j.due ?? "9"} ${j.code}`);
    expect(order).toEqual([...order].sort());
    expect((await list("")).jobs).toHaveLength(50);
    for (const wrong of ["most=201", "most=0", "from=-1", "from=x"])
      expect((await bench.app.inject({ url: `/api/jobs?${wrong}` })).statusCode).toBe(400);
  }, 60_000);

  test("are found by code, title and customer; what means something to the data file is only text", async () => {
    bench = await filled();
    const codes = async (q: string): Promise<string[]> =>
      (await list(`q=${encodeURIComponent(q)}&most=200`)).jobs.map((j) => j.code).sort();
    expect(await codes("J-1999")).toEqual(["J-1999"]);
    expect(await codes("CRANE")).toEqual(["J-0007"]);
    expect(await codes("100%")).toEqual(["J-0007"]);
    expect(await codes("press 199?")).toEqual([
      "J-1990",
      "J-1991",
      "J-1992",
      "J-1993",
      "J-1994",
      "J-1995",
      "J-1996",
      "J-1997",
      "J-1998",
      "J-1999",
    ]);
    expect((await list("q=Mill_One")).total).toBe(JOBS / 2);
    expect((await list("q=MillXOne")).total).toBe(0);
    expect(await codes("' OR 1=1 --")).toEqual([]);
  }, 60_000);

  test("with an older shop are listed by themselves", async () => {
    bench = await filled();
    expect((await list("older=true")).total).toBe(0);
    const shop = withRule(DEFAULT_SHOP, "routes.slackMm", 130);
    await bench.app.inject({
      method: "PUT",
      url: "/api/shop",
      headers: { "content-type": "application/json" },
      payload: JSON.stringify({ on: contentHash(DEFAULT_SHOP), who: "M. Orr", shop }),
    });
    const { total, jobs } = await list("older=true");
    expect([total, jobs.length, jobs.every((j) => j.shopNewer)]).toEqual([JOBS, 50, true]);
  }, 60_000);

  test("search names of all of them, and says in how many it looked for tags", async () => {
    bench = await filled();
    const found = (await bench.app.inject({ url: "/api/search?q=J-1999" })).json<SearchReply>();
    expect(found.hits).toEqual([{ thing: "job", of: "J-1999", text: "press 1999", job: "J-1999" }]);
    const of = (await bench.app.inject({ url: "/api/search?q=Mill_One" })).json<SearchReply>();
    expect(of.hits[0]).toEqual({ thing: "job", of: "J-0000", text: "press 0, Mill_One", job: "J-0000" });
    expect([found.looked, found.jobs]).toEqual([40, JOBS]);
    // What is in the job that is open is found wherever it stands in the list.
    const own = (await bench.app.inject({ url: "/api/search?q=-K1999&job=J-1999" })).json<SearchReply>();
    expect(own.hits).toEqual([{ thing: "device", of: "-K1999", text: "P", job: "J-1999" }]);
  }, 60_000);
});

describe("work that nobody needs", () => {
  test("ends when a newer revision counts, and when the job is deleted", async () => {
    const { workers, begun } = endless();
    bench = await start({ workers });
    await post(bench.app, hill({ revision: "A" }));
    await post(bench.app, hill({ code: "OTHER" }));
    await post(bench.app, hill({ revision: "B" }));
    expect(begun).toHaveLength(3);
    const [old, other, now] = begun as [(typeof begun)[0], (typeof begun)[0], (typeof begun)[0]];
    await aborted(old.signal);
    expect([other.signal.aborted, now.signal.aborted]).toEqual([false, false]);
    // What was ended as needless is not called cancelled: whoever asks for it again gets it.
    const state = (await bench.app.inject({ url: `/api/jobs/${HILL.job.code}` })).json<{ run: string }>();
    expect(state.run).toBe("running");
    await bench.app.inject({ method: "DELETE", url: `/api/jobs/${HILL.job.code}` });
    await aborted(now.signal);
    expect(other.signal.aborted).toBe(false);
  }, 30_000);

  test("what is taken back meanwhile counts again and is computed to its end", async () => {
    const { workers, begun } = endless();
    bench = await start({ workers });
    const { app } = bench;
    await post(app, hill({}));
    const url = `/api/jobs/${HILL.job.code}/edits`;
    const send = async (path: string, payload: object): Promise<{ designHash: string; ids: string[] }> =>
      (
        await app.inject({
          method: "POST",
          url: path,
          headers: { "content-type": "application/json" },
          payload: JSON.stringify(payload),
        })
      ).json();
    const { designHash: on } = (await app.inject({ url })).json<{ designHash: string }>();
    const wires = [(HILL as unknown as { wires: { number: string }[] }).wires[0]!.number];
    const edit = { kind: "set wires", payload: { wires, sizeMm2: 4 } };
    const laid = await send(url, { on, who: "M. Orr", edits: [edit] });
    await send(`${url}/${laid.ids[0]}/back`, { on: laid.designHash, who: "M. Orr" });
    expect(begun.map((b) => b.design)).toEqual([on, laid.designHash]);
    const [first, between] = begun as [(typeof begun)[0], (typeof begun)[0]];
    // The first began earlier: had it been needless, it would have ended before.
    await aborted(between.signal);
    expect(first.signal.aborted).toBe(false);
  }, 30_000);

  test("reading ends when whoever sent the file goes away", async () => {
    const real = startWorkers(WORKER, { threads: 1 });
    let reading = (_: AbortSignal): void => undefined;
    const begun = new Promise<AbortSignal>((tell) => (reading = tell));
    const workers: Workers = {
      ...real,
      read: (_, signal) => {
        reading(signal!);
        return new Promise((_answer, fail) => signal!.addEventListener("abort", () => fail(signal!.reason as Error)));
      },
    };
    bench = await start({ workers });
    const address = await bench.app.listen({ port: 0, host: "127.0.0.1" });
    const sent = request(`${address}/api/jobs`, { method: "POST", headers: { "content-type": "application/json" } });
    sent.on("error", () => undefined);
    sent.end(JSON.stringify(HILL));
    const signal = await begun;
    expect(signal.aborted).toBe(false);
    sent.destroy();
    await aborted(signal);
    const { jobs } = (await (await fetch(`${address}/api/jobs`)).json()) as JobList;
    expect(jobs).toEqual([]);
  }, 30_000);

  test("computations are ended at any moment, and the server stays", async () => {
    bench = await start();
    const address = await bench.app.listen({ port: 0, host: "127.0.0.1" });
    const lark = JSON.parse(readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8")) as { job: object };
    for (let round = 0; round < 16; round++) {
      const code = `LARK-${round}`;
      await post(bench.app, JSON.stringify({ ...lark, job: { ...lark.job, code } }));
      // Another moment each round: after so many events of its progress, or after its results were asked for.
      const events = (await fetch(`${address}/api/jobs/${code}/run`)).body!.getReader();
      for (let n = 0; n < round % 8; n++) if ((await events.read()).done) break;
      await fetch(`${address}/api/jobs/${code}`, { method: "DELETE" });
      await events.cancel();
    }
    await post(bench.app, hill({}));
    const routes = await fetch(`${address}/api/jobs/${HILL.job.code}/stages/routes`);
    expect(routes.status).toBe(200);
    expect(((await (await fetch(`${address}/api/jobs`)).json()) as JobList).total).toBe(1);
  }, 60_000);

  test("progress reaches the whole only at the end", async () => {
    bench = await start();
    const address = await bench.app.listen({ port: 0, host: "127.0.0.1" });
    await post(bench.app, readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8"));
    const text = await (await fetch(`${address}/api/jobs/LARK-2601/run`)).text();
    const events = [...text.matchAll(/^data: (.*)$/gm)].map((m) => JSON.parse(m[1]!) as ProgressEvent);
    expect(events[events.length - 1]).toMatchObject({ run: "done", share: 1 });
    const before = events.slice(0, -1);
    expect(before.length).toBeGreaterThan(0);
    for (const e of before) expect([e.run, e.share < 1]).toEqual(["running", true]);
  }, 30_000);

  describe("beside a design that takes long", () => {
    const big = (code: string, times = 1): string => {
      const size = { ...LARGE, enclosures: times * LARGE.enclosures, wires: times * LARGE.wires };
      return JSON.stringify({ ...large(5, size), job: { code, title: "large", revision: "A" } });
    };
    const detail = async (code: string): Promise<JobDetail> =>
      (await bench!.app.inject(`/api/jobs/${code}`)).json<JobDetail>();

    test("a small job has its first result before the large ones have theirs", async () => {
      bench = await start({ workers: startWorkers(WORKER, { threads: 1 }) });
      await post(bench.app, big("BIG-1"));
      await post(bench.app, big("BIG-2"));
      await post(bench.app, hill({}));
      const routes = await bench.app.inject(`/api/jobs/${HILL.job.code}/stages/routes`);
      expect(routes.statusCode).toBe(200);
      expect((await detail("BIG-2")).run).toBe("running");
    }, 60_000);

    test("what goes beyond a limit is not begun anew by looking at it, and is by another design", async () => {
      // All stages of it take far longer, laying an edit a part of it: also on a machine that has much else to do.
      const real = startWorkers(WORKER, { threads: 1, computeSeconds: 6 });
      let begun = 0;
      const compute: Workers["compute"] = (...asked) => (begun++, real.compute(...asked));
      bench = await start({ workers: { ...real, compute } });
      const { app } = bench;
      await post(app, big("BIG-1", 4));
      const look = async (): Promise<[number, string]> => {
        const reply = await app.inject("/api/jobs/BIG-1/stages/wireprep");
        return [reply.statusCode, reply.json<ErrorBody>().code];
      };
      for (let i = 0; i < 3; i++) expect(await look()).toEqual([503, "task.limit"]);
      expect([begun, (await detail("BIG-1")).run]).toEqual([1, "failed"]);
      // The thread was ended: one that is there again lays the edit well within the limit, on a busy machine too.
      await post(app, JSON.stringify(HILL));
      await app.inject(`/api/jobs/${HILL.job.code}/stages/routes`);
      const { designHash: on } = await detail("BIG-1");
      const edits = [{ kind: "set wires", payload: { wires: ["17"], colour: "PK" } }];
      begun = 0;
      const edited = await app.inject({
        method: "POST",
        url: "/api/jobs/BIG-1/edits",
        headers: { "content-type": "application/json" },
        payload: JSON.stringify({ on, who: "M. Orr", edits }),
      });
      expect([edited.statusCode, await look(), begun]).toEqual([201, [503, "task.limit"], 1]);
    }, 60_000);
  });

  test("what a task waited for its turn is not counted as its own time", async () => {
    // Time enough for the small one on a machine that has much else to do, and far too little for the large one.
    const real = startWorkers(WORKER, { threads: 1, computeSeconds: 8 });
    bench = await start({ workers: real });
    // Too large to go beside the large one, and soon done.
    const { attachments = [] } = HILL as { attachments?: object[] };
    const more = Array.from({ length: 12_000 }, (_, i) => ({ name: `sheet ${i} ${"x".repeat(80)}`, kind: "other" }));
    const padded = JSON.stringify({ ...HILL, attachments: [...attachments, ...more] });
    expect(padded.length).toBeGreaterThan(1e6);
    const far = large(5, { ...LARGE, enclosures: 80, wires: 60_000 });
    await post(bench.app, JSON.stringify({ ...far, job: { code: "BIG-1", title: "large", revision: "A" } }));
    expect((await post(bench.app, padded)).statusCode).toBe(201);
    const both = await Promise.all(
      ["BIG-1", HILL.job.code].map(
        async (job) => (await bench!.app.inject(`/api/jobs/${job}/stages/routes`)).statusCode,
      ),
    );
    expect(both).toEqual([503, 200]);
  }, 60_000);

  test("jobs that found no room, and those a stop has left, are computed without being asked for, one by one", async () => {
    const real = startWorkers(WORKER, { threads: 1 });
    const begun: string[] = [];
    let atOnce = 0;
    let most = 0;
    let refused = 2;
    const compute: Workers["compute"] = async (task, ...rest) => {
      if (refused-- > 0) throw serverBusy();
      begun.push(task.design.hash);
      most = Math.max(most, ++atOnce);
      return real.compute(task, ...rest).finally(() => atOnce--);
    };
    bench = await start({ workers: { ...real, compute } });
    const { app } = bench;
    for (const code of ["A-1", "A-2"]) await post(app, hill({ code }));
    // Put into the data by a server before.
    const jobs = async () => (await app.inject("/api/jobs")).json<JobList>().jobs;
    expect((await jobs()).map((j) => j.run)).toEqual(["waiting", "waiting"]);
    await app.listen({ port: 0, host: "127.0.0.1" });
    while ((await jobs()).some((j) => j.run !== "done")) await new Promise((next) => setTimeout(next, 20));
    expect([begun.length, new Set(begun).size, most]).toEqual([2, 2, 1]);
  }, 60_000);
});
