import { explain } from "@gray-bench/core/wireprep/explain";
import { piecesOf } from "@gray-bench/core/wireprep/material";
import { ScrollView, View } from "react-native";
import { choose } from "../kit/choice";
import { FileLinks } from "../kit/FileLinks";
import { formatTotal } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { TapRow } from "../kit/TapRow";
import { Body, Head, Mono, Small } from "../kit/Text";
import { WorkingTable } from "../working/WorkingTable";
import type { Props } from "./choice";

const FILES = [["reels.csv", "Reels CSV"]] as const;
const MOST_WIRES = 60;

/** Which reel for which leads, what is to be there in full, and how many pieces go on ends. */
export function Material({ job, result, rules, choice }: Props) {
  const settings = useSettings();
  const { reels, full, tooLong } = result;
  const pieces = piecesOf(result);
  if (reels.length === 0 && pieces.length === 0)
    return <Empty title="No material" text="Nothing goes on a machine yet." />;
  const nth = Number(choice.reel);
  const working = Number.isInteger(nth) && nth > 0 ? explain(result, { of: "reel", nth }, rules) : null;
  const m = (metres: number): string => formatTotal(metres * 1000, settings);
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-280 gap-4 p-3" testID="material">
      <FileLinks job={job.code} files={FILES} label="Files of the material" />
      <View className="gap-4 md:flex-row md:items-start">
        <View className="min-w-0 gap-1 md:flex-1">
          <Head>Reels, in the order their wires are named</Head>
          <View role="list">
            {reels.map((r, i) => (
              <View key={i} role="listitem">
                <TapRow
                  press={() => choose({ reel: nth === i + 1 ? undefined : String(i + 1) }, true)}
                  on={nth === i + 1}
                  testID={`reel-${i + 1}`}
                >
                  <View className="min-w-0 flex-1">
                    <Mono numberOfLines={1}>{r.wire}</Mono>
                    <Small numberOfLines={1}>
                      {r.reel ? `rest ${r.reel}` : "full reel"}, {m(r.metres)}
                      {r.assumed ? " assumed" : ""}; {r.wires.length} leads
                    </Small>
                  </View>
                  <View className="items-end">
                    <Body>{m(r.usedM)}</Body>
                    <Small>{m(r.restM)} left</Small>
                  </View>
                </TapRow>
                {nth === i + 1 ? (
                  <View className="gap-2 bg-tray p-3" testID="reel-details">
                    {working ? <WorkingTable working={working} job={job.code} /> : null}
                    <Small>
                      {r.wires.slice(0, MOST_WIRES).join(" ")}
                      {r.wires.length > MOST_WIRES ? ` and ${r.wires.length - MOST_WIRES} more` : ""}
                    </Small>
                  </View>
                ) : null}
              </View>
            ))}
          </View>
        </View>
        <View className="min-w-0 gap-4 md:flex-1">
          <View className="gap-1">
            <Head>Full reels to be there</Head>
            {full.length === 0 ? <Small>The rests are enough.</Small> : null}
            {full.map((f) => (
              <View key={f.wire} className="min-h-9 flex-row items-center justify-between gap-2 border-b border-line">
                <Mono numberOfLines={1}>{f.wire}</Mono>
                <Body>
                  {f.reels} × {m(f.metres / f.reels)}
                  {f.assumed ? " assumed" : ""}
                  {f.reels > f.least ? `, at least ${f.least}` : ""}
                </Body>
              </View>
            ))}
            {tooLong.length > 0 ? (
              <Small className="text-brick">longer than any reel: {tooLong.join(" ")}</Small>
            ) : null}
            <Small>Rests are a table of the shop: reels that are there.</Small>
          </View>
          <View className="gap-1" testID="pieces">
            <Head>On the ends</Head>
            {pieces.map((p) => (
              <View key={p.part} className="min-h-9 flex-row items-center justify-between gap-2 border-b border-line">
                <Mono>{p.part}</Mono>
                <Small className="min-w-0 flex-1">
                  {p.treatment}
                  {p.sleeve ? `, ${p.sleeve}` : ""}
                </Small>
                <Body>{p.count}</Body>
              </View>
            ))}
          </View>
        </View>
      </View>
    </ScrollView>
  );
}
