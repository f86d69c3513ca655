import { buildApp, buildServer, buildStandins, ensureInstalled, step } from "./lib.mjs";

await ensureInstalled();
await step("building the server", buildServer);
await buildStandins();
await buildApp();
