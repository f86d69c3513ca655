import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { byText } from "../design/order";
import type { WireRoute } from "./result";
import type { KnownAct } from "../faces";
import type { Answers } from "../frame/act";
import { conditionActs } from "../intake/condition-acts";
import { pinRefusal } from "../frame/pin-refusal";
import { renameAct } from "../intake/rename-acts";

const OWN = "A wire's own counts before its net's and its class's.";

/** Colour, size and strands of one wire or of many at once. */
export function conductorActs(wires: readonly string[]): KnownAct[] {
  const about =
    `${wires.length === 1 ? `Wire ${wires[0]!} gets` : `${wires.length} wires get`} it as their own. ${OWN}`.replace(
      "it as their own",
      wires.length === 1 ? "it as its own" : "it as their own",
    );
  const payloads = [{ wires: [...wires] }];
  const kind = "set wires";
  return [
    {
      id: "colour",
      label: "Colour",
      title: "Change colour",
      about,
      kind,
      payloads,
      asks: [{ field: "colour", label: "Colour", as: "colour" }],
    },
    {
      id: "size",
      label: "Size",
      title: "Change size",
      about,
      kind,
      payloads,
      asks: [{ field: "sizeMm2", label: "Cross-section", as: "size" }],
    },
    {
      id: "strand",
      label: "Strands",
      title: "Change strands",
      about: `${about} They decide which end treatment it gets.`,
      kind,
      payloads,
      asks: [{ field: "strand", label: "Strands", as: "strand" }],
    },
  ];
}

const removeWires = (wires: readonly string[]): KnownAct => ({
  id: "remove",
  label: "Delete",
  title: wires.length === 1 ? "Delete the wire" : "Delete the wires",
  about:
    wires.length === 1
      ? `Wire ${wires[0]!} is taken out of the design. It comes back when the edit is undone.`
      : `${wires.length} wires are taken out of the design. They come back when the edit is undone.`,
  kind: "remove wires",
  payloads: [{ wires: [...wires] }],
  asks: [],
});

/** What can be done with several wires at once. */
export const manyWiresActs = (wires: readonly string[], options: Design["options"] = []): KnownAct[] => [
  ...conductorActs(wires),
  ...conditionActs(
    options,
    wires.map((of) => ({ thing: "wire", of })),
  ),
  removeWires(wires),
];

/** What can be done with a wire. */
export function wireActs(design: Design, wire: WireRoute): KnownAct[] {
  const look = lookUp(design);
  const nets = [...look.nets.keys()].sort(byText);
  const [from, to] = [wire.fromRef, wire.toRef];
  return [
    ...conductorActs([wire.id]),
    {
      id: "ends",
      label: "Ends and net",
      title: "Change ends",
      about: `Where wire ${wire.id} begins and ends, and its net.`,
      kind: "change wire",
      payloads: [{ wire: wire.id }],
      asks: [
        { field: "from.device", label: "From device", as: "text", ...(from ? { now: from.device } : {}) },
        { field: "from.pin", label: "From pin", as: "text", ...(from ? { now: from.pin } : {}) },
        { field: "to.device", label: "To device", as: "text", ...(to ? { now: to.device } : {}) },
        { field: "to.pin", label: "To pin", as: "text", ...(to ? { now: to.pin } : {}) },
        {
          field: "net",
          label: "Net",
          as: "choice",
          choices: nets,
          optional: true,
          ...(wire.net === null ? {} : { now: wire.net }),
        },
      ],
      shape({ values, set }: Answers) {
        const payload: Record<string, unknown> = { wire: wire.id };
        for (const end of ["from", "to"] as const) {
          if (!set.has(`${end}.device`) && !set.has(`${end}.pin`)) continue;
          const [device, pin] = [String(values[`${end}.device`]), String(values[`${end}.pin`])];
          const refusal = pinRefusal(look, device, pin, end);
          if (refusal) return refusal;
          payload[end] = { device, pin };
        }
        if (set.has("net")) payload.net = values.net;
        return { ok: true, payload };
      },
    },
    ...conditionActs(
      design.options,
      [{ thing: "wire", of: wire.id }],
      look.wires.find((w) => w.id === wire.id)?.wire.when,
    ),
    renameAct("wire", wire.id),
    removeWires([wire.id]),
  ];
}

/** What can be done with the net of a wire: it counts for all its wires. */
export function netActs(design: Design, name: string): KnownAct[] {
  const net = lookUp(design).nets.get(name);
  return [
    {
      id: "net",
      label: "Class, colour, size of the net",
      title: "Change net",
      about: `Counts for every wire of net ${name} that has none of its own.`,
      kind: "set net",
      payloads: [{ net: name }],
      asks: [
        { field: "class", label: "Class", as: "class", optional: true, ...(net?.class ? { now: net.class } : {}) },
        { field: "colour", label: "Colour", as: "colour", optional: true, ...(net?.colour ? { now: net.colour } : {}) },
        {
          field: "sizeMm2",
          label: "Cross-section",
          as: "size",
          optional: true,
          ...(net?.sizeMm2 ? { now: net.sizeMm2 } : {}),
        },
      ],
    },
    renameAct("net", name),
    ...(net ? [removeNetAct(design, name)] : []),
    ...conditionActs(design.options, [{ thing: "net", of: name }]),
  ];
}

/** A net out of the design; what was in it goes into another, or into none. */
function removeNetAct(design: Design, name: string): KnownAct {
  const others = design.nets.flatMap((n) => (n.name === name ? [] : [n.name])).sort(byText);
  return {
    id: "remove-net",
    label: "Join or delete net",
    title: "Delete net",
    about: `Net ${name} goes. Its wires and cores go into another net, or belong to none.`,
    kind: "remove nets",
    payloads: [{ nets: [name] }],
    asIs: true,
    shown: true,
    asks: [{ field: "into", label: "Its wires go into", as: "choice", choices: others, optional: true }],
  };
}

const NUMBERED = /^(.*?)(\d+)$/;

/** The number after the largest that wires have. */
function nextNumber(design: Design): string {
  let best = { stem: "", n: 0, digits: 1 };
  for (const { number } of design.wires) {
    const [, stem, digits] = NUMBERED.exec(number) ?? [];
    if (digits !== undefined && Number(digits) > best.n)
      best = { stem: stem!, n: Number(digits), digits: digits.length };
  }
  return `${best.stem}${String(best.n + 1).padStart(best.digits, "0")}`;
}

/** A new wire, from a device or a pin of it on. */
export function addWireAct(design: Design, device: string, pin?: string): KnownAct {
  const look = lookUp(design);
  const part = look.parts.get(look.devices.get(device)?.part ?? "");
  const pins = [...new Set((part?.pins ?? []).map((p) => p.name))].sort(byText);
  return {
    id: "add-wire",
    label: "Add a wire",
    title: "Add wire",
    about: `A new wire from ${device}${pin === undefined ? "" : `:${pin}`}.`,
    kind: "add wire",
    payloads: [{}],
    asks: [
      { field: "number", label: "Wire number", as: "text", now: nextNumber(design) },
      {
        field: "from.pin",
        label: `Pin of ${device}`,
        // A part without any is drawn later.
        ...(pins.length > 0 ? { as: "choice", choices: pins } : { as: "text" }),
        ...(pin === undefined ? {} : { now: pin }),
      },
      { field: "to.device", label: "To device", as: "text" },
      { field: "to.pin", label: "To pin", as: "text" },
      { field: "net", label: "Net", as: "choice", choices: [...look.nets.keys()].sort(byText), optional: true },
    ],
    shape({ values }: Answers) {
      const to = { device: String(values["to.device"]), pin: String(values["to.pin"]) };
      return (
        pinRefusal(look, to.device, to.pin, "to") ?? {
          ok: true,
          payload: {
            number: values.number,
            from: { device, pin: values["from.pin"] },
            to,
            ...(values.net ? { net: values.net } : {}),
          },
        }
      );
    },
  };
}
