import type { AuditEntry } from "@gray-bench/contract/record";
import type { IncomingMessage, ServerResponse } from "node:http";
import type { ValueOf } from "@gray-bench/core/form/form";
import type { FastifyBaseLogger, FastifyInstance, FastifyTypeProvider, RawServerDefault } from "fastify";
import type { Said } from "./events/said";
import type { Turns } from "./plugins/turns";
import type { Runner } from "./results/runner";
import type { Target } from "./results/target";
import type { Store } from "./store/database";
import type { JobRow } from "./store/jobs";
import type { Workers } from "./workers/pool";

/** Parameters and queries are of the type that the form at their address says. Bodies come in as bytes: `readBody` reads them. */
export interface FormTypes extends FastifyTypeProvider {
  validator: ValueOf<this["schema"]>;
}

export type Server = FastifyInstance<RawServerDefault, IncomingMessage, ServerResponse, FastifyBaseLogger, FormTypes>;

export type Noted = Pick<AuditEntry, "what" | "job" | "who" | "detail">;

/** Where a request came from, and who gave a name with it. */
export interface Asked {
  ip: string;
  query: { who?: string };
}

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
  readJob(params: { job: string }): Promise<JobRow>;
  /** Writes down what was done to the whole: it stays when a job goes. */
  note(req: Pick<Asked, "ip">, entry: Noted): Promise<void>;
}
