import type { NumberRule } from "@gray-bench/core/shop/rule-kinds";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { useSettings } from "../kit/settings";
import { Body, Small } from "../kit/Text";
import { readBounded, unitBeside, valueText } from "./ruleValue";

interface Props {
  place: string;
  rule: NumberRule;
  value: number;
  /** As it stands in the version that counts. */
  was: number;
  change(value: number): void;
  /** Hears whether what stands in the field can be taken. */
  wrong(place: string, reason: string | null): void;
}

/** One number of the shop: what it is, what it does, its value with its unit, where it comes from. */
export function NumberRow({ place, rule, value, was, change, wrong }: Props) {
  const settings = useSettings();
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? valueText(value, rule.unit, settings);
  const read = readBounded(text, rule, settings);
  const type = (next: string): void => {
    setTyped(next);
    const got = readBounded(next, rule, settings);
    wrong(place, got.ok ? null : got.reason);
    if (got.ok) change(got.value);
  };
  const put = (to: number): void => {
    setTyped(null);
    wrong(place, null);
    change(to);
  };
  const shipped = value === rule.default;
  return (
    <View testID={`rule-row-${place}`} className="gap-2 border-t border-line py-3 md:flex-row md:items-center md:gap-4">
      <View className="gap-1 md:flex-1">
        <Body className="font-medium">{rule.text}</Body>
        <Small>{rule.why}</Small>
      </View>
      <View className="gap-1 md:w-80">
        <View className="flex-row items-center gap-2">
          <View className="w-28">
            <Field label={rule.text} hideLabel value={text} change={type} testID={`rule-${place}`} />
          </View>
          <Small className="w-23">{unitBeside(rule.unit, settings)}</Small>
          {value !== was || !read.ok ? (
            <Button label="Undo" onPress={() => put(was)} testID={`rule-undo-${place}`} />
          ) : null}
        </View>
        {read.ok ? (
          <Small>
            {value !== was ? `was ${valueText(was, rule.unit, settings)} · ` : ""}
            {shipped ? rule.source : `shipped with ${valueText(rule.default, rule.unit, settings)}`}
          </Small>
        ) : (
          <Small className="font-medium text-brick">{read.reason}</Small>
        )}
      </View>
    </View>
  );
}
