import fc from "fast-check";
import { CORNERS, type Clamped, type Machine } from "./rules";
import type { Turn } from "../design/model";
import { ALL_DRAWN, runs } from "../test/runs";
import { bestLie, type Lie, lieOf, placedFrame, wayMeets, windowsOf } from "./lies";

const machines: fc.Arbitrary<Machine> = fc.record({
  name: fc.constant("M"),
  w: fc.integer({ min: 400, max: 3000 }),
  h: fc.integer({ min: 400, max: 3000 }),
  corner: fc.constantFrom(...CORNERS),
  x: fc.constantFrom<"right" | "left">("right", "left"),
  y: fc.constantFrom<"up" | "down">("up", "down"),
  rapid: fc.constant(10_000),
  changeS: fc.constant(10),
});
const sheets = fc.record({
  w: fc.integer({ min: 100, max: 4000 }),
  h: fc.integer({ min: 100, max: 4000 }),
  seen: fc.constantFrom<"outside" | "inside">("outside", "inside"),
});
const turns = fc.constantFrom<Turn>(0, 90, 180, 270);
const point = fc.record({ x: fc.integer({ min: 0, max: 4000 }), y: fc.integer({ min: 0, max: 4000 }) });

test("worked by hand: turned to fit, datum at the upper right, axes to the left and down", () => {
  const machine: Machine = {
    name: "M",
    w: 2000,
    h: 1000,
    corner: "upper right",
    x: "left",
    y: "down",
    rapid: 1,
    changeS: 0,
  };
  const lie = bestLie({ w: 800, h: 1900, seen: "outside" }, [{ x: 10, y: 10, w: 5, h: 5 }], machine, [], 5);
  expect([lie.turn, lie.size, lie.mirrored]).toEqual([90, { x: 1900, y: 800 }, false]);
  // Turned counter-clockwise the face's lower left corner lies lower right: 800 below the datum.
  expect(lie.place({ x: 0, y: 0 })).toEqual({ x: 0, y: 800 });
  expect(lie.place({ x: 100, y: 0 })).toEqual({ x: 0, y: 700 });
  expect(lie.place({ x: 100, y: 300 })).toEqual({ x: 300, y: 700 });
  expect(lieOf({ w: 800, h: 1900, seen: "inside" }, machine, [], 90).mirrored).toBe(true);
});

test("lengths and angles are kept; what it is mirrored is what it says", () => {
  fc.assert(
    fc.property(machines, sheets, turns, point, point, point, (machine, sheet, turn, a, b, c) => {
      const lie = lieOf(sheet, machine, [], turn);
      const [p, q, r] = [a, b, c].map((s) => lie.place(s)) as [typeof a, typeof a, typeof a];
      expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeCloseTo(Math.hypot(a.x - b.x, a.y - b.y), 6);
      const bend = (u: typeof a, v: typeof a, w: typeof a) => (v.x - u.x) * (w.y - u.y) - (v.y - u.y) * (w.x - u.x);
      expect(bend(p, q, r)).toBeCloseTo(bend(a, b, c) * (lie.mirrored ? -1 : 1), 4);
      // The sheet lies from the datum along its ways: one of its corners is the datum itself.
      const corners = [
        [0, 0],
        [sheet.w, 0],
        [sheet.w, sheet.h],
        [0, sheet.h],
      ].map(([x, y]) => lie.place({ x: x!, y: y! }));
      expect(corners.some((k) => Math.abs(k.x) < 1e-9 && Math.abs(k.y) < 1e-9)).toBe(true);
      for (const k of corners) {
        expect(k.x * lie.way.x).toBeGreaterThanOrEqual(-1e-9);
        expect(k.y * lie.way.y).toBeGreaterThanOrEqual(-1e-9);
      }
    }),
    { seed: 81, numRuns: runs(200) },
  );
});

describe("set-ups", () => {
  const frames = (w: number, h: number) =>
    fc.array(
      fc
        .record({
          x: fc.integer({ min: 0, max: w }),
          y: fc.integer({ min: 0, max: h }),
          w: fc.integer({ min: 1, max: 600 }),
          h: fc.integer({ min: 1, max: 600 }),
        })
        .map((f) => ({ x: Math.min(f.x, w - 1), y: Math.min(f.y, h - 1), w: f.w, h: f.h })),
      { minLength: 1, maxLength: 12 },
    );

  test("each thing is made once, within the area, or it is too large for it", () => {
    fc.assert(
      fc.property(
        machines,
        sheets.chain((s) => frames(s.w, s.h).map((list) => ({ s, list }))),
        turns,
        (machine, { s, list }, turn) => {
          const lie = lieOf(s, machine, [], turn);
          const placed = list.map((f) => placedFrame(lie, f));
          const { windows, off } = windowsOf(lie, placed);
          expect([...windows.flatMap((w) => w.items), ...off].sort((a, b) => a - b)).toEqual(list.map((_, i) => i));
          for (const i of off) expect(placed[i]!.w > machine.w || placed[i]!.h > machine.h).toBe(true);
          for (const { shift, items } of windows)
            for (const i of items) {
              const f = placed[i]!;
              const along = (from: number, size: number, way: 1 | -1): [number, number] =>
                way > 0 ? [from, from + size] : [-from - size, -from];
              const [u0, u1] = along(f.x - shift.x, f.w, lie.way.x);
              const [v0, v1] = along(f.y - shift.y, f.h, lie.way.y);
              expect([u0 >= -1e-6, u1 <= machine.w + 1e-6, v0 >= -1e-6, v1 <= machine.h + 1e-6]).toEqual(
                Array(4).fill(true),
              );
            }
        },
      ),
      { seed: 82, numRuns: runs(150) },
    );
  });

  test("along one axis no fewer would do: against all ways to part them", () => {
    const machine: Machine = {
      name: "M",
      w: 100,
      h: 1000,
      corner: "lower left",
      x: "right",
      y: "up",
      rapid: 1,
      changeS: 0,
    };
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 6 }), (places) => {
        const lie = lieOf({ w: 1000, h: 200, seen: "outside" }, machine, [], 0);
        // Steps of five, as sheets are moved.
        const list = places.map((p) => ({ x: p * 5, y: 10, w: 20, h: 20 }));
        const { windows } = windowsOf(lie, list);
        const groups = (left: number[], parts: number[][]): number => {
          if (left.length === 0)
            return parts.every((g) => Math.max(...g) + 20 - Math.min(...g) <= 100) ? parts.length : Infinity;
          const [first, ...rest] = left as [number, ...number[]];
          return Math.min(
            ...parts.map((_, i) =>
              groups(
                rest,
                parts.map((g, k) => (k === i ? [...g, first] : g)),
              ),
            ),
            groups(rest, [...parts, [first]]),
          );
        };
        const best = groups(
          list.map((f) => f.x),
          [],
        );
        expect(windows).toHaveLength(best);
        // Each as near to the datum as what it holds lets it: five less would not reach its last.
        for (const { shift, items } of windows)
          expect(shift.x === 0 || Math.max(...items.map((i) => list[i]!.x)) + 20 > shift.x - 5 + 100).toBe(true);
      }),
      { seed: 83, numRuns: runs(150) },
    );
  });

  test("what lies beyond the sheet, on the side of the datum, ends too", () => {
    const machine: Machine = {
      name: "M",
      w: 500,
      h: 500,
      corner: "lower left",
      x: "right",
      y: "up",
      rapid: 1,
      changeS: 0,
    };
    const lie = lieOf({ w: 400, h: 400, seen: "outside" }, machine, [], 0);
    const { windows } = windowsOf(lie, [
      { x: -180, y: 40, w: 20, h: 20 },
      { x: 390, y: 40, w: 20, h: 20 },
    ]);
    expect(windows.map((w) => w.shift)).toEqual([
      { x: -180, y: 0 },
      { x: 0, y: 0 },
    ]);
  });
});

describe("how a sheet lies", () => {
  const machine: Machine = {
    name: "M",
    w: 1300,
    h: 2500,
    corner: "lower left",
    x: "right",
    y: "up",
    rapid: 1,
    changeS: 0,
  };
  const lay = (sheet: { w: number; h: number }, holes: readonly { x: number; y: number }[], clamps: Clamped[] = []) =>
    bestLie(
      { ...sheet, seen: "outside" },
      holes.map((p) => ({ x: p.x - 5, y: p.y - 5, w: 10, h: 10 })),
      machine,
      clamps,
      5,
    );
  const moved = (lie: Lie, holes: readonly { x: number; y: number }[]) =>
    windowsOf(
      lie,
      holes.map((p) => placedFrame(lie, { x: p.x - 5, y: p.y - 5, w: 10, h: 10 })),
    ).windows.map((w) => w.shift);

  test("a sheet too long is laid so that what is made in it is reached without moving it: end for end", () => {
    const sheet = { w: 1300, h: 3000 };
    const upper = [{ x: 600, y: 2900 }];
    expect(lay(sheet, [{ x: 600, y: 100 }]).turn).toBe(0);
    // As drawn it would be moved by 405 mm: 2905 less 2500.
    expect(moved(lieOf({ ...sheet, seen: "outside" }, machine, [], 0), upper)).toEqual([{ x: 0, y: 405 }]);
    const lie = lay(sheet, upper);
    expect([lie.turn, lie.place(upper[0]!), moved(lie, upper)]).toEqual([180, { x: 700, y: 100 }, [{ x: 0, y: 0 }]]);
  });

  test("a hole under a clamp comes clear of it where the sheet is laid otherwise", () => {
    const clamp: Clamped = { machine: "M", x: 400, y: -40, w: 60, h: 44, highMm: 25 };
    expect(lay({ w: 1000, h: 800 }, [{ x: 430, y: 9 }], [clamp]).turn).toBe(180);
  });

  test("no lie makes fewer places than the one that is taken", () => {
    let moves = 0;
    fc.assert(
      fc.property(sheets, fc.array(point, { minLength: 1, maxLength: 6 }), (sheet, at) => {
        const holes = at.map((p) => ({ x: 10 + (p.x % (sheet.w - 20)), y: 10 + (p.y % (sheet.h - 20)) }));
        const counts = ([0, 90, 180, 270] as const).map(
          (turn) => moved(lieOf({ ...sheet, seen: "outside" }, machine, [], turn), holes).length,
        );
        const taken = moved(lay(sheet, holes), holes).length;
        if (Math.max(...counts) > taken) moves++;
        expect(taken).toBe(Math.min(...counts));
      }),
      { seed: 85, numRuns: runs(120) },
    );
    if (ALL_DRAWN) expect(moves).toBeGreaterThan(5);
  });
});

test("a way meets a rectangle where one of its points lies in it", () => {
  fc.assert(
    fc.property(
      point,
      point,
      point,
      fc.integer({ min: 1, max: 900 }),
      fc.integer({ min: 0, max: 50 }),
      (a, b, r, size, by) => {
        const rect = { ...r, w: size, h: size / 2 };
        const inside = Array.from({ length: 400 }, (_, i) => ({
          x: a.x + ((b.x - a.x) * i) / 399,
          y: a.y + ((b.y - a.y) * i) / 399,
        })).some(
          (p) =>
            p.x > rect.x - by + 1e-6 &&
            p.x < rect.x + rect.w + by - 1e-6 &&
            p.y > rect.y - by + 1e-6 &&
            p.y < rect.y + rect.h + by - 1e-6,
        );
        if (inside) expect(wayMeets(a, b, rect, by)).toBe(true);
        // Where it says so, a point of the way lies within half a step of the rectangle.
        if (wayMeets(a, b, rect, by)) {
          const half = Math.hypot(a.x - b.x, a.y - b.y) / 399 / 2 + 1e-6;
          const off = Array.from({ length: 400 }, (_, i) => ({
            x: a.x + ((b.x - a.x) * i) / 399,
            y: a.y + ((b.y - a.y) * i) / 399,
          })).map((p) =>
            Math.max(rect.x - by - p.x, p.x - rect.x - rect.w - by, rect.y - by - p.y, p.y - rect.y - rect.h - by),
          );
          expect(Math.min(...off)).toBeLessThanOrEqual(half);
        }
      },
    ),
    { seed: 84, numRuns: runs(300) },
  );
  expect(wayMeets({ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 20, y: -5, w: 10, h: 10 }, 0)).toBe(false);
  expect(wayMeets({ x: 0, y: 0 }, { x: 40, y: 0 }, { x: 20, y: -5, w: 10, h: 10 }, 0)).toBe(true);
});
