import type { Lookup } from "../design/lookup";
import type { Part } from "../design/model";
import { byText } from "../design/order";

/** A part that may stand for another, and in what it differs. */
export interface Alternate {
  part: string;
  text: string;
  /** In words; none: it is the same in all that is compared. */
  differs: string[];
  /** The library names it as one. */
  named: boolean;
}

const MOST_ALTERNATES = 8;
const mm = (v: number): string => `${Math.round(v * 10) / 10} mm`;

/**
 * Parts the library names as alternates, and parts of one kind, that have every pin that is in use, with what differs: size, pins,
 * clamps, loss, opening, weight. Those that are named first, then the fewest differences. O(parts · pins)
 */
export function alternatesFor(look: Lookup, number: string, usedPins: ReadonlySet<string>): Alternate[] {
  const own = look.parts.get(number);
  if (!own) return [];
  const named = new Set(own.alternates);
  return [...look.parts.values()]
    .filter(
      (p) =>
        p.number !== number &&
        (named.has(p.number) || (p.category === own.category && mountsAlike(own, p))) &&
        fits(p, usedPins),
    )
    .map((p) => ({
      part: p.number,
      text: p.text,
      differs: differences(own, p, usedPins),
      named: named.has(p.number),
    }))
    .sort((a, b) => Number(b.named) - Number(a.named) || a.differs.length - b.differs.length || byText(a.part, b.part))
    .slice(0, MOST_ALTERNATES);
}

/** The largest hole of a pattern, in words; undefined where it has none. */
function openingOf({ holes = [] }: Part): string | undefined {
  let [largest, said]: [number, string | undefined] = [0, undefined];
  const take = (area: number, words: string): void => {
    if (area > largest) [largest, said] = [area, words];
  };
  for (const h of holes)
    if (h.kind === "rect" || h.kind === "slot") take(h.w * h.h, `${mm(h.w).replace(" mm", "")} × ${mm(h.h)}`);
    else if (h.kind === "round" || h.kind === "knockout") take(h.d ** 2, `Ø ${mm(h.d)}`);
    else if (h.kind === "polygon") {
      const [xs, ys] = [h.points.map((p) => p.x), h.points.map((p) => p.y)];
      const [w, l] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
      take(w * l, `outline of ${mm(w).replace(" mm", "")} × ${mm(l)}`);
    }
  return said;
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
  const [own, other] = [openingOf(a), openingOf(b)];
  if (own !== other) said.push(`opening ${other ?? "none"} instead of ${own ?? "none"}`);
  else if (JSON.stringify(a.holes ?? []) !== JSON.stringify(b.holes ?? [])) said.push("another hole pattern");
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
