import {
  eventQuery,
  eventRequest,
  jobParams,
  tickRequest,
  type EventQuery,
  type EventReply,
  type EventRequest,
  type OldTicks,
} from "@gray-bench/contract/api";
import { eventsOfTicks } from "@gray-bench/core/metalwork/events";
import type { TickEvent } from "@gray-bench/core/frame/ticks";
import { tooManyEvents } from "../errors";
import { readBody } from "../plugins/joi";
import type { Bench, Server } from "../server";
import { countEvents } from "../store/events";
import { appendSheets, readSheets } from "../store/sheets";
import { appendTicks, readTicks } from "../store/ticks";

/** A log longer than this is no person's. */
const MOST_EVENTS = 200_000;
/** The list under which sheets were ticked, when they were ticks. */
const SHEETS = "sheets";

/** What happened, of every kind that has no address of its own: said by whoever it happened to, heard by all others. */
export function eventRoutes(app: Server, { store, readJob, now }: Bench): void {
  const read = (job: string, { kind, thing, since }: EventQuery): Promise<EventReply> =>
    kind === "sheet" ? readSheets(store.db, job, since) : readTicks(store.db, job, thing ?? "", since);

  const room = async (job: string, kind: EventQuery["kind"], more: number): Promise<void> => {
    if ((await countEvents(store.db, job, kind)) + more > MOST_EVENTS) throw tooManyEvents(job);
  };

  app.get(
    "/api/jobs/:job/events",
    {
      schema: { summary: "What happened to a thing, after a number", params: jobParams, querystring: eventQuery },
    },
    async (req): Promise<EventReply> => {
      const { job } = await readJob(req.params);
      return read(job, req.query as EventQuery);
    },
  );

  app.post(
    "/api/jobs/:job/events",
    { schema: { summary: "Say what happened; an event sent twice counts once", params: jobParams } },
    async (req): Promise<EventReply> => {
      const asked = readBody<EventRequest>(req.body, eventRequest);
      const { job } = await readJob(req.params);
      if (asked.events.length > 0) {
        await room(job, asked.kind, asked.events.length);
        const clock = now();
        // By the clock of the server, however far that of the device is off.
        const off = asked.clock === undefined ? 0 : clock.getTime() - Date.parse(asked.clock);
        const timed = <E extends { at: string }>(events: readonly E[]): E[] =>
          events.map((e) => {
            const at = Date.parse(e.at) + off;
            return { ...e, at: new Date(Math.max(0, Math.min(at, clock.getTime()))).toISOString() };
          });
        if (asked.kind === "sheet") await appendSheets(store.db, job, timed(asked.events), clock);
        else await appendTicks(store.db, job, timed(asked.events), clock);
      }
      return read(job, asked);
    },
  );

  app.post(
    "/api/jobs/:job/ticks",
    { schema: { summary: "Ticks in the form of before, from devices that kept some", params: jobParams } },
    async (req): Promise<{ kept: number }> => {
      const { list, who, ticks } = readBody<OldTicks>(req.body, tickRequest);
      const { job } = await readJob(req.params);
      const clock = now();
      const said = ticks.map(({ id, item, done, agoMs = 0 }) => ({
        ...{ id, item, done, who },
        at: new Date(clock.getTime() - agoMs).toISOString(),
      }));
      if (list === SHEETS) {
        await room(job, "sheet", ticks.length);
        const { events } = await readSheets(store.db, job);
        await appendSheets(store.db, job, eventsOfTicks(said, events), clock);
      } else {
        await room(job, "tick", ticks.length);
        const events = said.map(({ done, ...e }): TickEvent => ({ ...e, list, what: done ? "ticked" : "unticked" }));
        await appendTicks(store.db, job, events, clock);
      }
      return { kept: ticks.length };
    },
  );
}
