import type { QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

/** The application is put on the device only when the first view has come and stands. */
const LATER_MS = 4_000;

/**
 * Puts the application on the device, where the browser lets it: over HTTPS, and on the machine the server runs on. What is shown then is asked
 * for once more, so that it is kept too.
 */
export function useOffline(client: QueryClient): void {
  useEffect(() => {
    const workers = (navigator as Partial<Navigator>).serviceWorker;
    if (!workers || process.env.NODE_ENV !== "production") return;
    const first = workers.controller === null;
    const taken = (): void => {
      if (first) void client.refetchQueries({ type: "active" });
    };
    workers.addEventListener("controllerchange", taken, { once: true });
    const timer = setTimeout(() => void workers.register("/offline.js").catch(() => undefined), LATER_MS);
    return () => {
      clearTimeout(timer);
      workers.removeEventListener("controllerchange", taken);
    };
  }, [client]);
}
