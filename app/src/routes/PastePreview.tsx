import { COLOURS, STRANDS, type Colour, type Strand } from "@gray-bench/core/design/model";
import type { Colours } from "@gray-bench/core/wiring/landings";
import type { WireRoute } from "@gray-bench/core/routes/result";
import { useState } from "react";
import { View } from "react-native";
import { useEdit, type Outcome } from "../queries/useEdits";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { formatSize } from "../kit/format";
import { Overlay } from "../kit/Overlay";
import { readSize } from "../kit/quantity";
import { useSettings, type Settings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Body, Mono, Small } from "../kit/Text";
import type { Pasted } from "../kit/table/column";

/** Columns of the table of wires into which values may be pasted, by the field of a wire they set. */
export const PASTES: Record<string, "colour" | "sizeMm2" | "strand"> = {
  colour: "colour",
  size: "sizeMm2",
  strand: "strand",
};

type Read = { ok: true; value: Colour | number | Strand } | { ok: false; reason: string };

function read(field: "colour" | "sizeMm2" | "strand", text: string, settings: Settings): Read {
  if (field === "sizeMm2") return readSize(text, settings);
  const choices: readonly string[] = field === "colour" ? COLOURS : STRANDS;
  const value = choices.find((c) => c.toLowerCase() === text.toLowerCase());
  return value === undefined
    ? { ok: false, reason: `"${text}" is none of ${choices.join(", ")}` }
    : { ok: true, value: value as Colour | Strand };
}

const MOST = 60;

interface Props {
  job: string;
  pasted: Pasted;
  wires: readonly WireRoute[];
  colours: Colours;
  close(): void;
  laid(outcome: Outcome): void;
}

/** What a pasted column would change, wire by wire, before it is laid as one edit. */
export function PastePreview({ job, pasted, wires, colours, close, laid }: Props) {
  const settings = useSettings();
  const [name, setName] = useState(settings.name);
  const lay = useEdit(job);
  const field = PASTES[pasted.column]!;
  const byId = new Map(wires.map((w) => [w.id, w]));
  const now = (w: WireRoute): Colour | number | Strand | null =>
    field === "colour"
      ? (colours.get(w.id)?.value ?? null)
      : field === "sizeMm2"
        ? (w.sizeMm2?.value ?? null)
        : w.strand;
  const lines = pasted.values.map(({ key, text }) => ({
    wire: byId.get(key)!,
    text,
    got: read(field, text, settings),
  }));
  const wrong = lines.filter((l) => !l.got.ok);
  const changes = lines.flatMap(({ wire, got }) =>
    got.ok && got.value !== now(wire) ? [{ wire, value: got.value }] : [],
  );
  const shown = (v: Colour | number | Strand | null): string =>
    v === null ? "none" : typeof v === "number" ? formatSize(v, settings) : v;
  const save = (): void => {
    settings.change({ name: name.trim() });
    lay.mutate(
      [{ kind: "set each", payload: { each: changes.map(({ wire, value }) => ({ wire: wire.id, [field]: value })) } }],
      {
        onSuccess(outcome) {
          laid(outcome);
          close();
        },
      },
    );
  };
  return (
    <Overlay title="Paste" close={close} testID="paste">
      <View className="gap-2 p-3">
        <Body>
          {changes.length === 0
            ? "Nothing would change."
            : `${changes.length} ${changes.length === 1 ? "wire changes" : "wires change"}; ${lines.length - changes.length - wrong.length} stay as they are.`}
        </Body>
        {wrong.length > 0 ? (
          <View role="alert" className="border-l-4 border-brick pl-3">
            {wrong.slice(0, MOST).map((l) => (
              <Small key={l.wire.id}>
                wire {l.wire.id}: {l.got.ok ? "" : l.got.reason}
              </Small>
            ))}
            <Body>Correct them where they come from and paste again. Nothing was changed.</Body>
          </View>
        ) : null}
        <View role="list" testID="paste-list">
          {changes.slice(0, MOST).map(({ wire, value }) => (
            <View key={wire.id} role="listitem" className="flex-row gap-3 border-t border-line py-1">
              <Mono className="w-18">{wire.id}</Mono>
              <Small>
                {shown(now(wire))}, then {shown(value)}
              </Small>
            </View>
          ))}
        </View>
        {changes.length > MOST ? <Small>and {changes.length - MOST} more</Small> : null}
        {settings.name === "" ? <Field label="Your name" value={name} change={setName} testID="paste-who" /> : null}
        {lay.error ? <Failed error={lay.error} /> : null}
        <View className="flex-row gap-2">
          <Button
            kind="solid"
            label={lay.isPending ? "Saving …" : `Change ${changes.length}`}
            disabled={lay.isPending || changes.length === 0 || wrong.length > 0 || name.trim() === ""}
            onPress={save}
            testID="paste-save"
          />
          <Button label="Cancel" onPress={close} testID="paste-leave" />
        </View>
      </View>
    </Overlay>
  );
}
