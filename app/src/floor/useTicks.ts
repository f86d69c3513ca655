import type { TickList, TickRequest } from "@gray-bench/contract/api";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { ApiError, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";
import { freshId, MOST_SENT, NAMELESS, waitingOf } from "./waiting";

/** Ticks made on this device that the server has not confirmed yet: kept until it has, also when the page is left. */
interface Tick {
  id: string;
  job: string;
  list: string;
  who: string;
  item: string;
  done: boolean;
  /** By the clock of this device; those kept by an earlier program do not say it. */
  madeMs?: number;
}

const queue = waitingOf<Tick>("gray-bench.ticks");

const AGAIN_MS = 10_000;
const MOST_AGO_MS = 90 * 24 * 3_600_000;

/** What is ticked of a list, with what still waits to be sent; and ticking, which never fails for want of a network. */
export function useTicks(job: string, list: string) {
  const client = useQueryClient();
  const { name } = useSettings();
  const all = queue.use();
  const mine = useMemo(() => all.filter((w) => w.job === job && w.list === list), [all, job, list]);
  const query = useQuery({
    queryKey: ["ticks", job, list],
    queryFn: () => call<TickList>(`${jobPath(job)}/ticks?${new URLSearchParams({ list }).toString()}`),
    refetchInterval: 15_000,
  });
  const { mutate, isPending } = useMutation({
    networkMode: "always",
    mutationFn: async (batch: readonly Tick[]) => {
      const who = batch[0]!.who;
      const ticks = batch
        .filter((w) => w.who === who)
        .map(({ id, item, done, madeMs = Date.now() }) => {
          const agoMs = Math.max(0, Math.min(MOST_AGO_MS, Math.round(Date.now() - madeMs)));
          return { id, item, done, agoMs };
        });
      const kept = await send<TickList>(`${jobPath(job)}/ticks`, { list, who, ticks } satisfies TickRequest);
      return { kept, sent: new Set(ticks.map((t) => t.id)) };
    },
    onSuccess({ kept, sent }) {
      client.setQueryData(["ticks", job, list], kept);
      queue.put(queue.now().filter((w) => !sent.has(w.id)));
    },
    onError(error, batch) {
      // Refused for good, as of a job that is gone: it would be refused for ever.
      if (error instanceof ApiError && error.status >= 400 && error.status < 500)
        queue.put(queue.now().filter((w) => !batch.includes(w)));
    },
  });
  useEffect(() => {
    if (mine.length === 0 || isPending) return;
    const first = mine.slice(0, MOST_SENT);
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
    queue.put([
      ...queue.now(),
      ...items.map((item) => ({ id: freshId(), job, list, who: name || NAMELESS, item, done: is, madeMs: Date.now() })),
    ]);
  return { done, tick, waiting: mine.length, error: query.data ? null : query.error, loading: query.isPending };
}
