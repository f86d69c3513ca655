import type { Lookup } from "../design/lookup";
import { byText } from "../design/order";

/**
 * The part of the library that a wire is cut from: the one it names, else the first by number of its size and colour, else of its size
 * without a colour; null where the library has none. One that it names and the library does not know is none. O(parts) once
 */
export function wireTypes(
  look: Lookup,
): (named: string | null | undefined, sizeMm2: number | undefined, colour: string | null | undefined) => string | null {
  /** By size, then by colour; without a colour under an empty one. */
  const bySize = new Map<number, Map<string, string>>();
  for (const p of [...look.parts.values()].sort((a, b) => byText(b.number, a.number))) {
    if (!p.wire) continue;
    const of = bySize.get(p.wire.sizeMm2) ?? new Map<string, string>();
    bySize.set(p.wire.sizeMm2, of.set(p.wire.colour ?? "", p.number));
  }
  return (named, sizeMm2, colour) => {
    if (named !== null && named !== undefined) return look.parts.get(named)?.wire ? named : null;
    const of = sizeMm2 === undefined ? undefined : bySize.get(sizeMm2);
    return of?.get(colour ?? "") ?? of?.get("") ?? null;
  };
}
