/** Numbers from 0 to 1 that look random (xorshift, Marsaglia 2003), the same for the same seed. */
export function randomFrom(seed: number): () => number {
  let s = seed >>> 0 || 1;
  return () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return (s >>> 0) / 2 ** 32;
  };
}
