import { COLOURS, NET_CLASSES } from "@gray-bench/core/design/model";
import type { Ask, Mend } from "@gray-bench/core/design/open-points";
import { useState } from "react";
import { View } from "react-native";
import { ApiError } from "../kit/api";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { formatSize } from "../kit/format";
import { Overlay } from "../kit/Overlay";
import { readCount, readSize, readWatts, type Quantity } from "../kit/quantity";
import { Select } from "../kit/Select";
import { useSettings, type Settings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Small } from "../kit/Text";
import { OutlookView } from "./Outlook";
import { useEdit, useOutlook, type Doing, type Outcome } from "./useEdits";

/** What was typed for a question, as the payload takes it; or why it cannot be. */
function answer(
  ask: Ask,
  text: string,
  settings: Settings,
): { ok: true; value: unknown } | { ok: false; reason: string } {
  const typed: Quantity | null =
    ask.as === "size"
      ? readSize(text, settings)
      : ask.as === "watts"
        ? readWatts(text)
        : ask.as === "count"
          ? readCount(text)
          : null;
  if (typed) return typed;
  return text.trim() === "" ? { ok: false, reason: "This is needed." } : { ok: true, value: text.trim() };
}

/** A payload with a field set: `stock.place` goes into `stock`. */
function withAnswer(payload: object, field: string, value: unknown): object {
  const [first, ...rest] = field.split(".");
  const inner = (payload as Record<string, unknown>)[first!];
  return {
    ...payload,
    [first!]: rest.length === 0 ? value : withAnswer((inner as object) ?? {}, rest.join("."), value),
  };
}

const UNIT: Partial<Record<Ask["as"], (s: Settings) => string>> = {
  size: (s) => (s.size === "awg" ? "AWG, or write mm²" : "mm², or write 14 AWG"),
  watts: () => "W",
};

/**
 * Asks what an edit still needs, the name of whoever does it, and why; lays it on the design. What cannot
 * be is refused in its field; what the server refuses stays on the sheet with its reason.
 */
export function EditSheet({
  job,
  title,
  about,
  edit,
  whyNeeded = false,
  close,
  laid,
}: {
  job: string;
  title: string;
  about: string;
  edit: Omit<Mend, "label">;
  /** An open point is accepted with a reason only. */
  whyNeeded?: boolean;
  close: () => void;
  laid: (outcome: Outcome) => void;
}) {
  const settings = useSettings();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [why, setWhy] = useState("");
  const [name, setName] = useState(settings.name);
  const [tried, setTried] = useState(false);
  const lay = useEdit(job);
  const answers = edit.asks.map((ask) => ({ ask, got: answer(ask, typed[ask.field] ?? "", settings) }));
  const ready = answers.every((a) => a.got.ok) && name.trim() !== "" && (!whyNeeded || why.trim() !== "");
  const outlook = useOutlook(job);
  const doingNow = (): Doing => {
    let payload: object = edit.payload;
    for (const { ask, got } of answers) if (got.ok) payload = withAnswer(payload, ask.field, got.value);
    if (whyNeeded) payload = { ...payload, why: why.trim(), who: name.trim() };
    return { kind: edit.kind, payload, ...(why.trim() && !whyNeeded ? { why: why.trim() } : {}) };
  };
  // What was seen holds as long as nothing else is answered.
  const answered = JSON.stringify(answers.map((a) => a.got));
  const [seen, setSeen] = useState("");
  const look = (): void => {
    if (!answers.every((a) => a.got.ok)) {
      setTried(true);
      return;
    }
    setSeen(answered);
    outlook.mutate([doingNow()]);
  };
  const save = (): void => {
    setTried(true);
    if (!ready) return;
    settings.change({ name: name.trim() });
    lay.mutate([doingNow()], {
      onSuccess(outcome) {
        laid(outcome);
        close();
      },
    });
  };
  return (
    <Overlay title={title} close={close} testID="edit">
      <View className="gap-3 p-3">
        <Body>{about}</Body>
        {answers.map(({ ask, got }) => (
          <View key={ask.field} className="gap-1">
            <AskField
              ask={ask}
              value={typed[ask.field] ?? ""}
              change={(text) => setTyped((now) => ({ ...now, [ask.field]: text }))}
              enter={save}
            />
            {!got.ok && (tried || (typed[ask.field] ?? "") !== "") ? <Wrong text={got.reason} /> : null}
            {got.ok && ask.as === "size" ? <Small>{formatSize(got.value as number, { size: "mm2" })}</Small> : null}
          </View>
        ))}
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
        {outlook.data && seen === answered ? <OutlookView outlook={outlook.data} /> : null}
        {outlook.error && seen === answered ? <Failed error={outlook.error} /> : null}
        <View className="flex-row flex-wrap gap-2">
          {whyNeeded ? null : (
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
          <Button label="Leave it" onPress={close} testID="edit-leave" />
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

function AskField({
  ask,
  value,
  change,
  enter,
}: {
  ask: Ask;
  value: string;
  change: (text: string) => void;
  enter: () => void;
}) {
  const settings = useSettings();
  const unit = UNIT[ask.as]?.(settings);
  const label = unit ? `${ask.label} (${unit})` : ask.label;
  const choices =
    ask.as === "choice" ? (ask.choices ?? []) : ask.as === "colour" ? COLOURS : ask.as === "class" ? NET_CLASSES : null;
  const testID = `ask-${ask.field}`;
  if (choices) return <Select label={label} value={value} choices={choices} choose={change} testID={testID} />;
  return <Field label={label} value={value} change={change} testID={testID} keys={{ Enter: enter }} />;
}
