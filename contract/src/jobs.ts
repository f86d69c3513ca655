import { filled, flag, form, maybe, objectOf, type ValueOf } from "@gray-bench/core/form/form";
import type { ThingChanges } from "@gray-bench/core/design/changes";
import type { RuleOverrides } from "@gray-bench/core/shop/rules";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { Figure } from "@gray-bench/core/frame/stage";
import type { StageName } from "@gray-bench/core/stage-names";
import Joi from "joi";
import { type RunState, code, doer } from "./common";

/** `not computed`: the stage is there, its figures are not yet. `not started`: there is no such stage yet. */
export type StageState = "ready" | "open" | "stale" | "not computed" | "not started";

export interface StageSummary {
  stage: StageName;
  state: StageState;
  open: PointCount;
}

/** One of the numbers a job is known by, with the stage that states it. */
export type JobFigure = Figure & {
  stage: StageName;
};

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
  /** Of the last computation; null before the first. */
  figures: JobFigure[] | null;
  /** Of the computation of this design with this shop, ended or not. */
  key: string;
  /** Key of each stage's result: equal keys, equal results. Null until the design that counts is computed. */
  keys: Record<string, string> | null;
  /** Hash of the shop the job is computed with. */
  shopHash: string;
  /** Whether the shop has changed since; the job keeps its own until somebody takes over the newer one. */
  shopNewer: boolean;
  /** The library that completes it; empty: none. */
  libraryHash: string;
  /** The library has another version that counts for jobs to come. */
  libraryNewer: boolean;
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
  files: { name: string; text: string; stage: StageName | null }[];
}

/** What a design file would do, before it is taken. */
export interface ImportOutlook {
  code: string;
  title: string;
  revision: string;
  /** The revision it would replace; null for a new job. */
  replaces: string | null;
  /** The very same design is there already. */
  already: boolean;
  /** Another design has this revision: it would be refused. */
  taken: boolean;
  things: ThingChanges[];
  /** Edits of the job that would not fit any more. */
  unfitting: { sentence: string; reason: string }[];
}

export interface ImportReply {
  /** True when the very same design was there before; nothing was changed. */
  already: boolean;
  job: JobSummary;
}

/** A page of the jobs, the one due first at the top. */
export interface JobList {
  jobs: JobSummary[];
  /** How many there are in all that fit. */
  total: number;
}

export const revisionParams = objectOf({
  job: code,
  revision: form(Joi.string().max(120).description("revision of a design that was imported")),
});

export const deleteQuery = objectOf({
  who: maybe(doer),
  anyway: filled(flag.description("true: though files of it are at machines"), false),
});

export const MOST_JOBS = 200;

export const jobsQuery = objectOf({
  q: maybe(
    form(Joi.string().trim().max(120).allow("").description("text in code, title or customer; * and ? as in search")),
  ),
  /** Only jobs that are computed with an older shop. */
  older: filled(flag.description("only jobs computed with an older shop"), false),
  from: filled(form(Joi.number().integer().min(0).max(1_000_000).description("jobs to pass over")), 0),
  most: filled(form(Joi.number().integer().min(1).max(MOST_JOBS)), 50),
});
export interface JobsQuery extends ValueOf<typeof jobsQuery> {}
