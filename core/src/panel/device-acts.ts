import { freeName } from "../design/free-name";
import { lookUp } from "../design/lookup";
import type { Design, Device, Place } from "../design/model";
import { byText } from "../design/order";
import { alongRail } from "../design/hung";
import { unmatchedPins } from "./pins";
import { LINES } from "./row-edits";
import { even, heldByStrips, laidStripOf } from "./stands";
import type { KnownAct } from "../faces";
import type { Answers, Shaped } from "../frame/act";
import { conditionActs } from "../intake/condition-acts";
import { deviceParts } from "../frame/device-parts";
import { renameAct } from "../intake/rename-acts";

const TURNS = ["0", "90", "180", "270"];

/** Every place a device may have, as it is read, with what the payload takes. */
function places(design: Design, tag: string): Map<string, Place> {
  const look = lookUp(design);
  const taken = new Set(
    [...look.devices.values()].filter((d) => d.tag !== tag).map((d) => `${d.on?.slot ?? ""}\u0000${d.on?.name ?? ""}`),
  );
  const slots = [...look.devices.values()].flatMap((d) =>
    (look.parts.get(d.part)?.slots ?? [])
      .map((s) => s.name)
      .filter((name) => !taken.has(`${d.tag}\u0000${name}`))
      .map((name): [string, Place] => [`slot ${name} of ${d.tag}`, { slot: d.tag, name }]),
  );
  return new Map<string, Place>([
    ...[...look.rails.values()]
      .sort((a, b) => byText(a.tag, b.tag))
      .map((r): [string, Place] => [`rail ${r.tag} on ${r.face}`, { rail: r.tag }]),
    ...[...look.faces.keys()].sort(byText).map((f): [string, Place] => [`face ${f}`, { face: f }]),
    ...slots.sort((a, b) => byText(a[0], b[0])),
  ]);
}

const samePlace = (a: Place, b: Place | undefined): boolean =>
  b !== undefined && a.face === b.face && a.rail === b.rail && a.slot === b.slot && a.name === b.name;

function placeAct(design: Design, device: Device): KnownAct {
  const all = places(design, device.tag);
  const now = [...all].find(([, p]) => samePlace(p, device.on))?.[0];
  const { x, y } = device.on ?? {};
  return {
    id: "place",
    label: device.on ? "Move" : "Place it",
    title: device.on ? "Move" : "Place",
    about: `Where ${device.tag} stands. On a rail x counts from its start; left empty it goes behind the last device. On a face x and y are the lower left corner of the body.`,
    kind: "place",
    payloads: [{}],
    asks: [
      { field: "where", label: "On", as: "choice", choices: [...all.keys()], ...(now === undefined ? {} : { now }) },
      { field: "x", label: "x", as: "length", optional: true, ...(x === undefined ? {} : { now: x }) },
      { field: "y", label: "y, on a face", as: "length", optional: true, ...(y === undefined ? {} : { now: y }) },
    ],
    shape({ values }: Answers): Shaped {
      const on: Place = { ...all.get(String(values.where)) };
      const [atX, atY] = [values.x, values.y];
      if (on.face !== undefined && (typeof atX !== "number" || typeof atY !== "number"))
        return { ok: false, field: typeof atX === "number" ? "y" : "x", reason: "On a face x and y are needed." };
      if (on.slot === undefined && typeof atX === "number") on.x = atX;
      if (on.face !== undefined && typeof atY === "number") on.y = atY;
      return { ok: true, payload: { device: device.tag, on } };
    },
  };
}

/** Beside which devices it can be put: those that stand on rails by themselves. */
function insertActs(design: Design, device: Device): KnownAct[] {
  const look = lookUp(design);
  const held = heldByStrips(design);
  const beside = [...look.devices.values()]
    .filter((d) => d.tag !== device.tag && d.on?.rail !== undefined && d.on.x !== undefined && !held.has(d.tag))
    .map((d) => d.tag)
    .sort(byText);
  if (beside.length === 0) return [];
  return [
    {
      id: "insert",
      label: "Put beside",
      title: "Put beside another",
      about: `${device.tag} goes on the rail of another device, before or behind it. What stands in its way is pushed along the rail, no further than needed. With no gap given it stands as near as the parts allow.`,
      kind: "insert",
      payloads: [{ device: device.tag }],
      asks: [
        { field: "side", label: "Where", as: "choice", choices: ["behind", "before"], now: "behind" },
        { field: "beside", label: "Beside", as: "choice", choices: beside },
        { field: "gap", label: "Gap", as: "length", optional: true },
      ],
      shape({ values }: Answers): Shaped {
        const { side, beside: other, gap } = values;
        return {
          ok: true,
          payload: { device: device.tag, beside: other, side, ...(typeof gap === "number" ? { gap } : {}) },
        };
      },
    },
  ];
}

/** With which devices it can change places: those that have one of their own. */
function swapActs(design: Design, device: Device): KnownAct[] {
  const held = heldByStrips(design);
  const others = [...lookUp(design).devices.values()]
    .filter((d) => d.tag !== device.tag && d.on && !held.has(d.tag))
    .map((d) => d.tag)
    .sort(byText);
  if (!device.on || others.length === 0) return [];
  return [
    {
      id: "swap-places",
      label: "Swap places",
      title: "Swap places",
      about: `${device.tag} goes where another stands, and that one comes here. On one rail what stands between them moves by what one is wider than the other.`,
      kind: "swap places",
      payloads: [{}],
      asks: [{ field: "with", label: "With", as: "choice", choices: others }],
      shape: ({ values }) => ({ ok: true, payload: { devices: [device.tag, String(values.with)] } }),
    },
  ];
}

/** What can be done with a device that exists with the chosen options. */
export function deviceActs(design: Design, tag: string): KnownAct[] {
  const look = lookUp(design);
  const device = look.devices.get(tag);
  if (!device) return [];
  const own = look.parts.get(device.part);
  const parts = deviceParts(design, own?.category);
  // A member of a strip that is laid is moved with its strip.
  const held = laidStripOf(design, tag) !== undefined;
  const [one, two, three] = device.texts ?? [];
  const text = (field: string, label: string, now: string | undefined) => ({
    field,
    label,
    as: "text" as const,
    optional: true,
    ...(now ? { now } : {}),
  });
  const acts: KnownAct[] = [
    ...(held ? [] : [placeAct(design, device), ...insertActs(design, device), ...swapActs(design, device)]),
    {
      id: "turn",
      label: "Turn",
      title: "Turn",
      about: `${tag} is turned counter-clockwise about the middle of its body; on a rail it keeps its datum.`,
      kind: "turn",
      payloads: [{ device: tag }],
      asks: [{ field: "turn", label: "Degrees", as: "choice", choices: TURNS, now: String(device.turn ?? 0) }],
      shape: ({ values }) => ({ ok: true, payload: { device: tag, turn: Number(values.turn) } }),
    },
    {
      id: "swap",
      label: "Swap part",
      title: "Swap part",
      about: `${tag} is ${device.part} now. Pins are matched by name. Parts of its own kind come first.`,
      kind: "swap part",
      payloads: [{ device: tag }],
      asks: [{ field: "part", label: "Part", as: "choice", choices: parts, now: device.part }],
      note({ values, set }) {
        if (!set.has("part")) return null;
        const lost = unmatchedPins(design, tag, String(values.part));
        return lost.length === 0
          ? "Every pin in use is found on the new part."
          : `Not on the new part: ${lost.join(", ")}. What lands there becomes an open point until it is led elsewhere.`;
      },
    },
    {
      id: "texts",
      label: "Texts and sheet",
      title: "Change texts",
      about: `What is written on ${tag}, and where it stands in the drawings.`,
      kind: "set texts",
      payloads: [{ device: tag }],
      asks: [
        text("1", "First line", one),
        text("2", "Second line", two),
        text("3", "Third line", three),
        text("sheet", "Sheet", device.sheet),
        {
          field: "item",
          label: "Item number",
          as: "count",
          optional: true,
          ...(device.item === undefined ? {} : { now: device.item }),
        },
      ],
      shape({ values, set }) {
        const payload: Record<string, unknown> = { device: tag };
        if (["1", "2", "3"].some((f) => set.has(f))) {
          const lines = ["1", "2", "3"].map((f) => String(values[f] ?? ""));
          while (lines.length > 0 && lines[lines.length - 1] === "") lines.pop();
          payload.texts = lines.length > 0 ? lines : null;
        }
        for (const field of ["sheet", "item"]) if (set.has(field)) payload[field] = values[field];
        return { ok: true, payload };
      },
    },
    renameAct("device", tag),
    ...conditionActs(design.options, [{ thing: "device", of: tag }], device.when),
    copyAct(design, [tag]),
    removeAct([tag]),
  ];
  if (device.on && !held)
    acts.push({
      id: "lift",
      label: "Lift off",
      title: "Lift off",
      about: `${tag} is taken off its place and is loose then; what it carries becomes loose with it.`,
      kind: "lift",
      payloads: [{ device: tag }],
      asks: [],
    });
  return acts;
}

const WITH = "with their wires";
const WITHOUT = "without wires";

/** Copies, loose, under the next free tags; of one it may be said. */
function copyAct(design: Design | undefined, tags: readonly string[]): KnownAct {
  const [only] = tags.length === 1 ? tags : [];
  const free = only && design ? freeName(only, new Set(design.devices.map((d) => d.tag))) : undefined;
  return {
    id: "copy",
    label: "Copy",
    title: "Copy",
    about: `${only ?? `${tags.length} devices`} once more, loose, under ${free ? "a tag of its own" : "the next free tags"}. Wires between copied devices lead between the copies, others to the pins they lead to now.`,
    kind: "copy devices",
    payloads: [{ devices: tags }],
    asIs: true,
    asks: [
      ...(free ? [{ field: "as", label: "Tag of the copy", as: "text" as const, now: free }] : []),
      { field: "wires", label: "Wires", as: "choice", choices: [WITHOUT, WITH], now: WITHOUT },
    ],
    shape({ values }) {
      const as = values.as === undefined ? {} : { as: [String(values.as)] };
      return { ok: true, payload: { devices: tags, withWires: values.wires === WITH, ...as } };
    },
  };
}

const GONE = "deleted with it";
const LOOSE = "loose at that end";

const removeAct = (tags: readonly string[]): KnownAct => ({
  id: "remove",
  label: "Delete",
  title: "Delete",
  about: `${tags.length === 1 ? tags[0] : `${tags.length} devices`} out of the design. It can be undone.`,
  kind: "remove devices",
  payloads: [{ devices: tags }],
  asIs: true,
  shown: true,
  asks: [{ field: "wires", label: "Wires that lead there are", as: "choice", choices: [LOOSE, GONE], now: LOOSE }],
  shape: ({ values }) => ({ ok: true, payload: { devices: tags, withWires: values.wires === GONE } }),
});

/** A new device, loose: it is placed then like any other. */
export function addDeviceAct(design: Design): KnownAct {
  const look = lookUp(design);
  const parts = deviceParts(design);
  const last = [...look.devices.keys()].filter((t) => /^-K\d+$/.test(t)).at(-1) ?? "-K0";
  return {
    id: "add-device",
    label: "Add a device",
    title: "Add device",
    about: "It is loose at first: place it then. Its part is one of the design or of what the library has completed.",
    kind: "add device",
    payloads: [{}],
    asks: [
      { field: "tag", label: "Tag", as: "text", now: freeName(last, new Set(design.devices.map((d) => d.tag))) },
      { field: "part", label: "Part", as: "choice", choices: parts },
      {
        field: "enclosure",
        label: "Enclosure",
        as: "choice",
        choices: [...look.enclosures.keys()].sort(byText),
        optional: true,
      },
      { field: "text", label: "Text", as: "text", optional: true },
    ],
    shape: ({ values }) => ({
      ok: true,
      payload: {
        tag: values.tag,
        part: values.part,
        ...(values.enclosure ? { enclosure: values.enclosure } : {}),
        ...(values.text ? { texts: [String(values.text)] } : {}),
      },
    }),
  };
}

const ORDERS = ["by tag", "widest first", "as chosen"] as const;

/** Side by side on a rail, and on the next ones of its face where it is full. */
function lineUpActs(design: Design, tags: readonly string[]): KnownAct[] {
  const look = lookUp(design);
  const rails = [...look.rails.values()].sort((a, b) => byText(a.face, b.face) || b.y - a.y || a.x - b.x);
  if (rails.length === 0) return [];
  const labels = rails.map((r) => `${r.tag} on ${r.face}`);
  const wide = (tag: string): number => {
    const device = look.devices.get(tag);
    return (device && alongRail(device, look)) ?? 0;
  };
  const together = even(tags.reduce((sum, tag) => sum + wide(tag), 0));
  const ONE = "that rail alone";
  return [
    {
      id: "line-up",
      label: "Put on rails",
      title: "Put on rails",
      about: `${tags.length === 1 ? tags[0] : `${tags.length} devices`}, ${together} mm wide${tags.length === 1 ? "" : " together"}, side by side, behind what stands there already. Where the rail is full the next one below it on its face is taken. With no gap given they stand as near as their parts allow.`,
      kind: "line up",
      payloads: [{}],
      asIs: true,
      asks: [
        { field: "rail", label: "From rail", as: "choice", choices: labels, now: labels[0]! },
        {
          field: "on",
          label: "Where it is full",
          as: "choice",
          choices: ["the next rails", ONE],
          now: "the next rails",
        },
        { field: "order", label: "In order", as: "choice", choices: [...ORDERS], now: ORDERS[0] },
        { field: "gap", label: "Gap", as: "length", optional: true },
      ],
      shape({ values }): Shaped {
        const from = labels.indexOf(String(values.rail));
        const same = rails.slice(from).filter((r) => r.face === rails[from]!.face);
        const order = [...tags];
        if (values.order !== ORDERS[2]) order.sort(byText);
        if (values.order === ORDERS[1]) order.sort((a, b) => wide(b) - wide(a));
        return {
          ok: true,
          payload: {
            devices: order,
            rails: (values.on === ONE ? same.slice(0, 1) : same).map((r) => r.tag),
            ...(typeof values.gap === "number" ? { gap: values.gap } : {}),
          },
        };
      },
    },
  ];
}

/** In line on a face: offered where all of them stand on one. */
function alignActs(design: Design, tags: readonly string[]): KnownAct[] {
  const look = lookUp(design);
  const faces = new Set(tags.map((t) => look.devices.get(t)?.on?.face));
  if (tags.length < 2 || faces.size !== 1 || faces.has(undefined)) return [];
  return [
    {
      id: "align",
      label: "Put in line",
      title: "Put in line",
      about: `An edge or the middle of ${tags.length} devices is brought to that of one of them, which stays.`,
      kind: "align",
      payloads: [{}],
      asIs: true,
      asks: [
        { field: "by", label: "By", as: "choice", choices: [...LINES], now: "left" },
        { field: "with", label: "With", as: "choice", choices: [...tags], now: tags[0]! },
      ],
      shape({ values }): Shaped {
        const first = String(values.with);
        return { ok: true, payload: { devices: [first, ...tags.filter((t) => t !== first)], by: values.by } };
      },
    },
  ];
}

/** What can be done with several devices at once. */
export const manyDevicesActs = (tags: readonly string[], design?: Design): KnownAct[] => [
  ...(design ? [...lineUpActs(design, tags), ...alignActs(design, tags)] : []),
  copyAct(undefined, tags),
  ...conditionActs(
    design?.options ?? [],
    tags.map((of) => ({ thing: "device", of })),
  ),
  removeAct(tags),
  {
    id: "lift",
    label: "Lift off",
    title: "Lift off",
    about: `${tags.length} devices are taken off their places and are loose then.`,
    kind: "lift",
    payloads: tags.map((device) => ({ device })),
    asks: [],
  },
];
