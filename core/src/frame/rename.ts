import { changed } from "./edits";
import type { Accepted, Design, PinRef, Strip } from "../design/model";
import { wordOf, type Thing } from "../design/open-points";

/**
 * What people let stand, under new names: of a point about the thing itself, and of any that names it in its text.
 * @param names new name by old one
 */
export function renameAccepted(d: Design, thing: Thing, names: ReadonlyMap<string, string>): Pick<Design, "accepted"> {
  if (!d.accepted) return {};
  return {
    accepted: d.accepted.map((a): Accepted => {
      const [stage, kind, of, ...rest] = a.point.split("/");
      const name = rest.join("/");
      const piece = of === "piece" && thing === "duct" ? name.slice(0, name.lastIndexOf(".")) : null;
      const to = of === thing ? names.get(name) : piece !== null ? names.get(piece) : undefined;
      const point =
        to === undefined
          ? a.point
          : [stage, kind, of, piece === null ? to : `${to}${name.slice(name.lastIndexOf("."))}`].join("/");
      const said = [...names].filter(
        ([from]) => wordOf(from).test(a.text) || (a.names ?? []).some(([, to]) => to === from),
      );
      if (said.length === 0 && point === a.point) return a;
      return { ...a, point, names: [...(a.names ?? []), ...said].slice(-MOST_NAMES) };
    }),
  };
}

/** Of one that was named anew more often, the last names count. */
const MOST_NAMES = 50;

/**
 * Devices under other names, all at once: two may change places. Every reference goes with them.
 * O(size of the design)
 * @param names new name by old one; no two new ones may be equal, or the name of a device that keeps its own
 */
export function renameDevices(d: Design, names: ReadonlyMap<string, string>): Design {
  const is = (name: string | undefined): boolean => name !== undefined && names.has(name);
  const name = (of: string): string => names.get(of) ?? of;
  const ends = <T extends { from?: PinRef; to?: PinRef }>(list: T[]): T[] =>
    changed(
      list,
      (w) => is(w.from?.device) || is(w.to?.device),
      (w) => ({
        ...w,
        ...(w.from ? { from: { ...w.from, device: name(w.from.device) } } : {}),
        ...(w.to ? { to: { ...w.to, device: name(w.to.device) } } : {}),
      }),
    );
  return {
    ...d,
    ...renameAccepted(d, "device", names),
    devices: changed(
      d.devices,
      (v) => is(v.tag) || is(v.on?.slot),
      (v) => ({
        ...v,
        tag: name(v.tag),
        ...(v.on?.slot === undefined ? {} : { on: { ...v.on, slot: name(v.on.slot) } }),
      }),
    ),
    wires: ends(d.wires),
    cables: changed(
      d.cables,
      (c) => is(c.gland) || is(c.glandTo) || c.cores.some((k) => is(k.from?.device) || is(k.to?.device)),
      (c) => ({
        ...c,
        ...(c.gland === undefined ? {} : { gland: name(c.gland) }),
        ...(c.glandTo === undefined ? {} : { glandTo: name(c.glandTo) }),
        cores: ends(c.cores),
      }),
    ),
    strips: changed(
      d.strips,
      (s) => namesOf(s).some(is),
      (s) => onStrip(s, name),
    ),
    attachments: changed(
      d.attachments,
      (a) => is(a.for),
      (a) => ({ ...a, for: name(a.for!) }),
    ),
  };
}

/** Every device a strip says something of. */
const namesOf = ({ members, jumpers, splitAfter, print, groups, pieces }: Strip): string[] => [
  ...members,
  ...(jumpers ?? []).flatMap((j) => j.members),
  ...(splitAfter ?? []),
  ...Object.keys(print ?? {}),
  ...(groups ?? []).flat(),
  ...(pieces ?? []).flatMap((p) => p.behind ?? []),
];

const onStrip = (s: Strip, name: (of: string) => string): Strip => ({
  ...s,
  members: s.members.map(name),
  ...(s.jumpers ? { jumpers: s.jumpers.map((j) => ({ ...j, members: j.members.map(name) })) } : {}),
  ...(s.splitAfter ? { splitAfter: s.splitAfter.map(name) } : {}),
  ...(s.print ? { print: Object.fromEntries(Object.entries(s.print).map(([k, v]) => [name(k), v])) } : {}),
  ...(s.groups ? { groups: s.groups.map((g) => g.map(name)) } : {}),
  ...(s.pieces ? { pieces: s.pieces.map((p) => (p.behind === undefined ? p : { ...p, behind: name(p.behind) })) } : {}),
});

/** Strips on which the sides of conductors go by their new names. */
export const renameSides = (strips: Strip[], names: ReadonlyMap<string, string>): Strip[] =>
  changed(
    strips,
    (s) => Object.keys(s.sides ?? {}).some((c) => names.has(c)),
    (s) => ({
      ...s,
      sides: Object.fromEntries(Object.entries(s.sides!).map(([c, side]) => [names.get(c) ?? c, side])),
    }),
  );
