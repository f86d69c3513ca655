import {
  attachedPageParams,
  attachmentChange,
  attachmentParams,
  attachQuery,
  MOST_ATTACHMENTS,
  type Attachment,
  type AttachmentList,
} from "@gray-bench/contract/attachments";
import { jobParams } from "@gray-bench/contract/common";
import { READING_VERSION } from "@gray-bench/core/attachments/pages";
import type { FastifyReply, FastifyRequest } from "fastify";
import { attachmentsFull, noSuchAttachment, noSuchPage } from "./errors";
import { goneOf } from "../plugins/gone";
import { readBody } from "../plugins/joi";
import { named } from "../plugins/named";
import { isKnown } from "../results/etag";
import type { Bench, Server } from "../server";
import { attach, listAttachments, setGone } from "../store/attachments";
import { readDesignJson, type JobRow } from "../store/jobs";
import { keepReading, readReadings, readReceived, receivedOf } from "../store/received";
import type { FindAsked } from "../workers/tasks";
import { lookInto } from "./read";

/** Of the files of one job together. */
const MOST_BYTES = 512 * 1024 * 1024;
/** Documents of a job that are searched. */
const MOST_SEARCHED = 40;

/** Files kept with a job as they are: its schematic, pictures; and what of the design stands on the pages of documents. */
export function attachmentRoutes(app: Server, bench: Bench): void {
  const { store, workers, now, readJob } = bench;

  async function found({
    attachment: id,
    ...params
  }: {
    job: string;
    attachment: string;
  }): Promise<{ job: JobRow; attachment: Attachment; all: Attachment[] }> {
    const job = await readJob(params);
    const all = await listAttachments(store.db, job.job);
    const attachment = all.find((a) => a.id === id);
    if (!attachment) throw noSuchAttachment(job.job, id);
    return { job, attachment, all };
  }

  const roomFor = (job: string, all: readonly Attachment[], bytes: number): void => {
    const there = all.filter((a) => a.gone === null);
    if (there.length >= MOST_ATTACHMENTS) throw attachmentsFull(job, `There are ${MOST_ATTACHMENTS} already.`);
    // What was taken off keeps its bytes until it is let go.
    const files = new Map(all.map((a) => [a.file, a.bytes]));
    if ([...files.values()].reduce((sum, n) => sum + n, bytes) > MOST_BYTES)
      throw attachmentsFull(job, `Together they would have more than ${MOST_BYTES / 1024 / 1024} MB.`);
  };

  app.get(
    "/api/jobs/:job/attachments",
    {
      schema: {
        answer: "AttachmentList",
        summary: "The files kept with a job, also those taken off of late",
        params: jobParams,
      },
    },
    async (req): Promise<AttachmentList> => ({
      attachments: await listAttachments(store.db, (await readJob(req.params)).job),
    }),
  );

  app.post(
    "/api/jobs/:job/attachments",
    {
      schema: {
        answer: "Attachment",
        summary:
          "Attach a file to a job, or to one of its things (application/octet-stream: PDF, PNG, JPEG or WebP, at most 64 MB). One of the same name and thing is taken off for it",
        params: jobParams,
        querystring: attachQuery,
      },
    },
    async (req, reply): Promise<Attachment> => {
      const { job } = await readJob(req.params);
      const { name, thing, of, who } = req.query;
      const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0);
      roomFor(job, await listAttachments(store.db, job), bytes.byteLength);
      const { type, reading } = await lookInto(workers, { bytes, name }, goneOf(reply));
      const come = await receivedOf(bytes);
      const one = { job, name, type, file: come.hash, thing: thing ?? null, of: of ?? null };
      return bench.turns.take(job, async () => {
        await readJob(req.params);
        roomFor(job, await listAttachments(store.db, job), bytes.byteLength);
        const id = await attach(store.db, { ...one, at: now().toISOString(), who: who ?? null }, come, reading);
        reply.code(201);
        return (await listAttachments(store.db, job)).find((a) => a.id === id)!;
      });
    },
  );

  app.put(
    "/api/jobs/:job/attachments/:attachment",
    {
      schema: {
        answer: "Attachment",
        body: attachmentChange,
        summary: "Take an attachment off, or put it back",
        params: attachmentParams,
      },
    },
    async (req): Promise<Attachment> => {
      const { gone } = readBody(req.body, attachmentChange);
      const { job } = await readJob(req.params);
      return bench.turns.take(job, async () => {
        const { attachment, all } = await found(req.params);
        if ((attachment.gone !== null) === gone) return attachment;
        if (!gone) roomFor(job, all, 0);
        const at = gone ? now().toISOString() : null;
        await setGone(store.db, attachment.id, at);
        return { ...attachment, gone: at };
      });
    },
  );

  app.get(
    "/api/jobs/:job/attachments/:attachment/file",
    { schema: { summary: "An attachment as it was received", params: attachmentParams } },
    async (req, reply) => {
      const { attachment } = await found(req.params);
      const etag = `"${attachment.file}"`;
      reply.header("etag", etag).header("cache-control", "no-cache");
      if (isKnown(req.headers["if-none-match"], etag)) return reply.code(304).send();
      const { name, type, file } = attachment;
      // A picture is shown where it stands; a document is opened by the application, or taken away.
      const how = type === "application/pdf" ? "attachment" : "inline";
      return reply
        .header("content-disposition", named(how, name))
        .header("content-security-policy", "default-src 'none'; sandbox")
        .type(type)
        .send((await readReceived(store.db, file))!);
    },
  );

  /** What of the design as it is now stands in documents; answered from what is known where whoever asks has it already. */
  async function sendFound(
    req: FastifyRequest,
    reply: FastifyReply,
    { job, documents, page }: { job: JobRow; documents: readonly Attachment[]; page: FindAsked["page"] },
  ): Promise<FastifyReply | null> {
    const asked: FindAsked = {
      design: job.hash,
      documents: documents.map(({ id, name, file }) => ({ id, name, file })),
      page,
    };
    const key = [job.hash, READING_VERSION, ...documents.map((d) => `${d.id} ${d.file}`), JSON.stringify(page)];
    const etag = `"${Buffer.from(await crypto.subtle.digest("SHA-256", Buffer.from(key.join("\n")))).toString("hex")}"`;
    reply.header("etag", etag).header("cache-control", "no-cache").header("vary", "accept-encoding");
    if (isKnown(req.headers["if-none-match"], etag)) return reply.code(304).send();
    const gone = goneOf(reply);
    const json = await workers.find(
      asked,
      async () => ({
        design: (await readDesignJson(store.db, job.hash))!,
        readings: await readingsOf(documents, gone),
      }),
      gone,
    );
    return json && reply.type("application/json; charset=utf-8").send(Buffer.from(json));
  }

  /** What documents say; those that an older program read are read anew, and kept. */
  async function readingsOf(documents: readonly Attachment[], gone: AbortSignal): Promise<Record<string, Uint8Array>> {
    const files = [...new Set(documents.map((d) => d.file))];
    const known = await readReadings(store.db, files, READING_VERSION);
    const readings: Record<string, Uint8Array> = {};
    for (const file of files) {
      let json: Uint8Array | undefined = known.get(file);
      if (!json) {
        const bytes = (await readReceived(store.db, file))!;
        const { name } = documents.find((d) => d.file === file)!;
        const { reading } = await lookInto(workers, { bytes, name }, gone);
        await keepReading(store.db, file, reading!);
        json = (await readReadings(store.db, [file], READING_VERSION)).get(file)!;
      }
      readings[file] = json;
    }
    return readings;
  }

  app.get(
    "/api/jobs/:job/found",
    {
      schema: {
        summary: "Where the things of a design stand in the documents of its job, and what of them stands nowhere",
        params: jobParams,
      },
    },
    async (req, reply) => {
      const job = await readJob(req.params);
      const all = await listAttachments(store.db, job.job);
      const documents = all.filter((a) => a.gone === null && a.pages !== null).slice(0, MOST_SEARCHED);
      return sendFound(req, reply, { job, documents, page: null });
    },
  );

  app.get(
    "/api/jobs/:job/attachments/:attachment/pages/:page",
    { schema: { summary: "One page of a document, with what of the design stands on it", params: attachedPageParams } },
    async (req, reply) => {
      const { job, attachment } = await found(req.params);
      const { page } = req.params;
      if (page > (attachment.pages ?? 0)) throw noSuchPage(attachment.name, page);
      const sent = await sendFound(req, reply, {
        job,
        documents: [attachment],
        page: { id: attachment.id, page },
      });
      if (!sent) throw noSuchPage(attachment.name, page);
      return sent;
    },
  );
}
