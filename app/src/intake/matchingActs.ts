import type { ArrivedTable, TableLook } from "@gray-bench/contract/intake";
import { FIELDS, type TableKind } from "@gray-bench/core/tables/fields";
import { headingsUsed, type Matched, type Matching } from "@gray-bench/core/tables/matching";
import type { Said } from "../queries/useArrival";

/** What tables tell, as a person reads it. */
export const KIND_WORDS: Record<TableKind, string> = {
  devices: "devices",
  connections: "connections",
  terminals: "terminals of strips",
  cables: "cables, a core on each row",
  nets: "nets",
  parts: "parts",
};

/** Changes one table of an arrival, counted from 1. */
export const withTable =
  (at: number, to: (table: ArrivedTable) => ArrivedTable) =>
  (said: Said): Said => ({ ...said, tables: said.tables.map((t, i) => (i === at - 1 ? to(t) : t)) });

/** What a person says of columns is no longer what a kept matching says. */
const changed = (table: ArrivedTable, matching: Matching | null): ArrivedTable => ({ ...table, matching, by: null });

/** A table is of another kind: its columns are guessed anew. */
export const ofKind =
  (kind: TableKind | null, look: TableLook) =>
  (table: ArrivedTable): ArrivedTable =>
    changed(table, kind && { kind, columns: look.guesses[kind] });

/** A field is read from other columns, or in another way; null: the table does not have it. */
export const withField =
  (field: string, matched: Matched | null) =>
  (table: ArrivedTable): ArrivedTable => {
    if (!table.matching) return table;
    const { [field]: _, ...others } = table.matching.columns;
    return changed(table, { ...table.matching, columns: matched ? { ...others, [field]: matched } : others });
  };

/**
 * What a field reads when a column is chosen for it: as it was guessed where that is the guess, else in the way it was read before.
 * Another field that has the column gives it up, unless it takes pieces of it.
 */
export function withColumn(matching: Matching, field: string, heading: string, look: TableLook): Matching {
  const guess = look.guesses[matching.kind][field];
  const { from: _, ...how } = matching.columns[field] ?? { from: [] };
  const whole = (m: Matched): boolean => m.from.length === 1 && m.from[0]!.heading === heading && !m.from[0]!.cut;
  const others = Object.entries(matching.columns).filter(([id, m]) => id !== field && !whole(m));
  const mine: Matched = guess && whole(guess) ? guess : { ...how, from: [{ heading }] };
  return { ...matching, columns: { ...Object.fromEntries(others), [field]: mine } };
}

/** Columns that no field reads. */
export const unusedHeadings = (look: TableLook, matching: Matching | null): string[] => {
  const used = matching ? headingsUsed(matching) : new Set<string>();
  return look.headings.filter((h) => !used.has(h));
};

/** Fields of a table: those it has first, in our order. */
export function fieldsOf(matching: Matching) {
  const all = FIELDS[matching.kind];
  const has = (id: string): boolean => matching.columns[id] !== undefined;
  return { read: all.filter((f) => has(f.id)), others: all.filter((f) => !has(f.id)) };
}

/** The columns of a field in words: `Ort + Nummer`. */
export const columnsText = (m: Matched): string =>
  m.from.map((p) => (p.cut ? `${p.heading}, piece ${p.cut.piece < 0 ? "last" : p.cut.piece}` : p.heading)).join(" + ");
