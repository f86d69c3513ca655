import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import type { Design } from "../design/model";
import { firstSaid } from "../drawings/said";
import { readDrawing } from "../drawings/read";
import { readView } from "../drawings/view";
import { textBox, type Box, type SceneText } from "../formats/scene";
import { ALL_DRAWN, runs } from "../test/runs";
import { DOT, enclosure, tiny } from "../test/tiny";
import { balloonsAround, crosses, slotsAround, type Frame } from "./balloons";
import { compute } from "./compute";
import { files, layoutDxf } from "./files";
import { itemsOf, legendOf } from "./items";
import {
  drawnFaces,
  figure,
  LAYOUT_DRAWN,
  layoutSheets,
  measured,
  type FigureUnits,
  type Paper,
} from "./layout-sheets";

const whole = (name: string): Design =>
  JSON.parse(readFileSync(join(__dirname, `../../../designs/whole/${name}.bench.json`), "utf8")) as Design;
const LARK = whole("larkmoor");
const lark = compute(LARK);

const small = (): Design => ({
  ...tiny({
    parts: [{ ...DOT, number: "Q", text: "switch", maker: "Ostrand", w: 60, h: 90 }],
    enclosures: [enclosure("+A1", { w: 700, h: 900, plate: { w: 600, h: 800, setback: 400, thickness: 3, material: "aluminium" } })], // prettier-ignore
    ducts: [{ x: 0, y: 20, length: 600 }],
  }),
  rails: [{ tag: "R1", face: "+A1/plate", x: 50, y: 300, run: "right", length: 400, part: "R" }],
  devices: [
    { tag: "-K2", part: "Q", on: { face: "+A1/plate", x: 300, y: 500 } },
    { tag: "-K1", part: "Q", on: { face: "+A1/plate", x: 100, y: 500 } },
    { tag: "-S1", part: "Q", texts: ["pump"], on: { face: "+A1/door", x: 100, y: 100 } },
    { tag: "-P1", part: "P", item: 7, on: { face: "+A1/plate", x: 100, y: 700 } },
    { tag: "-P2", part: "P", item: 5, on: { face: "+A1/plate", x: 150, y: 700 } },
  ],
});

describe("items", () => {
  test("equal part and text are one item; what the design numbers keeps its number, the others follow as a face is read", () => {
    const d = small();
    const items = itemsOf(compute(d), d);
    expect(items.map((i) => [i.number, i.part, i.maker, i.texts, i.devices.map((x) => x.tag)])).toEqual([
      [1, "Q", "Ostrand", [], ["-K1", "-K2"]],
      [2, "Q", "Ostrand", ["pump"], ["-S1"]],
      [5, "P", "m", [], ["-P1", "-P2"]],
    ]);
    expect(legendOf(items, "+A1/door").map((l) => [l.item.number, l.tags])).toEqual([[2, ["-S1"]]]);
    // A number that two groups state goes to the first; the other gets one that is free.
    const twice = { ...d, devices: d.devices.map((x) => (x.tag === "-S1" ? { ...x, item: 5 } : x)) };
    expect(itemsOf(compute(twice), twice).map((i) => [i.number, i.devices[0]!.tag])).toEqual([
      [1, "-K1"],
      [2, "-S1"],
      [5, "-P1"],
    ]);
  });

  test("every device of the theatre is in one line of one legend", () => {
    const items = itemsOf(lark, LARK);
    const listed = drawnFaces(lark).flatMap(({ face }) => legendOf(items, face.id).flatMap((l) => l.tags));
    expect(listed.sort()).toEqual(lark.devices.map((d) => d.tag).sort());
    expect(new Set(items.map((i) => i.number)).size).toBe(items.length);
    const kinds = new Set(lark.devices.map((d) => JSON.stringify([d.part, d.texts])));
    expect(items).toHaveLength(kinds.size);
  });
});

test("figures are measured from the lower left corner: bars by begin, end and line, what is screwed on by its corner", () => {
  const on = drawnFaces(compute(small()))[0]!;
  // The rail is 35 wide: its line at 300 + 17.5. Devices at 100 and 300, 500; 100 and 150, 700. The duct from 0 to 600 at 20.
  expect(measured(on).xs.sort((a, b) => a - b)).toEqual([0, 50, 100, 100, 150, 300, 450, 600]);
  expect(measured(on).ys.sort((a, b) => a - b)).toEqual([20, 317.5, 500, 500, 700, 700]);
  const d = small();
  const [sheet] = layoutSheets(on, itemsOf(compute(d), d), { job: "J", title: "t", revision: "B" });
  const words = sheet!.items.flatMap((i) => (i.kind === "text" ? [i.text] : []));
  for (const told of ["317.5", "450", "700", "-K1", "W1", "1 : 5", "J t, revision B"]) expect(words).toContain(told);
  expect([figure(317.5, "mm"), figure(317.5, "in"), figure(25.4, "both")]).toEqual(["317.5", "12.500", "25.4 [1.000]"]);
});

const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.w - 0.01 && b.x < a.x + a.w - 0.01 && a.y < b.y + b.h - 0.01 && b.y < a.y + a.h - 0.01;

test.each<[Paper, FigureUnits]>([
  ["A3", "mm"],
  ["A2", "both"],
  ["A1", "in"],
])("on %s in %s no figure, tag or balloon of the theatre lies on another, and all lie on the sheet", (paper, units) => {
  const items = itemsOf(lark, LARK);
  let figures = 0;
  for (const on of drawnFaces(lark)) {
    const [sheet] = layoutSheets(on, items, { job: "J", title: "t", revision: "B" }, { ...LAYOUT_DRAWN, paper, units });
    const texts = sheet!.items.filter((i): i is SceneText => i.kind === "text");
    const rings = sheet!.items.flatMap((i) => (i.kind === "circle" && i.r > 2 ? [i] : []));
    const boxes = texts.map((t) => ({ text: t.text, ...textBox(t) }));
    figures += boxes.length;
    const upon = boxes.flatMap((a, i) =>
      boxes.slice(i + 1).flatMap((b) => (overlap(a, b) ? [`${on.face.id}: ${a.text} on ${b.text}`] : [])),
    );
    expect(upon).toEqual([]);
    for (const b of boxes)
      expect([b.text, b.x >= 0 && b.y >= 0 && b.x + b.w <= sheet!.w && b.y + b.h <= sheet!.h]).toEqual([b.text, true]);
    const covered = rings.flatMap((r) =>
      boxes.flatMap((b) =>
        /^\d+$/.test(b.text) || !overlap({ x: r.x - r.r, y: r.y - r.r, w: 2 * r.r, h: 2 * r.r }, b) ? [] : [b.text],
      ),
    );
    expect([on.face.id, covered]).toEqual([on.face.id, []]);
  }
  expect(figures).toBeGreaterThan(200);
});

test("balloons: every number once, no two lines cross, no ring touches a ring, no line goes through a ring", () => {
  const frame: Frame = { left: 40, top: 40, right: 340, bottom: 240 };
  const R = 3;
  let [met, most] = [0, 0];
  fc.assert(
    fc.property(
      fc.array(fc.array(fc.tuple(fc.integer({ min: 41, max: 339 }), fc.integer({ min: 41, max: 239 })), { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 90, size: "max" }), // prettier-ignore
      (all) => {
        const wanted = all.map((places, i) => ({ number: i + 1, places: places.map(([x, y]) => ({ x, y })) }));
        const { balloons, left } = balloonsAround(wanted, frame, R);
        const slots = slotsAround(frame, R).length;
        expect(left).toHaveLength(Math.max(0, wanted.length - slots));
        expect([...balloons.map((b) => b.number), ...left].sort((a, b) => a - b)).toEqual(wanted.map((w) => w.number));
        if (left.length > 0) met++;
        most = Math.max(most, balloons.length);
        balloons.forEach((a, i) => {
          expect(wanted[a.number - 1]!.places).toContainEqual(a.at);
          for (const b of balloons.slice(i + 1)) {
            if (a.at.x === b.at.x && a.at.y === b.at.y) continue;
            expect([a, b, crosses(a.at, a.bend, b.at, b.bend)]).toEqual([a, b, false]);
            expect(Math.hypot(a.centre.x - b.centre.x, a.centre.y - b.centre.y)).toBeGreaterThan(2 * R);
            for (const [p, q] of [
              [a, b],
              [b, a],
            ] as const) {
              // prettier-ignore
              // The ring of one, and the line of the other from its place to its stub and along it.
              const far = Math.min(off(p.centre, q.at, q.bend), off(p.centre, q.bend, q.centre));
              expect(far).toBeGreaterThan(R);
            }
          }
        });
      },
    ),
    { numRuns: runs(60), seed: 284 },
  );
  if (ALL_DRAWN) expect([met > 0, most > 60]).toEqual([true, true]);
});

/** How far a point lies from a line between two others. */
function off(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const along = Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(p.x - a.x - along * dx, p.y - a.y - along * dy);
}

test("a layout goes out as DXF and comes in with every device, duct and rail at its place", () => {
  let read = 0;
  for (const on of drawnFaces(lark)) {
    const { face } = on;
    const drawing = readDrawing(layoutDxf(on));
    if (!drawing.ok) throw new Error(drawing.found);
    const known = new Set(on.devices.map((d) => d.tag));
    const view = readView(
      drawing.drawing,
      firstSaid(drawing.drawing),
      { enclosure: face.enclosure, face: face.kind, frame: { x: 0, y: 0, w: face.w, h: face.h }, mm: 1 } as never,
      { whole: true, thing: (text: string) => (known.has(text) ? { tag: text, strip: false } : null) } as never,
    );
    const at = new Map(view.devices.map((d) => [d.tag, d.box]));
    for (const d of on.devices) {
      const box = at.get(d.tag);
      expect([d.tag, box && Math.max(Math.abs(box.x - d.outline.x), Math.abs(box.y - d.outline.y), Math.abs(box.w - d.outline.w), Math.abs(box.h - d.outline.h)) < 0.02]).toEqual([d.tag, true]); // prettier-ignore
      read++;
    }
    const bars = view.bars.map((b) => [b.kind, Math.round(b.x * 10), Math.round(b.y * 10), Math.round(b.length * 10)].join(" ")).sort(); // prettier-ignore
    const stand = [...on.rails.map((r) => ["rail", r] as const), ...on.ducts.map((d) => ["duct", d] as const)];
    expect(bars).toEqual(stand.map(([kind, b]) => [kind, Math.round(b.outline.x * 10), Math.round(b.outline.y * 10), Math.round(b.length * 10)].join(" ")).sort()); // prettier-ignore
  }
  expect(read).toBe(lark.devices.length);
});

test("files: the legend, and of each face a PDF whose pages another library reads", async () => {
  const d = small();
  const out = await files(d, compute(d));
  expect(out.map((f) => f.name)).toEqual(["legend.csv", ...["plate", "door"].flatMap((f) => ["pdf", "svg", "dxf"].map((as) => `layout-+A1-${f}.${as}`))]); // prettier-ignore
  expect(new TextDecoder().decode(out[0]!.bytes).replace(/^\uFEFF/, "").split(/\r?\n/).slice(0, 3)).toEqual([
    "enclosure,face,item,count,part,text,maker,tags,written",
    "'+A1,plate,1,2,Q,switch,Ostrand,'-K1; -K2,",
    "'+A1,plate,5,2,P,dot,m,'-P1; -P2,",
  ]); // prettier-ignore
  const { pages } = JSON.parse(
    execFileSync(process.execPath, [join(__dirname, "../test/read-pdf.mjs")], { input: out[1]!.bytes }).toString(),
  ) as { pages: { size: number[]; texts: { str: string }[] }[] };
  // The plate is higher than wide: its sheet stands, the legend lies.
  expect(pages.map((p) => p.size.map(Math.round))).toEqual([[842, 1191], [1191, 842]]); // prettier-ignore
  const read = pages.map((p) => p.texts.map((t) => t.str).join(" "));
  for (const told of ["317.5", "-K1", "1 : 5"]) expect(read[0]).toContain(told);
  for (const told of ["Ostrand", "-K1, -K2"]) expect(read[1]).toContain(told);
});
