/** An output file: name, media type, bytes. */
export interface FileOut {
  name: string;
  type: string;
  bytes: Uint8Array;
}

/** A tag as part of the name of a file: what file systems refuse becomes a dash. */
export const forFile = (text: string): string => text.replace(/[^A-Za-z0-9+._=-]/g, "-");
