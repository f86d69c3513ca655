import { LEAD_FIELDS, parseWith, writeLabel, type LeadField, type PatternPart, type Values } from "../design/pattern";
import type { Profile, ProfileCode, ProfileColumn, PrepRules } from "./rules";
import { toXml, toXsd, XML_NAME, type XmlColumn } from "../formats/xml";
import { leadsIn } from "./chains";
import type { Chain, Lead } from "./result";

/** A file as the machine takes it, or why it cannot be written. */
export type Written =
  { ok: true; name: string; type: string; bytes: Uint8Array; xsd?: string } | { ok: false; reasons: string[] };

export type ProfileRules = Pick<PrepRules, "profiles" | "columns" | "codes">;

interface Column extends XmlColumn {
  parts: readonly PatternPart<LeadField>[];
}

const MM_PER_INCH = 25.4;
/** Cells of one file: 10,000 leads in 200 columns. */
const MOST_CELLS = 2_000_000;

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
  reasons.push(...signFaults(profile));
  const code = codesOf(name, rules.codes);
  if (reasons.length > 0) return { ok: false, reasons };
  const leads = leadsIn(chains);
  if (leads.length * columns.length > MOST_CELLS)
    return {
      ok: false,
      reasons: [
        `${leads.length} leads in ${columns.length} columns are more than one file holds: make smaller batches`,
      ],
    };
  const rows = leads.map((lead, i) => {
    const { row, faults } = rowOf(valuesOf(batch, i + 1, lead, profile, code), columns, profile);
    reasons.push(...faults.map((f) => `wire ${lead.wire}, ${f}`));
    return row;
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
  return { ok: true, name: `${batch}.csv`, type: "text/csv", bytes: encoded(text, profile.encoding) };
}

/** Cells of one lead, and which of them cannot be written: no number where one is wanted, a sign that the encoding lacks. */
function rowOf(
  values: Values<LeadField>,
  columns: readonly Column[],
  profile: Profile,
): { row: string[]; faults: string[] } {
  const faults: string[] = [];
  const row = columns.map((c) => {
    const text = writeLabel(c.parts, values);
    const fits = c.as === "text" || (c.as === "whole" ? /^\d+$/ : /^\d+(\.\d+)?$/).test(text);
    if (!fits) faults.push(`column ${c.name}: "${text}" is no ${c.as === "whole" ? "whole number" : "number"}`);
    const foreign = profile.as === "csv" && profile.encoding === "latin-1" ? BEYOND_LATIN.exec(text) : null;
    if (foreign)
      faults.push(`column ${c.name}: "${foreign[0]}" is no sign of latin-1, in which ${profile.profile} is written`);
    return c.as === "number" && profile.as === "csv" ? text.replace(".", profile.decimal ?? ".") : text;
  });
  return { row, faults };
}

const BEYOND_LATIN = /[^\u0000-\u00FF]/u;

/** What a machine calls things. */
function codesOf(name: string, codes: readonly ProfileCode[]): (of: ProfileCode["of"], ours: string) => string {
  const known = new Map(
    [...codes].reverse().flatMap((c) => (c.profile === name ? [[`${c.of} ${c.ours}`, c.theirs] as const] : [])),
  );
  return (of, ours) => known.get(`${of} ${ours}`) ?? ours;
}

/**
 * Why a lead cannot stand in the file of a profile; null where it can. Where the profile itself cannot be written no lead is at fault.
 * O(columns) for a lead
 */
export function leadFaults(name: string, rules: ProfileRules, batch = ""): (lead: Lead) => string | null {
  const profile = rules.profiles.find((p) => p.profile === name);
  const { columns, reasons } = profile ? columnsOf(profile, rules.columns) : { columns: [], reasons: [] };
  if (!profile || reasons.length > 0) return () => null;
  const code = codesOf(name, rules.codes);
  return (lead) => rowOf(valuesOf(batch, 1, lead, profile, code), columns, profile).faults[0] ?? null;
}

/** Why nothing can be written as a profile says, whatever the leads are; none where it can. O(columns) */
export function profileFaults(name: string, rules: ProfileRules): string[] {
  const profile = rules.profiles.find((p) => p.profile === name);
  if (!profile) return [`the shop has no profile ${name}`];
  const names = profile.as === "xml" ? [profile.list ?? "leads", profile.lead ?? "lead"] : [];
  return [
    ...columnsOf(profile, rules.columns).reasons,
    ...signFaults(profile),
    ...names.filter((n) => !XML_NAME.test(n)).map((n) => `"${n}" is no name of an element`),
  ];
}

/**
 * Signs between cells and within numbers by which nobody could part a row again: none for XML. One sign stands between cells, and it is
 * no quote, no end of a line, nothing that a number or a name is made of; the decimal sign is a point or a comma, and another one.
 */
function signFaults({ profile, as, separator = ",", decimal = "." }: Profile): string[] {
  if (as === "xml") return [];
  const parts = separator === "tab" || (separator.length === 1 && /[^\s"'\w.+-]/u.test(separator));
  return [
    ...(parts ? [] : [`"${separator}" of ${profile} parts no cells: one of ; , | : or tab does`]),
    ...(decimal === "." || decimal === "," ? [] : [`"${decimal}" of ${profile} is no decimal sign: . and , are`]),
    ...(separator === decimal ? [`cells and decimals of ${profile} are parted by the same "${decimal}"`] : []),
  ];
}

const MOST_REASONS = 20;

/** Every sign of it is one of the encoding. */
function encoded(text: string, encoding: Profile["encoding"]): Uint8Array {
  if (encoding === "utf-8") return new TextEncoder().encode(text);
  return Uint8Array.from(text, (c) => c.charCodeAt(0));
}
