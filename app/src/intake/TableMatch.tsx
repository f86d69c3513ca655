import type { Arrival, ArrivedTable, TableLook } from "@gray-bench/contract/intake";
import { FIELDS, TABLE_KINDS, type Field, type TableKind } from "@gray-bench/core/tables/fields";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { WithDragging, type Dragging } from "../kit/Dragging";
import { formatCount } from "../kit/format";
import { Select } from "../kit/Select";
import { SeveritySign } from "../kit/Severity";
import { Failed, Loading } from "../kit/States";
import { TapRow } from "../kit/TapRow";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { FieldSheet } from "./FieldSheet";
import { FirstRows } from "./FirstRows";
import { columnsText, fieldsOf, KIND_WORDS, ofKind, unusedHeadings, withColumn, withTable } from "./matchingActs";
import { useTableLook, type useArrival } from "../queries/useArrival";

interface Props {
  arrival: Arrival;
  /** Of the table, counted from 1. */
  at: number;
  field: string | undefined;
  act: ReturnType<typeof useArrival>;
}

/** What one table tells, and which of its columns is what. */
export function TableMatch({ arrival, at, field, act }: Props) {
  const table = arrival.tables[at - 1]!;
  const { data: look, error, refetch } = useTableLook(arrival, at);
  const wide = useWide();
  const change = (to: (t: ArrivedTable) => ArrivedTable): void => act.change.mutate({ to: withTable(at, to) });
  if (!look)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the table" />;
  const chosen = table.matching && FIELDS[table.matching.kind].find((f) => f.id === field);
  const fields = (dnd: Dragging | null) => (
    <>
      <Fields table={table} look={look} dnd={dnd} />
      <Unused table={table} look={look} dnd={dnd} />
    </>
  );
  return (
    <View className="gap-3 p-3" testID="table-match">
      <Head>
        {table.name}
        {table.asked.sheet === undefined ? "" : `, sheet ${table.asked.sheet}`}
      </Head>
      <How table={table} look={look} change={change} />
      {table.matching === null ? (
        <Small>
          A table that is left out adds nothing to the job. Say what it tells, and its columns are looked for.
        </Small>
      ) : wide ? (
        <WithDragging>
          {(dnd) => (
            <Dropping
              dnd={dnd}
              drop={(id, heading) =>
                change((t) =>
                  t.matching ? { ...t, by: null, matching: withColumn(t.matching, id, heading, look) } : t,
                )
              }
            >
              {fields(dnd)}
            </Dropping>
          )}
        </WithDragging>
      ) : (
        fields(null)
      )}
      {table.matching && look.preview ? <FirstRows matching={table.matching} preview={look.preview} /> : null}
      <AsItStands look={look} />
      {chosen ? (
        <FieldSheet
          key={chosen.id}
          table={table}
          field={chosen}
          look={look}
          busy={act.change.isPending}
          change={change}
          close={() => choose({ field: undefined })}
        />
      ) : null}
    </View>
  );
}

/** A heading is dragged onto a field. */
function Dropping({
  dnd,
  drop,
  children,
}: {
  dnd: Dragging;
  drop(field: string, heading: string): void;
  children: React.ReactNode;
}) {
  const sensors = dnd.useSensors(dnd.useSensor(dnd.PointerSensor, { activationConstraint: { distance: 4 } }));
  return (
    <dnd.DndContext
      sensors={sensors}
      onDragEnd={({ active, over }) => {
        if (over) drop(String(over.id), String(active.id));
      }}
    >
      {children}
    </dnd.DndContext>
  );
}

const SEPARATOR_WORDS: Record<string, string> = { ";": "semicolons", ",": "commas", "\t": "tabs", "|": "bars" };

/** How the file is read: what it tells, where its headings stand, what parts its cells. */
function How({
  table,
  look,
  change,
}: {
  table: ArrivedTable;
  look: TableLook;
  change(to: (t: ArrivedTable) => ArrivedTable): void;
}) {
  const [open, setOpen] = useState(false);
  const kinds = TABLE_KINDS.map((k) => KIND_WORDS[k]);
  const asked = (more: Partial<ArrivedTable["asked"]>) => (t: ArrivedTable) => ({
    ...t,
    asked: { ...t.asked, ...more },
  });
  const lines = headingLines(look);
  const hidden = look.leftOut.filter((l) => l.why === "hidden in the file").length;
  const parted = look.separator === null ? "" : `, parted by ${SEPARATOR_WORDS[look.separator]!}`;
  return (
    <View className="gap-2">
      <Select
        label="What it tells"
        value={table.matching ? KIND_WORDS[table.matching.kind] : ""}
        choices={kinds}
        none="nothing: it is left out"
        choose={(word) => {
          const kind: TableKind | undefined = TABLE_KINDS.find((k) => KIND_WORDS[k] === word);
          change(ofKind(kind ?? null, look));
        }}
        testID="table-kind"
      />
      <View className="flex-row flex-wrap items-center gap-2">
        <Small className="min-w-45 flex-1">
          {look.form}
          {parted}; {look.headingLine === null ? "without headings" : `headings in line ${look.headingLine}`};{" "}
          {formatCount(look.rows)} rows
          {look.leftOutCount > 0 ? `, ${formatCount(look.leftOutCount)} lines left out` : ""}
          {table.by === null ? "" : `; read as for ${table.by}`}
        </Small>
        <Button
          label={open ? "Close" : "Read it otherwise"}
          pressed={open}
          onPress={() => setOpen(!open)}
          testID="table-how"
        />
      </View>
      {open ? (
        <View className="gap-2 border-l-4 border-line pl-3">
          <Select
            label="Headings stand in"
            value={
              look.headingLine === null ? NO_HEADINGS : (lines.find((l) => l.line === look.headingLine)?.text ?? "")
            }
            choices={[...lines.map((l) => l.text), NO_HEADINGS]}
            none="found out by itself"
            choose={(text) => {
              const line = lines.find((l) => l.text === text)?.line;
              change((t) => {
                const { headings: _, ...rest } = t.asked;
                if (text === "") return { ...t, asked: rest };
                return { ...t, asked: { ...rest, headings: line ?? null } };
              });
            }}
            testID="table-headings"
          />
          {look.separator === null ? null : (
            <Select
              label="Cells are parted by"
              value={SEPARATOR_WORDS[look.separator]!}
              choices={Object.values(SEPARATOR_WORDS)}
              none="found out by itself"
              choose={(word) => {
                const sign = Object.entries(SEPARATOR_WORDS).find(([, w]) => w === word)?.[0];
                change((t) => {
                  const { separator: _, ...rest } = t.asked;
                  return { ...t, asked: sign === undefined ? rest : { ...rest, separator: sign } };
                });
              }}
              testID="table-separator"
            />
          )}
          {hidden > 0 || table.asked.hidden ? (
            <Button
              label="Read rows that are hidden in the file too"
              pressed={table.asked.hidden === true}
              onPress={() => change(asked({ hidden: !table.asked.hidden }))}
              testID="table-hidden"
            />
          ) : null}
          {look.leftOut.length > 0 ? (
            <View role="list" testID="left-out">
              <Small>Lines that are left out:</Small>
              {look.leftOut.map((l) => (
                <View key={`${l.line} ${l.why}`} role="listitem" className="flex-row gap-2">
                  <Mono className="w-glove text-right text-small">{l.line}</Mono>
                  <Small className="min-w-0 flex-1 break-words">
                    {l.why}
                    {l.cells.length > 0 ? `: ${l.cells.join(" | ")}` : ""}
                  </Small>
                </View>
              ))}
              {look.leftOutCount > look.leftOut.length ? (
                <Small>and {formatCount(look.leftOutCount - look.leftOut.length)} more</Small>
              ) : null}
            </View>
          ) : null}
        </View>
      ) : null}
    </View>
  );
}

const NO_HEADINGS = "no line: columns go by their number";
const MOST_LINES = 12;
const lineText = (line: number, cells: readonly string[]): string => {
  const text = cells.filter((c) => c !== "").join(" | ");
  return `line ${line}: ${text.length > 60 ? `${text.slice(0, 60)}…` : text}`;
};

/** Lines that may hold the headings: those at the top of the file. */
function headingLines(look: TableLook): { line: number; text: string }[] {
  const top = look.leftOut.filter((l) => l.cells.length > 0);
  const own = look.headingLine === null ? [] : [{ line: look.headingLine, cells: look.headings }];
  return [...top, ...own, ...look.sample]
    .sort((a, b) => a.line - b.line)
    .slice(0, MOST_LINES)
    .map(({ line, cells }) => ({ line, text: lineText(line, cells) }));
}

/** Our fields, each with the columns it is read from. */
function Fields({ table, look, dnd }: { table: ArrivedTable; look: TableLook; dnd: Dragging | null }) {
  const [all, setAll] = useState(false);
  const { read, others } = fieldsOf(table.matching!);
  return (
    <View>
      <View role="list" aria-label="Our fields" className="border-t border-line">
        {[...read, ...(all ? others : [])].map((f) => (
          <View key={f.id} role="listitem">
            {dnd ? (
              <DropField dnd={dnd} id={f.id}>
                <FieldRow field={f} table={table} look={look} />
              </DropField>
            ) : (
              <FieldRow field={f} table={table} look={look} />
            )}
          </View>
        ))}
      </View>
      {others.length > 0 ? (
        <View className="items-start pt-2">
          <Button
            label={
              all
                ? "Hide fields that the table does not have"
                : `${others.length} more ${others.length === 1 ? "field" : "fields"}`
            }
            pressed={all}
            onPress={() => setAll(!all)}
            testID="fields-more"
          />
        </View>
      ) : null}
    </View>
  );
}

function DropField({ dnd, id, children }: { dnd: Dragging; id: string; children: React.ReactNode }) {
  const { setNodeRef, isOver } = dnd.useDroppable({ id });
  return (
    <div ref={setNodeRef} style={isOver ? { outline: "2px solid", outlineOffset: -2 } : undefined}>
      {children}
    </div>
  );
}

function FieldRow({ field, table, look }: { field: Field; table: ArrivedTable; look: TableLook }) {
  const matched = table.matching!.columns[field.id];
  const count = look.preview?.fields[field.id];
  const first = look.preview?.rows.map((r) => r.cells[field.id]).find((c) => c !== undefined && "told" in c);
  return (
    <TapRow press={() => choose({ field: field.id })} testID={`field-${field.id}`}>
      <View className="min-w-0 flex-1">
        <View className="flex-row flex-wrap items-baseline gap-x-3">
          <Body className="font-medium md:w-48">{field.label}</Body>
          {matched ? <Mono className="text-small">{columnsText(matched)}</Mono> : <Small>not in this table</Small>}
        </View>
        {first && "told" in first ? (
          <Small className="break-words">
            {first.text === first.told ? `such as ${first.told}` : `${first.text} is read as ${first.told}`}
          </Small>
        ) : null}
        {count && count.notRead > 0 ? (
          <View className="flex-row items-center gap-1">
            <SeveritySign severity="check" />
            <Small className="text-ochre">
              {formatCount(count.notRead)} of {formatCount(count.cells)} not understood, first in line{" "}
              {count.first!.line}
            </Small>
          </View>
        ) : null}
        {count?.unclear ? <Unclear text={count.unclear} /> : null}
        {matched && count === undefined && look.preview ? (
          <View className="flex-row items-center gap-1">
            <SeveritySign severity="check" />
            <Small className="text-ochre">the table has no such column</Small>
          </View>
        ) : null}
      </View>
    </TapRow>
  );
}

/** The decimal sign is a guess, and another one would make other numbers. */
const Unclear = ({ text }: { text: string }) => (
  <View className="flex-row items-center gap-1">
    <SeveritySign severity="check" />
    <Small className="text-ochre">{text} could be meant with a point or with a comma: see how it is read</Small>
  </View>
);

/** Columns that are not read. Wide, each can be dragged onto a field. */
function Unused({ table, look, dnd }: { table: ArrivedTable; look: TableLook; dnd: Dragging | null }) {
  const unused = unusedHeadings(look, table.matching);
  if (unused.length === 0) return <Small>Every column is read.</Small>;
  return (
    <View className="gap-1" testID="unused">
      <Small>
        Columns that are not read{dnd ? "; drag one onto a field, or tap the field" : ": tap a field to choose one"}
      </Small>
      <View className="flex-row flex-wrap gap-2">
        {unused.map((h) =>
          dnd ? (
            <DragHeading key={h} dnd={dnd} heading={h} />
          ) : (
            <View key={h} className="rounded-edge border border-line px-2 py-1">
              <Mono className="text-small">{h}</Mono>
            </View>
          ),
        )}
      </View>
    </View>
  );
}

function DragHeading({ dnd, heading }: { dnd: Dragging; heading: string }) {
  const { setNodeRef, listeners, transform } = dnd.useDraggable({ id: heading });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      data-testid={`heading-${heading}`}
      style={{ cursor: "grab", touchAction: "none", transform: dnd.CSS.Translate.toString(transform) }}
    >
      <View className="min-h-9 justify-center rounded-edge border border-slate bg-paper px-2">
        <Mono className="text-small">{heading}</Mono>
      </View>
    </div>
  );
}

/** The first lines of the file, as they are written there. */
function AsItStands({ look }: { look: TableLook }) {
  const [open, setOpen] = useState(false);
  return (
    <View className="gap-2">
      <View className="items-start">
        <Button
          label={open ? "Hide the file" : "Show the file as it stands"}
          pressed={open}
          onPress={() => setOpen(!open)}
          testID="as-it-stands"
        />
      </View>
      {open ? (
        <div style={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="The file as it stands">
          <table className="border-collapse" data-testid="raw">
            <thead>
              <tr>
                <th className="border border-line px-2 py-1 text-right font-mono text-small text-slate">line</th>
                {look.headings.map((h) => (
                  <th key={h} className="border border-line px-2 py-1 text-left font-mono text-small text-graphite">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {look.sample.map((r) => (
                <tr key={r.line}>
                  <td className="border border-line px-2 py-1 text-right font-mono text-small text-slate">{r.line}</td>
                  {r.cells.map((c, i) => (
                    <td key={i} className="border border-line px-2 py-1 font-mono text-small text-graphite">
                      {c}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : null}
    </View>
  );
}
