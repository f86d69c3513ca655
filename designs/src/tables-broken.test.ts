import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { lookAtDrawing } from "@gray-bench/core/drawings/look";
import { readDrawing } from "@gray-bench/core/drawings/read";
import { saidOfNext } from "@gray-bench/core/drawings/said";
import { assemble, type MatchedTable } from "@gray-bench/core/tables/assemble";
import { readKept, recognise } from "@gray-bench/core/tables/kept";
import { preview } from "@gray-bench/core/tables/preview";
import { below, mutated } from "./mutated";
import { seeded, type Random } from "./random";
import { saltmere } from "./saltmere";

/** Of each kind of file; `npm run harden` draws more. */
const RUNS = Math.ceil(60 * Number(process.env.GRAY_BENCH_RUNS ?? 1));

const FILES = saltmere();
const BOOK = FILES["Klemmen und Kabel.xlsx"]!;

// The long form takes its time; without an end it would not come to one.
jest.setTimeout(300_000);

/** Reads a file as far as it goes, and says what came of it. */
function taken(bytes: Uint8Array): "refused" | "read" | "nothing of ours" {
  const read = recognise(bytes, []);
  if (!read.ok) {
    expect(read.found.length + read.remedy.length).toBeGreaterThan(10);
    return "refused";
  }
  const tables = read.tables.flatMap(({ sheet, matching }): MatchedTable[] =>
    matching ? [{ name: "t", sheet, matching }] : [],
  );
  for (const { sheet, matching } of tables) expect(preview(sheet, matching, 12).rows.length).toBeLessThanOrEqual(12);
  const made = assemble({ code: "J-1", title: "t", revision: "A" }, tables);
  // Whatever was understood has the form of a design, or says what has not.
  if (!made.ok) expect(made.faults[0]!.path).not.toBe("");
  return tables.length > 0 ? "read" : "nothing of ours";
}

const count = (bytes: (random: Random) => Uint8Array, seed: number): Map<string, number> => {
  const random = seeded(seed);
  const met = new Map<string, number>();
  for (let i = 0; i < RUNS; i++) {
    const what = taken(bytes(random));
    met.set(what, (met.get(what) ?? 0) + 1);
  }
  return met;
};

test.each(["Geraeteliste.csv", "Verbindungen.csv", "Teile.csv"])("%s, mutated, is read or refused", (name) => {
  const met = count((random) => mutated(FILES[name]!, random), 5);
  expect(met.get("read")).toBeGreaterThan(RUNS / 4);
});

test("a drawing, mutated, is read or refused, and what is read is laid out", () => {
  const kept = readKept(strFromU8(FILES["Saltmere.matching.json"]!));
  if (!kept.ok) throw new Error("Saltmere.matching.json");
  const { said } = kept.value.drawings![0]!;
  const random = seeded(8);
  const met = { read: 0, refused: 0, laid: 0 };
  for (let i = 0; i < RUNS; i++) {
    const bytes = mutated(FILES["Aufbau.dxf"]!, random);
    const read = readDrawing(bytes);
    if (!read.ok) {
      expect(read.found.length + read.remedy.length).toBeGreaterThan(10);
      met.refused++;
      continue;
    }
    met.read++;
    const drawing = { name: "a.dxf", drawing: read.drawing, said: saidOfNext(said, read.drawing) };
    const made = assemble({ code: "J-1", title: "t", revision: "A" }, [], [drawing]);
    if (!made.ok) expect(made.faults[0]!.path).not.toBe("");
    else if (made.design.rails.length > 1) met.laid++;
    expect(lookAtDrawing(read.drawing, said, made.listed, made.laid, "a.dxf").views).toHaveLength(2);
  }
  expect(Math.min(met.read, met.refused, met.laid)).toBeGreaterThan(RUNS / 20);
});

test("a book whose package is mutated is read or refused", () => {
  const met = count((random) => mutated(BOOK, random), 6);
  expect(met.get("refused")).toBeGreaterThan(RUNS / 4);
});

test("a book whose sheets are mutated is read or refused", () => {
  const parts = unzipSync(BOOK);
  const names = Object.keys(parts).filter((n) => n.startsWith("xl/"));
  const met = count((random) => {
    const name = names[below(random, names.length)]!;
    const text = mutated(parts[name]!, random);
    return zipSync({ ...parts, [name]: below(random, 4) === 0 ? strToU8(strFromU8(text, true)) : text }, { level: 1 });
  }, 7);
  expect(met.get("refused")).toBeGreaterThan(RUNS / 10);
  expect(met.get("read")).toBeGreaterThan(RUNS / 20);
});
