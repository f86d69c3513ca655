import type { ShopEffect, ShopEffects } from "@gray-bench/contract/shop";
import { View } from "react-native";
import { NumbersThen } from "../edits/Outlook";
import { formatCount } from "../kit/format";
import { Body, Mono, Small } from "../kit/Text";

const sum = ({ stop, check, note }: ShopEffect["open"]["before"]): number => stop + check + note;

/** What a change of the shop would do, job by job. */
export function EffectTable({ jobs, failed, total }: ShopEffects) {
  const touched = jobs.filter((j) => j.figures.length + j.words.length > 0 || sum(j.open.before) !== sum(j.open.after));
  return (
    <View testID="effect" role="list" className="gap-1">
      {touched.length === 0 ? (
        <Body>
          {jobs.length === 0
            ? "There is no job it could change."
            : total > jobs.length || failed.length > 0
              ? "It changes no number of these jobs."
              : "It changes no number of any job."}
        </Body>
      ) : null}
      {touched.map((j) => (
        <View key={j.code} role="listitem" className="border-t border-line py-1" testID={`effect-${j.code}`}>
          <Body>
            <Mono>{j.code}</Mono> {j.title}
          </Body>
          <NumbersThen outlook={j} />
        </View>
      ))}
      {failed.map((j) => (
        <View key={j.code} role="listitem" className="border-t border-line py-1" testID={`effect-failed-${j.code}`}>
          <Body>
            <Mono>{j.code}</Mono> {j.title}
          </Body>
          <Small className="text-brick">{j.why}</Small>
        </View>
      ))}
      {total > jobs.length + failed.length ? (
        <Small>
          Computed for the {jobs.length} jobs that are due first, of {formatCount(total)}.
        </Small>
      ) : null}
      {touched.length > 0 && touched.length < jobs.length ? (
        <Small>{jobs.length - touched.length} other jobs stay as they are.</Small>
      ) : null}
    </View>
  );
}
