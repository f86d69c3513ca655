import { rowPlaces, toSpace, type Box, type Point3 } from "@gray-bench/core/design/geometry";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design, Enclosure } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { solidsOf, type Solid } from "@gray-bench/core/panel/solids";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { stretchesOf } from "@gray-bench/core/routes/way";
import type { Colours } from "@gray-bench/core/wiring/landings";

/** What can be left out of sight, to look at the rest. */
export const LAYERS = ["door", "walls", "devices", "ducts", "wires"] as const;
export type LayerName = (typeof LAYERS)[number];

/** A block of the cabinets in one space for all rows: x to the right, y up, z to the rear, mm. */
export interface SpaceBlock {
  thing: Solid["thing"] | "wall";
  of: string;
  kind: "body" | "terminal" | "duct" | "rail" | "piece" | "plate" | "wall";
  enclosure: string;
  /** Turns with the door of its enclosure. */
  onDoor: boolean;
  box: Box;
}

/** A wire, straight from corner to corner; of each corner whether it turns with a door, and with whose. */
export interface SpaceWire {
  id: string;
  colour: string | null;
  points: (Point3 & { door: string | null })[];
}

/** How the door of an enclosure turns. */
export interface SpaceDoor {
  enclosure: string;
  axis: { x: number; z: number };
  side: "left" | "right";
  /** No side is said in the design; the left was taken. */
  guessed: boolean;
  mostDeg: number;
  wideMm: number;
}

export interface Space {
  blocks: SpaceBlock[];
  wires: SpaceWire[];
  doors: SpaceDoor[];
  /** Where two want the same room. */
  clashes: { of: string; onDoor: string | null; box: Box }[];
  bounds: Box;
}

/** Between rows of enclosures, and how thick walls are drawn where nothing is said, mm. */
const BETWEEN_MM = 600;
const WALL_MM = 2;

/** Everything that is seen of the cabinets. O(things + corners of wires) */
export function spaceOf(
  panel: PanelResult,
  design: Design,
  routes: RoutesResult | undefined,
  colours: Colours,
  opensDeg: number,
): Space {
  const look = lookUp(design);
  const rows = rowPlaces(design.enclosures);
  const shift = new Map<string, number>();
  let at = 0;
  for (const { tag, w } of design.enclosures) {
    const { row, x } = rows.get(tag)!;
    if (!shift.has(row)) {
      const wide = design.enclosures.reduce(
        (most, e) => (rows.get(e.tag)!.row === row ? Math.max(most, rows.get(e.tag)!.x + e.w) : most),
        x + w,
      );
      shift.set(row, at);
      at += wide + BETWEEN_MM;
    }
  }
  const aside = (row: string, { min, max }: Box): Box => {
    const by = shift.get(row) ?? 0;
    return { min: { ...min, x: min.x + by }, max: { ...max, x: max.x + by } };
  };
  const category = new Map(panel.devices.map((d) => [d.tag, d.category]));
  const blocks = solidsOf(panel.devices, panel.rails, panel.ducts, panel.hung, look).map((s): SpaceBlock => ({
    thing: s.thing,
    of: s.of,
    kind: kindOf(s, category.get(s.of)),
    enclosure: s.face.enclosure,
    onDoor: s.face.kind === "door",
    box: aside(s.face.row, s.box),
  }));
  for (const e of design.enclosures) {
    const place = rows.get(e.tag)!;
    blocks.push(...wallsOf(e).map((b) => ({ ...b, box: aside(place.row, moved(b.box, place.x)) })));
  }
  const doors = design.enclosures.map((e): SpaceDoor => {
    const place = rows.get(e.tag)!;
    const side = e.hinge ?? "left";
    const x = e.hingeAxis?.x ?? (side === "right" ? e.w : 0);
    return {
      enclosure: e.tag,
      axis: { x: x + place.x + shift.get(place.row)!, z: e.hingeAxis?.z ?? 0 },
      side,
      guessed: e.hinge === undefined,
      mostDeg: e.opensDeg ?? opensDeg,
      wideMm: e.w,
    };
  });
  return {
    blocks,
    wires: routes ? wiresOf(routes, panel, colours, shift) : [],
    doors,
    clashes: panel.clashes.map((c) => {
      const face = look.faces.get(c.a.face);
      return { of: c.a.of, onDoor: face?.kind === "door" ? face.enclosure : null, box: aside(c.row, c.box) };
    }),
    bounds: boundsOf(blocks),
  };
}

function kindOf({ thing }: Solid, category: string | undefined): SpaceBlock["kind"] {
  if (thing === "device") return category === "terminal" || category === "earth" ? "terminal" : "body";
  return thing === "strip" ? "piece" : thing === "face" ? "plate" : thing;
}

const moved = ({ min, max }: Box, by: number): Box => ({
  min: { ...min, x: min.x + by },
  max: { ...max, x: max.x + by },
});

/** The sheets around an enclosure, in its own frame. */
function wallsOf(e: Enclosure): SpaceBlock[] {
  const t = e.sheet?.thickness ?? WALL_MM;
  const sheet = (name: string, min: Point3, max: Point3): SpaceBlock => ({
    thing: "wall",
    of: `${e.tag}/${name}`,
    kind: "wall",
    enclosure: e.tag,
    onDoor: name === "door",
    box: { min, max },
  });
  return [
    sheet("door", { x: 0, y: 0, z: -t }, { x: e.w, y: e.h, z: 0 }),
    sheet("rear", { x: 0, y: 0, z: e.d }, { x: e.w, y: e.h, z: e.d + t }),
    sheet("left", { x: -t, y: 0, z: 0 }, { x: 0, y: e.h, z: e.d }),
    sheet("right", { x: e.w, y: 0, z: 0 }, { x: e.w + t, y: e.h, z: e.d }),
    sheet("roof", { x: 0, y: e.h, z: 0 }, { x: e.w, y: e.h + t, z: e.d }),
    sheet("base", { x: 0, y: -t, z: 0 }, { x: e.w, y: 0, z: e.d }),
  ];
}

/** Ways of wires in space: at a pin as high as the pin, in ducts at half their height. */
function wiresOf(
  routes: RoutesResult,
  panel: PanelResult,
  colours: Colours,
  shift: ReadonlyMap<string, number>,
): SpaceWire[] {
  const faces = new Map(panel.faces.map((f) => [f.id, f]));
  return routes.wires.flatMap((w): SpaceWire[] => {
    const stretches = stretchesOf(routes, w);
    const points = stretches.flatMap((s, i) => {
      const face = faces.get(s.face);
      if (!face) return [];
      return s.points.map((p, k) => {
        const end = i === 0 && k === 0 ? w.from : i === stretches.length - 1 && k === s.points.length - 1 ? w.to : null;
        const z = end && end.face === s.face ? end.z : levelOn(routes, w.from?.entry?.edge, s.face);
        const at = toSpace(face, { x: p.x, y: p.y, z });
        return { ...at, x: at.x + (shift.get(face.row) ?? 0), door: face.kind === "door" ? face.enclosure : null };
      });
    });
    return points.length < 2 ? [] : [{ id: w.id, colour: colours.get(w.id)?.value ?? null, points }];
  });
}

/** Half the height of the duct it enters, or as wires lie where none is entered. */
function levelOn({ nodes, edges }: RoutesResult, edge: number | undefined, face: string): number {
  const known = edge === undefined ? undefined : edges[edge];
  const node = known ? nodes[known.a] : undefined;
  return node && node.face === face ? node.z : LEVEL_MM;
}
const LEVEL_MM = 30;

function boundsOf(blocks: readonly SpaceBlock[]): Box {
  const min = { x: Infinity, y: Infinity, z: Infinity };
  const max = { x: -Infinity, y: -Infinity, z: -Infinity };
  for (const { box } of blocks)
    for (const axis of ["x", "y", "z"] as const) {
      min[axis] = Math.min(min[axis], box.min[axis]);
      max[axis] = Math.max(max[axis], box.max[axis]);
    }
  return blocks.length > 0 ? { min, max } : { min: { x: 0, y: 0, z: 0 }, max: { x: 1, y: 1, z: 1 } };
}
