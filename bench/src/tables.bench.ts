import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { findInDocument, foundIn } from "@gray-bench/core/attachments/find";
import { readPdf } from "@gray-bench/core/attachments/pdf";
import type { Design } from "@gray-bench/core/design/model";
import { lookAtDrawing } from "@gray-bench/core/drawings/look";
import { parseDxf, readDrawing } from "@gray-bench/core/drawings/read";
import { firstSaid, type DrawingSaid } from "@gray-bench/core/drawings/said";
import { assemble } from "@gray-bench/core/tables/assemble";
import { recognise } from "@gray-bench/core/tables/kept";
import { preview } from "@gray-bench/core/tables/preview";
import { dxfText, Sheet } from "@gray-bench/core/test/dxf-sheet";
import { boxOut, lineOut, pdfOf, textOut, type SheetOut } from "@gray-bench/core/test/pdf-sheet";
import { tiny } from "@gray-bench/core/test/tiny";
import { parse } from "csv-parse/sync";
import ExcelJS from "exceljs";
import { held, sized } from "./short";

/**
 * A hundred thousand connections read, matched, checked and previewed, and a drawing of fifty thousand entities read, unfolded, laid out
 * and looked at, and a schematic of four hundred pages read and searched, against reading their files alone with the usual library.
 */

const ROWS = sized(100_000, 500);
/** Parting a text at semicolons takes the library half a second: a third of ours goes into checking the form of what was made. */
/** Parting a drawing into entities takes a third of a second; finding what they are takes as long again, four times. */
const MOST_TIMES = { csv: 6, xlsx: 3, dxf: 8, pdf: 3 } as const;
/** The whole of a schematic, s. */
const MOST_SECONDS = 20;
const ROUNDS = sized(3, 1);
const FORMS = ["csv", "xlsx", "dxf", "pdf"] as const;
/** Of a drawing: each body has a frame, a tag, two screws, and lines that show what it looks like. */
const BODIES = sized(2000, 40);
const LINES = 21;
/** Of a schematic: so many devices stand on each page, with four wires at each. */
const PAGES = sized(400, 6);
const ON_PAGE = 10;
const COUNTS = { csv: ROWS, xlsx: ROWS, dxf: (4 + LINES) * BODIES, pdf: PAGES } as const;
const WHAT = {
  csv: "connections from CSV read, matched, checked, previewed",
  xlsx: "connections from XLSX read, matched, checked, previewed",
  dxf: "entities from DXF read, unfolded, laid out, looked at",
  pdf: "pages of PDF read, and searched for all that a design has",
} as const;

const HEAD = ["Nr", "von", "nach", "Potential", "Querschnitt (mm²)", "Farbe", "Typ", "Bemerkung"];
const row = (i: number): (string | number)[] => [
  i + 1,
  `-K${(i % 900) + 1}:A${i % 9}`,
  `-X${(i % 30) + 1}:${i % 97}`,
  `N${i % 4000}`,
  ["0,75", "1,5", "2,5"][i % 3]!,
  ["sw", "bl", "rt", "gnge"][i % 4]!,
  "BL-W15",
  i % 50 === 0 ? "siehe Plan" : "",
];

/** Bodies side by side in rows, as on a plate. */
function drawn(): string {
  const sheet = new Sheet();
  for (let i = 0; i < BODIES; i++) {
    const [x, y] = [(i % 100) * 50, Math.floor(i / 100) * 120];
    sheet.frame("DEVICES", x, y, 45, 90);
    sheet.text("TEXT", `-K${i}`, x + 22, y + 60, 5);
    for (const dy of [8, 82]) sheet.circle("HOLES", x + 22, y + dy, 2);
    for (let k = 0; k < LINES; k++)
      sheet.line("DEVICES", x + 5, y + 12 + k, x + 40, y + 12 + (k % 3 === 0 ? k : k + 5));
  }
  return dxfText(sheet);
}

/** What is drawn on a page of a schematic: tags, pins, numbers of wires, references, lines. */
function schematic(): Uint8Array {
  return pdfOf(
    Array.from({ length: PAGES }, (_, page): SheetOut => {
      const ops = [textOut(700, 30, 9, "=B1"), textOut(740, 30, 9, "Sheet"), textOut(780, 30, 9, String(page + 1))];
      for (let i = 0; i < ON_PAGE; i++) {
        const [x, n] = [40 + i * 78, page * ON_PAGE + i];
        ops.push(textOut(x, 400, 9, `-K${n + 1}`), textOut(x, 120, 7, `/${(n % PAGES) + 1}.${i}`));
        for (let k = 0; k < 4; k++) {
          ops.push(lineOut(x + 12 * k, 300, x + 12 * k, 380), lineOut(x, 310 + 8 * k, x + 40, 310 + 8 * k));
          ops.push(textOut(x + 12 * k, 290, 6, `${k + 1}`), textOut(x + 12 * k, 330, 6, `${1000 + 4 * n + k}`, 90));
        }
        ops.push(boxOut(x, 300, 50, 60), textOut(x, 200, 7, "contactor, hoist"));
      }
      return { w: 842, h: 595, ops };
    }),
    { packed: true },
  );
}

const searched = (): Design =>
  tiny({
    devices: Array.from({ length: PAGES * ON_PAGE }, (_, i) => ({ tag: `-K${i + 1}` })),
    wires: Array.from({ length: PAGES * ON_PAGE * 4 }, (_, i) => ({
      number: `${1000 + i}`,
      from: { device: `-K${Math.floor(i / 4) + 1}`, pin: String((i % 4) + 1) },
    })),
  });

/** @returns pages on which all that stands there was found */
async function oursLeafed(bytes: Uint8Array): Promise<number> {
  const read = await readPdf(bytes);
  if (!read.ok) throw new Error(read.found);
  const design = searched();
  const found = findInDocument(design, read);
  const all = foundIn(design, [{ id: "a", name: "a.pdf", pages: read.pages, found }]);
  if (all.nowhere.length > 0) throw new Error("not all was found");
  return found.filter((p) => p.found.length === 5 * ON_PAGE).length;
}

async function rivalLeafed(bytes: Buffer): Promise<number> {
  const own = globalThis as { pdfjsWorker?: unknown };
  own.pdfjsWorker = await import("pdfjs-dist/legacy/build/pdf.worker.mjs");
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const doc = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  let pages = 0;
  for (let n = 1; n <= doc.numPages; n++) {
    const page = await doc.getPage(n);
    if ((await page.getTextContent()).items.length > 0) pages++;
    page.cleanup();
  }
  return pages;
}

async function write(form: (typeof FORMS)[number], file: string): Promise<void> {
  if (form === "dxf") return writeFileSync(file, drawn());
  if (form === "pdf") return writeFileSync(file, schematic());
  if (form === "csv") {
    const lines = Array.from({ length: ROWS }, (_, i) => row(i).join(";"));
    writeFileSync(file, [HEAD.join(";"), ...lines, ""].join("\r\n"));
    return;
  }
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Verbindungen");
  sheet.addRow(HEAD);
  for (let i = 0; i < ROWS; i++) sheet.addRow(row(i));
  await book.xlsx.writeFile(file);
}

/** @returns things on the face that is said to be the whole sheet */
function oursDrawn(bytes: Uint8Array): number {
  const read = readDrawing(bytes);
  if (!read.ok) throw new Error(read.found);
  const { drawing } = read;
  const frame = { x: -10, y: -10, w: 5200, h: 3000 };
  const plate = { setback: 260, thickness: 3, material: "galvanised steel" } as const;
  const said: DrawingSaid = {
    ...firstSaid(drawing),
    views: [{ enclosure: "+A1", face: "plate", frame, mm: 1 }],
    enclosures: [{ tag: "+A1", w: 6000, h: 4000, d: 300, ...plate }],
  };
  const made = assemble({ code: "BENCH", title: "bench", revision: "A" }, [], [{ name: "a", drawing, said }]);
  if (!made.ok || made.design.devices.length !== BODIES) throw new Error("not laid out");
  const look = lookAtDrawing(drawing, said, made.listed, made.laid, "a");
  return look.layers.reduce((sum, l) => sum + l.count, 0);
}

/** @returns rows read, so that what was measured did happen */
async function ours(bytes: Uint8Array, form: (typeof FORMS)[number]): Promise<number> {
  if (form === "dxf") return oursDrawn(bytes);
  if (form === "pdf") return oursLeafed(bytes);
  const read = recognise(bytes, []);
  if (!read.ok) throw new Error(read.found);
  const [{ sheet, matching }] = read.tables as [(typeof read.tables)[number]];
  if (matching?.kind !== "connections") throw new Error("not taken for connections");
  const seen = preview(sheet, matching, 12);
  const made = assemble({ code: "BENCH", title: "bench", revision: "A" }, [{ name: "wires", sheet, matching }]);
  if (!made.ok || made.notRead.length > 0 || seen.left > 0) throw new Error("not read");
  return made.design.wires.length;
}

async function rival(form: (typeof FORMS)[number], bytes: Buffer): Promise<number> {
  if (form === "pdf") return rivalLeafed(bytes);
  if (form === "dxf") return parseDxf(bytes.toString("utf8")).entities.length;
  if (form === "csv") return (parse(bytes, { delimiter: ";", bom: true }) as unknown[]).length - 1;
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes as unknown as ArrayBuffer);
  return book.worksheets[0]!.rowCount - 1;
}

/** In a process of its own: one way of reading, its time and its peak memory. */
const [who, form, file] = process.argv.slice(2) as [string?, (typeof FORMS)[number]?, string?];
if (who === "ours" || who === "rival") {
  const bytes = readFileSync(file!);
  const before = process.resourceUsage().maxRSS;
  const start = process.cpuUsage();
  const rows = who === "ours" ? await ours(bytes, form!) : await rival(form!, bytes);
  const { user, system } = process.cpuUsage(start);
  if (rows !== COUNTS[form!]) throw new Error(`${rows} rows`);
  console.log(JSON.stringify({ s: (user + system) / 1e6, mb: (process.resourceUsage().maxRSS - before) / 1024 }));
} else {
  const folder = mkdtempSync(join(tmpdir(), "gray-bench-tables-"));
  let all = true;
  try {
    for (const f of FORMS) {
      const path = join(folder, `file.${f}`);
      await write(f, path);
      if (!existsSync(path)) throw new Error("not written");
      const measured = (what: string): { s: number; mb: number } => {
        const runs = Array.from({ length: ROUNDS }, () => {
          const { stdout, stderr, status } = spawnSync(process.execPath, [process.argv[1]!, what, f, path], {
            encoding: "utf8",
          });
          if (status !== 0) throw new Error(stderr);
          return JSON.parse(stdout) as { s: number; mb: number };
        });
        return runs.sort((a, b) => a.s - b.s)[Math.floor(ROUNDS / 2)]!;
      };
      const [mine, theirs] = [measured("ours"), measured("rival")];
      const times = mine.s / theirs.s;
      console.log(
        `${COUNTS[f]} ${WHAT[f]}: ${mine.s.toFixed(2)} s and ${mine.mb.toFixed(0)} MB more; read by the usual library alone: ${theirs.s.toFixed(2)} s and ${theirs.mb.toFixed(0)} MB; ${times.toFixed(1)} times as long (bound ${MOST_TIMES[f]})`,
      );
      all &&= times <= MOST_TIMES[f] && (f !== "pdf" || mine.s <= MOST_SECONDS);
    }
  } finally {
    rmSync(folder, { recursive: true });
  }
  held(all);
}
