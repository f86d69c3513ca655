import type { CrossingEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { memo, useMemo } from "react";
import { Circle, G, Line, Text } from "react-native-svg";
import type { Layout } from "./useSheet";
import { useTokens } from "../kit/settings";
import { FONTS } from "../kit/tokens";
import type { View } from "../kit/drawing/useZoom";

interface Seen {
  tag: string;
  ends: { x: number; y: number }[];
}

/** Where each crossing leaves one face and enters another, on the sheet. */
function seenOf(routes: RoutesResult, layout: Layout): Seen[] {
  return routes.edges
    .filter((e): e is CrossingEdge => e.kind === "crossing")
    .map(({ tag, a, b }) => ({
      tag,
      ends: [a, b].flatMap((n) => {
        const { face, x, y } = routes.nodes[n]!;
        return layout.faces.has(face) ? [layout.at(face, x, y)] : [];
      }),
    }))
    .filter((c) => c.ends.length > 0);
}

/** Crossings with their ends, and which end belongs to which. They keep their size at every scale. */
export const CrossingLayer = memo(function CrossingLayer({
  routes,
  layout,
  view,
  chosen,
}: {
  routes: RoutesResult;
  layout: Layout;
  view: View;
  chosen?: string | undefined;
}) {
  const t = useTokens();
  const all = useMemo(() => seenOf(routes, layout), [routes, layout]);
  const px = (p: { x: number; y: number }) => ({ x: p.x * view.k + view.x, y: p.y * view.k + view.y });
  return (
    <G>
      {all.map(({ tag, ends }) => {
        const [a, b] = ends.map(px);
        const ink = tag === chosen ? t.verdigris : t.harbour;
        return (
          <G key={tag}>
            {b ? (
              <Line
                x1={a!.x}
                y1={a!.y}
                x2={b.x}
                y2={b.y}
                stroke={ink}
                strokeWidth={1.2}
                strokeDasharray="1 5"
                strokeLinecap="round"
              />
            ) : null}
            {[a, b].map((p, i) =>
              p ? (
                <G key={i}>
                  <Circle cx={p.x} cy={p.y} r={6} fill={t.paper} stroke={ink} strokeWidth={tag === chosen ? 3 : 1.5} />
                  <Circle cx={p.x} cy={p.y} r={2} fill={ink} />
                  <Text x={p.x + 9} y={p.y - 5} fontSize={11} fontFamily={FONTS.mono} fill={ink}>
                    {tag}
                  </Text>
                </G>
              ) : null,
            )}
          </G>
        );
      })}
    </G>
  );
});
