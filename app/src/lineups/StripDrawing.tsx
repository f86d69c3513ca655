import type { StripPlan } from "@gray-bench/core/lineups/result";
import { ScrollView } from "react-native";
import Svg, { Circle, G, Line, Rect, Text } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { FONTS } from "../kit/tokens";

/** Pixels of a millimetre: a terminal of 5.2 mm can be hit with a finger. */
const SCALE = 5;
/** What a piece takes whose part states no width: it is drawn with a broken line. */
const GUESSED_MM = 5;
const HEIGHT = 150;
const BODY = { top: 34, height: 92 };

/** The strip to scale along its rail: bodies with what their markers show, jumpers, end stops and plates. */
export function StripDrawing({
  strip,
  chosen,
  choose,
}: {
  strip: StripPlan;
  chosen: string | undefined;
  choose: (tag: string | undefined) => void;
}) {
  const t = useTokens();
  const middles = new Map<string, number>();
  let x = 4;
  const placed = strip.items.map((item) => {
    const w = (item.widthMm ?? GUESSED_MM) * SCALE;
    const at = x;
    x += w;
    if (item.kind === "member") middles.set(item.tag, at + w / 2);
    return { item, at, w };
  });
  return (
    <ScrollView horizontal testID="strip-drawing">
      <Svg
        width={x + 4}
        height={HEIGHT}
        role="img"
        aria-label={`Strip ${strip.tag} along its rail: ${strip.items.length} pieces`}
      >
        <Rect x={0} y={BODY.top + 30} width={x + 4} height={32} fill={t.tray} stroke={t.line} />
        {placed.map(({ item, at, w }, i) =>
          item.kind === "member" ? (
            <G
              key={item.tag}
              onPress={() => choose(item.tag === chosen ? undefined : item.tag)}
              testID={`drawn-${item.tag}`}
            >
              <Rect
                x={at}
                y={BODY.top}
                width={w}
                height={BODY.height}
                fill={t.paper}
                stroke={item.tag === chosen ? t.verdigris : t.graphite}
                strokeWidth={item.tag === chosen ? 3 : 1}
                strokeDasharray={item.widthMm === null ? "3 3" : undefined}
              />
              {item.levels.slice(1).map((l, n) => (
                <Line
                  key={l.level}
                  x1={at}
                  x2={at + w}
                  y1={BODY.top + (BODY.height * (n + 1)) / item.levels.length}
                  y2={BODY.top + (BODY.height * (n + 1)) / item.levels.length}
                  stroke={t.line}
                />
              ))}
              <Text
                x={at + w / 2}
                y={BODY.top - 6}
                fontSize={12}
                fontFamily={FONTS.mono}
                fill={t.graphite}
                textAnchor="start"
                transform={`rotate(-60 ${at + w / 2} ${BODY.top - 6})`}
              >
                {item.print}
              </Text>
              {item.levels.some((l) => l.undecided !== null) ? (
                <Text x={at + w / 2} y={BODY.top + BODY.height - 8} fontSize={16} fill={t.ochre} textAnchor="middle">
                  ?
                </Text>
              ) : null}
            </G>
          ) : (
            <Rect
              key={`${item.kind} ${i}`}
              x={at}
              y={item.kind === "end stop" ? BODY.top + 16 : BODY.top}
              width={w}
              height={item.kind === "end stop" ? BODY.height - 32 : BODY.height}
              fill={item.kind === "end stop" ? t.slate : t.line}
              stroke={t.graphite}
              strokeDasharray={item.widthMm === null ? "3 3" : undefined}
            />
          ),
        )}
        {strip.jumpers.map((j) => {
          const y = BODY.top + 12 + (j.row - 1) * 16;
          const at = j.members.map((tag) => middles.get(tag)!);
          return (
            <G key={`${j.row} ${j.members[0]}`}>
              <Line x1={at[0]!} x2={at[at.length - 1]!} y1={y} y2={y} stroke={t.brick} strokeWidth={4} />
              {at.map((cx) => (
                <Circle key={cx} cx={cx} cy={y} r={5} fill={t.brick} />
              ))}
            </G>
          );
        })}
      </Svg>
    </ScrollView>
  );
}
