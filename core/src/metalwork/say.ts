import { forFile, uniqueNames } from "../frame/file-out";
import type { MetalworkRules, ShopTool } from "./rules";
import type { Cut, Drilled, FaceWork, Origin } from "./result";

const NTH = (o: Origin): string =>
  o.thing === "face"
    ? `own hole ${o.nth}`
    : o.thing === "device"
      ? `hole ${o.nth} of ${o.of}`
      : `fixing ${o.nth} of ${o.thing} ${o.of}`;

/** `hole 2 of -U11`, `fixing 1 of rail R4`; of several that ask for one hole all. */
export const originText = (from: readonly Origin[]): string => from.map(NTH).join(" and ");

const r = (v: number): string => String(Math.round(v * 100) / 100);

/** Where a key points, as a person marks it out: `up`, else its angle from x counter-clockwise. */
export const pointing = (angle: number): string =>
  ({ 0: "right", 90: "up", 180: "left", 270: "down" })[((angle % 360) + 360) % 360] ?? `at ${r(angle)}°`;

/** `Ø 22.3, key to 24.1`, `M5`, `350 × 470, R 4` */
export function cutText(cut: Cut): string {
  switch (cut.kind) {
    case "round":
      return `Ø ${r(cut.d)}${cut.notch ? `, key to ${r(cut.notch.to)}, ${r(cut.notch.w)} wide, pointing ${pointing(cut.notch.angle)}` : ""}`;
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

/** How a sheet lies on its machine, from how it is drawn. */
export const TURN_TEXT: Record<FaceWork["turn"], string> = {
  0: "lying as drawn",
  90: "a quarter turn counter-clockwise",
  180: "end for end",
  270: "a quarter turn clockwise",
};

/** Where the zero of the machine lies: on a corner of the sheet, or so far from it along the axes of the machine. */
export const zeroText = ({ x, y }: { x: number; y: number }, corner: string): string =>
  x === 0 && y === 0
    ? `zero of the machine on its ${corner} corner as it lies`
    : `zero of the machine at X ${r(x)} Y ${r(y)} mm from its ${corner} corner as it lies`;

/** What somebody must know before a sheet is laid on a machine: line by line, for programs, drawings and DXF. */
export function setUpLines(
  work: Pick<
    FaceWork,
    "face" | "kind" | "seen" | "w" | "h" | "thicknessMm" | "material" | "machine" | "turn" | "setUps"
  >,
  rules: Pick<MetalworkRules, "machines">,
  heading: { job: string; revision: string },
  /** From one. */
  nth: number,
): string[] {
  const setUp = work.setUps[nth - 1];
  const machine = rules.machines.find((m) => m.name === work.machine);
  const sheet = `sheet ${r(work.w)} x ${r(work.h)} x ${work.thicknessMm === null ? "? (thickness not stated)" : r(work.thicknessMm)} mm, ${work.material ?? "material not stated"}`;
  return [
    `job ${heading.job}, revision ${heading.revision}`,
    `face ${work.face}, ${seenText(work)} up`,
    sheet,
    ...(machine && setUp
      ? [
          `machine ${machine.name}, set-up ${nth} of ${work.setUps.length}`,
          `sheet ${TURN_TEXT[work.turn]}`,
          zeroText(setUp.shift, machine.corner),
        ]
      : []),
  ];
}

/** Names of the files of faces by their ids, `holes-+A1-door`; two that would have one name are told apart by a number. */
export const fileNames = (faces: readonly Pick<Drilled, "face" | "enclosure" | "kind">[]): Map<string, string> => {
  const names = uniqueNames(faces.map(({ enclosure, kind }) => `holes-${forFile(enclosure)}-${kind}`));
  return new Map(faces.map(({ face }, i) => [face, names[i]!]));
};
