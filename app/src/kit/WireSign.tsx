import Svg, { Circle, Line, Path, Rect } from "react-native-svg";
import type { EndTreatment } from "@gray-bench/core/design/model";
import { useTokens } from "./settings";
import { WIRE_COLOURS } from "./tokens";

const W = 34;
const H = 12;

/** A short piece of the wire in its own colour; hatched and hollow when the colour is not known. */
export function WireSwatch({ colour }: { colour: string | null }) {
  const t = useTokens();
  const inks = colour === null ? undefined : WIRE_COLOURS[colour];
  return (
    <Svg width={W} height={H} aria-hidden>
      {inks ? (
        <>
          <Line x1={1} x2={W - 1} y1={6} y2={6} stroke={t.graphite} strokeWidth={8} />
          <Line x1={2} x2={W - 2} y1={6} y2={6} stroke={inks[0]} strokeWidth={6} />
          {inks[1] ? (
            <Line x1={2} x2={W - 2} y1={6} y2={6} stroke={inks[1]} strokeWidth={6} strokeDasharray="6 6" />
          ) : null}
        </>
      ) : (
        <>
          <Rect x={1} y={2} width={W - 2} height={8} fill="none" stroke={t.slate} />
          <Path d={[6, 14, 22, 30].map((x) => `M${x} 2L${x - 4} 10`).join("")} stroke={t.slate} />
        </>
      )}
    </Svg>
  );
}

/** What sits on the end of a wire: a sleeve, two wires in one sleeve, an eye, a two-pronged lug, a block, bare strands. */
export function EndSign({ end }: { end: EndTreatment | null }) {
  const t = useTokens();
  const s = { stroke: t.graphite, strokeWidth: 1.5, fill: "none" } as const;
  return (
    <Svg width={26} height={14} aria-hidden>
      {end === "twin ferrule" ? <Path d="M0 4H9M0 10H9" {...s} /> : <Path d="M0 7H9" {...s} />}
      {end === "ferrule" || end === "twin ferrule" ? <Path d="M9 2H15V12H9ZM15 5H24V9H15" {...s} /> : null}
      {end === "ring" ? <Path d="M9 7H13" {...s} /> : null}
      {end === "ring" ? <Circle cx={18} cy={7} r={5} {...s} /> : null}
      {end === "fork" ? <Path d="M9 7H13M24 2H17Q13 2 13 7Q13 12 17 12H24" {...s} /> : null}
      {end === "plug" ? <Path d="M9 1H21V13H9ZM21 5H25V9H21" {...s} /> : null}
      {end === "bare" ? <Path d="M9 7L24 3M9 7H24M9 7L24 11" {...s} /> : null}
      {end === null ? <Path d="M10 7H24" {...s} strokeDasharray="2 3" /> : null}
    </Svg>
  );
}
