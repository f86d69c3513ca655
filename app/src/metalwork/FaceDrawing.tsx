import type { Design } from "@gray-bench/core/design/model";
import { flattened, ringOf } from "@gray-bench/core/metalwork/rings";
import type { Cut, FaceHole, FaceWork } from "@gray-bench/core/metalwork/result";
import { seenText } from "@gray-bench/core/metalwork/say";
import type { Placed } from "@gray-bench/core/metalwork/sequence";
import { asSeen, frameOf, middleOf } from "@gray-bench/core/metalwork/shapes";
import { finishing, signLines, toolsOf } from "@gray-bench/core/metalwork/signs";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { memo, useMemo } from "react";
import { View } from "react-native";
import { Circle, G, Line, Path, Polyline, Rect, Text } from "react-native-svg";
import { Drawing } from "../kit/drawing/Drawing";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { Small } from "../kit/Text";
import { FONTS } from "../kit/tokens";

/** Signs and numbers keep their size on the screen, px. */
const SIGN_PX = 5;
const NUMBER_PX = 12;
/** A tap this near to a hole means it. px */
const NEAR_PX = 22;
/** So many signs are drawn at once; beyond that one zooms in. */
const MOST_SIGNS = 600;

interface Props {
  work: FaceWork;
  design: Design;
  panel: PanelResult;
  chosen: number | undefined;
  sequence: readonly Placed[];
  /** How many operations are done; null: the order is not shown. */
  upTo: number | null;
  tap(hole: number | undefined): void;
}

interface Shown {
  hole: FaceHole;
  cut: Cut;
  at: { x: number; y: number };
  sign: number;
}

/** A face as its machine takes it, y down: edges to scale, the sign of the tool that finishes each hole, the datum corner. */
export function FaceDrawing({ work, design, panel, chosen, sequence, upTo, tap }: Props) {
  const t = useTokens();
  const scale = useTextScale();
  const shown = useMemo(() => holesShown(work), [work]);
  const sheet = useMemo(() => ({ x: 0, y: 0, w: work.w, h: work.h }), [work.w, work.h]);
  /** Share of its operations that are done, by hole. */
  const done = useMemo(() => {
    if (upTo === null) return null;
    const all = new Map<number, { of: number; is: number }>();
    sequence.forEach(({ hole }, i) => {
      const one = all.get(hole) ?? { of: 0, is: 0 };
      all.set(hole, { of: one.of + 1, is: one.is + (i < upTo ? 1 : 0) });
    });
    return new Map([...all].map(([hole, { of, is }]) => [hole, is / of]));
  }, [sequence, upTo]);
  const flip = (p: { x: number; y: number }) => ({
    x: work.seen === "inside" ? work.w - p.x : p.x,
    y: work.h - p.y,
  });
  const lastChange = upTo === null ? 0 : sequence.slice(0, upTo).reduce((n, p, i) => (p.changed ? i : n), 0);
  const way = upTo === null ? [] : sequence.slice(lastChange, upTo).map(flip);
  const seen = seenText(work);
  return (
    <View className="min-h-0 flex-1" testID="face-drawing">
      <View className="flex-row flex-wrap items-center gap-x-3 border-b border-line bg-tray px-3 py-1">
        <Small className="font-medium text-graphite" testID="seen-from">
          {work.face}, seen from {seen}
        </Small>
        <Small>
          {work.holes.length} holes and openings
          {work.lacks.length > 0 ? `, ${work.lacks.length} in no program` : ""}
        </Small>
      </View>
      <Drawing
        sheet={sheet}
        show={undefined}
        label={`${work.face} with its holes, seen from ${seen}`}
        tap={(x, y, k) => {
          const near = shown
            .map((s) => ({ n: s.hole.number, d: distanceTo(s, x, work.h - y) }))
            .sort((a, b) => a.d - b.d)[0];
          tap(near && near.d * k <= NEAR_PX && near.n !== chosen ? near.n : undefined);
        }}
        overlay={(view, visible) => {
          const here = shown.filter(
            (s) =>
              s.at.x >= visible.x &&
              s.at.x <= visible.x + visible.w &&
              work.h - s.at.y >= visible.y &&
              work.h - s.at.y <= visible.y + visible.h,
          );
          const px = (p: { x: number; y: number }) => ({
            x: p.x * view.k + view.x,
            y: (work.h - p.y) * view.k + view.y,
          });
          const numbered = numbersThatFit(here.slice(0, MOST_SIGNS), px, chosen, NUMBER_PX * scale);
          return (
            <G>
              {here.slice(0, MOST_SIGNS).map((s) => {
                const p = px(s.at);
                const made = done?.get(s.hole.number) ?? 0;
                const mine = s.hole.number === chosen;
                const colour = mine ? t.verdigris : s.sign < 0 ? t.brick : t.graphite;
                return (
                  <G key={s.hole.number}>
                    {made > 0 ? (
                      <Circle
                        cx={p.x}
                        cy={p.y}
                        r={SIGN_PX + 3}
                        fill={made === 1 ? t.line : "none"}
                        stroke={t.line}
                        strokeWidth={made === 1 ? 0 : 2}
                      />
                    ) : null}
                    {s.sign < 0 ? (
                      <Circle
                        cx={p.x}
                        cy={p.y}
                        r={SIGN_PX}
                        stroke={t.brick}
                        strokeWidth={1.5}
                        strokeDasharray="2 2"
                        fill="none"
                      />
                    ) : (
                      signLines(s.sign, p, SIGN_PX, -1).map((points, i) => (
                        <Polyline
                          key={i}
                          points={points.map((q) => `${q.x},${q.y}`).join(" ")}
                          fill="none"
                          stroke={colour}
                          strokeWidth={mine ? 2.5 : 1.4}
                        />
                      ))
                    )}
                    {mine ? (
                      <Circle cx={p.x} cy={p.y} r={13} stroke={t.verdigris} strokeWidth={2.5} fill="none" />
                    ) : null}
                    {numbered.has(s.hole.number) ? (
                      <Text
                        x={p.x + (mine ? 15 : SIGN_PX + 3)}
                        y={p.y - (mine ? 8 : SIGN_PX)}
                        fontFamily={FONTS.mono}
                        fontSize={NUMBER_PX * scale}
                        fill={colour}
                      >
                        {s.hole.number}
                      </Text>
                    ) : null}
                  </G>
                );
              })}
              <Datum x={view.x} y={work.h * view.k + view.y} colour={t.graphite} />
            </G>
          );
        }}
      >
        <Sheet work={work} design={design} panel={panel} shown={shown} />
        {way.length > 0 ? (
          <Polyline
            points={way.map((p) => `${p.x},${p.y}`).join(" ")}
            fill="none"
            stroke={t.verdigris}
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
        ) : null}
      </Drawing>
    </View>
  );
}

/** Holes whose number finds room beside their sign; the chosen one always does. Others show theirs when drawn larger. */
function numbersThatFit(
  shown: readonly Shown[],
  px: (p: { x: number; y: number }) => { x: number; y: number },
  chosen: number | undefined,
  numberPx: number,
): Set<number> {
  const taken: { x: number; y: number; w: number; h: number }[] = [];
  const found = new Set<number>();
  const places = shown.map((s) => ({ s, p: px(s.at) }));
  for (const { p } of places) taken.push({ x: p.x - SIGN_PX, y: p.y - SIGN_PX, w: 2 * SIGN_PX, h: 2 * SIGN_PX });
  const ordered = [...places].sort((a, b) => Number(b.s.hole.number === chosen) - Number(a.s.hole.number === chosen));
  for (const { s, p } of ordered) {
    const w = String(s.hole.number).length * numberPx * 0.62;
    const box = { x: p.x + SIGN_PX + 1, y: p.y - SIGN_PX - numberPx + 2, w, h: numberPx };
    const free = taken.every(
      (b) => box.x >= b.x + b.w || b.x >= box.x + box.w || box.y >= b.y + b.h || b.y >= box.y + box.h,
    );
    if (!free && s.hole.number !== chosen) continue;
    taken.push(box);
    found.add(s.hole.number);
  }
  return found;
}

/** From a place on the sheet to a hole: 0 within it. */
function distanceTo({ cut }: Shown, x: number, y: number): number {
  const f = frameOf(cut);
  const m = middleOf(cut);
  const inside = Math.hypot(Math.max(f.x - x, 0, x - f.x - f.w), Math.max(f.y - y, 0, y - f.y - f.h));
  // Of two openings that hold a place the one with the nearer middle is meant.
  return inside + Math.hypot(m.x - x, m.y - y) * 1e-3;
}

function holesShown(work: FaceWork): Shown[] {
  const order = toolsOf(work);
  const last = finishing(work);
  return work.holes.map((hole) => {
    const cut = asSeen(work, hole.cut);
    const tool = last.get(hole.number)?.tool;
    return { hole, cut, at: middleOf(cut), sign: tool === undefined ? -1 : order.indexOf(tool) };
  });
}

/** The corner that all is measured from: two arrows. */
const Datum = ({ x, y, colour }: { x: number; y: number; colour: string }) => (
  <G>
    <Circle cx={x} cy={y} r={5} stroke={colour} strokeWidth={2} fill="none" />
    <Line x1={x} y1={y} x2={x + 34} y2={y} stroke={colour} strokeWidth={2} />
    <Polyline
      points={`${x + 28},${y - 4} ${x + 34},${y} ${x + 28},${y + 4}`}
      stroke={colour}
      strokeWidth={2}
      fill="none"
    />
    <Line x1={x} y1={y} x2={x} y2={y - 34} stroke={colour} strokeWidth={2} />
    <Polyline
      points={`${x - 4},${y - 28} ${x},${y - 34} ${x + 4},${y - 28}`}
      stroke={colour}
      strokeWidth={2}
      fill="none"
    />
  </G>
);

const Sheet = memo(function Sheet({
  work,
  design,
  panel,
  shown,
}: Pick<Props, "work" | "design" | "panel"> & { shown: readonly Shown[] }) {
  const t = useTokens();
  const own = design.faces.find((f) => `${f.enclosure}/${f.kind}` === work.face);
  const place = (r: { x: number; y: number; w: number; h: number }) => ({
    x: work.seen === "inside" ? work.w - r.x - r.w : r.x,
    y: work.h - r.y - r.h,
    width: r.w,
    height: r.h,
  });
  const bodies = panel.devices.filter((d) => d.face === work.face && d.carrier === null);
  const bars = [...panel.rails, ...panel.ducts].filter((b) => b.face === work.face);
  return (
    <G>
      <Rect
        x={0}
        y={0}
        width={work.w}
        height={work.h}
        fill={t.paper}
        stroke={t.graphite}
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {[...bodies, ...bars].map((b) => (
        <Rect
          key={b.tag}
          {...place(b.outline)}
          fill="none"
          stroke={t.line}
          strokeWidth={1}
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {(own?.keepOuts ?? []).map((k, i) => {
        const r = place(k);
        return (
          <G key={i}>
            <Rect {...r} fill="none" stroke={t.brick} strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
            <Path d={hatch(r)} stroke={t.brick} strokeWidth={0.8} fill="none" vectorEffect="non-scaling-stroke" />
          </G>
        );
      })}
      {(own?.entries ?? []).map((k, i) => (
        <Rect
          key={i}
          {...place(k)}
          fill="none"
          stroke={t.harbour}
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <Path
        d={shown.map((s) => edgePath(s.cut, work.h)).join(" ")}
        fill={t.tray}
        stroke={t.graphite}
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
    </G>
  );
});

/** Lines across a keep-out, so that it is told from an opening without its colour. */
function hatch({ x, y, width, height }: { x: number; y: number; width: number; height: number }): string {
  const step = Math.max(12, Math.max(width, height) / 40);
  const parts: string[] = [];
  for (let s = step; s < width + height; s += step) {
    const [x1, y1] = s <= height ? [x, y + s] : [x + s - height, y + height];
    const [x2, y2] = s <= width ? [x + s, y] : [x + width, y + s - width];
    parts.push(`M${x1} ${y1}L${x2} ${y2}`);
  }
  return parts.join("");
}

function edgePath(cut: Cut, h: number): string {
  const ring = ringOf(cut);
  if (ring) {
    const points = flattened(ring);
    return `M${points.map((p) => `${p.x} ${h - p.y}`).join("L")}Z`;
  }
  if (!("d" in cut)) return "";
  const circle = (d: number): string =>
    `M${cut.x - d / 2} ${h - cut.y}a${d / 2} ${d / 2} 0 1 0 ${d} 0a${d / 2} ${d / 2} 0 1 0 ${-d} 0Z`;
  return cut.kind === "countersunk" ? circle(cut.head) + circle(cut.d) : circle(cut.d);
}
