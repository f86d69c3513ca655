import type { AirField, Placed, Trial, TrialBase, Tried } from "@gray-bench/core/heat/trial";
import { useEffect, useMemo, useRef, useState } from "react";
import { makeWorker } from "./makeWorker";

export type Question =
  | { kind: "base"; base: TrialBase }
  | { kind: "zone"; id: number; zone: string; trial: Trial }
  | { kind: "field"; id: number; enclosure: string; trial: Placed; counted: [string, number][] };

export type Answered =
  { id: number; tried: Tried | null } | { id: number; field: AirField | null } | { id: number; failed: string };

type Asked = Question extends infer Q ? (Q extends { id: number } ? Omit<Q, "id"> : never) : never;

/**
 * Asks a worker, one question at a time. Of questions under one name that wait, only the newest is asked: a thumb is faster
 * than any answer.
 */
export class Asker {
  readonly #worker: Worker;
  readonly #waiting = new Map<string, { asked: Asked; take(answer: Answered): void }>();
  #under: { id: number; take(answer: Answered): void } | null = null;
  #next = 1;

  constructor(base: TrialBase) {
    this.#worker = makeWorker();
    this.#worker.onmessage = ({ data }: MessageEvent<Answered>) => this.#answered(data);
    this.#worker.onerror = (e) =>
      this.#answered({ id: this.#under?.id ?? 0, failed: e.message || "the worker did not start" });
    this.#worker.postMessage({ kind: "base", base } satisfies Question);
  }

  ask(name: string, asked: Asked, take: (answer: Answered) => void): void {
    this.#waiting.set(name, { asked, take });
    this.#go();
  }

  close(): void {
    this.#waiting.clear();
    this.#under = null;
    this.#worker.terminate();
  }

  #go(): void {
    if (this.#under) return;
    for (const [name, { asked, take }] of this.#waiting) {
      this.#waiting.delete(name);
      const id = this.#next++;
      this.#under = { id, take };
      this.#worker.postMessage({ ...asked, id } as Question);
      return;
    }
  }

  #answered(answer: Answered): void {
    if (!this.#under || answer.id !== this.#under.id) return;
    const { take } = this.#under;
    this.#under = null;
    take(answer);
    this.#go();
  }
}

/** A worker that knows a computed design, as long as the view is there. */
export function useAsker({ design, panel, heat }: TrialBase): Asker | null {
  const [asker, setAsker] = useState<Asker | null>(null);
  useEffect(() => {
    const made = new Asker({ design, panel, heat: { zones: heat.zones, basis: heat.basis } });
    setAsker(made);
    return () => made.close();
  }, [design, panel, heat]);
  return asker;
}

export type Reply<T> = { got: T | null; failed: string | null; waiting: boolean };

/** The answer to the newest question; until it is there, the one before. */
function useAnswer<T>(
  asker: Asker | null,
  name: string,
  asked: Asked | null,
  read: (answer: Answered) => T | null | undefined,
): Reply<T> {
  const key = useMemo(() => JSON.stringify(asked), [asked]);
  const [reply, setReply] = useState<Reply<T> & { key: string }>({ got: null, failed: null, waiting: true, key: "" });
  const reader = useRef(read);
  useEffect(() => {
    reader.current = read;
  });
  useEffect(() => {
    if (!asker || key === "null") return;
    let there = true;
    asker.ask(name, JSON.parse(key) as Asked, (answer) => {
      if (!there && "failed" in answer) return;
      const got = reader.current(answer);
      setReply({ got: got ?? null, failed: "failed" in answer ? answer.failed : null, waiting: false, key });
    });
    return () => {
      there = false;
    };
  }, [asker, key, name]);
  return { got: reply.got, failed: reply.failed, waiting: key !== "null" && reply.key !== key };
}

/** A zone as it would be with something tried; nothing is asked without a trial. */
export const useTried = (asker: Asker | null, zone: string, trial: Trial | null): Reply<Tried> =>
  useAnswer(
    asker,
    "zone",
    useMemo(() => trial && { kind: "zone", zone, trial }, [zone, trial]),
    (a) => ("tried" in a ? a.tried : null),
  );

/** The air before a plate with something tried. @param name questions under one name: the newest counts */
export const useField = (
  asker: Asker | null,
  name: string,
  enclosure: string,
  trial: Placed,
  counted: [string, number][],
): Reply<AirField> =>
  useAnswer(
    asker,
    name,
    useMemo(() => ({ kind: "field", enclosure, trial, counted }), [enclosure, trial, counted]),
    (a) => ("field" in a ? a.field : null),
  );
