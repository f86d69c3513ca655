import { writeFileSync } from "node:fs";
import { build } from "esbuild";
import { at } from "./lib.mjs";

// Writes docs/formats/*.schema.json from the schemas in use: node scripts/schema.mjs
const KINDS = ["design", "library", "shop", "stock"];
await build({
  stdin: {
    contents: [
      'import toJson from "joi-to-json";',
      'import { designSchema, librarySchema } from "./design/schema"; import { shopSchema } from "./shop/shop"; import { stockSchema } from "./design/stock";',
      'const json = (schema) => toJson(schema, "json-draft-2019-09");',
      "export const design = json(designSchema); export const library = json(librarySchema); export const shop = json(shopSchema); export const stock = json(stockSchema);",
    ].join("\n"),
    resolveDir: at("core/src"),
    loader: "ts",
  },
  bundle: true,
  platform: "node",
  format: "esm",
  outfile: at("dist/schema.mjs"),
  external: ["joi-to-json", "joi"],
  alias: { "jsonc-parser": "jsonc-parser/lib/esm/main.js" },
  logLevel: "warning",
});
const schemas = await import(at("dist/schema.mjs"));
for (const kind of KINDS) {
  writeFileSync(
    at(`docs/formats/${kind}.schema.json`),
    `${JSON.stringify({ title: `Gray Bench ${kind}, version 1`, ...schemas[kind] }, null, 2)}\n`,
  );
}
