import DxfParser from "dxf-parser";
import fc from "fast-check";
import { runs } from "../test/runs";
import type { Seen } from "../design/model";
import { faceWith } from "../test/metalwork";
import { faceDxf } from "./dxf";
import type { Cut, Drilled } from "./result";
import { frameOf, mirrored } from "./shapes";

const FACE = { face: "+A1/door", kind: "door" as const, w: 800, h: 600 };
const work = (cuts: readonly Cut[]): Drilled => faceWith(cuts, FACE);

interface Entity {
  type: string;
  layer: string;
  center?: { x: number; y: number };
  radius?: number;
  vertices?: { x: number; y: number; bulge?: number }[];
  text?: string;
}
const read = (cuts: readonly Cut[], seen: Seen = "outside"): Entity[] =>
  new DxfParser().parseSync(new TextDecoder().decode(faceDxf({ ...work(cuts), seen })))!
    .entities as unknown as Entity[];

/** Frame of what was read, arcs in small steps. */
function frameRead({ center, radius, vertices }: Entity): number[] {
  if (center && radius !== undefined)
    return [center.x - radius, center.y - radius, center.x + radius, center.y + radius];
  const points: { x: number; y: number }[] = [];
  vertices!.forEach((a, i) => {
    const b = vertices![(i + 1) % vertices!.length]!;
    points.push(a);
    if (!a.bulge) return;
    // The middle of the arc from the height of its bulge.
    const angle = 4 * Math.atan(a.bulge);
    const chord = Math.hypot(b.x - a.x, b.y - a.y);
    const r = chord / 2 / Math.sin(angle / 2);
    const away = r * Math.cos(angle / 2);
    const [ux, uy] = [(b.x - a.x) / chord, (b.y - a.y) / chord];
    const c = { x: (a.x + b.x) / 2 - uy * away, y: (a.y + b.y) / 2 + ux * away };
    const a1 = Math.atan2(a.y - c.y, a.x - c.x);
    for (let k = 1; k < 200; k++)
      points.push({
        x: c.x + Math.abs(r) * Math.cos(a1 + (angle * k) / 200),
        y: c.y + Math.abs(r) * Math.sin(a1 + (angle * k) / 200),
      });
  });
  return [
    Math.min(...points.map((p) => p.x)),
    Math.min(...points.map((p) => p.y)),
    Math.max(...points.map((p) => p.x)),
    Math.max(...points.map((p) => p.y)),
  ];
}

const number = (min: number, max: number) => fc.integer({ min: min * 4, max: max * 4 }).map((n) => n / 4);
const place = { x: number(50, 700), y: number(50, 500) };
const cuts: fc.Arbitrary<Cut> = fc.oneof(
  fc.record({ kind: fc.constant("round" as const), ...place, d: number(2, 90) }),
  fc.record({
    kind: fc.constant("round" as const),
    ...place,
    d: fc.constant(22.3),
    notch: fc.record({ to: fc.constant(24.1), w: fc.constant(3.2), angle: fc.constantFrom(0, 90, 180, 270) }),
  }),
  fc.record({
    kind: fc.constant("thread" as const),
    ...place,
    d: fc.constant(4.2),
    thread: fc.constantFrom("M5", "M4x0.5"),
  }),
  fc.record({ kind: fc.constant("countersunk" as const), ...place, d: fc.constant(5), head: fc.constant(10) }),
  fc.record({ kind: fc.constant("rect" as const), ...place, w: number(5, 90), h: number(5, 90), r: number(0, 2) }),
  fc.record({
    kind: fc.constant("slot" as const),
    ...place,
    w: number(5, 90),
    h: number(5, 90),
    angle: fc.constantFrom(0, 90),
  }),
  fc.record({
    kind: fc.constant("polygon" as const),
    points: fc.array(fc.record(place), { minLength: 3, maxLength: 6 }),
  }),
  fc.record({ kind: fc.constant("knockout" as const), ...place, d: fc.constant(20.5) }),
);

/** How far what was read may be off: key and slots in steps of two degrees. */
const OFF_MM = 0.05;

function frameWanted(cut: Cut): number[] {
  if (cut.kind === "round" && cut.notch) {
    const r = cut.d / 2;
    const out = cut.notch.to - r;
    const ends: Record<number, number[]> = {
      0: [r, r, out, r],
      90: [r, r, r, out],
      180: [out, r, r, r],
      270: [r, out, r, r],
    };
    const [left, down, right, up] = ends[cut.notch.angle]!;
    return [cut.x - left!, cut.y - down!, cut.x + right!, cut.y + up!];
  }
  // Of a countersunk hole the drilled one is drawn first.
  const f = frameOf(cut.kind === "countersunk" ? { ...cut, head: cut.d } : cut);
  return [f.x, f.y, f.x + f.w, f.y + f.h];
}

const layerOf = (cut: Cut): string =>
  cut.kind === "thread"
    ? `TAP_${cut.thread.replace(".", "_")}`
    : cut.kind === "knockout"
      ? "KNOCKOUT"
      : cut.kind === "countersunk" || (cut.kind === "round" && !cut.notch)
        ? "DRILL"
        : "MILL";

test.each<Seen>(["outside", "inside"])(
  "seen from %s: every cut is read back where it lies, on the layer of its operation",
  (seen) => {
    fc.assert(
      fc.property(fc.array(cuts, { minLength: 1, maxLength: 12 }), (list) => {
        const all = read(list, seen).filter((e) => !["SHEET", "NOTE", "SINK"].includes(e.layer));
        expect(all).toHaveLength(list.length);
        // Things stand in the file layer by layer: each cut is looked up where it must lie.
        for (const cut of list) {
          const wanted = frameWanted(seen === "outside" ? cut : mirrored(cut, FACE.w));
          const found = all.findIndex(
            (e) => e.layer === layerOf(cut) && frameRead(e).every((v, k) => Math.abs(v - wanted[k]!) < OFF_MM),
          );
          expect([cut, found >= 0]).toEqual([cut, true]);
          all.splice(found, 1);
        }
      }),
      { seed: 61, numRuns: runs(80) },
    );
  },
);

test("the sheet, which side it is seen from, and equal faces in equal bytes", () => {
  const list: Cut[] = [{ kind: "countersunk", x: 100, y: 50, d: 5, head: 10 }];
  const entities = read(list, "inside");
  expect(frameRead(entities.find((e) => e.layer === "SHEET")!)).toEqual([0, 0, 800, 600]);
  expect(entities.find((e) => e.layer === "NOTE")!.text).toBe("+A1/door, seen from inside");
  expect(entities.find((e) => e.layer === "SINK")).toMatchObject({ center: { x: 700, y: 50 }, radius: 5 });
  expect(faceDxf({ ...work(list), seen: "inside" })).toEqual(faceDxf({ ...work(list), seen: "inside" }));
  expect(new TextDecoder().decode(faceDxf({ ...work(list), seen: "inside" }))).toContain("AC1021");
});
