import fc from "fast-check";
import type { Design, Duct, NetClass, Part } from "../design/model";
import { rulesFor, SHOP_RULES } from "../design/rules";
import { compute as panel } from "../panel/compute";
import { randomDesigns } from "../test/random-design";
import { tapeLengths } from "../test/tape";
import { BARE, DOT, dot, enclosure, tiny, wire } from "../test/tiny";
import { compute } from "./compute";
import { explain } from "./explain";
import type { PieceEdge, RoutesResult, WireRoute } from "./result";
import { liesOf, stepsOf, stretchesOf, wayInWords, wiresAtWorst, wiresIn } from "./way";

const route = (design: Design): RoutesResult => compute(design, SHOP_RULES, panel(design));
const only = (design: Design): WireRoute => route(design).wires[0]!;
const lengths = (design: Design): (number | null)[] => route(design).wires.map((w) => w.lengthMm);

const PIN = DOT.pins![0]!;
const withExit = (number: string, exit: "up" | "down" | "left" | "right", more: object = {}): Part => ({
  ...DOT,
  number,
  pins: [{ ...PIN, exit, ...more }],
});

describe("joints", () => {
  // Centre lines: a flat duct at y has its centre at y + 20, an upright one at x has it at x + 20.
  const across = (flat: Partial<Duct>, upright: Partial<Duct>, to: [number, number]) =>
    only(
      tiny({
        ducts: [
          { run: "right", ...flat },
          { run: "up", ...upright },
        ],
        devices: [dot("-A", 100, 20), dot("-B", ...to)],
        wires: [wire("-A", "-B")],
        rules: BARE,
      }),
    );

  test("a tee extends the shorter reach square to the other centre line", () => {
    // Flat duct ends at x = 300, where the upright one begins: 20 mm of extension to its centre at 320.
    const w = across({ length: 300 }, { x: 300, y: 0, length: 400 }, [320, 400]);
    expect(w.terms!.way).toBe(200 + 20 + 380);
  });

  test("ducts within the join gap are joined and the gap counts", () => {
    expect(across({ length: 295 }, { x: 300, y: 0, length: 400 }, [320, 400]).terms!.way).toBe(195 + 25 + 380);
  });

  test("ducts beyond the join gap are not joined; facing ends up to the watch gap get an open point", () => {
    const design = tiny({
      ducts: [{ length: 288 }, { run: "up", x: 300, length: 400 }],
      devices: [dot("-A", 100, 20), dot("-B", 320, 400)],
      wires: [wire("-A", "-B")],
      rules: BARE,
    });
    const result = route(design);
    expect(result.wires[0]!.lengthMm).toBeNull();
    expect(result.wires[0]!.noWay).toBe("no way leads from W1 to W2: W1 and W2 stand 12 mm apart");
    expect(result.open.map((p) => [p.severity, p.kind])).toEqual([
      ["stop", "no way"],
      ["check", "gap between ducts"],
    ]);
  });

  test("ducts side by side at the same distance, whose ends look elsewhere, get no open point", () => {
    const result = route(tiny({ ducts: [{ y: 0 }, { y: 52 }] }));
    expect(result.open.filter((p) => p.kind === "gap between ducts")).toEqual([]);
  });

  test("ends that meet in line are joined", () => {
    const w = only(
      tiny({
        ducts: [{ length: 300 }, { x: 303, length: 300 }],
        devices: [dot("-A", 100, 20), dot("-B", 500, 20)],
        wires: [wire("-A", "-B")],
        rules: BARE,
      }),
    );
    expect(w.terms!.way).toBe(400);
  });

  test("ducts of different height: the step counts", () => {
    const low: Part = {
      number: "L",
      maker: "m",
      text: "low",
      category: "duct",
      w: 2000,
      h: 40,
      d: 40,
      duct: { innerW: 36, innerH: 34 },
    };
    const w = only(
      tiny({
        parts: [low],
        ducts: [{ length: 300 }, { run: "up", x: 300, length: 400, part: "L" }],
        devices: [dot("-A", 100, 20), dot("-B", 320, 400)],
        wires: [wire("-A", "-B")],
        rules: BARE,
      }),
    );
    expect(w.terms!.way).toBe(600 + 10);
  });
});

describe("leaving a pin", () => {
  const leave = (exit: "up" | "down" | "left" | "right", ducts: Partial<Duct>[], more = {}) =>
    route(
      tiny({
        parts: [withExit("X", exit, more)],
        ducts,
        devices: [{ tag: "-A", part: "X", on: { face: "+A1/plate", x: 95, y: 195 } }, dot("-B", 400, 20)],
        wires: [wire("-A", "-B")],
        rules: BARE,
      }),
    );

  test("straight to the first duct in the exit direction, though another is nearer", () => {
    const result = leave("up", [{ y: 0 }, { y: 320 }, { run: "up", x: 500, y: 0, length: 360 }]);
    const w = result.wires[0]!;
    expect(w.from!.entry).toMatchObject({ x: 100, y: 340, planeMm: 140, heightMm: 0 });
    expect(w.marks).toEqual([]);
    expect(wayInWords(result, w)).toBe("up into W2, right along W2, down along W3, left along W1, to -B");
  });

  test("nothing met within reach: nearest duct, marked, with an open point", () => {
    const result = leave("up", [{ y: 0 }]);
    expect(result.wires[0]!.marks).toEqual(["exit-met-nothing", "round-body"]);
    expect(result.open.map((p) => p.kind)).toEqual(["exit meets no duct"]);
  });

  test("a duct just inside the reach is met, one just outside is not", () => {
    const far = (y: number) => {
      const ducts: Partial<Duct>[] = [{ y: 0 }, { y }, { run: "up", x: 500, y: 0, length: 640 }];
      return leave("up", ducts).wires[0]!.from!;
    };
    expect(far(600).entry!.y).toBe(620);
    expect(far(600).marks).toEqual(["nearer-duct"]);
    expect(far(600.1).entry!.y).toBe(20);
    expect(far(600.1).marks).toEqual(["exit-met-nothing", "round-body"]);
  });

  test("no position: the middle of the body, marked", () => {
    const part: Part = {
      ...DOT,
      number: "X",
      w: 60,
      h: 80,
      d: 54,
      pins: [{ name: "p", tail: 5, clamp: "screw" }],
    };
    const w = only(
      tiny({
        parts: [part],
        ducts: [{}],
        devices: [{ tag: "-A", part: "X", on: { face: "+A1/plate", x: 70, y: 160 } }, dot("-B", 400, 20)],
        wires: [wire("-A", "-B")],
        rules: BARE,
      }),
    );
    expect(w.marks).toEqual(["no-pin-geometry"]);
    expect([w.from!.x, w.from!.y, w.from!.z]).toEqual([100, 200, 27]);
  });

  test("height counts", () => {
    const w = leave("down", [{ y: 0 }], { z: 57 }).wires[0]!;
    expect(w.terms!.entryFrom).toBe(180 + 30);
  });

  test("a turned device turns its pin's direction with it", () => {
    const result = route(
      tiny({
        parts: [withExit("X", "right")],
        ducts: [{ y: 320 }],
        devices: [{ tag: "-A", part: "X", turn: 90, on: { face: "+A1/plate", x: 95, y: 195 } }, dot("-B", 400, 340)],
        wires: [wire("-A", "-B")],
        rules: BARE,
      }),
    );
    expect(result.wires[0]!.from).toMatchObject({ exit: "up" });
    expect(result.wires[0]!.marks).toEqual([]);
  });
});

describe("cut length", () => {
  const rules = rulesFor(SHOP_RULES, {});
  const base = { ducts: [{}], devices: [dot("-A", 50, 20), dot("-B", 373, 20)], wires: [wire("-A", "-B")] };

  test("slack at both ends, rounded up to the step", () => {
    const w = only(tiny(base));
    expect(w.terms).toMatchObject({ way: 323, slackFrom: 30, slackTo: 30, rounding: 2, raise: 0 });
    expect(w.lengthMm).toBe(385);
  });

  test("a sum on the step is not rounded further, whatever the fractions", () => {
    // 0.1 + 0.2 style sums must not go up a step.
    expect(only(tiny({ ...base, devices: [dot("-A", 50.1, 20), dot("-B", 370.1, 20)] })).lengthMm).toBe(380);
  });

  test("never shorter than the shortest lead", () => {
    const w = only(tiny({ ...base, devices: [dot("-A", 50, 20), dot("-B", 60, 20)] }));
    expect(w.lengthMm).toBe(120);
    expect(w.terms!.raise).toBe(50);
  });

  test("reserve is a share of the whole sum", () => {
    const w = only(tiny({ ...base, rules: { routes: { reservePercent: 10 } } }));
    expect(w.terms!.reserve).toBeCloseTo(38.3, 9);
    expect(w.lengthMm).toBe(425);
  });

  test("every working adds up to its length", () => {
    const result = route(tiny(base));
    const working = explain(result, { of: "length", wire: "1" }, rules.routes)!;
    expect(working.terms.reduce((s, t) => s + (t.value ?? 0), 0)).toBeCloseTo(385, 9);
  });

  test("a direct lead only when both parts allow it and it is short", () => {
    const free: Part = { ...DOT, number: "F", directLeads: true };
    const at = (x: number) =>
      tiny({
        parts: [free],
        ducts: [{ y: 500 }],
        devices: [
          { tag: "-A", part: "F", on: { face: "+A1/plate", x: 0, y: 0 } },
          { tag: "-B", part: "F", on: { face: "+A1/plate", x, y: 0 } },
        ],
        wires: [wire("-A", "-B")],
        rules: BARE,
      });
    expect(only(at(150)).marks).toEqual(["direct"]);
    expect(only(at(150)).terms!.way).toBe(150);
    expect(only(at(151)).marks).toEqual(["far-from-duct"]);
  });
});

describe("crossings", () => {
  const door = (to: { duct: string } | { face: string }) =>
    route(
      tiny({
        ducts: [
          { tag: "W1", x: 0, y: 0, length: 500 },
          { tag: "W2", face: "+A1/door", x: 100, y: 100, length: 500 },
        ],
        crossings: [
          {
            tag: "D1",
            kind: "hinge",
            from: { duct: "W1" },
            to,
            enclosure: "+A1",
            points: [
              { x: 100, y: 120, z: 373 },
              { x: 100, y: 120, z: 27 },
            ],
          },
        ],
        devices: [dot("-A", 300, 20), dot("-B", 400, 120, "+A1/door")],
        wires: [wire("-A", "-B")],
      }),
    );

  test("over the hinge: guided length, loop and the door's own slack", () => {
    const result = door({ duct: "W2" });
    const w = result.wires[0]!;
    expect(w.terms).toMatchObject({ way: 300 + 346 + 300, loops: 250, slackFrom: 30, slackTo: 60 });
    expect(wayInWords(result, w)).toBe("into W1, left along W1, over hinge D1, right along W2, to -B");
    expect(stretchesOf(result, w).map((s) => s.face)).toEqual(["+A1/plate", "+A1/door"]);
  });

  test("an end given as a face finds its nearest duct", () => {
    expect(door({ face: "+A1/door" }).wires[0]!.lengthMm).toBe(door({ duct: "W2" }).wires[0]!.lengthMm);
  });

  test("an end that reaches nothing hangs free, and the wire says so", () => {
    const result = door({ face: "+A1/left" });
    expect(result.wires[0]!.noWay).toBe(
      "no way leads from W1 to W2: crossing D1 hangs free (there is no duct on face +A1/left)",
    );
    expect(result.open.map((p) => p.kind)).toContain("crossing hangs free");
  });

  test("between neighbours, in the frame of the first", () => {
    const design = tiny({
      enclosures: [enclosure("+A1", { neighbourRight: "+A2" }), enclosure("+A2")],
      ducts: [
        { tag: "W1", x: 1500, length: 500 },
        { tag: "W2", face: "+A2/plate", x: 0, length: 500 },
      ],
      crossings: [
        {
          tag: "N1",
          kind: "wall",
          from: { duct: "W1" },
          to: { duct: "W2" },
          enclosure: "+A1",
          points: [
            { x: 2100, y: 120, z: 373 },
            { x: 2300, y: 120, z: 373 },
          ],
          loop: 0,
        },
      ],
      devices: [dot("-A", 1900, 20), dot("-B", 100, 20, "+A2/plate")],
      wires: [wire("-A", "-B")],
      rules: BARE,
    });
    expect(only(design).terms!.way).toBe(100 + 200 + 100);
  });
});

describe("classes and fill", () => {
  const ring: Partial<Duct>[] = [
    { tag: "low", y: 0, length: 1000 },
    { tag: "high", y: 500, length: 1000 },
    { tag: "left", run: "up", x: 0, y: 0, length: 540 },
    { tag: "right", run: "up", x: 960, y: 0, length: 540 },
  ];
  const nets = [
    { name: "drive", class: "drive" as const, colour: "BK" as const, sizeMm2: 16 },
    { name: "signal", class: "signal" as const, colour: "WH" as const, sizeMm2: 0.5 },
    { name: "earth", class: "earth" as const, sizeMm2: 4 },
  ];
  const corners = [dot("-A", 20, 60), dot("-B", 980, 60), dot("-C", 20, 300), dot("-D", 980, 300)];

  test("signal keeps out of ducts drive lies in, earth does not, whatever the order of wires", () => {
    const wires = [
      wire("-C", "-D", { net: "signal" }),
      wire("-A", "-B", { net: "drive" }),
      wire("-C", "-D", { net: "earth" }),
    ];
    const low = [dot("-A", 100, 20), dot("-B", 900, 20), dot("-C", 20, 200), dot("-D", 980, 200)];
    const result = route(tiny({ ducts: ring, nets, devices: low, wires }));
    const [signal, drive, earth] = result.wires;
    expect(wayInWords(result, drive!)).toContain("along low");
    expect(wayInWords(result, earth!)).toContain("along low");
    expect(wayInWords(result, signal!)).toContain("along high");
    expect(signal!.marks).toEqual(["detour-class"]);
    expect(result.open).toEqual([]);
  });

  test("a signal that begins beside drive goes the other way, and says what the shortest would take", () => {
    const wires = [wire("-A", "-B", { net: "drive" }), wire("-A", "-D", { net: "signal" })];
    const result = route(tiny({ ducts: ring, nets, devices: corners, wires, rules: BARE }));
    const signal = result.wires[1]!;
    // Shortest: down 40 beside drive, 960 along low, up 280. Clear of it: up 460, 960 along high, down 220.
    expect(signal.terms!.way).toBe(460 + 960 + 220);
    expect(signal.shortestMm).toBe(40 + 960 + 280);
    expect(signal.marks).toEqual(["detour-class"]);
    expect(result.open).toEqual([]);
  });

  test("where no way is clear, classes share: the one that chooses later says so, the other does not", () => {
    const devices = [
      dot("-A", 100, 20),
      dot("-B", 300, 20),
      dot("-C", 200, 20),
      dot("-D", 400, 20),
      dot("-E", 450, 20),
    ];
    const wires = [
      wire("-C", "-D", { net: "signal" }),
      wire("-A", "-B", { net: "drive" }),
      // Begins where drive is long over.
      wire("-D", "-E", { net: "signal" }),
    ];
    const result = route(tiny({ ducts: [{}], nets, devices, wires, rules: BARE }));
    expect(result.wires.map((w) => w.marks)).toEqual([["shared-duct"], [], []]);
    expect(result.open.map((p) => [p.severity, p.kind, p.of])).toEqual([["check", "classes share a duct", "1"]]);
  });

  test("alone in a duct kept for others: excluded, not shared", () => {
    const ducts: Partial<Duct>[] = [{ classes: ["drive"] }];
    const devices = [dot("-A", 100, 20), dot("-B", 300, 20)];
    const result = route(tiny({ ducts, nets, devices, wires: [wire("-A", "-B", { net: "signal" })], rules: BARE }));
    expect(result.wires[0]!.marks).toEqual(["excluded-duct"]);
    expect(result.open.map((p) => [p.severity, p.kind])).toEqual([["check", "duct kept for others"]]);
  });

  test("a duct kept for some classes is left to them", () => {
    const kept = ring.map((d) => (d.tag === "low" ? { ...d, classes: ["drive" as const] } : d));
    const result = route(
      tiny({
        ducts: kept,
        nets,
        devices: corners,
        wires: [wire("-A", "-B", { net: "signal" })],
        rules: BARE,
      }),
    );
    expect(wayInWords(result, result.wires[0]!)).toContain("along high");
    expect(result.wires[0]!.marks).toEqual(["detour-class"]);
  });

  test("wires that only pass leave a full duct until it is at its limit", () => {
    const wires = Array.from({ length: 30 }, () => wire("-A", "-B", { net: "drive" }));
    const result = route(tiny({ ducts: ring, nets, devices: corners, wires, rules: BARE }));
    const full = result.edges.filter((e): e is PieceEdge => e.kind === "piece" && e.duct === "low" && e.wires > 0);
    expect(Math.max(...full.map((p) => p.fillPercent))).toBeLessThanOrEqual(70);
    const round = result.wires.filter((w) => w.marks.includes("detour-fill"));
    expect(round.length).toBe(30 - full[0]!.wires);
    expect(round[0]!.shortestMm).toBeLessThan(round[0]!.terms!.way);
    expect(
      lengths(tiny({ ducts: ring, nets, devices: corners, wires, rules: { routes: { detourMostMm: 0 } } })).every(
        (l, _, all) => l === all[0],
      ),
    ).toBe(true);
  });

  test("fill is the sum of the wires' areas over the inside of the duct", () => {
    const result = route(
      tiny({
        ducts: [{}],
        nets,
        devices: [dot("-A", 100, 20), dot("-B", 300, 20)],
        wires: [wire("-A", "-B", { net: "drive" }), wire("-A", "-B", { net: "signal" })],
        rules: BARE,
      }),
    );
    const piece = result.edges[0] as PieceEdge;
    expect(piece.fillPercent).toBeCloseTo(((Math.PI / 4) * (8.1 ** 2 + 2.5 ** 2) * 100) / (36 * 54), 2);
    expect(wiresIn(result, 0).map((w) => w.id)).toEqual(["1", "2"]);
  });
});

// ---- properties on random panels -------------------------------------------------------------------

const MARGIN = 700;

const LOW: Part = { ...DOT, number: "L", category: "duct", w: 2000, h: 40, d: 40, duct: { innerW: 36, innerH: 34 } };

const bars = fc.uniqueArray(fc.record({ n: fc.integer({ min: 0, max: 6 }), low: fc.boolean(), twin: fc.boolean() }), {
  minLength: 1,
  maxLength: 4,
  selector: (b) => b.n,
});

const pinPlaces = {
  x: fc.integer({ min: 0, max: 760 }),
  y: fc.integer({ min: 0, max: 760 }),
  exit: fc.constantFrom("up", "down", "left", "right", "out"),
  z: fc.constantFrom(27, 27, 12.5, 60),
  door: fc.constantFrom(false, false, true),
};

/**
 * A grid of ducts on the plate and one on the door, of two heights, some with another beside them; pins
 * scattered about both at several heights; crossings from one to the other. Every duct is joined to some other.
 */
const panels = fc
  .record({
    flats: bars,
    uprights: bars,
    door: fc.record({ flats: bars, uprights: bars }),
    crossings: fc.array(
      fc.record({ from: fc.nat(20), to: fc.nat(20), t: fc.integer({ min: 0, max: 760 }), loop: fc.nat(200) }),
      { maxLength: 3 },
    ),
    pins: fc.array(fc.record(pinPlaces), { minLength: 2, maxLength: 7 }),
    pairs: fc.array(fc.tuple(fc.nat(20), fc.nat(20)), { minLength: 1, maxLength: 8 }),
  })
  .map(({ flats, uprights, door, crossings, pins, pairs }) => {
    type Bars = typeof flats;
    // The door's frame lies 100 mm left of and below the plate's.
    const laid = (face: string, sign: string, margin: number, h: Bars, v: Bars): (Duct & { face: string })[] =>
      [
        ...h.map((b) => ({ b, run: "right" as const, name: `${sign}H${b.n}`, x: margin, y: margin + b.n * 120 })),
        ...v.map((b) => ({ b, run: "up" as const, name: `${sign}V${b.n}`, x: margin + b.n * 120, y: margin })),
      ].flatMap(({ b, run, name, x, y }) => {
        const duct = { tag: name, face, run, x, y, length: 760, part: b.low ? "L" : "D" };
        const beside = run === "right" ? { y: y + 40, x: x + 80 } : { x: x + 40, y: y + 80 };
        return b.twin ? [duct, { ...duct, ...beside, tag: `${name}b`, length: 640 }] : [duct];
      });
    return {
      ducts: laid("+A1/plate", "", MARGIN, flats, uprights),
      doorDucts: laid("+A1/door", "D", MARGIN + 100, door.flats, door.uprights),
      crossings,
      pins,
      pairs: pairs.map(([a, b]) => [a % pins.length, b % pins.length] as const).filter(([a, b]) => a !== b),
    };
  });

type Panel = typeof panels extends fc.Arbitrary<infer T> ? T : never;

/** The plate alone, its ducts joined at crossings of grid lines only. */
const plain = (p: Panel): Panel => ({
  ...p,
  ducts: p.ducts.filter((d) => !d.tag.endsWith("b")).map((d) => ({ ...d, part: "D" })),
  doorDucts: [],
  crossings: [],
  pins: p.pins.map((pin) => ({ ...pin, door: false, z: 27 })),
});

const PARTS = (["up", "down", "left", "right", "out"] as const).flatMap((exit) =>
  [27, 12.5, 60].map((z): Part => ({ ...DOT, number: `${exit} ${z}`, pins: [{ ...PIN, exit, z }] })),
);

function build(
  p: Panel,
  change: {
    shift?: [number, number];
    mirror?: boolean;
    swap?: boolean;
    more?: (Partial<Duct> & { face: string })[];
  } = {},
): Design {
  const [sx, sy] = change.shift ?? [0, 0];
  const widths: Record<string, number> = { "+A1/plate": 2000, "+A1/door": 2200 };
  const mirrorX = (face: string, x: number, w: number): number => (change.mirror ? widths[face]! - x - w : x);
  const flip: Record<string, string> = { left: "right", right: "left" };
  const all = [...p.ducts, ...p.doorDucts];
  return tiny({
    parts: [LOW, ...PARTS],
    ducts: [...all, ...(change.more ?? [])].map((d) => ({
      ...d,
      x: mirrorX(d.face, d.x!, d.run === "right" ? d.length! : 40) + sx,
      y: d.y! + sy,
    })),
    crossings: p.crossings.flatMap(({ from, to, t, loop }, i) => {
      if (p.doorDucts.length === 0) return [];
      // From a place on one duct square over to the centre line of the other.
      const [a, b] = [p.ducts[from % p.ducts.length]!, p.doorDucts[to % p.doorDucts.length]!];
      const at = (d: Duct, off: number) =>
        d.run === "right" ? [d.x + t + off, d.y + 20 + off] : [d.x + 20 + off, d.y + t + off];
      const [[ax, ay], [bx, by]] = [at(a, 100), at(b, 0)] as [[number, number], [number, number]];
      const x = (v: number): number => (change.mirror ? 2200 - v : v) + sx;
      return [
        {
          tag: `C${i}`,
          kind: "hinge" as const,
          from: { duct: a.tag },
          to: { duct: b.tag },
          enclosure: "+A1",
          points: [
            { x: x(ax), y: ay + sy, z: 373 },
            { x: x(ax), y: ay + sy, z: 100 },
            { x: x(bx), y: ay + sy, z: 100 },
            { x: x(bx), y: by + sy, z: 100 },
            { x: x(bx), y: by + sy, z: 27 },
          ],
          loop,
        },
      ];
    }),
    devices: p.pins.map(({ exit, z, x, y, door }, i) => {
      const [face, margin] = door ? ["+A1/door", MARGIN + 100] : ["+A1/plate", MARGIN];
      return {
        tag: `-K${i}`,
        part: `${change.mirror ? (flip[exit] ?? exit) : exit} ${z}`,
        on: {
          face,
          x: mirrorX(face as string, (margin as number) + x - 5, 10) + sx,
          y: (margin as number) + y - 5 + sy,
        },
      };
    }),
    wires: p.pairs.map(([a, b]) => (change.swap ? wire(`-K${b}`, `-K${a}`) : wire(`-K${a}`, `-K${b}`))),
    rules: { routes: { detourMostMm: 0 } },
  });
}

const RUNS = { numRuns: 150, seed: 2601 };

/** How often a property met what it is about: what was not met was not tested. */
function tally(...names: string[]) {
  const met = new Map(names.map((n) => [n, 0]));
  return {
    count: (name: string, yes = true): void => void (yes && met.set(name, met.get(name)! + 1)),
    expectEach: (least: number): void =>
      expect([...met].filter(([, n]) => n < least).map(([name, n]) => `${name}: ${n}`)).toEqual([]),
  };
}

/** A point of a wire's end in the space of its enclosure. */
const inSpace = ({ face, x, y, z }: { face: string; x: number; y: number; z: number }): [number, number, number] =>
  face.endsWith("plate") ? [x + 100, y + 100, 400 - z] : [x, y, z];

describe("properties", () => {
  test("a length is at least the straight-line distance of its pins", () => {
    const met = tally("one face", "two faces");
    fc.assert(
      fc.property(panels, (p) => {
        const result = route(build(p));
        for (const w of result.wires) {
          if (!w.terms) continue;
          const [a, b] = [inSpace(w.from!), inSpace(w.to!)];
          const t = w.terms;
          const straight = Math.hypot(...a.map((v, i) => v - b[i]!));
          expect(t.entryFrom + t.way + t.entryTo + 1e-9).toBeGreaterThanOrEqual(straight);
          met.count("one face", w.from!.face === w.to!.face);
          met.count("two faces", w.from!.face !== w.to!.face);
        }
      }),
      RUNS,
    );
    met.expectEach(20);
  });

  test("mirrored, shifted and end-swapped designs give the same lengths", () => {
    fc.assert(
      fc.property(panels, fc.integer({ min: -600, max: 400 }), fc.integer({ min: -600, max: 400 }), (p, sx, sy) => {
        const plain = lengths(build(p));
        expect(lengths(build(p, { mirror: true }))).toEqual(plain);
        expect(lengths(build(p, { shift: [sx, sy] }))).toEqual(plain);
        expect(lengths(build(p, { swap: true }))).toEqual(plain);
      }),
      RUNS,
    );
  });

  test("swapped ends take the same way", () => {
    fc.assert(
      fc.property(panels, (p) => {
        const [one, two] = [route(build(p)), route(build(p, { swap: true }))];
        const lies = (r: RoutesResult, w: WireRoute) =>
          liesOf(r, w)
            .map((l) => `${l.edge} ${l.fromMm} ${l.toMm}`)
            .sort();
        one.wires.forEach((w, i) => expect(lies(one, w)).toEqual(lies(two, two.wires[i]!)));
      }),
      RUNS,
    );
  });

  test("another duct never lengthens a shortest way", () => {
    fc.assert(
      fc.property(panels.map(plain), fc.integer({ min: 0, max: 6 }), (p, n) => {
        // Pins leave by the nearest duct of the first panel; the new duct lies where no pin meets it first.
        const face = "+A1/plate";
        const more = [
          { tag: "new", face, run: "right" as const, x: MARGIN, y: MARGIN + 840 + n * 40, length: 760 },
          { tag: "newV", face, run: "up" as const, x: MARGIN + 760, y: MARGIN, length: 1200 },
        ];
        const before = route(build(p));
        const after = route(build(p, { more }));
        before.wires.forEach((w, i) => {
          const now = after.wires[i]!;
          const same = (a: WireRoute["from"], b: WireRoute["from"]): boolean =>
            a!.entry!.x === b!.entry!.x && a!.entry!.y === b!.entry!.y;
          if (same(w.from, now.from) && same(w.to, now.to)) expect(now.terms!.way).toBeLessThanOrEqual(w.terms!.way);
        });
      }),
      RUNS,
    );
  });

  test("the terms and the steps add up to the length", () => {
    const rules = rulesFor(SHOP_RULES, {});
    fc.assert(
      fc.property(panels, (p) => {
        const result = route(build(p));
        for (const w of result.wires) {
          if (!w.terms) continue;
          expect(Object.values(w.terms).reduce((a, b) => a + b, 0)).toBeCloseTo(w.lengthMm!, 6);
          const steps = stepsOf(result, w).reduce((s, x) => s + x.mm, 0);
          expect(steps).toBeCloseTo(w.terms!.entryFrom + w.terms!.way + w.terms!.entryTo, 6);
          const working = explain(result, { of: "length", wire: w.id }, rules.routes)!;
          expect(working.terms.reduce((s, t) => s + (t.value ?? 0), 0)).toBeCloseTo(w.lengthMm!, 6);
        }
      }),
      RUNS,
    );
  });

  test("the same design gives the same bytes", () => {
    fc.assert(
      fc.property(panels, (p) => {
        expect(JSON.stringify(route(build(p)))).toBe(
          JSON.stringify(route(JSON.parse(JSON.stringify(build(p))) as Design)),
        );
      }),
      { ...RUNS, numRuns: 30 },
    );
  });

  test("no way that visits no place twice is shorter: all of them tried, on a network of its own", () => {
    const met = tally("crossing", "joint", "loop", "no length");
    fc.assert(
      fc.property(
        randomDesigns.filter((d) => d.ducts.length <= 6),
        (drawn) => {
          const design = { ...drawn, wires: drawn.wires.slice(0, 4) };
          const tape = tapeLengths(design, true);
          const result = route(design);
          for (const w of result.wires) {
            expect(`${w.id} ${w.lengthMm}`).toBe(`${w.id} ${tape.get(w.id)}`);
            const kinds = w.way?.edges.map((e) => result.edges[e]!.kind) ?? [];
            met.count("crossing", kinds.includes("crossing"));
            met.count("joint", kinds.includes("joint"));
            met.count("loop", (w.terms?.loops ?? 0) > 0);
            met.count("no length", w.lengthMm === null);
          }
        },
      ),
      RUNS,
    );
    met.expectEach(5);
  });
});

// ---- properties of the choice of ways: classes, fill, connection ------------------------------------

const CLASS_NETS = [
  { name: "d", class: "drive" as const, colour: "BK" as const, sizeMm2: 16 },
  { name: "s", class: "signal" as const, colour: "WH" as const, sizeMm2: 0.5 },
  { name: "c", class: "control" as const, colour: "BU" as const, sizeMm2: 1.5 },
];

/** The random panel with every wire many times over and in different classes, so that ducts fill up. */
const crowded = fc
  .record({
    panel: panels,
    copies: fc.integer({ min: 1, max: 25 }),
    nets: fc.array(fc.constantFrom("d", "s", "c"), { minLength: 8, maxLength: 8 }),
  })
  .map(({ panel: p, copies, nets }) => {
    const design = build(p);
    const wires = design.wires.flatMap((w, i) =>
      Array.from({ length: copies }, (_, c) => ({ ...w, net: nets[i % nets.length]!, number: `${w.number}-${c}` })),
    );
    return { ...design, nets: CLASS_NETS, wires, rules: {} };
  });

/** Where the wires of a class lie: per piece, stretches in mm from its start. */
const stretches = (result: RoutesResult, wires: readonly WireRoute[]) => wires.flatMap((w) => liesOf(result, w));

const beside = (result: RoutesResult, w: WireRoute, others: ReturnType<typeof stretches>): boolean =>
  liesOf(result, w).some((l) => others.some((o) => o.edge === l.edge && o.fromMm < l.toMm && l.fromMm < o.toMm));

const ofClass = (result: RoutesResult, cls: string) =>
  stretches(
    result,
    result.wires.filter((w) => w.class === cls),
  );

describe("properties of the choice of ways", () => {
  test("a signal lies together with drive only where it is marked to", () => {
    const met = tally("apart", "led apart", "shared", "shared after a detour");
    fc.assert(
      fc.property(crowded, (design) => {
        const result = route({ ...design, rules: { routes: { detourMostMm: 0 } } });
        const drive = ofClass(result, "drive");
        for (const w of result.wires.filter((x) => x.class === "signal" && x.way)) {
          const shared = w.marks.includes("shared-duct");
          expect(beside(result, w, drive)).toBe(shared);
          met.count("apart", !shared && drive.length > 0);
          met.count("led apart", !shared && w.marks.includes("detour-class"));
          met.count("shared", shared);
          met.count("shared after a detour", shared && w.marks.includes("detour-class"));
        }
      }),
      { ...RUNS, numRuns: 80 },
    );
    met.expectEach(20);
  });

  test.each([["drive"], ["signal"]] as const)(
    "leaving full ducts keeps %s as far from the other as it was",
    (first) => {
      const met = tally("moved", "moved signal", "moved drive");
      const apart: [NetClass, NetClass][] = [first === "drive" ? ["drive", "signal"] : ["signal", "drive"]];
      fc.assert(
        fc.property(crowded, (design) => {
          const thick = { ...design, nets: CLASS_NETS.map((n) => ({ ...n, sizeMm2: 16 })) };
          const before = route({ ...thick, rules: { routes: { apart, detourMostMm: 0 } } });
          const after = route({ ...thick, rules: { routes: { apart } } });
          after.wires.forEach((w, i) => {
            const was = before.wires[i]!;
            if (JSON.stringify(w.way) === JSON.stringify(was.way)) return;
            met.count("moved");
            if (w.class !== "signal" && w.class !== "drive") return;
            met.count(`moved ${w.class}`);
            const foes = (r: RoutesResult) => ofClass(r, w.class === "signal" ? "drive" : "signal");
            if (!beside(before, was, foes(before))) expect(beside(after, w, foes(after))).toBe(false);
          });
        }),
        { ...RUNS, numRuns: 40 },
      );
      met.expectEach(10);
    },
  );

  test("the fill of every piece is what lies at its worst place", () => {
    const met = tally("empty", "ok", "watch", "over", "worst is not all");
    fc.assert(
      fc.property(crowded, (design) => {
        const result = route(design);
        const lies = result.wires.flatMap((w) => liesOf(result, w).map((l) => ({ ...l, w })));
        result.edges.forEach((e, i) => {
          if (e.kind !== "piece") return;
          const here = lies.filter((l) => l.edge === i);
          expect(e.wires).toBe(new Set(here.map((l) => l.w)).size);
          // The load changes only where a wire begins or ends: just after each beginning is enough.
          const loads = here.map(({ fromMm }) => {
            const there = here.filter((o) => o.fromMm <= fromMm && fromMm < o.toMm);
            return { wires: there.length, mm2: there.reduce((s, o) => s + (Math.PI / 4) * o.w.outerMm! ** 2, 0) };
          });
          const most = Math.max(0, ...loads.map((l) => l.mm2));
          expect(e.usedMm2).toBeCloseTo(most, 1);
          expect(e.fillPercent).toBeCloseTo((most * 100) / e.insideMm2, 1);
          expect(e.state).toBe(e.fillPercent > 70 ? "over" : e.fillPercent >= 55 ? "watch" : "ok");
          met.count(e.wires === 0 ? "empty" : e.state);
          met.count("worst is not all", (e.worst?.wires ?? e.wires) < e.wires);
          if (e.worst) {
            expect(e.worst.wires).toBe(wiresAtWorst(result, i).length);
            expect(loads.some((l) => l.wires === e.worst!.wires && Math.abs(l.mm2 - most) < 1e-6)).toBe(true);
          } else expect(here).toEqual([]);
        });
      }),
      { ...RUNS, numRuns: 60 },
    );
    met.expectEach(3);
  });

  test("detours stay within their limit, and fill no duct beyond its own", () => {
    const met = tally("detour 300", "detour 2000", "still over", "no longer over");
    fc.assert(
      fc.property(crowded, fc.constantFrom(300, 2000), (design, detourMostMm) => {
        const before = route({ ...design, rules: { routes: { detourMostMm: 0 } } });
        const result = route({ ...design, rules: { routes: { detourMostMm } } });
        for (const w of result.wires.filter((x) => x.marks.includes("detour-fill"))) {
          const t = w.terms!;
          expect(t.entryFrom + t.way + t.entryTo + t.loops - w.shortestMm!).toBeLessThanOrEqual(detourMostMm + 1e-6);
          met.count(`detour ${detourMostMm}`);
        }
        result.edges.forEach((e, i) => {
          const was = before.edges[i]!;
          if (e.kind !== "piece" || was.kind !== "piece") return;
          if (e.fillPercent > 70) expect(e.fillPercent).toBeLessThanOrEqual(was.fillPercent);
          met.count("still over", e.fillPercent > 70);
          met.count("no longer over", was.fillPercent > 70 && e.fillPercent <= 70);
        });
      }),
      { ...RUNS, numRuns: 60 },
    );
    met.expectEach(10);
  });

  test("every way hangs together: each edge begins where the one before it ended", () => {
    const met = tally("beside at its start", "beside at its end", "crossing");
    fc.assert(
      fc.property(crowded, (design) => {
        const result = route(design);
        for (const w of result.wires) {
          if (!w.way || w.way.first < 0) continue;
          // The piece it lies in once it has stepped aside.
          const inPiece = (end: WireRoute["from"], aside: number[] | undefined) =>
            result.edges[aside?.[aside.length - 1] ?? end!.entry!.edge]!;
          const start = inPiece(w.from, w.way.start);
          expect([start.a, start.b]).toContain(w.way.first);
          met.count("beside at its start", w.way.start !== undefined);
          met.count("beside at its end", w.way.end !== undefined);
          met.count("crossing", w.terms!.loops > 0);
          let node = w.way.first;
          for (const e of w.way.edges) {
            const edge = result.edges[e]!;
            expect([edge.a, edge.b]).toContain(node);
            node = edge.a === node ? edge.b : edge.a;
          }
          const end = inPiece(w.to, w.way.end);
          expect([end.a, end.b]).toContain(node);
        }
      }),
      { ...RUNS, numRuns: 60 },
    );
    met.expectEach(3);
  });

  test("a wire has no way exactly when its ducts are not joined", () => {
    // The same grids with the upright ducts pulled away: flat ducts hang alone, each a part of its own.
    fc.assert(
      fc.property(panels, (p) => {
        const design = build({ ...plain(p), ducts: plain(p).ducts.filter((d) => d.run === "right") });
        const result = route(design);
        for (const w of result.wires) {
          const ductAt = (e: WireRoute["from"]): string => (result.edges[e!.entry!.edge] as PieceEdge).duct;
          expect(w.lengthMm !== null).toBe(ductAt(w.from) === ductAt(w.to));
          if (w.lengthMm === null)
            expect(w.noWay).toMatch(/^no way leads from H\d to H\d: H\d and H\d stand \d+ mm apart$/);
        }
      }),
      { ...RUNS, numRuns: 60 },
    );
  });
});
