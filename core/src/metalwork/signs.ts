import type { Point } from "../design/geometry";
import type { FaceWork } from "./result";

/** A sign as lines in a square from -1 to 1, y up; closed ones end where they begin. */
type Sign = readonly (readonly [x: number, y: number][])[];

const ngon = (n: number, turn: number, r = 1): [number, number][] =>
  Array.from({ length: n + 1 }, (_, i) => {
    const a = turn + (2 * Math.PI * i) / n;
    return [r * Math.cos(a), r * Math.sin(a)];
  });
const UP = Math.PI / 2;
const flat = Math.PI / 4;

/** Told apart by their form alone, in black and white too. */
const SIGNS: readonly Sign[] = [
  [
    [
      [-1, 0],
      [1, 0],
    ],
    [
      [0, -1],
      [0, 1],
    ],
  ],
  [ngon(3, UP)],
  [ngon(4, flat, 1.2)],
  [
    [
      [-0.8, -0.8],
      [0.8, 0.8],
    ],
    [
      [-0.8, 0.8],
      [0.8, -0.8],
    ],
  ],
  [ngon(4, UP)],
  [ngon(3, -UP)],
  [
    [
      [-1, 0.4],
      [1, 0.4],
    ],
    [
      [-1, -0.4],
      [1, -0.4],
    ],
  ],
  [ngon(6, UP)],
  [
    ngon(4, UP),
    [
      [-1, 0],
      [1, 0],
    ],
  ],
  [
    ngon(3, UP),
    [
      [0, 1],
      [0, -0.5],
    ],
  ],
  [
    [
      [-1, -0.7],
      [0, 0.7],
      [1, -0.7],
    ],
  ],
  [
    ngon(4, flat, 1.2),
    [
      [-0.85, -0.85],
      [0.85, 0.85],
    ],
  ],
  [
    [
      [-0.4, -1],
      [-0.4, 1],
    ],
    [
      [0.4, -1],
      [0.4, 1],
    ],
  ],
  [ngon(5, UP)],
  [
    [
      [-1, 0.7],
      [0, -0.7],
      [1, 0.7],
    ],
  ],
  [
    ngon(6, UP),
    [
      [-0.9, 0],
      [0.9, 0],
    ],
  ],
];

/** The sign of the n-th tool of a sheet; beyond what there is they come again. */
export const signOf = (nth: number): Sign => SIGNS[nth % SIGNS.length]!;

/** Lines of a sign at a place, `size` to each side of it. `up`: 1 where y goes up, -1 where it goes down. */
export const signLines = (nth: number, { x, y }: Point, size: number, up: 1 | -1): Point[][] =>
  signOf(nth).map((line) => line.map(([dx, dy]) => ({ x: x + dx * size, y: y + up * dy * size })));

/** Tools of a face in the order in which they first come. */
export const toolsOf = ({ setUps }: Pick<FaceWork, "setUps">): string[] => [
  ...new Set(setUps.flatMap((s) => s.steps.map((step) => step.tool))),
];

/** The tool that finishes each hole, and its place among all operations, from one. */
export function finishing({
  setUps,
}: Pick<FaceWork, "setUps">): Map<number, { tool: string; order: number; setUp: number }> {
  const found = new Map<number, { tool: string; order: number; setUp: number }>();
  let order = 0;
  setUps.forEach(({ steps }, i) => {
    for (const { tool, operations } of steps)
      for (const { hole } of operations) found.set(hole, { tool, order: ++order, setUp: i + 1 });
  });
  return found;
}
