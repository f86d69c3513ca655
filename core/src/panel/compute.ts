import { addTurns, bodyAt, onBody, turnPoint, within, type Body, type Face, type Rect } from "../design/geometry";
import { noLayout } from "../design/layout";
import { lookUp, mountOf, type Lookup } from "../design/lookup";
import { hungStrips, piecesAt, standOnStrips, type HangRules, type HungStrip } from "../design/hung";
import type { Design, Device, Part, Rail } from "../design/model";
import { choiceOf, listed, OpenPoints } from "../design/open-points";
import { SHOP_RULES } from "../shop/rules";
import { TOUCHING_MM } from "../design/tolerance";
import { bodyOnRail } from "./on-rail";
import { findClashes, fitRules, type FitRules } from "./clashes";
import { sayClashes } from "./clash-points";
import { solidsOf } from "./solids";
import {
  PLACE_FALLBACKS,
  type PanelResult,
  type PlacedBar,
  type PlacedDevice,
  type PlacedPiece,
  type PlaceFallback,
} from "./result";

interface Standing {
  body: Body;
  face: string;
  carrier: string | null;
  fallbacks: PlaceFallback[];
}

/**
 * Finds out what sits where on every face. O(n log n) in the number of devices, plus O(wires + cores) where strips are laid.
 * @param rules the shop's: what is hung between the members of strips
 * @param fit the shop's: what doors need to open
 */
export function compute(
  design: Design,
  rules: HangRules = SHOP_RULES.lineups,
  fit: FitRules = fitRules(SHOP_RULES),
): PanelResult {
  const look = lookUp(design);
  const points = new OpenPoints("panel");
  const rails = [...look.rails.values()].flatMap((r) => placeBar(r, "rail", look, points));
  const ducts = [...look.ducts.values()].flatMap((d) => placeBar(d, "duct", look, points));
  const hung = design.strips.some((s) => s.at !== undefined) ? hungStrips(look, rules) : new Map<string, HungStrip>();
  const laid = standOnStrips(hung);
  const standing = standDevices(look, laid, points);
  const devices: PlacedDevice[] = [];
  const loose: string[] = [];
  for (const device of look.devices.values()) {
    const part = look.parts.get(device.part);
    const at = standing.get(device.tag);
    if (!part || !at) {
      loose.push(device.tag);
      continue;
    }
    devices.push(placed(device, part, at));
  }
  checkBounds(devices, look, points);
  const pieces = hungPieces(hung, look);
  const { clashes, crowded } = findClashes(solidsOf(devices, rails, ducts, pieces, look), look, fit);
  sayClashes({ clashes, crowded }, look, points);
  return {
    faces: [...look.faces.values()],
    devices,
    rails,
    ducts,
    hung: pieces,
    loose,
    clashes,
    open: points.list(),
  };
}

/** Accessories of strips that are laid, as they stand on their rails. O(pieces) */
function hungPieces(hung: ReadonlyMap<string, HungStrip>, look: Lookup): PlacedPiece[] {
  return [...hung.values()].flatMap((one) => {
    const rail = look.rails.get(one.strip.rail);
    const railPart = rail && look.parts.get(rail.part);
    if (!rail || !railPart || !look.faces.has(rail.face)) return [];
    return piecesAt(one).flatMap(({ piece: { kind, part: number, widthMm }, x }): PlacedPiece[] => {
      const part = number === null ? undefined : look.parts.get(number);
      if (kind === "member" || !part || widthMm === null) return [];
      const below = mountOf(part, "rail")?.datumY ?? part.h / 2;
      const z = railPart.d;
      const outline =
        rail.run === "up"
          ? { x: rail.x + railPart.h / 2 - (part.h - below), y: rail.y + x, w: part.h, h: widthMm }
          : { x: rail.x + x, y: rail.y + railPart.h / 2 - below, w: widthMm, h: part.h };
      return [{ strip: one.strip.tag, kind, part: part.number, face: rail.face, outline, z, top: z + part.d }];
    });
  });
}

function placed(device: Device, part: Part, { body, face, carrier, fallbacks }: Standing): PlacedDevice {
  return {
    tag: device.tag,
    part: part.number,
    text: part.text,
    category: part.category,
    texts: device.texts ?? [],
    face,
    carrier,
    centre: body.centre,
    turn: body.turn,
    w: body.w,
    h: body.h,
    outline: body.outline,
    z: body.z,
    top: body.z + part.d,
    sheet: device.sheet ?? null,
    item: device.item ?? null,
    fallbacks,
  };
}

function placeBar(bar: Rail, thing: "rail" | "duct", look: Lookup, points: OpenPoints): PlacedBar[] {
  const face = look.faces.get(bar.face);
  if (!face) {
    points.add(unknownFace(thing, bar.tag, bar.face));
    return [];
  }
  const part = look.parts.get(bar.part);
  if (!part) return [];
  const outline: Rect = { x: bar.x, y: bar.y, w: bar.length, h: part.h };
  if (bar.run === "up") Object.assign(outline, { w: part.h, h: bar.length });
  if (!within(outline, faceRect(face), TOUCHING_MM)) {
    points.add({
      severity: "check",
      kind: "outside its face",
      thing,
      of: bar.tag,
      text: `${thing} ${bar.tag} reaches beyond ${bar.face}, which is ${face.w} × ${face.h} mm`,
      remedy: "Shorten or move it.",
    });
  }
  return [
    {
      tag: bar.tag,
      part: part.number,
      face: face.id,
      run: bar.run,
      outline,
      length: bar.length,
      height: part.d,
    },
  ];
}

const faceRect = (face: Face): Rect => ({ x: 0, y: 0, w: face.w, h: face.h });

const unknownFace = (thing: "rail" | "duct" | "device", of: string, face: string) => ({
  severity: "stop" as const,
  kind: "unknown face",
  thing,
  of,
  text: `${thing} ${of} is on face ${face}, which is not in the design`,
  remedy: "Write the face as enclosure/kind, for example +A1/plate.",
});

/** Devices in the order their carriers allow; what has no place is missing from the answer. */
function standDevices(
  look: Lookup,
  laid: ReadonlyMap<string, { rail: string; x: number }>,
  points: OpenPoints,
): Map<string, Standing> {
  const done = new Map<string, Standing | null>();

  /** The device that carries this one in a slot, if it is to be placed there. */
  const carrierOf = (device: Device): Device | undefined =>
    device.on?.slot === undefined || laid.has(device.tag) ? undefined : look.devices.get(device.on.slot);

  // Carriers first, without recursion: chains of slots may be as long as the list of devices.
  const stand = (device: Device): void => {
    const chain: Device[] = [];
    const inChain = new Map<string, number>();
    for (let d: Device | undefined = device; d && !done.has(d.tag); d = carrierOf(d)) {
      const ring = inChain.get(d.tag);
      if (ring !== undefined) {
        for (const { tag } of chain.splice(ring)) {
          points.add(loosePoint(tag, `${tag} sits in itself by way of its slots`, "Break the ring."));
          done.set(tag, null);
        }
        break;
      }
      inChain.set(d.tag, chain.length);
      chain.push(d);
    }
    for (const d of chain.reverse()) done.set(d.tag, find(d));
  };

  const find = (device: Device): Standing | null => {
    const part = look.parts.get(device.part);
    const on = device.on ?? {};
    const strip = laid.get(device.tag);
    if (part && strip) return onRail(device, part, strip.rail, strip.x);
    const kinds = [on.face, on.rail, on.slot].filter((k) => k !== undefined).length;
    if (!part || kinds > 1) return null;
    if (on.face !== undefined) return onFace(device, part, on.face);
    if (on.rail !== undefined) return onRail(device, part, on.rail, on.x);
    if (on.slot !== undefined) return inSlot(device, part, on.slot, on.name ?? "");
    points.add({
      ...loosePoint(device.tag, `${device.tag} is loose: it has no place on a face, a rail or in a slot`, "Place it."),
      mend: {
        label: "Place it on a rail, behind its last device",
        kind: "place",
        payload: { device: device.tag },
        asks: [choiceOf("on.rail", "Rail", look.railNames)],
      },
    });
    return null;
  };

  const onFace = (device: Device, part: Part, id: string): Standing | null => {
    const face = look.faces.get(id);
    if (!face) {
      points.add(unknownFace("device", device.tag, id));
      return null;
    }
    const { x, y } = device.on!;
    if (x === undefined || y === undefined) {
      points.add(loosePoint(device.tag, `${device.tag} is on ${id} but has no x and y`, "Give both coordinates."));
      return null;
    }
    const centre = { x: x + part.w / 2, y: y + part.h / 2 };
    return { body: bodyAt(centre, part.w, part.h, device.turn ?? 0, 0), face: id, carrier: null, fallbacks: [] };
  };

  const onRail = (device: Device, part: Part, tag: string, x: number | undefined): Standing | null => {
    const rail = look.rails.get(tag);
    const railPart = rail && look.parts.get(rail.part);
    if (!rail || !railPart || !look.faces.has(rail.face)) {
      points.add(
        loosePoint(
          device.tag,
          `${device.tag} is on rail ${tag}, which is not in the design or has no place`,
          "Correct the tag or add the rail.",
        ),
      );
      return null;
    }
    if (x === undefined) {
      points.add(
        loosePoint(
          device.tag,
          `${device.tag} is on rail ${tag} but has no x`,
          "Give its distance from the start of the rail.",
        ),
      );
      return null;
    }
    const own = device.turn ?? 0;
    const across = own === 90 || own === 270;
    const stated = mountOf(part, "rail")?.datumY;
    const fallback: PlaceFallback | null = across ? "turned-across" : stated === undefined ? "no-rail-datum" : null;
    if (fallback) unsure(device, part, fallback);
    const extent = across ? part.h : part.w;
    if (x < -TOUCHING_MM || x + extent > rail.length + TOUCHING_MM) {
      points.add({
        severity: "check",
        kind: "off its rail",
        thing: "device",
        of: device.tag,
        text: `${device.tag} reaches from ${x} to ${x + extent} mm of rail ${tag}, which is ${rail.length} mm long`,
        remedy: "Move it, or lengthen the rail.",
      });
    }
    const body = bodyOnRail(part, own, rail, railPart, x);
    return { body, face: rail.face, carrier: tag, fallbacks: fallback ? [fallback] : [] };
  };

  const unsure = (device: Device, part: Part, fallback: PlaceFallback): void =>
    points.add({
      severity: "check",
      kind: UNSURE_KINDS[fallback][0],
      thing: "device",
      of: device.tag,
      text: `the place of ${device.tag} (part ${part.number}) is not certain: ${PLACE_FALLBACKS[fallback]}`,
      remedy: UNSURE_KINDS[fallback][1],
    });

  const inSlot = (device: Device, part: Part, parentTag: string, name: string): Standing | null => {
    const parent = look.devices.get(parentTag);
    const parentPart = parent && look.parts.get(parent.part);
    const slot = parentPart && look.slot(parentPart, name);
    if (!parent || !slot) {
      points.add(
        loosePoint(
          device.tag,
          `${device.tag} is in slot ${name || "?"} of ${parentTag}, which ${parent ? "has no such slot" : "is not in the design"}`,
          parentPart?.slots?.length ? `It has: ${listed(look.slotNames(parentPart))}.` : "Correct the tag.",
        ),
      );
      return null;
    }
    const at = done.get(parent.tag);
    if (!at) {
      points.add(
        loosePoint(
          device.tag,
          `${device.tag} is loose because ${parentTag}, in which it sits, is loose`,
          `Place ${parentTag}.`,
        ),
      );
      return null;
    }
    const datum = mountOf(part, "slot");
    if (!datum) unsure(device, part, "no-slot-datum");
    const { datumX, datumY, datumZ } = datum ?? { datumX: 0, datumY: 0, datumZ: 0 };
    // From the datum to the middle of the body, turned with the body: the datum stays on the slot.
    const lift = turnPoint({ x: part.w / 2 - datumX, y: part.h / 2 - datumY }, device.turn ?? 0);
    const centre = onBody(at.body, { x: slot.x + lift.x, y: slot.y + lift.y, z: slot.z - datumZ });
    return {
      body: bodyAt(centre, part.w, part.h, addTurns(at.body.turn, device.turn ?? 0), centre.z),
      face: at.face,
      carrier: parentTag,
      fallbacks: [...new Set<PlaceFallback>([...at.fallbacks, ...(datum ? [] : ["no-slot-datum" as const])])],
    };
  };

  const standing = new Map<string, Standing>();
  // Lists of devices and wires come first, their layout later: that is one cause, not one for each device.
  if (look.enclosures.size === 0 && look.devices.size > 0) {
    const [first] = look.devices.keys();
    const devices = look.devices.size === 1 ? "1 device has" : `${look.devices.size} devices have`;
    points.add(noLayout("device", first!, `${devices} no place`));
    return standing;
  }
  for (const device of look.devices.values()) {
    stand(device);
    const at = done.get(device.tag);
    if (at) standing.set(device.tag, at);
  }
  return standing;
}

const UNSURE_KINDS: Record<PlaceFallback, [kind: string, remedy: string]> = {
  "no-rail-datum": ["no rail datum", "Add a rail mount with its datum to the part."],
  "no-slot-datum": ["no slot datum", "Add a slot mount with its datum to the part."],
  "turned-across": ["turned across its rail", "Turn it by 0 or 180 degrees, or place it on the face."],
};

const loosePoint = (of: string, text: string, remedy: string) => ({
  severity: "stop" as const,
  kind: "loose device",
  thing: "device" as const,
  of,
  text,
  remedy,
});

function checkBounds(devices: readonly PlacedDevice[], look: Lookup, points: OpenPoints): void {
  for (const d of devices) {
    const face = look.faces.get(d.face)!;
    if (within(d.outline, faceRect(face), TOUCHING_MM)) continue;
    points.add({
      severity: "check",
      kind: "outside its face",
      thing: "device",
      of: d.tag,
      text: `${d.tag} reaches beyond ${d.face}, which is ${face.w} × ${face.h} mm`,
      remedy: "Move it.",
    });
  }
}
