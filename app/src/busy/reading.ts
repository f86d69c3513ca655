import type { Href } from "expo-router";
import { useEffect, useRef } from "react";
import { end, forget, tell } from "./work";

const ID = "reading";

/** Tells of files that are read while somebody has gone elsewhere; where they were opened the view tells itself. */
export function useReading() {
  const isHere = useRef(true);
  const now = useRef<(() => void) | null>(null);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
      now.current?.();
    };
  }, []);
  return {
    /** @param done where the outcome is seen, once it is there */
    follow(name: string, giveUp: AbortController, done: Promise<Href>): void {
      const what = `reading ${name}`;
      const leaves = (): void => tell(ID, { what, cancel: () => giveUp.abort() });
      now.current = leaves;
      const ended = (): boolean => {
        // What was opened after it is told of for itself.
        if (now.current === leaves) now.current = null;
        if (isHere.current) forget(ID);
        return !isHere.current;
      };
      done.then(
        (href) => {
          if (!ended()) return;
          tell(ID, { what, href });
          end(ID, "done", "It is read.");
        },
        (error: Error) => {
          if (ended())
            end(ID, giveUp.signal.aborted ? "cancelled" : "failed", giveUp.signal.aborted ? "" : error.message);
        },
      );
    },
  };
}
