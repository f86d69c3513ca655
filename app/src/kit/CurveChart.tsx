import { View } from "react-native";
import Svg, { Circle, Line, Path, Text as SvgText } from "react-native-svg";
import { useTokens } from "./settings";
import { Small } from "./Text";
import { FONTS } from "./tokens";

const H = 170;
const EDGE = { left: 52, right: 14, top: 22, foot: 26 };
const STEPS = [0, 0.5, 1] as const;
const DASHES = [undefined, "8 4", "2 4", "10 3 2 3"] as const;

export interface Curve {
  /** What this line holds for, where there are several. */
  label?: string;
  points: readonly { x: number; y: number }[];
}

interface Props {
  title: string;
  curves: readonly Curve[];
  xUnit: string;
  yUnit: string;
  width: number;
  testID: string;
}

const shown = (v: number): string => String(Math.round(v * 100) / 100);

/** Lines of a data sheet: points as they are told, straight between them. Values go up from nought. */
export function CurveChart({ title, curves, xUnit, yUnit, width, testID }: Props) {
  const t = useTokens();
  const all = curves.flatMap((c) => c.points);
  const [low, high] = [Math.min(...all.map((p) => p.x)), Math.max(...all.map((p) => p.x))];
  const most = Math.max(...all.map((p) => p.y)) || 1;
  const x = (v: number): number => EDGE.left + ((v - low) / (high - low || 1)) * (width - EDGE.left - EDGE.right);
  const y = (v: number): number => H - EDGE.foot - (v / most) * (H - EDGE.foot - EDGE.top);
  const word = (text: string, at: number, atY: number, anchor: "start" | "middle" | "end") => (
    <SvgText
      key={`${text} ${at} ${atY}`}
      x={at}
      y={atY}
      fontSize={12}
      fontFamily={FONTS.mono}
      fill={t.graphite}
      textAnchor={anchor}
    >
      {text}
    </SvgText>
  );
  return (
    <View className="gap-1" testID={testID}>
      <Small>{title}</Small>
      <Svg
        width={width}
        height={H}
        role="img"
        aria-label={`${title}: ${all.map((p) => `${shown(p.x)} ${xUnit} ${shown(p.y)} ${yUnit}`).join(", ")}`}
      >
        {STEPS.map((f) => (
          <Line key={f} x1={EDGE.left} x2={width - EDGE.right} y1={y(f * most)} y2={y(f * most)} stroke={t.line} />
        ))}
        {STEPS.map((f) => word(shown(f * most), EDGE.left - 5, y(f * most) + 4, "end"))}
        {word(yUnit, EDGE.left - 5, 10, "end")}
        {STEPS.map((f) => {
          const v = low + (high - low) * f;
          return word(
            `${shown(v)}${f === 1 ? ` ${xUnit}` : ""}`,
            x(v),
            H - 8,
            f === 0 ? "start" : f === 1 ? "end" : "middle",
          );
        })}
        {curves.map((c, i) => (
          <Path
            key={c.label ?? i}
            d={c.points.map((p, k) => `${k === 0 ? "M" : "L"}${x(p.x).toFixed(1)} ${y(p.y).toFixed(1)}`).join("")}
            fill="none"
            stroke={t.harbour}
            strokeWidth={2.5}
            {...(DASHES[i % DASHES.length] ? { strokeDasharray: DASHES[i % DASHES.length]! } : {})}
          />
        ))}
        {all.map((p, i) => (
          <Circle key={i} cx={x(p.x)} cy={y(p.y)} r={3.5} fill={t.harbour} />
        ))}
      </Svg>
      {curves.length > 1 ? (
        <Small>{curves.map((c, i) => `${["━", "╍", "┄", "╌"][i % DASHES.length]} ${c.label ?? ""}`).join("   ")}</Small>
      ) : null}
    </View>
  );
}
