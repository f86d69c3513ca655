import type { AuditEntry } from "@gray-bench/contract/record";
import type { FastifyInstance, FastifyRequest } from "fastify";
import type { Said } from "./events/said";
import type { Turns } from "./plugins/turns";
import type { Runner } from "./results/runner";
import type { Target } from "./results/target";
import type { Store } from "./store/database";
import type { JobRow } from "./store/jobs";
import type { Workers } from "./workers/pool";

export type Server = FastifyInstance;

export type Noted = Pick<AuditEntry, "what" | "job" | "who" | "detail">;

/** What the route folders share. */
export interface Bench {
  store: Store;
  workers: Workers;
  runner: Runner;
  now: () => Date;
  /** What changes one job, or the library, one after another. */
  turns: Turns;
  /** Where all that happens is said. */
  said: Said;
  /** Tells all who look at a job that it is another one now. */
  changed(target: Target): void;
  /** The job named in the path; throws job.unknown. */
  readJob(params: unknown): Promise<JobRow>;
  /** Writes down what was done to the whole: it stays when a job goes. */
  note(req: FastifyRequest, entry: Noted): Promise<void>;
}
