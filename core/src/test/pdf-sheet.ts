import { strToU8, zlibSync } from "fflate";

/** A page to be written: its size in points, how it is turned when shown, and what is drawn, y up from its lower left corner. */
export interface SheetOut {
  w: number;
  h: number;
  rotate?: 0 | 90 | 180 | 270;
  ops: string[];
}

const ESCAPED = /[()\\]/g;
const latin = (text: string): string => text.replace(ESCAPED, (c) => `\\${c}`);

/** A line of text, turned by whole degrees against the clock. */
export function textOut(x: number, y: number, size: number, text: string, degrees = 0): string {
  const [c, s] = turn(degrees);
  return `BT /F ${size} Tf ${c} ${s} ${-s} ${c} ${x} ${y} Tm (${latin(text)}) Tj ET`;
}

/** A text in pieces, each moved by thousandths of its size against the one before: what one drawn word may come as. */
export const piecesOut = (x: number, y: number, size: number, pieces: readonly string[], apart: number): string =>
  `BT /F ${size} Tf 1 0 0 1 ${x} ${y} Tm [${pieces.map((p) => `(${latin(p)})`).join(` ${-apart} `)}] TJ ET`;

export const lineOut = (...points: readonly number[]): string =>
  `${points.map((p, i) => (i % 2 === 0 ? `${p}` : `${p} ${i === 1 ? "m" : "l"}`)).join(" ")} S`;

export const boxOut = (x: number, y: number, w: number, h: number): string => `${x} ${y} ${w} ${h} re S`;

const turn = (degrees: number): [number, number] => {
  const r = (degrees * Math.PI) / 180;
  return [Math.round(Math.cos(r) * 1e6) / 1e6, Math.round(Math.sin(r) * 1e6) / 1e6];
};

/** A PDF of sheets, in its plainest form; equal sheets give equal bytes. */
export function pdfOf(
  sheets: readonly SheetOut[],
  { packed = false, labels = "", more = "" }: { packed?: boolean; labels?: string; more?: string } = {},
): Uint8Array {
  const objects: (string | Uint8Array)[] = [];
  const kids = sheets.map((_, i) => `${4 + 2 * i} 0 R`).join(" ");
  objects.push(`<< /Type /Catalog /Pages 2 0 R ${labels} ${more} >>`);
  objects.push(`<< /Type /Pages /Kids [${kids}] /Count ${sheets.length} >>`);
  objects.push("<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>");
  for (const [i, { w, h, rotate = 0, ops }] of sheets.entries()) {
    objects.push(
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 ${w} ${h}] /Rotate ${rotate} /Resources << /Font << /F 3 0 R >> >> /Contents ${5 + 2 * i} 0 R >>`,
    );
    objects.push(streamOf(bytesOf(ops.join("\n")), packed));
  }
  return assembled(objects);
}

/** Of a text in Latin-1. */
const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

export function streamOf(bytes: Uint8Array, packed: boolean): Uint8Array {
  const body = packed ? zlibSync(bytes, { level: 9 }) : bytes;
  const head = strToU8(`<< /Length ${body.length}${packed ? " /Filter /FlateDecode" : ""} >>\nstream\n`);
  return joined([head, body, strToU8("\nendstream")]);
}

/** Objects, numbered from 1, as a file; the first is its root. */
export function assembled(objects: readonly (string | Uint8Array)[]): Uint8Array {
  const parts: Uint8Array[] = [strToU8("%PDF-1.4\n%\u00e2\u00e3\n")];
  let at = parts[0]!.length;
  const offsets: number[] = [];
  const add = (bytes: Uint8Array): void => {
    parts.push(bytes);
    at += bytes.length;
  };
  objects.forEach((o, i) => {
    offsets.push(at);
    add(strToU8(`${i + 1} 0 obj\n`));
    add(typeof o === "string" ? bytesOf(o) : o);
    add(strToU8("\nendobj\n"));
  });
  const table = offsets.map((o) => `${String(o).padStart(10, "0")} 00000 n \n`).join("");
  const start = at;
  add(
    strToU8(
      `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`,
    ),
  );
  return joined(parts);
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const p of parts) {
    bytes.set(p, at);
    at += p.length;
  }
  return bytes;
}
