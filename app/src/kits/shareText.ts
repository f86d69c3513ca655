import type { JobShare, Need } from "@gray-bench/core/kits/needs";
import { formatDate } from "../kit/format";
import type { Amounts } from "./useAmounts";

/** What a job gets of a part, and when, in words. */
export function shareText(
  { fromStock, fromDeliveries, late, lateUntil, missing }: JobShare,
  unit: Need["unit"],
  { amount }: Amounts,
): string {
  const q = (n: number): string => amount(n, unit);
  return [
    `${q(fromStock)} there`,
    ...(fromDeliveries > 0 ? [`${q(fromDeliveries)} come in time`] : []),
    ...(late > 0 ? [`${q(late)} come late, by ${formatDate(lateUntil!)}`] : []),
    ...(missing > 0 ? [`${q(missing)} missing`] : []),
  ].join(", ");
}
