import { ALONG_TO, type AlongTo, type Article, type BuildWhere, type KitRules, type ScrewMade } from "./rules";
import { enclosureOf } from "../design/geometry";
import type { Colours } from "../wiring/landings";
import type { Lookup } from "../design/lookup";
import type { Part } from "../design/model";
import { listed, type NewPoint, type OpenPoints } from "../design/open-points";
import { Again } from "../frame/again";
import { byText, pushTo, sortedByCount } from "../design/order";
import type { EndPiece } from "../wireprep/rules";
import type { ThreadRow } from "../design/threads";
import { threadOfNut, threadThrough } from "../design/threads";
import { pieceFor } from "../wiring/wire-ends";
import { wireTypes } from "../wiring/wire-types";
import type { LineupsResult } from "../lineups/result";
import type { FaceHole, MetalworkResult } from "../metalwork/result";
import type { PanelResult } from "../panel/result";
import { isFallback, type RoutesResult, type WireRoute } from "../routes/result";
import { even, NOWHERE, type BillLine, type Piece, type Unit } from "./result";

export interface BillInput {
  look: Lookup;
  panel: PanelResult;
  routes: RoutesResult;
  lineups: LineupsResult;
  metalwork: MetalworkResult;
  threads: readonly ThreadRow[];
  /** Of every wire, by its id. */
  colours: Colours;
  /** What goes on ends, by the shop. */
  pieces: readonly EndPiece[];
}

interface Asked {
  enclosure: string;
  where: BuildWhere;
  part: string | null;
  /** Names what the library does not hold. */
  text: string;
  quantity: number;
  unit: Unit;
  tag: string;
  why: string;
  fallback?: boolean;
  piece?: Piece;
  /** Of what no library knows. */
  longestMm?: number;
}
type Ask = (one: Asked) => void;
type Along = (to: AlongTo, of: Pick<Asked, "enclosure" | "where" | "part" | "text" | "tag">) => void;
/** What comes along with a thing of one kind: articles, how many of each, and why. */
type Coming = (to: AlongTo, of: Pick<Asked, "part" | "text">) => Pick<Asked, "part" | "text" | "quantity" | "why">[];

const whereOf = (face: string): BuildWhere =>
  face.endsWith("/plate") ? "plate" : face.endsWith("/door") ? "door" : "other faces";

/** Whether a row that may name a category or a beginning fits a thing. */
const fits = (
  row: { category?: string; begins?: string },
  { part, text }: Pick<Asked, "part" | "text">,
  look: Lookup,
): boolean => {
  // Looked up whatever the row says: another shop's rows may name a category.
  const category = part === null ? undefined : look.parts.get(part)?.category;
  return (
    (row.category === undefined || row.category === category) &&
    (row.begins === undefined || text.startsWith(row.begins) || (part?.startsWith(row.begins) ?? false))
  );
};

/**
 * Everything the job needs, summed by enclosure, step and part; each line with what asks for it. Options left out are not in it.
 * O(devices + pieces + wires + holes) and sorting; what no edit touched is looked up
 */
export function billOf(input: BillInput, rules: KitRules, points: OpenPoints): BillLine[] {
  const { look, panel, lineups } = input;
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  /** What comes along with a thing, by the shop. */
  const coming = new Map(
    ALONG_TO.map((to) => [
      to,
      rules.along
        .filter((row) => row.to === to && row.each > 0)
        .map((row) => ({
          row,
          part: look.parts.has(row.article) ? row.article : null,
          why: `${row.each} for each ${to}`,
        })),
    ]),
  );
  const comes: Coming = (to, of) =>
    coming
      .get(to)!
      .filter(({ row }) => fits(row, of, look))
      .map(({ row, part, why }) => ({ part, text: row.article, quantity: row.each, why }));
  const { parts, devices, options, enclosures: bodies, strips, rails, cables } = look.design;
  const setting = [rules, input.threads, input.metalwork, parts, devices, options, bodies, strips, rails, cables];
  const things = thingsOf.of(panel, [...setting, ...lineups.strips], () => askThings(input, rules, placed, comes));
  for (const point of things.points) points.add(point);
  // What has no place yet belongs to the enclosure that it names.
  const enclosures = new Map(
    [...look.devices.values()].map((d) => {
      const face = placed.get(d.tag)?.face;
      return [d.tag, face === undefined ? d.enclosure : enclosureOf(face)];
    }),
  );
  const wires = askWires(input, rules, enclosures, comes, points);
  return summed([...things.heaps, ...wires], look, rules);
}

/** What everything but the wires asks for, and what is to be told of it. */
interface ThingsAsked {
  heaps: readonly Heap[];
  points: readonly NewPoint[];
}

/** For each panel. */
const thingsOf = new Again<PanelResult, ThingsAsked>();

/** Enclosures, devices, strips, bars, glands, cables and screws, and what comes along with them. O(all of them) */
function askThings(
  { look, panel, lineups, metalwork, threads }: BillInput,
  rules: KitRules,
  placed: ReadonlyMap<string, PanelResult["devices"][number]>,
  comes: Coming,
): ThingsAsked {
  const heaps = new Heaps();
  const points: NewPoint[] = [];
  const ask: Ask = (one) => heaps.put(one);
  const members = new Set([...look.strips.values()].flatMap((s) => s.members));
  const along: Along = (to, of) => {
    for (const one of comes(to, of))
      ask({ ...one, enclosure: of.enclosure, where: of.where, unit: "pcs", tag: of.tag });
  };

  for (const e of look.enclosures.values()) {
    const here = { enclosure: e.tag, where: "other faces", part: null, tag: e.tag } as const;
    const text = `enclosure ${e.w} × ${e.h} × ${e.d} mm`;
    ask({ ...here, text, quantity: 1, unit: "pcs", why: "enclosures", longestMm: Math.max(e.w, e.h, e.d) });
    if (e.plate) {
      const { w, h } = e.plate;
      const plate = `mounting plate ${w} × ${h} mm`;
      ask({ ...here, text: plate, quantity: 1, unit: "pcs", why: "mounting plates", longestMm: Math.max(w, h) });
    }
    along("enclosure", { ...here, text });
  }
  for (const device of look.devices.values()) {
    const there = placed.get(device.tag);
    const member = members.has(device.tag);
    const one = {
      enclosure: there ? enclosureOf(there.face) : (device.enclosure ?? NOWHERE),
      where: !there ? ("loose" as const) : member ? ("strips" as const) : whereOf(there.face),
      part: device.part,
      text: there?.text ?? device.part,
      tag: device.tag,
    };
    ask({ ...one, quantity: 1, unit: "pcs", why: there ? "devices" : "devices without a place" });
    along(member ? "strip member" : "device", { ...one, text: look.parts.get(device.part)?.text ?? one.text });
  }
  for (const strip of lineups.strips) {
    const rail = look.rails.get(strip.rail);
    const enclosure = rail ? enclosureOf(rail.face) : NOWHERE;
    // By the strip's own pieces: they are wanted whether it is laid on its rail already or not.
    for (const item of strip.items)
      if (item.kind !== "member" && item.part !== null)
        ask({
          enclosure,
          where: "strips",
          part: item.part,
          text: item.kind,
          quantity: 1,
          unit: "pcs",
          tag: strip.tag,
          why: `${item.kind}s of strips`,
        });
    for (const { part, combs } of strip.jumpers)
      if (part !== null && combs > 0)
        ask({
          enclosure,
          where: "strips",
          part,
          text: "jumper",
          quantity: combs,
          unit: "pcs",
          tag: strip.tag,
          why: "jumpers",
        });
  }
  for (const [bars, why] of [
    [panel.rails, "rails as cut"],
    [panel.ducts, "ducts as cut, each with its cover"],
  ] as const)
    for (const bar of bars)
      ask({
        enclosure: enclosureOf(bar.face),
        where: whereOf(bar.face),
        part: bar.part,
        text: bar.part,
        quantity: bar.length / 1000,
        unit: "m",
        tag: bar.tag,
        why,
        piece: { of: bar.tag, mm: bar.length },
      });
  for (const { enclosure, spare } of metalwork.entries)
    for (const tag of spare) {
      const part = look.devices.get(tag)?.part ?? null;
      along("spare gland", {
        enclosure,
        where: "other faces",
        part,
        text: look.parts.get(part ?? "")?.text ?? tag,
        tag,
      });
    }
  for (const cable of look.cables.values()) {
    const enclosure = [cable.from, cable.to].find((e) => e !== undefined && look.enclosures.has(e)) ?? NOWHERE;
    along("cable", { enclosure, where: "wiring", part: cable.type, text: cable.tag, tag: cable.tag });
  }
  askScrews(metalwork, rules, threads, ask, points);
  return { heaps: heaps.all, points };
}

/** What the wires that come from one enclosure ask for, there and where their other ends are. */
interface WiresAsked {
  heaps: readonly Heap[];
  /** By what they are called: wires of which the library has no type. */
  untyped: ReadonlyMap<string, readonly string[]>;
  unmeasured: readonly string[];
}

/** By the first of the wires. */
const askedOf = new Again<WireRoute, WiresAsked>();

/** How many twin ferrules meet at each clamp. O(wires) */
function twinsOf(routes: RoutesResult): Map<string, number> {
  const twins = new Map<string, number>();
  for (const { endFrom, endTo, fromRef, toRef, sizeMm2, lengthMm, marks } of routes.wires) {
    if ((endFrom !== "twin ferrule" && endTo !== "twin ferrule") || !sizeMm2) continue;
    if (lengthMm === null && !marks.includes("core")) continue;
    for (const [end, ref] of [
      [endFrom, fromRef],
      [endTo, toRef],
    ] as const)
      if (end === "twin ferrule") twins.set(clampOf(ref), (twins.get(clampOf(ref)) ?? 0) + 1);
  }
  return twins;
}

const clampOf = (ref: WireRoute["fromRef"]): string => `${ref?.device}\u0000${ref?.pin}`;

/**
 * Metres by type with waste, in the enclosure of the end they come from; what its ends are dressed with. Enclosure by enclosure: one whose
 * wires are the very same, in the same colours, is looked up.
 * @param enclosures of every device that has one
 */
function askWires(
  { look, routes, colours, pieces, panel }: BillInput,
  rules: KitRules,
  enclosures: ReadonlyMap<string, string | undefined>,
  comes: Coming,
  points: OpenPoints,
): Heap[] {
  const enclosureAt = (device: string | undefined): string | undefined =>
    device === undefined ? undefined : enclosures.get(device);
  const typeOf = wireTypes(look);
  const twins = twinsOf(routes);
  const groups = new Map<string, WireRoute[]>();
  for (const wire of routes.wires)
    pushTo(groups, enclosureAt(wire.fromRef?.device) ?? enclosureAt(wire.toRef?.device) ?? NOWHERE, wire);
  const { parts, devices, options } = look.design;
  const asked = [...groups].map(([enclosure, wires]) => {
    const shades = wires.map((w) => colours.get(w.id)?.value);
    const shared = wires.map(({ endFrom, endTo, fromRef, toRef }) =>
      endFrom === "twin ferrule" || endTo === "twin ferrule"
        ? `${twins.get(clampOf(fromRef))} ${twins.get(clampOf(toRef))}`
        : "",
    );
    const setting = [rules, pieces, panel, parts, devices, options, ...wires, ...shades, ...shared];
    return askedOf.of(wires[0]!, setting, () => {
      const heaps = new Heaps();
      const untyped = new Map<string, string[]>();
      const unmeasured: string[] = [];
      // Wires and ends are many and their kinds are few: what is asked for with each is put together once.
      const wireKind = known<WireKind>();
      const endKinds = new Map<string, ReturnType<typeof known<Kind>>>();
      const waste = rules.wireWastePercent / 100;
      wires.forEach((wire, i) => {
        const [from, to] = [enclosureAt(wire.fromRef?.device), enclosureAt(wire.toRef?.device)];
        const size = wire.sizeMm2?.value;
        const isLead = !wire.marks.includes("core");
        if (isLead) {
          const kind = wireKind(size, shades[i] ?? "", wire.type ?? "", () => {
            const part = typeOf(wire.type, size, shades[i]);
            const text = `wire ${size ?? "?"} mm² ${shades[i] ?? "colour open"}`;
            const one = { enclosure, where: "wiring", part, text, unit: "m" } as const;
            return {
              part,
              text,
              cut: heaps.sum({ ...one, why: "cut lengths" }),
              unsure: heaps.sum({ ...one, why: "cut lengths that rest on fallbacks" }),
              waste: heaps.sum({ ...one, why: `waste, ${rules.wireWastePercent} %` }),
              along: comes("wire", { part, text }).map(({ quantity, ...what }) => ({
                sum: heaps.sum({ ...what, enclosure, where: "wiring", unit: "pcs" }),
                quantity,
              })),
            };
          });
          if (kind.part === null) pushTo(untyped, kind.text, wire.id);
          if (wire.lengthMm === null) unmeasured.push(wire.id);
          else {
            const metres = wire.lengthMm / 1000;
            const fallback = wire.marks.some(isFallback);
            addTo(fallback ? kind.unsure() : kind.cut(), metres, wire.id, fallback);
            if (waste > 0) addTo(kind.waste(), metres * waste, wire.id, fallback);
          }
          for (const { sum, quantity } of kind.along) addTo(sum(), quantity, wire.id);
        }
        // What is never made gets nothing on its ends either.
        if (size === undefined || (isLead && wire.lengthMm === null)) return;
        for (const [end, at, ref] of [
          [wire.endFrom, from, wire.fromRef],
          [wire.endTo, to, wire.toRef],
        ] as const) {
          if (end === null || end === "bare") continue;
          const there = at ?? enclosure;
          const sum = made(endKinds, there, known<Kind>)(size, end, "", () => {
            const piece = pieceFor(end, size, pieces);
            const text = `${end} ${piece?.sizeMaxMm2 ?? size} mm²`;
            const what = { part: piece?.part ?? null, text, why: `${end}s of wires` };
            return heaps.sum({ ...what, enclosure: there, where: "wiring", unit: "pcs" });
          });
          // Two that both get one at a clamp share it.
          const half = end === "twin ferrule" && twins.get(clampOf(ref)) === 2;
          addTo(sum(), half ? 0.5 : 1, wire.id);
        }
      });
      return { heaps: heaps.all, untyped, unmeasured };
    });
  });
  tellWires(asked, points);
  return asked.flatMap((a) => a.heaps);
}

/** What could not be measured, and what the library has no type for. */
function tellWires(asked: readonly WiresAsked[], points: OpenPoints): void {
  const unknown = sortedByCount(asked.flatMap((a) => a.unmeasured));
  if (unknown.length > 0)
    points.add({
      severity: "check",
      kind: "wire without a length",
      thing: "wire",
      of: unknown[0]!,
      text: `${unknown.length} wires have no length and are not in the metres of the bill: ${listed(unknown)}`,
      remedy: "Give them a way; see routes.",
    });
  const untyped = new Map<string, string[]>();
  for (const a of asked) for (const [text, ids] of a.untyped) untyped.set(text, [...(untyped.get(text) ?? []), ...ids]);
  const kinds = [...untyped].sort(([a], [b]) => byText(a, b));
  if (kinds.length > 0)
    points.add({
      severity: "note",
      kind: "no wire type",
      thing: "wire",
      of: sortedByCount(kinds[0]![1])[0]!,
      text: `the library has no wire of these: ${listed(kinds.map(([text, ids]) => `${text.replace("wire ", "")} (${ids.length})`))}; their metres have no number and no place in the store`,
      remedy: "Put the types into the library, or name them with the wires.",
    });
}

/** Where things of one kind are summed up; made when the first of them is asked for. */
type Kind = () => Summing;

/** What wires of one kind in one enclosure ask for. */
interface WireKind {
  part: string | null;
  text: string;
  cut: Kind;
  unsure: Kind;
  waste: Kind;
  along: { sum: Kind; quantity: number }[];
}

/** Values by a size and two names, each made once. */
function known<T>(): (size: number | undefined, one: string, two: string, make: () => T) => T {
  const all = new Map<number | undefined, Map<string, Map<string, T>>>();
  return (size, one, two, make) => {
    const byOne = within(within(all, size), one);
    let value = byOne.get(two);
    if (value === undefined) byOne.set(two, (value = make()));
    return value;
  };
}

/** How a hole for a screw is made, and for which thread; null for openings. */
export function screwOf(
  { cut, from }: Pick<FaceHole, "cut" | "from">,
  threads: readonly ThreadRow[],
): { made: ScrewMade; thread: string | null } | null {
  const said = from[0]!.fixing;
  if (cut.kind === "mark") return { made: "marked", thread: null };
  if (cut.kind === "thread") return { made: "tapped", thread: cut.thread };
  if (cut.kind !== "round" || cut.notch || cut.d > SCREW_MOST_MM) return null;
  return {
    made: said === "rivet nut" ? "rivet nut" : "through",
    thread: said === "rivet nut" ? threadOfNut(cut.d, threads) : threadThrough(cut.d, threads),
  };
}

/** A hole beyond this is none for a screw. */
const SCREW_MOST_MM = 13;

function askScrews(
  { faces }: MetalworkResult,
  { screws }: KitRules,
  threads: readonly ThreadRow[],
  ask: Ask,
  points: NewPoint[],
): void {
  for (const { face, enclosure, holes } of faces)
    for (const hole of holes) {
      const first = hole.from[0]!;
      const screw = first.thing === "face" ? null : screwOf(hole, threads);
      if (!screw) continue;
      const row = screws.find((r) => r.made === screw.made && (r.thread === undefined || r.thread === screw.thread));
      if (!row) {
        points.push({
          severity: "note",
          kind: "no screw for a hole",
          thing: first.thing,
          of: first.of,
          text: `the shop's table names no screw for ${screw.made} ${screw.thread ?? "holes"}, as for ${first.of} on ${face}`,
          remedy: "Add a row to what fixes what.",
        });
        continue;
      }
      for (const text of [row.screw, ...(row.also === undefined ? [] : [row.also])])
        ask({
          enclosure,
          where: whereOf(face),
          part: null,
          text,
          quantity: 1,
          unit: "pcs",
          tag: first.of,
          why: `${screw.made} ${screw.thread ?? ""}`.trim(),
        });
    }
}

/** The first row that fits a name, by its name or by how it begins; names are looked up once each. */
function articlesBy(rows: readonly Article[]): (name: string) => Article | undefined {
  const known = new Map<string, Article | undefined>();
  return (name) => {
    if (!known.has(name))
      known.set(
        name,
        rows.find(({ article: a }) => (a.endsWith("*") ? name.startsWith(a.slice(0, -1)) : name === a)),
      );
    return known.get(name);
  };
}

/** What is asked for by one reason. */
interface Summing {
  quantity: number;
  tags: string[];
  fallback: boolean;
}

/** What is asked for of one thing in one place, by why it is; before it is known which step that is. */
interface Heap {
  of: Omit<Asked, "quantity" | "tag" | "fallback" | "piece">;
  byWhy: Map<string, Summing>;
  pieces: Piece[];
}

/**
 * Things of one kind in one place are put on one heap as they are asked for: they are many times as many as what they come to, and are
 * not kept.
 */
class Heaps {
  readonly all: Heap[] = [];
  // Step by step by names that are there already: one made of several would have to be made each time.
  readonly #places = new Map<string, Map<string, Map<string, Map<string, Heap>>>>();

  put(a: Asked): void {
    const heap = this.#heap(a);
    addTo(sumIn(heap, a.why), a.quantity, a.tag, a.fallback);
    if (a.piece) heap.pieces.push(a.piece);
  }

  /** Where what is asked for by one reason is summed up, for many of a kind. */
  sum(a: Omit<Asked, "quantity" | "tag" | "fallback" | "piece">): Kind {
    let sum: Summing | undefined;
    return () => (sum ??= sumIn(this.#heap(a), a.why));
  }

  #heap(a: Heap["of"]): Heap {
    const here = within(within(within(this.#places, a.enclosure), a.where), a.unit);
    const thing = a.part ?? a.text;
    // What has no number may be called as a part is.
    let heap = here.get(thing);
    if (heap && (heap.of.part === null) !== (a.part === null)) heap = here.get(`\u0001${thing}`);
    if (!heap) {
      heap = { of: a, byWhy: new Map(), pieces: [] };
      here.set(here.has(thing) ? `\u0001${thing}` : thing, heap);
      this.all.push(heap);
    }
    return heap;
  }
}

function sumIn({ byWhy }: Heap, why: string): Summing {
  let sum = byWhy.get(why);
  if (!sum) byWhy.set(why, (sum = { quantity: 0, tags: [], fallback: false }));
  return sum;
}

function addTo(sum: Summing, quantity: number, tag: string, fallback = false): void {
  sum.quantity += quantity;
  if (sum.tags[sum.tags.length - 1] !== tag) sum.tags.push(tag);
  if (fallback) sum.fallback = true;
}

/** What stands under a key, made when it is first asked for. */
function made<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  let one = map.get(key);
  if (one === undefined) map.set(key, (one = make()));
  return one;
}

/** The map under a name. */
const within = <K, L, T>(maps: Map<K, Map<L, T>>, name: K): Map<L, T> => made(maps, name, () => new Map<L, T>());

const unique = (tags: readonly string[]): string[] => sortedByCount([...new Set(tags)]);

/** By the first heap of a line. */
const linesOf = new Again<Heap, BillLine>();

/** Heaps of one thing in one enclosure and step as one line; a line of the very same heaps is looked up. */
function summed(heaps: readonly Heap[], look: Lookup, rules: KitRules): BillLine[] {
  const articleOf = articlesBy(rules.articles);
  const lines = new Map<string, { step: string; heaps: Heap[] }>();
  for (const heap of heaps) {
    const { of } = heap;
    const step = stepOf(of, look, rules);
    const key = `${of.enclosure}\u0000${step}\u0000${of.part ?? `\u0001${of.text}`}\u0000${of.unit}`;
    const line = lines.get(key);
    if (line) line.heaps.push(heap);
    else lines.set(key, { step, heaps: [heap] });
  }
  const steps = [...new Set(rules.steps.map((s) => s.step))];
  const at = (step: string): number => (steps.indexOf(step) + steps.length + 1) % (steps.length + 1);
  return [...lines.values()]
    .map(({ step, heaps: all }): BillLine => {
      const { of } = all[0]!;
      const part = of.part === null ? undefined : look.parts.get(of.part);
      return linesOf.of(all[0]!, [rules, step, part, ...all], () =>
        lineOf(newLine(of, step, part, articleOf(of.text)), all),
      );
    })
    .sort(
      (a, b) =>
        byText(a.enclosure, b.enclosure) ||
        at(a.step) - at(b.step) ||
        byText(a.step, b.step) ||
        byText(a.part ?? a.text, b.part ?? b.text),
    );
}

/** A line with all that its heaps come to. */
function lineOf(line: BillLine, heaps: readonly Heap[]): BillLine {
  const byWhy = new Map<string, Summing>();
  for (const heap of heaps)
    for (const [why, one] of heap.byWhy) {
      const before = byWhy.get(why);
      byWhy.set(
        why,
        before
          ? {
              quantity: before.quantity + one.quantity,
              tags: [...before.tags, ...one.tags],
              fallback: before.fallback || one.fallback,
            }
          : one,
      );
    }
  const pieces = heaps.flatMap((h) => h.pieces);
  const terms = [...byWhy].map(([text, t]) => ({
    text,
    quantity: even(t.quantity),
    tags: unique(t.tags),
    ...(t.fallback ? { fallback: true as const } : {}),
  }));
  const total = terms.reduce((sum, t) => sum + t.quantity, 0);
  return {
    ...line,
    terms,
    quantity: line.unit === "pcs" ? Math.ceil(total - 1e-9) : even(total),
    tags: terms.length === 1 ? terms[0]!.tags : unique(terms.flatMap((t) => t.tags)),
    ...(pieces.length > 0 ? { pieces: pieces.sort((a, b) => b.mm - a.mm || byText(a.of, b.of)) } : {}),
  };
}

/** By the first row of the shop that fits; where none does, the step is called as where it goes. */
function stepOf({ where, part, text }: Heap["of"], look: Lookup, { steps }: KitRules): string {
  const thing = { part, text: (part === null ? undefined : look.parts.get(part)?.text) ?? text };
  return steps.find((s) => (s.where === undefined || s.where === where) && fits(s, thing, look))?.step ?? where;
}

const newLine = (a: Heap["of"], step: string, part: Part | undefined, article: Article | undefined): BillLine => ({
  enclosure: a.enclosure,
  step,
  part: a.part ?? article?.number ?? null,
  maker: part?.maker ?? null,
  text: part?.text ?? a.text,
  quantity: 0,
  unit: a.unit,
  place: part?.stock?.place ?? article?.place ?? null,
  pack: part?.stock?.pack ?? article?.pack ?? null,
  weightKg: part?.weightKg ?? article?.weightKg ?? null,
  longestMm: a.unit === "m" ? null : (a.longestMm ?? (part ? Math.max(part.w, part.h, part.d) : null)),
  tags: [],
  terms: [],
});
