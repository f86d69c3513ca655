import type { Ask, Mend, OpenPoint } from "../design/open-points";

/** A value as the payload takes it; null takes a field away. */
export type Value = string | number | null;

/** What was answered: every value as it will stand, and which of them are part of the edit. */
export interface Answers {
  values: Readonly<Record<string, Value | undefined>>;
  set: ReadonlySet<string>;
}

export type Shaped = { ok: true; payload: object } | { ok: false; field?: string; reason: string };

/** Something a person may do here: an edit, and what is asked before it is laid. */
export interface Act {
  /** Unique among what is offered beside it. */
  id: string;
  /** On its button. */
  label: string;
  title: string;
  about: string;
  kind: string;
  /** One edit for each; all of them or none. */
  payloads: readonly object[];
  /** Other edits that are laid with them. */
  more?: readonly { kind: string; payload: object }[];
  asks: readonly Ask[];
  /** May be laid as it stands, without answering anything anew. */
  asIs?: boolean;
  /** A reason must be given; it is part of the payload, with the name. */
  whyNeeded?: boolean;
  /** Makes the payload of what was answered, where that is more than a field each. */
  shape?(answers: Answers): Shaped;
  /** What it would do is shown without being asked for: it concerns more than can be seen from here. */
  shown?: boolean;
  /** What is to be known before it is laid. */
  note?(answers: Answers): string | null;
}

/** A payload of which some is given. */
type Begun<P> = { readonly [F in keyof P]?: P[F] extends (infer T)[] ? readonly T[] : P[F] };

/** An act of one of the kinds that a stage declares: what stands in its payloads before anything is answered is of the form of its kind. */
export type ActOf<Payloads> = {
  [K in keyof Payloads & string]: Omit<Act, "kind" | "payloads"> & {
    kind: K;
    payloads: readonly Begun<Payloads[K]>[];
  };
}[keyof Payloads & string];

/** A payload with a field set: `stock.place` goes into `stock`. */
export function withAnswer(payload: object, field: string, value: unknown): object {
  const [first, ...rest] = field.split(".");
  const inner = (payload as Record<string, unknown>)[first!];
  return {
    ...payload,
    [first!]: rest.length === 0 ? value : withAnswer((inner as object) ?? {}, rest.join("."), value),
  };
}

const NOTHING = "Nothing is changed yet.";

/** What is laid of one of an act's payloads: what was answered, a field each, unless the act knows better. */
export function shaped(act: Act, payload: object, answers: Answers): Shaped {
  if (act.asks.length > 0 && answers.set.size === 0 && !act.asIs) return { ok: false, reason: NOTHING };
  if (act.shape) return act.shape(answers);
  let next = payload;
  for (const { field } of act.asks) if (answers.set.has(field)) next = withAnswer(next, field, answers.values[field]);
  return { ok: true, payload: next };
}

export const mendAct = (mend: Mend, about: string): Act => ({
  id: "mend",
  label: mend.label,
  title: mend.label,
  about,
  kind: mend.kind,
  payloads: [mend.payload],
  asks: mend.asks,
});

/** Settles several points alike, with one answer; null where they do not ask the same. */
export function mendTogether(points: readonly OpenPoint[]): Act | null {
  const mends = points.map((p) => p.mend);
  const [first] = mends;
  if (!first || points.length < 2) return null;
  const asked = JSON.stringify(first.asks);
  const alike = mends.every(
    (m) => m?.kind === first.kind && m.label === first.label && JSON.stringify(m.asks) === asked,
  );
  return alike
    ? {
        id: "mend",
        label: `${first.label}, all ${points.length}`,
        title: first.label,
        about: `${points.length} open points are settled alike: ${points
          .slice(0, 12)
          .map((p) => `${p.thing} ${p.of}`)
          .join(", ")}${points.length > 12 ? ` and ${points.length - 12} more` : ""}.`,
        kind: first.kind,
        payloads: mends.map((m) => m!.payload),
        asks: first.asks,
      }
    : null;
}
