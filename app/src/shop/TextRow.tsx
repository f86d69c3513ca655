import { parseWith } from "@gray-bench/core/design/pattern";
import type { TextRule } from "@gray-bench/core/shop/rule-kinds";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { Body, Mono, Small } from "../kit/Text";

interface Props {
  place: string;
  rule: TextRule;
  value: string;
  /** As it stands in the version that counts. */
  was: string;
  change(value: string): void;
  /** Hears whether what stands in the field can be taken. */
  wrong(place: string, reason: string | null): void;
  /** What a pattern comes to on things of a job. */
  examples?: ((text: string) => string[]) | undefined;
}

/** Why a text cannot be taken; null where it can. */
function faultOf(text: string, { most, fields }: TextRule): string | null {
  if (text.length > most) return `At most ${most} characters.`;
  if (!fields) return null;
  const parsed = parseWith(text, fields);
  return parsed.ok ? null : `At sign ${parsed.at + 1}: ${parsed.reason}.`;
}

/** A word of the shop, or a pattern: what it is, what it does, where it comes from. It may be none. */
export function TextRow({ place, rule, value, was, change, wrong, examples }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const put = (text: string): void => {
    const fault = faultOf(text, rule);
    setTyped(fault === null ? null : text);
    wrong(place, fault === null ? null : `${rule.text}: ${fault}`);
    if (fault === null) change(text);
  };
  const fault = typed === null ? null : faultOf(typed, rule);
  const shown = fault === null ? (examples?.(value) ?? []) : [];
  return (
    <View testID={`rule-row-${place}`} className="gap-2 border-t border-line py-3 md:flex-row md:items-start md:gap-4">
      <View className="gap-1 md:flex-1">
        <Body className="font-medium">{rule.text}</Body>
        <Small>{rule.why}</Small>
        {rule.fields ? (
          <Small>
            {Object.entries(rule.fields)
              .map(([name, what]) => `{${name}} ${what}`)
              .join("; ")}
          </Small>
        ) : null}
      </View>
      <View className="gap-1 md:w-80">
        <View className="flex-row items-center gap-2">
          <View className="w-52">
            <Field label={rule.text} hideLabel value={typed ?? value} change={put} testID={`rule-${place}`} />
          </View>
          {value !== was || typed !== null ? (
            <Button label="Undo" onPress={() => put(was)} testID={`rule-undo-${place}`} />
          ) : null}
        </View>
        {fault === null ? (
          <Small>{rule.source}</Small>
        ) : (
          <Small role="alert" className="font-medium text-brick" testID={`rule-wrong-${place}`}>
            {fault}
          </Small>
        )}
        {shown.length > 0 ? (
          <View testID={`examples-${place}`}>
            {shown.map((e, i) => (
              <Mono key={i}>{e === "" ? "(empty)" : e}</Mono>
            ))}
          </View>
        ) : null}
      </View>
    </View>
  );
}
