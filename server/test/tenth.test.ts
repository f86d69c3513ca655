import { spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import type { EditReply } from "@gray-bench/contract/edits";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { EventReply } from "@gray-bench/contract/events";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { ShopEffects, ShopReply } from "@gray-bench/contract/shop";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { build, type Plugin } from "esbuild";
import type { Workers } from "../src/workers/pool";
import type { Bench } from "./helper";

/**
 * A stage comes with a folder and a line in the lists of stages: here these lines are written by the test, for this process and for its
 * threads, and the stage stands everywhere.
 */
const LINES = {
  "core/src/stages.ts": ["toy", "./test/toy/stage"],
  "core/src/faces.ts": ["face", "./test/toy/face"],
  "core/src/shop/stage-rules.ts": ["RULES", "../test/toy/rules"],
};
const inList = (list: string, of: string, one: string): object => {
  const known = jest.requireActual<Record<string, unknown[]>>(`@gray-bench/core/${list}`)[of]!;
  const mine = jest.requireActual<Record<string, unknown>>(`@gray-bench/core/test/toy/${one}`);
  return { [of]: [...known, mine[one === "stage" ? "toy" : one === "rules" ? "RULES" : "face"]] };
};
jest.doMock("@gray-bench/core/shop/stage-rules", () => inList("shop/stage-rules", "STAGE_RULES", "rules"));
jest.doMock("@gray-bench/core/faces", () => inList("faces", "FACES", "face"));
jest.doMock("@gray-bench/core/stages", () => inList("stages", "STAGES", "stage"));

const ROOT = join(__dirname, "../..");

/** Writes the line of the stage into a list, as whoever builds one would. */
const lines: Plugin = {
  name: "lines",
  setup: ({ onLoad }) =>
    onLoad({ filter: /core[\\/]src[\\/]((stages|faces)|shop[\\/]stage-rules)\.ts$/ }, ({ path }) => {
      const [name, from] = Object.entries(LINES).find(([at]) => path.replaceAll("\\", "/").endsWith(at))![1];
      const text = readFileSync(path, "utf8").replace(/,?\s*\]( as const)?;\n/, ", tenth]$1;\n");
      return { contents: `import { ${name} as tenth } from "${from}";\n${text}`, loader: "ts" };
    }),
};

/** Where packages are found that are not bundled. */
const BUILT = join(ROOT, "dist/tenth");
let help: typeof import("./helper");
let workers: Workers;
let bench: Bench;

beforeAll(async () => {
  mkdirSync(BUILT, { recursive: true });
  await build({
    entryPoints: [join(ROOT, "server/src/workers/worker.ts"), join(ROOT, "server/src/cli.ts")],
    outdir: BUILT,
    entryNames: "[name]",
    bundle: true,
    platform: "node",
    format: "esm",
    outExtension: { ".js": ".mjs" },
    banner: {
      js: 'import { createRequire as benchRequire } from "node:module"; const require = benchRequire(import.meta.url);',
    },
    alias: { "jsonc-parser": "jsonc-parser/lib/esm/main.js", "@gray-bench/core/attachments/pdf": "./pdf.cjs" },
    external: ["exceljs", "pdfkit", "./pdf.cjs"],
    plugins: [lines],
    logLevel: "error",
  });
  // What stands in the lists is read when a module is first loaded: here, once they have their lines.
  help = await import("./helper");
  const { startWorkers } = await import("../src/workers/pool");
  workers = startWorkers(join(BUILT, "worker.mjs"), { threads: 1 });
  bench = await help.start({ workers });
}, 60_000);
afterAll(async () => {
  await bench.close();
  rmSync(BUILT, { recursive: true });
});

const HILL = join(ROOT, "designs/whole/hillfold.bench.json");
const JOB = "/api/jobs/HILL-2604";

async function call<T>(method: "GET" | "POST" | "PUT", url: string, body?: object): Promise<T> {
  const reply = await bench.app.inject({
    method,
    url,
    ...(body ? { headers: { "content-type": "application/json" }, payload: JSON.stringify(body) } : {}),
  });
  return reply.json<T>();
}

const computed = (): Promise<JobDetail> =>
  help.until(
    () => call<JobDetail>("GET", JOB),
    (j) => j.run === "done",
  );
const enclosures = (JSON.parse(readFileSync(HILL, "utf8")) as { enclosures: { tag: string; text?: string }[] })
  .enclosures;

test("a stage that has a folder and its lines stands on desk, rule, history, shop and among what happened", async () => {
  await help.post(bench.app, readFileSync(HILL, "utf8"));
  const job = await computed();
  const silent = enclosures.filter((e) => e.text === undefined);
  expect(enclosures.length).toBeGreaterThan(0);
  expect(job.figures!.find((f) => f.id === "tests")).toMatchObject({
    stage: "handover",
    value: 12 * enclosures.length,
    unit: "min",
  });
  const state = silent.length > 0 ? "open" : "ready";
  expect(job.stages.find((s) => s.stage === "handover")).toMatchObject({ state, open: { check: silent.length } });
  expect(job.files.find((f) => f.name === "tests.csv")).toMatchObject({ stage: "handover" });
  expect((await bench.app.inject(`${JOB}/files/tests.csv`)).body).toContain(`'${enclosures[0]!.tag},12`);

  // An edit, undone.
  const edit = { kind: "say what is tested", payload: { enclosure: enclosures[0]!.tag, text: "lamps" } };
  const laid = await call<EditReply>("POST", `${JOB}/edits`, { on: job.designHash, who: "Ina", edits: [edit] });
  expect(laid.sentences).toEqual([`of ${enclosures[0]!.tag} is tested: lamps`]);
  await computed();
  const { open } = await call<{ open: OpenPoint[] }>("GET", `${JOB}/open-points`);
  expect(open.filter((p) => p.stage === "handover" && p.of === enclosures[0]!.tag)).toEqual([]);
  const wrong = { ...edit, payload: { enclosure: "+Z9", text: "lamps" } };
  const refused = await call<ErrorBody>("POST", `${JOB}/edits`, {
    on: (await computed()).designHash,
    who: "Ina",
    edits: [wrong],
  });
  expect(refused.message).toContain("there is no enclosure +Z9");

  // A rule of the shop, and what it would do.
  const shop = await call<ShopReply>("GET", "/api/shop");
  const rules = shop.shop.rules as unknown as { handover: { testMin: number } };
  expect(rules.handover).toEqual({ testMin: 12 });
  const longer = { ...shop.shop, rules: { ...shop.shop.rules, handover: { testMin: 20 } } };
  const effect = await call<ShopEffects>("POST", "/api/shop/effect", { shop: longer });
  expect(JSON.stringify(effect)).toContain(`tests take ${8 * enclosures.length} min longer`);
  const far = { ...longer, rules: { ...longer.rules, handover: { testMin: 601 } } };
  expect(JSON.stringify(await call("PUT", "/api/shop", { on: shop.hash, who: "Ina", shop: far }))).toContain(
    "rules.handover.testMin",
  );
  await call("PUT", "/api/shop", { on: shop.hash, who: "Ina", shop: longer });
  const { versions } = await call<{ versions: { changes: string[] }[] }>("GET", "/api/shop/versions");
  expect(JSON.stringify(versions)).toContain("testing an enclosure: 20 min (was 12)");

  // What happened.
  const passed = { id: "test-0001", enclosure: "+A1", what: "passed", who: "Ina", at: "2026-11-22T10:00:00Z" };
  const said = await call<EventReply>("POST", `${JOB}/events`, { kind: "test", since: 0, events: [passed] });
  expect(said.events).toEqual([{ ...passed, at: "2026-11-22T10:00:00.000Z" }]);
  const odd = { ...passed, id: "test-0002", what: "picked" };
  expect((await call<ErrorBody>("POST", `${JOB}/events`, { kind: "test", since: 0, events: [odd] })).where).toBe(
    "events.0.what",
  );
});

test("it is asked in a thread what it can be asked", async () => {
  const { LONGEST } = await import("@gray-bench/core/test/toy/stage");
  const result = gzipSync(JSON.stringify({ minutes: 24 }));
  const shop = JSON.stringify((await call<ShopReply>("GET", "/api/shop")).shop);
  expect(await workers.ask(LONGEST, { asked: { panels: 3 }, results: [result], shop })).toBe(72);
});

test("the command line writes its file, with the rule of a shop file", async () => {
  const { shop } = await call<ShopReply>("GET", "/api/shop");
  const file = join(BUILT, "own.shop.json");
  writeFileSync(file, JSON.stringify(shop));
  const { status } = spawnSync(process.execPath, [
    join(BUILT, "cli.mjs"),
    ...[HILL, join(BUILT, "out"), "--shop", file],
  ]);
  expect(status).toBe(0);
  expect(readFileSync(join(BUILT, "out/tests.csv"), "utf8")).toContain(`'${enclosures[0]!.tag},20`);
});
