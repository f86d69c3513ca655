import type { Slot } from "@gray-bench/core/design/model";
import { View } from "react-native";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { MmField } from "../../kit/MmField";
import { useTokens } from "../../kit/settings";
import { Head, Small } from "../../kit/Text";
import { useTyped } from "../../kit/useTyped";
import type { Draft } from "./useDraft";

/** Slots in which modules sit, as in a rack. */
export function Slots({
  draft: { part },
  slot,
  chooseSlot,
}: {
  draft: Draft;
  slot: string | undefined;
  chooseSlot(name: string | undefined): void;
}) {
  const slots = part.slots ?? [];
  return (
    <View className="gap-2" testID="part-slots">
      <Head>Slots for modules ({slots.length})</Head>
      {slots.length === 0 ? <Small>None. A tap on the drawing sets one where slots are set.</Small> : null}
      <View className="flex-row flex-wrap gap-1" role="group" aria-label="Slots">
        {slots.map((s) => (
          <Button
            key={s.name}
            label={s.name}
            pressed={slot === s.name}
            onPress={() => chooseSlot(slot === s.name ? undefined : s.name)}
            testID={`slot-${s.name}`}
          />
        ))}
      </View>
    </View>
  );
}

/** The chosen slot: where the datum of a module comes to lie, and which parts it takes. */
export function SlotForm({
  draft: { part, change },
  slot,
  landed,
  chooseSlot,
}: {
  draft: Draft;
  slot: Slot;
  landed: string | null;
  chooseSlot(name: string | undefined): void;
}) {
  const t = useTokens();
  const write = (more: Partial<Slot>): void =>
    change((p) => ({ ...p, slots: (p.slots ?? []).map((s) => (s.name === slot.name ? { ...s, ...more } : s)) }));
  const others = new Set((part.slots ?? []).filter((s) => s.name !== slot.name).map((s) => s.name));
  const name = useTyped(slot.name, (written) => {
    const next = written.trim();
    if (next === "" || others.has(next)) return false;
    write({ name: next });
    chooseSlot(next);
    return true;
  });
  const accepts = useTyped((slot.accepts ?? []).join(", "), (written) => {
    const parts = [...new Set(written.split(",").map((n) => n.trim()))].filter((n) => n !== "");
    change((p) => ({
      ...p,
      slots: (p.slots ?? []).map((s) => {
        if (s.name !== slot.name) return s;
        const { accepts: _, ...rest } = s;
        return parts.length > 0 ? { ...rest, accepts: parts } : rest;
      }),
    }));
    return true;
  });
  const place = (id: "x" | "y" | "z", label: string) => (
    <View className="w-26">
      <MmField
        label={label}
        mm={slot[id]}
        change={(v) => v !== undefined && write({ [id]: v })}
        least={-1000}
        testID={`slot-${id}`}
      />
    </View>
  );
  return (
    <View className="gap-3 border-l-4 border-verdigris pl-3" testID="slot-form">
      <Head>Slot {slot.name}</Head>
      {landed ? (
        <Small role="status" testID="slot-landed">
          {landed}
        </Small>
      ) : null}
      <View className="flex-row flex-wrap items-end gap-x-3 gap-y-2">
        <View className="w-26">
          <Field label="Name" value={name.text} change={name.type} leave={name.leave} testID="slot-name" />
        </View>
        {place("x", "From the left")}
        {place("y", "From below")}
        {place("z", "Above the face")}
        <Button
          label={`Delete slot ${slot.name}`}
          bare
          icon={<Trash size={18} color={t.graphite} />}
          onPress={() => {
            change((p) => ({ ...p, slots: (p.slots ?? []).filter((s) => s.name !== slot.name) }));
            chooseSlot(undefined);
          }}
          testID="slot-delete"
        />
      </View>
      {others.has(name.text.trim()) ? (
        <Small role="alert" className="text-brick">
          There is a slot {name.text.trim()} already.
        </Small>
      ) : null}
      <Field
        label="Takes parts, with commas between; any when empty"
        value={accepts.text}
        change={accepts.type}
        leave={accepts.leave}
        testID="slot-accepts"
      />
      <View className="flex-row">
        <Button label="Done" onPress={() => chooseSlot(undefined)} testID="slot-done" />
      </View>
    </View>
  );
}
