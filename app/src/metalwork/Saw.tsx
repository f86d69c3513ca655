import type { Bar, Piece } from "@gray-bench/core/solve/cuts";
import type { BarList, MetalworkResult } from "@gray-bench/core/metalwork/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Check } from "../events/Check";
import { TickNotes } from "../events/TickNotes";
import { useTicks } from "../events/useTicks";
import { Button } from "../kit/Button";
import { formatLength } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { VirtualList } from "../kit/VirtualList";
import type { Props } from "./choice";

const CUTS = "cuts";

interface Cut {
  /** What is ticked: another length is cut anew. */
  id: string;
  list: BarList;
  bar: Bar;
  barNo: number;
  piece: Piece;
  nth: number;
}

/** All cuts in the order of the saw: list by list, bar by bar. */
export function cutsOf({ bars }: Pick<MetalworkResult, "bars">): Cut[] {
  return bars.flatMap((list) =>
    list.list.bars.flatMap((bar, b) =>
      bar.pieces.map((piece, p) => ({
        id: `${list.kind} ${list.part} ${piece.of} ${piece.lengthMm}`,
        list,
        bar,
        barNo: b + 1,
        piece,
        nth: p + 1,
      })),
    ),
  );
}

const ROW_PX = 56;

/** For whoever stands at the saw: the next cut, its length large, ticked as it goes; kept without a network too. */
export function Saw({ job, result }: Props) {
  const settings = useSettings();
  const cuts = useMemo(() => cutsOf(result), [result]);
  const { done, tick, waiting, error } = useTicks(job, CUTS);
  const isDone = (c: Cut): boolean => done.get(c.id)?.done ?? false;
  const sawn = cuts.filter(isDone).length;
  const at = cuts.findIndex((c) => !isDone(c));
  const next = cuts[at];
  const lastDone = [...cuts].reverse().find((c, i) => isDone(c) && (at < 0 || cuts.length - 1 - i < at));
  if (cuts.length === 0) return <Empty title="Nothing to saw" text="This job has no rail and no duct." />;
  return (
    <View className="min-h-0 flex-1" testID="saw">
      <View className="gap-2 border-b border-line p-3">
        <Head testID="saw-sum">
          {sawn} of {cuts.length} cut
        </Head>
        {next ? (
          <View className="gap-1 border-2 border-graphite bg-tray p-3" testID="saw-next">
            <Small>
              {next.nth === 1 ? `Take ${next.bar.kept ? "the rest" : "a new bar"} of ` : "From "}
              {next.list.part}, {formatLength(next.bar.lengthMm, settings)}, bar {next.barNo}
              {next.list.kind === "cover" ? ", cover" : ""}
              {next.nth === 1 ? `; trim ${formatLength(next.list.list.trimMm, settings)}` : ""}
            </Small>
            <Mono className="font-monoStrong text-great" testID="saw-length">
              {formatLength(next.piece.lengthMm, settings)}
            </Mono>
            <Body className="font-strong text-lead" testID="saw-label">
              {next.piece.of}
              {next.list.kind === "cover" ? " cover" : ""}
            </Body>
            <Body>{(next.piece.also ?? ["square at both ends"]).join("; ")}</Body>
            <View className="flex-row flex-wrap gap-2 pt-1">
              <Button label="Cut and labelled" kind="solid" onPress={() => tick([next.id], true)} testID="saw-done" />
              {lastDone ? (
                <Button
                  label={`Take ${lastDone.piece.of} back`}
                  onPress={() => tick([lastDone.id], false)}
                  testID="saw-back"
                />
              ) : null}
            </View>
          </View>
        ) : (
          <View className="gap-2">
            <Body testID="saw-ready">All cut. Rests that are long enough go to the shelf.</Body>
            {lastDone ? (
              <View className="flex-row">
                <Button
                  label={`Take ${lastDone.piece.of} back`}
                  onPress={() => tick([lastDone.id], false)}
                  testID="saw-back"
                />
              </View>
            ) : null}
          </View>
        )}
        <TickNotes waiting={waiting} error={error} what="cuts" label="Your name, beside what you tick" testID="saw" />
      </View>
      <VirtualList
        count={cuts.length}
        rowPx={ROW_PX}
        label="Cuts in the order of the saw"
        testID="saw-list"
        keyOf={(i) => `${i} ${cuts[i]!.id}`}
        chosen={at}
        row={(i) => {
          const c = cuts[i]!;
          return (
            <Check
              done={isDone(c)}
              press={() => tick([c.id], !isDone(c))}
              px={ROW_PX}
              title={c.piece.of}
              more={`${c.list.kind} ${c.list.part}, bar ${c.barNo}${isDone(c) ? ` · ${done.get(c.id)?.who ?? ""}` : ""}`}
              right={formatLength(c.piece.lengthMm, settings)}
              testID={`cut-${i + 1}`}
            />
          );
        }}
      />
    </View>
  );
}
