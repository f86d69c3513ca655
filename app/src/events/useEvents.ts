import type { Beside, EventReply, EventRequest, Here, LiveEvent } from "@gray-bench/contract/events";
import type { PickEvent } from "@gray-bench/core/kits/events";
import type { SheetEvent } from "@gray-bench/core/metalwork/events";
import type { TickEvent } from "@gray-bench/core/frame/ticks";
import type { LeadEvent } from "@gray-bench/core/wireprep/events";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type ApiError, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";
import { useLive } from "./live";
import { sendOldTicks } from "./oldTicks";
import { freshId, MOST_SENT, NAMELESS, refusedForGood, waitingOf } from "./waiting";

interface Events {
  sheet: SheetEvent;
  tick: TickEvent;
  pick: PickEvent;
  lead: LeadEvent;
}
type Kind = keyof Events;

/** Of kinds whose things have logs of their own the field that names the thing. */
const APART: { readonly [K in Kind]?: string } = { tick: "list", lead: "batch" };

/** What was said on this device and the server has not confirmed yet: kept until it has, also when the page is left. */
interface Waiting {
  job: string;
  /** Programs before this one did not say it of picks and leads, which they kept apart. */
  kind?: Kind;
  event: Events[Kind];
}

const queueOf = (key: string) => waitingOf<Waiting>(key, (w) => w.event.id);
const common = queueOf("gray-bench.events");
const QUEUES: Readonly<Record<Kind, ReturnType<typeof queueOf>>> = {
  sheet: common,
  tick: common,
  pick: queueOf("gray-bench.picks"),
  lead: queueOf("gray-bench.leads"),
};

/** Asked now and then; seldom where all is told at once, so that who is at work stays known. */
const ASK_MS = 3_000;
const SELDOM_MS = 20_000;

interface Known<K extends Kind> {
  events: readonly Events[K][];
  last: number;
  /** Others at work. */
  here: readonly Beside[];
}

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

const NOBODY: readonly Beside[] = [];

/** What somebody says; who, when and its id come with it. */
export type Said<K extends Kind> = Omit<Events[K], "id" | "who" | "at">;

/** @param thing of ticks their list, of leads their batch */
export const eventsKey = (job: string, kind: Kind, thing?: string) => ["events", job, kind, thing] as const;

/** What all events of a request are of, where their kind keeps things apart. */
const thingOf = (kind: Kind, event: Events[Kind]): string | undefined => {
  const field = APART[kind];
  return field && (event as unknown as Record<string, string>)[field];
};

/**
 * What happened to a job's things of a kind, with what still waits to be sent; and saying more, which never fails for want of a network.
 * @param here what somebody is at work with on this device, told to the others
 */
export function useEvents<K extends Kind>(
  job: string,
  kind: K,
  thing?: string,
  here: Pick<Here, "thing" | "part"> | null = null,
) {
  const client = useQueryClient();
  const { name } = useSettings();
  const who = name || NAMELESS;
  const queue = QUEUES[kind];
  const all = queue.use();
  const isMine = useMemo(
    () => (w: Waiting) => w.job === job && (w.kind ?? kind) === kind && thingOf(kind, w.event) === thing,
    [job, kind, thing],
  );
  const mine = useMemo(() => all.filter(isMine).map((w) => w.event as Events[K]), [all, isMine]);
  const key = useMemo(() => eventsKey(job, kind, thing), [job, kind, thing]);
  const [refused, setRefused] = useState<ApiError | null>(null);
  /** Where one of many was refused they go one by one, so that it alone is let go. */
  const atOnce = useRef(MOST_SENT);
  /** What was told of while a question was under way, which may not have heard of it: it is asked again after it. */
  const toldOf = useRef(0);
  const ask = useCallback(
    (told: LiveEvent): void => {
      if (told.kind !== kind || told.thing !== thing) return;
      const { last = Infinity } = told;
      if ((client.getQueryData<Known<K>>(key)?.last ?? 0) >= last) return;
      if (client.isFetching({ queryKey: key, exact: true }) > 0) toldOf.current = Math.max(toldOf.current, last);
      else void client.refetchQueries({ queryKey: key, exact: true });
    },
    [client, key, kind, thing],
  );
  const live = useLive(
    job,
    useMemo(() => ({ happened: ask }), [ask]),
  );
  useEffect(() => {
    // What happened before the line stood was told to nobody.
    if (live) ask({ kind, ...(thing === undefined ? {} : { thing }) });
  }, [live, ask, kind, thing]);
  const query = useQuery({
    queryKey: key,
    // Whoever asks says what it did, and hears what others did.
    queryFn: async (): Promise<Known<K>> => {
      await Promise.all([queue.read, sendOldTicks()]);
      const before = client.getQueryData<Known<K>>(key) ?? { events: [], last: 0, here: [] };
      const sent = queue.now().filter(isMine);
      const events = sent.slice(0, atOnce.current).map((w) => w.event);
      const request: EventRequest = {
        kind,
        ...(thing === undefined ? {} : { thing }),
        since: before.last,
        clock: new Date().toISOString(),
        events,
        ...(here ? { here: { device, who, ...here } } : {}),
      };
      try {
        const reply = await send<EventReply<Events[K]>>(`${jobPath(job)}/events`, request);
        if (sent.length <= events.length) atOnce.current = MOST_SENT;
        return { ...reply, events: [...before.events, ...reply.events] };
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
    refetchInterval: live && mine.length === 0 ? SELDOM_MS : ASK_MS,
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
  }, [data, mine, job, queue]);
  useEffect(() => {
    // What was said while another question was under way goes with the next one.
    if (mine.length > 0) void refetch({ cancelRefetch: false });
  }, [mine.length, dataUpdatedAt, refetch]);
  useEffect(() => {
    const wanted = toldOf.current;
    toldOf.current = 0;
    if (data && wanted > data.last) void refetch({ cancelRefetch: false });
  }, [dataUpdatedAt, data, refetch]);
  const at = here ? `${here.thing} ${here.part}` : "";
  useEffect(() => {
    if (at !== "") void refetch({ cancelRefetch: false });
  }, [at, refetch]);
  const events = useMemo(() => [...(data?.events ?? []), ...mine], [data, mine]);
  const say = (said: readonly Said<K>[]): void => {
    setRefused(null);
    queue.add(
      said.map((s) => ({
        job,
        kind,
        event: { id: freshId(), ...s, who, at: new Date().toISOString() } as Events[K],
      })),
    );
  };
  return {
    events,
    say,
    who,
    /** Others at work. */
    here: data?.here ?? NOBODY,
    waiting: mine.length,
    refused,
    /** What was refused last; else only where nothing is known yet: what is known stays on the screen. */
    error: refused ?? (query.data ? null : query.error),
    loading: query.isPending,
    /** The last question was not answered. */
    alone: query.isError,
  };
}
