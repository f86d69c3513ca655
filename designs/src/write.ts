import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { libraryText } from "@gray-bench/core/design/library";
import type { Design } from "@gray-bench/core/design/model";
import { hillfold } from "./hillfold";
import { large } from "./large";
import { LIBRARY } from "./library";
import { larkmoor } from "./larkmoor";
import { saltmere } from "./saltmere";
import { demoStock, demoStockFile } from "./stock";

/** Text of a design file: a line per item of a list, so that two revisions compare well. */
export function designText(design: Design): string {
  const fields = Object.entries(design).map(([key, value]) => {
    if (!Array.isArray(value) || value.length === 0) return `${JSON.stringify(key)}: ${JSON.stringify(value)}`;
    return `${JSON.stringify(key)}: [\n    ${value.map((v) => JSON.stringify(v)).join(",\n    ")}\n  ]`;
  });
  return `{\n  ${fields.join(",\n  ")}\n}\n`;
}

/** Demo designs by file name. */
export const DEMOS: Record<string, () => Design> = {
  "larkmoor.bench.json": larkmoor,
  "hillfold.bench.json": hillfold,
};

/** The store of the demo, by file name: what the simulated service begins with, and a list of levels. */
export const STORES: Record<string, () => object> = {
  "store.json": demoStock,
  "demo.stock.json": demoStockFile,
};

/** The library of the demo: what is known of its invented parts, for designs that name them only. */
export const LIBRARY_FILE = "demo.library.json";

/** A line per item of a list. */
export const storeText = (store: object): string => designText(store as Design);

/** Writes the demo designs, or with `withLarge` the synthetic panel, into a folder. */
export function writeDesigns(folder: string, withLarge = false): void {
  mkdirSync(folder, { recursive: true });
  for (const [name, make] of Object.entries(DEMOS)) writeFileSync(join(folder, name), designText(make()));
  for (const [name, make] of Object.entries(STORES)) writeFileSync(join(folder, name), storeText(make()));
  writeFileSync(join(folder, LIBRARY_FILE), libraryText({ parts: [...LIBRARY] }));
  const tables = join(folder, "saltmere");
  mkdirSync(tables, { recursive: true });
  for (const [name, bytes] of Object.entries(saltmere())) writeFileSync(join(tables, name), bytes);
  if (withLarge) writeFileSync(join(folder, "large.bench.json"), designText(large()));
}
