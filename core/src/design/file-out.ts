/** An output file: name, media type, bytes. */
export interface FileOut {
  name: string;
  type: string;
  bytes: Uint8Array;
}
