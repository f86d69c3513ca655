import type { FastifyRequest } from "fastify";
import { hostRefused, originRefused } from "../errors";
import type { Server } from "../server";

/** Names of this machine. */
const OWN: readonly string[] = ["localhost", "127.0.0.1", "[::1]"];

const CHANGING: ReadonlySet<string> = new Set(["POST", "PUT", "PATCH", "DELETE"]);

/** `bench.local:4600` → `bench.local`; null when it is no host. */
export function hostName(host: string): string | null {
  try {
    const url = new URL(`http://${host}`);
    // Anything but a host and a port is none of ours to understand.
    return host.toLowerCase() === url.host || host.toLowerCase() === `${url.host}:80` ? url.hostname : null;
  } catch {
    return null;
  }
}

function originName(origin: string): string | null {
  try {
    return new URL(origin).hostname;
  } catch {
    return null;
  }
}

/**
 * Answers only who calls the server by a name it knows: a page elsewhere that points a name of its own at this
 * machine gets nothing. What changes something must also come from a page of ours, or from no page at all.
 * @param names beside those of this machine, in lower case
 */
export function watchDoor(app: Server, names: readonly string[]): void {
  const known = new Set([...OWN, ...names.map((n) => n.toLowerCase())]);
  app.addHook("onRequest", (req: FastifyRequest, _reply, next) => {
    const name = hostName(req.headers.host ?? "");
    if (name === null || !known.has(name)) return next(hostRefused(req.headers.host ?? "no name"));
    const { origin } = req.headers;
    if (CHANGING.has(req.method)) {
      const from = origin === undefined ? null : originName(origin);
      const elsewhere = req.headers["sec-fetch-site"] === "cross-site";
      if (elsewhere || (origin !== undefined && (from === null || !known.has(from))))
        return next(originRefused(origin ?? "another site"));
    }
    next();
  });
}
