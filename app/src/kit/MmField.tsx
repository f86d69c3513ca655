import { useEffect, useState } from "react";
import { View } from "react-native";
import { Field } from "./Field";
import { formatLength } from "./format";
import { readLength } from "./quantity";
import { useSettings } from "./settings";
import { Small } from "./Text";

/** Written as soon as somebody stops typing. */
const PAUSE_MS = 600;

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
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null || typed.trim() === "" ? null : readLength(typed, settings);
  const low = read?.ok && read.value < least;
  const reason = read && !read.ok ? read.reason : low ? `At least ${formatLength(least, settings)}.` : null;
  useEffect(() => {
    if (typed === null || reason !== null) return;
    const later = setTimeout(() => {
      setTyped(null);
      const value = read?.ok ? read.value : undefined;
      if (value !== mm) change(value);
    }, PAUSE_MS);
    return () => clearTimeout(later);
  });
  return (
    <View className="gap-1">
      <Field label={label} value={typed ?? shown} change={setTyped} {...(hint ? { hint } : {})} testID={testID} />
      {reason === null ? null : (
        <Small role="alert" className="text-brick">
          {reason}
        </Small>
      )}
    </View>
  );
}
