/** Whether what a client has is what it would get: `If-None-Match` with one tag, a list, weak ones or `*`. RFC 9110, 13.1.2. */
export function isKnown(header: string | string[] | undefined, etag: string): boolean {
  const given = [header ?? []].flat().join(",");
  if (given.trim() === "*") return true;
  return given.split(",").some((tag) => tag.trim().replace(/^W\//, "") === etag);
}
