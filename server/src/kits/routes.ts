import { jobParams } from "@gray-bench/contract/common";
import {
  MOST_NEEDING,
  needsQuery,
  pickRequest,
  picksQuery,
  reserveRequest,
  revisionQuery,
  type AllNeedsReply,
  type BillOf,
  type JobNeedsReply,
  type NeedingJob,
  type Picker,
  type PickReply,
  type PickRequest,
  type ReservationNow,
  type StockNow,
} from "@gray-bench/contract/kits";
import { PICK } from "@gray-bench/core/kits/event-kind";
import { NEEDS } from "@gray-bench/core/kits/questions";
import { daysBefore } from "@gray-bench/core/kits/needs";
import { even, type KitsResult } from "@gray-bench/core/kits/result";
import type { TogetherNeeds } from "@gray-bench/core/kits/together";
import { gunzipSync } from "node:zlib";
import { BenchError, noSuchRevision } from "../errors";
import { nothingToReserve, tooManyPicks } from "./errors";
import type { AtWork } from "../events/here";
import { goneOf } from "../plugins/gone";
import { readBody } from "../plugins/joi";
import { targetFor, targetOf } from "../results/target";
import type { Bench, Server } from "../server";
import { countJobs, fileStem, lastOfRevision, listJobs, type JobRow } from "../store/jobs";
import { readSaid } from "../store/events";
import { bookLater } from "../store/picks";
import { currentShop, findShop, shopOf } from "../store/shops";
import type { StockRoom } from "./stock";

type NeedsAsked = Parameters<typeof NEEDS.answer>[0];

/** Files that say what is in the store: they are not kept as other files are. */
const LIVE_FILES = { "shortages.csv": "csv", "purchase.csv": "purchase", "shortages.xlsx": "xlsx" } as const;

/** Kits: what is picked, what the store has, what jobs need of it together. */
export function kitsRoutes(
  app: Server,
  { store, runner, workers, readJob, said }: Bench,
  room: StockRoom,
  atWork: AtWork,
): void {
  said.hear(PICK, {
    full: tooManyPicks,
    with: (db, job, events) =>
      bookLater(
        db,
        job,
        events.map((e) => e.id),
      ),
    then: () => void room.tell(),
  });

  const pickers = (job: string, device?: string): Picker[] =>
    atWork
      .others(job, PICK.kind, device)
      .map(({ device: id, who, thing, part }) => ({ device: id, who, kit: thing, line: part }));

  const needing = async (row: JobRow): Promise<NeedingJob> => {
    const shop = await findShop(store.db, row.shop);
    const days = shop ? shopOf(shop).rules.kits.daysBefore : 0;
    return { job: row.job, title: row.title, due: row.due, wanted: daysBefore(row.due, days) };
  };

  /** @param all jobs nobody named: those deleted meanwhile are left out; one that cannot be computed is never left out unsaid */
  const together = async (rows: readonly JobRow[], as: NeedsAsked["as"], signal: AbortSignal, all = false) => {
    const [jobs, groups, results]: [NeedingJob[], NeedsAsked["groups"][number][], Uint8Array[]] = [[], [], []];
    for (const row of rows) {
      const job = await needing(row);
      let result: Buffer;
      try {
        result = (await runner.result(targetOf(row), "kits")).gzip;
      } catch (error) {
        if (all && error instanceof BenchError && error.body.code === "job.unknown") continue;
        throw error;
      }
      jobs.push(job);
      groups.push({ job: row.job, wanted: job.wanted, picks: (await readSaid(store.db, row.job, PICK)).events });
      results.push(result);
    }
    const asked = { groups, stock: await room.levels(), as };
    const file = await workers.ask(NEEDS, { asked, results, shop: (await currentShop(store.db)).json }, signal);
    return { jobs, file };
  };

  const needsOf = async (rows: readonly JobRow[], signal: AbortSignal, all = false) => {
    const { jobs, file } = await together(rows, "json", signal, all);
    return { jobs, ...(JSON.parse(Buffer.from(file.bytes).toString("utf8")) as TogetherNeeds) };
  };

  app.get(
    "/api/stock",
    { schema: { answer: "StockNow", summary: "The stock service: whether it is there, and how old its levels are" } },
    (): Promise<StockNow> => room.state(),
  );

  app.post(
    "/api/stock/tell",
    { schema: { answer: "StockNow", summary: "Tell the stock service what it does not know yet, now" } },
    async (): Promise<StockNow> => {
      await room.tell();
      return room.state();
    },
  );

  app.get(
    "/api/needs",
    {
      schema: {
        summary: "What jobs need together, by date, against stock and deliveries, less what is picked",
        querystring: needsQuery,
      },
    },
    async (req, reply): Promise<AllNeedsReply | typeof reply> => {
      const { jobs: named, as } = req.query;
      const rows: JobRow[] = [];
      if (named === undefined) rows.push(...(await listJobs(store.db, 0, MOST_NEEDING)));
      else for (const job of new Set(named.split(","))) rows.push(await readJob({ job }));
      if (as === "json") {
        const { jobs, needs } = await needsOf(rows, goneOf(reply), named === undefined);
        const left = named === undefined ? (await countJobs(store.db)) - jobs.length : 0;
        return { stock: await room.state(), jobs, needs, left: Math.max(0, left) };
      }
      const { file } = await together(rows, as, goneOf(reply), named === undefined);
      return reply
        .header("content-disposition", `attachment; filename="${file.name}"`)
        .header("cache-control", "no-cache")
        .type(file.type)
        .send(Buffer.from(file.bytes));
    },
  );

  app.get(
    "/api/jobs/:job/needs",
    {
      schema: {
        answer: "JobNeedsReply",
        summary: "What a job still needs, against the store; which steps can start",
        params: jobParams,
      },
    },
    async (req, reply): Promise<JobNeedsReply> => {
      const row = await readJob(req.params);
      const { jobs, needs, starts } = await needsOf([row], goneOf(reply));
      return {
        stock: await room.state(),
        job: jobs[0]!,
        needs,
        starts: starts[row.job] ?? [],
        reservation: await room.reservation(row.job),
      };
    },
  );

  for (const [name, as] of Object.entries(LIVE_FILES))
    app.get(
      `/api/jobs/:job/files/${name}`,
      { schema: { summary: `${name}, against the store as it is now`, params: jobParams } },
      async (req, reply) => {
        const row = await readJob(req.params);
        const { file } = await together([row], as, goneOf(reply));
        return reply
          .header("content-disposition", `attachment; filename="${fileStem(row)}-${name}"`)
          .header("cache-control", "no-cache")
          .type(file.type)
          .send(Buffer.from(file.bytes));
      },
    );

  app.post(
    "/api/jobs/:job/reservation",
    {
      schema: {
        answer: "ReservationNow",
        body: reserveRequest,
        summary: "Reserve in the store what the job still needs",
        params: jobParams,
      },
    },
    async (req, reply): Promise<ReservationNow> => {
      const { who, partly } = readBody<{ who: string; partly: boolean }>(req.body, reserveRequest);
      const row = await readJob(req.params);
      const { needs } = await needsOf([row], goneOf(reply));
      const lines = needs.flatMap((n) => {
        const quantity = n.there === null ? 0 : even(partly ? Math.min(n.needed, n.there) : n.needed);
        return quantity > 0 ? [{ part: n.part, quantity }] : [];
      });
      if (lines.length === 0) throw nothingToReserve(row.job);
      return room.reserve(row.job, who, lines);
    },
  );

  app.delete(
    "/api/jobs/:job/reservation",
    { schema: { summary: "Give back what is reserved", params: jobParams } },
    async (req) => {
      const { job } = await readJob(req.params);
      await room.release(job);
      return { reservation: await room.reservation(job) };
    },
  );

  app.get(
    "/api/jobs/:job/picks",
    {
      schema: {
        answer: "PickReply",
        summary: "What was picked, after a number",
        params: jobParams,
        querystring: picksQuery,
      },
    },
    async (req): Promise<PickReply> => {
      const { since } = req.query;
      const { job } = await readJob(req.params);
      return { ...(await readSaid(store.db, job, PICK, { since })), pickers: pickers(job) };
    },
  );

  app.post(
    "/api/jobs/:job/picks",
    {
      schema: {
        answer: "PickReply",
        body: pickRequest,
        summary: "Say what was picked, and what is being fetched; an event sent twice counts once",
        params: jobParams,
      },
    },
    async (req): Promise<PickReply> => {
      const { since, events, here } = readBody<PickRequest>(req.body, pickRequest);
      const { job } = await readJob(req.params);
      await said.say(job, PICK, events);
      if (here) {
        const { kit, line, ...who } = here;
        atWork.tell(job, PICK.kind, { ...who, thing: kit, part: line });
      }
      return { ...(await readSaid(store.db, job, PICK, { since })), pickers: pickers(job, here?.device) };
    },
  );

  app.get(
    "/api/jobs/:job/bill",
    {
      schema: {
        answer: "BillOf",
        summary: "Bill and kits of a revision of the job, as it stood last, with the shop of now",
        params: jobParams,
        querystring: revisionQuery,
      },
    },
    async (req): Promise<BillOf> => {
      const { revision } = req.query;
      const row = await readJob(req.params);
      const found = await lastOfRevision(store.db, row, revision);
      if (!found) throw noSuchRevision(row.job, revision);
      const result = await runner.result(targetFor(row.job, found.hash, row.shop), "kits");
      const { bill, kits } = JSON.parse(gunzipSync(result.gzip).toString("utf8")) as KitsResult;
      return { revision, edits: found.edits, bill, kits };
    },
  );
}
