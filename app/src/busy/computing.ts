import type { JobDetail } from "@gray-bench/contract/jobs";
import type { ProgressEvent } from "@gray-bench/contract/results";
import { STAGE_TITLES } from "@gray-bench/core/stage-names";
import { useQueries } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { ApiError, call, jobPath } from "../kit/api";
import { jobHref } from "../kit/links";
import { end, forget, tell, useWork } from "./work";

/** A job that is computed while nobody looks at it is asked for so often, ms. */
const ASK_MS = 2_000;
/** What is done sooner is not told: every edit computes a little. ms */
const LONG_MS = 1_000;
const PREFIX = "computing ";
const idOf = (job: string): string => PREFIX + job;

const stop = (job: string): void => {
  call<unknown>(`${jobPath(job)}/run`, { method: "DELETE" }).catch(() => undefined);
};

/** Tells of the computation of the job that is on the screen, once it takes its time. What ends while it is looked at needs no telling. */
export function useComputing(job: JobDetail | undefined, progress: ProgressEvent | null): void {
  const [code, isRunning] = [job?.code, job?.run === "running"];
  const [share, stage] = [progress?.share ?? null, progress?.stage ?? null];
  const [isLong, setLong] = useState(false);
  const telling = useRef({ code, isRunning, share, stage });
  useEffect(() => {
    telling.current = { code, isRunning, share, stage };
    if (code !== undefined && isRunning && isLong) tellOf(code, share, stage);
  }, [code, isRunning, isLong, share, stage]);
  useEffect(() => {
    if (code === undefined) return;
    if (!isRunning) return forget(idOf(code));
    const timer = setTimeout(() => setLong(true), LONG_MS);
    return () => {
      clearTimeout(timer);
      setLong(false);
    };
  }, [code, isRunning]);
  useEffect(
    () => () => {
      // Somebody goes elsewhere while it runs: it is followed to its end from there.
      const left = telling.current;
      if (left.code !== undefined && left.isRunning) tellOf(left.code, left.share, left.stage);
    },
    [],
  );
}

function tellOf(code: string, share: number | null, stage: ProgressEvent["stage"]): void {
  tell(idOf(code), {
    what: `computing ${code}${stage ? `, ${STAGE_TITLES[stage]}` : ""}`,
    share,
    href: jobHref(code),
    cancel: () => stop(code),
  });
}

const ENDS: Readonly<Record<string, string>> = {
  done: "It is computed.",
  failed: "The computation failed.",
  cancelled: "The computation was cancelled.",
};

/** Follows computations of jobs that are not on the screen to their ends; while the server is out of reach it is asked again. */
export function useFollowed(shown: string | undefined): void {
  const codes = useWork().flatMap((w) =>
    w.state === "running" && w.id.startsWith(PREFIX) && w.id !== idOf(shown ?? "") ? [w.id.slice(PREFIX.length)] : [],
  );
  const jobs = useQueries({
    queries: codes.map((code) => ({
      queryKey: ["followed", code],
      queryFn: () => call<JobDetail>(jobPath(code)),
      refetchInterval: ASK_MS,
      gcTime: 0,
    })),
  });
  const runs = jobs
    .map(
      (j, i) =>
        `${codes[i]!}\n${j.error instanceof ApiError && j.error.status === 404 ? "gone" : (j.data?.run ?? "running")}`,
    )
    .join("\n\n");
  useEffect(() => {
    for (const line of runs.split("\n\n")) {
      const [code, run] = line.split("\n") as [string, string?];
      if (run === "gone") forget(idOf(code));
      const told = run === undefined ? undefined : ENDS[run];
      if (told !== undefined) end(idOf(code), run as "done" | "failed" | "cancelled", told);
    }
  }, [runs]);
}
