import { jobParams, whoQuery } from "@gray-bench/contract/common";
import {
  cutsQuery,
  machineJobParams,
  programRequest,
  type MachineList,
  type MachineNow,
  type ProgramReply,
  type ProgramRequest,
} from "@gray-bench/contract/metalwork";
import { SHEET } from "@gray-bench/core/metalwork/event-kind";
import type { SheetEvent } from "@gray-bench/core/metalwork/events";
import { CUTS } from "@gray-bench/core/metalwork/questions";
import type { WantedFace } from "@gray-bench/core/metalwork/result";
import { metalwork } from "@gray-bench/core/metalwork/stage";
import { randomBytes } from "node:crypto";
import { BenchError, machineAway } from "../errors";
import { machineRefused, noSuchProgram } from "./errors";
import { NotReached, type MachineAddress } from "../machines/line";
import type { Given, Machines } from "../machines/machines";
import { goneOf } from "../plugins/gone";
import { readBody, whoOf } from "../plugins/joi";
import { targetOf, type Target } from "../results/target";
import type { Bench, Server } from "../server";
import { readSaid } from "../store/events";

/** Of whoever gave no name. */
const NOBODY = "no name given";

/** Machines for sheets: their state, and programs that go to them. */
export function metalworkRoutes(app: Server, bench: Bench, machines: Machines<MachineNow>): void {
  const { store, runner, readJob, note, now, said } = bench;

  /** The number of a program at a machine; null where it does not know it, or does not answer. */
  const numberOf = async (at: MachineAddress, name: string): Promise<number | null> =>
    (await machines.fresh(at)).jobs.find((j) => j.name === name)?.id ?? null;

  /**
   * Sends a program under its name; the machine says whether it takes it.
   * @returns its number there; null where the machine was reached and left before it said one: it may have it all the same
   * @throws machine.refused; NotReached
   */
  const send = async (at: MachineAddress, name: string, program: Uint8Array): Promise<number | null> => {
    let given: Given;
    try {
      given = await machines.give(at, name, program);
    } catch (error) {
      if (error instanceof NotReached || !(error instanceof BenchError)) throw error;
      return numberOf(at, name);
    }
    if ("taken" in given) return given.taken;
    throw machineRefused(at.name, given.refused);
  };

  const say = (job: string, events: readonly SheetEvent[]): Promise<void> => said.say(job, SHEET, events);

  /** What came of a program that was asked for under an id, unless it goes by this name; undefined where nobody asked. */
  const sentAs = async (job: string, id: string, name?: string) => {
    const { events } = await readSaid(store.db, job, SHEET);
    const program = events.find((e) => e.id === id)?.program;
    if (program === undefined || program === name) return undefined;
    return async (to: MachineAddress): Promise<ProgramReply> => {
      if (events.some((e) => e.of === id)) throw machineRefused(to.name, "it was not taken before; send it anew");
      return { machine: to.name, program, id: await numberOf(to, program) };
    };
  };

  app.get(
    "/api/machines",
    {
      schema: {
        answer: "MachineList",
        summary: "The machines for sheets: what they do, and when they were last heard of",
      },
    },
    async (): Promise<MachineList> => ({ machines: await machines.states() }),
  );

  app.post(
    "/api/jobs/:job/programs",
    {
      schema: {
        answer: "ProgramReply",
        body: programRequest,
        summary: "Send a program of the job, to a machine",
        params: jobParams,
        querystring: whoQuery,
      },
    },
    async (req, reply): Promise<ProgramReply> => {
      const { id: event, machine, face, setUp, sheet } = readBody<ProgramRequest>(req.body, programRequest);
      const to = machines.find(machine);
      const job = await readJob(req.params);
      const known = await sentAs(job.job, event);
      if (known) return known(to);
      const wanted: WantedFace = { face, setUp, as: "nc", full: false };
      const program = await runner.drawing(targetOf(job), metalwork, wanted, goneOf(reply));
      if (!program) throw noSuchProgram(face, setUp);
      // A name that never comes again, also where a job is imported anew or a copy is restored; kept before anything is sent.
      const name = `${job.job}-${randomBytes(5).toString("hex")}.nc`;
      const who = whoOf(req) ?? NOBODY;
      const at = now().toISOString();
      const sent: SheetEvent = { id: event, face, sheet, what: "sent", setUp, machine, program: name, who, at };
      await say(job.job, [sent]);
      // The same asked twice at one moment: the one that was written down goes.
      const first = await sentAs(job.job, event, name);
      if (first) return first(to);
      let id: number | null;
      try {
        id = await send(to, name, Buffer.from(program.bytes));
      } catch (error) {
        // It has nothing of it: refused, or never reached.
        await say(job.job, [{ id: `no ${event}`, face, sheet, what: "undone", of: event, who: machine, at }]);
        throw error;
      }
      await note(req, {
        what: "program",
        job: job.job,
        who: whoOf(req),
        detail: `${face}, set-up ${setUp}, to ${machine}`,
      });
      return { machine, program: name, id };
    },
  );

  app.get(
    "/api/cuts",
    { schema: { summary: "Bars of several jobs, or of equal panels, cut together", querystring: cutsQuery } },
    async (req, reply) => {
      const { jobs, as } = req.query;
      const [groups, targets]: [{ job: string; panels: number }[], Target[]] = [[], []];
      for (const one of jobs.split(",")) {
        const [job, panels = "1"] = one.split(":") as [string, string?];
        targets.push(targetOf(await readJob({ job })));
        groups.push({ job, panels: Number(panels) });
      }
      const file = await runner.ask(CUTS, targets, { groups, as }, goneOf(reply));
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
      const { machine, id } = req.params;
      const { ok: stopped } = await machines.tell(machines.find(machine), `/jobs/${id}/stop`).catch(() => {
        throw machineAway(machine);
      });
      await note(req, { what: "stop", job: null, who: whoOf(req), detail: `program ${id} at ${machine}` });
      return { stopped };
    },
  );
}
