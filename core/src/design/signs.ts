/** What can be shown: no control characters, no halves of pairs, no code points that are no characters. */
const SIGN =
  "(?:[^\\u0000-\\u001F\\u007F-\\u009F\\uD800-\\uDFFF\\uFDD0-\\uFDEF\\uFFFE\\uFFFF]|[\\uD800-\\uDBFF][\\uDC00-\\uDFFF])";
/** Names that the design itself gives: option keys, tags. */
export const ANY_KEY = new RegExp(`^${SIGN}{1,120}$`);
export const SHOWN = new RegExp(`^${SIGN}*$`);
export const WORDS = "text without control characters";

/** Names that mean something to the language itself: nothing goes by them, as tables are kept by name. */
export const LANGUAGE_NAMES = ["__proto__", "constructor", "prototype"] as const;
