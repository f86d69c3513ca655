/** Names in lists of a design, and which of them stand there twice. */

/** What names an item of a list, whichever list it is; undefined where it has no name. */
export function nameOf(item: Record<string, unknown>): string | undefined {
  const { tag, number, key, name, core, enclosure, kind } = item;
  const own =
    tag ??
    number ??
    key ??
    name ??
    core ??
    (enclosure === undefined ? kind : `${enclosure as string}/${kind as string}`);
  return typeof own === "string" ? own : undefined;
}

const ownName = (item: unknown): string | undefined =>
  typeof item === "object" && item !== null ? nameOf(item as Record<string, unknown>) : undefined;

/** Every stage asks it of the same lists. */
const known = new WeakMap<readonly unknown[], ReadonlySet<string>>();

/** A list gone through last, by the first of its items: what an edit makes of it differs in few of them. */
const last = new WeakMap<object, readonly unknown[]>();

/**
 * Names that several items of a list have. Items of one name are kept whole when a stage reads them: which of them counts is decided
 * by their content, and every stage must come to the same answer. O(list), and next to nothing where the names were gone through before
 * @param name of an item, where more is known of the list; the same as `nameOf` says
 */
export function namedTwice<T>(
  list: readonly T[],
  name: (item: T) => string | undefined = ownName,
): ReadonlySet<string> {
  const told = known.get(list);
  if (told) return told;
  const first: unknown = list[0];
  const before =
    typeof first === "object" && first !== null ? (last.get(first) as readonly T[] | undefined) : undefined;
  const sameAsBefore =
    before?.length === list.length && list.every((item, i) => item === before[i] || name(item) === name(before[i]!));
  const twice = sameAsBefore ? known.get(before)! : gatherTwice(list, name);
  known.set(list, twice);
  if (typeof first === "object" && first !== null) last.set(first, list);
  return twice;
}

function gatherTwice<T>(list: readonly T[], nameOf: (item: T) => string | undefined): ReadonlySet<string> {
  const seen = new Set<string>();
  const twice = new Set<string>();
  for (const item of list) {
    const name = nameOf(item);
    if (name === undefined) continue;
    if (seen.has(name)) twice.add(name);
    seen.add(name);
  }
  return twice;
}

/** Says of a list that its items are named as those of another one. */
export function sameNames(list: readonly unknown[], as: readonly unknown[]): void {
  known.set(list, namedTwice(as));
}
