import { searchPattern } from "./wildcards";
import fc from "fast-check";
import { awgMm2, endTreatment, nearestAwg, outerOf, resolve, twinTooLarge } from "../wiring/conductors";
import { describe as describeValue } from "./faults";
import { bodyAt, facesOf, onBody, overlaps, rowPlaces, toFace, toSpace, turnExit, turnPoint, within } from "./geometry";
import { canonicalJson } from "./canonical";
import { contentHash } from "./hash";
import { landingsOf, samePin } from "../wiring/landings";
import { holds, lookUp, mountOf } from "./lookup";
import type { Design, Exit, Part, Turn } from "./model";
import { countPoints, OpenPoints, sortPoints, type NewPoint } from "./open-points";
import { byText, mapBy, oneOf } from "./order";
import { rulesFor, SHOP_RULES } from "../shop/rules";
import type { EndTreatment } from "./model";
import { sameSize, toMm, toNm } from "./tolerance";
import { ALL_DRAWN, runs } from "../test/runs";
import { enclosure, tiny, dot, wire } from "../test/tiny";

describe("faces", () => {
  const faces = facesOf({
    enclosures: [enclosure("+A1", { neighbourRight: "+A2" }), enclosure("+A2")],
    faces: [],
  });
  const coordinate = fc.double({ min: -3000, max: 3000, noNaN: true });

  test("going to space and back is nothing", () => {
    fc.assert(
      fc.property(fc.constantFrom(...faces.values()), coordinate, coordinate, coordinate, (face, x, y, z) => {
        const back = toFace(face, toSpace(face, { x, y, z }));
        expect([back.x, back.y, back.z].map((v, i) => Math.abs(v - [x, y, z][i]!) < 1e-6)).toEqual([true, true, true]);
      }),
      { seed: 3 },
    );
  });

  test("z points into the enclosure from every face but the plate, whose z points to the door", () => {
    const middle = { x: 1100, y: 1100, z: 250 };
    for (const kind of ["door", "left", "right", "roof", "base", "rear"])
      expect(toFace(faces.get(`+A1/${kind}`)!, middle).z).toBeGreaterThan(0);
    expect(toFace(faces.get("+A1/plate")!, { ...middle, z: 0 }).z).toBe(400);
  });

  test("each face is seen from outside: its right is to the right", () => {
    // Front corner of the left side lies at the right end of the left face, and so on.
    expect(toFace(faces.get("+A1/left")!, { x: 0, y: 0, z: 0 })).toMatchObject({ x: 500, y: 0 });
    expect(toFace(faces.get("+A1/right")!, { x: 2200, y: 0, z: 0 })).toMatchObject({ x: 0, y: 0 });
    expect(toFace(faces.get("+A1/rear")!, { x: 0, y: 0, z: 500 })).toMatchObject({ x: 2200, y: 0 });
  });

  // Enclosure 2200 × 2200 × 500, plate 2000 × 2000 set back 400; the point 10, 20 on the face, 3 off it.
  test.each([
    ["plate", { x: 110, y: 120, z: 397 }],
    ["door", { x: 10, y: 20, z: 3 }],
    ["left", { x: 3, y: 20, z: 490 }],
    ["right", { x: 2197, y: 20, z: 10 }],
    ["roof", { x: 10, y: 2197, z: 20 }],
    ["base", { x: 10, y: 3, z: 480 }],
    ["rear", { x: 2190, y: 20, z: 497 }],
  ])("a point of the %s in space, and back", (kind, at) => {
    const face = faces.get(`+A1/${kind}`)!;
    expect(toSpace(face, { x: 10, y: 20, z: 3 })).toEqual(at);
    expect(toFace(face, at)).toEqual({ x: 10, y: 20, z: 3 });
    expect(toSpace(faces.get(`+A2/${kind}`)!, { x: 10, y: 20, z: 3 })).toEqual({ ...at, x: at.x + 2200 });
  });

  test("every face has its size, and a design may correct it", () => {
    const size = (d: Pick<Design, "enclosures" | "faces">, id: string) => {
      const f = facesOf(d).get(id);
      return f && [f.w, f.h];
    };
    const enclosures = [enclosure("+A1", { w: 800, h: 2000, d: 500 })];
    const plain = { enclosures, faces: [] };
    const kinds = ["plate", "door", "left", "right", "roof", "base", "rear"];
    expect(kinds.map((k) => size(plain, `+A1/${k}`))).toEqual([
      [2000, 2000],
      [800, 2000],
      [500, 2000],
      [500, 2000],
      [800, 500],
      [800, 500],
      [800, 2000],
    ]);
    const faces = [
      { enclosure: "+A1", kind: "door" as const, w: 790 },
      { enclosure: "+A1", kind: "roof" as const, h: 480 },
      { enclosure: "+A9", kind: "base" as const, h: 1 },
    ];
    const own = { enclosures, faces };
    expect([size(own, "+A1/door"), size(own, "+A1/roof"), size(own, "+A1/base")]).toEqual([
      [790, 2000],
      [800, 480],
      [800, 500],
    ]);
    const { plate: _none, ...bare } = enclosures[0]!;
    expect(size({ enclosures: [bare], faces: [] }, "+A1/plate")).toBeUndefined();
  });

  test("rows: from the left, a ring cut at its lowest tag, a neighbour of two with the lower one", () => {
    const at = (...list: [tag: string, w: number, right?: string][]) =>
      [...rowPlaces(list.map(([tag, w, right]) => enclosure(tag, { w, ...(right ? { neighbourRight: right } : {}) })))]
        .map(([tag, p]) => `${tag} ${p.row} ${p.x}`)
        .sort();
    expect(at(["+C", 500], ["+B", 600, "+C"], ["+A", 700, "+B"])).toEqual(["+A +A 0", "+B +A 700", "+C +A 1300"]);
    expect(at(["+B", 600, "+C"], ["+C", 500, "+B"])).toEqual(["+B +B 0", "+C +B 600"]);
    expect(at(["+C", 600, "+D"], ["+B", 500, "+D"], ["+D", 100])).toEqual(["+B +B 0", "+C +C 0", "+D +B 500"]);
    expect(at(["+A", 600, "+X"], ["+B", 500])).toEqual(["+A +A 0", "+B +B 0"]);
    expect(at(["+A", 600, "+A"])).toEqual(["+A +A 0"]);
  });

  test("a neighbour stands to the right in the same space", () => {
    expect(toSpace(faces.get("+A2/plate")!, { x: 0, y: 0, z: 0 })).toEqual({ x: 2300, y: 100, z: 400 });
  });
});

test("four quarter turns bring a pin back, and each keeps its distance from the middle", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 0, max: 300 }),
      fc.integer({ min: 0, max: 300 }),
      (w, h, x, y) => {
        const at = (turn: Turn) => onBody(bodyAt({ x: 0, y: 0 }, w, h, turn, 0), { x, y, z: 0 });
        const far = (p: { x: number; y: number }) => p.x * p.x + p.y * p.y;
        expect(far(at(90))).toBeCloseTo(far(at(0)), 6);
        expect([at(180).x + at(0).x, at(180).y + at(0).y]).toEqual([0, 0]);
        expect([at(90).x, at(90).y]).toEqual([-at(0).y + 0, at(0).x]);
      },
    ),
    { seed: 5 },
  );
  const turns: Turn[] = [0, 90, 180, 270];
  const turned = (exit: Exit) => turns.map((t) => turnExit(exit, t));
  expect(turned("up")).toEqual(["up", "left", "down", "right"]);
  expect(turned("right")).toEqual(["right", "up", "left", "down"]);
  expect(turned("down")).toEqual(["down", "right", "up", "left"]);
  expect(turned("left")).toEqual(["left", "down", "right", "up"]);
  expect(turned("out")).toEqual(["out", "out", "out", "out"]);
  expect(turns.map((t) => turnPoint({ x: 3, y: 5 }, t))).toEqual([
    { x: 3, y: 5 },
    { x: -5, y: 3 },
    { x: -3, y: -5 },
    { x: 5, y: -3 },
  ]);
});

test("outlines overlap and lie within by more than what is let pass", () => {
  const a = { x: 0, y: 0, w: 10, h: 10 };
  const at = (x: number, y: number, w = 10, h = 10) => ({ x, y, w, h });
  expect([at(10, 0), at(-10, 0), at(0, 10), at(0, -10)].map((b) => overlaps(a, b))).toEqual(Array(4).fill(false));
  expect([at(9, 0), at(-9, 0), at(0, 9), at(0, -9)].map((b) => overlaps(a, b))).toEqual(Array(4).fill(true));
  expect([at(9, 0), at(-9, 0), at(0, 9), at(0, -9)].map((b) => overlaps(a, b, 1))).toEqual(Array(4).fill(false));
  expect([at(8, 0), at(-8, 0), at(0, 8), at(0, -8)].map((b) => overlaps(a, b, 1))).toEqual(Array(4).fill(true));
  const outs = [at(-1, 0), at(0, -1), at(1, 0), at(0, 1)];
  expect([within(a, a), ...outs.map((b) => within(b, a)), ...outs.map((b) => within(b, a, 1))]).toEqual([
    true,
    false,
    false,
    false,
    false,
    true,
    true,
    true,
    true,
  ]);
});

describe("conductors", () => {
  test("colour and size: wire, then net, then the job's class, then the shop's, then the wire type", () => {
    const shop = { earth: { colour: "GNYE" as const, sizeMm2: 2.5 } };
    const job = { earth: { colour: "BK" as const, sizeMm2: 4 } };
    const w = { number: "1" };
    const net = { name: "n", class: "earth" as const };
    const type = { wire: { sizeMm2: 6, outer: 5, colour: "WH" } } as Part;
    expect(resolve("colour", { ...w, colour: "RD" }, { ...net, colour: "BU" }, type, job, shop)).toEqual({
      value: "RD",
      origin: "wire",
    });
    expect(resolve("colour", w, { ...net, colour: "BU" }, type, job, shop)).toEqual({ value: "BU", origin: "net" });
    expect(resolve("colour", w, net, type, job, shop)).toEqual({ value: "BK", origin: "job class" });
    expect(resolve("colour", w, net, type, {}, shop)).toEqual({ value: "GNYE", origin: "shop class" });
    expect(resolve("colour", w, net, type, {}, {})).toEqual({ value: "WH", origin: "wire type" });
    expect(resolve("sizeMm2", w, { name: "n" }, type, job, shop)).toEqual({ value: 6, origin: "wire type" });
    expect(resolve("sizeMm2", w, net, type, { drive: { sizeMm2: 9 } }, shop)).toEqual({
      value: 2.5,
      origin: "shop class",
    });
    expect(resolve("sizeMm2", w, undefined, undefined, job, shop)).toBeNull();
  });

  test("outer diameters: the type's own, the table's, next larger, beyond the table", () => {
    const rules = rulesFor(SHOP_RULES, {});
    const source = "EN 50525-2-31, upper limit, single core PVC";
    const type = { number: "WT", wire: { sizeMm2: 1.5, outer: 3 } } as Part;
    expect(outerOf(1.5, type, rules)).toEqual({ mm: 3, source: "wire type WT", fallback: false });
    expect(outerOf(1.5, { number: "P" } as Part, rules)).toEqual({ mm: 3.4, source, fallback: false });
    expect(outerOf(1.504, undefined, rules)).toEqual({ mm: 3.4, source, fallback: false });
    expect(outerOf(1.506, undefined, rules)).toEqual({ mm: 4.1, source, fallback: true });
    expect(outerOf(0.2, undefined, rules)).toEqual({ mm: 2.5, source, fallback: true });
    // Four times the area, twice the diameter.
    expect(outerOf(380, undefined, rules)).toEqual({ mm: 36.4, source: `${source}, extended`, fallback: true });
    const sizes = [0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95];
    expect(sizes.map((s) => outerOf(s, undefined, rules).mm)).toEqual([
      2.5, 2.7, 2.8, 3.4, 4.1, 4.8, 5.3, 6.8, 8.1, 10.2, 11.7, 13.9, 16, 18.2,
    ]);
  });

  test("gauges by ASTM B258", () => {
    expect(awgMm2(14)).toBeCloseTo(2.08096, 4);
    expect(awgMm2(-1)).toBeCloseTo(67.43, 2);
    expect([2.5, 0.5, 70, 53.5, 42.4, 107].map(nearestAwg)).toEqual(["13", "20", "2/0", "1/0", "1", "4/0"]);
  });

  // The shop's rules one by one, at their bounds.
  test.each<[string | undefined, "fine" | "solid" | "stranded", boolean, number, EndTreatment | null]>([
    ["plug", "fine", false, 1.5, "plug"],
    ["plug", "solid", true, 300, "plug"],
    ["stud", "fine", false, 6, "ring"],
    ["stud", "solid", true, 95.004, "ring"],
    ["stud", "solid", false, 95.006, "bare"],
    ["stud", "fine", false, 120, null],
    ["screw", "solid", false, 1.5, "bare"],
    ["push-in", "solid", true, 1.5, "bare"],
    ["screw", "fine", true, 16, "twin ferrule"],
    ["screw", "fine", true, 16.006, "ferrule"],
    ["push-in", "fine", true, 1.5, "twin ferrule"],
    ["spring", "fine", true, 1.5, "ferrule"],
    ["screw", "fine", false, 1.5, "ferrule"],
    ["push-in", "fine", false, 50, "ferrule"],
    ["spring", "fine", false, 50.006, null],
    ["screw", "fine", false, 70, null],
    ["screw", "stranded", false, 1.5, "bare"],
    ["screw", "stranded", true, 70, "bare"],
    ["spring", "stranded", false, 1.5, "bare"],
    ["push-in", "stranded", false, 1.5, null],
    [undefined, "fine", false, 1.5, null],
    [undefined, "solid", false, 1.5, null],
  ])("end treatment under %s, %s, pair %s, %d mm²: %s", (clamp, strand, twin, sizeMm2, end) => {
    expect(endTreatment(rulesFor(SHOP_RULES, {}), { clamp, strand, twin, sizeMm2 })).toBe(end);
  });

  test("a rule may ask for a least size; the job's rules come first", () => {
    const rules = rulesFor(SHOP_RULES, { ends: [{ clamp: "screw", sizeMinMm2: 10, end: "fork" }] });
    const ask = (sizeMm2: number) => endTreatment(rules, { clamp: "screw", strand: "fine", twin: false, sizeMm2 });
    expect([ask(9.99), ask(9.996), ask(10), ask(25)]).toEqual(["ferrule", "fork", "fork", "fork"]);
  });

  test("a pair is too large when every rule for such pairs ends below it", () => {
    const rules = rulesFor(SHOP_RULES, {
      ends: [
        { clamp: "spring", twin: true, sizeMaxMm2: 4, end: "twin ferrule" },
        { clamp: "spring", twin: true, sizeMaxMm2: 6, strand: "fine", end: "twin ferrule" },
      ],
    });
    const most = (clamp: string | undefined, sizeMm2: number, twin = true, strand: "fine" | "solid" = "fine") =>
      twinTooLarge(rules, { clamp, strand, twin, sizeMm2 });
    expect([most("screw", 16), most("screw", 25), most("screw", 25, false), most(undefined, 25)]).toEqual([
      null,
      16,
      null,
      null,
    ]);
    expect([most("spring", 10), most("spring", 6), most("spring", 10, true, "solid"), most("stud", 25)]).toEqual([
      6,
      null,
      4,
      null,
    ]);
  });

  test("what lands on a pin: leads and cores, a core that is listed as a wire once at each of its ends", () => {
    const [a, b, c] = ["-A", "-B", "-C"].map((device) => ({ device, pin: "p" }));
    const design = tiny({
      devices: [dot("-A", 0, 0), dot("-B", 50, 0), dot("-C", 90, 0)],
      parts: [{ ...tiny({}).parts[0]!, number: "CT", cable: { cores: 2, sizeMm2: 1.5, outer: 8 } }],
      wires: [wire("-A", "-B"), { ...wire("-A", "-C"), core: { cable: "-W1", core: "1" } }, { from: a! }],
    });
    design.cables = [
      {
        tag: "-W1",
        type: "CT",
        cores: [
          { core: "1", from: a!, to: b! },
          { core: "2", from: c!, sizeMm2: 4 },
        ],
      },
      { tag: "-W2", type: "?", cores: [{ core: "1", to: c! }] },
    ];
    const landed = landingsOf(lookUp(design), {});
    const on = (device: string) =>
      landed.get(`${device}\u0000p`)!.conductors.map((x) => `${x.cable ?? "lead"} ${x.of} ${x.sizeMm2}`);
    expect(on("-A")).toEqual(["lead 1 1", "lead 2 1", "lead 3 1"]);
    expect(on("-B")).toEqual(["lead 1 1", "-W1 1 1.5"]);
    expect(on("-C")).toEqual(["lead 2 1", "-W1 2 4", "-W2 1 null"]);
    expect([samePin(a, { ...a! }), samePin(a, b), samePin(a, { device: "-A", pin: "q" })]).toEqual([
      true,
      false,
      false,
    ]);
    expect([samePin(a, null), samePin(undefined, undefined)]).toEqual([false, false]);
  });
});

describe("the shop's rules with a job's on top", () => {
  test("each value of the job's, and the rest of the shop's", () => {
    const rules = rulesFor(SHOP_RULES, {
      routes: { slackMm: 40, loopWallMm: 7 },
      classes: { earth: { sizeMm2: 2.5 }, drive: { colour: "BK" } },
    });
    expect(rules.routes).toEqual({ ...SHOP_RULES.routes, slackMm: 40, loopWallMm: 7 });
    expect(rules.classes).toEqual({ earth: { colour: "GNYE", sizeMm2: 2.5 }, drive: { colour: "BK" } });
    expect([rules.outer, rules.ends]).toEqual([SHOP_RULES.outer, SHOP_RULES.ends]);
    expect(SHOP_RULES.classes).toEqual({ earth: { colour: "GNYE" } });
  });

  test("one loop for all crossings, as older files give it, yields to the loop of a kind", () => {
    const loops = (routes: object) => {
      const r = rulesFor(SHOP_RULES, { routes }).routes;
      return [r.loopHingeMm, r.loopWallMm, r.loopEdgeMm];
    };
    expect(loops({})).toEqual([100, 0, 0]);
    expect(loops({ crossingLoopMm: 90 })).toEqual([90, 90, 90]);
    expect(loops({ crossingLoopMm: 0, loopWallMm: 5 })).toEqual([0, 5, 0]);
  });

  test("the defaults of the documents", () => {
    expect(SHOP_RULES.routes).toEqual({
      slackMm: 30,
      slackDoorMm: 60,
      bendFromMm2: 10,
      bendDiameters: 4,
      wideFromMm: 60,
      loopHingeMm: 100,
      doorOpenDeg: 120,
      loopWallMm: 0,
      loopEdgeMm: 0,
      reservePercent: 0,
      stepMm: 5,
      shortestLeadMm: 120,
      reachMm: 400,
      corridorMm: 20,
      nearerMm: 100,
      crossingOffMm: 50,
      passGapMm: 5,
      stiffFromMm2: 6,
      joinGapMm: 5,
      watchGapMm: 20,
      directReachMm: 150,
      fillWatchPercent: 55,
      fillLimitPercent: 70,
      detourMostMm: 2000,
      apart: [["drive", "signal"]],
      pins: [
        { category: "operator", edge: "middle" },
        { category: "lamp", edge: "middle" },
        { category: "terminal", name: "a", edge: "upper" },
        { category: "terminal", name: "b", edge: "lower" },
        { name: "PE*", edge: "lower" },
        { name: "?L?", edge: "upper" },
        { name: "?T?", edge: "lower" },
        { category: "supply", name: "L*", edge: "lower" },
        { category: "supply", name: "N*", edge: "lower" },
        { category: "supply", name: "+*", edge: "upper" },
        { category: "supply", name: "-*", edge: "upper" },
        { category: "controller", edge: "lower" },
        { category: "module", edge: "lower" },
        { figure: "odd", edge: "upper" },
        { figure: "even", edge: "lower" },
      ],
    });
  });
});

describe("one order for all", () => {
  test("texts by code units, of several things the first by content", () => {
    expect(["b", "a", "B", "ä", "10", "9"].sort(byText)).toEqual(["10", "9", "B", "a", "b", "ä"]);
    expect([byText("a", "a"), byText("a", "b"), byText("b", "a")]).toEqual([0, -1, 1]);
    expect([oneOf([]), oneOf([3]), oneOf([{ b: 2 }, { a: 9 }, { b: 1 }])]).toEqual([undefined, 3, { a: 9 }]);
    const things = ["x", "y", "x", "z", "x"].map((name, i) => ({ name, n: [5, 1, 3, 2, 4][i] }));
    expect([...mapBy(things, (t) => t.name)]).toEqual([
      ["x", { name: "x", n: 3 }],
      ["y", { name: "y", n: 1 }],
      ["z", { name: "z", n: 2 }],
    ]);
  });

  test("two wires of one number: the first by content keeps it", () => {
    const design = tiny({ wires: [wire("-B", "-C"), wire("-A", "-C"), wire("-A", "-B")] });
    for (const w of design.wires.slice(0, 2)) w.number = "7";
    expect(lookUp(design).wires.map((w) => [w.id, w.index])).toEqual([
      ["7 (2)", 0],
      ["7", 1],
      ["3", 2],
    ]);
  });

  test("a mount or a slot given twice: the first by content", () => {
    const part = {
      mounts: [{ kind: "rail", datumY: 9 }, { kind: "plate" }, { kind: "rail", datumY: 3 }],
      slots: [
        { name: "s", x: 2, y: 0, z: 0 },
        { name: "s", x: 1, y: 0, z: 0 },
      ],
    } as Part;
    expect([mountOf(part, "rail"), mountOf(part, "slot"), mountOf({} as Part, "rail")]).toEqual([
      { kind: "rail", datumY: 3 },
      undefined,
      undefined,
    ]);
    const look = lookUp(tiny({}));
    expect([look.slot(part, "s")!.x, look.slot(part, "t"), look.slot({} as Part, "s")]).toEqual([
      1,
      undefined,
      undefined,
    ]);
    const pins = [
      { name: "p", x: 2 },
      { name: "p", x: 1 },
    ] as Part["pins"];
    const two = { pins } as Part;
    expect([look.pin(two, "p"), look.pin(two, "p"), look.pin(two, "q"), look.pin(part, "p")]).toEqual([
      { name: "p", x: 1 },
      { name: "p", x: 1 },
      undefined,
      undefined,
    ]);
  });

  test("open points: stops first, the same one once, several of one kind numbered by their texts", () => {
    const points = new OpenPoints("test");
    const point = (severity: NewPoint["severity"], of: string, text: string): NewPoint => ({
      severity,
      kind: "k",
      thing: "wire",
      of,
      text,
      remedy: "r",
    });
    for (const p of [point("note", "1", "n"), point("check", "2", "b"), point("check", "2", "a")]) points.add(p);
    for (const p of [point("stop", "3", "s"), point("check", "2", "b"), point("check", "4", "c")]) points.add(p);
    const list = points.list();
    expect(list.map((p) => `${p.stage} ${p.severity} ${p.id} ${p.text}`)).toEqual([
      "test stop test/k/wire/3 s",
      "test check test/k/wire/2 a",
      "test check test/k/wire/2/2 b",
      "test check test/k/wire/4 c",
      "test note test/k/wire/1 n",
    ]);
    expect(countPoints(list)).toEqual({ stop: 1, check: 3, note: 1 });
    expect(sortPoints([...list].reverse()).map((p) => p.severity)).toEqual(["stop", "check", "check", "check", "note"]);
  });

  test("the canonical text: keys sorted at every depth, holes filled, what is absent left out", () => {
    const value = { b: [{ z: 1, a: { d: null, c: 'ä"' } }, undefined, [true]], a: undefined, A: 1.5 };
    expect(canonicalJson(value)).toBe('{"A":1.5,"b":[{"a":{"c":"ä\\"","d":null},"z":1},null,[true]]}');
    expect([canonicalJson(undefined), canonicalJson(null), canonicalJson([]), canonicalJson({})]).toEqual([
      "null",
      "null",
      "[]",
      "{}",
    ]);
    // printf '{"a":{"b":[{"c":1,"d":2}]}}' | sha256sum, whatever the order of keys at any depth
    const hash = "6f19e8db77cfed755995faf9d6eaafe26ab2d303d4cedbf1d36da24b1a40a18b";
    expect(contentHash({ a: { b: [{ d: 2, c: 1 }] } })).toBe(contentHash({ a: { b: [{ c: 1, d: 2 }] } }));
    expect(contentHash({ a: { b: [{ d: 2, c: 1 }] } })).toBe(hash);
  });
});

test("millimetres are whole nanometres, sizes are equal below half a hundredth", () => {
  expect([toNm(1.5875), toNm(1 / 3), toNm(-0.1), toMm(1587500), toMm(toNm(2 / 3))]).toEqual([
    1_587_500, 333_333, -100_000, 1.5875, 0.666667,
  ]);
  expect([sameSize(1, 1.0049), sameSize(1, 1.0051), sameSize(1.0051, 1)]).toEqual([true, false, false]);
});

test("a value is described short, with its kind", () => {
  const long = "x".repeat(61);
  expect(
    [undefined, null, [], [1], [1, 2], {}, "a", long, long.slice(1), 12, true].map((v) => describeValue(v)),
  ).toEqual([
    "nothing",
    "null",
    "a list of 0 items",
    "a list of 1 item",
    "a list of 2 items",
    "an object",
    'text "a"',
    `text "${"x".repeat(60)}…"`,
    `text "${"x".repeat(60)}"`,
    "number 12",
    "true",
  ]);
});

test("conditions hold only with the chosen option", () => {
  const chosen = new Map([["lift", "fitted"]]);
  expect([
    holds(undefined, chosen),
    holds({ lift: "fitted" }, chosen),
    holds({ lift: ["no", "fitted"] }, chosen),
    holds({ lift: "no" }, chosen),
    holds({ other: "fitted" }, chosen),
  ]).toEqual([true, true, true, false, false]);
  const two = new Map([...chosen, ["light", "on"]]);
  expect([
    holds({ lift: "fitted", light: "on" }, two),
    holds({ lift: "fitted", light: "off" }, two),
    holds({ lift: "no", light: "on" }, two),
    holds({ lift: [], light: "on" }, two),
    holds({}, two),
  ]).toEqual([true, false, false, false, true]);
});

test("stars and question marks match as a walk through all ways says, and many of them cost nothing", () => {
  const brute = (text: string, wanted: string): boolean => {
    if (wanted === "") return text === "";
    if (wanted[0] === "*") return brute(text, wanted.slice(1)) || (text !== "" && brute(text.slice(1), wanted));
    return text !== "" && (wanted[0] === "?" || wanted[0] === text[0]) && brute(text.slice(1), wanted.slice(1));
  };
  const [texts, queries] = [
    fc.string({ unit: fc.constantFrom("a", "b"), maxLength: 7 }),
    fc.constantFrom("a", "b", "*", "?"),
  ];
  let fits = 0;
  fc.assert(
    fc.property(texts, fc.string({ unit: queries, maxLength: 6 }), (text, wanted) => {
      fc.pre(/[*?]/.test(wanted));
      const is = brute(text, wanted);
      if (is) fits++;
      expect(searchPattern(wanted).test(text)).toBe(is);
    }),
    { seed: 24, numRuns: runs(2000) },
  );
  expect(fits).toBeGreaterThanOrEqual(ALL_DRAWN ? 300 : 0);
  // As a pattern of an expression this goes through 60 over 20 ways.
  expect(searchPattern(`${"*a".repeat(20)}*b`).test("a".repeat(300))).toBe(false);
});
