import type { PanelResult } from "@gray-bench/core/panel/result";
import { searchPattern } from "@gray-bench/core/design/find";
import { useMemo, useState } from "react";
import { Pressable, View } from "react-native";
import { Field } from "../kit/Field";
import { Empty } from "../kit/States";
import { Mono, Small } from "../kit/Text";
import { VirtualList } from "../kit/VirtualList";

interface Props {
  panel: PanelResult;
  chosen: string | undefined;
  choose(tag: string): void;
}

/** All devices, loose ones first. */
export function DeviceList({ panel, chosen, choose }: Props) {
  const [text, setText] = useState("");
  const rows = useMemo(() => {
    const all = [
      ...panel.loose.map((tag) => ({ tag, text: "loose", face: "no place" })),
      ...panel.devices.map((d) => ({ tag: d.tag, text: d.text, face: d.face })),
    ];
    if (text.trim() === "") return all;
    const pattern = searchPattern(text.trim());
    return all.filter((r) => pattern.test(r.tag) || pattern.test(r.text));
  }, [panel, text]);
  return (
    <View className="min-h-0 flex-1">
      <View className="border-b border-line p-2">
        <Field
          label="Find a device"
          hideLabel
          hint="tag or text, * and ?"
          value={text}
          change={setText}
          testID="device-filter"
        />
      </View>
      {rows.length === 0 ? <Empty title="No device" text="No tag or text fits." /> : null}
      <VirtualList
        count={rows.length}
        rowPx={48}
        label="Devices"
        testID="device-list"
        keyOf={(i) => rows[i]!.tag}
        chosen={rows.findIndex((r) => r.tag === chosen)}
        row={(i) => {
          const r = rows[i]!;
          const on = r.tag === chosen;
          return (
            <Pressable
              role="button"
              aria-pressed={on}
              onPress={() => choose(r.tag)}
              className={`h-[48px] w-full justify-center border-b border-line px-3 ${on ? "border-l-4 border-l-verdigris bg-tray" : ""}`}
            >
              <View className="flex-row justify-between">
                <Mono>{r.tag}</Mono>
                <Small>{r.face}</Small>
              </View>
              <Small numberOfLines={1}>{r.text}</Small>
            </Pressable>
          );
        }}
      />
    </View>
  );
}
