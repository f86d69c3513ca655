import { useState } from "react";
import { EditSheet } from "../edits/EditSheet";
import type { Outcome } from "../edits/useEdits";
import { Button } from "../kit/Button";

const FIELDS = {
  colour: { title: "Change colour", ask: { field: "colour", label: "Colour", as: "colour" } },
  size: { title: "Change size", ask: { field: "sizeMm2", label: "Cross-section", as: "size" } },
} as const;

/** What can be done with several wires at once: each is one edit. */
export function ManyWires({
  job,
  wires,
  laid,
}: {
  job: string;
  wires: readonly string[];
  laid(outcome: Outcome): void;
}) {
  const [editing, setEditing] = useState<keyof typeof FIELDS | null>(null);
  return (
    <>
      <Button label="Colour" onPress={() => setEditing("colour")} testID="many-colour" />
      <Button label="Size" onPress={() => setEditing("size")} testID="many-size" />
      {editing ? (
        <EditSheet
          job={job}
          title={FIELDS[editing].title}
          about={`${wires.length === 1 ? "One wire gets" : `${wires.length} wires get`} it as their own. A wire's own counts before its net's and its class's.`}
          edit={{ kind: "set wires", payload: { wires }, asks: [FIELDS[editing].ask] }}
          close={() => setEditing(null)}
          laid={laid}
        />
      ) : null}
    </>
  );
}
