import { useEffect, useState, type ReactNode } from "react";
import { Failed, Loading } from "./States";

export type Dragging = typeof import("./dnd");

let loaded: Dragging | null = null;

/** What drags and drops, for what is drawn with it: large, and fetched when something is first to be dragged. */
export function WithDragging({ children }: { children: (dnd: Dragging) => ReactNode }) {
  const [dnd, setDnd] = useState(loaded);
  const [error, setError] = useState<unknown>(null);
  useEffect(() => {
    if (dnd) return;
    let here = true;
    import("./dnd").then(
      (m) => {
        loaded = m;
        if (here) setDnd(m);
      },
      (e: unknown) => {
        if (here) setError(e);
      },
    );
    return () => {
      here = false;
    };
  }, [dnd]);
  if (dnd) return <>{children(dnd)}</>;
  return error ? <Failed error={error} /> : <Loading text="Opening the list" />;
}
