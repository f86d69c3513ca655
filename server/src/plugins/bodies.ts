import type { RouteOptions } from "fastify";
import { serverBusy } from "../errors";
import type { Server } from "../server";

/** Design files, and files of tables; they are read in a thread. */
export const DESIGN_BYTES = 64 * 1024 * 1024;
/** What names thousands of things: edits of many wires, a shop with its tables. */
const LARGE_BYTES = 4 * 1024 * 1024;
/** A drawing of one part. */
const OUTLINE_BYTES = 16 * 1024 * 1024;
/** Lists as they come from phones: a few hundred lines. */
const LIST_BYTES = 1024 * 1024;
/** A name, a number, a choice. */
export const SMALL_BYTES = 32 * 1024;

const LIMITS: Readonly<Record<string, number>> = {
  "POST /api/jobs": DESIGN_BYTES,
  "POST /api/jobs/outlook": DESIGN_BYTES,
  "POST /api/arrivals/:arrival/files": DESIGN_BYTES,
  "POST /api/jobs/:job/attachments": DESIGN_BYTES,
  "PUT /api/library": DESIGN_BYTES,
  "PATCH /api/library": LARGE_BYTES,
  "POST /api/library/outlook": DESIGN_BYTES,
  "POST /api/library/outline": OUTLINE_BYTES,
  "PUT /api/arrivals/:arrival": LIST_BYTES,
  "PUT /api/matchings/:name": LIST_BYTES,
  "POST /api/jobs/:job/edits": LARGE_BYTES,
  "POST /api/jobs/:job/edits/outlook": LARGE_BYTES,
  "PUT /api/shop": LARGE_BYTES,
  "POST /api/shop/effect": LARGE_BYTES,
  "POST /api/jobs/:job/ticks": LIST_BYTES,
  "POST /api/jobs/:job/picks": LIST_BYTES,
  "POST /api/jobs/:job/events": LIST_BYTES,
  "POST /api/jobs/:job/batches": LIST_BYTES,
  "POST /api/jobs/:job/batches/outlook": LIST_BYTES,
  "POST /api/jobs/:job/batches/:batch/leads": LIST_BYTES,
};

/** What may come in at the same time: so many bodies, and so much by what their heads say. */
interface Gate {
  readonly mostBodies: number;
  readonly mostBytes: number;
  bodies: number;
  bytes: number;
}

const CHANGING: ReadonlySet<string> = new Set(["POST", "PUT", "PATCH", "DELETE"]);

/** Gives each address the bytes that what it takes may have, and lets only so much come in at once: all of it is held in memory. */
export function boundBodies(app: Server): void {
  app.addHook("onRoute", (route: RouteOptions) => {
    const [method] = [route.method].flat();
    if (CHANGING.has(method!)) route.bodyLimit = LIMITS[`${method} ${route.url}`] ?? SMALL_BYTES;
  });
  // Design files keep nobody from ticking.
  const designs: Gate = { mostBodies: 32, mostBytes: 2 * DESIGN_BYTES, bodies: 0, bytes: 0 };
  const others: Gate = { mostBodies: 256, mostBytes: DESIGN_BYTES, bodies: 0, bytes: 0 };
  app.addHook("onRequest", (req, reply, next) => {
    if (!CHANGING.has(req.method)) return next();
    const most = req.routeOptions.bodyLimit ?? SMALL_BYTES;
    const said = req.headers["content-length"];
    // Without a length and not in pieces there is none; in pieces it may be as large as it may. More than that is refused as such.
    const size = said !== undefined ? Math.min(Number(said) || 0, most) : req.headers["transfer-encoding"] ? most : 0;
    if (size === 0) return next();
    const gate = most === DESIGN_BYTES ? designs : others;
    if (gate.bodies >= gate.mostBodies || gate.bytes + size > gate.mostBytes) return next(serverBusy());
    gate.bodies++;
    gate.bytes += size;
    reply.raw.once("close", () => {
      gate.bodies--;
      gate.bytes -= size;
    });
    next();
  });
}
