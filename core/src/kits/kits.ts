import type { Beginning, KitRules } from "./rules";
import { byText, pushTo, sortedByCount } from "../design/order";
import { issued } from "./packs";
import { even, lineKey, type BillLine, type Kit, type KitLine, type Walk } from "./result";
import type { Store } from "./walk";

type Named = Pick<BillLine, "part" | "text">;

const begins = ({ part, text }: Named, rows: readonly Beginning[]): boolean =>
  rows.some((row) => text.startsWith(row.begins) || (part?.startsWith(row.begins) ?? false));

/** Whether a line is taken from an open bin at the bench, and not picked. */
export const isOpenBin = (line: Named, { open }: Pick<KitRules, "open">): boolean => begins(line, open);

export type SplitRules = Pick<KitRules, "open" | "packs" | "heavyKg" | "longMm" | "apart" | "alike">;

type Apart = "long" | "heavy" | "";
type Share = Pick<BillLine, "quantity" | "pieces" | "tags"> & { line: BillLine; apart: Apart };

/** A line as it goes into kits: of bars the long pieces apart from the short ones. */
function sharesOf(line: BillLine, { heavyKg, longMm }: SplitRules): Share[] {
  if (!line.pieces) {
    const long = line.longestMm !== null && line.longestMm >= longMm;
    const apart = long ? "long" : (line.weightKg ?? 0) >= heavyKg && line.unit === "pcs" ? "heavy" : "";
    return [{ line, apart, quantity: line.quantity, tags: line.tags }];
  }
  const long = line.pieces.filter((p) => p.mm >= longMm);
  const short = line.pieces.filter((p) => p.mm < longMm);
  const metres = even(long.reduce((sum, p) => sum + p.mm, 0) / 1000);
  const share = (pieces: typeof long, quantity: number, apart: Apart): Share[] =>
    pieces.length === 0 ? [] : [{ line, apart, quantity, pieces, tags: pieces.map((p) => p.of).sort(byText) }];
  // Whatever rounding leaves stays in one of the two.
  return [
    ...share(long, short.length === 0 ? line.quantity : metres, "long"),
    ...share(short, even(line.quantity - (long.length === 0 ? 0 : metres)), ""),
  ];
}

interface Group {
  enclosures: string[];
  step: string;
  apart: Apart;
  shares: Share[];
}

/** What makes two groups the same work: equal lines, equal quantities. */
const likeness = ({ step, apart, shares }: Group): string =>
  JSON.stringify([
    step,
    apart,
    shares.map((s) => [lineKey(s.line), s.quantity]).sort((a, b) => byText(String(a[0]), String(b[0]))),
  ]);

/**
 * Tickets: what an enclosure (or the job) needs for one step, long and heavy things apart, equal enclosures together, as the shop
 * says; what comes from open bins is in none. Every other line of the bill is in the kits with its whole quantity, each kit in the
 * order of its walk. O(lines log lines) and a tour for each kit
 */
export function kitsOf(job: string, bill: readonly BillLine[], rules: SplitRules, store: Store): Kit[] {
  const groups = new Map<string, Group>();
  for (const line of bill) {
    if (isOpenBin(line, rules)) continue;
    const enclosure = rules.apart >= 1 ? line.enclosure : "";
    for (const share of sharesOf(line, rules)) {
      const key = `${enclosure}\u0000${line.step}\u0000${share.apart}`;
      let group = groups.get(key);
      if (!group) groups.set(key, (group = { enclosures: [], step: line.step, apart: share.apart, shares: [] }));
      group.shares.push(share);
      if (line.enclosure !== "" && !group.enclosures.includes(line.enclosure)) group.enclosures.push(line.enclosure);
    }
  }
  const alike = new Map<string, Group[]>();
  for (const [key, group] of groups) pushTo(alike, rules.alike >= 1 && rules.apart >= 1 ? likeness(group) : key, group);
  const effort = Math.min(1, MANY / alike.size);
  const named = new Map<string, number>();
  return [...alike.values()].map((same): Kit => {
    const [{ step, apart }] = same as [Group];
    const enclosures = [...new Set(same.flatMap((g) => g.enclosures))].sort(byText);
    const tag = rules.apart >= 1 ? enclosures.join(" ") : "";
    const name = [job, tag, step, apart].filter((t) => t !== "").join(" ");
    // A step may be called as another kit is.
    const nth = (named.get(name) ?? 0) + 1;
    named.set(name, nth);
    return kitOf(
      { code: nth === 1 ? name : `${name} (${nth})`, enclosures, step, apart: apart === "" ? null : apart },
      same.flatMap((g) => g.shares),
      rules,
      (places) => store.walk(places, effort),
    );
  });
}

/** Beyond so many kits each walk is looked for with less effort. */
const MANY = 40;

function kitOf(
  head: Pick<Kit, "code" | "enclosures" | "step" | "apart">,
  shares: readonly Share[],
  rules: SplitRules,
  walkPast: (places: string[]) => Walk,
): Kit {
  const lines = new Map<string, KitLine & { weightKg: number | null; joined: boolean }>();
  for (const { line, quantity, tags, pieces } of shares) {
    const key = lineKey(line);
    const there = lines.get(key);
    const one = there ?? {
      part: line.part,
      text: line.text,
      quantity: 0,
      unit: line.unit,
      place: line.place,
      tags: [],
      weightKg: line.weightKg,
      joined: false,
    };
    one.quantity = even(one.quantity + quantity);
    // Of one line alone they stand in order already.
    one.tags = there ? [...new Set([...one.tags, ...tags])] : tags;
    one.joined = there !== undefined || pieces !== undefined;
    if (pieces) one.pieces = [...(one.pieces ?? []), ...pieces];
    if (line.terms.some((t) => t.fallback)) one.fallback = true;
    if (line.pack !== null && line.pack > 0 && begins(line, rules.packs))
      one.pack = { size: line.pack, ...issued(one.quantity, line.pack) };
    else if (line.unit === "m" && !line.pieces && (line.pack ?? 0) > 1) one.reel = line.pack!;
    if (!there) lines.set(key, one);
  }
  const all = [...lines.values()];
  const walk = walkPast(all.flatMap((l) => l.place ?? []));
  const at = new Map(walk.stops.map((p, i) => [p, i]));
  return {
    ...head,
    lines: all
      .sort(
        (a, b) =>
          (at.get(a.place ?? "") ?? Infinity) - (at.get(b.place ?? "") ?? Infinity) || byText(lineKey(a), lineKey(b)),
      )
      .map(({ weightKg: _, joined, tags, ...line }) => ({ ...line, tags: joined ? sortedByCount(tags) : tags })),
    weightKg: even(all.reduce((sum, l) => sum + (l.weightKg ?? 0) * (l.unit === "pcs" ? l.quantity : 0), 0)),
    unweighed: all.filter((l) => l.weightKg === null || l.unit === "m").length,
    walk,
  };
}
