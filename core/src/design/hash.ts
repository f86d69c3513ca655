import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";

/**
 * JSON with the keys of every object in code unit order and no white space: equal values give
 * equal text, however their files were written. Undefined fields are left out.
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((v) => canonicalJson(v === undefined ? null : v)).join(",")}]`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value) ?? "null";
  const fields = value as Record<string, unknown>;
  const keys = Object.keys(fields).sort();
  const parts: string[] = [];
  for (const key of keys) {
    if (fields[key] !== undefined) parts.push(`${JSON.stringify(key)}:${canonicalJson(fields[key])}`);
  }
  return `{${parts.join(",")}}`;
}

/** SHA-256 of the canonical JSON, as 64 hexadecimal digits. O(size of the value). */
export function contentHash(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(value))));
}
