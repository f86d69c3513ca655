import fc from "fast-check";
import type { Crossing, Design, Device, Duct, Exit, Part, Rail, Turn, Wire } from "../design/model";
import type { RuleOverrides } from "../shop/rules";
import { tiny, enclosure } from "./tiny";

/**
 * Random designs that have all of it: two cabinets side by side, plates, doors and a side wall, crossings
 * with rival ends, ducts of several heights square to each other, in line, side by side, with gaps and as
 * lone stumps; devices on faces, rails and in slots, turned; pins at all heights and with all exits.
 */

const duct = (number: string, h: number, d: number, inner: boolean): Part => ({
  number,
  maker: "m",
  text: "duct",
  category: "duct",
  w: 2000,
  h,
  d,
  stock: { place: "A", pack: 1 },
  ...(inner ? { duct: { innerW: h - 4, innerH: d - 7 } } : {}),
});

const EXITS: (Exit | undefined)[] = ["up", "down", "left", "right", "out", undefined];

/** Bodies with pins all over, some inside, some on the rim, one outside. */
const body = (number: string, w: number, h: number, d: number, more: Partial<Part>): Part => ({
  number,
  maker: "m",
  text: "device",
  category: "other",
  w,
  h,
  d,
  stock: { place: "A", pack: 1 },
  pins: [
    ...EXITS.map((exit, i) => ({
      name: `${exit ?? "any"}`,
      x: (w * (i + 1)) / 8,
      y: i % 2 === 0 ? h - 4 : 4,
      z: 10 * i + 2.5,
      tail: 5 * i,
      clamp: "screw" as const,
      conductors: 9,
      ...(exit ? { exit } : {}),
    })),
    { name: "rim", x: w / 2, y: 0, z: 20, exit: "down" as const, tail: 8, clamp: "screw" as const, conductors: 9 },
    { name: "edge", x: 0, y: h / 2, z: 30, exit: "right" as const, tail: 8, clamp: "screw" as const, conductors: 9 },
    { name: "off", x: w + 6, y: h / 2, z: 5, exit: "left" as const, tail: 8, clamp: "screw" as const, conductors: 9 },
    { name: "blind", clamp: "screw" as const, conductors: 9 },
  ],
  ...more,
});

const PARTS: Part[] = [
  duct("D40", 40, 60, true),
  duct("D60", 60, 80, true),
  duct("D25", 25, 40, true),
  duct("DX", 40, 70, false),
  body("small", 18, 90, 60, { mounts: [{ kind: "rail", datumY: 40 }], directLeads: true }),
  body("wide", 72, 64, 50, {
    mounts: [{ kind: "rail", datumY: 30 }],
    slots: [
      { name: "1", x: 10, y: 20, z: 30 },
      { name: "2", x: 40, y: 22.5, z: 35 },
    ],
  }),
  body("module", 20, 40, 25, { mounts: [{ kind: "slot", datumX: 3, datumY: 8, datumZ: 2 }] }),
  body("free", 33, 47, 40, {}),
];

const FACES = ["+A1/plate", "+A1/plate", "+A1/door", "+A1/left", "+A2/plate"];

/** A sum of decimal figures as a person would write it. */
const plain = (mm: number): number => Math.round(mm * 1e6) / 1e6;

/** Steps of 20 mm make ties and meetings likely; halves and sixteenths of an inch make sums uneven. */
const place = (most: number) =>
  fc.oneof(
    { weight: 6, arbitrary: fc.integer({ min: 0, max: most / 20 }).map((n) => n * 20) },
    { weight: 1, arbitrary: fc.integer({ min: 0, max: most * 2 }).map((n) => n / 2) },
    { weight: 1, arbitrary: fc.integer({ min: 0, max: Math.floor(most / 1.5875) }).map((n) => plain(n * 1.5875)) },
  );

const ducts = fc
  .array(
    fc.record({
      face: fc.constantFrom(...FACES),
      part: fc.constantFrom("D40", "D60", "D25", "DX", "D40"),
      run: fc.constantFrom("right" as const, "up" as const),
      x: place(480),
      y: place(480),
      length: place(300).map((n) => n + 60),
      // A twin beside it, shifted along; or one behind it in line; or one alone.
      twin: fc.constantFrom("none", "none", "beside", "beside", "behind"),
      // Long ones meet the others, short ones may stay alone.
      long: fc.constantFrom(true, true, false),
      shift: fc.integer({ min: -6, max: 6 }).map((n) => n * 20),
      gap: fc.constantFrom(0, 0, 3, 5, 8, 12),
    }),
    { minLength: 3, maxLength: 9 },
  )
  .map((list) => {
    const out: Partial<Duct>[] = [];
    for (const { twin, shift, gap, long, ...drawn } of list) {
      const d = long ? { ...drawn, ...(drawn.run === "up" ? { y: 20 } : { x: 20 }), length: 640 } : drawn;
      out.push(d);
      const wide = PARTS.find((p) => p.number === d.part)!.h;
      const up = d.run === "up";
      const [along, aside] = twin === "beside" ? [shift, wide + gap] : [d.length + gap, 0];
      const [x, y] = [d.x + (up ? aside : along), d.y + (up ? along : aside)].map(plain);
      if (twin !== "none") out.push({ ...d, x: x!, y: y! });
    }
    return out.map((d, i) => ({ ...d, tag: `W${i + 1}` }));
  });

const devices = fc
  .array(
    fc.record({
      face: fc.constantFrom(...FACES),
      part: fc.constantFrom("small", "wide", "free"),
      x: place(560),
      y: place(560),
      turn: fc.constantFrom<Turn>(0, 0, 90, 180, 270),
      on: fc.constantFrom("face", "face", "rail", "rail up"),
      module: fc.option(fc.record({ name: fc.constantFrom("1", "2"), turn: fc.constantFrom<Turn>(0, 90, 180, 270) })),
    }),
    { minLength: 3, maxLength: 6 },
  )
  .map((list) => {
    const rails: Rail[] = [];
    const out: Partial<Device>[] = [];
    list.forEach(({ face, part, x, y, turn, on, module }, i) => {
      const tag = `-K${i + 1}`;
      if (on === "face" || part === "free") {
        out.push({ tag, part, turn, on: { face, x, y } });
      } else {
        const run = on === "rail" ? ("right" as const) : ("up" as const);
        rails.push({ tag: `R${i}`, face, x, y, run, length: 300, part: "R" });
        out.push({ tag, part, turn, on: { rail: `R${i}`, x: 20 + i } });
      }
      if (module && part === "wide")
        out.push({ tag: `${tag}M`, part: "module", turn: module.turn, on: { slot: tag, name: module.name } });
    });
    return { rails, devices: out };
  });

const crossings = fc
  .array(
    fc.record({
      kind: fc.constantFrom("hinge" as const, "wall" as const, "edge" as const),
      other: fc.constantFrom("+A1/door", "+A1/left", "+A2/plate"),
      y: place(480),
      x: place(480),
      own: fc.option(fc.constantFrom(0, 120), { freq: 3 }),
    }),
    { maxLength: 3 },
  )
  .map((list) =>
    list.map(({ kind, other, y, x, own }, i): Crossing => {
      const end = {
        "+A1/door": { x: 700 - x / 2, y: 30 + y, z: 40 },
        "+A1/left": { x: 25, y: 30 + y, z: 200 },
        "+A2/plate": { x: 830, y: 30 + y, z: 270 },
      }[other]!;
      const start = { x: 40 + x, y: 40 + y, z: 280 };
      // Square stretches only.
      const points = [start, { ...start, y: end.y }, { ...start, y: end.y, z: end.z }, end];
      return {
        tag: `C${i}`,
        kind,
        from: { face: "+A1/plate" },
        to: { face: other },
        enclosure: "+A1",
        points,
        ...(own === null ? {} : { loop: own }),
      };
    }),
  );

const rules: fc.Arbitrary<RuleOverrides> = fc
  .record(
    {
      stepMm: fc.constantFrom(1, 5, 10, 1.5875, 0.5),
      reservePercent: fc.constantFrom(0, 3, 12.5),
      slackMm: fc.constantFrom(0, 30, 25.4),
      shortestLeadMm: fc.constantFrom(0, 120, 700),
      reachMm: fc.constantFrom(150, 400),
      corridorMm: fc.constantFrom(0, 20),
      joinGapMm: fc.constantFrom(5, 10),
      wideFromMm: fc.constantFrom(20, 36, 60),
      stiffFromMm2: fc.constantFrom(1, 6),
      passGapMm: fc.constantFrom(0, 5, 30),
      doorOpenDeg: fc.constantFrom(0, 90, 130, 180),
      directReachMm: fc.constantFrom(150, 400),
    },
    { requiredKeys: [] },
  )
  .map((routes) => ({ routes: { detourMostMm: 0, apart: [], ...routes } }));

export const PIN_NAMES = [...EXITS.map((e) => e ?? "any"), "rim", "edge", "off", "blind"];

/** A door of which no side is said. */
const unhinged = ({ hinge, ...door }: { hinge?: "left" | "right" | null }): Partial<Design["enclosures"][number]> =>
  hinge ? { hinge, ...door } : door;

const BOX = {
  w: 800,
  h: 760,
  d: 300,
  plate: { w: 740, h: 720, setback: 280, thickness: 3, material: "aluminium" as const },
};

/** Every design has all its names once, no class to keep apart and no duct to leave for its fill. */
export const randomDesigns: fc.Arbitrary<Design> = fc
  .record({
    ducts,
    placed: devices,
    crossings,
    rules,
    pairs: fc.array(fc.tuple(fc.nat(40), fc.nat(9), fc.nat(40), fc.nat(9)), { minLength: 2, maxLength: 10 }),
    sizes: fc.constantFrom(0.5, 1.5, 10, 25),
    door: fc.record(
      {
        hinge: fc.constantFrom("left" as const, "right" as const, null),
        hingeAxis: fc.record({ x: fc.constantFrom(-12, 8, 790), z: fc.constantFrom(-15, 10) }),
        opensDeg: fc.constantFrom(75, 110),
      },
      { requiredKeys: [] },
    ),
    held: fc.constantFrom<[number, number] | undefined>(undefined, [1, 3], [2, 4], [2, 3]),
  })
  .map(({ door, held, ducts: laid, placed, crossings: guided, rules: job, pairs, sizes }) => {
    const tags = placed.devices.map((d) => d.tag!);
    const wires = pairs.map(([a, p, b, q], i): Partial<Wire> => ({
      number: `w${i}`,
      from: { device: tags[a % tags.length]!, pin: PIN_NAMES[p]! },
      to: { device: tags[b % tags.length]!, pin: PIN_NAMES[q]! },
    }));
    return {
      ...tiny({
        parts: PARTS,
        ducts: laid,
        devices: placed.devices,
        wires,
        crossings: guided.map((c) => (held === undefined ? c : { ...c, held })),
        nets: [{ name: "n", class: "control", colour: "BU", sizeMm2: sizes }],
        rules: job,
        enclosures: [enclosure("+A1", { ...BOX, ...unhinged(door), neighbourRight: "+A2" }), enclosure("+A2", BOX)],
      }),
      rails: placed.rails,
    };
  });
