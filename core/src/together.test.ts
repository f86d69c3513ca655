import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "./design/model";
import { TICK } from "./frame/tick-kind";
import type { HeatResult } from "./heat/result";
import { saidValues } from "./heat/values";
import type { Stock } from "./design/stock";
import type { PickEvent } from "./kits/events";
import { lineKey, type KitsResult } from "./kits/result";
import { needsFile, needTogether } from "./kits/together";
import type { MetalworkResult } from "./metalwork/result";
import { cutTogether, togetherFile } from "./metalwork/together";
import { runStages } from "./run";
import { DEFAULT_SHOP } from "./shop/shop";
import { notReadFile } from "./tables/not-read";
import { tableName } from "./tables/names";
import { EVERYTHING } from "./test/everything";
import { golden } from "./test/golden";

/** What is asked of several jobs at once, as it goes to the buyer and to the saw. */

const hillfold = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/hillfold.bench.json"), "utf8")) as Design;
const RESULTS = [EVERYTHING, hillfold].map((design) => runStages(design).stages);
const text = ({ bytes }: { bytes: Uint8Array }): string => new TextDecoder().decode(bytes);

test("two jobs want parts of one store, and are cut from one lot of bars", async () => {
  const stock = JSON.parse(readFileSync(join(__dirname, "../../designs/demo.stock.json"), "utf8")) as Stock;
  const wanting = RESULTS.map(({ kits }, i) => {
    const { bill, kits: made } = kits as KitsResult;
    const [kit, line] = made.flatMap((k) => k.lines.flatMap((l) => (l.quantity > 1 ? [[k, l] as const] : [])))[0]!;
    const pick: PickEvent = {
      id: `p${i}`,
      job: `J-${i + 1}`,
      kit: kit.code,
      line: lineKey(line),
      what: "picked",
      quantity: 1,
      who: "A. Moss",
      when: "2027-01-04T08:00:00.000Z",
    } as never;
    return { job: `J-${i + 1}`, wanted: i === 0 ? null : "2027-02-19", bill, picks: i === 0 ? [] : [pick] };
  });
  const { needs, starts } = needTogether(wanting, stock);
  expect(Object.keys(starts)).toEqual(["J-1", "J-2"]);
  const without = needTogether(wanting, null).needs;
  expect(without.every((n) => n.there === null && n.missing === null)).toBe(true);
  // One was picked: so much less is needed than of a job of which nothing was.
  const all = needTogether(wanting.map((w) => ({ ...w, picks: [] })), null).needs; // prettier-ignore
  const sum = (list: typeof needs): number => list.reduce((n, { needed }) => n + needed, 0);
  expect(sum(all) - sum(without)).toBeCloseTo(1, 6);
  const bars = RESULTS.map(({ metalwork }, i) => ({
    job: `J-${i + 1}`,
    panels: i + 1,
    bars: (metalwork as MetalworkResult).bars,
  }));
  const lists = cutTogether(bars, DEFAULT_SHOP.rules.metalwork);
  const pieces = (of: typeof lists): number =>
    of.reduce((sum, l) => sum + l.list.bars.flatMap((b) => b.pieces).length + l.list.tooLong.length, 0);
  expect(pieces(lists)).toBe(pieces(bars[0]!.bars) + 2 * pieces(bars[1]!.bars));
  const files = [
    await needsFile(wanting, stock, "csv"),
    await needsFile(wanting, stock, "purchase"),
    await togetherFile(lists, ["J-1", "J-2"], "csv"),
  ];
  expect(JSON.parse(text(await needsFile(wanting, stock, "json")))).toEqual(
    JSON.parse(JSON.stringify({ needs, starts })),
  );
  expect(JSON.parse(text(await togetherFile(lists, ["J-1"], "json")))).toEqual(
    JSON.parse(JSON.stringify({ bars: lists })),
  );
  expect((await needsFile(wanting, stock, "xlsx")).name).toBe("shortages.xlsx");
  for (const [as, name] of [
    ["pdf", "cuts.pdf"],
    ["labels", "cut-labels.pdf"],
  ] as const)
    // prettier-ignore
    expect((await togetherFile(lists, ["J-1"], as)).name).toBe(name);
  golden("together.txt", files.map((f) => `${f.name}\n${text(f)}`).join("\n"));
});

test("a value of a zone is said by the zone, the job, the shop, or ships", () => {
  const { zones } = RESULTS[1]!.heat as HeatResult;
  const zone = { ...zones[0]!, values: { ...zones[0]!.values, tariffPerKWh: 0.77 } };
  const design = {
    rules: { heat: { insideMaxC: 41, diversity: 0.5 } },
    enclosures: hillfold.enclosures.map((e) => ({ ...e, heat: { insideMaxC: 39 } })),
  };
  const said = new Map(saidValues(design, zone).map((v) => [v.key, v.source]));
  expect(["insideMaxC", "diversity", "tariffPerKWh"].map((key) => said.get(key as never))).toEqual([
    "of this zone",
    "of this job",
    "rule of the shop",
  ]);
  expect(said.get("protectionIp")).toBe("IEC 60529");
});

test("what was not read goes to whoever made the table, and a tick is kept and comes back as it was", () => {
  const at = { table: tableName("Parts.xlsx", "Sheet 2"), found: "x", wanted: "a number", heading: "Width" };
  const file = notReadFile([
    { ...at, line: 3, row: true },
    { ...at, line: 4, row: false },
    { ...at, line: null, row: false, table: tableName("a.dxf", null) },
  ] as never);
  expect(text(file).split(/\r?\n/).slice(1, 4).map((l) => l.split(/[,;]/).at(-1))).toEqual(["the row", "the cell", "what is drawn"]); // prettier-ignore
  expect(text(file)).toContain("Parts.xlsx, Sheet 2");
  for (const what of ["ticked", "unticked"] as const) {
    const kept = TICK.kept!.of({ item: "3", what } as never);
    expect(kept).toEqual({ item: "3", done: what === "ticked" });
    expect(TICK.kept!.back(kept)).toEqual({ item: "3", what });
  }
});
