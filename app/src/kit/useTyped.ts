import { useEffect, useRef, useState } from "react";

/** Written as soon as somebody stops typing so long, or leaves the field. */
const PAUSE_MS = 600;

/**
 * What is typed into a field and written by itself.
 * @param shown what stands there while nobody types
 * @param write false where what is typed cannot be written: it stays as it is
 */
export function useTyped(shown: string, write: (text: string) => boolean) {
  const [typed, setTyped] = useState<string | null>(null);
  const last = useRef(write);
  useEffect(() => {
    last.current = write;
  });
  const now = (text: string | null): void => {
    if (text !== null && last.current(text)) setTyped(null);
  };
  // What else changes on the page does not put it off.
  useEffect(() => {
    if (typed === null) return;
    const later = setTimeout(() => now(typed), PAUSE_MS);
    return () => clearTimeout(later);
  }, [typed]);
  return { text: typed ?? shown, typed, type: setTyped, leave: () => now(typed) };
}
