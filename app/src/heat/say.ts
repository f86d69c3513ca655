import { verdict } from "@gray-bench/core/heat/verdict";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import { formatWatts } from "../kit/format";

/** `fits: 38 % duty`, `short by 240 W` */
export function verdictText(z: ZoneHeat): string {
  const v = verdict(z);
  switch (v.kind) {
    case "too hot":
      return `short by ${formatWatts(v.byW)}`;
    case "too cold":
      return `too cold by ${formatWatts(v.byW)}`;
    case "wet":
      return "water settles in the cold";
    case "fits":
      return `fits: ${Math.round(v.dutyPercent)} % duty`;
    case "keeps itself":
      return v.kind;
  }
}

/** How good a verdict is: what fits may run too little or too much. */
export function grade(z: ZoneHeat): { tone: "good" | "fair" | "bad"; more: string } {
  const v = verdict(z);
  if (v.kind === "keeps itself") return { tone: "good", more: "" };
  if (v.kind !== "fits") return { tone: "bad", more: "" };
  if (v.dutyPercent < z.values.dutyLeastPercent)
    return { tone: "fair", more: "Too large: it runs in short cycles, which wear it out." };
  if (v.dutyPercent > z.values.dutyMostPercent)
    return { tone: "fair", more: "Hardly: nothing is left for a dirty filter." };
  return { tone: "good", more: "" };
}

export const TONES = { good: "text-verdigris", fair: "text-ochre", bad: "text-brick" } as const;

export const signed = (v: number, unit: string): string =>
  `${v < 0 ? "−" : "+"}${Math.abs(Math.round(v)).toLocaleString("en-GB")} ${unit}`;
