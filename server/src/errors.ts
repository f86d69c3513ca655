import type { ErrorBody } from "@gray-bench/contract/errors";
import type { Thing } from "@gray-bench/core/design/open-points";
import { MOST_FAULTS, type Fault } from "@gray-bench/core/design/faults";
import { isDiskFull } from "./store/reserve";
import type { NotLaid } from "./workers/tasks";

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

export const noSuchStage = (stage: string): BenchError =>
  new BenchError(404, {
    code: "stage.not-built",
    message: `The stage ${stage} does not compute anything yet.`,
    where: stage,
    remedy: "Ask for one of the stages that the job lists as ready or open.",
  });

export const diskFull = (): BenchError =>
  new BenchError(507, {
    code: "disk.full",
    message: "The disk is full. Nothing was changed.",
    where: "data folder",
    remedy:
      "Make room on the disk of the server, or delete jobs that are no longer needed: that works on a full disk too.",
  });

export const noSuchDrawing = (thing: Thing, name: string): BenchError =>
  new BenchError(404, {
    code: "drawing.unknown",
    message: `There is no ${thing} ${name} to draw.`,
    where: thing,
    remedy: "It may have been renamed or taken away; look it up and try again.",
  });

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

export const machineRefused = (name: string, why: string): BenchError =>
  new BenchError(409, {
    code: "machine.refused",
    message: `${name} does not take the program: ${why}`,
    where: name,
    remedy: "Compare its tools, its area and what its control reads with the shop's tables.",
  });

export const noSuchBatch = (job: string, batch: string): BenchError =>
  new BenchError(404, {
    code: "batch.unknown",
    message: `Job ${job} has no batch ${batch}.`,
    where: "batch",
    remedy: "Open its list of batches.",
  });

export const noBatch = (wrong: string, remedy: string): BenchError =>
  new BenchError(409, { code: "batch.none", message: `No batch was made: ${wrong}.`, where: "batch", remedy });

export const leadsTaken = (): BenchError =>
  new BenchError(409, {
    code: "batch.taken",
    message: "Somebody else made a batch just now. Nothing was made.",
    where: "batch",
    remedy: "Look at what is left, and make the batch again.",
  });

export const batchEnded = (batch: string): BenchError =>
  new BenchError(409, {
    code: "batch.ended",
    message: `${batch} has ended. Nothing was changed.`,
    where: "batch",
    remedy: "Make a new batch of what it left.",
  });

export const nothingToSend = (batch: string, why: string): BenchError =>
  new BenchError(409, {
    code: "batch.nothing",
    message: `Nothing of ${batch} goes to a machine: ${why}.`,
    where: "batch",
    remedy: "See its leads: each says where it is.",
  });

export const noFileFor = (machine: string, why: string): BenchError =>
  new BenchError(409, {
    code: "batch.file",
    message: `There is no file for ${machine}: ${why}`,
    where: "files of machines",
    remedy: "Correct the profile in the rules of the shop.",
  });

export const atMachine = (lead: string): BenchError =>
  new BenchError(409, {
    code: "lead.at-machine",
    message: `${lead} is at the machine. Nothing was written down.`,
    where: lead,
    remedy: "Wait for what the machine says of it, or stop its file there.",
  });

export const noSuchLead = (lead: string): BenchError =>
  new BenchError(404, {
    code: "lead.unknown",
    message: `The batch has no lead ${lead}. Nothing was written down.`,
    where: "lead",
    remedy: "Open the batch anew.",
  });

export const laterAttempt = (lead: string): BenchError =>
  new BenchError(409, {
    code: "lead.later",
    message: `${lead} is being made again already. Nothing was undone.`,
    where: lead,
    remedy: "Say of the new one what is to be said.",
  });

export const tooManyLeadEvents = (job: string): BenchError =>
  new BenchError(409, {
    code: "leads.full",
    message: `The log of leads of ${job} is full. Nothing was written down.`,
    where: job,
    remedy: "Go on in a job of its own.",
  });

export const stillAtMachine = (batch: string): BenchError =>
  new BenchError(409, {
    code: "batch.at-machine",
    message: `Files of ${batch} are still at the machine. Nothing was ended.`,
    where: "batch",
    remedy: "Stop them at the machine first.",
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

export const stockMissing = (): BenchError =>
  new BenchError(409, {
    code: "stock.none",
    message: "This server knows no stock service.",
    where: "stock service",
    remedy: "Start the server with --stock and its address.",
  });

export const stockAway = (why: string): BenchError =>
  new BenchError(502, {
    code: "stock.away",
    message: `The stock service did not do it: ${why}.`,
    where: "stock service",
    remedy: "Try again when it answers; nothing was reserved that will not be given back.",
  });

const MOST_SHORT = 5;

export const notEnough = (job: string, missing: readonly string[]): BenchError =>
  new BenchError(409, {
    code: "stock.short",
    message: `There is not enough for ${job}, so nothing was reserved: ${missing.slice(0, MOST_SHORT).join("; ")}${missing.length > MOST_SHORT ? ` and ${missing.length - MOST_SHORT} more` : ""}.`,
    where: job,
    remedy: "Reserve what is there, or take an alternate for what is short.",
  });

export const nothingToReserve = (job: string): BenchError =>
  new BenchError(409, {
    code: "stock.nothing",
    message: `Nothing of what ${job} needs is in the store.`,
    where: job,
    remedy: "Look at the shortages: the store may not know the parts.",
  });

export const tooManyPicks = (job: string): BenchError =>
  new BenchError(409, {
    code: "picks.full",
    message: `The log of picks of ${job} is full.`,
    where: job,
    remedy: "Import what is left of it as a job of its own.",
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

export const noSuchProgram = (face: string, setUp: number): BenchError =>
  new BenchError(404, {
    code: "program.unknown",
    message: `There is no program for set-up ${setUp} of ${face}.`,
    where: face,
    remedy: "Name a face with holes that has a machine in the shop.",
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

export const noSuchArrival = (id: string): BenchError =>
  new BenchError(404, {
    code: "arrival.unknown",
    message: `There is nothing that arrived as ${id}: it became a job, or was deleted.`,
    where: id,
    remedy: "Open the list of jobs, or open the files again.",
  });

export const noSuchTable = (arrival: string, table: number): BenchError =>
  new BenchError(404, {
    code: "table.unknown",
    message: `There is no table ${table} in ${arrival}.`,
    where: String(table),
    remedy: "Open the arrival again.",
  });

export const noSuchArrivedDrawing = (arrival: string, drawing: number): BenchError =>
  new BenchError(404, {
    code: "arrival.drawing.unknown",
    message: `There is no drawing ${drawing} in ${arrival}.`,
    where: String(drawing),
    remedy: "Open the arrival again.",
  });

export const noDrawing = (name: string, found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "drawing.refused",
    message: `${name} cannot be read as a drawing: ${found}.`,
    where: name,
    remedy,
  });

export const arrivalChanged = (id: string): BenchError =>
  new BenchError(409, {
    code: "arrival.changed",
    message: "It was changed by somebody else, or in another window. Nothing was changed by this.",
    where: id,
    remedy: "Look at what stands there now, and change it again if that is still wanted.",
  });

export const arrivalFull = (where: string, message: string, remedy: string): BenchError =>
  new BenchError(409, { code: "arrival.full", message: `${message} Nothing was added.`, where, remedy });

export const noSuchAttachment = (job: string, id: string): BenchError =>
  new BenchError(404, {
    code: "attachment.unknown",
    message: `There is no attachment ${id} of ${job}.`,
    where: id,
    remedy: "Open the list of attachments again.",
  });

export const noSuchPage = (name: string, page: number): BenchError =>
  new BenchError(404, {
    code: "attachment.page.unknown",
    message: `${name} has no page ${page}.`,
    where: String(page),
    remedy: "Open the document at its first page.",
  });

/** A file that is none of those that can be attached, or cannot be read as what it says it is. */
export const notAttachable = (name: string, found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "attachment.refused",
    message: `${name} cannot be attached: ${found}.`,
    where: name,
    remedy,
  });

export const attachmentsFull = (job: string, message: string): BenchError =>
  new BenchError(409, {
    code: "attachments.full",
    message: `${message} Nothing was attached.`,
    where: job,
    remedy: "Delete one that is not needed any more.",
  });

/** A file that is no table. */
export const noTable = (name: string, found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "table.refused",
    message: `${name} cannot be read as a table: ${found}.`,
    where: name,
    remedy,
  });

export const notMatched = (id: string, message: string, remedy: string): BenchError =>
  new BenchError(409, { code: "arrival.incomplete", message, where: id, remedy });

/** @param of a job, or an arrival */
export const noSuchSource = (of: string, file: string): BenchError =>
  new BenchError(404, {
    code: "file.unknown",
    message: `There is no such file of ${of}.`,
    where: file,
    remedy: "Open the list of its files again.",
  });

export const noSuchMatching = (name: string): BenchError =>
  new BenchError(404, {
    code: "matching.unknown",
    message: `There is no matching ${name}.`,
    where: name,
    remedy: "Open the list of matchings again.",
  });

export const tooManyMatchings = (most: number): BenchError =>
  new BenchError(409, {
    code: "matching.full",
    message: `There are ${most} matchings already. Nothing was kept.`,
    where: "matchings",
    remedy: "Delete one that is not needed any more.",
  });

export const noLibrary = (): BenchError =>
  new BenchError(404, {
    code: "library.none",
    message: "There is no library yet.",
    where: "library",
    remedy: "Import one: a file that ends in .library.json.",
  });

export const noSuchLibrary = (version: string): BenchError =>
  new BenchError(404, {
    code: "library.unknown",
    message: `There is no version ${version} of the library.`,
    where: version,
    remedy: "Open the list of its versions again.",
  });

export const libraryRefused = (faults: readonly Fault[], count: number): BenchError =>
  new BenchError(422, {
    code: "library.refused",
    message: `The library was refused: ${count === 1 ? "1 fault" : `${count} faults`}. Nothing was changed.`,
    where: faults[0]!.path,
    remedy: "Correct the places named in the file, then import it again.",
    faults: faults.slice(0, MOST_FAULTS),
    faultCount: count,
  });

export const outlineRefused = (found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "outline.refused",
    message: `The drawing cannot be read: ${found}. Nothing was changed.`,
    where: "the drawing",
    remedy,
  });

export const libraryStale = (changed: string[]): BenchError =>
  new BenchError(409, {
    code: "library.stale",
    message: "The library was changed meanwhile. Nothing was changed by this.",
    where: "library",
    remedy: "Take the newest version, change it, and import that.",
    changed,
  });

export const revisionTaken = (code: string, revision: string): BenchError =>
  new BenchError(409, {
    code: "revision.taken",
    message: `Job ${code} already has another design at revision ${revision}. Nothing was imported.`,
    where: "job.revision",
    remedy: "A design is never changed in place: raise the revision in the file and import it again.",
  });

export const revisionCounts = (job: string, revision: string): BenchError =>
  new BenchError(409, {
    code: "revision.counts",
    message: `Revision ${revision} of job ${job} counts already.`,
    where: "revision",
    remedy: "Read the job again.",
  });

export const bodyInvalid = (where: string, message: string): BenchError =>
  new BenchError(400, {
    code: "request.invalid",
    message: `${where}: ${message}.`,
    where,
    remedy: "Correct the place named. Nothing was changed.",
  });

export const noSuchEdit = (id: string): BenchError =>
  new BenchError(404, {
    code: "edit.unknown",
    message: `There is no edit ${id} in this job.`,
    where: id,
    remedy: "Read the history of the job again.",
  });

export const editRefused = (index: number, sentence: string, reason: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "edit.refused",
    message: `"${sentence}" does not fit: ${reason}. Nothing was changed.`,
    where: `edits[${index}]`,
    remedy,
  });

export const editTurned = (sentence: string, what: "back" | "again"): BenchError =>
  new BenchError(409, {
    code: "edit.turned",
    message: what === "back" ? `"${sentence}" was taken back already.` : `"${sentence}" is laid already.`,
    where: "edit",
    remedy: "Read the history of the job again.",
  });

export const editStands = (sentence: string, what: "back" | "again", standing: readonly NotLaid[]): BenchError =>
  new BenchError(409, {
    code: "edit.stands",
    message:
      what === "back"
        ? `"${sentence}" cannot be taken back: ${standing.length === 1 ? "another edit stands" : `${standing.length} others stand`} on it.`
        : `"${sentence}" does not fit any more.`,
    where: "edit",
    remedy: what === "back" ? "Take back first what stands on it." : "Do it anew as it fits now.",
    standing: standing.map((s) => `${s.sentence} (${s.reason})`),
  });

export const editStale = (job: string, changed: string[]): BenchError =>
  new BenchError(409, {
    code: "edit.stale",
    message: `Job ${job} was changed meanwhile. Nothing was changed by this edit.`,
    where: job,
    remedy: "Read what changed; then do it again if it still holds.",
    changed,
  });

export const notKept = (key: string): BenchError =>
  new BenchError(404, {
    code: "result.not-kept",
    message: "The numbers of that computation are not kept any more.",
    where: key,
    remedy: "Compare with a newer one.",
  });

export const noSuchVersion = (number: number | string): BenchError =>
  new BenchError(404, {
    code: "shop.unknown",
    message: `There is no version ${number} of the shop.`,
    where: String(number),
    remedy: "Take one of the versions that are listed.",
  });

export const shopRefused = (faults: Fault[]): BenchError =>
  new BenchError(422, {
    code: "shop.refused",
    message: `The rules were refused: ${faults.length} ${faults.length === 1 ? "fault" : "faults"}. Nothing was changed.`,
    where: faults[0]?.path ?? "the whole shop",
    remedy: "Mend the places listed.",
    faults,
    faultCount: faults.length,
  });

export const shopStale = (changed: string[]): BenchError =>
  new BenchError(409, {
    code: "shop.stale",
    message: "The shop was changed meanwhile. Nothing was changed by this.",
    where: "shop",
    remedy: "Read what changed; then do it again if it still holds.",
    changed,
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
