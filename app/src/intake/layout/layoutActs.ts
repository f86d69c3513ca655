import type { ArrivedDrawing } from "@gray-bench/contract/intake";
import type { FaceKind } from "@gray-bench/core/design/model";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { Box } from "@gray-bench/core/drawings/read";
import type { BarSaid, DrawingSaid, EnclosureSaid, Meaning, ViewSaid } from "@gray-bench/core/drawings/said";
import type { Said } from "../../queries/useArrival";

/** Changes what is said of one drawing of an arrival, counted from 1. */
export const withDrawing =
  (at: number, to: (said: DrawingSaid) => DrawingSaid) =>
  (said: Said): Said => ({
    ...said,
    drawings: said.drawings.map((d: ArrivedDrawing, i) => (i === at - 1 ? { ...d, said: to(d.said), by: null } : d)),
  });

/** What plates are usually made of: written in the form of an enclosure that is new, to be seen and changed there. */
const PLATE = { thickness: 3, material: "galvanised steel" } as const;

/** A region becomes a face; the enclosure it is of is known from then on. */
export const withView =
  (view: ViewSaid) =>
  (said: DrawingSaid): DrawingSaid => {
    const known = said.enclosures.find((e) => e.tag === view.enclosure) ?? {
      tag: view.enclosure,
      hinge: "left" as const,
    };
    const whole: EnclosureSaid = view.face === "plate" ? { ...PLATE, ...known } : known;
    const others = said.enclosures.filter((e) => e.tag !== view.enclosure);
    return { ...said, views: [...said.views, view], enclosures: [...others, whole] };
  };

/** A face is none any more; an enclosure that no face is of goes with it. */
export const withoutView =
  (at: number) =>
  (said: DrawingSaid): DrawingSaid => {
    const views = said.views.filter((_, i) => i !== at);
    const there = new Set(views.map((v) => v.enclosure));
    return { ...said, views, enclosures: said.enclosures.filter((e) => there.has(e.tag)) };
  };

export const withEnclosure =
  (tag: string, change: Partial<EnclosureSaid>) =>
  (said: DrawingSaid): DrawingSaid => ({
    ...said,
    enclosures: said.enclosures.map((e) => {
      if (e.tag !== tag) return e;
      const next = { ...e, ...change };
      // What is left empty is not said.
      return Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined)) as unknown as EnclosureSaid;
    }),
  });

export const withLayer =
  (layer: string, meaning: Meaning) =>
  (said: DrawingSaid): DrawingSaid => ({ ...said, layers: { ...said.layers, [layer]: meaning } });

export const withBar =
  (kind: BarSaid["kind"], across: number, part: string) =>
  (said: DrawingSaid): DrawingSaid => {
    const others = said.bars.filter((b) => b.kind !== kind || b.across !== across);
    return { ...said, bars: part.trim() === "" ? others : [...others, { kind, across, part: part.trim() }] };
  };

/** Ducts and rails by how wide they are drawn, the most frequent first. */
export function widthsOf({ views }: DrawingLook): { kind: BarSaid["kind"]; across: number; count: number }[] {
  const counts = new Map<string, { kind: BarSaid["kind"]; across: number; count: number }>();
  for (const { bars } of views)
    for (const { kind, across } of bars) {
      const rounded = Math.max(1, Math.round(across));
      const key = `${kind} ${rounded}`;
      const known = counts.get(key);
      if (known) known.count++;
      else counts.set(key, { kind, across: rounded, count: 1 });
    }
  return [...counts.values()].sort((a, b) => b.count - a.count || a.across - b.across);
}

const holds = (b: Box, x: number, y: number): boolean => x >= b.x && x <= b.x + b.w && y >= b.y && y <= b.y + b.h;

/**
 * The frame that a tap means: the smallest one around it that holds more than one tag, else the smallest; a further tap in the same
 * place the next larger one. Counted from 1.
 */
export function tappedFrame({ frames }: DrawingLook, x: number, y: number, now: number): number | null {
  const around = frames
    .map(({ box, tags }, i) => ({ at: i + 1, tags, area: box.w * box.h, box }))
    .filter(({ box }) => holds(box, x, y))
    .sort((a, b) => a.area - b.area);
  const shown = around.findIndex((f) => f.at === now);
  if (shown >= 0) return (around[shown + 1] ?? around[0]!).at;
  return (around.find((f) => f.tags > 1) ?? around[0])?.at ?? null;
}

/** The view, counted from 1, in which a point lies. */
export const tappedView = ({ views }: DrawingSaid, x: number, y: number): number =>
  views.findIndex(({ frame }) => holds(frame, x, y)) + 1;

/** What face a frame most likely is: the plate comes first. */
export const nextFace = ({ views }: DrawingSaid, enclosure: string): FaceKind =>
  views.some((v) => v.enclosure === enclosure && v.face === "plate") ? "door" : "plate";

export const sameBox = (a: Box, b: Box): boolean =>
  Math.abs(a.x - b.x) + Math.abs(a.y - b.y) + Math.abs(a.w - b.w) + Math.abs(a.h - b.h) < 1e-6 * (a.w + a.h);
