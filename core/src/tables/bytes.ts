export const ENCODINGS = ["UTF-8", "UTF-16", "Latin-1"] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** Why a file is no table, and what to do. */
export interface NoTable {
  found: string;
  remedy: string;
}

export type TextRead = { ok: true; text: string; encoding: Encoding } | ({ ok: false } & NoTable);

/** More than the largest list of connections has. */
export const MOST_BYTES = 64 * 1024 * 1024;
/** So much tells how a text is written. */
const LOOKED_AT = 4096;
/** Of UTF-16, most texts of our languages have a zero in every other byte. */
const ZEROS = 0.3;

const startsWith = (bytes: Uint8Array, ...signs: number[]): boolean => signs.every((s, i) => bytes[i] === s);

/** What files are that are often taken for tables, by their first bytes. */
const OTHERS: readonly { begins: readonly number[]; found: string; remedy: string }[] = [
  { begins: [0x50, 0x4b, 0x03, 0x04], found: "a packed file, such as XLSX or ZIP", remedy: "Save the sheet as CSV." },
  { begins: [0xd0, 0xcf, 0x11, 0xe0], found: "a sheet in an old binary form", remedy: "Save it as CSV." },
  { begins: [0x25, 0x50, 0x44, 0x46], found: "a PDF", remedy: "Ask for the list as CSV: a page holds no columns." },
  { begins: [0x1f, 0x8b], found: "a packed file", remedy: "Unpack it first." },
  { begins: [0x89, 0x50, 0x4e, 0x47], found: "a picture", remedy: "Ask for the list as CSV." },
  { begins: [0xff, 0xd8, 0xff], found: "a picture", remedy: "Ask for the list as CSV." },
];

/**
 * The text of a file in UTF-8 or UTF-16, with a byte order mark or without, or in Latin-1 (with what Windows puts in its gaps).
 * O(bytes).
 */
export function textOf(bytes: Uint8Array): TextRead {
  if (bytes.length > MOST_BYTES)
    return { ok: false, found: `${Math.ceil(bytes.length / 1e6)} MB`, remedy: "Split it: a table has at most 64 MB." };
  const other = OTHERS.find(({ begins }) => startsWith(bytes, ...begins));
  if (other) return { ok: false, found: other.found, remedy: other.remedy };
  const how = encodingOf(bytes);
  const text = new TextDecoder(how.decoder, { fatal: false }).decode(bytes);
  const control = /[\u0000-\u0008\u000E-\u001F]/.exec(text);
  if (control) {
    const line = text.slice(0, control.index).split(/\r\n|\n|\r/).length;
    const found = `bytes that are no text (in line ${line})`;
    return { ok: false, found, remedy: "Save the table as CSV in UTF-8." };
  }
  return { ok: true, text, encoding: how.encoding };
}

function encodingOf(bytes: Uint8Array): { decoder: string; encoding: Encoding } {
  const utf16 = (end: "le" | "be") => ({ decoder: `utf-16${end}`, encoding: "UTF-16" as const });
  if (startsWith(bytes, 0xff, 0xfe)) return utf16("le");
  if (startsWith(bytes, 0xfe, 0xff)) return utf16("be");
  const head = bytes.subarray(0, LOOKED_AT);
  const zeros = [0, 0];
  head.forEach((b, i) => b === 0 && zeros[i % 2]!++);
  const [even, odd] = zeros as [number, number];
  if (odd > (ZEROS * head.length) / 2 && odd > even) return utf16("le");
  if (even > (ZEROS * head.length) / 2) return utf16("be");
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    return { decoder: "utf-8", encoding: "UTF-8" };
  } catch {
    return { decoder: "windows-1252", encoding: "Latin-1" };
  }
}
