import { alongRail, piecesAt, type HungStrip } from "../design/hung";
import type { Lookup } from "../design/lookup";
import type { Strip } from "../design/model";
import { choiceOf, listed, type Mend, type OpenPoints } from "../design/open-points";
import { byText, pushTo, own } from "../design/order";
import { TOUCHING_MM } from "../design/tolerance";
import { membersOf, type Member, type StripPlan } from "./result";

const round = (mm: number): number => Math.round(mm * 100) / 100;

interface Reach {
  one: HungStrip;
  from: number;
  to: number;
}

/**
 * Strips that are laid: on their rails, clear of other strips and of what else stands there.
 * O(n log n) in the number of strips and devices.
 */
export function checkPlaces(all: ReadonlyMap<string, HungStrip>, look: Lookup, points: OpenPoints): void {
  const byRail = new Map<string, Reach[]>();
  const laid = new Set<string>();
  for (const one of all.values()) {
    const placed = piecesAt(one);
    const last = placed[placed.length - 1];
    if (!last) continue;
    for (const m of one.members) laid.add(m.tag);
    const reach = { one, from: placed[0]!.x, to: last.x + (last.piece.widthMm ?? 0) };
    pushTo(byRail, one.strip.rail, reach);
  }
  if (byRail.size === 0) return;
  const say = ({ strip }: HungStrip, kind: string, text: string, remedy: string, mend = true): void =>
    points.add({
      severity: "check",
      kind,
      thing: "strip",
      of: strip.tag,
      text: `strip ${strip.tag} ${text}`,
      remedy,
      ...(mend ? { mend: layAnew(strip) } : {}),
    });
  for (const reaches of byRail.values()) {
    reaches.sort((a, b) => a.from - b.from || byText(a.one.strip.tag, b.one.strip.tag));
    let far: Reach | null = null;
    for (const reach of reaches) {
      const { one, from, to } = reach;
      const { strip, members, lengthMm } = one;
      const unknown = members.find((m) => m.widthMm === null);
      if (unknown)
        say(
          one,
          "width not known",
          `is laid on ${strip.rail}, but ${unknown.tag} has no part with a width: those behind it stand where they say themselves`,
          "Give it a part of the library.",
          false,
        );
      const railMm = look.rails.get(strip.rail)?.length ?? null;
      const over = railMm === null ? 0 : Math.max(-from, to - railMm);
      if (over > TOUCHING_MM && (lengthMm ?? 0) <= railMm! + TOUCHING_MM)
        say(
          one,
          "strip off its rail",
          `reaches ${round(over)} mm beyond rail ${strip.rail}`,
          "Lay it at another place.",
        );
      if (far && Math.min(to, far.to) - from > TOUCHING_MM)
        say(
          one,
          "strips in each other",
          `and strip ${far.one.strip.tag} stand in each other on ${strip.rail} by ${round(Math.min(to, far.to) - from)} mm`,
          "Lay one of them at another place.",
        );
      if (!far || to > far.to) far = reach;
    }
  }
  const inside = new Map<HungStrip, string[]>();
  for (const device of look.devices.values()) {
    const reaches = byRail.get(device.on?.rail ?? "");
    const mm = alongRail(device, look);
    if (!reaches || mm === null || device.on?.x === undefined || laid.has(device.tag)) continue;
    const { x } = device.on;
    const to = x + mm;
    const hit = lastBefore(reaches, to);
    if (!hit || Math.min(hit.to, to) - Math.max(hit.from, x) <= TOUCHING_MM) continue;
    pushTo(inside, hit.one, device.tag);
  }
  for (const [one, tags] of inside)
    say(
      one,
      "device in the strip",
      `is laid on ${one.strip.rail} where ${listed(tags.sort(byText))} ${tags.length === 1 ? "stands" : "stand"}`,
      "Lay the strip at another place, or put the device on the strip.",
    );
}

/** The last strip that begins before a place. O(log n) */
function lastBefore(reaches: readonly Reach[], x: number): Reach | undefined {
  let [low, high] = [0, reaches.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (reaches[middle]!.from < x - TOUCHING_MM) low = middle + 1;
    else high = middle;
  }
  return reaches[low - 1];
}

const layAnew = ({ tag, rail, at }: Strip): Mend => ({
  label: "Lay it at another place",
  kind: "lay strip",
  payload: { strip: tag, rail },
  asks: [{ field: "at", label: "From the start of the rail", as: "length", ...(at === undefined ? {} : { now: at }) }],
});

/** Conductors by the strips on which they land. O(conductors) */
function landingStrips(plans: readonly StripPlan[]): Map<string, Set<string>> {
  const all = new Map<string, Set<string>>();
  for (const { tag, items } of plans)
    for (const m of items)
      for (const l of m.kind === "member" ? m.levels : [])
        for (const { conductor } of [...l.inside, ...l.outside]) {
          if (!all.has(conductor)) all.set(conductor, new Set());
          all.get(conductor)!.add(tag);
        }
  return all;
}

/** What was said of strips and fits them no more: until both agree. */
export function checkSaid(plans: readonly StripPlan[], look: Lookup, points: OpenPoints): void {
  const lands = landingStrips(plans);
  for (const plan of plans) {
    const strip = look.strips.get(plan.tag)!;
    checkOneSaid(strip, membersOf(plan), points, (conductor) => {
      const there = lands.get(conductor);
      // Parts of a strip that was split both keep the sides: what the other part says of it is enough.
      return (
        there !== undefined &&
        [...there].some((t) => t === strip.tag || own(look.strips.get(t)?.sides, conductor) !== undefined)
      );
    });
  }
}

function checkOneSaid(
  strip: Strip,
  members: readonly Member[],
  points: OpenPoints,
  said: (conductor: string) => boolean,
): void {
  const there = new Set(members.map((m) => m.tag));
  const forget = (what: string, text: string, remedy: string): void =>
    points.add({
      severity: "check",
      kind: "design and strip disagree",
      thing: "strip",
      of: strip.tag,
      text,
      remedy,
      mend: { label: "Forget what was said", kind: "forget", payload: { strip: strip.tag, of: what }, asks: [] },
    });
  for (const [conductor, side] of Object.entries(strip.sides ?? {}))
    if (!said(conductor))
      forget(
        conductor,
        `${conductor} is said to lie ${side} on strip ${strip.tag}, but does not land there`,
        "Lead it there again, or forget what was said.",
      );
  const named = new Map<string, string[]>();
  const name = (tag: string, what: string): void => {
    if (!there.has(tag)) pushTo(named, tag, what);
  };
  for (const tag of Object.keys(strip.print ?? {})) name(tag, "what its marker shows");
  for (const tag of strip.splitAfter ?? []) name(tag, "where the drawing is split");
  for (const tag of new Set((strip.groups ?? []).flat())) name(tag, "a group");
  for (const { behind } of strip.pieces ?? []) if (behind !== undefined) name(behind, "an accessory");
  for (const [tag, what] of named)
    forget(
      tag,
      `strip ${strip.tag} says something of ${tag}, which does not stand on it: ${[...new Set(what)].join(", ")}`,
      "Put it on the strip, or forget what was said.",
    );
}

/** Markers that show more than they hold. */
export function checkPrints(strip: Strip, members: readonly Member[], holds: number, points: OpenPoints): void {
  for (const m of members) {
    const length = [...m.print].length;
    if (length <= holds) continue;
    points.add({
      severity: "check",
      kind: "marker text too long",
      thing: "device",
      of: m.tag,
      text: `the marker of ${m.tag} shows "${m.print}": ${length} characters, and a marker holds ${holds}`,
      remedy: "Say something shorter.",
      mend: {
        label: "Say something shorter",
        kind: "print",
        payload: { strip: strip.tag, member: m.tag },
        asks: [{ field: "text", label: "Text", as: "text", now: m.print }],
      },
    });
  }
}

/** Terminals that go by the name of a strip and do not stand on it: what a new revision brought, or left behind. */
export function checkHomeless(look: Lookup, standing: ReadonlySet<string>, points: OpenPoints): void {
  if (look.strips.size === 0) return;
  for (const device of look.devices.values()) {
    if (standing.has(device.tag) || !look.parts.get(device.part)?.terminal) continue;
    const cut = Math.max(device.tag.lastIndexOf("."), device.tag.lastIndexOf(":"));
    const strip = device.tag.slice(0, Math.max(0, cut));
    if (!look.strips.has(strip)) continue;
    const members = look.strips.get(strip)!.members.filter((m) => standing.has(m));
    points.add({
      severity: "check",
      kind: "design and strip disagree",
      thing: "device",
      of: device.tag,
      text: `terminal ${device.tag} is named after strip ${strip}, which does not name it`,
      remedy: "Put it on the strip, or name it anew.",
      mend: {
        label: `Put it on ${strip}`,
        kind: "put on strip",
        payload: { strip, members: [device.tag] },
        asks: members.length === 0 ? [] : [choiceOf("behind", "Behind", members)],
      },
    });
  }
}
