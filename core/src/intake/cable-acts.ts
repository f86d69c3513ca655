import { freeName } from "../design/free-name";
import { lookUp } from "../design/lookup";
import type { Cable, Design } from "../design/model";
import { byText } from "../design/order";
import type { Ask } from "../design/open-points";
import type { KnownAct } from "../faces";
import type { Answers, Shaped } from "../frame/act";
import { conditionActs } from "./condition-acts";
import { pinRefusal } from "../frame/pin-refusal";
import { renameAct } from "./rename-acts";

const MOST_CORES = 200;

/** `1, 2, 5-8, GNYE`: names of cores, with ranges of numbers; or why it cannot be read. */
export function coreNames(text: string): { ok: true; names: string[] } | { ok: false; reason: string } {
  const out: string[] = [];
  for (const word of text.split(/[,;\s]+/).filter((t) => t !== "")) {
    const [, from, to] = /^(\d{1,4})[-–](\d{1,4})$/.exec(word) ?? [];
    if (from === undefined) {
      out.push(word);
      continue;
    }
    const [first, last] = [Number(from), Number(to)];
    if (last < first) return { ok: false, reason: `${word} runs backwards.` };
    if (last - first >= MOST_CORES) return { ok: false, reason: `${word} names more than ${MOST_CORES} cores.` };
    for (let n = first; n <= last; n++) out.push(String(n));
  }
  if (out.length === 0) return { ok: false, reason: "Name one at least." };
  if (out.length > MOST_CORES) return { ok: false, reason: `More than ${MOST_CORES} cores cannot be named at once.` };
  const twice = out.find((n, i) => out.indexOf(n) < i);
  return twice === undefined ? { ok: true, names: out } : { ok: false, reason: `${twice} is named twice.` };
}

const optional = (field: string, label: string, now: string | undefined): Ask => ({
  field,
  label,
  as: "text",
  optional: true,
  ...(now === undefined ? {} : { now }),
});

const glandsOf = (design: Design): string[] => {
  const look = lookUp(design);
  return [...look.devices.values()].flatMap((d) => (look.parts.get(d.part)?.gland ? [d.tag] : [])).sort(byText);
};

const choice = (field: string, label: string, choices: readonly string[], now: string | undefined): Ask => ({
  field,
  label,
  as: "choice",
  choices: now === undefined || choices.includes(now) ? choices : [now, ...choices],
  optional: true,
  ...(now === undefined ? {} : { now }),
});

export function addCableAct(design: Design): KnownAct {
  const last = design.cables.at(-1)?.tag ?? "-W0";
  const types = design.parts.flatMap((p) => (p.cable ? [p.number] : [])).sort(byText);
  return {
    id: "add-cable",
    label: "Add a cable",
    title: "Add cable",
    about: "Its cores are led afterwards, each by itself.",
    kind: "add cable",
    payloads: [{}],
    asks: [
      { field: "tag", label: "Tag", as: "text", now: freeName(last, new Set(design.cables.map((c) => c.tag))) },
      types.length > 0
        ? { field: "type", label: "Type", as: "choice", choices: types }
        : { field: "type", label: "Type", as: "text" },
      optional("from", "From: an enclosure, or a place in words", undefined),
      optional("to", "To: an enclosure, or a place in words", undefined),
      choice("gland", "Through gland", glandsOf(design), undefined),
      optional("cores", "Cores: names with commas between, 1-4 for four", undefined),
    ],
    shape({ values }): Shaped {
      const { cores, ...rest } = values;
      const named = cores ? coreNames(String(cores)) : { ok: true as const, names: [] };
      if (!named.ok) return { ok: false, field: "cores", reason: named.reason };
      const said = Object.fromEntries(Object.entries(rest).filter(([, v]) => v !== undefined && v !== null));
      return { ok: true, payload: { ...said, cores: named.names.map((core) => ({ core })) } };
    },
    note({ values }) {
      const type = design.parts.find((p) => p.number === values.type)?.cable;
      return type ? `This type has ${type.cores} cores of ${type.sizeMm2} mm².` : null;
    },
  };
}

/** What can be done with a cable. */
export function cableActs(design: Design, cable: Cable): KnownAct[] {
  const { tag } = cable;
  const glands = glandsOf(design);
  const add = (field: string, text: unknown): Shaped => {
    const named = coreNames(String(text ?? ""));
    return named.ok
      ? { ok: true, payload: { cable: tag, cores: named.names.map((core) => ({ core })) } }
      : { ok: false, field, reason: named.reason };
  };
  return [
    {
      id: "change-cable",
      label: "Change",
      title: "Change cable",
      about: `What cable ${tag} is, where it comes from and goes to.`,
      kind: "change cable",
      payloads: [{ cable: tag }],
      asks: [
        { field: "type", label: "Type", as: "text", now: cable.type },
        {
          field: "outer",
          label: "Diameter",
          as: "length",
          optional: true,
          ...(cable.outer ? { now: cable.outer } : {}),
        },
        optional("from", "From: an enclosure, or a place in words", cable.from),
        optional("to", "To: an enclosure, or a place in words", cable.to),
        choice("gland", "Through gland", glands, cable.gland),
        choice("glandTo", "At its other end through", glands, cable.glandTo),
      ],
    },
    {
      id: "add-cores",
      label: "Add cores",
      title: "Add cores",
      about: `Cores of ${tag} that are not listed yet.`,
      kind: "add cores",
      payloads: [{ cable: tag }],
      asks: [{ field: "cores", label: "Names with commas between, 1-4 for four", as: "text" }],
      shape: ({ values }) => add("cores", values.cores),
    },
    ...conditionActs(design.options, [{ thing: "cable", of: tag }], cable.when),
    renameAct("cable", tag),
    {
      id: "remove-cable",
      label: "Delete",
      title: "Delete cable",
      about: `Cable ${tag} out of the design, with its cores. It can be undone.`,
      kind: "remove cables",
      payloads: [{ cables: [tag] }],
      asIs: true,
      shown: true,
      asks: [],
    },
  ];
}

/** What can be done with a core of a cable. */
export function coreActs(design: Design, cable: Cable, core: Cable["cores"][number]): KnownAct[] {
  const look = lookUp(design);
  const end = (side: "from" | "to", word: string): Ask[] => [
    optional(`${side}.device`, `${word} device`, core[side]?.device),
    optional(`${side}.pin`, `${word} pin`, core[side]?.pin),
  ];
  return [
    {
      id: `change-core-${core.core}`,
      label: "Change",
      title: `Core ${core.core} of ${cable.tag}`,
      about: "Its name, what it is, and where it leads. Where an end is left empty it leads nowhere.",
      kind: "change core",
      payloads: [{ cable: cable.tag, core: core.core }],
      asks: [
        { field: "as", label: "Name", as: "text", now: core.core },
        {
          field: "colour",
          label: "Colour",
          as: "colour",
          optional: true,
          ...(core.colour ? { now: core.colour } : {}),
        },
        {
          field: "sizeMm2",
          label: "Cross-section",
          as: "size",
          optional: true,
          ...(core.sizeMm2 ? { now: core.sizeMm2 } : {}),
        },
        choice("net", "Net", [...look.nets.keys()].sort(byText), core.net),
        ...end("from", "From"),
        ...end("to", "To"),
        optional("far", "Far end in words", core.far),
      ],
      shape({ values, set }: Answers): Shaped {
        const payload: Record<string, unknown> = { cable: cable.tag, core: core.core };
        for (const field of ["as", "colour", "sizeMm2", "net", "far"])
          if (set.has(field)) payload[field] = values[field];
        for (const side of ["from", "to"] as const) {
          if (!set.has(`${side}.device`) && !set.has(`${side}.pin`)) continue;
          const [device, pin] = [values[`${side}.device`], values[`${side}.pin`]];
          if (!device && !pin) payload[side] = null;
          else if (!device || !pin)
            return { ok: false, field: `${side}.${device ? "pin" : "device"}`, reason: "Device and pin, or neither." };
          else {
            const refusal = pinRefusal(look, String(device), String(pin), side);
            if (refusal) return refusal;
            payload[side] = { device, pin };
          }
        }
        return { ok: true, payload };
      },
    },
    {
      id: `remove-core-${core.core}`,
      label: "Delete",
      title: "Delete core",
      about: `Core ${core.core} off ${cable.tag}; a wire that is this core goes with it.`,
      kind: "remove cores",
      payloads: [{ cable: cable.tag, cores: [core.core] }],
      asks: [],
    },
  ];
}

export const addNetAct = (): KnownAct => ({
  id: "add-net",
  label: "Add a net",
  title: "Add net",
  about: "Class, colour and cross-section count for its wires that have none of their own.",
  kind: "add net",
  payloads: [{}],
  asks: [
    { field: "name", label: "Name", as: "text" },
    { field: "class", label: "Class", as: "class", optional: true },
    { field: "colour", label: "Colour", as: "colour", optional: true },
    { field: "sizeMm2", label: "Cross-section", as: "size", optional: true },
  ],
});
