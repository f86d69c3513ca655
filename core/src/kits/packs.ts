/** How a quantity is issued where the store issues whole packs. */
export interface Issued {
  packs: number;
  quantity: number;
  /** Goes back. */
  back: number;
}

/** A pack that is not known, or is no number above 0, is one piece. */
export function issued(quantity: number, pack: number | null): Issued {
  const size = pack !== null && pack > 0 ? pack : 1;
  const packs = Math.ceil(quantity / size - 1e-9);
  const all = packs * size;
  return { packs, quantity: all, back: Math.round((all - quantity) * 10_000) / 10_000 };
}
