import { controlBoxes, mapSize, wantsMap } from "./controls";
import { cameBackTo, leaveAt } from "./place";
import { barLength } from "./ScaleBar";
import { seenPart, textPlace } from "./textPlace";
import { fitTo } from "./useZoom";

test("fitting brings the middle of the box to the middle of the view", () => {
  const box = { x: 100, y: 200, w: 1000, h: 500 };
  const { k, x, y } = fitTo(box, 390, 600);
  expect([600 * k + x, 450 * k + y]).toEqual([195, 300]);
  expect(box.w * k).toBeLessThanOrEqual(390);
});

test("the scale bar is the longest round length that fits", () => {
  expect([barLength(1, [1, 10, 100, 200]), barLength(0.5, [1, 10, 100, 200]), barLength(500, [1, 10])]).toEqual([
    100, 200, 1,
  ]);
});

describe("text keeps to its thing", () => {
  const box = { x: 100, y: 100, w: 200, h: 40 };
  const at = (k: number, left: number, top: number, w = 400, h = 300) => ({
    view: { k, x: -left * k, y: -top * k },
    seen: { x: left, y: top, w: w / k, h: h / k },
  });
  const place = (v: ReturnType<typeof at>, width = 60, of = box) => textPlace(of, v.seen, v.view, width, 11);

  test("in the middle of a thing that is seen whole", () => {
    expect(place(at(1, 50, 50))).toEqual({ x: 150, y: 70, upright: false });
  });

  test("in the middle of what is seen of one that is larger than the view, at every zoom", () => {
    for (const k of [2, 5, 20, 100]) {
      const v = at(k, 290 - 400 / k / 2, 110);
      const p = place(v)!;
      expect([p.x >= 0 && p.x <= 400, p.y >= 0 && p.y <= 300]).toEqual([true, true]);
      // On the thing itself.
      const [x, y] = [(p.x - v.view.x) / k, (p.y - v.view.y) / k];
      expect([x > box.x && x < box.x + box.w, y > box.y && y < box.y + box.h]).toEqual([true, true]);
    }
  });

  test("reads from below on a tall narrow thing, is left out where there is no room", () => {
    expect(place(at(1, 0, 0), 60, { x: 10, y: 10, w: 20, h: 100 })).toEqual({ x: 20, y: 60, upright: true });
    expect(place(at(1, 0, 0), 60, { x: 10, y: 10, w: 20, h: 50 })).toBeNull();
    expect(place(at(0.1, 0, 0))).toBeNull();
  });

  test("where only an edge is seen it stays in the middle of the thing, out of sight", () => {
    expect(place(at(1, 290, 50))).toEqual({ x: -90, y: 70, upright: false });
    expect(seenPart(box, { x: 300, y: 0, w: 10, h: 500 })).toBeNull();
    expect(seenPart(box, { x: 250, y: 120, w: 100, h: 100 })).toEqual({ x: 250, y: 120, w: 50, h: 20 });
  });
});

describe("what lies over a drawing", () => {
  const sheet = { x: -100, y: 0, w: 1000, h: 500 };
  const view = { k: 2, x: 10, y: 20 };
  /** 390 × 600 px at 2 px a millimetre. */
  const seen = { x: -5, y: -10, w: 195, h: 300 };

  test("three buttons at the right, the scale bar below, the map only where one is", () => {
    const plain = controlBoxes(seen, view, 1);
    expect(plain).toEqual([
      { x: 390 - 60, y: 0, w: 60, h: 3 * 52 + 8 },
      { x: 0, y: 600 - 46, w: 152, h: 46 },
    ]);
    // Text at twice its size needs a higher bar; buttons are for fingers.
    expect(controlBoxes(seen, view, 2)[1]!.h).toBe(76);
    // 104 × 52 px and 8 px around.
    expect(controlBoxes(seen, view, 1, sheet)).toEqual([{ x: 390 - 120, y: 600 - 68, w: 120, h: 68 }, ...plain]);
  });

  test("the map is there when little of the sheet is seen, its longer side always as long", () => {
    expect(mapSize(sheet)).toEqual({ w: 104, h: 52, k: 0.104 });
    expect(mapSize({ ...sheet, w: 250 })).toMatchObject({ w: 52, h: 104 });
    expect([200, 555, 556, 2000].map((w) => wantsMap(sheet, { ...seen, w, h: 500 }))).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(wantsMap(sheet, { ...seen, w: 1000, h: 100 })).toBe(true);
  });

  test("whoever goes back to an address finds its drawing as it was left, in a window of the same size", () => {
    window.history.replaceState(null, "", "/jobs/J/panel?device=-K1");
    leaveAt("faces", { view, w: 390, h: 600 });
    expect(cameBackTo("faces", 390, 600)).toBe(null);
    window.dispatchEvent(new PopStateEvent("popstate"));
    expect(cameBackTo("faces", 390, 600)).toEqual(view);
    expect(cameBackTo("faces", 600, 390)).toBe(null);
    expect(cameBackTo("others", 390, 600)).toBe(null);
    window.history.replaceState(null, "", "/jobs/J/panel");
    expect(cameBackTo("faces", 390, 600)).toBe(null);
  });
});
