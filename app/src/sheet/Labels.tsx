import type { PanelResult, PlacedDevice } from "@gray-bench/core/panel/result";
import { memo } from "react";
import { G, Rect, Text } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { FONTS } from "../kit/tokens";
import { seenPart, textPlace } from "../kit/drawing/textPlace";
import type { Layout } from "./useSheet";
import type { Box, View } from "../kit/drawing/useZoom";

const FONT_PX = 11;
const CHAR_PX = 6.7;
const LINE_PX = 14;
/** Room a device must have, px, before its texts and its part are written under its tag. */
const MORE_PX = 4 * LINE_PX;
/** More labels than this help nobody and cost time. */
const MOST = 400;

const meets = (a: Box, b: Box): boolean => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

interface Label {
  key: string;
  /** The tag, then what is said of the thing where there is room. */
  lines: string[];
  x: number;
  y: number;
  upright: boolean;
  faint: boolean;
}

/** What is written under the tag of a device: its own texts, what it is, its part. */
const more = (d: PlacedDevice): string[] => [...d.texts.filter((t) => t !== ""), d.text, d.part];

/** Tags of devices and ducts, where there is room for them at this scale; more of a device when it is large. */
export const Labels = memo(function Labels({
  panel,
  layout,
  view,
  visible,
  seen,
  ducts = true,
}: {
  panel: PanelResult;
  layout: Layout;
  view: View;
  /** What is drawn of the sheet: more than is seen, so that panning shows no empty edge. */
  visible: Box;
  /** What the view shows of the sheet. */
  seen: Box;
  ducts?: boolean;
}) {
  const t = useTokens();
  const px = (x: number, y: number) => ({ x: x * view.k + view.x, y: y * view.k + view.y });
  const width = (text: string): number => text.length * CHAR_PX;
  const labels: Label[] = [];
  const add = (key: string, tag: string, box: Box, rest: string[], faint: boolean): void => {
    if (!meets(box, visible)) return;
    const place = textPlace(box, seen, view, width(tag), FONT_PX);
    if (!place) return;
    const part = seenPart(box, seen) ?? box;
    const [w, h] = [part.w * view.k, part.h * view.k];
    const lines = [tag];
    if (!place.upright && h >= MORE_PX) {
      const fits = rest.filter((line) => width(line) <= w - CHAR_PX);
      lines.push(...fits.slice(0, Math.floor(h / LINE_PX) - 3));
    }
    labels.push({ key, lines, faint, ...place });
  };
  for (const d of panel.devices)
    add(`d${d.tag}`, d.tag, layout.boxOf(d.face, d.outline.x, d.outline.y, d.outline.w, d.outline.h), more(d), false);
  if (ducts)
    for (const d of panel.ducts)
      add(`w${d.tag}`, d.tag, layout.boxOf(d.face, d.outline.x, d.outline.y, d.outline.w, d.outline.h), [], true);
  // Where there are too many, those in the middle of the view.
  if (labels.length > MOST) {
    const middle = px(seen.x + seen.w / 2, seen.y + seen.h / 2);
    const off = (l: Label): number => Math.hypot(l.x - middle.x, l.y - middle.y);
    labels.sort((a, b) => off(a) - off(b)).splice(MOST);
  }
  return (
    <G>
      {labels.map((l) => (
        <G key={l.key} transform={l.upright ? `rotate(-90 ${l.x} ${l.y})` : undefined}>
          {l.lines.map((line, i) => (
            <Text
              key={i}
              x={l.x}
              y={l.y + FONT_PX * 0.35 + (i - (l.lines.length - 1) / 2) * LINE_PX}
              fontSize={FONT_PX}
              fontFamily={i === 0 ? FONTS.mono : FONTS.text}
              fill={l.faint || i > 0 ? t.slate : t.graphite}
              textAnchor="middle"
            >
              {line}
            </Text>
          ))}
        </G>
      ))}
      {[...layout.faces.values()].map((f) => {
        const b = layout.boxOf(f.id, 0, 0, f.w, f.h);
        const part = seenPart({ ...b, y: b.y - 60, h: b.h + 60 }, seen);
        if (!part || f.w * view.k <= 40) return null;
        // Above its face; on the upper edge of the view where that is out of sight.
        const title = `${f.enclosure} ${f.kind}`;
        const corner = px(part.x, b.y);
        const top = px(0, seen.y).y;
        const inside = corner.y - FONT_PX - 6 < top;
        const at = inside ? { x: corner.x + 6, y: top + FONT_PX + 8 } : { x: corner.x, y: corner.y - 6 };
        return (
          <G key={f.id}>
            {inside ? (
              <Rect
                x={at.x - 4}
                y={at.y - FONT_PX - 3}
                width={(title.length + 1) * CHAR_PX + 6}
                height={FONT_PX + 8}
                fill={t.paper}
                opacity={0.9}
              />
            ) : null}
            <Text x={at.x} y={at.y} fontSize={FONT_PX + 1} fontFamily={FONTS.medium} fill={t.graphite}>
              {title}
            </Text>
          </G>
        );
      })}
    </G>
  );
});
