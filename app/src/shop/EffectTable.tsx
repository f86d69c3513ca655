import type { ShopEffect } from "@gray-bench/contract/api";
import { View } from "react-native";
import { formatLength, formatPercent, formatTotal, sayTold } from "../kit/format";
import { useSettings, type Settings } from "../kit/settings";
import { Body, Mono, Small } from "../kit/Text";

const text = (value: number, unit: string, settings: Settings): string => {
  if (unit === "mm") return formatLength(value, settings);
  if (unit === "m") return formatTotal(value, settings);
  return unit === "%" ? formatPercent(value) : String(value);
};

const sum = ({ stop, check, note }: ShopEffect["open"]["before"]): number => stop + check + note;

/** What a change of the shop would do, job by job. */
export function EffectTable({ jobs }: { jobs: readonly ShopEffect[] }) {
  const settings = useSettings();
  const touched = jobs.filter((j) => j.figures.length + j.words.length > 0 || sum(j.open.before) !== sum(j.open.after));
  return (
    <View testID="effect" role="list" className="gap-1">
      {touched.length === 0 ? (
        <Body>{jobs.length === 0 ? "There is no job it could change." : "It changes no number of any job."}</Body>
      ) : null}
      {touched.map((j) => (
        <View key={j.code} role="listitem" className="border-t border-line py-1" testID={`effect-${j.code}`}>
          <Body>
            <Mono>{j.code}</Mono> {j.title}
          </Body>
          {j.words.length > 0 ? <Small>{j.words.map((w) => sayTold(w, settings)).join(", ")}</Small> : null}
          {j.figures.map((f) => (
            <Small key={`${f.stage} ${f.id}`}>
              {f.label}: {text(f.before, f.unit, settings)}, then {text(f.after, f.unit, settings)}
            </Small>
          ))}
          {sum(j.open.before) === sum(j.open.after) ? null : (
            <Small>
              open points: {sum(j.open.before)}, then {sum(j.open.after)}
            </Small>
          )}
        </View>
      ))}
      {touched.length > 0 && touched.length < jobs.length ? (
        <Small>{jobs.length - touched.length} other jobs stay as they are.</Small>
      ) : null}
    </View>
  );
}
