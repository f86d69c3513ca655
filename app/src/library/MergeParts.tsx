import { disagree, doublesOf, gained, mergedPart } from "@gray-bench/core/library/doubles";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { useMemo, useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Select } from "../kit/Select";
import { Head, Small } from "../kit/Text";
import { KeepParts } from "./KeepParts";

interface On {
  parts: readonly LibraryPart[];
  on: string;
  next: number;
}

/** What fields are called here. */
const WORDS: Partial<Record<keyof LibraryPart, string>> = {
  w: "width",
  h: "height",
  d: "depth",
  lossW: "loss",
  weightKg: "weight",
  category: "kind",
  currentA: "current",
  maxAroundC: "temperature around it",
  directLeads: "direct leads",
  stock: "stock place",
};
const words = (fields: readonly (keyof LibraryPart)[]): string => fields.map((f) => WORDS[f] ?? f).join(", ");

/** Two parts made one: which number stays is chosen, what becomes of it is seen before it is kept. */
function MergeParts({ one, other, on, next }: { one: LibraryPart; other: LibraryPart } & Omit<On, "parts">) {
  const [stays, setStays] = useState<string | null>(null);
  const [first, second] = stays === other.number ? [other, one] : [one, other];
  const [more, against] = [gained(first, second), disagree(first, second)];
  return (
    <View className="gap-2 border-t border-line pt-2" testID={`merge-${one.number}-${other.number}`}>
      <View className="flex-row flex-wrap items-center gap-2">
        {[one, other].map((p) => (
          <Button
            key={p.number}
            label={`Keep ${p.number}`}
            pressed={stays === p.number}
            onPress={() => setStays(stays === p.number ? null : p.number)}
            testID={`merge-keep-${p.number}`}
          />
        ))}
      </View>
      {stays === null ? (
        <Small>
          {one.number}: {one.text ?? "no text"} · {other.number}: {other.text ?? "no text"}
        </Small>
      ) : (
        <>
          <Small>
            {first.number} stays, and is found under {second.number} too: designs that name that go on.{" "}
            {more.length > 0 ? `It gets ${words(more)}.` : "It gets nothing it does not say."}
          </Small>
          {against.length > 0 ? (
            <Small className="text-brick">
              They say different things of {words(against)}: what {first.number} says stands.
            </Small>
          ) : null}
          <KeepParts
            said="Nothing of it is kept yet."
            parts={[mergedPart(first, second)]}
            gone={[second.number]}
            on={on}
            next={next}
          />
        </>
      )}
    </View>
  );
}

const MOST = 40;

/** Parts whose numbers are written alike. */
export function Doubles({ parts, on, next }: On) {
  const groups = useMemo(() => doublesOf(parts), [parts]);
  return (
    <View className="gap-3 border-l-4 border-verdigris pl-3" testID="doubles">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Head>Numbers that are alike</Head>
        </View>
        <Button label="Close" onPress={() => choose({ doubles: undefined })} testID="doubles-close" />
      </View>
      {groups.length === 0 ? <Small>No two numbers differ in signs, blanks or capitals only.</Small> : null}
      {groups
        .slice(0, MOST)
        .map(([one, ...others]) =>
          others.map((other) => (
            <MergeParts key={`${one!.number} ${other.number}`} one={one!} other={other} on={on} next={next} />
          )),
        )}
      {groups.length > MOST ? <Small>and {groups.length - MOST} more, when these are settled</Small> : null}
    </View>
  );
}

/** Any other part that is the same one, as a person knows. */
export function MergeWith({ part, parts, on, next }: { part: LibraryPart } & On) {
  const [number, setNumber] = useState<string | null>(null);
  const others = useMemo(() => parts.map((p) => p.number).filter((n) => n !== part.number), [parts, part.number]);
  const other = parts.find((p) => p.number === number);
  if (number === null)
    return (
      <View className="flex-row">
        <Button label="Merge with another" onPress={() => setNumber("")} testID="merge-open" />
      </View>
    );
  return (
    <View className="gap-2" testID="merge">
      <View className="flex-row flex-wrap items-end gap-2">
        <View className="min-w-45 flex-1">
          <Select
            label={`The same part as ${part.number}`}
            value={number}
            choices={others}
            choose={setNumber}
            testID="merge-with"
          />
        </View>
        <Button label="Cancel" onPress={() => setNumber(null)} testID="merge-leave" />
      </View>
      {other ? <MergeParts one={part} other={other} on={on} next={next} /> : null}
    </View>
  );
}
