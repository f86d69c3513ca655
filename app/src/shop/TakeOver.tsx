import type { JobSummary } from "@gray-bench/contract/jobs";
import { View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { jobHref } from "../kit/links";
import { formatCount } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Small } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { useTakeOver } from "../queries/useShop";

/** Jobs that are still computed with an earlier version; each takes over the newest when somebody says so. */
export function TakeOver({
  jobs,
  total = jobs.length,
  version,
}: {
  jobs: readonly Pick<JobSummary, "code" | "title">[];
  /** So many there are in all. */
  total?: number;
  /** The newest; absent on the desk of the one job, which then leads to the shop. */
  version?: number;
}) {
  const { name } = useSettings();
  const take = useTakeOver();
  if (jobs.length === 0) return null;
  return (
    <Tray className="gap-1 p-3" testID="take-over">
      <Body>
        {jobs.length === 1 ? "This job is" : "These jobs are"} computed with an earlier version of the shop and stale
        until {version === undefined ? "the newest" : `version ${version}`} is taken over.
      </Body>
      {take.error ? <Failed error={take.error} /> : null}
      {jobs.map((j) => (
        <View key={j.code} className="flex-row flex-wrap items-center gap-3">
          <Button
            label="Take it over"
            disabled={take.isPending}
            onPress={() => take.mutate({ job: j.code, who: name || "no name given" })}
            testID={`take-over-${j.code}`}
          />
          {version === undefined ? (
            <LinkLine href="/shop" label="See what changed in the shop" />
          ) : (
            <LinkLine href={jobHref(j.code)} label={`${j.code} ${j.title}`} />
          )}
        </View>
      ))}
      {total > jobs.length ? <Small>and {formatCount(total - jobs.length)} jobs that are due later</Small> : null}
    </Tray>
  );
}
