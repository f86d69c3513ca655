import { DOMParser } from "@xmldom/xmldom";
import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { validateXML } from "xmllint-wasm";
import { PREP_RULES, type PrepRules, type ProfileColumn } from "./rules";
import { defaultsOf } from "../shop/rule-kinds";
import { toXml, toXsd } from "../formats/xml";
import { runs } from "../test/runs";
import { machineFile, profileFaults, type Written } from "./profile";
import type { Chain, Lead, LeadEnd } from "./result";

const RULES = defaultsOf(PREP_RULES) as unknown as PrepRules;

const end = (
  treatment: LeadEnd["treatment"],
  part: string | null,
  label: string,
  stripMm: number | null = 10,
): LeadEnd => ({
  device: "-K1",
  pin: "A1",
  treatment,
  part,
  sleeve: null,
  stripMm,
  stripWhy: null,
  label,
  labelOn: "sleeve",
  shared: treatment === "twin ferrule" ? "-K1:A1" : null,
});
const lead = (wire: string, more: Partial<Lead> = {}): Lead => ({
  wire,
  net: "P24",
  colour: "BU",
  sizeMm2: 1.5,
  strand: "fine",
  type: "BL-W15BU",
  lengthMm: 410,
  fallback: false,
  from: end("ferrule", "S-F1.5", wire),
  to: end("twin ferrule", "S-T1.5", wire, 12),
  enclosure: "+A1",
  face: "+A1/plate",
  bundle: "-K1",
  ...more,
});
const chains = (...leads: Lead[]): Chain[] => leads.map((l) => ({ leads: [l] }));
const made = (w: Written): Extract<Written, { ok: true }> => {
  if (!w.ok) throw new Error(w.reasons.join("; "));
  return w;
};
const latin1 = (bytes: Uint8Array): string => Buffer.from(bytes).toString("latin1");

test("a list in tenths of millimetres, with codes, read back by another library", () => {
  const file = made(machineFile("Sedgeley list", "B1", chains(lead("214"), lead("2;1", { lengthMm: 1230.5 })), RULES));
  const text = latin1(file.bytes);
  expect([file.name, text.endsWith("\r\n")]).toEqual(["B1.csv", true]);
  const rows = parse(text, { delimiter: ";", columns: true }) as Record<string, string>[];
  expect(rows[0]).toEqual({
    No: "1",
    Wire: "214",
    Material: "BL-W15BU",
    Section: "1,5",
    Colour: "BU",
    Length: "4100",
    StripA: "100",
    EndA: "10",
    PartA: "S-F1.5",
    TextA: "214",
    StripB: "120",
    EndB: "12",
    PartB: "S-T1.5",
    TextB: "214",
    Bundle: "-K1",
  });
  expect([rows[1]!.Wire, rows[1]!.Length]).toEqual(["2;1", "12305"]);
});

test("orders in XML fit their schema and read back; what they say is as it is, formulas too", async () => {
  const odd = lead('=1+1 & <b> "q"', { colour: "GNYE", from: end("bare", null, "a\tb\nc") });
  const file = made(machineFile("Brack orders", "B 2", chains(lead("214"), odd), RULES));
  const xml = Buffer.from(file.bytes).toString("utf8");
  const check = await validateXML({ xml: [{ fileName: "b.xml", contents: xml }], schema: [file.xsd!] });
  expect(check.errors).toEqual([]);
  expect(check.valid).toBe(true);
  const doc = new DOMParser().parseFromString(xml, "text/xml");
  const said = (n: number, name: string): string =>
    doc.getElementsByTagName("order")[n]!.getElementsByTagName(name)[0]!.textContent ?? "";
  expect([said(0, "mm"), said(0, "left"), said(0, "right"), said(0, "pair")]).toEqual([
    "410",
    "ferrule S-F1.5",
    "double S-T1.5",
    "-K1:A1",
  ]);
  expect([said(1, "wire"), said(1, "colour"), said(1, "left"), said(1, "left_text")]).toEqual([
    odd.wire,
    "GN-YE",
    "none",
    "a\tb\nc",
  ]);
  // The schema does refuse: a number that is none.
  const broken = await validateXML({
    xml: [{ fileName: "b.xml", contents: xml.replace("<mm>410</mm>", "<mm>long</mm>") }],
    schema: [file.xsd!],
  });
  expect(broken.valid).toBe(false);
});

test("whatever wires and labels are called, both files read back as they were", () => {
  const name = fc.string({ unit: "grapheme-ascii", minLength: 1, maxLength: 12 });
  fc.assert(
    fc.property(fc.array(fc.tuple(name, name), { minLength: 1, maxLength: 6 }), (names) => {
      const list = chains(...names.map(([w, l]) => lead(w, { from: end("ferrule", "S-F1.5", l) })));
      const csv = parse(latin1(made(machineFile("Sedgeley list", "B", list, RULES)).bytes), {
        delimiter: ";",
        columns: true,
      }) as Record<string, string>[];
      expect(csv.map((r) => [r.Wire, r.TextA])).toEqual(names);
      const xml = Buffer.from(made(machineFile("Brack orders", "B", list, RULES)).bytes).toString("utf8");
      const doc = new DOMParser().parseFromString(xml, "text/xml");
      const all = (tag: string): string[] => Array.from(doc.getElementsByTagName(tag)).map((e) => e.textContent ?? "");
      expect(all("wire").map((w, i) => [w, all("left_text")[i]])).toEqual(names);
    }),
    { seed: 11, numRuns: runs(60) },
  );
});

test("what cannot be written is refused with its place, and nothing is written", () => {
  const reasons = (rules: Partial<PrepRules>, name = "Sedgeley list", leads = [lead("214")]): string => {
    const w = machineFile(name, "B", chains(...leads), { ...RULES, ...rules });
    return w.ok ? "" : w.reasons.join("; ");
  };
  const column = (
    value: string,
    as: ProfileColumn["as"] = "text",
    of = "Sedgeley list",
    name = "X",
  ): Partial<PrepRules> => ({
    columns: [{ profile: of, name, as, value }],
  });
  expect(reasons({}, "none")).toBe("the shop has no profile none");
  expect(reasons({ columns: [] })).toBe("Sedgeley list has no columns");
  expect(reasons(column("{lenght}"))).toBe('column X of Sedgeley list, sign 2: there is no field "lenght"');
  expect(reasons(column("{wire} {length}", "whole"))).toBe('wire 214, column X: "214 4100" is no whole number');
  expect(reasons(column("{wire}", "text", "Brack orders", "two words"), "Brack orders")).toBe(
    '"two words" is no name of an element',
  );
  expect(reasons({}, "Sedgeley list", [lead("Ω1")])).toContain(
    'wire Ω1, column Wire: "Ω" is no sign of latin-1, in which Sedgeley list is written',
  );
  expect(reasons({}, "Brack orders", [lead("Ω1")])).toBe("");
});

test("names that are none of an element are refused before anything is written", () => {
  expect(() => toXml("a b", "c", [], [])).toThrow(/no name of an element/);
  expect(toXsd("a", "b", [{ name: "c", as: "whole" }])).toContain('type="xs:nonNegativeInteger"');
});

test("more cells than a file holds are refused, and nothing is written for minutes", () => {
  const [column] = RULES.columns.filter((c) => c.profile === "Sedgeley list");
  const columns = Array.from({ length: 2000 }, () => column!);
  const file = machineFile("Sedgeley list", "B1", chains(...Array<Lead>(1001).fill(lead("1"))), { ...RULES, columns });
  expect(file).toEqual({
    ok: false,
    reasons: ["1001 leads in 2000 columns are more than one file holds: make smaller batches"],
  });
});

describe("signs by which nobody could part a row again", () => {
  const signed = (separator: string | undefined, decimal: string | undefined): PrepRules => ({
    ...RULES,
    profiles: RULES.profiles.map((p) =>
      p.profile === "Sedgeley list"
        ? { ...p, ...(separator === undefined ? {} : { separator }), ...(decimal === undefined ? {} : { decimal }) }
        : p,
    ),
  });

  test.each([
    ['"', ",", `""" of Sedgeley list parts no cells: one of ; , | : or tab does`],
    ["'", ",", `"'" of Sedgeley list parts no cells: one of ; , | : or tab does`],
    [";;", ",", `";;" of Sedgeley list parts no cells: one of ; , | : or tab does`],
    ["7", ",", `"7" of Sedgeley list parts no cells: one of ; , | : or tab does`],
    ["x", ",", `"x" of Sedgeley list parts no cells: one of ; , | : or tab does`],
    ["-", ",", `"-" of Sedgeley list parts no cells: one of ; , | : or tab does`],
    [" ", ",", `" " of Sedgeley list parts no cells: one of ; , | : or tab does`],
    [";", ";", `";" of Sedgeley list is no decimal sign: . and , are`],
    [";", "5", `"5" of Sedgeley list is no decimal sign: . and , are`],
    [",", ",", `cells and decimals of Sedgeley list are parted by the same ","`],
  ])("%j between cells and %j in numbers are refused, in the file and before it", (separator, decimal, reason) => {
    const rules = signed(separator, decimal);
    expect(profileFaults("Sedgeley list", rules)).toContain(reason);
    const file = machineFile("Sedgeley list", "B1", chains(lead("214")), rules);
    expect(file.ok ? [] : file.reasons).toContain(reason);
  });

  test.each([
    [";", ",", ";"],
    [",", ".", ","],
    ["|", ",", "|"],
    [":", ".", ":"],
    ["tab", ",", "\t"],
  ])("%j and %j are taken, and the row is parted again", (separator, decimal, delimiter) => {
    const rules = signed(separator, decimal);
    expect(profileFaults("Sedgeley list", rules)).toEqual([]);
    const wire = `2${delimiter}1"x`;
    const text = latin1(made(machineFile("Sedgeley list", "B1", chains(lead(wire)), rules)).bytes);
    const [row] = parse(text, { delimiter, columns: true }) as Record<string, string>[];
    expect([row!.Wire, row!.Section]).toEqual([wire, `1${decimal}5`]);
  });
});
