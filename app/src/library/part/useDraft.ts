import { canonicalJson } from "@gray-bench/core/design/canonical";
import type { LibraryPart } from "@gray-bench/core/library/library";
import { useEffect, useState } from "react";

/** Steps that can be taken back. */
const MOST_STEPS = 200;

/** What is kept in this window until it is a version: a page that is left by mistake loses nothing. */
interface Kept {
  /** As the library had it when it was begun. */
  saved: LibraryPart;
  part: LibraryPart;
}

const keyOf = (number: string): string => `part ${number}`;

function kept(number: string): Kept | null {
  try {
    return JSON.parse(window.sessionStorage.getItem(keyOf(number)) ?? "null") as Kept | null;
  } catch {
    return null;
  }
}

/** Whatever the order of its fields: the library keeps one of its own. */
const same = (a: LibraryPart, b: LibraryPart): boolean => canonicalJson(a) === canonicalJson(b);

/**
 * A part being changed: every change can be taken back and done again.
 * @param saved as the library has it
 */
export function useDraft(saved: LibraryPart) {
  const { number } = saved;
  const [begun, setBegun] = useState<LibraryPart>(() => kept(number)?.saved ?? saved);
  const [part, setPart] = useState<LibraryPart>(() => kept(number)?.part ?? saved);
  const [before, setBefore] = useState<LibraryPart[]>([]);
  const [after, setAfter] = useState<LibraryPart[]>([]);
  const changed = !same(part, saved);
  useEffect(() => {
    if (changed) window.sessionStorage.setItem(keyOf(number), JSON.stringify({ saved: begun, part } satisfies Kept));
    else window.sessionStorage.removeItem(keyOf(number));
  }, [changed, number, begun, part]);
  const change = (to: (part: LibraryPart) => LibraryPart): void => {
    const next = withoutEmpty(to(part));
    if (same(next, part)) return;
    setBefore([...before.slice(-MOST_STEPS), part]);
    setAfter([]);
    setPart(next);
  };
  const undo = (): void => {
    const last = before.at(-1);
    if (!last) return;
    setBefore(before.slice(0, -1));
    setAfter([...after, part]);
    setPart(last);
  };
  const redo = (): void => {
    const next = after.at(-1);
    if (!next) return;
    setAfter(after.slice(0, -1));
    setBefore([...before, part]);
    setPart(next);
  };
  return {
    part,
    changed,
    /** The library has another one since this was begun. */
    meanwhile: changed && !same(begun, saved),
    change,
    undo,
    redo,
    drop: () => {
      setBegun(saved);
      setBefore([...before, part]);
      setPart(saved);
    },
    canUndo: before.length > 0,
    canRedo: after.length > 0,
  };
}

/** What is left empty is not said. */
const withoutEmpty = (part: LibraryPart): LibraryPart =>
  Object.fromEntries(
    Object.entries(part).filter(([, v]) => v !== undefined && v !== "" && !(Array.isArray(v) && v.length === 0)),
  ) as unknown as LibraryPart;

export type Draft = ReturnType<typeof useDraft>;
