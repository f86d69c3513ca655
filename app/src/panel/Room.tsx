import type { Design } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { usageOf } from "@gray-bench/core/panel/usage";
import { useMemo } from "react";
import { ScrollView, View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatLength, keepTags } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";

const percent = (share: number): string => `${Math.round(100 * share)} %`;
const MOST_NAMED = 6;

/** A share as a bar: what is taken is filled. */
function Share({ taken, over = false }: { taken: number; over?: boolean }) {
  return (
    <View className="h-2 w-full border border-line bg-paper" aria-hidden>
      <View
        className={over ? "h-full bg-brick" : "h-full bg-verdigris"}
        style={{ width: `${Math.min(100, Math.round(100 * taken))}%` }}
      />
    </View>
  );
}

/** What is left: of rails, of faces, and of what a door carries. */
export function Room({ panel, design, doorMostKg }: { panel: PanelResult; design: Design; doorMostKg: number }) {
  const settings = useSettings();
  const wide = useWide();
  const { rails, faces } = useMemo(() => usageOf(panel, design, { doorMostKg }), [panel, design, doorMostKg]);
  if (rails.length + faces.length === 0)
    return <Empty title="Nothing stands yet" text="No face carries a rail, a duct or a device." />;
  return (
    <ScrollView className="min-h-0 flex-1" testID="room">
      <View className="p-3">
        <Head>Rails</Head>
      </View>
      {rails.length === 0 ? <Small className="px-3">There are none.</Small> : null}
      <View role="list" aria-label="Rails">
        {rails.map((r) => (
          <View key={r.rail} role="listitem" className="gap-1 border-b border-line px-3 py-2" testID={`room-${r.rail}`}>
            <View className="flex-row flex-wrap items-center justify-between gap-2">
              <Button
                label={`Show ${keepTags(r.rail)}`}
                text={keepTags(r.rail)}
                onPress={() => choose({ rail: r.rail, ...(wide ? {} : { show: undefined }) })}
                testID={`room-show-${r.rail}`}
              />
              <Mono>
                {formatLength(r.freeMm, settings)} of {formatLength(r.lengthMm, settings)} free
              </Mono>
            </View>
            <Share taken={1 - r.freeMm / r.lengthMm} />
            <Small>
              {keepTags(r.face)}
              {r.longestMm > 0
                ? `; the longest stretch ${formatLength(r.longestMm, settings)}, from ${formatLength(r.longestAtMm, settings)} on`
                : "; full"}
            </Small>
          </View>
        ))}
      </View>
      <View className="p-3">
        <Head>Faces</Head>
      </View>
      <View role="list" aria-label="Faces">
        {faces.map((f) => (
          <View key={f.face} role="listitem" className="gap-1 border-b border-line px-3 py-2" testID={`room-${f.face}`}>
            <View className="flex-row flex-wrap justify-between gap-2">
              <Mono>{keepTags(f.face)}</Mono>
              <Mono>{percent(f.takenM2 / f.areaM2)} taken</Mono>
            </View>
            <Share taken={f.takenM2 / f.areaM2} />
            <Body className={f.carriesKg !== null && f.kg > f.carriesKg ? "text-brick" : ""}>
              {f.kg} kg{f.carriesKg === null ? "" : ` of ${f.carriesKg} kg that the door carries`}
              {f.carriesKg !== null && f.kg > f.carriesKg ? ": too heavy" : ""}
            </Body>
            {f.unweighed.length > 0 ? (
              <Small>
                {f.unweighed.length} without a weight are not in it:{" "}
                {keepTags(f.unweighed.slice(0, MOST_NAMED).join(", "))}
                {f.unweighed.length > MOST_NAMED ? " …" : ""}
              </Small>
            ) : null}
          </View>
        ))}
      </View>
    </ScrollView>
  );
}
