import { spawn } from "node:child_process";
import { at, buildServer, ensureInstalled } from "./lib.mjs";

// npm run make -- FILE OUT. Progress of a first start goes to stdout: stderr belongs to the reasons of a refusal.
await ensureInstalled();
await buildServer();
const cwd = process.env.INIT_CWD ?? process.cwd();
// What is new is dropped soon, and there is much of it: with more room, and from the start, less time goes into clearing it away.
const flags = ["--max-semi-space-size=128", "--initial-heap-size=1024"];
const child = spawn(process.execPath, [...flags, at("dist/server/cli.mjs"), ...process.argv.slice(2)], {
  stdio: "inherit",
  cwd,
});
child.on("close", (code) => process.exit(code ?? 1));
