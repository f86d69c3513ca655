import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { at, buildServer, ensureInstalled } from "./lib.mjs";

// npm run make -- FILE OUT. Only the command's own words go to stdout and stderr.
const log = console.log;
console.log = (...words) => console.error(...words);
await ensureInstalled();
if (!existsSync(at("dist/server/cli.mjs")) || process.env.GRAY_BENCH_REBUILD !== "0") await buildServer();
console.log = log;
const child = spawn(process.execPath, [at("dist/server/cli.mjs"), ...process.argv.slice(2)], {
  stdio: "inherit",
  cwd: process.env.INIT_CWD ?? process.cwd(),
});
child.on("close", (code) => process.exit(code ?? 1));
