import type { QueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";

/** Whether the server answers, and when it gave what is shown where it does not; null: not known. */
export type Reach = { reached: true } | { reached: false; from: Date | null };

/** While the server does not answer it is asked again after so long, ms. */
const AGAIN_MS = 5_000;

let reach: Reach = { reached: true };
const hearers = new Set<() => void>();

function say(next: Reach): void {
  // The oldest of what is shown counts.
  if (reach.reached === next.reached && (next.reached || next.from === null || isOlder(reach, next.from))) return;
  reach = next;
  for (const hear of hearers) hear();
}

const isOlder = (known: Reach, from: Date): boolean => !known.reached && known.from !== null && known.from <= from;

/** An answer came; `kept`: not from the server but from this device, given when that header says. */
export function answered(kept: string | null): void {
  if (kept === null) return say({ reached: true });
  const from = new Date(kept);
  say({ reached: false, from: Number.isNaN(from.getTime()) ? null : from });
}

/** No answer came. */
export const unanswered = (): void => say({ reached: false, from: null });

const subscribe = (hear: () => void): (() => void) => {
  hearers.add(hear);
  return () => void hearers.delete(hear);
};

export const useReach = (): Reach => useSyncExternalStore(subscribe, () => reach);

/** Whether the server answers now. */
export const asksServer = (): Promise<boolean> =>
  fetch("/api/health", { cache: "no-store" }).then(
    (reply) => reply.ok,
    () => false,
  );

/** Asks for the server while it is out of reach; when it answers again, whoever asked, all that is shown is asked for anew. */
export function useReturn(client: QueryClient, ask: () => Promise<boolean> = asksServer): void {
  const { reached } = useReach();
  useEffect(() => {
    if (reached) return;
    const again = (): void => void ask().then((is) => is && answered(null));
    const timer = setInterval(again, AGAIN_MS);
    window.addEventListener("online", again);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", again);
      void client.invalidateQueries();
    };
  }, [reached, client, ask]);
}
