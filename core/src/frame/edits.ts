import type Joi from "joi";
import type { ObjectForm } from "../form/form";
import type { Fault } from "../design/faults";
import { lookUp } from "../design/lookup";
import { faultsOf } from "../design/form-faults";
import type { Design } from "../design/model";
import type { Thing } from "../design/open-points";

/**
 * Edits: small named values laid on top of the design as received. Design as received + edits in order =
 * the current design. An edit is never changed or deleted; taking it back is a mark in the log.
 */
export interface Edit {
  id: string;
  kind: string;
  payload: unknown;
  who: string;
  /** ISO date and time. */
  when: string;
  why?: string;
}

/** An edit in the log, with the mark of its taking back. */
export interface LoggedEdit extends Edit {
  back: { who: string; when: string } | null;
}

export interface Touched {
  thing: Thing;
  of: string;
}

/** The new design, or why the edit does not fit it. */
export type Applied = { ok: true; design: Design } | { ok: false; reason: string; remedy: string };

/** One kind of edit. It belongs to the stage in whose folder it is written. */
export interface EditKind<P, K extends string = string> {
  kind: K;
  /** The form of the payload; values are taken as they stand. */
  schema: ObjectForm<P>;
  /**
   * What the payload names by its place in a list, named by what it is: asked once, when the edit is laid, so that it
   * means the same thing when others are taken back or a new revision comes. The payload itself where nothing is to do.
   * @param who lays it
   */
  settle?(design: Design, payload: P, who: string): object;
  /** Pure: never changes the design it is given. */
  apply(design: Design, payload: P): Applied;
  /** What was done, e.g. `-K41 placed on R4 at 120 mm`. */
  sentence(payload: P): string;
  touches(payload: P): Touched[];
}

/** A kind whose payload has been checked against its form before it is used. */
export type AnyEditKind = Omit<EditKind<never>, "schema"> & { schema: Joi.ObjectSchema };

/** Payloads of the kinds in a list, by the name of their kind. */
export type PayloadsOf<L extends readonly AnyEditKind[]> = {
  [E in L[number] as E["kind"]]: E extends EditKind<infer P> ? P : never;
};

export const done = (design: Design): Applied => ({ ok: true, design });
export const unfit = (reason: string, remedy: string): Applied => ({ ok: false, reason, remedy });
export const notThere = (thing: Thing, of: string): Applied =>
  unfit(`there is no ${thing} ${of} in the design`, "It may have been renamed or deleted; look it up and try again.");

/** Kinds by name. Everything that is done to edits goes through here. */
export class Edits {
  readonly #kinds: ReadonlyMap<string, AnyEditKind>;

  constructor(kinds: readonly AnyEditKind[]) {
    this.#kinds = new Map(kinds.map((k) => [k.kind, k]));
    if (this.#kinds.size !== kinds.length) throw new Error("two kinds of edit have one name");
  }

  names(): string[] {
    return [...this.#kinds.keys()];
  }

  /** Faults of form of an edit's kind and payload; empty when it can be applied to some design. */
  faults(kind: string, payload: unknown): Fault[] {
    const known = this.#kinds.get(kind);
    if (!known) return [{ path: "kind", found: `text "${kind}"`, expected: `one of: ${this.names().join(", ")}` }];
    const { error } = known.schema.validate(payload, { abortEarly: false, convert: false, presence: "optional" });
    return error ? faultsOf(error).map((f) => ({ ...f, path: `payload.${f.path}` })) : [];
  }

  /** @throws Error when the payload has another form: ask `faults` first */
  apply(design: Design, { kind, payload }: Pick<Edit, "kind" | "payload">): Applied {
    const faults = this.faults(kind, payload);
    if (faults.length > 0) throw new Error(`${kind}: ${faults[0]!.path} is ${faults[0]!.found}`);
    return this.#kinds.get(kind)!.apply(design, payload as never);
  }

  /**
   * An edit as it goes into the log: see `EditKind.settle`.
   * @throws Error when the payload has another form: ask `faults` first
   */
  settled<E extends Pick<Edit, "kind" | "payload">>(design: Design, edit: E, who: string): E {
    const settle = this.#kinds.get(edit.kind)?.settle;
    return settle ? { ...edit, payload: settle(design, edit.payload as never, who) } : edit;
  }

  sentence({ kind, payload }: Pick<Edit, "kind" | "payload">): string {
    const known = this.#kinds.get(kind);
    // An edit of a newer program stays in the log, though this one cannot read it out.
    return known && this.faults(kind, payload).length === 0
      ? known.sentence(payload as never)
      : `${kind} (not known here)`;
  }

  touches({ kind, payload }: Pick<Edit, "kind" | "payload">): Touched[] {
    const known = this.#kinds.get(kind);
    return known && this.faults(kind, payload).length === 0 ? known.touches(payload as never) : [];
  }

  /**
   * Lays edits on a design in order, those that were taken back left out. What does not fit is passed over
   * and told of, never dropped silently. O(edits · size of the lists they touch).
   * @param kin follows what each name stood for, where that is asked
   */
  lay(received: Design, log: readonly LoggedEdit[], kin?: Kin): Laid {
    let design = received;
    const unfitting: Laid["unfitting"] = [];
    for (const edit of log) {
      if (edit.back) continue;
      kin?.aim(edit.id, edit.payload);
      if (this.faults(edit.kind, edit.payload).length > 0) {
        unfitting.push({ edit, reason: "this program does not know it", remedy: "Update the program." });
        continue;
      }
      const applied = this.apply(design, edit);
      if (applied.ok) {
        kin?.follow(design, applied.design, edit.id);
        design = applied.design;
      } else unfitting.push({ edit, reason: applied.reason, remedy: applied.remedy });
    }
    return { design, unfitting };
  }

  /**
   * The log with one edit taken back, or with one that was taken back laid again; or the edits that stand
   * on it: those that fitted before and would not fit any more, and those that would fit something else, as
   * after it a name stands for another thing.
   */
  turn(received: Design, log: readonly LoggedEdit[], id: string, back: LoggedEdit["back"]): Turned {
    const [was, is] = [new Kin(received), new Kin(received)];
    const before = new Set(this.lay(received, log, was).unfitting.map((u) => u.edit.id));
    const next = log.map((e) => (e.id === id ? { ...e, back } : e));
    const laid = this.lay(received, next, is);
    const not = new Set(laid.unfitting.map((u) => u.edit.id));
    const elsewhere = next.flatMap((edit): Unfitting[] => {
      if (edit.id === id || edit.back || before.has(edit.id) || not.has(edit.id)) return [];
      const other = was.differs(is, edit.id);
      return other
        ? [
            {
              edit,
              reason: `${other.thing} ${other.of} would be another one than it was made for`,
              remedy: "Take this edit back first, and make it anew.",
            },
          ]
        : [];
    });
    const standing = [...laid.unfitting.filter((u) => !before.has(u.edit.id)), ...elsewhere];
    return standing.length > 0 ? { ok: false, standing } : { ok: true, log: next, ...laid };
  }
}

export interface Unfitting {
  edit: LoggedEdit;
  reason: string;
  remedy: string;
}

export interface Laid {
  design: Design;
  unfitting: Unfitting[];
}

export type Turned = ({ ok: true; log: LoggedEdit[] } & Laid) | { ok: false; standing: Unfitting[] };

/** Lists in which things go by a name that an edit may give to another. */
const NAMED: { [K in Thing]?: (design: Design) => readonly object[] } = {
  device: (d) => d.devices,
  wire: (d) => d.wires,
  net: (d) => d.nets,
  cable: (d) => d.cables,
  rail: (d) => d.rails,
  duct: (d) => d.ducts,
  crossing: (d) => d.crossings,
  strip: (d) => d.strips,
};

/**
 * Which thing a name stood for when an edit was laid, through all renaming: things are followed from design to
 * design, those that stay by themselves, those that are changed by their place in a list of one length.
 * O(edits · size of the lists that change).
 */
export class Kin {
  #design: Design;
  readonly #of = new Map<string, Map<object, string>>();
  readonly #aims = new Map<string, Map<string, Touched & { kin: string }>>();

  constructor(received: Design) {
    this.#design = received;
    for (const [thing, list] of Object.entries(NAMED))
      this.#of.set(thing, new Map(list(received).map((item, i) => [item, `${i}`])));
  }

  /** Notes what an edit is about to name: every text of its payload that is the name of something. */
  aim(edit: string, payload: unknown): void {
    const aims = new Map<string, Touched & { kin: string }>();
    const words = new Set<string>();
    collect(payload, words);
    for (const [thing, named] of this.#maps()) {
      const kin = this.#of.get(thing)!;
      for (const of of words) {
        const item = named.get(of);
        const stood = item && kin.get(item);
        if (stood !== undefined) aims.set(`${thing} ${of}`, { thing, of, kin: stood });
      }
    }
    this.#aims.set(edit, aims);
  }

  /** Things by name as the design is now. */
  #maps(): [Thing, ReadonlyMap<string, object>][] {
    const look = lookUp(this.#design);
    return [
      ["device", look.devices],
      ["wire", new Map(look.wires.map((w) => [w.id, w.wire]))],
      ["net", look.nets],
      ["cable", look.cables],
      ["rail", look.rails],
      ["duct", look.ducts],
      ["crossing", look.crossings],
      ["strip", look.strips],
    ];
  }

  /** What an edit made of the design. */
  follow(before: Design, after: Design, edit: string): void {
    for (const [thing, list] of Object.entries(NAMED)) {
      const [old, now] = [list(before), list(after)];
      if (old === now) continue;
      const kin = this.#of.get(thing)!;
      const next = new Map<object, string>();
      now.forEach((item, i) => {
        const same = kin.get(item) ?? (old.length === now.length ? kin.get(old[i]!) : undefined);
        next.set(item, same ?? `${edit} ${i - old.length}`);
      });
      this.#of.set(thing, next);
    }
    this.#design = after;
  }

  /** The first thing that an edit named here and there and that is not the same one; null when all are. */
  differs(other: Kin, edit: string): Touched | null {
    const theirs = other.#aims.get(edit);
    for (const [key, { thing, of, kin }] of this.#aims.get(edit) ?? []) {
      const there = theirs?.get(key);
      if (there && there.kin !== kin) return { thing, of };
    }
    return null;
  }
}

/** Fields that hold what people write: a name in them names nothing. */
const WRITTEN: ReadonlySet<string> = new Set(["text", "texts", "why", "who"]);

/** All texts of a value, keys included. */
function collect(value: unknown, words: Set<string>): void {
  if (typeof value === "string") words.add(value);
  else if (Array.isArray(value)) for (const v of value) collect(v, words);
  else if (typeof value === "object" && value !== null)
    for (const [key, v] of Object.entries(value)) {
      words.add(key);
      if (!WRITTEN.has(key)) collect(v, words);
    }
}

// ---- what kinds are made of ------------------------------------------------------------------------

/** A list with some of its items changed; the same list when none is. */
export function changed<T>(list: T[], which: (item: T) => boolean, change: (item: T) => T): T[] {
  return list.some(which) ? list.map((item) => (which(item) ? change(item) : item)) : list;
}

/** An object with fields set; null takes a field away. */
export function withFields<T extends object>(item: T, fields: { [K in keyof T]?: T[K] | null | undefined }): T {
  const next = { ...item };
  for (const [key, value] of Object.entries(fields)) {
    if (value === undefined) continue;
    if (value === null) Reflect.deleteProperty(next, key);
    else Reflect.set(next, key, value);
  }
  return next;
}
