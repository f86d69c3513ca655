import type { KitRules, BuildWhere, ScrewMade } from "../design/kit-rules";
import { enclosureOf } from "../design/geometry";
import type { Colours } from "../design/landings";
import type { Lookup } from "../design/lookup";
import { OpenPoints } from "../design/open-points";
import { threadOfNut, threadThrough } from "../design/threads";
import { byText } from "../design/order";
import type { LineupsResult } from "../lineups/result";
import type { FaceHole, MetalworkResult } from "../metalwork/result";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { NOWHERE, type BillLine, type Unit } from "./result";

export interface BillInput {
  look: Lookup;
  panel: PanelResult;
  routes: RoutesResult;
  lineups: LineupsResult;
  metalwork: MetalworkResult;
  /** Of every wire, by its id. */
  colours: Colours;
}

interface Asked {
  enclosure: string;
  where: BuildWhere;
  part: string | null;
  /** Names what the library does not hold. */
  text: string;
  quantity: number;
  unit: Unit;
  tag: string;
  why: string;
}

/** Tenths of millimetres of wire: no sum loses anything to noise. */
const METRES = 10_000;

/**
 * Everything the job needs, summed by enclosure, step and part; each line with what asks for it. Options left out are not in it.
 * O(devices + pieces + wires + holes) and sorting
 */
export function billOf(
  { look, panel, routes, lineups, metalwork, colours }: BillInput,
  rules: KitRules,
  points: OpenPoints = new OpenPoints("kits"),
): BillLine[] {
  const asked: Asked[] = [];
  const ask = (one: Asked): void => void asked.push(one);
  const whereOf = (face: string): BuildWhere =>
    face.endsWith("/plate") ? "plate" : face.endsWith("/door") ? "door" : "other faces";
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  const members = new Set([...look.strips.values()].flatMap((s) => s.members));

  for (const device of look.devices.values()) {
    const there = placed.get(device.tag);
    ask({
      enclosure: there ? enclosureOf(there.face) : (device.enclosure ?? NOWHERE),
      where: !there ? "loose" : members.has(device.tag) ? "strips" : whereOf(there.face),
      part: device.part,
      text: there?.text ?? device.part,
      quantity: 1,
      unit: "pcs",
      tag: device.tag,
      why: there ? "devices" : "devices without a place",
    });
  }
  for (const piece of panel.hung)
    ask({
      enclosure: enclosureOf(piece.face),
      where: "strips",
      part: piece.part,
      text: piece.kind,
      quantity: 1,
      unit: "pcs",
      tag: piece.strip,
      why: `${piece.kind}s of strips`,
    });
  for (const strip of lineups.strips) {
    const rail = look.rails.get(strip.rail);
    const enclosure = rail ? enclosureOf(rail.face) : NOWHERE;
    for (const jumper of strip.jumpers) {
      if (jumper.part === null) continue;
      ask({
        enclosure,
        where: "strips",
        part: jumper.part,
        text: "jumper",
        quantity: 1,
        unit: "pcs",
        tag: strip.tag,
        why: "jumpers",
      });
    }
    const markers = strip.items.filter((i) => i.kind === "member").length;
    if (markers > 0)
      ask({
        enclosure,
        where: "strips",
        part: null,
        text: "marker",
        quantity: markers,
        unit: "pcs",
        tag: strip.tag,
        why: "a marker for each member",
      });
  }
  for (const [bars, why] of [
    [panel.rails, "rails as cut"],
    [panel.ducts, "ducts as cut, each with its cover"],
  ] as const)
    for (const bar of bars)
      ask({
        enclosure: enclosureOf(bar.face),
        where: whereOf(bar.face),
        part: bar.part,
        text: bar.part,
        quantity: bar.length / 1000,
        unit: "m",
        tag: bar.tag,
        why,
      });
  askWires(look, routes, colours, rules, placed, ask);
  askScrews(metalwork, rules, whereOf, ask, points);
  return summed(asked, look, rules);
}

/** Metres by type with waste, in the enclosure of the end they come from; what its ends are dressed with. */
function askWires(
  look: Lookup,
  routes: RoutesResult,
  colours: Colours,
  rules: KitRules,
  placed: ReadonlyMap<string, { face: string }>,
  ask: (one: Asked) => void,
): void {
  const articles = new Map(rules.ends.map((r) => [`${r.end}\u0000${r.sizeMm2}`, r.part]));
  const parts = [...look.parts.values()].filter((p) => p.category === "wire" && p.wire);
  for (const wire of routes.wires) {
    const colour = colours.get(wire.id)?.value;
    const ends = [wire.fromRef, wire.toRef].map((r) => (r ? placed.get(r.device)?.face : undefined));
    const face = ends.find((f) => f !== undefined);
    const enclosure = face === undefined ? NOWHERE : enclosureOf(face);
    const size = wire.sizeMm2?.value;
    const type =
      wire.type ??
      parts.find((p) => p.wire!.sizeMm2 === size && (colour === undefined || p.wire!.colour === colour))?.number ??
      null;
    const named = `wire ${size ?? "?"} mm² ${colour ?? "colour open"}`;
    if (wire.lengthMm !== null && !wire.marks.includes("core")) {
      ask({
        enclosure,
        where: "wiring",
        part: type,
        text: named,
        quantity: wire.lengthMm / 1000,
        unit: "m",
        tag: wire.id,
        why: "cut lengths",
      });
      const waste = (wire.lengthMm / 1000) * (rules.wireWastePercent / 100);
      if (waste > 0)
        ask({
          enclosure,
          where: "wiring",
          part: type,
          text: named,
          quantity: waste,
          unit: "m",
          tag: wire.id,
          why: `waste, ${rules.wireWastePercent} %`,
        });
    }
    for (const [end, at] of [
      [wire.endFrom, ends[0]],
      [wire.endTo, ends[1]],
    ] as const) {
      if (end === null || end === "bare" || size === undefined) continue;
      ask({
        enclosure: at === undefined ? enclosure : enclosureOf(at),
        where: "wiring",
        part: articles.get(`${end}\u0000${size}`) ?? null,
        text: `${end} ${size} mm²`,
        // Two wires share a twin ferrule.
        quantity: end === "twin ferrule" ? 0.5 : 1,
        unit: "pcs",
        tag: wire.id,
        why: `${end}s of wires`,
      });
    }
  }
}

/** How a hole for a screw is made, and for which thread; null for openings. */
export function screwOf({
  cut,
  from,
}: Pick<FaceHole, "cut" | "from">): { made: ScrewMade; thread: string | null } | null {
  const said = from[0]!.fixing;
  if (cut.kind === "mark") return { made: "marked", thread: null };
  if (cut.kind === "thread") return { made: "tapped", thread: cut.thread };
  if (cut.kind !== "round" || cut.notch || cut.d > SCREW_MOST_MM) return null;
  return {
    made: said === "rivet nut" ? "rivet nut" : "through",
    thread: said === "rivet nut" ? threadOfNut(cut.d) : threadThrough(cut.d),
  };
}

/** A hole beyond this is none for a screw. */
const SCREW_MOST_MM = 13;

function askScrews(
  { faces }: MetalworkResult,
  { screws }: KitRules,
  whereOf: (face: string) => BuildWhere,
  ask: (one: Asked) => void,
  points: OpenPoints,
): void {
  for (const { face, enclosure, holes } of faces)
    for (const hole of holes) {
      const first = hole.from[0]!;
      const screw = first.thing === "face" ? null : screwOf(hole);
      if (!screw) continue;
      const row = screws.find((r) => r.made === screw.made && (r.thread === undefined || r.thread === screw.thread));
      if (!row) {
        points.add({
          severity: "note",
          kind: "no screw for a hole",
          thing: first.thing,
          of: first.of,
          text: `the shop's table names no screw for ${screw.made} ${screw.thread ?? "holes"}, as for ${first.of} on ${face}`,
          remedy: "Add a row to what fixes what.",
        });
        continue;
      }
      for (const text of [row.screw, ...(row.also === undefined ? [] : [row.also])])
        ask({
          enclosure,
          where: whereOf(face),
          part: null,
          text,
          quantity: 1,
          unit: "pcs",
          tag: first.of,
          why: `${screw.made} ${screw.thread ?? ""}`.trim(),
        });
    }
}

function summed(asked: readonly Asked[], look: Lookup, rules: KitRules): BillLine[] {
  const stepOf = new Map(rules.steps.map((s) => [s.where, s.step]));
  // The first row of each counts.
  for (const s of [...rules.steps].reverse()) stepOf.set(s.where, s.step);
  const lines = new Map<string, BillLine & { byWhy: Map<string, { quantity: number; tags: Set<string> }> }>();
  for (const a of asked) {
    const step = stepOf.get(a.where) ?? a.where;
    const part = a.part === null ? undefined : look.parts.get(a.part);
    const key = `${a.enclosure}\u0000${step}\u0000${a.part ?? `\u0001${a.text}`}\u0000${a.unit}`;
    let line = lines.get(key);
    if (!line) {
      lines.set(
        key,
        (line = {
          enclosure: a.enclosure,
          step,
          part: a.part,
          maker: part?.maker ?? null,
          text: part?.text ?? a.text,
          quantity: 0,
          unit: a.unit,
          place: part?.stock?.place ?? null,
          pack: part?.stock?.pack ?? null,
          weightKg: part?.weightKg ?? null,
          tags: [],
          terms: [],
          byWhy: new Map(),
        }),
      );
    }
    const term = line.byWhy.get(a.why) ?? { quantity: 0, tags: new Set<string>() };
    term.quantity += a.quantity;
    term.tags.add(a.tag);
    line.byWhy.set(a.why, term);
  }
  const steps = [...new Set(rules.steps.map((s) => s.step))];
  return [...lines.values()]
    .map(({ byWhy, ...line }): BillLine => {
      const terms = [...byWhy].map(([text, t]) => ({
        text,
        quantity: Math.round(t.quantity * METRES) / METRES,
        tags: [...t.tags].sort(byText),
      }));
      const total = terms.reduce((sum, t) => sum + t.quantity, 0);
      return {
        ...line,
        terms,
        quantity: line.unit === "pcs" ? Math.ceil(total - 1e-9) : Math.round(total * METRES) / METRES,
        tags: [...new Set(terms.flatMap((t) => t.tags))].sort(byText),
      };
    })
    .sort(
      (a, b) =>
        byText(a.enclosure, b.enclosure) ||
        steps.indexOf(a.step) - steps.indexOf(b.step) ||
        byText(a.part ?? a.text, b.part ?? b.text),
    );
}
