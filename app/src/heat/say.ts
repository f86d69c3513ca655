import { verdict } from "@gray-bench/core/heat/verdict";
import type { UnitFit, ZoneHeat } from "@gray-bench/core/heat/result";
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

/** `2 × TT-CU600 with TT-H60` */
export const unitName = ({ parts }: Pick<UnitFit, "parts">): string =>
  parts.map((p) => (p.count > 1 ? `${p.count} × ${p.number}` : p.number)).join(" with ");

/** The same as it stands in an address. */
export const unitKey = ({ parts }: Pick<UnitFit, "parts">): string =>
  parts.map((p) => `${p.count}x${p.number}`).join("+");

export const signed = (v: number, unit: string): string =>
  `${v < 0 ? "−" : "+"}${Math.abs(Math.round(v)).toLocaleString("en-GB")} ${unit}`;
