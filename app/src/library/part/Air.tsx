import { OPENINGS, withOpening, type Opening } from "@gray-bench/core/library/part-air";
import { View } from "react-native";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../../kit/Button";
import { formatLength } from "../../kit/format";
import { MmField } from "../../kit/MmField";
import { useSettings, useTokens } from "../../kit/settings";
import { Head, Small } from "../../kit/Text";
import type { Draft } from "./useDraft";

interface Props {
  draft: Draft;
  opening: Opening | undefined;
  chooseOpening(opening: Opening | undefined): void;
}

/** The openings of a unit for its air. A part that does nothing to the air has none. */
export function Air({ draft: { part }, opening, chooseOpening }: Props) {
  const settings = useSettings();
  const { climate } = part;
  if (!climate) return null;
  return (
    <View className="gap-2" testID="part-air">
      <Head>Openings for air</Head>
      {OPENINGS.some((o) => climate[o]) ? null : (
        <Small>
          Not told. A tap on the drawing sets them where air is set: first where it blows, then where it draws.
        </Small>
      )}
      <View className="flex-row flex-wrap gap-1" role="group" aria-label="Openings for air">
        {OPENINGS.map((o) => {
          const f = climate[o];
          return f ? (
            <Button
              key={o}
              label={`where it ${o}: ${formatLength(f.w, settings)} × ${formatLength(f.h, settings)}`}
              pressed={opening === o}
              onPress={() => chooseOpening(opening === o ? undefined : o)}
              testID={`air-${o}`}
            />
          ) : null;
        })}
      </View>
    </View>
  );
}

/** The chosen opening, written. */
export function AirForm({
  draft: { part, change },
  opening,
  landed,
  chooseOpening,
}: Props & { opening: Opening; landed: string | null }) {
  const t = useTokens();
  const frame = part.climate?.[opening];
  if (!frame) return null;
  const field = (id: "x" | "y" | "w" | "h", label: string) => (
    <View className="w-26">
      <MmField
        label={label}
        mm={frame[id]}
        change={(v) => v !== undefined && change((p) => withOpening(p, opening, { ...frame, [id]: v }))}
        least={id === "w" || id === "h" ? 1 : 0}
        testID={`air-${id}`}
      />
    </View>
  );
  return (
    <View className="gap-3 border-l-4 border-verdigris pl-3" testID="air-form">
      <Head>{`Where it ${opening}`}</Head>
      {landed ? (
        <Small role="status" testID="air-landed">
          {landed}
        </Small>
      ) : null}
      <View className="flex-row flex-wrap items-end gap-x-3 gap-y-2">
        {field("x", "From the left")}
        {field("y", "From below")}
        {field("w", "Width")}
        {field("h", "Height")}
        <Button
          label={`Delete where it ${opening}`}
          bare
          icon={<Trash size={18} color={t.graphite} />}
          onPress={() => {
            change((p) => withOpening(p, opening, undefined));
            chooseOpening(undefined);
          }}
          testID="air-delete"
        />
      </View>
      <View className="flex-row">
        <Button label="Done" onPress={() => chooseOpening(undefined)} testID="air-done" />
      </View>
    </View>
  );
}
