import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import type { PageText } from "./pages";
import { findOnPage, namesOf, type FoundBy, type PageFound, type PlacedKind } from "./places";
import { sheetNamed, sheetsOf } from "./sheets";

/** A document of a job, as it was read. */
export interface ReadDocument {
  id: string;
  /** Of its file. */
  name: string;
  pages: readonly PageText[];
}

/** A page on which a thing is found. */
export interface At {
  document: string;
  /** Counted from 1. */
  page: number;
  /** How often it stands there; 0 where it was not found itself. */
  times: number;
  /** Of a wire of which nothing else is found: both devices it leads to stand there. */
  by: FoundBy | "the design" | "both ends";
}

/** All documents of a job, searched for what the design has. */
export interface DocumentsFound {
  documents: { id: string; pages: PageSummary[] }[];
  /** Where each thing stands: the page that the design names first, then in the order of pages. */
  things: { kind: PlacedKind; of: string; at: At[] }[];
  /** Devices that stand on no page, and of which the design names none that could not be read. */
  nowhere: string[];
  /** Tags on pages that the design does not have, and how often. */
  strange: { text: string; document: string; page: number; times: number }[];
  /** Short tags that may mean several things. */
  unclear: { text: string; document: string; page: number; among: string[] }[];
}

export interface PageSummary {
  sheet: string;
  w: number;
  h: number;
  /** Things found on it. */
  things: number;
  /** It holds no text: a picture, or lines only. */
  empty: boolean;
  trouble: string | null;
}

const MOST_TOLD = 500;
/** Pages of a wire by its ends: they stand together on its own page, and on lists. */
const MOST_BY_ENDS = 4;

/** Every page of a document, searched. O(words of all pages) */
export function findInDocument(design: Design, { pages }: Pick<ReadDocument, "pages">): PageFound[] {
  const names = namesOf(design);
  return pages.map((p) => findOnPage(names, p));
}

/** Puts together what was found in documents. */
export function foundIn(
  design: Design,
  documents: readonly (ReadDocument & { found: readonly PageFound[] })[],
): DocumentsFound {
  const look = lookUp(design);
  const things = new Map<string, DocumentsFound["things"][number]>();
  const thing = (kind: PlacedKind, of: string): At[] => {
    const key = `${kind} ${of}`;
    const there = things.get(key) ?? { kind, of, at: [] };
    things.set(key, there);
    return there.at;
  };
  const strange = new Map<string, DocumentsFound["strange"][number]>();
  const unclear = new Map<string, DocumentsFound["unclear"][number]>();
  const summaries: DocumentsFound["documents"] = [];
  const sheets = new Map<string, { document: string; page: number }[]>();
  for (const { id, pages, found } of documents) {
    const called = sheetsOf(pages);
    summaries.push({
      id,
      pages: pages.map(({ w, h, words, trouble }, i) => ({
        sheet: called[i]!,
        w,
        h,
        things: new Set(found[i]!.found.map((f) => `${f.kind} ${f.of}`)).size,
        empty: words.length === 0,
        trouble,
      })),
    });
    called.forEach((sheet, i) => {
      if (sheet === "") return;
      const there = sheets.get(sheet.toLowerCase()) ?? [];
      there.push({ document: id, page: i + 1 });
      sheets.set(sheet.toLowerCase(), there);
    });
    found.forEach((onPage, i) => {
      const page = i + 1;
      for (const { kind, of, by } of onPage.found) {
        const at = thing(kind, of);
        const last = at.at(-1);
        if (last?.document === id && last.page === page) last.times++;
        else at.push({ document: id, page, times: 1, by });
      }
      for (const { text } of onPage.strange) {
        const there = strange.get(text) ?? { text, document: id, page, times: 0 };
        there.times++;
        strange.set(text, there);
      }
      for (const { text, among } of onPage.unclear)
        if (!unclear.has(text)) unclear.set(text, { text, document: id, page, among });
    });
  }
  const kindOf = (tag: string): PlacedKind | null =>
    look.devices.has(tag) ? "device" : look.strips.has(tag) ? "strip" : look.cables.has(tag) ? "cable" : null;
  const named = [
    ...[...look.devices.values()].flatMap(({ tag, sheet }) => (sheet ? [{ tag, at: pagesNamed(sheets, sheet) }] : [])),
    ...design.attachments.flatMap(({ name, page, for: tag }) => {
      const document = documents.find((d) => sameFile(d.name, name));
      return document && page && tag && page <= document.pages.length
        ? [{ tag, at: [{ document: document.id, page }] }]
        : [];
    }),
  ];
  for (const { tag, at: candidates } of named) {
    const kind = kindOf(tag);
    if (!kind) continue;
    const at = thing(kind, tag);
    const found = at.find((a) => candidates.some((c) => c.document === a.document && c.page === a.page));
    const first = found ?? (candidates[0] && { ...candidates[0], times: 0, by: "the design" as const });
    if (first) at.splice(0, at.length, first, ...at.filter((a) => a !== first));
  }
  for (const { id, wire } of look.wires) {
    if (!wire.from || !wire.to || things.has(`wire ${id}`)) continue;
    const there = things.get(`device ${wire.from.device}`)?.at ?? [];
    const other = things.get(`device ${wire.to.device}`)?.at ?? [];
    const both = there.filter((a) => other.some((b) => b.document === a.document && b.page === a.page));
    for (const { document, page } of both.slice(0, MOST_BY_ENDS))
      thing("wire", id).push({ document, page, times: 0, by: "both ends" });
  }
  const list = [...things.values()].filter((t) => t.at.length > 0);
  const isEmpty = ({ document, page }: At): boolean => summaries.find((d) => d.id === document)!.pages[page - 1]!.empty;
  // Where a page has no text nothing can be found: there the design is believed.
  const placed = new Set(
    list.filter((t) => t.kind === "device" && t.at.some((a) => a.times > 0 || isEmpty(a))).map((t) => t.of),
  );
  const members = new Set(design.strips.flatMap((s) => s.members));
  return {
    documents: summaries,
    things: list,
    nowhere: documents.length === 0 ? [] : [...look.devices.keys()].filter((t) => !placed.has(t) && !members.has(t)),
    strange: [...strange.values()].slice(0, MOST_TOLD),
    unclear: [...unclear.values()].slice(0, MOST_TOLD),
  };
}

/** Pages of the sheet that a reference names. */
function pagesNamed(
  sheets: ReadonlyMap<string, readonly { document: string; page: number }[]>,
  reference: string,
): readonly { document: string; page: number }[] {
  const sheet = sheetNamed(reference);
  return (sheet && sheets.get(sheet.toLowerCase())) || [];
}

const sameFile = (file: string, name: string): boolean =>
  file.toLowerCase().replace(/\.pdf$/, "") === name.toLowerCase().replace(/\.pdf$/, "");
