import { onLine } from "../design/curve";

/** One slab of the air in an enclosure, from the bottom up. */
export interface Slab {
  /** Middle above the floor, mm. */
  atMm: number;
  heatW: number;
  airC: number;
}

export interface ColumnInput {
  heightMm: number;
  slabs: number;
  /** Heat put in at heights, W; spread over the stretch. */
  sources: readonly { fromMm: number; toMm: number; lossW: number }[];
  /** What the walls pass for each kelvin: all round evenly by height; roof and floor at the ends. W/K */
  wallsWPerK: number;
  roofWPerK: number;
  floorWPerK: number;
  outsideC: number;
  /** Share of the heat of a slab that rises with its air to the slabs above, evenly. */
  risingShare: number;
  /** What passes between two slabs for each kelvin by mixing of the air, W/K. */
  mixingWPerK: number;
  /** Heat carried away by units, W, taken where the air is drawn: at a height. */
  carried: readonly { atMm: number; coolW: number }[];
}

/**
 * Air temperature by height: slabs that are each well mixed, with heat put in where devices are, a share of it rising, walls
 * losing, and mixing between neighbours; no slab is warmer than the one above it. What goes in goes out: Σ heat = Σ through the walls + Σ carried. A model, no
 * measurement: jets, gaps between devices and the door are not in it. O(slabs)
 */
export function columnOf(input: ColumnInput): Slab[] {
  const { heightMm, slabs: n, sources, outsideC, risingShare, mixingWPerK, carried } = input;
  // Where nothing passes heat the air comes to rest nowhere, and no temperature is told of it.
  if (input.wallsWPerK + input.roofWPerK + input.floorWPerK <= 0) return [];
  const each = heightMm / n;
  const heat = new Array<number>(n).fill(0);
  const slabAt = (mm: number): number => Math.min(n - 1, Math.max(0, Math.floor(mm / each)));
  for (const s of sources) {
    const [from, to] = [Math.min(heightMm, Math.max(0, s.fromMm)), Math.min(heightMm, Math.max(0, s.toMm))];
    if (to - from < 1e-9) {
      heat[slabAt(from)]! += s.lossW;
      continue;
    }
    for (let i = slabAt(from); i < n && i * each < to; i++) {
      const part = Math.min(to, (i + 1) * each) - Math.max(from, i * each);
      if (part > 0) heat[i]! += (s.lossW * part) / (to - from);
    }
  }
  const put = new Array<number>(n).fill(0);
  heat.forEach((w, i) => {
    const above = n - 1 - i;
    const rising = above === 0 ? 0 : w * risingShare;
    put[i]! += w - rising;
    for (let j = i + 1; j < n; j++) put[j]! += rising / above;
  });
  for (const c of carried) put[slabAt(c.atMm)]! -= c.coolW;
  const loses = put.map(
    (_, i) => input.wallsWPerK / n + (i === n - 1 ? input.roofWPerK : 0) + (i === 0 ? input.floorWPerK : 0),
  );
  // Between slab i and i + 1.
  const mixing = new Array<number>(Math.max(0, n - 1)).fill(mixingWPerK);
  let over = overOutside(loses, mixing, put);
  // Warm air under cooler air rises: such slabs mix until the upper one is no cooler. Each pass joins one pair more.
  for (let pass = 0; pass < n; pass++) {
    const turned = mixing.flatMap((g, k) => (g < FULL_W_PER_K && over[k]! > over[k + 1]! + 1e-9 ? [k] : []));
    if (turned.length === 0) break;
    for (const k of turned) mixing[k] = Math.max(mixingWPerK, FULL_W_PER_K);
    over = overOutside(loses, mixing, put);
  }
  return over.map((k, i) => ({ atMm: (i + 0.5) * each, heatW: heat[i]!, airC: outsideC + k }));
}

/** Mixed so well that two slabs are one to a thousandth of a kelvin. */
const FULL_W_PER_K = 1e6;

/** Kelvin over outside: (loses + mixing) · T_i − mixing · (T_i−1 + T_i+1) = put, a band of three. O(slabs) */
function overOutside(loses: readonly number[], mixing: readonly number[], put: readonly number[]): number[] {
  const n = loses.length;
  const diagonal = loses.map((u, i) => u + (mixing[i - 1] ?? 0) + (mixing[i] ?? 0));
  const right = [...put];
  for (let i = 1; i < n; i++) {
    const g = mixing[i - 1]!;
    diagonal[i]! -= (g * g) / diagonal[i - 1]!;
    right[i]! += (g / diagonal[i - 1]!) * right[i - 1]!;
  }
  const over = new Array<number>(n);
  for (let i = n - 1; i >= 0; i--) over[i] = (right[i]! + (i < n - 1 ? mixing[i]! * over[i + 1]! : 0)) / diagonal[i]!;
  return over;
}

/** Air temperature at a height, straight between the middles of slabs. */
export function airAt(slabs: readonly Slab[], mm: number): number {
  return onLine(
    slabs.map((s) => ({ x: s.atMm, y: s.airC })),
    mm,
  ).y;
}
