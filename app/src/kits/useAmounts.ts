import type { KitLine, Unit } from "@gray-bench/core/kits/result";
import { issueText, quantityText } from "@gray-bench/core/kits/say";
import { useMemo } from "react";
import { formatCount, formatLength } from "../kit/format";
import { useSettings } from "../kit/settings";

const FEET_A_METRE = 1 / 0.3048;

/** Quantities, ways and pieces as whoever reads wants them: metres or feet. */
export function useAmounts() {
  const { length } = useSettings();
  return useMemo(() => {
    const feet = length === "in";
    const amount = (quantity: number, unit: Unit): string =>
      // Never less than it is: who cuts by it would be short.
      feet && unit === "m" ? `${Math.ceil(quantity * FEET_A_METRE * 10 - 1e-6) / 10} ft` : quantityText(quantity, unit);
    return {
      amount,
      walk: (metres: number): string =>
        feet ? `${formatCount(Math.round(metres * FEET_A_METRE))} ft` : `${formatCount(Math.round(metres))} m`,
      issue: (line: Pick<KitLine, "pack" | "pieces" | "unit" | "reel">): string =>
        line.pieces && line.pieces.length > 0
          ? `cut: ${line.pieces.map((p) => `${p.of} ${formatLength(p.mm, { length })}`).join(", ")}`
          : issueText(line),
    };
  }, [length]);
}

export type Amounts = ReturnType<typeof useAmounts>;
