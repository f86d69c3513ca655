import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { build } from "esbuild";
import { createFormatter, createParser, SchemaGenerator } from "ts-json-schema-generator";
import { at } from "./lib.mjs";
import { programWrittenOut } from "./written-out.mjs";

// Writes docs/formats/*.schema.json from the schemas in use, and contract/answers.schema.json, the forms of what the server answers, from
// the types of the contract: node scripts/schema.mjs
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

const named = new Set(
  readdirSync(at("server/src"), { recursive: true, encoding: "utf8" })
    .filter((f) => f.endsWith(".ts"))
    .flatMap((f) =>
      [...readFileSync(at(`server/src/${f}`), "utf8").matchAll(/\banswer: "(\w+)"/g)].map(([, name]) => name),
    ),
);
const sources = ["contract/src", "core/src/drawings"].flatMap((folder) =>
  readdirSync(at(folder))
    .filter((f) => f.endsWith(".ts") && !f.endsWith(".test.ts"))
    .map((f) => at(`${folder}/${f}`)),
);
const program = programWrittenOut(sources);
const settings = { expose: "export", jsDoc: "extended", topRef: true, additionalProperties: false };
const generator = new SchemaGenerator(program, createParser(program, settings), createFormatter(settings), settings);
const forms = {};
const raw = {};
// Names with the signs of types in them are no names of forms; of two types of one name the second gets that of its answer before it.
const plain = (name) => decodeURIComponent(name).replace(/[^\w.-]+/g, "_");
const withNames = (value, names) => {
  if (Array.isArray(value)) return value.map((one) => withNames(one, names));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [
      key,
      key === "$ref"
        ? `#/definitions/${names.get(decodeURIComponent(one.slice("#/definitions/".length)))}`
        : withNames(one, names),
    ]),
  );
};
for (const answer of [...named].sort()) {
  const { definitions } = generator.createSchema(answer);
  const names = new Map(
    Object.entries(definitions).map(([key, form]) => {
      const name = plain(key);
      const text = JSON.stringify(form);
      const there = Object.keys(raw).find((k) => raw[k] === text && (k === name || k.endsWith(`.${name}`)));
      return [decodeURIComponent(key), there ?? (name in raw ? `${answer}.${name}` : name)];
    }),
  );
  for (const [key, form] of Object.entries(definitions)) {
    const name = names.get(decodeURIComponent(key));
    raw[name] = JSON.stringify(form);
    forms[name] = withNames(form, names);
  }
}
// An event says more, by its kind.
forms.Happened.additionalProperties = true;
const sorted = Object.fromEntries(Object.entries(forms).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(
  at("contract/answers.schema.json"),
  `${JSON.stringify({ title: "What Gray Bench answers", definitions: sorted }, null, 2)}\n`,
);
console.log(`${named.size} answers, ${Object.keys(sorted).length} forms`);
