import type { PDFDocumentProxy } from "pdfjs-dist";
import { useEffect, useState } from "react";
import { ApiError, call } from "../kit/api";
import { HOW, pdfLibrary } from "./pdfLibrary";

/** More than this a phone does not draw at once, pixels of a page. */
const MOST_PIXELS = 12_000_000;
const MOST_SIDE = 4096;
/** Pages are drawn in few sizes, so that not each step of zooming draws them anew. */
const STEPS = [1, 2, 4] as const;

interface Opened {
  url: string;
  doc: PDFDocumentProxy | null;
  error: Error | null;
}

/** A PDF, opened; closed when another one is, or none any more. */
export function useDocument(url: string | null): Omit<Opened, "url"> {
  const [opened, setOpened] = useState<Opened>({ url: "", doc: null, error: null });
  useEffect(() => {
    if (url === null) return;
    const stop = new AbortController();
    let doc: PDFDocumentProxy | null = null;
    const open = async (): Promise<void> => {
      const [library, data] = await Promise.all([pdfLibrary(), bytesOf(url, stop.signal)]);
      if (stop.signal.aborted) return;
      const task = library.getDocument({ ...HOW, data });
      stop.signal.addEventListener("abort", () => void task.destroy());
      doc = await task.promise;
      setOpened({ url, doc, error: null });
    };
    open().catch((error: unknown) => {
      if (!stop.signal.aborted) setOpened({ url, doc: null, error: error as Error });
    });
    return () => stop.abort();
  }, [url]);
  return url !== null && opened.url === url ? opened : { doc: null, error: null };
}

/** @throws ApiError as other calls do */
async function bytesOf(url: string, signal: AbortSignal): Promise<Uint8Array> {
  let reply: Response;
  try {
    reply = await fetch(url, { signal });
  } catch (error) {
    if (signal.aborted) throw error;
    // Says the same as every other call that reaches nobody.
    await call(url.replace(/^\/api/, ""), { signal });
    throw error;
  }
  if (!reply.ok) throw new ApiError(reply.status, (await reply.json()) as ApiError["body"]);
  return new Uint8Array(await reply.arrayBuffer());
}

/** How large a page is drawn, in pixels of a point: enough for the zoom, and no more than a phone can hold. */
export function drawnScale(wanted: number, w: number, h: number): number {
  const most = Math.min(MOST_SIDE / Math.max(w, h), Math.sqrt(MOST_PIXELS / (w * h)));
  const step = STEPS.find((s) => s >= wanted) ?? STEPS.at(-1)!;
  return Math.min(step, most);
}

interface Picture {
  page: number;
  scale: number;
  url: string;
}

/**
 * A page as a picture; while it is drawn larger the one before stands.
 * @param scale pixels of a point
 */
export function usePicture(
  doc: PDFDocumentProxy | null,
  page: number,
  scale: number,
): { picture: string | null; error: Error | null } {
  const [drawn, setDrawn] = useState<Picture | null>(null);
  const [failed, setFailed] = useState<{ page: number; error: Error } | null>(null);
  useEffect(() => {
    if (!doc || page > doc.numPages) return;
    let stopped = false;
    let stop = (): void => undefined;
    const draw = async (): Promise<void> => {
      const one = await doc.getPage(page);
      if (stopped) return;
      const viewport = one.getViewport({ scale });
      const canvas = document.createElement("canvas");
      canvas.width = Math.ceil(viewport.width);
      canvas.height = Math.ceil(viewport.height);
      const task = one.render({ canvas, viewport });
      stop = () => task.cancel();
      await task.promise;
      const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done));
      canvas.width = canvas.height = 0;
      if (stopped || !blob) return;
      setDrawn({ page, scale, url: URL.createObjectURL(blob) });
      setFailed(null);
    };
    draw().catch((error: unknown) => {
      if (!stopped) setFailed({ page, error: error as Error });
    });
    return () => {
      stopped = true;
      stop();
    };
  }, [doc, page, scale]);
  const url = drawn?.url;
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  return {
    picture: drawn?.page === page ? drawn.url : null,
    error: failed?.page === page ? failed.error : null,
  };
}

/** How large a picture is; null until it is there. */
export function useImageSize(url: string | null): { size: { w: number; h: number } | null; failed: boolean } {
  const [known, setKnown] = useState<{ url: string; w: number; h: number } | null>(null);
  useEffect(() => {
    if (url === null) return;
    const image = new Image();
    image.onload = () => setKnown({ url, w: image.naturalWidth, h: image.naturalHeight });
    image.onerror = () => setKnown({ url, w: 0, h: 0 });
    image.src = url;
    return () => {
      image.onload = image.onerror = null;
    };
  }, [url]);
  const there = known && known.url === url ? known : null;
  return { size: there && there.w > 0 ? there : null, failed: there !== null && there.w === 0 };
}
