import type { Option, When } from "../design/model";
import type { SetCondition } from "./condition-edits";
import { listed } from "../design/open-points";
import type { KnownAct } from "../faces";

type Options = readonly Pick<Option, "key" | "text" | "choices">[];

/** What may be said of one option: a choice of it, or, of three and more, all but one. */
function sayings(choices: readonly string[], now: string | string[] | undefined): Map<string, string | string[]> {
  const all = new Map<string, string | string[]>(choices.map((c) => [c, c]));
  if (choices.length > 2)
    for (const c of choices)
      all.set(
        `all but ${c}`,
        choices.filter((other) => other !== c),
      );
  if (now !== undefined && saying(all, now) === undefined) all.set([now].flat().join(" or "), now);
  return all;
}

const saying = (all: ReadonlyMap<string, string | string[]>, of: string | string[]): string | undefined =>
  [...all].find(([, wanted]) => JSON.stringify([wanted].flat()) === JSON.stringify([of].flat()))?.[0];

/** With which choices things are there; none where the design has no options. */
export function conditionActs(options: Options, things: SetCondition["things"], now?: When): KnownAct[] {
  if (options.length === 0 || things.length === 0) return [];
  const said = new Map(options.map((o) => [o.key, sayings(o.choices, now?.[o.key])]));
  const [one] = things;
  const name = things.length === 1 ? `${one!.thing} ${one!.of}` : `${things.length} things`;
  const kept = Object.keys(now ?? {}).filter((key) => !said.has(key));
  return [
    {
      id: "condition",
      label: "Condition",
      title: "Set condition",
      about: `With which choices ${name} ${things.length === 1 ? "is" : "are"} there. Where nothing is said of an option, with any.${
        one!.thing === "strip" ? " It is set on the members of the strip." : ""
      }${one!.thing === "net" ? " It is set on the wires of the net." : ""}${
        kept.length > 0 ? ` What hangs on ${listed(kept)}, which the design does not have, goes.` : ""
      }`,
      kind: "set condition",
      payloads: [{ things }],
      // A condition of many is set as a whole: what each had goes.
      asIs: things.length > 1 || kept.length > 0,
      shown: true,
      asks: options.map((o) => {
        const stands = now?.[o.key];
        return {
          field: o.key,
          label: o.text,
          as: "choice",
          choices: [...said.get(o.key)!.keys()],
          optional: true,
          ...(stands === undefined ? {} : { now: saying(said.get(o.key)!, stands)! }),
        };
      }),
      shape({ values }) {
        const when: When = {};
        for (const { key } of options) {
          const wanted = said.get(key)!.get(String(values[key] ?? ""));
          if (wanted !== undefined) when[key] = wanted;
        }
        return { ok: true, payload: { things, when: Object.keys(when).length > 0 ? when : null } };
      },
    },
  ];
}
