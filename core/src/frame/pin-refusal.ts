import type { Lookup } from "../design/lookup";
import { byText } from "../design/order";
import type { Shaped } from "./act";

const MOST = 12;

const some = (names: readonly string[]): string =>
  names.length === 0
    ? "none"
    : `${[...names].sort(byText).slice(0, MOST).join(", ")}${names.length > MOST ? " …" : ""}`;

/** Why a wire cannot be led to a pin; null when it can. */
export function pinRefusal(
  look: Lookup,
  device: string,
  pin: string,
  field: string,
): Extract<Shaped, { ok: false }> | null {
  const known = look.devices.get(device);
  if (!known) {
    const near = [...look.devices.keys()].filter((tag) =>
      tag.toLowerCase().includes(device.replace(/^-/, "").toLowerCase()),
    );
    return {
      ok: false,
      field: `${field}.device`,
      reason: `There is no device ${device}${near.length > 0 ? `; near it: ${some(near)}` : ""}.`,
    };
  }
  const part = look.parts.get(known.part);
  // Of a part that has none yet any name will do: it is drawn later.
  if (!part?.pins?.length || look.pin(part, pin)) return null;
  return {
    ok: false,
    field: `${field}.pin`,
    reason: `${device} has no pin ${pin}. It has: ${some((part.pins ?? []).map((p) => p.name))}.`,
  };
}
