import { memo, type ReactNode } from "react";
import { Pressable } from "react-native";
import { ManyBar, useMany } from "../many";
import { VirtualList } from "../VirtualList";

export interface ManyRowsProps<T> {
  label: string;
  /** `wire`, `wires` */
  one: string;
  several: string;
  rows: readonly T[];
  keyOf(row: T): string;
  rowPx: number;
  /** What stands in a row. */
  row(row: T): ReactNode;
  rowClass?: string;
  chosen: string | undefined;
  choose(key: string): void;
  rowTestID(key: string): string;
  /** What can be done with several chosen rows. */
  acts(keys: readonly string[]): ReactNode;
  testID: string;
}

/** A list on a phone: a tap chooses, a long press begins choosing many, which then have a bar below. */
export function ManyRows<T>(props: ManyRowsProps<T>) {
  const { label, one, several, rows, keyOf, rowPx, row, rowClass = "justify-center px-3" } = props;
  const { chosen, choose, rowTestID, acts, testID } = props;
  const { many, toggle, letGo } = useMany();
  return (
    <>
      <VirtualList
        count={rows.length}
        rowPx={rowPx}
        label={label}
        testID={testID}
        keyOf={(i) => keyOf(rows[i]!)}
        chosen={chosen === undefined ? -1 : rows.findIndex((r) => keyOf(r) === chosen)}
        row={(i) => {
          const key = keyOf(rows[i]!);
          return (
            <Line
              of={key}
              testID={rowTestID(key)}
              rowClass={rowClass}
              on={many ? many.has(key) : key === chosen}
              press={many ? toggle : choose}
              hold={toggle}
            >
              {row(rows[i]!)}
            </Line>
          );
        }}
      />
      {many ? (
        <ManyBar many={many} one={one} several={several} letGo={letGo}>
          {acts([...many])}
        </ManyBar>
      ) : null}
    </>
  );
}

const Line = memo(function Line({
  of,
  testID,
  rowClass,
  on,
  press,
  hold,
  children,
}: {
  of: string;
  testID: string;
  rowClass: string;
  on: boolean;
  press(key: string): void;
  hold(key: string): void;
  children: ReactNode;
}) {
  return (
    <Pressable
      role="button"
      testID={testID}
      aria-pressed={on}
      onPress={() => press(of)}
      onLongPress={() => hold(of)}
      className={`h-full w-full border-b border-line ${rowClass} ${on ? "border-l-4 border-l-verdigris bg-tray" : ""}`}
    >
      {children}
    </Pressable>
  );
});
