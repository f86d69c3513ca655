import { frameOfHole } from "@gray-bench/core/design/hole-frame";
import type { LibraryPart } from "@gray-bench/core/design/library";
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
  choosePin(name: string | undefined): void;
  /** A place on the front where there is no pin; `reach` mm are what a finger covers. */
  place(x: number, y: number, reach: number): void;
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
export function PartDrawing({ part, pin, side, choosePin, place }: Props) {
  const t = useTokens();
  const { h = 0, d = 0, pins = [], holes = [] } = part;
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
        const near = shown
          .map((p) => ({ name: p.name, off: Math.hypot(at(p)[0] - x, at(p)[1] - y) * k }))
          .sort((a, b) => a.off - b.off)[0];
        if (near && near.off <= TAP_PX) choosePin(near.name);
        else if (!side) place(x, h - y, TAP_PX / k / 2);
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
        : holes.map((hole, i) => {
            const f = frameOfHole(hole);
            return hole.kind === "polygon" ? (
              <Path
                key={i}
                d={`${hole.points.map((p, k) => `${k === 0 ? "M" : "L"}${p.x} ${h - p.y}`).join("")}z`}
                fill="none"
                stroke={t.brick}
                strokeWidth={1.5}
                vectorEffect="non-scaling-stroke"
              />
            ) : (
              <Rect
                key={i}
                x={f.x}
                y={h - f.y - f.h}
                width={f.w}
                height={f.h}
                rx={hole.kind === "rect" ? (hole.r ?? 0) : Math.min(f.w, f.h) / 2}
                fill="none"
                stroke={t.brick}
                strokeWidth={1.5}
                vectorEffect="non-scaling-stroke"
              />
            );
          })}
    </Drawing>
  );
}
