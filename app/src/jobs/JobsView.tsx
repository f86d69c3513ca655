import type { JobSummary } from "@gray-bench/contract/api";
import { Link } from "expo-router";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import { LinkLine } from "../kit/Button";
import { Counts } from "../kit/Severity";
import { daysUntil, formatDate } from "../kit/format";
import { jobHref } from "../kit/links";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { ImportTray } from "./ImportTray";
import { useJobs } from "./useJobs";

/** All jobs; a design file is opened here. */
export function JobsView() {
  const { data, error, isLoading, refetch } = useJobs();
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-[1000px] gap-3 p-3 md:p-6">
      <View className="flex-row flex-wrap items-center justify-between gap-2">
        <Title>Jobs</Title>
        <LinkLine href="/shop" label="The shop: rules for every job" testID="to-shop" />
      </View>
      <ImportTray />
      {isLoading ? <Loading text="Reading the jobs" /> : null}
      {error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {data?.length === 0 ? (
        <Empty
          title="No job yet"
          text="Open the design file of a job, as it comes from the design office: a file that ends in .bench.json."
        />
      ) : null}
      <View role="list" className="gap-3">
        {data?.map((j) => (
          <View role="listitem" key={j.code}>
            <JobCard job={j} />
          </View>
        ))}
      </View>
    </ScrollView>
  );
}

const RUN_WORDS: Record<JobSummary["run"], string> = {
  waiting: "not computed yet",
  running: "being computed",
  done: "computed",
  failed: "computation failed",
  cancelled: "computation cancelled",
};

function JobCard({ job }: { job: JobSummary }) {
  const f = job.figures;
  return (
    <Link href={jobHref(job.code)} testID={`job-${job.code}`} className="block">
      <Tray className="w-full p-3">
        <View className="gap-1 md:flex-row md:items-center">
          <View className="flex-1 gap-1">
            <View className="flex-row flex-wrap items-baseline gap-2">
              <Mono className="text-harbour underline">{job.code}</Mono>
              <Small>rev {job.revision}</Small>
            </View>
            <Body className="font-medium">{job.title}</Body>
            <Small>
              {job.customer ?? "no customer named"}
              {["", ...(f ?? []).flatMap((x) => x.short ?? [])].join(" · ")}
            </Small>
          </View>
          <View className="gap-1 md:w-[260px]">
            <Due due={job.due} />
            {job.run === "done" ? <Counts open={job.open} /> : <Small>{RUN_WORDS[job.run]}</Small>}
          </View>
        </View>
      </Tray>
    </Link>
  );
}

function Due({ due }: { due: string | null }) {
  const [today] = useState(() => new Date());
  if (!due) return <Small>no due date</Small>;
  const days = daysUntil(due, today);
  const late = days < 0;
  return (
    <Body className={late ? "text-brick" : ""}>
      due {formatDate(due)}, {late ? `${-days} days late` : days === 0 ? "today" : `in ${days} days`}
    </Body>
  );
}
