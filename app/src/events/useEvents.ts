import type { EventQuery, EventReply, EventRequest } from "@gray-bench/contract/api";
import type { SheetEvent } from "@gray-bench/core/metalwork/events";
import type { TickEvent } from "@gray-bench/core/frame/ticks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { type ApiError, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";
import { sendOldTicks } from "./oldTicks";
import { freshId, MOST_SENT, NAMELESS, refusedForGood, waitingOf } from "./waiting";

interface Events {
  sheet: SheetEvent;
  tick: TickEvent;
}
type Kind = keyof Events;

/** What was said on this device and the server has not confirmed yet: kept until it has, also when the page is left. */
interface Waiting {
  job: string;
  kind: Kind;
  event: Events[Kind];
}

const queue = waitingOf<Waiting>("gray-bench.events", (w) => w.event.id);

const ASK_MS = 3_000;

interface Known<K extends Kind> {
  events: readonly Events[K][];
  last: number;
}

/** What somebody says; who, when and its id come with it. */
export type Said<K extends Kind> = Omit<Events[K], "id" | "who" | "at">;

/** @param thing of ticks: their list */
export const eventsKey = (job: string, kind: Kind, thing?: string) => ["events", job, kind, thing] as const;

/** What all events of a request are of; of ticks their list. */
const thingOf = ({ event }: Waiting): string | undefined => ("list" in event ? event.list : undefined);

/** What happened to a job's things of a kind, with what still waits to be sent; and saying more, which never fails for want of a network. */
export function useEvents<K extends Kind>(job: string, kind: K, thing?: string) {
  const client = useQueryClient();
  const { name } = useSettings();
  const all = queue.use();
  const isMine = useMemo(
    () => (w: Waiting) => w.job === job && w.kind === kind && thingOf(w) === thing,
    [job, kind, thing],
  );
  const mine = useMemo(() => all.filter(isMine).map((w) => w.event as Events[K]), [all, isMine]);
  const key = useMemo(() => eventsKey(job, kind, thing), [job, kind, thing]);
  const [refused, setRefused] = useState<ApiError | null>(null);
  /** Where one of many was refused they go one by one, so that it alone is let go. */
  const atOnce = useRef(MOST_SENT);
  const query = useQuery({
    queryKey: key,
    // Whoever asks says what it did, and hears what others did.
    queryFn: async (): Promise<Known<K>> => {
      await Promise.all([queue.read, sendOldTicks()]);
      const before = client.getQueryData<Known<K>>(key) ?? { events: [], last: 0 };
      const sent = queue.now().filter(isMine);
      const events = sent.slice(0, atOnce.current).map((w) => w.event);
      const asked = { kind, ...(thing === undefined ? {} : { thing }), since: before.last } satisfies EventQuery;
      try {
        const reply = await send<EventReply<Events[K]>>(`${jobPath(job)}/events`, {
          ...asked,
          clock: new Date().toISOString(),
          events,
        } as EventRequest);
        if (sent.length <= events.length) atOnce.current = MOST_SENT;
        return { events: [...before.events, ...reply.events], last: reply.last };
      } catch (error) {
        // It is told, and let go.
        if (refusedForGood(error)) {
          if (events.length > 1) atOnce.current = 1;
          else if (events.length === 1) {
            setRefused(error);
            queue.drop((w) => w.event.id === events[0]!.id);
          }
        }
        throw error;
      }
    },
    refetchInterval: ASK_MS,
    networkMode: "always",
    retry: false,
    // Events are only ever added: comparing what is long would cost more than drawing it.
    structuralSharing: false,
  });
  const { refetch, dataUpdatedAt, data } = query;
  useEffect(() => {
    // Only what is heard of in what the server tells is let go: until then it counts from here.
    if (mine.length === 0 || !data) return;
    const told = new Set(data.events.map((e) => e.id));
    queue.drop((w) => w.job === job && told.has(w.event.id));
  }, [data, mine, job]);
  useEffect(() => {
    // What was said while another question was under way goes with the next one.
    if (mine.length > 0) void refetch({ cancelRefetch: false });
  }, [mine.length, dataUpdatedAt, refetch]);
  const events = useMemo(() => [...(data?.events ?? []), ...mine], [data, mine]);
  const say = (said: readonly Said<K>[]): void => {
    setRefused(null);
    queue.add(
      said.map((s) => ({
        job,
        kind,
        event: { id: freshId(), ...s, who: name || NAMELESS, at: new Date().toISOString() } as Events[K],
      })),
    );
  };
  return {
    events,
    say,
    waiting: mine.length,
    /** What was refused last; else only where nothing is known yet: what is known stays on the screen. */
    error: refused ?? (query.data ? null : query.error),
    loading: query.isPending,
  };
}
