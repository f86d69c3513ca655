import { createHash } from "node:crypto";
import { once } from "node:events";
import { constants, setPriority } from "node:os";
import { workerData } from "node:worker_threads";
import { findInDocument, foundIn } from "@gray-bench/core/attachments/find";
import type { PageText } from "@gray-bench/core/attachments/pages";
import type { PageFound } from "@gray-bench/core/attachments/places";
import { sheetsOf } from "@gray-bench/core/attachments/sheets";
import { designChanges } from "@gray-bench/core/design/changes";
import { searchEntries } from "@gray-bench/core/search/entries";
import { canonicalJson } from "@gray-bench/core/design/canonical";
import { contentHash, textHash, useDigest } from "@gray-bench/core/design/hash";
import type { Unfitting } from "@gray-bench/core/frame/edits";
import {
  complete,
  libraryChanges,
  libraryHash,
  libraryText,
  readLibrary,
  withParts,
  type Library,
  type LibraryChanges,
} from "@gray-bench/core/library/library";
import { libraryBook, libraryCsv, readLibraryFile } from "@gray-bench/core/tables/library-table";
import { EDITS } from "@gray-bench/core/edits";
import type { Design } from "@gray-bench/core/design/model";
import { countPoints, SEVERITIES, turnedPoints, type OpenPoint } from "@gray-bench/core/design/open-points";
import { readDesign } from "@gray-bench/core/design/read";
import { wholeShop, type Shop } from "@gray-bench/core/shop/shop";
import type { Figure, StageResult, Told } from "@gray-bench/core/frame/stage";
import { allFiles, openOf, runStage, stageKeys, type Results, type StageKeys } from "@gray-bench/core/run";
import { STAGES } from "@gray-bench/core/stages";
import type { MatchedDrawing } from "@gray-bench/core/drawings/lay";
import { lookAtDrawing } from "@gray-bench/core/drawings/look";
import { partOutline } from "@gray-bench/core/drawings/part-outline";
import { readDrawing, type Drawing, type DrawingRead } from "@gray-bench/core/drawings/read";
import { saidFor } from "@gray-bench/core/drawings/recognise";
import { assemble, type MatchedTable, type NotRead } from "@gray-bench/core/tables/assemble";
import type { NoTable } from "@gray-bench/core/tables/bytes";
import { TABLE_KINDS } from "@gray-bench/core/tables/fields";
import { columnsOf, guess } from "@gray-bench/core/tables/guess";
import { recognise } from "@gray-bench/core/tables/kept";
import { preview } from "@gray-bench/core/tables/preview";
import { readTables, type ReadAsked, type TableIn } from "@gray-bench/core/tables/read";
import { packTables, readPacked } from "@gray-bench/core/tables/set";
import { isPackage } from "@gray-bench/core/tables/unpack";
import { LRUCache } from "lru-cache";
import { STAGE_NAMES, type StageName } from "@gray-bench/core/stage-names";
import type { ArrivalOutlook, TableLook } from "@gray-bench/contract/intake";
import type { DesignHead, StageSummary } from "@gray-bench/contract/jobs";
import type { Effect } from "@gray-bench/contract/results";
import type {
  ArrivedFiles,
  AskTask,
  AssembleAnswer,
  AttachmentsTask,
  CompareAnswer,
  CompareTask,
  ComputeAnswer,
  ComputeMessage,
  ComputeTask,
  DesignJson,
  DocumentAnswer,
  DrawAnswer,
  DrawingAnswer,
  DrawingLookAnswer,
  DrawTask,
  FilesAnswer,
  FilesTask,
  FindAnswer,
  FindAsked,
  FindSent,
  Known,
  LayAnswer,
  LayTask,
  LibraryAnswer,
  OutlineAnswer,
  PartAnswer,
  LibraryTask,
  LookAnswer,
  MadeFrom,
  NotLaid,
  ReadAnswer,
  ReadTask,
  ReceivedFile,
  RecogniseAnswer,
  Summary,
  TablesAnswerTo,
  TablesTask,
  Task,
  ThreadData,
  WrittenBytes,
} from "./tasks";

const sha256 = (data: string | Uint8Array): string => createHash("sha256").update(data).digest("hex");
useDigest(sha256);

// On Linux this is the priority of the one thread: on a busy machine whoever reads does not wait for who computes.
if (process.platform === "linux" && (workerData as ThreadData | undefined)?.kind === "computes")
  setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

/** Runs in a worker thread: everything that takes longer than a few milliseconds. */
export default function work(task: Task): unknown {
  switch (task.kind) {
    case "read":
      return read(task);
    case "compute":
      return compute(task);
    case "files":
      return files(task);
    case "lay":
      return lay(task);
    case "compare":
      return compare(task);
    case "index":
      return stored(task.design.hash, "names", searchEntries(designOf(task.design)));
    case "draw":
      return draw(task);
    case "ask":
      return ask(task);
    case "tables":
      return tablesTask(task);
    case "library":
      return libraryTask(task);
    case "attachments":
      return attachmentsTask(task);
    case "pack":
      return packTables(designOf(task.design));
    case "differ":
      return designChanges(designOf(task.before), designOf(task.after));
  }
}

function read({ bytes }: ReadTask): ReadAnswer {
  if (isPackage(bytes)) {
    const packed = readPacked(bytes);
    return packed.ok ? readAs(packed.design) : packed;
  }
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return {
      ok: false,
      faults: [{ path: "the whole file", found: "bytes that are not UTF-8", expected: "a text file in UTF-8" }],
      count: 1,
    };
  }
  const result = readDesign(text);
  return result.ok ? readAs(result.design) : result;
}

function readAs(design: Design): Extract<ReadAnswer, { ok: true }> {
  const { job } = design;
  return {
    ok: true,
    hash: contentHash(design),
    json: new TextEncoder().encode(canonicalJson(design)),
    head: headOf(design),
    job: {
      code: job.code,
      title: job.title,
      customer: job.customer ?? null,
      due: job.due ?? null,
      revision: job.revision,
    },
  };
}

const headOf = ({ enclosures, options, rules }: Design): DesignHead => ({
  enclosures: enclosures.map(({ tag, text, w, h, d }) => ({ tag, text: text ?? "", w, h, d })),
  hinges: Object.fromEntries(enclosures.map((e) => [e.tag, e.hinge ?? "left"])),
  options,
  rules,
});

function lay(task: LayTask): LayAnswer {
  if ("current" in task) {
    let current = designOf(task.current);
    const payloads: unknown[] = [];
    for (const [index, edit] of task.add.entries()) {
      const settled = EDITS.settled(current, edit, edit.who);
      const applied = EDITS.apply(current, settled);
      if (!applied.ok) return { ok: false, index, reason: applied.reason, remedy: applied.remedy };
      current = applied.design;
      payloads.push(settled.payload);
    }
    return { ...laidAs(current, task.unfitting), payloads };
  }
  const { received, library, log, turn } = task;
  const design = library ? completedOf(received, library) : designOf(received);
  if (!turn) {
    const laid = EDITS.lay(design, log);
    return laidAs(laid.design, laid.unfitting.map(notLaid));
  }
  const turned = EDITS.turn(design, log, turn.id, turn.back);
  if (!turned.ok) return { ok: false, standing: turned.standing.map(notLaid) };
  return laidAs(turned.design, turned.unfitting.map(notLaid));
}

/** The library worked with last: it is large, and few jobs have another one. */
let libraryKept: { hash: string; library: Library } | null = null;

function libraryOf({ hash, json }: DesignJson): Library {
  if (libraryKept?.hash !== hash) libraryKept = { hash, library: parse(json) as Library };
  return libraryKept.library;
}

/** A design as received with what the library says of its parts. */
function completedOf(received: DesignJson, library: DesignJson): Design {
  const key = `${received.hash} ${library.hash}`;
  const known = designs.get(key);
  if (known) return known;
  const whole = complete(designOf(received), libraryOf(library));
  designs.set(key, whole);
  return whole;
}

function libraryTask({
  what,
}: LibraryTask): LibraryAnswer | LibraryChanges | OutlineAnswer | PartAnswer | Promise<Uint8Array> {
  if (what.do === "differ")
    return libraryChanges(what.before ? libraryOf(what.before) : { parts: [] }, parse(what.after.json) as Library);
  if (what.do === "write") {
    const next = withParts(what.before ? libraryOf(what.before) : { parts: [] }, what.parts, what.gone);
    const written = keptLibrary(libraryText(next));
    // Who sends single parts does not know where they stand among all.
    return written.ok
      ? written
      : { ...written, faults: written.faults.map((f) => ({ ...f, path: placeIn(next, f.path) })) };
  }
  if (what.do === "outline") {
    const read = readDrawing(what.bytes);
    return read.ok ? { ok: true, outline: partOutline(read.drawing) } : read;
  }
  if (what.do === "part") {
    const { parts } = libraryOf(what.library);
    const { number } = what;
    const part = parts.find((p) => p.number === number) ?? parts.find((p) => p.alsoAs?.includes(number));
    if (!part) return null;
    const { number: _, alsoAs = [], ...said } = part;
    return { said: canonicalJson(said), alsoAs };
  }
  if (what.do === "file") return fileOf(libraryOf(what.library), what.as);
  const read = readLibraryFile(what.bytes, what.into && libraryOf(what.into));
  return read.ok ? { ...kept(read.library), told: read.told } : read;
}

/** A library as tables. */
const fileOf = async (library: Library, as: "csv" | "xlsx"): Promise<Uint8Array> =>
  as === "csv" ? libraryCsv(library) : libraryBook(library);

const kept = (library: Library): Extract<LibraryAnswer, { ok: true }> => ({
  ok: true,
  hash: libraryHash(library),
  json: new TextEncoder().encode(canonicalJson(library)),
  parts: library.parts.length,
});

/** `parts[37].w` of a library is `OH-K9, w`. */
const placeIn = ({ parts }: Library, path: string): string =>
  path.replace(/^parts\[(\d+)\]\.?/, (_, i: string) => `${parts[Number(i)]?.number ?? "?"}, `).replace(/, $/, "");

/** A library as it is kept, of its file. Never throws on any text. */
function keptLibrary(text: string): LibraryAnswer {
  const read = readLibrary(text);
  if (!read.ok) return read;
  return kept(read.value);
}

function laidAs(design: Design, unfitting: NotLaid[]): Extract<LayAnswer, { ok: true }> {
  const json = canonicalJson(design, texts);
  const hash = textHash(json);
  designs.set(hash, design);
  return { ok: true, hash, json: new TextEncoder().encode(json), head: headOf(design), unfitting, payloads: [] };
}

const notLaid = ({ edit, reason, remedy }: Unfitting): NotLaid => ({
  id: edit.id,
  sentence: EDITS.sentence(edit),
  reason,
  remedy,
});

const parse = (json: Uint8Array): unknown => JSON.parse(new TextDecoder().decode(json));

/** Of the things in designs, as they are written. */
const texts = new WeakMap<object, string>();

/** Designs worked on last. What an edit leaves alone is shared with the design before, and so are its hashes. */
const designs = new LRUCache<string, Design>({ max: 4 });

function designOf({ hash, json, from }: DesignJson & { from?: MadeFrom }): Design {
  const design = designs.get(hash) ?? (from && madeOf(hash, from)) ?? (parse(json) as Design);
  designs.set(hash, design);
  return design;
}

/** A design made of the one it came from, where that is known here; undefined where it is not, or another comes of it. */
function madeOf(hash: string, { on, edits }: MadeFrom): Design | undefined {
  let design = designs.get(on);
  for (const edit of edits) {
    const applied = design && EDITS.apply(design, edit);
    design = applied?.ok ? applied.design : undefined;
  }
  return design && textHash(canonicalJson(design, texts)) === hash ? design : undefined;
}

/** The shop worked with last: what is worked out of its rules is kept with it. */
let shopKept: { json: string; shop: Shop } | null = null;

function shopOf(json: string): Shop {
  if (shopKept?.json !== json) shopKept = { json, shop: wholeShop(JSON.parse(json) as Shop) };
  return shopKept.shop;
}

/**
 * Results worked with last, by their keys. A stage that runs on the same ones again knows by that what it has worked out
 * of them before.
 */
const resultsKept = new LRUCache<string, StageResult>({ maxSize: 96e6 });

const keepResult = (key: string, result: StageResult, bytes: number): void =>
  void resultsKept.set(key, result, { size: Math.max(1, bytes) });

/** The result under a key, from what is kept, else as it was sent; undefined where it is neither. */
function resultOf(key: string, sent: Uint8Array | undefined): StageResult | undefined {
  const there = resultsKept.get(key);
  if (there || !sent) return there;
  const result = parse(sent) as StageResult;
  keepResult(key, result, sent.byteLength);
  return result;
}

/** Open points and figures of a stage: all that is needed of a result to sum a job up. */
interface Brief {
  open: OpenPoint[];
  figures: Figure[];
}

const SHARE_STEP = 0.02;
const ALMOST = 0.99;

/**
 * Computes what is not known yet. The keys are told first; whoever asked answers with what is kept under
 * them, and with the whole of those results that the missing stages need.
 */
async function compute({ key: whole, before, ...task }: ComputeTask): Promise<ComputeAnswer> {
  const { shop: shopJson, port } = task;
  const design = designOf(task.design);
  const shop = shopOf(shopJson);
  const keys = stageKeys(design, shop);
  const has = STAGE_NAMES.filter((name) => resultsKept.has(keys[name]!));
  // Held by hand: what is computed meanwhile may take its room.
  const results: Results = Object.fromEntries(has.map((name) => [name, resultOf(keys[name]!, undefined)!]));
  const answer = once(port, "message");
  port.postMessage({ keys, has } satisfies ComputeMessage);
  const [known] = (await answer) as [Known];
  const small: WrittenBytes[] = [];
  const fresh: [key: string, result: StageResult][] = [];
  const briefs: Partial<Record<StageName, Brief>> = {};
  let told = { stage: "", share: -1 };
  const progress = (stage: StageName, share: number): void => {
    if (stage === told.stage && share - told.share < SHARE_STEP) return;
    told = { stage, share };
    port.postMessage({ stage, share } satisfies ComputeMessage);
  };
  for (const stage of STAGES) {
    const { name } = stage;
    const key = keys[name]!;
    const there = results[name] ?? resultOf(key, known.results[name]);
    if (there) results[name] = there;
    if (known.briefs[name]) {
      briefs[name] = parse(known.briefs[name]) as Brief;
      continue;
    }
    progress(name, 0);
    const result = there ?? runStage(stage, design, shop, results, (share) => progress(name, Math.min(share, ALMOST)));
    // What is left is putting it into words and keeping it: the end is told when that is done.
    progress(name, ALMOST);
    results[name] = result;
    briefs[name] = { open: result.open, figures: stage.figures(result as never) };
    small.push(stored(key, "brief", briefs[name]));
    fresh.push([key, result]);
  }
  const open = openOf(design, briefs);
  const summary = summarise(keys, briefs, open);
  const now: Outcome = { keys, results, open };
  const earlier = before === null ? undefined : outcomes.get(before);
  const effect = earlier ? effectOf(earlier, now) : null;
  outcomes.set(whole, now);
  small.push(stored(whole, "open", { open }), stored(whole, "summary", summary));
  port.postMessage({ summed: small, effect } satisfies ComputeMessage);
  const rows = fresh.map(([key, result]) => {
    const row = stored(key, "result", result);
    keepResult(key, result, row.bytes.byteLength);
    return row;
  });
  port.close();
  return rows;
}

/** What a computation came to. Not all results are in it: what was known already was not read. */
interface Outcome {
  keys: StageKeys;
  results: Results;
  open: readonly OpenPoint[];
}

/** Computations made last, by key: what the next one changes is told against them. */
const outcomes = new LRUCache<string, Outcome>({ max: 6 });

/** What has changed since; null where a result of then or of now is not at hand. */
function effectOf(then: Outcome, now: Outcome): Effect | null {
  const words: Told[] = [];
  for (const { name, compare } of STAGES) {
    if (!compare || then.keys[name] === now.keys[name]) continue;
    const [a, b] = [then.results[name], now.results[name]];
    if (!a || !b) return null;
    words.push(...compare(a as never, b as never));
  }
  return { words, ...turnedPoints(then.open, now.open) };
}

function summarise(keys: StageKeys, briefs: Partial<Record<StageName, Brief>>, all: OpenPoint[]): Summary {
  const stages = STAGE_NAMES.map((stage): StageSummary => {
    // Counted from the marked list: what is accepted is not open.
    const open = countPoints(all.filter((p) => p.stage === stage));
    const any = open.stop + open.check + open.note > 0;
    return { stage, state: !briefs[stage] ? "not started" : any ? "open" : "ready", open };
  });
  const figures = STAGES.flatMap(({ name }) => briefs[name]!.figures.map((f) => ({ ...f, stage: name })));
  return { keys, stages, open: countPoints(all), figures };
}

async function files({ key, design, shop, results }: FilesTask): Promise<FilesAnswer> {
  const stages = Object.fromEntries(Object.entries(results).map(([name, json]) => [name, parse(json)])) as Results;
  const whole = designOf(design);
  const out = await allFiles({
    design: whole,
    shop: shopOf(shop),
    stages,
    open: openOf(whole, stages),
  });
  return out.map((f) => written(key, `file:${f.name}`, f.type, f.bytes));
}

async function draw({ stage, design, shop, results, wanted }: DrawTask): Promise<DrawAnswer> {
  const { drawing } = STAGES.find((s) => s.name === stage)!;
  const stages = Object.fromEntries(Object.entries(results).map(([name, json]) => [name, parse(json)])) as Results;
  const input = {
    design: designOf(design),
    shop: shopOf(shop),
    result: stages[stage as StageName],
    results: stages,
  };
  return drawing!.draw(input as never, wanted as never);
}

function ask({ stage, question, asked, results, shop }: AskTask): unknown {
  const { questions } = STAGES.find((s) => s.name === stage)!;
  const one = questions!.find((q) => q.name === question)!;
  return one.answer(asked as never, results.map(parse) as never[], shopOf(shop).rules);
}

function compare({ stages, results }: CompareTask): CompareAnswer {
  const lacks = Object.values(stages)
    .flatMap(({ before, after }) => [before, after])
    .filter((key) => !resultsKept.has(key) && !results[key]);
  if (lacks.length > 0) return { lacks };
  const told = STAGES.flatMap((stage) => {
    const pair = stages[stage.name];
    if (!pair || !stage.compare) return [];
    const [before, after] = [pair.before, pair.after].map((key) => resultOf(key, results[key])!);
    return stage.compare(before as never, after as never);
  });
  return { told };
}

const stored = (key: string, name: string, value: unknown): WrittenBytes =>
  written(key, name, "application/json; charset=utf-8", new TextEncoder().encode(JSON.stringify(value)));

const written = (key: string, name: string, type: string, bytes: Uint8Array): WrittenBytes => ({
  key,
  name,
  type,
  etag: `"${sha256(bytes).slice(0, 32)}"`,
  bytes,
});

/** Tables read last, by their files and how they were read: while somebody matches columns they are looked at again and again. */
const sheets = new LRUCache<string, KeptSheet>({ maxSize: 300_000, sizeCalculation: (t) => t.sheet.rows.length + 1 });
type KeptSheet = Pick<TableIn, "sheet"> & Pick<TableLook, "form" | "separator">;

function tableOf({ hash, bytes }: ReceivedFile, asked: ReadAsked): KeptSheet | ({ ok: false } & NoTable) {
  const key = `${hash} ${canonicalJson(asked)}`;
  const known = sheets.get(key);
  if (known) return known;
  const read = readTables(bytes, asked);
  if (!read.ok) return read;
  const { form, separator, tables } = read;
  const one = { form, separator, sheet: tables[0]!.sheet };
  sheets.set(key, one);
  return one;
}

/** Rows that are shown as they would be read, and as they stand. */
const SHOWN = 12;
const SAMPLE = 30;
const MOST_LEFT_OUT = 100;

function tablesTask({ what }: TablesTask): TablesAnswerTo<TablesTask["what"]> {
  switch (what.do) {
    case "recognise":
      return recognised(what);
    case "look":
      return lookAt(what);
    case "assemble":
      return assembled(what);
    case "recognise drawing":
      return recognisedDrawing(what);
    case "look at drawing":
      return lookAtOne(what);
  }
}

function recognised(what: Extract<TablesTask["what"], { do: "recognise" }>): RecogniseAnswer {
  const found = recognise(what.file.bytes, what.kept);
  if (!found.ok) return found;
  const { form, separator, tables } = found;
  return {
    ok: true,
    form,
    separator,
    tables: tables.map(({ sheet, ...table }) => {
      sheets.set(`${what.file.hash} ${canonicalJson(table.asked)}`, { form, separator, sheet });
      return { ...table, headings: sheet.headings, rows: sheet.rows.length };
    }),
  };
}

async function attachmentsTask({ what }: AttachmentsTask): Promise<DocumentAnswer | FindAnswer> {
  if (what.do === "find") return findTask(what);
  // Large, and wanted in few threads.
  const { readPdf } = await import("@gray-bench/core/attachments/pdf");
  // The library begins to read what it may need: of what it does not wait for, nobody waits. What it waits for tells of itself.
  const left = (): void => undefined;
  process.on("unhandledRejection", left);
  const read = await readPdf(what.bytes).finally(async () => {
    // Those that are left over are told before the next turn.
    await new Promise((next) => setImmediate(next));
    process.off("unhandledRejection", left);
  });
  if (!read.ok) return read;
  const { pages } = read;
  return {
    ok: true,
    json: new TextEncoder().encode(JSON.stringify(pages)),
    pages: pages.length,
    empty: pages.filter((p) => p.words.length === 0).length,
  };
}

/** Documents looked into last, as they were read, and what of a design was found in them. Sizes: words, and things found. */
const documents = new LRUCache<string, PageText[]>({
  maxSize: 2_000_000,
  sizeCalculation: (pages) => pages.reduce((sum, p) => sum + p.words.length, 1),
});
const foundKept = new LRUCache<string, PageFound[]>({
  maxSize: 1_000_000,
  sizeCalculation: (pages) => pages.reduce((sum, p) => sum + p.found.length + p.strange.length + p.unclear.length, 1),
});

function findTask({ design: hash, documents: asked, page, sent }: FindAsked & { sent: FindSent | null }): FindAnswer {
  if (!sent && (!designs.has(hash) || asked.some((d) => !documents.has(d.file)))) return { lacks: true };
  const design = designOf({ hash, json: sent?.design ?? new Uint8Array() });
  const read = asked.map((d) => {
    const pages = documents.get(d.file) ?? (parse(sent!.readings[d.file]!) as PageText[]);
    documents.set(d.file, pages);
    const key = `${hash} ${d.file}`;
    const found = foundKept.get(key) ?? findInDocument(design, { pages });
    foundKept.set(key, found);
    return { ...d, pages, found };
  });
  const bytes = (value: unknown) => ({ json: new TextEncoder().encode(JSON.stringify(value)) });
  if (!page) return bytes(foundIn(design, read));
  const one = read.find((d) => d.id === page.id);
  const at = page.page - 1;
  const shown = one?.pages[at];
  if (!shown) return { json: null };
  const { w, h, trouble } = shown;
  return bytes({ page: page.page, sheet: sheetsOf(one.pages)[at], w, h, trouble, ...one.found[at] });
}

/** Drawings read last: while somebody says what they show they are looked at again and again. */
const drawings = new LRUCache<string, Drawing>({ maxSize: 300_000, sizeCalculation: (d) => thingsIn(d) + 1 });
const thingsIn = ({ layers }: Drawing): number => layers.reduce((sum, l) => sum + l.count, 0);

function drawingOf({ hash, bytes }: ReceivedFile): DrawingRead {
  const known = drawings.get(hash);
  if (known) return { ok: true, drawing: known };
  const read = readDrawing(bytes);
  if (read.ok) drawings.set(hash, read.drawing);
  return read;
}

function recognisedDrawing({
  file,
  name,
  kept,
}: Extract<TablesTask["what"], { do: "recognise drawing" }>): DrawingAnswer {
  const read = drawingOf(file);
  if (!read.ok) return read;
  const { drawing } = read;
  return { ok: true, version: drawing.version, things: thingsIn(drawing), ...saidFor(drawing, name, kept) };
}

/** Tables and drawings as they are put together; what cannot be read any more is told. */
function matchedOf({ tables, drawings: some }: ArrivedFiles) {
  const notRead: NotRead[] = [];
  const not = (table: string, { found, remedy }: NoTable) => {
    notRead.push({ table, line: 1, heading: null, found, wanted: remedy, row: true });
    return [];
  };
  return {
    notRead,
    matched: tables.flatMap(({ file, name, asked, matching }): MatchedTable[] => {
      const table = tableOf(file, asked);
      return "ok" in table ? not(name, table) : [{ name, sheet: table.sheet, matching }];
    }),
    drawn: some.flatMap(({ file, name, said }): MatchedDrawing[] => {
      const read = drawingOf(file);
      return read.ok ? [{ name, drawing: read.drawing, said }] : not(name, read);
    }),
  };
}

function lookAtOne({
  drawing: number,
  ...files
}: Extract<TablesTask["what"], { do: "look at drawing" }>): DrawingLookAnswer {
  const own = drawingOf(files.drawings[number - 1]!.file);
  if (!own.ok) return own;
  const { matched, drawn } = matchedOf(files);
  const { listed, laid } = assemble({ code: "", title: "", revision: "" }, matched, drawn);
  const at = drawn.findIndex((d) => d.name === files.drawings[number - 1]!.name);
  const { name, said } = drawn[at]!;
  return { ok: true, look: lookAtDrawing(own.drawing, said, listed, laid, name) };
}

function lookAt({ file, asked, matching }: Extract<TablesTask["what"], { do: "look" }>): LookAnswer {
  const table = tableOf(file, asked);
  if ("ok" in table) return table;
  const { headings, headingLine, rows, leftOut } = table.sheet;
  return {
    ok: true,
    form: table.form,
    separator: table.separator,
    headings,
    headingLine,
    rows: rows.length,
    sample: rows.slice(0, SAMPLE).map(({ line, cells }) => ({ line, cells })),
    leftOut: leftOut.slice(0, MOST_LEFT_OUT),
    leftOutCount: leftOut.length,
    preview: matching && preview(table.sheet, matching, SHOWN),
    guesses: Object.fromEntries(
      TABLE_KINDS.map((kind) => [kind, columnsOf(table.sheet, kind)]),
    ) as TableLook["guesses"],
    guess: guess(table.sheet),
  };
}

const NOTHING = { devices: 0, wires: 0, strips: 0, cables: 0, nets: 0, parts: 0 };

function assembled({ job, shop, library, ...files }: Extract<TablesTask["what"], { do: "assemble" }>): AssembleAnswer {
  const { notRead, matched, drawn } = matchedOf(files);
  const made = assemble(job, matched, drawn);
  if (!made.ok)
    return { read: { ok: false, faults: made.faults, count: made.count }, notRead, counts: NOTHING, lacks: [] };
  const { design } = made;
  const whole = library ? complete(design, libraryOf(library)) : design;
  return {
    read: readAs(design),
    notRead: [...notRead, ...made.notRead],
    counts: {
      devices: design.devices.length,
      wires: design.wires.length,
      strips: design.strips.length,
      cables: design.cables.length,
      nets: design.nets.length,
      parts: design.parts.length,
    },
    lacks: shop === null ? [] : lacksOf(runStage(STAGES[0]!, whole, shopOf(shop), {}).open),
  };
}

/** Open points of one kind together, the worst first, of equals the one that stands in most places. */
function lacksOf(open: readonly OpenPoint[]): ArrivalOutlook["lacks"] {
  const groups = new Map<string, ArrivalOutlook["lacks"][number]>();
  for (const { severity, kind, text, remedy } of open) {
    const key = `${severity} ${kind}`;
    const group = groups.get(key) ?? { severity, kind, count: 0, text, remedy };
    groups.set(key, { ...group, count: group.count + 1 });
  }
  const rank = (s: OpenPoint["severity"]): number => SEVERITIES.indexOf(s);
  return [...groups.values()].sort((a, b) => rank(a.severity) - rank(b.severity) || b.count - a.count);
}
