import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { JobDetail, JobSummary } from "@gray-bench/contract/jobs";
import type { ProgressEvent } from "@gray-bench/contract/results";
import type { SearchHit } from "@gray-bench/contract/search";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { STAGES } from "@gray-bench/core/stages";
import { parse } from "csv-parse/sync";
import { openStore } from "../src/store/database";
import { held, DESIGNS, post, start, type Bench } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const LARK = readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8");

let bench: Bench;
beforeEach(async () => {
  bench = await start();
});
afterEach(() => bench.close());

const get = (url: string, headers: Record<string, string> = {}) => bench.app.inject({ method: "GET", url, headers });

/** Every error has one shape. */
function expectError(body: ErrorBody, code: string): void {
  expect(body).toMatchObject({
    code,
    message: expect.any(String) as string,
    where: expect.any(String) as string,
    remedy: expect.any(String) as string,
  });
}

describe("import", () => {
  test("a design becomes a job, is computed, and lists what is open", async () => {
    const reply = await post(bench.app, LARK);
    expect(reply.statusCode).toBe(201);
    expect(reply.json<{ job: JobSummary }>().job.stages.map((s) => s.state)).toEqual([
      ...Array<string>(8).fill("not computed"),
      ...Array<string>(2).fill("not started"),
    ]);
    await get("/api/jobs/LARK-2601/stages/routes");
    const job = (await get("/api/jobs/LARK-2601")).json<JobDetail>();
    expect(job).toMatchObject({
      code: "LARK-2601",
      revision: "B",
      run: "done",
      importedAt: "2026-11-23T00:00:00.000Z",
    });
    expect(job.stages.map((s) => s.state)).toEqual([
      ...Array<string>(8).fill("open"),
      ...Array<string>(2).fill("not started"),
    ]);
    const wires = job.figures!.find((f) => f.id === "wires")!;
    expect(wires.value).toBe(wires.outOf! - 3);
  });

  test("the same file twice says so and makes no second job", async () => {
    await post(bench.app, HILL);
    const again = await post(bench.app, JSON.stringify(JSON.parse(HILL), null, 4));
    expect([again.statusCode, again.json<{ already: boolean }>().already]).toEqual([200, true]);
    expect((await get("/api/jobs")).json<{ jobs: JobSummary[] }>().jobs).toHaveLength(1);
  });

  test("a changed design needs a new revision, which becomes the current one", async () => {
    await post(bench.app, HILL);
    const changed = JSON.parse(HILL) as { job: Record<string, string>; nets: unknown[] };
    changed.nets = changed.nets.slice(1);
    const clash = await post(bench.app, JSON.stringify(changed));
    expect(clash.statusCode).toBe(409);
    expectError(clash.json(), "revision.taken");
    changed.job.revision = "B";
    expect((await post(bench.app, JSON.stringify(changed))).statusCode).toBe(201);
    const job = (await get("/api/jobs/HILL-2604")).json<JobDetail>();
    expect([job.revision, job.revisions.map((r) => r.revision)]).toEqual(["B", ["B", "A"]]);
  });

  test("a refused file names every place and leaves nothing behind", async () => {
    const reply = await post(
      bench.app,
      HILL.replace('"run":"right"', '"run":"sideways"').replace('"revision":"A"', '"revision":1'),
    );
    expect(reply.statusCode).toBe(422);
    const body = reply.json<ErrorBody>();
    expectError(body, "design.refused");
    expect(body.faults!.map((f) => f.path)).toEqual(["job.revision", "rails[0].run"]);
    expect((await get("/api/jobs")).json<{ jobs: JobSummary[] }>().jobs).toEqual([]);
  });

  test("bytes that are not UTF-8, an empty body, another media type", async () => {
    expectError((await post(bench.app, Buffer.from([0x7b, 0xff, 0xfe]))).json(), "design.refused");
    expectError((await post(bench.app, "")).json(), "design.refused");
    const form = await bench.app.inject({
      method: "POST",
      url: "/api/jobs",
      headers: { "content-type": "text/csv" },
      payload: "a,b",
    });
    expect(form.statusCode).toBe(415);
    expectError(form.json(), "body.type");
  });

  test("what is deleted is gone, results and search too; what another job shares stays; two who delete hear it once", async () => {
    const store = await openStore(":memory:");
    const own = await start({ store });
    try {
      const twin = JSON.parse(HILL.toString()) as { job: object };
      await post(own.app, HILL);
      await post(own.app, JSON.stringify({ ...twin, job: { ...twin.job, code: "TWIN" } }));
      for (const job of ["HILL-2604", "TWIN"]) await own.app.inject(`/api/jobs/${job}/files/wires.csv`);
      const on = (await own.app.inject("/api/jobs/TWIN")).json<JobDetail>().designHash;
      const edits = [{ kind: "set wires", payload: { wires: ["1"], sizeMm2: 4 } }];
      await own.app.inject({
        method: "POST",
        url: "/api/jobs/TWIN/edits",
        headers: { "content-type": "application/json" },
        payload: JSON.stringify({ on, who: "M. Orr", edits }),
      });
      await own.app.inject("/api/jobs/TWIN/stages/routes");
      await own.app.inject("/api/search?q=K1");
      const count = async (): Promise<number> => (await store.db.selectFrom("results").selectAll().execute()).length;
      const before = await count();
      const drop = async (job: string): Promise<number> =>
        (await own.app.inject({ method: "DELETE", url: `/api/jobs/${job}` })).statusCode;
      expect((await Promise.all([drop("TWIN"), drop("TWIN")])).sort()).toEqual([204, 404]);
      const between = await count();
      expect(between).toBeLessThan(before);
      expect((await own.app.inject("/api/jobs/HILL-2604/files/wires.csv")).statusCode).toBe(200);
      expect(await count()).toBe(between);
      expect(await drop("HILL-2604")).toBe(204);
      expect(await count()).toBe(0);
      for (const table of ["designs", "laid", "log"] as const)
        expect([table, await store.db.selectFrom(table).selectAll().execute()]).toEqual([table, []]);
    } finally {
      await own.close();
      await store.close();
    }
  });

  test("a body over 64 MB is a clear 413", async () => {
    const reply = await post(bench.app, Buffer.alloc(64 * 1024 * 1024 + 1, 32));
    expect(reply.statusCode).toBe(413);
    expectError(reply.json(), "body.too-large");
  });
});

describe("results", () => {
  test("carry the hash of their content as ETag and answer 304 to it", async () => {
    await post(bench.app, HILL);
    const first = await get("/api/jobs/HILL-2604/stages/routes");
    expect(first.json<RoutesResult>().wires).toHaveLength(35);
    const again = await get("/api/jobs/HILL-2604/stages/routes", {
      "if-none-match": first.headers.etag as string,
    });
    expect([again.statusCode, again.body]).toEqual([304, ""]);
  });

  test("every listed file can be taken away; wires.csv has the lengths of the result", async () => {
    await post(bench.app, HILL);
    const job = (await get("/api/jobs/HILL-2604")).json<JobDetail>();
    for (const { name } of job.files) {
      const file = await get(`/api/jobs/HILL-2604/files/${name}`);
      expect([file.statusCode, file.headers["content-disposition"]]).toEqual([
        200,
        `attachment; filename="HILL-2604-A-${name}"`,
      ]);
    }
    const rows = parse((await get("/api/jobs/HILL-2604/files/wires.csv")).body, { columns: true }) as {
      length_mm: string;
    }[];
    const { wires } = (await get("/api/jobs/HILL-2604/stages/routes")).json<RoutesResult>();
    expect(rows.map((r) => Number(r.length_mm))).toEqual(wires.map((w) => w.lengthMm));
  });

  test("unknown jobs, stages, files and paths are clear errors", async () => {
    await post(bench.app, HILL);
    for (const [url, status, code] of [
      ["/api/jobs/NIX", 404, "job.unknown"],
      ["/api/jobs/HILL-2604/stages/floor", 404, "stage.not-built"],
      ["/api/jobs/HILL-2604/stages/nix", 400, "request.invalid"],
      ["/api/jobs/HILL-2604/files/nix.csv", 404, "file.unknown"],
      ["/api/nix", 404, "path.unknown"],
      ["/api/search", 400, "request.invalid"],
    ] as const) {
      const reply = await get(url);
      expect([url, reply.statusCode]).toEqual([url, status]);
      expectError(reply.json(), code);
    }
  });

  test("a job deleted is gone with its results", async () => {
    await post(bench.app, HILL);
    await get("/api/jobs/HILL-2604/stages/routes");
    expect((await bench.app.inject({ method: "DELETE", url: "/api/jobs/HILL-2604" })).statusCode).toBe(204);
    expectError((await get("/api/jobs/HILL-2604/stages/routes")).json(), "job.unknown");
    expect((await bench.app.inject({ method: "DELETE", url: "/api/jobs/HILL-2604" })).statusCode).toBe(404);
  });
});

describe("computation", () => {
  const events = (body: string): ProgressEvent[] =>
    [...body.matchAll(/data: (.*)/g)].map((m) => JSON.parse(m[1]!) as ProgressEvent);

  test("tells its progress stage by stage until it is done", async () => {
    await post(bench.app, LARK);
    const heard = events((await get("/api/jobs/LARK-2601/run")).body);
    expect(heard.at(-1)).toMatchObject({ run: "done", share: 1 });
    const order = heard.flatMap((e) => (e.stage ? [STAGES.findIndex((s) => s.name === e.stage)] : []));
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });

  test("can be cancelled, says so, and can be started again", async () => {
    await post(bench.app, LARK);
    const cancelled = await bench.app.inject({ method: "DELETE", url: "/api/jobs/LARK-2601/run" });
    expect(cancelled.json()).toEqual({ cancelled: true });
    const ended = events((await get("/api/jobs/LARK-2601/run")).body);
    expect(ended.at(-1)!.run).toBe("cancelled");
    expectError((await get("/api/jobs/LARK-2601/stages/routes")).json(), "run.cancelled");
    expect((await bench.app.inject({ method: "POST", url: "/api/jobs/LARK-2601/run" })).statusCode).toBe(202);
    expect((await get("/api/jobs/LARK-2601/stages/routes")).statusCode).toBe(200);
  });

  test("does not hold up other requests", async () => {
    await post(bench.app, LARK);
    const [slow, quick] = await Promise.all([
      get("/api/jobs/LARK-2601/stages/routes").then(() => "slow"),
      Promise.race([
        get("/api/health").then(() => "quick"),
        get("/api/jobs/LARK-2601/stages/routes").then(() => "slow"),
      ]),
    ]);
    expect([slow, quick]).toEqual(["slow", "quick"]);
  });
});

test("search looks into all jobs, the named one first", async () => {
  await post(bench.app, HILL);
  await post(bench.app, LARK);
  await get("/api/jobs/LARK-2601/stages/routes");
  await get("/api/jobs/HILL-2604/stages/routes");
  const { hits } = (await get("/api/search?q=-K1&job=LARK-2601&most=100")).json<{ hits: SearchHit[] }>();
  expect(hits[0]).toMatchObject({ job: "LARK-2601", thing: "device", of: "-K1" });
  expect(hits.some((h) => h.job === "HILL-2604")).toBe(true);
});

interface Body {
  content: { "application/json": { schema: { required?: string[]; properties: Record<string, object> } } };
}

test("the interface is described, every path with its errors and what it takes", async () => {
  const api = (await get("/api/openapi.json")).json<{
    paths: Record<
      string,
      Record<string, { responses: Record<string, Body>; parameters?: { name: string }[]; requestBody?: Body }>
    >;
    components: { schemas: object };
  }>();
  expect(Object.keys(api.paths)).toEqual(
    expect.arrayContaining([
      "/api/jobs",
      "/api/jobs/{job}",
      "/api/jobs/{job}/stages/{stage}",
      "/api/jobs/{job}/files/{name}",
      "/api/jobs/{job}/run",
      "/api/search",
    ]),
  );
  for (const methods of Object.values(api.paths))
    for (const m of Object.values(methods)) expect(Object.keys(m.responses)).toContain("default");
  const bodies = Object.entries(api.paths).flatMap(([path, methods]) =>
    Object.values(methods).flatMap(({ requestBody }) => {
      const schema = requestBody?.content["application/json"].schema;
      return schema ? [[path, schema] as const] : [];
    }),
  );
  const of = new Map(bodies);
  expect(bodies.length).toBeGreaterThan(24);
  expect(of.get("/api/jobs/{job}/edits")!.required).toEqual(["on", "who", "edits"]);
  expect(of.get("/api/jobs/{job}/events")!.required).toEqual(["kind", "since", "events"]);
  expect(of.get("/api/jobs/{job}/events")!.properties).toMatchObject({
    thing: { anyOf: [{ type: "string" }, { type: "string" }] },
    events: { anyOf: [{}, { items: { properties: { reason: { type: "string", maxLength: 200 } } } }, {}, {}] },
  });
  expect(api.paths["/api/jobs/{job}"]!.get!.responses["2XX"]!.content!["application/json"].schema).toEqual({
    $ref: "#/components/schemas/JobDetail",
  });
  // Answers are held against their forms wherever these tests ask; some must have been.
  expect(held.size).toBeGreaterThan(4);
  // Each form that is referred to stands there.
  for (const [, form] of JSON.stringify(api).matchAll(/"#\/components\/schemas\/([^"]+)"/g))
    expect(api.components.schemas).toHaveProperty([form!]);
  // Conditions and references are no words of this language.
  expect(JSON.stringify(bodies)).not.toMatch(/"not":|"ref":|"properties":\{\}/);
  expect(api.paths["/api/search"]!.get!.parameters!.map((p) => p.name)).toEqual(["q", "job", "most"]);
});

test("headers protect the pages, and too many requests are turned away", async () => {
  const reply = await get("/api/jobs");
  expect(reply.headers["content-security-policy"]).toContain("script-src 'self'");
  expect(reply.headers["x-content-type-options"]).toBe("nosniff");
  const strict = await start({ requestsPerMinute: 3 });
  const codes: number[] = [];
  for (let i = 0; i < 5; i++) codes.push((await strict.app.inject({ method: "GET", url: "/api/health" })).statusCode);
  expect(codes).toEqual([200, 200, 200, 429, 429]);
  await strict.close();
});

test("cancelling at any moment never brings the server down", async () => {
  await post(bench.app, LARK);
  for (let i = 0; i < 12; i++) {
    await bench.app.inject({ method: "POST", url: "/api/jobs/LARK-2601/run" });
    // A different number of turns each time, so that some cancels meet a worker that has just answered.
    for (let turn = 0; turn < i * 40; turn++) await new Promise((resolve) => setImmediate(resolve));
    await bench.app.inject({ method: "DELETE", url: "/api/jobs/LARK-2601/run" });
    await get("/api/jobs/LARK-2601/run");
  }
  await bench.app.inject({ method: "POST", url: "/api/jobs/LARK-2601/run" });
  expect((await get("/api/jobs/LARK-2601/stages/routes")).statusCode).toBe(200);
});

describe("the app", () => {
  const folder = mkdtempSync(join(tmpdir(), "gray-bench-app-"));
  const put = (name: string, text: string): void => {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), text);
  };
  const hashed = "/_expo/static/js/web/entry-0123456789abcdef0123456789abcdef.js";
  put("index.html", "<p>app</p>");
  put("favicon.ico", "icon");
  put(hashed, "script");
  put(`${hashed}.br`, "packed well");
  put(`${hashed}.gz`, "packed");
  put("assets/fonts/Plain.0123456789abcdef0123456789abcdef.ttf", "font");
  afterAll(() => rmSync(folder, { recursive: true }));

  test("files named by their content are kept for good, all else is asked for anew", async () => {
    const { app, close } = await start({ appFolder: folder });
    const caching = async (url: string) => {
      const reply = await app.inject({ method: "GET", url });
      return [reply.statusCode, reply.headers["cache-control"], reply.body];
    };
    const forGood = "public, max-age=31536000, immutable";
    expect(await caching(hashed)).toEqual([200, forGood, "script"]);
    expect(await caching("/assets/fonts/Plain.0123456789abcdef0123456789abcdef.ttf")).toEqual([200, forGood, "font"]);
    expect(await caching("/favicon.ico")).toEqual([200, "no-cache", "icon"]);
    expect(await caching("/")).toEqual([200, "no-cache", "<p>app</p>"]);
    expect(await caching("/jobs/any/view")).toEqual([200, "no-cache", "<p>app</p>"]);
    expect((await caching("/nix.js"))[0]).toBe(404);
    // Copies that were packed when it was built, as small as the browser takes them.
    const packed = async (takes: string) => {
      const reply = await app.inject({ method: "GET", url: hashed, headers: { "accept-encoding": takes } });
      return [reply.headers["content-encoding"], reply.body];
    };
    expect(await packed("gzip, br")).toEqual(["br", "packed well"]);
    expect(await packed("gzip")).toEqual(["gzip", "packed"]);
    await close();
  });
});
