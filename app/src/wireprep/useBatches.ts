import type {
  BatchList,
  BatchOutlook,
  BatchReply,
  BatchRequest,
  WireMachineList,
  WireMachineNow,
} from "@gray-bench/contract/wireprep";
import { leadStates, type LeadEvent, type LeadState } from "@gray-bench/core/wireprep/events";
import { chainsIn, type BatchAsked } from "@gray-bench/core/wireprep/batch";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { useEvents } from "../events/useEvents";
import { call, jobPath, send } from "../kit/api";

const BUSY_MS = 800;
const IDLE_MS = 4000;

const batchPath = (job: string, batch: string): string => `${jobPath(job)}/batches/${batch}`;

export const useBatches = (job: string) =>
  useQuery({
    queryKey: ["batches", job],
    queryFn: () => call<BatchList>(`${jobPath(job)}/batches`),
    refetchInterval: IDLE_MS,
  });

/** What a batch would be. */
export const useOutlook = (job: string, asked: Omit<BatchAsked, "name"> | null) =>
  useQuery({
    queryKey: ["batch outlook", job, asked],
    queryFn: () => send<BatchOutlook>(`${jobPath(job)}/batches/outlook`, asked),
    enabled: asked !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });

export function useMakeBatch(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (request: BatchRequest) => send<BatchReply>(`${jobPath(job)}/batches`, request),
    onSuccess: (reply) => client.setQueryData(["batch", job, reply.summary.name], reply),
    onSettled: () => {
      void client.invalidateQueries({ queryKey: ["batches", job] });
      void client.invalidateQueries({ queryKey: ["batch outlook", job] });
    },
  });
}

/** What is said of a lead, without what every event has. */
export type Said = Pick<LeadEvent, "lead" | "attempt" | "what"> & Partial<Pick<LeadEvent, "why" | "of">>;

/** Where a lead is. */
export type Where = "made" | "at the machine" | "to make";

/** A batch, what became of its leads, and saying so, which never fails for want of a network. */
export function useBatch(job: string, batch: string) {
  const client = useQueryClient();
  const said = useEvents(job, "lead", batch);
  const key = useMemo(() => ["batch", job, batch], [job, batch]);
  const query = useQuery({
    queryKey: key,
    queryFn: () => call<BatchReply>(batchPath(job, batch)),
    refetchInterval: (s) =>
      s.state.data?.runs.some((r) => r.state === "sending" || r.state === "sent") ? BUSY_MS : IDLE_MS,
    networkMode: "always",
    retry: false,
  });
  const { data, refetch } = query;
  useEffect(() => {
    // What became of leads is in it too.
    if (said.events.length > 0) void refetch({ cancelRefetch: false });
  }, [said.events.length, refetch]);
  const events = useMemo(
    () => [...new Map([...(data?.events ?? []), ...said.events].map((e) => [e.id, e])).values()],
    [data, said.events],
  );
  const states = useMemo<ReadonlyMap<string, LeadState>>(
    () => (data ? leadStates(chainsIn(data.batch), events) : new Map()),
    [data, events],
  );
  const atMachine = useMemo(() => {
    const done = new Set(events.filter((e) => e.run !== undefined).map((e) => `${e.attempt} ${e.lead}`));
    return new Set(
      (data?.runs ?? [])
        .flatMap((r) => r.leads.map(([lead, attempt]) => `${attempt} ${lead}`))
        .filter((k) => !done.has(k)),
    );
  }, [data, events]);
  const whereIs = (lead: string): Where => {
    const state = states.get(lead);
    if (state?.made) return "made";
    return state && atMachine.has(`${state.attempt} ${lead}`) ? "at the machine" : "to make";
  };
  const say = (leads: readonly Said[]): void => said.say(leads.map((s) => ({ batch, ...s })));
  const act = useMutation({
    mutationFn: ({ path, method = "POST", body }: { path: string; method?: "POST" | "DELETE"; body?: object }) =>
      call<BatchReply>(`${batchPath(job, batch)}${path}`, {
        method,
        ...(body ? { headers: { "content-type": "application/json" }, body: JSON.stringify(body) } : {}),
      }),
    onSuccess: (reply) => client.setQueryData(key, reply),
    onSettled: () => {
      void client.invalidateQueries({ queryKey: ["batches", job] });
      void client.invalidateQueries({ queryKey: ["wire machines"] });
    },
  });
  return {
    data,
    error: query.data ? null : query.error,
    /** The last question was not answered. */
    alone: query.isError,
    loading: query.isPending,
    states,
    events,
    whereIs,
    say,
    who: said.who,
    waiting: said.waiting,
    refused: said.refused,
    act,
    retry: () => void refetch(),
  };
}

export type Batch = ReturnType<typeof useBatch>;

export const useWireMachines = () =>
  useQuery({
    queryKey: ["wire machines"],
    queryFn: () => call<WireMachineList>("/wire-machines").then((r) => r.machines),
    refetchInterval: (s) =>
      s.state.data?.some((m) => m.state === "running" || m.state === "waiting") ? BUSY_MS : IDLE_MS,
  });

export const wireMachineOf = (
  list: readonly WireMachineNow[] | undefined,
  name: string | null,
): WireMachineNow | undefined => list?.find((m) => m.takes === "leads" && m.name === name);

/** What somebody does at a machine: mounts a reel, fills a magazine, clears a jam, puts in a roll. */
export function useAtMachine(machine: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ what, body = {} }: { what: "reel" | "magazine" | "clear" | "roll"; body?: object }) =>
      send<{ done: boolean }>(`/wire-machines/${encodeURIComponent(machine)}/${what}`, body),
    onSettled: () => client.invalidateQueries({ queryKey: ["wire machines"] }),
  });
}
