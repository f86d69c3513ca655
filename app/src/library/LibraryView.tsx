import { doublesOf } from "@gray-bench/core/library/doubles";
import { fitsText, LACKS, lacksOf } from "@gray-bench/core/library/lacks";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { useDeferredValue, useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { Beside } from "../kit/Beside";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Field } from "../kit/Field";
import { formatCount, formatMoment } from "../kit/format";
import { useSettings } from "../kit/settings";
import { SeveritySign } from "../kit/Severity";
import { Empty, Failed, Loading } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { TapRow } from "../kit/TapRow";
import { Mono, Small, Title } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import { CellsTray } from "./CellsTray";
import { FillParts } from "./FillParts";
import { ImportLibrary } from "./ImportLibrary";
import { Doubles, MergeWith } from "./MergeParts";
import { PartDetails } from "./PartDetails";
import { useCells, WRITTEN } from "./useCells";
import { useLibrary, useLibraryVersions } from "../queries/useLibrary";

const ROW_PX = 64;

interface Props {
  part: string | undefined;
  q: string | undefined;
  lacks: string | undefined;
  /** Many are filled at once. */
  filling: boolean;
  /** Numbers that are alike are listed. */
  doubles: boolean;
  /** Where the part is used is listed. */
  uses: boolean;
  /** Files of it are brought and taken away. */
  files: boolean;
}

/** What is known of parts, for every job. */
export function LibraryView({ part, q = "", lacks, filling, doubles, uses, files }: Props) {
  const { data: versions, error, refetch } = useLibraryVersions();
  const current = versions?.[0];
  const library = useLibrary(current?.hash);
  const wide = useWide();
  const [text, setText] = useState(q);
  const wanted = useDeferredValue(text);
  const { length } = useSettings();
  const cells = useCells(library.data?.parts, length);
  const parts = library.data ? cells.rows : undefined;
  const lack = LACKS.find((l) => l.id === lacks);
  const alike = useMemo(() => doublesOf(parts ?? []).length, [parts]);
  const shown = useMemo(
    () => (parts ?? []).filter((p) => fitsText(p, wanted) && (!lack || lack.is(p))),
    [parts, wanted, lack],
  );
  if (!versions)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the library" />;
  if (current && !parts)
    return library.error ? (
      <Failed error={library.error} retry={() => void library.refetch()} />
    ) : (
      <Loading text="Reading the parts" />
    );
  const chosen = parts?.find((p) => p.number === part);
  const next = (current?.number ?? 0) + 1;
  const on = current?.hash ?? "";
  const opened = filling || doubles || files || !parts;
  const head = (
    <View className="gap-2 border-b border-line p-3">
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-0 flex-1">
          <Title>Library</Title>
        </View>
        {parts ? (
          <Button
            label="Files"
            pressed={files}
            onPress={() => choose({ files: files ? undefined : "1", fill: undefined, doubles: undefined })}
            testID="library-files"
          />
        ) : null}
      </View>
      <Small>
        {current
          ? `Version ${current.number} of ${formatMoment(current.when)}, ${current.who}: ${formatCount(current.parts)} parts. A job keeps its version until a newer one is taken over.`
          : "There is none yet. It completes what designs leave out of their parts: pins, losses, holes."}
      </Small>
      {files || !parts ? <ImportLibrary on={on} next={next} /> : null}
      {cells.changed.length + cells.notTaken.length > 0 ? <CellsTray cells={cells} on={on} next={next} /> : null}
      {filling && parts ? <FillParts shown={shown} all={parts} on={on} next={next} /> : null}
      {doubles && parts ? <Doubles parts={parts} on={on} next={next} /> : null}
      {parts && !opened ? (
        <>
          <Field
            label="Find a part by number, maker, text or kind"
            value={text}
            change={(wanted) => {
              setText(wanted);
              choose({ q: wanted.trim() || undefined }, true);
            }}
            hint="OH-*  or  relay"
            testID="library-find"
          />
          <View
            className={`flex-row flex-wrap gap-2 ${cells.changed.length > 0 ? "hidden" : ""}`}
            role="group"
            aria-label="What parts lack"
          >
            {LACKS.map((l) => ({ ...l, count: parts.filter(l.is).length }))
              .filter((l) => l.count > 0 || l.id === lacks)
              .map((l) => (
                <Button
                  key={l.id}
                  label={`${formatCount(l.count)} ${l.text}`}
                  pressed={lacks === l.id}
                  onPress={() => choose({ lacks: lacks === l.id ? undefined : l.id })}
                  testID={`lacks-${l.id}`}
                />
              ))}
          </View>
          <View className="flex-row flex-wrap items-center gap-2">
            <Small role="status" testID="library-count">
              {formatCount(shown.length)} {shown.length === 1 ? "part" : "parts"}
            </Small>
            {shown.length === 0 ? null : (
              <Button label="Fill many at once" onPress={() => choose({ fill: "1" })} testID="fill-open" />
            )}
            {alike === 0 ? null : (
              <Button
                label={`Doubled numbers: ${formatCount(alike)}`}
                onPress={() => choose({ doubles: "1" })}
                testID="doubles-open"
              />
            )}
          </View>
        </>
      ) : null}
    </View>
  );
  if (!parts) return <View className="flex-1">{head}</View>;
  if (opened) return <ScrollView className="flex-1">{head}</ScrollView>;
  const list =
    shown.length === 0 ? (
      <Empty title="No such part" text="No number, maker, text or kind fits, or none lacks that." />
    ) : wide ? (
      <Table
        id="library"
        label="Parts of the library"
        rows={shown}
        columns={COLUMNS}
        keyOf={keyOf}
        chosen={part}
        choose={(number) => choose({ part: number })}
        pastes={WRITTEN}
        paste={cells.write}
        rowTestID={(number) => `part-${number}`}
        testID="library"
      />
    ) : (
      <VirtualList
        count={shown.length}
        rowPx={ROW_PX}
        label="Parts of the library"
        testID="library"
        keyOf={(i) => shown[i]!.number}
        chosen={shown.findIndex((p) => p.number === part)}
        row={(i) => {
          const p = shown[i]!;
          return (
            <TapRow
              press={() => choose({ part: p.number })}
              px={ROW_PX}
              on={p.number === part}
              testID={`part-${p.number}`}
            >
              <View className="min-w-0 flex-1">
                <Mono numberOfLines={1}>{p.number}</Mono>
                <Small numberOfLines={1}>{[p.text, p.category, p.maker].filter((t) => t).join(" · ")}</Small>
              </View>
              {lacksOf(p).length > 0 ? <SeveritySign severity="note" /> : null}
            </TapRow>
          );
        }}
      />
    );
  const unknown = part !== undefined && !chosen;
  const details = chosen ? (
    <PartDetails
      part={chosen}
      uses={uses}
      merge={<MergeWith key={chosen.number} part={chosen} parts={parts} on={on} next={next} />}
      like={(kind) => {
        setText(kind);
        choose({ q: kind, part: undefined });
      }}
    />
  ) : unknown ? (
    <View className="p-3" testID="no-part">
      <Small>There is no part {part} in the library.</Small>
    </View>
  ) : null;
  if (wide)
    return (
      <Beside head={head} details={details}>
        {list}
      </Beside>
    );
  return (
    <View className="min-h-0 flex-1">
      {details ? (
        <Title className="sr-only">Library</Title>
      ) : (
        <ScrollView className="max-h-[60%] grow-0">{head}</ScrollView>
      )}
      <WithSheet
        sheet={
          details ? (
            <BottomSheet head={<Mono>{part}</Mono>} close={() => choose({ part: undefined })} testID="part-sheet">
              {details}
            </BottomSheet>
          ) : null
        }
      >
        <View className="min-h-0 flex-1">{list}</View>
      </WithSheet>
    </View>
  );
}

const keyOf = (p: LibraryPart): string => p.number;

const COLUMNS: readonly TableColumn<LibraryPart>[] = [
  { id: "number", label: "Part", width: 130, value: (p) => p.number },
  { id: "text", label: "Text", width: 250, value: (p) => p.text ?? null },
  { id: "category", label: "Kind", width: 120, value: (p) => p.category ?? null },
  { id: "maker", label: "Maker", width: 130, value: (p) => p.maker ?? null },
  { id: "w", label: "Width, mm", width: 84, value: (p) => p.w ?? null },
  { id: "h", label: "Height, mm", width: 84, value: (p) => p.h ?? null },
  { id: "d", label: "Depth, mm", width: 84, value: (p) => p.d ?? null },
  { id: "lossW", label: "Loss, W", width: 72, value: (p) => p.lossW ?? null },
  { id: "pins", label: "Pins", width: 60, value: (p) => p.pins?.length ?? null },
  { id: "holes", label: "Holes", width: 60, value: (p) => p.holes?.length ?? null },
  {
    id: "place",
    label: "Stock place, pack",
    width: 130,
    value: (p) => (p.stock ? `${p.stock.place}, ${p.stock.pack}` : null),
  },
];
