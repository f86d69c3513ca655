import { layOut } from "@gray-bench/core/panel/sheet";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { layoutOf } from "./useSheet";

const face = (enclosure: string, kind: string, w: number, h: number) => ({
  id: `${enclosure}/${kind}`,
  enclosure,
  kind,
  w,
  h,
});
const panel = {
  faces: [
    face("+A1", "plate", 700, 1900),
    face("+A1", "door", 800, 2000),
    face("+A1", "base", 800, 500),
    face("+A1", "rear", 800, 2000),
    face("+A2", "plate", 1100, 1900),
  ],
  devices: [{ face: "+A1/door" }, { face: "+A1/base" }],
  rails: [],
  ducts: [],
} as unknown as PanelResult;

test("faces lie beside each other without overlap; the door on its hinge side; unused faces are left out", () => {
  const sheet = layOut(panel, new Map([["+A1", "left"]]));
  expect(sheet.faces.map((f) => f.id)).toEqual(["+A1/plate", "+A1/door", "+A1/base", "+A2/plate"]);
  expect(sheet.faces[1]!.x).toBeLessThan(sheet.faces[0]!.x);
  for (const a of sheet.faces) {
    for (const b of sheet.faces) {
      if (a === b) continue;
      expect(a.x >= b.x + b.w || b.x >= a.x + a.w || a.y >= b.y + b.h || b.y >= a.y + a.h).toBe(true);
    }
  }
});

test("a point of a face is found again under its place on the sheet", () => {
  const layout = layoutOf(layOut(panel, new Map([["+A1", "left"]])));
  for (const id of layout.faces.keys()) {
    const p = layout.at(id, 123, 45);
    expect(layout.under(p.x, p.y)).toEqual({ face: id, x: 123, y: 45 });
  }
  expect(layout.under(-5, -5)).toBeNull();
});
