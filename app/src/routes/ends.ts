import type { WireRoute } from "@gray-bench/core/routes/result";

/** `-K1:A2`, as lists say where a wire begins or ends. */
export const endText = (r: WireRoute["fromRef"]): string => (r ? `${r.device}:${r.pin}` : "?");
