import type { FastifyInstance } from "fastify";
import type { Runner } from "./results/runner";
import type { Store } from "./store/database";
import type { JobRow } from "./store/jobs";
import type { Workers } from "./workers/pool";

export type Server = FastifyInstance;

/** What the route folders share. */
export interface Bench {
  store: Store;
  workers: Workers;
  runner: Runner;
  now: () => Date;
  /** The job named in the path; throws job.unknown. */
  readJob(params: unknown): Promise<JobRow>;
}
