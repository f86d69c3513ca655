import { conditionText, everTogether, leftBehind, withBoth } from "../design/conditions";
import { chosenOptions, holds } from "../design/lookup";
import type { Design, When } from "../design/model";
import { listed, type NewPoint, type OpenPoints, type Thing } from "../design/open-points";
import { pushTo } from "../design/order";

/** Conditions that do not go together: of what leads to a device, comes in through it or sits in it, and of the device. */

/** Things alike of which one condition does not go with that of a device. */
interface Behind {
  thing: Thing;
  names: string[];
  when: When | undefined;
  tag: string;
  /** What they have to do with the device: `lead to it`, with one and with several. */
  does: readonly [string, string];
  case: ReadonlyMap<string, string>;
}

const LEADS = ["leads to", "lead to"] as const;
const COMES = ["comes in through", "come in through"] as const;
const SITS = ["sits in", "sit in"] as const;

/**
 * Whether what leads to a device, or sits in it, can be there without it: one point for all that are alike. What is so with
 * the options as they are chosen is told with the end; here what another choice would bring.
 * O(things), and the cases of the options that such things name
 */
export function checkConditions(design: Design, points: OpenPoints): void {
  const { options } = design;
  const variants = new Map<string, (When | undefined)[]>();
  for (const d of design.devices) pushTo(variants, d.tag, d.when);
  const chosen = chosenOptions(design);
  const found = new Map<string, Behind | null>();
  const check = (thing: Thing, of: string, when: When | undefined, tag: string | undefined, does: Behind["does"]) => {
    const others = tag === undefined ? undefined : variants.get(tag);
    if (!others || others.includes(undefined)) return;
    const key = JSON.stringify([thing, tag, does[0], when]);
    if (!found.has(key)) {
      const behind = leftBehind(options, when, others);
      // What is there now and leads to nothing is told with its end.
      const told = holds(when, chosen) && !others.some((w) => holds(w, chosen));
      found.set(key, behind && !told ? { thing, names: [], when, tag: tag!, does, case: behind } : null);
    }
    found.get(key)?.names.push(of);
  };
  for (const { number, from, to, when } of design.wires)
    for (const tag of new Set([from?.device, to?.device])) check("wire", number, when, tag, LEADS);
  for (const { tag, gland, glandTo, cores, when } of design.cables) {
    const ends = cores.flatMap((c) => [c.from?.device, c.to?.device]);
    for (const end of new Set(ends)) check("cable", tag, when, end, LEADS);
    for (const at of new Set([gland, glandTo])) check("cable", tag, when, at, COMES);
  }
  for (const { tag, on, when } of design.devices) check("device", tag, when, on?.slot, SITS);
  for (const behind of found.values())
    if (behind) points.add(contradiction(behind, variants.get(behind.tag)!, options));
}

function contradiction(
  { thing, names, when, tag, does, case: behind }: Behind,
  others: readonly (When | undefined)[],
  options: Design["options"],
): NewPoint {
  const never = when !== undefined && !others.some((w) => everTogether(options, [when, w]));
  const [only] = others.length === 1 ? others : [];
  const one = names.length === 1;
  const which = `${thing}${one ? "" : "s"} ${listed(names)}`;
  const verb = one ? does[0] : does[1];
  const there = others.map((w) => conditionText(w!)).join(", or ");
  return {
    severity: never ? "check" : "note",
    kind: "conditions contradict",
    thing: "device",
    of: tag,
    text: never
      ? `${which} ${verb} ${tag}, but ${one ? "is" : "are"} there with ${conditionText(when)}, and ${tag} with ${there}: never both`
      : `with ${conditionText(Object.fromEntries(behind))} ${which} would ${does[1]} ${tag}, which is there only with ${there}`,
    remedy: `Give ${one ? `the ${thing}` : `the ${thing}s`} the condition of the device, or the device that of the ${thing}${one ? "" : "s"}.`,
    ...(only
      ? {
          mend: {
            label: `Let ${one ? "it" : "them"} come and go with ${tag}`,
            kind: "set condition",
            payload: { things: [...new Set(names)].map((of) => ({ thing, of })), when: withBoth(when, only) },
            asks: [],
          },
          cause: {
            text: `${tag} is there only with ${there}`,
            mends: [
              {
                label: `Let ${tag} always be there`,
                kind: "set condition",
                payload: { things: [{ thing: "device", of: tag }], when: null },
                asks: [],
              },
            ],
          },
        }
      : {}),
  };
}
