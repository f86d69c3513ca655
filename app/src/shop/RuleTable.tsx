import type { Column, Row, RowNote, TableRule } from "@gray-bench/core/shop/rule-kinds";
import ArrowDown from "lucide-react-native/icons/arrow-down";
import ArrowUp from "lucide-react-native/icons/arrow-up";
import GripVertical from "lucide-react-native/icons/grip-vertical";
import Plus from "lucide-react-native/icons/plus";
import Trash from "lucide-react-native/icons/trash";
import { useState, type ReactNode } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { WithDragging, type Dragging } from "../kit/Dragging";
import { Field } from "../kit/Field";
import { Select } from "../kit/Select";
import { useSettings } from "../kit/settings";
import { Body, Small } from "../kit/Text";
import { readCell, readWords, unitBeside, valueText } from "./ruleValue";

interface Props {
  place: string;
  rule: TableRule;
  rows: readonly Row[];
  change(rows: Row[]): void;
  wrong(place: string, reason: string | null): void;
  /** Wires each row takes now; null where that is not known of this table. */
  takes: readonly (readonly string[])[] | null;
}

/** A table of rules: rows are changed in place, put in order by dragging or by buttons, added and taken away. */
export const RuleTable = (props: Props) => <WithDragging>{(dnd) => <Rows {...props} dnd={dnd} />}</WithDragging>;

function Rows({ place, rule, rows, change, wrong, takes, dnd }: Props & { dnd: Dragging }) {
  const { tokens } = useSettings();
  // Rows have no name of their own: each gets one for as long as it is on the screen.
  const [ids, setIds] = useState(() => rows.map((_, i) => i + 1));
  const known = ids.length === rows.length ? ids : rows.map((_, i) => i + 1);
  const notes = rule.check(rows);
  const sensors = dnd.useSensors(
    dnd.useSensor(dnd.PointerSensor, { activationConstraint: { distance: 4 } }),
    dnd.useSensor(dnd.KeyboardSensor, { coordinateGetter: dnd.sortableKeyboardCoordinates }),
  );
  const put = (nextRows: Row[], nextIds: number[]): void => {
    setIds(nextIds);
    change(nextRows);
  };
  const move = (from: number, to: number): void => {
    if (from === to || to < 0 || to >= rows.length) return;
    const order = known.map((_, i) => i);
    order.splice(to, 0, order.splice(from, 1)[0]!);
    put(
      order.map((i) => rows[i]!),
      order.map((i) => known[i]!),
    );
  };
  const remove = (at: number): void => {
    const id = known[at]!;
    wrong(`${place} ${id}`, null);
    for (const { key } of rule.columns) wrong(`${place} ${id} ${key}`, null);
    put(
      rows.filter((_, i) => i !== at),
      known.filter((_, i) => i !== at),
    );
  };
  const add = (): void => {
    const id = Math.max(0, ...known) + 1;
    put([...rows, {}], [...known, id]);
    wrong(`${place} ${id}`, lacks(rule, {}));
  };
  const set = (at: number, row: Row): void => {
    wrong(`${place} ${known[at]!}`, lacks(rule, row));
    change(rows.map((r, i) => (i === at ? row : r)));
  };
  const icon = { size: 18, color: tokens.graphite };
  return (
    <View testID={`table-${place}`} className="gap-2 border-t border-line py-3">
      <Body className="font-medium">{rule.text}</Body>
      <Small>{rule.why}</Small>
      <dnd.DndContext
        sensors={sensors}
        collisionDetection={dnd.closestCenter}
        onDragEnd={({ active, over }) => {
          if (over) move(known.indexOf(Number(active.id)), known.indexOf(Number(over.id)));
        }}
      >
        <dnd.SortableContext items={known} strategy={dnd.verticalListSortingStrategy} disabled={!rule.ordered}>
          <View role="list" className="gap-1">
            {rows.map((row, i) => (
              <TableRow
                key={known[i]}
                id={known[i]!}
                n={i + 1}
                place={place}
                rule={rule}
                row={row}
                note={notes.find((n) => n.row === i)}
                takes={takes?.[i] ?? null}
                set={(next) => set(i, next)}
                dnd={dnd}
                wrong={(key, reason) => wrong(`${place} ${known[i]!} ${key}`, reason)}
                buttons={
                  <>
                    {rule.ordered ? (
                      <>
                        <Button
                          bare
                          label={`Move row ${i + 1} of ${rule.text} up`}
                          disabled={i === 0}
                          icon={<ArrowUp {...icon} />}
                          onPress={() => move(i, i - 1)}
                          testID={`up-${place}-${i}`}
                        />
                        <Button
                          bare
                          label={`Move row ${i + 1} of ${rule.text} down`}
                          disabled={i === rows.length - 1}
                          icon={<ArrowDown {...icon} />}
                          onPress={() => move(i, i + 1)}
                          testID={`down-${place}-${i}`}
                        />
                      </>
                    ) : null}
                    <Button
                      bare
                      label={`Delete row ${i + 1} of ${rule.text}`}
                      icon={<Trash {...icon} />}
                      onPress={() => remove(i)}
                      testID={`remove-${place}-${i}`}
                    />
                  </>
                }
              />
            ))}
          </View>
        </dnd.SortableContext>
      </dnd.DndContext>
      <View className="flex-row">
        <Button label="Add a row" icon={<Plus {...icon} />} onPress={add} testID={`add-${place}`} />
      </View>
      <Small>{rule.source}</Small>
    </View>
  );
}

/** What a row needs and does not have, in words. */
function lacks({ columns }: TableRule, row: Row): string | null {
  const missing = columns.filter((c) => c.needed && row[c.key] === undefined).map((c) => c.label.toLowerCase());
  return missing.length > 0 ? `needs: ${missing.join(", ")}` : null;
}

interface RowProps {
  id: number;
  n: number;
  place: string;
  rule: TableRule;
  row: Row;
  note: RowNote | undefined;
  takes: readonly string[] | null;
  set(row: Row): void;
  wrong(key: string, reason: string | null): void;
  buttons: ReactNode;
  dnd: Dragging;
}

function TableRow({ id, n, place, rule, row, note, takes, set, wrong, buttons, dnd }: RowProps) {
  const { tokens } = useSettings();
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = dnd.useSortable({ id });
  const lacking = lacks(rule, row);
  const used = takes === null ? null : takes.length === 1 ? "takes 1 wire now" : `takes ${takes.length} wires now`;
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      style={{ transform: dnd.CSS.Transform.toString(transform), transition: transition ?? "" }}
    >
      <View className="gap-1 rounded-edge border border-line bg-paper p-2" testID={`row-${place}-${n - 1}`}>
        <View className="flex-row flex-wrap items-end gap-2">
          {rule.ordered ? (
            <button
              type="button"
              ref={setActivatorNodeRef}
              {...attributes}
              {...listeners}
              aria-label={`Drag row ${n} of ${rule.text}`}
              style={{
                width: 44,
                height: 44,
                border: 0,
                background: "transparent",
                cursor: "grab",
                touchAction: "none",
                color: tokens.slate,
              }}
            >
              <GripVertical size={18} color={tokens.slate} />
            </button>
          ) : null}
          {rule.columns.map((c) => (
            <Cell
              key={c.key}
              column={c}
              id={`${place}-${n - 1}-${c.key}`}
              value={row[c.key]}
              set={(value) => set(withCell(row, c.key, value))}
              wrong={(reason) => wrong(c.key, reason)}
            />
          ))}
          <View className="flex-1" />
          <View className="flex-row gap-1">{buttons}</View>
        </View>
        {lacking ? <Small className="font-medium text-brick">This row {lacking}.</Small> : null}
        {note ? (
          <Small className="font-medium text-ochre">
            {note.text}
            {note.by === n - 1 ? "" : ` (row ${note.by + 1})`}
          </Small>
        ) : used ? (
          <Small>{used}</Small>
        ) : null}
      </View>
    </div>
  );
}

/** A row with one cell set; without a value the cell goes. */
function withCell(row: Row, key: string, value: Row[string]): Row {
  const { [key]: _, ...rest } = row;
  return value === undefined ? rest : { ...rest, [key]: value };
}

interface CellProps {
  column: Column;
  id: string;
  value: Row[string];
  set(value: Row[string]): void;
  wrong(reason: string | null): void;
}

function Cell({ column, id, value, set, wrong }: CellProps) {
  const settings = useSettings();
  const [typed, setTyped] = useState<string | null>(null);
  const { label, unit = "" } = column;
  if (column.as === "choice") {
    return (
      <Select
        label={label}
        value={typeof value === "string" ? value : ""}
        choices={column.choices!}
        none={column.needed ? "choose …" : "any"}
        choose={(v) => set(v === "" ? undefined : v)}
        testID={`cell-${id}`}
      />
    );
  }
  if (column.as === "flag") {
    return (
      <Select
        label={label}
        value={value === undefined ? "" : value ? "yes" : "no"}
        choices={["yes", "no"]}
        none="either"
        choose={(v) => set(v === "" ? undefined : v === "yes")}
        testID={`cell-${id}`}
      />
    );
  }
  if (column.as === "text") {
    return (
      <View className={(column.most ?? 0) > 60 ? "w-65" : "w-30"}>
        <Field
          label={label}
          value={typeof value === "string" ? value : ""}
          change={(next) => {
            const got = readWords(next, column);
            wrong(got);
            if (got === null) set(next === "" ? undefined : next);
          }}
          testID={`cell-${id}`}
        />
      </View>
    );
  }
  const text = typed ?? (typeof value === "number" ? valueText(value, unit, settings) : "");
  const read = readCell(text, column, settings);
  const type = (next: string): void => {
    setTyped(next);
    const got = readCell(next, column, settings);
    wrong(got.ok ? null : got.reason);
    if (got.ok) set(got.value);
  };
  return (
    <View className="w-23 gap-1">
      <Field label={`${label} ${unitBeside(unit, settings)}`} value={text} change={type} testID={`cell-${id}`} />
      {read.ok ? null : <Small className="text-brick">{read.reason}</Small>}
    </View>
  );
}
