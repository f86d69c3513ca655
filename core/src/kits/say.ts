import type { Kit, KitLine, Unit } from "./result";

/** `12`, `3.45 m`; metres to the centimetre above. */
export const quantityText = (quantity: number, unit: Unit): string =>
  unit === "pcs" ? String(quantity) : `${(Math.ceil(quantity * 100 - 1e-6) / 100).toFixed(2)} m`;

/** How a line is issued, in words: `2 packs of 100, 63 come back`, `cut: R1 760 mm`, `off a reel of 100 m`; empty for plain pieces. */
export function issueText({ pack, pieces, unit, reel }: Pick<KitLine, "pack" | "pieces" | "unit" | "reel">): string {
  if (pieces && pieces.length > 0) return `cut: ${pieces.map((p) => `${p.of} ${p.mm} mm`).join(", ")}`;
  if (reel !== undefined) return `off a reel of ${reel} m`;
  if (!pack) return "";
  const back = pack.back > 0 ? `, ${quantityText(pack.back, unit)} come back` : "";
  return `${pack.packs} ${pack.packs === 1 ? "pack" : "packs"} of ${pack.size}${back}`;
}

/** `6.3 kg, 3 lines state no weight`; `weight not known` where none of them states one. */
export const weightText = ({ weightKg, unweighed }: Pick<Kit, "weightKg" | "unweighed">): string =>
  weightKg === 0 && unweighed > 0
    ? "weight not known"
    : `${Math.round(weightKg * 10) / 10} kg${unweighed > 0 ? `, ${unweighed} ${unweighed === 1 ? "line states" : "lines state"} no weight` : ""}`;

/** Metres of a walk, and what it saves. */
export const savedMetres = ({ metres, listMetres }: { metres: number; listMetres: number }): number =>
  Math.max(0, Math.round((listMetres - metres) * 10) / 10);
