import type { JobDetail } from "@gray-bench/contract/jobs";
import type { ProgressEvent } from "@gray-bench/contract/results";
import { useLocalSearchParams } from "expo-router";
import type { ReactNode } from "react";
import { Text, View } from "react-native";
import { LinkLine } from "../kit/Button";
import { Shell } from "../shell/Shell";
import { Failed, Loading } from "../kit/States";
import { useJob, useProgress } from "../queries/useJobs";
import { useComputing } from "../busy/computing";

/** The frame of every view of a job: reads the job, shows head line and Rule, or says why it cannot. */
export function JobPage({
  view,
  heading,
  children,
}: {
  view: string;
  heading?: boolean;
  children: (job: JobDetail, progress: ProgressEvent | null) => ReactNode;
}) {
  const { job: code } = useLocalSearchParams<{ job: string }>();
  const { data, error, refetch } = useJob(code);
  const progress = useProgress(code, data ?? {});
  useComputing(data, progress);
  return (
    <Shell job={data} title={view === "" ? code : `${view}, ${code}`} heading={heading || !data}>
      {data?.run === "running" && data.figures ? <Stale /> : null}
      {data ? (
        children(data, progress)
      ) : error ? (
        <Failed error={error} retry={() => void refetch()} />
      ) : (
        <Loading text={`Reading job ${code}`} />
      )}
      {!data && error ? <LinkLine href="/" label="All jobs" /> : null}
    </Shell>
  );
}

/** Lies over the view while its numbers are those of before: nothing moves when it comes and goes. */
function Stale() {
  return (
    <View
      testID="stale"
      className="absolute left-0 right-0 top-0 z-10 items-center border-t-2 border-dashed border-ochre"
      style={{ pointerEvents: "none" }}
    >
      <Text className="border border-ochre bg-paper px-2 font-medium text-small text-ochre">
        stale: numbers from before, being computed anew
      </Text>
    </View>
  );
}

interface Result<T> {
  data: T | undefined;
  error: Error | null;
  refetch(): unknown;
}

/** Several results as one: there when all are, failed when one has. */
export function joined<T extends Record<string, unknown>>(parts: { [K in keyof T]: Result<T[K]> }): Result<T> {
  const all = Object.entries(parts) as [string, Result<unknown>][];
  const ready = all.every(([, r]) => r.data !== undefined);
  return {
    data: ready ? (Object.fromEntries(all.map(([name, r]) => [name, r.data])) as T) : undefined,
    error: all.find(([, r]) => r.data === undefined && r.error)?.[1].error ?? null,
    refetch: () => all.forEach(([, r]) => r.data === undefined && r.refetch()),
  };
}

/** Shows a result, or that it is being computed, or why there is none. */
export function WithResult<T>({
  result,
  what,
  children,
}: {
  result: Result<T>;
  what: string;
  children: (data: T) => ReactNode;
}) {
  if (result.data !== undefined) return <>{children(result.data)}</>;
  return result.error ? (
    <Failed error={result.error} retry={() => void result.refetch()} />
  ) : (
    <Loading text={`Computing ${what}`} />
  );
}
