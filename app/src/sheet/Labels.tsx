import type { PanelResult, PlacedDevice } from "@gray-bench/core/panel/result";
import { memo } from "react";
import { G, Rect, Text } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { FONTS } from "../kit/tokens";
import { meets, useControls } from "../kit/drawing/controls";
import { seenPart, textPlace } from "../kit/drawing/textPlace";
import type { Layout } from "./useSheet";
import type { Box, View } from "../kit/drawing/useZoom";

/** Beside text of the usual size, px. */
const FONT_PX = 12;
const CHAR_PX = 7.3;
const LINE_PX = 15;
/** Lines of room a device must have before its texts and its part are written under its tag. */
const MORE_LINES = 4;
/** More labels than this help nobody and cost time. */
const MOST = 400;
const NOTHING: readonly Box[] = [];

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
  avoid = NOTHING,
}: {
  panel: PanelResult;
  layout: Layout;
  view: View;
  /** What is drawn of the sheet: more than is seen, so that panning shows no empty edge. */
  visible: Box;
  /** What the view shows of the sheet. */
  seen: Box;
  ducts?: boolean;
  /** What else is written there, px: tags keep off it. */
  avoid?: readonly Box[];
}) {
  const t = useTokens();
  const px = (x: number, y: number) => ({ x: x * view.k + view.x, y: y * view.k + view.y });
  const scale = useTextScale();
  const [fontPx, charPx, linePx] = [FONT_PX * scale, CHAR_PX * scale, LINE_PX * scale];
  const width = (text: string): number => text.length * charPx;
  const titlePx = fontPx + 1;
  const controls = useControls();
  const said: Box[] = [];
  const titles = [...layout.faces.values()].flatMap((f) => {
    const b = layout.boxOf(f.id, 0, 0, f.w, f.h);
    const part = seenPart({ ...b, y: b.y - 60, h: b.h + 60 }, seen);
    if (!part || f.w * view.k <= 40) return [];
    // Above its face; on the upper edge of the view where that is out of sight.
    const title = `${f.enclosure} ${f.kind}`;
    const corner = px(part.x, b.y);
    const top = px(0, seen.y).y;
    // Names of pins stand between it and the face, where there is room for any.
    const rise = Math.max(6, Math.min(24 * scale, 20 * view.k));
    const isInside = corner.y - titlePx - rise < top;
    const first = isInside ? { x: corner.x + 6, y: top + titlePx + 7 } : { x: corner.x, y: corner.y - rise };
    const w = (title.length + 1) * charPx + 6;
    const boxAt = (x: number): Box => ({ x: x - 4, y: first.y - titlePx - 2, w, h: titlePx + 7 });
    // Further right along the same edge where something else is written there.
    const places = Array.from({ length: 8 }, (_, i) => first.x + (i * w) / 2);
    const x = places.find((p) => p + w < px(part.x + part.w, 0).x && !avoid.some((o) => meets(o, boxAt(p))));
    const at = { x: x ?? first.x, y: first.y };
    const box = boxAt(at.x);
    // One that would lie below the buttons is not read anyhow.
    if (controls.some((c) => meets(c, box))) return [];
    if (said.some((s) => meets(s, box))) return [];
    said.push(box);
    return [{ id: f.id, title, at, box: isInside ? box : null, spot: box }];
  });
  const labels: Label[] = [];
  // Nothing is written below buttons, scale bar and titles.
  const taken: Box[] = [...controls, ...titles.map((l) => l.spot), ...avoid];
  const add = (key: string, tag: string, box: Box, rest: string[], faint: boolean): void => {
    if (!meets(box, visible)) return;
    const place = textPlace(box, seen, view, width(tag), fontPx);
    if (!place) return;
    const part = seenPart(box, seen) ?? box;
    const [w, h] = [part.w * view.k, part.h * view.k];
    const lines = [tag];
    if (!place.upright && h >= MORE_LINES * linePx) {
      const fits = rest.filter((line) => width(line) <= w - charPx);
      lines.push(...fits.slice(0, Math.floor(h / linePx) - 3));
    }
    // No tag covers another: of two on one spot that of the one named first stands. The tag alone may have room where more has not.
    const spotOf = (of: readonly string[]): Box => {
      const [long, high] = [Math.max(...of.map(width)), of.length * linePx];
      const [across, up] = place.upright ? [high, long] : [long, high];
      return { x: place.x - across / 2, y: place.y - up / 2, w: across, h: up };
    };
    for (const some of lines.length > 1 ? [lines, [tag]] : [lines]) {
      const spot = spotOf(some);
      if (taken.some((o) => meets(o, spot))) continue;
      taken.push(spot);
      labels.push({ key, lines: some, faint, ...place });
      return;
    }
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
              y={l.y + fontPx * 0.35 + (i - (l.lines.length - 1) / 2) * linePx}
              fontSize={fontPx}
              fontFamily={i === 0 ? FONTS.mono : FONTS.text}
              fill={l.faint || i > 0 ? t.slate : t.graphite}
              textAnchor="middle"
            >
              {line}
            </Text>
          ))}
        </G>
      ))}
      {titles.map(({ id, title, at, box }) => (
        <G key={id}>
          {box ? <Rect x={box.x} y={box.y} width={box.w} height={box.h} fill={t.paper} opacity={0.9} /> : null}
          <Text x={at.x} y={at.y} fontSize={titlePx} fontFamily={FONTS.medium} fill={t.graphite}>
            {title}
          </Text>
        </G>
      ))}
    </G>
  );
});
