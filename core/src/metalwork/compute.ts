import { faceId } from "../design/geometry";
import { noLayout } from "../design/layout";
import { lookUp } from "../design/lookup";
import type { MetalworkRules } from "./rules";
import type { Design } from "../design/model";
import { OpenPoints } from "../design/open-points";
import { mapBy } from "../design/order";
import type { PanelResult } from "../panel/result";
import { barLists, piecesOf } from "./bars";
import { checkFrame, checkFace, checkLacks, checkLife, checkPatterns, checkThreads } from "./checks";
import { MOST_FULL_SHEETS, fullSheetsOf } from "./drawing-sizes";
import { entriesOf } from "./entries";
import { holesOf, MOST_HOLES, standOnFaces } from "./holes";
import { basisOf, machineOf, THICKNESS_MM } from "./on-machine";
import { planOf } from "./plan";
import type { Drilled, FaceWork, MetalworkResult } from "./result";
import { originText } from "./say";

/** Up to so many holes of a job short ways are searched for with all effort. */
const FULL_EFFORT = 8000;

/** What every face gets, checked, and in the order its machine makes it; bars; entries. */
export function compute(
  design: Design,
  rules: MetalworkRules,
  panel: PanelResult,
  progress: (share: number) => void = () => undefined,
): MetalworkResult {
  const points = new OpenPoints("metalwork");
  const look = lookUp(design);
  const { faces, unmade, stuck, beyond } = holesOf(look, panel, rules);
  const [device] = look.devices.keys();
  if (look.enclosures.size === 0 && device !== undefined)
    points.add(noLayout("device", device, "no sheet can be made"));
  for (const { from, why } of unmade)
    points.add({
      severity: "stop",
      kind: "hole cannot be made",
      thing: from.thing,
      of: from.of,
      text: `${originText([from])} is left out: ${why}`,
      remedy: "Correct the pattern of the part, or choose another way of making it.",
    });
  for (const { face, from, by } of stuck)
    points.add({
      severity: "check",
      kind: "fixing in the way",
      thing: from.thing,
      of: from.of,
      text: `${originText([from])} on ${face} meets ${by}, and within ${rules.asideMm} mm along its bar there is no free place`,
      remedy: "Move one of them, or let fixings step further aside in the shop's rules.",
    });
  if (beyond > 0)
    points.add({
      severity: "stop",
      kind: "too many holes",
      thing: "face",
      of: faces[faces.length - 1]!.face,
      text: `${beyond} holes beyond the first ${MOST_HOLES} are left out`,
      remedy: "Part the job.",
    });
  const overrides = mapBy(design.faces, (o) => faceId(o.enclosure, o.kind));
  const bodies = standOnFaces(panel);
  const holes = faces.reduce((sum, f) => sum + f.holes.length, 0);
  // In steps, so that one hole more or less does not begin every search anew.
  const effort = holes <= FULL_EFFORT ? 1 : Math.max(0.05, Math.round((FULL_EFFORT / holes) * 20) / 20);
  const worked = faces.map((drilled, i): FaceWork => {
    const here = bodies.get(drilled.face) ?? [];
    const own = overrides.get(drilled.face);
    checkFace(drilled, own?.keepOuts ?? [], here, rules, points);
    checkThreads(drilled, rules, points);
    const work = workOf(drilled, own?.machine ?? rules.machine, rules, effort);
    if (drilled.thicknessMm === null && work.setUps.length > 0)
      points.add({
        severity: "check",
        kind: "thickness not stated",
        thing: "face",
        of: drilled.face,
        text: `the sheet of ${drilled.face} states no thickness; its program and its minutes are for ${THICKNESS_MM} mm`,
        remedy: drilled.kind === "plate" ? "State it with the plate." : "State it with the sheet of the enclosure.",
      });
    checkLacks(work, points);
    checkLife(work, rules.tools, points);
    const full = fullSheetsOf(drilled);
    if (drilled.holes.length > 0 && full > MOST_FULL_SHEETS)
      points.add({
        severity: "note",
        kind: "too large for 1:1",
        thing: "face",
        of: drilled.face,
        text: `at 1:1 ${drilled.face} takes ${full} sheets of A4; more than ${MOST_FULL_SHEETS} are not drawn`,
        remedy: "Take its drawing to scale, or its DXF to a plotter.",
      });
    progress((i + 1) / faces.length);
    return work;
  });
  for (const [id, here] of bodies) {
    const face = look.faces.get(id);
    if (!face) continue;
    checkPatterns(face, here, look, points);
    checkFrame(face, look, here, rules, points);
  }
  for (const name of new Set(worked.flatMap((w) => (w.setUps.length > 0 && w.machine !== null ? [w.machine] : []))))
    if (rules.machines.find((m) => m.name === name)?.underMm === undefined)
      points.add({
        severity: "note",
        kind: "room below not stated",
        thing: "job",
        of: design.job.code,
        text: `${name} states no room under the sheet: how far tools come out below is not checked for it`,
        remedy: "State it with the machine in the shop.",
      });
  // The panel has no bar whose part is not in the library.
  const bars = barLists(piecesOf(look, panel, rules), (part) => look.parts.get(part)!.w, rules);
  for (const { kind, part, list, stockMm } of bars)
    for (const piece of list.tooLong)
      points.add({
        severity: "check",
        kind: "longer than its bar",
        thing: kind === "rail" ? "rail" : "duct",
        of: piece.of,
        text: `${piece.of} is ${piece.lengthMm} mm long; a bar of ${part} gives ${Math.max(0, stockMm - 2 * rules.trimMm)} mm`,
        remedy: "Part it in two, or buy longer bars.",
      });
  return { faces: worked, bars, entries: entriesOf(look, panel, rules, points), open: points.list() };
}

/** A face on its machine. */
export function workOf(drilled: Drilled, name: string, rules: MetalworkRules, effort = 1): FaceWork {
  const on = machineOf(name, rules);
  if (!on)
    return {
      ...drilled,
      machine: null,
      turn: 0,
      setUps: [],
      lacks: drilled.holes.map((h) => ({
        hole: h.number,
        kind: "no machine",
        why: `the shop has no machine ${name} with a control`,
      })),
    };
  const basis = { ...basisOf(drilled, on, rules), effort };
  return { ...drilled, machine: name, turn: basis.lie.turn, ...planOf(drilled.holes, basis) };
}
