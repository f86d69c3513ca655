import type { ArrivedAttachment } from "@gray-bench/contract/attachments";
import type {
  Arrival,
  ArrivalJob,
  ArrivalOutlook,
  ArrivedDrawing,
  ArrivedTable,
  MatchingList,
  SourceList,
  TableLook,
} from "@gray-bench/contract/intake";
import type { ImportReply } from "@gray-bench/contract/jobs";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { KeptMatching } from "@gray-bench/core/tables/kept";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ApiError, askedBy, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";

/** What of an arrival a person changes. */
export interface Said {
  job: ArrivalJob;
  tables: ArrivedTable[];
  drawings: ArrivedDrawing[];
  attachments: ArrivedAttachment[];
}

const path = (id: string): string => `/arrivals/${encodeURIComponent(id)}`;

const saidOf = ({ job, tables, drawings, attachments }: Arrival): Said => ({ job, tables, drawings, attachments });

/** Files that have come in and are not a job yet. */
export const useArrivals = () =>
  useQuery({
    queryKey: ["arrivals"],
    queryFn: ({ signal }) => call<{ arrivals: Arrival[] }>("/arrivals", { signal }).then((r) => r.arrivals),
  });

/** Begins with files, or with those of the last revision of a job. */
export const beginArrival = (of: string | null): Promise<Arrival> => send<Arrival>("/arrivals", { of });

export const dropArrival = ({ id, version }: Arrival): Promise<void> =>
  call<void>(`${path(id)}?version=${version}`, { method: "DELETE" });

/** Adds a file to an arrival. */
export const addFile = async (id: string, file: File, signal?: AbortSignal): Promise<Arrival> =>
  call<Arrival>(`${path(id)}/files?${new URLSearchParams({ name: file.name }).toString()}`, {
    method: "POST",
    headers: { "content-type": "application/octet-stream" },
    body: await file.arrayBuffer(),
    ...(signal ? { signal } : {}),
  });

/** One arrival, and what can be done with it. Changes take their turn; each can be taken back. */
export function useArrival(id: string) {
  const client = useQueryClient();
  const key = ["arrival", id];
  const query = useQuery({ queryKey: key, queryFn: ({ signal }) => call<Arrival>(path(id), { signal }) });
  const before = useRef<Said[]>([]);
  const [undoes, setUndoes] = useState(0);
  const put = (arrival: Arrival): void => {
    client.setQueryData(key, arrival);
  };
  const change = useMutation({
    scope: { id: `arrival ${id}` },
    mutationFn: ({ to, undo = false }: { to: (now: Said) => Said; undo?: boolean }) => {
      const now = client.getQueryData<Arrival>(key)!;
      const next = to(now);
      // What is chosen again is no change: there is nothing of it to be undone.
      if (JSON.stringify(next) === JSON.stringify(now)) return Promise.resolve(now);
      const { job, tables, drawings, attachments } = next;
      if (!undo) before.current.push(saidOf(now));
      return send<Arrival>(
        path(id),
        {
          version: now.version,
          job,
          tables: tables.map(({ file, name, asked, matching, by }) => ({ file, name, asked, matching, by })),
          drawings: drawings.map(({ file, name, said, by }) => ({ file, name, said, by })),
          attachments: attachments.map(({ file, name }) => ({ file, name })),
        },
        "PUT",
      );
    },
    onSuccess: put,
    onError: (error, { undo = false }) => {
      if (!undo) before.current.pop();
      // Somebody else was first: what stands there now is shown.
      if (error instanceof ApiError && error.status === 409) void client.invalidateQueries({ queryKey: key });
    },
    onSettled: () => setUndoes(before.current.length),
  });
  const add = useMutation({
    scope: { id: `arrival ${id}` },
    mutationFn: async (files: File[]) => {
      const now = client.getQueryData<Arrival>(key)!;
      before.current.push(saidOf(now));
      for (const file of files) put(await addFile(id, file));
    },
    onSettled: () => setUndoes(before.current.length),
  });
  const undo = (): void => {
    const last = before.current.pop();
    setUndoes(before.current.length);
    if (last) change.mutate({ to: () => last, undo: true });
  };
  return { ...query, change, add, undo, undoes };
}

/** A table as it stands, and as it would be read: of the arrival as it is now. */
export const useTableLook = (arrival: Arrival, table: number) =>
  useQuery({
    queryKey: ["arrival table", arrival.id, table, JSON.stringify(arrival.tables[table - 1])],
    queryFn: ({ signal }) => call<TableLook>(`${path(arrival.id)}/tables/${table}`, { signal }),
    enabled: table >= 1 && table <= arrival.tables.length,
    staleTime: Infinity,
    placeholderData: (last, query) =>
      query?.queryKey[1] === arrival.id && query.queryKey[2] === table ? last : undefined,
  });

/** A drawing, and what it is taken for, with the tables as they are now. */
export const useDrawingLook = (arrival: Arrival, drawing: number) =>
  useQuery({
    queryKey: ["arrival drawing", arrival.id, drawing, JSON.stringify([arrival.tables, arrival.drawings])],
    queryFn: ({ signal }) => call<DrawingLook>(`${path(arrival.id)}/drawings/${drawing}`, { signal }),
    enabled: drawing >= 1 && drawing <= arrival.drawings.length,
    staleTime: Infinity,
    placeholderData: (last, query) =>
      query?.queryKey[1] === arrival.id && query.queryKey[2] === drawing ? last : undefined,
  });

/** Whether anything of an arrival is known. */
export const isKnown = ({ tables, drawings }: Pick<Arrival, "tables" | "drawings">): boolean =>
  tables.some((t) => t.matching) || drawings.some((d) => d.said.views.length > 0);

/** What the arrival would become as it is now. */
export const useArrivalOutlook = ({ id, version, tables, drawings }: Arrival) =>
  useQuery({
    queryKey: ["arrival outlook", id, version],
    queryFn: ({ signal }) => call<ArrivalOutlook>(`${path(id)}/outlook`, { signal }),
    enabled: isKnown({ tables, drawings }),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Makes the job, or the revision. */
export function useTake(id: string) {
  const client = useQueryClient();
  const { name } = useSettings();
  return useMutation({
    mutationFn: (version: number) =>
      call<ImportReply>(`${path(id)}/take${askedBy(name, { version: String(version) })}`, { method: "POST" }),
    onSuccess: () => client.invalidateQueries(),
  });
}

export function useDeleteArrival() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: dropArrival,
    onSettled: () => client.invalidateQueries({ queryKey: ["arrivals"] }),
  });
}

const MATCHINGS = ["matchings"];

/** Kept matchings, and keeping one. */
export function useMatchings() {
  const client = useQueryClient();
  const { name: who } = useSettings();
  const { data } = useQuery({
    queryKey: MATCHINGS,
    queryFn: ({ signal }) => call<MatchingList>("/matchings", { signal }).then((r) => r.matchings),
  });
  const keep = useMutation({
    mutationFn: ({ name, ...kept }: KeptMatching) =>
      send<MatchingList>(`/matchings/${encodeURIComponent(name)}${askedBy(who)}`, kept, "PUT"),
    onSuccess: ({ matchings }) => client.setQueryData(MATCHINGS, matchings),
  });
  const drop = useMutation({
    mutationFn: (name: string) =>
      call<void>(`/matchings/${encodeURIComponent(name)}${askedBy(who)}`, { method: "DELETE" }),
    onSettled: () => client.invalidateQueries({ queryKey: MATCHINGS }),
  });
  return { matchings: data, keep, drop };
}

/** The files that revisions of a job were made of. */
export const useSources = (job: string) =>
  useQuery({
    queryKey: ["sources", job],
    queryFn: ({ signal }) =>
      call<{ sources: SourceList[] }>(`${jobPath(job)}/sources`, { signal }).then((r) => r.sources),
  });
