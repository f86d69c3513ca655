import { View } from "react-native";
import { Field } from "./Field";
import { formatLength } from "./format";
import { readLength } from "./quantity";
import { useSettings } from "./settings";
import { Small } from "./Text";
import { useTyped } from "./useTyped";

/**
 * A length, in the unit somebody has chosen or with its own behind it. What cannot be read is told below, and nothing is written; an
 * empty field says nothing.
 */
export function MmField({
  label,
  mm,
  change,
  hint,
  least = 0,
  testID,
}: {
  label: string;
  mm: number | undefined;
  change(mm: number | undefined): void;
  hint?: string;
  least?: number;
  testID: string;
}) {
  const settings = useSettings();
  const shown = mm === undefined ? "" : formatLength(mm, settings);
  const reasonOf = (text: string): string | null => {
    if (text.trim() === "") return null;
    const read = readLength(text, settings);
    if (!read.ok) return read.reason;
    return read.value < least ? `At least ${formatLength(least, settings)}.` : null;
  };
  const { text, typed, type, leave } = useTyped(shown, (written) => {
    if (reasonOf(written) !== null) return false;
    const read = readLength(written, settings);
    const value = read.ok ? read.value : undefined;
    if (value !== mm) change(value);
    return true;
  });
  const reason = typed === null ? null : reasonOf(typed);
  return (
    <View className="gap-1">
      <Field label={label} value={text} change={type} leave={leave} {...(hint ? { hint } : {})} testID={testID} />
      {reason === null ? null : (
        <Small role="alert" className="text-brick">
          {reason}
        </Small>
      )}
    </View>
  );
}
