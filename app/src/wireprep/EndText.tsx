import type { LeadEnd } from "@gray-bench/core/wireprep/result";
import { View } from "react-native";
import { formatLength, keepTags } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Body, Mono, Small } from "../kit/Text";

/** An end in words: where, what is put on, how far it is stripped, what is written on it. */
export function EndText({ end, right = false }: { end: LeadEnd; right?: boolean }) {
  const settings = useSettings();
  const side = right ? "text-right" : "";
  return (
    <View className={`min-w-0 flex-1 gap-0.5 ${right ? "items-end" : ""}`}>
      <Mono className={`font-monoStrong text-name ${side}`}>{keepTags(`${end.device}:${end.pin}`)}</Mono>
      <Body className={side}>
        {end.later ? "stripped only" : end.treatment}
        {end.part ? ` ${end.part}` : ""}
        {end.sleeve ? `, ${end.sleeve}` : ""}
      </Body>
      <Small className={`text-cell ${end.stripMm === null ? "text-ochre" : ""} ${side}`}>
        {end.stripMm === null ? "strip length open" : `strip ${formatLength(end.stripMm, settings)}`}
      </Small>
      {end.later ? (
        <Small className={`text-cell font-medium ${side}`} testID="end-later">
          the bench crimps it with {end.later.with}
          {end.later.part ? ` into ${end.later.part}` : ""}
        </Small>
      ) : null}
      {end.alone ? (
        <Small className={`text-cell text-ochre ${side}`} testID="end-alone">
          no machine closes it: {end.alone}
        </Small>
      ) : null}
      {end.label !== "" ? (
        <Small className={`text-cell ${side}`}>
          <Mono>{end.label}</Mono> {end.labelOn}
        </Small>
      ) : null}
    </View>
  );
}
