import type { Design } from "@gray-bench/core/design/model";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Head, Small } from "../kit/Text";
import { AIR_PX, FaceMap } from "./FaceMap";

/** Of the width, for faces beside which no air is drawn. */
const OTHERS = 0.62;

/** Losses over every face of a zone; beside each plate the air by height. */
export function Maps({
  zone,
  design,
  panel,
  width,
  most,
}: {
  zone: ZoneHeat;
  design: Design;
  panel: PanelResult;
  width: number;
  /** Height that is in sight. */
  most: number;
}) {
  const faces = useMemo(() => new Map(panel.faces.map((f) => [f.id, f])), [panel]);
  const plates = zone.faces.filter((f) => f.kind === "plate");
  const others = zone.faces.filter((f) => f.kind !== "plate");
  return (
    <View className="gap-3" testID="maps">
      <Head>Where it gets hot</Head>
      <Small>
        Losses spread over {zone.values.smoothingMm} mm. Air by height is a model of slabs that mix: no jets, no gaps
        between devices and the door.
      </Small>
      {plates.map((f) => {
        const face = faces.get(f.face);
        const enclosure = design.enclosures.find((e) => e.tag === face?.enclosure);
        return (
          <FaceMap
            key={f.face}
            face={f}
            smoothingMm={zone.values.smoothingMm}
            width={Math.min(width, AIR_PX + (most * f.w) / f.h)}
            air={
              face && enclosure && zone.column.length > 0
                ? { column: zone.column, values: zone.values, heightMm: enclosure.h, fromMm: face.origin.y }
                : undefined
            }
          />
        );
      })}
      {others.map((f) => (
        <FaceMap
          key={f.face}
          face={f}
          smoothingMm={zone.values.smoothingMm}
          width={Math.min(Math.round(width * OTHERS), (most * f.w) / f.h)}
        />
      ))}
      {zone.faces.length === 0 ? <Small>Nothing that stands on a face here loses heat.</Small> : null}
    </View>
  );
}
