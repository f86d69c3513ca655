import { partOutline, takeOutline } from "./part-outline";
import { readDrawing } from "./read";

const pair = (code: number, value: string | number): string => `${code}\n${value}\n`;
const line = (x1: number, y1: number, x2: number, y2: number): string =>
  pair(0, "LINE") + pair(8, "0") + pair(10, x1) + pair(20, y1) + pair(11, x2) + pair(21, y2);
const circle = (x: number, y: number, r: number): string =>
  pair(0, "CIRCLE") + pair(8, "0") + pair(10, x) + pair(20, y) + pair(40, r);
const rect = (x: number, y: number, w: number, h: number): string =>
  line(x, y, x + w, y) + line(x + w, y, x + w, y + h) + line(x + w, y + h, x, y + h) + line(x, y + h, x, y);
const outline = (entities: string, units?: number) => {
  const header =
    units === undefined
      ? ""
      : pair(0, "SECTION") + pair(2, "HEADER") + pair(9, "$INSUNITS") + pair(70, units) + pair(0, "ENDSEC");
  const text = `${header}${pair(0, "SECTION")}${pair(2, "ENTITIES")}${entities}${pair(0, "ENDSEC")}${pair(0, "EOF")}`;
  const read = readDrawing(new TextEncoder().encode(text));
  if (!read.ok) throw new Error(read.found);
  return partOutline(read.drawing);
};

test("the largest closed outline is the body; circles by their diameter from its corner, threads once, others far away not", () => {
  const got = outline(
    rect(100, 200, 4, 3) +
      rect(101, 201, 1, 0.5) +
      circle(100.5, 200.5, 0.1) +
      circle(103.5, 202.5, 0.1) +
      circle(103.5, 202.5, 0.15) +
      circle(99.75, 201.5, 0.08) +
      circle(120, 200, 0.1),
    1,
  );
  expect([got.unitMm, got.bodies]).toEqual([
    25.4,
    [
      { x: 100, y: 200, w: 4, h: 3 },
      { x: 101, y: 201, w: 1, h: 0.5 },
    ],
  ]);
  expect(takeOutline(got, 0, 25.4)).toEqual({
    w: 101.6,
    h: 76.2,
    holes: [
      { d: 4.06, at: [{ x: -6.35, y: 38.1 }] },
      {
        d: 5.08,
        at: [
          { x: 12.7, y: 12.7 },
          { x: 88.9, y: 63.5 },
        ],
      },
    ],
  });
  expect(takeOutline(got, 1, 1)).toMatchObject({ w: 1, h: 0.5 });
});

test("of what closes nowhere the box around all is told; a double line once; a drawing of nothing offers nothing", () => {
  const open = outline(line(10, 10, 50, 10) + line(50, 12, 50, 90));
  expect([open.unitMm, open.bodies]).toEqual([null, [{ x: 10, y: 10, w: 40, h: 80 }]]);
  expect(outline(rect(0, 0, 100, 50) + rect(0.2, 0.2, 99.6, 49.6)).bodies).toHaveLength(1);
  expect(outline(circle(5, 5, 2)).bodies).toEqual([{ x: 3, y: 3, w: 4, h: 4 }]);
  expect(outline("").bodies).toEqual([]);
});
