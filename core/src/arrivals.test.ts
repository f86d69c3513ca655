import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { findInDocument, foundIn } from "./attachments/find";
import { readPdf } from "./attachments/pdf";
import { partOutline } from "./drawings/part-outline";
import { lookAtDrawing } from "./drawings/look";
import { readDrawing, type Box } from "./drawings/read";
import { saidFor } from "./drawings/recognise";
import { assemble, type MatchedTable } from "./tables/assemble";
import { readKept, recognise } from "./tables/kept";
import { preview } from "./tables/preview";
import { golden } from "./test/golden";

/** A job as it arrives from an office: lists, a layout, a schematic. */
const FOLDER = join(__dirname, "../../designs/saltmere");
const bytesOf = (name: string): Uint8Array => new Uint8Array(readFileSync(join(FOLDER, name)));
const names = readdirSync(FOLDER).sort();

const round = (value: unknown): unknown =>
  JSON.parse(JSON.stringify(value, (_, v: unknown) => (typeof v === "number" ? Math.round(v * 1000) / 1000 : v)));
const say = (value: unknown): string => JSON.stringify(round(value));
const box = ({ x, y, w, h }: Box): string => [x, y, w, h].map((v) => Math.round(v * 10) / 10).join(" ");

/** Lists as they are recognised, with their first rows as they would be read and every row that is left out. */
function lists(): { lines: string[]; tables: MatchedTable[] } {
  const tables: MatchedTable[] = [];
  const lines = names
    .filter((name) => /csv|xlsx$/.test(name))
    .flatMap((name) => {
      const read = recognise(bytesOf(name), []);
      if (!read.ok) throw new Error(read.found);
      const { form, separator } = read;
      return [
        `${name}: ${form}, separated by ${JSON.stringify(separator)}`,
        ...read.tables.flatMap(({ sheet, matching, hidden, sheetName, asked, by }) => {
          if (matching && !hidden) tables.push({ name, sheet, matching });
          const shown = matching ? preview(sheet, matching, 4) : null;
          return [
            `  ${say({ sheetName, hidden, asked, by, headingLine: sheet.headingLine, rows: sheet.rows.length })}`,
            `  headings: ${sheet.headings.join(" | ")}`,
            ...sheet.leftOut.map((l) => `  left out: ${say(l)}`),
            ...Object.entries(matching?.columns ?? {}).map(([field, m]) => `  ${matching!.kind}.${field}: ${say(m)}`),
            ...(shown
              ? [
                  ...shown.rows.map((r) => `  read: ${say(r)}`),
                  ...Object.entries(shown.fields).map(([field, f]) => `  of ${field}: ${say(f)}`),
                ]
              : []),
          ];
        }),
      ];
    });
  return { lines, tables };
}

test("an arrival: what is recognised in each file, and the design that comes of it, word for word", async () => {
  const { lines, tables } = lists();
  const kept = readKept(new TextDecoder().decode(bytesOf("Saltmere.matching.json")));
  const read = readDrawing(bytesOf("Aufbau.dxf"));
  if (!read.ok || !kept.ok) throw new Error("Aufbau.dxf");
  const { drawing } = read;
  const found = saidFor(drawing, "Aufbau.dxf", [kept.value]);
  const made = assemble({ code: "SALT-2701", title: "t", revision: "A" }, tables, [
    { name: "Aufbau.dxf", drawing, said: found.said },
  ]);
  if (!made.ok) throw new Error(JSON.stringify(made.faults));
  const { design } = made;
  const {
    layers,
    frames,
    views,
    box: whole,
    ...look
  } = lookAtDrawing(drawing, found.said, made.listed, made.laid, "Aufbau.dxf");
  const { bodies, circles, ...outline } = partOutline(drawing);
  const pdf = await readPdf(bytesOf("Stromlaufplan.pdf"));
  if (!pdf.ok) throw new Error(pdf.found);
  const document = { id: "s", name: "Stromlaufplan.pdf", pages: pdf.pages };
  const inDocument = foundIn(design, [{ ...document, found: findInDocument(design, pdf) }]);
  const list = (title: string, things: readonly unknown[]): string[] => [
    "",
    `${title}: ${things.length}`,
    ...things.map((t) => `  ${say(t)}`),
  ];
  golden(
    "arrivals.txt",
    [
      ...lines,
      "",
      `Aufbau.dxf: ${say({ by: found.by, whole: box(whole), ...look })}`,
      `  said first: ${say(saidFor(drawing, "another.dxf", []).said)}`,
      `  outline of a part: ${say(outline)} ${bodies.map(box).join("; ")}`,
      `  circles: ${circles.map((c) => say(c)).join(" ")}`,
      ...layers.map(
        (l) => `  layer ${l.name}: ${l.count} ${l.hidden} ${l.meaning} ${l.path.slice(0, 160)} (${l.path.length})`,
      ),
      ...frames.map((f) => `  frame ${box(f.box)}: ${f.tags} tags`),
      ...views.flatMap((v) => [
        `  view ${say([v.w, v.h, v.holes])}`,
        ...v.bars.map((b) => `    ${b.kind} ${b.across} ${box(b.box)}`),
        ...v.devices.map((d) => `    ${d.strip ? "strip " : ""}${d.tag} ${box(d.box)}`),
      ]),
      ...list("not read", made.notRead),
      ...Object.entries(design).flatMap(([key, value]) =>
        Array.isArray(value) ? list(key, value) : ["", `${key}: ${say(value)}`],
      ),
      ...list(
        "things in the schematic",
        inDocument.things.map(({ kind, of, at }) => [kind, of, at.length, at[0]]),
      ),
      ...list("pages", inDocument.documents[0]!.pages),
      `nowhere ${say(inDocument.nowhere)}, unclear ${say(inDocument.unclear)}, strange ${say(inDocument.strange)}`,
      "",
    ].join("\n"),
  );
});
