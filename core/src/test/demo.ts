import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "../design/model";
import { readDesign } from "../design/read";

/** A demo design by name. */
export function demo(name: "larkmoor" | "hillfold"): Design {
  const read = readDesign(readFileSync(join(__dirname, `../../../designs/whole/${name}.bench.json`), "utf8"));
  if (!read.ok) throw new Error(read.faults[0]!.path);
  return read.design;
}
