import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { at, buildApp, buildServer, ensureBrowser, ensureInstalled, run, startServer, step } from "./lib.mjs";

// npm run shots: retakes docs/screenshots from the demo jobs.
//   npm run shots -- --all [--views jobs,desk] [--screens phone,wide-200]   takes every view on every screen into
//   dist/looks, measures each (texts cut, covered or small, small targets, sideways, axe) and lists what fails.
const args = process.argv.slice(2);
const all = args.includes("--all");
const given = (name) => (args.includes(name) ? args[args.indexOf(name) + 1] : "");
await ensureInstalled();
await ensureBrowser();
await step("building", buildServer);
await buildApp();
const script = all ? "dist/look-all.cjs" : "dist/shots.mjs";
const { build } = await import("esbuild");
await build({
  entryPoints: [at(all ? "e2e/src/look-all.ts" : "e2e/src/shots.ts")],
  outfile: at(script),
  bundle: true,
  platform: "node",
  format: all ? "cjs" : "esm",
  packages: "external",
  logLevel: "warning",
});
const data = mkdtempSync(join(tmpdir(), "gray-bench-shots-"));
const server = await startServer(["--data", data, "--port", "0", "--app", at("app/dist")]);
try {
  const asked = new URLSearchParams({ on: "", who: "Gray Bench", why: "shipped with the demo" });
  await fetch(`${server.address}/api/library?${asked}`, {
    method: "PUT",
    headers: { "content-type": "application/octet-stream" },
    body: readFileSync(at("designs/demo.library.json")),
  });
  for (const name of ["larkmoor", "hillfold"]) {
    const body = readFileSync(at("designs", `${name}.bench.json`));
    const { job } = await (
      await fetch(`${server.address}/api/jobs`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body,
      })
    ).json();
    await (await fetch(`${server.address}/api/jobs/${job.code}/stages/routes`)).arrayBuffer();
  }
  // A batch at the bench, for the card of whoever makes it.
  await fetch(`${server.address}/api/jobs/LARK-2601/batches`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({
      faces: ["+A1/plate"],
      panels: 1,
      machine: null,
      way: "least",
      fallbacks: null,
      who: "M. Orr",
    }),
  });
  const looked = [at("dist/looks"), given("--views"), given("--screens")];
  await step("taking the pictures", () =>
    run(process.execPath, [at(script), server.address, ...(all ? looked : [at("docs/screenshots")])]),
  );
} finally {
  server.child.kill("SIGTERM");
  await new Promise((resolve) => server.child.on("close", resolve));
  rmSync(data, { recursive: true });
}
