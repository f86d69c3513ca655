import { useSyncExternalStore } from "react";
import type { Href } from "expo-router";

/** Something that takes its time: a computation, a file that is being read. */
export interface Work {
  id: string;
  /** What is done, with what: `computing LARK-2601`. */
  what: string;
  state: "running" | "done" | "failed" | "cancelled";
  /** How far it is, 0 to 1; null where that is not known. */
  share: number | null;
  /** Where its outcome is seen. */
  href: Href | null;
  /** Why it failed, or what came of it. */
  told: string;
  cancel: (() => void) | null;
}

/** More that has ended than this is forgotten, the oldest first. */
const MOST_ENDED = 8;

let all: readonly Work[] = [];
const hearers = new Set<() => void>();

function put(next: readonly Work[]): void {
  const ended = next.filter((w) => w.state !== "running");
  const forgotten = new Set(ended.slice(0, Math.max(0, ended.length - MOST_ENDED)));
  all = next.filter((w) => !forgotten.has(w));
  for (const hear of hearers) hear();
}

/** Begins, or tells anew of, what goes by this id; it comes last. */
export function tell(id: string, part: Partial<Omit<Work, "id">> & { what: string }): void {
  const known = all.find((w) => w.id === id);
  const first: Work = { id, what: part.what, state: "running", share: null, href: null, told: "", cancel: null };
  const next = { ...(known?.state === "running" ? known : first), ...part };
  put([...all.filter((w) => w !== known), next]);
}

/** It has come to an end: from then on it can no more be cancelled, and stands there until somebody has seen it. */
export function end(id: string, state: Exclude<Work["state"], "running">, told = ""): void {
  put(all.map((w) => (w.id === id ? { ...w, state, told, share: null, cancel: null } : w)));
}

/** Somebody has seen it. */
export const forget = (id: string): void => put(all.filter((w) => w.id !== id));

/** Everything that is under way or has ended unseen, the newest last. */
export const allWork = (): readonly Work[] => all;

const subscribe = (hear: () => void): (() => void) => {
  hearers.add(hear);
  return () => void hearers.delete(hear);
};

export const useWork = (): readonly Work[] => useSyncExternalStore(subscribe, allWork);
