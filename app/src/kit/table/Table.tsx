import { lazy, Suspense, type ComponentType } from "react";
import { Loading } from "../States";
import type { TableProps } from "./DataTable";

const DataTable = lazy(() => import("./DataTable"));

/** The one table of all lists. Loaded when one is first opened: a phone may never open one. */
export function Table<T>(props: TableProps<T>) {
  const Rows = DataTable as ComponentType<TableProps<T>>;
  return (
    <Suspense fallback={<Loading text="Opening the table" />}>
      <Rows {...props} />
    </Suspense>
  );
}
