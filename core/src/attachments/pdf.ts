// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./pdf-worker.d.ts" />
import type * as Pdf from "pdfjs-dist/legacy/build/pdf.mjs";
import { isPdf } from "./kind";
import type { PageText, Word } from "./pages";
import { wordsOf, type Run } from "./words";

export type PdfRead = { ok: true; pages: PageText[] } | { ok: false; found: string; remedy: string };

/** More than the schematic of any plant has. */
export const MOST_PAGES = 2000;
const MOST_RUNS_ON_PAGE = 20_000;
const MOST_WORDS = 1_000_000;
const MOST_LETTERS_OF_RUN = 500;
/** What one stream of a document may unpack to: a page of a schematic has a few hundred thousand bytes. */
const MOST_UNPACKED = 96 * 1024 * 1024;

const cannotOpen = (found: string, remedy: string): PdfRead => ({ ok: false, found, remedy });

/**
 * The text of a PDF, page by page. Nothing in it is run: scripts, forms and links are not looked at, pictures not unpacked. A page that
 * cannot be read is told with its reason, the others are read. A document whose parts unpack to far more than a page can hold is given up.
 * O(bytes unpacked); whoever calls bounds its time.
 */
export async function readPdf(bytes: Uint8Array): Promise<PdfRead> {
  if (!isPdf(bytes)) return cannotOpen("no PDF", "Send the file as it was saved.");
  const { getDocument } = await library();
  const free = boundArrays(MOST_UNPACKED);
  try {
    const task = getDocument({
      // A copy, as bytes of its own: it is handed over.
      data: new Uint8Array(bytes),
      verbosity: 0,
      isEvalSupported: false,
      disableFontFace: true,
      useSystemFonts: false,
      useWorkerFetch: false,
      enableXfa: false,
      isOffscreenCanvasSupported: false,
      isImageDecoderSupported: false,
      stopAtErrors: false,
    });
    try {
      const doc = await task.promise;
      return await readPages(doc);
    } finally {
      await task.destroy();
    }
  } catch (error) {
    return whyNot(error);
  } finally {
    free();
  }
}

async function readPages(doc: Pdf.PDFDocumentProxy): Promise<PdfRead> {
  if (doc.numPages > MOST_PAGES)
    return cannotOpen(`${doc.numPages} pages`, `Split it: a document has at most ${MOST_PAGES} pages.`);
  const labels = await doc.getPageLabels().catch(() => null);
  const pages: PageText[] = [];
  let words = 0;
  for (let n = 1; n <= doc.numPages; n++) {
    const page = await readPage(doc, n, words < MOST_WORDS);
    pages.push({ ...page, label: labels?.[n - 1]?.trim() || null });
    words += page.words.length;
  }
  return { ok: true, pages };
}

/** A4, where a page does not even say how large it is. */
const UNKNOWN = { w: 595, h: 842 };

async function readPage(doc: Pdf.PDFDocumentProxy, n: number, roomLeft: boolean): Promise<Omit<PageText, "label">> {
  let size = UNKNOWN;
  try {
    const page = await doc.getPage(n);
    const view = page.getViewport({ scale: 1 });
    size = { w: Math.round(view.width * 10) / 10, h: Math.round(view.height * 10) / 10 };
    if (!roomLeft) return { ...size, words: [], trouble: "The document has more text than is read." };
    const { runs, cut } = await runsOf(page, view);
    page.cleanup();
    const words: Word[] = wordsOf(runs);
    return { ...size, words, trouble: cut ? `Only its first ${MOST_RUNS_ON_PAGE} texts were read.` : null };
  } catch (error) {
    if (isTooLarge(error)) throw error;
    return { ...size, words: [], trouble: "The page is damaged: its text could not be read." };
  }
}

interface TextItem {
  str: string;
  transform: number[];
  width: number;
}

async function runsOf(page: Pdf.PDFPageProxy, view: Pdf.PageViewport): Promise<{ runs: Run[]; cut: boolean }> {
  const [va, vb, vc, vd, ve, vf] = view.transform as [number, number, number, number, number, number];
  const runs: Run[] = [];
  const reader = page.streamTextContent({ disableNormalization: true }).getReader() as ReadableStreamDefaultReader<{
    items: TextItem[];
  }>;
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return { runs, cut: false };
    for (const { str, transform, width } of value.items) {
      if (!str || str.trim() === "") continue;
      if (runs.length >= MOST_RUNS_ON_PAGE) {
        await reader.cancel(new Error("enough")).catch(() => undefined);
        return { runs, cut: true };
      }
      const [a, b, c, d, e, f] = transform as [number, number, number, number, number, number];
      const along = [va * a + vc * b, vb * a + vd * b] as const;
      const up = [va * c + vc * d, vb * c + vd * d] as const;
      const scale = Math.hypot(...along);
      const run = {
        text: str.slice(0, MOST_LETTERS_OF_RUN),
        x: va * e + vc * f + ve,
        y: vb * e + vd * f + vf,
        dx: along[0] / scale,
        dy: along[1] / scale,
        length: (Math.abs(width * Math.hypot(va, vb)) * Math.min(str.length, MOST_LETTERS_OF_RUN)) / str.length,
        height: Math.hypot(...up),
      };
      // Text that a transformation has made endless or nothing is nowhere.
      if ([run.x, run.y, run.dx, run.dy, run.length].every(Number.isFinite) && run.height > 0) runs.push(run);
    }
  }
}

let loaded: Promise<typeof Pdf> | null = null;
const library = (): Promise<typeof Pdf> => (loaded ??= load());

/**
 * Loads the library with its worker beside it: what it reads is read in this very thread. Nothing is drawn, so that it needs none of
 * what it draws with, nor to say that it does not find it.
 */
async function load(): Promise<typeof Pdf> {
  const own = globalThis as Record<string, unknown>;
  for (const name of ["DOMMatrix", "ImageData", "Path2D"]) own[name] ??= class {};
  own.pdfjsWorker ??= await import("pdfjs-dist/legacy/build/pdf.worker.mjs");
  /* eslint-disable no-console -- it can be told to be silent only once it is loaded */
  const { warn } = console;
  console.warn = () => undefined;
  try {
    return await import("pdfjs-dist/legacy/build/pdf.mjs");
  } finally {
    console.warn = warn;
  }
  /* eslint-enable no-console */
}

const TOO_LARGE = "a part that unpacks to far more than a page can hold";
const isTooLarge = (error: unknown): boolean => error instanceof Error && error.message.includes(TOO_LARGE);

/**
 * Packed streams are unpacked into arrays that grow while they are read, however far: until it is freed again, none of bytes may grow
 * beyond a bound.
 * @returns what frees it
 */
function boundArrays(most: number): () => void {
  const plain = globalThis.Uint8Array;
  const bounded: Uint8ArrayConstructor = new Proxy(plain, {
    construct(target, args: unknown[], as): Uint8Array {
      if (typeof args[0] === "number" && args[0] > most) throw new Error(TOO_LARGE);
      return Reflect.construct(target, args, as === bounded ? target : as) as Uint8Array;
    },
  });
  globalThis.Uint8Array = bounded;
  return () => {
    if (globalThis.Uint8Array === bounded) globalThis.Uint8Array = plain;
  };
}

function whyNot(error: unknown): PdfRead {
  const { name, message } = error as { name?: string; message?: string };
  if (isTooLarge(error)) return cannotOpen(TOO_LARGE, "Print it to a new PDF and send that one.");
  if (name === "PasswordException")
    return cannotOpen("a PDF that a password protects", "Save it without a password and send that one.");
  return cannotOpen(
    `a damaged PDF (${(message ?? "no reason given").slice(0, 120)})`,
    "Open it where it was made, save it anew and send that one.",
  );
}
