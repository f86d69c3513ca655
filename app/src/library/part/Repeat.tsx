import { useState, type ReactNode } from "react";
import { View } from "react-native";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Field } from "../../kit/Field";
import { MmField } from "../../kit/MmField";
import { Small } from "../../kit/Text";

const MOST_IN_ROW = 200;

/** More like one, with a pitch. */
export function Repeat({
  what,
  told,
  add,
  children,
}: {
  /** `pin`, `hole` */
  what: string;
  /** What would come. */
  told(more: number, dx: number, dy: number): string;
  /** @param count how many there are then, the first among them */
  add(count: number, dx: number, dy: number): void;
  children?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const [count, setCount] = useState("3");
  const [pitch, setPitch] = useState(7.5);
  const [way, setWay] = useState<"right" | "up">("right");
  const n = Number(count);
  const fits = Number.isInteger(n) && n >= 2 && n <= MOST_IN_ROW;
  const [dx, dy] = way === "right" ? [pitch, 0] : [0, pitch];
  if (!open)
    return (
      <View className="flex-row">
        <Button label="Repeat it with a pitch" onPress={() => setOpen(true)} testID={`${what}-repeat`} />
      </View>
    );
  return (
    <View className="gap-2 border-l-4 border-line pl-3" testID={`${what}-row`}>
      <View className="flex-row flex-wrap items-end gap-x-3 gap-y-2">
        <View className="w-22">
          <Field label="How many" value={count} change={setCount} testID={`${what}-row-count`} />
        </View>
        <View className="w-26">
          <MmField
            label="Pitch"
            mm={pitch}
            change={(v) => v !== undefined && setPitch(v)}
            least={-1000}
            testID={`${what}-row-pitch`}
          />
        </View>
      </View>
      <Choice<"right" | "up">
        label="Which way"
        value={way}
        options={[
          ["right", "to the right"],
          ["up", "upwards"],
        ]}
        choose={setWay}
        testID={`${what}-row-way`}
      />
      {children}
      <Small role="status">{fits ? told(n - 1, dx, dy) : `Write a number from 2 to ${MOST_IN_ROW}.`}</Small>
      <View className="flex-row flex-wrap gap-2">
        <Button
          kind="solid"
          label="Add them"
          disabled={!fits}
          onPress={() => {
            add(n, dx, dy);
            setOpen(false);
          }}
          testID={`${what}-row-add`}
        />
        <Button label="Cancel" onPress={() => setOpen(false)} testID={`${what}-row-leave`} />
      </View>
    </View>
  );
}
