import { View } from "react-native";
import { Button } from "../kit/Button";
import { formatCount } from "../kit/format";
import { SeveritySign } from "../kit/Severity";
import { Small } from "../kit/Text";
import { KeepParts } from "./KeepParts";
import type { useCells } from "./useCells";

const MOST_SAID = 6;

/** What was written into the table and is not kept yet. */
export function CellsTray({ cells, on, next }: { cells: ReturnType<typeof useCells>; on: string; next: number }) {
  const { changed, notTaken } = cells;
  return (
    <View className="gap-2" testID="cells">
      {notTaken.slice(0, MOST_SAID).map((n) => (
        <View key={n.number} className="flex-row gap-2">
          <View className="pt-0.5">
            <SeveritySign severity="check" />
          </View>
          <Small className="min-w-0 flex-1">
            {n.number}: {n.found}; wanted {n.wanted}
          </Small>
        </View>
      ))}
      {notTaken.length > MOST_SAID ? (
        <Small>and {formatCount(notTaken.length - MOST_SAID)} more not taken</Small>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label="Undo" onPress={cells.undo} testID="cells-undo" />
        <Button label="Drop all of it" onPress={cells.drop} testID="cells-drop" />
      </View>
      {changed.length > MOST_CHANGED ? (
        <Small className="text-brick">At most {formatCount(MOST_CHANGED)} parts at once: undo some of it.</Small>
      ) : changed.length > 0 ? (
        <KeepParts
          said={`${formatCount(changed.length)} ${changed.length === 1 ? "part was" : "parts were"} changed here and not kept yet.`}
          parts={changed}
          on={on}
          next={next}
          kept={cells.drop}
        />
      ) : null}
    </View>
  );
}

/** So many parts are written in one version. */
const MOST_CHANGED = 1000;
