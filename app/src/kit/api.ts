import type { ErrorBody } from "@gray-bench/contract/errors";
import { KEPT_HEADER } from "./kept";
import { answered, unanswered } from "./reach";

/** An error the server told, or that there was no server to tell one. */
export class ApiError extends Error {
  readonly status: number;
  readonly body: ErrorBody;

  constructor(status: number, body: ErrorBody) {
    super(body.message);
    this.status = status;
    this.body = body;
  }
}

const UNREACHED: ErrorBody = {
  code: "server.unreached",
  message: "The bench server does not answer.",
  where: "network",
  remedy: "Check the connection. What was loaded before stays on the screen.",
};

/** Calls the server. Throws ApiError, also when it cannot be reached. */
export async function call<T>(path: string, init?: RequestInit): Promise<T> {
  let reply: Response;
  try {
    reply = await fetch(`/api${path}`, init);
  } catch (error) {
    if (init?.signal?.aborted) throw error;
    unanswered();
    throw new ApiError(0, UNREACHED);
  }
  answered(reply.headers.get(KEPT_HEADER));
  if (reply.status === 204) return undefined as T;
  const text = await reply.text();
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new ApiError(reply.status, {
      ...UNREACHED,
      code: "server.unclear",
      message: "The answer was not understood.",
      remedy: "Reload the page.",
    });
  }
  if (!reply.ok) throw new ApiError(reply.status, body as ErrorBody);
  return body as T;
}

/** `?who=Ina&…`, for acts that write down a name where there is one, with what else is asked; nothing where there is nothing. */
export function askedBy(name: string, more: Record<string, string> = {}): string {
  const asked = new URLSearchParams({ ...more, ...(name ? { who: name } : {}) }).toString();
  return asked && `?${asked}`;
}

export const jobPath = (job: string): string => `/jobs/${encodeURIComponent(job)}`;

/** Sends a value as JSON. */
export const send = <T>(path: string, body: unknown, method: "POST" | "PUT" | "PATCH" = "POST"): Promise<T> =>
  call<T>(path, { method, headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
