import type { HungStrip } from "../design/hung";
import type { Lookup } from "../design/lookup";
import type { PinRef } from "../design/model";
import type { OpenPoints } from "../design/open-points";
import { byCount, byText } from "../design/order";
import type { CableRun, CoreEnd, CoreRun } from "./result";

/** Every cable with where its cores land, from its own list and from wires that are its cores. O(cores + wires) */
export function cablesOf(look: Lookup, hung: ReadonlyMap<string, HungStrip>): CableRun[] {
  const places = new Map<string, { strip: string; position: number }>();
  for (const { strip, members } of hung.values())
    members.forEach((m, i) => places.set(m.tag, { strip: strip.tag, position: i + 1 }));
  const endOf = (ref: PinRef | undefined): CoreEnd | null => {
    if (!ref) return null;
    const at = places.get(ref.device);
    return { device: ref.device, pin: ref.pin, strip: at?.strip ?? null, position: at?.position ?? null };
  };
  const led = new Map<string, CoreRun[]>();
  for (const { wire } of look.wires) {
    if (!wire.core) continue;
    const run: CoreRun = {
      core: wire.core.core,
      colour: wire.colour ?? null,
      sizeMm2: wire.sizeMm2 ?? null,
      net: wire.net ?? null,
      from: endOf(wire.from),
      to: endOf(wire.to),
      far: null,
    };
    const there = led.get(wire.core.cable);
    if (there) there.push(run);
    else led.set(wire.core.cable, [run]);
  }
  return [...look.cables.values()].map((cable): CableRun => {
    const type = look.parts.get(cable.type)?.cable;
    const own = new Set(cable.cores.map((c) => c.core));
    const ofWires = new Map((led.get(cable.tag) ?? []).map((r) => [r.core, r]));
    const cores = cable.cores.map((c): CoreRun => {
      const wire = ofWires.get(c.core);
      return {
        core: c.core,
        colour: c.colour ?? wire?.colour ?? null,
        sizeMm2: c.sizeMm2 ?? wire?.sizeMm2 ?? type?.sizeMm2 ?? null,
        net: c.net ?? wire?.net ?? null,
        from: endOf(c.from) ?? wire?.from ?? null,
        to: endOf(c.to) ?? wire?.to ?? null,
        far: c.far ?? null,
      };
    });
    const more = [...ofWires.values()].filter((r) => !own.has(r.core));
    return {
      tag: cable.tag,
      type: cable.type,
      outerMm: cable.outer ?? type?.outer ?? null,
      from: cable.from ?? null,
      to: cable.to ?? null,
      cores: [...cores, ...more.map((r) => ({ ...r, sizeMm2: r.sizeMm2 ?? type?.sizeMm2 ?? null }))].sort((a, b) =>
        byCount(a.core, b.core),
      ),
    };
  });
}

/** Where the cores of one cable land on a strip, in order of the cable. */
export interface CableLanding {
  tag: string;
  at: { device: string; position: number }[];
}

/** What lands on each strip, cable by cable. O(cores) */
export function landingsByStrip(cables: readonly CableRun[]): Map<string, CableLanding[]> {
  const strips = new Map<string, CableLanding[]>();
  for (const { tag, cores } of cables) {
    const own = new Map<string, CableLanding>();
    for (const core of cores) {
      for (const end of [core.from, core.to]) {
        if (!end || end.strip === null) continue;
        let landing = own.get(end.strip);
        if (!landing) own.set(end.strip, (landing = { tag, at: [] }));
        landing.at.push({ device: end.device, position: end.position! });
      }
    }
    for (const [strip, landing] of own) {
      const there = strips.get(strip);
      if (there) there.push(landing);
      else strips.set(strip, [landing]);
    }
  }
  return strips;
}

/**
 * Pairs of cores that cross on their way to a strip. Cables come to it side by side in the order of the middles of
 * their places, the cores of each in the order of the cable: what then still stands the other way round crosses.
 * O(n log n) in the number of cores.
 */
export const crossingsOf = (landings: readonly CableLanding[]): number =>
  inversions(inOrderOfCables(landings).map((c) => c.position));

/** What lands, cable by cable. */
export function inOrderOfCables<T extends { position: number }>(
  list: readonly { tag: string; at: readonly T[] }[],
): T[] {
  return list
    .map(({ tag, at }) => ({ tag, at, middle: at.reduce((sum, c) => sum + c.position, 0) / at.length }))
    .sort((a, b) => a.middle - b.middle || byText(a.tag, b.tag))
    .flatMap((c) => c.at);
}

/** Pairs of a list of which the first is greater. O(n log n) */
export function inversions(list: readonly number[]): number {
  if (list.length < 2) return 0;
  const half = list.length >> 1;
  const [left, right] = [list.slice(0, half), list.slice(half)];
  let count = inversions(left) + inversions(right);
  left.sort((a, b) => a - b);
  right.sort((a, b) => a - b);
  let j = 0;
  for (const a of left) {
    while (j < right.length && right[j]! < a) j++;
    count += j;
  }
  return count;
}

/** Cables with more cores than their part has, and cores of which the cable says something else than the wire. */
export function checkCables(look: Lookup, points: OpenPoints): void {
  const ends = new Map<string, Set<string>>();
  const core = new Map<string, Set<string>>();
  const add = (map: Map<string, Set<string>>, key: string, value: string): void => {
    const there = map.get(key);
    if (there) there.add(value);
    else map.set(key, new Set([value]));
  };
  const said = (ref: PinRef): string => `${ref.device}:${ref.pin}`;
  for (const { wire } of look.wires) {
    if (!wire.core) continue;
    add(core, wire.core.cable, wire.core.core);
    for (const ref of [wire.from, wire.to]) if (ref) add(ends, `${wire.core.cable}\u0000${wire.core.core}`, said(ref));
  }
  for (const cable of look.cables.values()) {
    const all = new Set([...cable.cores.map((c) => c.core), ...(core.get(cable.tag) ?? [])]);
    const has = look.parts.get(cable.type)?.cable?.cores;
    if (has !== undefined && all.size > has)
      points.add({
        severity: "stop",
        kind: "more cores than the cable has",
        thing: "cable",
        of: cable.tag,
        text: `cable ${cable.tag} names ${all.size} cores; its part ${cable.type} has ${has}`,
        remedy: "Take a cable with more cores, or lead some of them in another cable.",
      });
    for (const c of cable.cores) {
      const wires = ends.get(`${cable.tag}\u0000${c.core}`);
      if (!wires) continue;
      const own = [c.from, c.to].flatMap((r) => (r ? [said(r)] : []));
      // Each may know one end only; what both know must be one.
      const strange = own.filter((e) => !wires.has(e));
      if (strange.length === 0 || wires.size + strange.length <= 2) continue;
      points.add({
        severity: "check",
        kind: "core and wire disagree",
        thing: "cable",
        of: cable.tag,
        text: `core ${c.core} of ${cable.tag} lands on ${strange.join(" and ")} by the list of the cable, and on ${[...wires].sort(byText).join(" and ")} by its wire`,
        remedy: "Correct one of the two: until then both are drawn.",
      });
    }
  }
}
