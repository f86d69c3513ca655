import { alongRail } from "../design/hung";
import { lookUp, mountOf, type Lookup } from "../design/lookup";
import type { Design, Device, Place, Rail } from "../design/model";
import { FORM } from "../design/schema";
import { listOf, maybe, objectOf, oneOf, pairOf, type ValueOf } from "../form/form";
import { done, notThere, unfit, type Applied, type EditKind } from "../frame/edits";
import { behindLast, even, gapBetween, isIn, missing, NOISE_MM, refuseHeld, standsOn, type Stand } from "./stands";

/** Edits of several things that stand in a row: lined up, moved together, spread, put in line, exchanged. */

/** A device that is named once, exists and is not held by a strip; else why not. */
function free(design: Design, look: Lookup, tags: readonly string[]): Device[] | Applied {
  const found: Device[] = [];
  for (const tag of tags) {
    const device = look.devices.get(tag);
    if (!device) return notThere("device", tag);
    if (found.includes(device)) return unfit(`${tag} is named twice`, "Name each device once.");
    const held = refuseHeld(design, tag);
    if (held) return held;
    found.push(device);
  }
  return found;
}

const withPlaces = (design: Design, places: ReadonlyMap<Device, Place>): Design => ({
  ...design,
  devices: design.devices.map((d) => (places.has(d) ? { ...d, on: places.get(d)! } : d)),
});

/** In a row of names only so many are said. */
const MOST_SAID = 6;
const said = (tags: readonly string[]): string =>
  tags.length <= MOST_SAID
    ? tags.join(", ")
    : `${tags.slice(0, MOST_SAID).join(", ")} and ${tags.length - MOST_SAID} more`;
const apart = (gap: number | undefined): string =>
  gap === undefined ? "as near as their parts allow" : gap === 0 ? "side by side" : `${gap} mm apart`;

const MOST_NAMED = 5000;
const devices = listOf(FORM.name).max(MOST_NAMED);
/** Left free between two; what their parts ask for, when absent. */
const gapForm = maybe(FORM.mm.min(0));

const lineUpForm = objectOf({
  /** In the order in which they are to stand. */
  devices: devices.min(1),
  /** The next one is taken where one is full. */
  rails: listOf(FORM.name).min(1).max(200),
  gap: gapForm,
});
export interface LineUp extends ValueOf<typeof lineUpForm> {}

/** Puts devices side by side on rails in their order, on each behind what stands there already. All of them, or none. */
export const lineUp: EditKind<LineUp, "line up"> = {
  kind: "line up",
  schema: lineUpForm,
  apply(design, { devices: tags, rails: names, gap }) {
    const look = lookUp(design);
    const wanted = free(design, look, tags);
    if (!Array.isArray(wanted)) return wanted;
    const rails: Rail[] = [];
    for (const name of names) {
      const rail = look.rails.get(name);
      if (!rail) return notThere("rail", name);
      if (rails.includes(rail)) return unfit(`rail ${name} is named twice`, "Name each rail once.");
      rails.push(rail);
    }
    const but = new Set(tags);
    const places = new Map<Device, Place>();
    let nth = 0;
    let row = rowBehind(design, rails[0]!, but);
    for (const [i, device] of wanted.entries()) {
      const part = look.parts.get(device.part);
      const wide = alongRail(device, look);
      if (!part || wide === null)
        return unfit(`how wide ${device.tag} is, is not known`, "Add its part to the library.");
      if (!mountOf(part, "rail"))
        return unfit(
          `part ${part.number} of ${device.tag} has no mount for a rail`,
          "Leave it out, or place it on a face.",
        );
      const at = (): number =>
        row.last === undefined ? row.end : row.end + (gap ?? gapBetween(row.last, device, row.rail, look));
      while (at() + wide > row.rail.length + NOISE_MM) {
        const next = rails[++nth];
        if (!next) {
          const over = tags.slice(i);
          return unfit(
            `${said(names)} ${names.length === 1 ? "has" : "have"} no room for ${said(over)}: ${device.tag} is ${wide} mm wide, and ${Math.max(0, Math.floor((row.rail.length - row.end) * 10) / 10)} mm are free behind what stands on ${row.rail.tag}`,
            "Take another rail as well, or fewer devices.",
          );
        }
        row = rowBehind(design, next, but);
      }
      const x = even(at());
      places.set(device, { rail: row.rail.tag, x });
      row = { rail: row.rail, end: x + wide, last: device };
    }
    return done(withPlaces(design, places));
  },
  sentence: ({ devices: tags, rails, gap }) => `${said(tags)} lined up on ${said(rails)}, ${apart(gap)}`,
  touches: ({ devices: tags, rails }) => [
    ...tags.map((of) => ({ thing: "device" as const, of })),
    ...rails.map((of) => ({ thing: "rail" as const, of })),
  ],
};

/** The end of what stands on a rail; `last` is undefined where nothing does, null where a strip is the last. */
function rowBehind(design: Design, rail: Rail, but: ReadonlySet<string>) {
  const end = behindLast(design, rail.tag, but);
  const last = standsOn(design, rail.tag, but).find((s) => s.to === end);
  return { rail, end, last: last === undefined ? undefined : last.device };
}

const placeManyForm = objectOf({
  places: listOf(objectOf({ device: FORM.name, rail: FORM.name, x: FORM.mm.min(0) }))
    .min(1)
    .max(MOST_NAMED),
});
export interface PlaceMany extends ValueOf<typeof placeManyForm> {}

/** Puts each of many devices at its own place on a rail: what was proposed. All of them, or none. */
export const placeMany: EditKind<PlaceMany, "place many"> = {
  kind: "place many",
  schema: placeManyForm,
  apply(design, { places: wanted }) {
    const look = lookUp(design);
    const found = free(
      design,
      look,
      wanted.map((p) => p.device),
    );
    if (!Array.isArray(found)) return found;
    const places = new Map<Device, Place>();
    for (const [i, device] of found.entries()) {
      const { rail: name, x } = wanted[i]!;
      const rail = look.rails.get(name);
      if (!rail) return notThere("rail", name);
      const part = look.parts.get(device.part);
      if (part && !mountOf(part, "rail"))
        return unfit(
          `part ${part.number} of ${device.tag} has no mount for a rail`,
          "Leave it out, or place it on a face.",
        );
      const over = x + (alongRail(device, look) ?? 0) - rail.length;
      if (over > NOISE_MM)
        return unfit(`${device.tag} would reach ${missing(over)} mm beyond the end of ${name}`, "Propose places anew.");
      places.set(device, { rail: name, x });
    }
    return done(withPlaces(design, places));
  },
  sentence: ({ places }) =>
    `${said(places.map((p) => p.device))} placed on ${said([...new Set(places.map((p) => p.rail))])}`,
  touches: ({ places }) => places.map(({ device: of }) => ({ thing: "device", of })),
};

const onRailForm = objectOf({ rail: FORM.name, gap: gapForm });
export interface CloseGaps extends ValueOf<typeof onRailForm> {}

const stripInWay = (strip: string, rail: string): Applied =>
  unfit(
    `strip ${strip}, which is laid on ${rail}, stands in the way`,
    "Lay the strip at another place first, or choose another gap.",
  );

/** Moves what stands on a rail together towards its first device, in its order. Strips that are laid stay. */
export const closeGaps: EditKind<CloseGaps, "close gaps"> = {
  kind: "close gaps",
  schema: onRailForm,
  apply(design, { rail: name, gap }) {
    const look = lookUp(design);
    const rail = look.rails.get(name);
    if (!rail) return notThere("rail", name);
    const stands = standsOn(design, name, new Set());
    if (stands.length < 2) return unfit(`fewer than two things stand on ${name}`, "There are no gaps to close.");
    const places = new Map<Device, Place>();
    let [end, before] = [stands[0]!.to, stands[0]!];
    for (const s of stands.slice(1)) {
      const x = even(end + (gap ?? gapBetween(before.device, s.device, rail, look)));
      if (s.device === null) {
        if (x > s.from + NOISE_MM) return stripInWay(s.of, name);
        end = s.to;
      } else {
        if (Math.abs(x - s.from) > NOISE_MM) places.set(s.device, { ...s.device.on, x });
        end = x + (s.to - s.from);
        if (end > rail.length + NOISE_MM && x > s.from)
          return unfit(
            `${name} is too short for that: ${missing(end - rail.length)} mm are missing at its end`,
            "Choose a smaller gap, or lengthen the rail.",
          );
      }
      before = s;
    }
    if (places.size === 0) return unfit(`what stands on ${name} stands so already`, "There is nothing to move.");
    return done(withPlaces(design, places));
  },
  sentence: ({ rail, gap }) => `what stands on ${rail} moved together, ${apart(gap)}`,
  touches: ({ rail }) => [{ thing: "rail", of: rail }],
};

const spreadForm = objectOf({ rail: FORM.name });
export interface EvenOut extends ValueOf<typeof spreadForm> {}

/** Spreads what stands on a rail with equal gaps: the first and the last stay, and so do strips that are laid. */
export const evenOut: EditKind<EvenOut, "even out"> = {
  kind: "even out",
  schema: spreadForm,
  apply(design, { rail: name }) {
    if (!lookUp(design).rails.has(name)) return notThere("rail", name);
    const stands = standsOn(design, name, new Set());
    if (stands.length < 3) return unfit(`fewer than three things stand on ${name}`, "There are no gaps to make equal.");
    const places = new Map<Device, Place>();
    for (let i = 0; i < stands.length - 1;) {
      let j = i + 1;
      while (j < stands.length - 1 && stands[j]!.device !== null) j++;
      const between = stands.slice(i + 1, j);
      const wide = between.reduce((sum, s) => sum + s.to - s.from, 0);
      const gap = (stands[j]!.from - stands[i]!.to - wide) / (between.length + 1);
      if (gap < -NOISE_MM && between.length > 0)
        return unfit(
          `${missing(-gap * (between.length + 1))} mm are missing between ${stands[i]!.of} and ${stands[j]!.of} on ${name}`,
          "Move the last one further along first.",
        );
      let x = stands[i]!.to;
      for (const s of between) {
        x = even(x + gap);
        if (Math.abs(x - s.from) > NOISE_MM) places.set(s.device!, { ...s.device!.on, x });
        x += s.to - s.from;
      }
      i = j;
    }
    if (places.size === 0) return unfit(`the gaps on ${name} are equal already`, "There is nothing to move.");
    return done(withPlaces(design, places));
  },
  sentence: ({ rail }) => `what stands on ${rail} spread with equal gaps`,
  touches: ({ rail }) => [{ thing: "rail", of: rail }],
};

export const LINES = ["left", "right", "bottom", "top", "middle across", "middle up"] as const;
export type Line = (typeof LINES)[number];

const alignForm = objectOf({
  /** The first stays. */
  devices: devices.min(2),
  by: oneOf(LINES),
});
export interface Align extends ValueOf<typeof alignForm> {}

/** Brings an edge or the middle of devices on one face in line with the first of them. */
export const align: EditKind<Align, "align"> = {
  kind: "align",
  schema: alignForm,
  apply(design, { devices: tags, by }) {
    const look = lookUp(design);
    const wanted = free(design, look, tags);
    if (!Array.isArray(wanted)) return wanted;
    const boxes: { device: Device; x: number; y: number; w: number; h: number }[] = [];
    for (const device of wanted) {
      const part = look.parts.get(device.part);
      const { face, x, y } = device.on ?? {};
      if (!part || face === undefined || x === undefined || y === undefined)
        return unfit(
          `${device.tag} does not stand on a face by itself`,
          "Only what is mounted on a plate, door or wall is put in line; what stands on a rail moves along it.",
        );
      if (face !== wanted[0]!.on!.face)
        return unfit(`${device.tag} stands on ${face}, and ${tags[0]} on ${wanted[0]!.on!.face}`, "Choose one face.");
      const across = device.turn === 90 || device.turn === 270;
      const [w, h] = across ? [part.h, part.w] : [part.w, part.h];
      // Turned about the middle of the body as it is given.
      boxes.push({ device, x: x + (part.w - w) / 2, y: y + (part.h - h) / 2, w, h });
    }
    const [axis, size, share] = WHERE[by];
    const at = (b: (typeof boxes)[number]): number => b[axis] + share * b[size];
    const places = new Map<Device, Place>();
    for (const b of boxes.slice(1)) {
      const by_ = at(boxes[0]!) - at(b);
      if (Math.abs(by_) > NOISE_MM) places.set(b.device, { ...b.device.on, [axis]: even(b.device.on![axis]! + by_) });
    }
    if (places.size === 0) return unfit("they stand in line already", "There is nothing to move.");
    return done(withPlaces(design, places));
  },
  sentence: ({ devices: [first, ...others], by }) => `${said(others)} put in line with ${first}: ${by}`,
  touches: ({ devices: tags }) => tags.map((of) => ({ thing: "device", of })),
};

/** Which coordinate of a body, and how far along it. */
const WHERE: Record<Line, readonly ["x", "w", number] | readonly ["y", "h", number]> = {
  left: ["x", "w", 0],
  right: ["x", "w", 1],
  "middle across": ["x", "w", 0.5],
  bottom: ["y", "h", 0],
  top: ["y", "h", 1],
  "middle up": ["y", "h", 0.5],
};

const swapPlacesForm = objectOf({ devices: pairOf(FORM.name, FORM.name) });
export interface SwapPlaces extends ValueOf<typeof swapPlacesForm> {}

/**
 * Exchanges the places of two devices. On one rail both keep the outer edges of the pair, and what stands between them
 * moves by what one is wider than the other; elsewhere each takes the lower left corner of the other.
 */
export const swapPlaces: EditKind<SwapPlaces, "swap places"> = {
  kind: "swap places",
  schema: swapPlacesForm,
  apply(design, { devices: tags }) {
    const look = lookUp(design);
    const wanted = free(design, look, tags);
    if (!Array.isArray(wanted)) return wanted;
    const [a, b] = wanted as [Device, Device];
    for (const d of [a, b]) if (!d.on) return unfit(`${d.tag} has no place`, "Place it first.");
    const carried = [a, b].find((d, i) => isIn(look, wanted[1 - i]!.tag, (c) => c === d.tag));
    if (carried)
      return unfit(`one of the two stands in ${carried.tag}`, "Only what stands beside another is exchanged.");
    for (const [d, other] of [
      [a, b],
      [b, a],
    ] as const) {
      const part = look.parts.get(d.part);
      if (other.on!.rail !== undefined && part && !mountOf(part, "rail"))
        return unfit(`part ${part.number} of ${d.tag} has no mount for a rail`, `${other.tag} stands on one.`);
      const slot =
        other.on!.slot === undefined ? undefined : look.parts.get(look.devices.get(other.on!.slot)?.part ?? "");
      if (other.on!.slot !== undefined && slot && !look.slot(slot, other.on!.name ?? ""))
        return unfit(`${other.on!.slot} has no slot ${other.on!.name ?? "?"}`, "Place the device elsewhere first.");
    }
    const rail = a.on!.rail;
    if (rail === undefined || rail !== b.on!.rail || a.on!.x === undefined || b.on!.x === undefined)
      return exchanged(design, a, b, look);
    const [low, high] = a.on!.x <= b.on!.x ? [a, b] : [b, a];
    const [wideLow, wideHigh] = [alongRail(low, look), alongRail(high, look)];
    if (wideLow === null || wideHigh === null)
      return unfit(
        `how wide ${wideLow === null ? low.tag : high.tag} is, is not known`,
        "Add its part to the library.",
      );
    const between = standsOn(design, rail, new Set(tags)).filter((s) => s.from >= low.on!.x! && s.from <= high.on!.x!);
    const by = wideHigh - wideLow;
    const strip = between.find((s) => s.device === null);
    if (strip && Math.abs(by) > NOISE_MM) return stripInWay(strip.of, rail);
    return done(
      withPlaces(
        design,
        new Map<Device, Place>([
          [high, { rail, x: low.on!.x! }],
          [low, { rail, x: even(high.on!.x! + by) }],
          ...between.flatMap((s: Stand): [Device, Place][] =>
            s.device ? [[s.device, { ...s.device.on, x: even(s.from + by) }]] : [],
          ),
        ]),
      ),
    );
  },
  sentence: ({ devices: [a, b] }) => `${a} and ${b} exchanged their places`,
  touches: ({ devices: tags }) => tags.map((of) => ({ thing: "device", of })),
};

/** Each where the other stood, where both rails have room for it. */
function exchanged(design: Design, a: Device, b: Device, look: Lookup): Applied {
  for (const [d, other] of [
    [a, b],
    [b, a],
  ] as const) {
    const { rail, x } = other.on!;
    if (rail === undefined || x === undefined) continue;
    const end = x + (alongRail(d, look) ?? 0);
    const next = standsOn(design, rail, new Set([a.tag, b.tag])).find((s) => s.to > x + NOISE_MM);
    if (next && next.from < end - NOISE_MM)
      return unfit(
        `${d.tag} has no room where ${other.tag} stands: ${missing(end - next.from)} mm are missing before ${next.of} on ${rail}`,
        "Move what stands there along first.",
      );
    const length = look.rails.get(rail)?.length ?? Infinity;
    if (end > length + NOISE_MM)
      return unfit(
        `${d.tag} has no room where ${other.tag} stands: ${missing(end - length)} mm are missing at the end of ${rail}`,
        "Lengthen the rail, or move it first.",
      );
  }
  return done(
    withPlaces(
      design,
      new Map([
        [a, b.on!],
        [b, a.on!],
      ]),
    ),
  );
}
