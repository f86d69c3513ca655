import {
  DESIGN_FORMAT,
  DESIGN_VERSION,
  type Crossing,
  type Design,
  type Enclosure,
  type NetClass,
  type Part,
} from "@gray-bench/core/design/model";
import { LIBRARY } from "./library";
import { drawPlate, type Drawn, type Item } from "./plate";
import { seeded } from "./random";
import { range } from "./wiring";

export interface LargeSize {
  enclosures: number;
  /** Rows of rails on each plate. */
  rows: number;
  /** Devices on each rail. */
  perRow: number;
  wires: number;
}

/** 1,000 devices, 300 ducts and 10,000 wires: for measuring, not for looking at. */
export const LARGE: LargeSize = { enclosures: 20, rows: 12, perRow: 4, wires: 10_000 };

const KINDS = ["OH-K25", "OH-M25", "FW-SR2", "OH-B1C6", "OH-K9"] as const;
const CLASSES: NetClass[] = ["supply", "control", "control", "control", "earth"];

/** Clamps that take what lands on them: wires are drawn by chance, and a panel that could be built is measured. */
const roomy = (part: Part): Part => ({
  ...part,
  ...(part.pins ? { pins: part.pins.map((p) => ({ ...p, sizeMin: 0.5, sizeMax: 16, conductors: 100 })) } : {}),
});

/**
 * A row of enclosures drawn like the demo's, with random wires of which most stay in their
 * neighbourhood. The same seed and size give the same design.
 */
export function large(seed = 1, size: LargeSize = LARGE): Design {
  const random = seeded(seed);
  const parts = new Map(LIBRARY.map((p) => [p.number, p]));
  const height = 300 + size.rows * 200;
  const plates: Drawn[] = [];
  const enclosures: Enclosure[] = [];
  const crossings: Crossing[] = [];
  for (const e of range(size.enclosures)) {
    const tag = `+E${e}`;
    enclosures.push({
      tag,
      w: 800,
      h: height + 100,
      d: 500,
      plate: { w: 700, h: height, setback: 440, thickness: 3, material: "galvanised steel" },
      ...(e < size.enclosures ? { neighbourRight: `+E${e + 1}` } : {}),
    });
    // Every enclosure carries a few more devices on its first row, so that the total is round.
    const extra = (row: number): number => (row === 0 ? 2 : 0);
    plates.push(
      drawPlate(
        {
          face: `${tag}/plate`,
          w: 700,
          h: height,
          sides: { left: `${e}.L`, right: `${e}.R`, part: "FW-D100" },
          across: range(size.rows + 1).map((r) => ({ tag: `${e}.${r}`, part: "FW-D100" })),
          railPart: "FW-TS35",
          rows: range(size.rows, 0).map((r) => ({
            height: 100,
            on: "rail" as const,
            rail: `${e}.S${r + 1}`,
            items: range(size.perRow + extra(r)).map((n): Item => ({
              tag: `-${e}K${r * 10 + n}`,
              part: random.pick(KINDS),
              gap: 20,
            })),
          })),
        },
        parts,
      ),
    );
    if (e < size.enclosures) {
      for (const y of [0.2, 0.8]) {
        const at = Math.round(height * y);
        crossings.push({
          tag: `N${e}.${y * 10}`,
          kind: "wall",
          from: { duct: `${e}.R` },
          to: { duct: `${e + 1}.L` },
          enclosure: tag,
          points: [
            { x: 700, y: at, z: 403 },
            { x: 900, y: at, z: 403 },
          ],
          loop: 0,
        });
      }
    }
  }
  const devices = plates.flatMap((p) => p.devices);
  const pinsOf = (i: number): string[] => parts.get(devices[i]!.part)!.pins!.map((p) => p.name);
  const nets = range(200).map((n) => ({
    name: `N${n}`,
    class: random.pick(CLASSES),
    colour: "BK" as const,
    sizeMm2: random.pick([0.5, 0.75, 1, 1.5]),
  }));
  const wires = range(size.wires).map((n) => {
    const a = random.whole(0, devices.length - 1);
    const near = Math.min(devices.length - 1, Math.max(0, a + random.whole(-60, 60)));
    const b = near === a ? (a + 1) % devices.length : near;
    return {
      number: String(n),
      net: random.pick(nets).name,
      from: { device: devices[a]!.tag, pin: random.pick(pinsOf(a)) },
      to: { device: devices[b]!.tag, pin: random.pick(pinsOf(b)) },
    };
  });
  return {
    format: DESIGN_FORMAT,
    version: DESIGN_VERSION,
    job: {
      code: `LARGE-${size.wires}`,
      title: `Synthetic panel with ${size.wires} wires`,
      revision: "1",
      units: "mm",
    },
    enclosures,
    faces: [],
    rails: plates.flatMap((p) => p.rails),
    ducts: plates.flatMap((p) => p.ducts),
    crossings,
    parts: LIBRARY.map((p) => ((KINDS as readonly string[]).includes(p.number) ? roomy(p) : p)),
    devices,
    nets,
    wires,
    cables: [],
    strips: [],
    options: [],
    rules: {},
    attachments: [],
  };
}
