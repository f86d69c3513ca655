import { useEffect, useRef } from "react";

/** The list of before when the new one has the same items in the same order: what hangs on it is not drawn again. */
export function useSame<T>(list: readonly T[]): readonly T[] {
  const before = useRef(list);
  const same = before.current.length === list.length && list.every((item, i) => item === before.current[i]);
  const kept = same ? before.current : list;
  useEffect(() => {
    before.current = kept;
  }, [kept]);
  return kept;
}
