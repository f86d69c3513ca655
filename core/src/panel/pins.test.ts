import { bodyAt } from "../design/geometry";
import type { Part, Turn } from "../design/model";
import { standingPins } from "./pins";
import type { PlacedDevice } from "./result";

const part = {
  pins: [
    { name: "b", x: 30, y: 0, z: 20, exit: "down" },
    { name: "a", x: 10, y: 80, z: 20, exit: "up" },
    { name: "lost", exit: "up" },
    { name: "c", x: 20, y: 40, z: 60 },
  ],
} as Part;

const standing = (turn: Turn) =>
  standingPins(part, { ...bodyAt({ x: 120, y: 240 }, 40, 80, turn, 0) } as unknown as PlacedDevice);

test("pins stand where the body is, in order of name; those without a position are left out", () => {
  expect(standing(0)).toEqual([
    { name: "a", x: 110, y: 280, exit: "up" },
    { name: "b", x: 130, y: 200, exit: "down" },
    { name: "c", x: 120, y: 240, exit: null },
  ]);
});

test("a turned device turns its pins and their exits with it", () => {
  expect(standing(90)).toEqual([
    { name: "a", x: 80, y: 230, exit: "left" },
    { name: "b", x: 160, y: 250, exit: "right" },
    { name: "c", x: 120, y: 240, exit: null },
  ]);
  expect(standing(180)[0]).toEqual({ name: "a", x: 130, y: 200, exit: "down" });
});
