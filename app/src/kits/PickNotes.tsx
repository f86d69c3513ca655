import { View } from "react-native";
import { TickNotes } from "../events/TickNotes";
import { Small } from "../kit/Text";
import type { Picks } from "./usePicks";

/** Who picks here, what waits to be sent, and whether others can be heard of. */
export function PickNotes({ picks }: { picks: Picks }) {
  return (
    <View className="gap-1">
      <TickNotes
        waiting={picks.waiting}
        error={picks.error}
        what={picks.waiting === 1 ? "pick" : "picks"}
        label="Your name, beside what you pick"
        testID="picks"
      />
      {picks.alone && !picks.error ? (
        <Small role="status" className="text-ochre" testID="picks-alone">
          The server does not answer: what others pick is not seen until it does.
        </Small>
      ) : null}
    </View>
  );
}
