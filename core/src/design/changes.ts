import { canonicalJson } from "./canonical";
import { faceId } from "./geometry";
import { lookUp, type Lookup } from "./lookup";
import { mapBy } from "./order";
import type { Design } from "./model";
import type { Thing } from "./open-points";

/** What is new, gone and changed of one kind of thing, by name, in the order of the design. */
export interface ThingChanges {
  thing: Thing;
  added: string[];
  gone: string[];
  changed: string[];
}

const LISTS: readonly [Thing, (look: Lookup) => ReadonlyMap<string, unknown>][] = [
  ["enclosure", (l) => l.enclosures],
  ["face", (l) => facesOf(l)],
  ["rail", (l) => l.rails],
  ["duct", (l) => l.ducts],
  ["crossing", (l) => l.crossings],
  ["device", (l) => l.devices],
  ["net", (l) => l.nets],
  ["wire", (l) => new Map(l.wires.map(({ id, wire }) => [id, wire]))],
  ["cable", (l) => l.cables],
  ["part", (l) => l.parts],
  ["strip", (l) => new Map(l.design.strips.map((s) => [s.tag, s]))],
  ["option", (l) => new Map(l.design.options.map((o) => [o.key, o]))],
];

/** Faces with what the design says of them: size, areas, holes, sheet. They come and go with their enclosures. */
function facesOf({ faces, design }: Lookup): Map<string, unknown> {
  const own = mapBy(design.faces, (o) => faceId(o.enclosure, o.kind));
  return new Map([...faces.keys()].map((id) => [id, own.get(id) ?? null]));
}

/**
 * What differs between two designs, of what exists with the options chosen in each. Kinds of things in which
 * nothing differs are left out. O(size of the designs).
 */
export function designChanges(before: Design, after: Design): ThingChanges[] {
  const [one, two] = [lookUp(before), lookUp(after)];
  return LISTS.flatMap(([thing, listOf]) => {
    const [old, now] = [listOf(one), listOf(two)];
    const changes: ThingChanges = {
      thing,
      added: thing === "face" ? [] : [...now.keys()].filter((name) => !old.has(name)),
      gone: thing === "face" ? [] : [...old.keys()].filter((name) => !now.has(name)),
      changed: [...now].flatMap(([name, item]) => {
        const was = old.get(name);
        return was === undefined || was === item || canonicalJson(was) === canonicalJson(item) ? [] : [name];
      }),
    };
    return changes.added.length + changes.gone.length + changes.changed.length > 0 ? [changes] : [];
  });
}
