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
    doc.font("text").scale(MM);
    for (const item of scene.items) drawItem(doc, item);
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

function drawItem(doc: PDFKit.PDFDocument, item: Scene["items"][number]): void {
  const colour = item.colour ?? INK;
  if (item.kind === "text") {
    if (item.text === "") return;
    const { x, y, size, turn, text } = item;
    const width = textWidth(text, size);
    const from = item.anchor === "start" ? 0 : item.anchor === "middle" ? -width / 2 : -width;
    doc.save();
    if (turn !== 0) doc.rotate(-turn, { origin: [x, y] });
    doc.fillColor(colour).fontSize(size);
    doc.text(text, x + from, y + BASELINE * size, { lineBreak: false, baseline: "alphabetic", features: [] });
    doc.restore();
    return;
  }
  if (item.kind === "line") doc.moveTo(item.x1, item.y1).lineTo(item.x2, item.y2);
  else if (item.kind === "rect") doc.rect(item.x, item.y, item.w, item.h);
  else if (item.kind === "circle") doc.circle(item.x, item.y, item.r);
  else {
    item.points.forEach((p, i) => (i === 0 ? doc.moveTo(p.x, p.y) : doc.lineTo(p.x, p.y)));
    if (item.closed) doc.closePath();
  }
  if ("dash" in item && item.dash) doc.dash(item.dash, { space: item.dash });
  else doc.undash();
  doc.lineWidth(item.width);
  const fill = item.kind === "line" ? undefined : item.fill;
  if (fill && item.width > 0) doc.fillAndStroke(fill, colour);
  else if (fill) doc.fill(fill);
  else if (item.width > 0) doc.stroke(colour);
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
