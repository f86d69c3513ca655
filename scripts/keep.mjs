import { spawnSync } from "node:child_process";
import { at, buildServer, ensureInstalled } from "./lib.mjs";

// npm run backup -- FILE, npm run restore -- FILE: copies the data of a server, and puts a copy back.
await ensureInstalled();
await buildServer();
const { status } = spawnSync(process.execPath, [at("dist/server/keep.mjs"), ...process.argv.slice(2)], {
  stdio: "inherit",
});
process.exit(status ?? 1);
