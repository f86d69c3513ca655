import { buildApp, buildServer, ensureInstalled, step } from "./lib.mjs";

await ensureInstalled();
await step("building the server", buildServer);
await buildApp();
