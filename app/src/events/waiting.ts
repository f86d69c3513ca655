import { createStore, delMany, entries, setMany, type UseStore } from "idb-keyval";
import { useSyncExternalStore } from "react";
import { ApiError } from "../kit/api";

/**
 * Things done on this device that the server has not confirmed yet: kept until it has, also when the page is left or the device is
 * switched off. All windows of the device know the same of them: each may send them, and the server counts what comes twice once.
 */
export interface Waiting<T> {
  now(): readonly T[];
  add(more: readonly T[]): void;
  /** Takes away what the server has, or never will. */
  drop(is: (one: T) => boolean): void;
  /** The same as `now`, heard of whenever it changes. */
  use(): readonly T[];
  /** What was kept before this window opened has been read. */
  readonly read: Promise<void>;
}

interface Kept<T> {
  /** Its place in the order things were done. */
  nth: number;
  one: T;
}

/** What windows tell each other. */
type Told<T> = { key: string } & ({ added: readonly [string, Kept<T>][] } | { dropped: readonly string[] });

let opened: UseStore | null = null;
const store = (): UseStore => (opened ??= createStore("gray-bench", "waiting"));

/** What is kept is waited for no longer than this. */
const MOST_READ_MS = 3_000;

/** Private windows may refuse to keep anything; what waits then waits as long as the page is open. */
const refused = (): void => undefined;

const channel = (): BroadcastChannel | null =>
  typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("gray-bench.waiting");

/**
 * @param key under which they are kept on the device, beside others
 * @param idOf what tells one from the others
 */
export function waitingOf<T>(key: string, idOf: (one: T) => string): Waiting<T> {
  const listeners = new Set<() => void>();
  const all = new Map<string, Kept<T>>();
  // Dropped before what was kept had been read: it does not come back with it.
  const gone = new Set<string>();
  let waiting: readonly T[] = [];
  let last = 0;
  const placeOf = (id: string): string => `${key} ${id}`;
  const changed = (): void => {
    waiting = [...all.values()].sort((a, b) => a.nth - b.nth).map(({ one }) => one);
    for (const l of listeners) l();
  };
  const others = channel();
  const tell = (told: Told<T>): void => others?.postMessage(told);
  const keep = async (kept: readonly [string, Kept<T>][]): Promise<boolean> => {
    for (const [id, one] of kept) all.set(id, one);
    changed();
    const places = kept.map(([id, one]): [string, Kept<T>] => [placeOf(id), one]);
    return setMany(places, store()).then(
      () => true,
      () => false,
    );
  };
  others?.addEventListener("message", ({ data }: MessageEvent<Told<T>>) => {
    if (data.key !== key) return;
    if ("added" in data) for (const [id, one] of data.added) all.set(id, one);
    else
      for (const id of data.dropped) {
        all.delete(id);
        gone.add(placeOf(id));
      }
    changed();
  });
  const number = (more: readonly T[]): [string, Kept<T>][] =>
    more.map((one) => [idOf(one), { nth: (last = Math.max(last + 1, Date.now())), one }]);

  const loaded = (async () => {
    const kept = await entries<string, Kept<T>>(store()).catch(() => []);
    for (const [place, one] of kept)
      if (place.startsWith(`${key} `) && !gone.has(place)) {
        all.set(place.slice(key.length + 1), one);
        last = Math.max(last, one.nth);
      }
    // Programs before this one kept them elsewhere.
    const before = older<T>(key);
    if (before.length > 0 && (await keep(number(before)))) localStorage.removeItem(key);
    else if (all.size > 0) changed();
  })();

  // A device that does not answer keeps nobody from working: what it had comes when it comes.
  const read = Promise.race([loaded, new Promise<void>((go) => setTimeout(go, MOST_READ_MS))]);

  return {
    read,
    now: () => waiting,
    add(more) {
      const added = number(more);
      void keep(added);
      tell({ key, added });
    },
    drop(is) {
      const dropped = [...all].filter(([, { one }]) => is(one)).map(([id]) => id);
      if (dropped.length === 0) return;
      for (const id of dropped) {
        all.delete(id);
        gone.add(placeOf(id));
      }
      changed();
      void delMany(dropped.map(placeOf), store()).catch(refused);
      tell({ key, dropped });
    },
    use: () =>
      useSyncExternalStore(
        (hear) => {
          listeners.add(hear);
          return () => void listeners.delete(hear);
        },
        () => waiting,
      ),
  };
}

/** Said again later: what came too fast or too late is not wrong. */
const LATER: ReadonlySet<number> = new Set([408, 425, 429]);

/** Whether the server will never take it, as of a job that is gone: it would be refused for ever. */
export const refusedForGood = (error: unknown): error is ApiError =>
  error instanceof ApiError && error.status >= 400 && error.status < 500 && !LATER.has(error.status);

function older<T>(key: string): T[] {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "[]") as T[];
  } catch {
    return [];
  }
}

/** The platform makes unique ids only over encrypted lines; in a shop the server is reached without. */
export const freshId = (): string =>
  [Date.now(), Math.random() * 2 ** 52, Math.random() * 2 ** 52].map((n) => Math.floor(n).toString(36)).join("-");

/** So many are sent at once. */
export const MOST_SENT = 500;

/** Of whoever gave no name. */
export const NAMELESS = "no name given";
