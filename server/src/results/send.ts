import { gunzipSync } from "node:zlib";
import type { FastifyReply, FastifyRequest } from "fastify";
import { isKnown } from "./etag";
import type { ResultRow } from "../store/results";

/** Sends a result as it is kept: compressed, unless the asker cannot read that. */
export function send(req: FastifyRequest, reply: FastifyReply, row: ResultRow): FastifyReply {
  reply.header("etag", row.etag).header("cache-control", "no-cache").header("vary", "accept-encoding");
  if (isKnown(req.headers["if-none-match"], row.etag)) return reply.code(304).send();
  reply.type(row.type);
  const packed = /\bgzip\b/.test(String(req.headers["accept-encoding"] ?? ""));
  return packed ? reply.header("content-encoding", "gzip").send(row.gzip) : reply.send(gunzipSync(row.gzip));
}
