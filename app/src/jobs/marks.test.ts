import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { layoutOf } from "../sheet/useSheet";
import { marksOf } from "./marks";

const point = (thing: string, of: string, severity = "check", accepted = false): OpenPoint =>
  ({ thing, of, severity, text: `${of} is open`, ...(accepted ? { accepted: {} } : {}) }) as unknown as OpenPoint;

/** A plate of 400 × 600 mm with two devices side by side, one far above, and a duct. */
const PANEL = {
  faces: [{ id: "+A1/plate", enclosure: "+A1", kind: "plate", w: 400, h: 600 }],
  devices: [
    { tag: "-K1", face: "+A1/plate", outline: { x: 0, y: 0, w: 20, h: 20 } },
    { tag: "-K2", face: "+A1/plate", outline: { x: 20, y: 0, w: 20, h: 20 } },
    { tag: "-K3", face: "+A1/plate", outline: { x: 0, y: 500, w: 40, h: 100 } },
    { tag: "-Z9", face: "+B1/plate", outline: { x: 0, y: 0, w: 10, h: 10 } },
  ],
  rails: [],
  ducts: [{ tag: "W1", face: "+A1/plate", outline: { x: 0, y: 200, w: 400, h: 60 } }],
} as unknown as PanelResult;
const LAYOUT = layoutOf({
  w: 400,
  h: 600,
  faces: [{ id: "+A1/plate", enclosure: "+A1", kind: "plate", x: 0, y: 0, w: 400, h: 600 }],
} as unknown as Parameters<typeof layoutOf>[0]);

test("points near each other are one mark of the worst of them, those far apart have each their own", () => {
  const points = [
    point("device", "-K1", "note"),
    point("device", "-K2", "stop"),
    point("device", "-K3"),
    point("duct", "W1", "note"),
  ];
  const marks = marksOf(points, PANEL, LAYOUT, 0.5, 26);
  // The sheet is drawn from 60 mm above its upper edge: -K1 lies with its middle 10 mm up, so 650 mm down, 325 px; row 12.
  expect(marks).toEqual([
    { x: 13, y: 12.5 * 26, severity: "stop", points: [points[0], points[1]] },
    // 600 + 60 − 550 mm are 55 px.
    { x: 13, y: 2.5 * 26, severity: "check", points: [points[2]] },
    // In the middle of the duct: 200 mm and 600 + 60 − 230 mm.
    { x: 3.5 * 26, y: 8.5 * 26, severity: "note", points: [points[3]] },
  ]);
});

test("what was let stand, has no place, or stands on a face that is not drawn is not marked", () => {
  const points = [point("device", "-K1", "stop", true), point("wire", "7", "stop"), point("device", "-Z9", "stop")];
  expect(marksOf(points, PANEL, LAYOUT, 0.5, 26)).toEqual([]);
  expect(marksOf([point("face", "+A1/plate")], PANEL, LAYOUT, 0.5, 26)).toHaveLength(1);
});
