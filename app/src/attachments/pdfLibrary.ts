import type * as Pdf from "pdfjs-dist";

/** What the library needs besides, all of it shipped with the application. */
const AT = "/pdf";
/** Scripts, forms and links in documents are left alone; fonts and tables come from here. */
export const HOW = {
  isEvalSupported: false,
  enableXfa: false,
  useWasm: false,
  wasmUrl: `${AT}/wasm/`,
  cMapUrl: `${AT}/cmaps/`,
  standardFontDataUrl: `${AT}/standard_fonts/`,
} as const;

let loading: Promise<typeof Pdf> | null = null;

/** The library that draws PDF, fetched when the first document is opened. */
export function pdfLibrary(): Promise<typeof Pdf> {
  loading ??= new Promise<typeof Pdf>((resolve, reject) => {
    const script = document.createElement("script");
    script.type = "module";
    script.src = `${AT}/pdf.min.mjs`;
    script.onload = () => {
      const { pdfjsLib } = globalThis as unknown as { pdfjsLib: typeof Pdf };
      pdfjsLib.GlobalWorkerOptions.workerSrc = `${AT}/pdf.worker.min.mjs`;
      resolve(pdfjsLib);
    };
    script.onerror = () => {
      // Tried anew when it is wanted again.
      loading = null;
      script.remove();
      reject(new Error("What draws PDF could not be loaded. Check the connection, and open the page again."));
    };
    document.head.append(script);
  });
  return loading;
}
