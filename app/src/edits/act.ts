import type { Ask, Mend } from "@gray-bench/core/design/open-points";
import type { Value } from "./answers";

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
  /** What is to be known before it is laid. */
  note?(answers: Answers): string | null;
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
