import { putBacksOf, type PutBack } from "@gray-bench/core/kits/events";
import type { Unit } from "@gray-bench/core/kits/result";
import { useMemo } from "react";
import { ScrollView, View } from "react-native";
import { Button } from "../kit/Button";
import { keepTags } from "../kit/format";
import { Empty } from "../kit/States";
import { Body, Mono, Small } from "../kit/Text";
import type { Props } from "./choice";
import { PickNotes } from "./PickNotes";
import { useAmounts } from "./useAmounts";
import { useBill } from "./useBill";
import type { Picks, Said } from "./usePicks";

const unitOf = (line: string): Unit => (line.endsWith("(m)") ? "m" : "pcs");

/** What was picked and is wanted no more: back to the store, or over to a kit that lacks it. */
export function PutBacks({ job, result, picks }: Props & { picks: Picks }) {
  const { amount } = useAmounts();
  // Where it lies in the store is known by the revision it was picked for.
  const before = useBill(job.code, job.revisions.find((r) => r.revision !== job.revision)?.revision);
  const backs = useMemo(
    () => putBacksOf(result.kits, picks.log, before.data?.kits),
    [result.kits, picks.log, before.data],
  );
  const back = ({ kit, line }: PutBack, quantity: number): Said => ({ kit, line, what: "put back", quantity });
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-190 gap-3 p-3" testID="put-backs">
      <PickNotes picks={picks} />
      {backs.length === 0 ? (
        <Empty
          title="Nothing goes back"
          text="When a new revision wants less than was picked, or two picked the same line, it stands here."
        />
      ) : (
        <Body>
          {backs.length} {backs.length === 1 ? "line has" : "lines have"} more than this revision wants.
        </Body>
      )}
      {backs.map((b) => {
        const unit = unitOf(b.line);
        const over = b.over.reduce((sum, o) => sum + o.quantity, 0);
        const rest = Math.round((b.quantity - over) * 10_000) / 10_000;
        return (
          <View
            key={`${b.kit} ${b.line}`}
            className="gap-2 border border-line bg-tray p-3"
            testID={`back-${b.kit} ${b.line}`}
          >
            <View className="flex-row flex-wrap items-baseline justify-between gap-2">
              <Mono className="font-monoStrong text-name">{b.part ?? b.text}</Mono>
              <Mono className="font-monoStrong text-name">{amount(b.quantity, unit)}</Mono>
            </View>
            <Body>{b.part ? b.text : ""}</Body>
            <Small>{keepTags(`out of ${b.kit}`)}</Small>
            {b.over.map((o) => (
              <View key={o.kit} className="flex-row flex-wrap items-center gap-2">
                <Body className="min-w-0 flex-1">
                  {keepTags(`${amount(o.quantity, unit)} is still wanted by ${o.kit}`)}
                </Body>
                <Button
                  label="Carried over"
                  onPress={() =>
                    picks.say([back(b, o.quantity), { kit: o.kit, line: b.line, what: "picked", quantity: o.quantity }])
                  }
                  testID={`over-${o.kit} ${b.line}`}
                />
              </View>
            ))}
            {rest > 0 ? (
              <View className="flex-row flex-wrap items-center gap-2">
                <Body className="min-w-0 flex-1">
                  {amount(rest, unit)} back to {b.place ?? "the store: this revision says no place"}
                </Body>
                <Button
                  label="Put back"
                  kind="solid"
                  onPress={() => picks.say([back(b, rest)])}
                  testID={`put-${b.kit} ${b.line}`}
                />
              </View>
            ) : null}
          </View>
        );
      })}
    </ScrollView>
  );
}
