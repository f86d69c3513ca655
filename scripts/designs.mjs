import { buildServer, ensureInstalled, at } from "./lib.mjs";

// Writes the demo designs anew: npm run designs [-- --large FOLDER]
await ensureInstalled();
await buildServer();
const { writeDesigns } = await import(at("dist/server/write.mjs"));
const largeTo = process.argv.indexOf("--large");
if (largeTo > 0) writeDesigns(process.argv[largeTo + 1], true);
else writeDesigns(at("designs"));
