import type { MetalworkRules } from "@gray-bench/core/metalwork/rules";
import type { Design } from "@gray-bench/core/design/model";
import type { MetalworkResult } from "@gray-bench/core/metalwork/result";
import type { PanelResult } from "@gray-bench/core/panel/result";

/** What is chosen in the view, as it stands in its address. */
export interface MetalworkChoice {
  face?: string;
  show?: string;
  hole?: string;
  at?: string;
  working?: string;
  page?: string;
  list?: string;
  /** Bars: other jobs that are cut with this one, `A:2,B`; and how many panels of this one. */
  with?: string;
  panels?: string;
  enclosure?: string;
  /** What an open point is about. */
  device?: string;
  rail?: string;
  duct?: string;
  cable?: string;
}

export interface Props {
  job: string;
  result: MetalworkResult;
  panel: PanelResult;
  design: Design;
  rules: MetalworkRules;
  choice: MetalworkChoice;
}
