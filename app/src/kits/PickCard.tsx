import type { Design } from "@gray-bench/core/design/model";
import type { LineState } from "@gray-bench/core/kits/events";
import { useState } from "react";
import { Text, View } from "react-native";
import { BigButton, Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { keepTags } from "../kit/format";
import { Body, Mono, Small } from "../kit/Text";
import { PartPicture } from "./PartPicture";
import type { ToPick } from "./toPick";
import { useAmounts } from "./useAmounts";

const REASONS = ["bin empty", "damaged", "wrong part in the bin", "not found"] as const;

/** The line at hand: where, what, how many, for which; picked with one tap, or said to be short with a reason. */
export function PickCard({
  one,
  left,
  short,
  bin,
  design,
  other,
  picked,
  missing,
}: {
  one: ToPick;
  left: number;
  short: LineState["short"];
  /** Of several that are picked at once. */
  bin: { nth: number; name: string } | null;
  design: Design;
  /** Who fetches it too. */
  other: string | undefined;
  picked(): void;
  missing(there: number, reason: string): void;
}) {
  const { line } = one;
  const [asking, setAsking] = useState<string | null>(null);
  const { amount, issue: issueOf } = useAmounts();
  const issue = issueOf(line);
  return (
    <View className="gap-2 border-2 border-graphite bg-tray p-3" testID="pick-card">
      <Mono className="font-monoStrong text-great" testID="pick-place">
        {line.place ?? "no place"}
      </Mono>
      <View className="flex-row items-center gap-3">
        <View className="min-w-0 flex-1 gap-1">
          <Mono className="font-monoStrong text-title" testID="pick-part">
            {line.part ?? line.text}
          </Mono>
          {line.part ? <Body className="text-name">{line.text}</Body> : null}
        </View>
        <PartPicture design={design} line={line} />
      </View>
      <Text className="font-strong text-great text-graphite" testID="pick-count">
        {left > 0 ? (line.unit === "pcs" ? `${amount(left, line.unit)} ×` : amount(left, line.unit)) : "picked"}
      </Text>
      {issue ? <Body testID="pick-issue">{keepTags(issue)}</Body> : null}
      {bin ? (
        <View className="flex-row items-center gap-2" testID="pick-bin">
          <View className="min-w-9 items-center border-2 border-verdigris px-2 py-1">
            <Mono className="font-monoStrong text-lead">{bin.nth}</Mono>
          </View>
          <Body className="font-medium">into the bin {keepTags(bin.name)}</Body>
        </View>
      ) : null}
      <Small className="text-cell" testID="pick-tags">
        for {keepTags(line.tags.slice(0, MOST_TAGS).join(" "))}
        {line.tags.length > MOST_TAGS ? ` and ${line.tags.length - MOST_TAGS} more` : ""}
      </Small>
      {line.fallback ? <Small className="text-ochre">its metres rest on fallbacks</Small> : null}
      {other ? <Small className="font-medium text-harbour">{other} fetches it just now</Small> : null}
      {short ? (
        <Small className="font-medium text-brick" testID="pick-short">
          said short by {short.who}: {amount(short.quantity, line.unit)}, {short.reason}
        </Small>
      ) : null}
      {left > 0 ? (
        <View className="flex-row gap-2 pt-1">
          <BigButton label="Picked" kind="solid" grows onPress={picked} testID="pick-done" />
          <BigButton
            label="There are fewer"
            text="Fewer …"
            expanded={asking !== null}
            onPress={() => setAsking(asking === null ? one.id : null)}
            testID="pick-less"
          />
        </View>
      ) : null}
      {asking === one.id ? (
        <Less
          unit={line.unit}
          left={left}
          say={(there, reason) => {
            setAsking(null);
            missing(there, reason);
          }}
        />
      ) : null}
    </View>
  );
}

/** How many there were, and why not all. */
function Less({
  unit,
  left,
  say,
}: {
  unit: ToPick["line"]["unit"];
  left: number;
  say(there: number, reason: string): void;
}) {
  const { amount } = useAmounts();
  const [there, setThere] = useState("0");
  const [reason, setReason] = useState("");
  const n = Number(there.replace(",", "."));
  const whole = unit === "m" || Number.isInteger(n);
  const wrong = there.trim() === "" || !Number.isFinite(n) || n < 0 || n >= left || !whole;
  return (
    <View className="gap-2 border-t border-line pt-2" testID="pick-fewer">
      <Field
        label={unit === "pcs" ? "How many are there" : "How many metres are there"}
        value={there}
        change={setThere}
        testID="fewer-count"
      />
      {wrong ? (
        <Small role="alert" className="text-brick">
          Write {unit === "pcs" ? "a whole number" : "a number"} from 0 to less than {amount(left, unit)}.
        </Small>
      ) : null}
      <View className="flex-row flex-wrap gap-2" role="group" aria-label="Why">
        {REASONS.map((r) => (
          <Button key={r} label={r} pressed={reason === r} onPress={() => setReason(r)} testID={`why-${r}`} />
        ))}
      </View>
      <Field
        label="Or in other words"
        value={(REASONS as readonly string[]).includes(reason) ? "" : reason}
        change={setReason}
        testID="why-other"
      />
      <View className="flex-row">
        <Button
          label={wrong || n === 0 ? "None is there: go on" : `${amount(n, unit)} picked, the rest is short`}
          kind="solid"
          disabled={wrong || reason.trim() === ""}
          onPress={() => say(n, reason.trim().slice(0, 200))}
          testID="fewer-done"
        />
      </View>
    </View>
  );
}

const MOST_TAGS = 16;
