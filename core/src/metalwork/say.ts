import { forFile } from "../design/file-out";
import type { ShopTool } from "../design/metalwork-rules";
import type { Cut, Drilled, Origin } from "./result";

const NTH = (o: Origin): string =>
  o.thing === "face"
    ? `own hole ${o.nth}`
    : o.thing === "device"
      ? `hole ${o.nth} of ${o.of}`
      : `fixing ${o.nth} of ${o.thing} ${o.of}`;

/** `hole 2 of -U11`, `fixing 1 of rail R4`; of several that ask for one hole all. */
export const originText = (from: readonly Origin[]): string => from.map(NTH).join(" and ");

const r = (v: number): string => String(Math.round(v * 100) / 100);

/** `Ø 22.3, key to 24.1`, `M5`, `350 × 470, R 4` */
export function cutText(cut: Cut): string {
  switch (cut.kind) {
    case "round":
      return `Ø ${r(cut.d)}${cut.notch ? `, key to ${r(cut.notch.to)}, ${r(cut.notch.w)} wide` : ""}`;
    case "thread":
      return `${cut.thread}, core Ø ${r(cut.d)}`;
    case "countersunk":
      return `Ø ${r(cut.d)}, countersunk to ${r(cut.head)}`;
    case "slot":
      return `slot ${r(cut.w)} × ${r(cut.h)}${cut.angle ? ` at ${r(cut.angle)}°` : ""}`;
    case "rect":
      return `${r(cut.w)} × ${r(cut.h)}${cut.r ? `, R ${r(cut.r)}` : ""}`;
    case "polygon":
      return `outline of ${cut.points.length} corners`;
    case "mark":
      return "mark only";
    case "knockout":
      return `knockout Ø ${r(cut.d)}`;
  }
}

/** `drill Ø 4.2`, `tap M5`, `punch 50 × 30`; a place without a tool by its own name. */
export function toolText(id: string, tools: readonly ShopTool[]): string {
  const t = tools.find((x) => x.id === id);
  if (!t) return id;
  if (t.kind === "tap") return `tap ${t.thread ?? ""}`;
  return t.kind === "punch" && t.h !== undefined ? `punch ${r(t.d)} × ${r(t.h)}` : `${t.kind} Ø ${r(t.d)}`;
}

/** Which side of a face is up. The front of a plate is the side that carries devices. */
export const seenText = ({ kind, seen }: Pick<Drilled, "kind" | "seen">): string =>
  kind === "plate" ? (seen === "outside" ? "front" : "back") : seen;

/** `holes-+A1-door` */
export const fileOf = ({ enclosure, kind }: Pick<Drilled, "enclosure" | "kind">): string =>
  `holes-${forFile(enclosure)}-${kind}`;
