import { keptFile } from "@gray-bench/core/tables/kept";
import { strToU8, zipSync, type Zippable } from "fflate";
import { LAYOUT_SAID, saltmereLayout } from "./saltmere-layout";
import { saltmereSchematic } from "./saltmere-schematic";

/**
 * What a drawing office sends for the lift-bridge control box of the town of Saltmere: four tables, a drawing and a schematic as untidy as real
 * ones, and what our side says of the drawing. The list of devices and that of connections disagree in five places: -K19 and -P5 are connected but not listed, -X2 has no
 * terminal 21, -K5 is once called -K05, and -F4 stands twice.
 */
export function saltmere(): Record<string, Uint8Array> {
  return {
    "Geraeteliste.csv": latin1(devices()),
    "Verbindungen.csv": strToU8(`\uFEFF${connections()}`),
    "Klemmen und Kabel.xlsx": book(),
    "Teile.csv": strToU8(parts()),
    "Aufbau.dxf": saltmereLayout(),
    "Stromlaufplan.pdf": saltmereSchematic({ devices: DEVICES, nets: NETS, strips: STRIPS }),
    "Saltmere.matching.json": strToU8(keptFile({ name: "Saltmere", tables: [], drawings: [LAYOUT_SAID] })),
    "job.json": strToU8(
      `${JSON.stringify({ code: "SALT-2701", title: "Saltmere lift bridge, control box", revision: "A", customer: "Town of Saltmere", due: "2027-04-30" }, null, 2)}\n`,
    ),
  };
}

const latin1 = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);

const DEVICES: readonly (readonly [string, string, string, number])[] = [
  ["-Q0", "OH-SW100", "Hauptschalter", 2],
  ["-Q1", "OH-M25", "Antrieb Klappe", 2],
  ["-Q2", "OH-M25", "Antrieb Riegel", 3],
  ["-F1", "OH-B2C10", "Netzteil", 4],
  ["-F2", "OH-B1C6", "Heizung", 4],
  ["-F3", "OH-B1C6", "Schranke", 4],
  ["-F4", "OH-B1C6", "Beleuchtung", 4],
  ["-G1", "BL-S480", "Netzteil 24 V", 4],
  ["-K1", "OH-K25", "Klappe auf", 5],
  ["-K2", "OH-K25", "Klappe ab", 5],
  ["-K3", "OH-K9", "Riegel auf", 6],
  ["-K4", "OH-K9", "Riegel zu", 6],
  ["-K5", "FW-SR2", "Not-Halt", 7],
  ...range(11, 18).map((n) => [`-K${n}`, "FW-R6", `Melderelais ${n - 10}`, 8 + Math.floor((n - 11) / 4)] as const),
  ["-A1", "TT-C8", "Steuerung", 10],
  ["-A2", "TT-DI8", "Eingänge 1-8", 10],
  ["-A3", "TT-DO8", "Ausgänge 1-8", 11],
  ["-S0", "QM-ES", "Not-Halt Bedienpult", 7],
  ...(["Klappe auf", "Klappe ab", "Riegel auf", "Riegel zu", "Quittieren"] as const).map(
    (text, i) => [`-S${i + 1}`, "QM-PB", text, 12] as const,
  ),
  ["-S6", "QM-KS", "Schlüsselschalter Ort/Fern", 12],
  ...(["offen", "zu", "Störung", "Fern"] as const).map((text, i) => [`-P${i + 1}`, "QM-PL", text, 13] as const),
  ["-E1", "TT-H60", "Schrankheizung", 4],
  ["-F4", "OH-B1C6", "Beleuchtung", 14],
];

const HEAD = "Anlage;Ort;Betriebsmittel;Artikelnummer;Benennung;Blatt";

function devices(): string {
  const rows = DEVICES.map(([tag, part, text, sheet]) => `=B1;+A1;${tag.slice(1)};${part};${text};${sheet}`);
  // Printed to a file: titles above, headings on each page.
  return [
    "Stadtwerke Saltmere;;;;;",
    "Klappbrücke, Bedienkasten +A1;;;;Stand 12.11.2026;",
    "Geräteliste;;;;;Seite 1",
    "",
    HEAD,
    ...rows.slice(0, 20),
    "",
    HEAD,
    ...rows.slice(20),
    "",
  ].join("\r\n");
}

/** Net, size in mm², colour as the office writes it, and the pins in the order in which they are connected. */
const NETS: readonly (readonly [string, string, string, readonly string[]])[] = [
  ["L1", "4", "sw", ["-X1:1", "-Q0:1"]],
  ["L2", "4", "sw", ["-X1:2", "-Q0:3"]],
  ["L3", "4", "sw", ["-X1:3", "-Q0:5"]],
  ["L1.1", "2,5", "sw", ["-Q0:2", "-Q1:1L1", "-Q2:1L1", "-F1:1", "-F2:1", "-F3:1", "-F4:1"]],
  ["L2.1", "2,5", "sw", ["-Q0:4", "-Q1:3L2", "-Q2:3L2"]],
  ["L3.1", "2,5", "sw", ["-Q0:6", "-Q1:5L3", "-Q2:5L3"]],
  ["N", "2,5", "bl", ["-X1:N", "-F1:3", "-X2:1"]],
  ["L1.2", "1,5", "sw", ["-F1:2", "-G1:L"]],
  ["N.2", "1,5", "bl", ["-F1:4", "-G1:N"]],
  ["L1.3", "1,5", "sw", ["-F2:2", "-E1:L"]],
  ["N.3", "1,5", "bl", ["-X2:1", "-E1:N"]],
  ["L1.4", "1,5", "sw", ["-F3:2", "-X2:2"]],
  ["L1.5", "1,5", "sw", ["-F4:2", "-X2:3"]],
  ["PE", "2,5", "gnge", ["-X1:PE", "-G1:PE", "-E1:PE", "-X2:PE"]],
  ["1U1", "2,5", "sw", ["-Q1:2T1", "-K1:1L1", "-K2:1L1"]],
  ["1V1", "2,5", "sw", ["-Q1:4T2", "-K1:3L2", "-K2:3L2"]],
  ["1W1", "2,5", "sw", ["-Q1:6T3", "-K1:5L3", "-K2:5L3"]],
  ["1U", "2,5", "sw", ["-X1:4", "-K1:2T1", "-K2:6T3"]],
  ["1V", "2,5", "sw", ["-X1:5", "-K1:4T2", "-K2:4T2"]],
  ["1W", "2,5", "sw", ["-X1:6", "-K1:6T3", "-K2:2T1"]],
  ["2U1", "1,5", "sw", ["-Q2:2T1", "-K3:1L1", "-K4:1L1"]],
  ["2V1", "1,5", "sw", ["-Q2:4T2", "-K3:3L2", "-K4:3L2"]],
  ["2W1", "1,5", "sw", ["-Q2:6T3", "-K3:5L3", "-K4:5L3"]],
  ["2U", "1,5", "sw", ["-X1:7", "-K3:2T1", "-K4:6T3"]],
  ["2V", "1,5", "sw", ["-X1:8", "-K3:4T2", "-K4:4T2"]],
  ["2W", "1,5", "sw", ["-X1:9", "-K3:6T3", "-K4:2T1"]],
  [
    "24V",
    "0,75",
    "rt",
    [
      "-G1:+",
      "-X2:4",
      "-A1:24V",
      "-A2:P",
      "-A3:P",
      "-K5:A1",
      "-S1:13",
      "-S2:13",
      "-S3:13",
      "-S4:13",
      "-S5:13",
      "-S6:13",
      "-S6:23",
    ],
  ],
  [
    "0V",
    "0,75",
    "bl",
    [
      "-G1:-",
      "-X2:5",
      "-A1:0V",
      "-A2:M",
      "-A3:M",
      "-K05:A2",
      "-K1:A2",
      "-K2:A2",
      "-K3:A2",
      "-K4:A2",
      "-K11:A2",
      "-K12:A2",
      "-K13:A2",
      "-K14:A2",
      "-K15:A2",
      "-K16:A2",
      "-K17:A2",
      "-K18:A2",
      "-K19:A2",
      "-P1:X2",
      "-P2:X2",
      "-P3:X2",
      "-P4:X2",
      "-P5:X2",
    ],
  ],
  ["NH1", "0,75", "bl", ["-K5:S11", "-S0:11"]],
  ["NH2", "0,75", "bl", ["-S0:12", "-K5:S12"]],
  ["NH3", "0,75", "bl", ["-K5:S21", "-S0:21"]],
  ["NH4", "0,75", "bl", ["-S0:22", "-K5:S22"]],
  ["24S", "0,75", "rt", ["-G1:+'", "-K5:13", "-K5:23"]],
  ["24K", "0,75", "rt", ["-K5:14", "-K11:11", "-K12:11", "-K13:11", "-K14:11"]],
  ...range(1, 4).map((n) => [`K${n}`, "0,75", "bl", [`-K${10 + n}:14`, `-K${n}:A1`]] as const),
  ...range(1, 8).map((n) => [`A${n}`, "0,75", "bl", [`-A3:${n}`, `-K${10 + n}:A1`]] as const),
  ...range(1, 5).map((n) => [`E${n}`, "0,75", "bl", [`-S${n}:14`, `-A2:${n}`]] as const),
  ["E6", "0,75", "bl", ["-S6:14", "-A2:6"]],
  ["E7", "0,75", "bl", ["-X2:6", "-A2:7"]],
  ["E8", "0,75", "bl", ["-X2:7", "-A2:8"]],
  ...range(1, 4).map((n) => [`M${n}`, "0,75", "bl", [`-K${14 + n}:14`, `-P${n}:X1`, `-X2:${7 + n}`]] as const),
  ["24M", "0,75", "rt", ["-K15:11", "-K16:11", "-K17:11", "-K18:11", "-X2:21"]],
];

function connections(): string {
  const rows: string[] = [];
  let number = 0;
  for (const [net, size, colour, pins] of NETS)
    for (let i = 1; i < pins.length; i++)
      rows.push(`${++number};${net};${pins[i - 1]!};${pins[i]!};${size};${colour};`);
  // Rows as somebody leaves them: an end that is not known yet, a size with a question.
  rows.push(`${++number};RES;-A2:5;;0,75;bl;offen`, `${++number};RES2;-K5:33;-X2:12;0,75?;bl;klären`);
  return [
    "Verbindungsliste Klappbrücke Saltmere;;;;;;",
    "",
    "Nr;Potential;Quelle;Ziel;Querschnitt (mm²);Aderfarbe;Bemerkung",
    ...rows,
    "",
  ].join("\n");
}

/** Strips as the schematic draws them. */
const STRIPS = [
  { tag: "-X1", terminals: ["1", "2", "3", "4", "5", "6", "7", "8", "9", "N", "PE"] },
  { tag: "-X2", terminals: [...range(1, 20).map(String), "PE"] },
];

type CellValue = string | number | null;

/** Terminals with merged strips, cables with a core on each row, a row that is hidden, and an old sheet nobody sees any more. */
function book(): Uint8Array {
  const x1: CellValue[][] = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "N"].map((n) => [null, n, "FW-T16", ""]);
  const x2: CellValue[][] = range(1, 20).map((n) => [null, n, "FW-T2", n === 20 ? "Reserve" : ""]);
  const strips: CellValue[][] = [
    ["Klemmenplan Klappbrücke Saltmere", null, null, null],
    ["Klemmleiste", "Klemme", "Typ", "Text"],
    ...x1,
    [null, "PE", "FW-TPE", ""],
    ...x2,
    [null, "PE", "FW-TPE2", ""],
  ];
  strips[2]![0] = "-X1";
  strips[13]![0] = "-X2";
  const cable = (
    tag: string,
    type: string,
    cores: readonly (readonly [CellValue, string, number, string, string])[],
  ): CellValue[][] => cores.map((c, i) => [i === 0 ? tag : null, i === 0 ? type : null, ...c]);
  const cables: CellValue[][] = [
    ["Kabel", "Typ", "Ader", "Farbe", "Querschnitt", "Von", "Nach"],
    ...cable("-W1", "BL-C4G6S", [
      [1, "sw", 2.5, "-X1:4", "-M1:U"],
      [2, "br", 2.5, "-X1:5", "-M1:V"],
      [3, "gr", 2.5, "-X1:6", "-M1:W"],
      ["PE", "gnge", 2.5, "-X1:PE", "-M1:PE"],
    ]),
    ...cable("-W2", "BL-C4G6S", [
      [1, "sw", 1.5, "-X1:7", "-M2:U"],
      [2, "br", 1.5, "-X1:8", "-M2:V"],
      [3, "gr", 1.5, "-X1:9", "-M2:W"],
    ]),
    ...cable("-W3", "BL-C3", [
      [1, "br", 1.5, "-X2:2", "Schranke Nord"],
      [2, "bl", 1.5, "-X2:1", "Schranke Nord"],
    ]),
    ...cable("-W4", "BL-C12", [
      [1, "sw", 1, "-X2:6", "-B1:4"],
      [2, "sw", 1, "-X2:7", "-B2:4"],
      [3, "sw", 1, "-X2:4", "-B1:1"],
    ]),
  ];
  const sheets = [
    sheetXml(strips, { merged: ["A1:D1", "A3:A13", "A14:A34"], hiddenRow: 33 }),
    sheetXml(cables, { merged: ["A2:A5", "B2:B5", "A6:A8", "B6:B8", "A9:A10", "B9:B10", "A11:A13", "B11:B13"] }),
    sheetXml(
      [
        ["alt", "Klemme"],
        ["-X9", 1],
      ],
      {},
    ),
  ];
  const names = ["Klemmen", "Kabel", "Stand Mai"];
  const entries: Zippable = {
    "[Content_Types].xml": xml(
      `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/>${names.map((_, i) => `<Override PartName="/xl/worksheets/sheet${i + 1}.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/>`).join("")}</Types>`,
    ),
    "_rels/.rels": xml(
      `<Relationships xmlns="${RELATIONS}"><Relationship Id="r1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    "xl/workbook.xml": xml(
      `<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets>${names.map((n, i) => `<sheet name="${n}" sheetId="${i + 1}"${i === 2 ? ' state="hidden"' : ""} r:id="s${i + 1}"/>`).join("")}</sheets></workbook>`,
    ),
    "xl/_rels/workbook.xml.rels": xml(
      `<Relationships xmlns="${RELATIONS}">${names.map((_, i) => `<Relationship Id="s${i + 1}" Type="${OFFICE}/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join("")}</Relationships>`,
    ),
  };
  sheets.forEach((s, i) => (entries[`xl/worksheets/sheet${i + 1}.xml`] = s));
  return zipSync(entries, { mtime: new Date(2026, 10, 12), level: 6 });
}

const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const RELATIONS = "http://schemas.openxmlformats.org/package/2006/relationships";
const xml = (body: string): Uint8Array => strToU8(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n${body}`);

function sheetXml(
  rows: readonly (readonly CellValue[])[],
  { merged = [], hiddenRow }: { merged?: string[]; hiddenRow?: number },
): Uint8Array {
  const cell = (v: CellValue, r: number, c: number): string => {
    if (v === null || v === "") return "";
    const ref = `${String.fromCharCode(65 + c)}${r + 1}`;
    return typeof v === "number"
      ? `<c r="${ref}"><v>${v}</v></c>`
      : `<c r="${ref}" t="inlineStr"><is><t>${v}</t></is></c>`;
  };
  const data = rows.map(
    (row, r) =>
      `<row r="${r + 1}"${r + 1 === hiddenRow ? ' hidden="1"' : ""}>${row.map((v, c) => cell(v, r, c)).join("")}</row>`,
  );
  const merges =
    merged.length === 0
      ? ""
      : `<mergeCells count="${merged.length}">${merged.map((m) => `<mergeCell ref="${m}"/>`).join("")}</mergeCells>`;
  return xml(`<worksheet xmlns="${MAIN}"><sheetData>${data.join("")}</sheetData>${merges}</worksheet>`);
}

function parts(): string {
  const rows: readonly (readonly [string, string, string, number, number, number, number | null])[] = [
    ["OH-SW100", "Oakhollow", "main switch 100 A", 105, 120, 95, 9],
    ["OH-M25", "Oakhollow", "motor circuit breaker 20-25 A", 45, 105, 92, 7.5],
    ["OH-B1C6", "Oakhollow", "circuit breaker 1p C6", 17.5, 90, 70, 1.4],
    ["OH-B2C10", "Oakhollow", "circuit breaker 2p C10", 35, 90, 70, 3.2],
    ["BL-S480", "Brasslark", "power supply 24 V 20 A", 82, 125, 120, 32],
    ["OH-K25", "Oakhollow", "contactor 25 A", 45, 88, 98, 6.1],
    ["OH-K9", "Oakhollow", "contactor 9 A", 45, 78, 90, 4.2],
    ["FW-SR2", "Fenwright", "safety relay, two channels", 22.5, 100, 114, 3.5],
    ["FW-R6", "Fenwright", "interface relay 24 V", 6.2, 86, 78, 0.4],
    ["TT-C8", "Tamarind Thermal", "controller head", 62, 118, 92, null],
    ["QM-PB", "Quillmark", "push button, 1 NO", 30, 30, 58, null],
    ["QM-PL", "Quillmark", "pilot lamp 24 V", 30, 30, 58, 0.5],
    ["FW-T16", "Fenwright", "terminal 16 mm2", 12, 60, 58, null],
    ["FW-T2", "Fenwright", "two-level terminal 2.5 mm2", 5.2, 68, 62, null],
  ];
  const quoted = (text: string): string => (text.includes(",") ? `"${text}"` : text);
  return [
    "Article no,Manufacturer,Description,Width [in],Height [in],Depth [in],Power loss [W]",
    ...rows.map(([n, maker, text, w, h, d, loss]) =>
      [n, maker, quoted(text), ...[w, h, d].map((mm) => (mm / 25.4).toFixed(3)), loss ?? ""].join(","),
    ),
    "",
  ].join("\r\n");
}
