import { STAGE_TITLES } from "@gray-bench/core/stage-names";
import { lackingParts, lacksByKind, type Lacking } from "@gray-bench/core/library/lacks";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import { useDesign } from "../queries/useJobs";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatCount } from "../kit/format";
import { SeveritySign } from "../kit/Severity";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { Tray } from "../kit/Tray";

const MOST_SHOWN = 200;

/** Which parts of a job lack what, counted by stage and by devices; each leads to its page in the library. */
export function LackingParts({ job, shown }: { job: string; shown: boolean }) {
  const { data: design, error, refetch } = useDesign(job, shown);
  const lacking = useMemo(() => (design ? lackingParts(design) : null), [design]);
  return (
    <Tray className="gap-2 p-3" testID="lacking">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Head>What its parts lack</Head>
        </View>
        <Button
          label={shown ? "Close" : "See it"}
          pressed={shown}
          onPress={() => choose({ parts: shown ? undefined : "1" })}
          testID="lacking-see"
        />
      </View>
      {shown && error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {shown && !lacking && !error ? <Loading text="Reading the design" /> : null}
      {shown && lacking ? <Listed lacking={lacking} /> : null}
    </Tray>
  );
}

const partsText = (n: number): string => `${formatCount(n)} ${n === 1 ? "part" : "parts"}`;
const devicesText = (n: number): string => `${formatCount(n)} ${n === 1 ? "device" : "devices"}`;

function Listed({ lacking }: { lacking: readonly Lacking[] }) {
  if (lacking.length === 0) return <Small>Nothing: every part is described as far as the stages need it.</Small>;
  return (
    <View className="gap-3">
      <View role="list" aria-label="What each stage lacks" testID="lacking-stages">
        {lacksByKind(lacking).map(({ lack, parts, devices }) => (
          <View key={lack.id} role="listitem" className="flex-row gap-2 py-0.5">
            <Body className="w-22">{STAGE_TITLES[lack.stage]}</Body>
            <Body className="flex-1">
              {partsText(parts)} {lack.text}, {devicesText(devices)}
            </Body>
          </View>
        ))}
      </View>
      <Small>
        What is described in the library completes this job once that version is taken over here; what the design says
        itself stands.
      </Small>
      <View role="list" aria-label="Parts that lack something">
        {lacking.slice(0, MOST_SHOWN).map(({ number, text, devices, lacks }) => (
          <View key={number} role="listitem">
            <Link
              href={`/library/${encodeURIComponent(number)}`}
              className="block border-t border-line py-2"
              testID={`lacking-${number}`}
            >
              <View className="flex-row gap-2">
                <View className="pt-1">
                  <SeveritySign severity={lacks === null ? "stop" : "note"} />
                </View>
                <View className="min-w-0 flex-1">
                  <Mono className="text-harbour underline">{number}</Mono>
                  <Small>
                    {devicesText(devices)}
                    {text && text !== number ? ` · ${text}` : ""} ·{" "}
                    {lacks === null ? "not described anywhere" : lacks.map((l) => l.text).join(", ")}
                  </Small>
                </View>
              </View>
            </Link>
          </View>
        ))}
      </View>
      {lacking.length > MOST_SHOWN ? <Small>and {formatCount(lacking.length - MOST_SHOWN)} more</Small> : null}
    </View>
  );
}
