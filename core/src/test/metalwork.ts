import fc from "fast-check";
import type { Material, Seen } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { workOf } from "../metalwork/compute";
import { basisOf, machineOf } from "../metalwork/on-machine";
import { merged } from "../metalwork/holes";
import type { PlanBasis } from "../metalwork/times";
import type { Cut, Drilled, FaceWork } from "../metalwork/result";

/** Faces and cuts for tests of metalwork. */

export const METALWORK = SHOP_RULES.metalwork;

export const faceWith = (cuts: readonly Cut[], more: Partial<Drilled> = {}): Drilled => ({
  face: "+A1/plate",
  enclosure: "+A1",
  kind: "plate",
  w: 1000,
  h: 800,
  thicknessMm: 2,
  material: "galvanised steel" as Material,
  seen: "outside" as Seen,
  notDrilled: [],
  ...more,
  holes: cuts.map((cut, i) => ({ number: i + 1, cut, from: [{ thing: "face", of: "+A1/plate", nth: i + 1 }] })),
});

export const onMachine = (drilled: Drilled, machine = "Tallow 3", rules = METALWORK): FaceWork =>
  workOf(drilled, machine, rules);

export const planBasis = (
  drilled: Drilled & Partial<Pick<FaceWork, "turn">>,
  machine = "Tallow 3",
  rules = METALWORK,
): PlanBasis => basisOf(drilled, machineOf(machine, rules)!, rules);

const quarter = (min: number, max: number) => fc.integer({ min: min * 4, max: max * 4 }).map((n) => n / 4);

/** Cuts that the shop as shipped has tools for, somewhere on a sheet, 20 mm and more from its edge. */
export const anyCut = (w: number, h: number): fc.Arbitrary<Cut> => {
  const x = quarter(90, w - 90);
  const y = quarter(90, h - 90);
  return fc.oneof(
    fc.record({ kind: fc.constant("round" as const), x, y, d: fc.constantFrom(4.2, 5, 6.6, 7, 16.2, 22.3, 80, 140) }),
    fc
      .record({
        x,
        y,
        size: fc.constantFrom([22.3, 24.1, 3.2], [30.5, 33, 4.8]),
        angle: fc.constantFrom(0, 90, 180, 270),
      })
      .map(({ x: cx, y: cy, size, angle }): Cut => ({
        kind: "round",
        x: cx,
        y: cy,
        d: size[0]!,
        notch: { to: size[1]!, w: size[2]!, angle },
      })),
    fc
      .record({ x, y, thread: fc.constantFrom<[string, number]>(["M4", 3.3], ["M5", 4.2], ["M6", 5], ["M8", 6.8]) })
      .map(({ x: cx, y: cy, thread }): Cut => ({ kind: "thread", x: cx, y: cy, d: thread[1], thread: thread[0] })),
    fc.record({ kind: fc.constant("countersunk" as const), x, y, d: fc.constant(5.5), head: fc.constantFrom(10, 12) }),
    fc
      .record({ x, y, w: quarter(4, 160), h: quarter(4, 160), r: fc.constantFrom(0, 0, 1.5, 2, 4) })
      .map(({ x: cx, y: cy, w: cw, h: ch, r }): Cut => ({
        kind: "rect",
        x: cx - cw / 2,
        y: cy - ch / 2,
        w: cw,
        h: ch,
        r: Math.min(r, cw / 2, ch / 2),
      })),
    fc.record({
      kind: fc.constant("slot" as const),
      x,
      y,
      w: quarter(4, 160),
      h: quarter(4, 160),
      angle: fc.constantFrom(0, 90, 30),
    }),
    // Two legs of an L, with one corner that points inward.
    fc
      .record({ x, y, w: quarter(40, 80), h: quarter(40, 80), share: quarter(1, 3), mirrored: fc.boolean() })
      .map(({ x: cx, y: cy, w: cw, h: ch, share, mirrored }): Cut => {
        const [a, b] = [cw * (share / 4), ch * (share / 4)];
        const points = [
          { x: cx, y: cy },
          { x: cx + cw, y: cy },
          { x: cx + cw, y: cy + b },
          { x: cx + a, y: cy + b },
          { x: cx + a, y: cy + ch },
          { x: cx, y: cy + ch },
        ];
        return { kind: "polygon", points: mirrored ? points.reverse() : points };
      }),
    fc.record({ kind: fc.constant("mark" as const), x, y, d: fc.constant(1) }),
    fc.record({ kind: fc.constant("knockout" as const), x, y, d: fc.constantFrom(20.5, 25.5) }),
  );
};

/** A face with cuts, lying either way, of sizes that the machines reach at once or not. */
export const anyFace = (most = 25): fc.Arbitrary<Drilled> =>
  fc
    .record({
      w: fc.integer({ min: 300, max: 2800 }),
      h: fc.integer({ min: 300, max: 2800 }),
      thicknessMm: fc.constantFrom(1.25, 1.5, 2, 3),
      seen: fc.constantFrom<Seen>("outside", "inside"),
    })
    .chain((sheet) =>
      fc.array(anyCut(sheet.w, sheet.h), { minLength: 1, maxLength: most }).map((cuts) => ({
        ...faceWith(cuts, sheet),
        holes: merged(cuts.map((cut, i) => ({ cut, from: { thing: "face" as const, of: "+A1/plate", nth: i + 1 } }))),
      })),
    );
