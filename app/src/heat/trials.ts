import type { AirField, Placed, Trial, TrialBase, Tried } from "@gray-bench/core/heat/trial";
import { useEffect, useMemo, useRef, useState } from "react";
import { Asker } from "../kit/asker";
import { makeWorker } from "./makeWorker";

export type Question =
  | { kind: "base"; base: TrialBase }
  | { kind: "zone"; id: number; zone: string; trial: Trial }
  | { kind: "field"; id: number; enclosure: string; trial: Placed; counted: [string, number][] };

export type Answered =
  { id: number; tried: Tried | null } | { id: number; field: AirField | null } | { id: number; failed: string };

type Asked = Question extends infer Q ? (Q extends { id: number } ? Omit<Q, "id"> : never) : never;

/** Asks the worker of heat. */
export type HeatAsker = Asker<Asked, Answered>;

/** A worker that knows a computed design, as long as the view is there. */
export function useAsker({ design, panel, heat }: TrialBase): HeatAsker | null {
  const [asker, setAsker] = useState<HeatAsker | null>(null);
  useEffect(() => {
    const base: TrialBase = { design, panel, heat: { zones: heat.zones, basis: heat.basis } };
    const made: HeatAsker = new Asker(makeWorker(), { kind: "base", base } satisfies Question);
    setAsker(made);
    return () => made.close();
  }, [design, panel, heat]);
  return asker;
}

export type Reply<T> = { got: T | null; failed: string | null; waiting: boolean };

/** The answer to the newest question; until it is there, the one before. */
function useAnswer<T>(
  asker: HeatAsker | null,
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
export const useTried = (asker: HeatAsker | null, zone: string, trial: Trial | null): Reply<Tried> =>
  useAnswer(
    asker,
    "zone",
    useMemo(() => trial && { kind: "zone", zone, trial }, [zone, trial]),
    (a) => ("tried" in a ? a.tried : null),
  );

/** The air before a plate with something tried. @param name questions under one name: the newest counts */
export const useField = (
  asker: HeatAsker | null,
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
