import type { Point, Point3, Rect } from "../design/geometry";
import type { Exit } from "../design/model";
import { Outlines } from "../solve/near";
import { byText } from "../design/order";
import { toNm } from "../design/tolerance";
import type { PanelResult, PlacedDevice } from "../panel/result";
import { openWay, rectOf, type Block, type OpenWay } from "./open-space";

/** A body or a duct that stands on a face. */
interface Standing extends Block {
  tag: string;
  duct: boolean;
}

/** A way outside ducts, and the devices it goes round or over. */
export interface Around extends OpenWay {
  devices: string[];
}

/** Where a lead begins: its pin, which way it looks, and the body it sits in. Whole nanometres. */
export interface OpenEnd extends Point3 {
  exit: Exit | null;
  device: string;
  outline: Rect;
}

/** Devices named as being in the way; more are no help. */
const MOST_NAMED = 3;

/** More bodies than this about one lead are no panel any more: it goes over the highest of its face, and says so. */
const MOST_NEAR = 400;

/** What stands on the faces of a panel, in nanometres, found by where it stands. */
export class Space {
  readonly #faces = new Map<string, { standing: Standing[]; index: Outlines; highest: number }>();
  readonly #carriers: ReadonlyMap<string, string | null>;
  readonly #passNm: number;

  /** O(n log n) */
  constructor(panel: PanelResult, passGapMm: number) {
    this.#passNm = toNm(passGapMm);
    this.#carriers = new Map(panel.devices.map((d) => [d.tag, d.carrier]));
    const lists = new Map<string, Standing[]>();
    const add = (face: string, one: Standing): void => {
      const list = lists.get(face);
      if (list) list.push(one);
      else lists.set(face, [one]);
    };
    for (const d of panel.devices) add(d.face, { tag: d.tag, duct: false, outline: inNm(d.outline), top: toNm(d.top) });
    for (const d of panel.ducts) add(d.face, { tag: d.tag, duct: true, outline: inNm(d.outline), top: toNm(d.height) });
    for (const [face, standing] of lists)
      this.#faces.set(face, {
        standing,
        index: new Outlines(standing.map((s) => s.outline)),
        highest: standing.reduce((most, s) => Math.max(most, s.top), 0),
      });
  }

  /**
   * From a pin to a place in the duct ahead when bodies of other devices stand in between; null when none does, or the
   * straight way is as short.
   */
  toDuct(face: string, pin: OpenEnd, goal: Point3): Around | null {
    const sideways = pin.exit !== null && pin.exit !== "out";
    const but = this.#carriersOf(pin.device);
    const wanted = (s: Standing): boolean => !s.duct && !but.has(s.tag);
    const isOther = (s: Standing): boolean => wanted(s) && s.tag !== pin.device;
    const low = Math.min(pin.z, goal.z);
    const between = this.#within(face, rectOf(pin, goal));
    if (between && !between.some((s) => isOther(s) && s.top > low)) return null;
    const start = sideways ? rimOf(pin) : pin;
    const ahead = sideways && !isBehind(start, goal, pin.exit!) ? start : pin;
    const found = this.#way(face, ahead, goal, sideways ? wanted : isOther);
    const straight = square(pin, goal);
    const nm = square(pin, ahead) + found.nm;
    if (nm <= straight) return null;
    const devices = found.devices.filter((tag) => tag !== pin.device);
    return { ...found, nm, devices, points: ahead === pin ? found.points : [plain(pin), ...found.points] };
  }

  /** From pin to pin over the face: out of each by its exit, else over the front, then round all that stands there. */
  direct(face: string, from: OpenEnd, to: OpenEnd): Around {
    const but = new Set([...this.#carriersOf(from.device), ...this.#carriersOf(to.device)]);
    const [a, b] = [from, to].map((end) => (end.exit !== null && end.exit !== "out" ? rimOf(end) : end)) as [
      Point3,
      Point3,
    ];
    const found = this.#way(face, a, b, (s) => !but.has(s.tag));
    const points = [...(a === from ? [] : [plain(from)]), ...found.points, ...(b === to ? [] : [plain(to)])];
    return { ...found, nm: square(from, a) + found.nm + square(b, to), points };
  }

  #way(face: string, a: Point3, b: Point3, wanted: (s: Standing) => boolean): Around {
    const straight = square(a, b);
    const low = Math.min(a.z, b.z);
    const stands = (rect: Rect): Standing[] | null =>
      this.#within(face, rect)?.filter((s) => wanted(s) && s.top > low) ?? null;
    const between = stands(rectOf(a, b));
    if (!between) return this.#over(face, a, b);
    // As far as a way may lead aside that is no longer than the one over the front of all in between.
    const front = Math.max(a.z, b.z, ...between.map((s) => s.top));
    const aside = Math.ceil(front - (a.z + b.z) / 2);
    const plan = rectOf(a, b);
    const near =
      between.length === 0
        ? []
        : stands({ x: plan.x - aside, y: plan.y - aside, w: plan.w + 2 * aside, h: plan.h + 2 * aside });
    if (!near) return this.#over(face, a, b);
    const way = openWay(plain(a), plain(b), near, this.#passNm);
    const devices = way.nm > straight ? between.filter((s) => !s.duct).map((s) => s.tag) : [];
    return { ...way, devices: devices.sort(byText).slice(0, MOST_NAMED) };
  }

  /** What touches a rectangle; null where that is more than is gone through. */
  #within(face: string, { x, y, w, h }: Rect): Standing[] | null {
    const known = this.#faces.get(face);
    const found = known?.index.touching({ x, y, w, h }, 0, MOST_NEAR + 1) ?? [];
    return found.length > MOST_NEAR ? null : found.map((i) => known!.standing[i]!);
  }

  /** Over the highest of a face. */
  #over(face: string, a: Point3, b: Point3): Around {
    const top = Math.max(a.z, b.z, this.#faces.get(face)?.highest ?? 0);
    const points = [plain(a), { ...plain(a), z: top }, { x: a.x, y: b.y, z: top }, { ...plain(b), z: top }, plain(b)];
    return { nm: square(a, b) - Math.abs(a.z - b.z) + 2 * top - a.z - b.z, points, devices: [], cut: true };
  }

  /** Devices that carry one: they are round it, not in its way. */
  #carriersOf(tag: string): Set<string> {
    const found = new Set<string>();
    for (let at = this.#carriers.get(tag); at && !found.has(at); at = this.#carriers.get(at)) found.add(at);
    return found;
  }
}

const plain = ({ x, y, z }: Point3): Point3 => ({ x, y, z });

const square = (a: Point3, b: Point3): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y) + Math.abs(a.z - b.z);

/** An outline in whole nanometres, each side rounded by itself so that sides that touch still do. */
export function inNm(o: Rect): Rect {
  const [x, y] = [toNm(o.x), toNm(o.y)];
  return { x, y, w: toNm(o.x + o.w) - x, h: toNm(o.y + o.h) - y };
}

/** Where a lead comes out of its body, as its pin looks; the pin itself when it lies outside. */
function rimOf({ x, y, z, exit, outline: o }: OpenEnd): Point3 {
  if (x < o.x || x > o.x + o.w || y < o.y || y > o.y + o.h) return { x, y, z };
  if (exit === "up") return { x, y: o.y + o.h, z };
  if (exit === "down") return { x, y: o.y, z };
  return { x: exit === "right" ? o.x + o.w : o.x, y, z };
}

/** Whether a goal lies behind a place, as a pin looks. */
function isBehind(at: Point, goal: Point, exit: Exit): boolean {
  if (exit === "up") return goal.y < at.y;
  if (exit === "down") return goal.y > at.y;
  return exit === "right" ? goal.x < at.x : goal.x > at.x;
}

/** An end as a lead outside ducts begins there. */
export const openEnd = (at: Point3 & { exit: Exit | null }, device: PlacedDevice): OpenEnd => ({
  x: at.x,
  y: at.y,
  z: at.z,
  exit: at.exit,
  device: device.tag,
  outline: inNm(device.outline),
});
