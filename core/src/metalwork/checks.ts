import { overlaps, type Rect } from "../design/geometry";
import { Outlines } from "../design/near";
import type { OpenPoints } from "../design/open-points";
import type { PanelResult } from "../panel/result";
import { originText } from "./say";
import type { FaceHole, FaceWork } from "./result";
import { fatOf, frameOf, webOf } from "./shapes";

/** What is kept between cuts, and between cuts and the edge of a sheet. mm */
export interface CheckRules {
  edgePlateMm: number;
  edgeDoorMm: number;
  webMm: number;
}

const MOST_NEAR = 64;
const EPS = 1e-6;

const mm = (v: number): string => `${Math.round(v * 10) / 10} mm`;

/** What is wrong with the holes of a face, with millimetres. O(holes log holes + near pairs) */
export function checkFace(
  work: FaceWork,
  keepOuts: readonly (Rect & { text?: string | undefined })[],
  panel: PanelResult,
  rules: CheckRules,
  points: OpenPoints,
): void {
  const say = (kind: string, hole: FaceHole, text: string, remedy: string): void => {
    const { thing, of } = hole.from[0]!;
    points.add({ severity: "check", kind, thing, of, text, remedy });
  };
  const name = (hole: FaceHole): string => originText(hole.from);
  const edge = work.kind === "door" ? rules.edgeDoorMm : rules.edgePlateMm;
  const frames = work.holes.map((h) => frameOf(h.cut));
  const fats = work.holes.map((h) => fatOf(h.cut));
  const index = new Outlines(frames);
  const bodies = panel.devices.filter((d) => d.face === work.face && d.carrier === null);
  work.holes.forEach((hole, i) => {
    const f = frames[i]!;
    const left = Math.min(f.x, f.y, work.w - f.x - f.w, work.h - f.y - f.h);
    if (left < edge - EPS)
      say(
        left < 0 ? "hole beyond the sheet" : "near the edge",
        hole,
        left < 0
          ? `${name(hole)} reaches ${mm(-left)} beyond the edge of ${work.face}`
          : `${name(hole)} leaves ${mm(left)} to the edge of ${work.face}; ${mm(edge)} are to be kept`,
        "Move it, or what it belongs to.",
      );
    for (const j of index.touching(f, rules.webMm, MOST_NEAR)) {
      if (j <= i) continue;
      const web = webOf(fats[i]!, fats[j]!);
      if (web < rules.webMm - EPS)
        say(
          "thin web",
          hole,
          `${name(hole)} and ${name(work.holes[j]!)} on ${work.face} leave a web of ${mm(web)}; ${mm(rules.webMm)} are to be kept`,
          "Move one of them, or make one hole of both.",
        );
    }
    for (const k of keepOuts)
      if (overlaps(f, k) && webOf(fats[i]!, rectFat(k)) < EPS)
        say(
          "hole in a keep-out",
          hole,
          `${name(hole)} lies in a keep-out of ${work.face}${k.text ? ` (${k.text})` : ""}`,
          "Move it, or what it belongs to.",
        );
    // Screws of a device that another body covers; what clips onto a rail comes later than the rail's screws.
    if (hole.from.some((o) => o.thing === "device")) {
      const own = new Set(hole.from.map((o) => o.of));
      for (const b of bodies)
        if (!own.has(b.tag) && overlaps(f, b.outline))
          say(
            "under a body",
            hole,
            `${name(hole)} on ${work.face} lies under ${b.tag}: no screwdriver reaches it`,
            "Move one of them.",
          );
    }
  });
}

const rectFat = ({ x, y, w, h }: Rect) => fatOf({ kind: "rect", x, y, w, h, r: 0 });
