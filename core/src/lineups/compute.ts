import { pinKey } from "../wiring/landings";
import { lookUp, type Lookup } from "../design/lookup";
import type { Design, Part, Pin, Side, Strip } from "../design/model";
import { choiceOf, listed, OpenPoints, type Mend } from "../design/open-points";
import { byText, own } from "../design/order";
import type { LineupRules } from "./rules";
import type { Rules } from "../shop/rules";
import { TOUCHING_MM } from "../design/tolerance";
import { alongRail, even, hungStrips, type HungMember, type HungStrip } from "../design/hung";
import { cablesOf, checkCables, landingsByStrip } from "./cables";
import { checkHomeless, checkPlaces, checkPrints, checkSaid } from "./checks";
import { connectionsOf } from "./connections";
import { checkFuse } from "./fuses";
import { drawnJumpers, levelOfRow, middlesOf, proposedJumpers } from "./jumpers";
import { ordersOf } from "./orders";
import type {
  Accessory,
  Connection,
  Jumper,
  Level,
  LineupsResult,
  Member,
  Spare,
  StripPlan,
  Undecided,
} from "./result";

/**
 * Works out every strip: what lies inside and outside at each member, what is bridged, what is hung between, how long
 * it is and what is left free. O(wires + cores + members · levels).
 * @param shop the shop's rules: its classes may give a wire its size and colour
 */
export function compute(design: Design, shop: Rules): LineupsResult {
  const look = lookUp(design);
  const points = new OpenPoints("lineups");
  const connections = connectionsOf(look, shop, new Set(design.strips.flatMap((s) => s.members)));
  const hung = hungStrips(look, shop.lineups);
  const cables = cablesOf(look, hung);
  const used = usedOnRails(look, hung);
  const landings = landingsByStrip(cables);
  const strips = [...hung.values()].map((one): StripPlan => {
    const { strip, lengthMm } = one;
    const members = one.members.map((m, i) => memberOf(m, i + 1, strip, look, connections));
    sayTwice(one, points);
    sayUnplated(one, points);
    const standing = { members, middles: middlesOf(one.pieces), pieces: one.pieces };
    const { jumpers: drawn, left } = drawnJumpers(look, strip, standing);
    if (left > 0) {
      points.add({
        severity: "stop",
        kind: "too many jumpers",
        thing: "strip",
        of: strip.tag,
        text: `${left} jumpers of strip ${strip.tag} were not looked at: together they reach over too many members`,
        remedy: "Draw each jumper once, between the members it joins.",
      });
    }
    decide(members, drawn);
    checkMembers(strip, members, look, points);
    checkJumpers(strip, drawn, members, look, points);
    const items = itemsOf(one, members);
    const railMm = look.rails.get(strip.rail)?.length ?? null;
    const spares = sparesOf(members, look);
    const takenMm = railMm === null ? null : Math.max(0, even((used.get(strip.rail) ?? 0) - ownUse(one, look)));
    checkStrip(strip, { lengthMm, railMm, takenMm, spares, members }, look, shop.lineups, points);
    checkPrints(strip, members, shop.lineups.markerHolds, points);
    const there = new Set(members.map((m) => m.tag));
    const groups = (strip.groups ?? []).filter((g) => g.every((tag) => there.has(tag)));
    return {
      tag: strip.tag,
      rail: strip.rail,
      at: strip.at ?? null,
      items,
      lengthMm,
      railMm,
      takenMm,
      jumpers: drawn,
      proposed: proposedJumpers(look, standing, drawn),
      spares,
      groups,
      splitAfter: (strip.splitAfter ?? []).filter((tag) => there.has(tag)),
      orders: ordersOf(members, groups, landings.get(strip.tag) ?? []),
    };
  });
  checkPlaces(hung, look, points);
  checkSaid(strips, look, points);
  checkLibrary(strips, hung, points);
  checkCables(look, points);
  checkHomeless(look, new Set([...hung.values()].flatMap((h) => h.members.map((m) => m.tag))), points);
  return { strips, cables, spareWord: shop.lineups.spareWord, open: points.list() };
}

/** What the library has no part for is said once. */
function checkLibrary(strips: readonly StripPlan[], hung: ReadonlyMap<string, HungStrip>, points: OpenPoints): void {
  const say = (kind: string, of: string, text: string, remedy: string): void =>
    points.add({ severity: "note", kind, thing: "strip", of, text, remedy });
  const stopless = strips.filter((s) => s.items.some((i) => i.kind === "end stop" && i.part === null));
  if (stopless.length > 0)
    say(
      "no end stop",
      stopless[0]!.tag,
      `the ${stopless.length === 1 ? "strip gets" : `${stopless.length} strips get`} no end stops: the library has no part for them`,
      "Add a part that is an end stop.",
    );
  const places = [...hung.values()].reduce((sum, h) => sum + h.unseparated, 0);
  if (places > 0)
    say(
      "no separator",
      [...hung.values()].find((h) => h.unseparated > 0)!.strip.tag,
      `${places === 1 ? "a place gets" : `${places} places get`} no separator between terminals: the library has no part for it`,
      "Add a part that is a separator.",
    );
}

/** How much of each rail is taken, mm: by strips that are laid, and by devices that stand there by themselves. O(devices) */
function usedOnRails(look: Lookup, hung: ReadonlyMap<string, HungStrip>): Map<string, number> {
  const used = new Map<string, number>();
  const add = (rail: string, mm: number): void => void used.set(rail, (used.get(rail) ?? 0) + mm);
  const laid = new Set<string>();
  for (const { strip, members, lengthMm } of hung.values()) {
    if (strip.at === undefined) continue;
    add(strip.rail, lengthMm ?? 0);
    for (const m of members) laid.add(m.tag);
  }
  for (const device of look.devices.values())
    if (device.on?.rail !== undefined && !laid.has(device.tag)) add(device.on.rail, alongRail(device, look) ?? 0);
  return used;
}

/** What of it is the strip's own. */
const ownUse = ({ strip, members, lengthMm }: HungStrip, look: Lookup): number =>
  strip.at !== undefined
    ? (lengthMm ?? 0)
    : members.reduce((mm, m) => mm + (look.devices.get(m.tag)?.on?.rail === strip.rail ? (m.widthMm ?? 0) : 0), 0);

function sayTwice({ strip, twice }: HungStrip, points: OpenPoints): void {
  for (const { tag, other } of twice)
    points.add({
      severity: "stop",
      kind: "member twice",
      thing: "strip",
      of: strip.tag,
      text: `${tag} stands ${other === strip.tag ? `twice on strip ${strip.tag}` : `on strip ${other} and on strip ${strip.tag}`}; the first place counts`,
      remedy: "Take one of them away.",
    });
}

function sayUnplated({ strip, unplated }: HungStrip, points: OpenPoints): void {
  for (const tag of unplated)
    points.add({
      severity: "check",
      kind: "end plate without a part",
      thing: "device",
      of: tag,
      text: `${tag} on strip ${strip.tag} gets an end plate by hand, and its part names none of the library: it counts no width and is in no bill`,
      remedy: "Name the end plate with the part of the terminal, or take it off.",
    });
}

function memberOf(
  { tag, part, widthMm }: HungMember,
  position: number,
  strip: Strip,
  look: Lookup,
  connections: ReadonlyMap<string, readonly Connection[]>,
): Member {
  return {
    kind: "member",
    tag,
    position,
    part: part?.number ?? null,
    widthMm,
    levels: levelsOf(tag, part, strip, connections),
    print: own(strip.print, tag) ?? shortName(tag, strip.tag),
    ...(part?.terminal?.fuseMostA === undefined ? {} : { fuseA: look.devices.get(tag)!.fuseA ?? null }),
    ...(part?.terminal ? {} : { other: true }),
  };
}

/** Pieces in order of hanging on, and behind which member each accessory hangs. */
function itemsOf({ pieces }: HungStrip, members: readonly Member[]): (Member | Accessory)[] {
  let n = 0;
  return pieces.map(({ kind, part, widthMm, why, byHand }) =>
    kind === "member"
      ? members[n++]!
      : { kind, part, widthMm, why: why!, byHand: byHand ?? false, behind: members[n - 1]?.tag ?? null },
  );
}

/** What a marker shows of a tag: what comes after the tag of its strip, `3` of `-X2.3`. */
export const shortName = (tag: string, strip: string): string =>
  tag.startsWith(strip) && tag.length > strip.length ? tag.slice(strip.length).replace(/^[.:]/, "") : tag;

/** Clamps by channel; pins that state none are one channel. */
function levelsOf(
  tag: string,
  part: Part | undefined,
  strip: Strip,
  connections: ReadonlyMap<string, readonly Connection[]>,
): Level[] {
  const channels = new Map<string, Pin[]>();
  for (const pin of part?.pins ?? []) {
    const channel = pin.channel ?? "";
    const there = channels.get(channel);
    if (there) there.push(pin);
    else channels.set(channel, [pin]);
  }
  if (channels.size === 0) channels.set("", []);
  return [...channels]
    .sort(([a], [b]) => byText(a, b))
    .map(([, pins], i): Level => {
      const names = [...new Set(pins.map((p) => p.name))].sort(byText);
      const all = names.flatMap((pin) =>
        (connections.get(pinKey({ device: tag, pin })) ?? [])
          .map((c) => sided(c, strip.sides))
          .sort((a, b) => byText(a.conductor, b.conductor)),
      );
      const inside = all.filter((c) => c.side === "inside");
      // A core of which no net is told lies on the net of what it lands beside; behind a fuse another net begins.
      const counts = part?.terminal?.fuseMostA !== undefined && inside.some((c) => c.net !== null) ? inside : all;
      const nets = new Set(counts.flatMap((c) => c.net ?? []));
      return {
        level: i + 1,
        clamps: names,
        inside,
        outside: all.filter((c) => c.side === "outside"),
        undecided: null,
        net: nets.size === 1 ? [...nets][0]! : null,
      };
    });
}

function sided(c: Connection, sides: Strip["sides"]): Connection {
  const side = own(sides, c.conductor);
  return side === undefined ? c : { ...c, side, decided: true };
}

/**
 * Marks levels of which it is not known what lies on which side: an end in the field that nothing leads on from, and,
 * on a strip that leads into the field, two wires of which one must do so. A jumper leads on too.
 */
function decide(members: readonly Member[], jumpers: readonly Jumper[]): void {
  const byTag = new Map(members.map((m) => [m.tag, m]));
  const bridged = new Set(jumpers.flatMap((j) => j.members.map((tag) => levelOfRow(byTag.get(tag)!, j.row))));
  const used = members.flatMap((m) => m.levels).filter((l) => l.inside.length + l.outside.length > 0);
  const field = used.filter((l) => l.outside.length > 0).length * 2 > used.length;
  for (const level of used) {
    const { inside, outside } = level;
    const [first] = inside;
    if (outside.length > 0 && inside.length === 0 && !bridged.has(level) && !outside.some((c) => c.decided))
      level.undecided = "left open";
    else if (
      field &&
      outside.length === 0 &&
      inside.length === 2 &&
      inside[1]!.pin !== first!.pin &&
      !inside.some((c) => c.decided) &&
      !bridged.has(level)
    )
      level.undecided = "one of two";
  }
}

const UNDECIDED: Record<Exclude<Undecided, "too many">, { kind: string; text: string; remedy: string }> = {
  "left open": {
    kind: "side left open",
    text: "comes from the field, and nothing leads on into the panel",
    remedy: "Lead a wire to it, join it by a jumper, or say that it ends inside.",
  },
  "one of two": {
    kind: "side not known",
    text: "lie on one terminal of a strip that leads into the field; one of them should lead there",
    remedy: "Say which of them lies outside.",
  },
};

function checkMembers(strip: Strip, members: readonly Member[], look: Lookup, points: OpenPoints): void {
  for (const member of members) {
    const part = member.part === null ? undefined : look.parts.get(member.part);
    for (const level of member.levels) {
      const all = [...level.inside, ...level.outside];
      const landed = new Map<string, number>();
      for (const c of all) landed.set(c.pin, (landed.get(c.pin) ?? 0) + 1);
      const most = (clamp: string): number => (part && look.pin(part, clamp)?.conductors) ?? 1;
      // That is said by the intake; until it is settled nothing more is asked here.
      if ([...landed].some(([clamp, n]) => n > most(clamp))) level.undecided = "too many";
      const { undecided, level: n } = level;
      if (undecided !== null && undecided !== "too many") {
        const { kind, text, remedy } = UNDECIDED[undecided];
        const names = all.map((c) => c.conductor).sort(byText);
        points.add({
          severity: "check",
          kind,
          thing: "device",
          of: member.tag,
          text: `${listed(names)} ${member.levels.length > 1 ? `at level ${n} of` : "at"} ${member.tag} ${text}`,
          remedy,
          mend: sideMend(strip.tag, names, undecided === "left open" ? "inside" : "outside"),
        });
      }
    }
    if (!part?.terminal) continue;
    const { levels, fuseMostA } = part.terminal;
    if (levels > 1 && member.levels.length !== levels) {
      points.add({
        severity: "check",
        kind: "levels not known",
        thing: "part",
        of: part.number,
        text: `part ${part.number} has ${levels} levels, but its pins belong to ${member.levels.length === 1 ? "one channel" : `${member.levels.length} channels`}; inside and outside are told for these`,
        remedy: "State the channel of each pin: pins of one channel are joined inside the terminal.",
      });
    }
    if (fuseMostA !== undefined) checkFuse(member, fuseMostA, points);
    checkPlate(part, look, points);
  }
}

function checkPlate({ number, terminal }: Part, look: Lookup, points: OpenPoints): void {
  const { openSide, endPlate } = terminal!;
  if (openSide === undefined || openSide === "none" || (endPlate !== undefined && look.parts.has(endPlate))) return;
  points.add({
    severity: "check",
    kind: "no end plate",
    thing: "part",
    of: number,
    text: `part ${number} ${endPlate === undefined ? "has an open side and names no end plate" : `names end plate ${endPlate}, which is not in the library`}; strips of it have no length`,
    remedy: "Add the end plate to the library and name it in the part.",
  });
}

const sideMend = (strip: string, conductors: readonly string[], side: Side): Mend => ({
  label: side === "outside" ? "Say which lies outside" : "It ends inside",
  kind: "side of conductor",
  payload: conductors.length === 1 ? { strip, conductor: conductors[0], side } : { strip, side },
  asks: conductors.length === 1 ? [] : [choiceOf("conductor", "Wire or core", conductors)],
});

function checkJumpers(
  strip: Strip,
  jumpers: readonly Jumper[],
  members: readonly Member[],
  look: Lookup,
  points: OpenPoints,
): void {
  const byTag = new Map(members.map((m) => [m.tag, m]));
  const fault = (kind: string, j: Jumper, text: string, remedy: string): void =>
    points.add({
      severity: "stop",
      kind,
      thing: "strip",
      of: strip.tag,
      text: `the jumper from ${j.members[0]} to ${j.members[j.members.length - 1]} in row ${j.row} of ${strip.tag} ${text}`,
      remedy,
    });
  const last = new Map<number, { j: Jumper; end: number }>();
  for (const j of [...jumpers].sort(
    (a, b) => byTag.get(a.members[0]!)!.position - byTag.get(b.members[0]!)!.position,
  )) {
    const on = j.members.map((tag) => byTag.get(tag)!);
    const nets = new Set(on.map((m) => levelOfRow(m, j.row)?.net ?? null).filter((n) => n !== null));
    if (nets.size > 1)
      fault(
        "jumper over two nets",
        j,
        `joins ${listed([...nets].sort(byText))}`,
        "Take the members of other nets off it.",
      );
    if (j.misfit !== undefined)
      points.add({
        severity: "check",
        kind: "comb does not fit",
        thing: "strip",
        of: strip.tag,
        text: `the jumper from ${j.members[0]} to ${j.members[j.members.length - 1]} in row ${j.row} of ${strip.tag} has no comb: ${j.misfit}`,
        remedy:
          "Join the two sides by a wire and a comb each, put its members side by side, or add a comb that does to the library.",
      });
    const rows = on.filter((m) => {
      const part = m.part === null ? undefined : look.parts.get(m.part);
      return part?.terminal && part.terminal.jumperRows < j.row;
    });
    if (rows.length > 0)
      fault(
        "no such jumper row",
        j,
        `lies in a row that ${listed(rows.map((m) => m.tag))} ${rows.length === 1 ? "does" : "do"} not have`,
        "Take another row, or another terminal.",
      );
    const blocked = j.over.filter((tag) => !(look.parts.get(byTag.get(tag)?.part ?? "")?.terminal?.passes ?? false));
    if (blocked.length > 0)
      fault(
        "jumper cannot pass",
        j,
        `passes over ${listed(blocked)}, whose part does not allow it`,
        "Put its members side by side.",
      );
    const carries = j.part === null ? undefined : look.parts.get(j.part)?.jumper?.currentA;
    if (carries !== undefined && j.currentA !== null && j.currentA > carries)
      fault(
        "jumper too weak",
        j,
        `carries ${carries} A; net ${j.net} has ${j.currentA} A`,
        "Take a stronger comb, or feed the net at both ends.",
      );
    const before = last.get(j.row);
    const start = byTag.get(j.members[0]!)!.position;
    if (before && start <= before.end)
      fault(
        "jumpers in each other's way",
        j,
        `stands where the jumper from ${before.j.members[0]} already is`,
        "Put one of them into another row.",
      );
    const end = byTag.get(j.members[j.members.length - 1]!)!.position;
    if (!before || end > before.end) last.set(j.row, { j, end });
  }
}

function sparesOf(members: readonly Member[], look: Lookup): Spare[] {
  const spares = new Map<number | null, Spare>();
  for (const member of members) {
    const part = member.part === null ? undefined : look.parts.get(member.part);
    if (!part?.terminal) continue;
    const taken = new Set(member.levels.flatMap((l) => [...l.inside, ...l.outside].map((c) => c.pin)));
    for (const pin of new Set(member.levels.flatMap((l) => l.clamps))) {
      const size = look.pin(part, pin)?.sizeMax ?? null;
      const spare = spares.get(size) ?? { sizeMaxMm2: size, clamps: 0, free: 0 };
      spare.clamps++;
      if (!taken.has(pin)) spare.free++;
      spares.set(size, spare);
    }
  }
  return [...spares.values()].sort((a, b) => (a.sizeMaxMm2 ?? 0) - (b.sizeMaxMm2 ?? 0));
}

function checkStrip(
  strip: Strip,
  {
    lengthMm,
    railMm,
    takenMm,
    spares,
    members,
  }: Pick<StripPlan, "lengthMm" | "railMm" | "takenMm" | "spares"> & { members: readonly Member[] },
  look: Lookup,
  own: LineupRules,
  points: OpenPoints,
): void {
  const say = (severity: "stop" | "check" | "note", kind: string, text: string, remedy: string): void =>
    points.add({ severity, kind, thing: "strip", of: strip.tag, text: `strip ${strip.tag} ${text}`, remedy });
  if (lengthMm !== null && railMm !== null && lengthMm > railMm + TOUCHING_MM)
    say(
      "stop",
      "strip longer than its rail",
      `is ${lengthMm} mm long with its accessories; rail ${strip.rail} has ${railMm} mm`,
      "Take a longer rail, or split the strip.",
    );
  else if (lengthMm !== null && railMm !== null && lengthMm > railMm - takenMm! + TOUCHING_MM)
    say(
      "check",
      "no room on the rail",
      `is ${lengthMm} mm long with its accessories; ${even(lengthMm - railMm + takenMm!)} mm are missing on rail ${strip.rail}, of which others take ${takenMm} of ${railMm} mm`,
      "Take another rail, or make room.",
    );
  for (const { sizeMaxMm2, clamps, free } of spares) {
    const percent = (100 * free) / clamps;
    if (percent >= own.sparePercent) continue;
    say(
      "note",
      "few spare clamps",
      `has ${free} of ${clamps} clamps free${sizeMaxMm2 === null ? "" : ` for up to ${sizeMaxMm2} mm²`}; the shop wants ${own.sparePercent} %`,
      "Add a terminal, or let it stand.",
    );
  }
  const places = members.flatMap((m) => {
    const { on } = look.devices.get(m.tag)!;
    return on?.rail === strip.rail && on.x !== undefined ? [{ tag: m.tag, x: on.x }] : [];
  });
  const turned = strip.at !== undefined ? undefined : places.find((p, i) => i > 0 && p.x < places[i - 1]!.x);
  if (turned)
    say(
      "check",
      "order differs from the rail",
      `names ${places[places.indexOf(turned) - 1]!.tag} before ${turned.tag}, but on rail ${strip.rail} ${turned.tag} stands first`,
      "Put the strip in the order of the rail, or lay it on the rail: its members then stand where it says.",
    );
}
