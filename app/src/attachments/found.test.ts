import type { Attachment, JobFound } from "@gray-bench/contract/attachments";
import type { Found } from "@gray-bench/core/attachments/places";
import { boxAt, byText, standingOf, thingsOn } from "./found";
import { drawnScale } from "./usePicture";

const box = (x: number, y: number, w = 20, h = 10) => ({ x, y, w, h });
const found = (kind: Found["kind"], of: string, x: number, text = of, by: Found["by"] = "tag"): Found => ({
  ...{ kind, of, by, text },
  box: box(x, 0),
});

test("a tap takes what lies under it, the smallest of several, else the nearest within half a thumb", () => {
  const boxes = [box(0, 0, 100, 100), box(10, 10), box(200, 0)];
  expect(boxAt(boxes, 15, 15, 1)).toBe(boxes[1]);
  expect(boxAt(boxes, 90, 90, 1)).toBe(boxes[0]);
  // 20 points before its edge: within 22 px where a point is one, not where it is two.
  expect(boxAt(boxes, 180, 5, 1)).toBe(boxes[2]);
  expect(boxAt(boxes, 180, 5, 2)).toBeNull();
});

test("each thing of a page stands in its list once, devices first, with all its places and how it is written", () => {
  const things = thingsOn({
    found: [
      found("wire", "4", 0, "24V", "net"),
      found("device", "-K1", 50, "=B1-K1", "short tag"),
      found("device", "-K1", 90),
    ],
  });
  expect(things.map((t) => [t.kind, t.of, t.boxes.length, byText(t)])).toEqual([
    ["device", "-K1", 2, "written =B1-K1, -K1"],
    ["wire", "4", 1, "net 24V"],
  ]);
  expect(byText({ by: "tag", texts: ["-K1"] })).toBe("");
});

test("where a thing stands is told by sheets, with the document where there are several, and why where it was not found", () => {
  const page = (sheet: string) => ({ sheet, w: 1, h: 1, things: 0, empty: false, trouble: null });
  const all: JobFound = {
    documents: [
      { id: "a", pages: [page("10"), page("11")] },
      { id: "b", pages: [page("")] },
    ],
    things: [
      {
        kind: "wire",
        of: "7",
        at: [
          { document: "a", page: 2, times: 0, by: "both ends" },
          { document: "b", page: 1, times: 1, by: "number" },
        ],
      },
    ],
    ...{ nowhere: [], strange: [], unclear: [] },
  };
  const attachments = [
    { id: "a", name: "one.pdf" },
    { id: "b", name: "two.pdf" },
  ] as Attachment[];
  expect(standingOf(all, attachments, "wire", "7").map((s) => `${s.name} ${s.sheet}${s.note}`)).toEqual([
    "one.pdf 11 (both its ends)",
    "two.pdf 1",
  ]);
  expect(standingOf(all, attachments, "device", "7")).toEqual([]);
});

test("a page is drawn in few sizes, and never larger than a phone can hold", () => {
  expect([0.3, 1, 1.4, 3, 9].map((k) => drawnScale(k, 595, 842))).toEqual([1, 1, 2, 4, 4]);
  // A3 at 4 would be 4,760 wide and 16 million pixels.
  expect(drawnScale(4, 1190, 842)).toBeCloseTo(Math.min(4096 / 1190, Math.sqrt(12e6 / (1190 * 842))), 6);
});
