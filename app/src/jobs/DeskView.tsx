import type { JobDetail, JobFigure } from "@gray-bench/contract/jobs";
import type { ProgressEvent } from "@gray-bench/contract/results";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { STAGE_TITLES } from "@gray-bench/core/stage-names";
import { Link, router } from "expo-router";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import FileDown from "lucide-react-native/icons/file-down";
import { ApiError, jobPath } from "../kit/api";
import { Button, LinkLine } from "../kit/Button";
import { figureText, formatDate, keepTags } from "../kit/format";
import { jobHref, pointHref } from "../kit/links";
import { Counts, SeveritySign } from "../kit/Severity";
import { useSettings } from "../kit/settings";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { TakeLibrary } from "../library/TakeLibrary";
import { TakeOver } from "../shop/TakeOver";
import { useDelete, useOpenPoints, useRunControl } from "../queries/useJobs";

const MOST_ON_DESK = 5;

/** The job at a glance: figures, what needs attention, files to download. */
export function DeskView({ job, progress }: { job: JobDetail; progress: ProgressEvent | null }) {
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-[1000px] gap-3 p-3 md:p-6">
      <View className="gap-1">
        <Title>{job.title}</Title>
        <Small>
          {job.customer ?? "no customer named"} · revision {job.revision} ·{" "}
          {job.due ? `due ${formatDate(job.due)}` : "no due date"}
        </Small>
        <View className="flex-row flex-wrap gap-x-4">
          <LinkLine href={jobHref(job.code, "rules")} label="Rules of this job" testID="to-rules" />
          <LinkLine href={jobHref(job.code, "attachments")} label="Schematic and attachments" testID="to-attachments" />
        </View>
        {job.options.length > 0 ? <Small>{job.options.map((o) => `${o.text}: ${o.chosen}`).join(" · ")}</Small> : null}
      </View>
      <Running job={job} progress={progress} />
      {job.shopNewer ? <TakeOver jobs={[job]} /> : null}
      {job.libraryNewer && job.libraryHash !== "" ? <TakeLibrary job={job} /> : null}
      {job.figures ? <Figures job={job} figures={job.figures} /> : null}
      <View className="gap-3 md:flex-row">
        <View className="md:flex-1">
          <Attention job={job} />
        </View>
        <View className="md:flex-1">
          <Files job={job} />
        </View>
      </View>
      <Remove job={job} />
    </ScrollView>
  );
}

/** Deletes the job, after a second tap that says what goes. */
function Remove({ job }: { job: JobDetail }) {
  const [asked, setAsked] = useState(false);
  const remove = useDelete();
  if (!asked) {
    return (
      <View className="flex-row">
        <Button label="Delete this job" onPress={() => setAsked(true)} testID="delete" />
      </View>
    );
  }
  // Said once by the server, and known from then on.
  const atMachine = remove.error instanceof ApiError && remove.error.body.code === "job.at-machine";
  const revisions = job.revisions.length === 1 ? "its one revision" : `all ${job.revisions.length} revisions`;
  return (
    <Tray className="gap-2 p-3" testID="delete-asked">
      <Body>
        Delete {job.code} with {revisions}? The design files it came from are not touched.
      </Body>
      {remove.error ? <Failed error={remove.error} /> : null}
      <View className="flex-row gap-2">
        <Button
          label={atMachine ? "Delete all the same" : "Delete"}
          onPress={() => remove.mutate({ job: job.code, anyway: atMachine }, { onSuccess: () => router.replace("/") })}
          testID="delete-sure"
        />
        <Button label="Keep" onPress={() => setAsked(false)} testID="delete-not" />
      </View>
    </Tray>
  );
}

/** Progress of a computation, with a way to stop it; and what to do when there is no result. */
function Running({ job, progress }: { job: JobDetail; progress: ProgressEvent | null }) {
  const { start, cancel } = useRunControl(job.code);
  if (job.run === "done") return null;
  if (job.run === "running") {
    const percent = Math.round((progress?.share ?? 0) * 100);
    return (
      <Tray className="gap-2 p-3" testID="running">
        <Body>
          Computing {progress?.stage ? STAGE_TITLES[progress.stage] : ""} {percent} %
        </Body>
        <View
          className="h-[8px] bg-line"
          role="progressbar"
          aria-label="Progress"
          aria-valuenow={percent}
          aria-valuemin={0}
          aria-valuemax={100}
        >
          <View className="h-full bg-verdigris" style={{ width: `${percent}%` }} />
        </View>
        <View className="flex-row">
          <Button label="Cancel" onPress={cancel} testID="cancel-run" />
        </View>
      </Tray>
    );
  }
  return (
    <Tray className="gap-2 p-3" testID="not-computed">
      <Body>
        {job.run === "failed"
          ? "The computation failed."
          : job.run === "cancelled"
            ? "The computation was cancelled."
            : "This design has not been computed yet: it waits for its turn."}
      </Body>
      <View className="flex-row">
        <Button kind="solid" label="Compute" onPress={start} testID="start-run" />
      </View>
    </Tray>
  );
}

/** What each stage states of the job in a few numbers, each leading to where it is seen. */
function Figures({ job, figures }: { job: JobDetail; figures: readonly JobFigure[] }) {
  const settings = useSettings();
  return (
    <View role="list" className="flex-row flex-wrap gap-2" testID="figures">
      {figures.map((f) => (
        <View key={`${f.stage} ${f.id}`} role="listitem" className="min-w-[150px] flex-1">
          <Link href={jobHref(job.code, f.stage, f.query)} testID={`figure-${f.id}`} className="block">
            <Tray className="w-full p-3">
              <Body className="font-strong text-[20px] leading-[26px]">{figureText(f, settings)}</Body>
              <Small className="text-harbour underline">{f.label}</Small>
            </Tray>
          </Link>
        </View>
      ))}
    </View>
  );
}

function Attention({ job }: { job: JobDetail }) {
  const { data, error, isLoading, refetch } = useOpenPoints(job.code);
  return (
    <Tray className="gap-1 p-3">
      <Head>Needs attention</Head>
      <Counts open={job.open} />
      {isLoading ? <Loading text="Reading open points" /> : null}
      {error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {data?.length === 0 ? (
        <Empty title="Nothing open" text="The design is complete as far as the stages built today can tell." />
      ) : null}
      <View role="list">
        {data?.slice(0, MOST_ON_DESK).map((p) => (
          <PointLine key={p.id} job={job.code} point={p} />
        ))}
      </View>
      {data && data.length > 0 ? (
        <LinkLine href={jobHref(job.code, "open-points")} label={`All ${data.length} open points`} testID="all-open" />
      ) : null}
    </Tray>
  );
}

function PointLine({ job, point }: { job: string; point: OpenPoint }) {
  return (
    <View role="listitem">
      <Link href={pointHref(job, point)} className="block border-t border-line">
        <View className="min-h-[44px] w-full flex-row items-center gap-2 py-2">
          <SeveritySign severity={point.severity} />
          <Body className="flex-1">
            <Small className="font-medium">{point.severity}: </Small>
            {keepTags(point.text)}
          </Body>
        </View>
      </Link>
    </View>
  );
}

function Files({ job }: { job: JobDetail }) {
  const { tokens } = useSettings();
  return (
    <Tray className="gap-1 p-3">
      <Head>Files to download</Head>
      <View role="list">
        {job.files.map(({ name, text }) => (
          <View key={name} role="listitem" className="border-t border-line">
            <a
              href={`/api${jobPath(job.code)}/files/${name}`}
              download
              data-testid={`file-${name}`}
              style={{ textDecoration: "none" }}
            >
              <View className="min-h-[48px] flex-row items-center gap-2 py-1">
                <FileDown size={20} color={tokens.harbour} />
                <View className="flex-1">
                  <Mono className="text-harbour underline">{name}</Mono>
                  <Small>{text}</Small>
                </View>
              </View>
            </a>
          </View>
        ))}
      </View>
    </Tray>
  );
}
