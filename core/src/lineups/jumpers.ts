import type { Lookup } from "../design/lookup";
import type { HungPiece } from "../design/hung";
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

/** Middles of members along the strip, from its beginning; null behind a piece whose width is not known. */
export function middlesOf(pieces: readonly HungPiece[]): (number | null)[] {
  let x: number | null = 0;
  return pieces.flatMap(({ kind, widthMm }): (number | null)[] => {
    const at: number | null = x === null || widthMm === null ? null : x + widthMm / 2;
    x = x === null || widthMm === null ? null : x + widthMm;
    return kind === "member" ? [at] : [];
  });
}

/** A tooth reaches its clamp when it stands no further from its middle than this. mm */
const TOOTH_MM = 0.3;

/** What stands between two members that are no neighbours of a comb: for the words of a misfit. */
interface Standing {
  members: readonly Member[];
  middles: readonly (number | null)[];
  pieces: readonly HungPiece[];
}

/**
 * Which tooth of a comb each joined member meets, the first one's being 0; or the first two between which the pitch does
 * not come out. Members of which no width is known are taken to stand in the pitch.
 */
export function teethOf(
  joined: readonly number[],
  pitchMm: number,
  { middles }: Pick<Standing, "middles">,
): { teeth: number[] } | { between: [number, number]; offMm: number } {
  const from = middles[joined[0]!] ?? null;
  const teeth: number[] = [];
  for (const [k, i] of joined.entries()) {
    const at = middles[i] ?? null;
    const steps = from === null || at === null ? i - joined[0]! : (at - from) / pitchMm;
    const tooth = Math.round(steps);
    const offMm = Math.abs(steps - tooth) * pitchMm;
    if (offMm > TOOTH_MM || (k > 0 && tooth <= teeth[k - 1]!)) return { between: [joined[k - 1]!, i], offMm };
    teeth.push(tooth);
  }
  return { teeth };
}

/** How many combs of so many teeth reach over a span, each sharing a member with the one before; null where rows allow one only. */
function combsOver(teeth: readonly number[], longest: number, rows: number): number | null {
  const span = teeth[teeth.length - 1]! + 1;
  if (span <= longest) return 1;
  if (rows < 2) return null;
  let [count, from] = [1, 0];
  for (let k = 1; k < teeth.length; k++) {
    if (teeth[k]! - teeth[from]! < longest) continue;
    // The next begins at the last member that this one reaches.
    if (k - 1 === from) return null;
    from = k - 1;
    count++;
    if (teeth[k]! - teeth[from]! >= longest) return null;
  }
  return count;
}

/** The words for what is between two members. */
function betweenText(standing: Standing, [a, b]: [number, number], pitchMm: number, offMm: number): string {
  const { members, pieces } = standing;
  const at = (tag: string): number => pieces.findIndex((p) => p.tag === tag);
  const inBetween = pieces.slice(at(members[a]!.tag) + 1, at(members[b]!.tag)).filter((p) => p.kind !== "member");
  const what =
    inBetween.length > 0
      ? `${[...new Set(inBetween.map((p) => p.kind))].join(" and ")} between them`
      : members.slice(a, b + 1).some((m) => m.widthMm !== null && Math.abs(m.widthMm - pitchMm) > PITCH_MM)
        ? `members of ${[...new Set(members.slice(a, b + 1).map((m) => m.widthMm))].join(" and ")} mm`
        : "its pitch";
  return `${members[a]!.tag} and ${members[b]!.tag} stand ${Math.round(offMm * 10) / 10} mm off its pitch of ${pitchMm} mm (${what})`;
}

type Fit = Pick<Jumper, "part" | "combs" | "teeth" | "misfit">;

/** The comb that a jumper names, or the shortest of the library that fits; with how many of it, or why none does. */
function fitOf(look: Lookup, standing: Standing, joined: readonly number[], row: number, named: string | null): Fit {
  const { members } = standing;
  const none = (misfit: string): Fit => ({ part: named, combs: 0, teeth: 0, misfit });
  const rows = Math.min(...joined.map((i) => rowsOf(look, members[i]!))) - row + 1;
  const one = named === null ? undefined : look.parts.get(named);
  // What the library does not know of a comb is said by the intake.
  if (named !== null && !one?.jumper) {
    const span = joined[joined.length - 1]! - joined[0]! + 1;
    return { part: named, combs: 1, teeth: span };
  }
  const width = members[joined[0]!]!.widthMm;
  const combs = one ? [one] : combsFor(look, width);
  if (combs.length === 0)
    return none(
      `the library has no comb for a pitch of ${width === null ? "a member whose width is not known" : `${width} mm`}`,
    );
  const { pitch } = combs[0]!.jumper!;
  const fit = teethOf(joined, pitch, standing);
  if ("between" in fit) return none(betweenText(standing, fit.between, pitch, fit.offMm));
  const span = fit.teeth[fit.teeth.length - 1]! + 1;
  const enough = combs.find((p) => p.jumper!.teeth >= span);
  if (enough) return { part: enough.number, combs: 1, teeth: span };
  const longest = combs[combs.length - 1]!;
  const count = combsOver(fit.teeth, longest.jumper!.teeth, rows);
  if (count === null)
    return none(
      `${longest.number} has ${longest.jumper!.teeth} teeth; ${span} are wanted, and ${rows < 2 ? "its members have no second row in which another could lie beside it" : "what lies between two members is longer than it"}`,
    );
  return { part: longest.number, combs: count, teeth: span + count - 1 };
}

/** A jumper of the design or a proposed one, with all that is to be said of it. */
function made(look: Lookup, standing: Standing, row: number, joined: readonly number[], part: string | null): Jumper {
  const { members } = standing;
  const [first, last] = [joined[0]!, joined[joined.length - 1]!];
  const on = new Set(joined);
  const levels = joined.map((i) => levelOfRow(members[i]!, row));
  // Members on which only cores of no known net land take on the net of the others.
  const nets = new Set(levels.flatMap((l) => l?.net ?? []));
  const net = nets.size === 1 ? [...nets][0]! : null;
  return {
    row,
    members: joined.map((i) => members[i]!.tag),
    over: members
      .slice(first, last + 1)
      .filter((_, k) => !on.has(first + k))
      .map((m) => m.tag),
    ...fitOf(look, standing, joined, row, part),
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
export function drawnJumpers(look: Lookup, strip: Strip, standing: Standing): { jumpers: Jumper[]; left: number } {
  const { members } = standing;
  const place = new Map(members.map((m, i) => [m.tag, i]));
  const jumpers: Jumper[] = [];
  let reach = 0;
  let left = 0;
  for (const j of strip.jumpers ?? []) {
    const joined = [...new Set(j.members.flatMap((tag) => place.get(tag) ?? []))].sort((p, q) => p - q);
    if (joined.length < 2) continue;
    reach += joined[joined.length - 1]! - joined[0]!;
    if (reach > MOST_REACH) left++;
    else jumpers.push(made(look, standing, j.row, joined, j.part ?? null));
  }
  return { jumpers, left };
}

/**
 * Jumpers for neighbours of one net that nothing joins yet: of each run of them one comb, passing over members whose
 * part allows it; a run that is longer than the longest comb in combs that share a member, in the next row where there
 * is one. The fewest pieces: a piece joins as many as it can. O(members · rows)
 */
export function proposedJumpers(look: Lookup, standing: Standing, drawn: readonly Jumper[]): Jumper[] {
  const { members } = standing;
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
    for (const run of runsOf(look, standing, level, joinedAlready)) {
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
      const pitch = combs[0]?.jumper?.pitch;
      /** Teeth from one member of the run to another. */
      const toothOf = (a: number, b: number): number => {
        const fit = pitch === undefined ? { teeth: [0, b - a] } : teethOf([a, b], pitch, standing);
        return "teeth" in fit ? fit.teeth[1]! : Infinity;
      };
      let from = 0;
      for (let n = 0; from < run.length - 1; n++) {
        let to = from;
        while (to + 1 < run.length && toothOf(run[from]!, run[to + 1]!) + 1 <= longest) to++;
        if (to === from) break;
        const row = own[n % own.length]!;
        const piece = run.slice(from, to + 1);
        const free = piece.every((_, k) => k === 0 || rangeFree(taken, row, piece[k - 1]!, piece[k]!));
        if (!free) break;
        proposed.push(made(look, standing, row, piece, null));
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
function runsOf(look: Lookup, standing: Standing, level: number, joined: ReadonlySet<string>): number[][] {
  const { members } = standing;
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
    if (here !== null && free && (net === null || here === net) && inPitch(standing, run, i)) {
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

/** A member that stands in the pitch of the first of its run, and is as wide. */
function inPitch(standing: Standing, run: readonly number[], i: number): boolean {
  const { members } = standing;
  if (run.length === 0) return true;
  const width = members[run[0]!]!.widthMm;
  if (width !== members[i]!.widthMm) return false;
  return width === null || width <= 0 || "teeth" in teethOf([run[0]!, i], width, standing);
}
