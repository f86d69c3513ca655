import type { ReactNode } from "react";

/** One column of a table of things. */
export interface TableColumn<T> {
  id: string;
  label: string;
  /** Width that long texts have where room is short, and what is shown with a sign, px beside text of the usual size. */
  width: number;
  /** What sorts, filters and is copied; null for nothing. */
  value(row: T): string | number | null;
  /** As it is shown; the value when absent. */
  cell?(row: T): ReactNode;
  /** Not shown until somebody chooses it. */
  hidden?: boolean;
}

/** Values of a column for rows, as a person pasted them. */
export interface Pasted {
  column: string;
  values: { key: string; text: string }[];
}
