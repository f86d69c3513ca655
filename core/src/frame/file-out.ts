/** An output file: name, media type, bytes. */
export interface FileOut {
  name: string;
  type: string;
  bytes: Uint8Array;
}

/** Names of files may be no longer than 255 bytes on most disks. */
const MOST_SIGNS = 120;

/** A tag as part of the name of a file: what file systems refuse becomes a dash. */
export const forFile = (text: string): string => [...text].map(signForFile).join("").slice(0, MOST_SIGNS);

const SPELT: Readonly<Record<string, string>> = {
  Ä: "AE",
  Ö: "OE",
  Ü: "UE",
  ä: "ae",
  ö: "oe",
  ü: "ue",
  ß: "ss",
  Æ: "AE",
  æ: "ae",
  Ø: "OE",
  ø: "oe",
  Å: "AA",
  å: "aa",
};

/** A letter of another alphabet is spelt, so that two of them are two names: `Ä` as AE, `é` as e, `Ж` by its number. */
function signForFile(sign: string): string {
  if (/[A-Za-z0-9+._=-]/.test(sign)) return sign;
  const spelt = SPELT[sign] ?? /^[A-Za-z]/.exec(sign.normalize("NFD"))?.[0];
  if (spelt) return spelt;
  return /[\p{L}\p{N}]/u.test(sign) ? `u${sign.codePointAt(0)!.toString(16)}` : "-";
}

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
