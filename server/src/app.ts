import { existsSync } from "node:fs";
import { join } from "node:path";
import compress from "@fastify/compress";
import helmet from "@fastify/helmet";
import rateLimit from "@fastify/rate-limit";
import serveStatic from "@fastify/static";
import Fastify, { type FastifyServerOptions } from "fastify";
import { MAX_BODY_BYTES, noSuchJob, toReply, BenchError } from "./errors";
import { editRoutes } from "./edits/routes";
import { intakeRoutes } from "./intake/routes";
import { jobRoutes } from "./jobs/routes";
import { openApi } from "./plugins/openapi";
import { useJoi } from "./plugins/joi";
import { resultRoutes } from "./results/routes";
import { Runner } from "./results/runner";
import { searchRoutes } from "./search/routes";
import { shopRoutes } from "./shop/routes";
import type { Bench, Server } from "./server";
import type { Store } from "./store/database";
import { findJob } from "./store/jobs";
import type { Room } from "./store/results";
import type { Workers } from "./workers/pool";

export interface BuildOptions {
  store: Store;
  workers: Workers;
  /** Folder of the exported app; without it only the interface for programs is served. */
  appFolder?: string;
  logger?: FastifyServerOptions["logger"];
  now?: () => Date;
  requestsPerMinute?: number;
  /** How much of old results is kept. */
  room?: Room;
}

/** Builds the server; never listens. */
export async function build(options: BuildOptions): Promise<Server> {
  const app = Fastify({
    logger: options.logger ?? false,
    bodyLimit: MAX_BODY_BYTES,
    routerOptions: { ignoreTrailingSlash: true },
  }) as unknown as Server;
  const { store, workers } = options;
  const now = options.now ?? (() => new Date());
  const runner = new Runner({ store, workers, log: app.log, now, ...(options.room ? { room: options.room } : {}) });
  const bench: Bench = {
    store,
    workers,
    runner,
    now,
    async readJob(params) {
      const { job } = params as { job: string };
      const row = await findJob(store.db, job);
      if (!row) throw noSuchJob(job);
      return row;
    },
  };
  useJoi(app);
  app.setErrorHandler((error, req, reply) => {
    const { status, body } = toReply(error);
    if (status >= 500) req.log.error(error);
    return reply.code(status).send(body);
  });
  // Design files are read in a worker: here they are only bytes.
  app.removeAllContentTypeParsers();
  app.addContentTypeParser(
    ["application/json", "application/octet-stream"],
    { parseAs: "buffer" },
    (_req, body, done) => done(null, body),
  );

  await app.register(helmet, {
    contentSecurityPolicy: {
      // Served over plain HTTP inside the shop, so nothing is upgraded to HTTPS.
      directives: {
        upgradeInsecureRequests: null,
        styleSrc: ["'self'", "'unsafe-inline'"],
        workerSrc: ["'self'", "blob:"],
      },
    },
    strictTransportSecurity: false,
  });
  await app.register(rateLimit, { max: options.requestsPerMinute ?? 3000, timeWindow: "1 minute" });
  await app.register(compress, { encodings: ["gzip"], threshold: 4096 });
  await openApi(app);
  jobRoutes(app, bench);
  intakeRoutes(app, bench);
  editRoutes(app, bench);
  resultRoutes(app, bench);
  searchRoutes(app, bench);
  shopRoutes(app, bench);
  app.get("/api/health", { schema: { summary: "Whether the server is up" } }, () => ({ ok: true }));
  serveApp(app, options.appFolder);
  app.addHook("onClose", async () => {
    await runner.close();
  });
  return app;
}

/** The exported app; every path that is no file is one of its views. */
function serveApp(app: Server, folder: string | undefined): void {
  const there = folder !== undefined && existsSync(join(folder, "index.html"));
  if (there) {
    void app.register(serveStatic, {
      root: folder,
      wildcard: false,
      // Compressed when the app was built.
      preCompressed: true,
      // Said below: it would overwrite what is set there.
      cacheControl: false,
      setHeaders(res, path) {
        const hashed = /[-.][0-9a-f]{16,}\./.test(path);
        res.setHeader("cache-control", hashed ? "public, max-age=31536000, immutable" : "no-cache");
      },
    });
  }
  app.setNotFoundHandler((req, reply) => {
    const view =
      there && req.method === "GET" && !req.url.startsWith("/api/") && !/\.\w+$/.test(req.url.split("?")[0]!);
    if (view) return reply.header("cache-control", "no-cache").sendFile("index.html");
    const error = new BenchError(404, {
      code: "path.unknown",
      message: `There is nothing at ${req.method} ${req.url.split("?")[0]}.`,
      where: req.url.split("?")[0]!,
      remedy: "See /api/openapi.json for what the server offers.",
    });
    return reply.code(404).send(error.body);
  });
}
