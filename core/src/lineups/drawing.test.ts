import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { DOMParser } from "@xmldom/xmldom";
import DxfParser from "dxf-parser";
import fc from "fast-check";
import type { Design } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { toDxf } from "../formats/dxf";
import { toPdf } from "../formats/pdf";
import {
  BASELINE,
  PAPER,
  stacked,
  textBox,
  textWidth,
  turned,
  type Box,
  type Scene,
  type SceneText,
} from "../formats/scene";
import { toSvg } from "../formats/svg";
import { demo } from "../test/demo";
import { stripDesign, STRIP_TAGS } from "../test/strips";
import { compute } from "./compute";
import { DRAWN, markerSheets, stripSheets } from "./drawing";
import { headingOf } from "./files";
import { membersOf, type DrawingOptions } from "./result";

// Writing and reading PDF takes long on a busy machine.
jest.setTimeout(180_000);

interface Drawn {
  design: Design;
  result: ReturnType<typeof compute>;
}
const of = (design: Design): Drawn => ({ design, result: compute(design, SHOP_RULES) });
const sheets = ({ design, result }: Drawn, options: Partial<DrawingOptions> = {}): Scene[] =>
  result.strips.flatMap((s) =>
    stripSheets(s, result.cables, { ...headingOf(design, result), spareWord: "spare" }, { ...DRAWN, ...options }),
  );
const texts = (scene: Scene): SceneText[] => scene.items.filter((i): i is SceneText => i.kind === "text");

/** Pairs of texts that meet, and texts that leave the sheet. */
function collisions(scene: Scene): string[] {
  const boxes = texts(scene)
    .filter((t) => t.text !== "")
    .map((t) => ({ t, b: textBox(t) }))
    .sort((p, q) => p.b.x - q.b.x);
  const met: string[] = [];
  const meet = (a: Box, b: Box): boolean =>
    a.x + a.w > b.x + 0.01 && b.x + b.w > a.x + 0.01 && a.y + a.h > b.y + 0.01 && b.y + b.h > a.y + 0.01;
  boxes.forEach(({ t, b }, i) => {
    if (b.x < -0.01 || b.y < -0.01 || b.x + b.w > scene.w + 0.01 || b.y + b.h > scene.h + 0.01)
      met.push(`${t.text} leaves`);
    for (let j = i + 1; j < boxes.length && boxes[j]!.b.x < b.x + b.w; j++)
      if (meet(b, boxes[j]!.b)) met.push(`${t.text} | ${boxes[j]!.t.text}`);
  });
  return met;
}

const ALL: DrawingOptions[] = (["lying", "upright"] as const).flatMap((stand) =>
  [false, true].flatMap((swap) =>
    [null, 1, 3].flatMap((scale) =>
      ([0, 90, 180, 270] as const).map((turn): DrawingOptions => ({ stand, swap, scale, turn, joined: turn === 90 })),
    ),
  ),
);
const DEMOS = [demo("larkmoor"), demo("hillfold")].map(of);

test("no text of any demo sheet covers another or leaves its sheet, however it is drawn", () => {
  let [count, seen] = [0, 0];
  for (const drawn of DEMOS) {
    for (const options of ALL) {
      for (const scene of sheets(drawn, options)) {
        expect(collisions(scene)).toEqual([]);
        count++;
        seen += texts(scene).length;
      }
    }
    for (const scene of markerSheets(drawn.result.strips, headingOf(drawn.design, drawn.result)))
      expect(collisions(scene)).toEqual([]);
  }
  expect([count > 300, seen > 10_000]).toEqual([true, true]);
});

test("nor with names as long as they may be, crowded clamps and cables across each other", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(6), fc.nat(6), fc.integer({ min: 1, max: 60 }), fc.boolean()), {
        minLength: 4,
        maxLength: 30,
      }),
      fc.constantFrom(...ALL),
      (ends, options) => {
        const d = stripDesign({
          print: { "-X1.2": "a marker with far more than it holds" },
          jumpers: [{ row: 1, members: [STRIP_TAGS[0]!, STRIP_TAGS[2]!] }],
        });
        const wires = ends.map(([a, b, n, far], i) => ({
          number: `${i}`.repeat(n),
          net: "24",
          from: { device: STRIP_TAGS[a]!, pin: "a" },
          to: far ? { device: "-F1", pin: "a" } : { device: STRIP_TAGS[b]!, pin: "b" },
        }));
        const cables = ends.slice(0, 6).map(([a, b, n], i) => ({
          tag: `-W${i}${"9".repeat(n)}`,
          type: "C",
          cores: [a, b].map((m, k) => ({
            core: String(k),
            from: { device: STRIP_TAGS[m]!, pin: "b" },
            far: "é".repeat(n),
          })),
        }));
        for (const scene of sheets(of({ ...d, wires, cables }), options)) expect(collisions(scene)).toEqual([]);
      },
    ),
    { seed: 8, numRuns: 120 },
  );
});

test("every member and every conductor stands on the sheets once", () => {
  for (const drawn of DEMOS) {
    for (const strip of drawn.result.strips) {
      const { design, result } = drawn;
      const scenes = stripSheets(strip, result.cables, headingOf(design, result));
      const all = scenes.flatMap(texts);
      const items = scenes.flatMap((scene) => scene.items);
      const members = membersOf(strip);
      const wires = members.flatMap((m) => m.levels.flatMap((l) => [...l.inside, ...l.outside]));
      const print = all.filter((t) => t.size <= 3 && members.some((m) => m.print === t.text));
      expect(print.length).toBeGreaterThanOrEqual(members.length);
      // Bodies, and a stroke for each conductor, wires and cores; what finds no room is told as a number.
      expect(items.filter((i) => i.kind === "rect" && i.fill === PAPER)).toHaveLength(members.length);
      const more = all.reduce((n, { text }) => n + Number(/^(\d+) more$/.exec(text)?.[1] ?? 0), 0);
      // 3 mm upright; lines over the cores of a cable are no strokes.
      const strokes = items.filter(
        (i) =>
          i.kind === "line" && i.layer === "conductor" && i.x1 === i.x2 && Math.abs(Math.abs(i.y2 - i.y1) - 3) < 1e-9,
      ).length;
      expect(strokes + more).toBe(wires.length);
      for (const c of wires.filter((w) => w.cable === null)) {
        const ends = wires.filter((w) => w.wire === c.wire).length;
        const said = all.filter((t) => t.text === c.wire || t.text.startsWith(`${c.wire} `));
        expect(said.length).toBeGreaterThanOrEqual(ends);
      }
    }
  }
});

test("split where a person says and where the length says; joined on one sheet when asked", () => {
  const d = stripDesign({ splitAfter: ["-X1.2"] });
  const names = (options: Partial<DrawingOptions>): number[] =>
    sheets(of(d), options).map((s) => texts(s).filter((t) => /^\d|K$/.test(t.text) && t.size === 3).length);
  expect(sheets(of(d))).toHaveLength(2);
  expect(names({}).length).toBe(2);
  expect(sheets(of(d), { joined: true })).toHaveLength(1);
  // 63 mm at 10:1 are 630 mm: of a sheet 277 are free.
  expect(sheets(of(stripDesign()), { scale: 10 }).length).toBeGreaterThanOrEqual(3);
  const [first, second] = sheets(of(d)).map((s) => texts(s).map((t) => t.text));
  expect(first).toContain("to sheet 2");
  expect(second).toContain("from sheet 1");
});

test("four quarter turns are none", () => {
  for (const scene of sheets(of(stripDesign()))) {
    const round = [90, 90, 90, 90].reduce((s) => turned(s, 90), scene);
    const even = (s: Scene): unknown =>
      JSON.parse(JSON.stringify(s, (_, v: unknown) => (typeof v === "number" ? Math.round(v * 1e6) / 1e6 : v)));
    expect(even(round)).toEqual(even(scene));
    expect(turned(turned(scene, 90), 270)).toEqual(turned(turned(scene, 270), 90));
  }
});

interface Page {
  size: [number, number];
  texts: { str: string; a: number; b: number; x: number; y: number; width: number }[];
  paths: number;
}

test("the PDF read back by another library shows the same texts at the same places, and as many lines", async () => {
  const scenes = sheets(DEMOS[0]!, { stand: "upright", swap: true });
  const bytes = await toPdf("strips of a test", scenes);
  const read = JSON.parse(
    execFileSync(process.execPath, [join(__dirname, "../test/read-pdf.mjs")], {
      input: bytes,
      maxBuffer: 1e8,
    }).toString(),
  ) as { title: string; pages: Page[] };
  expect(read.title).toBe("strips of a test");
  expect(read.pages).toHaveLength(scenes.length);
  const MM = 72 / 25.4;
  scenes.forEach((scene, i) => {
    const page = read.pages[i]!;
    expect(page.size.map((v) => Math.round(v / MM))).toEqual([scene.w, scene.h].map(Math.round));
    const wanted = texts(scene).filter((t) => t.text !== "");
    // The reader cuts texts at spaces.
    const words = (list: string[]): string[] =>
      list
        .flatMap((t) => t.split(" "))
        .filter((t) => t !== "")
        .sort();
    expect(words(page.texts.map((t) => t.str))).toEqual(words(wanted.map((t) => t.text)));
    for (const t of wanted) {
      const box = textBox(t);
      const rise = BASELINE * t.size;
      const [x, y] = {
        0: [box.x, t.y + rise],
        90: [t.x + rise, box.y + box.h],
        180: [box.x + box.w, t.y - rise],
        270: [t.x - rise, box.y],
      }[t.turn] as [number, number];
      const there = page.texts.filter(
        (r) =>
          t.text.startsWith(r.str) &&
          Math.hypot(r.x / MM - x, scene.h - r.y / MM - y) < 0.1 &&
          Math.round((Math.atan2(r.b, r.a) * 180) / Math.PI + 360) % 360 === t.turn,
      );
      expect([t.text, there.length]).toEqual([t.text, 1]);
    }
    expect(page.paths).toBe(scene.items.filter((it) => it.kind !== "text").length);
  });
});

test("equal drawings are equal bytes, and the font is in them", async () => {
  const scenes = sheets(of(stripDesign()));
  const [one, two] = await Promise.all([toPdf("t", scenes), toPdf("t", scenes)]);
  expect(Buffer.from(one).equals(Buffer.from(two))).toBe(true);
  expect(Buffer.from(one).toString("latin1")).toContain("/FontFile2");
  const dxf = (): string => Buffer.from(toDxf(stacked("t", scenes))).toString();
  expect(dxf()).toBe(dxf());
});

test("the DXF read back by another library has the same texts and lines in their layers", () => {
  const scene = stacked("all", sheets(of(stripDesign({ print: { "-X1.1": "L1 ²" } }))));
  const dxf = new DxfParser().parseSync(Buffer.from(toDxf(scene)).toString())!;
  const kinds = (type: string) => dxf.entities.filter((e) => e.type === type);
  type Text = { text: string; startPoint: { x: number; y: number }; rotation?: number; layer: string };
  const read = kinds("TEXT") as unknown as Text[];
  const plain = (t: string): string =>
    t.replace(/\\U\+([0-9A-F]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
  expect(read.map((t) => plain(t.text)).sort()).toEqual(
    texts(scene)
      .filter((t) => t.text !== "")
      .map((t) => t.text)
      .sort(),
  );
  expect(new Set(read.map((t) => t.layer))).toEqual(new Set(["TEXT"]));
  expect(kinds("LINE")).toHaveLength(scene.items.filter((i) => i.kind === "line").length);
  expect(kinds("LWPOLYLINE")).toHaveLength(scene.items.filter((i) => i.kind === "rect").length);
  expect(kinds("CIRCLE")).toHaveLength(scene.items.filter((i) => i.kind === "circle").length);
  expect(kinds("CIRCLE").every((c) => c.layer === "JUMPER")).toBe(true);
  const rects = kinds("LWPOLYLINE") as unknown as { vertices: { x: number; y: number }[] }[];
  const first = scene.items.find((i) => i.kind === "rect")!;
  expect(Math.min(...rects[0]!.vertices.map((p) => p.x))).toBeCloseTo(first.kind === "rect" ? first.x : NaN, 3);
  expect(Math.max(...rects[0]!.vertices.map((p) => p.y))).toBeCloseTo(
    first.kind === "rect" ? scene.h - first.y : NaN,
    3,
  );
});

test("the SVG read back has the same texts, each told how wide it is", () => {
  const scene = stacked("a < b & c", sheets(of(stripDesign({ print: { "-X1.1": "<&>" } }))));
  const svg = Buffer.from(toSvg(scene)).toString();
  const doc = new DOMParser().parseFromString(svg, "text/xml");
  expect(doc.getElementsByTagName("title")[0]!.textContent).toBe("a < b & c");
  const read = Array.from(doc.getElementsByTagName("text"));
  const wanted = texts(scene).filter((t) => t.text !== "");
  expect(read.map((t) => t.textContent)).toEqual(wanted.map((t) => t.text));
  read.forEach((t, i) =>
    expect(Number(t.getAttribute("textLength"))).toBeCloseTo(textWidth(wanted[i]!.text, wanted[i]!.size), 2),
  );
});

describe("markers", () => {
  test("at 1:1, each as wide as its member, every one once, in order", () => {
    const { design, result } = DEMOS[0]!;
    const pages = markerSheets(result.strips, headingOf(design, result));
    const marks = pages.flatMap(texts).filter((t) => t.layer === "mark");
    expect(marks.map((t) => t.text)).toEqual(result.strips.flatMap((s) => membersOf(s).map((m) => m.print)));
    const cells = pages.flatMap((p) => p.items.filter((i) => i.kind === "rect"));
    expect(cells.map((c) => (c.kind === "rect" ? c.w : 0))).toEqual(
      result.strips.flatMap((s) => membersOf(s).map((m) => m.widthMm)),
    );
    expect(pages.every((p) => p.w === 210 && p.h === 297)).toBe(true);
  });
});
