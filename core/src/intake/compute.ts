import { Again } from "../frame/again";
import { forFile, uniqueNames } from "../frame/file-out";
import { chosenOptions, holds, lookUp, type Lookup } from "../design/lookup";
import { LOSSY } from "../design/lossy";
import { NOT_TOLD, type Design, type Pin, type PinRef, type When, type Wire } from "../design/model";
import { outsideBody } from "../design/outside";
import { colourOf, conductorTexts, landingsOf, samePin, sizeOf } from "../wiring/landings";
import {
  choiceOf,
  listed,
  OpenPoints,
  type NewPoint,
  type Mend,
  type Severity,
  type Thing,
} from "../design/open-points";
import { byText } from "../design/order";
import type { Rules } from "../shop/rules";
import { sameSize, SIZE_TOLERANCE_MM2 } from "../design/tolerance";
import { leadsThere, leftOutMends, noColourOf, noDevice, noNet } from "./causes";
import { checkConditions } from "./contradictions";
import type { IntakeResult } from "./result";

/**
 * Checks the content of a design. Everything found is an open point; nothing is refused.
 * @param shop the shop's rules: its classes may give a wire its size
 */
export function compute(design: Design, shop: Rules): IntakeResult {
  const look = lookUp(design);
  const points = new OpenPoints("intake");
  checkNames(design, points);
  checkOptions(design, points);
  checkConditions(design, points);
  checkEnclosures(look, points);
  checkParts(look, points);
  checkDevices(look, points);
  // With those that the chosen options leave out.
  const drawn = new Set(design.devices.map((d) => d.tag));
  const seen = seenOf(look, drawn, shop);
  for (const point of [...seen.wires, ...seen.colours]) points.add(point);
  checkNets(look, points);
  checkCables(look, drawn, points);
  checkPinless(look, points);
  checkClamps(look, seen, shop, points);
  checkStrips(look, drawn, points);
  checkAttachments(look, points);
  return {
    counts: {
      enclosures: look.enclosures.size,
      rails: look.rails.size,
      ducts: look.ducts.size,
      devices: look.devices.size,
      nets: look.nets.size,
      wires: look.wires.length,
      cables: look.cables.size,
      strips: design.strips.length,
      options: design.options.length,
    },
    leftOut: leftOut(design),
    open: points.list(),
  };
}

/** What is looked up of wires more than once, in their order, and what is to be told of each by itself. */
interface Seen {
  sizes: ReturnType<typeof sizeOf>[];
  /** Of their ends; undefined where there is none. */
  from: (Pin | undefined)[];
  to: (Pin | undefined)[];
  wires: NewPoint[];
  colours: NewPoint[];
  clamps: NewPoint[];
}

/** Wires that follow each other, looked at together; by the first of them. */
const stretchOf = new Again<Wire, Seen>();
const STRETCH = 128;

/** O(wires); stretches of the very same wires, in the same design but for others, are looked up. */
function seenOf(look: Lookup, drawn: ReadonlySet<string>, shop: Rules): Seen {
  const seen: Seen = { sizes: [], from: [], to: [], wires: [], colours: [], clamps: [] };
  const { devices, parts, nets, cables, options, rules } = look.design;
  const setting = [devices, parts, nets, cables, options, rules, shop];
  for (let i = 0; i < look.wires.length; i += STRETCH) {
    const some = look.wires.slice(i, i + STRETCH);
    const names = some.map((k) => k.id);
    const wires = some.map((k) => k.wire);
    const one = stretchOf.of(wires[0]!, [...setting, ...wires, ...names], () => lookAt(some, look, drawn, shop));
    for (const key of ["sizes", "from", "to", "wires", "colours", "clamps"] as const)
      for (const value of one[key]) (seen[key] as unknown[]).push(value);
  }
  return seen;
}

function lookAt(wires: Lookup["wires"], look: Lookup, drawn: ReadonlySet<string>, shop: Rules): Seen {
  const seen: Seen = { sizes: [], from: [], to: [], wires: [], colours: [], clamps: [] };
  const { devices, parts } = look;
  const pinAt = (ref: PinRef | undefined): Pin | undefined => {
    const part = ref && parts.get(devices.get(ref.device)?.part ?? "");
    return part && look.pin(part, ref.pin);
  };
  for (const { wire } of wires) {
    seen.sizes.push(sizeOf(look, wire, shop.classes));
    seen.from.push(pinAt(wire.from));
    seen.to.push(pinAt(wire.to));
  }
  checkWires(wires, look, drawn, seen, { add: (p) => seen.wires.push(p) });
  checkColours(wires, look, shop, { add: (p) => seen.colours.push(p) });
  checkSizes(wires, seen, { add: (p) => seen.clamps.push(p) });
  return seen;
}

/** Where points are told. */
interface Told {
  add(point: NewPoint): void;
}

function leftOut(design: Design): IntakeResult["leftOut"] {
  const chosen = chosenOptions(design);
  const count = (list: readonly { when?: When }[]) => list.filter((t) => !holds(t.when, chosen)).length;
  return { devices: count(design.devices), wires: count(design.wires), cables: count(design.cables) };
}

function checkNames(design: Design, points: OpenPoints): void {
  const check = (thing: Thing, names: string[], severity: Severity, remedy: string) => {
    const count = new Map<string, number>();
    for (const n of names) count.set(n, (count.get(n) ?? 0) + 1);
    for (const [of, times] of count) {
      if (times < 2) continue;
      points.add({
        severity,
        kind: "name used twice",
        thing,
        of,
        text: `${of} names ${times} ${thing === "enclosure" ? "enclosures" : `${thing}s`}; one of them counts`,
        remedy,
      });
    }
  };
  // Two variants of one thing may share a name when different options bring them in.
  const chosen = chosenOptions(design);
  const there = (t: { when?: When }) => holds(t.when, chosen);
  const tags = (list: readonly { tag: string }[]) => list.map((t) => t.tag);
  check("enclosure", tags(design.enclosures), "stop", "Give every enclosure a tag of its own.");
  check(
    "part",
    design.parts.map((p) => p.number),
    "stop",
    "Keep one part of this number in the library of the design.",
  );
  check("rail", tags(design.rails), "stop", "Give every rail a tag of its own.");
  check("duct", tags(design.ducts), "stop", "Give every duct a tag of its own.");
  check("crossing", tags(design.crossings), "stop", "Give every crossing a tag of its own.");
  check(
    "net",
    design.nets.map((n) => n.name),
    "check",
    "Join the two nets or rename one.",
  );
  check(
    "wire",
    design.wires.filter(there).map((w) => w.number),
    "check",
    "Give every wire a number of its own.",
  );
  check("strip", tags(design.strips), "check", "Give every strip a tag of its own.");
  check(
    "option",
    design.options.map((o) => o.key),
    "stop",
    "Give every option a key of its own.",
  );
  check("device", tags(design.devices.filter(there)), "stop", "Give every device a tag of its own.");
  check("cable", tags(design.cables.filter(there)), "check", "Give every cable a tag of its own.");
}

function checkOptions(design: Design, points: OpenPoints): void {
  const byKey = new Map(design.options.map((o) => [o.key, o]));
  for (const o of design.options) {
    if (o.choices.includes(o.chosen)) continue;
    points.add({
      severity: "stop",
      kind: "unknown choice",
      thing: "option",
      of: o.key,
      text: `option ${o.key} is set to "${o.chosen}", which is none of its choices`,
      remedy: `Choose one of: ${listed(o.choices)}.`,
      mend: {
        label: "Choose",
        kind: "choose",
        payload: { option: o.key },
        asks: [choiceOf("choice", o.text || o.key, o.choices)],
      },
    });
  }
  const check = (thing: Thing, of: string, when: When | undefined) => {
    for (const [key, wanted] of Object.entries(when ?? {})) {
      const option = byKey.get(key);
      const strange = option && [wanted].flat().filter((c) => !option.choices.includes(c));
      if (strange?.length === 0) continue;
      const all = strange?.length === [wanted].flat().length;
      points.add({
        severity: "check",
        kind: option ? "unknown choice" : "unknown option",
        thing,
        of,
        text: option
          ? `${thing} ${of} hangs on ${listed(strange!.map((c) => `"${c}"`))} of option ${key}, which has ${listed(option.choices)}${all ? "; it is never there" : ""}`
          : `${thing} ${of} hangs on option ${key}, which is not in the design; it is left out`,
        remedy: option ? "Correct the condition." : "Add the option or take the condition away.",
        mend: {
          label: "Let it always be there",
          kind: "set condition",
          payload: { things: [{ thing, of }], when: null },
          asks: [],
        },
      });
    }
  };
  for (const d of design.devices) check("device", d.tag, d.when);
  for (const w of design.wires) check("wire", w.number, w.when);
  for (const c of design.cables) check("cable", c.tag, c.when);
}

function checkEnclosures(look: Lookup, points: OpenPoints): void {
  const tags = [...look.enclosures.keys()].sort(byText);
  uniqueNames(tags.map(forFile)).forEach((name, i) => {
    if (name === forFile(tags[i]!)) return;
    points.add({
      severity: "note",
      kind: "names of files alike",
      thing: "enclosure",
      of: tags[i]!,
      text: `${tags[i]} would have the same names of files as another enclosure: what is alike gets ~2, ~3 behind its name`,
      remedy: "Name one of them otherwise, so that its files can be told by their names.",
    });
  });
  const claimed = new Map<string, string>();
  const ordered = [...look.enclosures.values()].sort((a, b) => byText(a.tag, b.tag));
  for (const e of ordered) {
    const right = e.neighbourRight;
    if (right === undefined) continue;
    const fault = !look.enclosures.has(right)
      ? `stands beside ${right}, which is not in the design`
      : right === e.tag
        ? "is named as its own neighbour"
        : claimed.has(right)
          ? `and ${claimed.get(right)} both have ${right} to their right`
          : null;
    claimed.set(right, e.tag);
    if (!fault) continue;
    points.add({
      severity: "check",
      kind: "neighbour unclear",
      thing: "enclosure",
      of: e.tag,
      text: `${e.tag} ${fault}`,
      remedy: "Name the one enclosure that stands directly to the right.",
    });
  }
  for (const f of look.design.faces) {
    if (look.enclosures.has(f.enclosure)) continue;
    points.add({
      severity: "check",
      kind: "unknown enclosure",
      thing: "face",
      of: `${f.enclosure}/${f.kind}`,
      text: `face ${f.enclosure}/${f.kind} belongs to an enclosure that is not in the design`,
      remedy: "Correct the tag or add the enclosure.",
    });
  }
}

function checkParts(look: Lookup, points: OpenPoints): void {
  const used = new Set([...look.devices.values()].map((d) => d.part));
  for (const t of [...look.rails.values(), ...look.ducts.values()]) used.add(t.part);
  for (const number of used) {
    const part = look.parts.get(number);
    if (!part) continue;
    if (LOSSY.has(part.category) && part.lossW === undefined) {
      points.add({
        severity: "note",
        kind: "no loss stated",
        thing: "part",
        of: number,
        text: `part ${number} (${part.text}) states no loss`,
        remedy: "Add the loss at rated load before the heat balance is made.",
        mend: {
          label: "State the loss",
          kind: "set part",
          payload: { part: number },
          asks: [{ field: "lossW", label: "Loss at rated load", as: "watts" }],
        },
      });
    }
    if (!part.stock) {
      points.add({
        severity: "note",
        kind: "no stock place",
        thing: "part",
        of: number,
        text: `part ${number} (${part.text}) has no stock place`,
        remedy: "Add the stock place and pack size before kits are made.",
        mend: {
          label: "State the stock place",
          kind: "set part",
          payload: { part: number },
          asks: [
            { field: "stock.place", label: "Stock place", as: "text" },
            { field: "stock.pack", label: "Pieces in a pack", as: "count" },
          ],
        },
      });
    }
    const names = new Set<string>();
    for (const p of part.pins ?? []) {
      if (names.has(p.name)) {
        points.add({
          severity: "check",
          kind: "name used twice",
          thing: "part",
          of: number,
          text: `part ${number} has two pins named ${p.name}; one of them counts`,
          remedy: "Give every pin of the part a name of its own.",
        });
      }
      names.add(p.name);
      const far = outsideBody(p, part);
      if (far === null) continue;
      points.add({
        severity: "check",
        kind: "pin outside its body",
        thing: "part",
        of: number,
        text: `pin ${p.name} of part ${number} lies ${far} mm outside its body of ${part.w} × ${part.h} × ${part.d} mm`,
        remedy: "Correct the position of the pin or the size of the body.",
      });
    }
  }
}

function checkDevices(look: Lookup, points: OpenPoints): void {
  const unknownPart = (thing: Thing, of: string, part: string) =>
    points.add({
      severity: "stop",
      kind: "unknown part",
      thing,
      of,
      ...(part === NOT_TOLD
        ? { text: `nothing says which part ${thing} ${of} is`, remedy: "Tell its part." }
        : {
            text: `${thing} ${of} uses part ${part}, which is not in the design's library`,
            remedy: "Add the part to the library or correct the number.",
          }),
    });
  for (const r of look.rails.values()) if (!look.parts.has(r.part)) unknownPart("rail", r.tag, r.part);
  for (const d of look.ducts.values()) if (!look.parts.has(d.part)) unknownPart("duct", d.tag, d.part);
  const slots = new Map<string, string>();
  for (const d of look.devices.values()) {
    if (!look.parts.has(d.part)) unknownPart("device", d.tag, d.part);
    const kinds = (["face", "rail", "slot"] as const).filter((k) => d.on?.[k] !== undefined);
    if (kinds.length > 1) {
      points.add({
        severity: "stop",
        kind: "two places",
        thing: "device",
        of: d.tag,
        text: `${d.tag} stands on two places: ${kinds.map((k) => `${k} ${d.on![k]}`).join(" and ")}`,
        remedy: "Keep one of them.",
      });
    }
    if (d.on?.slot === undefined) continue;
    const key = `${d.on.slot}\u0000${d.on.name ?? ""}`;
    const there = slots.get(key);
    if (there !== undefined) {
      const [one, two] = [there, d.tag].sort(byText);
      points.add({
        severity: "stop",
        kind: "slot taken twice",
        thing: "device",
        of: two!,
        text: `${one} and ${two} both sit in slot ${d.on.name ?? "?"} of ${d.on.slot}`,
        remedy: "Move one of them to a free slot.",
      });
    }
    slots.set(key, d.tag);
  }
}

function checkEnd(
  look: Lookup,
  drawn: ReadonlySet<string>,
  points: Told,
  thing: Thing,
  of: string,
  ref: PinRef,
  end: "from" | "to",
): void {
  const device = look.devices.get(ref.device);
  if (!device) {
    const dropped = drawn.has(ref.device);
    const when = dropped ? look.design.devices.filter((d) => d.tag === ref.device).map((d) => d.when) : [];
    points.add({
      severity: "stop",
      kind: dropped ? "end left out" : "unknown device",
      thing,
      of,
      text: `${thing} ${of} goes to ${ref.device}, ${dropped ? "which is left out by the chosen options" : "which is not in the design"}`,
      remedy: dropped ? `Give the ${thing} the same condition as the device.` : "Correct the tag or add the device.",
      ...(dropped ? leftOutMends(thing, of, ref.device, when) : { cause: noDevice(ref.device, true) }),
    });
    return;
  }
  const part = look.parts.get(device.part);
  // Of a part that has none it is told once, with the part.
  if (part?.pins?.length && !look.pin(part, ref.pin)) {
    points.add({
      severity: "stop",
      kind: "unknown pin",
      thing,
      of,
      text: `${thing} ${of} goes to pin ${ref.pin} of ${ref.device}, but part ${part.number} has no such pin`,
      remedy: `It has: ${listed(look.pinNames(part))}.`,
      ...(thing === "wire"
        ? {
            mend: {
              label: "Lead it to another pin",
              kind: "change wire",
              payload: { wire: of, [end]: { device: ref.device } },
              asks: [choiceOf(`${end}.pin`, `Pin of ${ref.device}`, look.pinNames(part))],
            },
          }
        : {}),
    });
  }
}

/** Parts without any pin on which something is to land: one point for each, however many wires. O(ends), where there are any. */
function checkPinless(look: Lookup, points: OpenPoints): void {
  const without = new Map<string, { devices: Set<string>; ends: number }>();
  for (const { part } of look.devices.values())
    if (look.parts.get(part)?.pins?.length === 0 || (look.parts.has(part) && !look.parts.get(part)!.pins))
      without.set(part, { devices: new Set(), ends: 0 });
  if (without.size === 0) return;
  const land = (ref: PinRef | undefined): void => {
    const there = ref && without.get(look.devices.get(ref.device)?.part ?? "");
    if (!there) return;
    there.devices.add(ref!.device);
    there.ends++;
  };
  const ends = [...look.wires.map((w) => w.wire), ...[...look.cables.values()].flatMap((c) => c.cores)];
  for (const { from, to } of ends) {
    land(from);
    land(to);
  }
  for (const [part, { devices, ends: count }] of without) {
    if (count === 0) continue;
    const tags = [...devices].sort(byText);
    points.add({
      severity: "check",
      kind: "no pins",
      thing: "part",
      of: part,
      text: `part ${part} has no pins, and ${count === 1 ? "an end leads" : `${count} ends lead`} to ${listed(tags)}`,
      remedy:
        "Draw the pins of the part in the library. Until then they are where the shop's table of pins nobody has drawn says.",
    });
  }
}

const endMend = (wire: string, end: "from" | "to"): Mend => ({
  label: "Lead it to a pin",
  kind: "change wire",
  payload: { wire },
  asks: [
    { field: `${end}.device`, label: "Device", as: "text" },
    { field: `${end}.pin`, label: "Pin", as: "text" },
  ],
});

function checkWires(wires: Lookup["wires"], look: Lookup, drawn: ReadonlySet<string>, seen: Seen, points: Told): void {
  for (const [i, { id, wire }] of wires.entries()) {
    const missing = !wire.from && !wire.to ? "no ends" : !wire.from || !wire.to ? "only one end" : null;
    if (missing) {
      points.add({
        severity: "stop",
        kind: "end missing",
        thing: "wire",
        of: id,
        text: `wire ${id} has ${missing}`,
        remedy: "Say from which pin to which pin it goes.",
        ...(missing === "only one end" ? { mend: endMend(id, wire.from ? "to" : "from") } : {}),
      });
    }
    if (wire.from && !seen.from[i]) checkEnd(look, drawn, points, "wire", id, wire.from, "from");
    if (wire.to && !seen.to[i]) checkEnd(look, drawn, points, "wire", id, wire.to, "to");
    if (samePin(wire.from, wire.to)) {
      points.add({
        severity: "stop",
        kind: "both ends on one pin",
        thing: "wire",
        of: id,
        text: `wire ${id} begins and ends on ${wire.from!.device}:${wire.from!.pin}`,
        remedy: "Correct one end.",
      });
    }
    if (wire.net === undefined || !look.nets.has(wire.net)) {
      points.add({
        severity: "check",
        kind: "unknown net",
        thing: "wire",
        of: id,
        text:
          wire.net === undefined
            ? `wire ${id} belongs to no net`
            : `wire ${id} belongs to net ${wire.net}, which is not in the design`,
        remedy: "Name a net of the design; its class, colour and size come from there.",
        mend: {
          label: "Put it into a net",
          kind: "change wire",
          payload: { wire: id },
          asks: [{ field: "net", label: "Net", as: "choice", choices: [...look.nets.keys()].sort(byText) }],
        },
        ...(wire.net === undefined ? {} : { cause: noNet(wire.net) }),
      });
    }
    const type = wire.type === undefined ? undefined : look.parts.get(wire.type)?.wire;
    const size = seen.sizes[i];
    if (type && size && !sameSize(type.sizeMm2, size.value)) {
      points.add({
        severity: "check",
        kind: "size differs from type",
        thing: "wire",
        of: id,
        text: `wire ${id} is to have ${size.value} mm² (from its ${size.origin}), its type ${wire.type} has ${type.sizeMm2} mm²`,
        remedy: "Name a type of the right size, or correct the size.",
      });
    }
    if (wire.type !== undefined && !type) {
      points.add({
        severity: "check",
        kind: "unknown wire type",
        thing: "wire",
        of: id,
        text: `wire ${id} is of type ${wire.type}, which is no wire of the library; diameters are taken from the table`,
        remedy: "Add the wire type or correct the number.",
      });
    }
    if (wire.core && !look.cables.has(wire.core.cable)) {
      points.add({
        severity: "check",
        kind: "unknown cable",
        thing: "wire",
        of: id,
        text: `wire ${id} is a core of cable ${wire.core.cable}, which is not in the design`,
        remedy: "Correct the tag or add the cable.",
        cause: {
          text: `cable ${wire.core.cable} is not in the design`,
          mends: [
            {
              label: `Add ${wire.core.cable}`,
              kind: "add cable",
              payload: { tag: wire.core.cable, cores: [] },
              asks: [{ field: "type", label: "Type", as: "text" }],
            },
          ],
        },
      });
    }
  }
}

function checkColours(wires: Lookup["wires"], look: Lookup, shop: Rules, points: Told): void {
  for (const { id, wire } of wires) {
    if (colourOf(look, wire, shop.classes)) continue;
    points.add({
      severity: "check",
      kind: "no colour",
      thing: "wire",
      of: id,
      text: `wire ${id} has no colour`,
      remedy: "Give it to the wire, its net or its class.",
      ...noColourOf(look, wire.net),
      mend: {
        label: "Give it to the wire",
        kind: "set wires",
        payload: { wires: [id] },
        asks: [{ field: "colour", label: "Colour", as: "colour" }],
      },
    });
  }
}

function checkNets(look: Lookup, points: OpenPoints): void {
  for (const n of look.nets.values()) {
    if (n.class) continue;
    points.add({
      severity: "check",
      kind: "no class",
      thing: "net",
      of: n.name,
      text: `net ${n.name} has no class; separation of its wires cannot be judged`,
      remedy: "Give the net a class.",
      mend: {
        label: "Give it a class",
        kind: "set net",
        payload: { net: n.name },
        asks: [{ field: "class", label: "Class", as: "class" }],
      },
    });
  }
}

function checkCables(look: Lookup, drawn: ReadonlySet<string>, points: OpenPoints): void {
  for (const c of look.cables.values()) {
    for (const core of c.cores) {
      for (const end of ["from", "to"] as const)
        if (core[end]) checkEnd(look, drawn, points, "cable", c.tag, core[end], end);
    }
    for (const tag of [c.gland, c.glandTo]) {
      if (tag === undefined) continue;
      const gland = look.devices.get(tag);
      const range = gland && look.parts.get(gland.part)?.gland;
      const outer = c.outer ?? look.parts.get(c.type)?.cable?.outer;
      if (!range) {
        points.add({
          severity: "check",
          kind: "unknown gland",
          thing: "cable",
          of: c.tag,
          text: `cable ${c.tag} enters at ${tag}, which is no gland of the design`,
          remedy: "Name a device whose part is a gland.",
        });
      } else if (outer !== undefined && (outer < range.cableMin || outer > range.cableMax)) {
        points.add({
          severity: "check",
          kind: "gland does not fit",
          thing: "cable",
          of: c.tag,
          text: `cable ${c.tag} is ${outer} mm thick; gland ${tag} takes ${range.cableMin} to ${range.cableMax} mm`,
          remedy: "Choose another gland.",
        });
      }
    }
  }
}

/** More conductors on a pin than its clamp takes, and sizes outside the clamp's range. */
function checkSizes(wires: Lookup["wires"], seen: Seen, points: Told): void {
  for (const [i, { id, wire }] of wires.entries()) {
    const size = seen.sizes[i]?.value;
    if (size === undefined) continue;
    for (const end of ["from", "to"] as const) {
      const [ref, pin] = [wire[end], seen[end][i]];
      if (!ref || !pin) continue;
      const small = pin.sizeMin !== undefined && size < pin.sizeMin - SIZE_TOLERANCE_MM2;
      const large = pin.sizeMax !== undefined && size > pin.sizeMax + SIZE_TOLERANCE_MM2;
      if (!small && !large) continue;
      points.add({
        severity: "check",
        kind: "size outside the clamp",
        thing: "wire",
        of: id,
        text: `wire ${id} is ${size} mm²; ${ref.device}:${ref.pin} takes ${pin.sizeMin ?? 0} to ${pin.sizeMax ?? "any"} mm²`,
        remedy: small ? "Take a larger wire or a smaller clamp." : "Take a smaller wire or a larger clamp.",
        mend: {
          label: "Change its cross-section",
          kind: "set wires",
          payload: { wires: [id] },
          asks: [{ field: "sizeMm2", label: "Cross-section", as: "size" }],
        },
      });
    }
  }
}

function checkClamps(look: Lookup, seen: Seen, shop: Rules, points: OpenPoints): void {
  for (const point of seen.clamps) points.add(point);
  if (!mayBeOverfilled(look, seen)) return;
  for (const { ref, conductors } of landingsOf(look, shop.classes).values()) {
    const pin = pinOf(look, ref);
    if (!pin || conductors.length <= (pin.conductors ?? 1)) continue;
    points.add({
      severity: "check",
      kind: "clamp overfilled",
      thing: "device",
      of: ref.device,
      text: `${ref.device}:${ref.pin} takes ${pin.conductors ?? 1}, but ${conductors.length} land on it: ${listed(conductorTexts(conductors))}`,
      remedy: "Move one to another pin, or use a part whose clamp takes more.",
    });
  }
}

/** Whether more may land on some pin than it takes: a core that is a wire too is counted twice here. */
function mayBeOverfilled(look: Lookup, seen: Seen): boolean {
  const counts = new Map<string, Map<string, number>>();
  const over = (ref: PinRef | undefined, pin: Pin | undefined): boolean => {
    if (!ref || !pin) return false;
    let of = counts.get(ref.device);
    if (!of) counts.set(ref.device, (of = new Map()));
    const n = (of.get(ref.pin) ?? 0) + 1;
    of.set(ref.pin, n);
    return n > (pin.conductors ?? 1);
  };
  for (const [i, { wire }] of look.wires.entries())
    if (over(wire.from, seen.from[i]) || over(wire.to, seen.to[i])) return true;
  for (const { cores } of look.cables.values())
    for (const { from, to } of cores)
      if (over(from, from && pinOf(look, from)) || over(to, to && pinOf(look, to))) return true;
  return false;
}

function pinOf(look: Lookup, ref: PinRef) {
  const device = look.devices.get(ref.device);
  const part = device && look.parts.get(device.part);
  return part && look.pin(part, ref.pin);
}

function checkStrips(look: Lookup, drawn: ReadonlySet<string>, points: OpenPoints): void {
  for (const s of look.design.strips) {
    if (!look.rails.has(s.rail)) {
      points.add({
        severity: s.rail === NOT_TOLD ? "note" : "check",
        kind: "unknown rail",
        thing: "strip",
        of: s.tag,
        ...(s.rail === NOT_TOLD
          ? { text: `nothing says on which rail strip ${s.tag} stands`, remedy: "Lay it on a rail, in its lineup." }
          : {
              text: `strip ${s.tag} stands on rail ${s.rail}, which is not in the design`,
              remedy: "Correct the tag or add the rail.",
            }),
      });
    }
    const members = new Set(s.members);
    for (const m of s.members) {
      if (drawn.has(m)) continue;
      points.add({
        severity: "stop",
        kind: "unknown device",
        thing: "strip",
        of: s.tag,
        text: `strip ${s.tag} names ${m}, which is not in the design`,
        remedy: "Correct the tag or add the terminal.",
        cause: noDevice(m, leadsThere(look, m)),
      });
    }
    for (const j of s.jumpers ?? []) {
      const outside = j.members.filter((m) => !members.has(m));
      if (outside.length === 0) continue;
      points.add({
        severity: "stop",
        kind: "jumper off the strip",
        thing: "strip",
        of: s.tag,
        text: `a jumper of strip ${s.tag} joins ${listed(outside)}, which ${outside.length === 1 ? "is" : "are"} not on the strip`,
        remedy: "Correct the members of the jumper.",
      });
    }
  }
}

function checkAttachments(look: Lookup, points: OpenPoints): void {
  const tags = new Set<string>([
    ...look.design.devices.map((d) => d.tag),
    ...look.enclosures.keys(),
    ...look.design.cables.map((c) => c.tag),
    ...look.design.strips.map((s) => s.tag),
  ]);
  for (const a of look.design.attachments) {
    if (a.for === undefined || tags.has(a.for)) continue;
    points.add({
      severity: "note",
      kind: "attachment without a place",
      thing: "attachment",
      of: a.name,
      text: `attachment ${a.name} is for ${a.for}, which is not in the design`,
      remedy: "Correct the tag.",
    });
  }
}
