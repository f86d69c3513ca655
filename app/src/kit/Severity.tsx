import type { PointCount, Severity } from "@gray-bench/core/design/open-points";
import { View } from "react-native";
import Svg, { Circle, Path } from "react-native-svg";
import { Small } from "./Text";
import { useTokens } from "./settings";

const WORD: Record<Severity, string> = { stop: "stop", check: "check", note: "note" };
const TEXT: Record<Severity, string> = { stop: "text-brick", check: "text-ochre", note: "text-harbour" };

/** The sign of a severity: a barred square, a raised wedge, a ring. Shape first, colour second. */
export function SeveritySign({ severity, size = 14 }: { severity: Severity; size?: number }) {
  const t = useTokens();
  return (
    <Svg width={size} height={size} viewBox="0 0 14 14" aria-hidden>
      {severity === "stop" ? <Path d="M1 1H13V13H1Z M3.5 5.5V8.5H10.5V5.5Z" fill={t.brick} fillRule="evenodd" /> : null}
      {severity === "check" ? <Path d="M1 13L7 1L13 13Z" fill="none" stroke={t.ochre} strokeWidth={2} /> : null}
      {severity === "note" ? <Circle cx={7} cy={7} r={5} fill="none" stroke={t.harbour} strokeWidth={2} /> : null}
    </Svg>
  );
}

export function SeverityWord({ severity, count }: { severity: Severity; count?: number }) {
  return (
    <View className="flex-row items-center gap-1">
      <SeveritySign severity={severity} />
      <Small className={`font-medium ${TEXT[severity]}`}>
        {count === undefined ? WORD[severity] : `${count} ${WORD[severity]}`}
      </Small>
    </View>
  );
}

/** How many of each severity; "nothing open" when there is none. */
export function Counts({ open }: { open: PointCount }) {
  const some = (["stop", "check", "note"] as const).filter((s) => open[s] > 0);
  if (some.length === 0) return <Small>nothing open</Small>;
  return (
    <View className="flex-row flex-wrap gap-3">
      {some.map((s) => (
        <SeverityWord key={s} severity={s} count={open[s]} />
      ))}
    </View>
  );
}
