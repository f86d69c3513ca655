import type { Crossing, Design, Device, Duct, Part, Rail, Wire } from "@gray-bench/core/design/model";
import { large } from "./large";
import { seeded } from "./random";
import { range } from "./wiring";

/**
 * Designs that no shop draws, each of one kind of trouble that grows with `n`: a computation that is not bounded
 * takes minutes over it, or gigabytes. Every stage that reads something new adds its own.
 */
export interface Hostile {
  name: string;
  /** `n` of the full run and of the short one. */
  full: number;
  short: number;
  make(n: number): Design;
}

/** 0, 1, 2 … last */
const upTo = (last: number): number[] => range(last + 1, 0);

const PLATE = { w: 20_000, h: 20_000, setback: 400, thickness: 3, material: "aluminium" as const };
const BOX = { w: 21_000, h: 21_000, d: 500, plate: PLATE };
const FACE = "+A1/plate";

const DUCT: Part = {
  number: "DUCT",
  maker: "Oddmake",
  text: "duct",
  category: "duct",
  w: 2000,
  h: 40,
  d: 60,
  duct: { innerW: 36, innerH: 54 },
  stock: { place: "A", pack: 1 },
};
const RAIL: Part = { ...DUCT, number: "RAIL", text: "rail", category: "rail", h: 35, d: 7.5 };
delete RAIL.duct;
const dotWith = (pins: string[], more: Partial<Part> = {}): Part => ({
  number: "DOT",
  maker: "Oddmake",
  text: "dot",
  category: "terminal",
  w: 10,
  h: 10,
  d: 40,
  stock: { place: "A", pack: 1 },
  pins: pins.map((name) => ({ name, x: 5, y: 5, z: 27, exit: "up", tail: 0, clamp: "screw", conductors: 99 })),
  ...more,
});
const DOT = dotWith(["p"]);
/** Wire nobody else is cut from. */
const reel = (i: number): Part => ({
  ...DUCT,
  number: `R${i}`,
  text: "wire",
  category: "wire",
  wire: { sizeMm2: 1, outer: 2.7, colour: "BU", strand: "fine" },
});

const design = (more: Partial<Design>): Design => ({
  format: "gray-bench-design",
  version: 1,
  job: { code: "ODD", title: "Nobody draws this", revision: "1" },
  enclosures: [{ tag: "+A1", ...BOX }],
  faces: [],
  rails: [],
  ducts: [],
  crossings: [],
  parts: [DUCT, RAIL, DOT],
  devices: [],
  nets: [{ name: "n", class: "control", colour: "BU", sizeMm2: 1 }],
  wires: [],
  cables: [],
  strips: [],
  options: [],
  rules: {},
  attachments: [],
  ...more,
});

const duct = (i: number, x: number, y: number, length: number, run: Duct["run"] = "right"): Duct => ({
  tag: `W${i}`,
  face: FACE,
  x,
  y,
  run,
  length,
  part: "DUCT",
});
const dot = (i: number, x: number, y: number): Device => ({ tag: `-K${i}`, part: "DOT", on: { face: FACE, x, y } });
const wire = (i: number, a: number, b: number, more: Partial<Wire> = {}): Wire => ({
  number: String(i),
  net: "n",
  from: { device: `-K${a}`, pin: "p" },
  to: { device: `-K${b}`, pin: "p" },
  ...more,
});

/** Devices spread over the plate in a square, and wires between neighbours in the list. */
function spread(n: number, step: number): { devices: Device[]; wires: Wire[] } {
  const side = Math.ceil(Math.sqrt(n));
  const devices = upTo(n - 1).map((i) => dot(i, (i % side) * step, Math.floor(i / side) * step));
  return { devices, wires: upTo(n - 2).map((i) => wire(i, i, i + 1)) };
}

/** Three long lines of `n` short ducts each, joined to each other nowhere, and a wire between every two of them. */
export function threeLines(n: number): Design {
  const lines = upTo(2);
  return design({
    ducts: lines.flatMap((l) => upTo(n - 1).map((i) => duct(l * n + i, i * 5, 1000 + 5000 * l, 5))),
    devices: lines.map((l) => dot(l, 100, 960 + 5000 * l)),
    wires: [wire(0, 0, 1), wire(1, 0, 2), wire(2, 1, 2)],
  });
}

export const HOSTILE: readonly Hostile[] = [
  {
    name: "ducts that all cross",
    full: 2000,
    short: 60,
    make: (n) => {
      const half = Math.floor(n / 2);
      const step = 19_000 / half;
      return design({
        ducts: upTo(n - 1).map((i) =>
          i < half ? duct(i, 0, i * step, 19_000) : duct(i, (i - half) * step, 0, 19_000, "up"),
        ),
        ...spread(100, 190),
      });
    },
  },
  {
    name: "ducts on one spot",
    full: 20_000,
    short: 60,
    make: (n) => design({ ducts: upTo(n - 1).map((i) => duct(i, 100, 100, 1000)), ...spread(2000, 40) }),
  },
  {
    name: "ducts that lie on each other, each a little further",
    full: 5000,
    short: 60,
    make: (n) =>
      design({
        ducts: upTo(n - 1).map((i) => duct(i, (i * 37) % 997, (i * 13) % 41, 5000 + ((i * 7) % 1009))),
        ...spread(500, 190),
      }),
  },
  {
    name: "ducts that touch nothing, wires between them",
    full: 20_000,
    short: 60,
    make: (n) => {
      const side = Math.ceil(Math.sqrt(n));
      const { devices } = spread(n, 130);
      return design({
        ducts: upTo(n - 1).map((i) => duct(i, (i % side) * 130, Math.floor(i / side) * 130, 20)),
        devices,
        wires: upTo(n - 1).map((i) => wire(i, i, (i * 7919) % n)),
      });
    },
  },
  {
    name: "many ducts of one face, many pins",
    full: 20_000,
    short: 60,
    make: (n) => {
      const rows = Math.ceil(n / 20);
      return design({
        enclosures: [{ tag: "+A1", ...BOX, w: 100_000, h: 100_000, plate: { ...PLATE, w: 99_000, h: 99_000 } }],
        ducts: upTo(n - 1).map((i) => duct(i, (i % 20) * 4950, (Math.floor(i / 20) * 98_000) / rows, 4950)),
        ...spread(2 * n, 490),
      });
    },
  },
  {
    name: "crossings between two ducts",
    full: 20_000,
    short: 60,
    make: (n) =>
      design({
        ducts: upTo(Math.min(1000, n) - 1).map((i) => duct(i, 0, i * 19, 15_000)),
        crossings: upTo(n - 1).map((i): Crossing => ({
          tag: `N${i}`,
          kind: "edge",
          from: { face: FACE },
          to: { face: FACE },
          enclosure: "+A1",
          points: [
            { x: 500 + (i % 10_000), y: 500 + ((i * 19) % 19_000), z: 370 },
            { x: 500 + ((i * 31) % 10_000), y: 500 + ((i * 47) % 19_000), z: 370 },
          ],
        })),
        ...spread(1000, 190),
      }),
  },
  {
    name: "devices on one spot",
    full: 20_000,
    short: 60,
    make: (n) =>
      design({
        ducts: [duct(0, 0, 100, 1000)],
        devices: upTo(n - 1).map((i) => dot(i, 50, 50)),
        wires: upTo(n - 2).map((i) => wire(i, i, i + 1)),
      }),
  },
  {
    name: "wires in full ducts",
    full: 10_000,
    short: 200,
    make: (n) => {
      // A ladder: many equally long ways, none with room for more than a few wires.
      const random = seeded(7);
      const rungs = 60;
      const ducts = [
        ...upTo(rungs - 1).map((i) => duct(i, 0, i * 300, 18_000)),
        ...upTo(rungs - 1).map((i) => duct(rungs + i, i * 300, 0, 18_000, "up")),
      ];
      const devices = upTo(n - 1).map((i) => dot(i, random.whole(0, 17_000), random.whole(0, 17_000)));
      return design({
        ducts,
        devices,
        wires: upTo(n - 1).map((i) => wire(i, i, random.whole(0, n - 1), { sizeMm2: 16 })),
      });
    },
  },
  {
    name: "wires in two full ducts, every end another",
    full: 10_000,
    short: 200,
    make: (n) =>
      design({
        ducts: [
          duct(0, 0, 100, 19_000),
          duct(1, 0, 400, 19_000),
          duct(2, 0, 100, 340, "up"),
          duct(3, 18_960, 100, 340, "up"),
        ],
        devices: upTo(2 * n - 1).map((i) => dot(i, (i % n) + 50 + (i < n ? 0 : 8000 * (n / 10_000)), 70)),
        wires: upTo(n - 1).map((i) => wire(i, i, n + i)),
      }),
  },
  {
    name: "rules of end treatment",
    full: 2000,
    short: 200,
    make: (n) =>
      design({
        ducts: [duct(0, 0, 100, 19_000)],
        ...spread(2000, 40),
        wires: upTo(19_999).map((i) => wire(i, i % 2000, (i + 1) % 2000, { sizeMm2: 0.5 + i / 10_000 })),
        rules: {
          ends: upTo(n - 1).map((i) => ({
            clamp: "screw" as const,
            strand: (["solid", "stranded"] as const)[i % 2]!,
            sizeMinMm2: 3 + i / n,
            sizeMaxMm2: 3 + (i + 1) / n,
            end: "bare" as const,
          })),
        },
      }),
  },
  {
    name: "wires on one pin, every one of another size",
    full: 50_000,
    short: 200,
    make: (n) =>
      design({
        ducts: [duct(0, 0, 100, 1000)],
        devices: [dot(0, 10, 10), dot(1, 500, 10)],
        wires: upTo(n - 1).map((i) => wire(i, 0, 1, { sizeMm2: 0.5 + i / n })),
      }),
  },
  {
    name: "leads cut each from a reel of its own",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        ducts: [duct(0, 0, 100, 1000)],
        parts: [DUCT, RAIL, DOT, ...upTo(n - 1).map(reel)],
        devices: [dot(0, 10, 10), dot(1, 500, 10)],
        wires: upTo(n - 1).map((i) => wire(i, 0, 1, { type: `R${i}` })),
      }),
  },
  {
    name: "leads of which each shares a crimp with the next, each from a reel of its own",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        ducts: [duct(0, 0, 100, 19_000)],
        parts: [DUCT, RAIL, DOT, ...upTo(n - 1).map(reel)],
        devices: upTo(n).map((i) => dot(i, (i * 18_000) / n, 60)),
        wires: upTo(n - 1).map((i) => wire(i, i, i + 1, { type: `R${i}` })),
      }),
  },
  {
    name: "pins that a part with many does not have",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        ducts: [duct(0, 0, 100, 1000)],
        parts: [DUCT, RAIL, dotWith(upTo(n - 1).map((i) => `p${i}`))],
        devices: [dot(0, 10, 10)],
        wires: upTo(n - 1).map((i) => ({
          number: String(i),
          from: { device: "-K0", pin: `q${i}` },
          to: { device: "-K0", pin: `r${i}` },
        })),
      }),
  },
  {
    name: "slots that a part with many does not have",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        parts: [
          DUCT,
          RAIL,
          DOT,
          dotWith([], { number: "RACK", slots: upTo(n - 1).map((i) => ({ name: `s${i}`, x: 0, y: 0, z: 0 })) }),
        ],
        devices: [
          { tag: "-A0", part: "RACK", on: { face: FACE, x: 0, y: 0 } },
          ...upTo(n - 1).map((i) => ({ tag: `-K${i}`, part: "DOT", on: { slot: "-A0", name: `t${i}` } })),
        ],
      }),
  },
  {
    name: "modules in the slots of one rack",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        parts: [
          DUCT,
          RAIL,
          { ...DOT, mounts: upTo(199).map(() => ({ kind: "slot" as const, datumX: 0, datumY: 0, datumZ: 0 })) },
          dotWith([], { number: "RACK", slots: upTo(n - 1).map((i) => ({ name: `s${i}`, x: i, y: 0, z: 0 })) }),
        ],
        devices: [
          { tag: "-A0", part: "RACK", on: { face: FACE, x: 0, y: 0 } },
          ...upTo(n - 1).map((i) => ({ tag: `-K${i}`, part: "DOT", on: { slot: "-A0", name: `s${i}` } })),
        ],
      }),
  },
  {
    name: "loose devices beside many rails",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        rails: upTo(n - 1).map((i): Rail => ({
          tag: `R${i}`,
          face: FACE,
          x: 0,
          y: i % 19_000,
          run: "right",
          length: 500,
          part: "RAIL",
        })),
        devices: upTo(n - 1).map((i) => ({ tag: `-K${i}`, part: "DOT" })),
      }),
  },
  {
    name: "options with many choices",
    full: 20_000,
    short: 100,
    make: (n) =>
      design({
        options: upTo(9).map((o) => ({
          key: `O${o}`,
          text: "so or so",
          choices: upTo(n - 1).map((i) => `c${i}`),
          chosen: "none",
        })),
        devices: upTo(n - 1).map((i) => ({
          tag: `-K${i}`,
          part: "DOT",
          when: { [`O${i % 12}`]: upTo(9).map((k) => `c${i + k}`) },
        })),
      }),
  },
  {
    name: "strips of members that are not there",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        devices: upTo(n - 1).map((i) => dot(i, (i % 1000) * 15, Math.floor(i / 1000) * 15)),
        strips: [
          ...upTo(n - 1).map((i) => ({ tag: `-X${i}`, rail: "R0", members: [`-Y${i}`] })),
          {
            tag: "-X",
            rail: "R0",
            members: ["-K0"],
            jumpers: [{ row: 1, members: upTo(n - 1).map((i) => `-Z${i}`) }],
          },
        ],
      }),
  },
  {
    name: "a strip of very many members, and jumpers over all of it",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        parts: [DUCT, RAIL, { ...DOT, terminal: { levels: 1, jumperRows: 2, openSide: "right", passes: true } }],
        devices: upTo(n - 1).map((i) => dot(i, (i % 1000) * 15, Math.floor(i / 1000) * 15)),
        wires: upTo(n - 2).map((i) => wire(i, i, i + 1)),
        strips: [
          {
            tag: "-X",
            rail: "R0",
            members: upTo(n - 1).map((i) => `-K${i}`),
            jumpers: upTo(n - 1).map((i) => ({ row: 1 + (i % 2), members: [`-K${i}`, `-K${n - 1 - i}`] })),
          },
        ],
      }),
  },
  {
    name: "cables with many cores to devices that are not there",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        devices: upTo(n - 1).map((i) => dot(i, (i % 1000) * 15, Math.floor(i / 1000) * 15)),
        cables: [
          {
            tag: "-W1",
            type: "none",
            cores: upTo(n - 1).map((i) => ({
              core: String(i),
              from: { device: `-Q${i}`, pin: "1" },
              to: { device: "-K0", pin: "p" },
            })),
          },
        ],
      }),
  },
  {
    name: "strips laid over each other",
    full: 30_000,
    short: 200,
    make: (n) =>
      design({
        rails: [{ ...duct(0, 0, 100, 20_000), tag: "R", part: "RAIL" }],
        parts: [DUCT, RAIL, { ...DOT, terminal: { levels: 1, jumperRows: 1, openSide: "right" } }],
        devices: upTo(2 * n - 1).map((i) => ({ tag: `-X.${i}`, part: "DOT" })),
        strips: upTo(n - 1).map((i) => ({
          tag: `-S${i}`,
          rail: "R",
          at: (i * 7) % 900,
          members: [`-X.${2 * i}`, `-X.${2 * i + 1}`],
        })),
      }),
  },
  {
    name: "one strip of everything, and cores the other way round",
    full: 40_000,
    short: 200,
    make: (n) => {
      const tags = upTo(n - 1).map((i) => `-X.${i}`);
      return design({
        rails: [{ ...duct(0, 0, 100, 20_000), tag: "R", part: "RAIL" }],
        parts: [DUCT, RAIL, { ...DOT, terminal: { levels: 1, jumperRows: 1, openSide: "right" } }],
        devices: tags.map((tag) => ({ tag, part: "DOT" })),
        cables: [
          {
            tag: "-W1",
            type: "none",
            cores: upTo(n - 1).map((i) => ({ core: String(i), from: { device: tags[n - 1 - i]!, pin: "p" } })),
          },
        ],
        strips: [
          {
            tag: "-S",
            rail: "R",
            at: 0,
            members: tags,
            groups: upTo(n - 3).map((i) => [tags[i]!, tags[i + 1]!, tags[i + 2]!]),
            pieces: tags.map((behind) => ({ kind: "separator", behind, hung: true })),
            splitAfter: tags,
          },
        ],
      });
    },
  },
  {
    name: "a strip that says much of what is not there",
    full: 50_000,
    short: 200,
    make: (n) =>
      design({
        devices: [{ ...dot(0, 0, 0), tag: "-X.0" }],
        strips: [
          {
            tag: "-S",
            rail: "none",
            members: ["-X.0"],
            print: Object.fromEntries(upTo(n - 1).map((i) => [`-P${i}`, "x".repeat(100)])),
            sides: Object.fromEntries(upTo(n - 1).map((i) => [`wire ${i}`, "inside" as const])),
            groups: upTo(n - 1).map((i) => [`-G${i}`, `-H${i}`]),
          },
        ],
      }),
  },
  {
    name: "one name for everything",
    full: 20_000,
    short: 200,
    make: (n) =>
      design({
        ducts: upTo(n - 1).map((i) => ({ ...duct(0, i % 900, 100, 1000), tag: "W" })),
        devices: upTo(n - 1).map((i) => ({ ...dot(0, i % 1000, 10), tag: "-K" })),
        nets: upTo(n - 1).map((i) => ({ name: "n", sizeMm2: 1 + i / n })),
        wires: upTo(n - 1).map((i) => ({ number: "1", net: "n", from: { device: "-K", pin: String(i) } })),
      }),
  },
  {
    name: "devices in each other's slots",
    full: 50_000,
    short: 200,
    make: (n) =>
      design({
        parts: [DUCT, RAIL, { ...DOT, slots: [{ name: "s", x: 0, y: 0, z: 0 }] }],
        devices: upTo(n - 1).map((i) => ({
          tag: `-K${i}`,
          part: "DOT",
          on: i === n - 1 ? { face: FACE, x: 0, y: 0 } : { slot: `-K${i + 1}`, name: "s" },
        })),
      }),
  },
  {
    name: "enclosures in one row",
    full: 2000,
    short: 200,
    make: (n) =>
      design({
        enclosures: upTo(n - 1).map((i) => ({ tag: `+A${i}`, ...BOX, neighbourRight: `+A${i + 1}` })),
        ducts: upTo(n - 1).map((i) => ({ ...duct(i, 0, 100, 20_000), face: `+A${i}/plate` })),
        crossings: upTo(n - 2).map((i) => ({
          tag: `N${i}`,
          kind: "wall" as const,
          from: { duct: `W${i}` },
          to: { duct: `W${i + 1}` },
          enclosure: `+A${i}`,
          points: [
            { x: 20_500, y: 620, z: 370 },
            { x: 21_500, y: 620, z: 370 },
          ],
        })),
        devices: upTo(n - 1).map((i) => ({ ...dot(i, 500, 50), on: { face: `+A${i}/plate`, x: 500, y: 50 } })),
        wires: upTo(n - 1).map((i) => wire(i, i, (i * 7919) % n)),
      }),
  },
  {
    name: "wires of which nothing is said",
    full: 100_000,
    short: 200,
    make: (n) => design({ nets: [], wires: upTo(n - 1).map((i) => ({ number: String(i) })) }),
  },
  {
    name: "a very large panel",
    full: 200_000,
    short: 500,
    // 20,000 ducts to 200,000 wires: an enclosure of 14 rows has 15 ducts across and two upright.
    make: (n) => large(3, { enclosures: Math.max(2, Math.round(n / 170)), rows: 14, perRow: 4, wires: n }),
  },
];
