/** Loss of a body on a face. */
export interface Source {
  x: number;
  y: number;
  w: number;
  h: number;
  lossW: number;
}

/** Loss over a face in cells, from its lower left corner, row by row upwards. W/dm². */
export interface HeatMap {
  cellMm: number;
  columns: number;
  rows: number;
  values: Float64Array;
}

/** Most cells of a map: larger faces get larger cells. */
const MOST_CELLS = 60_000;
const MM2_PER_DM2 = 10_000;
/** Beyond so many widths of the smoothing nothing is left. */
const REACH = 4;

/**
 * Loss of the bodies of a face spread over their footprints, then smoothed by a Gaussian that is thrown back at the edges:
 * its integral is the loss. What lies beyond the face is put onto its edge. O(cells · sigma / cell)
 */
export function heatMap(w: number, h: number, sources: readonly Source[], sigmaMm: number, cellMm: number): HeatMap {
  const cell = Math.max(cellMm, Math.sqrt((w * h) / MOST_CELLS));
  const columns = Math.max(1, Math.round(w / cell));
  const rows = Math.max(1, Math.round(h / cell));
  const [cw, ch] = [w / columns, h / rows];
  const power = new Float64Array(columns * rows);
  const clamp = (v: number, most: number): number => Math.min(most, Math.max(0, v));
  for (const s of sources) {
    // At least a hair wide, so that a body beyond the face still has a cell.
    const [x1, x2] = [clamp(s.x, w), clamp(s.x + s.w, w)];
    const [y1, y2] = [clamp(s.y, h), clamp(s.y + s.h, h)];
    const xs = shares(x1, x2, cw, columns);
    const ys = shares(y1, y2, ch, rows);
    for (const [r, sy] of ys) for (const [c, sx] of xs) power[r * columns + c]! += s.lossW * sx * sy;
  }
  const across = smoothed(power, columns, rows, 1, columns, sigmaMm / cw);
  const both = smoothed(across, rows, columns, columns, 1, sigmaMm / ch);
  const perDm2 = MM2_PER_DM2 / (cw * ch);
  return { cellMm: cell, columns, rows, values: both.map((v) => v * perDm2) };
}

/** Which cells a stretch covers, and which share of it lies in each. */
function shares(from: number, to: number, size: number, count: number): [cell: number, share: number][] {
  const last = count - 1;
  if (to - from < 1e-9) return [[Math.min(last, Math.floor(from / size)), 1]];
  const list: [number, number][] = [];
  for (let i = Math.min(last, Math.floor(from / size)); i <= last && i * size < to; i++) {
    const part = Math.min(to, (i + 1) * size) - Math.max(from, i * size);
    if (part > 0) list.push([i, part / (to - from)]);
  }
  return list;
}

/** Smooths `n` cells at a distance of `step` in each of `lines` lines at a distance of `line`. */
function smoothed(
  values: Float64Array,
  n: number,
  lines: number,
  step: number,
  line: number,
  sigma: number,
): Float64Array {
  const out = new Float64Array(values.length);
  const reach = Math.ceil(REACH * sigma);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)));
  const sum = kernel.reduce((a, b) => a + b, 0);
  for (let l = 0; l < lines; l++) {
    for (let i = 0; i < n; i++) {
      const v = values[l * line + i * step]!;
      if (v === 0) continue;
      for (let k = -reach; k <= reach; k++) out[l * line + back(i + k, n) * step]! += (v * kernel[k + reach]!) / sum;
    }
  }
  return out;
}

/** A place thrown back at both ends, however far beyond. */
function back(i: number, n: number): number {
  const turn = 2 * n;
  const at = ((i % turn) + turn) % turn;
  return at < n ? at : turn - 1 - at;
}

/** Integral of a map over its face, W. */
export const integralOf = ({ values, columns, rows }: HeatMap, w: number, h: number): number =>
  (values.reduce((sum, v) => sum + v, 0) * (w / columns) * (h / rows)) / MM2_PER_DM2;

/** The largest of a map, W/dm². */
export const hottest = ({ values }: Pick<HeatMap, "values">): number => values.reduce((a, b) => Math.max(a, b), 0);
