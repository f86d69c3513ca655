import fc from "fast-check";
import { exitAt, freeName, mirrored, nextName, pinsOf, row, snap, tapPin } from "./part-shape";

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
  expect(freeName(PART.pins)).toBe("A3");
  expect(freeName([])).toBe("1");
  expect(freeName([pin("2", 0, 0), pin("1", 0, 0)])).toBe("3");
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
