/** What a person typed, as a text is held against it. */
export interface SearchPattern {
  test(text: string): boolean;
}

/**
 * A pattern for what a person typed: `*` stands for any text, `?` for one character, letter case
 * does not matter. Without a wildcard it matches anywhere in the name. O(text · query) at most, however many stars there are
 */
export function searchPattern(query: string): SearchPattern {
  const wanted = query.toLowerCase();
  if (!/[*?]/.test(wanted)) return { test: (text) => text.toLowerCase().includes(wanted) };
  return { test: (text) => fitsWild(text.toLowerCase(), wanted) };
}

/** Where a star took too little it takes one sign more: only the last star ever has to. */
function fitsWild(text: string, wanted: string): boolean {
  let [at, of] = [0, 0];
  let star = -1;
  let taken = 0;
  while (at < text.length) {
    if (wanted[of] === "*") {
      star = of++;
      taken = at;
    } else if (of < wanted.length && (wanted[of] === "?" || wanted[of] === text[at])) {
      at++;
      of++;
    } else if (star >= 0) {
      of = star + 1;
      at = ++taken;
    } else return false;
  }
  while (wanted[of] === "*") of++;
  return of === wanted.length;
}
