import fc from "fast-check";
import type { Design, Device, Part } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { EDITS } from "../edits";
import { compute as panel } from "../panel/compute";
import { BARE, DOT, dot, enclosure, tiny, wire, type TinyOptions } from "../test/tiny";
import { compute } from "./compute";
import { openWay } from "./open-space";
import type { RoutesResult, WireRoute } from "./result";
import { swing } from "./swing";
import { stretchesOf, wayInWords } from "./way";

/** What a tape finds outside the ducts: ways over and round bodies, doors that swing, wide ducts. */

const route = (design: Design): RoutesResult => compute(design, SHOP_RULES, panel(design));
const make = (o: TinyOptions): RoutesResult => route(tiny({ rules: BARE, ...o }));
const only = (r: RoutesResult): WireRoute => r.wires[0]!;
const sum = ({ terms: t }: WireRoute): number => t!.entryFrom + t!.way + t!.entryTo;

/** A relay 20 × 100 mm, 80 deep, its pins 3 mm from the upper and lower edge and 60 up. */
const RELAY: Part = {
  ...DOT,
  number: "K",
  w: 20,
  h: 100,
  d: 80,
  directLeads: true,
  pins: [
    { ...DOT.pins![0]!, name: "p", x: 10, y: 97, z: 60, exit: "up" },
    { ...DOT.pins![0]!, name: "q", x: 10, y: 3, z: 60, exit: "down" },
  ],
};
const relay = (tag: string, x: number, y: number): Partial<Device> => ({
  tag,
  part: "K",
  on: { face: "+A1/plate", x, y },
});
const across = { from: { device: "-K1", pin: "p" }, to: { device: "-K1", pin: "q" } };

describe("direct leads", () => {
  test("between the upper and the lower pin of one relay: round it, or over its front where that is shorter", () => {
    // Over the front 3 up, 20 out, 100 down, 20 in, 3 up; round the side 3 + 10 + 100 + 10 + 3.
    const alone = only(make({ parts: [RELAY], devices: [relay("-K1", 500, 500)], wires: [across] }));
    expect([alone.terms!.way, alone.marks]).toEqual([126, ["direct", "direct-over"]]);
    expect(wayInWords(make({ parts: [RELAY], devices: [relay("-K1", 500, 500)], wires: [across] }), alone)).toBe(
      "round -K1 to -K1",
    );
    // Between neighbours 4 mm off no lead passes; 5 mm off it does.
    const row = (gap: number) =>
      make({
        parts: [RELAY],
        devices: [-1, 0, 1].map((i) =>
          relay(`-K${i + 1 || 9}`.replace("-K1", i === 0 ? "-K1" : "-K8"), 500 + i * (20 + gap), 500),
        ),
        wires: [across],
      });
    expect(only(row(4)).terms!.way).toBe(146);
    expect(wayInWords(row(4), only(row(4)))).toBe("over the front to -K1");
    expect(only(row(5)).terms!.way).toBe(126);
    // Seen from the front the lead over it is a line down the middle.
    expect(stretchesOf(row(4), only(row(4)))).toMatchObject([
      { points: [{ y: 597 }, { y: 600 }, { y: 600 }, { y: 500 }, { y: 500 }, { y: 503 }] },
    ]);
  });

  test("a body between two pins, and a duct that is shorter than the way over it", () => {
    const wall: Part = { ...DOT, number: "L", w: 600, h: 20, d: 90, pins: [] };
    const ends = [
      { tag: "-A", part: "F", on: { face: "+A1/plate", x: 495, y: 465 } },
      { tag: "-B", part: "F", on: { face: "+A1/plate", x: 495, y: 525 } },
    ];
    const flat: Part = { ...DOT, number: "F", directLeads: true, d: 27 };
    const over = (more: TinyOptions = {}) =>
      make({
        parts: [wall, flat],
        devices: [...ends, { tag: "-L", part: "L", on: { face: "+A1/plate", x: 200, y: 490 } }],
        wires: [wire("-A", "-B")],
        ...more,
      });
    // 60 apart, from 27 up to 90 and back: 60 + 126.
    expect([only(over()).terms!.way, only(over()).open!.devices]).toEqual([186, ["-L"]]);
    // W1 runs by both pins, its centre line 85 aside and as high: 85 + 60 + 85 = 230 is longer; 60 aside it is 180.
    const beside = (x: number) => over({ ducts: [{ run: "up", x, y: 300, length: 400 }] });
    expect([sum(only(beside(395))), only(beside(395)).marks]).toEqual([186, ["direct", "direct-over"]]);
    expect([sum(only(beside(420))), only(beside(420)).marks]).toEqual([180, []]);
  });
});

describe("bodies before a duct", () => {
  const up: Part = { ...DOT, number: "U", pins: [{ ...DOT.pins![0]!, exit: "up" }] };
  const block = (w: number, d: number): Part => ({ ...DOT, number: "B", w, h: 40, d, pins: [] });
  const row = (w: number, d: number, x: number) =>
    make({
      parts: [up, block(w, d)],
      ducts: [{ y: 600, length: 1000 }],
      devices: [
        { tag: "-A", part: "U", on: { face: "+A1/plate", x: 495, y: 395 } },
        { tag: "-L", part: "B", on: { face: "+A1/plate", x, y: 500 } },
        dot("-Z", 800, 620),
      ],
      wires: [wire("-A", "-Z")],
    });

  test("a body above it is gone round by the nearer side, or over its front", () => {
    // Straight 220. Sides at 450 and 530: 30 to the right and back. Over the front of 35: 8 out and in again.
    expect([only(row(80, 90, 450)).terms!.entryFrom, only(row(80, 90, 450)).marks]).toEqual([280, ["round-others"]]);
    expect(only(row(80, 35, 450)).terms!.entryFrom).toBe(236);
    expect(wayInWords(row(80, 90, 450), only(row(80, 90, 450)))).toBe("up past -L into W1, right along W1, to -Z");
    // Lower than the pin, or beside it: nothing.
    expect([only(row(80, 27, 450)).terms!.entryFrom, only(row(80, 27, 450)).marks]).toEqual([220, []]);
    expect(only(row(80, 90, 500.1)).marks).toEqual([]);
  });
});

test("among more bodies than are looked at a lead goes over the highest of the face, and says so", () => {
  // 450 bodies on one spot before the pin: 220 straight, and 33 out and in again, as the cover of the duct is 60 up.
  const heap = Array.from({ length: 450 }, (_, i) => ({
    tag: `-H${i}`,
    part: "P",
    on: { face: "+A1/plate", x: 495, y: 500 },
  }));
  const up: Part = { ...DOT, number: "U", pins: [{ ...DOT.pins![0]!, exit: "up" }] };
  const r = make({
    parts: [up],
    ducts: [{ y: 600, length: 1000 }],
    devices: [{ tag: "-A", part: "U", on: { face: "+A1/plate", x: 495, y: 395 } }, dot("-Z", 800, 620), ...heap],
    wires: [wire("-A", "-Z")],
  });
  expect([only(r).terms!.entryFrom, only(r).marks]).toEqual([286, ["round-others", "crowded-bodies"]]);
});

describe("the loop over a hinge", () => {
  const door = (x: number, body: Partial<Design["enclosures"][number]>, loop?: number, held?: [number, number]) =>
    tiny({
      rules: { routes: { ...BARE.routes, doorOpenDeg: 120, loopHingeMm: 100 } },
      enclosures: [enclosure("+A1", { hinge: "left", ...body })],
      ducts: [
        { tag: "P", length: 2000 },
        { tag: "D", face: "+A1/door", y: 100, length: 2000 },
      ],
      crossings: [
        {
          tag: "C",
          kind: "hinge",
          from: { duct: "P" },
          to: { duct: "D" },
          enclosure: "+A1",
          points: [
            { x, y: 120, z: 373 },
            { x, y: 120, z: 200 },
            { x, y: 120, z: 27 },
          ],
          ...(loop === undefined ? {} : { loop }),
          ...(held ? { held } : {}),
        },
      ],
      devices: [dot("-A", 100, 20), dot("-B", 100, 120, "+A1/door")],
      wires: [wire("-A", "-B")],
    });
  const loops = (d: Design): number => only(route(d)).terms!.loops;
  const stops = (d: Design): string[] =>
    route(d)
      .open.filter((p) => p.severity === "stop")
      .map((p) => p.text);

  test("is what the swing needs less what is guided, and the shop's figure on top", () => {
    // 300 from the hinge: 774.41 apart at 120°, 346 guided; see the document.
    expect(loops(door(300, {}))).toBeCloseTo(774.4132 - 346 + 100, 3);
    // Open by 90° √(273² + 673²).
    expect(loops(door(300, { opensDeg: 90 }))).toBeCloseTo(Math.hypot(273, 673) - 346 + 100, 6);
    // The same 300 from a hinge on the right.
    expect(loops(door(1900, { hinge: "right" }))).toBeCloseTo(774.4132 - 346 + 100, 3);
    // An axis before the door and beside it, 10 out and 20 to the left: 320 aside, 37 and 383 in.
    const [a, b] = [Math.hypot(320, 37), Math.hypot(320, 383)];
    const angle = Math.atan2(383, 320) - Math.atan2(37, 320) + (2 * Math.PI) / 3;
    const moved = Math.sqrt(a * a + b * b - 2 * a * b * Math.cos(angle));
    expect(loops(door(300, { hingeAxis: { x: -20, z: -10 } }))).toBeCloseTo(moved - 346 + 100, 6);
    // Held at its second point on the body: 300 aside and 200 in, 173 guided between the two.
    expect(loops(door(300, { opensDeg: 90 }, undefined, [2, 3]))).toBeCloseTo(Math.hypot(273, 500) - 173 + 100, 6);
  });

  test("a loop of its own that is too short is a stop that says what is missing, and its mend makes it fit", () => {
    expect(stops(door(300, {}, 429))).toEqual([]);
    const short = door(300, {}, 250);
    // 774.42 − 346 − 250 = 178.42: whole millimetres, upwards.
    expect(stops(short)).toEqual([
      "crossing C: its door, open by 120°, needs 775 mm between the places where the bundle is held; 346 mm are guided and its loop is 250 mm: 179 mm are missing",
    ]);
    const { mend } = route(short).open.find((p) => p.severity === "stop")!;
    const applied = EDITS.apply(short, { kind: mend!.kind, payload: mend!.payload });
    expect(stops((applied as { design: Design }).design)).toEqual([]);
    expect(loops((applied as { design: Design }).design)).toBe(529);
  });

  test("held at a point that is not there: the last one is taken, and said", () => {
    const d = door(300, { opensDeg: 90 }, undefined, [2, 9]);
    expect(loops(d)).toBeCloseTo(Math.hypot(273, 500) - 173 + 100, 6);
    expect(route(d).open.map((p) => p.text)).toEqual([
      "crossing C is held at point 9, and has 3; its last point is taken",
    ]);
  });

  test("without a side the nearer one is taken, and said", () => {
    const blind = door(300, {});
    delete blind.enclosures[0]!.hinge;
    expect(loops(blind)).toBeCloseTo(774.4132 - 346 + 100, 3);
    expect(only(route(blind)).marks).toEqual(["hinge-guessed"]);
    expect(route(blind).open.map((p) => p.kind)).toEqual(["side of the hinge not stated"]);
  });

  test("no opening of the door asks for more: swung by twentieths of a degree", () => {
    const mm = fc.integer({ min: 0, max: 900 });
    let inside = 0;
    fc.assert(
      fc.property(
        fc.array(mm, { minLength: 7, maxLength: 7 }),
        fc.integer({ min: 0, max: 270 }),
        fc.boolean(),
        (v, open, left) => {
          const [ax, az, x1, y1, z1, x2, z2] = v as [number, number, number, number, number, number, number];
          const axis = { x: left ? -ax / 30 : 900 + ax / 30, z: -az / 30 };
          const [a, b] = [
            { x: x1, y: y1, z: z1 / 9 },
            { x: x2, y: 400, z: z2 },
          ];
          const { need, atDeg } = swing(axis, a, b, left ? "left" : "right", open);
          let most = 0;
          for (let i = 0; i <= open * 20; i++) {
            const t = (((left ? -1 : 1) * i) / 20 / 180) * Math.PI;
            const [dx, dz] = [a.x - axis.x, a.z - axis.z];
            const x = axis.x + dx * Math.cos(t) - dz * Math.sin(t);
            const z = axis.z + dx * Math.sin(t) + dz * Math.cos(t);
            most = Math.max(most, Math.hypot(x - b.x, a.y - b.y, z - b.z));
          }
          expect(need).toBeGreaterThanOrEqual(most - 1e-6);
          expect(need - most).toBeLessThan(0.01);
          if (atDeg > 0 && atDeg < open) inside++;
        },
      ),
      { seed: 412, numRuns: 200 },
    );
    expect(inside).toBeGreaterThan(30);
  });
});

describe("wide ducts and thick wires", () => {
  const WIDE: Part = {
    ...DOT,
    number: "V",
    category: "duct",
    w: 2000,
    h: 104,
    d: 60,
    pins: [],
    duct: { innerW: 100, innerH: 54 },
  };
  const led = (ends: [string, number, number][], size = 1) =>
    only(
      make({
        parts: [WIDE],
        ducts: [{ y: 200, length: 1000, part: "V" }],
        devices: ends.map(([tag, x, y]) => dot(tag, x, y)),
        wires: [wire("-A", "-B", { sizeMm2: size })],
      }),
    ).terms!;

  test("each end gets half of what its duct is wider than 60 mm, unless the wire only crosses it", () => {
    // 100 inside: 20 an end. Both from below; one from below and one from above.
    expect(
      led([
        ["-A", 100, 100],
        ["-B", 600, 100],
      ]),
    ).toMatchObject({ entryFrom: 152, way: 500, wideFrom: 20, wideTo: 20 });
    expect(
      led([
        ["-A", 100, 100],
        ["-B", 600, 400],
      ]),
    ).toMatchObject({ entryTo: 148, wideFrom: 0, wideTo: 0 });
    // A pin on the centre line enters by neither side.
    expect(
      led([
        ["-A", 100, 252],
        ["-B", 600, 400],
      ]),
    ).toMatchObject({ wideFrom: 20, wideTo: 20 });
  });

  test("from 6 mm² on a wire changes ducts that lie side by side at their ends alone", () => {
    // W1 and W2 share 100 to 500; A enters W1 below at 300, B W2 above at 300: side by side 40 apart.
    const beside = (sizeMm2: number) =>
      only(
        make({
          ducts: [
            { tag: "W1", x: 0, y: 200, length: 500 },
            { tag: "W2", x: 100, y: 240, length: 600 },
          ],
          devices: [dot("-A", 300, 150), dot("-B", 300, 330)],
          wires: [wire("-A", "-B", { sizeMm2 })],
        }),
      ).terms!;
    expect(beside(4).way).toBe(40);
    // To 100 or to 500 and back: 200 each way.
    expect(beside(6).way).toBe(440);
  });
});

test("two stumps that touch are passed over as one for a network within reach that is more than three times as long", () => {
  const island = (length: number) =>
    make({
      ducts: [
        { tag: "S", x: 60, y: 60, length: 80 },
        { tag: "T", x: 140, y: 60, length: 40 },
        { tag: "W1", y: 300, length },
        { tag: "W2", run: "up", x: length - 40, y: 340, length: 100 },
      ],
      devices: [dot("-A", 100, 110), dot("-B", 240, 320)],
      wires: [wire("-A", "-B")],
    });
  // S and T are 120 together; W1 and W2 260 + 100 are not more than 360, 261 + 100 are.
  expect(only(island(260)).noWay).toBe("no way leads from S to W1: S and W1 stand 200 mm apart");
  expect([sum(only(island(261))), only(island(261)).marks]).toEqual([210 + 140, ["stump-passed"]]);
});

test("a pin far outside its body is measured from there, and says so", () => {
  const behind: Part = { ...DOT, number: "N", pins: [{ ...DOT.pins![0]!, z: -500 }] };
  const r = make({
    parts: [behind],
    ducts: [{}],
    devices: [{ tag: "-A", part: "N", on: { face: "+A1/plate", x: 95, y: 15 } }, dot("-B", 400, 20)],
    wires: [wire("-A", "-B")],
  });
  expect([only(r).terms!.entryFrom, only(r).marks]).toEqual([527, ["pin-off-body"]]);
});

test("ducts that a way only steps through behind a crossing are named", () => {
  // The crossing ends in M, from which W3 is reached at the same place: M is no stretch of the way.
  const r = make({
    ducts: [
      { tag: "P" },
      { tag: "M", face: "+A1/left", x: 0, y: 100, length: 100 },
      { tag: "W3", face: "+A1/left", run: "up", x: 100, y: 0, length: 400 },
    ],
    crossings: [
      {
        tag: "N",
        kind: "edge",
        from: { duct: "P" },
        to: { duct: "M" },
        enclosure: "+A1",
        points: [
          { x: 200, y: 120, z: 373 },
          { x: 27, y: 120, z: 400 },
        ],
      },
    ],
    devices: [dot("-A", 100, 20), dot("-B", 120, 300, "+A1/left")],
    wires: [wire("-A", "-B")],
  });
  expect(wayInWords(r, only(r))).toBe("into P, round edge N, through M, up along W3, to -B");
});

test("openWay: straight without blocks, and the bends of the way it takes", () => {
  const box = { outline: { x: 0, y: 0, w: 10, h: 10 }, top: 5 };
  const [a, b] = [
    { x: -5, y: 5, z: 1 },
    { x: 15, y: 5, z: 1 },
  ];
  expect(openWay(a, b, [], 0)).toEqual({ nm: 20, points: [a, b] });
  // Over: 4 up and 4 down. Round: 5 aside and 5 back.
  expect(openWay(a, b, [box], 0)).toEqual({ nm: 28, points: [a, { ...a, z: 5 }, { ...b, z: 5 }, b] });
  expect(openWay(a, b, [{ ...box, top: 9 }], 0).nm).toBe(30);
  // Beyond 64 blocks the way over the front counts, and says so.
  const slices = Array.from({ length: 65 }, (_, i) => ({ outline: { x: i * 2, y: 0, w: 1, h: 10 }, top: 5 }));
  expect(openWay(a, { ...b, x: 200 }, slices, 0)).toMatchObject({ nm: 213, cut: true });
  expect(openWay(a, { ...b, x: 200 }, slices.slice(1), 0).cut).toBeUndefined();
  expect(openWay(b, a, [{ ...box, top: 9 }], 0).points.reverse()).toEqual(
    openWay(a, b, [{ ...box, top: 9 }], 0).points,
  );
});
