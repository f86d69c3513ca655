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
] as const;
export type Thing = (typeof THINGS)[number];

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
}

export type NewPoint = Omit<OpenPoint, "id" | "stage">;

/** Collects the open points of one stage; a second one with the same kind, thing and text is dropped. */
export class OpenPoints {
  readonly #stage: string;
  readonly #byId = new Map<string, OpenPoint>();

  constructor(stage: string) {
    this.#stage = stage;
  }

  add(point: NewPoint): void {
    let id = `${this.#stage}/${point.kind}/${point.thing}/${point.of}`;
    for (let n = 2; ; n++) {
      const known = this.#byId.get(id);
      if (!known) break;
      if (known.text === point.text) return;
      id = `${this.#stage}/${point.kind}/${point.thing}/${point.of}/${n}`;
    }
    this.#byId.set(id, { id, stage: this.#stage, ...point });
  }

  /** Stops first, then checks, then notes; within each in order of finding. */
  list(): OpenPoint[] {
    return sortPoints([...this.#byId.values()]);
  }
}

export function sortPoints(points: OpenPoint[]): OpenPoint[] {
  const rank = (p: OpenPoint) => SEVERITIES.indexOf(p.severity);
  return points.sort((a, b) => rank(a) - rank(b));
}

export type PointCount = Record<Severity, number>;

export function countPoints(points: readonly OpenPoint[]): PointCount {
  const count: PointCount = { stop: 0, check: 0, note: 0 };
  for (const p of points) count[p.severity]++;
  return count;
}
