import type { Flow, FlowGrid } from "./flow";

/** A line that air follows, mm from the lower left corner of its plate. */
export type Stream = { x: number; y: number }[];

const MOST_STREAMS = 24;
const MOST_STEPS = 4000;
/** Of a cell, each step. */
const STEP = 0.4;
/** Points that are kept: one of so many. */
const KEPT = 5;

/** Flow through the middle of a cell's side between the two it lies between, in cells per unit of time. */
function speedAt({ right, up }: Flow, { columns: nx, rows: ny }: FlowGrid, x: number, y: number): [number, number] {
  const [c, r] = [Math.min(nx - 1, Math.max(0, Math.floor(x))), Math.min(ny - 1, Math.max(0, Math.floor(y)))];
  const i = r * nx + c;
  const [fx, fy] = [x - c, y - r];
  const west = c > 0 ? right[i - 1]! : 0;
  const south = r > 0 ? up[i - nx]! : 0;
  return [west * (1 - fx) + right[i]! * fx, south * (1 - fy) + up[i]! * fy];
}

/**
 * Lines from the outlets to where the air is drawn: from cells of outlets that it leaves, evenly by what goes through, each
 * followed with the flow through the sides of its cells. O(streams · length)
 */
export function streamsOf(grid: FlowGrid, flow: Flow, most = MOST_STREAMS): Stream[] {
  const { columns: nx, source, blocked, cellMm } = grid;
  // Sides of outlets that air leaves through, with what goes through.
  const doors: { x: number; y: number; m3h: number }[] = [];
  for (let i = 0; i < source.length; i++) {
    if (!(source[i]! > 0)) continue;
    const [c, r] = [i % nx, Math.floor(i / nx)];
    const leave = (out: number, j: number, x: number, y: number): void => {
      if (out > 0 && !blocked[j] && !(source[j]! > 0)) doors.push({ x, y, m3h: out });
    };
    if (c + 1 < nx) leave(flow.right[i]!, i + 1, c + 1.02, r + 0.5);
    if (c > 0) leave(-flow.right[i - 1]!, i - 1, c - 0.02, r + 0.5);
    if (i + nx < source.length) leave(flow.up[i]!, i + nx, c + 0.5, r + 1.02);
    if (i >= nx) leave(-flow.up[i - nx]!, i - nx, c + 0.5, r - 0.02);
  }
  const total = doors.reduce((sum, d) => sum + d.m3h, 0);
  if (total === 0) return [];
  const each = total / Math.min(most, doors.length);
  const streams: Stream[] = [];
  let due = each / 2;
  for (const door of doors) {
    due -= door.m3h;
    if (due > 0) continue;
    due += each;
    const line = followed(grid, flow, door);
    if (line.length > 1) streams.push(line.map(({ x, y }) => ({ x: x * cellMm, y: y * cellMm })));
  }
  return streams;
}

/** From a place with the flow, in cells, until it is drawn, stands still, or has gone long enough. */
function followed(grid: FlowGrid, flow: Flow, from: { x: number; y: number }): Stream {
  const { columns: nx, rows: ny, source, blocked } = grid;
  let { x, y } = from;
  const line: Stream = [{ x, y }];
  for (let n = 1; n <= MOST_STEPS; n++) {
    const [ax, ay] = speedAt(flow, grid, x, y);
    const a = Math.hypot(ax, ay);
    if (a === 0) break;
    // Half a step ahead: the way bends.
    const [bx, by] = speedAt(flow, grid, x + (ax / a) * (STEP / 2), y + (ay / a) * (STEP / 2));
    const b = Math.hypot(bx, by);
    if (b === 0) break;
    [x, y] = [x + (bx / b) * STEP, y + (by / b) * STEP];
    if (x < 0 || y < 0 || x >= nx || y >= ny) break;
    const i = Math.floor(y) * nx + Math.floor(x);
    if (blocked[i]) break;
    if (n % KEPT === 0) line.push({ x, y });
    if (source[i]! < 0) {
      line.push({ x, y });
      break;
    }
  }
  return line;
}
