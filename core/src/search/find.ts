import type { Thing } from "../design/open-points";
import { searchPattern } from "../design/wildcards";
import type { Entry, Found } from "./entries";

/** Kinds of things that may be named before a name: `wire 214`. */
const KINDS: Readonly<Record<string, Thing>> = {
  device: "device",
  terminal: "device",
  wire: "wire",
  w: "wire",
  lead: "wire",
  cable: "cable",
  duct: "duct",
  rail: "rail",
  crossing: "crossing",
  net: "net",
  strip: "strip",
  part: "part",
  enclosure: "enclosure",
  cabinet: "enclosure",
  face: "face",
};

/** Of things that fit alike those come first that are looked for most. */
const ORDER: readonly Thing[] = [
  "device",
  "wire",
  "strip",
  "cable",
  "duct",
  "rail",
  "face",
  "enclosure",
  "crossing",
  "net",
  "part",
];

/** How well something fits what was typed; the smaller the better. */
const FIT = {
  /** It is called so, letter case apart. */
  name: 0,
  /** So too without its sign; a net, of which there are many of any name. */
  sign: 0.5,
  /** So too when all signs stand for one another: `X5:2`, `-X5.2`. */
  signs: 1,
  /** It has the pin that was asked for, or stands beside all that was typed. */
  with: 2,
  /** So too when signs are left out: `OHK9`, `K 13`. */
  bare: 3,
  /** It is what the asked for is a part of. */
  whole: 4,
  begins: 5,
  has: 6,
  text: 7,
  slip: 8,
} as const;

const SIGNS = /[-+=]+/g;

/** Dashes, spaces and quotes of other programs as they are typed; signs that cannot be seen left out. */
export const typed = (text: string): string =>
  text
    .normalize("NFKC")
    .replace(/[\u00AD\u200B-\u200F\u202A-\u202E\u2060-\u2064\uFEFF]/g, "")
    .replace(/[\u2010-\u2015\u2212]/g, "-")
    .replace(/\s+/g, " ")
    .trim()
    .toLowerCase();

/** A name with one sign between its parts: `+A1-K13` is `a1.k13`. */
const keyOf = (name: string): string =>
  name
    .replace(SIGNS, ".")
    .replace(/[\s:/.,;]+/g, ".")
    .replace(/^\.|\.$/g, "");

const bareOf = (key: string): string => key.replaceAll(".", "");

interface Name {
  /** As it is called, in small letters. */
  name: string;
  key: string;
  bare: string;
}

const nameOf = (text: string): Name => {
  const name = typed(text);
  const key = keyOf(name);
  return { name, key, bare: bareOf(key) };
};

/** One way of reading what was typed. */
interface Reading {
  kind: Thing | null;
  said: Name;
  words: string[];
  /** No better than this, as it is a guess: `w21` is duct W21 before it is wire 21. */
  least: number;
  /** Of `-K13:13`: `k13` and `13`. */
  whole: { key: string; last: string } | null;
}

const withoutSign = (name: string): string => name.replace(/^[-+=]+/, "");

/** What was typed, read as it stands; and, where it begins with a kind of thing, as the name of one. */
function readings(query: string): Reading[] {
  const reading = (kind: Thing | null, text: string, least = 0): Reading => {
    const said = nameOf(text);
    const dot = said.key.lastIndexOf(".");
    return {
      kind,
      said,
      words: text.split(" "),
      least,
      whole: dot > 0 ? { key: said.key.slice(0, dot), last: said.key.slice(dot + 1) } : null,
    };
  };
  const [first, ...rest] = query.split(" ");
  const kind = KINDS[first!] ?? KINDS[first!.replace(/s$/, "")];
  const named = kind === undefined ? [] : [reading(kind, rest.join(" "))];
  const numbered = /^w(\d+)$/.exec(query);
  return [reading(null, query), ...named, ...(numbered ? [reading("wire", numbered[1]!, FIT.with)] : [])];
}

/** Whether two texts are one slip of the finger apart: a letter more, less, another, or two that changed places. O(letters) */
export function slipOf(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1 || a === b) return false;
  let at = 0;
  while (at < a.length && a[at] === b[at]) at++;
  const [restA, restB] = [a.slice(at), b.slice(at)];
  return (
    restA.slice(1) === restB.slice(1) ||
    restA.slice(1) === restB ||
    restA === restB.slice(1) ||
    (restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2))
  );
}

/** Names of fewer letters are all a slip apart. */
const LEAST_LETTERS = 4;

/** Whether a rank is that of something that was called by its name, not only spoken of. */
export const isNamed = (rank: number): boolean => rank <= FIT.whole;

/** Whether it was found as a slip of the finger: no hit where something fits. */
export const isGuess = (rank: number): boolean => rank >= FIT.slip;

export interface Hit {
  found: Found;
  /** The smaller the better; comparable between lists. */
  rank: number;
}

/** What can be searched for, made ready once. */
export class Finder {
  readonly #all: { entry: Entry; names: Name[]; text: string; order: number }[];

  /** O(letters of all names) */
  constructor(entries: readonly Entry[]) {
    this.#all = entries.map((entry) => ({
      entry,
      names: [entry.of, ...(entry.also ?? [])].map(nameOf),
      text: typed(entry.text),
      order: ORDER.indexOf(entry.thing),
    }));
  }

  get size(): number {
    return this.#all.length;
  }

  /**
   * What fits what a person typed, best first: signs, spaces and letter case do not matter, a kind may stand before the name, `*` stands
   * for any text and `?` for one character of a name. Where nothing fits, what is a slip of the finger away. O(letters of all)
   */
  find(query: string, most: number): Hit[] {
    const q = typed(query);
    if (q === "") return [];
    const ways = readings(q);
    const wild = /[*?]/.test(q);
    let hits = wild ? this.#wild(ways) : this.#fitting(ways);
    if (hits.length === 0 && !wild) hits = this.#slips(ways);
    return hits
      .map((hit, i) => ({ ...hit, i }))
      .sort((a, b) => a.rank - b.rank || a.order - b.order || a.i - b.i)
      .slice(0, most)
      .map(({ found, rank }) => ({ found, rank }));
  }

  #fitting(ways: readonly Reading[]): (Hit & { order: number })[] {
    return this.#all.flatMap(({ entry, names, text, order }) => {
      let best: Hit | null = null;
      for (const way of ways) {
        const hit = fits(entry, names, text, way);
        const rank = hit && Math.max(hit.rank, way.least);
        if (hit && rank !== null && (!best || rank < best.rank)) best = { ...hit, rank };
      }
      return best ? [{ ...best, order }] : [];
    });
  }

  #wild(ways: readonly Reading[]): (Hit & { order: number })[] {
    const patterns = ways.map(({ kind, said }) => ({ kind, pattern: searchPattern(said.name) }));
    return this.#all.flatMap(({ entry, names, order }) =>
      patterns.some(
        ({ kind, pattern }) =>
          (kind === null || kind === entry.thing) &&
          names.some(({ name }) => pattern.test(name) || pattern.test(withoutSign(name))),
      )
        ? [{ found: foundOf(entry), rank: FIT.with, order }]
        : [],
    );
  }

  #slips(ways: readonly Reading[]): (Hit & { order: number })[] {
    return this.#all.flatMap(({ entry, names, text, order }) => {
      const near = ways.some(
        ({ kind, said, words }) =>
          said.bare.length >= LEAST_LETTERS &&
          (kind === null || kind === entry.thing) &&
          (names.some((n) => slipOf(n.bare, said.bare)) || nearWords(text.split(/[\s,]+/), words)),
      );
      return near ? [{ found: foundOf(entry), rank: FIT.slip, order }] : [];
    });
  }
}

/** Whether each of the words is one of a text, or a slip away from one. */
const nearWords = (text: readonly string[], words: readonly string[]): boolean =>
  words.every((w) => text.some((t) => t === w || (w.length >= LEAST_LETTERS && slipOf(t, w))));

const foundOf = ({ thing, of, text, uses }: Entry, pin?: string): Found => ({
  thing,
  of,
  text,
  ...(uses === undefined ? {} : { uses }),
  ...(pin === undefined ? {} : { pin }),
});

function fits(entry: Entry, names: readonly Name[], text: string, { kind, said, words, whole }: Reading): Hit | null {
  if (kind !== null && kind !== entry.thing) return null;
  const hit = (rank: number, pin?: string): Hit => ({ found: foundOf(entry, pin), rank });
  // A kind alone is all of them.
  if (said.name === "") return hit(FIT.text);
  for (const n of names)
    if (withoutSign(n.name) === withoutSign(said.name))
      return hit(n.name === said.name && entry.thing !== "net" ? FIT.name : FIT.sign);
  for (const n of names) if (n.key === said.key) return hit(FIT.signs);
  if (whole && names.some((n) => n.key === whole.key)) {
    const last = words.at(-1)!.split(":").at(-1);
    const pin = entry.pins?.find((p) => typed(p) === last) ?? entry.pins?.find((p) => keyOf(typed(p)) === whole.last);
    if (pin !== undefined) return hit(FIT.with, pin);
  }
  const [first, ...rest] = words;
  if (rest.length > 0 && names.some((n) => n.key === keyOf(first!)) && rest.every((word) => text.includes(word)))
    return hit(FIT.with);
  for (const n of names) if (n.bare === said.bare && said.bare !== "") return hit(FIT.bare);
  if (whole && names.some((n) => n.key === whole.key)) return hit(FIT.whole);
  // What stands in an enclosure does not begin with what was typed because the enclosure does.
  const own = said.key.includes(".") ? names : names.slice(0, 1);
  for (const n of own) if (n.key.startsWith(said.key) && said.key !== "") return hit(FIT.begins);
  for (const n of own)
    if ((n.bare.includes(said.bare) && said.bare !== "") || n.name.includes(said.name)) return hit(FIT.has);
  return words.every((word) => text.includes(word)) ? hit(FIT.text) : null;
}

/** Entries that fit what was typed, best first. */
export const findEntries = (entries: readonly Entry[], query: string, most: number): Found[] =>
  new Finder(entries).find(query, most).map((h) => h.found);
