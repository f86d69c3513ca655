import { createServer, type IncomingMessage, type Server } from "node:http";

/** What is answered: a status and a body that is written as JSON. */
export type Answer = [status: number, body: unknown];

/** What is asked, as far as it can be read. */
export interface Asked {
  method: string;
  /** Decoded, without what follows a question mark. */
  path: string;
  query: URLSearchParams;
  /** An object; empty where nothing was sent. */
  body: Record<string, unknown>;
}

/** A body has no more bytes. */
const MOST_BYTES = 2_000_000;

/** Why something cannot be read, as it is answered. */
class Unreadable extends Error {
  readonly status: number;

  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

/**
 * An HTTP server of one of these programs: whatever comes in, it answers in one shape and goes on. What cannot be read is refused, a
 * fault of its own is 500.
 */
export const answering = (answer: (asked: Asked) => Answer | Promise<Answer>): Server =>
  createServer((req, res) => {
    const told = read(req)
      .then(answer)
      .catch((error: unknown): Answer => [
        error instanceof Unreadable ? error.status : 500,
        { error: (error as Error).message },
      ]);
    void told.then(([status, body]) => {
      res.writeHead(status, { "content-type": "application/json" });
      res.end(JSON.stringify(body));
    });
  });

async function read(req: IncomingMessage): Promise<Asked> {
  const [raw = "/", ...query] = (req.url ?? "/").split("?");
  let path: string;
  try {
    path = decodeURIComponent(raw);
  } catch {
    throw new Unreadable(400, "the address has a percent sign that says nothing");
  }
  const method = req.method ?? "GET";
  return {
    method,
    path,
    query: new URLSearchParams(query.join("?")),
    body: method === "POST" ? await bodyOf(req) : {},
  };
}

async function bodyOf(req: IncomingMessage): Promise<Record<string, unknown>> {
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of req as AsyncIterable<Buffer>) {
    bytes += part.length;
    if (bytes > MOST_BYTES) throw new Unreadable(413, "the body is too large");
    parts.push(part);
  }
  if (bytes === 0) return {};
  let body: unknown;
  try {
    body = JSON.parse(Buffer.concat(parts).toString("utf8"));
  } catch {
    throw new Unreadable(400, "the body is no JSON");
  }
  if (typeof body !== "object" || body === null || Array.isArray(body))
    throw new Unreadable(400, "the body is no object");
  return body as Record<string, unknown>;
}
