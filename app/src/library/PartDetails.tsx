import { lacksOf } from "@gray-bench/core/library/lacks";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { Link } from "expo-router";
import type { ReactNode } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatCount, formatLength } from "../kit/format";
import { useSettings } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { Body, Head, Mono, Small } from "../kit/Text";
import { PartUses } from "./PartUses";

/** What is known of one part, and what is not. */
export function PartDetails({
  part: p,
  uses,
  merge,
  like,
}: {
  part: LibraryPart;
  uses: boolean;
  merge: ReactNode;
  like(kind: string): void;
}) {
  const settings = useSettings();
  const missing = lacksOf(p);
  const size = [p.w, p.h, p.d].every((v) => v !== undefined)
    ? [p.w, p.h, p.d].map((v) => formatLength(v!, settings)).join(" × ")
    : null;
  const lines: readonly (readonly [string, string | null])[] = [
    ["Text", p.text ?? null],
    ["Kind", p.category ?? null],
    ["Maker", p.maker ?? null],
    ["Width × height × depth", size],
    ["Loss", p.lossW === undefined ? null : `${p.lossW} W`],
    ["Stands on", p.mounts?.length ? [...new Set(p.mounts.map((m) => m.kind))].join(", ") : null],
    ["Holes", p.holes?.length ? formatCount(p.holes.length) : null],
    ["Stock place", p.stock?.place ?? null],
    ["Also under", p.alsoAs?.length ? p.alsoAs.join(", ") : null],
    ["May be replaced by", p.alternates?.length ? p.alternates.join(", ") : null],
  ];
  return (
    <View className="gap-3 p-3" testID="part-details">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Head>{p.number}</Head>
        </View>
        <Link
          href={`/library/${encodeURIComponent(p.number)}`}
          className="min-h-touch justify-center rounded-edge border border-line px-3 py-2.5 font-medium text-body text-graphite"
          testID="part-open"
        >
          Draw and change
        </Link>
        {p.category ? <Button label="Parts of this kind" onPress={() => like(p.category!)} testID="part-like" /> : null}
        <Button label="Close" onPress={() => choose({ part: undefined })} testID="part-close" />
      </View>
      {missing.length > 0 ? (
        <View className="flex-row items-center gap-2">
          <SeveritySign severity="note" />
          <Small className="flex-1 text-harbour">It stands here {missing.join(", ")}.</Small>
        </View>
      ) : null}
      <View role="list">
        {lines.map(([label, value]) =>
          value === null ? null : (
            <View key={label} role="listitem" className="border-t border-line py-1">
              <Small>{label}</Small>
              <Body>{value}</Body>
            </View>
          ),
        )}
      </View>
      <PartUses part={p.number} shown={uses} />
      {merge}
      {p.pins?.length ? (
        <View role="list" aria-label="Pins">
          <Small>Pins, from the lower left corner</Small>
          {p.pins.map((pin) => (
            <View key={pin.name} role="listitem" className="flex-row gap-3 border-t border-line py-1">
              <Mono className="w-18 text-small">{pin.name}</Mono>
              <Small className="flex-1">
                {pin.x === undefined
                  ? "no place"
                  : `${formatLength(pin.x, settings)}, ${formatLength(pin.y!, settings)}, ${formatLength(pin.z!, settings)} above`}
                {pin.exit ? `; wires leave ${pin.exit}` : ""}
              </Small>
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}
