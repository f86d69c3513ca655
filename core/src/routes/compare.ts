import type { Told } from "../frame/stage";
import { toMm, toNm } from "../design/tolerance";
import type { PieceEdge, RoutesResult } from "./result";

/** So many pieces are named, the one that changed most first. */
const MOST_PIECES = 3;
/** Percent; less is not seen on a duct. */
const LEAST_FILL = 0.5;

const wires = (n: number): string => (n === 1 ? "1 wire" : `${n} wires`);

/** What a change came to on the way of the wires: `3 wires longer by 420 mm in all`, `W4.2 now 58 %`. */
export function compare(before: RoutesResult, after: RoutesResult): Told[] {
  return [...lengths(before, after), ...fills(before, after)];
}

function lengths(before: RoutesResult, after: RoutesResult): Told[] {
  const old = new Map(before.wires.map((w) => [w.id, w.lengthMm]));
  const [longer, shorter] = [
    { n: 0, nm: 0 },
    { n: 0, nm: 0 },
  ];
  const count = { gained: 0, lost: 0, added: 0, removed: before.wires.length };
  for (const { id, lengthMm } of after.wires) {
    const was = old.get(id);
    if (was === undefined) {
      count.added++;
      continue;
    }
    count.removed--;
    if (was === null && lengthMm !== null) count.gained++;
    else if (was !== null && lengthMm === null) count.lost++;
    else if (was !== null && lengthMm !== null && was !== lengthMm) {
      const kind = lengthMm > was ? longer : shorter;
      kind.n++;
      kind.nm += Math.abs(toNm(lengthMm) - toNm(was));
    }
  }
  const say = (n: number, words: string, nm?: number): Told[] =>
    n > 0 ? [{ text: `${wires(n)} ${words}`, ...(nm === undefined ? {} : { mm: toMm(nm) }) }] : [];
  return [
    ...say(count.added, "more"),
    ...say(count.removed, "gone"),
    ...say(count.gained, "with a length now"),
    ...say(count.lost, "without a length now"),
    ...say(longer.n, "longer by {mm} in all", longer.nm),
    ...say(shorter.n, "shorter by {mm} in all", shorter.nm),
  ];
}

function fills(before: RoutesResult, after: RoutesResult): Told[] {
  const pieces = ({ edges }: RoutesResult): PieceEdge[] => edges.filter((e) => e.kind === "piece");
  const old = new Map(pieces(before).map((p) => [p.id, p.fillPercent]));
  return pieces(after)
    .map((p) => ({ ...p, by: Math.abs(p.fillPercent - (old.get(p.id) ?? 0)) }))
    .filter((p) => p.by >= LEAST_FILL && (p.state !== "ok" || old.get(p.id) !== undefined))
    .sort((a, b) => b.by - a.by)
    .slice(0, MOST_PIECES)
    .map((p) => ({ text: `${p.id} now ${p.fillPercent} % full` }));
}
