import type { JobDetail } from "@gray-bench/contract/jobs";
import type { PrepRules } from "@gray-bench/core/wireprep/rules";
import type { WireprepResult } from "@gray-bench/core/wireprep/result";
import { jobHref } from "../kit/links";

/** What is chosen in the view, as it stands in its address. */
export interface WireprepChoice {
  show?: string;
  /** The batch that is looked at: `B1`. */
  batch?: string;
  /** The lead at hand: a wire. */
  lead?: string;
  /** Which leads the card goes through. */
  of?: string;
  /** A number whose working is shown. */
  working?: string;
  /** A reel, counted from one. */
  reel?: string;
}

export interface Props {
  job: JobDetail;
  result: WireprepResult;
  rules: PrepRules;
  choice: WireprepChoice;
}

export const batchHref = (job: string, batch: string, more: Record<string, string> = {}) =>
  jobHref(job, "wireprep", { batch, ...more });
