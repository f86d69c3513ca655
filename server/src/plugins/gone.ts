import type { FastifyReply } from "fastify";

/** Aborted when whoever asked goes away before the answer is there. */
export function goneOf(reply: FastifyReply): AbortSignal {
  const gone = new AbortController();
  const { raw } = reply;
  raw.once("close", () => {
    if (!raw.writableEnded) gone.abort();
  });
  return gone.signal;
}
