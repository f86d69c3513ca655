import type { ImportReply, JobDetail, JobSummary, ProgressEvent } from "@gray-bench/contract/api";
import type { Design } from "@gray-bench/core/design/model";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { StageName } from "@gray-bench/core/stage-names";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { call, jobPath } from "../kit/api";

export const useJobs = () =>
  useQuery({
    queryKey: ["jobs"],
    queryFn: () => call<{ jobs: JobSummary[] }>("/jobs").then((r) => r.jobs),
    // A job just imported is still being computed.
    refetchInterval: (q) => (q.state.data?.some((j) => j.run === "running") ? 1000 : false),
  });

export const useJob = (job: string) =>
  useQuery({ queryKey: ["job", job], queryFn: () => call<JobDetail>(jobPath(job)) });

/** After an edit the old numbers of the same job stay on the screen until the new ones are there. */
const ofBefore =
  (job: string) =>
  <T>(before: T | undefined, query: { queryKey: readonly unknown[] } | undefined): T | undefined =>
    query?.queryKey[1] === job ? before : undefined;

/** The result of a stage, for the design the job has now. */
export function useStage<T>(job: string, stage: StageName) {
  const hash = useJob(job).data?.designHash;
  return useQuery({
    queryKey: ["stage", job, hash, stage],
    queryFn: () => call<T>(`${jobPath(job)}/stages/${stage}`),
    enabled: hash !== undefined,
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

export function useOpenPoints(job: string) {
  const hash = useJob(job).data?.designHash;
  return useQuery({
    queryKey: ["open", job, hash],
    queryFn: () => call<{ open: OpenPoint[] }>(`${jobPath(job)}/open-points`).then((r) => r.open),
    enabled: hash !== undefined,
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

export function useImport() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) =>
      call<ImportReply>("/jobs", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: await file.arrayBuffer(),
      }),
    onSuccess: () => client.invalidateQueries(),
  });
}

export function useDelete() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (job: string) => call<void>(jobPath(job), { method: "DELETE" }),
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

/** Follows a running computation; when it ends the job is read anew. */
export function useProgress(job: string, running: boolean): ProgressEvent | null {
  const [event, setEvent] = useState<ProgressEvent | null>(null);
  const client = useQueryClient();
  useEffect(() => {
    if (!running) return;
    const source = new EventSource(`/api${jobPath(job)}/run`);
    source.addEventListener("progress", (e) => {
      const next = JSON.parse((e as MessageEvent<string>).data) as ProgressEvent;
      setEvent(next);
      if (next.run === "running") return;
      source.close();
      void client.invalidateQueries({ queryKey: ["job", job] });
      void client.invalidateQueries({ queryKey: ["jobs"] });
      // What was asked for while there was no result is asked for again.
      void client.invalidateQueries({ queryKey: ["stage", job] });
      void client.invalidateQueries({ queryKey: ["open", job] });
    });
    return () => source.close();
  }, [job, running, client]);
  return running ? event : null;
}

/** The design itself, for the few views that show parts of it no stage has worked on. */
export const useDesign = (job: string, enabled: boolean) =>
  useQuery({
    queryKey: ["design", job],
    queryFn: () => call<Design>(`${jobPath(job)}/design`),
    enabled,
    staleTime: Infinity,
  });
