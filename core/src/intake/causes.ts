import type { Lookup } from "../design/lookup";
import type { When } from "../design/model";
import type { Cause, Mend, NewPoint, Thing } from "../design/open-points";
import { leadsTo } from "../frame/remove";

/** What several open points of a design may come from, with the edits that settle all of them. */

/** The device that is not there, as the cause of all that leads to it or names it. */
export const noDevice = (tag: string, led: boolean): Cause => ({
  text: `${tag} is not in the design`,
  mends: [
    {
      label: `Add ${tag}`,
      kind: "add device",
      payload: { tag },
      asks: [{ field: "part", label: "Part", as: "part" }],
    },
    ...(led
      ? [
          {
            label: "Lead all to another device",
            kind: "lead elsewhere",
            payload: { from: tag },
            asks: [{ field: "to", label: "Tag of the device", as: "text" as const }],
          },
        ]
      : []),
  ],
});

/** O(ends) */
export function leadsThere(look: Lookup, tag: string): boolean {
  const there = new Set([tag]);
  return (
    look.wires.some(({ wire }) => leadsTo(wire, there)) ||
    [...look.cables.values()].some((c) => c.cores.some((core) => leadsTo(core, there)))
  );
}

/** What may be done where the chosen options leave a device out to which something leads. */
export function leftOutMends(
  thing: Thing,
  of: string,
  tag: string,
  conditions: readonly (When | undefined)[],
): Pick<NewPoint, "mend" | "cause"> {
  const [when] = conditions;
  if (conditions.length !== 1 || !when) return {};
  return {
    mend: {
      label: `Let it come and go with ${tag}`,
      kind: "set condition",
      payload: { things: [{ thing, of }], when },
      asks: [],
    },
    cause: {
      text: `${tag} is left out by the chosen options`,
      mends: [
        {
          label: `Let ${tag} always be there`,
          kind: "set condition",
          payload: { things: [{ thing: "device", of: tag }], when: null },
          asks: [],
        },
      ],
    },
  };
}

export const noNet = (name: string): Cause => ({
  text: `net ${name} is not in the design`,
  mends: [
    {
      label: `Add net ${name}`,
      kind: "add net",
      payload: { name },
      asks: [{ field: "class", label: "Class", as: "class", optional: true }],
    },
  ],
});

/** The net or the class by which wires have no colour. */
export function noColourOf(look: Lookup, net: string | undefined): Pick<NewPoint, "cause"> {
  const known = net === undefined ? undefined : look.nets.get(net);
  if (!known) return {};
  const { class: cls } = known;
  const asks: Mend["asks"] = [{ field: "colour", label: "Colour", as: "colour" }];
  const [name, kind, payload] =
    cls === undefined ? [`net ${net}`, "set net", { net }] : [`class ${cls}`, "set class", { class: cls }];
  return {
    cause: { text: `${name} says no colour`, mends: [{ label: `Give ${name} a colour`, kind, payload, asks }] },
  };
}
