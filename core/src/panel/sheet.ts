import type { Face, Point, Rect } from "../design/geometry";
import { groupBy } from "../design/grouped";
import { FACE_KINDS } from "../design/lists";
import type { PanelResult, PlacedDevice } from "./result";

/** A face laid out on the drawing sheet. Millimetres, y up. */
export interface SheetFace extends Rect {
  id: string;
  enclosure: string;
  kind: Face["kind"];
}

/** All faces of a job that carry anything, laid out side by side as if the enclosures were unfolded. */
export interface Sheet {
  w: number;
  h: number;
  faces: SheetFace[];
}

const GAP_MM = 90;
/** Room for a title between a face and the one below it. */
const BELOW_GAP_MM = 200;
const BLOCK_GAP_MM = 220;

/**
 * How faces are laid out. `unfolded`: per enclosure the plate with its door beside it, the other faces below.
 * `standing`: the plates of a row of enclosures as they stand side by side, then their doors, then the rest.
 */
export const ARRANGEMENTS = ["unfolded", "standing"] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];

export interface LayOut {
  arrangement?: Arrangement;
  /** These faces alone, side by side; all that carry anything when absent. */
  only?: ReadonlySet<string>;
  /** Width to height of the view: blocks go into as many rows as let them be drawn largest. One row when absent. */
  aspect?: number;
}

/** Faces that stay together, with their places from the lower left corner of the block. */
interface Block {
  w: number;
  h: number;
  faces: SheetFace[];
}

/**
 * Lays the faces out in blocks, and the blocks into rows. A door stands on the side it is hinged to, so that a
 * wire over the hinge has a short way on the sheet. O(faces + blocks²).
 */
export function layOut(
  panel: PanelResult,
  hinges: ReadonlyMap<string, "left" | "right">,
  { arrangement = "unfolded", only, aspect }: LayOut = {},
): Sheet {
  const used = new Set<string>();
  for (const t of [...panel.devices, ...panel.rails, ...panel.ducts]) used.add(t.face);
  const faces = panel.faces.filter((f) => (only ? only.has(f.id) : used.has(f.id) || f.kind === "plate"));
  const blocks = only
    ? faces.map((f) => block([at(f, 0, 0)]))
    : [...groupBy(faces, (f) => (arrangement === "standing" ? f.row : f.enclosure)).values()].flatMap((group) =>
        arrangement === "standing" ? standing(group) : [unfolded(group, hinges)],
      );
  const sheet = inRows(blocks, aspect);
  return { ...sheet, faces: inOrder(sheet.faces, panel.faces) };
}

/** By enclosure as the design has them, of each its plate, its door, then the others: wherever faces are listed. */
function inOrder<F extends Pick<Face, "enclosure" | "kind">>(faces: readonly F[], all: readonly Face[]): F[] {
  const enclosures = [...new Set(all.map((f) => f.enclosure))];
  const place = (f: F): number => enclosures.indexOf(f.enclosure) * FACE_KINDS.length + FACE_KINDS.indexOf(f.kind);
  return [...faces].sort((a, b) => place(a) - place(b));
}

const at = ({ id, enclosure, kind, w, h }: Face, x: number, y: number): SheetFace => ({
  id,
  enclosure,
  kind,
  x,
  y,
  w,
  h,
});

/** Faces as one block: moved so that its lower left corner is at nought. */
function block(faces: SheetFace[]): Block {
  const x = Math.min(...faces.map((f) => f.x));
  const y = Math.min(...faces.map((f) => f.y));
  return {
    w: Math.max(...faces.map((f) => f.x + f.w)) - x,
    h: Math.max(...faces.map((f) => f.y + f.h)) - y,
    faces: faces.map((f) => ({ ...f, x: f.x - x, y: f.y - y })),
  };
}

const isMain = (f: Face): boolean => f.kind === "plate" || f.kind === "door";

/** Faces side by side from a corner on. */
function beside(faces: readonly Face[], x: number, top: number | null): SheetFace[] {
  let right = x;
  return faces.map((f) => {
    const placed = at(f, right, top === null ? 0 : top - f.h);
    right += f.w + GAP_MM;
    return placed;
  });
}

function unfolded(faces: readonly Face[], hinges: ReadonlyMap<string, "left" | "right">): Block {
  const main = faces.filter(isMain);
  if (hinges.get(faces[0]!.enclosure) === "left") main.reverse();
  const others = faces.filter((f) => !isMain(f));
  return block([...beside(main, 0, null), ...beside(others, 0, -BELOW_GAP_MM)]);
}

/** A row of enclosures: what is seen with the doors open, the doors shut, and what else carries anything. */
function standing(faces: readonly Face[]): Block[] {
  const seen = (kind: Face["kind"]) => faces.filter((f) => f.kind === kind).map((f) => at(f, f.origin.x, f.origin.y));
  const others = beside(
    faces.filter((f) => !isMain(f)),
    0,
    null,
  );
  return [seen("plate"), seen("door"), others].filter((list) => list.length > 0).map(block);
}

/** Blocks from left to right, and in rows from above where that lets them be drawn larger. */
function inRows(blocks: readonly Block[], aspect: number | undefined): Sheet {
  let best: Sheet = { w: 0, h: 0, faces: [] };
  if (blocks.length === 0) return best;
  const widths = blocks.map((_, i) => blocks.slice(0, i + 1).reduce((sum, b) => sum + b.w + BLOCK_GAP_MM, 0));
  let largest = 0;
  for (const width of aspect === undefined ? [Infinity] : [...widths].reverse()) {
    const sheet = rowsOf(blocks, width);
    const scale = Math.min((aspect ?? 1) / sheet.w, 1 / sheet.h);
    if (scale <= largest) continue;
    largest = scale;
    best = sheet;
  }
  return best;
}

/** @param most width of a row with a gap behind each block; a wider block has a row of its own */
function rowsOf(blocks: readonly Block[], most: number): Sheet {
  const rows: Block[][] = [[]];
  let x = 0;
  for (const b of blocks) {
    if (x > 0 && x + b.w + BLOCK_GAP_MM > most) {
      rows.push([]);
      x = 0;
    }
    rows[rows.length - 1]!.push(b);
    x += b.w + BLOCK_GAP_MM;
  }
  const faces: SheetFace[] = [];
  let y = 0;
  for (const row of rows.reverse()) {
    let left = 0;
    for (const b of row) {
      faces.push(...b.faces.map((f) => ({ ...f, x: f.x + left, y: f.y + y })));
      left += b.w + BLOCK_GAP_MM;
    }
    y += Math.max(...row.map((b) => b.h)) + BELOW_GAP_MM;
  }
  return {
    w: Math.max(0, ...faces.map((f) => f.x + f.w)),
    h: Math.max(0, ...faces.map((f) => f.y + f.h)),
    faces,
  };
}

/** The topmost device of a face at a point; of two the smaller one. O(n). */
export function deviceAt(devices: readonly PlacedDevice[], face: string, p: Point): PlacedDevice | null {
  let best: PlacedDevice | null = null;
  for (const d of devices) {
    const o = d.outline;
    if (d.face !== face || p.x < o.x || p.x > o.x + o.w || p.y < o.y || p.y > o.y + o.h) continue;
    if (!best || o.w * o.h < best.outline.w * best.outline.h) best = d;
  }
  return best;
}
