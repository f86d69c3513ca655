import { LEAD_FIELDS, parseWith, writeLabel, type LeadField, type PatternPart, type Values } from "../design/pattern";
import type { Profile, ProfileCode, ProfileColumn, PrepRules } from "../design/prep-rules";
import { toXml, toXsd, XML_NAME, type XmlColumn } from "../formats/xml";
import type { Chain, Lead } from "./result";

/** A file as the machine takes it, or why it cannot be written. */
export type Written =
  { ok: true; name: string; type: string; bytes: Uint8Array; xsd?: string } | { ok: false; reasons: string[] };

export type ProfileRules = Pick<PrepRules, "profiles" | "columns" | "codes">;

interface Column extends XmlColumn {
  parts: readonly PatternPart<LeadField>[];
}

const MM_PER_INCH = 25.4;

/** A length in the unit of the file: whole steps where it counts in tenths of millimetres. */
function inUnit(mm: number, unit: Profile["unit"]): string {
  if (unit === "0.1 mm") return String(Math.round(mm * 10));
  return String(Math.round((unit === "in" ? mm / MM_PER_INCH : mm) * 10_000) / 10_000);
}

function columnsOf(profile: Profile, columns: readonly ProfileColumn[]): { columns: Column[]; reasons: string[] } {
  const reasons: string[] = [];
  const own = columns.filter((c) => c.profile === profile.profile);
  if (own.length === 0) reasons.push(`${profile.profile} has no columns`);
  const read = own.flatMap((c): Column[] => {
    const parsed = parseWith(c.value, LEAD_FIELDS);
    if (!parsed.ok) {
      reasons.push(`column ${c.name} of ${profile.profile}, sign ${parsed.at + 1}: ${parsed.reason}`);
      return [];
    }
    if (profile.as === "xml" && !XML_NAME.test(c.name)) reasons.push(`"${c.name}" is no name of an element`);
    return [{ name: c.name, as: c.as, parts: parsed.parts }];
  });
  return { columns: read, reasons };
}

function valuesOf(
  batch: string,
  order: number,
  lead: Lead,
  { unit }: Profile,
  code: (of: ProfileCode["of"], ours: string) => string,
): Values<LeadField> {
  const strip = (mm: number | null): string => (mm === null ? "0" : inUnit(mm, unit));
  return {
    batch,
    order: String(order),
    wire: lead.wire,
    net: lead.net ?? "",
    colour: code("colour", lead.colour ?? ""),
    size: String(lead.sizeMm2),
    strand: code("strand", lead.strand),
    type: lead.type ?? "",
    length: inUnit(lead.lengthMm, unit),
    from: lead.from.device,
    from_pin: lead.from.pin,
    from_end: code("end", lead.from.treatment),
    from_part: lead.from.part ?? "",
    from_strip: strip(lead.from.stripMm),
    from_label: lead.from.label,
    to: lead.to.device,
    to_pin: lead.to.pin,
    to_end: code("end", lead.to.treatment),
    to_part: lead.to.part ?? "",
    to_strip: strip(lead.to.stripMm),
    to_label: lead.to.label,
    bundle: lead.bundle,
    pair: [lead.from.shared, lead.to.shared].filter((s) => s !== null).join(" "),
  };
}

/**
 * The file of a batch for a machine, as its profile says. Plain text for programs: nothing in it is defused. What the encoding has no sign
 * for is refused, never written as another one. O(leads · columns)
 */
export function machineFile(name: string, batch: string, chains: readonly Chain[], rules: ProfileRules): Written {
  const profile = rules.profiles.find((p) => p.profile === name);
  if (!profile) return { ok: false, reasons: [`the shop has no profile ${name}`] };
  const { columns, reasons } = columnsOf(profile, rules.columns);
  const codes = new Map(
    [...rules.codes].reverse().flatMap((c) => (c.profile === name ? [[`${c.of} ${c.ours}`, c.theirs] as const] : [])),
  );
  const code = (of: ProfileCode["of"], ours: string): string => codes.get(`${of} ${ours}`) ?? ours;
  if (reasons.length > 0) return { ok: false, reasons };
  const decimal = profile.decimal ?? ".";
  const rows = chains
    .flatMap((c) => c.leads)
    .map((lead, i) => {
      const values = valuesOf(batch, i + 1, lead, profile, code);
      return columns.map((c) => {
        const text = writeLabel(c.parts, values);
        const fits = c.as === "text" || (c.as === "whole" ? /^\d+$/ : /^\d+(\.\d+)?$/).test(text);
        if (!fits)
          reasons.push(
            `column ${c.name}, wire ${lead.wire}: "${text}" is no ${c.as === "whole" ? "whole number" : "number"}`,
          );
        return c.as === "number" && profile.as === "csv" ? text.replace(".", decimal) : text;
      });
    });
  if (reasons.length > 0) return { ok: false, reasons: reasons.slice(0, MOST_REASONS) };
  if (profile.as === "xml") {
    const [list, lead] = [profile.list ?? "leads", profile.lead ?? "lead"];
    const bad = [list, lead].filter((n) => !XML_NAME.test(n));
    if (bad.length > 0) return { ok: false, reasons: bad.map((n) => `"${n}" is no name of an element`) };
    const bytes = new TextEncoder().encode(toXml(list, lead, columns, rows));
    return { ok: true, name: `${batch}.xml`, type: "application/xml", bytes, xsd: toXsd(list, lead, columns) };
  }
  const separator = profile.separator === "tab" ? "\t" : (profile.separator ?? ",");
  const cell = (text: string): string =>
    text.includes(separator) || /["\r\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
  const end = profile.crlf ? "\r\n" : "\n";
  const lines = [...(profile.heads ? [columns.map((c) => c.name)] : []), ...rows].map((r) =>
    r.map(cell).join(separator),
  );
  const text = lines.map((l) => l + end).join("");
  const bytes = encoded(text, profile.encoding);
  return bytes
    ? { ok: true, name: `${batch}.csv`, type: "text/csv", bytes }
    : {
        ok: false,
        reasons: [
          `${profile.profile} is written in latin-1, which has no sign for "${/[^\u0000-\u00FF]/u.exec(text)![0]}"`,
        ],
      };
}

const MOST_REASONS = 20;

/** Null where the encoding has no sign for something. */
function encoded(text: string, encoding: Profile["encoding"]): Uint8Array | null {
  if (encoding === "utf-8") return new TextEncoder().encode(text);
  if (/[^\u0000-\u00FF]/u.test(text)) return null;
  return Uint8Array.from(text, (c) => c.charCodeAt(0));
}
