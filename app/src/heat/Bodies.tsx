import { Defs, G, Line, Pattern, Rect, Text as SvgText } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { FONTS } from "../kit/tokens";

export interface DrawnBody {
  tag: string;
  x: number;
  y: number;
  w: number;
  h: number;
}

/** Beside text of the usual size, px. */
const TAG_PX = 12;
const CHAR = 0.62;
const HATCH = "still-air";

/** Bodies of a face with their tags where these have room; those in still air hatched. */
export function Bodies({
  bodies,
  faceH,
  scale,
  still,
  fill = "none",
}: {
  bodies: readonly DrawnBody[];
  faceH: number;
  scale: number;
  still: ReadonlySet<string>;
  fill?: string;
}) {
  const t = useTokens();
  const size = TAG_PX * useTextScale();
  return (
    <G>
      <Defs>
        <Pattern id={HATCH} width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <Line x1={0} y1={0} x2={0} y2={7} stroke={t.brick} strokeWidth={2.5} />
        </Pattern>
      </Defs>
      {bodies.map((b) => {
        const [x, y, w, h] = [b.x * scale, (faceH - b.y - b.h) * scale, b.w * scale, b.h * scale];
        const long = b.tag.length * size * CHAR;
        const [across, up] = [w > long + 2 && h > size, h > long + 2 && w > size];
        return (
          <G key={b.tag}>
            <Rect x={x} y={y} width={w} height={h} fill={fill} stroke={t.graphite} strokeWidth={1} />
            {still.has(b.tag) ? <Rect x={x} y={y} width={w} height={h} fill={`url(#${HATCH})`} /> : null}
            {across || up ? (
              <SvgText
                x={x + w / 2}
                y={y + h / 2 + size * 0.36}
                fontSize={size}
                fontFamily={FONTS.mono}
                fill={t.graphite}
                stroke={t.paper}
                strokeWidth={2.5}
                textAnchor="middle"
                {...({ paintOrder: "stroke" } as object)}
                {...(across ? {} : { transform: `rotate(-90 ${x + w / 2} ${y + h / 2})` })}
              >
                {b.tag}
              </SvgText>
            ) : null}
          </G>
        );
      })}
    </G>
  );
}
