import type { Design } from "./model";
import type { Thing } from "./open-points";

/** Something that can be searched for. */
export interface Entry {
  thing: Thing;
  of: string;
  /** What stands beside it: part text, ends of a wire. */
  text: string;
  /** Of a part: devices, rails, ducts, wires and cables that are of it. */
  uses?: number;
}

/** Everything of a design that has a tag, number or name, in the order of the design. */
export function searchEntries(design: Design): Entry[] {
  const parts = new Map(design.parts.map((p) => [p.number, p.text]));
  const uses = new Map<string, number>();
  const use = (part: string | undefined): void => {
    if (part !== undefined) uses.set(part, (uses.get(part) ?? 0) + 1);
  };
  for (const { part } of [...design.devices, ...design.rails, ...design.ducts]) use(part);
  for (const { type } of [...design.wires, ...design.cables]) use(type);
  for (const { jumpers = [] } of design.strips) for (const { part } of jumpers) use(part);
  const entry = (thing: Thing, of: string, text: string): Entry => ({ thing, of, text });
  return [
    ...design.devices.map((d) => entry("device", d.tag, [parts.get(d.part) ?? d.part, ...(d.texts ?? [])].join(", "))),
    ...design.wires.map((w) =>
      entry("wire", w.number, `${endText(w.from)} to ${endText(w.to)}${w.net ? `, ${w.net}` : ""}`),
    ),
    ...design.ducts.map((d) => entry("duct", d.tag, `duct on ${d.face}`)),
    ...design.rails.map((r) => entry("rail", r.tag, `rail on ${r.face}`)),
    ...design.crossings.map((c) => entry("crossing", c.tag, c.kind)),
    ...design.nets.map((n) => entry("net", n.name, n.class ?? "no class")),
    ...design.cables.map((c) => entry("cable", c.tag, [c.from, c.to].filter(Boolean).join(" to "))),
    ...design.strips.map((s) => entry("strip", s.tag, `${s.members.length} members`)),
    ...design.parts.map((p): Entry => {
      const count = uses.get(p.number);
      return { ...entry("part", p.number, p.text), ...(count === undefined ? {} : { uses: count }) };
    }),
    ...design.enclosures.map((e) => entry("enclosure", e.tag, e.text ?? "")),
  ];
}

const endText = (end: { device: string; pin: string } | undefined): string => (end ? `${end.device}:${end.pin}` : "?");

/** What a person typed, as a text is held against it. */
export interface SearchPattern {
  test(text: string): boolean;
}

/**
 * A pattern for what a person typed: `*` stands for any text, `?` for one character, letter case
 * does not matter. Without a wildcard it matches anywhere in the name. O(text · query) at most, however many stars there are
 */
export function searchPattern(query: string): SearchPattern {
  const wanted = query.toLowerCase();
  if (!/[*?]/.test(wanted)) return { test: (text) => text.toLowerCase().includes(wanted) };
  return { test: (text) => fitsWild(text.toLowerCase(), wanted) };
}

/** Where a star took too little it takes one sign more: only the last star ever has to. */
function fitsWild(text: string, wanted: string): boolean {
  let [at, of] = [0, 0];
  let star = -1;
  let taken = 0;
  while (at < text.length) {
    if (wanted[of] === "*") {
      star = of++;
      taken = at;
    } else if (of < wanted.length && (wanted[of] === "?" || wanted[of] === text[at])) {
      at++;
      of++;
    } else if (star >= 0) {
      of = star + 1;
      at = ++taken;
    } else return false;
  }
  while (wanted[of] === "*") of++;
  return of === wanted.length;
}

/**
 * Entries whose name (or, without wildcards, whose text) matches. Names that equal the query come
 * first, then names that begin with it, then the rest; each in the order given.
 */
export function findEntries<T extends Entry>(entries: readonly T[], query: string, most: number): T[] {
  const q = query.trim();
  if (q === "") return [];
  const pattern = searchPattern(q);
  const bare = q.replace(/^[-+=]/, "").toLowerCase();
  const rank = (e: Entry): number => {
    const name = e.of.toLowerCase();
    const short = name.replace(/^[-+=]/, "");
    if (name === q.toLowerCase() || short === bare) return 0;
    if (name.startsWith(q.toLowerCase()) || short.startsWith(bare)) return 1;
    return pattern.test(e.of) ? 2 : 3;
  };
  const wild = /[*?]/.test(q);
  const names = (e: Entry): boolean => pattern.test(e.of) || (wild && pattern.test(e.of.replace(/^[-+=]/, "")));
  return entries
    .filter((e) => names(e) || (!wild && pattern.test(e.text)))
    .map((e, i) => ({ e, i, r: rank(e) }))
    .sort((a, b) => a.r - b.r || a.i - b.i)
    .slice(0, most)
    .map(({ e }) => e);
}
