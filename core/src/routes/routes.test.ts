import type { Design, Duct, Part } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute as panel } from "../panel/compute";
import { BARE, DOT, dot, enclosure, tiny, wire } from "../test/tiny";
import { compute } from "./compute";
import { explain } from "./explain";
import type { PieceEdge, RoutesResult, WireRoute } from "./result";
import { stretchesOf, wayInWords, wiresIn } from "./way";

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
    const design = tiny(base);
    const result = route(design);
    const working = explain(result, { of: "length", wire: "1" }, { design, shop: SHOP_RULES })!;
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
    // Its pins look out and lie 13 below the front: 150 aside, 13 out and 13 in.
    expect(only(at(150)).marks).toEqual(["direct", "direct-over"]);
    expect(only(at(150)).terms!.way).toBe(176);
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
    expect(w.terms).toMatchObject({ way: 300 + 346 + 300, slackFrom: 30, slackTo: 60 });
    // Held 100 from the hinge: at 120° the two places look away from each other, all but 0.12°, and stand 489.75 mm
    // apart; 346 are guided, and 100 come on top.
    expect(w.terms!.loops).toBeCloseTo(489.75 - 346 + 100, 2);
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
