import type { DesignOutlook } from "@gray-bench/contract/edits";
import type { Outlook as Numbers } from "@gray-bench/contract/shop";
import type { ThingChanges } from "@gray-bench/core/design/changes";
import { View } from "react-native";
import { figureText, keepTags, sayTold } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Body, Small } from "../kit/Text";

const MOST_NAMES = 12;

const PLURAL: Partial<Record<ThingChanges["thing"], string>> = { crossing: "crossings" };

const counted = (n: number, thing: ThingChanges["thing"]): string =>
  n === 1 ? `1 ${thing}` : `${n} ${PLURAL[thing] ?? `${thing}s`}`;

const named = (names: readonly string[]): string =>
  names.length > MOST_NAMES
    ? `${names.slice(0, MOST_NAMES).join(", ")} and ${names.length - MOST_NAMES} more`
    : names.join(", ");

/** What comes, goes and changes, kind by kind with names. */
export function Changes({ things }: { things: readonly ThingChanges[] }) {
  const line = (word: string, t: ThingChanges, names: readonly string[]) =>
    names.length === 0 ? null : (
      <Small key={`${word} ${t.thing}`}>
        {counted(names.length, t.thing)} {word}: {keepTags(named(names))}
      </Small>
    );
  return (
    <View testID="changes" className="gap-1">
      {things.length === 0 ? <Small>No thing comes, goes or changes.</Small> : null}
      {things.map((t) => [line("new", t, t.added), line("gone", t, t.gone), line("changed", t, t.changed)])}
    </View>
  );
}

/** Edits that would not fit any more. */
export function Unfitting({ edits }: { edits: readonly { sentence: string; reason: string }[] }) {
  return (
    <>
      {edits.map((u, i) => (
        <Small key={i} className="font-medium text-brick">
          {keepTags(`The edit "${u.sentence}" does not fit it: ${u.reason}. It would become an open point.`)}
        </Small>
      ))}
    </>
  );
}

const sum = ({ stop, check, note }: Numbers["open"]["before"]): number => stop + check + note;

/** What numbers become. */
export function NumbersThen({ outlook }: { outlook: Numbers }) {
  const settings = useSettings();
  const { words, figures, open } = outlook;
  return (
    <>
      {words.length > 0 ? <Small>{words.map((w) => sayTold(w, settings)).join(", ")}</Small> : null}
      {figures.map((f) => (
        <Small key={`${f.stage} ${f.id}`}>
          {f.label}: {figureText({ ...f, value: f.before }, settings)}, then{" "}
          {figureText({ ...f, value: f.after }, settings)}
        </Small>
      ))}
      {sum(open.before) === sum(open.after) ? null : (
        <Small>
          open points: {sum(open.before)}, then {sum(open.after)}
        </Small>
      )}
    </>
  );
}

/** What edits would do, before they are laid. */
export function OutlookView({ outlook }: { outlook: DesignOutlook }) {
  return (
    <View testID="outlook" role="status" className="gap-1 border-l-4 border-harbour pl-3">
      <Body className="font-medium">What it would do</Body>
      <Changes things={outlook.things} />
      <NumbersThen outlook={outlook} />
    </View>
  );
}
