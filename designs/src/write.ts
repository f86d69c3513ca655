import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { libraryText } from "@gray-bench/core/library/library";
import type { Design, Part } from "@gray-bench/core/design/model";
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

/** Demo designs by file name, with all that is known of their parts. */
export const DEMOS: Record<string, () => Design> = {
  "larkmoor.bench.json": larkmoor,
  "hillfold.bench.json": hillfold,
};

/** What a drawing office says of a part: what it is called, its kind and its size. */
const listed = ({ number, maker, text, category, w, h, d }: Part): Part => ({ number, maker, text, category, w, h, d });

/** A design as a drawing office sends it: of the parts it names it knows no pins, holes or losses; the shop's library does. */
export function asSent(design: Design): Design {
  const named = new Set<string | undefined>([
    ...[...design.devices, ...design.rails, ...design.ducts].map(({ part }) => part),
    ...[...design.wires, ...design.cables].map(({ type }) => type),
  ]);
  return { ...design, parts: design.parts.filter(({ number }) => named.has(number)).map(listed) };
}

/** The folder of the designs that need no library. */
export const WHOLE = "whole";

/** The store of the demo, by file name: what the simulated service begins with, and a list of levels. */
export const STORES: Record<string, () => object> = {
  "store.json": demoStock,
  "demo.stock.json": demoStockFile,
};

/** The library of the demo: what is known of its invented parts, for designs that name them only. */
export const LIBRARY_FILE = "demo.library.json";

/** A line per item of a list. */
export const storeText = (store: object): string => designText(store as Design);

/** Writes the demo designs, as they are sent and whole, or with `withLarge` the synthetic panel, into a folder. */
export function writeDesigns(folder: string, withLarge = false): void {
  mkdirSync(join(folder, WHOLE), { recursive: true });
  for (const [name, make] of Object.entries(DEMOS)) {
    writeFileSync(join(folder, name), designText(asSent(make())));
    writeFileSync(join(folder, WHOLE, name), designText(make()));
  }
  for (const [name, make] of Object.entries(STORES)) writeFileSync(join(folder, name), storeText(make()));
  writeFileSync(join(folder, LIBRARY_FILE), libraryText({ parts: [...LIBRARY] }));
  const tables = join(folder, "saltmere");
  mkdirSync(tables, { recursive: true });
  for (const [name, bytes] of Object.entries(saltmere())) writeFileSync(join(tables, name), bytes);
  if (withLarge) writeFileSync(join(folder, "large.bench.json"), designText(large()));
}
