import type { Design } from "@gray-bench/core/design/model";
import type { KitRules } from "@gray-bench/core/kits/rules";
import type { KitsResult } from "@gray-bench/core/kits/result";
import type { JobDetail } from "@gray-bench/contract/jobs";
import { jobHref } from "../kit/links";

/** What is chosen in the view, as it stands in its address. */
export interface KitsChoice {
  show?: string;
  /** The kit that is looked at. */
  kit?: string;
  /** Kits that are picked in one walk: their codes, a line each. */
  take?: string;
  /** Of a kit, or of the bill. */
  line?: string;
  /** Of the bill, `enclosure`, `step`, `place` or `maker`. */
  group?: string;
  working?: string;
  revision?: string;
  part?: string;
}

export interface Props {
  job: JobDetail;
  result: KitsResult;
  design: Design;
  rules: KitRules;
  choice: KitsChoice;
}

/** No name has it in it. */
const BAR = "\n";
export const takenOf = ({ take }: Pick<KitsChoice, "take">): string[] => (take ? take.split(BAR) : []);
export const takeText = (codes: readonly string[]): string | undefined => codes.join(BAR) || undefined;

/** Where kits are picked, one line at a time. */
export const pickHref = (job: string, codes: readonly string[]) =>
  jobHref(job, "kits", { show: "pick", take: takeText(codes)! });
