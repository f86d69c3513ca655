import { objectOf, just, type ValueOf } from "../form/form";
import { MOST_FAULTS, type Fault } from "../design/faults";
import { contentHash } from "../design/hash";
import { NOT_TOLD, type Category, type Design, type Part } from "../design/model";
import { readFile, type FileKind, type FileRead } from "../design/read";
import { LIBRARY_FIELDS, type LibraryPart } from "../design/schema";

/** Parts of the shop, by number: what is known of them once, for every job. */
export interface Library {
  parts: LibraryPart[];
}

export type { LibraryPart } from "../design/schema";

export const LIBRARY_FORMAT = "gray-bench-library";
export const LIBRARY_VERSION = 1;

const libraryFile = objectOf({
  ...LIBRARY_FIELDS,
  format: just(LIBRARY_FORMAT),
  version: just(LIBRARY_VERSION),
});

const KIND: FileKind<ValueOf<typeof libraryFile>> = {
  what: "a library",
  format: LIBRARY_FORMAT,
  version: LIBRARY_VERSION,
  schema: libraryFile,
};

/** Reads a library file, `*.library.json`. Never throws on any text. Two parts of one number are a fault. */
export function readLibrary(text: string): FileRead<Library> {
  const read = readFile(text, KIND);
  if (!read.ok) return read;
  const seen = new Map<string, number>();
  const faults: Fault[] = [];
  const take = (number: string, i: number, path: string): void => {
    const first = seen.get(number);
    seen.set(number, first ?? i);
    if (first !== undefined)
      faults.push({ path, found: `${number}, which parts[${first}] has already`, expected: "each number once" });
  };
  for (const [i, { number }] of read.value.parts.entries()) take(number, i, `parts[${i}].number`);
  for (const [i, { alsoAs = [] }] of read.value.parts.entries())
    for (const [n, number] of alsoAs.entries()) take(number, i, `parts[${i}].alsoAs[${n}]`);
  if (faults.length > 0) return { ok: false, faults: faults.slice(0, MOST_FAULTS), count: faults.length };
  return { ok: true, value: { parts: read.value.parts } };
}

/** A library as a file; reads back to it. A line for each part, so that two versions compare well. */
export const libraryText = ({ parts }: Library): string =>
  `{\n  "format": "${LIBRARY_FORMAT}",\n  "version": ${LIBRARY_VERSION},\n  "parts": [\n    ${parts.map((p) => JSON.stringify(p)).join(",\n    ")}\n  ]\n}\n`;

/** Equal libraries, equal hashes, whatever the order of their parts. */
export const libraryHash = ({ parts }: Library): string =>
  contentHash([...parts].sort((a, b) => (a.number < b.number ? -1 : 1)));

/** A library with parts written anew, or added behind the others, and without some. O(parts) */
export function withParts({ parts }: Library, written: readonly LibraryPart[], gone: readonly string[] = []): Library {
  const next = new Map(written.map((p) => [p.number, p]));
  const out = new Set(gone);
  const kept = parts.flatMap((p) => (out.has(p.number) ? [] : (next.get(p.number) ?? p)));
  const known = new Set(parts.map((p) => p.number));
  return { parts: [...kept, ...[...next.values()].filter((p) => !known.has(p.number) && !out.has(p.number))] };
}

/** Numbers of parts that one library has and the other not, or says something else of. */
export interface LibraryChanges {
  added: string[];
  gone: string[];
  changed: string[];
}

/** What differs between two libraries. O(parts) */
export function libraryChanges(before: Library, after: Library): LibraryChanges {
  const was = new Map(before.parts.map((p) => [p.number, p]));
  const is = new Map(after.parts.map((p) => [p.number, p]));
  return {
    added: [...is.keys()].filter((n) => !was.has(n)).sort(),
    gone: [...was.keys()].filter((n) => !is.has(n)).sort(),
    changed: [...is].flatMap(([n, p]) => (was.has(n) && contentHash(was.get(n)) !== contentHash(p) ? [n] : [])).sort(),
  };
}

/** Without these nothing can be placed: a part that lacks one of them stays unknown. */
const NEEDED = ["w", "h", "d"] as const;

/** Kinds of parts that stages choose among though no list names them: reels, what is hung on strips, what cools. */
const CHOSEN: ReadonlySet<Category> = new Set(["terminal accessory", "wire"]);
const isChosen = (p: LibraryPart): boolean =>
  (p.category !== undefined && CHOSEN.has(p.category)) || p.climate !== undefined || p.cooling !== undefined;

/** Numbers that a design names, and that parts name which it names. */
function named(design: Design, known: ReadonlyMap<string, LibraryPart>): Set<string> {
  const numbers = new Set<string>();
  const open: string[] = [];
  const add = (number: string | undefined): void => {
    if (number === undefined || number === NOT_TOLD || numbers.has(number)) return;
    numbers.add(number);
    open.push(number);
  };
  for (const { part } of [...design.devices, ...design.rails, ...design.ducts]) add(part);
  for (const { type } of [...design.wires, ...design.cables]) add(type);
  for (const { jumpers = [] } of design.strips) for (const { part } of jumpers) add(part);
  for (const p of known.values()) if (isChosen(p)) add(p.number);
  const own = new Map(design.parts.map((p) => [p.number, p]));
  for (let number = open.pop(); number !== undefined; number = open.pop()) {
    const parts = [own.get(number), known.get(number)];
    for (const p of parts) {
      add(p?.terminal?.endPlate);
      add(p?.climate?.exit);
      for (const other of p?.alternates ?? []) add(other);
    }
  }
  return numbers;
}

/** What stands for nothing: tables that say only a size leave the rest of a part so. */
function isSaid(part: Part, field: keyof Part): boolean {
  if (part[field] === undefined) return false;
  if (field === "maker") return part.maker !== NOT_TOLD;
  if (field === "text") return part.text !== part.number;
  return field !== "category" || part.category !== "other";
}

/** A part with what the library knows and it does not say itself; null where it stays without a size. */
function completed(number: string, own: Part | undefined, { alsoAs: _, ...known }: LibraryPart): Part | null {
  if (!own && NEEDED.some((f) => known[f] === undefined)) return null;
  const part: Part = own ?? {
    number,
    maker: NOT_TOLD,
    text: number,
    category: "other",
    w: 0,
    h: 0,
    d: 0,
  };
  const from = (Object.keys(known) as (keyof typeof known)[]).filter(
    (f) => f !== "number" && known[f] !== undefined && (!own || !isSaid(own, f)) && known[f] !== part[f],
  );
  if (from.length === 0) return part;
  const said = Object.fromEntries(from.map((f) => [f, known[f]]));
  return { ...part, ...said, fromLibrary: [...new Set([...(part.fromLibrary ?? []), ...from])].sort() };
}

/**
 * A design with what the library knows of its parts, **field by field**: what the design says of a part stands, what it leaves out comes
 * from the library and is named in `fromLibrary`. Parts that the design names and does not describe are added, with those that stages
 * choose among. Stages see the completed design and know nothing of it. O(things + parts of the library)
 */
export function complete(design: Design, library: Library): Design {
  if (library.parts.length === 0) return design;
  const known = new Map(library.parts.flatMap((p) => (p.alsoAs ?? []).map((number) => [number, p] as const)));
  for (const p of library.parts) known.set(p.number, p);
  const numbers = named(design, known);
  const parts = design.parts.map((own) => {
    const there = known.get(own.number);
    return there ? completed(own.number, own, there)! : own;
  });
  const described = new Set(design.parts.map((p) => p.number));
  const added = [...numbers].filter((n) => !described.has(n)).sort();
  for (const number of added) {
    const there = known.get(number);
    const part = there && completed(number, undefined, there);
    if (part) parts.push(part);
  }
  return { ...design, parts };
}
