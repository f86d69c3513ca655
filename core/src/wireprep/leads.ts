import { fitsSize } from "../design/conductors";
import { enclosureOf } from "../design/geometry";
import { landingsOf, pinKey, type Colours } from "../design/landings";
import type { Lookup } from "../design/lookup";
import { listed, type OpenPoints } from "../design/open-points";
import { byCount, byText, pushTo, sortedByCount } from "../design/order";
import { parsePattern, writeLabel, type PatternPart, type Values } from "../design/pattern";
import type { LabelRow, PrepRules } from "../design/prep-rules";
import type { Rules } from "../design/rules";
import { SIZE_TOLERANCE_MM2 } from "../design/tolerance";
import { pieceFor } from "../design/wire-ends";
import type { PanelResult } from "../panel/result";
import { isFallback, type RoutesResult, type WireRoute } from "../routes/result";
import type { Lead, LeadEnd, NotMade } from "./result";

export interface LeadsInput {
  look: Lookup;
  panel: PanelResult;
  routes: RoutesResult;
  colours: Colours;
  classes: Rules["classes"];
}

export const labelFor = (sizeMm2: number, rows: readonly LabelRow[]): LabelRow =>
  rows.find((r) => fitsSize(r, { sizeMm2 })) ?? { on: "none", holds: 0 };

interface Patterns {
  from: readonly PatternPart[];
  to: readonly PatternPart[];
}

/**
 * Every wire of the job as a lead with both ends, in the order of wires; those that cannot be made yet with the reason, never with a
 * blank. O(wires + landings)
 */
export function leadsOf(
  { look, panel, routes, colours, classes }: LeadsInput,
  rules: PrepRules,
  points: OpenPoints,
): { leads: Lead[]; notMade: NotMade[] } {
  const placed = new Map(panel.devices.map((d) => [d.tag, d.face]));
  const landings = landingsOf(look, classes);
  const patterns = patternsOf(rules, look.design.job.code, points);
  const leads: Lead[] = [];
  const notMade: NotMade[] = [];
  const untyped: string[] = [];
  const job = look.design.job.code;
  const wide = new Map<string, { wire: string; at: string }[]>();
  const types = new Map<string, string>();
  for (const p of [...look.parts.values()].sort((a, b) => byText(b.number, a.number)))
    if (p.wire) types.set(`${p.wire.sizeMm2} ${p.wire.colour ?? ""}`, p.number);
  for (const wire of routes.wires) {
    if (wire.marks.includes("core")) continue;
    const why = lackOf(wire);
    if (why !== null) {
      notMade.push({ wire: wire.id, why });
      continue;
    }
    const sizeMm2 = wire.sizeMm2!.value;
    const colour = colours.get(wire.id)?.value ?? null;
    const type = wire.type ?? types.get(`${sizeMm2} ${colour ?? ""}`) ?? types.get(`${sizeMm2} `) ?? null;
    if (type === null) untyped.push(wire.id);
    const [from, to] = [wire.fromRef!, wire.toRef!];
    const enclosure = enclosureOf(placed.get(from.device) ?? placed.get(to.device) ?? "");
    const bundle = [from.device, to.device].sort(byCount)[0]!;
    const say = (at: "from" | "to"): LeadEnd => {
      const [ref, far] = at === "from" ? [from, to] : [to, from];
      const values = endValues({ wire: wire.id, net: wire.net, colour, sizeMm2, enclosure, bundle }, ref, far, job);
      const treatment = (at === "from" ? wire.endFrom : wire.endTo)!;
      return endOf(
        { wire, ref, treatment, sizeMm2, label: writeLabel(patterns[at], values) },
        look,
        landings,
        rules,
        points,
        wide,
      );
    };
    leads.push({
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
    });
  }
  tellOpen(notMade, untyped, points);
  for (const [what, ends] of wide)
    points.add({
      severity: "check",
      kind: "too wide for the clamp",
      thing: "wire",
      of: ends[0]!.wire,
      text: `${what}: ${listed([...new Set(ends.map((e) => e.at))].sort(byCount))}`,
      remedy: "Lead one of the two wires elsewhere, or choose another part.",
    });
  return { leads, notMade };
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
}

function endOf(
  { wire, ref, treatment, sizeMm2, label }: EndAsked,
  look: Lookup,
  landings: ReturnType<typeof landingsOf>,
  rules: PrepRules,
  points: OpenPoints,
  wide: Map<string, { wire: string; at: string }[]>,
): LeadEnd {
  const device = look.devices.get(ref.device);
  const part = device && look.parts.get(device.part);
  const pin = part && look.pin(part, ref.pin);
  const at = `${ref.device}:${ref.pin}`;
  const piece = treatment === "bare" ? undefined : pieceFor(treatment, sizeMm2, rules.pieces);
  if (treatment !== "bare" && !piece)
    points.add({
      severity: "check",
      kind: "nothing for an end",
      thing: "wire",
      of: wire.id,
      text: `the shop has no ${treatment} for ${sizeMm2} mm², as at ${at} of wire ${wire.id}`,
      remedy: "Add a row to what goes on an end, or choose another treatment.",
    });
  if (piece?.needsMm2 !== undefined && pin?.sizeMax !== undefined && piece.needsMm2 > pin.sizeMax + SIZE_TOLERANCE_MM2)
    pushTo(wide, `${piece.part} wants a clamp for ${piece.needsMm2} mm²; these take up to ${pin.sizeMax} mm²`, {
      wire: wire.id,
      at,
    });
  if (pin?.clamp === "push-in" && treatment === "bare" && wire.strand === "fine")
    points.add({
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
  if ([...said].length > row.holds && row.on !== "none")
    points.add({
      severity: "check",
      kind: "label too long",
      thing: "wire",
      of: wire.id,
      text: `"${said}" at ${at} of wire ${wire.id} has ${[...said].length} signs; a ${row.on} of ${sizeMm2} mm² holds ${row.holds}`,
      remedy: "Shorten the pattern of labels, or give such ends a longer label.",
    });
  const stripMm = byPin === null ? byPiece : byPiece === null ? byPin : Math.max(byPin, byPiece);
  const lands = landings.get(pinKey(ref))?.conductors.length ?? 1;
  const shares = treatment === "twin ferrule" && lands === 2;
  if (treatment === "twin ferrule" && lands !== 2)
    points.add({
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
