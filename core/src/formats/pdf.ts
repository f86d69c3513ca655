import { BASELINE, INK, textWidth, type Scene } from "./scene";

/** Points of a millimetre. */
const MM = 72 / 25.4;

/** The date inside is fixed, so that equal drawings give equal bytes. */
const FIXED_DATE = new Date(Date.UTC(2000, 0, 1));

let font: Uint8Array | undefined;

/**
 * Scenes as PDF, a page each, at 1:1. Lines and text are vectors, the font is embedded. The pages are not compressed here:
 * a thread that is ended while it compresses takes the whole process with it.
 */
export async function toPdf(title: string, scenes: readonly Scene[]): Promise<Uint8Array> {
  // Large, and wanted only where a file is written.
  const [{ default: PDFDocument }, { FONT_BASE64 }] = await Promise.all([import("pdfkit"), import("./font-data")]);
  const doc = new PDFDocument({
    autoFirstPage: false,
    compress: false,
    margin: 0,
    info: {
      Title: title,
      Creator: "Gray Bench",
      Producer: "Gray Bench",
      CreationDate: FIXED_DATE,
      ModDate: FIXED_DATE,
    },
  });
  const chunks: Uint8Array[] = [];
  const whole = new Promise<Uint8Array>((resolve, reject) => {
    doc.on("data", (chunk: Uint8Array) => chunks.push(chunk));
    doc.on("end", () => resolve(joined(chunks)));
    doc.on("error", reject);
  });
  font ??= Uint8Array.from(atob(FONT_BASE64), (c) => c.charCodeAt(0));
  doc.registerFont("text", font as never);
  layOnce(doc.font("text"));
  for (const scene of scenes) {
    doc.addPage({ size: [scene.w * MM, scene.h * MM], margin: 0 });
    const write = writeAtOnce(doc.page);
    doc.font("text").scale(MM);
    const pen: Pen = {};
    for (const item of scene.items) drawItem(doc, pen, item);
    write();
  }
  if (scenes.length === 0) doc.addPage({ size: "A4", margin: 0 });
  doc.end();
  return whole;
}

/** What the library works out of a text: its glyphs and how wide it is. */
interface Laid {
  advanceWidth: number;
}

/** Words that are laid out once in a document, and no more of them than this. */
const MOST_LAID = 20_000;

/**
 * Lets a font lay out each text once. The library does it three times for each text (to measure, to write, to go on behind it) as soon as
 * it is told to leave out ligatures; of the labels of a drawing most stand there many times besides.
 */
function layOnce(doc: PDFKit.PDFDocument): void {
  const { _font: own } = doc as PDFKit.PDFDocument & { _font: { layout(text: string, features: unknown): Laid } };
  const laid = new Map<string, Laid>();
  const layout = own.layout.bind(own);
  own.layout = (text, features) => {
    let known = laid.get(text);
    if (!known) {
      known = layout(text, features);
      if (laid.size < MOST_LAID) laid.set(text, known);
    }
    return known;
  };
}

/** Gathers what is written on a page, until it is told to write it: the library makes bytes of each line by itself. */
function writeAtOnce(page: PDFKit.PDFPage): () => void {
  const lines: string[] = [];
  const own = page as PDFKit.PDFPage & { write(line: string): void };
  own.write = (line) => void lines.push(line);
  return () => page.content.write(lines.join("\n"));
}

/** How the page draws now: what is set already is not written again. */
interface Pen {
  fill?: string;
  stroke?: string;
  width?: number;
  dash?: number;
}

function setFill(doc: PDFKit.PDFDocument, pen: Pen, colour: string): void {
  if (pen.fill === colour) return;
  doc.fillColor(colour);
  pen.fill = colour;
}

function setStroke(doc: PDFKit.PDFDocument, pen: Pen, colour: string, width: number, dash: number): void {
  if (pen.stroke !== colour) doc.strokeColor(colour);
  if (pen.width !== width) doc.lineWidth(width);
  if ((pen.dash ?? 0) !== dash) {
    if (dash > 0) doc.dash(dash, { space: dash });
    else doc.undash();
  }
  Object.assign(pen, { stroke: colour, width, dash });
}

function drawItem(doc: PDFKit.PDFDocument, pen: Pen, item: Scene["items"][number]): void {
  const colour = item.colour ?? INK;
  if (item.kind === "text") {
    if (item.text === "") return;
    const { x, y, size, turn, text } = item;
    const width = textWidth(text, size);
    const from = item.anchor === "start" ? 0 : item.anchor === "middle" ? -width / 2 : -width;
    setFill(doc, pen, colour);
    if (turn !== 0) doc.save().rotate(-turn, { origin: [x, y] });
    doc.fontSize(size);
    doc.text(text, x + from, y + BASELINE * size, { lineBreak: false, baseline: "alphabetic", features: [] });
    if (turn !== 0) doc.restore();
    return;
  }
  const fill = item.kind === "line" ? undefined : item.fill;
  if (!fill && item.width <= 0) return;
  if (fill) setFill(doc, pen, fill);
  if (item.width > 0) setStroke(doc, pen, colour, item.width, ("dash" in item && item.dash) || 0);
  if (item.kind === "line") doc.moveTo(item.x1, item.y1).lineTo(item.x2, item.y2);
  else if (item.kind === "rect") doc.rect(item.x, item.y, item.w, item.h);
  else if (item.kind === "circle") doc.circle(item.x, item.y, item.r);
  else {
    item.points.forEach((p, i) => (i === 0 ? doc.moveTo(p.x, p.y) : doc.lineTo(p.x, p.y)));
    if (item.closed) doc.closePath();
  }
  if (fill && item.width > 0) doc.fillAndStroke();
  else if (fill) doc.fill();
  else doc.stroke();
}

function joined(chunks: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(chunks.reduce((sum, c) => sum + c.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}
