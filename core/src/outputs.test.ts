import { readFileSync } from "node:fs";
import { join } from "node:path";
import { contentHash } from "./design/hash";
import type { Design } from "./design/model";
import { allFiles, runStages } from "./run";
import { EVERYTHING } from "./test/everything";
import { golden } from "./test/golden";

const hillfold = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/hillfold.bench.json"), "utf8")) as Design;

/** What is packed is as long as the packing likes: of it the name counts here, and what is in it where it is read back. */
const PACKED = /\.(pdf|xlsx|zip|png)$/;
const FIRST = 4;
const MOST_SIGNS = 240;

test.each<[string, Design]>([
  ["everything", EVERYTHING],
  ["hillfold", hillfold],
])(
  "files that leave the house, of %s: how each begins, how long it is, and whether any sign of it is another one",
  async (name, design) => {
    const files = await allFiles(runStages(design));
    const lines = files.flatMap(({ name: file, bytes }) => {
      if (PACKED.test(file)) return [`${file}`];
      const text = new TextDecoder().decode(bytes);
      const all = text.split(/\r?\n/);
      return [
        `${file}: ${all.length} lines, ${contentHash(text).slice(0, 12)}`,
        ...all.slice(0, FIRST).map((l) => `  ${l.slice(0, MOST_SIGNS)}`),
      ];
    });
    expect(new Set(files.map((f) => f.name)).size).toBe(files.length);
    golden(`outputs-${name}.txt`, `${lines.join("\n")}\n`);
  },
);
