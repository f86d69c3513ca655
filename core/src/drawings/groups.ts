import { Unreadable } from "./unreadable";

/**
 * A DXF file is lines in pairs: a number that says what follows, and the value. Before the package reads them, they are looked through
 * here: kinds of entities that we do not use are set aside and counted with their place, so that none of them can keep the others from
 * being read, and a file that is no DXF is refused with the line.
 */

/** Kinds that are read. */
const READ: ReadonlySet<string> = new Set([
  "LINE",
  "LWPOLYLINE",
  "POLYLINE",
  "VERTEX",
  "SEQEND",
  "CIRCLE",
  "ARC",
  "TEXT",
  "MTEXT",
  "INSERT",
  "ATTRIB",
  "BLOCK",
  "ENDBLK",
]);

/** Kinds that only explain what is drawn: nothing is missed without them. */
const EXPLAINS: ReadonlySet<string> = new Set([
  "DIMENSION",
  "HATCH",
  "POINT",
  "VIEWPORT",
  "LEADER",
  "MULTILEADER",
  "ATTDEF",
  "XLINE",
  "RAY",
  "SOLID",
  "IMAGE",
  "WIPEOUT",
]);

/** Entities that are not read, of one kind and layer. */
export interface SetAside {
  what: string;
  layer: string;
  count: number;
  /** Where the first of them is, in units of the drawing; null where it does not say. */
  at: { x: number; y: number } | null;
  /** The block it is drawn in; null: in the drawing itself. */
  block: string | null;
  /** Something may be missed without it. */
  matters: boolean;
}

export interface Groups {
  /** What the package reads. */
  text: string;
  setAside: SetAside[];
  /** As the header names it, such as AC1027; empty where it does not. */
  version: string;
}

/** Half a million lines drawn: with more a worker would be full before anything is read. */
const MOST_LINES = 5_000_000;
/** Sections that hold what is drawn. */
const DRAWN: ReadonlySet<string> = new Set(["ENTITIES", "BLOCKS"]);
const TAKEN: ReadonlySet<string> = new Set([...DRAWN, "HEADER", "TABLES"]);
/** Of tables that of the layers is taken: of the others, each in a form of its own, nothing is wanted. */
const LISTED: ReadonlySet<string> = new Set(["TABLE", "LAYER", "ENDTAB"]);
/** Words of the form: as a value they would be taken for it. */
const WORDS: ReadonlySet<string> = new Set(["BLOCK", "ENDBLK", "SECTION", "ENDSEC", "EOF"]);

const shown = (text: string): string => JSON.stringify(text.length > 40 ? `${text.slice(0, 40)}…` : text);

/**
 * Looks through the text of a DXF file. O(text)
 * @throws Unreadable where it is none
 */
export function groupsOf(text: string): Groups {
  const out: string[] = [];
  const aside = new Map<string, SetAside>();
  let version = "";
  let section = "";
  let begun = false;
  let block: string | null = null;
  let naming = false;
  let kind = "";
  let skipping: SetAside | null = null;
  let marked = true;
  let header = "";
  let line = 0;
  let ended = false;
  const lines = linesOf(text);
  for (let code = lines(); code !== null; code = lines()) {
    const value = lines();
    line += 2;
    if (line > MOST_LINES)
      throw new Unreadable(`more than ${MOST_LINES} lines`, "Draw the layout alone, without what stands around it.");
    if (code.trim() === "" && value === null) break;
    const group = /^\s*-?\d{1,4}\s*$/.test(code) ? Number(code) : NaN;
    if (Number.isNaN(group) || value === null)
      throw new Unreadable(
        value === null
          ? `an end after line ${line - 1}`
          : `${shown(code)} on line ${line - 1}, where a number is wanted`,
        "The file is cut off or changed: save it as DXF again.",
      );
    const told = value.trim();
    if (group === 999) continue;
    if (group === 0) {
      if (skipping) count(skipping, aside);
      skipping = null;
      if (told === "EOF") {
        ended = true;
        break;
      }
      if (told === "SECTION") [begun, section] = [true, ""];
      else if (!begun) throw new Unreadable(shown(told), "A DXF file begins with a section.");
      else if (told === "ENDSEC") {
        if (TAKEN.has(section)) out.push("0", "ENDSEC");
        section = "";
        begun = true;
        continue;
      }
      kind = told;
      if (kind === "BLOCK") naming = true;
      if (kind === "ENDBLK") block = null;
      marked = false;
      if (DRAWN.has(section) && !READ.has(kind)) {
        skipping = { what: kind, layer: "0", count: 1, at: null, block, matters: !EXPLAINS.has(kind) };
        continue;
      }
      if (TAKEN.has(section) && (section !== "TABLES" || LISTED.has(kind))) out.push("0", told);
      continue;
    }
    if (section === "" && kind === "SECTION" && group === 2) {
      section = told;
      if (TAKEN.has(section)) out.push("0", "SECTION", "2", told);
      continue;
    }
    if (section === "HEADER") {
      if (group === 9) header = told;
      else if (header === "$ACADVER" && group === 1) version = told;
    }
    if (skipping) {
      note(skipping, group, told);
      continue;
    }
    if (!TAKEN.has(section) || (section === "TABLES" && !LISTED.has(kind))) continue;
    if (naming && group === 2 && kind === "BLOCK") [block, naming] = [told, false];
    // Old files do not mark where an attribute's own groups begin.
    if (kind === "ATTRIB" && group === 100) marked = true;
    if (kind === "ATTRIB" && group === 2 && !marked) out.push("100", ATTRIBUTE);
    out.push(String(group), WORDS.has(told) ? `${told} ` : told);
  }
  if (!begun) throw new Unreadable("no section", "Save the drawing as DXF.");
  if (section !== "")
    throw new Unreadable(
      `an end in the section ${section}${ended ? "" : `, after line ${line}`}`,
      "The file is cut off: save it as DXF again.",
    );
  return { text: out.join("\n"), setAside: [...aside.values()], version };
}

const ATTRIBUTE = "AcDbAttribute";

/** What of a set aside entity is told: its layer and its first point. */
function note(one: SetAside, group: number, told: string): void {
  if (group === 8) one.layer = told;
  const value = Number(told);
  if (!Number.isFinite(value)) return;
  if (group === 10) one.at ??= { x: value, y: 0 };
  else if (group === 20 && one.at?.y === 0) one.at.y = value;
}

function count(one: SetAside, all: Map<string, SetAside>): void {
  const key = JSON.stringify([one.what, one.layer, one.block]);
  const known = all.get(key);
  if (known) known.count++;
  else all.set(key, one);
}

/** One line after the other; null at the end. */
function linesOf(text: string): () => string | null {
  let at = 0;
  return () => {
    if (at > text.length || (at === text.length && at > 0)) return null;
    let end = at;
    while (end < text.length && text[end] !== "\n" && text[end] !== "\r") end++;
    const line = text.slice(at, end);
    at = end + (text[end] === "\r" && text[end + 1] === "\n" ? 2 : 1);
    return line;
  };
}
