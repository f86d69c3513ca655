import { maybe, objectOf, oneOf, orNull, type Shape, type ValueOf } from "../form/form";
import { changed, done, notThere, unfit, withFields, type AnyEditKind, type EditKind } from "../frame/edits";
import { freeName } from "../design/free-name";
import { addOption, changeOption, removeOption, setCondition } from "./condition-edits";
import { addDevice, copyDevices, removeDevices } from "./device-edits";
import {
  addCable,
  addCores,
  addNet,
  changeCable,
  changeCore,
  leadElsewhere,
  removeCables,
  removeCores,
  removeNets,
} from "./network-edits";
import { conductorText } from "../wiring/landings";
import { lookUp } from "../design/lookup";
import { renameAccepted, renameDevices, renameSides } from "../frame/rename";
import { NET_CLASSES, type Accepted, type Design, type Net, type Part, type PinRef, type Wire } from "../design/model";
import { FORM } from "../design/schema";

/** Edits of what the design says, wherever it stands: names, texts, wires, nets, parts, options, open points. */

// ---- rename ----------------------------------------------------------------------------------------

export const RENAMED = ["device", "wire", "net", "duct", "rail", "strip", "crossing", "cable"] as const;
type Renamed = (typeof RENAMED)[number];

const namesOf: Record<Renamed, (d: Design) => string[]> = {
  device: (d) => d.devices.map((t) => t.tag),
  wire: (d) => d.wires.map((w) => w.number),
  net: (d) => d.nets.map((n) => n.name),
  duct: (d) => d.ducts.map((t) => t.tag),
  rail: (d) => d.rails.map((t) => t.tag),
  strip: (d) => d.strips.map((t) => t.tag),
  crossing: (d) => d.crossings.map((t) => t.tag),
  cable: (d) => d.cables.map((t) => t.tag),
};

/** Changes a name wherever it is used. Tags of several kinds are compared by the maps of `Lookup`, kind by kind. */
function renamed(d: Design, thing: Renamed, from: string, to: string): Design {
  const is = (name: string | undefined): boolean => name === from;
  const tag = <T extends { tag: string }>(list: T[]): T[] =>
    changed(
      list,
      (t) => is(t.tag),
      (t) => ({ ...t, tag: to }),
    );
  const attachments = changed(
    d.attachments,
    (a) => is(a.for),
    (a) => ({ ...a, for: to }),
  );
  switch (thing) {
    case "device":
      return renameDevices(d, new Map([[from, to]]));
    case "wire":
      return {
        ...d,
        wires: changed(
          d.wires,
          (w) => is(w.number),
          (w) => ({ ...w, number: to }),
        ),
        strips: renameSides(
          d.strips,
          new Map([[conductorText({ of: from, cable: null }), conductorText({ of: to, cable: null })]]),
        ),
      };
    case "net":
      return {
        ...d,
        nets: changed(
          d.nets,
          (n) => is(n.name),
          (n) => ({ ...n, name: to }),
        ),
        wires: changed(
          d.wires,
          (w) => is(w.net),
          (w) => ({ ...w, net: to }),
        ),
        cables: changed(
          d.cables,
          (c) => c.cores.some((k) => is(k.net)),
          (c) => ({
            ...c,
            cores: changed(
              c.cores,
              (k) => is(k.net),
              (k) => ({ ...k, net: to }),
            ),
          }),
        ),
      };
    case "duct":
      return {
        ...d,
        ducts: tag(d.ducts),
        crossings: changed(
          d.crossings,
          (c) => is(c.from.duct) || is(c.to.duct),
          (c) => ({
            ...c,
            from: is(c.from.duct) ? { duct: to } : c.from,
            to: is(c.to.duct) ? { duct: to } : c.to,
          }),
        ),
      };
    case "rail":
      return {
        ...d,
        rails: tag(d.rails),
        devices: changed(
          d.devices,
          (v) => is(v.on?.rail),
          (v) => ({ ...v, on: { ...v.on, rail: to } }),
        ),
        strips: changed(
          d.strips,
          (s) => is(s.rail),
          (s) => ({ ...s, rail: to }),
        ),
      };
    case "strip":
      return { ...d, strips: tag(d.strips), attachments };
    case "crossing":
      return { ...d, crossings: tag(d.crossings) };
    case "cable":
      return {
        ...d,
        cables: tag(d.cables),
        wires: changed(
          d.wires,
          (w) => is(w.core?.cable),
          (w) => ({ ...w, core: { ...w.core!, cable: to } }),
        ),
        strips: renameSides(d.strips, coresNamed(d, from, to)),
        attachments,
      };
  }
}

/** What the cores of a cable are called, before and after it is named anew. */
function coresNamed(d: Design, from: string, to: string): Map<string, string> {
  const listed = d.cables.filter((c) => c.tag === from).flatMap((c) => c.cores.map((k) => k.core));
  const led = d.wires.flatMap((w) => (w.core?.cable === from ? [w.core.core] : []));
  return new Map(
    [...listed, ...led].map((of) => [conductorText({ of, cable: from }), conductorText({ of, cable: to })]),
  );
}

const renameForm = objectOf({
  thing: oneOf(RENAMED),
  from: FORM.name,
  to: FORM.name,
});
export interface Rename extends ValueOf<typeof renameForm> {}

export const rename: EditKind<Rename, "rename"> = {
  kind: "rename",
  schema: renameForm,
  apply(design, { thing, from, to }) {
    const names = new Set(namesOf[thing](design));
    if (!names.has(from)) return notThere(thing, from);
    if (from === to) return unfit(`${thing} ${from} already has this name`, "Give another name.");
    if (names.has(to))
      return unfit(`there is a ${thing} ${to} already`, `The next free name is ${freeName(to, names)}.`);
    const next = renamed(design, thing, from, to);
    return done(thing === "device" ? next : { ...next, ...renameAccepted(next, thing, new Map([[from, to]])) });
  },
  sentence: ({ thing, from, to }) => `${thing} ${from} renamed ${to}`,
  touches: ({ thing, from, to }) => [
    { thing, of: from },
    { thing, of: to },
  ],
};

// ---- wires -----------------------------------------------------------------------------------------

const listed = (names: readonly string[]): string =>
  names.length <= 4 ? names.join(", ") : `${names.slice(0, 3).join(", ")} and ${names.length - 3} more`;

const wiresWord = (numbers: readonly string[]): string =>
  `${numbers.length === 1 ? "wire" : "wires"} ${listed(numbers)}`;

const conductor = {
  colour: maybe(orNull(FORM.colour)),
  sizeMm2: maybe(orNull(FORM.size)),
  strand: maybe(orNull(FORM.strand)),
  type: maybe(orNull(FORM.name)),
};
/** What a conductor is to be. Null takes the wire's own value away, so that its net's or class's counts. */
export type Conductor = Shape<typeof conductor>;

const said = ({ colour, sizeMm2, strand, type }: Conductor): string =>
  [
    colour === undefined ? null : colour === null ? "no colour of its own" : colour,
    sizeMm2 === undefined ? null : sizeMm2 === null ? "no cross-section of its own" : `${sizeMm2} mm²`,
    strand === undefined ? null : strand === null ? "no strands of its own" : strand,
    type === undefined ? null : type === null ? "no type" : `type ${type}`,
  ]
    .filter((t) => t !== null)
    .join(", ");

const setWiresForm = objectOf({ wires: FORM.list(FORM.name).min(1), ...conductor }).or(
  "colour",
  "sizeMm2",
  "strand",
  "type",
);
export interface SetWires extends ValueOf<typeof setWiresForm> {}

/** Colour, cross-section, strands and type of one or many wires. */
export const setWires: EditKind<SetWires, "set wires"> = {
  kind: "set wires",
  schema: setWiresForm,
  apply(design, { wires, ...values }) {
    const known = new Map(lookUp(design).wires.map((w) => [w.id, w.index]));
    const missing = wires.find((w) => !known.has(w));
    if (missing !== undefined) return notThere("wire", missing);
    const which = new Set(wires.map((w) => known.get(w)!));
    return done({ ...design, wires: design.wires.map((w, i) => (which.has(i) ? withFields<Wire>(w, values) : w)) });
  },
  sentence: ({ wires, ...values }) => `${wiresWord(wires)}: ${said(values)}`,
  touches: ({ wires }) => wires.map((of) => ({ thing: "wire", of })),
};

const setEachForm = objectOf({
  each: FORM.list(
    objectOf({
      wire: FORM.name,
      colour: maybe(orNull(FORM.colour)),
      sizeMm2: maybe(orNull(FORM.size)),
      strand: maybe(orNull(FORM.strand)),
    }).or("colour", "sizeMm2", "strand"),
  ).min(1),
});
export interface SetEach extends ValueOf<typeof setEachForm> {}

/** Colours, cross-sections or strands of many wires, each its own: a column as it was pasted. */
export const setEach: EditKind<SetEach, "set each"> = {
  kind: "set each",
  schema: setEachForm,
  apply(design, { each }) {
    const known = new Map(lookUp(design).wires.map((w) => [w.id, w.index]));
    const values = new Map<number, Conductor>();
    for (const { wire, ...given } of each) {
      const index = known.get(wire);
      if (index === undefined) return notThere("wire", wire);
      values.set(index, { ...values.get(index), ...given });
    }
    return done({
      ...design,
      wires: design.wires.map((w, i) => (values.has(i) ? withFields<Wire>(w, values.get(i)!) : w)),
    });
  },
  sentence({ each }) {
    const [one, ...more] = each.map(({ wire, ...given }) => [wire, said(given)]);
    if (more.length === 0) return `wire ${one!.join(": ")}`;
    return `${each.length} wires: ${[one!, ...more].map((told) => told.join(" ")).join("; ")}`;
  },
  touches: ({ each }) => [...new Set(each.map((e) => e.wire))].map((of) => ({ thing: "wire", of })),
};

const setClassForm = objectOf({
  /** Absent: every class. */
  class: maybe(FORM.netClass),
  colour: conductor.colour,
  sizeMm2: conductor.sizeMm2,
}).or("colour", "sizeMm2");
export interface SetClass extends ValueOf<typeof setClassForm> {}

/** Colour and cross-section of a class in this job, or of the whole job. */
export const setClass: EditKind<SetClass, "set class"> = {
  kind: "set class",
  schema: setClassForm,
  apply(design, { class: cls, ...values }) {
    const classes = { ...design.rules.classes };
    for (const c of cls ? [cls] : NET_CLASSES) {
      const next = withFields(classes[c] ?? {}, values);
      if (Object.keys(next).length > 0) classes[c] = next;
      else Reflect.deleteProperty(classes, c);
    }
    const rules = { ...design.rules, classes };
    if (Object.keys(classes).length === 0) Reflect.deleteProperty(rules, "classes");
    return done({ ...design, rules });
  },
  sentence: ({ class: cls, ...values }) => `${cls ? `class ${cls}` : "every class"} of this job: ${said(values)}`,
  touches: () => [],
};

const setNetForm = objectOf({
  net: FORM.name,
  class: maybe(orNull(FORM.netClass)),
  colour: conductor.colour,
  sizeMm2: conductor.sizeMm2,
  strand: conductor.strand,
}).or("class", "colour", "sizeMm2", "strand");
export interface SetNet extends ValueOf<typeof setNetForm> {}

/** Class, colour, cross-section of a net; a net that wires name but the design does not list is added. */
export const setNet: EditKind<SetNet, "set net"> = {
  kind: "set net",
  schema: setNetForm,
  apply(design, { net, strand, ...values }) {
    const named = design.nets.some((n) => n.name === net);
    const used = design.wires.some((w) => w.net === net);
    if (!named && !used) return notThere("net", net);
    const nets = named ? design.nets : [...design.nets, { name: net }];
    // A net has no strands of its own: they are set on its wires.
    const wires =
      strand === undefined
        ? design.wires
        : changed(
            design.wires,
            (w) => w.net === net,
            (w) => withFields(w, { strand }),
          );
    return done({
      ...design,
      wires,
      nets: changed(
        nets,
        (n) => n.name === net,
        (n) => withFields<Net>(n, values),
      ),
    });
  },
  sentence: ({ net, class: cls, ...values }) =>
    `net ${net}: ${[cls === undefined ? "" : cls === null ? "no class" : `class ${cls}`, said(values)].filter(Boolean).join(", ")}`,
  touches: ({ net }) => [{ thing: "net", of: net }],
};

/** A new wire as a design lists it. */
export const addWire: EditKind<Wire, "add wire"> = {
  kind: "add wire",
  schema: FORM.wire,
  apply(design, wire) {
    const names = new Set(design.wires.map((w) => w.number));
    if (names.has(wire.number))
      return unfit(
        `there is a wire ${wire.number} already`,
        `The next free number is ${freeName(wire.number, names)}.`,
      );
    return done({ ...design, wires: [...design.wires, wire] });
  },
  sentence: (w) => `wire ${w.number} added${w.from && w.to ? ` from ${refText(w.from)} to ${refText(w.to)}` : ""}`,
  touches: ({ number }) => [{ thing: "wire", of: number }],
};

const refText = (ref: PinRef): string => `${ref.device}:${ref.pin}`;

const changeWireForm = objectOf({
  wire: FORM.name,
  net: maybe(orNull(FORM.name)),
  from: maybe(orNull(FORM.pinRef)),
  to: maybe(orNull(FORM.pinRef)),
}).or("net", "from", "to");
export interface ChangeWire extends ValueOf<typeof changeWireForm> {}

/** Where a wire begins and ends, and its net. */
export const changeWire: EditKind<ChangeWire, "change wire"> = {
  kind: "change wire",
  schema: changeWireForm,
  apply(design, { wire, ...values }) {
    const known = lookUp(design).wires.find((w) => w.id === wire);
    if (!known) return notThere("wire", wire);
    return done({
      ...design,
      wires: changed(
        design.wires,
        (w) => w === known.wire,
        (w) => withFields<Wire>(w, values),
      ),
    });
  },
  sentence: ({ wire, net, from, to }) =>
    `wire ${wire} ${[
      from === undefined ? null : from === null ? "loose at its first end" : `led from ${refText(from)}`,
      to === undefined ? null : to === null ? "loose at its second end" : `led to ${refText(to)}`,
      net === undefined ? null : net === null ? "taken out of its net" : `put into net ${net}`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`,
  touches: ({ wire }) => [{ thing: "wire", of: wire }],
};

const removeWiresForm = objectOf({
  wires: FORM.list(FORM.name).min(1),
});
export interface RemoveWires extends ValueOf<typeof removeWiresForm> {}

export const removeWires: EditKind<RemoveWires, "remove wires"> = {
  kind: "remove wires",
  schema: removeWiresForm,
  apply(design, { wires }) {
    const known = new Map(lookUp(design).wires.map((w) => [w.id, w.index]));
    const missing = wires.find((w) => !known.has(w));
    if (missing !== undefined) return notThere("wire", missing);
    const gone = new Set(wires.map((w) => known.get(w)!));
    return done({ ...design, wires: design.wires.filter((_, i) => !gone.has(i)) });
  },
  sentence: ({ wires }) => `${wiresWord(wires)} deleted`,
  touches: ({ wires }) => wires.map((of) => ({ thing: "wire", of })),
};

// ---- texts and parts -------------------------------------------------------------------------------

const setTextsForm = objectOf({
  device: FORM.name,
  texts: maybe(orNull(FORM.texts)),
  sheet: maybe(orNull(FORM.text)),
  item: maybe(orNull(FORM.item)),
}).or("texts", "sheet", "item");
export interface SetTexts extends ValueOf<typeof setTextsForm> {}

/** Texts, sheet reference and item number of a device. */
export const setTexts: EditKind<SetTexts, "set texts"> = {
  kind: "set texts",
  schema: setTextsForm,
  apply(design, { device, ...values }) {
    if (!design.devices.some((v) => v.tag === device)) return notThere("device", device);
    return done({
      ...design,
      devices: changed(
        design.devices,
        (v) => v.tag === device,
        (v) => withFields(v, values),
      ),
    });
  },
  sentence: ({ device, texts, sheet, item }) =>
    `${device} ${[
      texts === undefined
        ? null
        : texts === null
          ? "without texts"
          : `inscribed ${texts.map((t) => `"${t}"`).join(", ")}`,
      sheet === undefined ? null : sheet === null ? "without a sheet" : `on sheet ${sheet}`,
      item === undefined ? null : item === null ? "without an item number" : `item ${item}`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`,
  touches: ({ device }) => [{ thing: "device", of: device }],
};

const setPartForm = objectOf({
  part: FORM.name,
  lossW: maybe(orNull(FORM.amount)),
  stock: maybe(orNull(FORM.stock)),
}).or("lossW", "stock");
export interface SetPart extends ValueOf<typeof setPartForm> {}

/** What a part lacks for later stages: its loss and its place in stock. Counts for every device of this part. */
export const setPart: EditKind<SetPart, "set part"> = {
  kind: "set part",
  schema: setPartForm,
  apply(design, { part, ...values }) {
    if (!design.parts.some((p) => p.number === part)) return notThere("part", part);
    return done({
      ...design,
      parts: changed(
        design.parts,
        (p) => p.number === part,
        (p) => withFields<Part>(p, values),
      ),
    });
  },
  sentence: ({ part, lossW, stock }) =>
    `part ${part} ${[
      lossW === undefined ? null : lossW === null ? "without a loss" : `with a loss of ${lossW} W`,
      stock === undefined
        ? null
        : stock === null
          ? "without a stock place"
          : `in stock at ${stock.place}, packs of ${stock.pack}`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`,
  touches: ({ part }) => [{ thing: "part", of: part }],
};

// ---- options and open points -----------------------------------------------------------------------

const chooseForm = objectOf({
  option: FORM.name,
  choice: FORM.name,
});
export interface Choose extends ValueOf<typeof chooseForm> {}

export const choose: EditKind<Choose, "choose"> = {
  kind: "choose",
  schema: chooseForm,
  apply(design, { option, choice }) {
    const known = design.options.find((o) => o.key === option);
    if (!known) return notThere("option", option);
    if (!known.choices.includes(choice))
      return unfit(`option ${option} has no choice ${choice}`, `Choose one of: ${known.choices.join(", ")}.`);
    return done({
      ...design,
      options: changed(
        design.options,
        (o) => o.key === option,
        (o) => ({ ...o, chosen: choice }),
      ),
    });
  },
  sentence: ({ option, choice }) => `option ${option} set to ${choice}`,
  touches: ({ option }) => [{ thing: "option", of: option }],
};

/** An open point is known by its id and its text: when its cause changes, so does the text, and it comes back. */
export const accept: EditKind<Accepted, "accept"> = {
  kind: "accept",
  schema: FORM.accepted,
  // Whoever lays it accepts it.
  settle: (_design, accepted, who) => ({ ...accepted, who }),
  apply(design, accepted) {
    const others = (design.accepted ?? []).filter((a) => a.point !== accepted.point);
    return done({ ...design, accepted: [...others, accepted] });
  },
  sentence: ({ text, why }) => `accepted: ${text} (${why})`,
  touches: () => [],
};

export const INTAKE_EDITS = [
  rename,
  setWires,
  setEach,
  setClass,
  setNet,
  addWire,
  changeWire,
  removeWires,
  addDevice,
  copyDevices,
  removeDevices,
  addNet,
  removeNets,
  addCable,
  changeCable,
  removeCables,
  addCores,
  changeCore,
  removeCores,
  leadElsewhere,
  setTexts,
  setPart,
  choose,
  addOption,
  changeOption,
  removeOption,
  setCondition,
  accept,
] as const satisfies readonly AnyEditKind[];
