const BEGINS = [0x25, 0x50, 0x44, 0x46, 0x2d];
const HEAD_BYTES = 1024;

/** Whether bytes are meant as a PDF: its sign stands within the first thousand. */
export function isPdf(bytes: Uint8Array): boolean {
  const last = Math.min(bytes.length, HEAD_BYTES) - BEGINS.length;
  for (let i = 0; i <= last; i++) if (BEGINS.every((b, k) => bytes[i + k] === b)) return true;
  return false;
}
