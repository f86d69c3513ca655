import type { TickList, TickRequest } from "@gray-bench/contract/api";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { ApiError, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";

/** Ticks made on this device that the server has not confirmed yet: kept until it has, also when the page is left. */
interface Waiting {
  id: string;
  job: string;
  list: string;
  who: string;
  item: string;
  done: boolean;
}

const KEY = "gray-bench.ticks";
const listeners = new Set<() => void>();
let waiting: readonly Waiting[] = stored();

function stored(): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "[]") as Waiting[];
  } catch {
    return [];
  }
}

function put(next: readonly Waiting[]): void {
  waiting = next;
  try {
    localStorage.setItem(KEY, JSON.stringify(next));
  } catch {
    // Private windows may refuse; the ticks then wait as long as the page is open.
  }
  for (const l of listeners) l();
}

const subscribe = (hear: () => void): (() => void) => {
  listeners.add(hear);
  return () => void listeners.delete(hear);
};

/** The platform makes unique ids only over encrypted lines; in a shop the server is reached without. */
const freshId = (): string =>
  [Date.now(), Math.random() * 2 ** 52, Math.random() * 2 ** 52].map((n) => Math.floor(n).toString(36)).join("-");

const MOST = 500;
const AGAIN_MS = 10_000;
const NAMELESS = "no name given";

/** What is ticked of a list, with what still waits to be sent; and ticking, which never fails for want of a network. */
export function useTicks(job: string, list: string) {
  const client = useQueryClient();
  const { name } = useSettings();
  const all = useSyncExternalStore(subscribe, () => waiting);
  const mine = useMemo(() => all.filter((w) => w.job === job && w.list === list), [all, job, list]);
  const query = useQuery({
    queryKey: ["ticks", job, list],
    queryFn: () => call<TickList>(`${jobPath(job)}/ticks?${new URLSearchParams({ list }).toString()}`),
    refetchInterval: 15_000,
  });
  const { mutate, isPending } = useMutation({
    networkMode: "always",
    mutationFn: async (batch: readonly Waiting[]) => {
      const who = batch[0]!.who;
      const ticks = batch.filter((w) => w.who === who).map(({ id, item, done }) => ({ id, item, done }));
      const kept = await send<TickList>(`${jobPath(job)}/ticks`, { list, who, ticks } satisfies TickRequest);
      return { kept, sent: new Set(ticks.map((t) => t.id)) };
    },
    onSuccess({ kept, sent }) {
      client.setQueryData(["ticks", job, list], kept);
      put(waiting.filter((w) => !sent.has(w.id)));
    },
    onError(error, batch) {
      // Refused for good, as of a job that is gone: it would be refused for ever.
      if (error instanceof ApiError && error.status >= 400 && error.status < 500)
        put(waiting.filter((w) => !batch.includes(w)));
    },
  });
  useEffect(() => {
    if (mine.length === 0 || isPending) return;
    const first = mine.slice(0, MOST);
    mutate(first);
    // What could not be sent is sent again, in a while or when the network is back.
    const again = setInterval(() => mutate(first), AGAIN_MS);
    const online = (): void => mutate(first);
    window.addEventListener("online", online);
    return () => {
      clearInterval(again);
      window.removeEventListener("online", online);
    };
    // Whether one is under way decides only whether to begin: it must not begin again when it ends without success.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [mine, mutate]);
  const done = useMemo(() => {
    const state = new Map(query.data?.ticks.map((t) => [t.item, t]) ?? []);
    for (const { item, done: is, who } of mine) state.set(item, { item, done: is, who, at: "" });
    return state;
  }, [query.data, mine]);
  const tick = (items: readonly string[], is: boolean): void =>
    put([...waiting, ...items.map((item) => ({ id: freshId(), job, list, who: name || NAMELESS, item, done: is }))]);
  return { done, tick, waiting: mine.length, error: query.data ? null : query.error, loading: query.isPending };
}
