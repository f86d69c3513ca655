import type { JobSummary } from "@gray-bench/contract/jobs";
import { STAGE_TITLES } from "@gray-bench/core/stage-names";
import { Link, router, type Href } from "expo-router";
import { useDeferredValue, useState } from "react";
import { ScrollView, View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { Field } from "../kit/Field";
import { SmallRule } from "../kit/Rule";
import { Counts } from "../kit/Severity";
import { daysUntil, formatCount, formatDate, formatMoment } from "../kit/format";
import { useArrivals } from "../queries/useArrival";
import { jobHref } from "../kit/links";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { ImportTray } from "./ImportTray";
import { Sample } from "./Sample";
import { useJobs } from "../queries/useJobs";

/** Fewer jobs than this are seen at a glance. */
const MANY = 8;

/** All jobs, or those that fit a text; a design file is opened here. */
export function JobsView({ q = "" }: { q?: string }) {
  const [text, setText] = useState(q);
  const wanted = useDeferredValue(text.trim());
  const { jobs, total, error, isLoading, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useJobs(wanted);
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-250 gap-3 p-3 md:p-6">
      <View className="flex-row flex-wrap items-center justify-between gap-2">
        <Title>Jobs</Title>
        <View className="shrink flex-row flex-wrap gap-x-4">
          <LinkLine href="/stock" label="Stock: what all jobs need" testID="to-stock" />
          <LinkLine href="/shop" label="The shop: rules for every job" testID="to-shop" />
          <LinkLine href="/library" label="Library: what is known of parts" testID="to-library" />
          <LinkLine href="/record" label="Record: what was done" testID="to-record" />
        </View>
      </View>
      <ImportTray />
      <Arrivals />
      {isLoading ? <Loading text="Reading the jobs" /> : null}
      {error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {wanted !== "" || text !== "" || total > MANY ? (
        <Field
          label="Find a job by code, title or customer"
          value={text}
          change={(next) => {
            setText(next);
            router.setParams({ q: next.trim() || undefined });
          }}
          hint="LARK-26*  or  opera"
          testID="jobs-find"
        />
      ) : null}
      <Small role="status" className={wanted === "" ? "hidden" : ""}>
        {wanted !== "" && jobs ? `${formatCount(total)} ${total === 1 ? "job fits" : "jobs fit"}` : ""}
      </Small>
      {jobs?.length === 0 && wanted !== "" ? (
        <Empty title="No such job" text={`No code, title or customer fits "${wanted}".`} />
      ) : null}
      {jobs?.length === 0 && wanted === "" ? (
        <>
          <Empty
            title="No job yet"
            text="Open what came from the design office: its tables of devices and connections (CSV or XLSX), or a design file that ends in .bench.json."
          />
          <Sample />
        </>
      ) : null}
      <View role="list" className="gap-3">
        {jobs?.map((j) => (
          <View role="listitem" key={j.code}>
            <JobCard job={j} />
          </View>
        ))}
      </View>
      {jobs && total > jobs.length ? (
        <View className="flex-row flex-wrap items-center gap-3">
          <Button
            label={isFetchingNextPage ? "Reading …" : "Show more"}
            disabled={!hasNextPage || isFetchingNextPage}
            onPress={() => void fetchNextPage()}
            testID="jobs-more"
          />
          <Small testID="jobs-count">
            {jobs.length} of {formatCount(total)} jobs
          </Small>
        </View>
      ) : null}
    </ScrollView>
  );
}

const MOST_ARRIVALS = 5;

/** Files that have come in and are not a job yet. */
function Arrivals() {
  const { data } = useArrivals();
  const [all, setAll] = useState(false);
  if (!data || data.length === 0) return null;
  return (
    <View role="list" aria-label="Files that are not a job yet" className="gap-2" testID="arrivals">
      {data.slice(0, all ? data.length : MOST_ARRIVALS).map((a) => (
        <View key={a.id} role="listitem">
          <Link href={`/arrivals/${a.id}` as Href} testID={`arrival-${a.id}`} className="block">
            <Tray className="w-full p-3">
              <Body className="font-medium text-harbour underline">
                {a.of === null
                  ? `Not a job yet: ${a.job.code === "" ? "files" : a.job.code}`
                  : `Not taken over yet: a new revision of ${a.of}`}
              </Body>
              <Small>
                {[...new Set([...a.tables, ...a.drawings].map((f) => f.name))].join(", ") || "no file yet"} · changed{" "}
                {formatMoment(a.at)}
              </Small>
            </Tray>
          </Link>
        </View>
      ))}
      {data.length > MOST_ARRIVALS && !all ? (
        <View className="items-start">
          <Button label={`Show all ${data.length}`} onPress={() => setAll(true)} testID="arrivals-all" />
        </View>
      ) : null}
    </View>
  );
}

const RUN_WORDS: Record<JobSummary["run"], string> = {
  waiting: "waits to be computed",
  running: "being computed",
  done: "computed",
  failed: "computation failed",
  cancelled: "computation cancelled",
};

/** Where the work on a job goes on, by its stages: the first with a stop, else the first with anything open. */
function nextText({ run, shopNewer, stages }: Pick<JobSummary, "run" | "shopNewer" | "stages">): string {
  if (run === "failed" || run === "cancelled") return "next: compute it again";
  if (run !== "done") return "next: wait for its numbers";
  const at = stages.find((s) => s.open.stop > 0) ?? stages.find((s) => s.open.check + s.open.note > 0);
  if (!at) return shopNewer ? "next: take over the newer shop" : "everything is decided";
  const { stop, check, note } = at.open;
  const [n, what] = stop > 0 ? [stop, "stop"] : check > 0 ? [check, "check"] : [note, "note"];
  return `next: ${STAGE_TITLES[at.stage]}, ${n} ${what}${n === 1 ? "" : "s"}`;
}

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
          <View className="gap-1 md:w-65">
            <Due due={job.due} />
            {job.run === "done" ? <Counts open={job.open} /> : <Small>{RUN_WORDS[job.run]}</Small>}
            <SmallRule stages={job.stages} />
            <Small testID="next">{nextText(job)}</Small>
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
