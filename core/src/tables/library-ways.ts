/** `whole`: the file is the library. `into`: it is written into the one there is, field by field. */
export const LIBRARY_WAYS = ["whole", "into"] as const;
export type LibraryWay = (typeof LIBRARY_WAYS)[number];

/** How a file told of parts. */
export interface LibraryTold {
  form: "library file" | "own table" | "other table";
  /** Of another table: its headings, and what they were read as. */
  columns: { heading: string; field: string }[];
  /** Headings that say nothing a part has. */
  ignored: string[];
  notRead: { table: string; line: number; heading: string | null; found: string; wanted: string }[];
  /** How many there are; the first are listed. */
  notReadCount: number;
}
