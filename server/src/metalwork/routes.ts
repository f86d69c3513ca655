import {
  cutsQuery,
  jobParams,
  machineJobParams,
  programRequest,
  whoQuery,
  type MachineList,
  type ProgramReply,
  type ProgramRequest,
} from "@gray-bench/contract/api";
import type { WantedFace } from "@gray-bench/core/metalwork/result";
import { metalwork } from "@gray-bench/core/metalwork/stage";
import { noSuchMachine, noSuchProgram } from "../errors";
import { goneOf } from "../plugins/gone";
import { readBody, whoOf } from "../plugins/joi";
import { targetOf } from "../results/target";
import type { Bench, Server } from "../server";
import type { Machines } from "./machines";

/** Machines for sheets: their state, and programs that go to them. */
export function metalworkRoutes(app: Server, { runner, readJob, note }: Bench, machines: Machines): void {
  const find = (params: unknown) => {
    const { machine } = params as { machine: string };
    const found = machines.find(machine);
    if (!found) throw noSuchMachine(machine);
    return found;
  };

  app.get(
    "/api/machines",
    { schema: { summary: "The machines for sheets: what they do, and when they were last heard of" } },
    async (): Promise<MachineList> => ({ machines: await machines.all() }),
  );

  app.post(
    "/api/jobs/:job/programs",
    { schema: { summary: "Send a program of the job, to a machine", params: jobParams, querystring: whoQuery } },
    async (req, reply): Promise<ProgramReply> => {
      const { machine, face, setUp } = readBody<ProgramRequest>(req.body, programRequest);
      const to = find({ machine });
      const job = await readJob(req.params);
      const wanted: WantedFace = { face, setUp, as: "nc", full: false };
      const program = await runner.drawing(targetOf(job), metalwork, wanted, goneOf(reply));
      if (!program) throw noSuchProgram(face, setUp);
      const id = await machines.send(to, Buffer.from(program.bytes));
      await note(req, {
        what: "program",
        job: job.job,
        who: whoOf(req),
        detail: `${face}, set-up ${setUp}, to ${machine}`,
      });
      return { machine, id };
    },
  );

  app.get(
    "/api/cuts",
    { schema: { summary: "Bars of several jobs, or of equal panels, cut together", querystring: cutsQuery } },
    async (req, reply) => {
      const { jobs, as } = req.query as { jobs: string; as: "json" | "csv" | "pdf" | "labels" };
      const groups = [];
      for (const one of jobs.split(",")) {
        const [job, panels = "1"] = one.split(":") as [string, string?];
        groups.push({ target: targetOf(await readJob({ job })), job, panels: Number(panels) });
      }
      const file = await runner.cuts(groups, as, goneOf(reply));
      if (as !== "json") reply.header("content-disposition", `attachment; filename="${file.name}"`);
      return reply.header("cache-control", "no-cache").type(file.type).send(Buffer.from(file.bytes));
    },
  );

  app.delete(
    "/api/machines/:machine/jobs/:id",
    {
      schema: {
        summary: "Stop a program, or take it out of the queue",
        params: machineJobParams,
        querystring: whoQuery,
      },
    },
    async (req) => {
      const { machine, id } = req.params as { machine: string; id: string };
      const stopped = await machines.stop(find(req.params), Number(id));
      await note(req, { what: "stop", job: null, who: whoOf(req), detail: `program ${id} at ${machine}` });
      return { stopped };
    },
  );
}
