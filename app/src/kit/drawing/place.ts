import type { View } from "./useZoom";

/** A view of a drawing as it was left, and the size it was left at. */
interface Left {
  view: View;
  w: number;
  h: number;
}

/** So many are remembered, the ones left last; only while the page is open. */
const MOST = 30;
/** Whoever goes back sees the drawing within this time. ms */
const BACK_MS = 5_000;

const left = new Map<string, Left>();
let wentBack = -Infinity;
if (typeof window !== "undefined") window.addEventListener("popstate", () => (wentBack = performance.now()));

const keyOf = (label: string): string => `${window.location.pathname}${window.location.search} ${label}`;

/** Remembers where a drawing stands at this address. */
export function leaveAt(label: string, place: Left): void {
  const key = keyOf(label);
  left.delete(key);
  left.set(key, place);
  for (const old of left.keys()) if (left.size > MOST) left.delete(old);
}

/** Where the drawing was left, for whoever comes back to this address by the way back; in a window of the same size. */
export function cameBackTo(label: string, w: number, h: number): View | null {
  if (performance.now() - wentBack > BACK_MS) return null;
  const place = left.get(keyOf(label));
  return place && place.w === w && place.h === h ? place.view : null;
}
