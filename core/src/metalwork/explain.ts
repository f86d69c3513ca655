import type { Design } from "../design/model";
import { lookUp } from "../design/lookup";
import type { MetalworkRules } from "./rules";
import type { Term, Working } from "../frame/working";
import type { PanelResult } from "../panel/result";
import { middleOf, mirrored } from "./shapes";
import { THICKNESS_MM } from "./on-machine";
import type { FaceHole, FaceWork, MetalworkResult, MetalworkSubject, Origin } from "./result";
import { cutText, originText, seenText } from "./say";
import { CORE_SOURCE, THROUGH_SOURCE } from "../design/threads";

const round = (v: number, digits = 2): number => Math.round(v * 10 ** digits) / 10 ** digits;

interface Basis {
  design: Design;
  rules: MetalworkRules;
  panel: PanelResult;
}

/** How a figure came to be: a hole's place, the minutes of a face, the bars of a part. Null when it is not there. */
export function explain(result: MetalworkResult, subject: MetalworkSubject, basis: Basis): Working | null {
  if (subject.of === "bars") {
    const list = result.bars.find((b) => b.kind === subject.kind && b.part === subject.part);
    return list ? barsWorking(list) : null;
  }
  const work = result.faces.find((f) => f.face === subject.face);
  if (!work) return null;
  if (subject.of === "minutes") return minutesWorking(work);
  const hole = work.holes.find((h) => h.number === subject.hole);
  return hole ? placeWorking(work, hole, subject.of, basis) : null;
}

/** Why a hole is just there: the datum, what it belongs to, its place in the pattern, the turn. */
function placeWorking(work: FaceWork, hole: FaceHole, axis: "x" | "y", basis: Basis): Working {
  const at = middleOf(hole.cut);
  const value = at[axis];
  const first = hole.from[0]!;
  const terms: Term[] = [
    {
      text: `datum: lower left corner of ${work.face}, seen from ${work.kind === "plate" ? "the front" : "outside"}`,
      value: 0,
    },
    ...placeTerms(first, axis, value, basis),
  ];
  for (const other of hole.from.slice(1))
    terms.push({
      text: "the same hole",
      detail: `also asked for by ${originText([other])}; holes within 0.2 mm are one`,
    });
  if (hole.cut.kind === "thread") terms.push({ text: "core hole", detail: cutText(hole.cut), source: CORE_SOURCE });
  if (first.fixing)
    terms.push({
      text: "made as",
      detail: first.fixing,
      source: first.fixing === "tapped" ? CORE_SOURCE : THROUGH_SOURCE,
    });
  if (work.seen === "inside")
    terms.push({
      text: `on the sheet, seen from ${seenText(work)}`,
      detail:
        axis === "x"
          ? `mirrored: ${round(work.w)} mm less ${round(value)} mm is ${round(middleOf(mirrored(hole.cut, work.w)).x)} mm`
          : "the same height",
    });
  return {
    title: `${axis} of hole ${hole.number} on ${work.face}: ${originText(hole.from)}`,
    unit: "mm",
    terms,
    total: round(value, 3),
  };
}

function placeTerms(from: Origin, axis: "x" | "y", value: number, { design, rules, panel }: Basis): Term[] {
  if (from.thing === "device") {
    const device = panel.devices.find((d) => d.tag === from.of);
    if (!device) return [{ text: from.of, value: round(value, 3) }];
    const middle = device.centre[axis];
    return [
      {
        text: `middle of ${from.of}`,
        value: round(middle, 3),
        ...(device.fallbacks.length > 0 ? { fallback: true } : {}),
        link: { thing: "device", of: from.of },
      },
      {
        text: `hole ${from.nth} of the pattern of ${device.part}, from the middle of its body`,
        value: round(value - middle, 3),
        detail: device.turn === 0 ? "not turned" : `turned by ${device.turn}° counter-clockwise`,
        link: { thing: "part", of: device.part },
      },
    ];
  }
  if (from.thing === "face") return [{ text: `own hole ${from.nth} of the face`, value: round(value, 3) }];
  const look = lookUp(design);
  const bar = from.thing === "rail" ? look.rails.get(from.of) : look.ducts.get(from.of);
  const placed = [...panel.rails, ...panel.ducts].find((b) => b.tag === from.of);
  if (!bar || !placed) return [{ text: from.of, value: round(value, 3) }];
  const along = (placed.run === "up") === (axis === "y");
  const start = axis === "x" ? placed.outline.x : placed.outline.y;
  const aside = along ? (from.asideMm ?? 0) : 0;
  const [end, most] = from.thing === "rail" ? [rules.railEndMm, rules.railMostMm] : [rules.ductEndMm, rules.ductMostMm];
  return [
    {
      text: `${from.thing} ${from.of} begins at`,
      value: round(start, 3),
      link: { thing: from.thing, of: from.of },
    },
    {
      text: along ? `fixing ${from.nth} along it` : "across it",
      value: round(value - start - aside, 3),
      detail: along
        ? `first and last ${end} mm from the end, no two further apart than ${most} mm; ${from.slot === undefined ? "free: no slot of its part is taken" : `at slot ${from.slot} of its part`}`
        : `${round(axis === "x" ? placed.outline.w : placed.outline.h)} mm wide`,
      source: "rule of the shop",
    },
    ...(aside === 0
      ? []
      : [
          {
            text: "steps aside",
            value: round(aside, 3),
            detail: `clear of what is in its way, no more than ${rules.asideMm} mm`,
            source: "rule of the shop",
          },
        ]),
  ];
}

function minutesWorking(work: FaceWork): Working {
  const total = work.setUps.reduce((sum, s) => sum + s.minutes, 0);
  const bound = work.setUps.reduce((sum, s) => sum + s.boundMinutes, 0);
  const list = work.setUps.reduce((sum, s) => sum + s.listMinutes, 0);
  const terms: Term[] = work.setUps.flatMap((setUp, i): Term[] => {
    const name = work.setUps.length > 1 ? `set-up ${i + 1}: ` : "";
    const atWork = setUp.steps.reduce((sum, s) => sum + s.workS, 0) / 60;
    const moves = setUp.steps.reduce((sum, s) => sum + s.moveMm, 0);
    const changes = setUp.steps.length;
    return [
      {
        text: `${name}at work in the sheet`,
        value: round(atWork),
        detail: setUp.steps.map((s) => `${s.tool}: ${s.operations.length} places, ${round(s.workS, 0)} s`).join("; "),
        ...(work.thicknessMm === null ? { fallback: true } : {}),
      },
      {
        text: `${name}moves and changes of tools`,
        value: round(setUp.minutes - atWork),
        detail: `${round(moves / 1000, 1)} m between places, ${changes} tools`,
        source: `machine ${work.machine ?? ""}`,
      },
    ];
  });
  if (work.thicknessMm === null)
    terms.push({ text: "thickness", detail: `not stated: taken as ${THICKNESS_MM} mm`, fallback: true });
  terms.push(
    {
      text: "no order takes less than",
      detail: `${round(bound)} min; this one is ${bound > 0 ? round(((total - bound) / bound) * 100, 1) : 0} % above`,
      source: "bound by one-trees (Held and Karp 1970)",
    },
    { text: "in the order of the list", detail: `${round(list)} min` },
  );
  return {
    title: `Minutes for ${work.face} on ${work.machine ?? "no machine"}`,
    unit: "min",
    terms,
    total: round(total),
  };
}

function barsWorking({ kind, part, stockMm, list }: MetalworkResult["bars"][number]): Working {
  const { fresh, bound, kerfMm, trimMm } = list;
  const back = list.bars.filter((b) => b.restMm >= list.keepMm).length;
  const lost = list.bars.reduce((sum, b) => sum + b.restMm, 0);
  return {
    title: `Bars of ${part} for ${kind === "cover" ? "covers" : `${kind}s`}`,
    unit: "",
    terms: [
      { text: "new bars", value: fresh, detail: `of ${stockMm} mm` },
      { text: "from the shelf", value: list.bars.length - fresh },
      {
        text: "each piece",
        detail: `its length and a cut of ${kerfMm} mm; ${trimMm} mm are trimmed off each end of a bar`,
        source: "rule of the shop",
      },
      {
        text: fresh <= bound ? "fewest, proved" : "gap",
        detail: `no way of cutting needs fewer than ${bound} new bars`,
        source: "bound L2 (Martello and Toth 1990)",
      },
      {
        text: "rests",
        detail: `${round(lost, 0)} mm in all; ${back} ${back === 1 ? "goes" : "go"} back to the shelf`,
      },
    ],
    total: list.bars.length,
  };
}
