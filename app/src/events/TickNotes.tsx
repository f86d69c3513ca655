import { useState } from "react";
import { Field } from "../kit/Field";
import { useSettings } from "../kit/settings";
import { Failed } from "../kit/States";
import { Small } from "../kit/Text";

/** Beside what is ticked: who ticks, what still waits to be sent, and what went wrong. */
export function TickNotes({
  waiting,
  error,
  what,
  label,
  testID,
}: {
  waiting: number;
  error: Error | null;
  /** What waits, of several. */
  what: string;
  /** Of the field for the name, which is asked for once. */
  label: string;
  testID: string;
}) {
  const settings = useSettings();
  // The field stays while a name is typed into it.
  const [named] = useState(settings.name !== "");
  return (
    <>
      {waiting > 0 ? (
        <Small
          testID={`${testID}-waiting`}
        >{`${waiting} ${what} ${waiting === 1 ? "waits" : "wait"} to be sent; nothing is lost`}</Small>
      ) : null}
      {error ? <Failed error={error} /> : null}
      {named ? null : (
        <Field
          label={label}
          value={settings.name}
          change={(name) => settings.change({ name })}
          testID={`${testID}-name`}
        />
      )}
    </>
  );
}
