import { strToU8 } from "fflate";
import type { Random } from "./random";

export const below = (random: Random, n: number): number => random.whole(0, n - 1);

/** Bytes turned, cut out, doubled, put in. */
export function mutated(bytes: Uint8Array, random: Random): Uint8Array {
  let out: Uint8Array = Uint8Array.from(bytes);
  for (let n = 1 + below(random, 6); n > 0; n--) {
    const at = below(random, out.length);
    const long = 1 + below(random, 40);
    const [head, rest] = [out.subarray(0, at), out.subarray(at)];
    const joined = (...parts: Uint8Array[]): Uint8Array => Uint8Array.from(Buffer.concat(parts));
    const what = below(random, 4);
    if (what === 0) out[at] = below(random, 256);
    else if (what === 1) out = joined(head, rest.subarray(long));
    else if (what === 2) out = joined(head, rest.subarray(0, long), rest);
    else out = joined(head, strToU8(SIGNS[below(random, SIGNS.length)]!), rest);
  }
  return out;
}

const SIGNS = [
  '"',
  ";",
  ",",
  "\t",
  "\r",
  "\n\n",
  "\u0000",
  "'=1+1",
  "<c r='ZZZ9999999'>",
  "</row>",
  "&a;",
  "]]>",
  "-K1:A1:",
  "1e400",
  "ÿ",
  "𝄞",
];
