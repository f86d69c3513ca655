import type { StageSummary } from "@gray-bench/contract/jobs";
import { STAGE_TITLES } from "@gray-bench/core/stage-names";
import { Link, usePathname } from "expo-router";
import { useEffect, useRef } from "react";
import { ScrollView, Text, View } from "react-native";
import Svg, { G, Line, Path, Rect } from "react-native-svg";
import { jobHref } from "./links";
import { useTokens } from "./settings";
import { useTextScale } from "./textScale";
import { RULE_WIDTH } from "./tokens";

interface Props {
  job: string;
  stages: readonly StageSummary[];
  wide: boolean;
}

const total = (s: StageSummary): number => s.open.stop + s.open.check + s.open.note;

const hasFigures = ({ state }: StageSummary): boolean => state !== "not computed" && state !== "not started";

function stateWord(s: StageSummary): string {
  return s.state === "open" ? `${total(s)} open` : s.state;
}

/**
 * The ten stages of a job as the graduations of a steel rule: across the top on a phone, down the
 * left side when wide. The state of each stands in its mark and in words.
 */
export function Rule({ job, stages, wide }: Props) {
  const path = usePathname();
  const scroller = useRef<ScrollView>(null);
  useEffect(() => {
    // Ten graduations are wider than a phone: the one that is open is brought into sight, once they have their widths.
    const frame = requestAnimationFrame(() => {
      const box = scroller.current as unknown as HTMLElement | null;
      box?.querySelector?.("[aria-current=page]")?.scrollIntoView?.({ block: "nearest", inline: "center" });
    });
    return () => cancelAnimationFrame(frame);
  }, [path]);
  const scale = useTextScale();
  const marks = stages.map((s, i) => (
    <Graduation key={s.stage} job={job} stage={s} index={i} wide={wide} here={path.endsWith(`/${s.stage}`)} />
  ));
  return wide ? (
    <View
      role="navigation"
      aria-label="Stages of the job"
      testID="rule"
      style={{ width: RULE_WIDTH * scale }}
      className="border-r border-line bg-tray"
    >
      <ScrollView>{marks}</ScrollView>
    </View>
  ) : (
    <View role="navigation" aria-label="Stages of the job" testID="rule" className="border-b border-line bg-tray">
      <ScrollView ref={scroller} horizontal showsHorizontalScrollIndicator={false}>
        {marks}
      </ScrollView>
    </View>
  );
}

function Graduation({
  job,
  stage,
  index,
  wide,
  here,
}: {
  job: string;
  stage: StageSummary;
  index: number;
  wide: boolean;
  here: boolean;
}) {
  const title = STAGE_TITLES[stage.stage];
  const word = stateWord(stage);
  const built = stage.state !== "not started";
  const inner = (
    <View
      className={
        wide ? `min-h-13 w-full flex-row items-center ${here ? "bg-paper" : ""}` : `h-14 w-23 ${here ? "bg-paper" : ""}`
      }
    >
      <Scale stage={stage} wide={wide} here={here} />
      <View className={wide ? "flex-1 pl-2" : "px-2"}>
        <Text className={`font-medium text-cell ${built ? "text-graphite" : "text-slate"}`}>{title}</Text>
        <Text className="font-table text-tiny text-slate">
          {index + 1} · {word}
        </Text>
      </View>
    </View>
  );
  if (!built) {
    return <View testID={`rule-${stage.stage}`}>{inner}</View>;
  }
  return (
    <Link
      testID={`rule-${stage.stage}`}
      href={jobHref(job, stage.stage)}
      aria-current={here ? "page" : undefined}
      className="block"
    >
      {inner}
    </Link>
  );
}

const SMALL = { pitch: 22, h: 16 };

/** The Rule in small, where jobs stand in a list: the mark of each stage, and in words what is read out. */
export function SmallRule({ stages }: { stages: readonly StageSummary[] }) {
  const t = useTokens();
  const { pitch, h } = SMALL;
  const words = stages.filter((s) => hasFigures(s)).map((s) => `${STAGE_TITLES[s.stage]} ${stateWord(s)}`);
  return (
    <View role="img" aria-label={words.length > 0 ? words.join(", ") : "nothing computed yet"} testID="small-rule">
      <Svg width={pitch * stages.length} height={h} aria-hidden>
        {stages.map((s, i) => (
          <G key={s.stage} x={i * pitch}>
            <Line x1={0.75} y1={0} x2={0.75} y2={h} stroke={hasFigures(s) ? t.graphite : t.slate} strokeWidth={1.5} />
            <Mark state={s.state} cx={pitch / 2 + 1} cy={h / 2} />
          </G>
        ))}
      </Svg>
    </View>
  );
}

/** State of a stage as a shape: a tick, an open bracket, broken lines, nothing. */
function Mark({ state, cx, cy }: { state: StageSummary["state"]; cx: number; cy: number }) {
  const t = useTokens();
  switch (state) {
    case "ready":
      return (
        <Path
          d={`M${cx - 5} ${cy}L${cx - 1} ${cy + 4}L${cx + 5} ${cy - 4}`}
          fill="none"
          stroke={t.verdigris}
          strokeWidth={2}
        />
      );
    case "open":
      return (
        <Path
          d={`M${cx - 4} ${cy - 5}H${cx + 5}V${cy + 5}H${cx - 4}`}
          fill="none"
          stroke={t.graphite}
          strokeWidth={2}
        />
      );
    case "stale":
      return (
        <Path
          d={`M${cx - 5} ${cy - 3}H${cx + 5}M${cx - 5} ${cy + 3}H${cx + 5}`}
          stroke={t.ochre}
          strokeWidth={2}
          strokeDasharray="3 2"
        />
      );
    case "not computed":
    case "not started":
      return null;
  }
}

const H = 14;
const V = 30;

/** A graduation: its height down the side (`min-h-13`), its width across the top (`w-23`), px beside text of the usual size. */
const CELL_PX = { h: 52, w: 92 };

/** The cuts in the steel: a long one for the stage, four short ones to the next; the mark tells the state. */
function Scale({ stage, wide, here }: { stage: StageSummary; wide: boolean; here: boolean }) {
  const t = useTokens();
  const ink = hasFigures(stage) ? t.graphite : t.slate;
  const scale = useTextScale();
  const [w, h] = wide ? [V, CELL_PX.h * scale] : [CELL_PX.w * scale, H];
  const cut = (at: number, length: number, width: number) =>
    wide ? (
      <Line key={at} x1={0} y1={at} x2={length} y2={at} stroke={ink} strokeWidth={width} />
    ) : (
      <Line key={at} x1={at} y1={0} x2={at} y2={length} stroke={ink} strokeWidth={width} />
    );
  const pitch = (wide ? h : w) / 5;
  const [cx, cy] = wide ? [V - 9, h / 2] : [w - 12, 8];
  return (
    <Svg width={w} height={h} aria-hidden>
      {here ? (
        wide ? (
          <Rect x={0} y={0} width={4} height={h} fill={t.verdigris} />
        ) : (
          <Rect x={0} y={0} width={w} height={3} fill={t.verdigris} />
        )
      ) : null}
      {[0, 1, 2, 3, 4].map((i) => cut(i * pitch + 0.75, i === 0 ? (wide ? 18 : H) : wide ? 8 : 6, i === 0 ? 1.5 : 1))}
      <Mark state={stage.state} cx={cx} cy={cy} />
    </Svg>
  );
}
