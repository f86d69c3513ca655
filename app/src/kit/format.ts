import { BELIEVABLE_C } from "@gray-bench/core/design/tolerance";
import { nearestAwg } from "@gray-bench/core/wiring/conductors";
import type { Figure, Told } from "@gray-bench/core/frame/stage";
import type { Settings } from "./settings";

const MM_PER_INCH = 25.4;

// Made once: a formatter costs more than a hundred figures that it writes.
const BY_DECIMALS = [0, 1, 2, 3].map(
  (maximumFractionDigits) => new Intl.NumberFormat("en-GB", { minimumFractionDigits: 0, maximumFractionDigits }),
);

const grouped = (n: number, decimals: 0 | 1 | 2 | 3): string => BY_DECIMALS[decimals]!.format(n);

/** A length with its unit: `1,385 mm`, `54.53 in`. */
export function formatLength(mm: number, { length }: Pick<Settings, "length">): string {
  return length === "mm" ? `${grouped(mm, 3)} mm` : `${grouped(mm / MM_PER_INCH, 2)} in`;
}

/** A long sum of lengths: `541.7 m`, `1,777 ft`. */
export function formatTotal(mm: number, { length }: Pick<Settings, "length">): string {
  return length === "mm" ? `${grouped(mm / 1000, 1)} m` : `${grouped(mm / MM_PER_INCH / 12, 0)} ft`;
}

/** A distance that is walked: `1,808 m`, `5,932 ft`. */
const formatDistance = (metres: number, { length }: Pick<Settings, "length">): string =>
  length === "mm" ? `${grouped(metres, 0)} m` : `${grouped((metres * 1000) / MM_PER_INCH / 12, 0)} ft`;

/** How warm it gets without anything: `49.4 °C`, `no end` where no wall passes heat, `over 300 °C` beyond all that can be. */
export const restsText = (celsius: number | null, settings: Pick<Settings, "temperature">): string =>
  celsius === null
    ? "no end"
    : celsius > BELIEVABLE_C
      ? `over ${formatTemperature(BELIEVABLE_C, settings)}`
      : formatTemperature(celsius, settings);

/** A cross-section with its unit. The gauge is the nearest one and says so. */
export function formatSize(mm2: number, { size }: Pick<Settings, "size">): string {
  return size === "mm2" ? `${grouped(mm2, 3)} mm²` : `≈ AWG ${nearestAwg(mm2)}`;
}

/** A temperature in the unit of whoever reads, without it: 36.5, 97.7. */
export const temperatureNumber = (celsius: number, { temperature }: Pick<Settings, "temperature">): number =>
  temperature === "C" ? celsius : (celsius * 9) / 5 + 32;

/** A temperature with its unit: `36.5 °C`, `97.7 °F`. */
export const formatTemperature = (celsius: number, settings: Pick<Settings, "temperature">): string =>
  `${grouped(temperatureNumber(celsius, settings), 1)} °${settings.temperature}`;

export const formatWatts = (w: number): string => `${grouped(Math.round(w), 0)} W`;

export const formatCount = (n: number): string => grouped(n, 0);

export const formatPercent = (percent: number): string => `${grouped(percent, 1)} %`;

const DAY_MS = 86_400_000;

/** Days from today until a date; negative when it is past. */
export function daysUntil(isoDate: string, today: Date): number {
  const [y, m, d] = isoDate.split("-").map(Number);
  const start = Date.UTC(today.getFullYear(), today.getMonth(), today.getDate());
  return Math.round((Date.UTC(y!, m! - 1, d!) - start) / DAY_MS);
}

/** `19 Feb 2027` */
export function formatDate(isoDate: string): string {
  const [y, m, d] = isoDate.slice(0, 10).split("-").map(Number);
  return new Date(Date.UTC(y!, m! - 1, d!)).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
    timeZone: "UTC",
  });
}

/** `19 Feb 2027, 14:05`, in the time of this device. */
export const formatMoment = (iso: string): string =>
  new Date(iso).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });

/** Text in which no line breaks inside a tag such as -K3: a joiner without width follows the sign. For the screen only. */
export const keepTags = (text: string): string => text.replace(/-(?=[A-Z])/g, "-\u2060");

/** Words with their length in the units of whoever reads. */
export const sayTold = ({ text, mm }: Told, settings: Pick<Settings, "length">): string =>
  mm === undefined ? text : text.replace("{mm}", formatLength(mm, settings));

/** A figure in the units of whoever reads. */
export function figureText(
  { value, unit, outOf }: { value: number; unit: Figure["unit"]; outOf?: number },
  settings: Settings,
): string {
  if (unit === "mm") return formatLength(value, settings);
  if (unit === "mm in all") return formatTotal(value, settings);
  if (unit === "m") return formatDistance(value, settings);
  if (unit === "%") return formatPercent(value);
  if (unit === "W" || unit === "min") return `${grouped(value, 0)} ${unit}`;
  return outOf === undefined ? grouped(value, 0) : `${grouped(value, 0)} of ${grouped(outOf, 0)}`;
}
