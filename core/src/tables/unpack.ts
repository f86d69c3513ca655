import { Unzip, UnzipInflate } from "fflate";

/** Unpacked, all that is read of a package together: a hundred thousand rows of twenty columns have a quarter of it. */
const MOST_UNPACKED = 256 * 1024 * 1024;
const MOST_ENTRIES = 2000;
/** As many bytes are unpacked at a time. */
const STEP = 64 * 1024;

/** Why a package is not read, and what to do. */
export class Refused extends Error {
  readonly remedy: string;

  constructor(found: string, remedy: string) {
    super(found);
    this.remedy = remedy;
  }
}

export const BROKEN = "a package that ends too soon, or is broken";
export const AGAIN = "Send it again, or save it anew.";
/** Its list of entries ends with this, and a remark of at most 64 kB. */
const LIST_END = [0x50, 0x4b, 0x05, 0x06];

/** Whether the end of a package is there. */
function endsWhole(bytes: Uint8Array): boolean {
  for (let at = bytes.length - 22; at >= Math.max(0, bytes.length - 22 - 65_536); at--)
    if (LIST_END.every((b, i) => bytes[at + i] === b)) return true;
  return false;
}

/**
 * The entries of a package that are read, unpacked piece by piece: what it says of its own sizes is not believed.
 * @param wanted names, in small letters, of those that are
 * @returns pieces by name in small letters
 * @throws Refused
 */
export function unpack(bytes: Uint8Array, wanted: RegExp): Map<string, Uint8Array[]> {
  if (!endsWhole(bytes)) throw new Refused(BROKEN, AGAIN);
  const parts = new Map<string, Uint8Array[]>();
  let [entries, unpacked] = [0, 0];
  let much: Refused | null = null;
  const unzip = new Unzip((file) => {
    if (++entries > MOST_ENTRIES) throw new Refused(`more than ${MOST_ENTRIES} files in it`, "Save the sheet anew.");
    const name = file.name.replace(/\\/g, "/").replace(/^\//, "");
    const key = name.toLowerCase();
    if (!wanted.test(key)) return;
    if (parts.has(key)) throw new Refused(`${name} twice in it`, "Save the sheet anew.");
    const pieces: Uint8Array[] = [];
    parts.set(key, pieces);
    file.ondata = (error, piece) => {
      // What is thrown here comes back as an error of the unpacking.
      if (error) throw much ?? new Refused(BROKEN, AGAIN);
      unpacked += piece.length;
      if (unpacked > MOST_UNPACKED) {
        const found = `more than ${MOST_UNPACKED / 1024 / 1024} MB when it is unpacked`;
        throw (much = new Refused(found, "Split the table, or save it as CSV."));
      }
      if (piece.length > 0) pieces.push(piece.slice());
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  for (let at = 0; at < bytes.length; at += STEP) unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length);
  return parts;
}

/** Whether bytes begin as a package does. */
export const isPackage = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04;
