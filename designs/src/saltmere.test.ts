import { readFileSync } from "node:fs";
import { join } from "node:path";
import { complete, readLibrary } from "@gray-bench/core/library/library";
import { findInDocument, foundIn } from "@gray-bench/core/attachments/find";
import { readPdf } from "@gray-bench/core/attachments/pdf";
import { readDrawing } from "@gray-bench/core/drawings/read";
import { saidFor } from "@gray-bench/core/drawings/recognise";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { runStages } from "@gray-bench/core/run";
import { assemble, type MatchedTable } from "@gray-bench/core/tables/assemble";
import { readKept, recognise } from "@gray-bench/core/tables/kept";
import { LIBRARY } from "./library";
import { saltmere } from "./saltmere";
import { LIBRARY_FILE } from "./write";

const FILES = saltmere();
const tables = (): MatchedTable[] =>
  Object.entries(FILES)
    .filter(([name]) => /csv|xlsx$/.test(name))
    .flatMap(([name, bytes]): MatchedTable[] => {
      const read = recognise(bytes, []);
      if (!read.ok) throw new Error(read.found);
      return read.tables.flatMap(({ sheet, hidden, matching }) =>
        matching && !hidden ? [{ name, sheet, matching }] : [],
      );
    });
const made = (() => {
  const all = assemble({ code: "SALT-2701", title: "t", revision: "A" }, tables());
  if (!all.ok) throw new Error(JSON.stringify(all.faults));
  return all;
})();

test("the committed files are what the generator makes", () => {
  for (const [name, bytes] of Object.entries(FILES))
    expect(Buffer.compare(readFileSync(join(__dirname, "../saltmere", name)), bytes)).toBe(0);
});

test("everything in them is read, or listed", () => {
  const { devices, wires, strips, cables, parts } = made.design;
  // 37 rows of devices, one of them twice; terminals 1 to 9, N and PE, and 1 to 19 and PE: 20 is hidden.
  expect([
    devices.length,
    strips.map((s) => s.members.length),
    cables.map((c) => c.cores.length),
    parts.length,
  ]).toEqual([36 + 31, [11, 20], [4, 3, 2, 3], 14]);
  expect(wires).toHaveLength(126);
  expect(made.notRead.map((n) => `${n.line} ${n.found}`)).toEqual([
    "44 =B1 | +A1 | F4 | OH-B1C6 | Beleuchtung | 14",
    "33 -X2 | 20 | FW-T2 | Reserve",
    "129 126 | RES | -A2:5 | 0,75 | bl | offen",
    "130 0,75?",
  ]);
  expect(parts.find((p) => p.number === "OH-B1C6")).toMatchObject({ w: 17.5, h: 89.99, d: 70, lossW: 1.4 });
  expect(devices[1]).toEqual({ tag: "-Q1", part: "OH-M25", enclosure: "+A1", sheet: "2", texts: ["Antrieb Klappe"] });
});

test("each device and terminal of the lists stands on the page of the schematic that its list names", async () => {
  const pdf = await readPdf(FILES["Stromlaufplan.pdf"]!);
  if (!pdf.ok) throw new Error(pdf.found);
  const { design } = made;
  const found = foundIn(design, [
    { id: "s", name: "Stromlaufplan.pdf", pages: pdf.pages, found: findInDocument(design, pdf) },
  ]);
  const { pages } = found.documents[0]!;
  expect(pages.map((p) => p.sheet)).toEqual(Array.from({ length: 16 }, (_, i) => String(i + 1)));
  // Sheet 14 is a picture; sheet 4 is stored standing and shown lying.
  expect(pages.flatMap((p, i) => (p.empty ? [i + 1] : []))).toEqual([14]);
  expect([pages[3]!.w, pages[3]!.h]).toEqual([1190, 842]);
  const at = new Map(found.things.map((t) => [`${t.kind} ${t.of}`, t.at]));
  for (const { tag, sheet } of design.devices) {
    const strip = /^-X(\d)/.exec(tag)?.[1];
    expect([tag, at.get(`device ${tag}`)?.map((a) => a.page)]).toEqual([
      tag,
      [strip ? 14 + Number(strip) : Number(sheet)],
    ]);
  }
  expect([found.nowhere, found.unclear, found.strange.map((s) => [s.text, s.page])]).toEqual([[], [], [["-K20", 9]]]);
});

test("with the drawing of the office all that it lists has its place, and the design its lengths", () => {
  const read = readDrawing(FILES["Aufbau.dxf"]!);
  const kept = readKept(new TextDecoder().decode(FILES["Saltmere.matching.json"]));
  if (!read.ok || !kept.ok) throw new Error("Aufbau.dxf");
  const { said } = saidFor(read.drawing, "Aufbau.dxf", [kept.value]);
  const all = assemble({ code: "SALT-2701", title: "t", revision: "A" }, tables(), [
    { name: "Aufbau.dxf", drawing: read.drawing, said },
  ]);
  if (!all.ok) throw new Error(JSON.stringify(all.faults));
  const { devices, rails, ducts, strips, faces } = all.design;
  // 27 frames on the plate, two of them strips, and 11 of 12 on the door.
  expect([devices.filter((d) => d.on).length, rails.length, ducts.length, faces[0]!.holes!.length]).toEqual([
    36, 3, 7, 4,
  ]);
  expect(devices.filter((d) => !d.on && !/^-X\d\./.test(d.tag))).toEqual([]);
  expect(strips.map((s) => [s.tag, s.rail, s.at])).toEqual([
    ["-X1", "R3", 15],
    ["-X2", "R3", 177],
  ]);
  expect(all.laid.notTaken.map((n) => [n.found, n.x, n.y])).toEqual([
    ["-P5", 1640, 935],
    ["SPLINE", 440, 260],
  ]);
  const library = readLibrary(readFileSync(join(__dirname, "..", LIBRARY_FILE), "utf8"));
  if (!library.ok) throw new Error("library");
  const { stages } = runStages(complete(all.design, library.value));
  const { wires } = stages.routes as RoutesResult;
  // Six lead to nobody.
  expect(wires.filter((w) => w.lengthMm !== null)).toHaveLength(126 - 6);
});

test("with the library of the shop only what nobody knows is left", () => {
  const library = readLibrary(readFileSync(join(__dirname, "..", LIBRARY_FILE), "utf8"));
  if (!library.ok) throw new Error(JSON.stringify(library.faults));
  expect(library.value.parts).toEqual(JSON.parse(JSON.stringify(LIBRARY)));
  const whole = complete(made.design, library.value);
  // The list says sizes and a loss; the library the rest.
  expect(whole.parts.find((p) => p.number === "OH-K25")).toMatchObject({ w: 45.01, lossW: 6.1, category: "contactor" });
  const stops = runStages(whole).open.filter((p) => p.severity === "stop");
  // Who is not listed, the size with a question, and the layout; nothing of parts and pins.
  expect([...new Set(stops.map((p) => p.kind))].sort()).toEqual([
    "no cross-section",
    "no layout",
    "no way",
    "unknown device",
  ]);
});

test("where the lists disagree is told; what has no layout yet is told once", () => {
  const { open, stages } = runStages(made.design);
  const unknown = open.filter((p) => p.kind === "unknown device").map((p) => /goes to (\S+),/.exec(p.text)![1]);
  expect([...new Set(unknown)].sort()).toEqual(["-K05", "-K19", "-P5", "-X2"]);
  expect(open.filter((p) => p.kind === "no layout").map((p) => p.text)).toEqual([
    "67 devices have no place: there is no layout yet",
    // Of 126, six lead to what is not listed.
    "120 wires have no length: there is no layout yet",
    "no heat can be balanced: there is no layout yet",
    "no sheet can be made: there is no layout yet",
  ]);
  // Two of no layout, 14 parts not described, 14 without pins, 6 ends that lead to nobody.
  expect(open.filter((p) => p.severity === "stop").length).toBeLessThan(40);
  // Lineups and kits work all the same.
  const lineups = stages.lineups as unknown as { strips: { tag: string; members: unknown[] }[] };
  expect(lineups.strips.map((s) => s.tag)).toEqual(["-X1", "-X2"]);
});
