/** Stands on an answer that was kept on the device, with when the server gave it. */
export const KEPT_HEADER = "x-kept-from";

/**
 * Whether what is asked of the server may be answered from the device when the server is out of reach. Whether it is there, and what goes on
 * for as long as one listens, are not.
 */
export const mayBeKept = (method: string, path: string, headers: Pick<Headers, "get">): boolean =>
  method === "GET" &&
  path.startsWith("/api/") &&
  path !== "/api/health" &&
  !(headers.get("accept") ?? "").includes("text/event-stream");

/** Whether an answer is kept: one that is shown. A file is downloaded, and a stale one would leave the house as if it were today's. */
export const isKept = (status: number, headers: Pick<Headers, "get">): boolean =>
  status === 200 &&
  (headers.get("content-type") ?? "").startsWith("application/json") &&
  headers.get("content-disposition") === null;
