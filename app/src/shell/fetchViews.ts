import { ctx } from "expo-router/_ctx";
import { useEffect } from "react";

/** Views are fetched beside the first one only when that has come and stands. */
const LATER_MS = 4_000;

/** Fetches the programs of all views once, when there is nothing else to do: they are there when the network is not. */
export function useAllViews(): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      void (async () => {
        // One after the other, so that what somebody asks for meanwhile is not behind them all.
        for (const view of ctx.keys()) {
          try {
            await (ctx(view) as Promise<unknown>);
          } catch {
            // It is asked for when somebody goes there.
            return;
          }
        }
      })();
    }, LATER_MS);
    return () => clearTimeout(timer);
  }, []);
}
