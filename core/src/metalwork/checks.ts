import { pitchOf } from "../design/threads";
import { overlaps, type Face, type Rect } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { MetalworkRules, ShopTool } from "./rules";
import { Outlines } from "../solve/near";
import { choiceOf, listed, type Mend, type OpenPoints } from "../design/open-points";
import { pushTo } from "../design/order";
import type { PlacedDevice } from "../panel/result";
import { type Drilled, type FaceHole, type FaceWork, LACKS, type Lack } from "./result";
import { originText } from "./say";
import { fatOf, frameOf, rectFat, webOf } from "./shapes";

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
  work: Drilled,
  keepOuts: readonly (Rect & { text?: string | undefined })[],
  /** Devices that stand on the face itself. */
  bodies: readonly Pick<PlacedDevice, "tag" | "outline">[],
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
  const covers = new Outlines(bodies.map((b) => b.outline));
  const kept = new Outlines(keepOuts);
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
    for (const n of kept.touching(f, 0, MOST_NEAR)) {
      const k = keepOuts[n]!;
      if (overlaps(f, k) && webOf(fats[i]!, rectFat(k)) < EPS)
        say(
          "hole in a keep-out",
          hole,
          `${name(hole)} lies in a keep-out of ${work.face}${k.text ? ` (${k.text})` : ""}`,
          "Move it, or what it belongs to.",
        );
    }
    // What another body covers; what clips onto a rail comes later than the rail's screws.
    const own = new Set(hole.from.map((o) => o.of));
    for (const k of covers.touching(f, 0, MOST_NEAR)) {
      const b = bodies[k]!;
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

/** What stands on a door with its body behind it must pass the frame. O(bodies) */
export function checkFrame(
  { id, kind, w, h }: Face,
  look: Lookup,
  /** Devices that stand on the face itself. */
  bodies: readonly PlacedDevice[],
  { frameMm }: { frameMm: number },
  points: OpenPoints,
): void {
  if (kind !== "door") return;
  for (const d of bodies) {
    const back = look.parts.get(d.part)?.back;
    const across = d.turn === 90 || d.turn === 270;
    const [bw, bh] = back ? (across ? [back.h, back.w] : [back.w, back.h]) : [d.outline.w, d.outline.h];
    const behind: Rect = { x: d.centre.x - bw / 2, y: d.centre.y - bh / 2, w: bw, h: bh };
    const left = Math.min(behind.x, behind.y, w - behind.x - behind.w, h - behind.y - behind.h);
    if (left >= frameMm - EPS) continue;
    points.add({
      severity: "check",
      kind: "meets the frame",
      thing: "device",
      of: d.tag,
      text: `${d.tag} comes behind ${id} within ${mm(Math.max(0, left))} of its edge; the frame takes ${mm(frameMm)}, so that the door does not shut`,
      remedy: "Move it.",
    });
  }
}

/** What is offered where the pattern of a thing is to be made in another way. */
const madeOtherwise = (thing: string, of: string, choices: readonly string[]): Mend => ({
  label: `Make the screws of ${of} otherwise`,
  kind: "set fixing",
  payload: { things: [{ thing, of }] },
  asks: [choiceOf("fixing", "Made as", choices)],
});

const two = (v: number): string => String(Math.round(v * 100) / 100);

/** Threads of which a sheet holds too few turns, each thing and thread once. O(holes) */
export function checkThreads(
  { face, holes, thicknessMm, material }: Drilled,
  { threads, turns: rows }: Pick<MetalworkRules, "threads" | "turns">,
  points: OpenPoints,
): void {
  const least = rows.find((r) => r.material === undefined || r.material === material)?.turns;
  if (thicknessMm === null || least === undefined) return;
  const groups = new Map<string, { hole: FaceHole; thread: string; count: number }>();
  for (const hole of holes) {
    if (hole.cut.kind !== "thread") continue;
    const { thread } = hole.cut;
    const { thing, of } = hole.from[0]!;
    const key = JSON.stringify([thing, of, thread]);
    const known = groups.get(key);
    if (known) known.count++;
    else groups.set(key, { hole, thread, count: 1 });
  }
  for (const { hole, thread, count } of groups.values()) {
    const pitch = pitchOf(thread, threads);
    if (pitch === null || thicknessMm / pitch >= least - EPS) continue;
    const { thing, of } = hole.from[0]!;
    points.add({
      severity: "check",
      kind: "short thread",
      thing,
      of,
      text: `${count} × ${thread} of ${of} get ${two(thicknessMm / pitch)} turns in ${two(thicknessMm)} mm of ${face} (${material ?? "material not stated"}); ${two(least)} are the least`,
      remedy: "Rivet nuts, bolts through the sheet, or a thicker sheet.",
      ...(thing === "face" ? {} : { mend: madeOtherwise(thing, of, ["rivet nut", "through"]) }),
    });
  }
}

/** Devices that stand on a face, and whose part says neither opening nor screw: nothing is made for them. O(bodies) */
export function checkPatterns(
  { id }: Face,
  bodies: readonly Pick<PlacedDevice, "tag" | "part">[],
  look: Lookup,
  points: OpenPoints,
): void {
  for (const { tag, part } of bodies) {
    if ((look.parts.get(part)?.holes ?? []).length > 0) continue;
    if (look.devices.get(tag)?.fixing === "not drilled") continue;
    points.add({
      severity: "check",
      kind: "no hole pattern",
      thing: "device",
      of: tag,
      text: `${tag} stands on ${id}, and its part ${part} states no hole pattern: nothing is made for it`,
      remedy: "State openings and screws with the part, or say that nothing is drilled for it here.",
      mend: madeOtherwise("device", tag, ["not drilled"]),
    });
  }
}

const LACK_REMEDY: Record<Lack["kind"], string> = {
  "tool missing": "Add the tool to the shop's, or change the hole.",
  "corner too sharp": "Let the corner be rounder, or add a thinner mill to the shop's tools.",
  "sheet too thick": "Add a tool for such a sheet, or let another machine make it.",
  "in a clamp": "Move the clamp, or turn the sheet on another machine.",
  "off the machine": "Let a larger machine make it.",
  "beyond the sheet": "Move it, or what it belongs to.",
  "no room below": "Let another machine make it, or correct the room under the sheet of this one.",
  "sunk too deep": "Take a smaller head, a thicker sheet, or a screw with a flat head.",
  "no machine": "Name a machine of the shop's for this face, or add it with its control.",
};

/** What a machine cannot make, each reason once with all its holes. */
export function checkLacks({ face, lacks, holes }: FaceWork, points: OpenPoints): void {
  const byNumber = new Map(holes.map((h) => [h.number, h]));
  const groups = new Map<string, Lack[]>();
  for (const lack of lacks) pushTo(groups, `${LACKS.indexOf(lack.kind)} ${lack.why}`, lack);
  for (const group of groups.values()) {
    const { kind, why } = group[0]!;
    const named = group.map((l) => {
      const hole = byNumber.get(l.hole);
      return hole ? originText(hole.from) : `hole ${l.hole}`;
    });
    points.add({
      severity: "check",
      kind,
      thing: "face",
      of: face,
      text: `${listed(named, 4)} on ${face} ${group.length === 1 ? "is" : "are"} not in the program: ${why}`,
      remedy: LACK_REMEDY[kind],
    });
  }
}

/** Tools that wear out before a sheet is done. */
export function checkLife({ face, setUps }: FaceWork, tools: readonly ShopTool[], points: OpenPoints): void {
  const places = new Map<string, number>();
  for (const step of setUps.flatMap((s) => s.steps))
    places.set(step.tool, (places.get(step.tool) ?? 0) + step.operations.length);
  for (const { id, life } of tools) {
    const n = places.get(id);
    if (n === undefined || life === undefined || n <= life) continue;
    points.add({
      severity: "note",
      kind: "tool wears out",
      thing: "face",
      of: face,
      text: `${id} works ${n} places on ${face}; it lasts for ${life}`,
      remedy: "Have a second one ready.",
    });
  }
}
