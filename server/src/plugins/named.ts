/**
 * A file by the name it came with, whatever letters that has: the plain one is for those who cannot read the other (RFC 6266).
 * @param how taken away, or shown where it stands
 */
export function named(how: "attachment" | "inline", name: string): string {
  const plain = name.replace(/[^\w.-]+/g, "_");
  const coded = encodeURIComponent(name).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16)}`);
  return `${how}; filename="${plain}"; filename*=UTF-8''${coded}`;
}
