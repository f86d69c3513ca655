/**
 * The text of a document, page by page, as it was read once. Places are in points (1/72 inch) from the upper left corner of the page
 * as it is shown, turned as the document says.
 */
export interface PageText {
  w: number;
  h: number;
  /** What the document itself calls the page; null where it says nothing. */
  label: string | null;
  /** In reading order of their lines. */
  words: Word[];
  /** Why nothing, or not all, was read. */
  trouble: string | null;
}

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface Word extends Box {
  text: string;
  /** Height of its letters. */
  size: number;
  /** Words of one number stand on one line, one behind the other. */
  line: number;
}

/** Raised whenever the same file would be read otherwise: what was read before is read anew. */
export const READING_VERSION = 1;
