import type { Accepted } from "./model";
import { byText } from "./order";

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
  as: "size" | "colour" | "class" | "strand" | "watts" | "count" | "length" | "amount" | "text" | "choice";
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
  /** Set when somebody lets it stand: it stays listed, and is no longer counted as open. */
  accepted?: { who: string; why: string };
}

export type NewPoint = Omit<OpenPoint, "id" | "stage" | "accepted">;

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
    return sortPoints(all);
  }
}

export function sortPoints(points: OpenPoint[]): OpenPoint[] {
  const rank = (p: OpenPoint) => SEVERITIES.indexOf(p.severity);
  return points.sort((a, b) => rank(a) - rank(b));
}

export type PointCount = Record<Severity, number>;

export function countPoints(points: readonly OpenPoint[]): PointCount {
  const count: PointCount = { stop: 0, check: 0, note: 0 };
  for (const p of points) if (!p.accepted) count[p.severity]++;
  return count;
}

/** Points with a mark where they are accepted as they stand; accepted ones come last. */
export function markAccepted(points: readonly OpenPoint[], accepted: readonly Accepted[] = []): OpenPoint[] {
  if (accepted.length === 0) return [...points];
  const known = new Map(accepted.map((a) => [`${a.point}\u0000${a.text}`, { who: a.who, why: a.why }]));
  const marked = points.map((p) => {
    const by = known.get(`${p.id}\u0000${p.text}`);
    return by ? { ...p, accepted: by } : p;
  });
  return [...marked.filter((p) => !p.accepted), ...marked.filter((p) => p.accepted)];
}
