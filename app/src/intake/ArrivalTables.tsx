import type { Arrival, ArrivedTable } from "@gray-bench/contract/intake";
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
import type { useArrival } from "../queries/useArrival";

const sheetOf = ({ asked }: ArrivedTable): string => (asked.sheet === undefined ? "" : `, sheet ${asked.sheet}`);

const rowsText = (n: number): string => `${formatCount(n)} ${n === 1 ? "row" : "rows"}`;

/** The tables and drawings that have come, and adding more. */
export function ArrivalTables({
  arrival,
  at,
  drawn,
  act,
}: {
  arrival: Arrival;
  /** The table, and the drawing, that is shown. */
  at: number;
  drawn: number;
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
      { onSuccess: () => choose({ ...NOTHING, show: "tables" }) },
    );
  const removeDrawing = (gone: number): void =>
    act.change.mutate(
      { to: (said) => ({ ...said, drawings: said.drawings.filter((_, i) => i !== gone) }) },
      { onSuccess: () => choose({ ...NOTHING, show: "tables" }) },
    );
  const removeAttachment = (gone: string): void =>
    act.change.mutate({
      to: (said) => ({ ...said, attachments: said.attachments.filter((a) => a.name !== gone) }),
    });
  const none = arrival.tables.length + arrival.drawings.length === 0;
  return (
    <div {...zone.getRootProps()} data-testid="arrival-drop">
      <View className={zone.isDragActive ? "bg-tray" : ""}>
        <View role="list" aria-label="Files">
          {arrival.tables.map((one, i) => (
            <View
              key={`${one.file} ${one.name} ${one.asked.sheet ?? ""}`}
              role="listitem"
              className="flex-row items-center"
            >
              <View className="min-w-0 flex-1">
                <TapRow
                  press={() => choose({ ...NOTHING, table: String(i + 1), show: "columns" })}
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
          {arrival.drawings.map((one, i) => (
            <View key={`${one.file} ${one.name}`} role="listitem" className="flex-row items-center">
              <View className="min-w-0 flex-1">
                <TapRow
                  press={() => choose({ ...NOTHING, drawing: String(i + 1), show: "columns" })}
                  on={drawn === i + 1}
                  testID={`drawing-${i + 1}`}
                >
                  <View className="min-w-0 flex-1">
                    <Body className="break-words font-medium">{one.name}</Body>
                    {one.said.views.length > 0 ? (
                      <Small>
                        drawing of {one.said.views.map((v) => `${v.enclosure} ${v.face}`).join(", ")}
                        {one.by === null ? "" : `, read as for ${one.by}`}
                      </Small>
                    ) : (
                      <View className="flex-row items-center gap-1">
                        <SeveritySign severity="check" />
                        <Small className="text-ochre">a drawing: say which faces it shows</Small>
                      </View>
                    )}
                  </View>
                </TapRow>
              </View>
              <Button
                label={`Take ${one.name} out`}
                bare
                icon={<Trash size={18} color={t.graphite} />}
                onPress={() => removeDrawing(i)}
                testID={`drawing-${i + 1}-out`}
              />
            </View>
          ))}
          {arrival.attachments.map(({ file, name, pages, empty }) => (
            <View key={`${file} ${name}`} role="listitem" className="flex-row items-center border-b border-line">
              <View className="min-h-glove min-w-0 flex-1 justify-center px-3 py-1">
                <Body className="break-words font-medium">{name}</Body>
                <Small testID={`arrived-${name}`}>
                  {pages === null ? "picture" : `${formatCount(pages)} ${pages === 1 ? "page" : "pages"}`}
                  {empty > 0 ? `, ${formatCount(empty)} without text` : ""}; goes with the job as it is
                </Small>
              </View>
              <Button
                label={`Take ${name} out`}
                bare
                icon={<Trash size={18} color={t.graphite} />}
                onPress={() => removeAttachment(name)}
                testID={`arrived-${name}-out`}
              />
            </View>
          ))}
        </View>
        <View className="gap-2 p-3">
          <input {...zone.getInputProps({ "aria-label": "Files of the design" })} data-testid="arrival-input" />
          <Button
            kind={none ? "solid" : "plain"}
            label={busy ? "Reading …" : "Add files"}
            disabled={busy}
            icon={<FilePlus size={18} color={none ? t.onVerdigris : t.graphite} />}
            onPress={zone.open}
            testID="arrival-add"
          />
          <Small>
            {zone.isDragActive
              ? "Let go to add them."
              : "Tables as CSV or XLSX, layouts as DXF, the schematic as PDF, one or several at once; or drop them here. One of the same name takes the place of the one that is there."}
          </Small>
        </View>
      </View>
    </div>
  );
}

/** Another file is shown: nothing of the one before is chosen. */
const NOTHING = { table: undefined, field: undefined, drawing: undefined, view: undefined, frame: undefined };

const same = (a: ArrivedTable, b: ArrivedTable): boolean =>
  a.file === b.file && a.name === b.name && a.asked.sheet === b.asked.sheet;
