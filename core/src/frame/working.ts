import type { Thing } from "../design/open-points";

/** One line of a working. */
export interface Term {
  text: string;
  /** In the working's unit; absent for a line that only explains. */
  value?: number;
  /** What the value is made of, in words and figures. */
  detail?: string;
  /** The rule or standard behind it. */
  source?: string;
  /** The value rests on a fallback. */
  fallback?: boolean;
  link?: { thing: Thing; of: string };
}

/** The list of terms that explains a number. The values of the terms add up to the total. */
export interface Working {
  title: string;
  unit: "mm" | "mm2" | "%" | "" | "W" | "W/K" | "m²" | "m³/h" | "°C" | "min" | "m" | "kg";
  terms: Term[];
  total: number | string | null;
}
