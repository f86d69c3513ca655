import type { TextRule } from "@gray-bench/core/design/rules";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { Body, Small } from "../kit/Text";

interface Props {
  place: string;
  rule: TextRule;
  value: string;
  /** As it stands in the version that counts. */
  was: string;
  change(value: string): void;
  /** Hears whether what stands in the field can be taken. */
  wrong(place: string, reason: string | null): void;
}

/** A word of the shop: what it is, what it does, where it comes from. It may be none. */
export function TextRow({ place, rule, value, was, change, wrong }: Props) {
  const [long, setLong] = useState<string | null>(null);
  const put = (text: string): void => {
    const fits = text.length <= rule.most;
    setLong(fits ? null : text);
    wrong(place, fits ? null : `At most ${rule.most} characters.`);
    if (fits) change(text);
  };
  return (
    <View testID={`rule-row-${place}`} className="gap-2 border-t border-line py-3 md:flex-row md:items-center md:gap-4">
      <View className="gap-1 md:flex-1">
        <Body className="font-medium">{rule.text}</Body>
        <Small>{rule.why}</Small>
      </View>
      <View className="gap-1 md:w-[320px]">
        <View className="flex-row items-center gap-2">
          <View className="w-[210px]">
            <Field label={rule.text} hideLabel value={long ?? value} change={put} testID={`rule-${place}`} />
          </View>
          {value !== was || long !== null ? (
            <Button label="Undo" onPress={() => put(was)} testID={`rule-undo-${place}`} />
          ) : null}
        </View>
        {long === null ? (
          <Small>{rule.source}</Small>
        ) : (
          <Small className="font-medium text-brick">At most {rule.most} characters.</Small>
        )}
      </View>
    </View>
  );
}
