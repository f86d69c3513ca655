import type { KitLog } from "@gray-bench/core/kits/events";
import { even, lineKey, type Kit, type KitLine, type KitsResult, type Walk } from "@gray-bench/core/kits/result";
import { savedMetres } from "@gray-bench/core/kits/say";
import type { Store } from "@gray-bench/core/kits/walk";

/** One line of one of the kits that are picked in a walk. */
export interface ToPick {
  /** Unique among them, and in addresses. */
  id: string;
  kit: Kit;
  line: KitLine;
  key: string;
}

/** Lines of kits in the order of one walk; what lies in one place is fetched for all of them at once. O(lines log lines) */
export function toPick(kits: readonly Kit[], walk: Pick<Walk, "stops">): ToPick[] {
  const at = new Map(walk.stops.map((p, i) => [p, i]));
  const rank = ({ line }: ToPick): number => at.get(line.place ?? "") ?? Infinity;
  return kits
    .flatMap((kit) =>
      kit.lines.map((line): ToPick => ({ id: `${kit.code} ${lineKey(line)}`, kit, line, key: lineKey(line) })),
    )
    .sort((a, b) => rank(a) - rank(b) || (a.key < b.key ? -1 : a.key > b.key ? 1 : a.kit.code < b.kit.code ? -1 : 1));
}

/** One walk for kits, and in words what it saves: of one kit against the order of the bill, of several against a walk each. */
export function walkFor(
  kits: readonly Kit[],
  { kits: all, together }: Pick<KitsResult, "kits" | "together">,
  store: Store,
  far: (metres: number) => string,
): { walk: Walk; saves: string } {
  const [one] = kits;
  if (kits.length === 1 && one)
    return { walk: one.walk, saves: `${far(savedMetres(one.walk))} less than in the order of the bill` };
  const walk =
    kits.length === all.length ? together : store.walk(kits.flatMap((k) => k.lines.flatMap((l) => l.place ?? [])));
  return { walk, saves: `one by one ${far(kits.reduce((sum, k) => sum + k.walk.metres, 0))}` };
}

/** How many are still to be fetched. */
export const leftOf = ({ kit, line, key }: ToPick, log: ReadonlyMap<string, KitLog>): number =>
  even(Math.max(0, line.quantity - (log.get(kit.code)?.lines.get(key)?.picked ?? 0)));

/** Nothing is left to be done with it: all is there, or somebody said that it is short. */
export const isDone = (one: ToPick, log: ReadonlyMap<string, KitLog>): boolean =>
  leftOf(one, log) === 0 || (log.get(one.kit.code)?.lines.get(one.key)?.short ?? null) !== null;

/** What a code that was scanned or typed says of a line: it is the part, or the place it lies in. */
export function fitsCode(code: string, { line }: Pick<ToPick, "line">): boolean {
  const said = code.trim().toLowerCase();
  return (
    said !== "" && [line.part, line.place, line.part === null ? line.text : null].some((c) => c?.toLowerCase() === said)
  );
}
