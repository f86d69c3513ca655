import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import type { KitLine } from "@gray-bench/core/kits/result";
import { View } from "react-native";
import Svg, { Circle, Rect } from "react-native-svg";
import { formatLength } from "../kit/format";
import { useSettings, useTokens } from "../kit/settings";
import { Small } from "../kit/Text";
import { WireSwatch } from "../kit/WireSign";

const SIDE = 96;

/** The outline of a part, drawn from its body, with its pins as dots; of a wire its colour. Nothing where neither is known. */
export function PartPicture({ design, line }: { design: Design; line: KitLine }) {
  const t = useTokens();
  const settings = useSettings();
  const part = line.part === null ? undefined : lookUp(design).parts.get(line.part);
  if (!part) return null;
  if (part.wire) return <WireSwatch colour={part.wire.colour ?? null} />;
  // Bars stand as they are seen from their end.
  const [w, h] = part.category === "rail" || part.category === "duct" ? [part.h, part.d] : [part.w, part.h];
  if (w <= 0 || h <= 0) return null;
  const k = (SIDE - 4) / Math.max(w, h);
  const words = `${formatLength(w, settings)} × ${formatLength(h, settings)}`;
  return (
    <View className="items-center gap-1" testID="part-picture">
      <Svg width={SIDE} height={Math.max(12, h * k + 4)} role="img" aria-label={`outline, ${words}`}>
        <Rect
          x={(SIDE - w * k) / 2}
          y={2}
          width={w * k}
          height={h * k}
          fill={t.paper}
          stroke={t.graphite}
          strokeWidth={2}
        />
        {w === part.w
          ? (part.pins ?? []).map((p) =>
              p.x === undefined || p.y === undefined ? null : (
                <Circle key={p.name} cx={(SIDE - w * k) / 2 + p.x * k} cy={2 + (h - p.y) * k} r={1.6} fill={t.slate} />
              ),
            )
          : null}
      </Svg>
      <Small>{words}</Small>
    </View>
  );
}
