import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { assemble } from "@gray-bench/core/tables/assemble";
import { recognise } from "@gray-bench/core/tables/kept";
import { preview } from "@gray-bench/core/tables/preview";
import { parse } from "csv-parse/sync";
import ExcelJS from "exceljs";
import { held, sized } from "./short";

/** A hundred thousand connections read, matched, checked and previewed, against reading their file alone with the usual library. */

const ROWS = sized(100_000, 500);
/** Parting a text at semicolons takes the library half a second: a third of ours goes into checking the form of what was made. */
const MOST_TIMES = { csv: 6, xlsx: 3 } as const;
const ROUNDS = sized(3, 1);
const FORMS = ["csv", "xlsx"] as const;

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

async function write(form: (typeof FORMS)[number], file: string): Promise<void> {
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

/** @returns rows read, so that what was measured did happen */
async function ours(bytes: Uint8Array): Promise<number> {
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
  const rows = who === "ours" ? await ours(bytes) : await rival(form!, bytes);
  const { user, system } = process.cpuUsage(start);
  if (rows !== ROWS) throw new Error(`${rows} rows`);
  console.log(JSON.stringify({ s: (user + system) / 1e6, mb: (process.resourceUsage().maxRSS - before) / 1024 }));
} else {
  const folder = mkdtempSync(join(tmpdir(), "gray-bench-tables-"));
  let all = true;
  try {
    for (const f of FORMS) {
      const path = join(folder, `wires.${f}`);
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
        `${ROWS} connections from ${f.toUpperCase()} read, matched, checked, previewed: ${mine.s.toFixed(2)} s and ${mine.mb.toFixed(0)} MB more; read by the usual library alone: ${theirs.s.toFixed(2)} s and ${theirs.mb.toFixed(0)} MB; ${times.toFixed(1)} times as long (bound ${MOST_TIMES[f]})`,
      );
      all &&= times <= MOST_TIMES[f];
    }
  } finally {
    rmSync(folder, { recursive: true });
  }
  held(all);
}
