import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..");
export const at = (...parts) => join(root, ...parts);

const env = { ...process.env, EXPO_NO_TELEMETRY: "1", EXPO_OFFLINE: "1", CI: "1" };

/** Says what is being done, does it, says how long it took. */
export async function step(text, work) {
  const start = Date.now();
  console.log(`… ${text}`);
  const result = await work();
  console.log(`  ${text}: ${((Date.now() - start) / 1000).toFixed(1)} s`);
  return result;
}

/** Runs a command to its end; throws with its output when it fails. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, env, stdio: ["ignore", "pipe", "pipe"], ...options });
    let out = "";
    child.stdout?.on("data", (d) => (out += d));
    child.stderr?.on("data", (d) => (out += d));
    child.on("error", reject);
    child.on("close", (code) =>
      code === 0 ? resolve(out) : reject(new Error(`${command} ${args.join(" ")} ended with ${code}\n${out}`)),
    );
  });
}

/** Installs the packages of the lock file unless they are there. */
export async function ensureInstalled() {
  const stamp = at("node_modules", ".gray-bench-lock");
  const wanted = createHash("sha256")
    .update(readFileSync(at("package-lock.json")))
    .digest("hex");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === wanted) return;
  await step("installing packages (a few minutes the first time)", () => run("npm", ["ci", "--no-audit", "--no-fund"]));
  writeFileSync(stamp, wanted);
}

const has = (command) => spawnSync("which", [command]).status === 0;

/** Installs the browser and its driver from Debian's packages unless they are there. */
export async function ensureBrowser() {
  if (has("chromium") && has("chromedriver")) return;
  await step("installing the browser from Debian's packages", async () => {
    await run("apt-get", ["update"]);
    await run("apt-get", ["install", "-y", "--no-install-recommends", "chromium", "chromium-driver"], {
      env: { ...env, DEBIAN_FRONTEND: "noninteractive" },
    });
  });
}

function newest(folder) {
  let time = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (entry.name === "node_modules" || entry.name === "dist" || entry.name === ".expo") continue;
    const path = join(folder, entry.name);
    time = Math.max(time, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }
  return time;
}

const stale = (output, ...sources) =>
  !existsSync(output) || sources.some((s) => newest(at(s)) > statSync(output).mtimeMs);

/** Bundles server, worker and command line into dist/. */
export async function buildServer() {
  const { build } = await import("esbuild");
  mkdirSync(at("dist"), { recursive: true });
  const how = {
    outdir: at("dist/server"),
    entryNames: "[name]",
    bundle: true,
    platform: "node",
    target: "node20",
    // Its main file loads its parts in a way that cannot be bundled.
    alias: { "jsonc-parser": "jsonc-parser/lib/esm/main.js" },
    external: ["fastify", "@fastify/*", "better-sqlite3", "piscina", "exceljs", "pdfkit", "joi-to-json"],
    logLevel: "warning",
    sourcemap: true,
  };
  await build({
    ...how,
    entryPoints: [
      at("server/src/main.ts"),
      at("server/src/cli.ts"),
      at("server/src/keep.ts"),
      at("designs/src/write.ts"),
    ],
    outExtension: { ".js": ".mjs" },
    format: "esm",
    banner: {
      js: 'import { createRequire as benchRequire } from "node:module"; const require = benchRequire(import.meta.url);',
    },
  });
  // Threads load their file by requiring it: one that is ended while it requires a module of the other kind takes the process with it.
  // What reads documents is as large as all the rest: a file of its own, which a thread loads when it is wanted.
  const pdf = { name: "@gray-bench/core/attachments/pdf", file: "./pdf.cjs" };
  await build({
    ...how,
    entryPoints: [at("server/src/workers/worker.ts")],
    outExtension: { ".js": ".cjs" },
    format: "cjs",
    alias: { ...how.alias, [pdf.name]: pdf.file },
    external: [...how.external, pdf.file],
  });
  await build({
    ...how,
    entryPoints: [at("core/src/attachments/pdf.ts")],
    outExtension: { ".js": ".cjs" },
    format: "cjs",
    // It says where it stands, which only other modules know; it asks for it to find what it draws with, and nothing is drawn.
    logOverride: { "empty-import-meta": "silent" },
  });
}

/** Builds server and simulated machines where their sources are newer than what was built of them. */
export async function buildStale() {
  const sources = ["core/src", "contract/src", "designs/src", "server/src"];
  if (stale(at("dist/server/worker.cjs"), ...sources)) await buildServer();
  if (stale(at("dist/standins/wire.mjs"), "standins/src", "core/src")) await buildStandins();
}

/** Bundles the simulated machines into dist/standins. */
export async function buildStandins() {
  const { build } = await import("esbuild");
  await build({
    entryPoints: Object.fromEntries(
      ["drill", "stock", "wire", "labels"].map((name) => [name, at(`standins/src/${name}/main.ts`)]),
    ),
    outdir: at("dist/standins"),
    outExtension: { ".js": ".mjs" },
    bundle: true,
    platform: "node",
    target: "node20",
    format: "esm",
    external: ["better-sqlite3", "@xmldom/xmldom"],
    logLevel: "warning",
  });
}

/** The simulated machines, where each takes programs and tells of itself. */
const STANDINS = [
  { name: "Tallow 3", file: "tallow-3.json", tcp: 4611, http: 4612 },
  { name: "Wickett", file: "wickett.json", tcp: 4613, http: 4614 },
];

/** The simulated stock service, with a data file beside that of the server: what was taken from it stays taken. */
const WIRE_MACHINES = [
  { name: "Sedgeley", file: "sedgeley.json", tcp: 4631, http: 4632 },
  { name: "Brack 2", file: "brack-2.json", tcp: 4633, http: 4634 },
];
const PRINTER = { name: "Hallam labels", tcp: 4641, http: 4642 };
const STOCK = { name: "stock service", port: 4621 };

/** Starts one; resolves with the flags the server is to be given, or null where it could not start. */
const startOne = (name, args, flags) =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, args.map(String), { cwd: root, stdio: ["ignore", "pipe", "pipe"] });
    child.stdout.once("data", () => resolve({ child, flags }));
    child.stderr.once("data", (d) => {
      console.log(`${name}: ${String(d).trim()}`);
      resolve(null);
    });
    child.on("close", () => resolve(null));
  });

/** Starts them; resolves with what the server is to be told of them, and a way to stop them. One that cannot start is passed over. */
export async function startStandins(data, factor = 30) {
  mkdirSync(data, { recursive: true });
  const started = await Promise.all([
    ...STANDINS.map(({ name, file, tcp, http }) => {
      const args = ["--machine", at("standins/machines", file), "--tcp", tcp, "--http", http, "--factor", factor];
      const flags = ["--machine", `${name}=127.0.0.1:${tcp},http://127.0.0.1:${http}`];
      return startOne(name, [at("dist/standins/drill.mjs"), ...args], flags);
    }),
    ...WIRE_MACHINES.map(({ name, file, tcp, http }) =>
      startOne(
        name,
        [
          at("dist/standins/wire.mjs"),
          ...["--machine", at("standins/machines", file), "--journal", join(data, `${file}l`)],
          ...["--tcp", tcp, "--http", http, "--factor", factor, "--pull", 8, "--seed", 4],
        ],
        ["--wire-machine", `${name}=127.0.0.1:${tcp},http://127.0.0.1:${http}`],
      ),
    ),
    startOne(
      PRINTER.name,
      [
        at("dist/standins/labels.mjs"),
        ...["--journal", join(data, "labels.jsonl"), "--tcp", PRINTER.tcp, "--http", PRINTER.http, "--factor", factor],
      ],
      ["--printer", `${PRINTER.name}=127.0.0.1:${PRINTER.tcp},http://127.0.0.1:${PRINTER.http}`],
    ),
    startOne(
      STOCK.name,
      [
        at("dist/standins/stock.mjs"),
        ...["--data", join(data, "stock.db"), "--items", at("designs/store.json"), "--port", STOCK.port],
      ],
      ["--stock", `http://127.0.0.1:${STOCK.port}`],
    ),
  ]);
  const running = started.filter((s) => s !== null);
  return {
    flags: running.flatMap((s) => s.flags),
    stop: () => running.forEach((s) => s.child.kill("SIGTERM")),
  };
}

/** Exports the app for the web unless the export is newer than its sources. */
export async function buildApp() {
  const output = at("app/dist/index.html");
  if (!stale(output, "app", "core/src", "contract/src", "designs/whole")) return;
  await step("building the app (about a minute)", () =>
    run("npx", ["expo", "export", "-p", "web", "--output-dir", "dist"], { cwd: at("app") }),
  );
  shipPdf(at("app/dist/pdf"));
  // What a first-time user tries it with.
  copyFileSync(at("designs/whole/hillfold.bench.json"), at("app/dist/sample.bench.json"));
  await shipOffline(at("app/dist"));
  compressAll(at("app/dist"));
}

/** What draws documents is fetched with the first of them, and what the shell of the framework brings is never shown. */
const NOT_KEPT =
  /^(pdf\/|sample\.bench\.json$|assets\/_node_modules\/expo-router\/|(metadata\.json|offline\.js)$)|\.(map|gz|br)$/;

/** Puts beside the app what keeps it on the device, with the list of its files. */
async function shipOffline(folder) {
  const { build } = await import("esbuild");
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => relative(folder, join(entry.parentPath, entry.name)))
    .filter((path) => !NOT_KEPT.test(path))
    .sort()
    .map((path) => {
      const hashed = /[-.][0-9a-f]{16,}\./.test(path);
      const revision = hashed
        ? null
        : createHash("sha256")
            .update(readFileSync(join(folder, path)))
            .digest("hex");
      return { url: `/${path}`, revision };
    });
  await build({
    entryPoints: [at("app/src/offline/worker.ts")],
    outfile: join(folder, "offline.js"),
    bundle: true,
    minify: true,
    format: "iife",
    target: "es2022",
    define: { "self.FILES": JSON.stringify(files), "process.env.NODE_ENV": '"production"' },
    logLevel: "warning",
  });
}

/** Puts what draws PDF beside the app: it is fetched when the first document is opened. */
function shipPdf(folder) {
  const from = at("node_modules/pdfjs-dist");
  mkdirSync(folder, { recursive: true });
  for (const name of ["pdf.min.mjs", "pdf.worker.min.mjs"])
    copyFileSync(join(from, "legacy/build", name), join(folder, name));
  for (const name of ["cmaps", "standard_fonts", "wasm"])
    cpSync(join(from, name), join(folder, name), { recursive: true });
}

/** A fifth smaller than what every program unpacks. Browsers take it over HTTPS, and from the machine they run on. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY } };

/** Writes compressed copies beside every text file, so that none is compressed at a request. */
function compressAll(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) compressAll(path);
    else if (/\.(m?js|css|html|json|svg|ico)$/.test(entry.name)) {
      const bytes = readFileSync(path);
      writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
      writeFileSync(`${path}.br`, brotliCompressSync(bytes, BROTLI));
    }
  }
}

/** Starts the server; resolves with its address and the process. */
export function startServer(args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [at("dist/server/main.mjs"), ...args], {
      cwd: root,
      stdio: ["ignore", "pipe", "pipe"],
      ...options,
    });
    let text = "";
    const hear = (data) => {
      text += data;
      const address = /listens on (\S+)/.exec(text)?.[1];
      if (address) resolve({ address, child });
    };
    child.stdout.on("data", hear);
    child.stderr.on("data", (d) => (text += d));
    child.on("close", (code) => reject(new Error(`the server ended with ${code}: ${text.trim()}`)));
  });
}

/** Bundles what measures and what tries to break: everything in `bench/src`. */
export async function buildBenches() {
  const { build } = await import("esbuild");
  const files = readdirSync(at("bench/src")).filter((f) => f.endsWith(".bench.ts"));
  await build({
    entryPoints: files.map((f) => at("bench/src", f)),
    outdir: at("dist/bench"),
    outExtension: { ".js": ".mjs" },
    bundle: true,
    platform: "node",
    format: "esm",
    external: ["selenium-webdriver"],
    // Its main file loads its parts in a way that cannot be bundled.
    alias: { "jsonc-parser": "jsonc-parser/lib/esm/main.js" },
    banner: {
      js: 'import { createRequire as benchRequire } from "node:module"; const require = benchRequire(import.meta.url);',
    },
    logLevel: "warning",
  });
}

/** What `npm run bench` runs, one after the other. */
export const BENCHES = [
  ["routes.bench.mjs", "time"],
  ["routes.bench.mjs", "memory"],
  ["browser.bench.mjs"],
  ["views.bench.mjs"],
  ["edits.bench.mjs"],
  ["strips.bench.mjs"],
  ["panel.bench.mjs"],
  ["heat.bench.mjs"],
  ["trial.bench.mjs"],
  ["metalwork.bench.mjs"],
  ["kits.bench.mjs"],
  ["wireprep.bench.mjs"],
  ["tables.bench.mjs"],
];
