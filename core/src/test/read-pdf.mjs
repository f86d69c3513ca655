/** Reads a PDF from standard input with a library of its own, and writes what is on its pages as JSON. */
import { readFileSync } from "node:fs";
import { getDocument, OPS } from "pdfjs-dist/legacy/build/pdf.mjs";

const doc = await getDocument({ data: new Uint8Array(readFileSync(0)), verbosity: 0 }).promise;
const pages = [];
for (let n = 1; n <= doc.numPages; n++) {
  const page = await doc.getPage(n);
  const { items } = await page.getTextContent();
  const ops = await page.getOperatorList();
  // Lines as they are drawn: dashes in force, and the frame of each, in the unit of the drawing.
  let dash = [];
  const drawn = [];
  ops.fnArray.forEach((f, i) => {
    if (f === OPS.setDash) dash = [...ops.argsArray[i][0]];
    if (f === OPS.constructPath) drawn.push({ dash, frame: [...ops.argsArray[i][2]] });
  });
  pages.push({
    size: page.view.slice(2),
    texts: items
      .filter((i) => i.str.trim() !== "")
      .map(({ str, transform: [a, b, , , x, y], width }) => ({ str, a, b, x, y, width })),
    paths: drawn.length,
    drawn,
    fonts: [...new Set(items.map((i) => i.fontName))].length,
  });
}
const { info } = await doc.getMetadata();
process.stdout.write(JSON.stringify({ title: info.Title, pages }));
