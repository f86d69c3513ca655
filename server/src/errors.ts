import type { ErrorBody } from "@gray-bench/contract/errors";
import { MOST_FAULTS, type Fault } from "@gray-bench/core/design/faults";
import { isDiskFull } from "./store/reserve";

/** An error a client is told about. Codes are never given a new meaning. */
export class BenchError extends Error {
  readonly status: number;
  readonly body: ErrorBody;

  constructor(status: number, body: ErrorBody) {
    super(body.message);
    this.status = status;
    this.body = body;
  }
}

const KB = 1024;

/** @param isFile a design file: there are ways to make it smaller */
export const bodyTooLarge = (mostBytes: number, isFile: boolean): BenchError => {
  const most = mostBytes < KB * KB ? `${mostBytes / KB} kB` : `${mostBytes / KB / KB} MB`;
  return new BenchError(413, {
    code: "body.too-large",
    message: isFile
      ? `The file is larger than ${most}. Nothing was imported.`
      : `What was sent is larger than ${most}. Nothing was changed.`,
    where: "request body",
    remedy: isFile ? "Take attachments out of the design file, or split the job." : "Send it in several parts.",
  });
};

export const noSuchJob = (code: string): BenchError =>
  new BenchError(404, {
    code: "job.unknown",
    message: `There is no job ${code}.`,
    where: code,
    remedy: "Open the list of jobs, or import its design file.",
  });

export const hostRefused = (host: string): BenchError =>
  new BenchError(403, {
    code: "host.refused",
    message: `This server does not answer to ${shown(host)}.`,
    where: "host",
    remedy: "Open the address that it printed at its start, or start it with --allow and the name it is called by.",
  });

/** @param count of hosts that a request names */
export const hostUnclear = (count: number): BenchError =>
  new BenchError(403, {
    code: "host.refused",
    message: count > 1 ? "The request names several hosts." : "The request names no host.",
    where: "host",
    remedy: "Ask by one name: the address that the server printed at its start.",
  });

export const expectationUnknown = (expected: string): BenchError =>
  new BenchError(417, {
    code: "request.invalid",
    message: `The server does not know how to do what is expected: ${shown(expected)}.`,
    where: "expect",
    remedy: "Send the request without it.",
  });

export const originRefused = (origin: string): BenchError =>
  new BenchError(403, {
    code: "origin.refused",
    message: `A page of ${shown(origin)} may change nothing here.`,
    where: "origin",
    remedy: "Open the application at the address of the server itself.",
  });

export const nothingThere = (method: string, path: string): BenchError =>
  new BenchError(404, {
    code: "path.unknown",
    message: `There is nothing at ${method} ${shown(path)}.`,
    where: shown(path),
    remedy: "See /api/openapi.json for what the server offers.",
  });

export const methodUnknown = (method: string, path: string, allow: string): BenchError =>
  new BenchError(405, {
    code: "method.unknown",
    message: `${method} does nothing at ${shown(path)}.`,
    where: shown(path),
    remedy: `It takes ${allow}.`,
  });

export const badRequest = (message: string): BenchError =>
  new BenchError(400, {
    code: "request.invalid",
    message: `The request could not be read: ${shown(message)}.`,
    where: "request",
    remedy: "Correct the request.",
  });

/** Whoever asked does not wait any more: nobody reads this. */
export const requestGone = (): BenchError =>
  new BenchError(499, {
    code: "request.gone",
    message: "The request was given up before it was answered. Nothing was changed.",
    where: "request",
    remedy: "Ask again.",
  });

const MOST_SHOWN = 120;
const shown = (text: string): string => (text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)}…` : text);

export const noSuchFile = (name: string): BenchError =>
  new BenchError(404, {
    code: "file.unknown",
    message: `This job has no file ${name}.`,
    where: name,
    remedy: "Take one of the files that the job lists.",
  });

export const noSuchMachine = (name: string): BenchError =>
  new BenchError(404, {
    code: "machine.unknown",
    message: `There is no machine ${name}.`,
    where: "machine",
    remedy: "Start the server with its address: --machine NAME=HOST:PORT,http://HOST:PORT.",
  });

export const machineAway = (name: string): BenchError =>
  new BenchError(502, {
    code: "machine.away",
    message: `${name} cannot be reached.`,
    where: name,
    remedy: "Look whether it is switched on and on the network; see its queue before you send again.",
  });

export const jobAtMachine = (job: string, machines: readonly string[]): BenchError =>
  new BenchError(409, {
    code: "job.at-machine",
    message: `Files of ${job} are at ${machines.join(", ")}. Nothing was deleted.`,
    where: job,
    remedy:
      "Stop them there first. Or delete it all the same: the machine goes on, and what it makes is told to nobody.",
  });

export const machineDeclined = (name: string, why: string): BenchError =>
  new BenchError(409, {
    code: "machine.declined",
    message: `${name} says: ${why}`,
    where: name,
    remedy: "Do what it asks for.",
  });

export const tooManyEvents = (job: string): BenchError =>
  new BenchError(409, {
    code: "events.full",
    message: `The log of what happened to ${job} is full.`,
    where: job,
    remedy: "Import what is left of it as a job of its own.",
  });

export const noSuchRevision = (job: string, revision: string): BenchError =>
  new BenchError(404, {
    code: "revision.unknown",
    message: `There is no revision ${shown(revision)} of ${job}.`,
    where: job,
    remedy: "Choose one of the revisions of the job.",
  });

export const refused = (faults: Fault[], count: number): BenchError =>
  new BenchError(422, {
    code: "design.refused",
    message: `The design was refused: ${count >= MOST_FAULTS ? `${count} faults or more` : `${count} ${count === 1 ? "fault" : "faults"}`}. Nothing was imported.`,
    where: faults[0]?.path ?? "the whole file",
    remedy: "Mend the places listed and import the file again.",
    faults,
    faultCount: count,
  });

export const revisionTaken = (code: string, revision: string): BenchError =>
  new BenchError(409, {
    code: "revision.taken",
    message: `Job ${code} already has another design at revision ${revision}. Nothing was imported.`,
    where: "job.revision",
    remedy: "A design is never changed in place: raise the revision in the file and import it again.",
  });

export const bodyInvalid = (where: string, message: string): BenchError =>
  new BenchError(400, {
    code: "request.invalid",
    message: `${where}: ${message}.`,
    where,
    remedy: "Correct the place named. Nothing was changed.",
  });

/** So long a client should wait before it tries again, s. */
export const RETRY_SECONDS = 5;

export const serverBusy = (): BenchError =>
  new BenchError(503, {
    code: "server.busy",
    message: "The server has more to do than it takes on. Nothing was changed.",
    where: "server",
    remedy: `Try again in ${RETRY_SECONDS} seconds.`,
  });

export const taskLimit = (reason: string): BenchError =>
  new BenchError(503, {
    code: "task.limit",
    message: `This was ended: ${reason}. Nothing was changed.`,
    where: "server",
    remedy: "Split the job, or start the server with higher limits (see docs/limits.md).",
  });

export const runCancelled = (code: string): BenchError =>
  new BenchError(409, {
    code: "run.cancelled",
    message: `The computation of ${code} was cancelled.`,
    where: code,
    remedy: "Start it again.",
  });

export const runFailed = (code: string): BenchError =>
  new BenchError(500, {
    code: "run.failed",
    message: `The computation of ${code} failed.`,
    where: code,
    remedy: "Start it again; if it fails again, report it with the design file.",
  });

interface FastifyLike {
  statusCode?: number;
  code?: string;
  validation?: unknown;
  message: string;
}

export const diskFull = (): BenchError =>
  new BenchError(507, {
    code: "disk.full",
    message: "The disk is full. Nothing was changed.",
    where: "data folder",
    remedy:
      "Make room on the disk of the server, or delete jobs that are no longer needed: that works on a full disk too.",
  });

/** Turns anything thrown into status and body. */
export function toReply(error: unknown): { status: number; body: ErrorBody } {
  if (error instanceof BenchError) return { status: error.status, body: error.body };
  const e = error as FastifyLike;
  const message = e.message ?? "unknown";
  if (e.code === "FST_ERR_CTP_INVALID_MEDIA_TYPE") {
    return {
      status: 415,
      body: {
        code: "body.type",
        message: "The server does not take this kind of file.",
        where: "content-type",
        remedy: "Send the design as application/json.",
      },
    };
  }
  if (isDiskFull(error)) {
    const { status, body } = diskFull();
    return { status, body };
  }
  if (e.validation) {
    return {
      status: 400,
      body: { code: "request.invalid", message, where: "request", remedy: "Correct the parameter named." },
    };
  }
  if (e.statusCode === 429) {
    return {
      status: 429,
      body: {
        code: "rate.limit",
        message: "Too many requests from this address.",
        where: "request",
        remedy: "Wait a minute and try again.",
      },
    };
  }
  if (e.statusCode && e.statusCode >= 400 && e.statusCode < 500) {
    return {
      status: e.statusCode,
      body: { code: "request.invalid", message, where: "request", remedy: "Correct the request." },
    };
  }
  return {
    status: 500,
    body: {
      code: "internal",
      message: "Something went wrong on the server.",
      where: "server",
      remedy: "Try again; if it happens again, look into the server's log.",
    },
  };
}
