import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { basename, join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { readEdits } from "@gray-bench/core/frame/edits-file";
import { complete, type Library } from "@gray-bench/core/library/library";
import type { Design, Job } from "@gray-bench/core/design/model";
import { readDesign, type FileRead } from "@gray-bench/core/design/read";
import { countPoints } from "@gray-bench/core/design/open-points";
import { DEFAULT_SHOP, readShop } from "@gray-bench/core/shop/shop";
import { readStock } from "@gray-bench/core/design/stock";
import type { MatchedDrawing } from "@gray-bench/core/drawings/lay";
import { readDrawing } from "@gray-bench/core/drawings/read";
import { saidFor } from "@gray-bench/core/drawings/recognise";
import { EDITS } from "@gray-bench/core/edits";
import { eachFile, runStages } from "@gray-bench/core/run";
import { assemble, type MatchedTable, type NotRead } from "@gray-bench/core/tables/assemble";
import { readKept, recognise, type KeptMatching } from "@gray-bench/core/tables/kept";
import { tableName } from "@gray-bench/core/tables/names";
import { readLibraryFile } from "@gray-bench/core/tables/library-table";
import type { Matching } from "@gray-bench/core/tables/matching";
import { notReadFile } from "@gray-bench/core/tables/not-read";
import { preview } from "@gray-bench/core/tables/preview";
import type { Sheet } from "@gray-bench/core/tables/sheet";
import { readPacked } from "@gray-bench/core/tables/set";
import { isPackage } from "@gray-bench/core/tables/unpack";

const USAGE =
  "usage: npm run make -- FILE.bench.json|FILE.tables.zip|FOLDER OUT [--library FILE.library.json|FILE.csv|FILE.xlsx] [--edits FILE.edits.json] [--shop FILE.shop.json] [--stock FILE.stock.json]";

class WrongCall extends Error {}
class Refused extends Error {
  readonly reasons: object[];

  constructor(reasons: object[]) {
    super("refused");
    this.reasons = reasons;
  }
}

/**
 * Reads a design, lays edits on it, runs every stage with a shop, writes every output file. No server.
 * @returns 0 done, 1 a file was refused, or one of those it writes could not be (reasons as JSON lines on stderr), 2 wrong call, 3 a fault of the program
 */
export async function make(args: readonly string[]): Promise<number> {
  try {
    await run(args);
    return 0;
  } catch (error) {
    if (error instanceof Refused) {
      for (const reason of error.reasons) console.error(JSON.stringify(reason));
      return 1;
    }
    if (error instanceof WrongCall) {
      console.error(error.message === "" ? USAGE : `${error.message}\n${USAGE}`);
      return 2;
    }
    const { message, stack } = error as Error;
    console.error(
      `this is a fault of the program: ${message.split("\n")[0]} (${stack?.split("\n")[1]?.trim() ?? "?"})`,
    );
    return 3;
  }
}

/**
 * Replaces files of a folder together, each written beside its place as it comes: when one of them cannot be written, all stay as they
 * were. A name that is a link is refused; nothing is written through it.
 * @returns their names in order
 */
async function replaceAll(
  folder: string,
  files: AsyncIterable<{ name: string; bytes: Uint8Array }>,
): Promise<string[]> {
  const at = (name: string) => ({
    name: join(folder, name),
    part: join(folder, `.${name}.part`),
    old: join(folder, `.${name}.old`),
  });
  inPlace(() => mkdirSync(folder, { recursive: true }));
  const names: string[] = [];
  const known = new Set<string>();
  const aside: { name: string; old: string }[] = [];
  const put: string[] = [];
  try {
    for await (const { name, bytes } of files) {
      // Where small and large letters are one file.
      if (known.has(name.toLowerCase())) throw new Error(`two files would be called ${name}; nothing was written`);
      known.add(name.toLowerCase());
      inPlace(() => {
        const place = at(name);
        const there = lstatSync(place.name, { throwIfNoEntry: false });
        if (there && !there.isFile()) throw new Error(`${place.name} is no plain file; it was not replaced`);
        rmSync(place.part, { force: true });
        names.push(name);
        writeFileSync(place.part, bytes, { flag: "wx" });
      });
    }
    inPlace(() => {
      for (const { name, part, old } of names.map(at)) {
        if (existsSync(name)) {
          renameSync(name, old);
          aside.push({ name, old });
        }
        renameSync(part, name);
        put.push(name);
      }
    });
  } catch (error) {
    for (const name of put) rmSync(name, { force: true });
    for (const { name, old } of aside) renameSync(old, name);
    for (const { part } of names.map(at)) rmSync(part, { force: true });
    throw error;
  }
  for (const { old } of aside) rmSync(old, { force: true });
  return names.sort();
}

async function run(args: readonly string[]): Promise<void> {
  const asked = called(args);
  if (asked.help) {
    console.log(USAGE);
    return;
  }
  const { file, out, library, edits, shop, stock } = asked;
  const { design: told, notRead } = inPlace(() => statSync(file)).isDirectory()
    ? readFolder(file)
    : { design: readDesignFile(file), notRead: [] };
  const received = library === undefined ? told : complete(told, libraryIn(library));
  const log = edits === undefined ? [] : read(edits, readEdits).edits;
  const laid = EDITS.lay(received, log);
  if (laid.unfitting.length > 0) {
    throw new Refused(
      laid.unfitting.map(({ edit, reason, remedy }) => ({
        file: edits,
        path: `edit ${edit.id}`,
        found: `"${EDITS.sentence(edit)}", which does not fit: ${reason}`,
        expected: remedy,
      })),
    );
  }
  const say = saying();
  const results = runStages(laid.design, shop === undefined ? DEFAULT_SHOP : read(shop, readShop), (stage, share) =>
    say(`computing ${stage}`, share),
  );
  const files = eachFile(results, stock === undefined ? null : read(stock, readStock), (stage) =>
    say(`writing files of ${stage}`),
  );
  const names = await replaceAll(out, notRead.length === 0 ? files : withFirst(notReadFile(notRead), files));
  const withheld = results.open.filter((p) => p.withholds !== undefined);
  const open = countPoints(results.open);
  console.log(
    `${names.join(", ")} written to ${out}; open points: ${open.stop} stop, ${open.check} check, ${open.note} note`,
  );
  // The others are there; what is missing among them, or was not read, must not go unseen.
  if (withheld.length + notRead.length > 0)
    throw new Refused([
      ...withheld.map((p) => ({ file: p.withholds, path: `${p.thing} ${p.of}`, found: p.text, expected: p.remedy })),
      ...notRead.map(({ table, line, heading, found, wanted, row }) => ({
        file: join(file, table),
        path: [line === null ? [] : `line ${line}`, heading ?? []].flat().join(", "),
        found,
        expected: wanted,
        left: line === null ? "what is drawn" : row ? "the row" : "the cell",
      })),
    ]);
}

async function* withFirst<T>(first: T, rest: AsyncIterable<T>): AsyncGenerator<T> {
  yield first;
  yield* rest;
}

function readDesignFile(file: string): Design {
  const bytes = inPlace(() => readFileSync(file));
  if (isPackage(bytes)) {
    const packed = readPacked(bytes);
    if (!packed.ok) throw new Refused(packed.faults.map((f) => ({ file, ...f })));
    return packed.design;
  }
  return read(file, (text) => {
    const design = readDesign(text);
    return design.ok ? { ok: true, value: design.design } : design;
  });
}

/** What a job is; its form is that of a design. */
function readJob(text: string): FileRead<Job> {
  try {
    return { ok: true, value: JSON.parse(text) as Job };
  } catch (error) {
    const fault = {
      path: "the whole file",
      found: (error as Error).message,
      expected: "JSON with code, title and revision",
    };
    return { ok: false, faults: [fault], count: 1 };
  }
}

const MOST_TABLES = 50;

/** The tables of a file: all sheets of a book that are not hidden. @throws Refused where one is nothing of ours, unless a matching leaves it out */
function readFile(file: string, name: string, kept: readonly KeptMatching[], passed: NotRead[]): MatchedTable[] {
  const found = recognise(
    inPlace(() => readFileSync(file)),
    kept,
  );
  if (!found.ok) throw new Refused([{ file, path: "the whole file", found: found.found, expected: found.remedy }]);
  return found.tables.flatMap(({ sheet, sheetName, hidden, matching, by }) => {
    if (hidden && by === null) {
      const rows = `a hidden sheet of ${sheet.rows.length} rows`;
      const table = tableName(name, sheetName);
      passed.push({ table, line: 1, heading: null, found: rows, wanted: "a sheet that is not hidden", row: true });
      return [];
    }
    if (matching) {
      const table = tableName(name, sheetName);
      if (by === null) sayUnclear(table, sheet, matching);
      return [{ name: table, sheet, matching }];
    }
    if (by !== null) return [];
    const place = sheet.headingLine === null ? "headings" : `line ${sheet.headingLine}`;
    throw new Refused([
      {
        file,
        path: sheetName === null ? place : `sheet ${sheetName}, ${place}`,
        found: sheet.headings.slice(0, 20).join(" | "),
        expected:
          "headings of devices (tag), connections (from, to), terminals (strip, terminal), cables (cable, core), nets (name, class …) or parts (number, width, height, depth)",
      },
    ]);
  });
}

/** Tells of columns whose decimal sign is a guess that makes other numbers: nobody has looked at them yet. */
function sayUnclear(table: string, sheet: Sheet, matching: Matching): void {
  for (const [id, { unclear }] of Object.entries(preview(sheet, matching, 0).fields)) {
    if (unclear === null) continue;
    const { from, decimal = "." } = matching.columns[id]!;
    const sign = decimal === "," ? "a comma" : "a point";
    console.error(
      `${table}, ${from.map((p) => p.heading).join(" + ")}: ${unclear} could be meant with a point or with a comma; ${sign} is taken for the decimal sign. A matching says which.`,
    );
  }
}

/** A drawing, with what it shows as a matching says; where none does, nothing of it is taken, and that is told. */
function readLayout(file: string, name: string, kept: readonly KeptMatching[], passed: NotRead[]): MatchedDrawing {
  const found = readDrawing(inPlace(() => readFileSync(file)));
  if (!found.ok) throw new Refused([{ file, path: "the whole file", found: found.found, expected: found.remedy }]);
  const { drawing } = found;
  const { said } = saidFor(drawing, name, kept);
  if (said.views.length === 0)
    passed.push({
      table: name,
      line: null,
      heading: null,
      found: "a drawing of which nothing says which faces it shows",
      wanted: "a matching with its views",
      row: true,
    });
  return { name, drawing, said };
}

/**
 * Tables of a drawing office in a folder, as CSV or XLSX, and drawings as DXF, with matchings (`.matching.json`) where they are there,
 * and a `job.json` that says code, title and revision.
 */
function readFolder(folder: string): { design: Design; notRead: NotRead[] } {
  const all = inPlace(() => readdirSync(folder)).sort();
  const names = all.filter((n) => /\.(csv|tsv|txt|xlsx)$/i.test(n));
  const drawn = all.filter((n) => /\.dxf$/i.test(n));
  if (names.length + drawn.length === 0)
    throw new WrongCall(`there is no table (.csv, .tsv, .txt, .xlsx) and no drawing (.dxf) in ${folder}`);
  if (names.length + drawn.length > MOST_TABLES) throw new WrongCall(`${folder} has more than ${MOST_TABLES} files`);
  const kept = all
    .filter((n) => n.endsWith(".matching.json"))
    .map((n): KeptMatching => read(join(folder, n), readKept));
  const passed: NotRead[] = [];
  const tables = names.flatMap((name) => readFile(join(folder, name), name, kept, passed));
  const drawings = drawn.map((name) => readLayout(join(folder, name), name, kept, passed));
  const about = join(folder, "job.json");
  const named = basename(resolve(folder))
    .replace(/[^A-Za-z0-9._-]+/g, "-")
    .replace(/^[^A-Za-z0-9]+/, "");
  const job = existsSync(about)
    ? read(about, readJob)
    : { code: named || "JOB", title: basename(resolve(folder)), revision: "1" };
  const made = assemble(job, tables, drawings);
  if (!made.ok) throw new Refused(made.faults.map((f) => ({ file: f.path.startsWith("job") ? about : folder, ...f })));
  return { design: made.design, notRead: [...passed, ...made.notRead] };
}

/** What is soon done says nothing; from then on it tells where it is, so often. */
const SILENT_MS = 2000;
const SAID_EVERY_MS = 1000;

/** Tells on stderr what a long run is at. */
function saying(): (what: string, share?: number) => void {
  let next = performance.now() + SILENT_MS;
  let last = "";
  return (what, share) => {
    const now = performance.now();
    if (now < next) return;
    const text = share === undefined ? what : `${what}, ${Math.floor(share * 100)} %`;
    if (text !== last) console.error(text);
    last = text;
    next = now + SAID_EVERY_MS;
  };
}

function called(args: readonly string[]) {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        library: { type: "string" },
        edits: { type: "string" },
        shop: { type: "string" },
        stock: { type: "string" },
        help: { type: "boolean" },
      },
    });
    if (values.help) return { help: true } as const;
    const [file, out, ...rest] = positionals;
    if (file === undefined || out === undefined || rest.length > 0) throw new WrongCall();
    return { help: false, file, out, ...values } as const;
  } catch (error) {
    throw error instanceof WrongCall ? error : new WrongCall((error as Error).message);
  }
}

/** What the file system refuses is a matter of the call. */
function inPlace<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw new WrongCall((error as Error).message);
  }
}

/** A library as a file or as a table; what of a table was not read is told. */
function libraryIn(file: string): Library {
  const read = readLibraryFile(
    inPlace(() => readFileSync(file)),
    null,
  );
  if (!read.ok) throw new Refused(read.faults.map((f) => ({ file, ...f })));
  for (const { table, line, heading, found, wanted } of read.told.notRead)
    console.error(
      JSON.stringify({
        file,
        path: `${table}, line ${line}${heading === null ? "" : `, ${heading}`}`,
        found,
        expected: wanted,
      }),
    );
  return read.library;
}

function read<T>(file: string, parse: (text: string) => FileRead<T>): T {
  const bytes = inPlace(() => readFileSync(file));
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    const found = "bytes that are not UTF-8";
    throw new Refused([{ file, path: "the whole file", found, expected: "a text file in UTF-8" }]);
  }
  const result = parse(text);
  if (!result.ok) throw new Refused(result.faults.map((f) => ({ file, ...f })));
  return result.value;
}

process.exitCode = await make(process.argv.slice(2));
