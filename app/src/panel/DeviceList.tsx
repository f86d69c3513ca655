import type { PanelResult } from "@gray-bench/core/panel/result";
import { lookUp } from "@gray-bench/core/design/lookup";
import { byText } from "@gray-bench/core/design/order";
import { searchPattern } from "@gray-bench/core/design/wildcards";
import type { Design } from "@gray-bench/core/design/model";
import type { Rules } from "@gray-bench/core/shop/rules";
import { useMemo, useState } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import { ToldLine } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { formatLength } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { ThingList } from "../kit/table/ThingList";
import type { TableColumn } from "../kit/table/column";
import { Mono, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { Furnish } from "./Furnish";
import { addBarActs } from "@gray-bench/core/panel/bar-acts";
import { addDeviceAct, manyDevicesActs } from "@gray-bench/core/panel/device-acts";

interface Props {
  job: string;
  design: Design | undefined;
  /** The shop's, once they are there. */
  rules: Rules | undefined;
  panel: PanelResult;
  chosen: string | undefined;
  choose(tag: string): void;
}

interface DeviceRow {
  tag: string;
  text: string;
  part: string;
  category: string;
  /** `loose` without a place. */
  face: string;
  carrier: string | null;
  xMm: number | null;
  yMm: number | null;
  /** Of its body, unturned. */
  wideMm: number | null;
  sheet: string | null;
  item: number | null;
  fallback: boolean;
}

const LOOSE = "loose";
const ROW_PX = 52;

/** All devices, loose ones first: what those are the design says. */
function rowsOf(panel: PanelResult, design: Design | undefined): DeviceRow[] {
  const look = design && lookUp(design);
  const loose = panel.loose.map((tag): DeviceRow => {
    const device = look?.devices.get(tag);
    const part = device && look?.parts.get(device.part);
    return {
      tag,
      text: part?.text ?? "",
      part: device?.part ?? "",
      category: part?.category ?? "",
      face: LOOSE,
      carrier: null,
      xMm: null,
      yMm: null,
      wideMm: part?.w ?? null,
      sheet: device?.sheet ?? null,
      item: device?.item ?? null,
      fallback: false,
    };
  });
  return [...loose, ...placedRows(panel)];
}

const placedRows = (panel: PanelResult): DeviceRow[] => [
  ...panel.devices.map((d) => ({
    tag: d.tag,
    text: d.text,
    part: d.part,
    category: d.category,
    face: d.face,
    carrier: d.carrier,
    xMm: d.outline.x,
    yMm: d.outline.y,
    wideMm: d.w,
    sheet: d.sheet,
    item: d.item,
    fallback: d.fallbacks.length > 0,
  })),
];

const tagOf = (d: DeviceRow): string => d.tag;

/** Every device: a table when wide, rows on a phone. */
export function DeviceList({ job, design, rules, panel, chosen, choose }: Props) {
  const settings = useSettings();
  const wide = useWide();
  const [told, setTold] = useState<Outcome | null>(null);
  const [text, setText] = useState("");
  const rows = useMemo(() => rowsOf(panel, design), [panel, design]);
  const shown = useMemo(() => {
    if (wide || text.trim() === "") return rows;
    const pattern = searchPattern(text.trim());
    return rows.filter((r) => pattern.test(r.tag) || pattern.test(r.text));
  }, [rows, text, wide]);
  const columns = useMemo<TableColumn<DeviceRow>[]>(() => {
    const mm = (v: number | null) => (v === null ? "" : formatLength(v, settings));
    return [
      { id: "tag", label: "Tag", width: 84, value: (d) => d.tag },
      { id: "text", label: "What it is", width: 150, value: (d) => d.text },
      { id: "face", label: "Face", width: 88, value: (d) => d.face },
      { id: "carrier", label: "Carried by", width: 84, value: (d) => d.carrier },
      { id: "part", label: "Part", width: 110, value: (d) => d.part },
      { id: "category", label: "Kind", width: 96, value: (d) => d.category },
      { id: "x", label: "x", width: 80, value: (d) => d.xMm, cell: (d) => mm(d.xMm) },
      { id: "y", label: "y", width: 80, value: (d) => d.yMm, cell: (d) => mm(d.yMm) },
      { id: "wide", label: "Width", width: 80, value: (d) => d.wideMm, cell: (d) => mm(d.wideMm) },
      { id: "item", label: "Item", width: 60, value: (d) => d.item },
      { id: "sheet", label: "Sheet", width: 80, value: (d) => d.sheet },
      { id: "fallback", label: "Fallback", width: 84, value: (d) => (d.fallback ? "fallback" : null) },
    ];
  }, [settings]);
  const adding = useMemo(
    () => (design ? [addDeviceAct(design), ...(wide ? [] : addBarActs(design))] : []),
    [design, wide],
  );
  const [furnished, setFurnished] = useState<readonly string[] | null>(null);
  const acts = (tags: readonly string[]) => (
    <View className="min-w-0 shrink flex-row flex-wrap gap-2">
      {design && rules && design.rails.length > 0 ? (
        <Button
          kind="solid"
          label="Furnish for me"
          onPress={() => setFurnished([...tags].sort(byText))}
          testID="many-furnish"
        />
      ) : null}
      <View className="min-w-0 shrink">
        <Acts
          job={job}
          acts={manyDevicesActs(tags, design)}
          label="Change the chosen devices"
          about={tags.join()}
          laid={setTold}
          testID="many"
        />
      </View>
    </View>
  );
  const add =
    adding.length > 0 ? (
      <Acts job={job} acts={adding} label="Change the devices" about="what is new" laid={setTold} testID="add" />
    ) : null;
  return (
    <View className="min-h-0 flex-1 bg-paper">
      <ToldLine outcome={told} testID="devices-told" />
      {furnished && design && rules ? (
        <Furnish
          job={job}
          design={design}
          rules={rules}
          devices={furnished}
          close={() => setFurnished(null)}
          laid={setTold}
        />
      ) : null}
      {add && !wide ? <View className="border-b border-line p-2">{add}</View> : null}
      {rows.length === 0 ? <Empty title="No device" text="The design has no devices with the chosen options." /> : null}
      {wide ? null : (
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
      )}
      {rows.length > 0 && shown.length === 0 ? <Empty title="No device" text="No tag or text fits." /> : null}
      <ThingList
        id="devices"
        tools={add}
        label="Devices"
        one="device"
        several="devices"
        testID="device-list"
        rowTestID={(key) => `device-${key}`}
        rows={shown}
        columns={columns}
        keyOf={tagOf}
        chosen={chosen}
        choose={choose}
        acts={acts}
        rowPx={ROW_PX}
        row={(d) => (
          <>
            <View className="flex-row justify-between">
              <Mono>{d.tag}</Mono>
              <Small>{d.face}</Small>
            </View>
            <Small numberOfLines={1}>{d.text}</Small>
          </>
        )}
      />
    </View>
  );
}
