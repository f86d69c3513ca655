import ArrowDown from "lucide-react-native/icons/arrow-down";
import ArrowUp from "lucide-react-native/icons/arrow-up";
import { View } from "react-native";
import { Button } from "../Button";
import { Overlay } from "../Overlay";
import { useTokens } from "../settings";
import type { TableColumn } from "./column";
import type { TableState } from "./useTableState";

interface Props<T> {
  columns: readonly TableColumn<T>[];
  state: TableState;
  change(part: Partial<TableState>): void;
  reset(): void;
  close(): void;
}

/** Which columns a table shows, and in which order. */
export function ColumnChooser<T>({ columns, state, change, reset, close }: Props<T>) {
  const t = useTokens();
  const icon = { size: 18, color: t.graphite };
  const order = state.columnOrder;
  const move = (at: number, by: number): void => {
    const next = [...order];
    next.splice(at + by, 0, next.splice(at, 1)[0]!);
    change({ columnOrder: next });
  };
  return (
    <Overlay title="Columns" close={close} testID="columns">
      <View role="list" className="gap-1 p-3">
        {order.map((id, i) => {
          const shown = state.columnVisibility[id] !== false;
          const label = columns.find((c) => c.id === id)!.label;
          return (
            <View key={id} role="listitem" className="flex-row items-center gap-2">
              <View className="flex-1">
                <Button
                  label={shown ? `${label}: shown` : `${label}: not shown`}
                  pressed={shown}
                  onPress={() => change({ columnVisibility: { ...state.columnVisibility, [id]: !shown } })}
                  testID={`column-${id}`}
                />
              </View>
              <Button
                bare
                label={`${label} further left`}
                disabled={i === 0}
                icon={<ArrowUp {...icon} />}
                onPress={() => move(i, -1)}
                testID={`column-left-${id}`}
              />
              <Button
                bare
                label={`${label} further right`}
                disabled={i === order.length - 1}
                icon={<ArrowDown {...icon} />}
                onPress={() => move(i, 1)}
                testID={`column-right-${id}`}
              />
            </View>
          );
        })}
        <Button label="As they were at first" onPress={reset} testID="columns-reset" />
      </View>
    </Overlay>
  );
}
