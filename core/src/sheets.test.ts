import { readFileSync } from "node:fs";
import { join } from "node:path";
import { contentHash } from "./design/hash";
import type { Design } from "./design/model";
import type { Scene, SceneItem } from "./formats/scene";
import { reportSheets } from "./heat/report";
import type { HeatResult } from "./heat/result";
import type { KitsResult } from "./kits/result";
import { binLabels, pickSheets } from "./kits/tickets";
import { markerSheets, stripSheets } from "./lineups/drawing";
import type { LineupsResult } from "./lineups/result";
import { barSheets, pieceLabels } from "./metalwork/bar-drawing";
import { faceSheets, fullSheets } from "./metalwork/drawing";
import { toolsFor } from "./metalwork/files";
import type { MetalworkResult } from "./metalwork/result";
import { runStages } from "./run";
import { DEFAULT_SHOP } from "./shop/shop";
import { golden } from "./test/golden";
import { benchSheets, bundleTickets } from "./wireprep/labels";
import type { WireprepResult } from "./wireprep/result";

const design = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;

const round = (v: number): number => Math.round(v * 1000) / 1000;
/** How many of each kind are drawn, and a sign of where and how: another one when any of them is drawn otherwise. */
function drawn(items: readonly SceneItem[]): string {
  const kinds = ["line", "rect", "circle", "poly", "text"].map(
    (k) => `${items.filter((i) => i.kind === k).length} ${k}`,
  );
  const all = JSON.parse(JSON.stringify(items, (_, v: unknown) => (typeof v === "number" ? round(v) : v))) as unknown;
  return `${kinds.filter((k) => !k.startsWith("0 ")).join(", ")}; ${contentHash(all).slice(0, 8)}`;
}

/** What is written on a sheet, in the order it is read: from the top, from the left. Texts that differ in figures alone once. */
function written(scenes: readonly Scene[]): string[] {
  const seen = new Set<string>();
  return scenes.flatMap(({ name, w, h, items }) => [
    `${name}, ${w} × ${h} mm: ${drawn(items)}`,
    ...items
      .flatMap((i) => (i.kind === "text" ? [i] : []))
      .sort((a, b) => a.y - b.y || a.x - b.x || (a.text < b.text ? -1 : 1))
      .flatMap(({ text }) => {
        const plain = text.replace(/\d+(\.\d+)?/g, "#");
        if (seen.has(plain)) return [];
        seen.add(plain);
        return [`  ${text}`];
      }),
  ]);
}

test("what stands on drawings, reports, tickets and lists, word for word", () => {
  const stages = runStages(design).stages as unknown as {
    lineups: LineupsResult;
    heat: HeatResult;
    metalwork: MetalworkResult;
    kits: KitsResult;
    wireprep: WireprepResult;
  };
  const { metalwork: rules } = DEFAULT_SHOP.rules;
  const heading = { job: "LARK-2601", title: "Larkmoor", revision: "B", spareWord: "spare" };
  const face = (id: string) => stages.metalwork.faces.find((f) => f.face === id)!;
  const [plate, door] = [face("+A1/plate"), face("+A1/door")];
  const { leads, bundles, batches } = stages.wireprep;
  const byWire = new Map(leads.map((l) => [l.wire, l]));
  const atBench = batches.flatMap((b) => b.bench).slice(0, 12);
  const parts: [string, Scene[]][] = [
    ["heat", reportSheets(stages.heat, "LARK-2601 Larkmoor", design.parts)],
    [
      "strip",
      stripSheets(
        stages.lineups.strips.find((s) => s.tag === "-X5")!,
        stages.lineups.cables,
        heading,
      ),
    ],
    ["markers", markerSheets(stages.lineups.strips.slice(0, 2), heading)],
    ["face", faceSheets(plate, toolsFor(plate, rules), rules.machines, heading)],
    ["door", faceSheets(door, toolsFor(door, rules), rules.machines, heading)],
    ["face at 1:1", fullSheets(door, heading).slice(0, 2)],
    [
      "saw",
      barSheets(
        stages.metalwork.bars.map((b) => b),
        heading,
      ),
    ],
    [
      "pieces",
      pieceLabels(
        stages.metalwork.bars.map((b) => b),
        heading,
      ),
    ],
    ["picking", pickSheets(stages.kits.kits, heading)],
    ["bins", binLabels(stages.kits.kits, heading)],
    ["bundles", bundleTickets("LARK-2601", leads, bundles)],
    [
      "bench",
      benchSheets(
        "LARK-2601 Larkmoor",
        atBench.map(({ wire, why }) => ({ lead: byWire.get(wire)!, why })),
      ),
    ],
  ];
  golden("sheets.txt", `${parts.flatMap(([name, scenes]) => [`# ${name}`, ...written(scenes)]).join("\n")}\n`);
});
