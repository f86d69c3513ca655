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
