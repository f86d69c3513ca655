import type { Accepted } from "./model";
import { byText, pushTo } from "./order";

export const SEVERITIES = ["stop", "check", "note"] as const;
export type Severity = (typeof SEVERITIES)[number];

export const THINGS = [
  "job",
  "enclosure",
  "face",
  "rail",
  "duct",
  "piece",
  "crossing",
  "part",
  "device",
  "net",
  "wire",
  "cable",
  "strip",
  "option",
  "attachment",
  "edit",
] as const;
export type Thing = (typeof THINGS)[number];

/** What a person must say before an edit can be laid. */
export interface Ask {
  /** Field of the payload, e.g. `sizeMm2`, `stock.place`. */
  field: string;
  label: string;
  as:
    | "size"
    | "colour"
    | "class"
    | "strand"
    | "watts"
    | "count"
    | "length"
    | "amount"
    | "text"
    | "choice"
    | "temperature"
    /** Number of a part of the design that a device may be. */
    | "part";
  /** Of a choice. */
  choices?: readonly string[];
  /** What stands there now, in the unit it is kept in: left as it is, the field is no part of the edit. */
  now?: string | number;
  /** May be left empty. What stands there now is then taken away. */
  optional?: boolean;
}

/** An edit that would settle an open point. */
export interface Mend {
  /** `Close the gap: W11 12 mm longer` */
  label: string;
  kind: string;
  payload: object;
  asks: Ask[];
}

/** What several open points may come from: settled there, all of them are. */
export interface Cause {
  /** `net 24V is not in the design`; equal for all that come from it. */
  text: string;
  mends: readonly Mend[];
}

/** Something the design lacks or gets wrong. */
export interface OpenPoint {
  /** Same for the same fault of the same thing in every computation. */
  id: string;
  severity: Severity;
  /** Stage that found it. */
  stage: string;
  /** Short name of the kind of fault, for grouping, e.g. `tag used twice`. */
  kind: string;
  text: string;
  remedy: string;
  thing: Thing;
  /** Tag, number or name of the thing. */
  of: string;
  /** The nearest way to settle it, where one edit can. */
  mend?: Mend;
  /** Where others may come from the same. */
  cause?: Cause;
  /** Set when somebody lets it stand: it stays listed, and is no longer counted as open. */
  accepted?: { who: string; why: string };
  /** What cannot be written because of it, in words: `file for Brack 2`. */
  withholds?: string;
  /** Set when it stands for so many points that are not listed one by one. */
  stands?: number;
}

/** How many open points are gone and how many are new; what is accepted is none. O(points) */
export function turnedPoints(
  before: readonly OpenPoint[],
  after: readonly OpenPoint[],
): { solved: number; raised: number } {
  const open = (points: readonly OpenPoint[]): Set<string> =>
    new Set(points.flatMap((p) => (p.accepted ? [] : `${p.id} ${p.text}`)));
  const [then, now] = [open(before), open(after)];
  const missing = (some: ReadonlySet<string>, others: ReadonlySet<string>): number =>
    [...some].filter((p) => !others.has(p)).length;
  return { solved: missing(then, now), raised: missing(now, then) };
}

const MOST_NAMES = 12;

/** Names in words, no more than a person reads: `-K1, -K2 and 188 more`. */
export const listed = (names: readonly string[], most = MOST_NAMES): string =>
  names.length <= most ? names.join(", ") : `${names.slice(0, most).join(", ")} and ${names.length - most} more`;

/** More than this is no choice any more: it is typed. */
const MOST_CHOICES = 200;

/** A question with its answers, or, where there are too many to choose from, without. */
export const choiceOf = (field: string, label: string, choices: readonly string[]): Ask =>
  choices.length > MOST_CHOICES ? { field, label, as: "text" } : { field, label, as: "choice", choices };

/** Points of one kind that are listed one by one. */
export const MOST_OF_A_KIND = 5000;

export type NewPoint = Omit<OpenPoint, "id" | "stage" | "accepted" | "stands">;

/** Collects the open points of one stage; a second one with the same kind, thing and text is dropped. */
export class OpenPoints {
  readonly #stage: string;
  readonly #byId = new Map<string, Map<string, NewPoint>>();

  constructor(stage: string) {
    this.#stage = stage;
  }

  add(point: NewPoint): void {
    const id = `${this.#stage}/${point.kind}/${point.thing}/${point.of}`;
    const known = this.#byId.get(id);
    if (!known) this.#byId.set(id, new Map([[point.text, point]]));
    else if (!known.has(point.text)) known.set(point.text, point);
  }

  /**
   * Stops first, then checks, then notes; within each in order of finding. Several of one kind about
   * one thing are numbered in the order of their texts, whichever was found first.
   */
  list(): OpenPoint[] {
    const all: OpenPoint[] = [];
    for (const [id, known] of this.#byId) {
      const texts = [...known.keys()].sort(byText);
      texts.forEach((text, n) => {
        all.push({ id: n === 0 ? id : `${id}/${n + 1}`, stage: this.#stage, ...known.get(text)! });
      });
    }
    return sortPoints(this.#cut(all));
  }

  /** Of a kind with too many points the first by name are listed; one more stands for the others. */
  #cut(all: OpenPoint[]): OpenPoint[] {
    if (all.length <= MOST_OF_A_KIND) return all;
    const kinds = new Map<string, OpenPoint[]>();
    for (const p of all) {
      const key = `${p.severity} ${p.kind} ${p.thing}`;
      const same = kinds.get(key);
      if (same) same.push(p);
      else kinds.set(key, [p]);
    }
    const dropped = new Set<OpenPoint>();
    const others: OpenPoint[] = [];
    for (const same of kinds.values()) {
      if (same.length <= MOST_OF_A_KIND) continue;
      same.sort((a, b) => byText(a.of, b.of) || byText(a.id, b.id));
      const rest = same.slice(MOST_OF_A_KIND);
      for (const p of rest) dropped.add(p);
      const { severity, stage, kind, thing } = rest[0]!;
      others.push({
        id: `${stage}/${kind}/${thing}//others`,
        severity,
        stage,
        kind,
        thing,
        of: rest[0]!.of,
        text: `${rest.length} more of this kind, from ${thing} ${rest[0]!.of} on, are not listed one by one`,
        remedy: "Settle what they have in common: the others are listed as those before them go.",
        stands: rest.length,
      });
    }
    return [...all.filter((p) => !dropped.has(p)), ...others];
  }
}

export function sortPoints(points: OpenPoint[]): OpenPoint[] {
  const rank = (p: OpenPoint) => SEVERITIES.indexOf(p.severity);
  return points.sort((a, b) => rank(a) - rank(b));
}

export type PointCount = Record<Severity, number>;

export function countPoints(points: readonly OpenPoint[]): PointCount {
  const count: PointCount = { stop: 0, check: 0, note: 0 };
  for (const p of points) if (!p.accepted) count[p.severity] += p.stands ?? 1;
  return count;
}

/** Several points of one kind about one thing are numbered by their texts, which names are part of. */
const NTH = /\/\d+$/;

/** A text with names of before and after taken out, wherever they stand. */
function nameless(text: string, names: readonly [string, string][]): string {
  const all = names.flat().sort((a, b) => b.length - a.length || byText(a, b));
  return all.reduce((t, name) => t.replace(wordOf(name), "\u0000"), text);
}

/** A name where it stands as a word of its own: `1` neither in `10` nor in `-X.1`. */
export const wordOf = (name: string): RegExp =>
  new RegExp(`(?<![\\p{L}\\p{N}.])${name.replace(/[.*+?^${}()|[\]\\/]/g, "\\$&")}(?![\\p{L}\\p{N}])`, "gu");

/** Points with a mark where they are accepted as they stand; accepted ones come last. */
export function markAccepted(points: readonly OpenPoint[], accepted: readonly Accepted[] = []): OpenPoint[] {
  if (accepted.length === 0) return [...points];
  const known = new Map(accepted.map((a) => [`${a.point}\u0000${a.text}`, a]));
  const renamed = new Map<string, Accepted[]>();
  for (const a of accepted) if (a.names) pushTo(renamed, a.point.replace(NTH, ""), a);
  const marked = points.map((p) => {
    const by =
      known.get(`${p.id}\u0000${p.text}`) ??
      renamed.get(p.id.replace(NTH, ""))?.find((a) => nameless(a.text, a.names!) === nameless(p.text, a.names!));
    return by ? { ...p, accepted: { who: by.who, why: by.why } } : p;
  });
  return [...marked.filter((p) => !p.accepted), ...marked.filter((p) => p.accepted)];
}
