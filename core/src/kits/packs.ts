import { even, type Issued } from "./result";

/** A pack that is not known, or is no number above 0, is one piece. */
export function issued(quantity: number, pack: number | null): Issued {
  const size = pack !== null && pack > 0 ? pack : 1;
  const packs = Math.max(0, Math.ceil(quantity / size - 1e-9));
  const all = even(packs * size);
  return { packs, quantity: all, back: even(all - quantity) };
}
