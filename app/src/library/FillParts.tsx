import { fill, FILLED } from "@gray-bench/core/library/fill";
import { lacksOf } from "@gray-bench/core/library/lacks";
import { likeLoss } from "@gray-bench/core/library/like-parts";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { useMemo, useState } from "react";
import { TextInput, View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatCount } from "../kit/format";
import { Select } from "../kit/Select";
import { useSettings, useTokens } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { Head, Mono, Small } from "../kit/Text";
import { KeepParts } from "./KeepParts";

const SHOWN = 8;
const LISTED = 60;
/** So many parts are written in one version. */
const MOST = 1000;

/** One field of many parts at once, from a pasted column: seen before it is kept. */
export function FillParts({
  shown,
  all,
  on,
  next,
}: {
  /** As they are listed: narrowed down by what they lack, or found. */
  shown: readonly LibraryPart[];
  all: readonly LibraryPart[];
  on: string;
  next: number;
}) {
  const t = useTokens();
  const { length } = useSettings();
  const [id, setId] = useState(FILLED[0]!.id);
  const [text, setText] = useState("");
  const field = FILLED.find((f) => f.id === id)!;
  const filling = useMemo(
    () => (text.trim() === "" ? null : fill(text, id, shown, all, length)),
    [text, id, shown, all, length],
  );
  const guesses = useMemo(
    () =>
      shown.flatMap((p) => {
        const like = lacksOf(p).includes("without a loss") ? likeLoss(p, all) : null;
        return like ? [`${p.number}\t${like.watts}`] : [];
      }),
    [shown, all],
  );
  const before = useMemo(() => new Map(all.map((p) => [p.number, p])), [all]);
  const written = filling?.written ?? [];
  return (
    <View className="gap-3 border-l-4 border-verdigris pl-3" testID="fill">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Head>Fill many at once</Head>
        </View>
        <Button label="Close" onPress={() => choose({ fill: undefined })} testID="fill-close" />
      </View>
      <View className="max-w-55">
        <Select
          label="Field"
          value={field.label}
          choices={FILLED.map((f) => f.label)}
          choose={(label) => setId(FILLED.find((f) => f.label === label)?.id ?? FILLED[0]!.id)}
          testID="fill-field"
        />
      </View>
      <Small testID="fill-order">
        Listed:{" "}
        {shown
          .slice(0, LISTED)
          .map((p) => p.number)
          .join(", ")}
        {shown.length > LISTED ? ` and ${formatCount(shown.length - LISTED)} more` : ""}
      </Small>
      {id === "lossW" && guesses.length > 0 ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Button
            label={`Medians of like parts, for ${formatCount(guesses.length)}`}
            onPress={() => setText(guesses.join("\n"))}
            testID="fill-medians"
          />
          <Small className="min-w-40 flex-1">
            Guesses: look through them before they are kept, and say so in the reason.
          </Small>
        </View>
      ) : null}
      <View className="gap-1">
        <Small>
          Paste two columns of a sheet, number and value; or one column for the {formatCount(shown.length)} parts
          listed, in their order; or a single value for all of them.
        </Small>
        <TextInput
          testID="fill-text"
          aria-label={`Values of ${field.label}`}
          value={text}
          onChangeText={setText}
          multiline
          numberOfLines={5}
          placeholder={`OH-K25 (tab) ${field.number ? "5.8" : "…"}`}
          placeholderTextColor={t.slate}
          autoCapitalize="none"
          autoCorrect={false}
          className="min-h-28 rounded-edge border border-line bg-paper p-3 font-mono text-body text-graphite"
        />
      </View>
      {filling ? (
        <View role="status" className="gap-1" testID="fill-told">
          <Small>
            {formatCount(written.length)} {written.length === 1 ? "part changes" : "parts change"}
            {filling.same > 0 ? `, ${formatCount(filling.same)} say it already` : ""}
            {filling.notTaken.length > 0 ? `, ${formatCount(filling.notTaken.length)} not taken` : ""}.
          </Small>
          {written.slice(0, SHOWN).map((p) => (
            <Mono key={p.number} className="text-small">
              {p.number}: {field.value(before.get(p.number)!) ?? "nothing"} → {field.value(p)}
            </Mono>
          ))}
          {written.length > SHOWN ? <Small>and {formatCount(written.length - SHOWN)} more</Small> : null}
          {filling.notTaken.slice(0, SHOWN).map((n) => (
            <View key={n.line} className="flex-row gap-2">
              <View className="pt-0.5">
                <SeveritySign severity="check" />
              </View>
              <Small className="min-w-0 flex-1">
                line {n.line}: {n.found}; wanted {n.wanted}
              </Small>
            </View>
          ))}
          {filling.notTaken.length > SHOWN ? (
            <Small>and {formatCount(filling.notTaken.length - SHOWN)} more lines not taken</Small>
          ) : null}
        </View>
      ) : null}
      {written.length > MOST ? (
        <Small className="text-brick">At most {formatCount(MOST)} parts at once: paste fewer lines.</Small>
      ) : written.length > 0 ? (
        <KeepParts
          said="Nothing of it is kept yet."
          parts={written}
          on={on}
          next={next}
          kept={() => {
            setText("");
            choose({ fill: undefined });
          }}
        />
      ) : null}
    </View>
  );
}
