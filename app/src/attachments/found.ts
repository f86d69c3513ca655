import type { AttachedPage, Attachment, JobFound } from "@gray-bench/contract/attachments";
import type { Box } from "@gray-bench/core/attachments/pages";
import type { Found, PlacedKind } from "@gray-bench/core/attachments/places";

/** A thumb, px. */
const THUMB = 44;

export const grown = ({ x, y, w, h }: Box, by: number): Box => ({ x: x - by, y: y - by, w: w + 2 * by, h: h + 2 * by });

/** The box nearest to a tap, no farther than a thumb is wide; of those under it the smallest. */
export function boxAt(boxes: readonly Box[], x: number, y: number, k: number): Box | null {
  let best: { box: Box; far: number } | null = null;
  for (const box of boxes) {
    const far = Math.hypot(Math.max(box.x - x, 0, x - box.x - box.w), Math.max(box.y - y, 0, y - box.y - box.h));
    if (far * k > THUMB / 2) continue;
    if (!best || far < best.far || (far === best.far && box.w * box.h < best.box.w * best.box.h)) best = { box, far };
  }
  return best?.box ?? null;
}

/** Around a place so much of the page is shown, in points: enough to see what stands beside it. */
const AROUND = 170;
export const shownAround = (box: Box): Box => grown(box, AROUND);

/** What stands on a page, each thing once, with all its places there. */
export interface OnPage {
  kind: PlacedKind;
  of: string;
  by: Found["by"];
  texts: string[];
  boxes: Box[];
}

const ORDER: readonly PlacedKind[] = ["device", "strip", "cable", "wire"];

/** In the order of their kinds; within one as they stand on the page. */
export function thingsOn(page: Pick<AttachedPage, "found">): OnPage[] {
  const things = new Map<string, OnPage>();
  for (const { kind, of, by, text, box } of page.found) {
    const key = `${kind} ${of}`;
    const there = things.get(key) ?? { kind, of, by, texts: [], boxes: [] };
    things.set(key, there);
    if (!there.texts.includes(text)) there.texts.push(text);
    there.boxes.push(box);
  }
  return [...things.values()].sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind));
}

/** By what a thing was found, where that is not its tag as the design has it. */
export function byText({ by, texts }: Pick<OnPage, "by" | "texts">): string {
  if (by === "tag" || by === "number") return "";
  return by === "net"
    ? `net ${texts.join(", ")}`
    : by === "short tag"
      ? `written ${texts.join(", ")}`
      : `${texts.join(", ")} in the row of its strip`;
}

/** Where a thing stands, with the names of its sheets and documents. */
export interface Standing {
  document: string;
  page: number;
  sheet: string;
  /** Of its document, where there are several. */
  name: string;
  /** Why it is told where the thing itself was not found there. */
  note: string;
}

export function standingOf(
  found: JobFound | undefined,
  attachments: readonly Attachment[],
  kind: PlacedKind,
  of: string,
): Standing[] {
  const thing = found?.things.find((t) => t.kind === kind && t.of === of);
  const several = (found?.documents.length ?? 0) > 1;
  return (thing?.at ?? []).map(({ document, page, by }) => ({
    document,
    page,
    sheet: found!.documents.find((d) => d.id === document)?.pages[page - 1]?.sheet || String(page),
    name: several ? (attachments.find((a) => a.id === document)?.name ?? "") : "",
    note: by === "the design" ? " (as the design says)" : by === "both ends" ? " (both its ends)" : "",
  }));
}
