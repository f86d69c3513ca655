import {
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type ColumnFiltersState,
  type Row,
} from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { searchPattern } from "@gray-bench/core/design/wildcards";
import { byCount, pushTo } from "@gray-bench/core/design/order";
import { setStringAsync } from "expo-clipboard";
import Columns3 from "lucide-react-native/icons/columns-3";
import Copy from "lucide-react-native/icons/copy";
import ListFilter from "lucide-react-native/icons/list-filter";
import {
  memo,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from "react";
import { View } from "react-native";
import { Button } from "../Button";
import { Field } from "../Field";
import { useTokens } from "../settings";
import { Small } from "../Text";
import { rem, useTextScale } from "../textScale";
import { FONTS, TYPE_PX } from "../tokens";
import { ColumnChooser } from "./ColumnChooser";
import type { Pasted, TableColumn } from "./column";
import { cellText, figureColumns, fitted, textPx } from "./fit";
import { all, clicked, moved, NONE, only, type Selection } from "./selection";
import { fromTsv, toTsv } from "./tsv";
import { useTableState } from "./useTableState";

export interface TableProps<T> {
  /** Columns are remembered under this name. */
  id: string;
  label: string;
  rows: readonly T[];
  columns: readonly TableColumn<T>[];
  keyOf(row: T): string;
  /** The one row whose details are shown. */
  chosen: string | undefined;
  choose(key: string): void;
  /** Name of a row for tests. */
  rowTestID(key: string): string;
  /** What the view searches and narrows with: stands first in the bar. */
  tools?: ReactNode;
  /** What can be done with several chosen rows. */
  bar?(keys: readonly string[]): ReactNode;
  /** Takes a pasted column; columns in `pastes` only. */
  paste?(pasted: Pasted): void;
  pastes?: readonly string[];
  /** Rows of one name stand together under it, in the order of the names. */
  group?(row: T): string;
  testID: string;
}

/** Heights of a row and of the head, without filters and with them, px beside text of the usual size. */
const TABLE_ROW_PX = 32;
const HEAD_PX = { plain: 32, filters: 64 };
const OVERSCAN = 8;
const LEAST_PX = 44;
/** Id of a row by its number among those that are shown. */
const rowId = (table: string, index: number): string => `${table}-row-${index}`;
/** Left and right of what stands in a cell (`px-1.5`), px. */
const CELL_PAD_PX = 12;
const CELL = "overflow-hidden text-ellipsis whitespace-nowrap px-1.5";

/**
 * A table of many rows on a wide screen: sorted and filtered under each heading, columns chosen, ordered and sized,
 * rows chosen with arrows, Shift and Ctrl, copied as tab-separated text, a column pasted back.
 */
export default function DataTable<T>({
  id,
  label,
  rows,
  columns,
  keyOf,
  rowTestID,
  chosen,
  choose,
  tools,
  bar,
  paste,
  pastes = [],
  group,
  testID,
}: TableProps<T>) {
  const t = useTokens();
  const scale = useTextScale();
  const { state, change, reset } = useTableState(id, columns);
  const [filters, setFilters] = useState<ColumnFiltersState>([]);
  const [choosing, setChoosing] = useState(false);
  /** Fields under the headings: there when somebody wants them. */
  const [isFiltering, setFiltering] = useState(false);
  const [said, setSaid] = useState("");
  const headPx = isFiltering ? HEAD_PX.filters : HEAD_PX.plain;
  const [selection, setSelection] = useState<Selection>(chosen === undefined ? NONE : only(chosen));
  const [column, setColumn] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  // A state beside the ref: rows are measured as soon as what scrolls them is there.
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null);
  const [room, setRoom] = useState(0);
  // Before anything is painted: no column jumps.
  useLayoutEffect(() => {
    if (!scroller) return;
    setRoom(scroller.clientWidth);
    const grows = new ResizeObserver(() => setRoom(scroller.clientWidth));
    grows.observe(scroller);
    return () => grows.disconnect();
  }, [scroller]);
  const isHidden = JSON.stringify(state.columnVisibility);
  const now = useMemo(
    () =>
      fitted(
        columns.filter((c) => state.columnVisibility[c.id] !== false),
        rows,
        Math.floor(room / scale) - 2,
      ),
    // Which columns are shown counts, not what else a person has made of the table.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [columns, rows, room, scale, isHidden],
  );
  // Other rows mostly leave the widths as they were: then no row is drawn again for them.
  const spelt = JSON.stringify(now);
  const widths = useMemo(() => JSON.parse(spelt) as Record<string, number>, [spelt]);
  const listed = useMemo(() => [...figureColumns(columns, rows)].join("\n"), [columns, rows]);
  const figures = useMemo(() => new Set(listed.split("\n")), [listed]);
  const defs = useMemo(
    () =>
      columns.map((c): ColumnDef<T> => ({
        id: c.id,
        accessorFn: (row) => c.value(row),
        size: (widths[c.id] ?? c.width) * scale,
        minSize: LEAST_PX,
        sortingFn: "alphanumeric",
        sortUndefined: "last",
        filterFn: (row, columnId, text: RegExp) => text.test(String(row.getValue(columnId) ?? "")),
      })),
    [columns, scale, widths],
  );
  const byId = useMemo(() => new Map(columns.map((c) => [c.id, c])), [columns]);
  const table = useReactTable({
    data: rows as T[],
    columns: defs,
    getRowId: keyOf,
    state: { ...state, columnFilters: filters },
    onSortingChange: (next) => change({ sorting: typeof next === "function" ? next(state.sorting) : next }),
    onColumnSizingChange: (next) =>
      change({ columnSizing: typeof next === "function" ? next(state.columnSizing) : next }),
    columnResizeMode: "onChange",
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
  });
  const sorted = table.getRowModel().rows;
  const lines = useMemo(() => grouped(sorted, group), [sorted, group]);
  const shown = useMemo(() => lines.flatMap((l) => (l.row ? [l.row] : [])), [lines]);
  const order = useMemo(() => shown.map((r) => r.id), [shown]);
  const put = (next: Selection): void => {
    setSelection(next);
    setSaid("");
    if (next.at !== null && next.at !== chosen) choose(next.at);
  };
  const several = order.filter((key) => selection.keys.has(key));
  const visible = table.getVisibleLeafColumns();
  const press = (e: KeyboardEvent): void => {
    if (e.target !== box.current) return;
    const page = Math.max(1, Math.floor((box.current?.clientHeight ?? 0) / (TABLE_ROW_PX * scale)) - 2);
    const steps: Record<string, number> = {
      ArrowDown: 1,
      ArrowUp: -1,
      PageDown: page,
      PageUp: -page,
      Home: -order.length,
      End: order.length,
    };
    const by = steps[e.key];
    if (by !== undefined) put(moved(selection, by, order, e.shiftKey));
    else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "a") setSelection(all(order, selection));
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const asText = (of: readonly Row<T>[]): string =>
    toTsv([
      visible.map((c) => byId.get(c.id)!.label.trim()),
      ...of.map((r) => visible.map((c) => byId.get(c.id)!.value(r.original))),
    ]);
  const chosenRows = (): Row<T>[] => shown.filter((r) => selection.keys.has(r.id));
  /** The chosen rows where there are several, else all that are shown, as a spreadsheet takes them. */
  const copy = (): void => {
    const of = several.length > 1 ? chosenRows() : shown;
    const rowsText = of.length === 1 ? "1 row" : `${of.length} rows`;
    setStringAsync(asText(of)).then(
      () => setSaid(`${rowsText} copied: paste into a spreadsheet.`),
      () => setSaid("The browser does not let it be copied."),
    );
  };
  const pasted = (text: string): void => {
    if (!paste || column === null || !pastes.includes(column)) return;
    const from = selection.at === null ? 0 : order.indexOf(selection.at);
    paste({ column, values: fromTsv(text, several.length > 1 ? several : order.slice(Math.max(0, from))) });
  };
  const pasteTo = column !== null && pastes.includes(column) ? byId.get(column)!.label : null;
  // Rows are drawn again only when something of theirs changes: what a click does is looked up when it comes.
  const latest = useRef({ selection, order, put });
  useEffect(() => {
    latest.current = { selection, order, put };
  });
  const click = useCallback<Click>((e, key, columnId) => {
    const now = latest.current;
    setColumn(columnId);
    box.current?.focus({ preventScroll: true });
    now.put(clicked(now.selection, key, now.order, { shift: e.shiftKey, ctrl: e.ctrlKey || e.metaKey }));
  }, []);
  return (
    <View className="min-h-0 flex-1 bg-paper">
      <View className="flex-row flex-wrap items-center gap-2 border-b border-line px-2 py-1">
        {tools ? <View className="min-w-0 flex-1">{tools}</View> : null}
        <Small className={tools ? "shrink" : "flex-1"}>
          <span role="status" data-testid={`${testID}-count`}>
            {[
              filters.length > 0 ? `${shown.length} of ${rows.length} fit` : "",
              several.length > 1 ? `${several.length} chosen` : "",
              several.length > 1 && pasteTo ? `what is pasted goes into ${pasteTo}` : "",
              said,
            ]
              .filter((text) => text !== "")
              .join("; ")}
          </span>
        </Small>
        {pasteTo && paste && column !== null && several.length > 0 ? (
          <WriteCells
            key={column}
            label={`${pasteTo} of ${several.length === 1 ? several[0]! : `${several.length} chosen`}`}
            write={(text) => paste({ column, values: several.map((key) => ({ key, text })) })}
            down={
              several.length > 1
                ? () => {
                    const first = shown.find((r) => r.id === several[0])!;
                    const text = String(byId.get(column)!.value(first.original) ?? "");
                    paste({ column, values: several.slice(1).map((key) => ({ key, text })) });
                  }
                : null
            }
            testID={testID}
          />
        ) : null}
        {several.length > 1 ? bar?.(several) : null}
        <Button
          bare
          label="Filter"
          pressed={isFiltering}
          icon={<ListFilter size={18} color={t.graphite} />}
          onPress={() => {
            setFiltering(!isFiltering);
            if (isFiltering) setFilters([]);
          }}
          testID={`${testID}-filter`}
        />
        <Button
          bare
          label={several.length > 1 ? `Copy ${several.length} rows` : "Copy all rows"}
          icon={<Copy size={18} color={t.graphite} />}
          onPress={copy}
          testID={`${testID}-copy`}
        />
        <Button
          bare
          label="Columns"
          icon={<Columns3 size={18} color={t.graphite} />}
          onPress={() => setChoosing(true)}
          testID={`${testID}-columns`}
        />
      </View>
      <div
        ref={(node) => {
          box.current = node;
          setScroller(node);
        }}
        role="grid"
        aria-label={label}
        aria-rowcount={shown.length + 1}
        aria-multiselectable
        tabIndex={0}
        data-testid={testID}
        onKeyDown={press}
        onCopy={(e) => {
          if (e.target !== box.current && (e.target as HTMLElement).tagName === "INPUT") return;
          e.clipboardData.setData("text/plain", asText(chosenRows()));
          e.preventDefault();
        }}
        onPaste={(e) => {
          if ((e.target as HTMLElement).tagName === "INPUT") return;
          pasted(e.clipboardData.getData("text/plain"));
          e.preventDefault();
        }}
        style={{
          flex: 1,
          minHeight: 0,
          overflow: "auto",
          contain: "strict",
          // Opaque: only then is it scrolled without painting it anew.
          background: t.paper,
          color: t.graphite,
          fontFamily: FONTS.table,
          fontSize: rem(TYPE_PX.cell[0]),
        }}
      >
        <div
          role="row"
          aria-rowindex={1}
          style={{
            position: "sticky",
            top: 0,
            zIndex: 1,
            display: "flex",
            width: table.getTotalSize(),
            height: rem(headPx),
            background: t.tray,
            borderBottom: `1px solid ${t.line}`,
          }}
        >
          {table.getHeaderGroups()[0]!.headers.map((h) => {
            const sorted = h.column.getIsSorted();
            const name = byId.get(h.id)!.label;
            return (
              <div
                key={h.id}
                role="columnheader"
                aria-sort={sorted === "asc" ? "ascending" : sorted === "desc" ? "descending" : "none"}
                style={{
                  position: "relative",
                  width: h.getSize(),
                  borderRight: `1px solid ${t.line}`,
                  boxSizing: "border-box",
                }}
              >
                <button
                  type="button"
                  data-testid={`${testID}-sort-${h.id}`}
                  onClick={h.column.getToggleSortingHandler()}
                  className={CELL}
                  style={{
                    width: "100%",
                    height: rem(TABLE_ROW_PX),
                    border: 0,
                    background: "none",
                    textAlign: figures.has(h.id) ? "right" : "left",
                    cursor: "pointer",
                    color: t.graphite,
                    fontFamily: FONTS.tableStrong,
                    fontSize: rem(TYPE_PX.cell[0]),
                  }}
                >
                  {name}
                  {sorted === "asc" ? " ↑" : sorted === "desc" ? " ↓" : ""}
                </button>
                {isFiltering ? (
                  <input
                    aria-label={`Filter ${name}`}
                    data-testid={`${testID}-filter-${h.id}`}
                    onChange={(e) => {
                      const text = e.target.value.trim();
                      setFilters((f) => [
                        ...f.filter((x) => x.id !== h.id),
                        ...(text === "" ? [] : [{ id: h.id, value: searchPattern(text) }]),
                      ]);
                    }}
                    style={{
                      width: "calc(100% - 8px)",
                      height: rem(26),
                      margin: "0 3px",
                      boxSizing: "border-box",
                      border: `1px solid ${t.line}`,
                      background: t.paper,
                      color: t.graphite,
                      fontFamily: FONTS.mono,
                      fontSize: rem(TYPE_PX.tiny[0]),
                      padding: "0 4px",
                    }}
                  />
                ) : null}
                <div
                  aria-hidden
                  onPointerDown={h.getResizeHandler()}
                  style={{
                    position: "absolute",
                    top: 0,
                    right: -4,
                    width: 9,
                    height: rem(TABLE_ROW_PX),
                    cursor: "col-resize",
                    touchAction: "none",
                    zIndex: 2,
                  }}
                />
              </div>
            );
          })}
        </div>
        <Body
          lines={lines}
          order={order}
          byId={byId}
          figures={figures}
          head={headPx}
          scroller={scroller}
          selected={selection.keys}
          chosen={chosen}
          walked={selection.at === null ? -1 : order.indexOf(selection.at)}
          click={click}
          rowTestID={rowTestID}
          tableID={testID}
          width={table.getTotalSize()}
          widths={visible.map((c) => `${c.id} ${c.getSize()}`).join(",")}
        />
      </div>
      {choosing ? (
        <ColumnChooser columns={columns} state={state} change={change} reset={reset} close={() => setChoosing(false)} />
      ) : null}
    </View>
  );
}

/** One value for the chosen rows, typed; or the first one's for those below it. */
function WriteCells({
  label,
  write,
  down,
  testID,
}: {
  label: string;
  write(text: string): void;
  down: (() => void) | null;
  testID: string;
}) {
  const [text, setText] = useState("");
  const put = (): void => {
    write(text);
    setText("");
  };
  return (
    <View className="flex-row items-center gap-1">
      <View className="w-50">
        <Field
          label={label}
          hideLabel
          hint={label}
          value={text}
          change={setText}
          keys={{ Enter: put }}
          testID={`${testID}-write`}
        />
      </View>
      <Button label="Write" onPress={put} testID={`${testID}-write-now`} />
      {down ? <Button label="Fill down" onPress={down} testID={`${testID}-down`} /> : null}
    </View>
  );
}

/** A row, or the name that rows stand under. */
interface Shown<T> {
  row?: Row<T>;
  /** Its number among the rows. */
  index: number;
  name: string;
  count: number;
}

/** Rows by their names, in the order they are sorted in; without names as they are. O(rows log rows) */
function grouped<T>(rows: readonly Row<T>[], group: ((row: T) => string) | undefined): Shown<T>[] {
  if (!group) return rows.map((row, index) => ({ row, index, name: "", count: 0 }));
  const groups = new Map<string, Row<T>[]>();
  for (const row of rows) pushTo(groups, group(row.original), row);
  let index = 0;
  return [...groups]
    .sort(([a], [b]) => byCount(a, b))
    .flatMap(([name, list]): Shown<T>[] => [
      { index, name, count: list.length },
      ...list.map((row) => ({ row, index: index++, name: "", count: 0 })),
    ]);
}

type Click = (event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }, key: string, column: string) => void;

interface BodyProps<T> {
  lines: readonly Shown<T>[];
  order: readonly string[];
  byId: ReadonlyMap<string, TableColumn<T>>;
  figures: ReadonlySet<string>;
  /** Height of the head that rows go under, px beside text of the usual size. */
  head: number;
  scroller: HTMLDivElement | null;
  selected: ReadonlySet<string>;
  chosen: string | undefined;
  /** The row that keys are at, -1 where they are at none. */
  walked: number;
  click: Click;
  rowTestID(key: string): string;
  tableID: string;
  width: number;
  /** Columns with their widths: when they change, so do the rows. */
  widths: string;
}

/** The rows in sight. Scrolling draws this part alone. */
function Body<T>({
  lines,
  order,
  byId,
  figures,
  head,
  scroller,
  selected,
  chosen,
  walked,
  click,
  rowTestID,
  tableID,
  width,
  widths,
}: BodyProps<T>) {
  const scale = useTextScale();
  const [rowPx, headPx] = [TABLE_ROW_PX * scale, head * scale];
  const list = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller,
    estimateSize: () => rowPx,
    overscan: OVERSCAN,
    scrollPaddingStart: headPx,
    // Rows are counted from below the head, which takes its height of what is in sight.
    scrollPaddingEnd: headPx,
  });
  useEffect(() => list.measure(), [rowPx, list]);
  const nth = chosen === undefined ? -1 : order.indexOf(chosen);
  const at = nth < 0 ? -1 : lines.findIndex((l) => l.row && l.index === nth);
  useEffect(() => {
    if (at >= 0 && scroller) list.scrollToIndex(at, { align: "auto" });
  }, [at, list, scroller]);
  const inSight = list.getVirtualItems();
  const isDrawn = inSight.some(({ index }) => lines[index]?.row !== undefined && lines[index].index === walked);
  // Who walks by keys hears the row that is walked to: the focus stays on the table. A row that is not drawn is none to name.
  useEffect(() => {
    if (isDrawn) scroller?.setAttribute("aria-activedescendant", rowId(tableID, walked));
    else scroller?.removeAttribute("aria-activedescendant");
  }, [scroller, walked, isDrawn, tableID]);
  return (
    <div role="rowgroup" style={{ height: list.getTotalSize(), width, position: "relative" }}>
      {inSight.map((item) => {
        const { row, index, name, count } = lines[item.index]!;
        if (!row)
          return (
            <div
              key={`under ${name}`}
              role="row"
              className={`${CELL} absolute left-0 w-full bg-tray font-tableStrong leading-8`}
              style={{ top: item.start, height: rem(TABLE_ROW_PX) }}
            >
              <span role="gridcell">
                {name === "" ? "none" : name} · {count}
              </span>
            </div>
          );
        const key = order[index]!;
        return (
          <TableRow
            key={key}
            row={row as Row<unknown>}
            id={rowId(tableID, index)}
            testID={rowTestID(key)}
            byId={byId as ReadonlyMap<string, TableColumn<unknown>>}
            figures={figures}
            index={index}
            top={item.start}
            on={selected.has(key) || key === chosen}
            main={key === chosen}
            click={click}
            widths={widths}
          />
        );
      })}
    </div>
  );
}

interface RowProps {
  row: Row<unknown>;
  id: string;
  testID: string;
  byId: ReadonlyMap<string, TableColumn<unknown>>;
  figures: ReadonlySet<string>;
  index: number;
  top: number;
  on: boolean;
  main: boolean;
  click: Click;
  widths: string;
}

const TableRow = memo(function TableRow({ row, id, testID, byId, figures, index, top, on, main, click }: RowProps) {
  const t = useTokens();
  const scale = useTextScale();
  return (
    <div
      role="row"
      id={id}
      aria-rowindex={index + 2}
      aria-selected={on}
      data-testid={testID}
      style={{
        position: "absolute",
        top,
        left: 0,
        display: "flex",
        width: "100%",
        height: rem(TABLE_ROW_PX),
        background: on ? t.tray : t.paper,
        boxShadow: main ? `inset 4px 0 ${t.verdigris}` : undefined,
        borderBottom: `1px solid ${t.line}`,
        boxSizing: "border-box",
        userSelect: "none",
      }}
    >
      {row.getVisibleCells().map(({ column }) => {
        const c = byId.get(column.id)!;
        const said = cellText(c, row.original);
        return (
          <div
            key={column.id}
            role="gridcell"
            onMouseDown={(e) => click(e, row.id, column.id)}
            className={`${CELL} box-border leading-8 ${figures.has(column.id) ? "text-right tabular-nums" : ""}`}
            style={{ width: column.getSize() }}
            // What is cut is read where it is pointed at.
            title={textPx(said) * scale + CELL_PAD_PX > column.getSize() ? said : undefined}
          >
            {c.cell ? c.cell(row.original) : (c.value(row.original) ?? "")}
          </div>
        );
      })}
    </div>
  );
});
