import type { Picker, PickReply, PickRequest } from "@gray-bench/contract/api";
import { readPicks, type KitLog, type PickEvent } from "@gray-bench/core/kits/events";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { freshId, MOST_SENT, NAMELESS, waitingOf } from "../events/waiting";
import { ApiError, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";

interface Mine {
  job: string;
  event: PickEvent;
}

const queue = waitingOf<Mine>("gray-bench.picks", (w) => w.event.id);

/** This device among others, as long as it keeps its data. */
const device = ((): string => {
  const KEY = "gray-bench.device";
  try {
    const known = localStorage.getItem(KEY) ?? freshId();
    localStorage.setItem(KEY, known);
    return known;
  } catch {
    return freshId();
  }
})();

interface Known {
  events: PickEvent[];
  /** Number of the last one the server told. */
  last: number;
  pickers: Picker[];
}
const NOTHING: Known = { events: [], last: 0, pickers: [] };
const ASK_MS = 3000;

/** What is said of an event, without what every event has. */
export type Said = Pick<PickEvent, "kit" | "line" | "what"> & Partial<Pick<PickEvent, "quantity" | "of" | "reason">>;

/** What of a job is picked, by everybody; and saying so, which never fails for want of a network. */
export function usePicks(job: string, here: Pick<Picker, "kit" | "line"> | null = null) {
  const client = useQueryClient();
  const { name } = useSettings();
  const who = name || NAMELESS;
  const all = queue.use();
  const mine = useMemo(() => all.filter((w) => w.job === job).map((w) => w.event), [all, job]);
  const key = useMemo(() => ["picks", job], [job]);
  const query = useQuery({
    queryKey: key,
    // Whoever asks says what it did, and hears what others did.
    queryFn: async (): Promise<Known> => {
      const before = client.getQueryData<Known>(key) ?? NOTHING;
      const sent = queue
        .now()
        .filter((w) => w.job === job)
        .slice(0, MOST_SENT)
        .map((w) => w.event);
      const request: PickRequest = {
        since: before.last,
        events: sent,
        ...(here ? { here: { device, who, ...here } } : {}),
      };
      let reply: PickReply;
      try {
        reply = await send<PickReply>(`${jobPath(job)}/picks`, request);
      } catch (error) {
        // Of a job that is gone: it would be refused for ever.
        if (error instanceof ApiError && error.status === 404) queue.drop((w) => w.job === job);
        throw error;
      }
      return { events: [...before.events, ...reply.events], last: reply.last, pickers: reply.pickers };
    },
    refetchInterval: ASK_MS,
    networkMode: "always",
    retry: false,
    // Events are only ever added: comparing what is long would cost more than drawing it.
    structuralSharing: false,
  });
  const { refetch, dataUpdatedAt, data = NOTHING } = query;
  useEffect(() => {
    // Only what is heard of in what the server tells is let go: until then it counts from here.
    if (mine.length === 0) return;
    const told = new Set(data.events.map((e) => e.id));
    queue.drop((w) => w.job === job && told.has(w.event.id));
  }, [data.events, mine, job]);
  useEffect(() => {
    // What was said while another question was under way goes with the next one.
    if (mine.length > 0) void refetch({ cancelRefetch: false });
  }, [mine.length, dataUpdatedAt, refetch]);
  const at = here ? `${here.kit} ${here.line}` : "";
  useEffect(() => {
    if (at !== "") void refetch({ cancelRefetch: false });
  }, [at, refetch]);
  const events = useMemo(() => [...data.events, ...mine], [data.events, mine]);
  const log = useMemo<ReadonlyMap<string, KitLog>>(() => readPicks(events), [events]);
  const say = (said: readonly Said[]): void =>
    queue.add(said.map((s) => ({ job, event: { id: freshId(), ...s, who, at: new Date().toISOString() } })));
  return {
    log,
    say,
    who,
    pickers: data.pickers,
    waiting: mine.length,
    loading: query.isPending,
    /** Only where nothing is known yet: what is known stays on the screen. */
    error: query.data ? null : query.error,
    /** The last question was not answered. */
    alone: query.isError,
  };
}

export type Picks = ReturnType<typeof usePicks>;
