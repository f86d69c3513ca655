import type { Ask } from "@gray-bench/core/design/open-points";
import { useEffect, useMemo, useState } from "react";
import { View } from "react-native";
import { useDesign } from "../queries/useJobs";
import { ApiError } from "../kit/api";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { formatSize } from "../kit/format";
import { Overlay } from "../kit/Overlay";
import { Select } from "../kit/Select";
import { useSettings, type Settings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Small } from "../kit/Text";
import { shaped, type Act, type Answers } from "@gray-bench/core/frame/act";
import { answer, choicesOf, textNow, type Answer } from "./answers";
import { OutlookView } from "./Outlook";
import { deviceParts } from "@gray-bench/core/frame/device-parts";
import { useEdit, useOutlook, type Doing, type Outcome } from "../queries/useEdits";

const UNIT: Partial<Record<Ask["as"], (s: Settings) => string>> = {
  size: (s) => (s.size === "awg" ? "AWG, or write mm²" : "mm², or write 14 AWG"),
  watts: () => "W",
  length: (s) => s.length,
  temperature: (s) => (s.temperature === "F" ? "°F, or write °C" : "°C, or write °F"),
};

/** What was answered so far; null while an answer cannot be taken. */
function answersOf(all: readonly { ask: Ask; got: Answer }[]): Answers | null {
  const values: Record<string, string | number | null | undefined> = {};
  const set = new Set<string>();
  for (const { ask, got } of all) {
    if (!got.ok) return null;
    values[ask.field] = got.value;
    if (got.set) set.add(ask.field);
  }
  return { values, set };
}

/**
 * Asks what an edit still needs, the name of whoever does it, and why; lays it on the design. What cannot
 * be is refused in its field; what the server refuses stays on the sheet with its reason.
 */
export function EditSheet({
  job,
  act,
  close,
  laid,
}: {
  job: string;
  act: Act;
  close: () => void;
  laid: (outcome: Outcome) => void;
}) {
  const { title, about, asks, whyNeeded = false } = act;
  const settings = useSettings();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [why, setWhy] = useState("");
  const [name, setName] = useState(settings.name);
  const [tried, setTried] = useState(false);
  const lay = useEdit(job);
  const outlook = useOutlook(job);
  const all = asks.map((ask) => ({ ask, got: answer(ask, typed[ask.field], settings) }));
  const answers = answersOf(all);
  const made = answers && act.payloads.map((p) => shaped(act, p, answers));
  const refused = made?.find((m) => !m.ok) ?? null;
  const note = answers && act.note?.(answers);
  const ready = made !== null && refused === null && name.trim() !== "" && (!whyNeeded || why.trim() !== "");
  /** What is laid, the reason and the name aside. */
  const trial: Doing[] = [
    ...(made ?? []).flatMap((m) => (m.ok ? [{ kind: act.kind, payload: m.payload }] : [])),
    ...(act.more ?? []),
  ];
  const doing = (): Doing[] =>
    trial.map(({ kind, payload }) =>
      whyNeeded
        ? { kind, payload: { ...(payload as object), why: why.trim(), who: name.trim() } }
        : { kind, payload, ...(why.trim() ? { why: why.trim() } : {}) },
    );
  const tryable = made !== null && refused === null;
  // What was seen holds as long as nothing else is answered.
  const answered = JSON.stringify(trial);
  const seen = JSON.stringify(outlook.variables) === answered;
  const look = (): void => {
    setTried(true);
    if (tryable) outlook.mutate(trial);
  };
  const { mutate: ask } = outlook;
  const shownFor = act.shown && tryable ? answered : null;
  useEffect(() => {
    if (shownFor !== null) ask(JSON.parse(shownFor) as Doing[]);
  }, [shownFor, ask]);
  const save = (): void => {
    setTried(true);
    if (!ready) return;
    settings.change({ name: name.trim() });
    lay.mutate(doing(), {
      onSuccess(outcome) {
        laid(outcome);
        close();
      },
    });
  };
  const wrongIn = (field: string | undefined): string | null =>
    refused && !refused.ok && refused.field === field && tried ? refused.reason : null;
  return (
    <Overlay title={title} close={close} testID="edit">
      <View className="gap-3 p-3">
        <Body>{about}</Body>
        {all.map(({ ask, got }) => (
          <View key={ask.field} className="gap-1">
            <AskField
              job={job}
              ask={ask}
              value={typed[ask.field] ?? textNow(ask, settings)}
              change={(text) => setTyped((now) => ({ ...now, [ask.field]: text }))}
              enter={save}
            />
            {!got.ok && (tried || (typed[ask.field] ?? "") !== "") ? <Wrong text={got.reason} /> : null}
            {wrongIn(ask.field) ? <Wrong text={wrongIn(ask.field)!} /> : null}
            {got.ok && got.set && ask.as === "size" && typeof got.value === "number" ? (
              <Small>{formatSize(got.value, { size: "mm2" })}</Small>
            ) : null}
          </View>
        ))}
        {wrongIn(undefined) ? <Wrong text={wrongIn(undefined)!} /> : null}
        {note ? (
          <View role="status" testID="edit-note" className="border-l-4 border-ochre pl-3">
            <Body>{note}</Body>
          </View>
        ) : null}
        <View className="gap-1">
          <Field
            label={whyNeeded ? "Why it may stand as it is" : "Why (not needed)"}
            value={why}
            change={setWhy}
            testID="edit-why"
            keys={{ Enter: save }}
          />
          {whyNeeded && tried && why.trim() === "" ? <Wrong text="A reason is needed." /> : null}
        </View>
        {settings.name === "" || tried ? (
          <View className="gap-1">
            <Field
              label="Your name, for the history"
              value={name}
              change={setName}
              testID="edit-who"
              keys={{ Enter: save }}
            />
            {tried && name.trim() === "" ? <Wrong text="A name is needed; it is kept on this device." /> : null}
          </View>
        ) : null}
        {lay.error ? <Failed error={lay.error} /> : null}
        {lay.error instanceof ApiError
          ? lay.error.body.changed?.map((line, i) => <Small key={i}>Meanwhile, {line}</Small>)
          : null}
        {act.shown && outlook.isPending ? <Small role="status">Computing what it would do …</Small> : null}
        {outlook.data && seen ? <OutlookView outlook={outlook.data} /> : null}
        {outlook.error && seen ? <Failed error={outlook.error} /> : null}
        <View className="flex-row flex-wrap gap-2">
          {whyNeeded || act.shown ? null : (
            <Button
              label={outlook.isPending ? "Computing …" : "See what it does"}
              disabled={outlook.isPending}
              onPress={look}
              testID="edit-look"
            />
          )}
          <Button
            kind="solid"
            label={lay.isPending ? "Saving …" : title}
            disabled={lay.isPending}
            onPress={save}
            testID="edit-save"
          />
          <Button label="Cancel" onPress={close} testID="edit-leave" />
        </View>
      </View>
    </Overlay>
  );
}

const Wrong = ({ text }: { text: string }) => (
  <View role="alert">
    <Small className="text-brick">{text}</Small>
  </View>
);

/** A part of the design that a device may be, those of no device left out. */
function PartSelect({
  job,
  label,
  value,
  change,
}: {
  job: string;
  label: string;
  value: string;
  change(text: string): void;
}) {
  const { data: design } = useDesign(job);
  const parts = useMemo(() => (design ? deviceParts(design) : []), [design]);
  return <Select label={label} value={value} choices={parts} choose={change} none="choose …" testID="ask-part" />;
}

function AskField({
  job,
  ask,
  value,
  change,
  enter,
}: {
  job: string;
  ask: Ask;
  value: string;
  change: (text: string) => void;
  enter: () => void;
}) {
  const settings = useSettings();
  const unit = UNIT[ask.as]?.(settings);
  const label = `${unit ? `${ask.label} (${unit})` : ask.label}${ask.optional ? ", may be empty" : ""}`;
  const choices = choicesOf(ask);
  if (ask.as === "part") return <PartSelect job={job} label={label} value={value} change={change} />;
  const testID = `ask-${ask.field}`;
  if (choices)
    return (
      <Select
        label={label}
        value={value}
        choices={choices}
        choose={change}
        none={ask.optional ? "none" : "choose …"}
        testID={testID}
      />
    );
  return <Field label={label} value={value} change={change} testID={testID} keys={{ Enter: enter }} />;
}
