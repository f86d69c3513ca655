import type { JobDetail } from "@gray-bench/contract/jobs";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { layOut } from "@gray-bench/core/panel/sheet";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import Svg, { G } from "react-native-svg";
import { LinkLine } from "../kit/Button";
import { jobHref, pointHref } from "../kit/links";
import { SeveritySign } from "../kit/Severity";
import { Small } from "../kit/Text";
import { useStage } from "../queries/useJobs";
import { PanelLayer } from "../sheet/PanelLayer";
import { layoutOf } from "../sheet/useSheet";
import { marksOf, type Mark } from "./marks";

/** Room of the drawing beside the stages, px. */
const WIDTH_PX = 380;
const MOST_HIGH_PX = 520;
/** Side of a mark that is pointed at, px. */
const MARK_PX = 26;

/** The cabinets in small beside the stages: what is open is marked where it stands, and leads to it. */
export function Cabinets({ job, points }: { job: JobDetail; points: readonly OpenPoint[] }) {
  // While it is computed anew that of before stands: nothing jumps.
  const { data: panel } = useStage<PanelResult>(job.code, "panel");
  return panel && panel.faces.length > 0 ? <Drawn job={job} panel={panel} points={points} /> : null;
}

function Drawn({ job, panel, points }: { job: JobDetail; panel: PanelResult; points: readonly OpenPoint[] }) {
  const layout = useMemo(
    () =>
      layoutOf(
        layOut(panel, new Map(Object.entries(job.hinges)), {
          arrangement: "unfolded",
          aspect: WIDTH_PX / MOST_HIGH_PX,
        }),
      ),
    [panel, job.hinges],
  );
  const { box } = layout;
  const k = Math.min(WIDTH_PX / box.w, MOST_HIGH_PX / box.h);
  const marks = useMemo(() => marksOf(points, panel, layout, k, MARK_PX), [points, panel, layout, k]);
  const count = marks.reduce((sum, m) => sum + m.points.length, 0);
  const counted = count === 1 ? "1 open point" : `${count} open points`;
  return (
    <View className="gap-1" testID="cabinets">
      <View style={{ width: box.w * k, height: box.h * k + 4 }}>
        <Svg
          width={box.w * k}
          height={box.h * k + 4}
          role="img"
          aria-label={`Faces of ${job.code}, ${counted} marked where they stand`}
        >
          <G transform={`scale(${k}) translate(${-box.x} ${-box.y})`}>
            <PanelLayer panel={panel} layout={layout} />
          </G>
        </Svg>
        {marks.map((m) => (
          <MarkLink key={`${m.x} ${m.y}`} job={job.code} mark={m} />
        ))}
      </View>
      <View className="flex-row flex-wrap items-center justify-between gap-2">
        <Small>
          {count === 0
            ? "Nothing is open of a device, rail, duct or face."
            : `${counted} of devices, rails, ducts and faces; the list has the others.`}
        </Small>
        <LinkLine href={jobHref(job.code, "panel")} label="To the panel" testID="to-panel" />
      </View>
    </View>
  );
}

function MarkLink({ job, mark: { x, y, severity, points } }: { job: string; mark: Mark }) {
  const one = points[0]!;
  const label =
    points.length === 1
      ? `${severity}: ${one.text}`
      : `${points.length} open points, the worst a ${severity}: ${[...new Set(points.map((p) => p.of))].join(", ")}`;
  return (
    <Link
      href={points.length === 1 ? pointHref(job, one) : jobHref(job, "open-points")}
      aria-label={label}
      testID={`mark-${one.of}`}
      className="absolute items-center justify-center"
      style={{ left: x - MARK_PX / 2, top: y - MARK_PX / 2, width: MARK_PX, height: MARK_PX, display: "flex" }}
    >
      <View className="rounded-edge bg-paper p-0.5">
        <SeveritySign severity={severity} size={16} />
      </View>
    </Link>
  );
}
