import type { Lookup } from "./lookup";
import type { AccessoryKind, Device, NetClass, Part, Strip } from "./model";
import { byText } from "./order";
import type { LineupRules } from "../lineups/rules";

/**
 * How a strip hangs on its rail: its members with end stops, end plates and separators between them, how long that is,
 * and where each member of a strip that is laid stands. The strip and the panel both go by it.
 */

/** What of the shop's rules decides what is hung. */
export type HangRules = Pick<LineupRules, "endStopEvery" | "separateVolts" | "separate">;

/** One piece of a strip. */
export interface HungPiece {
  kind: "member" | AccessoryKind;
  /** Of a member. */
  tag?: string;
  part: string | null;
  /** Along the rail; null where no part says it. */
  widthMm: number | null;
  /** Of an accessory: why it is there, in words. */
  why?: string;
  /** Of an accessory: a person said so. */
  byHand?: boolean;
}

/** A member that a strip names, and that exists. */
export interface HungMember {
  tag: string;
  part: Part | undefined;
  widthMm: number | null;
  /** Of a terminal, as it stands: end for end its sides change places. */
  openSide?: "left" | "right";
}

export interface HungStrip {
  strip: Strip;
  members: HungMember[];
  /** Named again, here or on another strip: `other` is where it stands. */
  twice: { tag: string; other: string }[];
  pieces: HungPiece[];
  /** Null when a width is not known. */
  lengthMm: number | null;
  /** Places where rules want a separator, and the library has none. */
  unseparated: number;
  /** Members that get an end plate by hand, and for which no part says how wide it is: it takes no room. */
  unplated: string[];
}

/** The accessory of a kind that the library has; of several the first by number. O(parts) */
const accessoryOf = (look: Lookup, kind: AccessoryKind): Part | undefined =>
  [...look.parts.values()].filter((p) => p.accessory === kind).sort((a, b) => byText(a.number, b.number))[0];

/** Along its rail a device that is turned across it stands with its height; null where no part says it. */
export function alongRail({ part: number, turn }: Device, look: Lookup): number | null {
  const part = look.parts.get(number);
  return part ? (turn === 90 || turn === 270 ? part.h : part.w) : null;
}

/** The side on which a terminal is open as it stands on its rail: turned end for end, its sides change places. */
function openSideOf({ part: number, turn }: Device, look: Lookup): Pick<HungMember, "openSide"> {
  const side = look.parts.get(number)?.terminal?.openSide;
  if (side === undefined || side === "none") return {};
  return { openSide: turn === 180 ? (side === "left" ? "right" : "left") : side };
}

/** Sums of widths lose what is only noise: tenths of thousandths of a millimetre. */
export const even = (mm: number): number => Math.round(mm * 1e4) / 1e4;

export const lengthOf = (pieces: readonly Pick<HungPiece, "widthMm">[]): number | null => {
  let sum = 0;
  for (const { widthMm } of pieces) {
    if (widthMm === null) return null;
    sum += widthMm;
  }
  return even(sum);
};

/** What is known of the nets that land on a member. */
interface Potential {
  classes: Set<NetClass>;
  /** Highest voltage; null where no net says one. */
  volts: number | null;
}

/** O(wires + cores) */
function potentialsOf(look: Lookup, wanted: ReadonlySet<string>): Map<string, Potential> {
  const all = new Map<string, Potential>();
  const land = (device: string | undefined, name: string | undefined): void => {
    const net = name === undefined ? undefined : look.nets.get(name);
    if (device === undefined || !net || !wanted.has(device)) return;
    let there = all.get(device);
    if (!there) all.set(device, (there = { classes: new Set(), volts: null }));
    if (net.class) there.classes.add(net.class);
    if (net.voltage) there.volts = Math.max(there.volts ?? 0, net.voltage.v);
  };
  for (const { wire } of look.wires) for (const end of [wire.from, wire.to]) land(end?.device, wire.net);
  for (const cable of look.cables.values())
    for (const core of cable.cores) for (const end of [core.from, core.to]) land(end?.device, core.net);
  return all;
}

/** Why two neighbours are kept apart; null when they need not be. */
function apart(a: Potential | undefined, b: Potential | undefined, rules: HangRules): string | null {
  if (!a || !b) return null;
  const pair = rules.separate.find(
    ([one, two]) => (a.classes.has(one) && b.classes.has(two)) || (a.classes.has(two) && b.classes.has(one)),
  );
  if (pair) return `keeps ${pair[0]} from ${pair[1]}`;
  if (rules.separateVolts > 0 && a.volts !== null && b.volts !== null) {
    const [low, high] = a.volts < b.volts ? [a.volts, b.volts] : [b.volts, a.volts];
    if (high - low > rules.separateVolts) return `keeps ${low} V from ${high} V`;
  }
  return null;
}

/** Terminals stand flush where they are of one height and depth. */
const sameProfile = (a: Part | undefined, b: Part | undefined): boolean => !!a && !!b && a.h === b.h && a.d === b.d;

/**
 * Members with what the rules hang between them, and what a person said of it: end stops at both ends and after every
 * so many members, separators between classes and voltages, end plates where the open side of a terminal is not covered
 * by one of its profile or by a separator. O(members)
 */
function piecesOf(
  strip: Strip,
  members: readonly HungMember[],
  look: Lookup,
  rules: HangRules,
  potentials: ReadonlyMap<string, Potential>,
  library: Readonly<Record<"stop" | "separator", Part | undefined>>,
): Pick<HungStrip, "pieces" | "unseparated" | "unplated"> {
  const unplated: string[] = [];
  const said = new Map((strip.pieces ?? []).map((p) => [`${p.behind ?? ""}\u0000${p.kind}`, p.hung]));
  const { endStopEvery: every } = rules;
  const pieces: HungPiece[] = [];
  let unseparated = 0;
  const accessory = (kind: AccessoryKind, part: Part | undefined, why: string, byHand = false): HungPiece => ({
    kind,
    part: part?.number ?? null,
    widthMm: part?.w ?? null,
    why,
    ...(byHand ? { byHand } : {}),
  });
  // Gap by gap: gap i lies before member i.
  for (let i = 0; i <= members.length && members.length > 0; i++) {
    const [before, behind] = [members[i - 1], members[i]];
    const hand = (kind: AccessoryKind): boolean | undefined => said.get(`${before?.tag ?? ""}\u0000${kind}`);
    /** What the rules say, unless a person says otherwise. */
    const wanted = (kind: AccessoryKind, rule: string | null): { why: string; byHand: boolean } | null => {
      const own = hand(kind);
      if (own === undefined || own === (rule !== null)) return rule === null ? null : { why: rule, byHand: false };
      return own ? { why: "by hand", byHand: true } : null;
    };
    const stop = wanted(
      "end stop",
      !before
        ? "begins the strip"
        : !behind
          ? "ends the strip"
          : every > 0 && i % every === 0
            ? `after ${every} members`
            : null,
    );
    const terminals = before?.part?.terminal !== undefined && behind?.part?.terminal !== undefined;
    const separator = wanted(
      "separator",
      stop || !terminals ? null : apart(potentials.get(before.tag), potentials.get(behind.tag), rules),
    );
    const parted = separator !== null && library.separator !== undefined;
    if (separator && !parted) unseparated++;
    const flush = !stop && sameProfile(before?.part, behind?.part);
    const plate = (m: HungMember | undefined, side: "left" | "right"): void => {
      const open = m?.openSide === side;
      const covered = parted || flush;
      const own = hand("end plate");
      if (!m?.part?.terminal || !(own === undefined ? open && !covered : own && (open || side === "right"))) return;
      const number = m.part.terminal.endPlate;
      const part = number === undefined ? undefined : look.parts.get(number);
      const byRule = open && !covered;
      pieces.push({
        ...accessory("end plate", part, byRule ? `closes the open side of ${m.tag}` : "by hand", !byRule),
        part: number ?? null,
        // One by hand that nobody knows must not hide how long the others are.
        ...(part === undefined && !byRule ? { widthMm: 0 } : {}),
      });
      if (part === undefined && !byRule) unplated.push(m.tag);
    };
    plate(before, "right");
    if (stop) pieces.push(accessory("end stop", library.stop, stop.why, stop.byHand));
    if (separator && parted) pieces.push(accessory("separator", library.separator, separator.why, separator.byHand));
    plate(behind, "left");
    if (behind)
      pieces.push({ kind: "member", tag: behind.tag, part: behind.part?.number ?? null, widthMm: behind.widthMm });
  }
  return { pieces, unseparated, unplated };
}

/**
 * Every strip as it hangs, by tag. A member that several strips name stands on the first of them by tag; what is not in
 * the design, or left out by an option, is passed over: the intake says so. O(members + wires + cores)
 */
export function hungStrips(look: Lookup, rules: HangRules): Map<string, HungStrip> {
  const strips = [...look.strips.values()];
  if (strips.length === 0) return new Map();
  const owner = new Map<string, string>();
  for (const { tag, members } of [...strips].sort((a, b) => byText(a.tag, b.tag)))
    for (const m of members) if (!owner.has(m)) owner.set(m, tag);
  const potentials = potentialsOf(look, new Set(owner.keys()));
  const library = { stop: accessoryOf(look, "end stop"), separator: accessoryOf(look, "separator") };
  return new Map(
    strips.map((strip): [string, HungStrip] => {
      const members: HungMember[] = [];
      const twice: HungStrip["twice"] = [];
      const seen = new Set<string>();
      for (const tag of strip.members) {
        const other = owner.get(tag)!;
        const device = look.devices.get(tag);
        if (seen.has(tag) || other !== strip.tag) twice.push({ tag, other });
        else if (device) {
          seen.add(tag);
          members.push({
            tag,
            part: look.parts.get(device.part),
            widthMm: alongRail(device, look),
            ...openSideOf(device, look),
          });
        }
      }
      const hung = piecesOf(strip, members, look, rules, potentials, library);
      return [strip.tag, { strip, members, twice, ...hung, lengthMm: lengthOf(hung.pieces) }];
    }),
  );
}

/** Where the pieces of a strip stand that is laid, mm from the rail's start; what lies behind an unknown width is left out. */
export function piecesAt({ strip, pieces }: Pick<HungStrip, "strip" | "pieces">): { piece: HungPiece; x: number }[] {
  if (strip.at === undefined) return [];
  const placed: { piece: HungPiece; x: number }[] = [];
  let x = strip.at;
  for (const piece of pieces) {
    placed.push({ piece, x: even(x) });
    if (piece.widthMm === null) break;
    x += piece.widthMm;
  }
  return placed;
}

/** The rail and the place on it of every member of a strip that is laid. O(members) */
export function standOnStrips(
  hung: ReadonlyMap<string, HungStrip>,
): Map<string, { rail: string; x: number; strip: string }> {
  const stand = new Map<string, { rail: string; x: number; strip: string }>();
  for (const one of hung.values())
    for (const { piece, x } of piecesAt(one))
      if (piece.tag !== undefined) stand.set(piece.tag, { rail: one.strip.rail, x, strip: one.strip.tag });
  return stand;
}
