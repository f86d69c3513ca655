import { jobParams } from "@gray-bench/contract/common";
import {
  eventQuery,
  eventRequest,
  tickRequest,
  type EventQuery,
  type EventReply,
  type EventRequest,
  type OldTicks,
} from "@gray-bench/contract/events";
import { EVENT_KINDS } from "@gray-bench/core/event-kinds";
import type { Happened } from "@gray-bench/core/frame/events";
import type { EventKind } from "@gray-bench/core/frame/event-kind";
import { TICK } from "@gray-bench/core/frame/tick-kind";
import type { TickEvent } from "@gray-bench/core/frame/ticks";
import { SHEET } from "@gray-bench/core/metalwork/event-kind";
import { eventsOfTicks } from "@gray-bench/core/metalwork/events";
import { readBody } from "../plugins/joi";
import type { Bench, Server } from "../server";
import { readSaid } from "../store/events";
import type { AtWork } from "./here";
import type { Live } from "./live";
import { byOurClock } from "./said";

/** The list under which sheets were ticked, when they were ticks. */
const SHEETS = "sheets";

/** What happened, of every kind: said by whoever it happened to, heard by all others. */
export function eventRoutes(app: Server, { store, readJob, now, said }: Bench, atWork: AtWork, live: Live): void {
  const kindOf = (name: string): EventKind<Happened> =>
    EVENT_KINDS.find((k) => k.kind === name) as unknown as EventKind<Happened>;

  const heard = async (job: string, asked: EventQuery, device?: string): Promise<EventReply> => ({
    ...(await readSaid(store.db, job, kindOf(asked.kind), asked)),
    here: atWork.others(job, asked.kind, device),
  });

  app.get(
    "/api/jobs/:job/events",
    {
      schema: {
        answer: "AnyEventReply",
        summary: "What happened to a thing, after a number",
        params: jobParams,
        querystring: eventQuery,
      },
    },
    async (req): Promise<EventReply> => {
      const { job } = await readJob(req.params);
      return heard(job, req.query);
    },
  );

  app.post(
    "/api/jobs/:job/events",
    {
      schema: {
        answer: "AnyEventReply",
        body: eventRequest,
        summary: "Say what happened, and who is at work with what; an event sent twice counts once",
        params: jobParams,
      },
    },
    async (req): Promise<EventReply> => {
      const asked = readBody<EventRequest>(req.body, eventRequest);
      const { job } = await readJob(req.params);
      await said.say(job, kindOf(asked.kind), byOurClock(asked.events, asked.clock, now()), asked.thing);
      if (asked.here && atWork.tell(job, asked.kind, asked.here)) said.told(job, kindOf(asked.kind), asked.thing);
      return heard(job, asked, asked.here?.device);
    },
  );

  app.get(
    "/api/jobs/:job/live",
    { schema: { summary: "That something happened to a job, at once, as server-sent events", params: jobParams } },
    async (req, reply) => {
      const { job } = await readJob(req.params);
      if (req.method === "HEAD") return reply.type("text/event-stream; charset=utf-8").send();
      live.open(job, reply.raw);
      reply.hijack();
      live.begin(reply.raw);
    },
  );

  app.post(
    "/api/jobs/:job/ticks",
    {
      schema: {
        body: tickRequest,
        summary: "Ticks in the form of before, from devices that kept some",
        params: jobParams,
      },
    },
    async (req): Promise<{ kept: number }> => {
      const { list, who, ticks } = readBody<OldTicks>(req.body, tickRequest);
      const { job } = await readJob(req.params);
      const clock = now();
      const ticked = ticks.map(({ id, item, done, agoMs = 0 }) => ({
        ...{ id, item, done, who },
        at: new Date(clock.getTime() - agoMs).toISOString(),
      }));
      if (list === SHEETS) {
        const { events } = await readSaid(store.db, job, SHEET);
        await said.say(job, SHEET, eventsOfTicks(ticked, events));
      } else {
        const events = ticked.map(({ done, ...e }): TickEvent => ({ ...e, list, what: done ? "ticked" : "unticked" }));
        await said.say(job, TICK, events, list);
      }
      return { kept: ticks.length };
    },
  );
}
