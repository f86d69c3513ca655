import type { Point } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Exit, Part } from "../design/model";
import type { PinPlaceRule } from "./rules";
import { pushTo, sortedByCount } from "../design/order";
import { searchPattern } from "../design/wildcards";

/** Where a pin stands that nobody has drawn, on the unturned body, and which row of the table says so. */
export interface RuledPin {
  x: number;
  y: number;
  z: number;
  /** Null in the middle of the body. */
  exit: Exit | null;
  /** Counted from 1. */
  row: number;
}

export type PinPlacer = (part: Part, pin: string) => RuledPin | null;

const EXITS = { upper: "up", lower: "down", left: "left", right: "right", middle: null } as const;

/** The row of the table that fits a pin by its name and the category of its part: the first. */
export function rowOf(rules: readonly PinPlaceRule[], category: Part["category"], pin: string): number {
  return rules.findIndex(
    (r) =>
      (r.category === undefined || r.category === category) &&
      (r.name === undefined || named(r.name, pin)) &&
      (r.figure === undefined || r.figure === lastFigure(pin)),
  );
}

/** A name as a whole, in any case of its letters. */
function named(wanted: string, pin: string): boolean {
  return /[*?]/.test(wanted) ? searchPattern(wanted).test(pin) : wanted.toLowerCase() === pin.toLowerCase();
}

/** Whether the figure with which a name ends is odd or even; null where it ends with none. */
function lastFigure(pin: string): "odd" | "even" | null {
  const last = /\d$/.exec(pin)?.[0];
  return last === undefined ? null : Number(last) % 2 === 1 ? "odd" : "even";
}

/**
 * Places pins that have no position by the shop's table: along the edge that their row says, evenly, in the order of their names, half as
 * high as their body. A part without any pins has those to which wires lead. O(wires) once, then O(pins of the part) for each part.
 */
export function pinPlacer(look: Lookup, rules: readonly PinPlaceRule[]): PinPlacer {
  let used: Map<string, Set<string>> | null = null;
  const places = new Map<Part, Map<string, RuledPin>>();
  const namesOf = (part: Part): readonly string[] => {
    if (part.pins?.length)
      return part.pins.filter((p) => p.x === undefined || p.y === undefined || p.z === undefined).map((p) => p.name);
    used ??= usedPins(look);
    return [...(used.get(part.number) ?? [])];
  };
  return (part, pin) => {
    let own = places.get(part);
    if (!own) places.set(part, (own = placed(part, namesOf(part), rules)));
    return own.get(pin) ?? null;
  };
}

/** Names of the pins to which wires lead, by part. */
function usedPins(look: Lookup): Map<string, Set<string>> {
  const used = new Map<string, Set<string>>();
  for (const { wire } of look.wires)
    for (const end of [wire.from, wire.to]) {
      const part = end && look.devices.get(end.device)?.part;
      if (!part) continue;
      const names = used.get(part) ?? new Set<string>();
      used.set(part, names.add(end.pin));
    }
  return used;
}

function placed(part: Part, names: readonly string[], rules: readonly PinPlaceRule[]): Map<string, RuledPin> {
  const edges = new Map<PinPlaceRule["edge"], { name: string; row: number }[]>();
  for (const name of sortedByCount([...new Set(names)])) {
    const row = rowOf(rules, part.category, name);
    if (row >= 0) pushTo(edges, rules[row]!.edge, { name, row: row + 1 });
  }
  const places = new Map<string, RuledPin>();
  for (const [edge, along] of edges) {
    along.forEach(({ name, row }, i) => {
      places.set(name, { ...onEdge(part, edge, i + 1, along.length + 1), z: part.d / 2, exit: EXITS[edge], row });
    });
  }
  return places;
}

/** The k-th of the places that part an edge into n; upright ones from the top down, as names are read. */
function onEdge({ w, h }: Part, edge: PinPlaceRule["edge"], k: number, n: number): Point {
  switch (edge) {
    case "upper":
      return { x: (w * k) / n, y: h };
    case "lower":
      return { x: (w * k) / n, y: 0 };
    case "left":
      return { x: 0, y: (h * (n - k)) / n };
    case "right":
      return { x: w, y: (h * (n - k)) / n };
    case "middle":
      return { x: w / 2, y: h / 2 };
  }
}
