import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { at, buildApp, buildServer, ensureBrowser, ensureInstalled, run, startServer, step } from "./lib.mjs";

// npm run shots: retakes docs/screenshots from the demo jobs.
await ensureInstalled();
await ensureBrowser();
await step("building", buildServer);
await buildApp();
const { build } = await import("esbuild");
await build({
  entryPoints: [at("e2e/src/shots.ts")],
  outfile: at("dist/shots.mjs"),
  bundle: true,
  platform: "node",
  format: "esm",
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
  await step("taking the pictures", () =>
    run(process.execPath, [at("dist/shots.mjs"), server.address, at("docs/screenshots")]),
  );
} finally {
  server.child.kill("SIGTERM");
  await new Promise((resolve) => server.child.on("close", resolve));
  rmSync(data, { recursive: true });
}
