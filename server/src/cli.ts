import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { readDesign } from "@gray-bench/core/design/read";
import { countPoints } from "@gray-bench/core/design/open-points";
import { allFiles, runStages } from "@gray-bench/core/run";

const USAGE = "usage: npm run make -- FILE.bench.json OUT";

/**
 * Reads a design, runs every stage, writes every output file. No server.
 * @returns 0 done, 1 design refused (reasons as JSON lines on stderr), 2 wrong call
 */
export async function make(args: readonly string[]): Promise<number> {
  const [file, out, ...rest] = args;
  if (file === undefined || out === undefined || rest.length > 0 || file.startsWith("--")) {
    console.error(USAGE);
    return 2;
  }
  let bytes: Buffer;
  try {
    bytes = readFileSync(file);
    mkdirSync(out, { recursive: true });
  } catch (error) {
    console.error(`${(error as Error).message}\n${USAGE}`);
    return 2;
  }
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    console.error(
      JSON.stringify({
        path: "the whole file",
        found: "bytes that are not UTF-8",
        expected: "a text file in UTF-8",
      }),
    );
    return 1;
  }
  const read = readDesign(text);
  if (!read.ok) {
    for (const fault of read.faults) console.error(JSON.stringify(fault));
    return 1;
  }
  const results = runStages(read.design);
  const files = await allFiles(results);
  // Written beside and renamed, so that a file is whole or not there.
  for (const f of files) {
    const part = join(out, `.${f.name}.part`);
    try {
      writeFileSync(part, f.bytes);
      renameSync(part, join(out, f.name));
    } catch (error) {
      rmSync(part, { force: true });
      console.error(`${(error as Error).message}\n${USAGE}`);
      return 2;
    }
  }
  const open = countPoints(results.open);
  console.log(
    `${files.map((f) => f.name).join(", ")} written to ${out}; open points: ${open.stop} stop, ${open.check} check, ${open.note} note`,
  );
  return 0;
}

process.exitCode = await make(process.argv.slice(2));
