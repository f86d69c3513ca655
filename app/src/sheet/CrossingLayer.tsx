import type { CrossingEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { memo, useMemo } from "react";
import { Circle, G, Line, Text } from "react-native-svg";
import type { Layout } from "./useSheet";
import { meets, useControls } from "../kit/drawing/controls";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { FONTS } from "../kit/tokens";
import type { Box, View } from "../kit/drawing/useZoom";

/** A crossing by its ends on the sheet, mm. */
export interface SeenCrossing {
  tag: string;
  ends: { x: number; y: number }[];
}

/** Where each crossing leaves one face and enters another, on the sheet. */
export function useCrossings(routes: RoutesResult | undefined, layout: Layout): SeenCrossing[] {
  return useMemo(() => (routes ? seenOf(routes, layout) : []), [routes, layout]);
}

const seenOf = (routes: RoutesResult, layout: Layout): SeenCrossing[] =>
  routes.edges
    .filter((e): e is CrossingEdge => e.kind === "crossing")
    .map(({ tag, a, b }) => ({
      tag,
      ends: [a, b].flatMap((n) => {
        const { face, x, y } = routes.nodes[n]!;
        return layout.faces.has(face) ? [layout.at(face, x, y)] : [];
      }),
    }))
    .filter((c) => c.ends.length > 0);

/** Where tags of crossings are written, beside the sign at each end, px beside text of the usual size. */
const TAG = { px: 12, char: 7.3, right: 9, up: 5 };

/** The room these tags take, px. */
export const crossingTags = (all: readonly SeenCrossing[], view: View, scale: number): Box[] =>
  all.flatMap(({ tag, ends }) =>
    ends.map((e) => tagBox(tag, { x: e.x * view.k + view.x, y: e.y * view.k + view.y }, scale)),
  );

const tagBox = (tag: string, sign: { x: number; y: number }, scale: number): Box => ({
  x: sign.x + TAG.right,
  y: sign.y - TAG.up - TAG.px * scale,
  w: tag.length * TAG.char * scale,
  h: TAG.px * scale,
});

/** Crossings with their ends, and which end belongs to which. They keep their size at every scale. */
export const CrossingLayer = memo(function CrossingLayer({
  crossings,
  view,
  chosen,
}: {
  crossings: readonly SeenCrossing[];
  view: View;
  chosen?: string | undefined;
}) {
  const t = useTokens();
  const scale = useTextScale();
  const controls = useControls();
  const px = (p: { x: number; y: number }) => ({ x: p.x * view.k + view.x, y: p.y * view.k + view.y });
  return (
    <G>
      {crossings.map(({ tag, ends }) => {
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
                  {controls.some((c) => meets(c, tagBox(tag, p, scale))) ? null : (
                    <Text
                      x={p.x + TAG.right}
                      y={p.y - TAG.up}
                      fontSize={TAG.px * scale}
                      fontFamily={FONTS.mono}
                      fill={ink}
                    >
                      {tag}
                    </Text>
                  )}
                </G>
              ) : null,
            )}
          </G>
        );
      })}
    </G>
  );
});
