/** Stands on an answer that was kept on the device, with when the server gave it. */
export const KEPT_HEADER = "x-kept-from";

/** Files are downloaded, not shown: a stale one would leave the house as if it were today's. */
const FILES = /\/(file|files|tables|backup|originals?)(\/|$)/;

/**
 * Whether an answer of the server may be kept on the device and shown when the server is out of reach. What is asked of the server itself,
 * what goes on for as long as one listens, and what leaves the house as a file are not.
 */
export const mayBeKept = (method: string, path: string, headers: Pick<Headers, "get">): boolean =>
  method === "GET" &&
  path.startsWith("/api/") &&
  path !== "/api/health" &&
  !(headers.get("accept") ?? "").includes("text/event-stream") &&
  !FILES.test(path);
