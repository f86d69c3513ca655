import { useEffect } from "react";

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.tagName === "INPUT" || target.tagName === "TEXTAREA" || target.isContentEditable);

/** Listens for keys of the whole page; not while something is typed, except Escape. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>, enabled: boolean): void {
  useEffect(() => {
    if (!enabled) return;
    const hear = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (typing(event.target) && event.key !== "Escape") return;
      const act = keys[event.key];
      if (!act) return;
      if (event.key !== "Escape") event.preventDefault();
      act(event);
    };
    window.addEventListener("keydown", hear);
    return () => window.removeEventListener("keydown", hear);
  });
}
