/**
 * Parts of a reference designation (IEC 81346): what belongs to which plant (`=`), where it stands (`+`), and the thing itself (`-`).
 */
export interface Tag {
  /** `B1` of `=B1+A1-K3`; empty where it is left out. */
  plant: string;
  /** `A1` of `=B1+A1-K3`; empty where it is left out. */
  place: string;
  /** `K3` of `=B1+A1-K3`; empty where the tag names no thing. */
  thing: string;
}

const TAG = /^(?:=+([^=+-][^=+]*?))?(?:\++([^=+-][^=+]*?))?(?:-(.+))?$/;

/** The parts of a tag; null where a text is none, as `K3` without its sign. */
export function tagOf(text: string): Tag | null {
  if (!/^[=+-]/.test(text)) return null;
  const found = TAG.exec(text);
  if (!found) return null;
  const [, plant = "", place = "", thing = ""] = found;
  return plant || place || thing ? { plant, place, thing } : null;
}

/** Letters and a number, as a thing is called: `K3`, `Q12A`, `X5`. */
export const CALLED = /^[A-Z]{1,4}\d+[A-Z0-9]*$/i;
