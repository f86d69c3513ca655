import { maybe, objectOf, orNull, type ValueOf } from "../form/form";
import { changed, done, notThere, unfit, withFields, type Applied, type EditKind } from "../frame/edits";
import { freeName } from "../design/free-name";
import { conductorText } from "../wiring/landings";
import { lookUp } from "../design/lookup";
import type { Cable, Design, Net, PinRef, Wire } from "../design/model";
import { listed } from "../design/open-points";
import { leadsTo } from "../frame/remove";
import { renameSides } from "../frame/rename";
import { FORM } from "../design/schema";

/** Edits by which nets, cables and cores come into a design, change and leave it, and by which ends are led elsewhere. */

const refText = (ref: PinRef): string => `${ref.device}:${ref.pin}`;

const taken = (thing: "net" | "cable", name: string, names: ReadonlySet<string>): Applied =>
  unfit(`there is a ${thing} ${name} already`, `The next free name is ${freeName(name, names)}.`);

// ---- nets ------------------------------------------------------------------------------------------

export const addNet: EditKind<Net, "add net"> = {
  kind: "add net",
  schema: FORM.net,
  apply(design, net) {
    const names = new Set(design.nets.map((n) => n.name));
    return names.has(net.name) ? taken("net", net.name, names) : done({ ...design, nets: [...design.nets, net] });
  },
  sentence: ({ name, class: cls }) => `net ${name} added${cls ? `, class ${cls}` : ""}`,
  touches: ({ name }) => [{ thing: "net", of: name }],
};

const removeNetsForm = objectOf({
  nets: FORM.list(FORM.name).min(1).unique(),
  /** Net into which their wires and cores go; without one they belong to none. */
  into: maybe(FORM.name),
});
export interface RemoveNets extends ValueOf<typeof removeNetsForm> {}

export const removeNets: EditKind<RemoveNets, "remove nets"> = {
  kind: "remove nets",
  schema: removeNetsForm,
  apply(design, { nets, into }) {
    const names = new Set(design.nets.map((n) => n.name));
    const missing = nets.find((n) => !names.has(n));
    if (missing !== undefined) return notThere("net", missing);
    const leaving = new Set(nets);
    if (into !== undefined && !names.has(into)) return notThere("net", into);
    if (into !== undefined && leaving.has(into))
      return unfit(`net ${into} is one of those that are deleted`, "Name one that stays.");
    const is = (of: { net?: string }): boolean => leaving.has(of.net ?? "");
    const other = <T extends { net?: string }>(of: T): T =>
      withFields<{ net?: string }>(of, { net: into ?? null }) as T;
    return done({
      ...design,
      nets: design.nets.filter((n) => !leaving.has(n.name)),
      wires: changed(design.wires, is, other),
      cables: changed(
        design.cables,
        (c) => c.cores.some(is),
        (c) => ({ ...c, cores: changed(c.cores, is, other) }),
      ),
    });
  },
  sentence: ({ nets, into }) =>
    `${nets.length === 1 ? "net" : "nets"} ${listed(nets)} ${into === undefined ? "deleted" : `joined to ${into}`}`,
  touches: ({ nets, into }) => [...nets, ...(into === undefined ? [] : [into])].map((of) => ({ thing: "net", of })),
};

// ---- cables ----------------------------------------------------------------------------------------

type Core = Cable["cores"][number];

/** A core that a cable names twice; undefined when it names none so. */
function twice(cores: readonly Core[]): string | undefined {
  const seen = new Set<string>();
  return cores.find(({ core }) => seen.has(core) || !seen.add(core))?.core;
}

const namedTwice = (core: string, cable: string): Applied =>
  unfit(`${cable} would have core ${core} twice`, "Give every core of a cable a name of its own.");

export const addCable: EditKind<Cable, "add cable"> = {
  kind: "add cable",
  schema: FORM.cable,
  apply(design, cable) {
    const tags = new Set(design.cables.map((c) => c.tag));
    if (tags.has(cable.tag)) return taken("cable", cable.tag, tags);
    const same = twice(cable.cores);
    return same === undefined ? done({ ...design, cables: [...design.cables, cable] }) : namedTwice(same, cable.tag);
  },
  sentence: ({ tag, type, cores }) =>
    `cable ${tag} added, type ${type}${cores.length > 0 ? `, with ${cores.length === 1 ? "core" : "cores"} ${listed(cores.map((c) => c.core))}` : ""}`,
  touches: ({ tag }) => [{ thing: "cable", of: tag }],
};

const NONE = "taken away";

const changeCableForm = objectOf({
  cable: FORM.name,
  type: maybe(FORM.name),
  outer: maybe(orNull(FORM.positive)),
  from: maybe(orNull(FORM.text)),
  to: maybe(orNull(FORM.text)),
  gland: maybe(orNull(FORM.name)),
  glandTo: maybe(orNull(FORM.name)),
}).or("type", "outer", "from", "to", "gland", "glandTo");
export interface ChangeCable extends ValueOf<typeof changeCableForm> {}

/** What a cable is, where it comes from and goes to, and through which glands. */
export const changeCable: EditKind<ChangeCable, "change cable"> = {
  kind: "change cable",
  schema: changeCableForm,
  apply: (design, { cable, ...values }) => onCable(design, cable, (c) => withFields<Cable>(c, values)),
  sentence: ({ cable, type, outer, from, to, gland, glandTo }) =>
    `cable ${cable}: ${[
      type === undefined ? null : `type ${type}`,
      outer === undefined ? null : outer === null ? `diameter ${NONE}` : `${outer} mm thick`,
      from === undefined ? null : `from ${from ?? "nowhere told"}`,
      to === undefined ? null : `to ${to ?? "nowhere told"}`,
      gland === undefined ? null : gland === null ? `gland ${NONE}` : `enters at ${gland}`,
      glandTo === undefined
        ? null
        : glandTo === null
          ? `gland of its other end ${NONE}`
          : `its other end at ${glandTo}`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`,
  touches: ({ cable }) => [{ thing: "cable", of: cable }],
};

/** A cable changed; of two with one tag the one that counts. */
function onCable(design: Design, tag: string, change: (cable: Cable) => Cable | Applied): Applied {
  const known = lookUp(design).cables.get(tag);
  if (!known) return notThere("cable", tag);
  const next = change(known);
  return "ok" in next
    ? next
    : done({
        ...design,
        cables: changed(
          design.cables,
          (c) => c === known,
          () => next,
        ),
      });
}

const addCoresForm = objectOf({
  cable: FORM.name,
  cores: FORM.list(FORM.core).min(1),
});
export interface AddCores extends ValueOf<typeof addCoresForm> {}

export const addCores: EditKind<AddCores, "add cores"> = {
  kind: "add cores",
  schema: addCoresForm,
  apply: (design, { cable, cores }) =>
    onCable(design, cable, (c) => {
      const next = [...c.cores, ...cores];
      const same = twice(next);
      return same === undefined ? { ...c, cores: next } : namedTwice(same, cable);
    }),
  sentence: ({ cable, cores }) =>
    `${cores.length === 1 ? "core" : "cores"} ${listed(cores.map((c) => c.core))} of ${cable} added`,
  touches: ({ cable }) => [{ thing: "cable", of: cable }],
};

const changeCoreForm = objectOf({
  cable: FORM.name,
  core: FORM.name,
  /** Its new name. */
  as: maybe(FORM.name),
  colour: maybe(orNull(FORM.colour)),
  sizeMm2: maybe(orNull(FORM.size)),
  from: maybe(orNull(FORM.pinRef)),
  to: maybe(orNull(FORM.pinRef)),
  far: maybe(orNull(FORM.text)),
  net: maybe(orNull(FORM.name)),
}).or("as", "colour", "sizeMm2", "from", "to", "far", "net");
export interface ChangeCore extends ValueOf<typeof changeCoreForm> {}

/** A core: its name, colour, size, net, and where it leads. */
export const changeCore: EditKind<ChangeCore, "change core"> = {
  kind: "change core",
  schema: changeCoreForm,
  apply(design, { cable, core, as, ...values }) {
    const applied = onCable(design, cable, (c) => {
      if (!c.cores.some((k) => k.core === core)) return unfit(`${cable} has no core ${core}`, coresOf(c));
      if (as !== undefined && as !== core && c.cores.some((k) => k.core === as)) return namedTwice(as, cable);
      const cores = changed(
        c.cores,
        (k) => k.core === core,
        (k) => withFields<Core>(k, { ...values, core: as }),
      );
      return { ...c, cores };
    });
    return applied.ok && as !== undefined ? done(coreNamed(applied.design, cable, core, as)) : applied;
  },
  sentence: ({ cable, core, as, colour, sizeMm2, from, to, far, net }) =>
    `core ${core} of ${cable} ${[
      as === undefined ? null : `renamed ${as}`,
      colour === undefined ? null : (colour ?? "without a colour"),
      sizeMm2 === undefined ? null : sizeMm2 === null ? "without a cross-section" : `${sizeMm2} mm²`,
      from === undefined ? null : from === null ? "loose at its first end" : `led from ${refText(from)}`,
      to === undefined ? null : to === null ? "loose at its second end" : `led to ${refText(to)}`,
      far === undefined ? null : far === null ? "without a far end in words" : `at its far end ${far}`,
      net === undefined ? null : net === null ? "taken out of its net" : `put into net ${net}`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`,
  touches: ({ cable }) => [{ thing: "cable", of: cable }],
};

/** Wires that are a core, and the sides of strips on which it lies, go by its name. */
const coreNamed = (design: Design, cable: string, core: string, as: string): Design => ({
  ...design,
  wires: changed(
    design.wires,
    (w) => w.core?.cable === cable && w.core.core === core,
    (w) => ({ ...w, core: { cable, core: as } }),
  ),
  strips: renameSides(design.strips, new Map([[conductorText({ of: core, cable }), conductorText({ of: as, cable })]])),
});

const coresOf = ({ cores }: Cable): string =>
  cores.length > 0 ? `It has: ${listed(cores.map((c) => c.core))}.` : "None of its cores is listed.";

const removeCoresForm = objectOf({
  cable: FORM.name,
  cores: FORM.list(FORM.name).min(1).unique(),
});
export interface RemoveCores extends ValueOf<typeof removeCoresForm> {}

/** Takes cores off a cable; wires that are one of them go with them. */
export const removeCores: EditKind<RemoveCores, "remove cores"> = {
  kind: "remove cores",
  schema: removeCoresForm,
  apply(design, { cable, cores }) {
    const leaving = new Set(cores);
    const applied = onCable(design, cable, (c) => {
      const missing = cores.find((core) => !c.cores.some((k) => k.core === core));
      if (missing !== undefined) return unfit(`${cable} has no core ${missing}`, coresOf(c));
      return { ...c, cores: c.cores.filter((k) => !leaving.has(k.core)) };
    });
    return applied.ok
      ? withoutWires(applied.design, (w) => w.core?.cable === cable && leaving.has(w.core.core))
      : applied;
  },
  sentence: ({ cable, cores }) => `${cores.length === 1 ? "core" : "cores"} ${listed(cores)} of ${cable} deleted`,
  touches: ({ cable }) => [{ thing: "cable", of: cable }],
};

const withoutWires = (design: Design, gone: (wire: Wire) => boolean): Applied =>
  done(design.wires.some(gone) ? { ...design, wires: design.wires.filter((w) => !gone(w)) } : design);

const removeCablesForm = objectOf({
  cables: FORM.list(FORM.name).min(1).unique(),
});
export interface RemoveCables extends ValueOf<typeof removeCablesForm> {}

/** Takes cables out of the design, with the wires that are their cores. */
export const removeCables: EditKind<RemoveCables, "remove cables"> = {
  kind: "remove cables",
  schema: removeCablesForm,
  apply(design, { cables }) {
    const known = lookUp(design).cables;
    const missing = cables.find((tag) => !known.has(tag));
    if (missing !== undefined) return notThere("cable", missing);
    const leaving = new Set(cables.map((tag) => known.get(tag)!));
    const tags = new Set(cables);
    const rest = design.cables.filter((c) => !leaving.has(c));
    // Of two variants with one tag the other stays, and with it the wires that are its cores.
    for (const { tag } of rest) tags.delete(tag);
    return withoutWires({ ...design, cables: rest }, (w) => tags.has(w.core?.cable ?? ""));
  },
  sentence: ({ cables }) => `${cables.length === 1 ? "cable" : "cables"} ${listed(cables)} deleted, with all cores`,
  touches: ({ cables }) => cables.map((of) => ({ thing: "cable", of })),
};

// ---- ends ------------------------------------------------------------------------------------------

const leadElsewhereForm = objectOf({
  /** Tag to which ends lead now, of a device or of none. */
  from: FORM.name,
  to: FORM.name,
});
export interface LeadElsewhere extends ValueOf<typeof leadElsewhereForm> {}

/** All ends that lead to one device lead to another, to pins of the same names: for a tag that was written wrong in many places. */
export const leadElsewhere: EditKind<LeadElsewhere, "lead elsewhere"> = {
  kind: "lead elsewhere",
  schema: leadElsewhereForm,
  apply(design, { from, to }) {
    if (!design.devices.some((d) => d.tag === to)) return notThere("device", to);
    if (from === to) return unfit(`they lead to ${to} already`, "Name another device.");
    const there = new Set([from]);
    const is = (of: { from?: PinRef; to?: PinRef }): boolean => leadsTo(of, there);
    const led = <T extends { from?: PinRef; to?: PinRef }>(of: T): T => ({
      ...of,
      ...(of.from?.device === from ? { from: { ...of.from, device: to } } : {}),
      ...(of.to?.device === from ? { to: { ...of.to, device: to } } : {}),
    });
    const cables = changed(
      design.cables,
      (c) => c.cores.some(is),
      (c) => ({ ...c, cores: changed(c.cores, is, led) }),
    );
    const wires = changed(design.wires, is, led);
    if (wires === design.wires && cables === design.cables)
      return unfit(`nothing leads to ${from}`, "Look up the tag to which the wires lead.");
    return done({ ...design, wires, cables });
  },
  sentence: ({ from, to }) => `all ends that led to ${from} led to ${to}`,
  touches: ({ from, to }) => [from, to].map((of) => ({ thing: "device", of })),
};
