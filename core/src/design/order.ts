import { canonicalJson } from "./canonical";

/**
 * Order without regard to the place in the file. Where one of several things must count, the thing
 * itself decides, so that two files with the same things in another order give the same results.
 */

/** Compares by code units: the same on every machine. */
export const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** Compares as people count: `2` before `10`, `-X2.9` before `-X2.10`. The same on every machine. */
export const byCount = (a: string, b: string): number => byParts(a.split(DIGITS), b.split(DIGITS)) || byText(a, b);

/** Texts as people count, each taken apart once. O(n log n) */
export const sortedByCount = (texts: readonly string[]): string[] =>
  texts
    .map((text) => ({ text, parts: text.split(DIGITS) }))
    .sort((a, b) => byParts(a.parts, b.parts) || byText(a.text, b.text))
    .map((t) => t.text);

function byParts(one: readonly string[], two: readonly string[]): number {
  for (let i = 0; i < Math.min(one.length, two.length); i++) {
    const [p, q] = [one[i]!, two[i]!];
    // Every second piece is a number.
    const differ = i % 2 === 1 ? Number(p) - Number(q) : byText(p, q);
    if (differ !== 0) return differ;
  }
  return one.length - two.length;
}

const DIGITS = /(\d{1,15})/;

/** Puts a thing to the others of its name. */
export function pushTo<K, T>(map: Map<K, T[]>, key: K, item: T): void {
  const there = map.get(key);
  if (there) there.push(item);
  else map.set(key, [item]);
}

/** The one that counts of several with one name: the first by content. Undefined for an empty list. */
export function oneOf<T>(items: readonly T[]): T | undefined {
  if (items.length < 2) return items[0];
  return items.map((item) => ({ item, text: canonicalJson(item) })).sort((a, b) => byText(a.text, b.text))[0]!.item;
}

/**
 * Things by name; of several with one name the first by content. The map keeps the order of the list.
 * O(n), plus the writing out of those that share a name.
 */
export function mapBy<T>(items: readonly T[], key: (item: T) => string): Map<string, T> {
  const map = new Map<string, T>();
  const rivals = new Map<string, T[]>();
  for (const item of items) {
    const name = key(item);
    const first = map.get(name);
    if (first === undefined) {
      map.set(name, item);
      continue;
    }
    if (!rivals.has(name)) rivals.set(name, [first]);
    rivals.get(name)!.push(item);
  }
  for (const [name, all] of rivals) map.set(name, oneOf(all)!);
  return map;
}

/** What a record says under a name that people give: never what every object has of itself, such as `toString`. */
export const own = <T>(record: Readonly<Record<string, T>> | undefined, name: string): T | undefined =>
  record && Object.hasOwn(record, name) ? record[name] : undefined;
