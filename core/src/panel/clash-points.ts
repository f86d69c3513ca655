import type { Lookup } from "../design/lookup";
import { listed, type Mend, type OpenPoints } from "../design/open-points";
import { enclosureOf } from "../design/geometry";
import type { Clashes } from "./clashes";
import { movedPlace, stepOf } from "./nudge";
import type { Clash } from "./result";

/** Tenths, and never less than there are: what is moved by it comes free. */
const up = (mm: number): number => Math.ceil(mm * 10 - 1e-6) / 10;
const mm = (v: number): string => `${up(v)} mm`;

const WAYS = { left: "to the left", right: "to the right", up: "up", down: "down" } as const;

/** Clashes as open points: who, by how much, and which way one comes free. */
export function sayClashes({ clashes, crowded }: Clashes, look: Lookup, points: OpenPoints): void {
  for (const c of clashes) {
    const mend = mendOf(c, look);
    points.add({
      severity: "check",
      kind: c.kind,
      thing: c.a.thing,
      of: c.a.of,
      text: textOf(c),
      remedy: remedyOf(c),
      ...(mend ? { mend } : {}),
    });
  }
  for (const { face, tags, most } of crowded)
    points.add({
      severity: "check",
      kind: "too many bodies on one spot",
      thing: "face",
      of: face,
      text: `${tags.length} things of ${face} touch more than ${most} others each: ${listed(tags)}. Which stand in each other was looked at for ${most} of each only`,
      remedy: "Move them to where they stand.",
    });
}

const named = ({ thing, of }: Clash["a"]): string =>
  thing === "device" ? of : thing === "face" ? of : `${thing} ${of}`;
const where = (side: Clash["a"]): string => (side.thing === "face" ? side.of : `${named(side)} on ${side.face}`);

function textOf({ kind, a, b, missingMm }: Clash): string {
  switch (kind) {
    case "bodies overlap":
      return a.face === b.face
        ? `${named(a)} and ${named(b)} stand in each other on ${a.face}, by ${mm(missingMm)}`
        : `${where(a)} and ${where(b)} stand in each other, by ${mm(missingMm)}`;
    case "too deep":
      return `${where(a)} is ${mm(missingMm)} too deep: it reaches beyond ${b.of}${b.of.endsWith("/door") ? ", which does not shut" : ""}`;
    case "too near":
      return `${named(b)} is ${mm(missingMm)} nearer to ${where(a)} than its part asks for`;
    case "meets as the door opens":
      return b.thing === "face"
        ? `${where(a)} meets the frame of ${enclosureOf(b.of)} as its door opens, by ${mm(missingMm)}`
        : `${where(a)} meets ${named(b)} as its door opens, by ${mm(missingMm)}`;
  }
}

function remedyOf({ kind, a, move, missingMm }: Clash): string {
  if (kind === "too deep") return "Choose a shallower part, set the plate back, or a deeper enclosure.";
  if (kind === "meets as the door opens")
    return `Move ${named(a)} ${mm(missingMm)} towards the hinge, or choose a shallower part.`;
  return move ? `Move ${named(a)} ${mm(move.mm)} ${WAYS[move.way]}, or the other one.` : "Move one of them.";
}

/** Where a device comes free by a move on its face or rail, that move as an edit. */
function mendOf({ a, move }: Clash, look: Lookup): Mend | null {
  const device = a.thing === "device" ? look.devices.get(a.of) : undefined;
  const on = device && move ? movedPlace(device, ...stepOf(move.way, up(move.mm)), look) : null;
  return on
    ? {
        label: `Move ${a.of} ${mm(move!.mm)} ${WAYS[move!.way]}`,
        kind: "place",
        payload: { device: a.of, on },
        asks: [],
      }
    : null;
}
