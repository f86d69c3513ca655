import type { JobDetail } from "@gray-bench/contract/jobs";
import type { ProgressEvent } from "@gray-bench/contract/results";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { nextStep } from "@gray-bench/core/next-step";
import { STAGE_TITLES, type StageName } from "@gray-bench/core/stage-names";
import { Link, router } from "expo-router";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import FileDown from "lucide-react-native/icons/file-down";
import { ApiError, jobPath } from "../kit/api";
import { Button, LinkLine } from "../kit/Button";
import { formatDate, keepTags } from "../kit/format";
import { jobHref, pointHref } from "../kit/links";
import { SeveritySign } from "../kit/Severity";
import { useSettings } from "../kit/settings";
import { useWideFrom } from "../kit/useWide";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { TakeLibrary } from "../library/TakeLibrary";
import { TakeOver } from "../shop/TakeOver";
import { groupPoints } from "../open/groups";
import { useDelete, useOpenPoints, useRunControl } from "../queries/useJobs";
import { Cabinets } from "./Cabinets";
import { NextStep } from "./NextStep";
import { Since } from "./Since";
import { changedFigures, useBefore } from "./visits";
import { StageRows } from "./StageRows";

const MOST_ON_DESK = 8;
const DRAWN_FROM_PX = 1200;

/** The job at a glance: how it stands and what comes next, its stages with their numbers, what is open, files to download. */
export function DeskView({ job, progress }: { job: JobDetail; progress: ProgressEvent | null }) {
  const { data: points, error, isLoading, refetch } = useOpenPoints(job.code);
  // The cabinets stand beside the stages where both have room.
  const isLarge = useWideFrom(DRAWN_FROM_PX);
  const before = useBefore(job);
  const were = changedFigures(before, job.figures ?? []);
  return (
    <ScrollView contentContainerClassName={`mx-auto w-full gap-3 p-3 md:p-6 ${isLarge ? "max-w-300" : "max-w-250"}`}>
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
      {points ? <NextStep job={job.code} points={points} /> : null}
      {isLoading && job.run === "done" ? <Loading text="Reading open points" /> : null}
      {error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {job.shopNewer ? <TakeOver jobs={[job]} /> : null}
      {job.libraryNewer && job.libraryHash !== "" ? <TakeLibrary job={job} /> : null}
      <Since job={job} before={before} figures={were.size} />
      <View className={isLarge ? "flex-row items-start gap-6" : ""}>
        <View className={isLarge ? "min-w-0 flex-1" : ""}>
          <StageRows job={job} were={were} />
        </View>
        {isLarge ? <Cabinets job={job} points={points ?? []} /> : null}
      </View>
      <View className="gap-3 md:flex-row">
        <View className="md:flex-1">
          {points ? <Attention job={job.code} points={points} first={nextStep(points).first} /> : null}
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
          className="h-2 bg-line"
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

/** What else is open, by what it is: each line leads to its one point, or to all of them. The first stands above. */
function Attention({ job, points, first }: { job: string; points: readonly OpenPoint[]; first: OpenPoint | null }) {
  const groups = groupPoints(points.filter((p) => !p.accepted && p !== first));
  if (groups.length === 0) return null;
  return (
    <Tray className="gap-1 p-3">
      <Head>What else is open</Head>
      <View role="list">
        {groups.slice(0, MOST_ON_DESK).map((g) => (
          <View key={g.key} role="listitem">
            <Link
              href={g.points.length === 1 ? pointHref(job, g.points[0]!) : jobHref(job, "open-points")}
              className="block border-t border-line"
            >
              <View className="min-h-touch w-full flex-row items-center gap-2 py-2">
                <SeveritySign severity={g.severity} />
                <Body className="flex-1">
                  <Small className="font-medium">{g.severity}: </Small>
                  {g.points.length === 1 ? keepTags(g.points[0]!.text) : `${g.kind} (${g.points.length})`}
                </Body>
                <Small>{STAGE_TITLES[g.stage as StageName]}</Small>
              </View>
            </Link>
          </View>
        ))}
      </View>
      <LinkLine href={jobHref(job, "open-points")} label={`All ${points.length} open points`} testID="all-open" />
    </Tray>
  );
}

function Files({ job }: { job: JobDetail }) {
  const { tokens } = useSettings();
  const [isOpen, setOpen] = useState(false);
  const stages = [...new Set(job.files.map((f) => f.stage))];
  return (
    <Tray className="gap-1 p-3">
      <Head>Files to download</Head>
      <View className="flex-row">
        <Button
          label={isOpen ? "Hide the files" : `${job.files.length} files, by stage`}
          expanded={isOpen}
          onPress={() => setOpen(!isOpen)}
          testID="files-open"
        />
      </View>
      {isOpen
        ? stages.map((stage) => (
            <View key={stage ?? "all"} testID={`files-${stage ?? "all"}`}>
              <Small className="pt-2 font-medium text-graphite">{stage ? STAGE_TITLES[stage] : "All stages"}</Small>
              <View role="list">
                {job.files
                  .filter((f) => f.stage === stage)
                  .map(({ name, text }) => (
                    <View key={name} role="listitem" className="border-t border-line">
                      <a
                        href={`/api${jobPath(job.code)}/files/${name}`}
                        download
                        data-testid={`file-${name}`}
                        style={{ textDecoration: "none" }}
                      >
                        <View className="min-h-glove flex-row items-center gap-2 py-1">
                          <FileDown size={20} color={tokens.harbour} />
                          <View className="min-w-0 flex-1">
                            <Mono className="text-harbour underline">{name}</Mono>
                            <Small>{text}</Small>
                          </View>
                        </View>
                      </a>
                    </View>
                  ))}
              </View>
            </View>
          ))
        : null}
    </Tray>
  );
}
