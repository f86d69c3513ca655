import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { BarSaid, DrawingSaid } from "@gray-bench/core/drawings/said";
import { View } from "react-native";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { formatCount, formatLength } from "../../kit/format";
import { useSettings } from "../../kit/settings";
import { Body, Head, Small } from "../../kit/Text";
import { useTyped } from "../../kit/useTyped";
import { useLibrary, useLibraryVersions } from "../../queries/useLibrary";
import { widthsOf } from "./layoutActs";

/** Which part the ducts and rails of a width are: of one the drawing says no more than how wide it is. */
export function Bars({
  look,
  said,
  change,
}: {
  look: DrawingLook;
  said: DrawingSaid;
  change(kind: BarSaid["kind"], across: number, part: string): void;
}) {
  const { data: versions } = useLibraryVersions();
  const { data: library } = useLibrary(versions?.[0]?.hash);
  const widths = widthsOf(look);
  if (widths.length === 0) return null;
  return (
    <View className="gap-3" testID="bars">
      <Head>Ducts and rails</Head>
      {widths.map(({ kind, across, count }) => (
        <One
          key={`${kind} ${across}`}
          kind={kind}
          across={across}
          count={count}
          part={said.bars.find((b) => b.kind === kind && b.across === across)?.part ?? ""}
          offered={(library?.parts ?? [])
            .filter((p) => p.category === kind && Math.abs((p.h ?? 0) - across) <= 1)
            .map((p) => p.number)}
          change={(part) => change(kind, across, part)}
        />
      ))}
    </View>
  );
}

const MOST_OFFERED = 6;

function One({
  kind,
  across,
  count,
  part,
  offered,
  change,
}: {
  kind: BarSaid["kind"];
  across: number;
  count: number;
  part: string;
  offered: readonly string[];
  change(part: string): void;
}) {
  const settings = useSettings();
  const { text, type, leave } = useTyped(part, (written) => {
    if (written.trim() !== part) change(written);
    return true;
  });
  const words = kind === "duct" ? (count === 1 ? "duct" : "ducts") : count === 1 ? "rail" : "rails";
  return (
    <View className="gap-1" testID={`bar-${kind}-${across}`}>
      <Body>
        {formatCount(count)} {words}, {formatLength(across, settings)} wide
      </Body>
      <View className="flex-row flex-wrap items-end gap-2">
        <View className="w-42">
          <Field
            label="Part"
            hideLabel
            value={text}
            change={type}
            leave={leave}
            hint="part number"
            testID={`bar-part-${kind}-${across}`}
          />
        </View>
        {offered
          .filter((n) => n !== part)
          .slice(0, MOST_OFFERED)
          .map((n) => (
            <Button key={n} label={n} onPress={() => change(n)} testID={`bar-offer-${n}`} />
          ))}
      </View>
      {part === "" ? (
        <Small className="text-ochre">
          {offered.length > 0
            ? "The library has these of that width."
            : "Without its part nothing says how much it takes and how high it is."}
        </Small>
      ) : null}
    </View>
  );
}
