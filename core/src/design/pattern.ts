/**
 * What is written on a label: plain text, fields in braces, and stretches in brackets that stand only where all their fields have
 * something to say. A backslash before a sign means the sign itself.
 *
 *   {wire}    {here} [{net} ]{there}    \\{as it is\\}
 */

export const FIELDS = {
  wire: "number of the wire",
  net: "name of its net",
  colour: "colour code, IEC 60757",
  size: "cross-section in mm²",
  here: "device and pin of this end, -K1:A1",
  device: "device of this end",
  pin: "pin of this end",
  there: "device and pin of the other end",
  other: "device of the other end",
  otherpin: "pin of the other end",
  job: "code of the job",
  enclosure: "enclosure of this end",
  bundle: "bundle it is tied in",
} as const;
export type Field = keyof typeof FIELDS;
export type Values<F extends string = Field> = Readonly<Record<F, string>>;

/** What a column of the file of a machine may say of a lead. */
export const LEAD_FIELDS = {
  batch: "name of the batch",
  order: "place in it, from one",
  wire: "number of the wire",
  net: "name of its net",
  colour: "colour",
  size: "cross-section in mm²",
  strand: "strand class",
  type: "wire it is cut from",
  length: "length to cut, in the unit of the file",
  from: "device it comes from",
  from_pin: "its pin",
  from_end: "treatment of this end",
  from_part: "what is put on it",
  from_strip: "length to strip, in the unit of the file",
  from_label: "what is written on it",
  to: "device it goes to",
  to_pin: "its pin",
  to_end: "treatment of this end",
  to_part: "what is put on it",
  to_strip: "length to strip, in the unit of the file",
  to_label: "what is written on it",
  bundle: "bundle it is tied in",
  pair: "crimps it shares",
} as const;
export type LeadField = keyof typeof LEAD_FIELDS;

export type PatternPart<F extends string = Field> =
  | { kind: "text"; text: string }
  | { kind: "field"; field: F }
  /** Left out where one of its fields is empty. */
  | { kind: "maybe"; parts: PatternPart<F>[] };

export type Parsed<F extends string = Field> =
  { ok: true; parts: PatternPart<F>[] } | { ok: false; at: number; reason: string };

const MOST = 200;

/** Reads a pattern of labels. Never throws on any text. O(signs) */
export const parsePattern = (text: string): Parsed => parseWith(text, FIELDS);

/** The same with other fields. */
export function parseWith<F extends string>(text: string, fields: Readonly<Record<F, string>>): Parsed<F> {
  const isField = (name: string): name is F => Object.hasOwn(fields, name);
  if (text.length > MOST) return { ok: false, at: MOST, reason: `a pattern has ${MOST} signs at most` };
  const outer: PatternPart<F>[] = [];
  let parts = outer;
  let opened = -1;
  let plain = "";
  const flush = (): void => {
    if (plain !== "") parts.push({ kind: "text", text: plain });
    plain = "";
  };
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (c === "\\") {
      if (i + 1 === text.length) return { ok: false, at: i, reason: "a backslash stands before a sign" };
      plain += text[++i]!;
    } else if (c === "{") {
      const end = text.indexOf("}", i);
      if (end < 0) return { ok: false, at: i, reason: "this brace is not closed" };
      const name = text.slice(i + 1, end).trim();
      if (!isField(name))
        return {
          ok: false,
          at: i + 1,
          reason: name === "" ? "a field has a name" : `there is no field "${name.slice(0, 30)}"`,
        };
      flush();
      parts.push({ kind: "field", field: name });
      i = end;
    } else if (c === "}") return { ok: false, at: i, reason: "this brace was not opened" };
    else if (c === "[") {
      if (opened >= 0) return { ok: false, at: i, reason: "brackets do not stand within brackets" };
      flush();
      opened = i;
      const maybe: PatternPart<F> & { kind: "maybe" } = { kind: "maybe", parts: [] };
      outer.push(maybe);
      parts = maybe.parts;
    } else if (c === "]") {
      if (opened < 0) return { ok: false, at: i, reason: "this bracket was not opened" };
      flush();
      if (!parts.some((p) => p.kind === "field"))
        return { ok: false, at: opened, reason: "nothing in these brackets can be left out: they have no field" };
      opened = -1;
      parts = outer;
    } else plain += c;
  }
  if (opened >= 0) return { ok: false, at: opened, reason: "this bracket is not closed" };
  flush();
  return { ok: true, parts: outer };
}

/** What a pattern says of one end, or of whatever its fields are of. */
export function writeLabel<F extends string>(parts: readonly PatternPart<F>[], values: Values<F>): string {
  return parts
    .map((p): string => {
      if (p.kind === "text") return p.text;
      if (p.kind === "field") return values[p.field];
      const empty = p.parts.some((q) => q.kind === "field" && values[q.field] === "");
      return empty ? "" : writeLabel(p.parts, values);
    })
    .join("");
}
