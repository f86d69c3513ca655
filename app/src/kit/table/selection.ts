/** Which rows are chosen, by their keys, and from which one a range is drawn. */
export interface Selection {
  keys: ReadonlySet<string>;
  /** Row that was chosen last: arrows go on from it. */
  at: string | null;
  /** Where a range begins. */
  from: string | null;
}

export const NONE: Selection = { keys: new Set(), at: null, from: null };

export const only = (key: string): Selection => ({ keys: new Set([key]), at: key, from: key });

/** All rows between two, both of them in. Rows that are not listed any more count for nothing. */
function between(order: readonly string[], a: string | null, b: string): Set<string> {
  const [i, j] = [a === null ? -1 : order.indexOf(a), order.indexOf(b)];
  return i < 0 ? new Set([b]) : new Set(order.slice(Math.min(i, j), Math.max(i, j) + 1));
}

/** A row is clicked: alone, with Shift the range to it, with Ctrl it alone comes or goes. */
export function clicked(
  now: Selection,
  key: string,
  order: readonly string[],
  { shift, ctrl }: { shift: boolean; ctrl: boolean },
): Selection {
  if (shift) return { keys: between(order, now.from, key), at: key, from: now.from ?? key };
  if (!ctrl) return only(key);
  const keys = new Set(now.keys);
  if (!keys.delete(key)) keys.add(key);
  return { keys, at: key, from: key };
}

/** Moves by so many rows; with Shift what lies between is chosen too. */
export function moved(now: Selection, by: number, order: readonly string[], shift: boolean): Selection {
  if (order.length === 0) return now;
  const here = now.at === null ? -1 : order.indexOf(now.at);
  const to = order[Math.min(order.length - 1, Math.max(0, here < 0 ? 0 : here + by))]!;
  return shift ? clicked(now, to, order, { shift: true, ctrl: false }) : only(to);
}

export const all = (order: readonly string[], now: Selection): Selection => ({ ...now, keys: new Set(order) });
