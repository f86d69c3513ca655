import { View } from "react-native";
import { TickNotes } from "../events/TickNotes";
import { Failed } from "../kit/States";
import { Small } from "../kit/Text";
import type { Batch } from "./useBatches";

/** What waits to be sent, what was refused, and whether the server can be heard. */
export function BatchNotes({ batch }: { batch: Batch }) {
  return (
    <View className="gap-1">
      <TickNotes
        waiting={batch.waiting}
        error={batch.error}
        what={batch.waiting === 1 ? "entry" : "entries"}
        label="Your name, beside what you say of leads"
        testID="batch"
      />
      {batch.refused ? <Failed error={batch.refused} /> : null}
      {batch.alone && !batch.error ? (
        <Small role="status" className="text-ochre" testID="batch-alone">
          The server does not answer: what the machine makes is not seen until it does.
        </Small>
      ) : null}
    </View>
  );
}
