import { randomUUID } from "node:crypto";
import { existsSync, realpathSync } from "node:fs";
import type { Socket } from "node:net";
import { join, sep } from "node:path";
import compress from "@fastify/compress";
import helmet from "@fastify/helmet";
import rateLimit from "@fastify/rate-limit";
import serveStatic from "@fastify/static";
import Fastify, { type FastifyReply, type FastifyServerOptions } from "fastify";
import {
  badRequest,
  bodyTooLarge,
  expectationUnknown,
  methodUnknown,
  noSuchJob,
  RETRY_SECONDS,
  toReply,
} from "./errors";
import { editRoutes } from "./edits/routes";
import { AtWork } from "./events/here";
import { Live } from "./events/live";
import { eventRoutes } from "./events/routes";
import { Said } from "./events/said";
import { attachmentRoutes } from "./attachments/routes";
import { arrivalRoutes } from "./intake/arrivals";
import { libraryRoutes } from "./library/routes";
import { matchingRoutes } from "./intake/matchings";
import { intakeRoutes } from "./intake/routes";
import { jobRoutes } from "./jobs/routes";
import { kitsRoutes } from "./kits/routes";
import { StockRoom } from "./kits/stock";
import { Machines } from "./machines/machines";
import { SHEET_MACHINE } from "./metalwork/told";
import { metalworkRoutes } from "./metalwork/routes";
import type { MachineAddress } from "./machines/line";
import { boundBodies, DESIGN_BYTES, SMALL_BYTES } from "./plugins/bodies";
import { openApi } from "./plugins/openapi";
import { watchDoor } from "./plugins/door";
import { useJoi } from "./plugins/joi";
import { Turns } from "./plugins/turns";
import { rememberRoutes } from "./plugins/unknown";
import { recordRoutes } from "./record/routes";
import { resultRoutes } from "./results/routes";
import { Runner } from "./results/runner";
import { targetOf } from "./results/target";
import { searchRoutes } from "./search/routes";
import { shopRoutes } from "./shop/routes";
import type { Bench, Server } from "./server";
import type { Store } from "./store/database";
import { findJob, listJobs } from "./store/jobs";
import { appendAudit } from "./store/record";
import type { Room } from "./store/results";
import { SentFiles } from "./wireprep/sent";
import { wireMachine } from "./wireprep/told";
import { wireprepRoutes } from "./wireprep/routes";
import type { Workers } from "./workers/pool";

export interface BuildOptions {
  store: Store;
  workers: Workers;
  /** Folder of the exported app; without it only the interface for programs is served. */
  appFolder?: string;
  logger?: FastifyServerOptions["logger"];
  now?: () => Date;
  requestsPerMinute?: number;
  /** Folder of the data, for backups; none are made without it. */
  folder?: string;
  /** Names the server is called by, beside those of this machine. */
  names?: readonly string[];
  /** Machines of the shop that take programs. */
  machines?: readonly MachineAddress[];
  /** Machines that make leads, and printers for their labels. */
  wireMachines?: readonly MachineAddress[];
  printers?: readonly MachineAddress[];
  /** Address of the stock service: `http://127.0.0.1:7031`. */
  stock?: string;
  /** How much of old results is kept. */
  room?: Room;
}

/** Builds the server; never listens. */
export async function build(options: BuildOptions): Promise<Server> {
  const app = Fastify({
    logger: options.logger ?? false,
    bodyLimit: SMALL_BYTES,
    // What a request may take to arrive, and how long an open line may be silent, ms.
    requestTimeout: 300_000,
    keepAliveTimeout: 10_000,
    // Who names no host is answered as who names a wrong one.
    http: { headersTimeout: 20_000, requireHostHeader: false },
    // Whoever listens to events does not keep the server from stopping.
    forceCloseConnections: true,
    genReqId: () => randomUUID().slice(0, 8),
    // As long as a name in a design may be, written with escapes.
    routerOptions: { ignoreTrailingSlash: true, maxParamLength: 1000 },
    frameworkErrors: (error, _req, reply) => {
      const { status, body } = toReply(error.code === "FST_ERR_BAD_URL" ? badRequest(error.message) : error);
      void (reply as FastifyReply).code(status).send(body);
    },
    clientErrorHandler,
  }) as unknown as Server;
  const { store, workers } = options;
  const now = options.now ?? (() => new Date());
  const live = new Live();
  const runner = new Runner({
    store,
    workers,
    log: app.log,
    now,
    tell: (job, progress) => live.tell(job, "progress", progress),
    ...(options.room ? { room: options.room } : {}),
  });
  const bench: Bench = {
    said: new Said(store, now, live),
    store,
    workers,
    runner,
    now,
    turns: new Turns(),
    changed: ({ job, key }) => live.tell(job, "changed", { key }),
    async readJob({ job }) {
      const row = await findJob(store.db, job);
      if (!row) throw noSuchJob(job);
      return row;
    },
    note: (req, entry) =>
      store.withReserve(() => appendAudit(store.db, { at: now().toISOString(), address: req.ip, ...entry })),
  };
  useJoi(app);
  answerAll(app);
  boundBodies(app);
  app.setErrorHandler((error, req, reply) => {
    const tooLarge = (error as { code?: string }).code === "FST_ERR_CTP_BODY_TOO_LARGE";
    const most = req.routeOptions.bodyLimit ?? SMALL_BYTES;
    const { status, body } = toReply(tooLarge ? bodyTooLarge(most, most === DESIGN_BYTES) : error);
    if (status >= 500) req.log.error(error);
    if (status === 503) reply.header("retry-after", String(RETRY_SECONDS));
    return reply
      .code(status)
      .header("cache-control", "no-store")
      .send(status >= 500 ? { ...body, id: req.id } : body);
  });
  const unknown = rememberRoutes(app);
  watchDoor(app, options.names ?? []);
  app.addHook("onSend", (req, reply, payload, next) => {
    // What says nothing of being kept is not kept: lists, logs, states.
    if (req.url.startsWith("/api/") && !reply.hasHeader("cache-control")) reply.header("cache-control", "no-store");
    reply.header("permissions-policy", PERMISSIONS);
    next(null, payload);
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
        fontSrc: ["'self'"],
        // Pages of documents are drawn to pictures that stand in the memory of the browser.
        imgSrc: ["'self'", "data:", "blob:"],
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
  arrivalRoutes(app, bench);
  attachmentRoutes(app, bench);
  matchingRoutes(app, bench);
  libraryRoutes(app, bench);
  const atWork = new AtWork(() => now().getTime());
  eventRoutes(app, bench, atWork, live);
  editRoutes(app, bench);
  resultRoutes(app, bench);
  const room = new StockRoom(options.stock ?? null, store, now);
  kitsRoutes(app, bench, room, atWork);
  const clock = () => now().getTime();
  const sheetMachines = new Machines(options.machines ?? [], SHEET_MACHINE, clock);
  metalworkRoutes(app, bench, sheetMachines);
  const wireMachines = {
    leads: new Machines(options.wireMachines ?? [], wireMachine("leads"), clock),
    labels: new Machines(options.printers ?? [], wireMachine("labels"), clock),
  };
  const wires = new SentFiles(wireMachines, bench, (e) => app.log.error(e));
  wireprepRoutes(app, bench, wires);
  searchRoutes(app, bench);
  shopRoutes(app, bench);
  recordRoutes(app, bench, options.folder);
  app.get("/api/health", { schema: { summary: "Whether the server is up" } }, () => ({ ok: true }));
  serveApp(app, options.appFolder, unknown);
  // What a stop has left waiting, or a newer version computes in another way.
  app.addHook("onListen", async () => {
    const jobs = await listJobs(store.db, 0, MOST_RESUMED);
    const known = await runner.summaries(jobs.map((j) => targetOf(j).key));
    runner.resume(jobs.map(targetOf).filter(({ key }) => !known.has(key)));
  });
  app.addHook("preClose", () => live.close());
  app.addHook("onClose", async () => {
    await wires.close();
    await sheetMachines.close();
    await room.close();
    await runner.close();
  });
  return app;
}

/** Codes are scanned with the camera; nothing else of a device is wanted. */
const PERMISSIONS = "camera=(self), microphone=(), geolocation=(), payment=(), usb=(), serial=(), bluetooth=()";

/** After a start; more are computed when somebody asks for them. */
const MOST_RESUMED = 10_000;

/** The exported app; every path that is no file is one of its views. */
function serveApp(app: Server, folder: string | undefined, unknown: ReturnType<typeof rememberRoutes>): void {
  const there = folder !== undefined && existsSync(join(folder, "index.html"));
  if (there) {
    void app.register(serveStatic, {
      root: folder,
      wildcard: false,
      // Compressed when the app was built.
      preCompressed: true,
      allowedPath: (path) => isWithin(folder, path),
      // Said below: it would overwrite what is set there.
      cacheControl: false,
      setHeaders(res, path) {
        const hashed = /[-.][0-9a-f]{16,}\./.test(path);
        res.setHeader("cache-control", hashed ? "public, max-age=31536000, immutable" : "no-cache");
      },
    });
  }
  app.setNotFoundHandler({ preHandler: app.rateLimit() }, (req, reply) => {
    const view =
      there && req.method === "GET" && !req.url.startsWith("/api/") && !/\.\w+$/.test(req.url.split("?")[0]!);
    if (view) return reply.header("cache-control", "no-cache").sendFile("index.html");
    const page = there && !req.url.startsWith("/api/") && !["GET", "HEAD"].includes(req.method);
    const { error, allow } = page
      ? { error: methodUnknown(req.method, req.url.split("?")[0]!, PAGES_TAKE), allow: PAGES_TAKE }
      : unknown(req);
    if (allow) reply.header("allow", allow);
    throw error;
  });
}

/** Whether a file lies in a folder itself, and is not reached by a link that leads out of it. */
function isWithin(folder: string, path: string): boolean {
  try {
    const root = realpathSync(folder);
    return realpathSync(join(root, decodeURIComponent(path))).startsWith(`${root}${sep}`);
  } catch {
    return false;
  }
}

const PAGES_TAKE = "GET, HEAD";

/** What never comes to an address is answered in the one shape too. */
function answerAll(app: Server): void {
  app.server.on("checkExpectation", (req, res) => {
    const { status, body } = expectationUnknown(String(req.headers.expect));
    const text = JSON.stringify(body);
    const head = { "content-type": "application/json; charset=utf-8", "content-length": Buffer.byteLength(text) };
    res.writeHead(status, { ...head, connection: "close" }).end(text);
  });
  app.server.on("connect", (req, socket) => {
    const { body } = methodUnknown("CONNECT", req.url ?? "", PAGES_TAKE);
    socket.end(bareAnswer("405 Method Not Allowed", body));
  });
}

/** An answer on the bare line. */
function bareAnswer(status: string, body: object): string {
  const text = JSON.stringify(body);
  return `HTTP/1.1 ${status}\r\ncontent-type: application/json; charset=utf-8\r\ncontent-length: ${Buffer.byteLength(text)}\r\nconnection: close\r\n\r\n${text}`;
}

/** What is no HTTP: answered in the one shape of errors, on the bare line. */
function clientErrorHandler(error: Error & { code?: string }, socket: Socket): void {
  if (error.code === "ECONNRESET" || !socket.writable) {
    socket.destroy();
    return;
  }
  const slow = error.code === "ERR_HTTP_REQUEST_TIMEOUT";
  const { body } = badRequest(slow ? "it took too long" : (error.code ?? "no HTTP"));
  socket.end(
    slow ? bareAnswer("408 Request Timeout", { ...body, code: "request.slow" }) : bareAnswer("400 Bad Request", body),
  );
}
