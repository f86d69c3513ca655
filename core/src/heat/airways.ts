import type { Face, Point3, Rect } from "../design/geometry";
import { onBody, toFace, toSpace } from "../design/geometry";
import { DIRECTIONS, type Direction, type Enclosure, type Part } from "../design/model";
import type { PlacedDevice } from "../panel/result";
import { potentialFlow, type Flow, type FlowGrid } from "./flow";
import { openingsOf } from "./openings";
import type { AirWay } from "./result";

const CELL_MM = 10;
const MOST_CELLS = 60_000;
/** Air that is slower than this does not reach a device. */
export const STILL_MS = 0.1;
/** Of the space before a plate that the air goes through. */
const LEAST_DEPTH_MM = 100;
/** Largest imbalance of a cell that is left, as a share of what is put in. */
const ENOUGH = 1e-4;

/** A unit that blows and draws in an enclosure. */
export interface Blower {
  device: PlacedDevice;
  part: Part;
  /** What it is mounted on. */
  face: Face;
  flowM3h: number;
  /** A deflector on its outlet: where the air leaves it, on its face as seen from outside. */
  deflector?: Direction | undefined;
}

const boxOf = (points: readonly Point3[]): Rect => {
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, w: Math.max(...xs) - x, h: Math.max(...ys) - y };
};

const corners = ({ x, y, w, h }: Rect, z: number): Point3[] => [
  { x, y, z },
  { x: x + w, y, z },
  { x, y: y + h, z },
  { x: x + w, y: y + h, z },
];

/** An opening of a body on its face, turned with the body. */
export const onFace = ({ centre, turn, w, h, z, outline }: PlacedDevice, opening: Rect): Rect =>
  boxOf(corners(opening, 0).map((p) => onBody({ centre, turn, w, h, z, outline }, p)));

/** A rectangle of one face, as it lies before another one of its enclosure. */
export const seenFrom = (from: Face, to: Face, rect: Rect, z: number): Rect =>
  boxOf(corners(rect, z).map((p) => toFace(to, toSpace(from, p))));

const STEPS: Record<Direction, { x: number; y: number }> = {
  up: { x: 0, y: 1 },
  down: { x: 0, y: -1 },
  left: { x: -1, y: 0 },
  right: { x: 1, y: 0 },
};

/** Where a deflector leads the air, as seen on a plate; null where that is towards the plate or away from it. */
export function seenDirection(from: Face, to: Face, direction: Direction): Direction | null {
  const { x, y } = STEPS[direction];
  const a = toFace(to, toSpace(from, { x: 0, y: 0, z: 0 }));
  const b = toFace(to, toSpace(from, { x, y, z: 0 }));
  const [dx, dy] = [Math.round(b.x - a.x), Math.round(b.y - a.y)];
  return DIRECTIONS.find((d) => STEPS[d].x === dx && STEPS[d].y === dy) ?? null;
}

/** Directions of a deflector on a face that turn the air along a plate. */
export const turnsFor = (from: Face, to: Face): Direction[] =>
  DIRECTIONS.filter((d) => seenDirection(from, to, d) !== null);

/**
 * The grid of a plate with bodies in the way and the openings of units as sources and drains. An opening lies where it is
 * seen before the plate; of a side or the roof at the plate's edge. A deflector is a hood: shut on three sides of the outlet.
 * `hidden`: units whose openings lie one behind the other there, so that what they blow and draw cancels out.
 */
export function gridOf(
  plate: Face,
  bodies: readonly PlacedDevice[],
  blowers: readonly Blower[],
): FlowGrid & { hidden: string[] } {
  const cellMm = Math.max(CELL_MM, Math.sqrt((plate.w * plate.h) / MOST_CELLS));
  const columns = Math.max(1, Math.round(plate.w / cellMm));
  const rows = Math.max(1, Math.round(plate.h / cellMm));
  const blocked = new Uint8Array(columns * rows);
  const source = new Float64Array(columns * rows);
  const clip = (v: number, n: number): number => Math.min(n - 1, Math.max(0, v));
  const span = ({ x, y, w, h }: Rect): { c1: number; c2: number; r1: number; r2: number } => {
    const [c1, r1] = [clip(Math.round(x / cellMm), columns), clip(Math.round(y / cellMm), rows)];
    const [c2, r2] = [
      Math.max(c1, clip(Math.round((x + w) / cellMm) - 1, columns)),
      Math.max(r1, clip(Math.round((y + h) / cellMm) - 1, rows)),
    ];
    return { c1, c2, r1, r2 };
  };
  const cells = ({ c1, c2, r1, r2 }: ReturnType<typeof span>): number[] => {
    const list: number[] = [];
    for (let r = r1; r <= r2; r++) for (let c = c1; c <= c2; c++) list.push(r * columns + c);
    return list;
  };
  for (const { outline } of bodies) for (const i of cells(span(outline))) blocked[i] = 1;
  const hidden: string[] = [];
  const openings = blowers.flatMap(({ device, part, face, flowM3h, deflector }) => {
    const { blows, draws } = openingsOf(part);
    const place = (o: Rect) => span(seenFrom(face, plate, onFace(device, o), device.top));
    const to = deflector && seenDirection(face, plate, deflector);
    const [outlet, inlet] = [place(blows), place(draws)];
    const [out, into] = [cells(outlet), new Set(cells(inlet))];
    if (2 * out.filter((i) => into.has(i)).length > out.length) hidden.push(device.tag);
    return [
      { at: outlet, flow: flowM3h, to },
      { at: inlet, flow: -flowM3h, to: null },
    ];
  });
  // Hoods first, then all openings: no hood shuts an opening.
  for (const { at, to } of openings) {
    if (!to) continue;
    const open = STEPS[to];
    const around = { c1: at.c1 - 1, c2: at.c2 + 1, r1: at.r1 - 1, r2: at.r2 + 1 };
    for (let r = around.r1; r <= around.r2; r++)
      for (let c = around.c1; c <= around.c2; c++) {
        if (r < 0 || c < 0 || r >= rows || c >= columns) continue;
        const [dx, dy] = [c < at.c1 ? -1 : c > at.c2 ? 1 : 0, r < at.r1 ? -1 : r > at.r2 ? 1 : 0];
        if ((dx !== 0 || dy !== 0) && !(dx === open.x && dy === open.y)) blocked[r * columns + c] = 1;
      }
  }
  for (const { at, flow } of openings) {
    const list = cells(at);
    for (const i of list) {
      blocked[i] = 0;
      source[i]! += flow / list.length;
    }
  }
  return { columns, rows, cellMm, blocked, source, hidden };
}

/** Where the air of the units goes on a plate, and what lies in dead air. O(cells · √cells) */
export function airWay(
  enclosure: Pick<Enclosure, "plate" | "d">,
  plate: Face,
  bodies: readonly PlacedDevice[],
  blowers: readonly Blower[],
  counted: ReadonlyMap<string, number>,
): { way: AirWay; flow: Flow; grid: FlowGrid } {
  const grid = gridOf(plate, bodies, blowers);
  const deep = enclosure.plate?.setback ?? enclosure.d;
  const flow = potentialFlow(grid, Math.max(LEAST_DEPTH_MM, deep), ENOUGH);
  let [free, reached] = [0, 0];
  for (let i = 0; i < grid.blocked.length; i++) {
    if (grid.blocked[i]) continue;
    free++;
    if (flow.speed[i]! >= STILL_MS) reached++;
  }
  const fastest = (d: PlacedDevice): number => {
    const { cellMm, columns, rows } = grid;
    const { x, y, w, h } = d.outline;
    let most = 0;
    // The cells all round the body.
    for (let r = Math.floor(y / cellMm) - 2; r <= Math.ceil((y + h) / cellMm) + 1; r++)
      for (let c = Math.floor(x / cellMm) - 2; c <= Math.ceil((x + w) / cellMm) + 1; c++)
        if (r >= 0 && c >= 0 && r < rows && c < columns) most = Math.max(most, flow.speed[r * columns + c]!);
    return most;
  };
  const still = bodies.filter((d) => fastest(d) < STILL_MS).map((d) => d.tag);
  return {
    way: {
      face: plate.id,
      units: blowers.map((b) => b.device.tag),
      hidden: grid.hidden,
      unstated: blowers.flatMap((b) => (openingsOf(b.part).stated ? [] : [b.part.number])),
      columns: grid.columns,
      rows: grid.rows,
      cellMm: grid.cellMm,
      reachedPercent: free === 0 ? 0 : (100 * reached) / free,
      speedMs: STILL_MS,
      dead: deadOf(still, counted),
      still,
    },
    flow,
    grid,
  };
}

/** Ways that were worked out last, by all that they hang on; small, as fields are not kept. */
const remembered = new Map<string, AirWay>();
const MOST_REMEMBERED = 64;
const LONGEST_KEY = 200_000;

/**
 * The same without its field. What hangs on neither losses nor temperatures is not worked out again for them: most edits
 * move nothing before a plate.
 */
export function wayOf(
  enclosure: Pick<Enclosure, "plate" | "d">,
  plate: Face,
  bodies: readonly PlacedDevice[],
  blowers: readonly Blower[],
  counted: ReadonlyMap<string, number>,
): AirWay {
  const key = JSON.stringify([
    plate,
    enclosure.plate?.setback ?? enclosure.d,
    bodies.map((d) => [d.tag, d.outline]),
    blowers.map(({ device, part, face, flowM3h, deflector }) => [
      device.tag,
      part.number,
      openingsOf(part),
      device.centre,
      device.turn,
      device.w,
      device.h,
      device.top,
      face,
      flowM3h,
      deflector,
    ]),
  ]);
  let way = remembered.get(key);
  if (way) remembered.delete(key);
  else ({ way } = airWay(enclosure, plate, bodies, blowers, counted));
  // The one that was asked for last goes last.
  if (key.length <= LONGEST_KEY) remembered.set(key, way);
  if (remembered.size > MOST_REMEMBERED) remembered.delete(remembered.keys().next().value!);
  return { ...way, dead: deadOf(way.still, counted) };
}

/** Of what stands in still air what loses heat, the hottest first. */
export const deadOf = (still: readonly string[], counted: ReadonlyMap<string, number>): AirWay["dead"] =>
  still
    .flatMap((device) => ((counted.get(device) ?? 0) > 0 ? [{ device, countedW: counted.get(device)! }] : []))
    .sort((a, b) => b.countedW - a.countedW || (a.device < b.device ? -1 : 1));
