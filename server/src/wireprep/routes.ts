import { jobParams, whoQuery } from "@gray-bench/contract/common";
import {
  batchAsked,
  batchFileParams,
  batchParams,
  batchRequest,
  leadRequest,
  magazineRequest,
  printRequest,
  reelRequest,
  sendRequest,
  wireMachineParams,
  type BatchList,
  type BatchOutlook,
  type BatchReply,
  type BatchRequest,
  type BatchSummary,
  type LeadRequest,
  type RunNow,
  type WireMachineList,
} from "@gray-bench/contract/wireprep";
import { standing } from "@gray-bench/core/frame/events";
import { countStates, type LeadEvent } from "@gray-bench/core/wireprep/events";
import type { BatchDocument } from "@gray-bench/core/wireprep/documents";
import { LEAD } from "@gray-bench/core/wireprep/event-kind";
import { BATCH, DOCUMENT } from "@gray-bench/core/wireprep/questions";
import type { Written } from "@gray-bench/core/wireprep/profile";
import { madeOtherwise, type BatchAsked, type MadeBatch } from "@gray-bench/core/wireprep/batch";
import type { WireprepResult } from "@gray-bench/core/wireprep/result";
import { gunzipSync } from "node:zlib";
import { noSuchFile } from "../errors";
import {
  atMachine,
  batchEnded,
  laterAttempt,
  leadsTaken,
  noBatch,
  noSuchBatch,
  noSuchLead,
  stillAtMachine,
  tooManyLeadEvents,
} from "./errors";
import { goneOf } from "../plugins/gone";
import { readBody, whoOf } from "../plugins/joi";
import { targetOf } from "../results/target";
import type { Bench, Server } from "../server";
import type { JobRow } from "../store/jobs";
import {
  attemptKey,
  attemptsInRuns,
  claimed,
  endBatch,
  findBatch,
  isOpen,
  keepBatch,
  leadsOfRun,
  listBatches,
  listRuns,
  nextBatch,
  readLeadEvents,
  statesOf,
  type BatchRow,
  type RunRow,
} from "../store/leads";
import { findShop } from "../store/shops";
import type { SentFiles } from "./sent";

/** A log longer than this is no person's. */
const MOST_EVENTS = 500_000;

const DOCUMENTS: Readonly<Record<string, BatchDocument>> = {
  "leads.csv": "leads.csv",
  "bench.csv": "bench.csv",
  "bench.pdf": "bench.pdf",
  "labels.csv": "labels.csv",
  "labels.pdf": "labels.pdf",
  "labels.txt": "labels.txt",
  "bundles.pdf": "bundles.pdf",
  machine: "machine",
};

const runNow = (run: RunRow): RunNow => ({
  name: run.name,
  takes: run.takes,
  machine: run.machine,
  state: run.state,
  why: run.why,
  at: run.at,
  leads: isOpen(run) ? leadsOfRun(run) : [],
  who: run.who,
});

/** Leads: batches, files that go to machines, what became of each. */
export function wireprepRoutes(app: Server, bench: Bench, sent: SentFiles): void {
  const { store, runner, workers, readJob, now, note, said } = bench;

  said.hear(LEAD, {
    most: MOST_EVENTS,
    full: tooManyLeadEvents,
    async check(db, job, batch, events) {
      const row = await findBatch(db, job, Number(batch!.slice(1)));
      if (!row) throw noSuchBatch(job, batch!);
      const known = await readLeadEvents(db, job, row.number);
      const ids = new Set(known.map((k) => k.id));
      const fresh = events.filter((e) => !ids.has(e.id));
      if (fresh.length > 0) checkEvents(row, known, fresh, await attemptsInRuns(db, job, row.number));
    },
  });

  const shopOfJob = async (row: JobRow): Promise<string> => (await findShop(store.db, row.shop))!.json;

  const resultOf = async (row: JobRow): Promise<WireprepResult> =>
    JSON.parse(gunzipSync((await runner.result(targetOf(row), "wireprep")).gzip).toString("utf8")) as WireprepResult;

  const readBatch = async ({
    batch,
    ...params
  }: {
    job: string;
    batch: string;
  }): Promise<{ job: JobRow; row: BatchRow }> => {
    const job = await readJob(params);
    const row = await findBatch(store.db, job.job, Number(batch.slice(1)));
    if (!row) throw noSuchBatch(job.job, batch);
    return { job, row };
  };

  const summaryOf = (row: BatchRow, events: readonly LeadEvent[]): BatchSummary => {
    const { leads, made, again } = countStates(statesOf(row.batch, events).values());
    return {
      name: `B${row.number}`,
      machine: row.batch.plan.machine,
      panels: row.batch.panels,
      leads,
      bench: row.batch.plan.bench.length,
      made,
      again,
      who: row.who,
      at: row.at,
      endedAt: row.ended_at,
    };
  };

  const replyOf = async (job: JobRow, row: BatchRow): Promise<BatchReply> => {
    const events = await readLeadEvents(store.db, row.job, row.number);
    return {
      summary: summaryOf(row, events),
      batch: row.batch,
      events,
      runs: (await listRuns(store.db, row.job, row.number)).map(runNow),
      revision: row.revision,
      changed: madeOtherwise(row.batch, (await resultOf(job)).leads),
    };
  };

  const make = async (job: JobRow, asked: BatchAsked, signal: AbortSignal): Promise<MadeBatch> => {
    const taken = [...(await claimed(store.db, job.job))];
    const answer = await runner.ask(BATCH, [targetOf(job)], { asked, taken }, signal);
    if ("wrong" in answer) throw noBatch(answer.wrong, answer.remedy);
    return answer;
  };

  const documentOf = async (job: JobRow, row: BatchRow, as: BatchDocument, signal?: AbortSignal): Promise<Written> =>
    workers.ask(
      DOCUMENT,
      { asked: { batch: row.batch, job: row.job, as }, results: [], shop: await shopOfJob(job) },
      signal,
    );

  app.get(
    "/api/jobs/:job/batches",
    { schema: { answer: "BatchList", summary: "Batches of leads, and how many leads are in none", params: jobParams } },
    async (req): Promise<BatchList> => {
      const job = await readJob(req.params);
      const batches: BatchSummary[] = [];
      for (const row of await listBatches(store.db, job.job))
        batches.push(summaryOf(row, await readLeadEvents(store.db, row.job, row.number)));
      const [{ leads }, taken] = [await resultOf(job), await claimed(store.db, job.job)];
      return { batches, leads: leads.length, free: leads.filter((l) => !taken.has(l.wire)).length };
    },
  );

  app.post(
    "/api/jobs/:job/batches/outlook",
    {
      schema: {
        answer: "BatchOutlook",
        body: batchAsked,
        summary: "What a batch would be: its order, minutes and metres",
        params: jobParams,
      },
    },
    async (req, reply): Promise<BatchOutlook> => {
      const asked = readBody<Omit<BatchAsked, "name">>(req.body, batchAsked);
      const job = await readJob(req.params);
      const { plan } = await make(job, { ...asked, name: `${job.job} outlook` }, goneOf(reply));
      return { plan };
    },
  );

  app.post(
    "/api/jobs/:job/batches",
    {
      schema: {
        answer: "BatchReply",
        body: batchRequest,
        summary: "Make a batch: each lead is in one at most",
        params: jobParams,
      },
    },
    async (req, reply): Promise<BatchReply> => {
      const { who, ...asked } = readBody<BatchRequest>(req.body, batchRequest);
      const job = await readJob(req.params);
      const number = await nextBatch(store.db, job.job);
      const batch = await make(job, { ...asked, name: `${job.job} B${number}` }, goneOf(reply));
      const row = { job: job.job, number, revision: job.revision, batch, who, at: now().toISOString() };
      if ((await keepBatch(store.db, row)) === "taken") throw leadsTaken();
      return replyOf(job, { ...row, ended_at: null });
    },
  );

  app.get(
    "/api/jobs/:job/batches/:batch",
    {
      schema: {
        answer: "BatchReply",
        summary: "A batch: its leads, its files at machines, what became of each lead",
        params: batchParams,
      },
    },
    async (req): Promise<BatchReply> => {
      const { job, row } = await readBatch(req.params);
      return replyOf(job, row);
    },
  );

  app.delete(
    "/api/jobs/:job/batches/:batch",
    {
      schema: {
        answer: "BatchReply",
        summary: "End a batch: what is not made is free for another one",
        params: batchParams,
      },
    },
    async (req): Promise<BatchReply> => {
      const { job, row } = await readBatch(req.params);
      if (row.ended_at === null && !(await endBatch(store.db, row, now().toISOString())))
        throw stillAtMachine(`B${row.number}`);
      return replyOf(job, (await findBatch(store.db, row.job, row.number))!);
    },
  );

  app.post(
    "/api/jobs/:job/batches/:batch/send",
    {
      schema: {
        answer: "BatchReply",
        body: sendRequest,
        summary: "Send what is to be made to its machine",
        params: batchParams,
      },
    },
    async (req): Promise<BatchReply> => {
      const { who } = readBody<{ who: string }>(req.body, sendRequest);
      const { job, row } = await readBatch(req.params);
      if (row.ended_at !== null) throw batchEnded(`B${row.number}`);
      await sent.send(row, who);
      await note(req, { what: "send", job: row.job, who, detail: `B${row.number} to ${row.batch.plan.machine}` });
      return replyOf(job, row);
    },
  );

  app.post(
    "/api/jobs/:job/batches/:batch/print",
    {
      schema: {
        answer: "BatchReply",
        body: printRequest,
        summary: "Send its labels to a printer",
        params: batchParams,
      },
    },
    async (req): Promise<BatchReply> => {
      const { printer, who } = readBody<{ printer: string; who: string }>(req.body, printRequest);
      const { job, row } = await readBatch(req.params);
      const file = await documentOf(job, row, "labels.txt");
      if (!file.ok) throw noBatch(file.reasons.join("; "), "Give its ends labels by the rules of the shop.");
      await sent.print(row, printer, Buffer.from(file.bytes), who);
      await note(req, { what: "print", job: row.job, who, detail: `labels of B${row.number} on ${printer}` });
      return replyOf(job, row);
    },
  );

  app.post(
    "/api/jobs/:job/batches/:batch/leads",
    {
      schema: {
        answer: "BatchReply",
        body: leadRequest,
        summary: "Say what became of leads; an event sent twice counts once",
        params: batchParams,
      },
    },
    async (req): Promise<BatchReply> => {
      const { events } = readBody<LeadRequest>(req.body, leadRequest);
      const { job, row } = await readBatch(req.params);
      const named = `B${row.number}`;
      await said.say(
        row.job,
        LEAD,
        events.map((e) => ({ ...e, batch: named })),
        named,
      );
      return replyOf(job, row);
    },
  );

  app.get(
    "/api/jobs/:job/batches/:batch/files/:name",
    { schema: { summary: "A file of a batch", params: batchFileParams } },
    async (req, reply) => {
      const { name } = req.params;
      const { job, row } = await readBatch(req.params);
      const as = Object.hasOwn(DOCUMENTS, name) ? DOCUMENTS[name]! : null;
      if (as === null) throw noSuchFile(name);
      const file = await documentOf(job, row, as, goneOf(reply));
      if (!file.ok) throw noBatch(file.reasons.join("; "), "Correct the profile in the rules of the shop.");
      return reply
        .header("content-disposition", `attachment; filename="${row.job}-B${row.number}-${file.name}"`)
        .header("cache-control", "no-cache")
        .type(file.type)
        .send(Buffer.from(file.bytes));
    },
  );

  app.get(
    "/api/wire-machines",
    {
      schema: {
        answer: "WireMachineList",
        summary: "Machines for leads and printers for labels: what they do, and when they were last heard of",
      },
    },
    async (): Promise<WireMachineList> => ({ machines: await sent.states() }),
  );

  const done = { done: true };
  app.post(
    "/api/wire-machines/:machine/reel",
    { schema: { body: reelRequest, summary: "A reel is scanned and mounted", params: wireMachineParams } },
    async (req) => {
      const { machine } = req.params;
      await sent.act("leads", machine, "/reel", readBody<object>(req.body, reelRequest));
      return done;
    },
  );
  app.post(
    "/api/wire-machines/:machine/magazine",
    { schema: { body: magazineRequest, summary: "A magazine is filled", params: wireMachineParams } },
    async (req) => {
      const { machine } = req.params;
      await sent.act("leads", machine, "/magazine", readBody<object>(req.body, magazineRequest));
      return done;
    },
  );
  app.post(
    "/api/wire-machines/:machine/clear",
    { schema: { summary: "A jam is cleared", params: wireMachineParams } },
    async (req) => {
      await sent.act("leads", req.params.machine, "/clear");
      return done;
    },
  );
  app.post(
    "/api/wire-machines/:machine/roll",
    { schema: { summary: "A roll of labels is put in", params: wireMachineParams } },
    async (req) => {
      await sent.act("labels", req.params.machine, "/roll");
      return done;
    },
  );
  app.post(
    "/api/jobs/:job/batches/:batch/stop",
    {
      schema: {
        answer: "BatchReply",
        summary: "Stop its files at machines",
        params: batchParams,
        querystring: whoQuery,
      },
    },
    async (req): Promise<BatchReply> => {
      const { job, row } = await readBatch(req.params);
      for (const run of await listRuns(store.db, row.job, row.number))
        if (run.state === "sent") {
          await sent.act(run.takes, run.machine, `/jobs/${run.machine_job}/stop`);
          await sent.follow(`${run.takes} ${run.machine}`);
        }
      await note(req, { what: "stop", job: row.job, who: whoOf(req), detail: `files of B${row.number}` });
      return replyOf(job, row);
    },
  );
}

/** What cannot be said of a lead. @throws lead.unknown, lead.at-machine, lead.later */
function checkEvents(
  row: BatchRow,
  known: readonly LeadEvent[],
  fresh: readonly LeadEvent[],
  inRuns: ReadonlyMap<string, string>,
): void {
  const leads = new Set(row.batch.leads.map((l) => l.wire));
  const said = new Set(known.filter((e) => e.run !== undefined).map((e) => attemptKey(e.lead, e.attempt)));
  const stands = standing(known);
  for (const e of fresh) {
    if (!leads.has(e.lead)) throw noSuchLead(e.lead);
    const key = attemptKey(e.lead, e.attempt);
    if (inRuns.has(key) && !said.has(key)) throw atMachine(e.lead);
    if (e.what !== "undone") continue;
    const undone = stands.find((k) => k.id === e.of);
    if (undone?.run !== undefined) throw atMachine(e.lead);
    // Once the next attempt is under way, or has come to something, the one before it stays spoilt.
    const next = (k: LeadEvent): boolean => k.lead === e.lead && k.attempt > e.attempt;
    if (undone && undone.what !== "made" && (stands.some(next) || inRuns.has(attemptKey(e.lead, e.attempt + 1))))
      throw laterAttempt(e.lead);
  }
}
