import { jobParams, tickRequest, ticksQuery, type TickList, type TickRequest } from "@gray-bench/contract/api";
import { tooManyTicks } from "../errors";
import { readBody } from "../plugins/joi";
import type { Bench, Server } from "../server";
import { appendTicks, countTicks, readTicks } from "../store/ticks";

/** A list is ticked and ticked off a few times; what goes beyond this is no person. */
const MOST_TICKS = 200_000;

/** What is ticked on the floor: lists by name, kept with the job, whatever becomes of its design. */
export function floorRoutes(app: Server, { store, readJob, now }: Bench): void {
  app.get(
    "/api/jobs/:job/ticks",
    { schema: { summary: "What is ticked of a list", params: jobParams, querystring: ticksQuery } },
    async (req): Promise<TickList> => {
      const { job } = await readJob(req.params);
      const { list } = req.query as { list: string };
      return { list, ticks: await readTicks(store.db, job, list) };
    },
  );

  app.post(
    "/api/jobs/:job/ticks",
    { schema: { summary: "Tick items of a list, or tick them off; one sent twice counts once", params: jobParams } },
    async (req): Promise<TickList> => {
      const asked = readBody<TickRequest>(req.body, tickRequest);
      const { job } = await readJob(req.params);
      if ((await countTicks(store.db, job)) + asked.ticks.length > MOST_TICKS) throw tooManyTicks(job);
      await appendTicks(store.db, job, asked, now());
      return { list: asked.list, ticks: await readTicks(store.db, job, asked.list) };
    },
  );
}
