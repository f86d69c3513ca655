import { enclosureOf } from "../design/geometry";
import { lookUp, type KnownWire, type Lookup } from "../design/lookup";
import type { Design, Device } from "../design/model";
import { pushTo } from "../design/order";
import type { Box, PageText, Word } from "./pages";
import { CALLED, tagOf, type Tag } from "./tags";

/** What of a design is looked for on pages. */
export type PlacedKind = "device" | "strip" | "cable" | "wire";

/**
 * By what a thing was found: its tag as the design has it; its tag with parts left out; the number of a terminal in the row of its
 * strip; the number of a wire; the name of its net.
 */
export type FoundBy = "tag" | "short tag" | "row of its strip" | "number" | "net";

/** A place of a thing on a page. */
export interface Found {
  kind: PlacedKind;
  of: string;
  by: FoundBy;
  /** As it stands there. */
  text: string;
  box: Box;
}

/** What stands on one page. */
export interface PageFound {
  found: Found[];
  /** Short tags that may mean several things here. */
  unclear: { text: string; box: Box; among: string[] }[];
  /** Written as a tag, but nothing of the design. */
  strange: { text: string; box: Box }[];
}

/** So much of one kind is told of a page. */
const MOST_OF_PAGE = 5000;
/** Words of a line that are nearer than this may be parts of one tag, in heights. */
const NEAR = 0.7;
/** Two base lines are one where they differ by less, in heights. */
const ON_ROW = 0.5;
/** A number stands right under the tag of its strip where no more is between them, in heights. */
const UNDER = 0.8;

interface Named {
  kind: Exclude<PlacedKind, "wire">;
  of: string;
  tag: Tag;
}

/** A terminal by what its strip calls it. */
type Terminals = ReadonlyMap<string, string>;

/** What pages are held against, worked out once for a design. */
export interface Names {
  look: Lookup;
  /** By their whole names. */
  whole: ReadonlyMap<string, Named>;
  /** By the thing of their tags: `K3`. */
  things: ReadonlyMap<string, readonly Named[]>;
  terminals: ReadonlyMap<string, Terminals>;
  wires: ReadonlyMap<string, readonly KnownWire[]>;
  nets: ReadonlyMap<string, readonly KnownWire[]>;
  /** By the tags of devices. */
  pins: ReadonlyMap<string, ReadonlySet<string>>;
  /** Names that pins and nets have too: without their sign they may mean those. */
  otherwise: ReadonlySet<string>;
}

/** O(size of the design) */
export function namesOf(design: Design): Names {
  const look = lookUp(design);
  const whole = new Map<string, Named>();
  const things = new Map<string, Named[]>();
  const add = (kind: Named["kind"], of: string, place: string): void => {
    const own = tagOf(of) ?? { plant: "", place: "", thing: of };
    const named: Named = { kind, of, tag: { ...own, place: own.place || place.replace(/^\++/, "") } };
    if (!whole.has(of)) whole.set(of, named);
    pushTo(things, own.thing, named);
  };
  for (const d of look.devices.values()) add("device", d.tag, placeOf(look, d));
  for (const s of look.strips.values()) add("strip", s.tag, placeOfBar(look, s.rail));
  for (const c of look.cables.values()) add("cable", c.tag, "");
  const terminals = new Map<string, Map<string, string>>();
  for (const s of look.strips.values()) {
    const own = new Map<string, string>();
    for (const m of s.members) {
      const short = m.startsWith(s.tag) ? m.slice(s.tag.length).replace(/^[.:/]/, "") : "";
      if (short !== "" && !own.has(short)) own.set(short, m);
    }
    terminals.set(s.tag, own);
  }
  const wires = new Map<string, KnownWire[]>();
  const nets = new Map<string, KnownWire[]>();
  for (const w of look.wires) {
    pushTo(wires, w.wire.number, w);
    if (w.wire.net) pushTo(nets, w.wire.net, w);
  }
  const pins = new Map<string, Set<string>>();
  for (const d of look.devices.values()) {
    const part = look.parts.get(d.part);
    pins.set(d.tag, new Set(part ? look.pinNames(part) : []));
  }
  // Parts come without pins often enough: those that wires lead to are known all the same.
  for (const { wire } of look.wires)
    for (const end of [wire.from, wire.to]) if (end) pins.get(end.device)?.add(end.pin);
  const otherwise = new Set<string>([...look.nets.keys(), ...nets.keys()]);
  for (const own of pins.values()) for (const pin of own) otherwise.add(pin);
  return { look, whole, things, terminals, wires, nets, pins, otherwise };
}

const placeOf = (look: Lookup, { on, enclosure }: Device): string =>
  on?.face ? enclosureOf(on.face) : on?.rail ? placeOfBar(look, on.rail) : (enclosure ?? "");

const placeOfBar = (look: Lookup, rail: string): string => {
  const face = look.rails.get(rail)?.face;
  return face ? enclosureOf(face) : "";
};

/** Signs that stand around a tag and are no part of it. */
const AROUND = /^[([{"'„“”<]+|[)\]}"'“”>,;:.]+$/g;
const clean = (text: string): string => text.replace(AROUND, "");

type Meant = { named: Named; by: FoundBy } | { among: Named[] } | null;

/** `=B1/5` is a reference to another sheet. */
const PLAIN = /^[\w.]+$/;

/** What parts of tags a page says for all its tags: they stand alone on it, as in its frame. */
function saidOfPage(words: readonly Word[]): Pick<Tag, "plant" | "place"> {
  const plants = new Set<string>();
  const places = new Set<string>();
  for (const { text } of words) {
    const tag = /^[=+]/.test(text) ? tagOf(clean(text)) : null;
    if (!tag || tag.thing !== "") continue;
    if (PLAIN.test(tag.plant)) plants.add(tag.plant);
    if (PLAIN.test(tag.place)) places.add(tag.place);
  }
  // Where a page names several, none of them counts for all.
  const only = (all: Set<string>): string => (all.size === 1 ? [...all][0]! : "");
  return { plant: only(plants), place: only(places) };
}

const agrees = (said: string, own: string): boolean => said === "" || own === "" || said === own;
const fitting = (among: readonly Named[], said: Pick<Tag, "plant" | "place">): Named[] =>
  among.filter(({ tag }) => agrees(said.plant, tag.plant) && agrees(said.place, tag.place));

function meant(names: Names, text: string, page: Pick<Tag, "plant" | "place">): Meant {
  const exact = names.whole.get(text);
  if (exact) return { named: exact, by: "tag" };
  const tag = tagOf(text);
  if (tag) {
    if (tag.thing === "") return null;
    const among = fitting(names.things.get(tag.thing) ?? [], tag);
    return oneOf(among, tag, page);
  }
  if (!CALLED.test(text) || names.otherwise.has(text)) return null;
  return oneOf(names.things.get(text) ?? [], { plant: "", place: "" }, page);
}

function oneOf(among: readonly Named[], said: Pick<Tag, "plant" | "place">, page: Pick<Tag, "plant" | "place">): Meant {
  if (among.length === 0) return null;
  if (among.length === 1) return { named: among[0]!, by: "short tag" };
  const here = fitting(among, { plant: said.plant || page.plant, place: said.place || page.place });
  return here.length === 1 ? { named: here[0]!, by: "short tag" } : { among: here.length > 0 ? here : [...among] };
}

/** A tag with a pin (`-K1:A1`), a reference (`-K1/5.3`), a terminal (`-X2:3`, `X2.3`). */
function meantWith(names: Names, text: string, page: Pick<Tag, "plant" | "place">): Meant {
  const plain = meant(names, text, page);
  if (plain) return plain;
  const cut = /^(.+?)[:./](.+)$/.exec(text);
  if (!cut) return null;
  const [, head = "", rest = ""] = cut;
  const own = meant(names, head, page);
  if (!own || "among" in own || own.named.kind !== "strip") {
    // `=B1+A1-K1:A1` holds no sign of its own before the colon; a tag with a point in it does.
    const last = /^(.+)[:/]([^:/]+)$/.exec(text);
    return own ?? (last && last[1] !== head ? meant(names, last[1]!, page) : null);
  }
  const terminal = names.terminals.get(own.named.of)?.get(rest.split(/[:/]/)[0]!);
  return terminal ? { named: names.whole.get(terminal)!, by: "short tag" } : own;
}

/**
 * What of a design stands on a page, and where. Tags first, in full or with parts left out that the page says for all its tags, or that
 * only one thing can have; broken ones are put together. Then the numbers of terminals beside the tags of their strips; then wires by
 * their numbers and nets, where a device they lead to stands on the page too. O(words · strips named on the page) a page
 */
export function findOnPage(names: Names, page: Pick<PageText, "words">): PageFound {
  const { words } = page;
  const said = saidOfPage(words);
  const out: PageFound = { found: [], unclear: [], strange: [] };
  const taken = new Set<number>();
  const take = (at: readonly number[], kind: PlacedKind, of: string, by: FoundBy, text: string): void => {
    at.forEach((i) => taken.add(i));
    if (out.found.length < MOST_OF_PAGE) out.found.push({ kind, of, by, text, box: boxOf(at.map((i) => words[i]!)) });
  };
  for (let i = 0; i < words.length; i++) {
    const text = clean(words[i]!.text);
    let at = [i];
    let here = meantWith(names, text, said);
    for (let more = 1; !here && more <= 3 && nextTo(words, i + more - 1); more++) {
      const all = at.concat(i + more);
      const joined = meantWith(names, clean(all.map((k) => words[k]!.text).join("")), said);
      // What the next words say by themselves is not put together with this one.
      if (joined && !all.slice(1).some((k) => meantWith(names, clean(words[k]!.text), said))) here = joined;
      at = all;
    }
    if (!here) {
      const tag = tagOf(text.split(/[:/]/)[0]!);
      if (tag && CALLED.test(tag.thing) && out.strange.length < MOST_OF_PAGE)
        out.strange.push({ text, box: boxOf([words[i]!]) });
      continue;
    }
    const written = at.map((k) => words[k]!.text).join("");
    if ("among" in here) {
      taken.add(i);
      if (out.unclear.length < MOST_OF_PAGE)
        out.unclear.push({ text: written, box: boxOf([words[i]!]), among: here.among.map((n) => n.of) });
    } else take(at, here.named.kind, here.named.of, here.by, clean(written));
    i += at.length - 1;
  }
  terminalsBesideStrips(names, words, taken, out.found, take);
  wiresOf(names, words, taken, out.found, take);
  return out;
}

type Take = (at: readonly number[], kind: PlacedKind, of: string, by: FoundBy, text: string) => void;

/** Numbers to the right of the tag of a strip, up to the next such tag, and the one right under it. */
function terminalsBesideStrips(
  names: Names,
  words: readonly Word[],
  taken: ReadonlySet<number>,
  found: readonly Found[],
  take: Take,
): void {
  const all = found.filter((f) => f.kind === "strip");
  // Titles name strips too: where a page has the tag with its sign, that is where the terminals are.
  const signed = new Set(all.filter(isSigned).map((f) => f.of));
  const strips = all.filter((f) => isSigned(f) || !signed.has(f.of));
  if (strips.length === 0) return;
  words.forEach((w, i) => {
    if (taken.has(i)) return;
    const number = clean(w.text);
    const left = strips
      .filter(({ box }) => onRow(box, w) && box.x + box.w <= w.x)
      .reduce<Found | null>((best, s) => (!best || s.box.x > best.box.x ? s : best), null);
    const over = strips.find(({ box }) => {
      const gap = w.y - (box.y + box.h);
      return gap >= -0.3 * w.h && gap <= UNDER * w.h && w.x < box.x + box.w && w.x + w.w > box.x;
    });
    const strip = left ?? over;
    const terminal = strip && names.terminals.get(strip.of)?.get(number);
    if (terminal) take([i], "device", terminal, "row of its strip", number);
  });
}

const isSigned = ({ text }: Found): boolean => /^[-+=]/.test(text);

const onRow = (a: Box, b: Box): boolean => Math.abs(a.y + a.h / 2 - (b.y + b.h / 2)) <= ON_ROW * Math.min(a.h, b.h);

/** Numbers of one or two digits stand everywhere on a page: columns, pins, sheets. */
const TOO_SHORT = /^\d{1,2}$/;

function wiresOf(
  names: Names,
  words: readonly Word[],
  taken: ReadonlySet<number>,
  found: readonly Found[],
  take: Take,
): void {
  const here = new Set<string>();
  const pins = new Set<string>();
  for (const f of found) {
    if (f.kind !== "device") continue;
    here.add(f.of);
    for (const pin of names.pins.get(f.of) ?? []) pins.add(pin);
  }
  const leadsHere = ({ wire }: KnownWire): boolean =>
    [wire.from, wire.to].some((end) => end !== undefined && here.has(end.device));
  words.forEach((w, i) => {
    if (taken.has(i)) return;
    const text = clean(w.text);
    if (TOO_SHORT.test(text) || pins.has(text)) return;
    const numbered = (names.wires.get(text) ?? []).filter(leadsHere);
    const ofNet = numbered.length > 0 ? [] : (names.nets.get(text) ?? []).filter(leadsHere);
    for (const { id } of numbered) take([i], "wire", id, "number", text);
    for (const { id } of ofNet) take([i], "wire", id, "net", text);
  });
}

/** Whether the next word follows closely on the same line. */
function nextTo(words: readonly Word[], i: number): boolean {
  const [a, b] = [words[i]!, words[i + 1]];
  if (!b || a.line !== b.line) return false;
  const gap = Math.max(b.x - (a.x + a.w), a.x - (b.x + b.w), b.y - (a.y + a.h), a.y - (b.y + b.h));
  return gap <= NEAR * Math.min(a.size, b.size);
}

function boxOf(boxes: readonly Box[]): Box {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  const round = (n: number): number => Math.round(n * 10) / 10;
  return {
    x,
    y,
    w: round(Math.max(...boxes.map((b) => b.x + b.w)) - x),
    h: round(Math.max(...boxes.map((b) => b.y + b.h)) - y),
  };
}
