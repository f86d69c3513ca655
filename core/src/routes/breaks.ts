import { NO_LAYOUT } from "../design/layout";
import type { Lookup } from "../design/lookup";
import { samePin } from "../wiring/landings";
import { toMm } from "../design/tolerance";
import type { PlacedDevice } from "../panel/result";
import type { Attached } from "./attach";
import type { Bar } from "./bars";
import type { Hanging, Network } from "./network";
import type { WireRoute } from "./result";

/** Pairs of ducts and crossings that are gone through before places are no longer named. */
const MOST_WORK = 4_000_000;

/** Says in words why a wire has no way: which end, duct or crossing is missing or hangs free. */
export class Breaks {
  readonly #look: Lookup;
  readonly #net: Network;
  readonly #placed: ReadonlyMap<string, PlacedDevice>;
  readonly #gaps = new Map<string, string>();
  #parts: Map<number, Bar[]> | null = null;
  #work = MOST_WORK;

  constructor(look: Lookup, net: Network, placed: ReadonlyMap<string, PlacedDevice>) {
    this.#look = look;
    this.#net = net;
    this.#placed = placed;
  }

  text(route: WireRoute, from: Attached | null, to: Attached | null): string {
    const ends = [
      { ref: route.fromRef, at: from },
      { ref: route.toRef, at: to },
    ];
    for (const { ref } of ends) {
      if (!ref) return "one of its ends is missing";
      if (!this.#look.devices.has(ref.device)) return `${ref.device} is not in the design`;
    }
    if (this.#look.enclosures.size === 0) return NO_LAYOUT;
    for (const { ref, at } of ends) {
      if (at || !ref) continue;
      if (!this.#placed.has(ref.device)) return `${ref.device} has no place`;
      const part = this.#look.parts.get(this.#look.devices.get(ref.device)!.part);
      return part && !part.pins?.length
        ? `nobody has drawn pin ${ref.pin} of ${ref.device}, and no row of the shop's table places it`
        : `${ref.device} has no pin ${ref.pin}`;
    }
    const { fromRef, toRef } = route;
    if (samePin(fromRef, toRef)) return `both of its ends are on ${fromRef!.device}:${fromRef!.pin}`;
    for (const { at } of ends) {
      if (at!.first.list.length === 0) return `there is no duct on ${at!.end.face}, where ${at!.end.device} sits`;
    }
    return this.#between(from!, to!);
  }

  #between(from: Attached, to: Attached): string {
    const [start, goal] = [from, to].map((a) => this.#net.bars[a.first.list[0]!.bar]!) as [Bar, Bar];
    const lead = `no way leads from ${start.tag} to ${goal.tag}`;
    const [near, far] = [this.#net.part[start.index]!, this.#net.part[goal.index]!];
    const key = `${Math.min(near, far)} ${Math.max(near, far)} ${start.face.id} ${goal.face.id}`;
    let gap = this.#gaps.get(key);
    if (gap === undefined) this.#gaps.set(key, (gap = this.#gap(near, far, start.face.id, goal.face.id)));
    return `${lead}: ${gap}`;
  }

  #barsOf(part: number): Bar[] {
    if (!this.#parts) {
      this.#parts = new Map();
      for (const bar of this.#net.bars) {
        const p = this.#net.part[bar.index]!;
        const there = this.#parts.get(p);
        if (there) there.push(bar);
        else this.#parts.set(p, [bar]);
      }
    }
    return this.#parts.get(part)!;
  }

  /**
   * Where two parts of the network that are not joined come closest. O(ducts of one · ducts of the other), until all
   * together have taken too long: then it is only said that they are not joined.
   */
  #gap(near: number, far: number, faceA: string, faceB: string): string {
    const { hanging } = this.#net;
    const [ours, theirs] = [this.#barsOf(near), this.#barsOf(far)];
    this.#work -= ours.length * theirs.length + hanging.size;
    if (this.#work < 0) return "they are not joined, nor are very many others";
    let closest: { a: Bar; b: Bar; gap: number } | null = null;
    for (const a of ours) {
      for (const b of theirs) {
        if (a.face !== b.face) continue;
        const dx = Math.max(0, b.outline.x - (a.outline.x + a.outline.w), a.outline.x - (b.outline.x + b.outline.w));
        const dy = Math.max(0, b.outline.y - (a.outline.y + a.outline.h), a.outline.y - (b.outline.y + b.outline.h));
        const gap = Math.hypot(dx, dy);
        if (gap < (closest?.gap ?? Infinity)) closest = { a, b, gap };
      }
    }
    if (closest) {
      const [one, two] = [closest.a, closest.b].sort((p, q) => p.index - q.index);
      return `${one!.tag} and ${two!.tag} stand ${Math.round(toMm(closest.gap))} mm apart`;
    }
    const faces = (list: Bar[]): Set<string> => new Set(list.map((b) => b.face.id));
    const free = between(hanging, faces(ours), faces(theirs));
    if (free.length > 0) return free.join("; ");
    return `no crossing joins ${[faceA, faceB].sort().join(" and ")}`;
  }
}

const MOST_NAMED = 3;

/** Crossings that hang free and would lead out of one of the two parts; those that would join them first. */
function between(
  hanging: ReadonlyMap<string, Hanging>,
  ours: ReadonlySet<string>,
  theirs: ReadonlySet<string>,
): string[] {
  const touches = (h: Hanging, faces: ReadonlySet<string>): boolean => h.faces.some((f) => faces.has(f));
  const both = [...hanging].filter(([, h]) => touches(h, ours) && touches(h, theirs));
  const one = [...hanging].filter(([, h]) => touches(h, ours) || touches(h, theirs));
  const list = (both.length > 0 ? both : one).sort(([a], [b]) => (a < b ? -1 : 1));
  const named = list.slice(0, MOST_NAMED).map(([tag, { why }]) => `crossing ${tag} hangs free (${why})`);
  if (list.length > MOST_NAMED) named.push(`and ${list.length - MOST_NAMED} more crossings hang free`);
  return named;
}
