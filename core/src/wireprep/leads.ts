import { fitsSize } from "../wiring/conductors";
import { enclosureOf } from "../design/geometry";
import { landingCounts, type Colours } from "../wiring/landings";
import type { Lookup } from "../design/lookup";
import { Again } from "../frame/again";
import { listed, type NewPoint, type OpenPoints } from "../design/open-points";
import { byCount, pushTo, sortedByCount } from "../design/order";
import { parsePattern, writeLabel, type PatternPart, type Values } from "../design/pattern";
import type { LabelRow, PrepRules } from "./rules";
import { SIZE_TOLERANCE_MM2 } from "../design/tolerance";
import { pieceFor } from "../wiring/wire-ends";
import { wireTypes } from "../wiring/wire-types";
import type { PanelResult } from "../panel/result";
import { isFallback, type RoutesResult, type WireRoute } from "../routes/result";
import { chainsOf, partedAt, stringsOf } from "./chains";
import { workRank } from "./rank";
import type { Chain, Lead, LeadEnd, NotMade } from "./result";

export interface LeadsInput {
  look: Lookup;
  panel: PanelResult;
  routes: RoutesResult;
  colours: Colours;
}

export const labelFor = (sizeMm2: number, rows: readonly LabelRow[]): LabelRow =>
  rows.find((r) => fitsSize(r, { sizeMm2 })) ?? { on: "none", holds: 0 };

interface Patterns {
  from: readonly PatternPart[];
  to: readonly PatternPart[];
}

/** A lead, and what is to be told of its ends. */
interface Said {
  lead: Lead;
  points: NewPoint[];
  /** By what is to be told of them together. */
  wide: [what: string, at: string][];
  unstripped: [part: string, at: string][];
}

/** What was said of a wire as it stands, and in the colour it has; and of so many that follow each other, by the first of them. */
const saidOf = new Again<WireRoute, Said>();
const stretchOf = new Again<WireRoute, Said[]>();
const STRETCH = 128;
/** What all wires of a job have in common, for each computation of its routes. */
const groundOf = new Again<RoutesResult, object>();

/**
 * Every wire of the job as a lead with both ends, in the order of wires, and in chains; those that cannot be made yet with the reason, never with a
 * blank. O(wires + landings); what is said of a wire is looked up where routes, panel, devices, parts and rules are the very same
 */
export function leadsOf(
  { look, panel, routes, colours }: LeadsInput,
  rules: PrepRules,
  points: OpenPoints,
): { leads: readonly Lead[]; chains: Chain[]; notMade: NotMade[] } {
  const placed = new Map(panel.devices.map((d) => [d.tag, d.face]));
  const { design } = look;
  const patterns = patternsOf(rules, design.job.code, points);
  const leads: Lead[] = [];
  const notMade: NotMade[] = [];
  const untyped: string[] = [];
  const wide = new Map<string, { wire: string; at: string }[]>();
  const unstripped = new Map<string, string[]>();
  const typeOf = wireTypes(look);
  const landsAt = lazily(() => landingCounts(look));
  const setting = [panel, design.job.code, design.parts, design.devices, design.options, rules];
  const ground = groundOf.of(routes, setting, () => ({}));
  const sayer = lazily(() => sayLead({ look, placed, patterns, rank: workRank(panel) }, rules));
  const wires = routes.wires.filter((wire) => {
    if (wire.marks.includes("core")) return false;
    const why = lackOf(wire);
    if (why !== null) notMade.push({ wire: wire.id, why });
    return why === null;
  });
  for (let i = 0; i < wires.length; i += STRETCH) {
    const some = wires.slice(i, i + STRETCH);
    // Four things of each wire, one after the other; how many land where a twin ferrule goes on.
    const own: unknown[] = [];
    for (const wire of some) {
      const colour = colours.get(wire.id)?.value ?? null;
      const type = typeOf(wire.type, wire.sizeMm2!.value, colour);
      if (type === null) untyped.push(wire.id);
      const { endFrom, endTo, fromRef, toRef } = wire;
      own.push(
        colour,
        type,
        endFrom === "twin ferrule" ? landsAt()(fromRef!) : null,
        endTo === "twin ferrule" ? landsAt()(toRef!) : null,
      );
    }
    const said = stretchOf.of(some[0]!, [ground, ...some, ...own], () =>
      some.map((wire, n) => {
        const [colour, type, from, to] = own.slice(4 * n, 4 * n + 4) as [
          Lead["colour"],
          Lead["type"],
          number | null,
          number | null,
        ];
        return saidOf.of(wire, [ground, colour, type, from, to], () =>
          sayer()(wire, { colour, type, lands: { from, to } }),
        );
      }),
    );
    for (const { lead, points: told, wide: tight, unstripped: bare } of said) {
      leads.push(lead);
      for (const point of told) points.add(point);
      for (const [what, at] of tight) pushTo(wide, what, { wire: lead.wire, at });
      for (const [part, at] of bare) pushTo(unstripped, part, at);
    }
  }
  tellOpen(notMade, untyped, points);
  for (const [part, ends] of unstripped)
    points.add({
      severity: "check",
      kind: "strip length not stated",
      thing: "part",
      of: part,
      text: `nothing goes on ${ends.length === 1 ? "an end" : `${ends.length} ends`} at part ${part}, and its pins say no length to strip: ${listed([...new Set(ends)].sort(byCount))}; these leads go to the bench`,
      remedy: "State the strip length with the pins of the part.",
    });
  const paired = pairs(leads);
  const parted = parts(paired, rules);
  for (const [what, ends] of wide)
    points.add({
      severity: "check",
      kind: "too wide for the clamp",
      thing: "wire",
      of: ends[0]!.wire,
      text: `${what}: ${listed([...new Set(ends.map((e) => e.at))].sort(byCount))}`,
      remedy: "Lead one of the two wires elsewhere, or choose another part.",
    });
  return { ...parted, notMade };
}

/** Made when first asked for. */
function lazily<T extends object>(make: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= make());
}

interface Ground {
  look: Lookup;
  /** Face of every device that stands somewhere. */
  placed: ReadonlyMap<string, string>;
  patterns: Patterns;
  rank(bundle: string): number;
}

/** What of a wire does not stand in its route. */
interface Given extends Pick<Lead, "colour" | "type"> {
  /** How many conductors land where it gets a twin ferrule; null at other ends. */
  lands: { from: number | null; to: number | null };
}

/** Says of a wire what lead it is. */
const sayLead =
  ({ look, placed, patterns, rank }: Ground, rules: PrepRules) =>
  (wire: WireRoute, { colour, type, lands }: Given): Said => {
    const sizeMm2 = wire.sizeMm2!.value;
    const [from, to] = [wire.fromRef!, wire.toRef!];
    const enclosure = enclosureOf(placed.get(from.device) ?? placed.get(to.device) ?? "");
    const bundle = [from.device, to.device].sort((a, b) => compareRanks(rank(a), rank(b)) || byCount(a, b))[0]!;
    const told: Omit<Said, "lead"> = { points: [], wide: [], unstripped: [] };
    const say = (at: "from" | "to"): LeadEnd => {
      const [ref, far] = at === "from" ? [from, to] : [to, from];
      const { code } = look.design.job;
      const values = endValues({ wire: wire.id, net: wire.net, colour, sizeMm2, enclosure, bundle }, ref, far, code);
      const treatment = (at === "from" ? wire.endFrom : wire.endTo)!;
      const label = writeLabel(patterns[at], values);
      return endOf({ wire, ref, treatment, sizeMm2, label, lands: lands[at] }, look, rules, told);
    };
    const lead: Lead = {
      wire: wire.id,
      net: wire.net,
      colour,
      sizeMm2,
      strand: wire.strand,
      type,
      lengthMm: wire.lengthMm!,
      fallback: wire.marks.some(isFallback),
      from: say("from"),
      to: say("to"),
      enclosure,
      face: placed.get(bundle) ?? placed.get(from.device) ?? placed.get(to.device) ?? "",
      bundle,
    };
    return { lead, ...told };
  };

/** Ranks may both be beyond all: then neither comes first. */
const compareRanks = (a: number, b: number): number => (a === b ? 0 : a - b);

/** A lead whose twin ferrules are its own at one end or both. */
const aloneOf = new Again<Lead, Lead>();

/** A crimp is shared by two leads that both get a twin ferrule there; where the other one is a core, or gets something else, nobody shares. */
function pairs(leads: readonly Lead[]): Lead[] {
  const count = new Map<string, number>();
  for (const l of leads)
    for (const { shared } of [l.from, l.to]) if (shared !== null) count.set(shared, (count.get(shared) ?? 0) + 1);
  const alone = ({ shared }: LeadEnd): boolean => shared !== null && count.get(shared) !== 2;
  const by = (end: LeadEnd): LeadEnd =>
    alone(end)
      ? {
          ...end,
          shared: null,
          alone: `what lands beside it at ${end.shared} is no lead with a twin ferrule: a core of a cable, or an end that is treated otherwise`,
        }
      : end;
  return leads.map((l) =>
    alone(l.from) || alone(l.to)
      ? aloneOf.of(l, [alone(l.from), alone(l.to)], () => ({ ...l, from: by(l.from), to: by(l.to) }))
      : l,
  );
}

/** A lead whose twin ferrules the bench puts on, at one end or both. */
const partedOf = new Again<Lead, Lead>();

/** Strings of more leads than may hang together, parted where the bench puts the twin ferrule on. */
function parts(
  leads: readonly Lead[],
  { chainMost }: Pick<PrepRules, "chainMost">,
): { leads: readonly Lead[]; chains: Chain[] } {
  const parted = partedAt(stringsOf(leads), chainMost);
  if (parted.length === 0) return { leads, chains: chainsOf(leads) };
  const with_ = new Map(
    parted.flatMap(({ at, wires: [a, b] }) => [[`${at}\u0000${a}`, b] as const, [`${at}\u0000${b}`, a] as const]),
  );
  const other = ({ shared }: LeadEnd, { wire }: Lead): string | undefined =>
    shared === null ? undefined : with_.get(`${shared}\u0000${wire}`);
  const by = (end: LeadEnd, wire: string | undefined): LeadEnd =>
    wire === undefined
      ? end
      : {
          ...end,
          treatment: "bare",
          part: null,
          sleeve: null,
          shared: null,
          later: { at: end.shared!, with: wire, part: end.part },
        };
  const news = leads.map((l) => {
    const [from, to] = [other(l.from, l), other(l.to, l)];
    return from === undefined && to === undefined
      ? l
      : partedOf.of(l, [from, to], () => ({ ...l, from: by(l.from, from), to: by(l.to, to) }));
  });
  return { leads: news, chains: chainsOf(news) };
}

/** What fields of a pattern say at an end of a lead. */
export const endValues = (
  {
    wire,
    net,
    colour,
    sizeMm2,
    enclosure,
    bundle,
  }: Pick<Lead, "wire" | "net" | "colour" | "sizeMm2" | "enclosure" | "bundle">,
  here: { device: string; pin: string },
  there: { device: string; pin: string },
  job: string,
): Values => ({
  wire,
  net: net ?? "",
  colour: colour ?? "",
  size: String(sizeMm2),
  here: `${here.device}:${here.pin}`,
  device: here.device,
  pin: here.pin,
  there: `${there.device}:${there.pin}`,
  other: there.device,
  otherpin: there.pin,
  job,
  enclosure,
  bundle,
});

/** Why a wire is no lead yet; null where it is one. */
function lackOf(wire: WireRoute): string | null {
  if (!wire.fromRef || !wire.toRef) return "an end leads nowhere";
  if (!wire.sizeMm2) return "no cross-section is given";
  if (wire.lengthMm === null) return wire.noWay ?? "it has no length";
  if (wire.endFrom === null || wire.endTo === null) return "no rule says what goes on an end";
  return null;
}

interface EndAsked {
  wire: WireRoute;
  ref: { device: string; pin: string };
  treatment: LeadEnd["treatment"];
  sizeMm2: number;
  label: string;
  lands: number | null;
}

function endOf(
  { wire, ref, treatment, sizeMm2, label, lands }: EndAsked,
  look: Lookup,
  rules: PrepRules,
  { points, wide, unstripped }: Omit<Said, "lead">,
): LeadEnd {
  const device = look.devices.get(ref.device);
  const part = device && look.parts.get(device.part);
  const pin = part && look.pin(part, ref.pin);
  const at = `${ref.device}:${ref.pin}`;
  const piece = treatment === "bare" ? undefined : pieceFor(treatment, sizeMm2, rules.pieces);
  if (treatment !== "bare" && !piece)
    points.push({
      severity: "check",
      kind: "nothing for an end",
      thing: "wire",
      of: wire.id,
      text: `the shop has no ${treatment} for ${sizeMm2} mm², as at ${at} of wire ${wire.id}`,
      remedy: "Add a row to what goes on an end, or choose another treatment.",
    });
  if (piece?.needsMm2 !== undefined && pin?.sizeMax !== undefined && piece.needsMm2 > pin.sizeMax + SIZE_TOLERANCE_MM2)
    wide.push([`${piece.part} wants a clamp for ${piece.needsMm2} mm²; these take up to ${pin.sizeMax} mm²`, at]);
  if (pin?.clamp === "push-in" && treatment === "bare" && wire.strand === "fine")
    points.push({
      severity: "check",
      kind: "fine strands in a push-in clamp",
      thing: "wire",
      of: wire.id,
      text: `wire ${wire.id} has fine strands and nothing on its end; ${at} is pushed in`,
      remedy: "Give it a ferrule by a rule for ends.",
    });
  const [byPin, byPiece] = [pin?.strip ?? null, piece?.stripMm ?? null];
  const row = labelFor(sizeMm2, rules.labels);
  const said = row.on === "none" ? "" : label;
  if ([...said].length > row.holds)
    points.push({
      severity: "check",
      kind: "label too long",
      thing: "wire",
      of: wire.id,
      text: `"${said}" at ${at} of wire ${wire.id} has ${[...said].length} signs; a ${row.on} of ${sizeMm2} mm² holds ${row.holds}`,
      remedy: "Shorten the pattern of labels, or give such ends a longer label.",
    });
  const stripMm = byPin === null ? byPiece : byPiece === null ? byPin : Math.max(byPin, byPiece);
  if (treatment === "bare" && stripMm === null) unstripped.push([part?.number ?? "?", at]);
  const shares = treatment === "twin ferrule" && lands === 2;
  if (treatment === "twin ferrule" && lands !== 2)
    points.push({
      severity: "check",
      kind: "twin ferrule without a pair",
      thing: "wire",
      of: wire.id,
      text: `a rule puts a twin ferrule on wire ${wire.id} at ${at}, where ${lands === 1 ? "it lands alone" : `${lands} wires land`}: it is crimped by itself`,
      remedy: "Let the rule take pairs only, or lead wires so that two land there.",
    });
  return {
    device: ref.device,
    pin: ref.pin,
    treatment,
    part: piece?.part ?? null,
    sleeve: piece?.sleeve ?? null,
    stripMm,
    stripWhy:
      byPin !== null && byPiece !== null && byPin !== byPiece
        ? `the pin wants ${byPin} mm, ${piece!.part} wants ${byPiece} mm: the longer one is taken`
        : null,
    label: said,
    labelOn: row.on,
    shared: shares ? at : null,
    ...(treatment === "twin ferrule" && !shares
      ? { alone: lands === 1 ? "nothing else lands there" : `${lands} wires land there` }
      : {}),
  };
}

/** Patterns of the shop; one that cannot be read leaves labels empty, and is told. */
function patternsOf({ labelFrom, labelTo }: PrepRules, job: string, points: OpenPoints): Patterns {
  const read = (text: string, what: string): readonly PatternPart[] => {
    const parsed = parsePattern(text);
    if (parsed.ok) return parsed.parts;
    points.add({
      severity: "check",
      kind: "pattern of labels",
      thing: "job",
      of: job,
      text: `the pattern of labels where a lead ${what} cannot be read at sign ${parsed.at + 1}: ${parsed.reason}; these labels are empty`,
      remedy: "Correct it in the rules of the shop.",
    });
    return [];
  };
  return { from: read(labelFrom, "comes from"), to: read(labelTo, "goes to") };
}

function tellOpen(notMade: readonly NotMade[], typeless: readonly string[], points: OpenPoints): void {
  const untyped = sortedByCount(typeless);
  const byWhy = new Map<string, string[]>();
  for (const { wire, why } of notMade) pushTo(byWhy, why, wire);
  for (const [why, some] of byWhy) {
    const wires = sortedByCount(some);
    points.add({
      severity: "check",
      kind: "no lead yet",
      thing: "wire",
      of: wires[0]!,
      text: `${wires.length === 1 ? "1 wire is" : `${wires.length} wires are`} not made: ${why}: ${listed(wires)}`,
      remedy: "Settle it where the wire is routed; it is a lead then.",
    });
  }
  if (untyped.length > 0)
    points.add({
      severity: "note",
      kind: "lead without a wire type",
      thing: "wire",
      of: untyped[0]!,
      text: `${untyped.length} leads are cut from no wire of the library: ${listed(untyped)}`,
      remedy: "Put the type into the library, or name it with the wires.",
    });
}
