import type { RoutesResult, WireRoute } from "@gray-bench/core/routes/result";
import { stretchesOf } from "@gray-bench/core/routes/way";
import { memo, useMemo } from "react";
import { Circle, G, Path } from "react-native-svg";
import type { Layout } from "../sheet/useSheet";
import type { Box, View } from "../kit/drawing/useZoom";
import { useTokens } from "../kit/settings";
import { WIRE_COLOURS } from "../kit/tokens";

interface Line {
  d: string;
  ends: { x: number; y: number }[];
  /** Leaps from face to face: where a wire leaves one and enters the next. */
  leaps: string;
  box: Box | null;
}

/** The way of a wire as lines on the sheet. */
export function lineOf(result: RoutesResult, wire: WireRoute, layout: Layout): Line {
  const all: { x: number; y: number }[] = [];
  let leaps = "";
  let last: { x: number; y: number } | null = null;
  const d = stretchesOf(result, wire)
    .filter((s) => layout.faces.has(s.face))
    .map((s) => {
      const points = s.points.map((p) => layout.at(s.face, p.x, p.y));
      const first = points[0]!;
      if (last) leaps += `M${last.x} ${last.y}L${first.x} ${first.y}`;
      last = points[points.length - 1]!;
      all.push(...points);
      return `M${points.map((p) => `${p.x} ${p.y}`).join("L")}`;
    })
    .join("");
  if (all.length === 0) return { d: "", ends: [], leaps: "", box: null };
  const xs = all.map((p) => p.x);
  const ys = all.map((p) => p.y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return {
    d,
    leaps,
    ends: [all[0]!, all[all.length - 1]!],
    box: { x, y, w: Math.max(...xs) - x, h: Math.max(...ys) - y },
  };
}

/** The chosen wire in its real colour; hollow and hatched when the colour is not known. */
export function WireLayer({ line, colour }: { line: Line; colour: string | null }) {
  const t = useTokens();
  const inks = colour === null ? undefined : WIRE_COLOURS[colour];
  const keep = {
    fill: "none",
    vectorEffect: "non-scaling-stroke" as const,
    strokeLinejoin: "round" as const,
  };
  return (
    <G>
      <Path d={line.leaps} stroke={t.graphite} strokeWidth={2} strokeDasharray="2 6" {...keep} />
      <Path d={line.d} stroke={t.paper} strokeWidth={11} strokeOpacity={0.8} {...keep} />
      <Path testID="wire-line" d={line.d} stroke={t.graphite} strokeWidth={7} {...keep} />
      <Path d={line.d} stroke={inks?.[0] ?? t.paper} strokeWidth={4} {...keep} />
      {inks?.[1] ? <Path d={line.d} stroke={inks[1]} strokeWidth={4} strokeDasharray="8 8" {...keep} /> : null}
      {inks ? null : <Path d={line.d} stroke={t.slate} strokeWidth={4} strokeDasharray="2 5" {...keep} />}
    </G>
  );
}

/** Other wires, thin and without their colour: the chosen one is seen among them. */
export const OtherWires = memo(function OtherWires({
  result,
  wires,
  layout,
}: {
  result: RoutesResult;
  wires: readonly WireRoute[];
  layout: Layout;
}) {
  const t = useTokens();
  const lines = useMemo(() => wires.map((w) => lineOf(result, w, layout)), [result, wires, layout]);
  const thin = { fill: "none", vectorEffect: "non-scaling-stroke" as const, strokeWidth: 1.5 };
  return (
    <G>
      <Path testID="other-lines" d={lines.map((l) => l.d).join("")} stroke={t.harbour} {...thin} />
      <Path d={lines.map((l) => l.leaps).join("")} stroke={t.harbour} strokeDasharray="2 6" {...thin} />
    </G>
  );
});

/** Rings at both ends, the same size at every scale. */
export function WireEnds({ line, view }: { line: Line; view: View }) {
  const t = useTokens();
  return (
    <G>
      {line.ends.map((p, i) => (
        <Circle
          key={i}
          cx={p.x * view.k + view.x}
          cy={p.y * view.k + view.y}
          r={6}
          fill={i === 0 ? t.graphite : t.paper}
          stroke={t.graphite}
          strokeWidth={3}
        />
      ))}
    </G>
  );
}

export function useLine(result: RoutesResult, wire: WireRoute | undefined, layout: Layout): Line | null {
  return useMemo(() => (wire ? lineOf(result, wire, layout) : null), [result, wire, layout]);
}
