import type { FastifyRequest } from "fastify";
import { hostRefused, hostUnclear, originRefused } from "../errors";
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

/** `http://bench.local:4600` → `bench.local:4600`; null when it is no origin of a page. */
function originHost(origin: string): string | null {
  try {
    const url = new URL(origin);
    return url.protocol === "http:" || url.protocol === "https:" ? url.host : null;
  } catch {
    return null;
  }
}

/** As a page is asked for: a host with its port, where the usual one goes without saying. */
const withoutUsual = (host: string): string => host.toLowerCase().replace(/:80$/, "");

/** What a browser says of a request that a page of ours made, or somebody who typed the address. */
const OURS: ReadonlySet<string | undefined> = new Set([undefined, "same-origin", "none"]);

/**
 * Answers only who calls the server by a name it knows: a page elsewhere that points a name of its own at this
 * machine gets nothing. What changes something, and what is asked of `/api` at all, must also come from a page of this very server, port
 * included, or from no page.
 * @param names beside those of this machine, in lower case
 */
export function watchDoor(app: Server, names: readonly string[]): void {
  const known = new Set([...OWN, ...names.map((n) => n.toLowerCase())]);
  app.addHook("onRequest", (req: FastifyRequest, _reply, next) => {
    // Of two names nobody knows which one counts.
    const hosts = req.raw.rawHeaders.filter((name, i) => i % 2 === 0 && name.toLowerCase() === "host");
    const host = hosts.length === 1 ? (req.headers.host ?? "") : "";
    const name = hostName(host);
    if (name === null || !known.has(name))
      return next(hosts.length === 1 && host !== "" ? hostRefused(host) : hostUnclear(hosts.length));
    const { origin } = req.headers;
    const site = req.headers["sec-fetch-site"] as string | undefined;
    const costs = CHANGING.has(req.method) || req.url.startsWith("/api/");
    if (costs && !OURS.has(site)) return next(originRefused(origin ?? "another site"));
    if (CHANGING.has(req.method) && origin !== undefined && originHost(origin) !== withoutUsual(host))
      return next(originRefused(origin));
    next();
  });
}
