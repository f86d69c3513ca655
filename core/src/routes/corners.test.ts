import type { Design, Duct, Part, Pin, RuleOverrides } from "../design/model";
import { rulesFor, SHOP_RULES } from "../design/rules";
import { compute as panel } from "../panel/compute";
import { BARE, DOT, dot, enclosure, tiny, wire, type TinyOptions } from "../test/tiny";
import { EDITS } from "../edits";
import { classOrder } from "./assign";
import { compute } from "./compute";
import { cutLength } from "./length";
import type { PieceEdge, RoutesResult, WireRoute } from "./result";
import { liesOf, stepsOf, stretchesOf, wayInWords } from "./way";

/**
 * Places where a plain calculation goes wrong, each with its length worked out by hand. Ducts are 40 wide
 * and 54 high inside, so a flat one at y has its centre line at y + 20, 27 up, where the pins of dots are.
 */

const route = (design: Design): RoutesResult => compute(design, SHOP_RULES, panel(design));
const make = (o: TinyOptions): RoutesResult => route(tiny({ rules: BARE, ...o }));
const ways = (r: RoutesResult): (number | undefined)[] => r.wires.map((w) => w.terms?.way);
const sum = ({ terms: t }: WireRoute): number => t!.entryFrom + t!.way + t!.entryTo;
const points = (r: RoutesResult): string[] => r.open.map((p) => `${p.severity} ${p.kind} ${p.of}`);
const words = (r: RoutesResult, n = 0): string => wayInWords(r, r.wires[n]!);
const piece = (r: RoutesResult, id: string): PieceEdge =>
  r.edges.find((e): e is PieceEdge => e.kind === "piece" && e.id === id)!;

/** A 10 × 10 part whose pin `p` in its middle has another exit, place or size. */
const pinned = (number: string, pin: Partial<Pin>, more: Partial<Part> = {}): Part => ({
  ...DOT,
  number,
  pins: [{ ...DOT.pins![0]!, ...pin }],
  ...more,
});
const at = (tag: string, part: string, x: number, y: number) => ({
  tag,
  part,
  on: { face: "+A1/plate", x: x - 5, y: y - 5 },
});

describe("ties", () => {
  // A pin 100 mm from the centre lines of W1 (y 20) and W2 (y 220); W3 joins them at x 480.
  const flat: Partial<Duct>[] = [
    { tag: "W1", y: 0 },
    { tag: "W2", y: 200 },
    { tag: "W3", run: "up", x: 460, y: 0, length: 240 },
  ];
  test.each([
    ["as listed", flat],
    ["listed backwards", [...flat].reverse()],
  ])("a pin midway between two ducts takes the one that is shorter for its wire: %s", (_name, ducts) => {
    const r = make({
      ducts,
      devices: [dot("-A", 100, 120), dot("-B", 400, 20), dot("-C", 400, 220)],
      wires: [wire("-A", "-B"), wire("-A", "-C"), wire("-B", "-A")],
    });
    expect(r.wires.map(sum)).toEqual([400, 400, 400]);
    expect([words(r, 0), words(r, 1)]).toEqual([
      "down into W1, right along W1, to -B",
      "up into W2, right along W2, to -C",
    ]);
    expect([words(r, 2), r.wires[0]!.marks]).toEqual(["into W1, left along W1, up to -A", []]);
  });

  test("an end of a crossing midway between two ducts serves both", () => {
    const door = (ducts: Partial<Duct>[]) =>
      make({
        ducts: [{ tag: "P" }, ...ducts],
        crossings: [
          {
            tag: "C",
            kind: "hinge",
            from: { duct: "P" },
            to: { face: "+A1/door" },
            enclosure: "+A1",
            points: [
              { x: 200, y: 120, z: 373 },
              { x: 200, y: 120, z: 27 },
            ],
          },
        ],
        devices: [dot("-A", 100, 20), dot("-B", 300, 20, "+A1/door"), dot("-C", 300, 220, "+A1/door")],
        wires: [wire("-A", "-B"), wire("-A", "-C")],
      });
    const low = { tag: "D1", face: "+A1/door", x: 100, y: 0 };
    const high = { tag: "D2", face: "+A1/door", x: 100, y: 200 };
    // Across 346, 100 on to either centre line, 100 along.
    for (const r of [door([low, high]), door([high, low])]) {
      expect(ways(r)).toEqual([546, 546]);
      expect([words(r, 0), words(r, 1)]).toEqual([
        "into P, over hinge C, right along D1, to -B",
        "into P, over hinge C, right along D2, to -C",
      ]);
    }
  });

  test("rival crossings: the one whose way and loop together are shorter", () => {
    const rival = (tag: string, x: number, loop: number | undefined) => ({
      tag,
      kind: "hinge" as const,
      from: { duct: "P" },
      to: { duct: "D" },
      enclosure: "+A1",
      points: [
        { x, y: 120, z: 373 },
        { x, y: 120, z: 27 },
      ],
      ...(loop === undefined ? {} : { loop }),
    });
    const between = (one: number | undefined, two: number | undefined) =>
      make({
        ducts: [{ tag: "P" }, { tag: "D", face: "+A1/door", y: 100 }],
        crossings: [rival("C1", 200, one), rival("C2", 500, two)],
        devices: [dot("-A", 100, 20), dot("-B", 100, 120, "+A1/door")],
        wires: [wire("-A", "-B")],
        rules: { routes: { ...BARE.routes, loopHingeMm: 90 } },
      });
    // The plate's 100 is the door's 200: C1 takes 0 + 346 + 100, C2 300 + 346 + 400.
    expect([ways(between(500, 0))[0], between(500, 0).wires[0]!.terms!.loops]).toEqual([446, 500]);
    expect([ways(between(601, 0))[0], between(601, 0).wires[0]!.terms!.loops]).toEqual([1046, 0]);
    // Without its own the rule's.
    expect([ways(between(undefined, 0))[0], between(undefined, 0).wires[0]!.terms!.loops]).toEqual([446, 90]);
  });

  test("of equally long ways the one that changes ducts least", () => {
    const r = make({
      ducts: [
        { tag: "L", run: "up", x: 0, y: 0, length: 240 },
        { tag: "R", run: "up", x: 400, y: 0, length: 240 },
        { tag: "H1", y: 0, length: 440 },
        { tag: "H2", y: 200, length: 440 },
        { tag: "M", run: "up", x: 200, y: 0, length: 240 },
      ],
      devices: [dot("-A", 20, 20), dot("-B", 420, 220)],
      wires: [wire("-A", "-B")],
    });
    expect([ways(r), words(r)]).toEqual([[600], "into H1, right along H1, up along R, to -B"]);
  });

  test("a full duct gives wires up to an equally long way, and nobody is said to be led round", () => {
    const r = make({
      ducts: [
        { tag: "low", y: 0, length: 1000 },
        { tag: "high", y: 500, length: 1000 },
        { tag: "left", run: "up", x: 0, y: 0, length: 540 },
        { tag: "right", run: "up", x: 960, y: 0, length: 540 },
      ],
      nets: [{ name: "n", class: "supply", colour: "BK", sizeMm2: 16 }],
      // Both ways take 250 + 960 + 250. A wire is 51.53 mm² of 1944: 26 are 68.9 %, 27 are 71.6 %.
      devices: [dot("-A", 20, 270), dot("-B", 980, 270)],
      wires: Array.from({ length: 40 }, () => wire("-A", "-B")),
    });
    expect(new Set(ways(r))).toEqual(new Set([1460]));
    expect(r.wires.flatMap((w) => w.marks)).toEqual([]);
    const along = r.edges.filter((e): e is PieceEdge => e.kind === "piece" && e.wires > 0);
    expect(along.map((e) => `${e.duct} ${e.wires} ${e.fillPercent} ${e.state}`).sort()).toEqual([
      "high 14 37.11 ok",
      "left 40 68.92 watch",
      "low 26 68.92 watch",
      "right 40 68.92 watch",
    ]);
    // Equal in all else they go by number, as text: 1, 10, 11 …
    const gone = r.wires.filter((w) => wayInWords(r, w).includes("high")).map((w) => w.id);
    expect(gone.sort()).toEqual("1 10 11 12 13 14 15 16 17 18 19 2 20 21".split(" "));
  });
});

describe("classes", () => {
  const ring: Partial<Duct>[] = [
    { tag: "low", y: 0, length: 1000 },
    { tag: "high", y: 500, length: 1000 },
    { tag: "left", run: "up", x: 0, y: 0, length: 540 },
    { tag: "right", run: "up", x: 960, y: 0, length: 540 },
  ];
  const nets = (["supply", "drive", "control", "signal", "earth"] as const).map((name) => ({
    name,
    class: name,
    colour: "BK" as const,
    sizeMm2: 1,
  }));

  test("the first of every pair goes before the second, along chains; a ring begins with its first in the list", () => {
    expect(classOrder([["drive", "signal"]])).toEqual([null, "supply", "drive", "control", "signal", "earth"]);
    expect(
      classOrder([
        ["control", "supply"],
        ["signal", "control"],
      ]),
    ).toEqual([null, "drive", "signal", "control", "supply", "earth"]);
    expect(
      classOrder([
        ["earth", "supply"],
        ["supply", "earth"],
      ])[1],
    ).toBe("drive");
    expect(
      classOrder([
        ["earth", "supply"],
        ["supply", "earth"],
      ]).slice(3),
    ).toEqual(["signal", "supply", "earth"]);
    expect(classOrder([["drive", "drive"]])).toEqual([null, "supply", "drive", "control", "signal", "earth"]);
  });

  test.each([
    [["drive", "signal"], "drive"],
    [["signal", "drive"], "signal"],
  ] as const)("of %j the first keeps the short way, whichever is listed first", (pair, stays) => {
    const ends = [dot("-A", 100, 20), dot("-B", 900, 20), dot("-C", 120, 60), dot("-D", 880, 60)];
    for (const order of [
      ["drive", "signal"],
      ["signal", "drive"],
    ]) {
      const r = make({
        ducts: ring,
        nets,
        devices: ends,
        wires: order.map((net) => wire("-C", "-D", { net })),
        rules: { routes: { ...BARE.routes, apart: [[...pair]] } },
      });
      // Both begin and end at one place; the other way round the ring is 2,160 long.
      const short = (net: string) => net === stays;
      expect(r.wires.map((w) => [w.net, w.terms!.way])).toEqual(order.map((n) => [n, short(n) ? 760 : 2160]));
      expect(r.wires.map((w) => w.marks)).toEqual(order.map((n) => (short(n) ? [] : ["detour-class"])));
    }
  });

  test("chained pairs: supply keeps out of control's way, which keeps out of signal's", () => {
    const r = make({
      ducts: ring,
      nets,
      devices: [dot("-A", 20, 200), dot("-B", 980, 200), dot("-C", 20, 240), dot("-D", 980, 240)],
      // Control would go low by 40; signal lies low, so control goes high; supply finds no clear way.
      wires: [
        wire("-A", "-B", { net: "supply" }),
        wire("-C", "-D", { net: "control" }),
        wire("-A", "-B", { net: "signal" }),
      ],
      rules: {
        routes: {
          ...BARE.routes,
          apart: [
            ["control", "supply"],
            ["signal", "control"],
          ],
        },
      },
    });
    expect([0, 1, 2].map((n) => words(r, n).includes("along low"))).toEqual([true, false, true]);
    expect(r.wires.map((w) => w.marks)).toEqual([[], ["detour-class"], []]);
    expect(r.wires[1]!.shortestMm).toBe(220 + 960 + 220);
    expect(r.wires[1]!.terms!.way).toBe(280 + 960 + 280);
  });

  // Drive lies from 100 to 900 in the low duct; the signal begins at 800 and ends on the left, 280 up.
  const partly = (routes: RuleOverrides["routes"]) =>
    make({
      ducts: ring,
      nets,
      devices: [dot("-A", 100, 20), dot("-B", 900, 20), dot("-C", 800, 20), dot("-D", 20, 300)],
      wires: [wire("-A", "-B", { net: "drive" }), wire("-C", "-D", { net: "signal" })],
      rules: { routes: { ...BARE.routes, ...routes } },
    });

  test("where no way is clear it takes the shortest: a detour that does not clear it is none", () => {
    const r = partly({});
    // Left: 780 + 280, 700 of it together. Right: 180 + 500 + 960 + 220, still 100 together.
    expect([r.wires[1]!.terms!.way, r.wires[1]!.shortestMm]).toEqual([1060, null]);
    expect(r.wires.map((w) => w.marks)).toEqual([[], ["shared-duct"]]);
    expect(points(r)).toEqual(["check classes share a duct 2"]);
  });

  test("a clear way is taken up to the longest detour", () => {
    // Low 760, the other way round the ring 2,160: 1,400 more.
    const led = (detourMostMm: number) =>
      make({
        ducts: ring,
        nets,
        devices: [dot("-C", 120, 60), dot("-D", 880, 60)],
        wires: ["drive", "signal"].map((net) => wire("-C", "-D", { net })),
        rules: { routes: { ...BARE.routes, detourMostMm } },
      }).wires[1]!;
    expect([led(1400).terms!.way, led(1400).marks]).toEqual([2160, ["detour-class"]]);
    expect([led(1399.9).terms!.way, led(1399.9).marks]).toEqual([760, ["shared-duct"]]);
    expect(led(0).terms!.way).toBe(760);
  });

  test("wires at opposite ends of one piece are not together", () => {
    const r = make({
      ducts: [{ length: 1000 }],
      nets: nets.map((n) => (n.name === "drive" ? { ...n, sizeMm2: 2.5 } : n)),
      devices: [dot("-A", 100, 20), dot("-B", 400, 20), dot("-C", 400, 20), dot("-D", 900, 20)],
      wires: [wire("-A", "-B", { net: "drive" }), wire("-C", "-D", { net: "signal" })],
    });
    expect(r.wires.map((w) => w.marks)).toEqual([[], []]);
    // π/4 · 4.1² of 1944 mm²
    expect(piece(r, "W1.1")).toMatchObject({
      wires: 2,
      worst: { fromMm: 100, toMm: 400, wires: 1 },
      usedMm2: 13.2,
      fillPercent: 0.68,
    });
    expect(liesOf(r, r.wires[1]!)).toEqual([{ edge: 0, fromMm: 400, toMm: 900 }]);
  });

  test("a wire without a class keeps out of nothing", () => {
    const r = make({
      ducts: [{ classes: ["drive"] }],
      nets: [...nets, { name: "none", colour: "BK", sizeMm2: 1 }],
      devices: [dot("-A", 100, 20), dot("-B", 400, 20)],
      wires: [wire("-A", "-B", { net: "drive" }), wire("-A", "-B", { net: "none" })],
    });
    expect(r.wires.map((w) => w.marks)).toEqual([[], []]);
  });

  test("leaving a full duct never brings a signal beside drive", () => {
    const r = make({
      ducts: ring,
      nets: [
        { name: "drive", class: "drive", colour: "BK", sizeMm2: 16 },
        { name: "signal", class: "signal", colour: "WH", sizeMm2: 16 },
      ],
      devices: [dot("-A", 20, 60), dot("-B", 980, 60), dot("-C", 100, 520), dot("-D", 900, 520)],
      wires: [
        ...Array.from({ length: 30 }, () => wire("-A", "-B", { net: "signal" })),
        wire("-C", "-D", { net: "drive" }),
      ],
    });
    // The low duct is over its limit with 30, but the high one carries drive.
    expect(new Set(ways(r).slice(0, 30))).toEqual(new Set([1040]));
    expect(points(r)).toContain("check duct too full low.2");
    const free = make({
      ducts: ring,
      nets: [{ name: "signal", class: "signal", colour: "WH", sizeMm2: 16 }],
      devices: [dot("-A", 20, 60), dot("-B", 980, 60)],
      wires: Array.from({ length: 30 }, () => wire("-A", "-B", { net: "signal" })),
    });
    expect(free.wires.filter((w) => w.marks.includes("detour-fill"))).toHaveLength(4);
    expect(free.wires.find((w) => w.marks.includes("detour-fill"))!.shortestMm).toBe(1040);
    expect(points(free)).toEqual(["low.2", "left.2", "right.2"].map((id) => `note duct nearly full ${id}`));
  });
});

describe("looking ahead", () => {
  const up = pinned("U", { exit: "up" });
  const ahead = (ducts: Partial<Duct>[], routes: RuleOverrides["routes"] = {}) =>
    make({
      parts: [up],
      ducts: [...ducts, { tag: "V", run: "up", x: 700, y: 0, length: 900 }],
      devices: [at("-A", "U", 100, 200), dot("-B", 650, 20)],
      wires: [wire("-A", "-B")],
      rules: { routes: { ...BARE.routes, ...routes } },
    });
  const entry = (r: RoutesResult) => {
    const { x, y, planeMm } = r.wires[0]!.from!.entry!;
    return [x, y, planeMm];
  };

  test("the gap between two ducts does not let the look through", () => {
    // W2 ends at 98.5, W3 begins at 101.5; behind them, W4.
    const r = ahead([
      { tag: "W2", x: 0, y: 300, length: 98.5 },
      { tag: "W3", x: 101.5, y: 300, length: 600 },
      { tag: "W4", x: 0, y: 500, length: 740 },
      { tag: "W1", y: 0, length: 740 },
    ]);
    expect([entry(r), r.wires[0]!.marks]).toEqual([[101.5, 320, 121.5], []]);
  });

  test("a duct that ends a little aside is met up to the width of the corridor", () => {
    const beside = (x: number) =>
      ahead([
        { tag: "W2", x, y: 300, length: 640 },
        { tag: "W1", length: 740 },
      ]);
    expect([entry(beside(105)), beside(105).wires[0]!.marks]).toEqual([[105, 320, 125], []]);
    expect(entry(beside(120))).toEqual([120, 320, 140]);
    expect([beside(120).wires[0]!.marks, beside(120.001).wires[0]!.marks]).toEqual([[], ["exit-met-nothing"]]);
    const left = (end: number) =>
      ahead([
        { tag: "W2", x: 0, y: 300, length: end },
        { tag: "L", run: "up", x: 0, y: 0, length: 340 },
        { tag: "W1", length: 740 },
      ]);
    expect(entry(left(80))).toEqual([80, 320, 140]);
    expect([left(80).wires[0]!.marks, left(79.999).wires[0]!.marks]).toEqual([[], ["exit-met-nothing"]]);
  });

  test("a duct that runs past beside the pin is not ahead; one that begins level with it neither", () => {
    // P runs up to W5, which is too far ahead.
    const past = (y: number) =>
      ahead([
        { tag: "P", run: "up", x: 110, y, length: 700 - y },
        { tag: "W5", y: 700, length: 740 },
        { tag: "W1", length: 740 },
      ]);
    // Its outline begins at x 110, 10 aside, centre line at 130.
    expect([entry(past(100)), past(100).wires[0]!.marks]).toEqual([[130, 200, 30], ["exit-met-nothing"]]);
    expect(past(200).wires[0]!.marks).toEqual(["exit-met-nothing"]);
    expect([entry(past(200.001)), past(200.001).wires[0]!.marks]).toEqual([[130, 200.001, 30.001], []]);
  });

  test("of ducts that begin at the same distance all are open to the wire", () => {
    const both = (flip: boolean) => {
      const two: Partial<Duct>[] = [
        { tag: "L", run: "up", x: 60, y: 300, length: 100 },
        { tag: "R", run: "up", x: 100, y: 300, length: 100 },
        { tag: "W4", x: 0, y: 400, length: 740 },
        { tag: "W1", length: 740 },
      ];
      return ahead(flip ? two.reverse() : two);
    };
    for (const r of [both(false), both(true)]) expect(entry(r)).toEqual([120, 300, 120]);
  });

  test("a duct the pin lies in is met at once", () => {
    const r = ahead([
      { tag: "W2", y: 170, length: 740 },
      { tag: "W3", y: 300, length: 740 },
    ]);
    expect([entry(r), r.wires[0]!.marks]).toEqual([[100, 190, 10], []]);
  });

  test.each<["up" | "down" | "left" | "right", Partial<Duct>, [number, number]]>([
    ["up", { y: 1300, length: 1400 }, [1000, 1320]],
    ["down", { y: 700, length: 1400 }, [1000, 720]],
    ["left", { run: "up", x: 700, y: 500, length: 1000 }, [720, 1000]],
    ["right", { run: "up", x: 1300, y: 500, length: 1000 }, [1320, 1000]],
  ])("looking %s", (exit, duct, [x, y]) => {
    const near: Partial<Duct>[] = (["up", "down", "left", "right"] as const)
      .filter((e) => e !== exit)
      .map(
        (e) =>
          ({
            up: { tag: "N", y: 1100, x: 900, length: 200 },
            down: { tag: "S", y: 860, x: 900, length: 200 },
            left: { tag: "W", run: "up" as const, x: 860, y: 900, length: 200 },
            right: { tag: "E", run: "up" as const, x: 1100, y: 900, length: 200 },
          })[e],
      );
    const r = make({
      parts: [pinned("X", { exit })],
      ducts: [{ tag: "far", ...duct }, ...near],
      devices: [at("-A", "X", 1000, 1000), at("-B", "X", 1030, 1030)],
      wires: [wire("-A", "-B")],
    });
    expect(r.wires[0]!.from!.entry).toMatchObject({ x, y });
    expect(r.wires[0]!.marks).toEqual(["nearer-duct"]);
  });

  test("a duct ahead is doubted when another is nearer by more than 100 mm", () => {
    const doubt = (y: number) =>
      ahead([
        { tag: "W2", y: 500, length: 740 },
        { tag: "W1", y, length: 740 },
      ]);
    // W2 begins 300 ahead; W1 ends 200 below, then 199.9.
    const r = doubt(-40 + 40.1);
    expect([entry(doubt(0)), doubt(0).wires[0]!.marks, r.wires[0]!.marks]).toEqual([
      [100, 520, 320],
      ["nearer-duct"],
      ["nearer-duct"],
    ]);
    const level = ahead([
      { tag: "W2", y: 460, length: 740 },
      { tag: "W1", y: 0, length: 740 },
    ]);
    expect(level.wires[0]!.marks).toEqual([]);
    expect(points(doubt(0))).toEqual(["note another duct is nearer -A"]);
  });
});

describe("round the body", () => {
  const big = (exit: "up" | "down" | "left" | "right", x: number, y: number) =>
    pinned("B", { exit, x, y }, { w: 100, h: 60 });
  const below = (exit: "up" | "down" | "left" | "right", x: number, y: number) =>
    make({
      parts: [big(exit, x, y)],
      ducts: [{ tag: "W1", length: 900 }],
      devices: [{ tag: "-A", part: "B", on: { face: "+A1/plate", x: 300, y: 200 } }, dot("-B", 800, 20)],
      wires: [wire("-A", "-B")],
    });

  test("a pin that looks up goes out, past the nearer side, and down", () => {
    const r = below("up", 30, 50);
    // 10 up to the edge, 30 left, 240 down to the centre line at 20, 30 back right.
    expect(r.wires[0]!.from!.entry).toMatchObject({
      x: 330,
      y: 20,
      planeMm: 10 + 30 + 240 + 30,
      round: [
        { x: 330, y: 260 },
        { x: 300, y: 260 },
        { x: 300, y: 20 },
      ],
    });
    expect(r.wires[0]!.marks).toEqual(["exit-met-nothing", "round-body"]);
    expect(words(r)).toBe("up round -A into W1, right along W1, to -B");
    expect(stretchesOf(r, r.wires[0]!)[0]!.points.slice(0, 5)).toEqual([
      { x: 330, y: 250 },
      { x: 330, y: 260 },
      { x: 300, y: 260 },
      { x: 300, y: 20 },
      { x: 330, y: 20 },
    ]);
  });

  test("past the right side where that is nearer; sideways exits too; a pin on the rim needs no way out", () => {
    expect(below("up", 80, 60).wires[0]!.from!.entry!.planeMm).toBe(20 + 240 + 20);
    // Out to the left edge, then down: the goal is 80 right of it.
    expect(below("left", 80, 10).wires[0]!.from!.entry!.planeMm).toBe(190);
    expect(below("down", 30, 50).wires[0]!.from!.entry!.planeMm).toBe(230);
    expect(below("down", 30, 50).wires[0]!.marks).toEqual([]);
  });
});

describe("ducts that lead nowhere", () => {
  const stump = (more: Partial<Duct>[], routes: RuleOverrides["routes"] = {}) =>
    make({
      ducts: [{ tag: "S", x: 60, y: 60, length: 80 }, ...more],
      devices: [dot("-A", 100, 110), dot("-B", 400, 320)],
      wires: [wire("-A", "-B")],
      rules: { routes: { ...BARE.routes, ...routes } },
    });
  const joined: Partial<Duct>[] = [
    { tag: "W1", y: 300, length: 600 },
    { tag: "W2", run: "up", x: 560, y: 300, length: 200 },
  ];

  test("the nearest is passed over for a joined one within reach, and says so", () => {
    const r = stump(joined);
    expect([sum(r.wires[0]!), r.wires[0]!.marks]).toEqual([510, ["stump-passed"]]);
    expect(points(r)).toEqual(["check nearest duct leads nowhere -A"]);
    expect(words(r)).toBe("up into W1, right along W1, to -B");
  });

  test("beyond reach it is not: then there is no way", () => {
    // From the pin to the outline of W1: 190.
    expect(stump(joined, { reachMm: 190 }).wires[0]!.lengthMm).not.toBeNull();
    expect(stump(joined, { reachMm: 189.9 }).wires[0]!.noWay).toBe(
      "no way leads from S to W1: S and W1 stand 200 mm apart",
    );
  });

  test("it is kept when it leads to the other end", () => {
    const r = make({
      ducts: [{ tag: "S", x: 60, y: 60, length: 400 }, ...joined],
      devices: [dot("-A", 100, 110), dot("-B", 300, 110)],
      wires: [wire("-A", "-B")],
    });
    expect([sum(r.wires[0]!), r.wires[0]!.marks]).toEqual([30 + 200 + 30, []]);
  });
});

describe("side by side", () => {
  const two = (more: Partial<Duct> = {}, from = [100, 20], to = [300, 60]) =>
    make({
      ducts: [{ tag: "W1" }, { tag: "W2", y: 40, ...more }],
      devices: [dot("-A", from[0]!, from[1]!), dot("-B", to[0]!, to[1]!)],
      wires: [wire("-A", "-B")],
    });

  test("wires pass anywhere along the common stretch, and the step counts", () => {
    const r = two();
    expect([ways(r), words(r)]).toEqual([[240], "into W1, right along W1, through W2, to -B"]);
    expect(stepsOf(r, r.wires[0]!).map((s) => `${s.kind} ${s.mm}`)).toEqual([
      "entry 0",
      "along 200",
      "joint 40",
      "entry 0",
    ]);
    expect(r.wires[0]!.way).toEqual({ first: -1, edges: [], end: [0] });
    expect(stretchesOf(r, r.wires[0]!)).toEqual([
      {
        face: "+A1/plate",
        points: [
          { x: 100, y: 20 },
          { x: 100, y: 20 },
          { x: 300, y: 20 },
          { x: 300, y: 60 },
          { x: 300, y: 60 },
        ],
      },
    ]);
  });

  test("a gap up to the join gap counts; only the common stretch lets wires pass", () => {
    expect(ways(two({ y: 45 }, [100, 20], [300, 65]))).toEqual([245]);
    // W2 begins at 200: the wire turns over at its beginning.
    const late = two({ x: 200 });
    expect([ways(late), words(late)]).toEqual([[240], "into W1, right along W1, right along W2, to -B"]);
  });

  test("over the one between to a third", () => {
    const r = make({
      ducts: [{ tag: "W1" }, { tag: "W2", y: 40 }, { tag: "W3", y: 80 }],
      devices: [dot("-A", 100, 20), dot("-B", 300, 100)],
      wires: [wire("-A", "-B"), wire("-B", "-A")],
    });
    expect(ways(r)).toEqual([280, 280]);
    expect(words(r)).toBe("into W1, right along W1, through W2, through W3, to -B");
    expect(words(r, 1)).toBe("into W3, through W2, left along W1, to -A");
    expect(r.wires.map((w) => w.way)).toEqual([
      { first: -1, edges: [], end: [1, 0] },
      { first: -1, edges: [], start: [1, 0] },
    ]);
  });

  test("upright ones too, of different heights", () => {
    const low: Part = {
      ...DOT,
      number: "L",
      category: "duct",
      w: 2000,
      h: 40,
      d: 40,
      duct: { innerW: 36, innerH: 34 },
    };
    const r = make({
      parts: [low],
      ducts: [
        { tag: "W1", run: "up", x: 0 },
        { tag: "W2", run: "up", x: 40, part: "L" },
      ],
      devices: [dot("-A", 20, 100), dot("-B", 60, 300)],
      wires: [wire("-A", "-B")],
    });
    // Centre lines at 27 and 17: a step of 40 + 10, and 10 up to the pin at the end.
    expect([ways(r), r.wires[0]!.terms!.entryTo]).toEqual([[250], 10]);
    expect(stepsOf(r, r.wires[0]!).map((s) => s.mm)).toEqual([0, 200, 50, 10]);
  });

  test("in line is not side by side: ends that touch corner to corner are joined at the ends", () => {
    expect(ways(two({ x: 500 }, [400, 20], [600, 60]))).toEqual([240]);
    expect(ways(two({ x: 503, y: 44 }, [400, 20], [603, 64]))).toEqual([100 + 3 + 44 + 100]);
  });
});

describe("joints and crossings that are not certain", () => {
  const corner = (x: number, y: number) =>
    make({
      ducts: [
        { tag: "W1", length: 300 },
        { tag: "W2", run: "up", x, y },
      ],
    });

  test("corners are joined up to the gap across, and reported beyond it", () => {
    expect(points(corner(303, 44))).toEqual([]);
    const r = corner(304, 44);
    expect(r.open[0]!.text).toBe("W1 and W2 come near each other at a corner, 5.7 mm apart, and are not joined");
    expect(points(corner(320, 40))).toEqual(["check gap between ducts W1"]);
    expect(points(corner(320.1, 40))).toEqual([]);
    expect(corner(312, 0).open[0]!.text).toBe("W1 and W2 face each other 12 mm apart, and are not joined");
  });

  // The duct that is to grow, and by what: at its end, at its start, flat and upright.
  test.each<[string, Partial<Duct>, Partial<Duct>, object]>([
    ["at its end", { length: 288 }, { run: "up", x: 300 }, { tag: "W1", length: 300 }],
    ["at its start", { x: 352, length: 288 }, { run: "up", x: 300 }, { tag: "W1", x: 340, length: 300 }],
    ["upright, up", { run: "up", x: 0, length: 188 }, { y: 200 }, { tag: "W1", length: 200 }],
    ["upright, down", { run: "up", x: 0, y: 252, length: 100 }, { y: 200 }, { tag: "W1", y: 240, length: 112 }],
    ["in line: the first", { length: 288 }, { x: 300 }, { tag: "W1", length: 300 }],
    [
      "the second looks at the first",
      { y: 0 },
      { run: "up", x: 0, y: 52, length: 100 },
      { tag: "W2", y: 40, length: 112 },
    ],
  ])("a gap is closed by one edit: %s", (_name, one, two, payload) => {
    const d = tiny({
      ducts: [
        { tag: "W1", ...one },
        { tag: "W2", ...two },
      ],
    });
    const point = route(d).open.find((p) => p.kind === "gap between ducts")!;
    expect(point.mend).toMatchObject({ kind: "set bar", payload: { thing: "duct", ...payload }, asks: [] });
    expect(point.mend!.label).toMatch(/^Close the gap: W\d 12 mm longer$/);
    const mended = EDITS.apply(d, point.mend!);
    expect(mended.ok && route(mended.design).open).toEqual([]);
    expect(mended.ok && route(mended.design).edges.filter((e) => e.kind === "joint")).toHaveLength(1);
  });

  const crossing = (x: number, y: number, z: number, routes: RuleOverrides["routes"] = {}) =>
    make({
      ducts: [
        { tag: "P", x: 100 },
        { tag: "D", face: "+A1/door", x: 100, y: 100 },
      ],
      crossings: [
        {
          tag: "C",
          kind: "wall",
          from: { duct: "P" },
          to: { duct: "D" },
          enclosure: "+A1",
          points: [
            { x, y, z },
            { x, y, z: 27 },
          ],
        },
      ],
      devices: [dot("-A", 300, 20), dot("-B", 400, 120, "+A1/door")],
      wires: [wire("-A", "-B")],
      rules: { routes: { ...BARE.routes, ...routes } },
    });

  test("an end off its duct in the plane or in height is doubted, and its distance counts", () => {
    // The outline of P on the plate: x 200 to 700, y 100 to 140 of the enclosure; its centre line at z 373.
    expect([points(crossing(400, 120, 373)), ways(crossing(400, 120, 373))]).toEqual([[], [346]]);
    expect(points(crossing(400, 120, 323))).toEqual([]);
    expect(crossing(400, 120, 322).open.map((p) => p.text)).toEqual([
      "crossing C ends far off: its first end is 0 mm beside P and 51 mm from its centre line in height (doubted from 50 mm)",
    ]);
    expect(ways(crossing(400, 120, 322))).toEqual([346]);
    // 150 and 151 of the enclosure are 50 and 51 from where D begins, at 100 above its outline's end 140.
    expect(points(crossing(400, 190, 373))).toEqual([]);
    const off = crossing(400, 191, 373);
    expect(off.open.map((p) => p.text)).toEqual([
      "crossing C ends far off: its first end is 51 mm beside P and 0 mm from its centre line in height; its last end is 51 mm beside D and 0 mm from its centre line in height (doubted from 50 mm)",
    ]);
    expect(ways(off)).toEqual([71 + 346 + 71]);
    expect(points(crossing(400, 191, 373, { crossingOffMm: 51 }))).toEqual([]);
  });

  test("beyond the reach it hangs free", () => {
    expect(points(crossing(400, 540, 373))).toEqual(["check crossing off its duct C"]);
    const r = crossing(400, 541, 373);
    expect(points(r)).toEqual(["stop no way 1", "check crossing hangs free C"]);
    expect(r.open[1]!.text).toBe(
      "crossing C hangs free: its end is 401 mm from P on +A1/plate, more than the reach of 400 mm",
    );
  });

  test("loops belong to hinges; walls and edges have their own figure, a crossing its own", () => {
    const loop = (kind: "hinge" | "wall" | "edge", own?: number, routes: RuleOverrides["routes"] = {}) => {
      const d = tiny({
        ducts: [
          { tag: "P", x: 100 },
          { tag: "D", face: "+A1/door", x: 100, y: 100 },
        ],
        devices: [dot("-A", 300, 20), dot("-B", 400, 120, "+A1/door")],
        wires: [wire("-A", "-B")],
        rules: { routes },
        crossings: [
          {
            tag: "C",
            kind,
            from: { duct: "P" },
            to: { duct: "D" },
            enclosure: "+A1",
            points: [
              { x: 400, y: 120, z: 373 },
              { x: 400, y: 120, z: 27 },
            ],
            ...(own === undefined ? {} : { loop: own }),
          },
        ],
      });
      return route(d).wires[0]!.terms!.loops;
    };
    expect([loop("hinge"), loop("wall"), loop("edge"), loop("hinge", 0), loop("edge", 70)]).toEqual([
      // Its side is guessed: 400 of 2,200 from the left. On the door 400.91 mm from the hinge at 3.86°, on the plate
      // 546.93 mm at 43°: open by 120° they look at each other under 159.14° and are 932.55 mm apart; 346 are guided.
      expect.closeTo(932.55 - 346 + 100, 2),
      0,
      0,
      0,
      70,
    ]);
    expect([loop("wall", undefined, { loopWallMm: 11 }), loop("edge", undefined, { loopEdgeMm: 12 })]).toEqual([
      11, 12,
    ]);
  });
});

describe("guesses are marked", () => {
  const ends = (parts: Part[], more: TinyOptions = {}) =>
    make({
      parts,
      ducts: [{ length: 900 }],
      devices: [at("-A", "X", 100, 100), dot("-B", 800, 20)],
      wires: [wire("-A", "-B")],
      ...more,
    });

  test.each<[string, Part, string[], string[]]>([
    [
      "no position",
      { ...DOT, number: "X", pins: [{ name: "p", tail: 0, clamp: "screw" }] },
      ["no-pin-geometry"],
      ["check no pin position X"],
    ],
    [
      "an exit without a position",
      { ...DOT, number: "X", pins: [{ name: "p", exit: "up", tail: 0, clamp: "screw" }] },
      ["no-pin-geometry", "exit-unused"],
      ["check no pin position X", "check exit without position X"],
    ],
    [
      "no exit",
      { ...DOT, number: "X", pins: [{ name: "p", x: 5, y: 5, z: 27, tail: 0, clamp: "screw" }] },
      ["no-exit"],
      ["check no exit direction X"],
    ],
    [
      "no tail",
      { ...DOT, number: "X", pins: [{ name: "p", x: 5, y: 5, z: 27, exit: "out", clamp: "screw" }] },
      ["no-tail"],
      ["check no tail X"],
    ],
    [
      "no clamp",
      { ...DOT, number: "X", pins: [{ name: "p", x: 5, y: 5, z: 27, exit: "out", tail: 0 }] },
      ["no-end-rule"],
      ["check no end treatment 1"],
    ],
  ])("%s", (_name, part, marks, open) => {
    const r = ends([part]);
    expect([r.wires[0]!.marks, points(r)]).toEqual([marks, open]);
  });

  test("a place that is a guess, a duct without inside size, a nearest duct beyond the reach", () => {
    const rail = tiny({
      ducts: [{ length: 900 }],
      devices: [{ tag: "-A", part: "P", on: { rail: "R1", x: 100 } }, dot("-B", 800, 20)],
      wires: [wire("-A", "-B")],
      rules: BARE,
    });
    rail.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 100, run: "right", length: 300, part: "R" });
    expect(route(rail).wires[0]!.marks).toEqual(["place-unsure"]);
    const plain: Part = { ...DOT, number: "E", category: "duct", w: 2000, h: 40, d: 60 };
    const blind = make({
      parts: [plain],
      ducts: [{ part: "E", length: 900 }],
      devices: [dot("-A", 100, 20), dot("-B", 800, 20)],
      wires: [wire("-A", "-B")],
    });
    // Half of 60 is 30: 3 mm above the pins.
    expect([blind.wires[0]!.marks, blind.wires[0]!.terms!.entryFrom]).toEqual([["no-duct-size"], 3]);
    expect([piece(blind, "W1.1").fillPercent, piece(blind, "W1.1").insideMm2]).toEqual([0, 0]);
    const far = ends([pinned("X", {})], { devices: [at("-A", "X", 100, 440.1), dot("-B", 800, 20)] });
    expect([far.wires[0]!.marks, points(far)]).toEqual([["far-from-duct"], ["check far from a duct 1"]]);
    const near = ends([pinned("X", {})], { devices: [at("-A", "X", 100, 440), dot("-B", 800, 20)] });
    expect(near.wires[0]!.marks).toEqual([]);
  });

  test("a duct without inside size that is only passed marks the wire too", () => {
    const plain: Part = { ...DOT, number: "E", category: "duct", w: 2000, h: 40, d: 54 };
    const r = make({
      parts: [plain],
      ducts: [{ length: 300 }, { tag: "M", x: 300, length: 100, part: "E" }, { tag: "W3", x: 400, length: 300 }],
      devices: [dot("-A", 100, 20), dot("-B", 600, 20)],
      wires: [wire("-A", "-B")],
    });
    expect([r.wires[0]!.marks, ways(r)]).toEqual([["no-duct-size"], [500]]);
  });

  test("a direct lead between pins that do not say where they look goes over the front", () => {
    const blind = pinned("X", {}, { directLeads: true });
    delete blind.pins![0]!.exit;
    const near = { devices: [at("-A", "X", 100, 100), at("-B", "X", 200, 100)] };
    // 100 aside, and 13 out and in again: the pins lie 27 deep in bodies of 40.
    expect(ends([blind], near).wires[0]).toMatchObject({
      marks: ["no-exit", "direct", "direct-over"],
      terms: { way: 126 },
    });
    expect(ends([{ ...blind, directLeads: false }], near).wires[0]!.marks).toEqual(["no-exit"]);
  });

  test("a size between two of the table", () => {
    const r = ends([pinned("X", {})], { nets: [{ name: "n", class: "control", colour: "BU", sizeMm2: 1.2 }] });
    expect([r.wires[0]!.marks, r.wires[0]!.outerMm]).toEqual([["outer-estimated"], 3.4]);
  });
});

describe("what lands under one clamp", () => {
  const two = (sizes: number[], more: (d: Design) => void = () => undefined) => {
    const d = tiny({
      ducts: [{}],
      devices: [dot("-A", 100, 20), dot("-B", 300, 20)],
      wires: sizes.map((sizeMm2) => wire("-A", "-B", { sizeMm2 })),
    });
    more(d);
    return route(d);
  };

  test("pairs are treated together up to 16 mm²; above, an open point says so once", () => {
    expect(two([16, 16]).wires.map((w) => [w.endFrom, w.endTo])).toEqual([
      ["twin ferrule", "twin ferrule"],
      ["twin ferrule", "twin ferrule"],
    ]);
    const r = two([25, 25]);
    expect(r.wires.map((w) => w.endFrom)).toEqual(["ferrule", "ferrule"]);
    expect(r.open.map((p) => `${p.kind} ${p.of}: ${p.text}`)).toEqual([
      "pair too large -A: -A:p takes two conductors of 25 mm² (wire 1, wire 2); pairs are treated together up to 16 mm²",
      "pair too large -B: -B:p takes two conductors of 25 mm² (wire 1, wire 2); pairs are treated together up to 16 mm²",
    ]);
  });

  test("one alone, two of different sizes, three: no pair", () => {
    const ends = (...sizes: number[]) => two(sizes).wires.map((w) => w.endFrom);
    expect([ends(1), ends(1, 1.5), ends(1, 1, 1)]).toEqual([
      ["ferrule"],
      ["ferrule", "ferrule"],
      ["ferrule", "ferrule", "ferrule"],
    ]);
  });

  test("two of one size and other strands are each treated by their own", () => {
    const ends = two([1.5, 1.5], (d) => void (d.wires[1]!.strand = "solid")).wires.map((w) => [w.endFrom, w.endTo]);
    expect(ends).toEqual([
      ["twin ferrule", "twin ferrule"],
      ["bare", "bare"],
    ]);
  });

  test("a lead and a core of its size are a pair", () => {
    const r = two([1.5], (d) => {
      d.parts.push({ ...DOT, number: "CT", cable: { cores: 1, sizeMm2: 1.5, outer: 8 } });
      d.cables.push({ tag: "-W1", type: "CT", cores: [{ core: "1", to: { device: "-B", pin: "p" } }] });
    });
    expect([r.wires[0]!.endFrom, r.wires[0]!.endTo]).toEqual(["ferrule", "twin ferrule"]);
  });

  test("both ends on one pin: no length", () => {
    const r = make({ ducts: [{}], devices: [dot("-A", 100, 20)], wires: [wire("-A", "-A")] });
    expect([r.wires[0]!.lengthMm, r.wires[0]!.noWay, r.wires[0]!.marks]).toEqual([
      null,
      "both of its ends are on -A:p",
      ["no-way"],
    ]);
    expect(r.open.map((p) => p.text)).toEqual(["wire 1 has no length: both of its ends are on -A:p"]);
  });

  test("a wire type gives a missing size, its own diameter and its strands", () => {
    const type: Part = { ...DOT, number: "WT", wire: { sizeMm2: 2.5, outer: 3.9, strand: "solid" } };
    const d = tiny({
      parts: [type],
      ducts: [{}],
      devices: [dot("-A", 100, 20), dot("-B", 300, 20)],
      nets: [{ name: "n", class: "control", colour: "BU" }],
      wires: [wire("-A", "-B", { type: "WT" })],
    });
    expect(route(d).wires[0]).toMatchObject({
      sizeMm2: { value: 2.5, origin: "wire type" },
      outerMm: 3.9,
      strand: "solid",
      endFrom: "bare",
      type: "WT",
    });
  });
});

describe("why there is no way", () => {
  const apart = { ducts: [{ tag: "P" }, { tag: "D", face: "+A1/door" }] };
  const why = (crossings: Design["crossings"], enclosures = [enclosure("+A1"), enclosure("+A9")]) =>
    make({
      ...apart,
      enclosures,
      crossings,
      devices: [dot("-A", 100, 20), dot("-B", 100, 20, "+A1/door")],
      wires: [wire("-A", "-B")],
    }).wires[0]!.noWay;
  const hanging = (tag: string, enclosureTag: string, from: string, to: string) => ({
    tag,
    kind: "wall" as const,
    from: { face: from },
    to: { face: to },
    enclosure: enclosureTag,
    points: [
      { x: 200, y: 120, z: 373 },
      { x: 200, y: 120, z: 27 },
    ],
  });

  test("a crossing that hangs free elsewhere is not blamed", () => {
    expect(why([hanging("N", "+A9", "+A9/plate", "+A9/door")])).toBe(
      "no way leads from P to D: no crossing joins +A1/door and +A1/plate",
    );
  });

  test("those that would join the two come first; no more than three are named", () => {
    const between = hanging("N5", "+A7", "+A1/plate", "+A1/door");
    const others = ["N1", "N2"].map((tag) => hanging(tag, "+A1", "+A1/plate", "+A1/rear"));
    const free = "hangs free (there is no duct on face +A1/rear)";
    expect(why(others)).toBe(`no way leads from P to D: crossing N1 ${free}; crossing N2 ${free}`);
    expect(why([...others, between])).toBe(
      "no way leads from P to D: crossing N5 hangs free (enclosure +A7 is not in the design)",
    );
    const four = ["N4", "N3", "N2", "N1"].map((tag) => hanging(tag, "+A1", "+A1/plate", "+A1/rear"));
    expect(why(four)).toBe(
      `no way leads from P to D: crossing N1 ${free}; crossing N2 ${free}; crossing N3 ${free}; and 1 more crossings hang free`,
    );
    expect(why([{ ...between, enclosure: "+A1", from: { duct: "Z" } }])).toContain("duct Z is not in the design");
  });
});

describe("cut length in figures", () => {
  const rules = rulesFor(SHOP_RULES, {}).routes;
  const end = (tailMm: number, onDoor = false) => ({ tailMm, onDoor });
  const nm = (from: number, way: number, to: number, loops = 0) => ({
    entryFromNm: from * 1e6,
    wayNm: way * 1e6,
    entryToNm: to * 1e6,
    loopsNm: loops * 1e6,
  });

  test("every term by itself", () => {
    const { lengthMm, terms } = cutLength(nm(11, 500, 22, 250), end(3), end(4, true), 16, 8.1, {
      ...rules,
      reservePercent: 10,
    });
    // 11 + 500 + 22 + 250 + 3 + 4 + 30 + 60 + 2 × 32.4 = 944.8; a tenth of it 94.48: 1039.28
    expect(terms).toEqual({
      entryFrom: 11,
      way: 500,
      wideFrom: 0,
      wideTo: 0,
      entryTo: 22,
      loops: 250,
      tailFrom: 3,
      tailTo: 4,
      slackFrom: 30,
      slackTo: 60,
      bendFrom: 32.4,
      bendTo: 32.4,
      reserve: 94.48,
      raise: 0,
      rounding: 0.72,
    });
    expect(lengthMm).toBe(1040);
  });

  test("bending counts from the size of the rule on, and not without a size", () => {
    const bend = (size: number | null, outer: number | null) =>
      cutLength(nm(0, 100, 0), end(0), end(0), size, outer, rules).terms.bendFrom;
    expect([bend(10, 6.8), bend(9.996, 6.8), bend(9.99, 6.8), bend(null, 6.8), bend(16, null)]).toEqual([
      27.2, 27.2, 0, 0, 0,
    ]);
  });

  test("the shortest lead is reached with the reserve, and rounded like any other", () => {
    const short = (mm: number, more: object = {}) =>
      cutLength(nm(0, mm, 0), end(0), end(0), 1, 2.8, { ...rules, ...more });
    expect([short(60).lengthMm, short(60).terms.raise, short(59).terms.raise]).toEqual([120, 0, 1]);
    expect(short(40, { reservePercent: 20 }).terms).toMatchObject({ reserve: 20, raise: 0 });
    expect(short(10, { shortestLeadMm: 122 })).toMatchObject({ lengthMm: 125, terms: { raise: 52, rounding: 3 } });
  });

  test("sixteenths of an inch and thirds of a millimetre cost no step", () => {
    const cut = (way: number, stepMm: number) =>
      cutLength({ ...nm(0, 0, 0), wayNm: Math.round(way * 1e6) }, end(0), end(0), 1, 2.8, {
        ...rules,
        slackMm: 0,
        shortestLeadMm: 0,
        stepMm,
      }).lengthMm;
    expect([cut(1.5875 * 400, 1.5875), cut(635.0001, 1.5875), cut(635.0002, 1.5875)]).toEqual([635, 635, 636.5875]);
    // Three thirds, each rounded down by a third of a nanometre, or two thirds rounded up.
    expect(cut(200 + 3 * 0.333333, 1)).toBe(201);
    expect(cut(200 + 1.5 * 0.666667, 1)).toBe(201);
    expect([cut(385, 5), cut(385.0001, 5), cut(385.0002, 5)]).toEqual([385, 385, 390]);
  });
});

describe("the way in words", () => {
  test("names a duct that is only crossed at a joint, and agrees with the exits of the pins", () => {
    // W2, upright, stands between the ends of W1 and W3: the wire crosses it in one point of its centre line.
    const r = make({
      parts: [pinned("U", { exit: "up" }), pinned("V", { exit: "down" })],
      ducts: [
        { tag: "W1", length: 300 },
        { tag: "W2", run: "up", x: 300, y: 0, length: 40 },
        { tag: "W3", x: 340, length: 300 },
      ],
      devices: [at("-A", "V", 100, 120), at("-B", "U", 500, -60)],
      wires: [wire("-A", "-B"), wire("-B", "-A")],
    });
    expect(ways(r)).toEqual([400, 400]);
    expect(words(r)).toBe("down into W1, right along W1, through W2, right along W3, down to -B");
    expect(words(r, 1)).toBe("up into W3, left along W3, through W2, left along W1, up to -A");
  });
});
