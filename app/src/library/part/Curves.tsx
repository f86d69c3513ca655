import type { LibraryPart } from "@gray-bench/core/library/library";
import { useState } from "react";
import { View } from "react-native";
import { CurveChart, type Curve } from "../../kit/CurveChart";
import { formatTemperature, temperatureNumber } from "../../kit/format";
import { useSettings } from "../../kit/settings";
import { Head } from "../../kit/Text";

/** What the data sheet of a part draws as lines: what it carries away, its flow against a pressure, its share of load in the warm. */
export function Curves({ part: { cooling, climate, derating } }: { part: LibraryPart }) {
  const settings = useSettings();
  const [width, setWidth] = useState(0);
  const degrees = (c: number): number => temperatureNumber(c, settings);
  const unit = `°${settings.temperature}`;
  const carried: Curve[] = [...new Set((cooling?.curve ?? []).map((p) => p.insideC))]
    .sort((a, b) => a - b)
    .map((insideC) => ({
      label: `${formatTemperature(insideC, settings)} inside`,
      points: cooling!.curve
        .filter((p) => p.insideC === insideC)
        .sort((a, b) => a.outsideC - b.outsideC)
        .map((p) => ({ x: degrees(p.outsideC), y: p.capacityW })),
    }));
  const flow = [...(climate?.flow ?? [])].sort((a, b) => a.m3h - b.m3h);
  const load = [...(derating ?? [])].sort((a, b) => a.aroundC - b.aroundC);
  if (carried.length === 0 && flow.length === 0 && load.length === 0) return null;
  return (
    <View
      className="gap-3"
      testID="part-curves"
      onLayout={({ nativeEvent }) => setWidth(Math.floor(nativeEvent.layout.width))}
    >
      <Head>Curves</Head>
      {width > 0 && carried.length > 0 ? (
        <CurveChart
          title={
            carried.length === 1
              ? `What it carries away, over the temperature outside, at ${carried[0]!.label}`
              : "What it carries away, over the temperature outside"
          }
          curves={carried}
          xUnit={unit}
          yUnit="W"
          width={width}
          testID="curve-cooling"
        />
      ) : null}
      {width > 0 && flow.length > 0 ? (
        <CurveChart
          title="Pressure over its flow"
          curves={[{ points: flow.map((p) => ({ x: p.m3h, y: p.pa })) }]}
          xUnit="m³/h"
          yUnit="Pa"
          width={width}
          testID="curve-flow"
        />
      ) : null}
      {width > 0 && load.length > 0 ? (
        <CurveChart
          title="Share of its rated load, over the temperature around it"
          curves={[{ points: load.map((p) => ({ x: degrees(p.aroundC), y: 100 * p.share })) }]}
          xUnit={unit}
          yUnit="%"
          width={width}
          testID="curve-derating"
        />
      ) : null}
    </View>
  );
}
