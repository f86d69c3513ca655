import { onBody, rowPlaces, toFace, type Box, type Face, type Point } from "../design/geometry";
import { alongRail } from "../design/hung";
import { lookUp, mountOf, type Lookup } from "../design/lookup";
import type { CrossingEnd, Design, Device, PinRef, Rail } from "../design/model";
import { byText } from "../design/order";
import { randomFrom } from "../solve/random";
import { TOUCHING_MM } from "../design/tolerance";
import { bodyOnRail } from "./on-rail";
import { boxOf, solidsOf, type Solid } from "./solids";
import type { PanelResult } from "./result";
import { behindLast, even, gapBetween, isIn, NOISE_MM, refuseHeld, standsOn } from "./stands";

/**
 * Places for loose devices on chosen rails with short wires. Every wire counts by the distance of its two pins along the two
 * axes of the face: a wire that lies in ducts is never shorter than that.
 */

export interface FurnishAsk {
  /** In the order of the list. */
  devices: readonly string[];
  rails: readonly string[];
  /** Devices whose tags differ in their figures alone (`-K1`, `-K2`) stay side by side in their order. */
  keepRows: boolean;
  /** Of the length of each rail, left free at its end. */
  sparePercent: number;
}

export interface Furnished {
  ok: true;
  places: { device: string; rail: string; x: number }[];
  /** Sum of the distances of pins, mm. */
  spanMm: number;
  /** The same in the order of the list, rail after rail; null where they do not all fit so. */
  listMm: number | null;
  /** No order on these rails comes below it. */
  boundMm: number;
  /** All orders were looked at: there is none better. */
  isBest: boolean;
}

export type Proposal = Furnished | { ok: false; reason: string; remedy: string };

type Panel = Pick<PanelResult, "devices" | "rails" | "ducts" | "hung">;

/** Devices that stay side by side in this order. */
type Unit = readonly number[];
/** Units on each rail, from its start on. */
type Plan = readonly (readonly number[])[];

/** So many orders are looked at one by one. */
const MOST_ORDERS = 50_000;
/** Steps of the search for each unit, and the warmth it begins and ends with, as shares of the mean distance of a wire. */
const STEPS_PER_UNIT = 600;
const WARM = { first: 1.5, last: 0.01 };

/** A pin of a chosen device: where it lies from the place of its device on each rail. */
interface Link {
  device: number;
  pin: string;
  /** Another chosen device, or a point of the face. */
  to: { device: number; pin: string } | Point;
}

const isPoint = (to: Link["to"]): to is Point => "x" in to;

/** Tags without the figures at their end: `-K12` → `-K`. */
const stemOf = (tag: string): string => tag.replace(/\d+$/, "");

/** Works with one set of devices and rails; distances are asked many thousand times. */
class RailPlans {
  readonly rails: Rail[];
  readonly devices: Device[];
  readonly widths: number[];
  readonly links: Link[];
  readonly units: Unit[];
  /** Where each rail is free from, what stands last on it, and how far it may be filled. */
  readonly free: { from: number; last: Device | null | undefined; to: number }[];
  readonly #look: Lookup;
  /** Room between two chosen devices, by rail. */
  readonly #gaps = new Map<string, number>();
  /** Bodies that stay where they are. */
  readonly #solids: readonly Solid[];
  /** Stretches in which a device may not begin, from the start of the rail on, by `device rail`. */
  readonly #blocked = new Map<string, readonly (readonly [from: number, to: number])[]>();
  /** Of pins, by `device rail pin`. */
  readonly #offsets = new Map<string, Point>();

  constructor(design: Design, panel: Panel, devices: Device[], rails: Rail[], ask: FurnishAsk) {
    this.#look = lookUp(design);
    this.rails = rails;
    this.devices = devices;
    this.widths = devices.map((d) => alongRail(d, this.#look)!);
    const but = new Set(ask.devices);
    this.free = rails.map((r) => {
      const from = behindLast(design, r.tag, but);
      const last = standsOn(design, r.tag, but).find((s) => s.to === from);
      return { from, last: last === undefined ? undefined : last.device, to: r.length * (1 - ask.sparePercent / 100) };
    });
    const stay = panel.devices.filter((d) => !but.has(d.tag) && !isIn(this.#look, d.tag, (c) => but.has(c)));
    this.#solids = solidsOf(stay, panel.rails, panel.ducts, panel.hung, this.#look);
    this.links = linksOf(panel, devices, rails[0]!.face, this.#look);
    this.units = unitsOf(devices, ask.keepRows);
  }

  #gap(before: number, behind: number, rail: number): number {
    const key = `${before} ${behind} ${rail}`;
    let gap = this.#gaps.get(key);
    if (gap === undefined) {
      gap = gapBetween(this.devices[before]!, this.devices[behind]!, this.rails[rail]!, this.#look);
      this.#gaps.set(key, gap);
    }
    return gap;
  }

  /** Where each device stands on its rail; null where a rail is too short. */
  stand(plan: Plan): { rail: number; x: number }[] | null {
    const at: { rail: number; x: number }[] = [];
    for (const [rail, units] of plan.entries()) {
      const { from, last, to } = this.free[rail]!;
      let [end, before]: [number, number | null] = [from, null];
      for (const unit of units)
        for (const device of this.units[unit]!) {
          const gap =
            before !== null
              ? this.#gap(before, device, rail)
              : last === undefined
                ? 0
                : gapBetween(last, this.devices[device]!, this.rails[rail]!, this.#look);
          const x = this.#pastBlocked(device, rail, end + gap);
          end = x + this.widths[device]!;
          if (end > to + NOISE_MM) return null;
          at[device] = { rail, x };
          before = device;
        }
    }
    return at;
  }

  /** The first place from one on at which a device stands in nothing that stays. */
  #pastBlocked(device: number, rail: number, from: number): number {
    let x = from;
    for (const [low, high] of this.#blockedFor(device, rail)) if (x > low && x < high) x = high;
    return x;
  }

  #blockedFor(device: number, rail: number): readonly (readonly [from: number, to: number])[] {
    const key = `${device} ${rail}`;
    let known = this.#blocked.get(key);
    if (!known) {
      known = blockedOn(this.devices[device]!, this.rails[rail]!, this.#solids, this.#look);
      this.#blocked.set(key, known);
    }
    return known;
  }

  /** From the start of a rail to a pin of a device whose place there is 0. */
  offset(device: number, rail: number, pin: string): Point {
    const key = `${device} ${rail} ${pin}`;
    let known = this.#offsets.get(key);
    if (!known) {
      const [d, r] = [this.devices[device]!, this.rails[rail]!];
      const part = this.#look.parts.get(d.part)!;
      const body = bodyOnRail(part, d.turn ?? 0, r, this.#look.parts.get(r.part)!, 0);
      const at = this.#look.pin(part, pin);
      const { x, y } = onBody(body, { x: at?.x ?? part.w / 2, y: at?.y ?? part.h / 2, z: at?.z ?? 0 });
      known = { x, y };
      this.#offsets.set(key, known);
    }
    return known;
  }

  #pin(device: number, pin: string, at: { rail: number; x: number }): Point {
    const o = this.offset(device, at.rail, pin);
    return this.rails[at.rail]!.run === "up" ? { x: o.x, y: o.y + at.x } : { x: o.x + at.x, y: o.y };
  }

  /** Sum of the distances of pins, mm. O(links) */
  span(at: readonly { rail: number; x: number }[]): number {
    let sum = 0;
    for (const { device, pin, to } of this.links) {
      const a = this.#pin(device, pin, at[device]!);
      const b = isPoint(to) ? to : this.#pin(to.device, to.pin, at[to.device]!);
      sum += Math.abs(a.x - b.x) + Math.abs(a.y - b.y);
    }
    return sum;
  }

  /** A sum that no plan comes below: each wire by itself as short as any place of its ends lets it be. O(links · rails²) */
  bound(): number {
    let sum = 0;
    for (const link of this.links) sum += this.#least(link);
    return sum;
  }

  #least({ device, pin, to }: Link): number {
    let least = Infinity;
    for (let r = 0; r < this.rails.length; r++) {
      const axis = this.rails[r]!.run === "up" ? "y" : "x";
      const across = axis === "x" ? "y" : "x";
      const { from, to: end } = this.free[r]!;
      const most = end - this.widths[device]!;
      if (most < from - NOISE_MM) continue;
      const o = this.offset(device, r, pin);
      if (isPoint(to)) {
        const along = Math.max(0, o[axis] + from - to[axis], to[axis] - o[axis] - most);
        least = Math.min(least, along + Math.abs(o[across] - to[across]));
        continue;
      }
      if (to.device === device) {
        const p = this.offset(device, r, to.pin);
        least = Math.min(least, Math.abs(o.x - p.x) + Math.abs(o.y - p.y));
        continue;
      }
      for (let q = 0; q < this.rails.length; q++) {
        const p = this.offset(to.device, q, to.pin);
        const reach = this.free[q]!.to - this.widths[to.device]!;
        if (reach < this.free[q]!.from - NOISE_MM) continue;
        if (q === r) {
          // Side by side on one rail, this way or that: no nearer than the first is wide, with the gap.
          const behind = this.widths[device]! + this.#gap(device, to.device, r);
          const before = this.widths[to.device]! + this.#gap(to.device, device, r);
          const steps = p[axis] - o[axis];
          const along = Math.min(least1(steps, behind, Infinity), least1(steps, -Infinity, -before));
          least = Math.min(least, along + Math.abs(o[across] - p[across]));
        } else if (this.rails[q]!.run === this.rails[r]!.run) {
          const steps = p[axis] - o[axis];
          const along = least1(steps, this.free[q]!.from - most, reach - from);
          least = Math.min(least, along + Math.abs(o[across] - p[across]));
        } else least = Math.min(least, 0);
      }
    }
    return least === Infinity ? 0 : least;
  }
}

const AXES = ["x", "y", "z"] as const;

/** Where on a rail a device would stand in something that stays, in order. What stands on the rail itself is before it anyway. */
function blockedOn(device: Device, rail: Rail, solids: readonly Solid[], look: Lookup): [from: number, to: number][] {
  const part = look.parts.get(device.part)!;
  const face = look.faces.get(rail.face)!;
  const boxAt = (x: number): Box => {
    const { outline, z } = bodyOnRail(part, device.turn ?? 0, rail, look.parts.get(rail.part)!, x);
    return boxOf(face, outline, z, z + part.d);
  };
  const [box, next] = [boxAt(0), boxAt(1)];
  const along = AXES.find((a) => next.min[a] !== box.min[a])!;
  const way = Math.sign(next.min[along] - box.min[along]);
  const others = AXES.filter((a) => a !== along);
  return solids
    .filter((s) => s.face.row === face.row && s.rail !== rail.tag && !(s.thing === "rail" && s.of === rail.tag))
    .filter((s) => !(s.thing === "face" && s.of === rail.face))
    .filter((s) =>
      others.every((a) => Math.min(s.box.max[a], box.max[a]) - Math.max(s.box.min[a], box.min[a]) > TOUCHING_MM),
    )
    .map(({ box: b }): [number, number] =>
      way > 0
        ? [b.min[along] - box.max[along], b.max[along] - box.min[along]]
        : [box.min[along] - b.max[along], box.max[along] - b.min[along]],
    )
    .sort((a, b) => a[0] - b[0]);
}

/** The least of |a + t| for t from low to high. */
const least1 = (a: number, low: number, high: number): number => Math.max(0, a + low, -a - high);

/** Groups in the order of their first member; each alone where rows need not be kept. */
function unitsOf(devices: readonly Device[], keepRows: boolean): Unit[] {
  if (!keepRows) return devices.map((_, i) => [i]);
  const groups = new Map<string, number[]>();
  for (const [i, d] of devices.entries()) {
    const stem = stemOf(d.tag);
    groups.set(stem, [...(groups.get(stem) ?? []), i]);
  }
  return [...groups.values()].map((g) => g.sort((a, b) => byText(devices[a]!.tag, devices[b]!.tag)));
}

/** Wires and cores that end on a chosen device, with the place of their other end on the face. */
function linksOf(panel: Panel, devices: readonly Device[], face: string, look: Lookup): Link[] {
  const nth = new Map(devices.map((d, i) => [d.tag, i]));
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  const own = look.faces.get(face)!;
  const doors = new Map<string, Point | null>();
  const placeOf = ({ device: tag, pin: name }: PinRef): Point | null => {
    const at = placed.get(tag);
    const part = at && look.parts.get(at.part);
    if (!at || !part) return null;
    // What lies on another face is reached where wires pass over to it.
    if (at.face !== face) {
      if (!doors.has(at.face)) doors.set(at.face, passageTo(look, own, at.face));
      return doors.get(at.face)!;
    }
    const pin = look.pin(part, name);
    return onBody(at, { x: pin?.x ?? part.w / 2, y: pin?.y ?? part.h / 2, z: 0 });
  };
  const links: Link[] = [];
  const add = (from: PinRef | undefined, to: PinRef | undefined): void => {
    if (!from || !to) return;
    const [a, b] = [nth.get(from.device), nth.get(to.device)];
    if (a !== undefined && b !== undefined) links.push({ device: a, pin: from.pin, to: { device: b, pin: to.pin } });
    else if (a !== undefined || b !== undefined) {
      const [device, pin, other] = a !== undefined ? [a, from.pin, to] : [b!, to.pin, from];
      const place = placeOf(other);
      if (place) links.push({ device, pin, to: place });
    }
  };
  for (const { wire } of look.wires) add(wire.from, wire.to);
  for (const cable of look.cables.values()) for (const core of cable.cores) add(core.from, core.to);
  return links;
}

/** Where wires leave a face for another one: the first crossing between the two, as it lies over the face; null where there is none. */
function passageTo(look: Lookup, face: Face, other: string): Point | null {
  const faceOf = (end: CrossingEnd): string | undefined =>
    end.face ?? (end.duct === undefined ? undefined : look.ducts.get(end.duct)?.face);
  for (const { from, to, points, enclosure } of [...look.crossings.values()].sort((a, b) => byText(a.tag, b.tag))) {
    const [leaves, comes] = [faceOf(from), faceOf(to)];
    const at =
      leaves === face.id && comes === other
        ? points[0]
        : comes === face.id && leaves === other
          ? points[points.length - 1]
          : undefined;
    const row = rowPlaces(look.design.enclosures).get(enclosure);
    if (!at || !row) continue;
    const { x, y } = toFace(face, { x: at.x + row.x, y: at.y, z: at.z });
    return { x, y };
  }
  return null;
}

/** All orders of units on rails, as far as there are few; null where there are too many. */
function* allPlans(units: number, rails: number): Generator<number[][]> {
  const order = Array.from({ length: units }, (_, i) => i);
  function* orders(from: number): Generator<number[]> {
    if (from === units) yield order;
    for (let i = from; i < units; i++) {
      [order[from], order[i]] = [order[i]!, order[from]!];
      yield* orders(from + 1);
      [order[from], order[i]] = [order[i]!, order[from]!];
    }
  }
  function* cuts(left: number, rails_: number): Generator<number[]> {
    if (rails_ === 1) {
      yield [left];
      return;
    }
    for (let n = 0; n <= left; n++) for (const rest of cuts(left - n, rails_ - 1)) yield [n, ...rest];
  }
  const splits = [...cuts(units, rails)];
  for (const o of orders(0))
    for (const split of splits) {
      let at = 0;
      yield split.map((n) => o.slice(at, (at += n)));
    }
}

/** How many orders there are of units on rails; Infinity beyond counting. */
function countPlans(units: number, rails: number): number {
  let n = 1;
  for (let i = 0; i < units; i++) n *= units - i;
  for (let i = 1; i < rails; i++) n = (n * (units + i)) / i;
  return n;
}

/** Rail after rail, each until it is full; null where they do not all fit so. */
function inOrder(plans: RailPlans, order: readonly number[]): number[][] | null {
  const plan: number[][] = plans.rails.map(() => []);
  let rail = 0;
  for (const unit of order) {
    for (;;) {
      plan[rail]!.push(unit);
      if (plans.stand(plan)) break;
      plan[rail]!.pop();
      if (++rail === plan.length) return null;
    }
  }
  return plan;
}

/** A plan that fits, the widest units first where there is most room; null where none is found. */
function fitted(plans: RailPlans): number[][] | null {
  const wide = (u: number): number => plans.units[u]!.reduce((sum, d) => sum + plans.widths[d]!, 0);
  const order = plans.units.map((_, i) => i).sort((a, b) => wide(b) - wide(a) || a - b);
  const plan: number[][] = plans.rails.map(() => []);
  for (const unit of order) {
    const home = plan.find((row) => {
      row.push(unit);
      if (plans.stand(plan)) return true;
      row.pop();
      return false;
    });
    if (!home) return null;
  }
  return plan;
}

/**
 * Proposes places. All orders are looked at where there are few; else the best of the list's order and of a search that
 * cools down, with the same answer every time. O(units · steps · links)
 */
export function furnish(design: Design, panel: Panel, ask: FurnishAsk): Proposal {
  const look = lookUp(design);
  const refuse = (reason: string, remedy: string): Proposal => ({ ok: false, reason, remedy });
  const devices: Device[] = [];
  for (const tag of new Set(ask.devices)) {
    const device = look.devices.get(tag);
    const part = device && look.parts.get(device.part);
    if (!device) return refuse(`there is no device ${tag} in the design`, "Leave it out.");
    const held = refuseHeld(design, tag);
    if (held && !held.ok) return refuse(held.reason, held.remedy);
    if (!part) return refuse(`how wide ${tag} is, is not known`, "Add its part to the library.");
    if (!mountOf(part, "rail"))
      return refuse(`part ${part.number} of ${tag} has no mount for a rail`, "Leave it out, or place it on a face.");
    devices.push(device);
  }
  const rails: Rail[] = [];
  for (const tag of new Set(ask.rails)) {
    const rail = look.rails.get(tag);
    if (!rail || !look.parts.has(rail.part) || !look.faces.has(rail.face))
      return refuse(`rail ${tag} lies nowhere`, "Choose another rail.");
    if (rail.face !== (rails[0] ?? rail).face)
      return refuse(
        `rail ${tag} lies on ${rail.face}, and ${rails[0]!.tag} on ${rails[0]!.face}`,
        "Choose rails of one face.",
      );
    rails.push(rail);
  }
  if (devices.length === 0 || rails.length === 0) return refuse("no device or no rail is chosen", "Choose both.");
  const plans = new RailPlans(design, panel, devices, rails, ask);
  const listed = inOrder(
    plans,
    plans.units.map((_, i) => i),
  );
  const at = (plan: Plan): number => {
    const stand = plans.stand(plan);
    return stand ? plans.span(stand) : Infinity;
  };
  const listMm = listed && at(listed);
  const isBest = countPlans(plans.units.length, rails.length) <= MOST_ORDERS;
  let best: Plan | null = listed ?? fitted(plans);
  if (isBest) {
    let least = best ? at(best) : Infinity;
    for (const plan of allPlans(plans.units.length, rails.length)) {
      const mm = at(plan);
      if (mm < least - NOISE_MM) [least, best] = [mm, plan.map((row) => [...row])];
    }
  } else if (best) best = cooled(plans, best, at);
  if (!best) {
    const wide = even(plans.widths.reduce((sum, w) => sum + w, 0));
    const room = even(plans.free.reduce((sum, f) => sum + Math.max(0, f.to - f.from), 0));
    return refuse(
      `they are ${wide} mm wide together, and no order is found in which the rails, with ${room} mm free, hold them all`,
      "Choose more rails, less spare length, or fewer devices.",
    );
  }
  const stand = plans.stand(best)!;
  return {
    ok: true,
    places: devices.map((d, i) => ({ device: d.tag, rail: rails[stand[i]!.rail]!.tag, x: even(stand[i]!.x) })),
    spanMm: even(plans.span(stand)),
    listMm: listMm === null ? null : even(listMm),
    boundMm: even(plans.bound()),
    isBest,
  };
}

/** A search that takes worse steps while it is warm, and ends where no step of one unit or pair is better. */
function cooled(plans: RailPlans, first: Plan, at: (plan: Plan) => number): Plan {
  const random = randomFrom(plans.units.length * 7919 + plans.links.length);
  const pick = (n: number): number => Math.min(n - 1, Math.floor(random() * n));
  let plan = first.map((row) => [...row]);
  let now = at(plan);
  let [best, least] = [plan.map((row) => [...row]), now];
  const mean = now / Math.max(1, plans.links.length);
  const steps = STEPS_PER_UNIT * plans.units.length;
  const find = (unit: number): [row: number, nth: number] => {
    const row = plan.findIndex((r) => r.includes(unit));
    return [row, plan[row]!.indexOf(unit)];
  };
  for (let step = 0; step < steps; step++) {
    const warm = mean * WARM.first * (WARM.last / WARM.first) ** (step / steps);
    const unit = pick(plans.units.length);
    const [row, nth] = find(unit);
    const next = plan.map((r) => [...r]);
    if (random() < 0.5) {
      next[row]!.splice(nth, 1);
      const to = pick(next.length);
      next[to]!.splice(pick(next[to]!.length + 1), 0, unit);
    } else {
      const other = pick(plans.units.length);
      const [row2, nth2] = find(other);
      next[row]![nth] = other;
      next[row2]![nth2] = unit;
    }
    const mm = at(next);
    if (mm > now && random() >= Math.exp((now - mm) / warm)) continue;
    [plan, now] = [next, mm];
    if (now < least - NOISE_MM) [best, least] = [plan.map((r) => [...r]), now];
  }
  return settled(plans, best, at);
}

/** Goes on as long as moving one unit anywhere makes it shorter. */
function settled(plans: RailPlans, first: Plan, at: (plan: Plan) => number): Plan {
  let [best, least] = [first.map((row) => [...row]), at(first)];
  for (let better = true; better;) {
    better = false;
    for (let unit = 0; unit < plans.units.length; unit++) {
      const without = best.map((row) => row.filter((u) => u !== unit));
      for (const [row, units] of without.entries())
        for (let nth = 0; nth <= units.length; nth++) {
          const plan = without.map((r, i) => (i === row ? [...r.slice(0, nth), unit, ...r.slice(nth)] : r));
          const mm = at(plan);
          if (mm < least - NOISE_MM) {
            [best, least, better] = [plan, mm, true];
          }
        }
    }
  }
  return best;
}
