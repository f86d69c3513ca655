import type { PanelResult } from "@gray-bench/core/panel/result";
import { memo } from "react";
import { G, Text } from "react-native-svg";
import { useTokens } from "../settings";
import { FONTS } from "../tokens";
import type { Layout } from "./useSheet";
import type { Box, View } from "./useZoom";

const FONT_PX = 11;
const CHAR_PX = 6.7;
/** More labels than this help nobody and cost time. */
const MOST = 400;

const meets = (a: Box, b: Box): boolean => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/** Tags of devices and ducts, where there is room for them at this scale. */
export const Labels = memo(function Labels({
  panel,
  layout,
  view,
  visible,
  ducts = true,
}: {
  panel: PanelResult;
  layout: Layout;
  view: View;
  visible: Box;
  ducts?: boolean;
}) {
  const t = useTokens();
  const px = (x: number, y: number) => ({ x: x * view.k + view.x, y: y * view.k + view.y });
  const labels: { key: string; text: string; x: number; y: number; upright: boolean; faint: boolean }[] = [];
  const add = (key: string, text: string, box: Box, faint: boolean): void => {
    if (labels.length >= MOST || !meets(box, visible)) return;
    const [w, h] = [box.w * view.k, box.h * view.k];
    const length = text.length * CHAR_PX;
    const lies = w >= length && h >= FONT_PX;
    if (!lies && !(h >= length && w >= FONT_PX)) return;
    labels.push({ key, text, ...px(box.x + box.w / 2, box.y + box.h / 2), upright: !lies, faint });
  };
  for (const d of panel.devices)
    add(`d${d.tag}`, d.tag, layout.boxOf(d.face, d.outline.x, d.outline.y, d.outline.w, d.outline.h), false);
  if (ducts)
    for (const d of panel.ducts)
      add(`w${d.tag}`, d.tag, layout.boxOf(d.face, d.outline.x, d.outline.y, d.outline.w, d.outline.h), true);
  return (
    <G>
      {[...layout.faces.values()].map((f) => {
        const b = layout.boxOf(f.id, 0, 0, f.w, f.h);
        const p = px(b.x, b.y);
        return meets({ ...b, y: b.y - 60 }, visible) && f.w * view.k > 40 ? (
          <Text key={f.id} x={p.x} y={p.y - 6} fontSize={FONT_PX + 1} fontFamily={FONTS.medium} fill={t.graphite}>
            {`${f.enclosure} ${f.kind}`}
          </Text>
        ) : null;
      })}
      {labels.map((l) => (
        <Text
          key={l.key}
          x={l.x}
          y={l.y + FONT_PX * 0.35}
          fontSize={FONT_PX}
          fontFamily={FONTS.mono}
          fill={l.faint ? t.slate : t.graphite}
          textAnchor="middle"
          transform={l.upright ? `rotate(-90 ${l.x} ${l.y})` : undefined}
        >
          {l.text}
        </Text>
      ))}
    </G>
  );
});
