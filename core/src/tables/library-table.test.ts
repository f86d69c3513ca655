import ExcelJS from "exceljs";
import fc from "fast-check";
import { parse } from "csv-parse/sync";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Hole } from "../design/model";
import { libraryHash, libraryText, readLibrary, type Library, type LibraryPart } from "../library/library";
import { libraryBook, libraryCsv, readLibraryFile } from "./library-table";

const demo = readLibrary(readFileSync(join(__dirname, "../../../designs/demo.library.json"), "utf8")) as {
  ok: true;
  value: Library;
};
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (file: Uint8Array, before: Library | null = null) => {
  const got = readLibraryFile(file, before);
  if (!got.ok) throw new Error(JSON.stringify(got.faults));
  return got;
};
const faults = (text: string | Uint8Array, before: Library | null = null): string[] => {
  const got = readLibraryFile(typeof text === "string" ? bytes(text) : text, before);
  return got.ok ? [] : got.faults.map((f) => `${f.path}: ${f.found}, not ${f.expected}`);
};

const text = fc
  .string({ unit: "grapheme", minLength: 1, maxLength: 12 })
  .map((t) => t.replace(/[\p{Cc}\p{Cs}\p{Cn}\uFFFE\uFFFF]/gu, "x").trim() || "x");
const odd = fc.constantFrom("=1+1", "'quoted", "-K1", "@x", "a;b,c", 'say "so"', " x ".trim(), "1,5", "yes");
const mm = fc.integer({ min: 101, max: 4_000_000 }).map((n) => n / 10_000);
const part: fc.Arbitrary<Omit<LibraryPart, "number">> = fc.record(
  {
    text: fc.oneof(text, odd),
    maker: fc.oneof(text, odd),
    category: fc.constantFrom("relay" as const, "other" as const),
    w: mm,
    lossW: mm,
    stock: fc.record({ place: odd, pack: fc.integer({ min: 1, max: 99 }) }),
    pins: fc
      .uniqueArray(
        fc.record(
          { name: fc.oneof(text, odd), x: mm, exit: fc.constantFrom("up" as const, "out" as const) },
          { requiredKeys: ["name"] },
        ),
        { selector: (p) => p.name, maxLength: 4 },
      )
      .map((pins) => pins.map((p) => (p.x === undefined ? p : { ...p, y: 1, z: 2.5 }))),
    holes: fc.array(
      fc.oneof(
        fc.record({ kind: fc.constant("round" as const), x: mm, y: mm, d: mm }),
        fc.constant<Hole>({
          kind: "polygon" as const,
          points: [
            { x: 0, y: 0 },
            { x: 1, y: 0 },
            { x: 0, y: 1 },
          ],
        }),
      ),
      { maxLength: 2 },
    ),
    alternates: fc.array(odd, { maxLength: 2 }),
    directLeads: fc.boolean(),
  },
  { requiredKeys: [] },
);
const libraries = fc
  .uniqueArray(fc.tuple(fc.oneof(text, odd), part), { selector: ([n]) => n, minLength: 1, maxLength: 5 })
  .map((parts): Library => ({ parts: parts.map(([number, p]) => ({ number, ...p })) }));

test("a library comes back from its CSV and its book as it was", async () => {
  let [lists, empty, risky] = [0, 0, 0];
  await fc.assert(
    fc.asyncProperty(libraries, async (library) => {
      const hash = libraryHash(library);
      const csv = read(libraryCsv(library));
      expect([csv.told.form, libraryHash(csv.library)]).toEqual(["own table", hash]);
      expect(libraryHash(read(await libraryBook(library)).library)).toBe(hash);
      lists += Number(library.parts.some((p) => p.pins?.length && p.holes?.length));
      empty += Number(library.parts.some((p) => p.pins?.length === 0));
      risky += Number(library.parts.some((p) => p.text?.startsWith("=") || p.number.startsWith("'")));
    }),
    { seed: 21, numRuns: 60 },
  );
  for (const met of [lists, empty, risky]) expect(met).toBeGreaterThan(4);
});

test("the demo's library: other programs read its table and its book, and both come back", async () => {
  const { value } = demo;
  const rows = parse(Buffer.from(libraryCsv(value)), { bom: true, columns: true }) as unknown as Record<
    string,
    string
  >[];
  const k9 = value.parts.find((p) => p.number === "OH-K9")!;
  expect(rows).toHaveLength(value.parts.length);
  expect(rows.find((r) => r.number === "OH-K9")).toMatchObject({ "w [number]": String(k9.w), maker: k9.maker });
  const book = new ExcelJS.Workbook();
  const file = await libraryBook(value);
  await book.xlsx.load(Buffer.from(file) as never);
  const pins = book.getWorksheet("pins")!;
  expect(pins.rowCount - 1).toBe(value.parts.reduce((sum, p) => sum + (p.pins?.length ?? 0), 0));
  const heads = (pins.getRow(1).values as string[]).slice(1);
  expect(heads.slice(0, 5)).toEqual(["part", "name", "x [number]", "y [number]", "z [number]"]);
  for (const one of [libraryCsv(value), file]) expect(libraryHash(read(one).library)).toBe(libraryHash(value));
});

const before: Library = {
  parts: [
    { number: "A", w: 10, h: 20, stock: { place: "B-1", pack: 5 }, pins: [{ name: "1" }] },
    { number: "B", maker: "Oak" },
  ],
};

test("written into a library what a file leaves out stays, place by place; the whole of it is all there is", () => {
  const file = bytes("number;w [number];stock.place\r\nA;11;C-9\r\nNEW;5;\r\n");
  expect(read(file, before).library.parts).toEqual([
    { number: "A", w: 11, h: 20, stock: { place: "C-9", pack: 5 }, pins: [{ name: "1" }] },
    { number: "B", maker: "Oak" },
    { number: "NEW", w: 5 },
  ]);
  expect(faults(file)).toEqual(["line 2, stock.pack: nothing, not a value: this field is needed"]);
  const json = bytes('{"format":"gray-bench-library","version":1,"parts":[{"number":"B","maker":"Elm"}]}');
  expect(read(json, before).library.parts[1]).toEqual({ number: "B", maker: "Elm" });
  expect(read(json).library.parts).toHaveLength(1);
});

test("a maker's list is read by its headings: units, decimal commas, what says nothing, what is not read", () => {
  const list = `Preisliste 2026\r\n\r\nBestellnummer;Bezeichnung;Hersteller;Breite [mm];Höhe;Tiefe (cm);Verlustleistung;EAN\r\nA;Relais;Oak;6,2;94,5;7,35;0,4 W;4001\r\nB;;;0;90;7;viel;4002\r\nA;noch einmal;;;;;;\r\n;ohne Nummer;;;;;;\r\n`;
  const { library, told } = read(bytes(list), before);
  expect(library.parts).toEqual([
    { ...before.parts[0], text: "Relais", maker: "Oak", w: 6.2, h: 94.5, d: 73.5, lossW: 0.4 },
    { number: "B", maker: "Oak", h: 90, d: 70 },
  ]);
  expect([told.form, told.ignored, told.columns.map((c) => c.field)]).toEqual([
    "other table",
    ["EAN"],
    ["Part", "Maker", "Text", "Width", "Height", "Depth", "Loss"],
  ]);
  expect(told.notRead.map((n) => `${n.line} ${n.heading}: ${n.found}, not ${n.wanted}`)).toEqual([
    "5 Breite [mm]: 0, not more than nothing",
    "5 Verlustleistung: viel, not a number, such as 12.5",
    "6 null: A, not each number once",
    "7 null: ohne Nummer, not the number of a part",
  ]);
});

test("what cannot be read is refused with its place", async () => {
  expect(faults("")[0]).toMatch(/^the whole file: /);
  expect(faults("a;b\r\n1;2\r\n")).toEqual([
    "the whole file: no table with numbers of parts and something about them, not headings such as number, width, height, depth, maker, loss; or the table that is downloaded here",
  ]);
  expect(faults("number;w [number]\r\nA;6,2\r\nB;x\r\n")).toEqual([
    "line 2, w [number]: 6,2, not a number, with a decimal point",
    "line 3, w [number]: x, not a number, with a decimal point",
  ]);
  expect(faults("number;w [number];maker\r\nA;1;m\r\nA;2;m\r\n")).toEqual([
    "line 3: A, as in line 2, not each number once",
  ]);
  expect(faults("number;category;maker\r\nA;nix;m\r\n", before)[0]).toMatch(/^line 2, category: /);
  expect(faults(Uint8Array.of(0x7b, 0xff))).toEqual([
    "the whole file: bytes that are not UTF-8, not a text file in UTF-8",
  ]);
  const book = new ExcelJS.Workbook();
  book.addWorksheet("parts").addRows([
    ["number", "w [number]"],
    ["A", 5],
  ]);
  book.addWorksheet("pins").addRows([
    ["part", "name"],
    ["A", "1"],
    ["Z", "1"],
  ]);
  const odd = new Uint8Array(await book.xlsx.writeBuffer());
  expect(faults(odd)).toEqual(["sheet pins, line 3: Z, not the number of a part of the sheet parts"]);
});

test("whatever a file is changed into, it is read or refused, and nothing is thrown", async () => {
  const small = { parts: demo.value.parts.slice(0, 6) };
  const files = [libraryCsv(small), await libraryBook(small), bytes(libraryText(small))];
  const met = { read: 0, refused: 0 };
  fc.assert(
    fc.property(
      fc.constantFrom(...files),
      fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 3 }),
      fc.option(fc.nat(), { nil: undefined, freq: 1 }),
      (file, changes, cut) => {
        const odd = file.slice(0, cut === undefined ? undefined : cut % file.length);
        for (const [at, byte] of changes) if (odd.length > 0) odd[at % odd.length] = byte;
        const { ok } = readLibraryFile(odd, before);
        met[ok ? "read" : "refused"]++;
      },
    ),
    { seed: 8, numRuns: 150 },
  );
  expect([met.read >= 5, met.refused >= 5]).toEqual([true, true]);
});
