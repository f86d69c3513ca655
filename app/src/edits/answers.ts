import type { Ask } from "@gray-bench/core/design/open-points";
import type { Value } from "@gray-bench/core/frame/act";
import { COLOURS, NET_CLASSES, STRANDS } from "@gray-bench/core/design/model";
import {
  lengthText,
  readAmount,
  readCount,
  readLength,
  readSize,
  readTemperature,
  readWatts,
  type Quantity,
} from "../kit/quantity";
import { temperatureNumber } from "../kit/format";
import type { Settings } from "../kit/settings";

export type Answer =
  /** `set`: part of the edit; otherwise the value stands as it did. */
  { ok: true; value: Value | undefined; set: boolean } | { ok: false; reason: string };

const NEEDED = "This is needed.";

const READERS: Partial<Record<Ask["as"], (text: string, settings: Settings) => Quantity>> = {
  size: readSize,
  watts: readWatts,
  count: readCount,
  length: readLength,
  amount: readAmount,
  temperature: readTemperature,
};

/** What stands in a field before anything is typed, in the units of whoever reads. */
export function textNow({ as, now }: Ask, settings: Settings): string {
  if (now === undefined) return "";
  if (as === "temperature") return String(Math.round(temperatureNumber(Number(now), settings) * 100) / 100);
  return as === "length" ? lengthText(Number(now), settings) : String(now);
}

/** What may be chosen for a question; null where something is typed. */
export function choicesOf({ as, choices }: Ask): readonly string[] | null {
  const known: Partial<Record<Ask["as"], readonly string[]>> = {
    choice: choices ?? [],
    colour: COLOURS,
    class: NET_CLASSES,
    strand: STRANDS,
  };
  return known[as] ?? null;
}

/** What was typed for a question, as the payload takes it; or why it cannot be. */
export function answer(ask: Ask, typed: string | undefined, settings: Settings): Answer {
  const before = textNow(ask, settings);
  const text = (typed ?? before).trim();
  if (ask.now !== undefined && text === before.trim()) return { ok: true, value: ask.now, set: false };
  if (text === "") {
    if (!ask.optional) return { ok: false, reason: NEEDED };
    return ask.now === undefined ? { ok: true, value: undefined, set: false } : { ok: true, value: null, set: true };
  }
  // A size stands beside its field in mm² unless gauges are chosen; what stands there already was given in mm².
  const read = READERS[ask.as]?.(text, settings);
  if (!read) return { ok: true, value: text, set: true };
  return read.ok ? { ok: true, value: read.value, set: read.value !== ask.now } : read;
}
