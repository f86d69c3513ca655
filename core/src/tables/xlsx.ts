import { SaxesParser, type SaxesTagPlain } from "saxes";
import { MOST_BYTES, type NoTable } from "./bytes";
import { MOST_COLUMNS, MOST_ROWS, type Row } from "./csv";
import { AGAIN, BROKEN, Refused, unpack } from "./unpack";

/** One sheet of a book: its rows, numbered as the program shows them that wrote it. */
export interface BookSheet {
  name: string;
  hidden: boolean;
  rows: Row[];
  /** Lines of rows that are hidden there. */
  hiddenLines: number[];
  /** Formulas of which the book keeps no value, with their place. */
  noValue: { line: number; column: number; formula: string }[];
}

export type BookRead = { ok: true; sheets: BookSheet[] } | ({ ok: false } & NoTable);

const MOST_SHEETS = 50;
const MOST_TEXTS = 2_000_000;
/** As many bytes are parsed at a time. */
const STEP = 64 * 1024;
/** What of a package is read; drawings, links to other books, macros and all else are passed over. */
const READ = /^xl\/(workbook\.xml|sharedstrings\.xml|_rels\/workbook\.xml\.rels|worksheets\/[^/]+\.xml)$/;

interface Heard {
  open?(tag: SaxesTagPlain): void;
  close?(name: string): void;
  text?(text: string): void;
}

/** Names of elements without the short form of their space. */
const local = (name: string): string => name.slice(name.indexOf(":") + 1);
const attribute = (tag: SaxesTagPlain, name: string): string | undefined =>
  tag.attributes[name] ?? Object.entries(tag.attributes).find(([n]) => local(n) === name)?.[1];

/** Reads XML piece by piece. Its own entities are not taken: no sheet has any. @throws Refused */
function parse(what: string, pieces: readonly Uint8Array[], heard: Heard): void {
  const parser = new SaxesParser({ fragment: false });
  const stop = (why: string): never => {
    throw new Refused(`${what} is not as it should be (${why})`, "Save the sheet anew.");
  };
  parser.on("error", (e) => stop(e.message.split("\n")[0]!.slice(0, 100)));
  parser.on("doctype", () => stop("it declares a type of its own"));
  if (heard.open) parser.on("opentag", (tag) => heard.open!(tag as SaxesTagPlain));
  if (heard.close) parser.on("closetag", (tag) => heard.close!(local(tag.name)));
  if (heard.text) parser.on("text", heard.text);
  const decoder = new TextDecoder("utf-8", { fatal: false });
  for (const piece of pieces)
    for (let at = 0; at < piece.length; at += STEP)
      parser.write(decoder.decode(piece.subarray(at, at + STEP), { stream: true }));
  parser.write(decoder.decode());
  parser.close();
}

/** The texts that cells point to; what is spoken above them is left out. */
function sharedTexts(pieces: readonly Uint8Array[]): string[] {
  const texts: string[] = [];
  let text: string | null = null;
  let [inText, spoken] = [false, 0];
  parse("its list of texts", pieces, {
    open(tag) {
      const name = local(tag.name);
      if (name === "si") text = "";
      else if (name === "rPh") spoken++;
      else if (name === "t") inText = true;
    },
    text(t) {
      if (inText && spoken === 0 && text !== null) text += t;
    },
    close(name) {
      if (name === "t") inText = false;
      else if (name === "rPh") spoken--;
      else if (name === "si") {
        if (texts.length >= MOST_TEXTS) throw new Refused(`more than ${MOST_TEXTS} texts`, "Split the table.");
        texts.push(text ?? "");
        text = null;
      }
    },
  });
  return texts;
}

/** A number as a person would write it: as many digits as sheets keep, no exponent where it can be done without. */
function numberText(value: string): string {
  const n = Number(value);
  if (value.trim() === "" || !Number.isFinite(n)) return value;
  const plain = Number(n.toPrecision(15));
  return Math.abs(plain) < 1e21 && Number.isInteger(plain) ? plain.toFixed(0) : String(plain);
}

/** `BC17` is column 54 (counted from 0) of line 17. */
function placeOf(ref: string): { line: number; column: number } | null {
  const [, letters, digits] = /^\$?([A-Z]{1,3})\$?(\d{1,7})$/.exec(ref) ?? [];
  if (letters === undefined) return null;
  let column = 0;
  for (const letter of letters) column = column * 26 + letter.charCodeAt(0) - 64;
  return { line: Number(digits), column: column - 1 };
}

/** Escapes for signs that XML cannot hold. */
const unescaped = (text: string): string =>
  text.includes("_x") ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex) => String.fromCharCode(parseInt(hex, 16))) : text;

/** Merged cells say the same all over. More of them than this are no table. */
const MOST_MERGED = 20_000;
/** Cells and rows that they stretch over, all together. */
const MOST_SPREAD = 2_000_000;

function readSheet(pieces: readonly Uint8Array[], texts: readonly string[], sheet: BookSheet): void {
  let row: Row | null = null;
  let [line, column] = [0, -1];
  let [type, value, formula] = ["n", "", ""];
  let inside: "value" | "formula" | null = null;
  let spoken = 0;
  const merged: string[] = [];
  const byLine = new Map<number, Row>();

  const endCell = (): void => {
    let text = value;
    if (type === "s") text = texts[Number(value)] ?? "";
    else if (type === "b") text = value.trim() === "1" ? "TRUE" : value.trim() === "0" ? "FALSE" : value;
    else if (type === "n" || type === "") text = numberText(value);
    text = unescaped(text)
      .replace(/[\u00A0\u202F]/g, " ")
      .trim();
    if (formula !== "" && value === "") sheet.noValue.push({ line, column, formula: formula.slice(0, 200) });
    if (text === "") return;
    if (column >= MOST_COLUMNS)
      throw new Refused(
        `a cell in column ${column + 1} of line ${line} of sheet ${sheet.name}`,
        `A table has at most ${MOST_COLUMNS} columns.`,
      );
    const cells = row!.cells;
    while (cells.length < column) cells.push("");
    cells[column] = text;
    if (type === "n" || type === "") (row!.plain ??= new Set()).add(column);
  };

  parse(`sheet ${sheet.name}`, pieces, {
    open(tag) {
      switch (local(tag.name)) {
        case "row": {
          const said = Number(attribute(tag, "r") ?? line + 1);
          // Rows go down; one that does not is read where it stands.
          line = Number.isInteger(said) && said > line ? said : line + 1;
          column = -1;
          row = { line, cells: [] };
          if (/^(1|true)$/.test(attribute(tag, "hidden") ?? "")) sheet.hiddenLines.push(line);
          break;
        }
        case "c": {
          column = placeOf(attribute(tag, "r") ?? "")?.column ?? column + 1;
          type = attribute(tag, "t") ?? "n";
          [value, formula] = ["", ""];
          break;
        }
        case "v":
        case "t":
          inside = spoken === 0 ? "value" : null;
          break;
        case "f":
          inside = "formula";
          // Of a formula that is shared only the first says which.
          formula = "=";
          break;
        case "rPh":
          spoken++;
          break;
        case "mergeCell":
          if (merged.length >= MOST_MERGED)
            throw new Refused(`more than ${MOST_MERGED} merged cells in sheet ${sheet.name}`, "Save it as CSV.");
          merged.push(attribute(tag, "ref") ?? "");
      }
    },
    text(t) {
      if (inside === "value") value += t;
      else if (inside === "formula") formula += t;
    },
    close(name) {
      if (name === "v" || name === "t" || name === "f") inside = null;
      else if (name === "rPh") spoken--;
      else if (name === "c" && row) endCell();
      else if (name === "row" && row) {
        if (row.cells.length > 0) {
          if (sheet.rows.length >= MOST_ROWS)
            throw new Refused(`more than ${MOST_ROWS} rows in sheet ${sheet.name}`, "Split the table.");
          sheet.rows.push(row);
          byLine.set(row.line, row);
        }
        row = null;
      }
    },
  });
  let left = MOST_SPREAD;
  for (const ref of merged) {
    left -= spread(ref, byLine, left);
    if (left <= 0) throw new Refused(`merged cells all over sheet ${sheet.name}`, "Part them, or save it as CSV.");
  }
}

/**
 * Writes what the first of merged cells says into the others of the rows that there are.
 * @returns how many steps it took, `most` when it had not come to its end with them
 */
function spread(ref: string, byLine: ReadonlyMap<number, Row>, most: number): number {
  const [from, to] = ref.split(":").map(placeOf);
  if (!from || !to) return 1;
  const first = byLine.get(from.line);
  const text = first?.cells[from.column] ?? "";
  if (text === "") return 1;
  let steps = 1;
  for (let line = from.line; line <= to.line; line++) {
    if (++steps >= most) return most;
    const row = byLine.get(line);
    if (!row) continue;
    for (let column = from.column; column <= Math.min(to.column, MOST_COLUMNS - 1); column++) {
      if (++steps >= most) return most;
      while (row.cells.length <= column) row.cells.push("");
      row.cells[column] = text;
      if (first!.plain?.has(from.column)) (row.plain ??= new Set()).add(column);
    }
  }
  return steps;
}

/**
 * Reads the sheets of a book (XLSX, ISO/IEC 29500): values of cells, of formulas the ones that were kept. Links to other books are not
 * followed. Memory and time are bounded by what is unpacked. O(unpacked bytes)
 */
export function readBook(bytes: Uint8Array): BookRead {
  if (bytes.length > MOST_BYTES)
    return { ok: false, found: `${Math.ceil(bytes.length / 1e6)} MB`, remedy: "Split it: a table has at most 64 MB." };
  try {
    const parts = unpack(bytes, READ);
    const book = parts.get("xl/workbook.xml");
    if (!book) throw new Refused("a packed file that is no XLSX", "Unpack it, or save the sheet as XLSX or CSV.");
    const targets = new Map<string, string>();
    parse("its list of parts", parts.get("xl/_rels/workbook.xml.rels") ?? [], {
      open(tag) {
        if (local(tag.name) === "Relationship" && attribute(tag, "TargetMode") !== "External")
          targets.set(attribute(tag, "Id") ?? "", attribute(tag, "Target") ?? "");
      },
    });
    const sheets: { sheet: BookSheet; pieces: Uint8Array[] }[] = [];
    parse("its list of sheets", book, {
      open(tag) {
        if (local(tag.name) !== "sheet") return;
        const target = targets.get(attribute(tag, "id") ?? "") ?? "";
        const path = (target.startsWith("/") ? target.slice(1) : `xl/${target}`).toLowerCase();
        const pieces = parts.get(path);
        if (!pieces) return;
        if (sheets.length >= MOST_SHEETS) throw new Refused(`more than ${MOST_SHEETS} sheets`, "Split the book.");
        const hidden = /hidden/i.test(attribute(tag, "state") ?? "");
        const name = attribute(tag, "name") ?? `sheet ${sheets.length + 1}`;
        sheets.push({ sheet: { name, hidden, rows: [], hiddenLines: [], noValue: [] }, pieces });
      },
    });
    if (sheets.length === 0) throw new Refused("a book without a sheet", "Save the sheet as XLSX or CSV.");
    const shared = parts.get("xl/sharedstrings.xml");
    const texts = shared ? sharedTexts(shared) : [];
    let rows = 0;
    for (const { sheet, pieces } of sheets) {
      readSheet(pieces, texts, sheet);
      rows += sheet.rows.length;
      if (rows > MOST_ROWS) throw new Refused(`more than ${MOST_ROWS} rows in its sheets together`, "Split the book.");
    }
    return { ok: true, sheets: sheets.map((s) => s.sheet) };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, found: error.message, remedy: error.remedy };
    return { ok: false, found: BROKEN, remedy: AGAIN };
  }
}
