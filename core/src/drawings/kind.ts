/** A DXF file begins with a section; a comment may stand before it. */
const DXF = /^(?:\s*999[ \t]*\r?\n[^\r\n]*\r?\n)*\s*0[ \t]*[\r\n]+\s*SECTION/;
const BINARY = /^[^\r\n]{1,12} Binary DXF\r\n/;
/** Closed drawings begin with the number of their version. */
const CLOSED = /^AC1\d{3}[^\r\n]/;

/** So much of a file tells what it is. */
const HEAD_BYTES = 2000;

const headOf = (bytes: Uint8Array): string =>
  new TextDecoder("latin1").decode(bytes.subarray(0, HEAD_BYTES)).replace(/^ï»¿/, "");

/** Whether bytes are meant as a drawing, also as one that cannot be read. */
export const isDrawing = (bytes: Uint8Array): boolean => otherForm(bytes) !== null || DXF.test(headOf(bytes));

/** What kind of drawing bytes are where it is not one in text; null where it may be. */
export function otherForm(bytes: Uint8Array): string | null {
  const head = headOf(bytes);
  if (BINARY.test(head)) return "a binary DXF";
  return CLOSED.test(head) ? "a DWG" : null;
}
