import type { PlacedDevice } from "../panel/result";
import type { Enclosure, Part } from "../design/model";
import type { Face } from "../design/geometry";
import { potentialFlow, type Flow, type FlowGrid } from "./flow";
import type { AirWay } from "./result";

const CELL_MM = 10;
const MOST_CELLS = 60_000;
/** Air that is slower than this does not reach a device. */
export const STILL_MS = 0.1;
/** Of the space before a plate that the air goes through. */
const LEAST_DEPTH_MM = 100;

/** A unit that blows and draws before a plate. */
export interface Blower {
  device: PlacedDevice;
  part: Part;
  flowM3h: number;
}

/** Where the openings of a unit lie on its body: stated, or the upper and the lower third of it. */
export const openingsOf = ({ part }: Pick<Blower, "part">) => ({
  blows: part.climate?.blows ?? { x: 0, y: (part.h * 2) / 3, w: part.w, h: part.h / 3 },
  draws: part.climate?.draws ?? { x: 0, y: 0, w: part.w, h: part.h / 3 },
  stated: part.climate?.blows !== undefined && part.climate.draws !== undefined,
});

/** The grid of a plate with bodies in the way and the openings of units as sources and drains. */
export function gridOf(
  enclosure: Enclosure,
  plate: Face,
  bodies: readonly PlacedDevice[],
  blowers: readonly Blower[],
): FlowGrid {
  const cellMm = Math.max(CELL_MM, Math.sqrt((plate.w * plate.h) / MOST_CELLS));
  const columns = Math.max(1, Math.round(plate.w / cellMm));
  const rows = Math.max(1, Math.round(plate.h / cellMm));
  const blocked = new Uint8Array(columns * rows);
  const source = new Float64Array(columns * rows);
  const cells = (x: number, y: number, w: number, h: number): number[] => {
    const list: number[] = [];
    const clip = (v: number, n: number): number => Math.min(n - 1, Math.max(0, v));
    const [c1, c2] = [clip(Math.round(x / cellMm), columns), clip(Math.round((x + w) / cellMm) - 1, columns)];
    const [r1, r2] = [clip(Math.round(y / cellMm), rows), clip(Math.round((y + h) / cellMm) - 1, rows)];
    for (let r = r1; r <= r2; r++) for (let c = c1; c <= c2; c++) list.push(r * columns + c);
    return list;
  };
  for (const { outline: o } of bodies) for (const i of cells(o.x, o.y, o.w, o.h)) blocked[i] = 1;
  // From the door, a side or the roof to the plate behind: side by side they have one lower left corner of the body.
  const [dx, dy] = [(enclosure.w - plate.w) / 2, (enclosure.h - plate.h) / 2];
  for (const { device, part, flowM3h } of blowers) {
    const { blows, draws } = openingsOf({ part });
    for (const [o, sign] of [
      [blows, 1],
      [draws, -1],
    ] as const) {
      const x = device.outline.x + o.x - dx;
      const y = device.face.endsWith("/roof") ? plate.h - 50 : device.outline.y + o.y - dy;
      const at = cells(x, y, o.w, device.face.endsWith("/roof") ? 50 : o.h);
      for (const i of at) {
        blocked[i] = 0;
        source[i]! += (sign * flowM3h) / at.length;
      }
    }
  }
  return { columns, rows, cellMm, blocked, source };
}

/** Where the air of the units goes on a plate, and what lies in dead air. O(cells · √cells) */
export function airWay(
  enclosure: Enclosure,
  plate: Face,
  bodies: readonly PlacedDevice[],
  blowers: readonly Blower[],
  counted: ReadonlyMap<string, number>,
): { way: AirWay; flow: Flow; grid: FlowGrid } {
  const grid = gridOf(enclosure, plate, bodies, blowers);
  const deep = enclosure.plate?.setback ?? enclosure.d;
  const flow = potentialFlow(grid, Math.max(LEAST_DEPTH_MM, deep), 1e-4);
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
  const dead = bodies
    .flatMap((d) =>
      (counted.get(d.tag) ?? 0) > 0 && fastest(d) < STILL_MS ? [{ device: d.tag, countedW: counted.get(d.tag)! }] : [],
    )
    .sort((a, b) => b.countedW - a.countedW || (a.device < b.device ? -1 : 1));
  return {
    way: {
      face: plate.id,
      units: blowers.map((b) => b.device.tag),
      columns: grid.columns,
      rows: grid.rows,
      cellMm: grid.cellMm,
      reachedPercent: free === 0 ? 0 : (100 * reached) / free,
      speedMs: STILL_MS,
      dead,
    },
    flow,
    grid,
  };
}
