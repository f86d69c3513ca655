/**
 * Computing again after a small change: what was worked out before is looked up by the very things it was worked out from.
 * Nothing of it can change a result: the same things, the same outcome. It is dropped when the things are.
 */

/** Whether two lists hold the very same things in the same order. O(n) */
export const sameThings = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((thing, i) => thing === b[i]);

/**
 * What was worked out of a thing in a setting of others, of each thing the last. The setting counts by what it holds: another
 * one of the same things is the same.
 */
export class Again<Thing extends object, Outcome> {
  readonly #known = new WeakMap<Thing, { setting: readonly unknown[]; outcome: Outcome }>();

  /** The outcome known, or the one made now. O(setting) */
  of(thing: Thing, setting: readonly unknown[], make: () => Outcome): Outcome {
    const known = this.#known.get(thing);
    if (known && sameThings(known.setting, setting)) return known.outcome;
    const outcome = make();
    this.#known.set(thing, { setting, outcome });
    return outcome;
  }
}
