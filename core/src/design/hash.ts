import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";

/**
 * JSON with the keys of every object in code unit order and no white space: equal values give
 * equal text, however their files were written. Undefined fields are left out.
 * @param kept texts of objects in lists that are never changed in place, so that those of before are not written again
 */
export function canonicalJson(value: unknown, kept?: WeakMap<object, string>): string {
  if (Array.isArray(value)) return `[${value.map((v) => canonicalJson(v === undefined ? null : v, kept)).join(",")}]`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value) ?? "null";
  const known = kept?.get(value);
  if (known !== undefined) return known;
  const fields = value as Record<string, unknown>;
  const keys = Object.keys(fields).sort();
  const parts: string[] = [];
  for (const key of keys) {
    if (fields[key] !== undefined)
      parts.push(`${JSON.stringify(key)}:${canonicalJson(fields[key], Array.isArray(fields[key]) ? kept : undefined)}`);
  }
  const text = `{${parts.join(",")}}`;
  kept?.set(value, text);
  return text;
}

let digest = (text: string): string => bytesToHex(sha256(utf8ToBytes(text)));

/** Lets the platform's own SHA-256 do the work where there is one: the same digits, several times as fast. */
export function useDigest(own: (text: string) => string): void {
  digest = own;
}

/** SHA-256 of a text in UTF-8, as 64 hexadecimal digits. */
export const textHash = (text: string): string => digest(text);

/** SHA-256 of the canonical JSON, as 64 hexadecimal digits. O(size of the value). */
export const contentHash = (value: unknown): string => textHash(canonicalJson(value));
