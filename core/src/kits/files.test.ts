import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import jsQR from "jsqr";
import fc from "fast-check";
import readXlsx from "read-excel-file/node";
import { SHOP_RULES } from "../shop/rules";
import { STOCK_FORMAT, STOCK_VERSION, type Stock } from "../design/stock";
import { MOST_IN_CODE, qrItems } from "../formats/qr";
import { textBox, type Scene, type SceneItem } from "../formats/scene";
import { runStages } from "../run";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import { files } from "./files";
import { stockKey, type KitsResult } from "./result";
import { binLabels, pickSheets } from "./tickets";

jest.setTimeout(180_000);

const hill = demo("hillfold");
const result = runStages(hill).stages.kits as KitsResult;
const HEADING = { job: hill.job.code, title: hill.job.title, revision: hill.job.revision };
const AT = "2026-11-26T08:00:00Z";
const stock = (items: Stock["items"]): Stock => ({
  format: STOCK_FORMAT,
  version: STOCK_VERSION,
  at: AT,
  items,
  deliveries: [],
  reserved: [],
});

const rows = (bytes: Uint8Array): string[][] => parse(Buffer.from(bytes)) as string[][];
const written = async (levels: Stock | null) =>
  new Map((await files(hill, SHOP_RULES.kits, result, levels)).map((f) => [f.name, f]));

test("bill and picks as tables, the promised columns first, every line once, formulas defused", async () => {
  const all = await written(null);
  const [head, ...bill] = rows(all.get("bom.csv")!.bytes);
  expect(head!.join()).toMatch(/^enclosure,step,part,maker,text,quantity,unit,place,tags/);
  expect(bill).toHaveLength(result.bill.length);
  expect(bill[0]![0]).toBe("'+A1");
  const [pickHead, ...picks] = rows(all.get("picks.csv")!.bytes);
  expect(pickHead!.join()).toMatch(/^kit,order,place,part,text,quantity,unit,tags/);
  expect(picks).toHaveLength(result.kits.reduce((n, k) => n + k.lines.length, 0));
  for (const kit of result.kits)
    expect(picks.filter((r) => r[0] === kit.code).map((r) => r[1])).toEqual(kit.lines.map((_, i) => String(i + 1)));
});

test("without levels nothing is judged and all is to be bought; with them only what is missing", async () => {
  const unknown = await written(null);
  const [, ...short] = rows(unknown.get("shortages.csv")!.bytes);
  expect(short.every((r) => r[4] === "" && r[6] === "")).toBe(true);
  expect(
    rows(unknown.get("purchase.csv")!.bytes)
      .slice(1)
      .every((r) => r[8] === "no"),
  ).toBe(true);
  const plenty = stock(
    [...new Set(result.bill.map(stockKey))].map((part) => ({ part, free: part === "QM-PL" ? 0 : 1e6 })),
  );
  const known = await written(plenty);
  expect(
    rows(known.get("shortages.csv")!.bytes)
      .slice(1)
      .map((r) => [r[0], r[6], r[15]]),
  ).toEqual([["QM-PL", "1", AT]]);
  // In whole packs of five.
  expect(
    rows(known.get("purchase.csv")!.bytes)
      .slice(1)
      .map((r) => [r[0], r[3], r[4], r[5]]),
  ).toEqual([["QM-PL", "1", "1", "5"]]);
});

test("the spreadsheets have the same five tables", async () => {
  const all = await written(null);
  const file = all.get("kits.xlsx")!;
  for (const name of ["bill", "kits", "picks"])
    expect((await readXlsx(Buffer.from(file.bytes), { sheet: name })).length).toBeGreaterThan(1);
  for (const name of ["shortages", "purchase"])
    expect((await readXlsx(Buffer.from(all.get("shortages.xlsx")!.bytes), { sheet: name })).length).toBeGreaterThan(1);
  const bill = await readXlsx(Buffer.from(file.bytes), { sheet: "bill" });
  expect(bill).toHaveLength(result.bill.length + 1);
});

test("pick lists and labels as PDF: every kit and every line, read back by another library", async () => {
  const all = await written(null);
  const read = (name: string) =>
    JSON.parse(
      execFileSync(process.execPath, [join(__dirname, "../test/read-pdf.mjs")], {
        input: Buffer.from(all.get(name)!.bytes),
        maxBuffer: 1e8,
      }).toString("utf8"),
    ) as { pages: { size: number[]; texts: { str: string }[] }[] };
  // A reader may part a line where it has blanks.
  const said = (name: string): string =>
    read(name)
      .pages.flatMap((p) => p.texts.map((t) => t.str.replace(/\s/g, "")))
      .join("");
  const packed = (text: string): string => text.replace(/\s/g, "");
  const picks = said("kits.pdf");
  for (const kit of result.kits) {
    expect(picks).toContain(packed(kit.code));
    for (const l of kit.lines) if (l.part) expect(picks).toContain(packed(l.part));
  }
  const labels = said("bin-labels.pdf");
  for (const kit of result.kits) expect(labels).toContain(packed(kit.code));
});

test("on no sheet of the large demo does a text cover another or leave the sheet", () => {
  const lark = demo("larkmoor");
  const { kits } = runStages(lark).stages.kits as KitsResult;
  const sheets: Scene[] = [...pickSheets(kits, { ...HEADING, job: lark.job.code }), ...binLabels(kits, HEADING)];
  expect(sheets.length).toBeGreaterThan(5);
  for (const sheet of sheets) {
    const boxes = sheet.items.flatMap((i) =>
      i.kind === "text" && i.text !== "" ? [{ t: i.text, ...textBox(i) }] : [],
    );
    for (const b of boxes) {
      expect(b.x).toBeGreaterThanOrEqual(0);
      expect(b.x + b.w).toBeLessThanOrEqual(sheet.w + 0.01);
      for (const o of boxes)
        if (
          o !== b &&
          o.x < b.x + b.w - 0.01 &&
          b.x < o.x + o.w - 0.01 &&
          o.y < b.y + b.h - 0.01 &&
          b.y < o.y + o.h - 0.01
        )
          throw new Error(`${o.t} covers ${b.t} on ${sheet.name}`);
    }
  }
});

const DOTS = 4;

/** Strips of a code as the dots of a picture, read by a library that knows nothing of how they were made. */
function readCode(items: readonly SceneItem[], size: number): string | undefined {
  const n = Math.round(size * DOTS);
  const dots = new Uint8ClampedArray(n * n * 4).fill(255);
  for (const r of items)
    if (r.kind === "rect")
      for (let y = Math.round(r.y * DOTS); y < Math.round((r.y + r.h) * DOTS) && y < n; y++)
        for (let x = Math.round(r.x * DOTS); x < Math.round((r.x + r.w) * DOTS) && x < n; x++)
          dots.fill(0, (y * n + x) * 4, (y * n + x) * 4 + 3);
  return jsQR(dots, n, n)?.data;
}

test("codes are read back by another library, whatever they say", () => {
  for (const kit of result.kits) expect(readCode(qrItems(kit.code, 0, 0, 60), 60)).toBe(kit.code);
  fc.assert(
    fc.property(fc.string({ unit: "grapheme-ascii", minLength: 1, maxLength: 60 }), (text) => {
      expect(readCode(qrItems(text, 0, 0, 80), 80)).toBe(text);
    }),
    { seed: 9, numRuns: runs(25) },
  );
  expect(qrItems("x".repeat(MOST_IN_CODE + 500), 0, 0, 40).length).toBeGreaterThan(100);
  expect(qrItems("", 0, 0, 40).length).toBeGreaterThan(10);
});
