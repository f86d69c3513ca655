import type { Lookup } from "../design/lookup";
import type { Part } from "../design/model";
import { byText } from "../design/order";
import type { BillLine } from "./result";

/** What the stock service says of a part. */
export interface Level {
  part: string;
  /** On the shelf, less what others have reserved. */
  free: number;
}

export interface Shortage {
  part: string;
  text: string;
  needed: number;
  free: number;
  missing: number;
  tags: string[];
  /** Steps, by enclosure, that cannot be finished. */
  steps: { enclosure: string; step: string }[];
}

/** What is missing before anybody starts, the most of devices first; a part of which no level is known is not judged. O(lines) */
export function shortagesOf(bill: readonly BillLine[], levels: readonly Level[]): Shortage[] {
  const free = new Map(levels.map((l) => [l.part, l.free]));
  const byPart = new Map<string, Shortage>();
  for (const line of bill) {
    const there = line.part === null ? undefined : free.get(line.part);
    if (line.part === null || there === undefined) continue;
    let one = byPart.get(line.part);
    if (!one)
      byPart.set(
        line.part,
        (one = { part: line.part, text: line.text, needed: 0, free: there, missing: 0, tags: [], steps: [] }),
      );
    one.needed = Math.round((one.needed + line.quantity) * 10_000) / 10_000;
    one.tags.push(...line.tags);
    one.steps.push({ enclosure: line.enclosure, step: line.step });
  }
  return [...byPart.values()]
    .map((s) => ({
      ...s,
      missing: Math.round((s.needed - s.free) * 10_000) / 10_000,
      tags: [...new Set(s.tags)].sort(byText),
    }))
    .filter((s) => s.missing > 0)
    .sort((a, b) => b.tags.length - a.tags.length || byText(a.part, b.part));
}

/** A part that may stand for another, and in what it differs. */
export interface Alternate {
  part: string;
  text: string;
  /** In words; none: it is the same in all that is compared. */
  differs: string[];
}

const MOST_ALTERNATES = 8;
const mm = (v: number): string => `${Math.round(v * 10) / 10} mm`;

/**
 * Parts of one kind that have every pin that is in use, with what differs: size, pins, clamps, loss, hole pattern, weight. The fewest
 * differences first. O(parts · pins)
 */
export function alternatesFor(look: Lookup, number: string, usedPins: ReadonlySet<string>): Alternate[] {
  const own = look.parts.get(number);
  if (!own) return [];
  return [...look.parts.values()]
    .filter((p) => p.number !== number && p.category === own.category && fits(p, usedPins) && mountsAlike(own, p))
    .map((p) => ({ part: p.number, text: p.text, differs: differences(own, p, usedPins) }))
    .sort((a, b) => a.differs.length - b.differs.length || byText(a.part, b.part))
    .slice(0, MOST_ALTERNATES);
}

const fits = (part: Part, used: ReadonlySet<string>): boolean => {
  const names = new Set((part.pins ?? []).map((p) => p.name));
  return [...used].every((pin) => names.has(pin));
};

const mountsAlike = (a: Part, b: Part): boolean => {
  const kinds = new Set((b.mounts ?? []).map((m) => m.kind));
  return (a.mounts ?? []).every((m) => kinds.has(m.kind));
};

function differences(a: Part, b: Part, used: ReadonlySet<string>): string[] {
  const said: string[] = [];
  const compare = (name: string, x: number | undefined, y: number | undefined, unit: string): void => {
    if (x === y) return;
    const word = (v: number | undefined): string =>
      v === undefined ? "not stated" : unit === "mm" ? mm(v) : `${v} ${unit}`;
    said.push(`${name} ${word(y)} instead of ${word(x)}`);
  };
  compare("width", a.w, b.w, "mm");
  compare("height", a.h, b.h, "mm");
  compare("depth", a.d, b.d, "mm");
  compare("loss", a.lossW, b.lossW, "W");
  compare("current", a.currentA, b.currentA, "A");
  compare("weight", a.weightKg, b.weightKg, "kg");
  if (JSON.stringify(a.holes ?? []) !== JSON.stringify(b.holes ?? [])) said.push("another hole pattern");
  const pins = new Map((b.pins ?? []).map((p) => [p.name, p]));
  for (const pin of a.pins ?? []) {
    const other = pins.get(pin.name);
    if (!used.has(pin.name) || !other) continue;
    if (pin.sizeMin !== other.sizeMin || pin.sizeMax !== other.sizeMax)
      said.push(`pin ${pin.name} takes ${other.sizeMin ?? "?"} to ${other.sizeMax ?? "?"} mm²`);
    if (pin.clamp !== other.clamp) said.push(`pin ${pin.name} is ${other.clamp ?? "not stated"}`);
    if (pin.exit !== other.exit) said.push(`pin ${pin.name} leads ${other.exit ?? "anywhere"}`);
  }
  return said;
}
