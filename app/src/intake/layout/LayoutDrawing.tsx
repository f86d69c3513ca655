import { pathScale, type DrawingLook } from "@gray-bench/core/drawings/look";
import type { Box } from "@gray-bench/core/drawings/read";
import type { DrawingSaid } from "@gray-bench/core/drawings/said";
import { memo, useMemo } from "react";
import { Circle, G, Path, Rect, Text } from "react-native-svg";
import { Drawing } from "../../kit/drawing/Drawing";
import { Marked } from "../../kit/drawing/Marked";
import { textPlace } from "../../kit/drawing/textPlace";
import { useTokens } from "../../kit/settings";
import { useTextScale } from "../../kit/textScale";
import { FONTS } from "../../kit/tokens";

const TAG_PX = 12;
/** Letters of our monospaced font are so wide, as a share of their height. */
const LETTER = 0.62;
const DOT_PX = 7;

interface Props {
  look: DrawingLook;
  said: DrawingSaid;
  /** Millimetres of a unit. */
  mm: number;
  /** The view, and the frame, that is chosen, counted from 1; 0: none. */
  view: number;
  frame: number;
  /** What is looked at; null: all, undefined: what was. */
  show: Box | null | undefined;
  /** A place on the sheet that is pointed at. */
  point: { x: number; y: number } | null;
  /** In units of the drawing. */
  tap(x: number, y: number): void;
}

/** A sheet as it came: faint what is drawn, over it what of it was understood. */
export function LayoutDrawing({ look, said, mm, view, frame, show, point, tap }: Props) {
  const t = useTokens();
  const { box } = look;
  const sheet = useMemo<Box>(() => ({ x: 0, y: 0, w: box.w * mm, h: box.h * mm }), [box, mm]);
  /** A box of the drawing on the sheet, y down. */
  const on = useMemo(
    () =>
      (b: Box): Box => ({ x: (b.x - box.x) * mm, y: (box.y + box.h - b.y - b.h) * mm, w: b.w * mm, h: b.h * mm }),
    [box, mm],
  );
  const shown = useMemo(() => show && on(show), [show, on]);
  const devices = useMemo(
    () => look.views.flatMap((v) => v.devices.map(({ tag, box: b }) => ({ tag, box: on(b) }))),
    [look, on],
  );
  const tagPx = TAG_PX * useTextScale();
  const chosen = look.frames[frame - 1];
  return (
    <Drawing
      sheet={sheet}
      show={shown}
      label={`The drawing, with ${devices.length} devices understood on ${said.views.length} faces`}
      tap={(x, y) => tap(x / mm + box.x, box.y + box.h - y / mm)}
      overlay={(place, _, seen) => (
        <G>
          {devices.map(({ tag, box: b }, i) => {
            const at = textPlace(b, seen, place, tag.length * tagPx * LETTER, tagPx);
            return at ? (
              <Text
                key={i}
                x={at.x}
                y={at.y}
                fill={t.graphite}
                fontFamily={FONTS.monoStrong}
                fontSize={tagPx}
                textAnchor="middle"
                alignmentBaseline="central"
                {...(at.upright ? { rotation: -90, originX: at.x, originY: at.y } : {})}
              >
                {tag}
              </Text>
            ) : null;
          })}
          {point ? <Pointed at={on({ ...point, w: 0, h: 0 })} place={place} colour={t.ochre} /> : null}
        </G>
      )}
    >
      <Sheet look={look} scale={mm / pathScale(box)} />
      {look.views.map(({ bars, devices: some }, i) => (
        <G key={i}>
          <Path
            d={bars.map((b) => rect(on(b.box))).join("")}
            fill={t.harbour}
            fillOpacity={0.16}
            stroke={t.harbour}
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
          <Path
            d={some.map((d) => rect(on(d.box))).join("")}
            fill={t.verdigris}
            fillOpacity={0.16}
            stroke={t.verdigris}
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
        </G>
      ))}
      {said.views.map(({ frame: f }, i) => (
        <Rect
          key={i}
          {...svg(on(f))}
          fill="none"
          stroke={t.graphite}
          strokeWidth={view === i + 1 ? 4 : 2}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {chosen ? <Marked boxes={[on(chosen.box)]} /> : null}
    </Drawing>
  );
}

const svg = ({ x, y, w, h }: Box) => ({ x, y, width: w, height: h });
const rect = ({ x, y, w, h }: Box): string => `M${x} ${y}h${w}v${h}h${-w}z`;

/** What is drawn, layer by layer; drawn once, as long as the drawing is the same. */
const Sheet = memo(function Sheet({ look, scale }: { look: DrawingLook; scale: number }) {
  const t = useTokens();
  return (
    <G transform={`scale(${scale})`}>
      {look.layers.map(({ name, path, meaning }) =>
        path === "" ? null : (
          <Path
            key={name}
            d={path}
            fill="none"
            stroke={meaning === "nothing" ? t.line : t.slate}
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        ),
      )}
    </G>
  );
});

function Pointed({ at, place, colour }: { at: Box; place: { k: number; x: number; y: number }; colour: string }) {
  const [x, y] = [at.x * place.k + place.x, at.y * place.k + place.y];
  return <Circle cx={x} cy={y} r={DOT_PX} fill="none" stroke={colour} strokeWidth={3} />;
}
