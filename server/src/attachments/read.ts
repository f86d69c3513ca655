import type { AttachmentType } from "@gray-bench/contract/attachments";
import { READING_VERSION } from "@gray-bench/core/attachments/pages";
import { isPdf } from "@gray-bench/core/attachments/kind";
import { notAttachable } from "./errors";
import { readingOf, type Reading } from "../store/received";
import type { Workers } from "../workers/pool";

const BEGINS: readonly (readonly [AttachmentType, RegExp])[] = [
  ["image/png", /^\x89PNG\r\n\x1a\n/],
  ["image/jpeg", /^\xff\xd8\xff/],
  ["image/webp", /^RIFF[\s\S]{4}WEBP/],
];

/** What a file is that can be attached, by its first bytes and never by its name; null where it is none. */
export function typeOf(bytes: Uint8Array): AttachmentType | null {
  if (isPdf(bytes)) return "application/pdf";
  const head = Buffer.from(bytes.subarray(0, 16)).toString("latin1");
  return BEGINS.find(([, begins]) => begins.test(head))?.[0] ?? null;
}

/** A file looked into before it is attached. */
export interface LookedInto {
  type: AttachmentType;
  /** What a document says; null of a picture. */
  reading: Reading | null;
}

/** @throws attachment.refused where it is neither a document nor a picture that a browser shows, or damaged */
export async function lookInto(
  workers: Workers,
  { bytes, name }: { bytes: Uint8Array; name: string },
  gone?: AbortSignal,
): Promise<LookedInto> {
  const type = typeOf(bytes);
  if (!type) throw notAttachable(name, "it is none of PDF, PNG, JPEG and WebP", "Save it in one of these forms.");
  if (type !== "application/pdf") return { type, reading: null };
  const read = await workers.readDocument(bytes, gone);
  if (!read.ok) throw notAttachable(name, read.found, read.remedy);
  const { json, pages, empty } = read;
  return { type, reading: await readingOf(json, { version: READING_VERSION, pages, empty }) };
}
