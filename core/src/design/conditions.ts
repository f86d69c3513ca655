import type { Design, Option, When } from "./model";
import { holds } from "./lookup";

/** A condition in words: `with lift fitted or half, and door left`. */
export const conditionText = (when: When): string =>
  Object.entries(when)
    .map(([key, wanted]) => `${key} ${[wanted].flat().join(" or ")}`)
    .join(" and ");

/** With which choices two things are there at once: where they have no choice of an option in common, what the other one says of it. */
export function withBoth(one: When | undefined, other: When): When {
  const both: When = { ...one };
  for (const [key, wanted] of Object.entries(other)) {
    const own = one?.[key];
    const common = own === undefined ? [] : [own].flat().filter((c) => [wanted].flat().includes(c));
    both[key] = common.length > 1 ? common : (common[0] ?? wanted);
  }
  return both;
}

/** Choices of options that a few conditions name: more of them together are not looked through. */
const MOST_CASES = 20_000;

/**
 * A choice of options under which one thing is there and none of some others is: they can be left behind by a choice. Null where
 * there is none, and where there are more cases than are looked through. O(cases of the options that are named)
 * @param others conditions of what may stand in for each other; undefined: always there
 */
export function leftBehind(
  options: Design["options"],
  one: When | undefined,
  others: readonly (When | undefined)[],
): ReadonlyMap<string, string> | null {
  if (others.some((w) => w === undefined)) return null;
  const keys = new Set([one, ...others].flatMap((w) => Object.keys(w ?? {})));
  const named = options.filter((o) => keys.has(o.key));
  return firstCase(named, (chosen) => holds(one, chosen) && !others.some((w) => holds(w, chosen))) ?? null;
}

/** Whether there is a choice of options under which all conditions hold; true where there are too many cases to say. */
export function everTogether(options: Design["options"], conditions: readonly (When | undefined)[]): boolean {
  const keys = new Set(conditions.flatMap((w) => Object.keys(w ?? {})));
  const named = options.filter((o) => keys.has(o.key));
  return firstCase(named, (chosen) => conditions.every((w) => holds(w, chosen))) !== null;
}

/** The first case that is so; undefined where there are too many to look through, null where none is. */
function firstCase(
  options: readonly Option[],
  is: (chosen: ReadonlyMap<string, string>) => boolean,
): ReadonlyMap<string, string> | undefined | null {
  let cases = 1;
  for (const { choices } of options) if ((cases *= new Set(choices).size) > MOST_CASES) return undefined;
  const chosen = new Map<string, string>();
  const from = (n: number): boolean => {
    const option = options[n];
    if (!option) return is(chosen);
    return option.choices.some((choice) => {
      chosen.set(option.key, choice);
      return from(n + 1);
    });
  };
  return from(0) ? chosen : null;
}
