import type { Lookup } from "../design/lookup";
import { toMm } from "../design/tolerance";
import type { PlacedDevice } from "../panel/result";
import type { Attached } from "./attach";
import type { Bar, Network } from "./network";
import type { WireRoute } from "./result";

/** Says in words why a wire has no way: which end, duct or crossing is missing or hangs free. */
export function breakText(
  route: WireRoute,
  from: Attached | null,
  to: Attached | null,
  look: Lookup,
  net: Network,
  placed: ReadonlyMap<string, PlacedDevice>,
): string {
  const ends = [
    { ref: route.fromRef, at: from },
    { ref: route.toRef, at: to },
  ];
  for (const { ref, at } of ends) {
    if (!ref) return "one of its ends is missing";
    if (at) continue;
    if (!look.devices.has(ref.device)) return `${ref.device} is not in the design`;
    if (!placed.has(ref.device)) return `${ref.device} has no place`;
    return `${ref.device} has no pin ${ref.pin}`;
  }
  for (const { at } of ends) {
    if (!at!.foot) return `there is no duct on ${at!.end.face}, where ${at!.end.device} sits`;
  }
  return partsText(net, from!, to!);
}

/** Where two parts of the network that are not joined come closest. */
function partsText(net: Network, from: Attached, to: Attached): string {
  const partOf = (a: Attached): number => net.part[a.foot!.bar]!;
  const inPart = (part: number): Bar[] => net.bars.filter((b) => net.part[b.index] === part);
  const near = inPart(partOf(from));
  const far = inPart(partOf(to));
  const start = net.bars[from.foot!.bar]!.tag;
  const goal = net.bars[to.foot!.bar]!.tag;
  let closest: { a: Bar; b: Bar; gap: number } | null = null;
  for (const a of near) {
    for (const b of far) {
      if (a.face !== b.face) continue;
      const dx = Math.max(0, b.outline.x - (a.outline.x + a.outline.w), a.outline.x - (b.outline.x + b.outline.w));
      const dy = Math.max(0, b.outline.y - (a.outline.y + a.outline.h), a.outline.y - (b.outline.y + b.outline.h));
      const gap = Math.hypot(dx, dy);
      if (gap < (closest?.gap ?? Infinity)) closest = { a, b, gap };
    }
  }
  const lead = `no way leads from ${start} to ${goal}`;
  if (closest) return `${lead}: ${closest.a.tag} and ${closest.b.tag} stand ${Math.round(toMm(closest.gap))} mm apart`;
  const [faceA, faceB] = [from.end.face, to.end.face];
  const hanging = [...net.hanging].map(([tag, why]) => `crossing ${tag} hangs free (${why})`);
  if (hanging.length > 0) return `${lead}: ${hanging.join("; ")}`;
  return `${lead}: no crossing joins ${faceA} and ${faceB}`;
}
