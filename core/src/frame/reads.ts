import { sameThings } from "./again";
import { contentHash, textHash } from "../design/hash";
import { namedTwice, nameOf, sameNames } from "../design/names";
import { DESIGN_FORMAT, DESIGN_VERSION, type Design } from "../design/model";
import type { Shop } from "../shop/shop";

/**
 * Which fields of a value are read: all of it, or field by field. Of a list the fields of its items,
 * of a record with names as keys those of every entry, under `*`.
 */
export type Reads<T> =
  | true
  | (NonNullable<T> extends readonly (infer U)[]
      ? Reads<U>
      : NonNullable<T> extends object
        ? { readonly [K in keyof NonNullable<T>]?: Reads<NonNullable<T>[K]> } | { readonly "*": unknown }
        : never);

/** What a stage reads of the design and of the shop. All else is taken away before the stage sees it. */
export interface StageReads {
  design: Exclude<Reads<Design>, true | { readonly "*": unknown }>;
  shop?: Exclude<Reads<Shop>, true | { readonly "*": unknown }>;
}

type Tree = true | { readonly [field: string]: Tree };

function project(value: unknown, reads: Tree): unknown {
  if (reads === true || typeof value !== "object" || value === null) return value;
  if (Array.isArray(value)) {
    const twice = namedTwice(value);
    const whole = (item: unknown): boolean =>
      twice.size > 0 && twice.has(nameOf(item as Record<string, unknown>) ?? "\u0000");
    return value.map((item: unknown) => (whole(item) ? item : project(item, reads)));
  }
  const out: Record<string, unknown> = {};
  const fields = value as Record<string, unknown>;
  const names = "*" in reads ? Object.keys(fields) : Object.keys(reads);
  for (const name of names) {
    const field = fields[name];
    if (field !== undefined) out[name] = project(field, reads["*"] ?? reads[name]!);
  }
  return out;
}

/** A value as a stage sees it. */
interface Part {
  value: unknown;
  /** Of its JSON; worked out when first asked for. */
  hash(): string;
}

const part = (value: unknown, text: () => string): Part => {
  let hash: string | undefined;
  return { value, hash: () => (hash ??= textHash(text())) };
};

const partFor = (value: unknown): Part => part(value, () => JSON.stringify(value) ?? "null");

const known = new WeakMap<object, Map<Tree, Part>>();

/** What was made of a value for a reading. Kept as long as the value lives: edits share what they leave alone. */
function kept(value: object, reads: Tree, make: () => Part): Part {
  let byReads = known.get(value);
  if (!byReads) known.set(value, (byReads = new Map()));
  let made = byReads.get(reads);
  if (!made) byReads.set(reads, (made = make()));
  return made;
}

/** A list item by item: those that stand in an earlier list too are not gone through again. */
function listPart(list: readonly unknown[], reads: Tree): Part {
  const twice = namedTwice(list);
  const values: unknown[] = [];
  const all: Part[] = [];
  for (let i = 0; i < list.length; i += STRETCH) {
    const items = list.slice(i, i + STRETCH);
    const one = stretchPart(items, reads, twice);
    for (const value of one.value as unknown[]) values.push(value);
    all.push(one);
  }
  if (twice.size === 0) sameNames(values, list);
  return part(values, () => all.map((s) => s.hash()).join(" "));
}

/** Items of a list that are looked up together: an edit leaves all but one or two of such stretches as they are. */
const STRETCH = 128;

const stretches = new WeakMap<object, Map<Tree, { items: readonly unknown[]; part: Part }>>();

/** Of so many items that follow each other; looked up by the first of them where the very same stand in it again. */
function stretchPart(items: readonly unknown[], reads: Tree, twice: ReadonlySet<string>): Part {
  const [first] = items;
  // Which of them are kept whole hangs on the rest of their list.
  const known = twice.size === 0 && typeof first === "object" && first !== null ? stretches.get(first) : undefined;
  const before = known?.get(reads);
  if (before && sameThings(before.items, items)) return before.part;
  const parts = items.map((item): Part => {
    if (typeof item !== "object" || item === null) return partFor(item);
    const whole = twice.size > 0 && twice.has(nameOf(item as Record<string, unknown>) ?? "\u0000");
    return kept(item, whole ? true : reads, () => partFor(whole ? item : project(item, reads)));
  });
  const made = part(
    parts.map((p) => p.value),
    () => textHash(parts.map((p) => p.hash()).join(" ")),
  );
  if (twice.size === 0 && typeof first === "object" && first !== null) {
    const by = known ?? new Map<Tree, { items: readonly unknown[]; part: Part }>();
    by.set(reads, { items, part: made });
    stretches.set(first, by);
  }
  return made;
}

const partOf = (value: object, reads: Tree): Part =>
  kept(value, reads, () => (Array.isArray(value) ? listPart(value, reads) : partFor(project(value, reads))));

const EMPTY: Design = {
  format: DESIGN_FORMAT,
  version: DESIGN_VERSION,
  job: { code: "", title: "", revision: "" },
  enclosures: [],
  faces: [],
  rails: [],
  ducts: [],
  crossings: [],
  parts: [],
  devices: [],
  nets: [],
  wires: [],
  cables: [],
  strips: [],
  options: [],
  rules: {},
  attachments: [],
};

/** Design and shop as a stage sees them. */
export interface Reading {
  design: Design;
  shop: Shop;
}

/** The fields of a value that are read, by name, those that are there. */
function take<T extends object>(from: T, reads: object): [field: string, part: Part][] {
  return (Object.entries(reads) as [keyof T & string, Tree][]).flatMap(([field, tree]): [string, Part][] => {
    const value: unknown = from[field];
    if (value === undefined) return [];
    return [[field, typeof value === "object" && value !== null ? partOf(value, tree) : partFor(value)]];
  });
}

const valuesOf = (parts: [string, Part][]): Record<string, unknown> =>
  Object.fromEntries(parts.map(([field, { value }]) => [field, value]));

/**
 * What a stage reads. Lists it does not name are empty, fields it does not name are absent.
 * O(size of what is read); lists that stand in an earlier design too are not gone through again.
 */
export const readFor = (reads: StageReads, design: Design, shop: Shop): Reading => ({
  design: { ...EMPTY, ...valuesOf(take(design, reads.design)) },
  shop: valuesOf(take(shop, reads.shop ?? {})) as unknown as Shop,
});

// What is read stands in the order of its description: no need to sort the fields.
const hashesOf = (parts: [string, Part][]): string[] => parts.map(([field, { hash }]) => `${field} ${hash()}`);

/** The hash of what a stage reads of a shop. */
export const shopHashFor = (reads: StageReads, shop: Shop): string =>
  contentHash(hashesOf(take(shop, reads.shop ?? {})));

/** The hash of what a stage reads. Cost as of `readFor`. */
export const hashFor = (reads: StageReads, design: Design, shop: Shop): string =>
  contentHash([hashesOf(take(design, reads.design)), shopHashFor(reads, shop)]);
