import { createHash } from "node:crypto";
import { STAGES } from "@gray-bench/core/stages";
import type { JobRow } from "../store/jobs";

/** What is computed: a design with a shop, for a job. */
export interface Target {
  job: string;
  /** Hash of the design with its edits. */
  design: string;
  /** Hash of the shop. */
  shop: string;
  /** Of everything that is joined from the results of the stages: open points, figures, files. */
  key: string;
}

/** Raised whenever the joined things are made in another way from the same results. */
const JOINED = 1;
const VERSIONS = [JOINED, ...STAGES.map((s) => `${s.name} ${s.version}`)].join(", ");

export const targetFor = (job: string, design: string, shop: string): Target => ({
  job,
  design,
  shop,
  key: createHash("sha256").update(`${design} ${shop} ${VERSIONS}`).digest("hex"),
});

export const targetOf = ({ job, hash, shop }: Pick<JobRow, "job" | "hash" | "shop">): Target =>
  targetFor(job, hash, shop);
