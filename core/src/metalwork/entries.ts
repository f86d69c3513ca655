import { faceId, overlaps, type Face, type Rect } from "../design/geometry";
import { frameOfHole } from "../design/hole-frame";
import type { Lookup } from "../design/lookup";
import type { MetalworkRules } from "./rules";
import type { Cable, Part } from "../design/model";
import type { OpenPoints } from "../design/open-points";
import { byText, pushTo } from "../design/order";
import type { PanelResult } from "../panel/result";
import type { EntryPlan, ProposedGland } from "./result";

export type EntryRules = Pick<MetalworkRules, "spannerMm" | "spareGlandPercent" | "edgePlateMm">;

/** Threads of glands: metric, conduit, pipe. A frame, which has none of them, takes many cables; a gland takes one. */
const ENTRY_THREAD = /^(M|PG|NPT|G)\s?\d/i;
const single = (part: Part): boolean => part.gland !== undefined && ENTRY_THREAD.test(part.gland.thread);

/** Outer diameter of a cable: its own, or its part's; null where neither says it. */
const outerOf = (cable: Cable, look: Lookup): number | null =>
  cable.outer ?? look.parts.get(cable.type)?.cable?.outer ?? null;

/** The smallest gland of the library that grips a cable. */
function glandFor(outer: number, glands: readonly Part[]): Part | undefined {
  return glands.find((p) => p.gland!.cableMin <= outer && outer <= p.gland!.cableMax);
}

/** Glands that a cable names, at one end and at the other. */
const glandsOf = ({ gland, glandTo }: Cable): string[] => [gland, glandTo].flatMap((g) => g ?? []);

/** A place for glands: a face, and the part of it in which they go. */
interface EntryArea {
  face: Face;
  area: Rect;
  /** What no gland may stand on, on the whole face. */
  taken: Rect[];
}

/**
 * Glands for the cables of an enclosure that have none, and spare ones by rule: in its entry plates one after the other, else in its
 * base, clear of keep-outs, openings, devices, rails and ducts; row by row from the lower edge, the tallest first, as full as a row goes.
 * A cable between two enclosures has a gland at either end. O(cables + glands² · things on the face)
 */
export function entriesOf(look: Lookup, panel: PanelResult, rules: EntryRules, points: OpenPoints): EntryPlan[] {
  const library = [...look.parts.values()]
    .filter(single)
    .sort((a, b) => a.gland!.cableMax - b.gland!.cableMax || byText(a.number, b.number));
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  const enclosureAt = (tag: string): string | undefined => {
    const face = placed.get(tag)?.face;
    return face === undefined ? undefined : look.faces.get(face)?.enclosure;
  };
  const through = new Map<string, string[]>();
  const coming = new Map<string, Cable[]>();
  for (const cable of look.cables.values()) {
    const ends = new Set([cable.from, cable.to].filter((e) => e !== undefined && look.enclosures.has(e)) as string[]);
    for (const end of ends) pushTo(coming, end, cable);
    for (const tag of glandsOf(cable)) {
      pushTo(through, tag, cable.tag);
      const there = enclosureAt(tag);
      if (there === undefined || ends.size === 0 || ends.has(there)) continue;
      points.add({
        severity: "check",
        kind: "gland in another enclosure",
        thing: "cable",
        of: cable.tag,
        text: `${cable.tag} comes through ${tag}, which stands on ${placed.get(tag)!.face}; it leads to ${[...ends].join(" and ")}`,
        remedy: "Name a gland of the enclosure it comes into, or correct where it leads.",
      });
    }
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
  const areas = areasOf(look, panel, points);
  return [...look.enclosures.values()].flatMap((e): EntryPlan[] => {
    const cables = (coming.get(e.tag) ?? []).sort((a, b) => byText(a.tag, b.tag));
    const glands = glandsIn.get(e.tag) ?? [];
    if (cables.length === 0 && glands.length === 0) return [];
    const spare = glands
      .filter((d) => single(look.parts.get(d.part)!) && !through.has(d.tag))
      .map((d) => d.tag)
      .sort(byText);
    const bare = cables.filter((c) => !glandsOf(c).some((tag) => enclosureAt(tag) === e.tag));
    const here = areas.get(e.tag) ?? [];
    const without: EntryPlan["without"] = [];
    const wanted: WantedGland[] = [];
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
    const laid = laidIn(here, wanted, rules);
    const faces = here.length > 0 ? [...new Set(here.map((a) => a.face.id))] : [faceId(e.tag, "base")];
    const names = faces.join(" and ");
    for (const { cable } of laid.left)
      if (cable !== null)
        without.push({
          cable,
          why: here.length > 0 ? `${names} has no room left for its gland` : "it has no face for glands",
        });
    const spareLeft = laid.left.filter((g) => g.cable === null).length;
    if (spareLeft > 0)
      points.add({
        severity: "note",
        kind: "no room for spare glands",
        thing: "enclosure",
        of: e.tag,
        text: `${spareLeft} spare ${spareLeft === 1 ? "gland finds" : "glands find"} no room on ${names} of ${e.tag}`,
        remedy: "State a larger entry plate, or want fewer spare entries.",
      });
    for (const cable of bare) {
      const named = glandsOf(cable).filter((tag) => !placed.has(tag));
      points.add({
        severity: "note",
        kind: "cable without a gland",
        thing: "cable",
        of: cable.tag,
        text:
          named.length === 0
            ? `${cable.tag} comes into ${e.tag} without a gland`
            : `${cable.tag} comes into ${e.tag} through ${named.join(" and ")}, which stands on no face`,
        remedy: "Lay the proposed glands, or name one that is there.",
      });
    }
    return [
      {
        enclosure: e.tag,
        face: faces[0]!,
        faces,
        cables: cables.length,
        spare,
        proposed: laid.proposed,
        rows: laid.rows,
        without,
        spareWithout: spareLeft,
      },
    ];
  });
}

const mostOf = (parts: readonly Part[]): Part | undefined => {
  const counts = new Map<Part, number>();
  for (const p of parts) counts.set(p, (counts.get(p) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || byText(a[0].number, b[0].number))[0]?.[0];
};

/** The part of a rectangle that lies in another; null where none does. */
function common(a: Rect, b: Rect): Rect | null {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  const [w, h] = [Math.min(a.x + a.w, b.x + b.w) - x, Math.min(a.y + a.h, b.y + b.h) - y];
  return w > 0 && h > 0 ? { x, y, w, h } : null;
}

/** Entry plates of every enclosure, as far as they lie on their face; the whole base where none is stated. O(things on faces) */
function areasOf(look: Lookup, panel: PanelResult, points: OpenPoints): Map<string, EntryArea[]> {
  const there = new Map<string, Rect[]>();
  for (const d of panel.devices) if (d.carrier === null) pushTo(there, d.face, d.outline);
  for (const b of [...panel.rails, ...panel.ducts]) pushTo(there, b.face, b.outline);
  const areas = new Map<string, EntryArea[]>();
  const takenOn = new Map<string, Rect[]>();
  for (const o of look.design.faces) {
    const id = faceId(o.enclosure, o.kind);
    takenOn.set(id, [...(o.keepOuts ?? []), ...(o.holes ?? []).map(frameOfHole)]);
  }
  const areaOn = (face: Face, area: Rect): EntryArea => ({
    face,
    area,
    taken: [...(takenOn.get(face.id) ?? []), ...(there.get(face.id) ?? [])],
  });
  for (const o of look.design.faces) {
    const face = look.faces.get(faceId(o.enclosure, o.kind));
    if (!face) continue;
    for (const plate of o.entries ?? []) {
      const on = common(plate, { x: 0, y: 0, w: face.w, h: face.h });
      if (!on || on.w < plate.w - 1e-6 || on.h < plate.h - 1e-6)
        points.add({
          severity: "check",
          kind: "entry plate beyond its face",
          thing: "face",
          of: face.id,
          text: `the entry plate ${plate.text ?? ""} of ${plate.w} × ${plate.h} mm at ${plate.x}, ${plate.y} reaches beyond ${face.id} of ${face.w} × ${face.h} mm${on ? "; what lies on it is used" : ""}`.replace(
            "  ",
            " ",
          ),
          remedy: "Correct its place or its size.",
        });
      if (on) pushTo(areas, o.enclosure, areaOn(face, on));
    }
  }
  for (const e of look.enclosures.values()) {
    const base = look.faces.get(faceId(e.tag, "base"));
    const stated = look.design.faces.some((o) => o.enclosure === e.tag && (o.entries ?? []).length > 0);
    if (base && !stated) areas.set(e.tag, [areaOn(base, { x: 0, y: 0, w: base.w, h: base.h })]);
  }
  return areas;
}

interface WantedGland {
  part: Part;
  cable: string | null;
}

/** Rows from the lower edge of each plate up, plate after plate, the tallest first; what stands there already is left free. */
function laidIn(
  areas: readonly EntryArea[],
  wanted: readonly WantedGland[],
  { spannerMm, edgePlateMm }: EntryRules,
): { proposed: ProposedGland[]; rows: number; left: WantedGland[] } {
  let left = [...wanted].sort(
    (a, b) => b.part.h - a.part.h || b.part.w - a.part.w || byText(a.cable ?? "\uffff", b.cable ?? "\uffff"),
  );
  const proposed: ProposedGland[] = [];
  let rows = 0;
  // Plates may overlap: what is laid in one is taken in the next.
  const laidOn = new Map<string, Rect[]>();
  for (const { face, area, taken } of areas) {
    const inner = {
      x: area.x + edgePlateMm,
      y: area.y + edgePlateMm,
      right: area.x + area.w - edgePlateMm,
      top: area.y + area.h - edgePlateMm,
    };
    const obstacles = [...taken, ...(laidOn.get(face.id) ?? [])].filter((o) => overlaps(o, area, -spannerMm));
    const starts = [inner.y, ...obstacles.map((o) => o.y + o.h + spannerMm)];
    const tried = new Set<number>();
    while (left.length > 0) {
      const y = Math.min(...starts.filter((v) => v >= inner.y - 1e-9 && !tried.has(v)));
      if (!Number.isFinite(y) || y >= inner.top) break;
      tried.add(y);
      const row = rowAt(y, left, inner, obstacles, spannerMm);
      if (row.length === 0) continue;
      rows++;
      for (const { gland, x } of row) {
        const { part, cable } = gland;
        proposed.push({ part: part.number, cable, face: face.id, x, y });
        const rect = { x, y, w: part.w, h: part.h };
        obstacles.push(rect);
        pushTo(laidOn, face.id, rect);
      }
      const laid = new Set(row.map((r) => r.gland));
      left = left.filter((g) => !laid.has(g));
      starts.push(y + Math.max(...row.map((r) => r.gland.part.h)) + spannerMm);
    }
  }
  return { proposed, rows, left };
}

/** What of the wanted fits into one row: from its left, the tallest first, none over what stands there. */
function rowAt(
  y: number,
  wanted: readonly WantedGland[],
  { x: from, right, top }: { x: number; right: number; top: number },
  obstacles: readonly Rect[],
  gap: number,
): { gland: WantedGland; x: number }[] {
  const row: { gland: WantedGland; x: number }[] = [];
  const left = wanted.filter((g) => y + g.part.h <= top + 1e-9);
  let x = from;
  while (left.length > 0) {
    /** Where a gland may begin from here on: behind whatever is in its way. */
    const beginOf = ({ part }: WantedGland): number => {
      let at = x;
      for (;;) {
        const box = { x: at, y, w: part.w, h: part.h };
        const met = obstacles.filter((o) => overlaps(o, box, -gap + 1e-9));
        if (met.length === 0) return at;
        at = Math.max(...met.map((o) => o.x + o.w + gap));
        if (at + part.w > right + 1e-9) return Infinity;
      }
    };
    const next = left
      .map((gland, i) => ({ gland, i, x: beginOf(gland) }))
      .filter((g) => g.x + g.gland.part.w <= right + 1e-9)
      .sort((a, b) => a.x - b.x || a.i - b.i)[0];
    if (!next) break;
    row.push({ gland: next.gland, x: next.x });
    x = next.x + next.gland.part.w + gap;
    left.splice(next.i, 1);
  }
  return row;
}
