import { endTreatment, outerOf, resolve } from "../design/conductors";
import { lookUp, type KnownWire, type Lookup } from "../design/lookup";
import type { Design } from "../design/model";
import { OpenPoints } from "../design/open-points";
import { rulesFor, type Rules } from "../design/rules";
import { sameSize, toMm, toUm } from "../design/tolerance";
import type { PanelResult, PlacedDevice } from "../panel/result";
import { chooseWays, type Chosen, type Progress, type Trip } from "./assign";
import { attach, type Attached } from "./attach";
import { breakText } from "./breaks";
import { cutLength } from "./length";
import { buildNetwork, pointOn, type Network } from "./network";
import type { DuctFill, Edge, Mark, NetworkNode, RoutesResult, WireRoute } from "./result";

interface Draft {
  route: WireRoute;
  from: Attached | null;
  to: Attached | null;
  direct: boolean;
}

/**
 * Leads every wire through the ducts and states its cut length.
 * @param shop the shop's rules; the design's own lie on top
 * @param panel where everything stands
 * O(distinct starting pieces · network + wires · pieces on a way).
 */
export function compute(design: Design, shop: Rules, panel: PanelResult, progress?: Progress): RoutesResult {
  const look = lookUp(design);
  const rules = rulesFor(shop, design.rules);
  const points = new OpenPoints("routes");
  const net = buildNetwork(look, panel, rules.routes, points);
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  const drafts = draftWires(look, net, placed, rules, shop);
  const trips = drafts.map((d) => tripOf(d));
  const chosen = chooseWays(net, trips, rules.routes, progress);
  const edges = plainEdges(net);
  drafts.forEach((d, i) => finish(d, chosen[i]!, look, net, placed, rules));
  fillPieces(edges, trips, chosen, rules);
  const wires = drafts.map((d) => d.route);
  const ducts = ductFills(net, edges);
  pointOut(wires, drafts, edges, ducts, look, rules, points);
  return {
    nodes: plainNodes(net),
    edges,
    ducts,
    wires,
    totalMm: toMm(wires.reduce((sum, w) => sum + toUm(w.lengthMm ?? 0), 0)),
    open: points.list(),
  };
}

function draftWires(
  look: Lookup,
  net: Network,
  placed: ReadonlyMap<string, PlacedDevice>,
  rules: Rules,
  shop: Rules,
): Draft[] {
  const landings = new Map<string, KnownWire[]>();
  for (const known of look.wires) {
    for (const ref of [known.wire.from, known.wire.to]) {
      if (!ref) continue;
      const key = `${ref.device}\u0000${ref.pin}`;
      const there = landings.get(key);
      if (there) there.push(known);
      else landings.set(key, [known]);
    }
  }
  const reach = rules.routes.reachMm;
  return look.wires.map((known): Draft => {
    const { wire } = known;
    const net_ = wire.net === undefined ? undefined : look.nets.get(wire.net);
    const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
    const colour = resolve("colour", wire, net_, look.design.rules.classes ?? {}, shop.classes);
    const sizeMm2 = resolve("sizeMm2", wire, net_, look.design.rules.classes ?? {}, shop.classes);
    const strand = wire.strand ?? type?.wire?.strand ?? "fine";
    const outer = sizeMm2 && outerOf(sizeMm2.value, type, rules);
    const from = wire.from ? attach(look, net, placed, wire.from, reach) : null;
    const to = wire.to ? attach(look, net, placed, wire.to, reach) : null;
    const direct = from !== null && to !== null && isDirect(from, to, rules);
    const marks = new Set<Mark>();
    for (const end of [from, to]) {
      for (const m of end?.marks ?? []) if (!direct || !ENTRY_MARKS.has(m)) marks.add(m);
    }
    if (outer?.fallback) marks.add("outer-estimated");
    if (wire.core) marks.add("core");
    if (!colour) marks.add("no-colour");
    if (!sizeMm2) marks.add("no-size");
    const end = (ref: typeof wire.from) => {
      if (!ref || !sizeMm2) return null;
      const others = landings.get(`${ref.device}\u0000${ref.pin}`) ?? [];
      const twin = others.length === 2 && sameSizes(others, look, shop);
      return endTreatment(rules, { clamp: clampOf(look, ref), strand, twin, sizeMm2: sizeMm2.value });
    };
    const endFrom = end(wire.from);
    const endTo = end(wire.to);
    if (sizeMm2 && ((from && !endFrom) || (to && !endTo))) marks.add("no-end-rule");
    return {
      from,
      to,
      direct,
      route: {
        id: known.id,
        net: wire.net ?? null,
        class: net_?.class ?? null,
        colour,
        sizeMm2,
        strand,
        outerMm: outer ? toMm(toUm(outer.mm)) : null,
        from: from?.end ?? null,
        to: to?.end ?? null,
        fromRef: wire.from ?? null,
        toRef: wire.to ?? null,
        lengthMm: null,
        terms: null,
        way: null,
        shortestMm: null,
        noWay: null,
        endFrom,
        endTo,
        marks: [...marks],
      },
    };
  });
}

/** Marks about the way into a duct: void for a direct lead. */
const ENTRY_MARKS: ReadonlySet<Mark> = new Set(["no-exit", "exit-met-nothing", "far-from-duct"]);

function clampOf(look: Lookup, ref: { device: string; pin: string }): string | undefined {
  const device = look.devices.get(ref.device);
  const part = device && look.parts.get(device.part);
  return part && look.pin(part, ref.pin)?.clamp;
}

function sameSizes(wires: readonly KnownWire[], look: Lookup, shop: Rules): boolean {
  const sizes = wires.map(({ wire }) =>
    resolve(
      "sizeMm2",
      wire,
      wire.net === undefined ? undefined : look.nets.get(wire.net),
      look.design.rules.classes ?? {},
      shop.classes,
    ),
  );
  return sizes.every((s) => s !== null && sizes[0] !== null && sameSize(s.value, sizes[0]!.value));
}

/** A short lead between two parts that allow it runs straight over the face. */
function isDirect(from: Attached, to: Attached, rules: Rules): boolean {
  if (!from.directLeads || !to.directLeads || from.end.face !== to.end.face) return false;
  return squareUm(from, to) <= toUm(rules.routes.directReachMm);
}

const squareUm = (a: Attached, b: Attached): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y) + Math.abs(a.z - b.z);

function tripOf({ from, to, direct, route }: Draft): Trip | null {
  if (!from?.foot || !to?.foot || direct || route.marks.includes("core")) return null;
  const outer = route.outerMm ?? 0;
  return { a: from.foot, b: to.foot, class: route.class, areaMm2: (Math.PI / 4) * outer * outer };
}

function finish(
  draft: Draft,
  chosen: Chosen | null,
  look: Lookup,
  net: Network,
  placed: ReadonlyMap<string, PlacedDevice>,
  rules: Rules,
): void {
  const { route, from, to, direct } = draft;
  if (route.marks.includes("core")) return;
  if (!from || !to || (!direct && !chosen)) {
    route.noWay = breakText(route, from, to, look, net, placed);
    route.marks.push("no-way");
    return;
  }
  const common = {
    tailFromMm: from.end.tailMm,
    tailToMm: to.end.tailMm,
    fromOnDoor: from.end.onDoor,
    toOnDoor: to.end.onDoor,
  };
  const parts = direct
    ? { entryFromUm: 0, wayUm: squareUm(from, to), entryToUm: 0, loopsUm: 0, ...common }
    : {
        entryFromUm: from.entryUm,
        wayUm: chosen!.way.um,
        entryToUm: to.entryUm,
        loopsUm: chosen!.way.loopUm,
        ...common,
      };
  const { lengthMm, terms } = cutLength(parts, rules.routes);
  route.lengthMm = lengthMm;
  route.terms = terms;
  if (direct) {
    for (const end of [route.from!, route.to!]) {
      end.entry = null;
      end.fallbacks = end.fallbacks.filter((m) => !ENTRY_MARKS.has(m));
    }
    route.marks.push("direct");
    return;
  }
  route.way = { first: chosen!.way.first, edges: chosen!.way.edges };
  route.shortestMm = chosen!.shortestUm === null ? null : toMm(chosen!.shortestUm);
  if (chosen!.why === "class") route.marks.push("detour-class");
  if (chosen!.why === "fill") route.marks.push("detour-fill");
  if (chosen!.shared) route.marks.push("shared-duct");
  if (chosen!.pieces.some((p) => net.bars[net.edges[p]!.bar]!.insideMm2 === 0)) route.marks.push("no-duct-size");
}

function plainNodes(net: Network): NetworkNode[] {
  return Array.from(net.nodeBar, (b, i) => {
    const bar = net.bars[b]!;
    const p = pointOn(bar, net.nodeAt[i]!);
    return { face: bar.face.id, x: toMm(p.x), y: toMm(p.y), z: toMm(bar.height) };
  });
}

function plainEdges(net: Network): Edge[] {
  return net.edges.map((e, i): Edge => {
    const { a, b } = e;
    if (e.kind === "crossing") {
      return {
        kind: "crossing",
        a,
        b,
        mm: toMm(e.um),
        tag: e.crossing!.tag,
        way: e.crossing!.kind,
        loopMm: toMm(e.loopUm),
      };
    }
    if (e.kind === "joint") {
      const tag = (n: number): string => net.bars[net.nodeBar[n]!]!.tag;
      return { kind: "joint", a, b, mm: toMm(e.um), ducts: [tag(a), tag(b)] };
    }
    const bar = net.bars[e.bar]!;
    return {
      kind: "piece",
      a,
      b,
      mm: toMm(e.um),
      id: `${bar.tag}.${i - bar.firstEdge + 1}`,
      duct: bar.tag,
      insideMm2: bar.insideMm2,
      usedMm2: 0,
      wires: 0,
      fillPercent: 0,
      state: "ok",
    };
  });
}

function fillPieces(
  edges: readonly Edge[],
  trips: readonly (Trip | null)[],
  chosen: readonly (Chosen | null)[],
  rules: Rules,
): void {
  chosen.forEach((c, i) => {
    for (const p of c?.pieces ?? []) {
      const piece = edges[p]!;
      if (piece.kind !== "piece") continue;
      piece.wires++;
      piece.usedMm2 += trips[i]!.areaMm2;
    }
  });
  for (const e of edges) {
    if (e.kind !== "piece") continue;
    // Hundredths of a percent: more would be noise of the outer diameters.
    e.usedMm2 = Math.round(e.usedMm2 * 100) / 100;
    e.fillPercent = e.insideMm2 === 0 ? 0 : Math.round((e.usedMm2 / e.insideMm2) * 10000) / 100;
    const { fillWatchPercent, fillLimitPercent } = rules.routes;
    e.state = e.fillPercent > fillLimitPercent ? "over" : e.fillPercent >= fillWatchPercent ? "watch" : "ok";
  }
}

function ductFills(net: Network, edges: readonly Edge[]): DuctFill[] {
  return net.bars.map((bar) => {
    const pieces = bar.stops.slice(1).map((_, i) => bar.firstEdge + i);
    const fill = (p: number): number => (edges[p] as { fillPercent: number }).fillPercent;
    const worst = pieces.reduce((w, p) => (w < 0 || fill(p) > fill(w) ? p : w), -1);
    return { tag: bar.tag, face: bar.face.id, pieces, worst: worst < 0 ? null : worst };
  });
}

/** Turns marks and fills into open points. */
function pointOut(
  wires: readonly WireRoute[],
  drafts: readonly Draft[],
  edges: readonly Edge[],
  ducts: readonly DuctFill[],
  look: Lookup,
  rules: Rules,
  points: OpenPoints,
): void {
  for (const w of wires) {
    const wire = (severity: "stop" | "check", kind: string, text: string, remedy: string) =>
      points.add({ severity, kind, thing: "wire", of: w.id, text: `wire ${w.id} ${text}`, remedy });
    if (w.noWay) wire("stop", "no way", `has no length: ${w.noWay}`, "Mend the place named; the length follows.");
    if (!w.sizeMm2)
      wire("stop", "no cross-section", "has no cross-section", "Give it to the wire, its net or its class.");
    if (!w.colour) wire("check", "no colour", "has no colour", "Give it to the wire, its net or its class.");
    if (w.marks.includes("shared-duct")) {
      wire(
        "check",
        "classes share a duct",
        `(${w.class}) shares a duct with a class that may not, as there is no other way`,
        "Add a duct, or keep the ducts of the two classes apart.",
      );
    }
    if (w.marks.includes("far-from-duct")) {
      wire(
        "check",
        "far from a duct",
        `reaches its duct only beyond ${rules.routes.reachMm} mm`,
        "Bring a duct nearer to the device.",
      );
    }
    if (w.marks.includes("no-end-rule")) {
      wire(
        "check",
        "no end treatment",
        "has an end for which no rule says how to treat it",
        "State the clamp of the pin, or add a rule.",
      );
    }
  }
  pointOutPins(drafts, look, points);
  for (const d of ducts) {
    const worst = d.worst === null ? null : edges[d.worst]!;
    if (worst?.kind !== "piece") continue;
    if (worst.insideMm2 === 0) {
      points.add({
        severity: "check",
        kind: "no inside size",
        thing: "duct",
        of: d.tag,
        text: `the part of duct ${d.tag} states no inside size; its fill is not known`,
        remedy: "Add the inside width and height to the part.",
      });
    } else if (worst.state !== "ok") {
      const over = worst.state === "over";
      points.add({
        severity: over ? "check" : "note",
        kind: over ? "duct too full" : "duct nearly full",
        thing: "piece",
        of: worst.id,
        text: `duct ${d.tag} is ${worst.fillPercent} % full in piece ${worst.id}; ${over ? `the limit is ${rules.routes.fillLimitPercent} %` : `watched from ${rules.routes.fillWatchPercent} %`}`,
        remedy: over ? "Take a larger duct or lead wires another way." : "Keep it in mind when wires are added.",
      });
    }
  }
}

/** What a pin lacks is said once per pin of a part, with the number of wires it touches. */
function pointOutPins(drafts: readonly Draft[], look: Lookup, points: OpenPoints): void {
  const lacks = new Map<string, { part: string; pin: string; mark: Mark; wires: number }>();
  for (const d of drafts) {
    for (const end of [d.from, d.to]) {
      for (const mark of end?.marks ?? []) {
        if (mark !== "no-pin-geometry" && mark !== "no-exit" && mark !== "no-tail" && mark !== "exit-met-nothing")
          continue;
        if (d.direct && ENTRY_MARKS.has(mark)) continue;
        // A pin that meets nothing is a matter of where its device stands; the others, of the part.
        const own = mark === "exit-met-nothing" ? end!.end.device : look.devices.get(end!.end.device)!.part;
        const key = `${mark}\u0000${own}\u0000${end!.end.pin}`;
        const known = lacks.get(key);
        if (known) known.wires++;
        else lacks.set(key, { part: own, pin: end!.end.pin, mark, wires: 1 });
      }
    }
  }
  const kinds: Partial<Record<Mark, [string, string, string]>> = {
    "no-pin-geometry": [
      "no pin position",
      "has no position; wires are measured from the middle of the body",
      "Add x, y and z of the pin to the part.",
    ],
    "no-exit": [
      "no exit direction",
      "states no exit direction; the nearest duct is taken",
      "Add the exit direction of the pin to the part.",
    ],
    "no-tail": ["no tail", "states no tail; 0 mm is counted inside the device", "Add the tail of the pin to the part."],
    "exit-met-nothing": [
      "exit meets no duct",
      "meets no duct in its exit direction; the nearest duct is taken",
      "Turn the device, or bring a duct before the pin.",
    ],
  };
  for (const { part, pin, mark, wires } of lacks.values()) {
    const [kind, text, remedy] = kinds[mark]!;
    const device = mark === "exit-met-nothing";
    points.add({
      severity: "check",
      kind,
      thing: device ? "device" : "part",
      of: part,
      text: `pin ${pin} of ${device ? "" : "part "}${part} ${text} (${wires} ${wires === 1 ? "wire" : "wires"})`,
      remedy,
    });
  }
}
