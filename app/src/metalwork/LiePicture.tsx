import type { Clamped, Machine } from "@gray-bench/core/metalwork/rules";
import { lieOf } from "@gray-bench/core/metalwork/lies";
import type { FaceWork, SetUp } from "@gray-bench/core/metalwork/result";
import { seenText, TURN_TEXT } from "@gray-bench/core/metalwork/say";
import Svg, { Circle, G, Line, Polygon, Rect, Text } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { FONTS } from "../kit/tokens";

const PAD = 34;
const MOST_PX = 300;
/** So much of the machine is drawn, in sizes of the sheet. */
const BEYOND = 1.5;

/** How the sheet lies on the machine, as who stands before it sees it: datum corner, axes, clamps, which edge is which. */
export function LiePicture({
  work,
  setUp,
  machine,
  clamps,
  width,
}: {
  work: FaceWork;
  setUp: SetUp;
  machine: Machine;
  clamps: readonly Clamped[];
  width: number;
}) {
  const t = useTokens();
  const lie = lieOf(work, machine, clamps, work.turn);
  // Back from the machine's axes to what is seen: x to the right, y up, the datum of the machine at the origin.
  const sx = machine.x === "right" ? 1 : -1;
  const sy = machine.y === "up" ? 1 : -1;
  const seen = (p: { x: number; y: number }) => ({ x: sx * (p.x - setUp.shift.x), y: sy * (p.y - setUp.shift.y) });
  const onSheet = (x: number, y: number) => seen(lie.place({ x, y }));
  const corners = [onSheet(0, 0), onSheet(work.w, 0), onSheet(work.w, work.h), onSheet(0, work.h)];
  // Of the machine: its area lies where the sheet lies from the datum. Of a small sheet not all of it is drawn.
  const along = Math.min(machine.w, lie.size.x * BEYOND);
  const across = Math.min(machine.h, lie.size.y * BEYOND);
  const area = [
    { x: 0, y: 0 },
    { x: sx * lie.way.x * along, y: 0 },
    { x: sx * lie.way.x * along, y: sy * lie.way.y * across },
    { x: 0, y: sy * lie.way.y * across },
  ];
  const all = [...corners, ...area];
  const [x0, x1] = [Math.min(...all.map((p) => p.x)), Math.max(...all.map((p) => p.x))];
  const [y0, y1] = [Math.min(...all.map((p) => p.y)), Math.max(...all.map((p) => p.y))];
  const k = Math.min((width - 2 * PAD) / Math.max(1, x1 - x0), (MOST_PX - 2 * PAD) / Math.max(1, y1 - y0));
  const px = (p: { x: number; y: number }) => ({ x: PAD + (p.x - x0) * k, y: PAD + (y1 - p.y) * k });
  const height = (y1 - y0) * k + 2 * PAD;
  const points = (list: readonly { x: number; y: number }[]): string =>
    list
      .map((p) => px(p))
      .map((p) => `${p.x},${p.y}`)
      .join(" ");
  const middle = px(onSheet(work.w / 2, work.h / 2));
  const top = px(onSheet(work.w / 2, work.h * 0.97));
  const datum = px({ x: 0, y: 0 });
  const corner = px(onSheetDatum(corners));
  const sideways = work.turn === 90 || work.turn === 270;
  const arrow = 30;
  const label = { fontFamily: FONTS.mono, fontSize: 12, fill: t.graphite } as const;
  const words = `The sheet on ${machine.name}: ${seenText(work)} side up${work.turn === 0 ? "" : `, ${TURN_TEXT[work.turn]}`}, its ${machine.corner} corner on the datum`;
  return (
    <Svg width={width} height={height} role="img" aria-label={words} testID="lie">
      <Polygon points={points(area)} fill="none" stroke={t.slate} strokeWidth={1} strokeDasharray="5 4" />
      <Polygon points={points(corners)} fill={t.tray} stroke={t.graphite} strokeWidth={2} />
      {lie.clamps
        .filter((c) => Math.abs(c.x) < along && Math.abs(c.y) < across)
        .map((c, i) => {
          const a = px({ x: sx * c.x, y: sy * c.y });
          const b = px({ x: sx * (c.x + c.w), y: sy * (c.y + c.h) });
          return (
            <Rect
              key={i}
              x={Math.min(a.x, b.x)}
              y={Math.min(a.y, b.y)}
              width={Math.max(6, Math.abs(a.x - b.x))}
              height={Math.max(6, Math.abs(a.y - b.y))}
              fill={t.graphite}
            />
          );
        })}
      <G>
        <Circle cx={datum.x} cy={datum.y} r={7} fill="none" stroke={t.verdigris} strokeWidth={3} />
        <Line x1={datum.x} y1={datum.y} x2={datum.x + sx * arrow} y2={datum.y} stroke={t.verdigris} strokeWidth={3} />
        <Line x1={datum.x} y1={datum.y} x2={datum.x} y2={datum.y - sy * arrow} stroke={t.verdigris} strokeWidth={3} />
        <Text x={datum.x + sx * arrow - 4} y={datum.y + sy * 16 + 4} {...label}>
          X
        </Text>
        <Text x={datum.x - sx * 14 - 4} y={datum.y - sy * arrow + 6} {...label}>
          Y
        </Text>
      </G>
      <Text x={middle.x} y={middle.y} textAnchor="middle" {...label} fontSize={15}>
        {work.face}
      </Text>
      <Text x={middle.x} y={middle.y + 18} textAnchor="middle" {...label}>
        {seenText(work)} up
      </Text>
      <G>
        <Circle cx={top.x} cy={top.y} r={5} fill={t.graphite} />
        <Text
          x={top.x + (sideways ? (work.turn === 90 ? 10 : -10) : 0)}
          y={top.y + (sideways ? -24 : work.turn === 0 ? 20 : -12)}
          textAnchor={sideways ? (work.turn === 90 ? "start" : "end") : "middle"}
          {...label}
        >
          top edge
        </Text>
      </G>
      <Circle cx={corner.x} cy={corner.y} r={2} fill={t.verdigris} />
    </Svg>
  );
}

/** The corner of the sheet that lies nearest to the datum. */
const onSheetDatum = (corners: readonly { x: number; y: number }[]): { x: number; y: number } =>
  [...corners].sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y))[0]!;
