import { Link } from "expo-router";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatCount } from "../kit/format";
import { thingHref } from "../kit/links";
import { Failed, Loading } from "../kit/States";
import { Body, Small } from "../kit/Text";
import { usePartUses } from "../queries/useLibrary";

/** In which jobs a part is used, and which of them the newest version would change. */
export function PartUses({ part, shown }: { part: string; shown: boolean }) {
  const { data, error, refetch } = usePartUses(part, shown);
  return (
    <View className="gap-2">
      <View className="flex-row">
        <Button
          label={shown ? "Close" : "Where it is used"}
          pressed={shown}
          onPress={() => choose({ uses: shown ? undefined : "1" })}
          testID="part-uses-open"
        />
      </View>
      {shown && error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {shown && !data && !error ? <Loading text="Looking through the jobs" /> : null}
      {shown && data ? (
        <View role="list" aria-label="Jobs that use it" testID="part-uses" className="gap-1">
          {data.jobs.length === 0 ? <Small>No job uses it.</Small> : null}
          {data.jobs.map((j) => (
            <View key={j.job} role="listitem" className="border-t border-line py-1">
              <View className="flex-row flex-wrap items-center gap-x-3">
                <Link
                  href={thingHref(j.job, "part", j.as)}
                  className="min-h-touch justify-center py-2.5 font-mono text-body text-harbour underline"
                  testID={`used-${j.job}`}
                >
                  {j.job}
                </Link>
                <Body className="min-w-30 flex-1">{j.title}</Body>
              </View>
              <Small>
                {j.uses === 0
                  ? "among its parts, of nothing yet"
                  : `of ${formatCount(j.uses)} ${j.uses === 1 ? "thing" : "things"}`}
                {j.as === part ? "" : `, as ${j.as}`}
                {j.version === null ? ", no library" : `, library version ${j.version}`}
                {j.changes ? "; the newest version says something else of it: what it does is shown on its desk" : ""}
              </Small>
            </View>
          ))}
          {data.looked < data.all ? (
            <Small>
              The newest {formatCount(data.looked)} of {formatCount(data.all)} jobs were looked through.
            </Small>
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
