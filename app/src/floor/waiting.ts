import { useSyncExternalStore } from "react";

/** Things done on this device that the server has not confirmed yet: kept until it has, also when the page is left. */
export interface Waiting<T> {
  now(): readonly T[];
  put(next: readonly T[]): void;
  /** The same, heard of whenever it changes. */
  use(): readonly T[];
}

/** @param key under which they are kept on the device */
export function waitingOf<T>(key: string): Waiting<T> {
  const listeners = new Set<() => void>();
  let waiting: readonly T[];
  try {
    waiting = JSON.parse(localStorage.getItem(key) ?? "[]") as T[];
  } catch {
    waiting = [];
  }
  const subscribe = (hear: () => void): (() => void) => {
    listeners.add(hear);
    return () => void listeners.delete(hear);
  };
  return {
    now: () => waiting,
    put(next) {
      waiting = next;
      try {
        localStorage.setItem(key, JSON.stringify(next));
      } catch {
        // Private windows may refuse; what waits then waits as long as the page is open.
      }
      for (const l of listeners) l();
    },
    use: () => useSyncExternalStore(subscribe, () => waiting),
  };
}

/** The platform makes unique ids only over encrypted lines; in a shop the server is reached without. */
export const freshId = (): string =>
  [Date.now(), Math.random() * 2 ** 52, Math.random() * 2 ** 52].map((n) => Math.floor(n).toString(36)).join("-");

/** So many are sent at once. */
export const MOST_SENT = 500;

/** Of whoever gave no name. */
export const NAMELESS = "no name given";
