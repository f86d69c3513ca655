import type { Crossing, Design, Device, Duct, Net, Part, Wire } from "../design/model";
import type { RuleOverrides } from "../shop/rules";

/** Small designs for tests: a face of plenty, a duct 40 wide, pins with the geometry a test wants. */

const DUCT: Part = {
  number: "D",
  maker: "m",
  text: "duct",
  category: "duct",
  w: 2000,
  h: 40,
  d: 60,
  duct: { innerW: 36, innerH: 54 },
};
const RAIL: Part = { number: "R", maker: "m", text: "rail", category: "rail", w: 2000, h: 35, d: 7.5 };

/** A part of 10 × 10 mm with one pin `p` in its middle, 27 mm up: level with the middle of the duct. */
export const DOT: Part = {
  number: "P",
  maker: "m",
  text: "dot",
  category: "terminal",
  w: 10,
  h: 10,
  d: 40,
  stock: { place: "A", pack: 1 },
  pins: [{ name: "p", x: 5, y: 5, z: 27, exit: "out", tail: 0, clamp: "screw", conductors: 99 }],
};

export interface TinyOptions {
  ducts?: Partial<Duct>[];
  devices?: Partial<Device>[];
  wires?: Partial<Wire>[];
  nets?: Net[];
  parts?: Part[];
  crossings?: Crossing[];
  rules?: RuleOverrides;
  enclosures?: Design["enclosures"];
}

const BOX = {
  w: 2200,
  h: 2200,
  d: 500,
  plate: { w: 2000, h: 2000, setback: 400, thickness: 3, material: "aluminium" as const },
};

/** A design in enclosure +A1 with a plate of 2 × 2 m. */
export function tiny(o: TinyOptions): Design {
  return {
    format: "gray-bench-design",
    version: 1,
    job: { code: "T", title: "test", revision: "A" },
    enclosures: o.enclosures ?? [{ tag: "+A1", ...BOX }],
    faces: [],
    rails: [],
    ducts: (o.ducts ?? []).map((d, i) => ({
      tag: `W${i + 1}`,
      face: "+A1/plate",
      x: 0,
      y: 0,
      run: "right",
      length: 500,
      part: "D",
      ...d,
    })),
    crossings: o.crossings ?? [],
    parts: [
      { ...DUCT, stock: { place: "A", pack: 1 } },
      { ...RAIL, stock: { place: "A", pack: 1 } },
      DOT,
      ...(o.parts ?? []),
    ],
    devices: (o.devices ?? []).map((d, i) => ({ tag: `-K${i + 1}`, part: "P", ...d })),
    nets: o.nets ?? [{ name: "n", class: "control", colour: "BU", sizeMm2: 1 }],
    wires: (o.wires ?? []).map((w, i) => ({ number: String(i + 1), net: "n", ...w })),
    cables: [],
    strips: [],
    options: [],
    rules: o.rules ?? {},
    attachments: [],
  };
}

/** A dot whose pin lies at a point of a face. */
export const dot = (tag: string, x: number, y: number, face = "+A1/plate"): Partial<Device> => ({
  tag,
  on: { face, x: x - 5, y: y - 5 },
});

export const wire = (a: string, b: string, more: Partial<Wire> = {}): Partial<Wire> => ({
  from: { device: a, pin: "p" },
  to: { device: b, pin: "p" },
  ...more,
});

export const enclosure = (
  tag: string,
  more: Partial<Design["enclosures"][number]> = {},
): Design["enclosures"][number] => ({ tag, ...BOX, ...more });

/** No slack, loops, steps or shortest lead, doors that stay shut: lengths are bare ways. */
export const BARE: RuleOverrides = {
  routes: { slackMm: 0, slackDoorMm: 0, crossingLoopMm: 0, doorOpenDeg: 0, stepMm: 0.1, shortestLeadMm: 0 },
};
