import { byText } from "../design/order";
import type { PanelResult } from "../panel/result";

/**
 * Place of a device in the order of work: face by face, from the top down, from left to right; what stands nowhere comes last.
 * A bundle is wired when its device is. O(devices log devices)
 */
export function workRank(panel: Pick<PanelResult, "devices">): (device: string) => number {
  const order = [...panel.devices].sort(
    (a, b) => byText(a.face, b.face) || b.centre.y - a.centre.y || a.centre.x - b.centre.x || byText(a.tag, b.tag),
  );
  const rank = new Map(order.map((d, i) => [d.tag, i]));
  return (device) => rank.get(device) ?? Infinity;
}
