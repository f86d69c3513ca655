import type { PanelResult } from "@gray-bench/core/panel/result";
import type { PieceEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { memo, useMemo } from "react";
import { G, Path, Text } from "react-native-svg";
import type { Layout } from "../sheet/useSheet";
import { seenPart, textPlace } from "../kit/drawing/textPlace";
import type { Box, View } from "../kit/drawing/useZoom";
import { meets, useControls } from "../kit/drawing/controls";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { FONTS } from "../kit/tokens";

/** A piece with its outline on the sheet. */
export interface PieceBox extends Box {
  edge: number;
  piece: PieceEdge;
  flat: boolean;
  face: string;
}

/** Outlines of all pieces of duct. */
export function pieceBoxes(panel: PanelResult, result: RoutesResult, layout: Layout): PieceBox[] {
  const bars = new Map(panel.ducts.map((d) => [d.tag, d]));
  return result.ducts.flatMap((duct) => {
    const bar = bars.get(duct.tag);
    // Its face may not be laid out.
    if (!bar || !layout.faces.has(bar.face)) return [];
    return duct.pieces.map((edge) => {
      const piece = result.edges[edge] as PieceEdge;
      const [a, b] = [result.nodes[piece.a]!, result.nodes[piece.b]!];
      const flat = bar.run === "right";
      const o = bar.outline;
      const box = flat
        ? layout.boxOf(bar.face, a.x, o.y, b.x - a.x, o.h)
        : layout.boxOf(bar.face, o.x, a.y, o.w, b.y - a.y);
      return { ...box, edge, piece, flat, face: bar.face };
    });
  });
}

/** The filled part of a piece: it rises from the lower (or left) side of the duct. */
function filled(b: PieceBox): string {
  const share = Math.min(1, b.piece.fillPercent / 100);
  return b.flat
    ? `M${b.x} ${b.y + b.h}h${b.w}v${-b.h * share}h${-b.w}z`
    : `M${b.x} ${b.y}v${b.h}h${b.w * share}v${-b.h}z`;
}

/** Short strokes across the edge of a piece that is over its limit. */
function hatched(b: PieceBox): string {
  const out: string[] = [];
  const [length, step, depth] = [b.flat ? b.w : b.h, 14, 10];
  for (let s = 0; s < length; s += step) {
    out.push(
      b.flat
        ? `M${b.x + s} ${b.y - depth / 2}l${depth} ${depth}`
        : `M${b.x + b.w - depth / 2} ${b.y + s}l${depth} ${depth}`,
    );
  }
  return out.join("");
}

export const FillLayer = memo(function FillLayer({ boxes }: { boxes: readonly PieceBox[] }) {
  const t = useTokens();
  const paths = useMemo(() => {
    const of = (state: PieceEdge["state"]): PieceBox[] =>
      boxes.filter((b) => b.piece.state === state && b.piece.wires > 0);
    return {
      ok: of("ok").map(filled).join(""),
      watch: of("watch").map(filled).join(""),
      over: of("over").map(filled).join(""),
      hatch: of("over").map(hatched).join(""),
      seams: boxes.map((b) => (b.flat ? `M${b.x} ${b.y}v${b.h}` : `M${b.x} ${b.y + b.h}h${b.w}`)).join(""),
    };
  }, [boxes]);
  const thin = { strokeWidth: 1, vectorEffect: "non-scaling-stroke" as const };
  return (
    <G>
      <Path d={paths.ok} fill={t.slate} fillOpacity={0.4} />
      <Path d={paths.watch} fill={t.ochre} fillOpacity={0.55} />
      <Path d={paths.over} fill={t.brick} fillOpacity={0.6} />
      <Path d={paths.hatch} fill="none" stroke={t.brick} {...thin} strokeWidth={1.5} />
      <Path d={paths.seams} fill="none" stroke={t.line} {...thin} />
    </G>
  );
});

const FONT_PX = 12;
const CHAR_PX = 6.6;
const MOST = 250;

/** Percentages written in the ducts, with the word where it is too much. */
export const FillLabels = memo(function FillLabels({
  boxes,
  view,
  seen,
  visible,
}: {
  boxes: readonly PieceBox[];
  view: View;
  seen: Box;
  visible: Box;
}) {
  const t = useTokens();
  const scale = useTextScale();
  const controls = useControls();
  const labels = boxes
    .flatMap((b) => {
      const { fillPercent, insideMm2, state, wires } = b.piece;
      if (wires === 0 || !seenPart(b, visible)) return [];
      const fill =
        insideMm2 === 0
          ? "size not known"
          : `${Math.round(fillPercent)} %${state === "over" ? " over" : state === "watch" ? " watch" : ""}`;
      for (const text of [`${b.piece.duct}  ${fill}`, fill]) {
        const place = textPlace(b, seen, view, text.length * CHAR_PX * scale, FONT_PX * scale);
        // Never across the duct: it reads along it.
        if (!place || place.upright !== !b.flat) continue;
        const [across, up] = [text.length * CHAR_PX * scale, FONT_PX * scale];
        const [w, h] = place.upright ? [up, across] : [across, up];
        const spot = { x: place.x - w / 2, y: place.y - h / 2, w, h };
        if (!controls.some((c) => meets(c, spot))) return [{ edge: b.edge, text, place }];
      }
      return [];
    })
    .slice(0, MOST);
  return (
    <G>
      {labels.map(({ edge, text, place: { x, y, upright } }) => (
        <Text
          key={edge}
          x={x}
          y={y + FONT_PX * scale * 0.35}
          fontSize={FONT_PX * scale}
          fontFamily={FONTS.medium}
          fill={t.graphite}
          textAnchor="middle"
          transform={upright ? `rotate(-90 ${x} ${y})` : undefined}
        >
          {text}
        </Text>
      ))}
    </G>
  );
});
