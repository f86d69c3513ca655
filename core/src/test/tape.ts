import type { Crossing, Design, Device, Duct, Enclosure, Part, Pin, Rail } from "../design/model";
import { Fraction, max, min } from "./fraction";

/**
 * Lengths of wires worked out a second time, straight from docs/calculations.md, in exact fractions and
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
  loopHingeMm: 250,
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
}

function lineOf(design: Design, duct: Duct): Line {
  const part = design.parts.find((p) => p.number === duct.part)!;
  const [x, y, length, wide] = [F(duct.x), F(duct.y), F(duct.length), F(part.h)];
  const up = duct.run === "up";
  const box = { x0: x, y0: y, x1: x.plus(up ? wide : length), y1: y.plus(up ? length : wide) };
  const mid = wide.times(HALF);
  const a = up ? { x: x.plus(mid), y } : { x, y: y.plus(mid) };
  const b = up ? { x: a.x, y: box.y1 } : { x: box.x1, y: a.y };
  return { tag: duct.tag, face: duct.face, box, a, b, up, height: F(part.duct?.innerH ?? part.d).times(HALF) };
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

interface Entry {
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
      return { ...entry, mm: plane.plus(pin.z.minus(entry.line.height).abs()) };
    });
}

/** A graph of places; nodes are made as they are asked for. */
class Places {
  readonly nodes: { line: Line; at: V2 }[] = [];
  readonly edges: { a: number; b: number; mm: Fraction }[] = [];

  at(line: Line, at: V2): number {
    const known = this.nodes.findIndex((n) => n.line === line && n.at.x.same(at.x) && n.at.y.same(at.y));
    return known >= 0 ? known : this.nodes.push({ line, at }) - 1;
  }

  /** Strings the places of each line in order, and lets wires pass between lines side by side at every place. */
  finish(sides: [Line, Line][]): void {
    for (let i = 0; i < this.nodes.length; i++) {
      const { line, at } = this.nodes[i]!;
      for (const [a, b] of sides) {
        if (line !== a && line !== b) continue;
        const other = line === a ? b : a;
        const [t, lo, hi] = line.up ? [at.y, other.a.y, other.b.y] : [at.x, other.a.x, other.b.x];
        if (t.less(lo) || hi.less(t)) continue;
        const beside = nearestOn(other, at);
        this.edges.push({
          a: i,
          b: this.at(other, beside),
          mm: l1(at, beside).plus(line.height.minus(other.height).abs()),
        });
      }
    }
    this.nodes.forEach((n, i) =>
      this.nodes.forEach((m, j) => {
        if (i < j && n.line === m.line) this.edges.push({ a: i, b: j, mm: l1(n.at, m.at) });
      }),
    );
  }

  /** Least sum over every way from one node to another that visits no node twice, by trying them all. */
  force(from: number, to: number): Fraction | null {
    // Along a line only from place to place: the longer stretches are made of these.
    const passes = (a: number, b: number): boolean => {
      const [p, q] = [this.nodes[a]!, this.nodes[b]!];
      const between = (n: { line: Line; at: V2 }): boolean =>
        n.line === p.line && n !== p && n !== q && l1(p.at, n.at).plus(l1(n.at, q.at)).same(l1(p.at, q.at));
      return p.line === q.line && this.nodes.some(between);
    };
    const short = this.edges.filter(({ a, b }) => !passes(a, b));
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
  from(node: number): (Fraction | null)[] {
    const cost: (Fraction | null)[] = this.nodes.map((_, i) => (i === node ? ZERO : null));
    for (let again = true; again;) {
      again = false;
      for (const { a, b, mm } of this.edges) {
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
 * Cut length of every wire, mm, by number; null where there is none.
 * @param force finds every way by trying all of them: for small designs
 */
export function tapeLengths(design: Design, force = false): Map<string, number | null> {
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
      places.edges.push({ a: places.at(p, at), b: places.at(q, to), mm: l1(at, to).plus(step(p, q)) });
    }),
  );
  for (const c of design.crossings) cross(design, c, lines, places, joined, figures);
  for (const [p, q] of sides) {
    const t = (v: V2): Fraction => (p.up ? v.y : v.x);
    for (const end of [p.a, p.b, q.a, q.b]) {
      for (const line of [p, q])
        if (t(line.a).most(t(end)) && t(end).most(t(line.b))) places.at(line, nearestOn(line, end));
    }
  }
  const pins = new Map<string, { entries: Entry[]; instead: Entry[]; pin: Pin; part: Part; face: string; at: V3 }>();
  const pinOf = (ref: { device: string; pin: string }) => {
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
    const entries = enter(here, at, exit, body, figures);
    const stumps = entries.length > 0 && entries.every((e) => !joined.has(e.line));
    const others = here.filter((l) => joined.has(l) && toBox(l.box, at).most(F(figures.reachMm)));
    const instead = stumps && others.length > 0 ? enter(others, at, exit, body, figures) : entries;
    const found = { entries, instead, pin, part: s.part, face: s.face, at };
    pins.set(key, found);
    for (const e of [...entries, ...instead]) places.at(e.line, e.at);
    return found;
  };
  for (const w of design.wires) for (const ref of [w.from!, w.to!]) pinOf(ref);
  places.finish(sides);
  const trees = new Map<number, (Fraction | null)[]>();
  const between = (a: Entry, b: Entry): Fraction | null => {
    const start = places.at(a.line, a.at);
    if (force) {
      const least = places.force(start, places.at(b.line, b.at));
      return least && a.mm.plus(least).plus(b.mm);
    }
    if (!trees.has(start)) trees.set(start, places.from(start));
    const way = trees.get(start)![places.at(b.line, b.at)];
    return way ? a.mm.plus(way).plus(b.mm) : null;
  };
  const shortest = (from: Entry[], to: Entry[]): Fraction | null =>
    from
      .flatMap((a) => to.flatMap((b) => between(a, b) ?? []))
      .reduce<Fraction | null>((x, y) => (!x || y.less(x) ? y : x), null);

  return new Map(
    design.wires.map((w): [string, number | null] => {
      const [a, b] = [pinOf(w.from!), pinOf(w.to!)];
      if (a === b) return [w.number, null];
      const straight = l1(a.at, b.at).plus(a.at.z.minus(b.at.z).abs());
      const direct =
        a.part.directLeads && b.part.directLeads && a.face === b.face && straight.most(F(figures.directReachMm));
      const way = direct ? straight : (shortest(a.entries, b.entries) ?? shortest(a.instead, b.instead));
      if (!way) return [w.number, null];
      const slack = (face: string): Fraction => F(face.endsWith("/door") ? figures.slackDoorMm : figures.slackMm);
      const size = w.sizeMm2 ?? design.nets.find((n) => n.name === w.net)!.sizeMm2!;
      const outer = OUTER.find(([s]) => s >= size)![1];
      const bend = size >= figures.bendFromMm2 ? F(outer).times(F(figures.bendDiameters)) : ZERO;
      const sum = [way, F(a.pin.tail ?? 0), F(b.pin.tail ?? 0), slack(a.face), slack(b.face), bend, bend].reduce(
        (x, y) => x.plus(y),
      );
      const all = sum.times(F(1).plus(F(figures.reservePercent).over(F(100))));
      const cut = max(all, F(figures.shortestLeadMm));
      // A sum less than a ten-thousandth of a millimetre above a step is on it.
      const steps = cut.minus(F(0.0001)).over(F(figures.stepMm)).ceil();
      return [w.number, steps.times(F(figures.stepMm)).toNumber()];
    }),
  );
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
      places.edges.push({ a: places.at(a.line, a.at), b: places.at(b.line, b.at), mm: a.mm.plus(guided).plus(b.mm) });
    }
  }
}
