import { readFileSync } from "node:fs";
import { join } from "node:path";
import { complete } from "@gray-bench/core/library/library";
import { readDesign } from "@gray-bench/core/design/read";
import type { Design } from "@gray-bench/core/design/model";
import { readStock } from "@gray-bench/core/design/stock";
import { allFiles, runStages } from "@gray-bench/core/run";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { Cell } from "@gray-bench/core/formats/csv";
import { parse } from "csv-parse/sync";
import readXlsx from "read-excel-file/node";
import { LARGE, large } from "./large";
import { LIBRARY } from "./library";
import { asSent, DEMOS, designText, STORES, storeText, WHOLE } from "./write";

// Writing and reading PDF takes long on a busy machine.
jest.setTimeout(180_000);

const HERE = join(__dirname, "..");

function read(text: string): Design {
  const result = readDesign(text);
  if (!result.ok) throw new Error(JSON.stringify(result.faults));
  return result.design;
}

const decode = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

describe.each(Object.entries(DEMOS))("%s", (name, make) => {
  const base = name.replace(".bench.json", "");
  const text = designText(make());

  test("the committed file is what the generator makes", () => {
    expect(readFileSync(join(HERE, WHOLE, name), "utf8")).toBe(text);
    expect(readFileSync(join(HERE, name), "utf8")).toBe(designText(asSent(make())));
  });

  test("what the drawing office sends and the library together give the same files as the whole design, byte for byte", async () => {
    const sent = read(readFileSync(join(HERE, name), "utf8"));
    expect(sent.parts.filter((p) => p.pins ?? p.holes ?? p.lossW ?? p.mounts)).toEqual([]);
    const bare = runStages(sent).stages.routes as RoutesResult;
    const files = await allFiles(runStages(complete(sent, { parts: [...LIBRARY] })));
    const whole = await allFiles(runStages(read(text)));
    expect(files.map((f) => f.name)).toEqual(whole.map((f) => f.name));
    expect(files.filter((f, i) => Buffer.compare(f.bytes, whole[i]!.bytes) !== 0).map((f) => f.name)).toEqual([]);
    // Without the library its pins are guessed, and it is said.
    expect(bare.wires.some((w) => w.marks.some((m) => m.includes("pin-by-table")))).toBe(true);
  });

  test("golden wires.csv, the same bytes every time; read back by another library", async () => {
    const [one, two] = [await allFiles(runStages(read(text))), await allFiles(runStages(read(text)))];
    const file = (files: typeof one, n: string): Uint8Array => files.find((f) => f.name === n)!.bytes;
    for (const f of one) expect(Buffer.compare(f.bytes, file(two, f.name))).toBe(0);
    const csv = decode(file(one, "wires.csv"));
    expect(csv).toBe(readFileSync(join(HERE, `golden/${base}-wires.csv`), "utf8"));
    expect(
      csv.startsWith(
        "number,net,class,from,from_pin,to,to_pin,colour,size_mm2,length_mm,end_from,end_to,way,marks\r\n",
      ),
    ).toBe(true);
    const rows = parse(csv, { columns: true }) as Record<string, string>[];
    const routes = runStages(read(text)).stages.routes as RoutesResult;
    expect(rows.map((r) => r.length_mm)).toEqual(
      routes.wires.map((w) => (w.lengthMm === null ? "" : String(w.lengthMm))),
    );
    for (const r of rows) for (const v of Object.values(r)) expect(v).not.toMatch(/^[=+\-@\t\r]/);

    const sheet = (await readXlsx(Buffer.from(file(one, "wires.xlsx")))) as unknown as Cell[][];
    expect(sheet[0]!.slice(0, 4)).toEqual(["number", "net", "class", "from"]);
    expect(sheet.slice(1).map((r) => r[9])).toEqual(routes.wires.map((w) => w.lengthMm));
    expect(sheet[1]![3]).toBe(routes.wires[0]!.fromRef!.device);
  });

  test("bodies stand free of each other and within their faces", () => {
    const panel = runStages(read(text)).stages.panel as PanelResult;
    // One cable of the theatre comes in where a duct before it is: nobody has seen it in the flat drawing.
    expect(panel.open.flatMap((p) => (p.kind === "loose device" ? [] : [`${p.kind}: ${p.of}`]))).toEqual(
      base === "larkmoor" ? ["bodies overlap: -XE5"] : [],
    );
  });
});

test("the committed stores are what the generator makes; the list reads back, and every place of the library is in it", () => {
  for (const [name, make] of Object.entries(STORES))
    expect(readFileSync(join(HERE, name), "utf8")).toBe(storeText(make()));
  const stock = readStock(readFileSync(join(HERE, "demo.stock.json"), "utf8"));
  if (!stock.ok) throw new Error(JSON.stringify(stock.faults));
  const known = new Set(stock.value.items.map((i) => i.part));
  for (const make of Object.values(DEMOS))
    for (const p of make().parts) expect([p.number, known.has(p.number)]).toEqual([p.number, p.stock !== undefined]);
});

test("the theatre has a sample of every kind of open point that matters, and no more stops than meant", () => {
  const { open } = runStages(read(designText(DEMOS["larkmoor.bench.json"]!())));
  const kinds = new Set(open.map((p) => p.kind));
  for (const kind of [
    "loose device",
    "end missing",
    "unknown pin",
    "no way",
    "no cross-section",
    "no colour",
    "no pin position",
    "gap between ducts",
    "crossing hangs free",
    "clamp overfilled",
    "classes share a duct",
    "gland does not fit",
    "no stock place",
    "duct nearly full",
    "hole in a keep-out",
    "bodies overlap",
    "cable without a gland",
  ]) {
    expect(kinds).toContain(kind);
  }
  expect(open.filter((p) => p.severity === "stop")).toHaveLength(9);
});

test("the observatory is complete: 35 wires, nothing open", () => {
  const results = runStages(read(designText(DEMOS["hillfold.bench.json"]!())));
  expect((results.stages.routes as RoutesResult).wires.filter((w) => w.lengthMm !== null)).toHaveLength(35);
  expect(results.open).toEqual([]);
});

test("other options bring other devices and wires, all with lengths", () => {
  const design = DEMOS["larkmoor.bench.json"]!();
  const fitted = { ...design, options: design.options.map((o) => ({ ...o, chosen: "fitted" })) };
  const [now, more] = [design, fitted].map((d) => runStages(read(JSON.stringify(d))));
  const wires = (r: typeof now): number =>
    (r!.stages.routes as RoutesResult).wires.filter((w) => w.lengthMm !== null).length;
  expect(wires(more) - wires(now)).toBeGreaterThan(10);
  expect(more!.open.filter((p) => p.severity === "stop")).toHaveLength(9);
});

test("the synthetic panel has the size it promises and every wire a length", () => {
  const small = { enclosures: 2, rows: 3, perRow: 3, wires: 200 };
  const routes = runStages(read(JSON.stringify(large(7, small)))).stages.routes as RoutesResult;
  expect(routes.wires.every((w) => w.lengthMm !== null)).toBe(true);
  const whole = large(1, LARGE);
  expect([whole.devices.length, whole.ducts.length, whole.wires.length]).toEqual([1000, 300, 10_000]);
});
