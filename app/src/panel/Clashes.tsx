import type { Design } from "@gray-bench/core/design/model";
import { markAccepted, type OpenPoint } from "@gray-bench/core/design/open-points";
import { CLASH_KINDS, type PanelResult } from "@gray-bench/core/panel/result";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { PointActions } from "../edits/PointActions";
import { ToldLine } from "../edits/Told";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { Empty } from "../kit/States";
import { Body, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import type { Outcome } from "../queries/useEdits";

const KINDS: ReadonlySet<string> = new Set(CLASH_KINDS);

/** Open points of what wants the same room, accepted ones last. */
export function useClashPoints(panel: PanelResult, design: Design | undefined): OpenPoint[] {
  return useMemo(
    () =>
      markAccepted(
        panel.open.filter((p) => KINDS.has(p.kind)),
        design?.accepted,
      ),
    [panel, design?.accepted],
  );
}

/** What clashes, with how it comes free; of one thing where it is named. */
export function Clashes({ job, points, of }: { job: string; points: readonly OpenPoint[]; of?: string }) {
  const [told, setTold] = useState<Outcome | null>(null);
  const wide = useWide();
  const shown = of === undefined ? points : points.filter((p) => p.of === of);
  const rows = shown.map((p) => (
    <View key={p.id} role="listitem" className="gap-1 border-b border-line p-3" testID={`clash-${p.id}`}>
      <Body>{keepTags(p.text)}</Body>
      <Small>{keepTags(p.remedy)}</Small>
      <View className="flex-row flex-wrap gap-2">
        {of === undefined && (p.thing === "device" || p.thing === "duct" || p.thing === "rail") ? (
          <Button
            label={`Show ${keepTags(p.of)}`}
            onPress={() => choose({ [p.thing]: p.of, ...(wide ? {} : { show: undefined }) })}
            testID={`clash-show-${p.id}`}
          />
        ) : null}
        <PointActions job={job} point={p} laid={setTold} />
      </View>
    </View>
  ));
  if (of !== undefined) return rows.length === 0 ? null : <View role="list">{rows}</View>;
  return (
    <View className="min-h-0 flex-1" testID="clashes">
      <ToldLine outcome={told} testID="clashes-told" />
      {rows.length === 0 ? (
        <Empty
          title="Nothing clashes"
          text="No two bodies want the same room, with doors shut and as they open, and every part has the room around it that it asks for."
        />
      ) : (
        <ScrollView>
          <View role="list" aria-label="Clashes">
            {rows}
          </View>
        </ScrollView>
      )}
    </View>
  );
}
