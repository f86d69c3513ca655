import { useEffect, useState } from "react";
import type { TableColumn } from "./column";

/** What a person has made of a table: kept on the device. */
export interface TableState {
  sorting: { id: string; desc: boolean }[];
  columnVisibility: Record<string, boolean>;
  columnOrder: string[];
  columnSizing: Record<string, number>;
}

const KEY = "gray-bench.table.";

function stored(id: string): Partial<TableState> {
  try {
    return JSON.parse(localStorage.getItem(KEY + id) ?? "{}") as Partial<TableState>;
  } catch {
    return {};
  }
}

/** Columns of a newer version that are not in what was kept come at the end; those that are gone are left out. */
function ordered<T>(columns: readonly TableColumn<T>[], kept: readonly string[] = []): string[] {
  const ids = columns.map((c) => c.id);
  return [...kept.filter((id) => ids.includes(id)), ...ids.filter((id) => !kept.includes(id))];
}

/** Order, width, sight and sorting of the columns of a table, remembered under its name. */
export function useTableState<T>(id: string, columns: readonly TableColumn<T>[]) {
  const first = (): TableState => ({
    sorting: [],
    columnVisibility: Object.fromEntries(columns.filter((c) => c.hidden).map((c) => [c.id, false])),
    columnSizing: {},
    columnOrder: ordered(columns),
  });
  const [state, setState] = useState<TableState>(() => {
    const kept = stored(id);
    return { ...first(), ...kept, columnOrder: ordered(columns, kept.columnOrder) };
  });
  useEffect(() => {
    try {
      localStorage.setItem(KEY + id, JSON.stringify(state));
    } catch {
      // Private windows may refuse; the choice then lasts until the page is left.
    }
  }, [id, state]);
  return {
    state,
    change: (part: Partial<TableState>) => setState((s) => ({ ...s, ...part })),
    reset: () => setState(first()),
  };
}
