import type { Origin, Resolved } from "../wiring/conductors";
import { coloursOf } from "../wiring/landings";
import type { Design } from "../design/model";
import type { RouteRules } from "./rules";
import type { RuleOverrides } from "../shop/rules";
import { LOOPS, OUTER_SOURCE, ownRoutes, ROUTE_RULES } from "./rules";
import { rulesFor, type Rules } from "../shop/rules";
import type { Term, Working } from "../frame/working";
import {
  isFallback,
  type CrossingEdge,
  MARKS,
  type Mark,
  type PieceEdge,
  type RoutesResult,
  type WireEnd,
  type WireRoute,
} from "./result";
import { stepsOf, wiresAtWorst, type Step } from "./way";

/** What was tapped. */
export type Subject =
  | { of: "length"; wire: string }
  | { of: "colour"; wire: string }
  | { of: "size"; wire: string }
  | { of: "fill"; piece: string };

/** The working of a number of this stage, or null when the thing is not in the result. */
export function explain(result: RoutesResult, subject: Subject, { design, shop }: Context): Working | null {
  const rules: Quoted = { ...rulesFor(shop, design.rules).routes, quote: quoteRules(design, shop) };
  if (subject.of === "fill") {
    const edge = result.edges.findIndex((e) => e.kind === "piece" && e.id === subject.piece);
    return edge < 0 ? null : explainFill(result, edge, rules);
  }
  const wire = result.wires.find((w) => w.id === subject.wire);
  if (!wire) return null;
  if (subject.of === "length") return explainLength(result, wire, rules);
  return subject.of === "colour"
    ? explainOrigin(`Colour of wire ${wire.id}`, coloursOf(design, shop.classes).get(wire.id) ?? null, "", wire)
    : explainOrigin(`Cross-section of wire ${wire.id}`, wire.sizeMm2, "mm2", wire);
}

/** Design and shop a result was computed from. */
export interface Context {
  design: Design;
  shop: Rules;
}

/** The rules that counted, and how each is quoted: its words, its value, and whose rule it is. */
type Quoted = RouteRules & { quote(key: keyof RouteRules): string };

const quoteRules =
  ({ rules: job }: Design, shop: Rules) =>
  (key: keyof RouteRules): string => {
    const note = ROUTE_RULES[key];
    const value = note.as === "number" ? ` ${rulesFor(shop, job).routes[key] as number} ${note.unit}` : "";
    return `${note.text}${value} (${routeRuleSource(key, shop, job)})`;
  };

const rule = (key: keyof RouteRules, rules: Quoted): string => rules.quote(key);

const CROSSES = { hinge: "over hinge", wall: "through wall", edge: "round edge" } as const;

/** Whether the way from a pin into its duct rests on this fallback: tails and diameters have terms of their own. */
const isEntryFallback = (m: Mark): boolean => isFallback(m) && m !== "no-tail" && m !== "outer-estimated";

/** Which row of the table places the pins of these ends, where one does. */
function placedBy(ends: readonly WireEnd[], rules: Quoted): Pick<Term, "source"> | undefined {
  const rows = [...new Set(ends.flatMap((e) => e.row ?? []))];
  if (rows.length === 0) return undefined;
  return { source: `pin placed by ${rows.map((r) => `row ${r}`).join(" and ")} of ${rule("pins", rules)}` };
}

function stepTerm(step: Step, wire: WireRoute, rules: Quoted): Term {
  switch (step.kind) {
    case "direct":
      return {
        text: `${step.goes} ${step.goes === "straight" ? "over the face" : `of ${step.past.join(", ")}`}, square distance`,
        value: step.mm,
        detail: bendsOf(wire),
        source: ["direct lead allowed by both parts; no longer than the way through ducts"]
          .concat(placedBy([wire.from!, wire.to!], rules)?.source ?? [])
          .join("; "),
        ...(wire.from!.marks.some(isEntryFallback) || wire.to!.marks.some(isEntryFallback) ? { fallback: true } : {}),
      };
    case "entry": {
      const end = step.end === "from" ? wire.from! : wire.to!;
      const word =
        step.end === "from"
          ? `${step.heading ?? "straight"} into ${step.duct}`
          : `${step.heading ?? "straight"} out of ${step.duct}`;
      const past = step.past.length > 0 ? `, past ${step.past.join(", ")}` : "";
      const round = `${step.round ? ", round the body" : ""}${past}`;
      return {
        text: `${end.device}:${end.pin} ${word}`,
        value: step.mm,
        detail: `${fmt(step.planeMm)} in the plane${round} + ${fmt(step.heightMm)} in height`,
        link: { thing: "device", of: end.device },
        ...placedBy([end], rules),
        ...(end.marks.some(isEntryFallback) ? { fallback: true } : {}),
      };
    }
    case "along":
      return {
        text: `${step.heading ?? ""} along ${step.duct}`.trim(),
        value: step.mm,
        detail:
          step.pieces.length === 1
            ? `piece ${step.pieces[0]}`
            : `pieces ${step.pieces[0]} to ${step.pieces[step.pieces.length - 1]}`,
        link: { thing: "piece", of: step.pieces[0]! },
      };
    case "joint":
      return {
        text: `step from ${step.ducts[0]} to ${step.ducts[1]}`,
        value: step.mm,
        detail: "reach extended square to the other centre line",
      };
    case "crossing":
      return {
        text: `${CROSSES[step.way]} ${step.tag}`,
        value: step.mm,
        detail: "guided way with its steps into the ducts",
        ...(wire.marks.includes("hinge-guessed") && step.way === "hinge" ? { fallback: true } : {}),
      };
  }
}

/** The bends of a direct lead as a person would lay it: heights count where it leaves the height of its pin. */
function bendsOf({ open }: WireRoute): string {
  const legs = open!.points.slice(1).map((p, i) => {
    const q = open!.points[i]!;
    const [dx, dy, dz] = [p.x - q.x, p.y - q.y, p.z - q.z];
    const [way, mm] = dx
      ? [dx > 0 ? "right" : "left", dx]
      : dy
        ? [dy > 0 ? "up" : "down", dy]
        : [dz > 0 ? "out" : "in", dz];
    return `${fmt(Math.abs(mm))} ${way}`;
  });
  return legs.join(", ");
}

const fmt = (mm: number): string => String(Math.round(mm * 1000) / 1000);

function explainLength(result: RoutesResult, wire: WireRoute, rules: Quoted): Working {
  const title = `Length of wire ${wire.id}`;
  const t = wire.terms;
  if (!t) {
    const why = wire.noWay ?? MARKS.core;
    return { title, unit: "mm", terms: [{ text: why }], total: null };
  }
  const terms: Term[] = stepsOf(result, wire)
    .filter((s) => s.kind !== "joint" || s.mm !== 0)
    .map((s) => stepTerm(s, wire, rules));
  if (t.loops > 0) terms.push(loopsTerm(result, wire, t.loops, rules));
  const tail = (end: WireEnd, mm: number): Term => ({
    text: `tail inside ${end.device}`,
    value: mm,
    detail: `from pin ${end.pin} to the end of the wire, stripped part included`,
    source: "part library",
    ...(end.marks.includes("no-tail") ? { fallback: true } : {}),
  });
  const slack = (end: WireEnd, mm: number): Term => ({
    text: `slack at ${end.device}`,
    value: mm,
    source: rule(end.onDoor ? "slackDoorMm" : "slackMm", rules),
  });
  terms.push(tail(wire.from!, t.tailFrom), tail(wire.to!, t.tailTo));
  terms.push(slack(wire.from!, t.slackFrom), slack(wire.to!, t.slackTo));
  const wide = (end: WireEnd, mm: number): Term => ({
    text: `width of the duct at ${end.device}`,
    value: mm,
    detail: "half of what the duct is wider inside: the wire may lie against the far wall",
    source: rule("wideFromMm", rules),
  });
  if (t.wideFrom > 0) terms.push(wide(wire.from!, t.wideFrom));
  if (t.wideTo > 0) terms.push(wide(wire.to!, t.wideTo));
  const bend = (end: WireEnd, mm: number): Term => ({
    text: `bending at ${end.device}`,
    value: mm,
    detail: `${rules.bendDiameters} × ${wire.outerMm} mm outer diameter, from ${rules.bendFromMm2} mm²`,
    source: rule("bendDiameters", rules),
  });
  if (t.bendFrom > 0) terms.push(bend(wire.from!, t.bendFrom), bend(wire.to!, t.bendTo));
  if (t.reserve !== 0) terms.push({ text: "reserve", value: t.reserve, source: rule("reservePercent", rules) });
  if (t.raise > 0)
    terms.push({
      text: "raised to the shortest lead",
      value: t.raise,
      source: rule("shortestLeadMm", rules),
    });
  terms.push({ text: "rounded up", value: t.rounding, source: rule("stepMm", rules) });
  if (wire.shortestMm !== null) {
    const why = wire.marks.includes("detour-fill") ? MARKS["detour-fill"] : MARKS["detour-class"];
    terms.push({
      text: why,
      detail: `from pin to pin with loops the shortest way takes ${fmt(wire.shortestMm)} mm; this one ${fmt(t.entryFrom + t.way + t.entryTo + t.loops)} mm`,
      source: wire.marks.includes("detour-fill") ? rule("fillLimitPercent", rules) : ROUTE_RULES.apart.text,
    });
  }
  return { title, unit: "mm", terms, total: wire.lengthMm };
}

/** Loops of the crossings on the way, each with its own figure or its rule. */
function loopsTerm(result: RoutesResult, wire: WireRoute, mm: number, rules: Quoted): Term {
  const crossed = wire.way!.edges.flatMap((e) => {
    const edge = result.edges[e]!;
    return edge.kind === "crossing" && edge.loopMm > 0 ? [edge] : [];
  });
  const byRule = [...new Set(crossed.map((c) => LOOPS[c.way]))].map((key) => rule(key, rules));
  return {
    text: "loops at crossings",
    value: mm,
    detail: crossed.map((c) => `${c.tag} ${fmt(c.loopMm)} mm${swingText(c)}`).join(", "),
    ...(crossed.some((c) => c.swing?.sideGuessed) ? { fallback: true } : {}),
    source: `the crossing's own figure, else ${byRule.join(", ")}`,
  };
}

/** What a loop over a hinge is made of: what the swing needs less what is guided, and the shop's figure on top. */
function swingText({ swing }: CrossingEdge): string {
  if (!swing || swing.onTopMm === null) return "";
  const lacks = Math.max(0, swing.needMm - swing.guidedMm);
  return ` (${fmt(swing.needMm)} needed at ${fmt(swing.atDeg)}° less ${fmt(swing.guidedMm)} guided = ${fmt(lacks)}, and ${fmt(swing.onTopMm)} on top)`;
}

const ORIGINS: Record<Origin, string> = {
  wire: "given on the wire itself",
  net: "given on its net",
  "job class": "rule of the job for its class",
  "shop class": "rule of the shop for its class",
  "wire type": "stated by its wire type",
};

function explainOrigin(
  title: string,
  found: Resolved<string | number> | null,
  unit: Working["unit"],
  wire: WireRoute,
): Working {
  const order: Origin[] = ["wire", "net", "job class", "shop class", "wire type"];
  const until = found ? order.indexOf(found.origin) : order.length;
  const terms: Term[] = order.slice(0, until).map((o) => ({ text: `not ${ORIGINS[o].replace(/^rule/, "by a rule")}` }));
  if (found) {
    const where: Record<Origin, string | null> = {
      wire: wire.id,
      net: wire.net,
      "job class": wire.class,
      "shop class": wire.class,
      "wire type": wire.type,
    };
    terms.push({ text: `${ORIGINS[found.origin]}: ${where[found.origin]}` });
  }
  return { title, unit, terms, total: found?.value ?? null };
}

function explainFill(result: RoutesResult, edge: number, rules: Quoted): Working {
  const piece = result.edges[edge] as PieceEdge;
  const groups = new Map<number, { count: number; outer: number }>();
  for (const w of wiresAtWorst(result, edge)) {
    const outer = w.outerMm ?? 0;
    const g = groups.get(outer) ?? { count: 0, outer };
    g.count++;
    groups.set(outer, g);
  }
  const terms: Term[] = [...groups.values()]
    .sort((a, b) => b.outer - a.outer)
    .map(({ count, outer }) => {
      const wires = `${count} ${count === 1 ? "wire" : "wires"}`;
      return outer === 0
        ? { text: `${wires} without a cross-section`, value: 0, detail: "counted as nothing", fallback: true }
        : {
            text: `${wires} of ${outer} mm diameter`,
            value: piece.insideMm2 === 0 ? 0 : (count * (Math.PI / 4) * outer * outer * 100) / piece.insideMm2,
            detail: `${count} × π/4 · ${outer}² = ${fmt(count * (Math.PI / 4) * outer * outer)} mm²`,
            source: OUTER_SOURCE,
          };
    });
  if (piece.worst) {
    const { fromMm, toMm, wires } = piece.worst;
    terms.push({
      text: `at its worst place, ${fmt(fromMm)} to ${fmt(toMm)} mm from the start of ${piece.duct}`,
      detail: `${wires} of the ${piece.wires} wires in this piece lie there`,
    });
  }
  terms.push({ text: `inside of ${piece.duct}`, detail: `${piece.insideMm2} mm² from the part library` });
  terms.push({
    text: `watch from ${rules.fillWatchPercent} %, limit ${rules.fillLimitPercent} %`,
    source: rule("fillLimitPercent", rules),
  });
  return {
    title: `Fill of ${piece.id}`,
    unit: "%",
    terms,
    total: piece.insideMm2 === 0 ? null : piece.fillPercent,
  };
}

/** Where the value of a route rule comes from, in words: the job, the shop, or what ships with the product. */
function routeRuleSource(key: keyof RouteRules, shop: Rules, job: RuleOverrides): string {
  if (key !== "pins" && ownRoutes(job.routes ?? {})[key] !== undefined) return "rule of this job";
  const { default: shipped, source } = ROUTE_RULES[key];
  return JSON.stringify(shop.routes[key]) === JSON.stringify(shipped) ? source : "rule of the shop";
}
