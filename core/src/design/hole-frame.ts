import type { Rect } from "./geometry";
import type { Hole } from "./model";

/** The frame round a hole of a face or a pattern, as it stands there, unturned. A thread counts by its name: `M20` is 20 mm. */
export function frameOfHole(hole: Hole): Rect {
  const round = (x: number, y: number, d: number): Rect => ({ x: x - d / 2, y: y - d / 2, w: d, h: d });
  switch (hole.kind) {
    case "round":
      return round(hole.x, hole.y, Math.max(hole.d, hole.notch ? 2 * hole.notch.to - hole.d : 0));
    case "thread":
      return round(hole.x, hole.y, Number(/\d+(\.\d+)?/.exec(hole.thread)?.[0] ?? 0));
    case "countersunk":
      return round(hole.x, hole.y, Math.max(hole.d, hole.head));
    case "knockout":
      return round(hole.x, hole.y, hole.d);
    case "rect":
      return { x: hole.x, y: hole.y, w: hole.w, h: hole.h };
    case "slot": {
      // Turned about its middle: as wide and as high as it is long, which is on the safe side.
      const square = (hole.angle ?? 0) % 180 === 0;
      const long = Math.max(hole.w, hole.h);
      const middle = { x: hole.x + hole.w / 2, y: hole.y + hole.h / 2 };
      return square ? { x: hole.x, y: hole.y, w: hole.w, h: hole.h } : round(middle.x, middle.y, long);
    }
    case "polygon": {
      const [xs, ys] = [hole.points.map((p) => p.x), hole.points.map((p) => p.y)];
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      return { x, y, w: Math.max(...xs) - x, h: Math.max(...ys) - y };
    }
  }
}
