import type { StorePlan } from "@gray-bench/core/kits/plan";
import { useMemo } from "react";
import { Circle, G, Line, Path, Rect, Text } from "react-native-svg";
import { controlBoxes, meets } from "../kit/drawing/controls";
import { Drawing } from "../kit/drawing/Drawing";
import type { Box } from "../kit/drawing/useZoom";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { FONTS } from "../kit/tokens";

/** The plan is drawn in millimetres, as all drawings are. */
const MM = 1000;
const MARGIN_M = 2;
const DOT_PX = 11;
/** Of a stop whose number has no room. */
const SMALL_PX = 4.5;
const NAME_PX = 13;
const ROW_PX = 15;
const SIGN_PX = 6.6;

/** Names below their places, in two rows where one has no room for them; null where neither has. */
function named<T extends { x: number; y: number; text: string }>(
  corners: readonly T[],
  scale: number,
): (T & { row: number | null })[] {
  const taken: { x: number; y: number; w: number }[] = [];
  return corners.map((c) => {
    const w = c.text.length * SIGN_PX * scale + 6;
    const rowPx = ROW_PX * scale;
    const row = [0, 1].find((r) =>
      taken.every((o) => Math.abs(o.x - c.x) >= (o.w + w) / 2 || Math.abs(o.y - (c.y + r * rowPx)) >= rowPx),
    );
    if (row !== undefined) taken.push({ x: c.x, y: c.y + row * rowPx, w });
    return { ...c, row: row ?? null };
  });
}

/** Stops with their numbers, as far as these have room: the one that is chosen first, then in order. */
function roomy<T extends { x: number; y: number; on: boolean }>(
  stops: readonly T[],
  controls: readonly Box[],
): (T & { room: boolean })[] {
  const taken: T[] = [];
  const fits = (s: T): boolean =>
    taken.every((o) => Math.hypot(o.x - s.x, o.y - s.y) >= 2 * DOT_PX) &&
    !controls.some((c) => meets(c, { x: s.x - DOT_PX, y: s.y - DOT_PX, w: 2 * DOT_PX, h: 2 * DOT_PX }));
  const room = new Set<T>();
  for (const s of [...stops.filter((x) => x.on), ...stops]) {
    if (room.has(s) || !fits(s)) continue;
    room.add(s);
    taken.push(s);
  }
  // Those with a number lie on top.
  return [...stops].map((s) => ({ ...s, room: room.has(s) })).sort((a, b) => Number(a.room) - Number(b.room));
}

/** The store from above: ways, shelves, and the walk with its stops by number; the one that is chosen filled. */
export function StoreDrawing({
  plan,
  chosen,
  tap,
}: {
  plan: StorePlan;
  chosen: string | undefined;
  tap(place: string | undefined): void;
}) {
  const t = useTokens();
  const scale = useTextScale();
  const sheet = useMemo(() => {
    const points = [...plan.corners, ...plan.shelves.map((s) => s.to)];
    const [xs, ys] = [points.map((p) => p.x), points.map((p) => -p.y)];
    const [x, y] = [Math.min(0, ...xs) - MARGIN_M, Math.min(0, ...ys) - MARGIN_M];
    return {
      x: x * MM,
      y: y * MM,
      w: (Math.max(0, ...xs) + MARGIN_M - x) * MM,
      h: (Math.max(0, ...ys) + MARGIN_M - y) * MM,
    };
  }, [plan]);
  return (
    <Drawing
      sheet={sheet}
      show={undefined}
      label={`Plan of the store with a walk past ${plan.stops.length} places`}
      tap={(x, y, k) => {
        const near = plan.stops
          .map((s) => ({ s, far: Math.hypot(s.x * MM - x, -s.y * MM - y) * k }))
          .sort((a, b) => a.far - b.far)[0];
        tap(near && near.far < 2 * DOT_PX ? near.s.place : undefined);
      }}
      overlay={(view, _, seen) => {
        const controls = controlBoxes(seen, view, scale);
        const at = (p: { x: number; y: number }) => ({ x: p.x * MM * view.k + view.x, y: -p.y * MM * view.k + view.y });
        return (
          <G>
            {named(
              plan.corners.map((c) => ({ ...at(c), text: c.at })),
              scale,
            ).map(({ x, y, text, row }) => (
              <G key={text}>
                <Rect x={x - 4} y={y - 4} width={8} height={8} fill={t.graphite} />
                {row === null ? null : (
                  <Text
                    x={x}
                    y={y + 7 + (row + 1) * ROW_PX * scale}
                    textAnchor="middle"
                    fontFamily={FONTS.medium}
                    fontSize={NAME_PX * scale}
                    fill={t.graphite}
                  >
                    {text}
                  </Text>
                )}
              </G>
            ))}
            {roomy(
              plan.stops.map((s) => ({ ...s, ...at(s), on: s.place === chosen })),
              controls,
            ).map((s) => (
              <G key={s.place}>
                <Circle
                  cx={s.x}
                  cy={s.y}
                  r={s.room ? DOT_PX : SMALL_PX}
                  fill={s.on ? t.verdigris : t.paper}
                  stroke={t.verdigris}
                  strokeWidth={2}
                />
                {s.room ? (
                  <Text
                    x={s.x}
                    y={s.y + 4}
                    textAnchor="middle"
                    fontFamily={FONTS.monoStrong}
                    fontSize={12}
                    fill={s.on ? t.onVerdigris : t.graphite}
                  >
                    {s.nth}
                  </Text>
                ) : null}
              </G>
            ))}
          </G>
        );
      }}
    >
      {plan.aisles.map((a, i) => (
        <Line
          key={i}
          x1={a.from.x * MM}
          y1={-a.from.y * MM}
          x2={a.to.x * MM}
          y2={-a.to.y * MM}
          stroke={t.line}
          strokeWidth={10}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {plan.shelves.map((s) => (
        <Line
          key={s.at}
          x1={s.from.x * MM}
          y1={-s.from.y * MM}
          x2={s.to.x * MM}
          y2={-s.to.y * MM}
          stroke={t.line}
          strokeWidth={18}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <Path
        d={plan.way.map((p, i) => `${i === 0 ? "M" : "L"}${p.x * MM} ${-p.y * MM}`).join("")}
        fill="none"
        stroke={t.verdigris}
        strokeWidth={3}
        strokeLinejoin="round"
        vectorEffect="non-scaling-stroke"
      />
    </Drawing>
  );
}
