import fc from "fast-check";
import type { LibraryPart } from "./library";
import type { Hole } from "../design/model";
import { openingAt, tapOpening, withOpening } from "./part-air";
import { asKind, HOLE_KINDS, holeRow, holesOf, middleOf, movedTo, tapHole, tapSlot, withMirrored } from "./part-holes";
import { exitAt, freePin, mirrored, nextName, pinsOf, row, snap, tapPin } from "./part-shape";
import { FORM } from "../design/schema";

const pin = (name: string, x: number, y: number) => ({ name, x, y, z: 40 });
const PART = { number: "K", w: 45, h: 90, d: 70, pins: [pin("A1", 10, 85), pin("A2", 35, 5)] };

test("a tap is drawn to edges, middles and pins in line, the nearest of them, and never beyond the body", () => {
  expect(snap(PART, 22, 89, 2)).toEqual({ x: 22.5, y: 90, on: ["middle", "upper edge"] });
  expect(snap(PART, 11, 60.2, 2)).toEqual({ x: 10, y: 60, on: ["pin A1"] });
  expect(snap(PART, -7, 4.4, 2)).toEqual({ x: 0, y: 5, on: ["left edge", "pin A2"] });
  expect(snap(PART, 15.3, 70.1, 2)).toEqual({ x: 15.5, y: 70, on: [] });
  expect(snap({ number: "N" }, 5, 5, 2)).toMatchObject({ x: 0, y: 0 });
});

test("a tap sets a new pin, clamped as the one before it, or gives the chosen one its place", () => {
  const first = tapPin({ number: "K", w: 45, h: 90, d: 70 }, undefined, 22, 89, 2);
  expect(first).toMatchObject({
    name: "1",
    like: null,
    part: { pins: [{ name: "1", x: 22.5, y: 90, z: 35, exit: "up" }] },
  });
  const clamped = {
    ...PART,
    pins: [...PART.pins, { ...pin("A3", 20, 85), z: 50, clamp: "screw" as const, channel: "c1" }],
  };
  const next = tapPin(clamped, "A3", 5, 40, 0.1);
  expect([next.name, next.like, next.part.pins!.at(-1)]).toEqual([
    "A4",
    "A3",
    { name: "A4", x: 5, y: 40, z: 50, clamp: "screw", exit: "left" },
  ]);
  const bare = { ...PART, pins: [{ name: "N", clamp: "spring" as const }, ...PART.pins] };
  const placed = tapPin(bare, "N", 40, 3, 0.1);
  expect([placed.name, placed.like, placed.part.pins!.length, placed.part.pins![0]]).toEqual([
    "N",
    null,
    3,
    { name: "N", clamp: "spring", x: 40, y: 3, z: 40, exit: "down" },
  ]);
});

test("an opening for air goes by its middle, stays on the body, and is as large as the other one", () => {
  const unit: LibraryPart = { number: "C", w: 400, h: 900, d: 200, climate: { kind: "cooling unit" } };
  expect(tapOpening(PART, undefined, 5, 5, 1)).toBeNull();
  // Six tenths and fifteen hundredths of 400 × 900; 202 is drawn to the middle, and 880 would leave the body by 47.5.
  const first = tapOpening(unit, undefined, 202, 880, 3)!;
  expect(first.which).toBe("blows");
  expect(first.part.climate).toEqual({ kind: "cooling unit", blows: { x: 80, y: 765, w: 240, h: 135 } });
  expect(first.at).toEqual({ x: 200, y: 832.5, on: ["middle"] });
  const small = withOpening(first.part, "blows", { x: 60, y: 700, w: 100, h: 40 });
  const second = tapOpening(small, undefined, 111, 300, 3)!;
  expect([second.which, second.part.climate!.draws]).toEqual(["draws", { x: 60, y: 280, w: 100, h: 40 }]);
  expect(second.at.on).toEqual(["where it blows"]);
  // Both are there: the chosen one moves, or the nearer.
  expect(tapOpening(second.part, "blows", 200, 300, 3)!.part.climate!.blows).toEqual({ x: 150, y: 280, w: 100, h: 40 });
  expect(tapOpening(second.part, undefined, 300, 400, 3)!.which).toBe("draws");
  expect(openingAt(second.part, 60, 740)).toBe("blows");
  expect(openingAt(second.part, 59, 740)).toBeUndefined();
  expect(withOpening(second.part, "draws", undefined)).toEqual(small);
});

test("wires leave over the nearest edge, in the middle to the front", () => {
  expect([
    exitAt(PART, 10, 85),
    exitAt(PART, 35, 5),
    exitAt(PART, 3, 45),
    exitAt(PART, 44, 50),
    exitAt(PART, 22, 45),
  ]).toEqual(["up", "down", "left", "right", "out"]);
});

test("names go on by their last number or letter, past those that are taken", () => {
  expect(["A1", "13", "09", "L", "PE", "", "1L1", "Z"].map((n) => nextName(n))).toEqual([
    "A2",
    "14",
    "10",
    "M",
    "PE2",
    "1",
    "1L2",
    "Z2",
  ]);
  expect(nextName("1", 2)).toBe("3");
  expect(freePin(PART.pins)).toBe("A3");
  expect(freePin([])).toBe("1");
  expect(freePin([pin("2", 0, 0), pin("1", 0, 0)])).toBe("3");
});

test("a row goes on by its pitch; names that are there are passed over", () => {
  const more = row(PART.pins, { ...PART.pins[0]!, exit: "up", clamp: "screw" }, { count: 4, dx: 7.5, dy: 0, step: 1 });
  expect(more).toEqual([
    { name: "A3", x: 17.5, y: 85, z: 40, exit: "up", clamp: "screw" },
    { name: "A4", x: 25, y: 85, z: 40, exit: "up", clamp: "screw" },
    { name: "A5", x: 32.5, y: 85, z: 40, exit: "up", clamp: "screw" },
  ]);
  expect(row([], { name: "1" }, { count: 3, dx: 1, dy: 1, step: 2 })).toEqual([{ name: "3" }, { name: "5" }]);
});

test("mirrored twice they are what they were; of a like part they keep their shares", () => {
  const places = fc.array(
    fc.record({
      name: fc.string(),
      x: fc.integer({ min: 0, max: 45 }),
      y: fc.nat(90),
      z: fc.nat(70),
      exit: fc.constantFrom("up" as const, "left" as const, "right" as const),
    }),
  );
  fc.assert(
    fc.property(places, (pins) => {
      const part = { ...PART, pins };
      expect(mirrored({ ...part, pins: mirrored(part) })).toEqual(pins);
    }),
  );
  expect(mirrored({ ...PART, pins: [{ ...pin("1", 5, 8), exit: "left" }] })).toEqual([
    { ...pin("1", 40, 8), exit: "right" },
  ]);
  expect(pinsOf(PART, { number: "B", w: 90, h: 45, d: 30 })).toEqual([
    { name: "A1", x: 20, y: 42.5, z: 30 },
    { name: "A2", x: 70, y: 2.5, z: 30 },
  ]);
});

describe("holes and slots", () => {
  const part: LibraryPart = { number: "R", w: 40, h: 80, d: 60 };

  test("a tap sets a hole beside the body too, like the one before it, in line with others; slots under the next name", () => {
    const one = tapHole(part, 5.2, 84.1, 1);
    expect([one.part.holes, one.at.on]).toEqual([[{ kind: "round", x: 5, y: 84, d: 4.5 }], []]);
    const thread: Hole = { kind: "thread", x: 0, y: -4, thread: "M4" };
    const two = tapHole({ ...part, holes: [thread, { kind: "polygon", points: [] }] }, 19.6, -3.5, 1);
    expect([two.part.holes!.at(-1), two.at.on]).toEqual([
      { kind: "thread", x: 20, y: -4, thread: "M4" },
      ["middle", "hole 1"],
    ]);
    const rack = tapSlot({ ...part, slots: [{ name: "9", x: 10, y: 40, z: 55, accepts: ["M"] }] }, 28.1, 40.4, 1);
    expect(rack.part.slots!.at(-1)).toEqual({ name: "10", x: 28, y: 40, z: 55, accepts: ["M"] });
    expect(tapSlot(part, -3, 10, 1).part.slots).toEqual([{ name: "1", x: 0, y: 10, z: 60 }]);
  });

  test("a hole goes by its middle, whatever its kind, and keeps it when its kind changes", () => {
    const rect: Hole = { kind: "rect", x: 10, y: 20, w: 30, h: 8, r: 1 };
    expect([middleOf(rect), movedTo(rect, 0, 0)]).toEqual([
      { x: 25, y: 24 },
      { ...rect, x: -15, y: -4 },
    ]);
    const triangle: Hole = {
      kind: "polygon",
      points: [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
        { x: 0, y: 6 },
      ],
    };
    expect(movedTo(triangle, 6, 3)).toEqual({
      kind: "polygon",
      points: [
        { x: 1, y: 0 },
        { x: 11, y: 0 },
        { x: 1, y: 6 },
      ],
    });
    const met = new Set<string>();
    fc.assert(
      fc.property(
        fc.constantFrom(...HOLE_KINDS),
        fc.constantFrom(...HOLE_KINDS),
        fc.nat(50),
        fc.nat(50),
        (from, to, x, y) => {
          met.add(`${from} ${to}`);
          const hole = movedTo(asKind({ kind: "round", x: 0, y: 0, d: 5 }, from), x, y);
          expect(middleOf(asKind(hole, to))).toEqual({ x, y });
          expect(FORM.hole.validate(asKind(hole, to)).error).toBeUndefined();
        },
      ),
      { seed: 5, numRuns: 400 },
    );
    expect(met.size).toBe(36);
  });

  test("rows with a pitch, and mirrored about the middle of the body: what is its own image stays one", () => {
    const first: Hole = { kind: "slot", x: 4, y: 8, w: 12, h: 4, angle: 30 };
    expect(holeRow(first, 3, 0, 25).map(middleOf)).toEqual([
      { x: 10, y: 35 },
      { x: 10, y: 60 },
    ]);
    const holes: Hole[] = [first, { kind: "round", x: 20, y: 5, d: 4 }];
    const all = withMirrored({ ...part, holes });
    expect(all).toEqual([...holes, { kind: "slot", x: 24, y: 8, w: 12, h: 4, angle: -30 }]);
    expect(withMirrored({ ...part, holes: all })).toEqual(all);
    // Beside the body they stay beside it.
    const like = holesOf(
      { ...part, holes: [{ kind: "round", x: 20, y: -4, d: 4 }, first] },
      { number: "N", w: 80, h: 40 },
    );
    expect([like.map(middleOf), like[1]]).toEqual([
      [
        { x: 40, y: -2 },
        { x: 20, y: 5 },
      ],
      { ...first, x: 14, y: 3 },
    ]);
  });
});

test("a hole as another kind is about as large: a head twice its hole, a slot twice as long, a thread no wider", () => {
  const round: Hole = { kind: "round", x: 10, y: 20, d: 5.5 };
  expect(asKind(round, "countersunk")).toEqual({ kind: "countersunk", x: 10, y: 20, d: 5.5, head: 11 });
  expect(asKind(round, "thread")).toEqual({ kind: "thread", x: 10, y: 20, thread: "M5" });
  expect(asKind(round, "rect")).toEqual({ kind: "rect", x: 4.5, y: 17.25, w: 11, h: 5.5 });
});
