/** A plate in cells, from its lower left corner, row by row upwards. */
export interface FlowGrid {
  columns: number;
  rows: number;
  cellMm: number;
  /** 1 where a body stands. */
  blocked: Uint8Array;
  /** Air put in (positive) or drawn (negative) in a cell, m³/h. */
  source: Float64Array;
}

export interface Flow {
  /** Speed in the middle of each cell, m/s for a depth of the free space; 0 in bodies and where no air comes to. */
  speed: Float64Array;
  /** Through the right and the upper side of each cell, m³/h. */
  right: Float64Array;
  up: Float64Array;
  iterations: number;
  /** Largest imbalance of a cell, as a share of all that is put in. */
  residual: number;
}

const ENOUGH = 1e-6;
const MOST_ITERATIONS = 4000;

/**
 * Where the air goes: potential flow in the free space of a plate. In each free cell what comes in goes out; bodies and edges
 * let nothing through. Solved by conjugate gradients with an incomplete Cholesky factor (modified, so that even fields are kept).
 * Only free space that both a source and a drain reach takes part; where what is put in and what is drawn differ, the
 * difference leaves evenly through the drains. A picture of the way of the air, not of its turbulence. O(cells · √cells)
 * @param depthMm of the space the air goes through
 */
export function potentialFlow(grid: FlowGrid, depthMm: number, enough = ENOUGH): Flow {
  const { columns: nx, rows: ny, blocked } = grid;
  const n = nx * ny;
  const flow: Flow = {
    speed: new Float64Array(n),
    right: new Float64Array(n),
    up: new Float64Array(n),
    iterations: 0,
    residual: 0,
  };
  const b = balanced(grid);
  const total = b.reduce((sum, v) => sum + Math.max(0, v), 0);
  if (total === 0) return flow;
  const free = (i: number): boolean => blocked[i] === 0;
  // Couplings to the right and up; the diagonal is their sum: a Laplacian with closed edges.
  const right = new Float64Array(n);
  const up = new Float64Array(n);
  const diagonal = new Float64Array(n);
  for (let y = 0; y < ny; y++) {
    for (let x = 0; x < nx; x++) {
      const i = y * nx + x;
      if (!free(i)) continue;
      if (x + 1 < nx && free(i + 1)) {
        right[i] = 1;
        diagonal[i]!++;
        diagonal[i + 1]!++;
      }
      if (y + 1 < ny && free(i + nx)) {
        up[i] = 1;
        diagonal[i]!++;
        diagonal[i + nx]!++;
      }
    }
  }
  const factor = factorOf(nx, n, diagonal, right, up);
  const p = new Float64Array(n);
  const r = Float64Array.from(b);
  const z = new Float64Array(n);
  const q = new Float64Array(n);
  precondition(factor, nx, n, right, up, r, z);
  const d = Float64Array.from(z);
  let rz = dot(r, z);
  let worst = maxOf(r) / total;
  let iterations = 0;
  while (worst > enough && iterations < MOST_ITERATIONS && rz > 0) {
    laplace(nx, n, diagonal, right, up, d, q);
    const alpha = rz / dot(d, q);
    for (let i = 0; i < n; i++) {
      p[i]! += alpha * d[i]!;
      r[i]! -= alpha * q[i]!;
    }
    precondition(factor, nx, n, right, up, r, z);
    const next = dot(r, z);
    const beta = next / rz;
    rz = next;
    for (let i = 0; i < n; i++) d[i] = z[i]! + beta * d[i]!;
    worst = maxOf(r) / total;
    iterations++;
  }
  for (let i = 0; i < n; i++) {
    if (right[i]) flow.right[i] = p[i]! - p[i + 1]!;
    if (up[i]) flow.up[i] = p[i]! - p[i + nx]!;
  }
  // m³/h through a side of a cell, over its area: m/s.
  const area = (grid.cellMm / 1000) * (depthMm / 1000) * 3600;
  for (let i = 0; i < n; i++) {
    if (!free(i)) continue;
    const vx = ((flow.right[i] ?? 0) + (i % nx > 0 ? flow.right[i - 1]! : 0)) / 2;
    const vy = ((flow.up[i] ?? 0) + (i >= nx ? flow.up[i - nx]! : 0)) / 2;
    flow.speed[i] = Math.hypot(vx, vy) / area;
  }
  return { ...flow, iterations, residual: worst };
}

/** Sources of each connected free space, its drains made to draw what is put in; nothing where one of the two is missing. */
function balanced({ columns: nx, rows: ny, blocked, source }: FlowGrid): Float64Array {
  const n = nx * ny;
  const out = new Float64Array(n);
  const seen = new Uint8Array(n);
  const stack: number[] = [];
  for (let start = 0; start < n; start++) {
    if (seen[start] || blocked[start] || source[start] === 0) continue;
    const cells: number[] = [];
    seen[start] = 1;
    stack.push(start);
    let [given, drawn] = [0, 0];
    while (stack.length > 0) {
      const i = stack.pop()!;
      const s = source[i]!;
      if (s !== 0) cells.push(i);
      if (s > 0) given += s;
      else drawn -= s;
      const x = i % nx;
      for (const j of [x > 0 ? i - 1 : -1, x + 1 < nx ? i + 1 : -1, i - nx, i + nx < n ? i + nx : -1]) {
        if (j < 0 || seen[j] || blocked[j]) continue;
        seen[j] = 1;
        stack.push(j);
      }
    }
    if (given === 0 || drawn === 0) continue;
    for (const i of cells) out[i] = source[i]! > 0 ? source[i]! : (source[i]! * given) / drawn;
  }
  return out;
}

/** Share of what is dropped that is put back onto the diagonal; less than all of it, as the whole is singular. */
const MODIFIED = 0.97;

/** Diagonal of the modified incomplete Cholesky factor, inverted. */
function factorOf(nx: number, n: number, diagonal: Float64Array, right: Float64Array, up: Float64Array): Float64Array {
  const inverse = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    if (diagonal[i] === 0) continue;
    let e = diagonal[i]!;
    if (i % nx > 0 && right[i - 1]) {
      const j = i - 1;
      e -= inverse[j]! * (1 + MODIFIED * up[j]!);
    }
    if (i >= nx && up[i - nx]) {
      const j = i - nx;
      e -= inverse[j]! * (1 + MODIFIED * right[j]!);
    }
    inverse[i] = 1 / (e < 0.25 * diagonal[i]! ? diagonal[i]! : e);
  }
  return inverse;
}

/** Solves with the factor: forward, then back. */
function precondition(
  inverse: Float64Array,
  nx: number,
  n: number,
  right: Float64Array,
  up: Float64Array,
  r: Float64Array,
  z: Float64Array,
): void {
  for (let i = 0; i < n; i++) {
    let v = r[i]!;
    if (i % nx > 0 && right[i - 1]) v += z[i - 1]!;
    if (i >= nx && up[i - nx]) v += z[i - nx]!;
    z[i] = v * inverse[i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    let v = 0;
    if (right[i]) v += z[i + 1]!;
    if (up[i]) v += z[i + nx]!;
    z[i]! += v * inverse[i]!;
  }
}

function laplace(
  nx: number,
  n: number,
  diagonal: Float64Array,
  right: Float64Array,
  up: Float64Array,
  x: Float64Array,
  out: Float64Array,
): void {
  for (let i = 0; i < n; i++) out[i] = diagonal[i]! * x[i]!;
  for (let i = 0; i < n; i++) {
    if (right[i]) {
      out[i]! -= x[i + 1]!;
      out[i + 1]! -= x[i]!;
    }
    if (up[i]) {
      out[i]! -= x[i + nx]!;
      out[i + nx]! -= x[i]!;
    }
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

function maxOf(a: Float64Array): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]!));
  return most;
}
