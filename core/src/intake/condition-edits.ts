import { maybe, objectOf, oneOf, orNull, type ValueOf } from "../form/form";
import { conditionText } from "../design/conditions";
import { changed, done, notThere, unfit, withFields, type Applied, type EditKind } from "../frame/edits";
import { chosenOptions, holds, lookUp } from "../design/lookup";
import type { Design, Option, When } from "../design/model";
import { listed, type Thing } from "../design/open-points";
import { FORM } from "../design/schema";

/** Edits of options, and of the conditions under which things are there. */

export const addOption: EditKind<Option, "add option"> = {
  kind: "add option",
  schema: FORM.option,
  apply(design, option) {
    if (design.options.some((o) => o.key === option.key))
      return unfit(`there is an option ${option.key} already`, "Give the new one a key of its own.");
    return unusable(option) ?? done({ ...design, options: [...design.options, option] });
  },
  sentence: ({ key, choices, chosen }) => `option ${key} added: ${listed(choices)}; ${chosen} is chosen`,
  touches: ({ key }) => [{ thing: "option", of: key }],
};

/** Why an option cannot be as it is said; null when it can. */
function unusable({ key, choices, chosen }: Option): Applied | null {
  const twice = choices.find((c, i) => choices.indexOf(c) < i);
  if (twice !== undefined) return unfit(`option ${key} would have ${twice} twice`, "Name every choice once.");
  return choices.includes(chosen)
    ? null
    : unfit(`option ${key} would have no choice ${chosen}`, `Choose one of: ${listed(choices)}.`);
}

const changeOptionForm = objectOf({
  option: FORM.name,
  text: maybe(FORM.text),
  choices: maybe(FORM.list(FORM.name).min(1)),
}).or("text", "choices");
export interface ChangeOption extends ValueOf<typeof changeOptionForm> {}

/** What an option is called, and what may be chosen. A choice on which something hangs stays. */
export const changeOption: EditKind<ChangeOption, "change option"> = {
  kind: "change option",
  schema: changeOptionForm,
  apply(design, { option: key, ...values }) {
    const known = design.options.find((o) => o.key === key);
    if (!known) return notThere("option", key);
    const next = withFields<Option>(known, values);
    const gone = known.choices.filter((c) => !next.choices.includes(c));
    const held = hanging(design, key, (wanted) => gone.find((c) => wanted.includes(c)));
    return (
      unusable(next) ??
      (held
        ? unfit(`${held.thing} is there with ${key} ${held.by}`, "Give it another condition first.")
        : done({
            ...design,
            options: changed(
              design.options,
              (o) => o === known,
              () => next,
            ),
          }))
    );
  },
  sentence: ({ option, text, choices }) =>
    `option ${option} ${[text === undefined ? null : `called "${text}"`, choices === undefined ? null : `with the choices ${listed(choices)}`].filter((t) => t !== null).join(", ")}`,
  touches: ({ option }) => [{ thing: "option", of: option }],
};

/** The first thing on whose condition of an option something is found, in words. O(things) */
function hanging(
  design: Design,
  key: string,
  find: (wanted: readonly string[]) => string | undefined,
): { thing: string; by: string } | null {
  const lists: [string, readonly { when?: When }[], (of: never) => string][] = [
    ["device", design.devices, (d: { tag: string }) => d.tag],
    ["wire", design.wires, (w: { number: string }) => w.number],
    ["cable", design.cables, (c: { tag: string }) => c.tag],
  ];
  for (const [thing, list, nameOf] of lists)
    for (const of of list) {
      const wanted = of.when?.[key];
      const by = wanted === undefined ? undefined : find([wanted].flat());
      if (by !== undefined) return { thing: `${thing} ${nameOf(of as never)}`, by };
    }
  return null;
}

const removeOptionForm = objectOf({
  option: FORM.name,
});
export interface RemoveOption extends ValueOf<typeof removeOptionForm> {}

/** Takes an option out of the design on which nothing hangs. */
export const removeOption: EditKind<RemoveOption, "remove option"> = {
  kind: "remove option",
  schema: removeOptionForm,
  apply(design, { option: key }) {
    if (!design.options.some((o) => o.key === key)) return notThere("option", key);
    const held = hanging(design, key, ([first]) => first);
    if (held) return unfit(`${held.thing} hangs on option ${key}`, "Take its condition away first, or the thing.");
    return done({ ...design, options: design.options.filter((o) => o.key !== key) });
  },
  sentence: ({ option }) => `option ${option} deleted`,
  touches: ({ option }) => [{ thing: "option", of: option }],
};

// ---- conditions ------------------------------------------------------------------------------------

export const CONDITIONED = ["device", "wire", "cable", "strip", "net"] as const;

const setConditionForm = objectOf({
  /** Of a strip its members are meant, of a net its wires. */
  things: FORM.list(
    objectOf({
      thing: oneOf(CONDITIONED),
      of: FORM.name,
    }),
  ).min(1),
  /** Null: they are always there. */
  when: orNull(FORM.when.min(1)),
});
export interface SetCondition extends ValueOf<typeof setConditionForm> {}

/** With which choices of options things are there. */
export const setCondition: EditKind<SetCondition, "set condition"> = {
  kind: "set condition",
  schema: setConditionForm,
  apply(design, { things, when }) {
    for (const [key, wanted] of Object.entries(when ?? {})) {
      const option = design.options.find((o) => o.key === key);
      if (!option) return notThere("option", key);
      const strange = [wanted].flat().find((c) => !option.choices.includes(c));
      if (strange !== undefined)
        return unfit(`option ${key} has no choice ${strange}`, `Choose one of: ${listed(option.choices)}.`);
    }
    const meant = new Set<object>();
    for (const { thing, of } of things) {
      const found = meantBy(design, thing, of);
      if (!Array.isArray(found)) return found;
      for (const item of found) meant.add(item);
    }
    const is = (item: object): boolean => meant.has(item);
    const set = <T extends { when?: When }>(item: T): T => withFields<{ when?: When }>(item, { when }) as T;
    return done({
      ...design,
      devices: changed(design.devices, is, set),
      wires: changed(design.wires, is, set),
      cables: changed(design.cables, is, set),
    });
  },
  sentence: ({ things, when }) =>
    `${listed(things.map((t) => (t.thing === "device" ? t.of : `${t.thing} ${t.of}`)))} ${
      when === null ? "always there" : `there with ${conditionText(when)}`
    }`,
  touches: ({ things }) => things,
};

/** Devices, wires and cables that a name stands for; or why that cannot be said. */
function meantBy(design: Design, thing: SetCondition["things"][number]["thing"], of: string): object[] | Applied {
  switch (thing) {
    case "device":
      return one(
        design,
        thing,
        of,
        design.devices.filter((d) => d.tag === of),
      );
    case "cable":
      return one(
        design,
        thing,
        of,
        design.cables.filter((c) => c.tag === of),
      );
    case "wire": {
      // One of several with a number goes by the number that makes it unique.
      const there = lookUp(design).wires.find((w) => w.id === of);
      return there
        ? [there.wire]
        : one(
            design,
            thing,
            of,
            design.wires.filter((w) => w.number === of),
          );
    }
    case "net": {
      const wires = design.wires.filter((w) => w.net === of);
      return wires.length > 0 ? wires : unfit(`no wire is of net ${of}`, "Put wires into the net first.");
    }
    case "strip": {
      const strip = design.strips.find((s) => s.tag === of);
      if (!strip) return notThere("strip", of);
      const members = new Set(strip.members);
      const all = design.devices.filter((d) => members.has(d.tag));
      return all.length > 0 ? all : unfit(`strip ${of} has no members`, "Put terminals on it first.");
    }
  }
}

/** Of several variants of one name the one that is there. */
function one(design: Design, thing: Thing, of: string, all: readonly { when?: When }[]): object[] | Applied {
  if (all.length <= 1) return all.length === 1 ? [all[0]!] : notThere(thing, of);
  const chosen = chosenOptions(design);
  const there = all.filter((item) => holds(item.when, chosen));
  return there.length === 1
    ? there
    : unfit(
        `${all.length} variants are named ${thing} ${of}, and ${there.length === 0 ? "none" : "more than one"} of them is there`,
        "Choose the options with which just the one that is meant is there.",
      );
}
