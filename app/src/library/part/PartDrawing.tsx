import { frameOfHole } from "@gray-bench/core/design/hole-frame";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { OPENINGS, openingAt, type Opening } from "@gray-bench/core/library/part-air";
import { middleOf } from "@gray-bench/core/library/part-holes";
import type { Exit, Pin } from "@gray-bench/core/design/model";
import { useMemo } from "react";
import { Circle, G, Line, Path, Rect, Text } from "react-native-svg";
import { Drawing } from "../../kit/drawing/Drawing";
import { useTokens } from "../../kit/settings";
import { FONTS } from "../../kit/tokens";

const PIN_PX = 8;
const EXIT_PX = 18;
const NAME_PX = 12;
const LETTER_PX = 7.4;
/** A tap this near a pin means it. */
const TAP_PX = 16;
/** Left free around the body, as a share of it. */
const AROUND = 0.25;

const WAYS: Record<Exit, readonly [number, number]> = {
  up: [0, -1],
  down: [0, 1],
  left: [-1, 0],
  right: [1, 0],
  out: [0, 0],
};

interface Props {
  part: LibraryPart;
  pin: string | undefined;
  /** Seen from the side: depth to the right, the face it stands on at the left. */
  side: boolean;
  /** What a tap on an empty place sets; one of its kind that is tapped is chosen. */
  sets: Sets;
  /** Number of the chosen hole, name of the chosen slot. */
  hole: number | null;
  slot: string | undefined;
  opening: Opening | undefined;
  choosePin(name: string | undefined): void;
  chooseHole(nth: number): void;
  chooseSlot(name: string): void;
  chooseOpening(opening: Opening): void;
  /** A place on the front where there is none of them; `reach` mm are what a finger covers. */
  place(x: number, y: number, reach: number): void;
}

export const SETS = ["pins", "holes", "slots", "air"] as const;
export type Sets = (typeof SETS)[number];

/** How large the mark of a slot is drawn, at its datum. */
const SLOT_MM = 4;

/** What lies nearest to a tap, as far as it may be meant. */
function nearest<T>(marks: readonly { x: number; y: number; of: T }[], x: number, y: number, k: number): T | null {
  const [near] = marks.map((m) => ({ of: m.of, off: Math.hypot(m.x - x, m.y - y) * k })).sort((a, b) => a.off - b.off);
  return near && near.off <= TAP_PX ? near.of : null;
}

interface Named {
  name: string;
  x: number;
  y: number;
}

/** Names that do not lie on one another, that of the chosen pin first. */
function withRoom(names: readonly Named[], pin: string | undefined): Named[] {
  const taken: Named[] = [];
  const order = [...names].sort((a, b) => Number(b.name === pin) - Number(a.name === pin));
  for (const n of order) {
    const free = taken.every(
      (o) =>
        Math.abs(o.y - n.y) >= NAME_PX || Math.abs(o.x - n.x) >= ((o.name.length + n.name.length) / 2) * LETTER_PX + 3,
    );
    if (free) taken.push(n);
  }
  return taken;
}

/** A part to scale: its body, where its pins are and which way wires leave them, its holes. */
export function PartDrawing(props: Props) {
  const { part, pin, side, sets, hole, slot, opening, choosePin, chooseHole, chooseSlot, chooseOpening, place } = props;
  const t = useTokens();
  const { h = 0, d = 0, pins = [], holes = [], slots = [], climate } = part;
  const w = side ? d : (part.w ?? 0);
  const sheet = useMemo(() => {
    const more = Math.max(w, h) * AROUND;
    return w > 0 && h > 0 ? { x: -more, y: -more, w: w + 2 * more, h: h + 2 * more } : { x: 0, y: 0, w: 0, h: 0 };
  }, [w, h]);
  const shown = pins.filter((p) => p.x !== undefined);
  /** Sheets go down. */
  const at = (p: Pin): [number, number] => [side ? p.z! : p.x!, h - p.y!];
  const rail = part.mounts?.find((m) => m.kind === "rail");
  return (
    <Drawing
      key={`${w} ${h} ${side}`}
      sheet={sheet}
      show={undefined}
      label={`${part.number} from the ${side ? "side" : "front"}, with ${shown.length} pins`}
      tap={(x, y, k) => {
        if (sets === "pins" || side) {
          const near = nearest(
            shown.map((p) => ({ x: at(p)[0], y: at(p)[1], of: p.name })),
            x,
            y,
            k,
          );
          if (near !== null) choosePin(near);
          else if (!side) place(x, h - y, TAP_PX / k / 2);
          return;
        }
        const up = h - y;
        if (sets === "holes") {
          const near = nearest(
            holes.map((one, i) => ({ ...middleOf(one), of: i + 1 })),
            x,
            up,
            k,
          );
          if (near !== null) chooseHole(near);
          else place(x, up, TAP_PX / k / 2);
          return;
        }
        if (sets === "air") {
          const there = openingAt(part, x, up);
          if (there && there !== opening) chooseOpening(there);
          else place(x, up, TAP_PX / k / 2);
          return;
        }
        const near = nearest(
          slots.map((s) => ({ x: s.x, y: s.y, of: s.name })),
          x,
          up,
          k,
        );
        if (near !== null) chooseSlot(near);
        else place(x, up, TAP_PX / k / 2);
      }}
      overlay={(view) => (
        <G>
          {shown.map((p) => {
            const [x, y] = at(p);
            const [px, py] = [x * view.k + view.x, y * view.k + view.y];
            const [ex, ey] = side && (p.exit === "left" || p.exit === "right") ? [0, 0] : WAYS[p.exit ?? "out"];
            const on = p.name === pin;
            return (
              <G key={p.name}>
                {ex === 0 && ey === 0 ? null : (
                  <Line
                    x1={px}
                    y1={py}
                    x2={px + ex * EXIT_PX}
                    y2={py + ey * EXIT_PX}
                    stroke={on ? t.verdigris : t.slate}
                    strokeWidth={3}
                  />
                )}
                <Circle
                  cx={px}
                  cy={py}
                  r={PIN_PX}
                  fill={on ? t.verdigris : t.paper}
                  stroke={on ? t.verdigris : t.graphite}
                  strokeWidth={2}
                />
                {p.exit === "out" ? <Circle cx={px} cy={py} r={2} fill={on ? t.onVerdigris : t.graphite} /> : null}
              </G>
            );
          })}
          {side
            ? null
            : OPENINGS.map((o) => {
                const f = climate?.[o];
                return f ? (
                  <Text
                    key={o}
                    x={(f.x + f.w / 2) * view.k + view.x}
                    y={(h - f.y - f.h / 2) * view.k + view.y + NAME_PX / 3}
                    textAnchor="middle"
                    fontFamily={FONTS.monoStrong}
                    fontSize={NAME_PX}
                    fill={o === opening ? t.verdigris : t.harbour}
                  >
                    {`${o} ${o === "blows" ? "▲" : "▼"}`}
                  </Text>
                ) : null;
              })}
          {withRoom(
            shown.map((p): Named => {
              const [x, y] = at(p);
              const below = (p.exit === "down" ? -PIN_PX - 4 : PIN_PX + NAME_PX) + y * view.k + view.y;
              return { name: p.name, x: x * view.k + view.x, y: below };
            }),
            pin,
          ).map(({ name, x, y }) => (
            <Text
              key={name}
              x={x}
              y={y}
              textAnchor="middle"
              fontFamily={FONTS.monoStrong}
              fontSize={NAME_PX}
              fill={t.graphite}
            >
              {name}
            </Text>
          ))}
        </G>
      )}
    >
      <Rect
        x={0}
        y={0}
        width={w}
        height={h}
        fill={t.tray}
        stroke={t.graphite}
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {side
        ? null
        : OPENINGS.map((o) => {
            const f = climate?.[o];
            return f ? (
              <Rect
                key={o}
                x={f.x}
                y={h - f.y - f.h}
                width={f.w}
                height={f.h}
                fill={t.paper}
                stroke={o === opening ? t.verdigris : t.harbour}
                strokeWidth={o === opening ? 3 : 1.5}
                strokeDasharray="6 3"
                vectorEffect="non-scaling-stroke"
              />
            ) : null;
          })}
      {rail && !side ? (
        <Line
          x1={-w * AROUND}
          x2={w * (1 + AROUND)}
          y1={h - rail.datumY}
          y2={h - rail.datumY}
          stroke={t.harbour}
          strokeWidth={1.5}
          strokeDasharray="6 4"
          vectorEffect="non-scaling-stroke"
        />
      ) : null}
      {side
        ? null
        : holes.map((one, i) => {
            const f = frameOfHole(one);
            const on = sets === "holes" && hole === i + 1;
            const drawn = { stroke: on ? t.verdigris : t.brick, strokeWidth: on ? 3 : 1.5 };
            return one.kind === "polygon" ? (
              <Path
                key={i}
                d={`${one.points.map((p, k) => `${k === 0 ? "M" : "L"}${p.x} ${h - p.y}`).join("")}z`}
                fill="none"
                {...drawn}
                vectorEffect="non-scaling-stroke"
              />
            ) : (
              <Rect
                key={i}
                x={f.x}
                y={h - f.y - f.h}
                width={f.w}
                height={f.h}
                rx={one.kind === "rect" ? (one.r ?? 0) : Math.min(f.w, f.h) / 2}
                fill="none"
                {...drawn}
                vectorEffect="non-scaling-stroke"
              />
            );
          })}
      {side
        ? null
        : slots.map((s) => (
            <Rect
              key={s.name}
              x={s.x - SLOT_MM / 2}
              y={h - s.y - SLOT_MM / 2}
              width={SLOT_MM}
              height={SLOT_MM}
              fill={s.name === slot && sets === "slots" ? t.verdigris : "none"}
              stroke={t.harbour}
              strokeWidth={1.5}
              vectorEffect="non-scaling-stroke"
            />
          ))}
    </Drawing>
  );
}
