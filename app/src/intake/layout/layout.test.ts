import type { ArrivedDrawing } from "@gray-bench/contract/intake";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { DrawingSaid, ViewSaid } from "@gray-bench/core/drawings/said";
import {
  nextFace,
  tappedFrame,
  tappedView,
  widthsOf,
  withBar,
  withDrawing,
  withEnclosure,
  withoutView,
  withView,
} from "./layoutActs";

const SAID: DrawingSaid = { layers: { "0": "by shape" }, views: [], enclosures: [], bars: [] };
const plate: ViewSaid = { enclosure: "+A1", face: "plate", frame: { x: 10, y: 10, w: 60, h: 80 }, mm: 10 };
const door: ViewSaid = { ...plate, face: "door", frame: { x: 100, y: 10, w: 70, h: 90 } };

test("a face brings its enclosure, a plate what plates are made of; the last one takes it away again", () => {
  const one = withView(door)(SAID);
  expect(one.enclosures).toEqual([{ tag: "+A1", hinge: "left" }]);
  const two = withView(plate)(withEnclosure("+A1", { d: 300, hinge: "right" })(one));
  expect(two.enclosures).toEqual([{ thickness: 3, material: "galvanised steel", tag: "+A1", hinge: "right", d: 300 }]);
  expect(withEnclosure("+A1", { d: undefined })(two).enclosures[0]).not.toHaveProperty("d");
  expect([nextFace(SAID, "+A1"), nextFace(two, "+A1"), nextFace(two, "+A2")]).toEqual(["plate", "door", "plate"]);
  const back = withoutView(0)(two);
  expect([back.views.map((v) => v.face), back.enclosures.length]).toEqual([["plate"], 1]);
  expect(withoutView(0)(back).enclosures).toEqual([]);
});

test("parts of ducts by their width: written, written anew, left empty", () => {
  const said = withBar("rail", 35, "R")(withBar("duct", 60, " FW-D60 ")(SAID));
  expect(said.bars).toEqual([
    { kind: "duct", across: 60, part: "FW-D60" },
    { kind: "rail", across: 35, part: "R" },
  ]);
  expect(withBar("duct", 60, "")(said).bars).toEqual([{ kind: "rail", across: 35, part: "R" }]);
});

test("only the drawing that is meant changes, and is no longer as a kept matching says", () => {
  const drawing = (name: string) => ({ name, said: SAID, by: "Saltmere" }) as ArrivedDrawing;
  const next = withDrawing(
    2,
    withView(door),
  )({
    job: {} as never,
    tables: [],
    drawings: [drawing("a"), drawing("b")],
    attachments: [],
  });
  expect(next.drawings.map((d) => [d.by, d.said.views.length])).toEqual([
    ["Saltmere", 0],
    [null, 1],
  ]);
});

describe("a tap in the drawing", () => {
  const frame = (x: number, y: number, w: number, h: number, tags: number) => ({ box: { x, y, w, h }, tags });
  const look = {
    frames: [frame(0, 0, 200, 120, 9), frame(10, 10, 60, 80, 5), frame(20, 20, 10, 10, 1)],
    views: [
      {
        bars: [
          { kind: "duct", across: 60.2 },
          { kind: "duct", across: 59.9 },
          { kind: "rail", across: 35 },
        ],
      },
      { bars: [{ kind: "duct", across: 40 }] },
    ],
  } as unknown as DrawingLook;

  test("means the smallest frame with more than one tag; again the next larger one, at the end the first again", () => {
    expect(tappedFrame(look, 25, 25, 0)).toBe(2);
    expect([tappedFrame(look, 25, 25, 2), tappedFrame(look, 25, 25, 1), tappedFrame(look, 150, 100, 0)]).toEqual([
      1, 3, 1,
    ]);
    expect(tappedFrame(look, 500, 0, 0)).toBeNull();
  });

  test("in a face that is taken means that face", () => {
    const said = { ...SAID, views: [plate, door] };
    expect([tappedView(said, 20, 20), tappedView(said, 120, 50), tappedView(said, 90, 50)]).toEqual([1, 2, 0]);
  });

  test("ducts and rails are counted by whole millimetres, the most frequent first", () => {
    expect(widthsOf(look)).toEqual([
      { kind: "duct", across: 60, count: 2 },
      { kind: "rail", across: 35, count: 1 },
      { kind: "duct", across: 40, count: 1 },
    ]);
  });
});
