import type { Box, Word } from "./pages";

/** A piece of text as a document draws it. */
export interface Run {
  text: string;
  /** Where it begins, on its base line. */
  x: number;
  y: number;
  /** The way it runs, as a unit vector; y is down. */
  dx: number;
  dy: number;
  /** How far it runs, and how high its letters are. */
  length: number;
  height: number;
}

/** Shares of the height of letters: they stand up from their base line and hang down from it. */
const UP = 0.78;
const DOWN = 0.22;
/** Runs nearer than this belong to one word, in heights: documents break words where they like. */
const SAME_WORD = 0.17;
/** Runs farther apart are on no line together. */
const SAME_LINE = 4;
/** Base lines that differ by no more are one. */
const SAME_BASE = 0.25;
/** Letters whose heights differ by more are not of one word. */
const SAME_HEIGHT = 1.3;

const DASHES = /[‐‑‒–—−﹣-]/g;
const UNSEEN = /[\p{Cf}\p{Cc}]/gu;

interface Piece extends Run {
  /** Along its way, and across it. */
  from: number;
  base: number;
}

/**
 * Words of a page, of the runs that draw it: runs that stand close together on one base line are one word, blanks part words within a
 * run. The width of a run is taken as shared evenly by its letters. O(n log n)
 */
export function wordsOf(runs: readonly Run[]): Word[] {
  const pieces = runs.flatMap(piecesOf);
  const ways = new Map<string, Piece[]>();
  for (const p of pieces) {
    const way = `${Math.round(p.dx * 50)} ${Math.round(p.dy * 50)}`;
    const there = ways.get(way);
    if (there) there.push(p);
    else ways.set(way, [p]);
  }
  const words: Word[] = [];
  let line = 0;
  for (const way of ways.values()) {
    way.sort((a, b) => a.base - b.base || a.from - b.from);
    for (let i = 0; i < way.length;) {
      // Pieces about on one base line, in the order along it.
      let end = i + 1;
      while (end < way.length && way[end]!.base - way[end - 1]!.base <= SAME_BASE * way[i]!.height) end++;
      const row = way.slice(i, end).sort((a, b) => a.from - b.from);
      i = end;
      let word: Piece[] = [];
      const close = (): void => {
        if (word.length > 0)
          words.push({ text: word.map((p) => p.text).join(""), ...around(word), size: tenth(word[0]!.height), line });
        word = [];
      };
      for (const p of row) {
        const last = word.at(-1);
        if (last) {
          const gap = p.from - (last.from + last.length);
          const height = Math.max(p.height, last.height);
          const alike = height <= SAME_HEIGHT * Math.min(p.height, last.height);
          // Text drawn twice, for bold letters, or over one another, is not one word.
          if (alike && Math.abs(gap) <= SAME_WORD * height && p.from > last.from) {
            word.push(p);
            continue;
          }
          close();
          if (gap > SAME_LINE * height) line++;
        }
        word.push(p);
      }
      close();
      line++;
    }
  }
  return words;
}

function piecesOf(run: Run): Piece[] {
  const text = run.text.normalize("NFKC").replace(DASHES, "-").replace(UNSEEN, "");
  const each = text.length === 0 ? 0 : run.length / text.length;
  const from = run.x * run.dx + run.y * run.dy;
  const base = run.y * run.dx - run.x * run.dy;
  return [...text.matchAll(/\S+/g)].map(({ 0: word, index }) => ({
    ...run,
    text: word,
    x: run.x + index * each * run.dx,
    y: run.y + index * each * run.dy,
    length: word.length * each,
    from: from + index * each,
    base,
  }));
}

/** The box around pieces, upright. */
function around(pieces: readonly Piece[]): Box {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y, dx, dy, length, height } of pieces)
    for (const along of [0, length])
      for (const up of [UP * height, -DOWN * height]) {
        // A step up from the base line: the way turned a quarter against the clock as it is seen, y being down.
        const px = x + along * dx + up * dy;
        const py = y + along * dy - up * dx;
        [left, right] = [Math.min(left, px), Math.max(right, px)];
        [top, bottom] = [Math.min(top, py), Math.max(bottom, py)];
      }
  return { x: tenth(left), y: tenth(top), w: tenth(right - left), h: tenth(bottom - top) };
}

const tenth = (n: number): number => Math.round(n * 10) / 10;
