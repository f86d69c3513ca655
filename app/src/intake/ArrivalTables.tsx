import type { Arrival, ArrivedTable } from "@gray-bench/contract/api";
import { useDropzone } from "react-dropzone";
import { View } from "react-native";
import FilePlus from "lucide-react-native/icons/file-plus";
import Trash from "lucide-react-native/icons/trash";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { formatCount } from "../kit/format";
import { useTokens } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { TapRow } from "../kit/TapRow";
import { Body, Small } from "../kit/Text";
import { KIND_WORDS } from "./matchingActs";
import type { useArrival } from "./useArrival";

const sheetOf = ({ asked }: ArrivedTable): string => (asked.sheet === undefined ? "" : `, sheet ${asked.sheet}`);

const rowsText = (n: number): string => `${formatCount(n)} ${n === 1 ? "row" : "rows"}`;

/** The tables that have come, and adding more. */
export function ArrivalTables({
  arrival,
  at,
  act,
}: {
  arrival: Arrival;
  at: number;
  act: ReturnType<typeof useArrival>;
}) {
  const t = useTokens();
  const zone = useDropzone({
    onDrop: (files) => {
      if (zone.inputRef.current) zone.inputRef.current.value = "";
      if (files.length > 0) act.add.mutate(files);
    },
    noClick: true,
    noKeyboard: true,
  });
  const busy = act.add.isPending;
  const remove = (gone: ArrivedTable): void =>
    act.change.mutate(
      { to: (said) => ({ ...said, tables: said.tables.filter((one) => !same(one, gone)) }) },
      { onSuccess: () => choose({ table: undefined, field: undefined, show: "tables" }) },
    );
  return (
    <div {...zone.getRootProps()} data-testid="arrival-drop">
      <View className={zone.isDragActive ? "bg-tray" : ""}>
        <View role="list" aria-label="Tables">
          {arrival.tables.map((one, i) => (
            <View
              key={`${one.file} ${one.name} ${one.asked.sheet ?? ""}`}
              role="listitem"
              className="flex-row items-center"
            >
              <View className="min-w-0 flex-1">
                <TapRow
                  press={() => choose({ table: String(i + 1), field: undefined, show: "columns" })}
                  on={at === i + 1}
                  testID={`table-${i + 1}`}
                >
                  <View className="min-w-0 flex-1">
                    <Body className="break-words font-medium">
                      {one.name}
                      {sheetOf(one)}
                    </Body>
                    {one.matching ? (
                      <Small>
                        {rowsText(one.rows)} of {KIND_WORDS[one.matching.kind]}
                        {one.by === null ? "" : `, read as for ${one.by}`}
                      </Small>
                    ) : (
                      <View className="flex-row items-center gap-1">
                        <SeveritySign severity="check" />
                        <Small className="text-ochre">{rowsText(one.rows)}, left out</Small>
                      </View>
                    )}
                  </View>
                </TapRow>
              </View>
              <Button
                label={`Take ${one.name}${sheetOf(one)} out`}
                bare
                icon={<Trash size={18} color={t.graphite} />}
                onPress={() => remove(one)}
                testID={`table-${i + 1}-out`}
              />
            </View>
          ))}
        </View>
        <View className="gap-2 p-3">
          <input {...zone.getInputProps({ "aria-label": "Tables of the design" })} data-testid="arrival-input" />
          <Button
            kind={arrival.tables.length === 0 ? "solid" : "plain"}
            label={busy ? "Reading …" : "Add tables"}
            disabled={busy}
            icon={<FilePlus size={18} color={arrival.tables.length === 0 ? t.onVerdigris : t.graphite} />}
            onPress={zone.open}
            testID="arrival-add"
          />
          <Small>
            {zone.isDragActive
              ? "Let go to add them."
              : "CSV or XLSX, one or several at once; or drop them here. One of the same name takes the place of the one that is there."}
          </Small>
        </View>
      </View>
    </div>
  );
}

const same = (a: ArrivedTable, b: ArrivedTable): boolean =>
  a.file === b.file && a.name === b.name && a.asked.sheet === b.asked.sheet;
