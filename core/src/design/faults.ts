/** A fault of form: the file cannot be taken until it is mended. */
export interface Fault {
  /** Place in the file, e.g. `wires[213].from.pin`, or `line 12, column 7`. */
  path: string;
  found: string;
  expected: string;
}

/** No more than this many faults are told of one file; the count says how many there were. */
export const MOST_FAULTS = 500;

const MOST_SHOWN_CHARS = 60;

/** A value as a person can read it in a fault: short, and with its kind where that helps. */
export function describe(value: unknown): string {
  if (value === undefined) return "nothing";
  if (value === null) return "null";
  if (Array.isArray(value)) return value.length === 1 ? "a list of 1 item" : `a list of ${value.length} items`;
  if (typeof value === "object") return "an object";
  if (typeof value === "string") return `text "${shorten(value)}"`;
  return `${typeof value === "number" ? "number " : ""}${String(value)}`;
}

const shorten = (s: string): string => (s.length > MOST_SHOWN_CHARS ? `${s.slice(0, MOST_SHOWN_CHARS)}…` : s);
