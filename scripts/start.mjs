import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { at, buildApp, buildServer, buildStandins, ensureInstalled, startServer, startStandins, step } from "./lib.mjs";

// npm start, and npm run demo: install and build what is missing, then serve.
const own = {
  demo: { type: "boolean", default: false },
  data: { type: "string" },
  port: { type: "string", default: "4600" },
  host: { type: "string", default: "127.0.0.1" },
};
// All other flags are the server's: it knows them, and says which it does not.
const { tokens } = parseArgs({ options: own, strict: false, allowPositionals: true, tokens: true });
const values = { demo: false, port: "4600", host: "127.0.0.1" };
const flags = [];
for (const [i, t] of tokens.entries()) {
  if (t.kind === "option" && t.name in own) values[t.name] = own[t.name].type === "boolean" ? true : (t.value ?? "");
  else if (t.kind === "option") flags.push(t.rawName, ...(t.inlineValue ? [t.value] : []));
  else if (t.kind === "positional" && tokens[i - 1]?.kind === "option") flags.push(t.value);
  else if (t.kind === "positional") {
    console.error(`"${t.value}" stands behind no flag. Flags go behind --: npm start -- --port 4700`);
    process.exit(2);
  }
}

await ensureInstalled();
await step("building the server", buildServer);
await buildApp();
const data = values.data ?? at("data", values.demo ? "demo" : "own");
// With the demo come simulated machines; a shop names its own.
if (values.demo) await buildStandins();
const standins = values.demo ? await startStandins(data) : { flags: [], stop: () => undefined };
const outside = [...flags, ...standins.flags];
let server;
try {
  const where = ["--data", data, "--port", values.port, "--host", values.host, "--app", at("app/dist")];
  server = await startServer([...where, ...outside]);
} catch (error) {
  standins.stop();
  console.error(error.message);
  process.exit(1);
}
if (values.demo) {
  await step("importing the demo jobs", async () => {
    // In front of the jobs: their designs name parts, and what is known of them stands in the library.
    const { versions } = await (await fetch(`${server.address}/api/library/versions`)).json();
    if (versions.length === 0) {
      const asked = new URLSearchParams({ on: "", who: "Gray Bench", why: "shipped with the demo" });
      const reply = await fetch(`${server.address}/api/library?${asked}`, {
        method: "PUT",
        headers: { "content-type": "application/octet-stream" },
        body: readFileSync(at("designs/demo.library.json")),
      });
      if (!reply.ok) throw new Error(await reply.text());
    }
    for (const name of ["larkmoor", "hillfold"]) {
      const reply = await fetch(`${server.address}/api/jobs`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: readFileSync(at("designs", `${name}.bench.json`)),
      });
      if (!reply.ok) throw new Error(`${name}: ${await reply.text()}`);
    }
  });
}
console.log(`\nGray Bench is ready: ${server.address}\n(stop with Ctrl+C)`);
const stop = () => {
  standins.stop();
  server.child.kill("SIGTERM");
};
process.on("SIGINT", stop);
process.on("SIGTERM", stop);
server.child.on("close", (code) => {
  standins.stop();
  process.exit(code ?? 0);
});
