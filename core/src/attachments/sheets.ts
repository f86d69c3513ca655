import type { PageText, Word } from "./pages";

/** What a sheet is called in the languages of drawing offices. */
const SHEET =
  /^(?:sheet|page|blatt|bl|seite|feuille|folio|foglio|pagina|página|hoja|blad|pag|strona|arkusz|list|ark|sida|side)[.:]*$/i;
const NUMBER = /^(\d{1,4}[a-z]?)(?:[/.,:;]\d*)?$/i;
/** So far beside the word its number stands, and so far under it, in heights of letters. */
const BESIDE = 8;
const UNDER = 3;

/** The number that a page prints of itself; null where it prints none. The last such word counts: frames are drawn last. */
function printedOn({ words }: PageText): string | null {
  let printed: string | null = null;
  for (const w of words) {
    const joined = /^(\p{L}+)[.:]+(\d.*)$/u.exec(w.text);
    const own = joined && SHEET.test(joined[1]!) ? NUMBER.exec(joined[2]!)?.[1] : undefined;
    const number = own ?? (SHEET.test(w.text) ? numberBy(words, w) : undefined);
    if (number !== undefined) printed = number;
  }
  return printed;
}

function numberBy(words: readonly Word[], sheet: Word): string | undefined {
  const numbers = words.filter((w) => NUMBER.test(w.text));
  const beside = numbers
    .filter((w) => Math.abs(w.y + w.h - sheet.y - sheet.h) <= sheet.size / 2)
    .map((w) => ({ w, gap: w.x - (sheet.x + sheet.w) }))
    .filter(({ gap }) => gap >= -1 && gap <= BESIDE * sheet.size);
  const under = numbers
    .filter((w) => w.x < sheet.x + sheet.w && w.x + w.w > sheet.x)
    .map((w) => ({ w, gap: w.y - (sheet.y + sheet.h) }))
    .filter(({ gap }) => gap >= -1 && gap <= UNDER * sheet.size);
  const [nearest] = [...beside, ...under].sort((a, b) => a.gap - b.gap);
  return nearest && NUMBER.exec(nearest.w.text)![1];
}

/**
 * What the sheets of a document are called: what they print of themselves, where most do and no two print the same; else what the
 * document calls them; else their numbers, counted from 1.
 */
export function sheetsOf(pages: readonly PageText[]): string[] {
  const counted = pages.map((_, i) => String(i + 1));
  const most = (all: readonly (string | null)[]): boolean => {
    const there = all.filter((one) => one !== null);
    return there.length * 2 > pages.length && new Set(there).size === there.length;
  };
  const printed = pages.map(printedOn);
  if (most(printed)) return printed.map((p, i) => p ?? follows(printed, i));
  const labels = pages.map((p) => p.label);
  return most(labels) ? labels.map((l) => l ?? "") : counted;
}

/** A sheet that prints no number, as one that is a picture, has the one between those of its neighbours. */
function follows(printed: readonly (string | null)[], i: number): string {
  const before = Number(printed[i - 1] ?? NaN);
  const next = String(before + 1);
  return Number.isInteger(before) && !printed.includes(next) ? next : "";
}

/** The sheet that a reference of the design names: `5` of `5`, `5.3`, `=B1/5.3`, `sheet 5`. */
export function sheetNamed(reference: string): string | null {
  const last = reference.split("/").findLast((p) => /^\D*\d/.test(p) && !/^[=+]/.test(p)) ?? reference;
  // `5/3` is column 3 of sheet 5: where the part before is a plain number, that one is the sheet.
  const first = /^\s*(\d{1,4}[a-z]?)\s*\/\s*\d+\s*$/i.exec(reference);
  return first?.[1] ?? /(\d{1,4}[a-z]?)(?:[.,]\d+)?\s*$/i.exec(last)?.[1] ?? null;
}
