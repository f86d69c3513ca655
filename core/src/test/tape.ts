import type { Crossing, Design, Device, Duct, Enclosure, Part, Pin, Rail } from "../design/model";
import { Fraction, max, min } from "./fraction";

/**
 * Lengths of wires worked out a second time, straight from docs/calculations/routes.md, in exact fractions and
 * with nothing of the routes stage: no shared geometry, network or search. It covers designs whose wires
 * take shortest ways (no classes to keep apart, no full ducts) with names used once. Slow and simple: the
 * network is one big graph with a node for every place that could matter, searched by relaxing all edges.
 */

const F = (v: number): Fraction => Fraction.from(v);
const ZERO = F(0);
const HALF = Fraction.of(1n, 2n);

interface V2 {
  x: Fraction;
  y: Fraction;
}
interface V3 extends V2 {
  z: Fraction;
}
interface Box {
  x0: Fraction;
  y0: Fraction;
  x1: Fraction;
  y1: Fraction;
}

/** The shop's figures, written out from the document. */
const DEFAULTS = {
  slackMm: 30,
  slackDoorMm: 60,
  bendFromMm2: 10,
  bendDiameters: 4,
  loopHingeMm: 100,
  doorOpenDeg: 120,
  wideFromMm: 60,
  stiffFromMm2: 6,
  passGapMm: 5,
  loopWallMm: 0,
  loopEdgeMm: 0,
  reservePercent: 0,
  stepMm: 5,
  shortestLeadMm: 120,
  reachMm: 400,
  corridorMm: 20,
  joinGapMm: 5,
  directReachMm: 150,
};
type Figures = typeof DEFAULTS;

const OUTER: [size: number, outer: number][] = [
  [0.5, 2.5],
  [0.75, 2.7],
  [1, 2.8],
  [1.5, 3.4],
  [2.5, 4.1],
  [4, 4.8],
  [6, 5.3],
  [10, 6.8],
  [16, 8.1],
  [25, 10.2],
];

const l1 = (a: V2, b: V2): Fraction => a.x.minus(b.x).abs().plus(a.y.minus(b.y).abs());
const clamp = (v: Fraction, lo: Fraction, hi: Fraction): Fraction => max(lo, min(v, hi));

/** Quarter turns counter-clockwise of a vector. */
function turned(v: V2, degrees: number): V2 {
  let p = v;
  for (let i = 0; i < degrees; i += 90) p = { x: ZERO.minus(p.y), y: p.x };
  return p;
}

const DIRECTIONS = ["right", "up", "left", "down"];

interface Standing {
  device: Device;
  part: Part;
  face: string;
  centre: V2;
  z: Fraction;
  turn: number;
}

function stand(design: Design, device: Device): Standing {
  const part = design.parts.find((p) => p.number === device.part)!;
  const own = device.turn ?? 0;
  const on = device.on!;
  const half = { x: F(part.w).times(HALF), y: F(part.h).times(HALF) };
  if (on.face !== undefined) {
    const centre = { x: F(on.x!).plus(half.x), y: F(on.y!).plus(half.y) };
    return { device, part, face: on.face, centre, z: ZERO, turn: own };
  }
  if (on.rail !== undefined) {
    const rail = design.rails.find((r) => r.tag === on.rail) as Rail;
    const railPart = design.parts.find((p) => p.number === rail.part)!;
    const datum = part.mounts?.find((m) => m.kind === "rail");
    const across = own % 180 === 90;
    const lift = across || datum?.kind !== "rail" ? ZERO : half.y.minus(F(datum.datumY));
    const extent = across ? half.y : half.x;
    const local = { x: F(on.x!).plus(extent), y: own === 180 ? ZERO.minus(lift) : lift };
    const up = rail.run === "up";
    const middle = F(railPart.h).times(HALF);
    const start = { x: F(rail.x).plus(up ? middle : ZERO), y: F(rail.y).plus(up ? ZERO : middle) };
    const v = turned(local, up ? 90 : 0);
    const turn = (own + (up ? 90 : 0)) % 360;
    return {
      device,
      part,
      face: rail.face,
      centre: { x: start.x.plus(v.x), y: start.y.plus(v.y) },
      z: F(railPart.d),
      turn,
    };
  }
  const parent = stand(
    design,
    design.devices.find((d) => d.tag === on.slot)!,
  );
  const slot = parent.part.slots!.find((s) => s.name === on.name)!;
  const mount = part.mounts?.find((m) => m.kind === "slot");
  const datum = mount?.kind === "slot" ? mount : { datumX: 0, datumY: 0, datumZ: 0 };
  const fromDatum = turned({ x: half.x.minus(F(datum.datumX)), y: half.y.minus(F(datum.datumY)) }, own);
  const inParent = {
    x: F(slot.x).plus(fromDatum.x).minus(F(parent.part.w).times(HALF)),
    y: F(slot.y).plus(fromDatum.y).minus(F(parent.part.h).times(HALF)),
  };
  const v = turned(inParent, parent.turn);
  return {
    device,
    part,
    face: parent.face,
    centre: { x: parent.centre.x.plus(v.x), y: parent.centre.y.plus(v.y) },
    z: parent.z.plus(F(slot.z)).minus(F(datum.datumZ)),
    turn: (parent.turn + own) % 360,
  };
}

interface Line {
  tag: string;
  face: string;
  box: Box;
  a: V2;
  b: V2;
  up: boolean;
  height: Fraction;
  /** Inner width; nothing where the part does not say it. */
  wide: Fraction;
  /** Height of its cover above the face. */
  cover: number;
}

function lineOf(design: Design, duct: Duct): Line {
  const part = design.parts.find((p) => p.number === duct.part)!;
  const [x, y, length, wide] = [F(duct.x), F(duct.y), F(duct.length), F(part.h)];
  const up = duct.run === "up";
  const box = { x0: x, y0: y, x1: x.plus(up ? wide : length), y1: y.plus(up ? length : wide) };
  const mid = wide.times(HALF);
  const a = up ? { x: x.plus(mid), y } : { x, y: y.plus(mid) };
  const b = up ? { x: a.x, y: box.y1 } : { x: box.x1, y: a.y };
  return {
    tag: duct.tag,
    face: duct.face,
    box,
    a,
    b,
    up,
    height: F(part.duct?.innerH ?? part.d).times(HALF),
    wide: F(part.duct?.innerW ?? 0),
    cover: nm(F(part.d)),
  };
}

const nearestOn = (line: Line, p: V2): V2 => ({ x: clamp(p.x, line.a.x, line.b.x), y: clamp(p.y, line.a.y, line.b.y) });
const toBox = (b: Box, p: V2): Fraction => l1(p, { x: clamp(p.x, b.x0, b.x1), y: clamp(p.y, b.y0, b.y1) });

/** Squared distance between outlines: fractions have no roots. */
function gapSquared(a: Box, b: Box): Fraction {
  const dx = max(ZERO, b.x0.minus(a.x1), a.x0.minus(b.x1));
  const dy = max(ZERO, b.y0.minus(a.y1), a.y0.minus(b.y1));
  return dx.times(dx).plus(dy.times(dy));
}

/** Frames of faces: origin and unit vectors in the enclosure, from the document's words. */
function frameOf(e: Enclosure, kind: string): { o: number[]; u: number[]; v: number[]; n: number[] } {
  const frames: Record<string, { o: number[]; u: number[]; v: number[]; n: number[] }> = {
    door: { o: [0, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
    left: { o: [0, 0, e.d], u: [0, 0, -1], v: [0, 1, 0], n: [1, 0, 0] },
    right: { o: [e.w, 0, 0], u: [0, 0, 1], v: [0, 1, 0], n: [-1, 0, 0] },
    roof: { o: [0, e.h, 0], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] },
    base: { o: [0, 0, e.d], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] },
    rear: { o: [e.w, 0, e.d], u: [-1, 0, 0], v: [0, 1, 0], n: [0, 0, -1] },
  };
  const p = e.plate!;
  frames.plate = { o: [(e.w - p.w) / 2, (e.h - p.h) / 2, p.setback], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, -1] };
  return frames[kind]!;
}

/** A point of an enclosure in the coordinates of a face of this or a neighbouring enclosure. */
function onFace(design: Design, enclosure: string, face: string, p: { x: number; y: number; z: number }): V3 {
  const [tag, kind] = face.split("/") as [string, string];
  const e = design.enclosures.find((x) => x.tag === tag)!;
  const f = frameOf(e, kind);
  const shift = leftOf(design, enclosure).minus(leftOf(design, tag));
  const d = [F(p.x).plus(shift).minus(F(f.o[0]!)), F(p.y).minus(F(f.o[1]!)), F(p.z).minus(F(f.o[2]!))];
  const dot = (v: number[]): Fraction => d.reduce((s, c, i) => s.plus(c.times(F(v[i]!))), ZERO);
  return { x: dot(f.u), y: dot(f.v), z: dot(f.n) };
}

/** Widths of everything to the left of an enclosure in its row. */
function leftOf(design: Design, tag: string): Fraction {
  const left = design.enclosures.find((e) => e.neighbourRight === tag);
  return left ? leftOf(design, left.tag).plus(F(left.w)) : ZERO;
}

/** Whole nanometres: everything in these designs is one, so that nothing is lost. */
const nm = (v: Fraction): number => Math.round(v.toNumber() * 1e6);
const ofNm = (v: number): Fraction => F(v).over(F(1e6));

/** A body or a duct on a face, nm. */
interface Block {
  tag: string;
  x: [number, number];
  y: [number, number];
  top: number;
}
type Spot = [x: number, y: number, z: number];

/**
 * Length of the shortest square way between two spots through no block, nm: all of the grid, each step tried by
 * whether one of the four places right beside its middle is free.
 */
function throughSpace(from: Spot, to: Spot, blocks: readonly Block[], gap: number): number {
  const all = [...blocks];
  blocks.forEach((p, i) =>
    blocks.slice(i + 1).forEach((q) => {
      for (const [u, v] of [
        ["x", "y"],
        ["y", "x"],
      ] as const) {
        const [a, b] = p[u][0] < q[u][0] ? [p, q] : [q, p];
        const [lo, hi] = [Math.max(p[v][0], q[v][0]), Math.min(p[v][1], q[v][1])];
        if (b[u][0] > a[u][1] && b[u][0] - a[u][1] < gap && hi > lo)
          all.push({ tag: "", [u]: [a[u][1], b[u][0]], [v]: [lo, hi], top: Math.min(p.top, q.top) } as never);
      }
    }),
  );
  const low = Math.min(from[2], to[2]);
  const axis = (k: 0 | 1 | 2): number[] => {
    const own = all.flatMap((b) => (k === 0 ? b.x : k === 1 ? b.y : [b.top]));
    return [...new Set([from[k], to[k], ...own])].filter((v) => k < 2 || v >= low).sort((p, q) => p - q);
  };
  const grid = [axis(0), axis(1), axis(2)] as const;
  const inside = (x: number, y: number, z: number): boolean =>
    z < 0 || all.some((b) => b.x[0] < x && x < b.x[1] && b.y[0] < y && y < b.y[1] && z < b.top);
  const free = (p: Spot, q: Spot): boolean => {
    const along = p.findIndex((v, k) => v !== q[k]);
    if (along === 2 && [from, to].some((e) => e[0] === p[0] && e[1] === p[1])) return true;
    const middle = p.map((v, k) => (v + q[k]!) / 2);
    const beside = [0, 1, 2].filter((k) => k !== along) as [number, number];
    return [-0.25, 0.25].some((d) =>
      [-0.25, 0.25].some((e) => {
        const at = [...middle];
        at[beside[0]]! += d;
        at[beside[1]]! += e;
        return !inside(at[0]!, at[1]!, at[2]!);
      }),
    );
  };
  const best = new Map<string, number>([[from.join(), 0]]);
  const open: { at: Spot; mm: number }[] = [{ at: from, mm: 0 }];
  while (open.length > 0) {
    const next = open.reduce((i, o, k) => (o.mm < open[i]!.mm ? k : i), 0);
    const { at, mm } = open.splice(next, 1)[0]!;
    if (at.join() === to.join()) return mm;
    if (best.get(at.join())! < mm) continue;
    for (const k of [0, 1, 2] as const) {
      const here = grid[k].indexOf(at[k]);
      for (const v of [grid[k][here - 1], grid[k][here + 1]]) {
        if (v === undefined) continue;
        const spot: Spot = [...at];
        spot[k] = v;
        const sum = mm + Math.abs(v - at[k]);
        if (sum >= (best.get(spot.join()) ?? Infinity) || !free(at, spot)) continue;
        best.set(spot.join(), sum);
        open.push({ at: spot, mm: sum });
      }
    }
  }
  throw new Error("a lead can always rise");
}

/** Where a lead leaves the body it lies in, as its pin looks. */
function edgeOf(pin: Spot, exit: string, own: Block): Spot {
  const [x, y, z] = pin;
  if (x < own.x[0] || x > own.x[1] || y < own.y[0] || y > own.y[1]) return pin;
  const edges: Record<string, Spot> = {
    up: [x, own.y[1], z],
    down: [x, own.y[0], z],
    left: [own.x[0], y, z],
    right: [own.x[1], y, z],
  };
  return edges[exit]!;
}

const away = (p: Spot, q: Spot): number => p.reduce((s, v, k) => s + Math.abs(v - q[k]!), 0);

interface Entry {
  round?: boolean;
  line: Line;
  at: V2;
  mm: Fraction;
}

/** The shortest square way from a to b that does not run through the inside of a box, on the grid of their lines. */
function roundBox(a: V2, b: V2, box: Box): Fraction {
  const xs = [a.x, b.x, box.x0, box.x1];
  const ys = [a.y, b.y, box.y0, box.y1];
  const nodes = xs.flatMap((x) => ys.map((y) => ({ x, y })));
  const cost: (Fraction | null)[] = nodes.map((n) => (n.x.same(a.x) && n.y.same(a.y) ? ZERO : null));
  const blocked = (p: V2, q: V2): boolean =>
    box.x0.less(max(p.x, q.x)) &&
    min(p.x, q.x).less(box.x1) &&
    box.y0.less(max(p.y, q.y)) &&
    min(p.y, q.y).less(box.y1);
  for (let again = true; again;) {
    again = false;
    nodes.forEach((p, i) => {
      if (!cost[i]) return;
      nodes.forEach((q, j) => {
        if (!(p.x.same(q.x) || p.y.same(q.y)) || blocked(p, q)) return;
        const sum = cost[i]!.plus(l1(p, q));
        if (!cost[j] || sum.less(cost[j]!)) {
          cost[j] = sum;
          again = true;
        }
      });
    });
  }
  return cost[nodes.findIndex((n) => n.x.same(b.x) && n.y.same(b.y))]!;
}

function enter(lines: Line[], pin: V3, exit: string | null, body: Box, figures: Figures): Entry[] {
  const plain = (line: Line): Entry => {
    const at = nearestOn(line, pin);
    return { line, at, mm: l1(pin, at).plus(pin.z.minus(line.height).abs()) };
  };
  if (exit !== null && exit !== "out") {
    const sign = exit === "up" || exit === "right" ? F(1) : F(-1);
    const vertical = exit === "up" || exit === "down";
    const met = lines.flatMap((line) => {
      const b = line.box;
      const [lo, hi] = vertical ? [b.y0, b.y1] : [b.x0, b.x1];
      const [sideLo, sideHi] = vertical ? [b.x0, b.x1] : [b.y0, b.y1];
      const [here, side] = vertical ? [pin.y, pin.x] : [pin.x, pin.y];
      // In the pin's own direction: where the outline begins and where it ends.
      const [near, far] = [lo, hi].map((v) => v.minus(here).times(sign)).sort((p, q) => (p.less(q) ? -1 : 1)) as [
        Fraction,
        Fraction,
      ];
      const straight = sideLo.most(side) && side.most(sideHi);
      const wide = F(figures.corridorMm);
      const inCorridor = sideLo.minus(wide).most(side) && side.most(sideHi.plus(wide));
      if (straight ? far.less(ZERO) : !(inCorridor && ZERO.less(near))) return [];
      const gap = max(ZERO, near);
      return gap.most(F(figures.reachMm)) ? [{ line, gap }] : [];
    });
    if (met.length > 0) {
      const first = min(met[0]!.gap, ...met.map((m) => m.gap));
      return met.filter((m) => m.gap.same(first)).map((m) => plain(m.line));
    }
  }
  if (lines.length === 0) return [];
  const distances = lines.map((line) => l1(pin, nearestOn(line, pin)));
  const least = min(distances[0]!, ...distances);
  return lines
    .filter((_, i) => distances[i]!.same(least))
    .map((line) => {
      const entry = plain(line);
      if (exit === null || exit === "out") return entry;
      const d = turned({ x: F(1), y: ZERO }, DIRECTIONS.indexOf(exit) * 90);
      const against = entry.at.x.minus(pin.x).times(d.x).plus(entry.at.y.minus(pin.y).times(d.y)).less(ZERO);
      const { x0, y0, x1, y1 } = body;
      const under = x0.less(entry.at.x) && entry.at.x.less(x1) && y0.less(entry.at.y) && entry.at.y.less(y1);
      if (!against || under) return entry;
      // Out to the rim, if the pin lies in the body or on its rim and the body lies before it.
      const upright = d.x.same(ZERO);
      const between = upright ? x0.less(pin.x) && pin.x.less(x1) : y0.less(pin.y) && pin.y.less(y1);
      const on = between && x0.most(pin.x) && pin.x.most(x1) && y0.most(pin.y) && pin.y.most(y1);
      const rim: V2 = on
        ? { x: upright ? pin.x : ZERO.less(d.x) ? x1 : x0, y: upright ? (ZERO.less(d.y) ? y1 : y0) : pin.y }
        : pin;
      const plane = l1(pin, rim).plus(roundBox(rim, entry.at, body));
      return { ...entry, round: true, mm: plane.plus(pin.z.minus(entry.line.height).abs()) };
    });
}

/** A graph of places; nodes are made as they are asked for. */
class Places {
  readonly nodes: { line: Line; at: V2 }[] = [];
  readonly edges: { a: number; b: number; mm: Fraction; thin: boolean }[] = [];

  at(line: Line, at: V2): number {
    const known = this.nodes.findIndex((n) => n.line === line && n.at.x.same(at.x) && n.at.y.same(at.y));
    return known >= 0 ? known : this.nodes.push({ line, at }) - 1;
  }

  #passed = 0;

  /** Lets wires pass between lines side by side at every place made since the last time. @param thin only thin ones */
  passOver(sides: [Line, Line][], thin: boolean): void {
    for (; this.#passed < this.nodes.length; this.#passed++) {
      const { line, at } = this.nodes[this.#passed]!;
      for (const [a, b] of sides) {
        if (line !== a && line !== b) continue;
        const other = line === a ? b : a;
        const [t, lo, hi] = line.up ? [at.y, other.a.y, other.b.y] : [at.x, other.a.x, other.b.x];
        if (t.less(lo) || hi.less(t)) continue;
        const beside = nearestOn(other, at);
        const mm = l1(at, beside).plus(line.height.minus(other.height).abs());
        this.edges.push({ a: this.#passed, b: this.at(other, beside), mm, thin });
      }
    }
  }

  /** Strings the places of each line in order. */
  string(): void {
    this.nodes.forEach((n, i) =>
      this.nodes.forEach((m, j) => {
        if (i < j && n.line === m.line) this.edges.push({ a: i, b: j, mm: l1(n.at, m.at), thin: false });
      }),
    );
  }

  /** Least sum over every way from one node to another that visits no node twice, by trying them all. */
  force(from: number, to: number, thick: boolean): Fraction | null {
    // Along a line only from place to place: the longer stretches are made of these.
    const passes = (a: number, b: number): boolean => {
      const [p, q] = [this.nodes[a]!, this.nodes[b]!];
      const between = (n: { line: Line; at: V2 }): boolean =>
        n.line === p.line && n !== p && n !== q && l1(p.at, n.at).plus(l1(n.at, q.at)).same(l1(p.at, q.at));
      return p.line === q.line && this.nodes.some(between);
    };
    const short = this.edges.filter(({ a, b, thin }) => !passes(a, b) && !(thin && thick));
    const beyond = this.nodes.map((_, n) =>
      short
        .flatMap(({ a, b, mm }) => (a === n ? [{ next: b, mm }] : b === n ? [{ next: a, mm }] : []))
        .sort((p, q) => (p.mm.less(q.mm) ? -1 : 1)),
    );
    let best: Fraction | null = null;
    const seen = new Set<number>();
    const walk = (node: number, sum: Fraction): void => {
      if (best && !sum.less(best)) return;
      if (node === to) {
        best = sum;
        return;
      }
      seen.add(node);
      for (const { next, mm } of beyond[node]!) if (!seen.has(next)) walk(next, sum.plus(mm));
      seen.delete(node);
    };
    walk(from, ZERO);
    return best;
  }

  /** Cost from one node to all, by relaxing every edge until nothing changes. */
  from(node: number, thick: boolean): (Fraction | null)[] {
    const cost: (Fraction | null)[] = this.nodes.map((_, i) => (i === node ? ZERO : null));
    for (let again = true; again;) {
      again = false;
      for (const { a, b, mm, thin } of this.edges) {
        if (thin && thick) continue;
        for (const [p, q] of [
          [a, b],
          [b, a],
        ] as const) {
          const sum = cost[p]?.plus(mm);
          if (!sum || (cost[q] && !sum.less(cost[q]!))) continue;
          cost[q] = sum;
          again = true;
        }
      }
    }
    return cost;
  }
}

/**
 * Cut length of every wire, mm, by number; null where there is none, several where equally long ways differ in width.
 * @param force finds every way by trying all of them: for small designs
 */
export function tapeLengths(design: Design, force = false): Map<string, (number | null)[]> {
  const figures: Figures = { ...DEFAULTS, ...(design.rules.routes as Partial<Figures>) };
  const lines = design.ducts.map((d) => lineOf(design, d));
  const places = new Places();
  const joinGap = F(figures.joinGapMm);
  const sides: [Line, Line][] = [];
  const joined = new Set<Line>();
  const step = (p: Line, q: Line): Fraction => p.height.minus(q.height).abs();
  lines.forEach((p, i) =>
    lines.slice(i + 1).forEach((q) => {
      if (p.face !== q.face || joinGap.times(joinGap).less(gapSquared(p.box, q.box))) return;
      joined.add(p).add(q);
      const overlap = p.up ? min(p.b.y, q.b.y).minus(max(p.a.y, q.a.y)) : min(p.b.x, q.b.x).minus(max(p.a.x, q.a.x));
      if (p.up === q.up && ZERO.less(overlap)) {
        sides.push([p, q]);
        return;
      }
      // The nearest places of the two centre lines.
      const at =
        p.up === q.up
          ? nearestOn(p, nearestOn(q, p.a))
          : nearestOn(p, q.up ? { x: q.a.x, y: p.a.y } : { x: p.a.x, y: q.a.y });
      const to = nearestOn(q, at);
      places.edges.push({ a: places.at(p, at), b: places.at(q, to), mm: l1(at, to).plus(step(p, q)), thin: false });
    }),
  );
  for (const c of design.crossings) cross(design, c, lines, places, joined, figures);
  // Ducts joined to each other, by repeated joining of what touches.
  const network = new Map(lines.map((l) => [l, l]));
  const merge = (p: Line, q: Line): void => {
    const [from, into] = [network.get(p)!, network.get(q)!];
    for (const [l, part] of network) if (part === from) network.set(l, into);
  };
  for (const { a, b } of places.edges) merge(places.nodes[a]!.line, places.nodes[b]!.line);
  for (const [p, q] of sides) merge(p, q);
  const lengthOf = (line: Line): Fraction =>
    lines.filter((l) => network.get(l) === network.get(line)).reduce((s, l) => s.plus(l1(l.a, l.b)), ZERO);
  const blocksOn = (face: string): Block[] => blocks.filter((b) => b.face === face);
  const blocks = design.devices.map((device): Block & { face: string; carried: string[] } => {
    const s = stand(design, device);
    const [w, h] = s.turn % 180 === 90 ? [s.part.h, s.part.w] : [s.part.w, s.part.h];
    const span = (c: Fraction, size: number): [number, number] => [
      nm(c.minus(F(size).times(HALF))),
      nm(c.plus(F(size).times(HALF))),
    ];
    const carried = device.on!.slot === undefined ? [] : [device.on!.slot];
    return {
      tag: device.tag,
      face: s.face,
      carried,
      x: span(s.centre.x, w),
      y: span(s.centre.y, h),
      top: nm(s.z.plus(F(s.part.d))),
    };
  });
  const carriers = (tag: string): string[] => blocks.find((b) => b.tag === tag)!.carried;
  const gap = nm(F(figures.passGapMm));
  /** The entry past what stands before it. */
  const past = (tag: string, face: string, at: V3, exit: string | null, e: Entry): Entry => {
    if (e.round) return e;
    const pin: Spot = [nm(at.x), nm(at.y), nm(at.z)];
    const goal: Spot = [nm(e.at.x), nm(e.at.y), nm(e.line.height)];
    const own = blocks.find((b) => b.tag === tag)!;
    const others = blocksOn(face).filter((b) => b !== own && !carriers(tag).includes(b.tag));
    const touch = (b: Block): boolean =>
      b.x[0] <= Math.max(pin[0], goal[0]) &&
      b.x[1] >= Math.min(pin[0], goal[0]) &&
      b.y[0] <= Math.max(pin[1], goal[1]) &&
      b.y[1] >= Math.min(pin[1], goal[1]) &&
      b.top > Math.min(pin[2], goal[2]);
    if (!others.some(touch)) return e;
    const sideways = exit !== null && exit !== "out";
    const rim = sideways ? edgeOf(pin, exit, own) : pin;
    const d = sideways ? turned({ x: F(1), y: ZERO }, DIRECTIONS.indexOf(exit) * 90) : { x: ZERO, y: ZERO };
    const behind = (goal[0] - rim[0]) * d.x.toNumber() + (goal[1] - rim[1]) * d.y.toNumber() < 0;
    const start = behind ? pin : rim;
    const mm = away(pin, start) + throughSpace(start, goal, sideways ? [...others, own] : others, gap);
    return mm > away(pin, goal) ? { ...e, mm: ofNm(mm) } : e;
  };
  for (const [p, q] of sides) {
    const t = (v: V2): Fraction => (p.up ? v.y : v.x);
    for (const end of [p.a, p.b, q.a, q.b]) {
      for (const line of [p, q])
        if (t(line.a).most(t(end)) && t(end).most(t(line.b))) places.at(line, nearestOn(line, end));
    }
  }
  interface Known {
    entries: Entry[];
    instead: Entry[];
    pin: Pin;
    part: Part;
    face: string;
    at: V3;
    exit: string | null;
    tag: string;
  }
  const pins = new Map<string, Known>();
  const pinOf = (ref: { device: string; pin: string }): Known => {
    const key = `${ref.device}:${ref.pin}`;
    const known = pins.get(key);
    if (known) return known;
    const s = stand(
      design,
      design.devices.find((d) => d.tag === ref.device)!,
    );
    const pin = s.part.pins!.find((p) => p.name === ref.pin)!;
    const placed = pin.x !== undefined;
    const local = {
      x: placed ? F(pin.x!).minus(F(s.part.w).times(HALF)) : ZERO,
      y: placed ? F(pin.y!).minus(F(s.part.h).times(HALF)) : ZERO,
    };
    const v = turned(local, s.turn);
    const at = {
      x: s.centre.x.plus(v.x),
      y: s.centre.y.plus(v.y),
      z: s.z.plus(placed ? F(pin.z!) : F(s.part.d).times(HALF)),
    };
    const across = s.turn % 180 === 90;
    const [w, h] = (across ? [s.part.h, s.part.w] : [s.part.w, s.part.h]).map((v2) => F(v2).times(HALF)) as [
      Fraction,
      Fraction,
    ];
    const body = { x0: s.centre.x.minus(w), x1: s.centre.x.plus(w), y0: s.centre.y.minus(h), y1: s.centre.y.plus(h) };
    const exit =
      !placed || pin.exit === undefined
        ? null
        : pin.exit === "out"
          ? "out"
          : DIRECTIONS[(DIRECTIONS.indexOf(pin.exit) + s.turn / 90) % 4]!;
    const here = lines.filter((l) => l.face === s.face);
    const led = (list: Line[]): Entry[] =>
      enter(list, at, exit, body, figures).map((e) => past(ref.device, s.face, at, exit, e));
    const entries = led(here);
    const stumps = entries.every((e) => !joined.has(e.line));
    const island = stumps ? ZERO : max(ZERO, ...entries.map((e) => lengthOf(e.line))).times(F(3));
    const others = here.filter(
      (l) => joined.has(l) && island.less(lengthOf(l)) && toBox(l.box, at).most(F(figures.reachMm)),
    );
    const instead = entries.length > 0 && others.length > 0 ? led(others) : entries;
    const found = { entries, instead, pin, part: s.part, face: s.face, at, exit, tag: ref.device };
    pins.set(key, found);
    for (const e of [...entries, ...instead]) places.at(e.line, e.at);
    return found;
  };
  places.passOver(sides, false);
  for (const w of design.wires) for (const ref of [w.from!, w.to!]) pinOf(ref);
  places.passOver(sides, true);
  places.string();
  const trees = new Map<string, (Fraction | null)[]>();
  const between = (a: Entry, b: Entry, thick: boolean): Fraction | null => {
    const start = places.at(a.line, a.at);
    const goal = places.at(b.line, b.at);
    if (force) return places.force(start, goal, thick);
    const key = `${start} ${thick}`;
    if (!trees.has(key)) trees.set(key, places.from(start, thick));
    return trees.get(key)![goal] ?? null;
  };
  /** The shortest way, and what widths may be added to it: several where ways are equally long. */
  const shortest = (a: Known, b: Known, from: Entry[], to: Entry[], thick: boolean): Led | null => {
    let best: Led | null = null;
    for (const e of from)
      for (const f of to) {
        const inside = between(e, f, thick);
        if (!inside) continue;
        const way = e.mm.plus(inside).plus(f.mm);
        if (best && best.way.less(way)) continue;
        const { line } = e;
        const off = (p: V3): Fraction => (line.up ? p.x.minus(line.a.x) : p.y.minus(line.a.y));
        const stays = line === f.line && inside.same(l1(e.at, f.at));
        const crosses = stays && off(a.at).times(off(b.at)).less(ZERO);
        const more = (l: Line): Fraction => max(ZERO, l.wide.minus(F(figures.wideFromMm))).times(HALF);
        const wide = crosses ? ZERO : more(line).plus(more(f.line));
        if (!best || way.less(best.way)) best = { way, wide: [wide] };
        else best.wide.push(wide);
      }
    return best;
  };
  const straightOver = (a: Known, b: Known): Fraction => {
    const but = [...carriers(a.tag), ...carriers(b.tag)];
    const ducts = lines
      .filter((l) => l.face === a.face)
      .map(({ tag, box, cover }): Block => ({
        tag,
        x: [nm(box.x0), nm(box.x1)],
        y: [nm(box.y0), nm(box.y1)],
        top: cover,
      }));
    const ends = [a, b].map(({ at, exit, tag }) => {
      const pin: Spot = [nm(at.x), nm(at.y), nm(at.z)];
      return {
        pin,
        out:
          exit && exit !== "out"
            ? edgeOf(
                pin,
                exit,
                blocks.find((k) => k.tag === tag)!,
              )
            : pin,
      };
    }) as [{ pin: Spot; out: Spot }, { pin: Spot; out: Spot }];
    const all = [...blocksOn(a.face).filter((k) => !but.includes(k.tag)), ...ducts];
    const open = throughSpace(ends[0].out, ends[1].out, all, gap);
    return ofNm(open + ends.reduce((sum, { pin, out }) => sum + away(pin, out), 0));
  };

  return new Map(
    design.wires.map((w): [string, (number | null)[]] => {
      const [a, b] = [pinOf(w.from!), pinOf(w.to!)];
      if (a === b) return [w.number, [null]];
      const size = w.sizeMm2 ?? design.nets.find((n) => n.name === w.net)!.sizeMm2!;
      const thick = size >= figures.stiffFromMm2;
      const apart = l1(a.at, b.at).plus(a.at.z.minus(b.at.z).abs());
      let led = shortest(a, b, a.entries, b.entries, thick) ?? shortest(a, b, a.instead, b.instead, thick);
      if (a.part.directLeads && b.part.directLeads && a.face === b.face && apart.most(F(figures.directReachMm))) {
        const over = straightOver(a, b);
        if (!led || over.most(led.way)) led = { way: over, wide: [ZERO] };
      }
      if (!led) return [w.number, [null]];
      const { way, wide } = led;
      const slack = (face: string): Fraction => F(face.endsWith("/door") ? figures.slackDoorMm : figures.slackMm);
      const outer = OUTER.find(([s]) => s >= size)![1];
      const bend = size >= figures.bendFromMm2 ? F(outer).times(F(figures.bendDiameters)) : ZERO;
      const plain = [way, F(a.pin.tail ?? 0), F(b.pin.tail ?? 0), slack(a.face), slack(b.face), bend, bend];
      const cut = (sum: Fraction): number => {
        const all = sum.times(F(1).plus(F(figures.reservePercent).over(F(100))));
        // A sum less than a ten-thousandth of a millimetre above a step is on it.
        const steps = max(all, F(figures.shortestLeadMm)).minus(F(0.0001)).over(F(figures.stepMm)).ceil();
        return steps.times(F(figures.stepMm)).toNumber();
      };
      return [w.number, wide.map((more) => cut(plain.reduce((x, y) => x.plus(y), more)))];
    }),
  );
}

interface Led {
  way: Fraction;
  wide: Fraction[];
}

function cross(
  design: Design,
  crossing: Crossing,
  lines: Line[],
  places: Places,
  joined: Set<Line>,
  figures: Figures,
): void {
  const ends = [crossing.from, crossing.to].map((end, i) => {
    const p = crossing.points[i === 0 ? 0 : crossing.points.length - 1]!;
    const candidates = lines.filter((l) => (end.duct === undefined ? l.face === end.face : l.tag === end.duct));
    if (candidates.length === 0) return [];
    const at = onFace(design, crossing.enclosure, candidates[0]!.face, p);
    const distances = candidates.map((l) => l1(at, nearestOn(l, at)));
    const least = min(distances[0]!, ...distances);
    return candidates
      .filter((l, k) => distances[k]!.same(least) && toBox(l.box, at).most(F(figures.reachMm)))
      .map((line) => ({ line, at: nearestOn(line, at), mm: least.plus(at.z.minus(line.height).abs()) }));
  });
  const loops = { hinge: figures.loopHingeMm, wall: figures.loopWallMm, edge: figures.loopEdgeMm };
  let guided = F(crossing.loop ?? loops[crossing.kind]);
  if (crossing.kind === "hinge" && crossing.loop === undefined && crossing.to.face?.endsWith("/door")) {
    const lacks = lacking(design, crossing, figures);
    guided = guided.plus(ofNm(Math.round(Math.max(0, lacks) * 1e6)));
  }
  // Only square polylines: their lengths are fractions.
  for (let i = 1; i < crossing.points.length; i++) {
    const [p, q] = [crossing.points[i - 1]!, crossing.points[i]!];
    const steps = [F(p.x).minus(F(q.x)).abs(), F(p.y).minus(F(q.y)).abs(), F(p.z).minus(F(q.z)).abs()];
    if (steps.filter((s) => !s.same(ZERO)).length > 1) throw new Error("a slanting stretch has no exact length");
    guided = steps.reduce((s, v) => s.plus(v), guided);
  }
  for (const a of ends[0]!) {
    for (const b of ends[1]!) {
      if (a.line !== b.line) joined.add(a.line).add(b.line);
      places.edges.push({
        a: places.at(a.line, a.at),
        b: places.at(b.line, b.at),
        mm: a.mm.plus(guided).plus(b.mm),
        thin: false,
      });
    }
  }
}

/** What the swing of a door needs more than is guided, mm: the door is opened by hundredths of a degree. */
function lacking(design: Design, { points, held = [1, points.length], to }: Crossing, figures: Figures): number {
  const body = design.enclosures.find((e) => to.face!.startsWith(`${e.tag}/`))!;
  const between = points.slice(Math.min(...held) - 1, Math.max(...held));
  const [fixed, swings] = [between[0]!, between[between.length - 1]!];
  const left = body.hinge ? body.hinge === "left" : (fixed.x + swings.x) / 2 <= body.w / 2;
  const axis = body.hingeAxis ?? { x: left ? 0 : body.w, z: 0 };
  const guided = between
    .slice(1)
    .reduce((s, p, i) => s + Math.hypot(p.x - between[i]!.x, p.y - between[i]!.y, p.z - between[i]!.z), 0);
  let most = 0;
  const open = body.opensDeg ?? figures.doorOpenDeg;
  const steps = Math.max(1, Math.ceil(open * 200));
  for (let i = 0; i <= steps; i++) {
    // To the front: away from the body, whose depth is counted to the rear.
    const turn = (((left ? -1 : 1) * open * Math.PI) / 180) * (i / steps);
    const [dx, dz] = [swings.x - axis.x, swings.z - axis.z];
    const x = axis.x + dx * Math.cos(turn) - dz * Math.sin(turn);
    const z = axis.z + dx * Math.sin(turn) + dz * Math.cos(turn);
    most = Math.max(most, Math.hypot(x - fixed.x, swings.y - fixed.y, z - fixed.z));
  }
  return most - guided;
}
