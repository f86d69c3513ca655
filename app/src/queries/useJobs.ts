import type { ImportOutlook, ImportReply, JobDetail, JobList } from "@gray-bench/contract/jobs";
import type { Effect, ProgressEvent } from "@gray-bench/contract/results";
import type { ShopReply } from "@gray-bench/contract/shop";
import { coloursOf, type Colours } from "@gray-bench/core/wiring/landings";
import type { Design } from "@gray-bench/core/design/model";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { StageName } from "@gray-bench/core/stage-names";
import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useLive, type Hearing } from "../events/live";
import { askedBy, call, jobPath } from "../kit/api";
import { useSettings } from "../kit/settings";

const PAGE = 50;

/** Jobs page by page, the one due first at the top; those that fit a text, or those with an older shop. */
export function useJobs(q = "", older = false) {
  const query = useInfiniteQuery({
    queryKey: ["jobs", q, older],
    queryFn: ({ pageParam, signal }) =>
      call<JobList>(
        `/jobs?${new URLSearchParams({ from: String(pageParam), most: String(PAGE), ...(q ? { q } : {}), ...(older ? { older: "true" } : {}) }).toString()}`,
        { signal },
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const loaded = pages.reduce((sum, p) => sum + p.jobs.length, 0);
      return last.jobs.length > 0 && loaded < last.total ? loaded : undefined;
    },
    placeholderData: keepPreviousData,
    // A job just imported is still being computed, or waits for its turn.
    refetchInterval: (s) => {
      const runs = new Set(s.state.data?.pages.flatMap((p) => p.jobs.map((j) => j.run)));
      return runs.has("running") ? 1000 : runs.has("waiting") ? 5000 : false;
    },
  });
  const { data } = query;
  // A job that comes due earlier while the list is read is in two pages.
  const jobs = useMemo(
    () => data && [...new Map(data.pages.flatMap((p) => p.jobs).map((j) => [j.code, j])).values()],
    [data],
  );
  return { ...query, jobs, total: data?.pages[data.pages.length - 1]?.total ?? 0 };
}

export const useJob = (job: string) =>
  useQuery({
    queryKey: ["job", job],
    queryFn: () => call<JobDetail>(jobPath(job)),
    // Its turn comes when others have ended.
    refetchInterval: (s) => (s.state.data?.run === "waiting" ? 2000 : false),
  });

/** After an edit the old numbers of the same job stay on the screen until the new ones are there. */
export const ofBefore =
  (job: string) =>
  <T>(before: T | undefined, query: { queryKey: readonly unknown[] } | undefined): T | undefined =>
    query?.queryKey[1] === job ? before : undefined;

/**
 * The result of a stage, for the design and the shop the job has now. A result is known by what it was computed
 * from: what an edit leaves alone is not fetched again, and what is taken back is there at once.
 */
export function useStage<T>(job: string, stage: StageName) {
  const { data } = useJob(job);
  const known = data?.keys?.[stage];
  return useQuery({
    queryKey: ["stage", job, known ?? data?.key, stage],
    queryFn: () => call<T>(`${jobPath(job)}/stages/${stage}`),
    // While it is computed its key is not known: what stands there may be the very result.
    enabled: known !== undefined || (data !== undefined && data.run !== "running"),
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

/** Results of some stages of a job, as far as they are there. */
export function useStages(job: string, stages: readonly StageName[]): Partial<Record<StageName, unknown>> {
  const { data } = useQuery({
    queryKey: ["job", job],
    queryFn: () => call<JobDetail>(jobPath(job)),
    enabled: job !== "",
  });
  const results = useQueries({
    queries: stages.map((stage) => ({
      queryKey: ["stage", job, data?.keys?.[stage], stage],
      queryFn: () => call<unknown>(`${jobPath(job)}/stages/${stage}`),
      enabled: data?.keys?.[stage] !== undefined,
      staleTime: Infinity,
    })),
  });
  return Object.fromEntries(stages.map((stage, i) => [stage, results[i]?.data]));
}

export function useOpenPoints(job: string) {
  const { data } = useJob(job);
  const key = data?.key;
  return useQuery({
    queryKey: ["open", job, key],
    queryFn: () => call<{ open: OpenPoint[] }>(`${jobPath(job)}/open-points`).then((r) => r.open),
    enabled: data !== undefined && data.run !== "running",
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

/** A file on its way in, and how it is given up. */
export interface Sent {
  file: File;
  signal: AbortSignal;
}

const sendFile = async <T>(path: string, { file, signal }: Sent): Promise<T> =>
  call<T>(path, {
    method: "POST",
    signal,
    headers: { "content-type": "application/json" },
    body: await file.arrayBuffer(),
  });

/** What a design file would do; stores nothing. */
export const useImportOutlook = () =>
  useMutation({ mutationFn: (sent: Sent) => sendFile<ImportOutlook>("/jobs/outlook", sent) });

export function useImport() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (sent: Sent) => sendFile<ImportReply>("/jobs", sent),
    onSuccess: () => client.invalidateQueries(),
  });
}

export function useDelete() {
  const client = useQueryClient();
  const { name } = useSettings();
  return useMutation({
    mutationFn: ({ job, anyway = false }: { job: string; anyway?: boolean }) =>
      call<void>(`${jobPath(job)}${askedBy(name, anyway ? { anyway: "true" } : {})}`, { method: "DELETE" }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

export function useRunControl(job: string) {
  const client = useQueryClient();
  const done = () => client.invalidateQueries({ queryKey: ["job", job] });
  const start = useMutation({
    mutationFn: () => call<unknown>(`${jobPath(job)}/run`, { method: "POST" }),
    onSettled: done,
  });
  const cancel = useMutation({
    mutationFn: () => call<unknown>(`${jobPath(job)}/run`, { method: "DELETE" }),
    onSettled: done,
  });
  return { start: () => start.mutate(), cancel: () => cancel.mutate() };
}

/** What a computation has changed against an earlier one, by the keys of both. */
export const askEffect = (job: string, from: string | null, to: string | undefined) => ({
  queryKey: ["effect", job, from, to],
  queryFn: () => call<Effect>(`${jobPath(job)}/effect?since=${from!}&to=${to!}`),
  staleTime: Infinity,
  retry: false as const,
});

/**
 * Follows a job that somebody looks at: what others change is read anew at once, a computation is followed until it ends, and when it has
 * the job is read anew, and beside it what has changed. Heard on the live line of the job; while there is none, a computation on a line
 * of its own.
 */
export function useProgress(job: string, { run, key }: Partial<Pick<JobDetail, "run" | "key">>): ProgressEvent | null {
  const [event, setEvent] = useState<(ProgressEvent & { key?: string }) | null>(null);
  const client = useQueryClient();
  const running = run === "running";
  /** The computation that was on the screen last. */
  const shown = useRef<{ job: string; key: string } | null>(null);
  const known = useRef(key);
  useEffect(() => {
    known.current = key;
    if (run === "done" && key !== undefined) shown.current = { job, key };
  }, [job, run, key]);
  const hears = useMemo(
    (): Hearing => ({
      progress: setEvent,
      changed({ key: now }) {
        // Who is changing it here reads it anew when that is done.
        if (now === known.current || client.isMutating({ mutationKey: changeKey(job) }) > 0) return;
        // The log stays as it was read: what others did is told with the next edit that is laid on top of it.
        for (const queryKey of [["job", job], ["jobs"]]) void client.invalidateQueries({ queryKey });
      },
    }),
    [client, job],
  );
  const live = useLive(job, hears);
  useEffect(() => {
    // What came before the line stood was told to nobody.
    if (live) void client.invalidateQueries({ queryKey: ["job", job] }, { cancelRefetch: false });
  }, [live, client, job]);
  useEffect(() => {
    if (!running || live) return;
    const source = new EventSource(`/api${jobPath(job)}/run`);
    source.addEventListener("progress", (e) => {
      const next = JSON.parse((e as MessageEvent<string>).data) as ProgressEvent;
      setEvent({ ...next, ...(key === undefined ? {} : { key }) });
      if (next.run !== "running") source.close();
    });
    return () => source.close();
  }, [job, running, live, key]);
  const mine = event?.key === key ? event : null;
  // Heard before the job itself said that it is being computed, an end counts all the same.
  const ended = running && mine !== null && mine.run !== "running" ? mine.run : null;
  useEffect(() => {
    if (ended === null) return;
    const from = shown.current;
    if (ended === "done" && from?.job === job && from.key !== key)
      void client.prefetchQuery(askEffect(job, from.key, key));
    void client.invalidateQueries({ queryKey: ["job", job] });
    void client.invalidateQueries({ queryKey: ["jobs"] });
    // What was asked for while there was no result is asked for again; what is there is known by its key.
    for (const name of ["stage", "open"])
      void client.invalidateQueries({ queryKey: [name, job], predicate: (q) => q.state.status !== "success" });
  }, [ended, job, key, client]);
  return running ? mine : null;
}

/** Under this key whoever changes a job on this device is known. */
export const changeKey = (job: string) => ["change", job] as const;

/** The design itself, with its edits, for what no stage has worked on. */
export function useDesign(job: string, enabled = true) {
  const hash = useJob(job).data?.designHash;
  return useQuery({
    queryKey: ["design", job, hash],
    queryFn: () => call<Design>(`${jobPath(job)}/design`),
    enabled: enabled && hash !== undefined,
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

/** The shop a job is computed with. */
export function useJobShop(job: string) {
  const hash = useJob(job).data?.shopHash;
  return useQuery({
    queryKey: ["job shop", job, hash],
    queryFn: () => call<ShopReply>(`${jobPath(job)}/shop`),
    enabled: hash !== undefined,
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

/** Colours of the wires of a job by their ids; empty until design and shop are there. */
export function useColours(job: string): Colours {
  const design = useDesign(job).data;
  const shop = useJobShop(job).data?.shop;
  return useMemo(() => (design && shop ? coloursOf(design, shop.rules.classes) : new Map()), [design, shop]);
}
