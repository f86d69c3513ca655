import { View } from "react-native";
import { keepTags } from "../kit/format";
import { Body, Small } from "../kit/Text";
import type { Outcome } from "../queries/useEdits";

/** The same above a list; takes no room while there is nothing to tell. */
export function ToldLine(told: { outcome: Outcome | null; testID: string }) {
  return told.outcome ? (
    <View className="px-3 py-1">
      <Told {...told} />
    </View>
  ) : null;
}

/** What an edit did, and what others had done meanwhile. */
export function Told({ outcome, testID }: { outcome: Outcome | null; testID: string }) {
  if (!outcome) return null;
  return (
    <View role="status" testID={testID}>
      <Body>{keepTags(outcome.sentences.join("; "))}.</Body>
      {outcome.meanwhile.map((line, i) => (
        <Small key={i}>{keepTags(`Laid on top of what was done meanwhile: ${line}`)}</Small>
      ))}
    </View>
  );
}
