import Joi from "joi";
import type { Fault } from "@gray-bench/core/design/faults";
import type { RuleOverrides } from "@gray-bench/core/design/model";
import type { Entry } from "@gray-bench/core/design/find";
import type { PointCount } from "@gray-bench/core/design/open-points";
import { STAGE_NAMES, type StageName } from "@gray-bench/core/stage-names";

/** What app and server say to each other. */

/** The one shape of every error. */
export interface ErrorBody {
  /** Stable, e.g. `design.refused` */
  code: string;
  message: string;
  /** Place: a path in the file, a parameter, a job. */
  where: string;
  /** What to do now. */
  remedy: string;
  /** Of a refused file, at most 500. */
  faults?: Fault[];
  /** How many faults there were in all. */
  faultCount?: number;
}

export type StageState = "ready" | "open" | "stale" | "not started";

export interface StageSummary {
  stage: StageName;
  state: StageState;
  open: PointCount;
}

export type RunState = "waiting" | "running" | "done" | "failed" | "cancelled";

export interface JobFigures {
  devices: number;
  wires: number;
  /** Wires that have a length. */
  routed: number;
  cables: number;
  totalMm: number;
  longest: { wire: string; mm: number } | null;
  worstPiece: { piece: string; percent: number } | null;
  /** Wires with a mark of a fallback. */
  fallbacks: number;
}

export interface JobSummary {
  code: string;
  title: string;
  customer: string | null;
  due: string | null;
  revision: string;
  importedAt: string;
  designHash: string;
  run: RunState;
  stages: StageSummary[];
  open: PointCount;
  figures: JobFigures | null;
}

/** The small part of a design that every view of a job wants. */
export interface DesignHead {
  enclosures: { tag: string; text: string; w: number; h: number; d: number }[];
  /** Side of the door hinge by enclosure. */
  hinges: Record<string, "left" | "right">;
  /** The job's own rules, on top of the shop's. */
  rules: RuleOverrides;
  options: { key: string; text: string; chosen: string; choices: string[] }[];
}

export interface JobDetail extends JobSummary, DesignHead {
  revisions: { revision: string; designHash: string; importedAt: string }[];
  files: string[];
}

export interface ImportReply {
  /** True when the very same design was there before; nothing was changed. */
  already: boolean;
  job: JobSummary;
}

/** Sent as server-sent events while a job is computed. */
export interface ProgressEvent {
  run: RunState;
  stage: StageName | null;
  /** 0 to 1, of this stage. */
  share: number;
  message?: string;
}

export interface SearchHit extends Entry {
  job: string;
}

const code = Joi.string()
  .max(120)
  .pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/)
  .required()
  .description("job code");

export const jobParams = Joi.object<{ job: string }>({ job: code });

export const stageParams = Joi.object<{ job: string; stage: StageName }>({
  job: code,
  stage: Joi.string()
    .valid(...STAGE_NAMES)
    .required(),
});

export const fileParams = Joi.object<{ job: string; name: string }>({
  job: code,
  name: Joi.string().max(120).required(),
});

export const searchQuery = Joi.object<{ q: string; job?: string; most: number }>({
  q: Joi.string().trim().min(1).max(120).required().description("text, with * for any text and ? for one character"),
  job: Joi.string().max(120),
  most: Joi.number().integer().min(1).max(100).default(30),
});

export const errorBody = Joi.object({
  code: Joi.string().required(),
  message: Joi.string().required(),
  where: Joi.string().allow("").required(),
  remedy: Joi.string().required(),
  faults: Joi.array().items(Joi.object({ path: Joi.string(), found: Joi.string(), expected: Joi.string() })),
  faultCount: Joi.number().integer(),
});
