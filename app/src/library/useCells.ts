import { FILLED, writeCells } from "@gray-bench/core/library/fill";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { useMemo, useState } from "react";
import type { Pasted } from "../kit/table/column";
import { useKeys } from "../kit/useKeys";

/** Columns of the table that are written into, by the fields they are. */
export const WRITTEN: readonly string[] = FILLED.map((f) => f.id);

interface Step {
  changed: ReadonlyMap<string, LibraryPart>;
  notTaken: readonly { number: string; found: string; wanted: string }[];
}

const NONE: Step = { changed: new Map(), notTaken: [] };

/** Cells that were written and are not kept yet: over the parts of the library, undone step by step. */
export function useCells(parts: readonly LibraryPart[] | undefined, unit: "mm" | "in") {
  const [steps, setSteps] = useState<readonly Step[]>([]);
  const { changed, notTaken } = steps.at(-1) ?? NONE;
  const rows = useMemo(() => (parts ?? []).map((p) => changed.get(p.number) ?? p), [parts, changed]);
  const undo = (): void => setSteps((s) => s.slice(0, -1));
  useKeys(steps.length > 0 ? { "Ctrl+z": undo } : {});
  return {
    /** Parts as they are with what was written. */
    rows,
    changed: [...changed.values()],
    notTaken,
    write({ column, values }: Pasted): void {
      const known = new Map(rows.map((p) => [p.number, p]));
      const asked = values.map(({ key, text }) => ({ number: key, text }));
      const { written, notTaken: not } = writeCells(column, asked, known, unit);
      if (written.length + not.length === 0) return;
      const next = new Map(changed);
      for (const part of written) next.set(part.number, part);
      setSteps((s) => [...s, { changed: next, notTaken: not }]);
    },
    undo,
    drop: () => setSteps([]),
  };
}
