import type { ReactNode } from "react";
import { useWide } from "../useWide";
import type { TableColumn } from "./column";
import { ManyRows, type ManyRowsProps } from "./ManyRows";
import { Table } from "./Table";

/** A list of things that can be worked in: a table when wide, rows with a long press on a phone. */
export function ThingList<T>({
  id,
  columns,
  tools,
  ...rows
}: ManyRowsProps<T> & {
  /** Columns are remembered under this name. */
  id: string;
  columns: readonly TableColumn<T>[];
  /** What stands first in the bar of the table. */
  tools?: ReactNode;
}) {
  if (!useWide()) return <ManyRows {...rows} />;
  return <Table {...rows} id={id} columns={columns} tools={tools} bar={rows.acts} />;
}
