import { lookUp } from "../design/lookup";
import type { Design, Part, Wire } from "../design/model";
import { ROUTE_RULES } from "./rules";
import { SHOP_RULES } from "../shop/rules";
import { compute as panel } from "../panel/compute";
import { BARE, tiny } from "../test/tiny";
import { compute } from "./compute";
import { explain } from "./explain";
import { pinPlacer, rowOf } from "./pin-places";
import { RULE_USE } from "./rule-use";

const TABLE = ROUTE_RULES.pins.default;
const part = (more: Partial<Part> = {}): Part => ({
  ...{ number: "Q", maker: "m", text: "t", category: "contactor", w: 80, h: 60, d: 54 },
  ...more,
});
const ends = (from: string, to: string): Partial<Wire> => ({
  from: { device: "-K1", pin: from },
  to: { device: "-K2", pin: to },
});
/** Two devices without pins above a duct, their lower edges 60 mm over its centre line, 200 mm apart. */
const two = (wires: Partial<Wire>[], more: Partial<Part> = {}): Design =>
  tiny({
    ducts: [{}],
    parts: [part(more)],
    devices: [100, 300].map((x) => ({ part: "Q", on: { face: "+A1/plate", x, y: 80 } })),
    wires,
    rules: BARE,
  });
const routed = (design: Design) => compute(design, SHOP_RULES, panel(design));

test.each([
  ["contactor", "1L1", 6],
  ["contactor", "2T1", 7],
  ["contactor", "13", 14],
  ["contactor", "A2", 15],
  ["terminal", "a", 3],
  ["terminal", "B", 4],
  ["relay", "a", 0],
  ["supply", "L1", 8],
  ["relay", "L1", 14],
  ["supply", "+", 10],
  ["supply", "-'", 11],
  ["supply", "PE1", 5],
  ["controller", "OUT", 12],
  ["relay", "COM", 0],
  ["lamp", "X2", 2],
] as const)("of a %s pin %s stands as row %i says", (category, pin, row) => {
  expect(rowOf(TABLE, category, pin) + 1).toBe(row);
});

test("pins of one edge are spread evenly in the order of their names: those to which wires lead, where a part has none", () => {
  const look = lookUp(two([ends("13", "2"), ends("A1", "10"), ends("3", "OUT"), ends("13", "4")]));
  const place = pinPlacer(look, TABLE);
  const at = (pin: string) => {
    const p = place(look.parts.get("Q")!, pin);
    return p && [p.x, p.y, p.z, p.exit, p.row];
  };
  // Above 3, 13 and A1, below 2, 4 and 10; 80 wide, 60 high, 54 deep.
  expect(["3", "13", "A1"].map(at)).toEqual([
    [20, 60, 27, "up", 14],
    [40, 60, 27, "up", 14],
    [60, 60, 27, "up", 14],
  ]);
  expect(["2", "4", "10"].map(at)).toEqual([
    [20, 0, 27, "down", 15],
    [40, 0, 27, "down", 15],
    [60, 0, 27, "down", 15],
  ]);
  expect([at("OUT"), at("14")]).toEqual([null, null]);
  const sides = pinPlacer(look, [
    { name: "1*", edge: "left" },
    { name: "?", edge: "right" },
  ]);
  const side = (pin: string) => sides(look.parts.get("Q")!, pin);
  // 10 and 13 from the top down; 2, 3, 4 on the other side.
  expect(["10", "13", "2", "4"].map((p) => [side(p)!.x, side(p)!.y, side(p)!.exit])).toEqual([
    [0, 40, "left"],
    [0, 20, "left"],
    [80, 45, "right"],
    [80, 15, "right"],
  ]);
});

test("a wire between pins nobody has drawn has its length, marked, and its working names the row", () => {
  const design = two([ends("2", "2"), ends("2", "OUT")]);
  const result = routed(design);
  const [known, unknown] = result.wires;
  // Both in the middle of the lower edge, level with the duct: 60 down, 200 along, 60 up.
  expect(known!.lengthMm).toBe(320);
  expect([known!.from!.marks, known!.from!.row]).toEqual([["pin-by-table", "no-tail"], 15]);
  const entry = explain(result, { of: "length", wire: "1" }, { design, shop: SHOP_RULES })!.terms[0]!;
  expect([entry.value, entry.fallback, entry.source]).toEqual([
    60,
    true,
    `pin placed by row 15 of pins nobody has drawn (${ROUTE_RULES.pins.source})`,
  ]);
  expect(unknown!.noWay).toBe("nobody has drawn pin OUT of -K2, and no row of the shop's table places it");
  expect(result.open.map((p) => [p.severity, p.kind, p.of])).toEqual([
    ["stop", "no way", "2"],
    // What clamps a wire, no table says.
    ["check", "no end treatment", "1"],
    ["check", "no end treatment", "2"],
    ["check", "pin by the table", "Q"],
    ["check", "no tail", "Q"],
  ]);
  expect(RULE_USE["routes.pins"]!(design, SHOP_RULES)[14]).toEqual(["1", "2"]);
});

test("in the middle of a body no edge is taken: the nearest duct is", () => {
  const [pressed] = routed(two([ends("13", "14")], { category: "operator" })).wires;
  // 30 more up to the middle at each end, straight down from there.
  expect([pressed!.lengthMm, pressed!.from!.marks, pressed!.from!.exit]).toEqual([
    380,
    ["no-pin-geometry", "no-tail"],
    null,
  ]);
});

test("what a part says of a pin counts before the table; a pin that it does not have is none", () => {
  const pins = [
    { name: "2", x: 10, y: 0, z: 27, exit: "down" as const, tail: 0 },
    { name: "4", tail: 5 },
  ];
  const [drawn, ruled, none] = routed(two([ends("2", "2"), ends("4", "4"), ends("6", "6")], { pins })).wires;
  expect([drawn!.from!.x, drawn!.lengthMm, drawn!.from!.row]).toEqual([110, 320, undefined]);
  // The only pin without a place stands in the middle of the edge; its tail is its own.
  expect([ruled!.from!.x, ruled!.lengthMm, ruled!.from!.row]).toEqual([140, 330, 15]);
  expect(none!.noWay).toBe("-K1 has no pin 6");
});
