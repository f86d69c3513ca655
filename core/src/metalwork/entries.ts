import { faceId, overlaps, type Face, type Rect } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { MetalworkRules } from "../design/metalwork-rules";
import type { Cable, Part } from "../design/model";
import type { OpenPoints } from "../design/open-points";
import { byText, pushTo } from "../design/order";
import type { PanelResult } from "../panel/result";
import { pack } from "../design/cuts";
import type { EntryPlan, ProposedGland } from "./result";

export type EntryRules = Pick<MetalworkRules, "spannerMm" | "spareGlandPercent" | "edgePlateMm">;

/** A frame takes many cables; a gland with a thread takes one. */
const single = (part: Part): boolean => part.gland !== undefined && part.gland.thread.startsWith("M");

/** Outer diameter of a cable: its own, or its part's; null where neither says it. */
const outerOf = (cable: Cable, look: Lookup): number | null =>
  cable.outer ?? look.parts.get(cable.type)?.cable?.outer ?? null;

/** The smallest gland of the library that grips a cable. */
function glandFor(outer: number, glands: readonly Part[]): Part | undefined {
  return glands.find((p) => p.gland!.cableMin <= outer && outer <= p.gland!.cableMax);
}

/**
 * Glands for the cables of an enclosure that have none, and spare ones by rule: in its entry plates, else in its base, in as
 * few rows as hold them, each row as wide as the plate. Of a cable between two enclosures the first end counts. O(cables + glands log glands)
 */
export function entriesOf(look: Lookup, panel: PanelResult, rules: EntryRules, points: OpenPoints): EntryPlan[] {
  const library = [...look.parts.values()]
    .filter(single)
    .sort((a, b) => a.gland!.cableMax - b.gland!.cableMax || byText(a.number, b.number));
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  const through = new Map<string, string[]>();
  const coming = new Map<string, Cable[]>();
  for (const cable of look.cables.values()) {
    const end = [cable.from, cable.to].find((e) => e !== undefined && look.enclosures.has(e));
    if (end !== undefined) pushTo(coming, end, cable);
    if (cable.gland === undefined) continue;
    pushTo(through, cable.gland, cable.tag);
  }
  for (const [tag, cables] of through) {
    const part = look.parts.get(look.devices.get(tag)?.part ?? "");
    if (part && single(part) && cables.length > 1)
      points.add({
        severity: "check",
        kind: "cables share a gland",
        thing: "device",
        of: tag,
        text: `${cables.length} cables come through ${tag}, which takes one: ${cables.sort(byText).join(", ")}`,
        remedy: "Give each its own gland.",
      });
  }
  const glandsIn = new Map<string, PanelResult["devices"]>();
  for (const d of panel.devices) {
    const face = look.parts.get(d.part)?.gland === undefined ? undefined : look.faces.get(d.face);
    if (face) pushTo(glandsIn, face.enclosure, d);
  }
  const plates = new Map<string, { face: Face; area: Rect }>();
  for (const o of look.design.faces) {
    const face = look.faces.get(faceId(o.enclosure, o.kind));
    const [area] = o.entries ?? [];
    if (face && area && !plates.has(o.enclosure)) plates.set(o.enclosure, { face, area });
  }
  return [...look.enclosures.values()].flatMap((e): EntryPlan[] => {
    const cables = (coming.get(e.tag) ?? []).sort((a, b) => byText(a.tag, b.tag));
    const glands = glandsIn.get(e.tag) ?? [];
    if (cables.length === 0 && glands.length === 0) return [];
    const spare = glands
      .filter((d) => single(look.parts.get(d.part)!) && !through.has(d.tag))
      .map((d) => d.tag)
      .sort(byText);
    const bare = cables.filter((c) => c.gland === undefined || !placed.has(c.gland));
    const { face, area } = plates.get(e.tag) ?? baseOf(e.tag, look);
    const without: EntryPlan["without"] = [];
    const wanted: { part: Part; cable: string | null }[] = [];
    for (const cable of bare) {
      const outer = outerOf(cable, look);
      const part = outer === null ? undefined : glandFor(outer, library);
      if (outer === null) without.push({ cable: cable.tag, why: "how thick it is is not known" });
      else if (!part) without.push({ cable: cable.tag, why: `no gland of the library grips ${outer} mm` });
      else wanted.push({ part, cable: cable.tag });
    }
    const wantedSpare = Math.max(0, Math.ceil((cables.length * rules.spareGlandPercent) / 100) - spare.length);
    const common = mostOf(wanted.map((w) => w.part)) ?? (cables.length > 0 ? library[0] : undefined);
    if (common && bare.length > 0) for (let i = 0; i < wantedSpare; i++) wanted.push({ part: common, cable: null });
    const taken = glands.filter((d) => d.face === face?.id).map((d) => d.outline);
    const laid = face ? laidIn(area, wanted, taken, rules) : { proposed: [], rows: 0, left: wanted };
    for (const { cable } of laid.left)
      if (cable !== null)
        without.push({ cable, why: face ? `${face.id} has no room left for its gland` : "it has no face for glands" });
    for (const cable of bare)
      points.add({
        severity: "note",
        kind: "cable without a gland",
        thing: "cable",
        of: cable.tag,
        text:
          cable.gland === undefined
            ? `${cable.tag} comes into ${e.tag} without a gland`
            : `${cable.tag} comes into ${e.tag} through ${cable.gland}, which stands on no face`,
        remedy: "Lay the proposed glands, or name one that is there.",
      });
    return [
      {
        enclosure: e.tag,
        face: face?.id ?? faceId(e.tag, "base"),
        cables: cables.length,
        spare,
        proposed: laid.proposed,
        rows: laid.rows,
        without,
      },
    ];
  });
}

const mostOf = (parts: readonly Part[]): Part | undefined => {
  const counts = new Map<Part, number>();
  for (const p of parts) counts.set(p, (counts.get(p) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || byText(a[0].number, b[0].number))[0]?.[0];
};

/** Where no entry plate is stated: the whole base. */
function baseOf(enclosure: string, look: Lookup): { face: Face | undefined; area: Rect } {
  const base = look.faces.get(faceId(enclosure, "base"));
  return { face: base, area: { x: 0, y: 0, w: base?.w ?? 0, h: base?.h ?? 0 } };
}

/** Rows from the lower edge of the plate up, the tallest first; what stands in it already keeps its rows. */
function laidIn(
  area: Rect,
  wanted: readonly { part: Part; cable: string | null }[],
  taken: readonly Rect[],
  { spannerMm, edgePlateMm }: EntryRules,
): { proposed: ProposedGland[]; rows: number; left: { part: Part; cable: string | null }[] } {
  const sorted = [...wanted].sort((a, b) => b.part.w - a.part.w || byText(a.cable ?? "\uffff", b.cable ?? "\uffff"));
  const room = area.w - 2 * edgePlateMm + spannerMm;
  const fitting = sorted.filter((g) => g.part.w + spannerMm <= room);
  const { bins } = pack(
    fitting.map((g) => g.part.w + spannerMm),
    room,
  );
  const rows = bins
    .map((bin) => bin.map((i) => fitting[i]!))
    .map((glands) => ({ glands, h: Math.max(...glands.map((g) => g.part.h)) }))
    .sort((a, b) => b.h - a.h);
  // What stands in the plate already leaves free bands above and below it.
  const bands = freeBands(area, taken, edgePlateMm, spannerMm);
  const proposed: ProposedGland[] = [];
  const left = sorted.filter((g) => g.part.w + spannerMm > room);
  let used = 0;
  for (const row of rows) {
    const band = bands.find((b) => b.to - b.from >= row.h - 1e-9);
    if (!band) {
      left.push(...row.glands);
      continue;
    }
    used++;
    let x = area.x + edgePlateMm;
    for (const { part, cable } of row.glands) {
      proposed.push({ part: part.number, cable, x, y: band.from });
      x += part.w + spannerMm;
    }
    band.from += row.h + spannerMm;
  }
  return { proposed, rows: used, left };
}

function freeBands(area: Rect, taken: readonly Rect[], edge: number, gap: number): { from: number; to: number }[] {
  let bands = [{ from: area.y + edge, to: area.y + area.h - edge }];
  // What stands beside the plate takes none of its rows.
  for (const t of taken.filter((o) => overlaps(o, area, -gap)))
    bands = bands.flatMap((b) =>
      t.y - gap >= b.to || t.y + t.h + gap <= b.from
        ? [b]
        : [
            { from: b.from, to: t.y - gap },
            { from: t.y + t.h + gap, to: b.to },
          ].filter((p) => p.to > p.from),
    );
  return bands.sort((a, b) => a.from - b.from);
}
