import type { ClimateKind, Part } from "../design/model";

/** What a part does to the air; null when it does nothing. */
export const kindOf = (part: Part): ClimateKind | null => part.climate?.kind ?? (part.cooling ? "cooling unit" : null);
