import { writeFileSync } from "node:fs";
import { build } from "esbuild";
import { at } from "./lib.mjs";

// Writes docs/formats/design.schema.json from the schema in use: node scripts/schema.mjs
await build({
  stdin: {
    contents:
      'import toJson from "joi-to-json"; import { designSchema } from "./design/schema"; export default toJson(designSchema, "json-draft-2019-09");',
    resolveDir: at("core/src"),
    loader: "ts",
  },
  bundle: true,
  platform: "node",
  format: "esm",
  outfile: at("dist/schema.mjs"),
  external: ["joi-to-json", "joi"],
  logLevel: "warning",
});
const { default: schema } = await import(at("dist/schema.mjs"));
writeFileSync(
  at("docs/formats/design.schema.json"),
  `${JSON.stringify({ title: "Gray Bench design, version 1", ...schema }, null, 2)}\n`,
);
