import type { Design } from "../design/model";
import { byText, mapBy, pushTo } from "../design/order";
import type { PanelResult, PlacedDevice } from "./result";

/** Devices of equal part and text: one number in balloons and legends of the whole job. */
export interface Item {
  number: number;
  part: string;
  text: string;
  maker: string;
  /** What is written on each of them. */
  texts: string[];
  devices: PlacedDevice[];
}

/** From the top, from the left: the order in which a face is read. */
const reading = (a: PlacedDevice, b: PlacedDevice): number =>
  b.outline.y + b.outline.h - (a.outline.y + a.outline.h) || a.outline.x - b.outline.x || byText(a.tag, b.tag);

/**
 * Items of a job. A number that the design states for a device counts for all that are equal to it, the lowest of several,
 * for the first that states it; the others get the next free numbers, face by face, from the top and from the left. O(n log n)
 */
export function itemsOf(panel: Pick<PanelResult, "faces" | "devices">, design: Pick<Design, "parts">): Item[] {
  const parts = mapBy(design.parts, (p) => p.number);
  const order = new Map(panel.faces.map((f, i) => [f.id, i]));
  const devices = [...panel.devices].sort(
    (a, b) => (order.get(a.face) ?? Infinity) - (order.get(b.face) ?? Infinity) || reading(a, b),
  );
  const groups = new Map<string, PlacedDevice[]>();
  for (const d of devices) pushTo(groups, JSON.stringify([d.part, d.texts]), d);
  const taken = new Set<number>();
  const stated = [...groups.values()].map((group) => {
    const wanted = group.flatMap((d) => (d.item === null ? [] : [d.item])).sort((a, b) => a - b);
    const number = wanted.find((n) => !taken.has(n));
    if (number !== undefined) taken.add(number);
    return { group, number };
  });
  let next = 1;
  const items = stated.map(({ group, number }): Item => {
    let own = number;
    if (own === undefined) {
      while (taken.has(next)) next++;
      own = next++;
    }
    const first = group[0]!;
    const part = parts.get(first.part);
    return {
      number: own,
      part: first.part,
      text: first.text,
      maker: part?.maker ?? "",
      texts: first.texts,
      devices: group,
    };
  });
  return items.sort((a, b) => a.number - b.number);
}

/** What of the items stands on a face. */
export interface LegendLine {
  item: Item;
  /** In order of name. */
  tags: string[];
}

export const legendOf = (items: readonly Item[], face: string): LegendLine[] =>
  items.flatMap((item) => {
    const tags = item.devices.flatMap((d) => (d.face === face ? [d.tag] : [])).sort(byText);
    return tags.length > 0 ? [{ item, tags }] : [];
  });
