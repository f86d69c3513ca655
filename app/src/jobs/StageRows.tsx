import type { JobDetail, JobFigure, StageSummary } from "@gray-bench/contract/jobs";
import { STAGE_TITLES } from "@gray-bench/core/stage-names";
import { Link } from "expo-router";
import { View } from "react-native";
import { figureText } from "../kit/format";
import { jobHref } from "../kit/links";
import { Counts } from "../kit/Severity";
import { useSettings } from "../kit/settings";
import { Body, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import type { changedFigures, Seen } from "./visits";

/** On a phone a stage is a line: so many of its figures stand in it. */
const MOST_ON_PHONE = 2;

type Were = ReturnType<typeof changedFigures>;

/** The stages in their order: how each stands, and the numbers it states, each leading to where it is seen. */
export function StageRows({ job, were }: { job: JobDetail; were: Were }) {
  const of = (stage: string): JobFigure[] => (job.figures ?? []).filter((f) => f.stage === stage);
  return (
    <View role="list" testID="figures" className="border-b border-line">
      {job.stages.map((s) => (
        <Row key={s.stage} job={job.code} stage={s} figures={of(s.stage)} were={were} />
      ))}
    </View>
  );
}

function Row({
  job,
  stage,
  figures,
  were,
}: {
  job: string;
  stage: StageSummary;
  figures: readonly JobFigure[];
  were: Were;
}) {
  const wide = useWide();
  const title = STAGE_TITLES[stage.stage];
  const built = stage.state !== "not started";
  const head = (
    <View className={wide ? "min-h-13 w-54 justify-center gap-1 py-2" : "flex-row flex-wrap items-center gap-x-3"}>
      <Body className={`font-strong ${built ? "text-harbour underline" : "text-slate"}`}>{title}</Body>
      {stage.state === "not computed" || !built ? <Small>{stage.state}</Small> : <Counts open={stage.open} />}
      {stage.state === "stale" ? <Small className="text-ochre">stale</Small> : null}
    </View>
  );
  if (!wide)
    return (
      <View role="listitem" className="border-t border-line">
        {built ? (
          <Link href={jobHref(job, stage.stage)} testID={`stage-${stage.stage}`} className="block">
            <View className="min-h-14 w-full justify-center gap-1 py-2">
              {head}
              {figures.length > 0 ? (
                <View className="flex-row flex-wrap gap-x-3">
                  {[...figures.filter((f) => were.has(f.id)), ...figures.filter((f) => !were.has(f.id))]
                    .slice(0, MOST_ON_PHONE)
                    .map((f) => (
                      <Figure key={f.id} figure={f} was={were.get(f.id)} />
                    ))}
                </View>
              ) : null}
            </View>
          </Link>
        ) : (
          <View className="min-h-14 justify-center">{head}</View>
        )}
      </View>
    );
  return (
    <View role="listitem" className="flex-row items-center gap-4 border-t border-line">
      {built ? (
        <Link href={jobHref(job, stage.stage)} testID={`stage-${stage.stage}`}>
          {head}
        </Link>
      ) : (
        head
      )}
      <View className="flex-1 flex-row flex-wrap gap-x-6">
        {figures.map((f) => (
          <Link key={f.id} href={jobHref(job, f.stage, f.query)} testID={`figure-${f.id}`}>
            <View className="min-h-touch justify-center">
              <Figure figure={f} was={were.get(f.id)} linked />
            </View>
          </Link>
        ))}
      </View>
    </View>
  );
}

/** A number with what it was when this person was last here, where that was another. */
function Figure({
  figure,
  was,
  linked = false,
}: {
  figure: JobFigure;
  was: Seen["figures"][number] | undefined;
  linked?: boolean;
}) {
  const settings = useSettings();
  return (
    <Small testID={linked ? undefined : `figure-${figure.id}`} className={linked ? "text-harbour underline" : ""}>
      <Small className="font-strong text-graphite">{figureText(figure, settings)}</Small> {figure.label}
      {was ? <Small className="text-harbour no-underline"> (was {figureText(was, settings)})</Small> : null}
    </Small>
  );
}
