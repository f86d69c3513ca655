import { endTreatment, outerOf, strandOf, twinTooLarge } from "../wiring/conductors";
import { conductorTexts, landingsOf, pinKey, samePin, sizeOf, type Landing } from "../wiring/landings";
import { NO_LAYOUT, noLayout } from "../design/layout";
import { lookUp, type Lookup } from "../design/lookup";
import type { Design, PinRef, Strand } from "../design/model";
import { listed, OpenPoints, type Ask } from "../design/open-points";
import { byText } from "../design/order";
import { rulesFor, type Rules } from "../shop/rules";
import type { EndTreatment } from "../design/model";
import type { RouteRules } from "./rules";
import { SIZE_TOLERANCE_MM2, toMm, toNm } from "../design/tolerance";
import type { PanelResult, PlacedDevice } from "../panel/result";
import { asWired, chooseWays, lengthOf, shortestOf, type Progress } from "./assign";
import { pinPlacer } from "./pin-places";
import { attach, inMm, wireEnd, type Attached, type Entries, type Entry } from "./attach";
import { Breaks } from "./breaks";
import { accessesOf, besides, cutCells, isCrowded, piecesOf, Raised, type Beside, type Cells } from "./cells";
import { cutLength } from "./length";
import { pointOn, type Bar, type Foot } from "./bars";
import { buildNetwork, HOPS, type Network } from "./network";
import type { DuctFill, Edge, Mark, NetworkNode, RoutesResult, WireRoute } from "./result";
import { Trees, type Access, type Way } from "./search";
import { Space, type Around } from "./space";
import { loadOf, type Chosen, type Trip } from "./trip";
import { isTwin } from "../wiring/twin";

interface Draft {
  route: WireRoute;
  from: Attached | null;
  to: Attached | null;
  /** The way over the face, where that is allowed and no longer than the one through ducts. */
  direct: Around | null;
  /** A core, or both ends on one pin: nothing to lead. */
  idle: boolean;
}

/**
 * Leads every wire through the ducts and states its cut length.
 * @param shop the shop's rules; the design's own lie on top
 * @param panel where everything stands
 * @param mostRelief how much searches of other ways out of full ducts may look at; see `relieve`
 * The order of the lists in the design decides nothing but the order of the lists in the result.
 * O(pins · ducts of a face + distinct starting pieces · network searched + wires · pieces on a way).
 */
export function compute(
  design: Design,
  shop: Rules,
  panel: PanelResult,
  progress?: Progress,
  mostRelief?: number,
): RoutesResult {
  const look = lookUp(design);
  const rules = rulesFor(shop, design.rules);
  const points = new OpenPoints("routes");
  const net = buildNetwork(look, panel, rules.routes, points);
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  const space = new Space(panel, rules.routes.passGapMm);
  const drafts = draftWires(look, net, placed, space, rules, shop, points);
  const { cells, trips } = tripsOf(net, drafts, rules.routes);
  const { chosen, unrelieved } = chooseWays(net, cells, trips, rules.routes, progress, mostRelief);
  const breaks = new Breaks(look, net, placed);
  drafts.forEach((d, i) => finish(d, trips[i]!, chosen[i]!, net, breaks, rules));
  const edges = plainEdges(net);
  fillPieces(net, cells, edges, trips, chosen, rules);
  const wires = drafts.map((d) => d.route);
  const ducts = ductFills(net, edges, panel);
  pointOut(wires, edges, ducts, look, rules, points);
  pointOutUnrelieved(unrelieved, edges, points);
  return {
    nodes: plainNodes(net),
    edges,
    ducts,
    wires,
    totalMm: toMm(wires.reduce((sum, w) => sum + toNm(w.lengthMm ?? 0), 0)),
    open: points.list(),
  };
}

function draftWires(
  look: Lookup,
  net: Network,
  placed: ReadonlyMap<string, PlacedDevice>,
  space: Space,
  rules: Rules,
  shop: Rules,
  points: OpenPoints,
): Draft[] {
  const landings = landingsOf(look, shop.classes);
  const landingOf = (ref: PinRef | undefined): Landing | undefined => ref && landings.get(pinKey(ref));
  const pins = new Map<Landing, Attached | null>();
  const byTable = pinPlacer(look, rules.routes.pins);
  const at = (landing: Landing | undefined): Attached | null => {
    if (!landing) return null;
    let known = pins.get(landing);
    if (known === undefined)
      pins.set(landing, (known = attach(look, net, placed, space, landing.ref, rules.routes, byTable)));
    return known;
  };
  const treated = new Map<Landing, { strand: Strand; sizeMm2: number; end: EndTreatment | null }[]>();
  const endOf = (landing: Landing, strand: Strand, sizeMm2: number): EndTreatment | null => {
    let all = treated.get(landing);
    if (!all) treated.set(landing, (all = []));
    for (const known of all) if (known.strand === strand && known.sizeMm2 === sizeMm2) return known.end;
    const end = treat(look, landing, strand, sizeMm2, rules, points);
    all.push({ strand, sizeMm2, end });
    return end;
  };
  return look.wires.map((known): Draft => {
    const { wire } = known;
    const ofNet = wire.net === undefined ? undefined : look.nets.get(wire.net);
    const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
    const sizeMm2 = sizeOf(look, wire, shop.classes);
    const strand = strandOf(wire, type);
    const outer = sizeMm2 && outerOf(sizeMm2.value, type, rules);
    const [fromPin, toPin] = [landingOf(wire.from), landingOf(wire.to)];
    const [from, to] = [at(fromPin), at(toPin)];
    const idle = wire.core !== undefined || samePin(wire.from, wire.to);
    const allowed = !idle && from !== null && to !== null && mayBeDirect(from, to, rules);
    const direct = allowed ? space.direct(from.end.face, from.open, to.open) : null;
    const marks: Mark[] = [];
    if (outer?.fallback) marks.push("outer-estimated");
    if (wire.core) marks.push("core");
    if (!sizeMm2) marks.push("no-size");
    const endFrom = fromPin && sizeMm2 ? endOf(fromPin, strand, sizeMm2.value) : null;
    const endTo = toPin && sizeMm2 ? endOf(toPin, strand, sizeMm2.value) : null;
    if (sizeMm2 && ((from && !endFrom) || (to && !endTo))) marks.push("no-end-rule");
    const shown = (a: Attached | null) => {
      if (!a) return null;
      return wireEnd(net, a, a.first, wire.core ? null : (a.first.list[0] ?? null));
    };
    return {
      from,
      to,
      direct,
      idle,
      route: {
        id: known.id,
        net: wire.net ?? null,
        class: ofNet?.class ?? null,
        sizeMm2,
        strand,
        type: wire.type ?? null,
        outerMm: outer ? toMm(toNm(outer.mm)) : null,
        from: shown(from),
        to: shown(to),
        fromRef: wire.from ?? null,
        toRef: wire.to ?? null,
        lengthMm: null,
        terms: null,
        way: null,
        open: null,
        shortestMm: null,
        noWay: null,
        endFrom,
        endTo,
        marks,
      },
    };
  });
}

/** End treatment of a wire under a clamp; two conductors of one size under it are a pair. */
function treat(
  look: Lookup,
  { ref, conductors }: Landing,
  strand: Strand,
  sizeMm2: number,
  rules: Rules,
  points: OpenPoints,
): EndTreatment | null {
  const device = look.devices.get(ref.device);
  const part = device && look.parts.get(device.part);
  const clamp = part && look.pin(part, ref.pin)?.clamp;
  const query = { clamp, strand, twin: isTwin(conductors), sizeMm2 };
  const most = twinTooLarge(rules, query);
  if (most !== null) {
    points.add({
      severity: "check",
      kind: "pair too large",
      thing: "device",
      of: ref.device,
      text: `${ref.device}:${ref.pin} takes two conductors of ${sizeMm2} mm² (${conductorTexts(conductors).join(", ")}); pairs are treated together up to ${most} mm²`,
      remedy: "Move one to another pin, take smaller wires, or add a rule for such a pair.",
    });
  }
  return endTreatment(rules, query);
}

/** Whether a lead between two parts that allow it is short enough to run over the face. */
function mayBeDirect(from: Attached, to: Attached, rules: Rules): boolean {
  if (!from.directLeads || !to.directLeads || from.end.face !== to.end.face) return false;
  return squareNm(from, to) <= toNm(rules.routes.directReachMm);
}

const squareNm = (a: Attached, b: Attached): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y) + Math.abs(a.z - b.z);

/** Whole square micrometres: sums do not depend on the order of the wires. */
const areaUm2 = (outerMm: number | null): number => Math.round((Math.PI / 4) * (outerMm ?? 0) ** 2 * 1e6);

/** The wires that are to be led, with the places where they may enter the ducts. */
function tripsOf(net: Network, drafts: readonly Draft[], rules: RouteRules): { cells: Cells; trips: (Trip | null)[] } {
  const led = ({ from, to, idle }: Draft): boolean =>
    !idle && !!from && !!to && from.first.list.length > 0 && to.first.list.length > 0;
  const beside = new Map<Entries, Beside[][]>();
  const feet: Foot[] = [];
  for (const d of drafts) {
    if (!led(d)) continue;
    for (const entries of [d.from!.first, d.from!.instead, d.to!.first, d.to!.instead]) {
      if (!entries || beside.has(entries)) continue;
      const found = entries.list.map((e) => besides(net, e));
      beside.set(entries, found);
      if (found.some(isCrowded) && !entries.marks.includes("crowded-ducts")) entries.marks.push("crowded-ducts");
      feet.push(...found.flat());
    }
  }
  const cells = cutCells(net, feet);
  const accesses = [new Map<Entries, Access[]>(), new Map<Entries, Access[]>()] as const;
  const placesOf = (entries: Entries, stiff: boolean): Access[] => {
    const known = accesses[stiff ? 1 : 0];
    let list = known.get(entries);
    if (list) return list;
    const steps = beside.get(entries)!.map((found) => (stiff ? found.filter((b) => b.hops === 0) : found));
    known.set(entries, (list = accessesOf(net, cells, entries.list, steps)));
    return list;
  };
  const free = new Trees(net, null);
  const trips = drafts.map((d): Trip | null => {
    if (!led(d)) return null;
    const [from, to] = [d.from!, d.to!];
    const stiff = (d.route.sizeMm2?.value ?? 0) >= rules.stiffFromMm2 - SIZE_TOLERANCE_MM2;
    const places = (entries: Entries): Access[] => placesOf(entries, stiff);
    const turned = goesFirst(to, from, places);
    const [a, b] = turned ? [to, from] : [from, to];
    const tries = [{ starts: places(a.first), goals: places(b.first) }];
    if (a.instead || b.instead)
      tries.push({ starts: places(a.instead ?? a.first), goals: places(b.instead ?? b.first) });
    const trip = { id: d.route.id, class: d.route.class, areaUm2: areaUm2(d.route.outerMm), tries, turned };
    if (!d.direct) return trip;
    const inDucts = shortestOf(net, cells, free, trip);
    if (inDucts && pinToPin(net, trip, inDucts, inDucts.way) < d.direct.nm) d.direct = null;
    return d.direct ? null : trip;
  });
  return { cells, trips };
}

/** Whether one end comes before the other: by place, then by what it costs to get there, then by name. */
function goesFirst(one: Attached, other: Attached, places: (e: Entries) => Access[]): boolean {
  const [a, b] = [places(one.first)[0]!, places(other.first)[0]!];
  const order =
    a.position - b.position ||
    a.cost - b.cost ||
    byText(one.end.device, other.end.device) ||
    byText(one.end.pin, other.end.pin);
  return order < 0;
}

function finish(
  draft: Draft,
  trip: Trip | null,
  chosen: Chosen | null,
  net: Network,
  breaks: Breaks,
  rules: Rules,
): void {
  const { route, from, to, direct, idle } = draft;
  if (route.marks.includes("core")) return;
  if (!from || !to || idle || (!direct && !chosen)) {
    route.noWay = breaks.text(route, from, to);
    route.marks.push("no-way");
    return;
  }
  if (direct) {
    route.from = wireEnd(net, from, from.first, null);
    route.to = wireEnd(net, to, to.first, null);
    route.open = { points: direct.points.map(inMm), devices: direct.devices };
    setLength(route, { entryFromNm: 0, wayNm: direct.nm, entryToNm: 0, loopsNm: 0 }, rules);
    route.marks.push("direct");
    if (direct.devices.length > 0) route.marks.push("direct-over");
    if (direct.cut) route.marks.push("crowded-bodies");
    return;
  }
  const way = asWired(trip!, chosen!.way);
  const entriesOf = (a: Attached): Entries => (chosen!.taken === 0 ? a.first : (a.instead ?? a.first));
  const [fromEntry, toEntry] = [entriesOf(from).list[way.from.entry]!, entriesOf(to).list[way.to.entry]!];
  const ends = [
    { at: from, entry: fromEntry },
    { at: to, entry: toEntry },
  ];
  route.from = wireEnd(net, from, entriesOf(from), fromEntry);
  route.to = wireEnd(net, to, entriesOf(to), toEntry);
  const { nm, loopNm } = lengthOf(net, way);
  const parts = {
    entryFromNm: fromEntry.planeNm + fromEntry.riseNm,
    wayNm: nm,
    entryToNm: toEntry.planeNm + toEntry.riseNm,
    loopsNm: loopNm,
  };
  setLength(route, parts, rules, wideOf(net, way, ends, rules.routes));
  route.way = { first: way.first, edges: way.edges };
  if (way.from.over.length > 0) route.way.start = way.from.over;
  if (way.to.over.length > 0) route.way.end = way.to.over;
  if (chosen!.way !== chosen!.shortest) {
    const [total, shortest] = [
      pinToPin(net, trip!, chosen!, chosen!.way),
      pinToPin(net, trip!, chosen!, chosen!.shortest),
    ];
    if (total > shortest) {
      route.shortestMm = toMm(shortest);
      route.marks.push(chosen!.why === "class" ? "detour-class" : "detour-fill");
    }
  }
  if (chosen!.shared) route.marks.push("shared-duct");
  if (chosen!.excluded) route.marks.push("excluded-duct");
  if (way.edges.some((e) => net.edges[e]!.swing?.sideGuessed)) route.marks.push("hinge-guessed");
  const known = (bar: number): boolean => net.bars[bar]!.insideMm2 > 0;
  const onWay = way.edges.every((e) => known(net.nodeBar[net.edges[e]!.a]!) && known(net.nodeBar[net.edges[e]!.b]!));
  if (!route.marks.includes("no-duct-size") && !(onWay && known(way.from.bar) && known(way.to.bar)))
    route.marks.push("no-duct-size");
}

function setLength(
  route: WireRoute,
  parts: { entryFromNm: number; wayNm: number; entryToNm: number; loopsNm: number },
  rules: Rules,
  wide: readonly [number, number] = [0, 0],
): void {
  const [from, to] = [route.from!, route.to!];
  const { lengthMm, terms } = cutLength(
    parts,
    { tailMm: from.tailMm, onDoor: from.onDoor, wideNm: wide[0] },
    { tailMm: to.tailMm, onDoor: to.onDoor, wideNm: wide[1] },
    route.sizeMm2?.value ?? null,
    route.outerMm,
    rules.routes,
  );
  route.lengthMm = lengthMm;
  route.terms = terms;
  if (from.marks.length + to.marks.length > 0) route.marks = [...new Set([...from.marks, ...to.marks, ...route.marks])];
}

/**
 * What each end gets for the width of its duct, nm: half of what it is wider inside than the rule says. A wire that
 * only crosses a duct, in by one side and out by the other, takes the same wherever in it it lies: nothing is added.
 */
function wideOf(
  net: Network,
  way: Way,
  ends: readonly { at: Attached; entry: Entry }[],
  rules: RouteRules,
): [number, number] {
  const [first, last] = ends.map(({ entry }) => net.bars[entry.bar]!) as [Bar, Bar];
  const within =
    first === last &&
    way.from.over.length + way.to.over.length === 0 &&
    way.edges.every((e) => net.edges[e]!.kind === "piece");
  const [one, other] = ends.map(({ at }) => Math.sign((first.flat ? at.y : at.x) - first.across)) as [number, number];
  if (within && one * other < 0) return [0, 0];
  const more = (bar: Bar): number => Math.max(0, Math.round((bar.wide - toNm(rules.wideFromMm)) / 2));
  return [more(first), more(last)];
}

/** What a way takes from pin to pin, loops included, nm. */
function pinToPin(net: Network, trip: Trip, { taken }: Pick<Chosen, "taken">, way: Way): number {
  const { nm, loopNm } = lengthOf(net, way);
  const { starts, goals } = trip.tries[taken]!;
  // The first access of an entry is the entry itself, without a step aside: its cost is the entry alone.
  const entry = (list: readonly Access[], a: Access): number =>
    Math.round(list.find((x) => x.entry === a.entry)!.cost / HOPS);
  return nm + loopNm + entry(starts, way.from) + entry(goals, way.to);
}

function plainNodes(net: Network): NetworkNode[] {
  return Array.from(net.nodeBar, (b, i) => {
    const bar = net.bars[b]!;
    const p = pointOn(bar, net.nodeAt[i]!);
    return { face: bar.face.id, x: toMm(p.x), y: toMm(p.y), z: toMm(bar.height) };
  });
}

function plainEdges(net: Network): Edge[] {
  const duct = (n: number): string => net.bars[net.nodeBar[n]!]!.tag;
  return net.edges.map((e, i): Edge => {
    const { a, b } = e;
    const mm = toMm(e.nm);
    if (e.kind === "crossing") {
      const { tag, kind } = e.crossing!;
      const swing = e.swing ? { swing: e.swing } : {};
      return {
        kind: "crossing",
        a,
        b,
        mm,
        tag,
        way: kind,
        loopMm: toMm(e.loopNm),
        ducts: [duct(a), duct(b)],
        ...swing,
      };
    }
    if (e.kind === "joint") {
      return { kind: "joint", a, b, mm, ducts: [duct(a), duct(b)] };
    }
    const bar = net.bars[e.bar]!;
    return {
      kind: "piece",
      a,
      b,
      mm,
      id: `${bar.tag}.${i - bar.firstEdge + 1}`,
      duct: bar.tag,
      insideMm2: bar.insideMm2,
      wires: 0,
      usedMm2: 0,
      fillPercent: 0,
      state: "ok",
      worst: null,
    };
  });
}

/** States of every piece what lies at its worst place. */
function fillPieces(
  net: Network,
  cells: Cells,
  edges: readonly Edge[],
  trips: readonly (Trip | null)[],
  chosen: readonly (Chosen | null)[],
  rules: Rules,
): void {
  const load = loadOf(cells, trips, chosen);
  const raised = new Raised(cells);
  const wires = new Int32Array(edges.length);
  for (const c of chosen) {
    if (!c) continue;
    raised.raise(c.ranges, 1);
    for (const p of new Set(piecesOf(net, cells, c.ranges))) wires[p]!++;
  }
  const count = raised.total();
  net.edges.forEach(({ kind, a, b, bar }, i) => {
    const piece = edges[i]!;
    if (kind !== "piece" || piece.kind !== "piece") return;
    const [lo, hi] = [cells.ofNode[a]!, cells.ofNode[b]!];
    let worst = lo;
    for (let p = lo + 1; p < hi; p++)
      if (load[p]! > load[worst]! || (load[p] === load[worst] && count[p]! > count[worst]!)) worst = p;
    let end = worst + 1;
    while (end < hi && load[end] === load[worst] && count[end] === count[worst]) end++;
    piece.wires = wires[i]!;
    if (wires[i]! > 0) {
      const start = net.bars[bar]!.t0;
      piece.worst = {
        fromMm: toMm(cells.at[worst]! - start),
        toMm: toMm(cells.at[end]! - start),
        wires: count[worst]!,
      };
    }
    // Hundredths: more would be noise of the outer diameters.
    piece.usedMm2 = Math.round(load[worst]! / 1e4) / 100;
    piece.fillPercent = piece.insideMm2 === 0 ? 0 : Math.round((load[worst]! / piece.insideMm2) * 0.01) / 100;
    const { fillWatchPercent, fillLimitPercent } = rules.routes;
    piece.state =
      piece.fillPercent > fillLimitPercent ? "over" : piece.fillPercent >= fillWatchPercent ? "watch" : "ok";
  });
}

function ductFills(net: Network, edges: readonly Edge[], panel: PanelResult): DuctFill[] {
  const byTag = new Map(net.bars.map((b) => [b.tag, b]));
  return panel.ducts.map(({ tag }) => {
    const bar = byTag.get(tag)!;
    const pieces = bar.stops.slice(1).map((_, i) => bar.firstEdge + i);
    const fill = (p: number): number => (edges[p] as { fillPercent: number }).fillPercent;
    const worst = pieces.reduce((w, p) => (w < 0 || fill(p) > fill(w) ? p : w), -1);
    return { tag, face: bar.face.id, pieces, worst: worst < 0 ? null : worst };
  });
}

/** Turns marks and fills into open points. */
function pointOut(
  wires: readonly WireRoute[],
  edges: readonly Edge[],
  ducts: readonly DuctFill[],
  look: Lookup,
  rules: Rules,
  points: OpenPoints,
): void {
  const waiting = wires.filter((w) => w.noWay === NO_LAYOUT);
  if (waiting.length > 0)
    points.add(
      noLayout(
        "wire",
        waiting[0]!.id,
        `${waiting.length === 1 ? "1 wire has" : `${waiting.length} wires have`} no length`,
      ),
    );
  for (const w of wires) {
    const wire = (severity: "stop" | "check", kind: string, text: string, remedy: string, ask?: Ask) =>
      points.add({
        severity,
        kind,
        thing: "wire",
        of: w.id,
        text: `wire ${w.id} ${text}`,
        remedy,
        ...(ask
          ? { mend: { label: "Give it to the wire", kind: "set wires", payload: { wires: [w.id] }, asks: [ask] } }
          : {}),
      });
    if (w.noWay && w.noWay !== NO_LAYOUT)
      wire("stop", "no way", `has no length: ${w.noWay}`, "Mend the place named; the length follows.");
    if (!w.sizeMm2)
      wire("stop", "no cross-section", "has no cross-section", "Give it to the wire, its net or its class.", {
        field: "sizeMm2",
        label: "Cross-section",
        as: "size",
      });
    if (w.marks.includes("shared-duct")) {
      wire(
        "check",
        "classes share a duct",
        `(${w.class}) shares a duct with a class it stays apart from: none of its ways is clear`,
        "Add a duct, or keep the ducts of the two classes apart.",
      );
    }
    if (w.marks.includes("excluded-duct")) {
      wire(
        "check",
        "duct kept for others",
        `(${w.class}) lies in a duct kept for other classes: none of its ways is clear`,
        "Let the duct take this class, or add another.",
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
  pointOutPins(wires, look, points);
  const inside = new Map<string, number>();
  for (const w of wires) {
    if (!w.marks.includes("no-duct-size")) continue;
    for (const tag of ductsOf(w, edges)) inside.set(tag, (inside.get(tag) ?? 0) + 1);
  }
  for (const d of ducts) {
    const worst = d.worst === null ? null : edges[d.worst]!;
    if (worst?.kind !== "piece") continue;
    if (worst.insideMm2 === 0) {
      points.add({
        severity: "check",
        kind: "no inside size",
        thing: "duct",
        of: d.tag,
        text: `the part of duct ${d.tag} states no inside size; its fill is not known, and the lengths of ${inside.get(d.tag) ?? 0} wires rest on a centre line at half its height`,
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

/** The ducts a wire lies in, enters or only steps through. */
function ductsOf({ way, from, to }: WireRoute, edges: readonly Edge[]): Set<string> {
  const found = new Set<string>();
  const add = (e: number): void => {
    const edge = edges[e]!;
    if (edge.kind === "piece") found.add(edge.duct);
    else for (const tag of edge.ducts) found.add(tag);
  };
  for (const end of [from, to]) if (end?.entry) add(end.entry.edge);
  for (const e of [...(way?.start ?? []), ...(way?.edges ?? []), ...(way?.end ?? [])]) add(e);
  return found;
}

function pointOutUnrelieved(unrelieved: readonly number[], edges: readonly Edge[], points: OpenPoints): void {
  const ids = unrelieved.map((e) => pieceId(edges, e)).sort(byText);
  if (ids.length === 0) return;
  points.add({
    severity: "check",
    kind: "other ways not looked for",
    thing: "piece",
    of: ids[0]!,
    text: `${ids.length} pieces of duct are over-full, and not all other ways out of them were looked for: ${listed(ids)}. More wires lie in full ducts than can be gone through`,
    remedy: "Take larger ducts where most wires lie; what is left is looked at then.",
  });
}

const pieceId = (edges: readonly Edge[], e: number): string => {
  const edge = edges[e]!;
  return edge.kind === "piece" ? edge.id : "";
};

/** Open points about pins: each is said once, with the number of wires it touches. */
const PIN_POINTS: Partial<
  Record<Mark, { severity: "check" | "note"; of: "part" | "device"; kind: string; text: string; remedy: string }>
> = {
  "no-pin-geometry": {
    severity: "check",
    of: "part",
    kind: "no pin position",
    text: "no position; wires are measured from the middle of the body",
    remedy: "Add x, y and z of the pin to the part.",
  },
  "pin-by-table": {
    severity: "check",
    of: "part",
    kind: "pin by the table",
    text: "no position; taken from the shop's table of pins nobody has drawn",
    remedy: "Add x, y and z of the pin to the part: draw it in the library.",
  },
  "exit-unused": {
    severity: "check",
    of: "part",
    kind: "exit without position",
    text: "an exit but no position; the nearest duct is taken",
    remedy: "Add x, y and z of the pin to the part; then its exit counts.",
  },
  "no-exit": {
    severity: "check",
    of: "part",
    kind: "no exit direction",
    text: "no exit direction; the nearest duct is taken",
    remedy: "Add the exit direction of the pin to the part.",
  },
  "no-tail": {
    severity: "check",
    of: "part",
    kind: "no tail",
    text: "no tail; 0 mm is counted inside the device",
    remedy: "Add the tail of the pin to the part.",
  },
  "exit-met-nothing": {
    severity: "check",
    of: "device",
    kind: "exit meets no duct",
    text: "no duct in the exit direction; the nearest one is taken",
    remedy: "Turn the device, or bring a duct before the pin.",
  },
  "stump-passed": {
    severity: "check",
    of: "device",
    kind: "nearest duct leads nowhere",
    text: "the nearest duct is joined to no other; a joined one is taken",
    remedy: "Join the nearer duct to the others, or take it away.",
  },
  "nearer-duct": {
    severity: "note",
    of: "device",
    kind: "another duct is nearer",
    text: "led to the duct in the exit direction, though another is much nearer",
    remedy: "Look whether the wire would really go that way; turn the device if not.",
  },
};

const MOST_PINS = 8;

function pointOutPins(wires: readonly WireRoute[], look: Lookup, points: OpenPoints): void {
  const found = new Map<string, { of: string; pins: Set<string>; mark: Mark; wires: Set<string> }>();
  for (const { id, from, to } of wires) {
    for (const end of [from, to]) {
      for (const mark of end?.marks ?? []) {
        const about = PIN_POINTS[mark];
        if (!about) continue;
        // Where a device stands is said once for all its pins; what a pin lacks, per pin of the part.
        const device = about.of === "device";
        const of = device ? end!.device : look.devices.get(end!.device)!.part;
        const key = `${mark}\u0000${of}\u0000${device ? "" : end!.pin}`;
        let known = found.get(key);
        if (!known) found.set(key, (known = { of, pins: new Set(), mark, wires: new Set() }));
        known.pins.add(end!.pin);
        known.wires.add(id);
      }
    }
  }
  for (const { of, pins, mark, wires: led } of found.values()) {
    const { severity, of: thing, kind, text, remedy } = PIN_POINTS[mark]!;
    const names = [...pins].sort(byText);
    const named = `${names.slice(0, MOST_PINS).join(", ")}${names.length > MOST_PINS ? ` and ${names.length - MOST_PINS} more` : ""}`;
    points.add({
      severity,
      kind,
      thing,
      of,
      text: `${names.length === 1 ? "pin" : "pins"} ${named} of ${thing === "device" ? "" : "part "}${of}: ${text} (${led.size} ${led.size === 1 ? "wire" : "wires"})`,
      remedy,
    });
  }
}
