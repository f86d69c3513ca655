import type { Lookup } from "../design/lookup";
import type { Part, Strip } from "../design/model";
import type { Jumper, Level, Member } from "./result";

/** Number of the level that a row of jumpers joins: each level has its row; rows beyond belong to the last one. */
export const levelNumber = (member: Member, row: number): number => Math.min(row, member.levels.length);

export const levelOfRow = (member: Member, row: number): Level | undefined =>
  member.levels[levelNumber(member, row) - 1];

const rowsOf = (look: Lookup, member: Member): number =>
  member.part === null ? 0 : (look.parts.get(member.part)?.terminal?.jumperRows ?? 0);

const passes = (look: Lookup, member: Member): boolean =>
  member.part !== null && look.parts.get(member.part)?.terminal?.passes === true;

const allCombs = new WeakMap<Lookup, Map<number, Part[]>>();

/** Combs of the library that fit terminals of a width, the shortest first. */
function combsFor(look: Lookup, widthMm: number | null): Part[] {
  if (widthMm === null) return [];
  let known = allCombs.get(look);
  if (!known) allCombs.set(look, (known = new Map()));
  let combs = known.get(widthMm);
  if (!combs) {
    combs = [...look.parts.values()]
      .filter((p) => p.jumper && Math.abs(p.jumper.pitch - widthMm) < PITCH_MM)
      .sort((a, b) => a.jumper!.teeth - b.jumper!.teeth || (a.number < b.number ? -1 : 1));
    known.set(widthMm, combs);
  }
  return combs;
}

/** Members that all jumpers of a strip may reach over together: a strip that is built has a thousandth. */
const MOST_REACH = 200_000;

/** Pitches differ by less than this when they are the same. */
const PITCH_MM = 0.05;

/** A jumper of the design or a proposed one, with all that is to be said of it. */
function made(
  look: Lookup,
  members: readonly Member[],
  row: number,
  joined: readonly number[],
  part: string | null,
): Jumper {
  const [first, last] = [joined[0]!, joined[joined.length - 1]!];
  const on = new Set(joined);
  const levels = joined.map((i) => levelOfRow(members[i]!, row));
  // Members on which only cores of no known net land take on the net of the others.
  const nets = new Set(levels.flatMap((l) => l?.net ?? []));
  const net = nets.size === 1 ? [...nets][0]! : null;
  const span = last - first + 1;
  const comb = part === null ? combsFor(look, members[first]!.widthMm).find((p) => p.jumper!.teeth >= span) : undefined;
  return {
    row,
    members: joined.map((i) => members[i]!.tag),
    over: members
      .slice(first, last + 1)
      .filter((_, k) => !on.has(first + k))
      .map((m) => m.tag),
    part: part ?? comb?.number ?? null,
    teeth: part !== null || comb ? span : 0,
    net,
    currentA: net === null ? null : (look.nets.get(net)?.currentA ?? null),
    needless: needlessWires(levels),
  };
}

/** Wires with both ends on the levels that are joined. */
function needlessWires(levels: readonly (Level | undefined)[]): string[] {
  const ends = new Map<string, number>();
  for (const level of levels) {
    if (!level) continue;
    for (const c of [...level.inside, ...level.outside])
      if (c.wire !== null && c.core === null) ends.set(c.wire, (ends.get(c.wire) ?? 0) + 1);
  }
  return [...ends].filter(([, n]) => n > 1).map(([wire]) => wire);
}

/**
 * The jumpers of the design; members that are not on the strip are left out, and said elsewhere.
 * @returns `left`: how many were not looked at, because all together reach over too much
 */
export function drawnJumpers(
  look: Lookup,
  strip: Strip,
  members: readonly Member[],
): { jumpers: Jumper[]; left: number } {
  const place = new Map(members.map((m, i) => [m.tag, i]));
  const jumpers: Jumper[] = [];
  let reach = 0;
  let left = 0;
  for (const j of strip.jumpers ?? []) {
    const joined = [...new Set(j.members.flatMap((tag) => place.get(tag) ?? []))].sort((p, q) => p - q);
    if (joined.length < 2) continue;
    reach += joined[joined.length - 1]! - joined[0]!;
    if (reach > MOST_REACH) left++;
    else jumpers.push(made(look, members, j.row, joined, j.part ?? null));
  }
  return { jumpers, left };
}

/**
 * Jumpers for neighbours of one net that nothing joins yet: of each run of them one comb, passing over members whose
 * part allows it; a run that is longer than the longest comb in combs that share a member, in the next row where there
 * is one. The fewest pieces: a piece joins as many as it can. O(members · rows)
 */
export function proposedJumpers(look: Lookup, members: readonly Member[], drawn: readonly Jumper[]): Jumper[] {
  const proposed: Jumper[] = [];
  const place = new Map(members.map((m, i) => [m.tag, i]));
  const placeOf = (tag: string): number => place.get(tag)!;
  const span = (j: Jumper): number[] => {
    const first = placeOf(j.members[0]!);
    return Array.from({ length: placeOf(j.members[j.members.length - 1]!) - first + 1 }, (_, k) => first + k);
  };
  const taken = new Set(drawn.flatMap((j) => span(j).map((i) => `${j.row} ${i}`)));
  const joinedAlready = new Set(
    drawn.flatMap((j) => j.members.map((tag) => `${tag} ${levelNumber(members[placeOf(tag)]!, j.row)}`)),
  );
  const levels = Math.max(0, ...members.map((m) => m.levels.length));
  for (let level = 1; level <= levels; level++) {
    for (const run of runsOf(look, members, level, joinedAlready)) {
      const rows = Math.min(...run.map((i) => rowsOf(look, members[i]!)));
      // Rows of this level: its own, and with one level alone the others too.
      const own =
        members[run[0]!]!.levels.length === 1
          ? Array.from({ length: rows }, (_, k) => k + 1)
          : level <= rows
            ? [level]
            : [];
      if (own.length === 0) continue;
      const combs = combsFor(look, members[run[0]!]!.widthMm);
      const longest = combs[combs.length - 1]?.jumper?.teeth ?? Infinity;
      let from = 0;
      for (let n = 0; from < run.length - 1; n++) {
        let to = from;
        while (to + 1 < run.length && run[to + 1]! - run[from]! + 1 <= longest) to++;
        if (to === from) break;
        const row = own[n % own.length]!;
        const piece = run.slice(from, to + 1);
        const free = piece.every((_, k) => k === 0 || rangeFree(taken, row, piece[k - 1]!, piece[k]!));
        if (!free) break;
        proposed.push(made(look, members, row, piece, null));
        for (let i = piece[0]!; i <= piece[piece.length - 1]!; i++) taken.add(`${row} ${i}`);
        // The next piece shares a member with this one; in one row alone there is no room for it.
        if (own.length === 1) break;
        from = to;
      }
    }
  }
  return proposed.sort((a, b) => a.row - b.row || placeOf(a.members[0]!) - placeOf(b.members[0]!));
}

const rangeFree = (taken: ReadonlySet<string>, row: number, from: number, to: number): boolean => {
  for (let i = from; i <= to; i++) if (taken.has(`${row} ${i}`)) return false;
  return true;
};

/** Runs of members whose level carries one net, with only such between them as a jumper may pass over. */
function runsOf(look: Lookup, members: readonly Member[], level: number, joined: ReadonlySet<string>): number[][] {
  const runs: number[][] = [];
  let run: number[] = [];
  let net: string | null = null;
  const close = (): void => {
    if (run.length > 1) runs.push(run);
    run = [];
    net = null;
  };
  members.forEach((member, i) => {
    const here = member.levels[level - 1]?.net ?? null;
    const free = !joined.has(`${member.tag} ${level}`);
    if (here !== null && free && (net === null || here === net) && sameWidth(members, run, i)) {
      net = here;
      run.push(i);
      return;
    }
    if (run.length > 0 && passes(look, member)) return;
    close();
    if (here !== null && free) {
      net = here;
      run = [i];
    }
  });
  close();
  return runs;
}

const sameWidth = (members: readonly Member[], run: readonly number[], i: number): boolean =>
  run.length === 0 || members[run[0]!]!.widthMm === members[i]!.widthMm;
