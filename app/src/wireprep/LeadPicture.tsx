import type { Lead, LeadEnd } from "@gray-bench/core/wireprep/result";
import { View } from "react-native";
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { COPPER, FONTS, SLEEVE_COLOURS, WIRE_COLOURS } from "../kit/tokens";

const W = 340;
const H = 64;
const END = 62;
const MIDDLE = 30;

/** Thickness of the wire in the picture: more for more copper, but never out of proportion. */
const thick = (sizeMm2: number): number => Math.min(18, 7 + Math.sqrt(sizeMm2) * 2.2);

/** A lead without scale: both ends as they are made, the wire in its colour, what is written where. */
export function LeadPicture({
  lead,
  height = H,
}: {
  lead: Pick<Lead, "wire" | "colour" | "sizeMm2" | "from" | "to">;
  height?: number;
}) {
  const t = useTokens();
  const inks = lead.colour === null ? undefined : WIRE_COLOURS[lead.colour];
  const h = thick(lead.sizeMm2);
  const said = (e: LeadEnd): string =>
    `${e.treatment} ${e.part ?? ""} at ${e.device}:${e.pin}, ${e.label || "no label"}`;
  return (
    <View
      role="img"
      aria-label={`Lead ${lead.wire}: ${said(lead.from)}; ${said(lead.to)}`}
      style={{ height, maxWidth: (W * height) / H, width: "100%" }}
    >
      <Svg viewBox={`0 0 ${W} ${H}`} width="100%" height="100%" aria-hidden>
        {inks ? (
          <>
            <Rect x={END} y={MIDDLE - h / 2 - 1} width={W - 2 * END} height={h + 2} fill={t.graphite} />
            <Rect x={END} y={MIDDLE - h / 2} width={W - 2 * END} height={h} fill={inks[0]} />
            {inks[1] ? (
              <Line
                x1={END}
                x2={W - END}
                y1={MIDDLE}
                y2={MIDDLE}
                stroke={inks[1]}
                strokeWidth={h}
                strokeDasharray="14 14"
              />
            ) : null}
          </>
        ) : (
          <>
            <Rect x={END} y={MIDDLE - h / 2} width={W - 2 * END} height={h} fill="none" stroke={t.slate} />
            <Path
              d={Array.from({ length: 14 }, (_, i) => END + 14 + i * 15)
                .map((x) => `M${x} ${MIDDLE - h / 2}l-8 ${h}`)
                .join("")}
              stroke={t.slate}
            />
          </>
        )}
        <End end={lead.from} h={h} />
        <G transform={`translate(${W} 0) scale(-1 1)`}>
          <End end={lead.to} h={h} />
        </G>
        <Mark end={lead.from} x={END + 6} anchor="start" />
        <Mark end={lead.to} x={W - END - 6} anchor="end" />
      </Svg>
    </View>
  );
}

/** What is written beside an end, and on what. */
function Mark({ end, x, anchor }: { end: LeadEnd; x: number; anchor: "start" | "end" }) {
  const t = useTokens();
  if (end.label === "" || end.labelOn === "none") return null;
  const text = end.label.length > 18 ? `${end.label.slice(0, 17)}…` : end.label;
  return (
    <SvgText x={x} y={H - 4} fontSize={13} fontFamily={FONTS.mono} fill={t.graphite} textAnchor={anchor}>
      {text}
    </SvgText>
  );
}

/** The left end; the right one is its mirror image. */
function End({ end, h }: { end: LeadEnd; h: number }) {
  const t = useTokens();
  const line = { stroke: t.graphite, strokeWidth: 1.5, fill: "none" } as const;
  const sleeve = end.sleeve === null ? undefined : SLEEVE_COLOURS[end.sleeve];
  const [top, bottom] = [MIDDLE - h / 2, MIDDLE + h / 2];
  switch (end.treatment) {
    case "ferrule":
    case "twin ferrule": {
      const twin = end.treatment === "twin ferrule";
      const wide = h + (twin ? 12 : 6);
      return (
        <>
          {twin ? <Path d={`M${END} ${MIDDLE + h / 2 + 3}q14 0 26 10`} {...line} strokeWidth={4} /> : null}
          <Rect
            x={END - 18}
            y={MIDDLE - wide / 2}
            width={20}
            height={wide}
            fill={sleeve ?? t.paper}
            stroke={t.graphite}
            strokeWidth={1.5}
          />
          <Rect
            x={14}
            y={MIDDLE - h / 3}
            width={END - 32}
            height={(2 * h) / 3}
            fill={t.line}
            {...{ stroke: t.graphite }}
          />
        </>
      );
    }
    case "ring":
      return (
        <>
          <Rect x={END - 22} y={top} width={22} height={h} fill={t.line} stroke={t.graphite} strokeWidth={1.5} />
          <Circle cx={26} cy={MIDDLE} r={14} fill={t.line} stroke={t.graphite} strokeWidth={1.5} />
          <Circle cx={26} cy={MIDDLE} r={6} fill={t.paper} stroke={t.graphite} strokeWidth={1.5} />
        </>
      );
    case "fork":
      return (
        <>
          <Rect x={END - 22} y={top} width={22} height={h} fill={t.line} stroke={t.graphite} strokeWidth={1.5} />
          <Path
            d={`M${END - 22} ${MIDDLE - 13}H12v8h18q8 0 8 5t-8 5H12v8H${END - 22}Z`}
            fill={t.line}
            stroke={t.graphite}
            strokeWidth={1.5}
          />
        </>
      );
    case "plug":
      return (
        <>
          <Rect
            x={18}
            y={MIDDLE - 12}
            width={END - 18}
            height={24}
            fill={t.line}
            stroke={t.graphite}
            strokeWidth={1.5}
          />
          <Rect x={6} y={MIDDLE - 4} width={12} height={8} fill={t.line} stroke={t.graphite} strokeWidth={1.5} />
        </>
      );
    case "bare":
      return (
        <>
          {[-1, -0.35, 0.35, 1].map((k) => (
            <Line
              key={k}
              x1={END}
              y1={MIDDLE + (k * h) / 3}
              x2={16}
              y2={MIDDLE + k * (h / 2 + 1)}
              stroke={COPPER}
              strokeWidth={3}
            />
          ))}
          <Line x1={END} x2={END} y1={top - 1} y2={bottom + 1} stroke={t.graphite} strokeWidth={1.5} />
        </>
      );
  }
}
