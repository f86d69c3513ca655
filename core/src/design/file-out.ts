/** An output file: name, media type, bytes. */
export interface FileOut {
  name: string;
  type: string;
  bytes: Uint8Array;
}

/** Names of files may be no longer than 255 bytes on most disks. */
const MOST_SIGNS = 120;

/** A tag as part of the name of a file: what file systems refuse becomes a dash. */
export const forFile = (text: string): string => text.replace(/[^A-Za-z0-9+._=-]/g, "-").slice(0, MOST_SIGNS);

/** Names that no file system takes for the same: a later one that is like an earlier gets a number behind it. */
export function uniqueNames(wanted: readonly string[]): string[] {
  const taken = new Set<string>();
  return wanted.map((name) => {
    let one = name;
    for (let n = 2; taken.has(one.toLowerCase()); n++) one = `${name}~${n}`;
    taken.add(one.toLowerCase());
    return one;
  });
}
