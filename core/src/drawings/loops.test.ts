import fc from "fast-check";
import { closedLoops } from "./loops";
import { rectanglesOf } from "./rectangles";

const line = (...points: number[]): number[] => points;
/** Corners without their order and beginning. */
const corners = (points: readonly number[]): string =>
  points
    .flatMap((_, i) => (i % 2 === 0 ? [`${points[i]} ${points[i + 1]}`] : []))
    .sort()
    .join(", ");

describe("loops", () => {
  test("lines in any order and direction, ends a little apart, doubled", () => {
    const { closed, rest } = closedLoops(
      [
        line(0, 0, 4, 0),
        line(0, 3, 4, 3.01),
        line(4, 0, 4, 3),
        line(0, 0.01, 0, 3),
        line(4, 0, 0, 0),
        line(9, 9, 8, 8),
      ],
      0.05,
    );
    expect(closed).toHaveLength(1);
    expect(closed[0]).toHaveLength(8);
    expect(rest).toEqual([line(9, 9, 8, 8)]);
  });

  test("four that follow one another and close are one, also where others share their corners", () => {
    // As frames are broken up: one beside the other, the second shares two corners and half an edge with the first.
    const first = [line(0, 0, 4, 0), line(4, 3, 4, 0), line(4, 3, 0, 3), line(0, 3, 0, 0)];
    const second = [line(4, 0, 9, 0), line(9, 0, 9, 3), line(9, 3, 4, 3), line(4, 3, 4, 0)];
    const { closed, rest } = closedLoops([line(7, 7, 8, 8), ...first, ...second, line(0, 0, 1, 1)], 0.01);
    expect(closed.map(corners)).toEqual(["0 0, 0 3, 4 0, 4 3", "4 0, 4 3, 9 0, 9 3"]);
    expect(rest).toHaveLength(2);
    // There and back again is none, and neither are two that lie on one another.
    expect(closedLoops([line(0, 0, 4, 0), line(4, 0, 0, 0), line(0, 0, 4, 0), line(4, 0, 0, 0)], 0.01).closed).toEqual(
      [],
    );
  });

  test("one that others branch off from is none; two lines between the same ends are none", () => {
    const square = [line(0, 0, 4, 0), line(4, 0, 4, 4), line(4, 4, 9, 9), line(4, 4, 0, 4), line(0, 4, 0, 0)];
    expect(closedLoops(square, 0.01)).toMatchObject({ closed: [], rest: { length: 5 } });
    expect(closedLoops([line(0, 0, 4, 0), line(4, 0, 0, 0)], 0.01).closed).toEqual([]);
    // An arc and its chord enclose something.
    expect(closedLoops([line(0, 0, 4, 0), line(4, 0, 2, 2, 0, 0)], 0.01).closed.map(corners)).toEqual([
      "0 0, 2 2, 4 0",
    ]);
  });

  test("polygons come back from their sides, however they are shuffled", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 12 }), fc.integer(), (n, seed) => {
        const at = (i: number): number[] => [
          Math.round(1000 * Math.cos((i * 2 * Math.PI) / n)),
          Math.round(1000 * Math.sin((i * 2 * Math.PI) / n)),
        ];
        const sides = Array.from({ length: n }, (_, i) =>
          ((seed >> i) & 1) === 1 ? [...at(i), ...at(i + 1)] : [...at(i + 1), ...at(i)],
        );
        sides.sort((a, b) => ((a[0]! * 31 + a[1]! * 17 + seed) % 97) - ((b[0]! * 31 + b[1]! * 17 + seed) % 97));
        const { closed, rest } = closedLoops(sides, 0.5);
        expect([closed.map(corners), rest]).toEqual([[corners(Array.from({ length: n }, (_, i) => at(i)).flat())], []]);
      }),
    );
  });
});

describe("rectangles", () => {
  const found = (...strokes: number[][]) =>
    rectanglesOf(strokes, 0.01)
      .found.map(({ x, y, w, h }) => `${x} ${y} ${w} ${h}`)
      .sort();

  test("side by side with one line between them; together they are one too", () => {
    const strokes = [line(0, 0, 8, 0), line(0, 5, 8, 5), line(0, 0, 0, 5), line(4, 0, 4, 5), line(8, 0, 8, 5)];
    expect(found(...strokes)).toEqual(["0 0 4 5", "0 0 8 5", "4 0 4 5"]);
    expect(rectanglesOf([...strokes, line(1, 1, 2, 1)], 0.01).used).toEqual([true, true, true, true, true, false]);
  });

  test("of different heights against one another, sides in pieces", () => {
    expect(
      found(
        line(0, 0, 4, 0),
        line(4, 1, 8, 1),
        line(0, 0, 0, 9),
        line(4, 0, 4, 5),
        line(4, 5, 4, 9),
        line(8, 1, 8, 8),
        line(0, 9, 4, 9),
        line(4, 8, 8, 8),
      ),
    ).toEqual(["0 0 4 9", "4 1 4 7"]);
  });

  test("a side that is drawn only in part is none", () => {
    expect(found(line(0, 0, 4, 0), line(0, 0, 0, 5), line(4, 0, 4, 5), line(0, 5, 3, 5))).toEqual([]);
    expect(found(line(0, 0, 4, 0), line(0, 0, 0, 5), line(4, 0, 4, 4), line(0, 5, 4, 5))).toEqual([]);
  });

  test("the same as trying all corners of a grid", () => {
    let met = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.boolean(), fc.nat(3), fc.nat(3)), { minLength: 12, maxLength: 40 }),
        (pieces) => {
          // Pieces one long on a grid of four by four.
          const key = new Set(pieces.map(([up, x, y]) => `${up} ${x} ${y}`));
          const strokes = pieces.map(([up, x, y]) => (up ? line(x, y, x, y + 1) : line(x, y, x + 1, y)));
          const want: string[] = [];
          for (let x = 0; x < 4; x++)
            for (let y = 0; y < 4; y++)
              for (let w = 1; x + w <= 4; w++)
                for (let h = 1; y + h <= 4; h++) {
                  const across = [...Array(w).keys()].every(
                    (i) => key.has(`false ${x + i} ${y}`) && key.has(`false ${x + i} ${y + h}`),
                  );
                  const up = [...Array(h).keys()].every(
                    (i) => key.has(`true ${x} ${y + i}`) && key.has(`true ${x + w} ${y + i}`),
                  );
                  if (across && up) want.push(`${x} ${y} ${w} ${h}`);
                }
          if (want.length > 0) met++;
          expect(found(...strokes)).toEqual(want.sort());
        },
      ),
      { numRuns: 400 },
    );
    expect(met).toBeGreaterThan(10);
  });
});
