import type { Colours } from "@gray-bench/core/wiring/landings";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Field } from "../kit/Field";
import { Overlay } from "../kit/Overlay";
import { showOf, NO_FILTER, SHOWS, SORTS, valuesOf, type WireFilter } from "./filter";

interface Props {
  result: RoutesResult;
  colours: Colours;
  filter: WireFilter;
  change(part: WireFilter): void;
  close(): void;
}

const withAll = (values: readonly string[]): [string, string][] => [
  ["", "all"],
  ...values.map((v): [string, string] => [v, v]),
];

export function FilterPanel({ result, colours, filter, change, close }: Props) {
  const values = useMemo(() => valuesOf(result, colours), [result, colours]);
  return (
    <Overlay title="Sort and narrow" close={close} testID="filter">
      <View className="gap-4 p-4">
        <Choice
          label="Order"
          value={filter.sort ?? "number"}
          options={Object.entries(SORTS) as [keyof typeof SORTS, string][]}
          choose={(sort) => change({ sort })}
          testID="sort"
        />
        <Choice
          label="Show"
          value={showOf(filter.show)}
          options={Object.entries(SHOWS) as [keyof typeof SHOWS, string][]}
          choose={(show) => change({ show })}
          testID="show"
        />
        <Choice
          label="Enclosure"
          value={filter.enclosure ?? ""}
          options={withAll(values.enclosure)}
          choose={(enclosure) => change({ enclosure })}
          testID="enclosure"
        />
        <Choice
          label="Class"
          value={filter.class ?? ""}
          options={withAll(values.class)}
          choose={(c) => change({ class: c })}
          testID="class"
        />
        <Choice
          label="Colour"
          value={filter.colour ?? ""}
          options={withAll(values.colour)}
          choose={(colour) => change({ colour })}
          testID="colour"
        />
        <Field
          label="Device"
          value={filter.device ?? ""}
          change={(device) => change({ device })}
          hint="-K11"
          testID="device"
        />
        <Field label="Net" value={filter.net ?? ""} change={(net) => change({ net })} testID="net" />
        <Field
          label="Crossing"
          value={filter.crossing ?? ""}
          change={(crossing) => change({ crossing })}
          testID="crossing"
        />
        <View className="flex-row gap-2">
          <Button kind="solid" label="Show" onPress={close} testID="filter-done" />
          <Button label="Clear all" onPress={() => change({ ...NO_FILTER, sort: "number" })} testID="filter-clear" />
        </View>
      </View>
    </Overlay>
  );
}
