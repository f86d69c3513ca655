import { lacksOf } from "@gray-bench/core/library/lacks";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { likeLoss } from "@gray-bench/core/library/like-parts";
import { CATEGORIES, type Category, type Mount } from "@gray-bench/core/design/model";
import { View } from "react-native";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { MmField } from "../../kit/MmField";
import { number } from "../../kit/quantity";
import { Select } from "../../kit/Select";
import { Head, Small } from "../../kit/Text";
import { useTyped } from "../../kit/useTyped";
import type { Draft } from "./useDraft";

/** What a part is, how large, what it loses, and what it stands on. */
export function PartFields({ draft: { part, change }, parts }: { draft: Draft; parts: readonly LibraryPart[] }) {
  const like = part.lossW === undefined ? likeLoss(part, parts) : null;
  const size = (id: "w" | "h" | "d", label: string) => (
    <View className="w-26">
      <MmField
        label={label}
        mm={part[id]}
        change={(v) => change((p) => ({ ...p, [id]: v }))}
        least={0.1}
        testID={`part-${id}`}
      />
    </View>
  );
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        {size("w", "Width")}
        {size("h", "Height")}
        {size("d", "Depth")}
      </View>
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        <View className="w-40">
          <Select
            label="Kind"
            value={part.category ?? ""}
            choices={CATEGORIES}
            none="not told"
            choose={(v) => change((p) => ({ ...p, category: (v || undefined) as Category | undefined }))}
            testID="part-category"
          />
        </View>
        <View className="w-30">
          <Watts draft={{ part, change }} />
        </View>
      </View>
      {like && lacksOf(part).includes("without a loss") ? (
        <View className="flex-row flex-wrap items-center gap-2" testID="like-loss">
          <Small className="min-w-40 flex-1">
            Median of {like.of} like {like.of === 1 ? "part" : "parts"}: {like.watts} W. It is a guess until you take
            it.
          </Small>
          <Button
            label={`Take ${like.watts} W`}
            onPress={() => change((p) => ({ ...p, lossW: like.watts }))}
            testID="like-loss-take"
          />
        </View>
      ) : null}
      <Written
        label="Text"
        value={part.text ?? ""}
        write={(text) => change((p) => ({ ...p, text }))}
        testID="part-text"
      />
      <Written
        label="Maker"
        value={part.maker ?? ""}
        write={(maker) => change((p) => ({ ...p, maker }))}
        testID="part-maker"
      />
      <Written
        label="Other numbers it comes under, with commas between"
        value={(part.alsoAs ?? []).join(", ")}
        write={(text) => {
          const alsoAs = [...new Set(text.split(",").map((n) => n.trim()))].filter(
            (n) => n !== "" && n !== part.number,
          );
          change((p) => ({ ...p, alsoAs }));
        }}
        testID="part-also"
      />
      <Mounts draft={{ part, change }} />
    </View>
  );
}

function Written({
  label,
  value,
  write,
  testID,
}: {
  label: string;
  value: string;
  write(text: string): void;
  testID: string;
}) {
  const { text, type, leave } = useTyped(value, (written) => {
    write(written.trim());
    return true;
  });
  return <Field label={label} value={text} change={type} leave={leave} testID={testID} />;
}

function Watts({ draft: { part, change } }: { draft: Pick<Draft, "part" | "change"> }) {
  const read = (text: string): number | null | undefined => {
    const plain = text.replace(/\s*W\s*$/i, "").trim();
    if (plain === "") return undefined;
    const value = number(plain);
    return value === null || value < 0 ? null : value;
  };
  const { text, typed, type, leave } = useTyped(part.lossW === undefined ? "" : `${part.lossW} W`, (written) => {
    const lossW = read(written);
    if (lossW === null) return false;
    change((p) => ({ ...p, lossW }));
    return true;
  });
  return (
    <View className="gap-1">
      <Field label="Loss" value={text} change={type} leave={leave} hint="not told" testID="part-loss" />
      {typed !== null && read(typed) === null ? (
        <Small role="alert" className="text-brick">
          Write watts, for example 5.8.
        </Small>
      ) : null}
    </View>
  );
}

const STANDS = ["rail", "plate", "door"] as const;

/** What it can be mounted on; the middle of a rail lies at a height of the body. */
function Mounts({ draft: { part, change } }: { draft: Pick<Draft, "part" | "change"> }) {
  const mounts = part.mounts ?? [];
  const rail = mounts.find((m) => m.kind === "rail");
  const turn = (kind: (typeof STANDS)[number]): void =>
    change((p) => {
      const others = (p.mounts ?? []).filter((m) => m.kind !== kind);
      const there = others.length < (p.mounts ?? []).length;
      const fresh: Mount = kind === "rail" ? { kind, datumY: (p.h ?? 0) / 2 } : { kind };
      return { ...p, mounts: there ? others : [...others, fresh] };
    });
  return (
    <View className="gap-2">
      <Head>Stands on</Head>
      <View className="flex-row flex-wrap items-end gap-2">
        {STANDS.map((kind) => (
          <Button
            key={kind}
            label={kind}
            pressed={mounts.some((m) => m.kind === kind)}
            onPress={() => turn(kind)}
            testID={`part-mount-${kind}`}
          />
        ))}
        {rail ? (
          <View className="w-42">
            <MmField
              label="Middle of the rail at"
              mm={rail.datumY}
              change={(datumY) =>
                datumY !== undefined &&
                change((p) => ({
                  ...p,
                  mounts: (p.mounts ?? []).map((m) => (m.kind === "rail" ? { ...m, datumY } : m)),
                }))
              }
              testID="part-datum"
            />
          </View>
        ) : null}
      </View>
    </View>
  );
}
