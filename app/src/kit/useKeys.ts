import { useEffect, useRef } from "react";

export type Keys = Record<string, (event: KeyboardEvent) => void>;

interface Listener {
  keys: { current: Keys };
  /** Keys it does not know go no further down. */
  modal: boolean;
}

/** What was mounted last hears a key first; the first that knows it takes it. */
const stack: Listener[] = [];

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.tagName === "INPUT" || target.tagName === "TEXTAREA" || target.isContentEditable);

function hear(event: KeyboardEvent): void {
  if (event.altKey) return;
  if (typing(event.target) && event.key !== "Escape") return;
  const held = event.ctrlKey || event.metaKey;
  // With Control the letter counts, whatever Shift makes of it.
  const name = held ? `Ctrl+${event.shiftKey ? "Shift+" : ""}${event.key.toLowerCase()}` : event.key;
  for (const { keys, modal } of [...stack].reverse()) {
    const act = keys.current[name];
    if (act) {
      if (event.key !== "Escape") event.preventDefault();
      act(event);
      return;
    }
    if (modal) return;
  }
}

/**
 * Listens for keys of the whole page, before anything in it does: text fields keep their keys to themselves. While something
 * is typed, only for Escape.
 */
export function useKeys(keys: Keys, modal = false): void {
  const current = useRef(keys);
  useEffect(() => {
    current.current = keys;
  });
  useEffect(() => {
    const own: Listener = { keys: current, modal };
    if (stack.length === 0) window.addEventListener("keydown", hear, true);
    stack.push(own);
    return () => {
      stack.splice(stack.indexOf(own), 1);
      if (stack.length === 0) window.removeEventListener("keydown", hear, true);
    };
  }, [modal]);
}
