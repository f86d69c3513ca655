import { meaningOf } from "@gray-bench/core/drawings/said";
import { block, dxfText, layerOf, Sheet } from "@gray-bench/core/test/dxf-sheet";
import type { KeptDrawing } from "@gray-bench/core/tables/kept";

/**
 * The layout of the lift-bridge control box of Saltmere as a drawing office sends it: one sheet with the plate and the door, as DXF. Untidy
 * as real ones: some frames are four lines, some devices are blocks with attributes, one of them mirrored, a controller is a block in a
 * block, tags stand in long texts with format codes, without their sign, or beside their frame; ducts have slots drawn in, a rail is
 * broken up. The file does not say its unit.
 */

const PLATE = { x: 140, y: 160, w: 700, h: 900 };
const DOOR = { x: 1050, y: 110, w: 800, h: 1000 };
const RAIL_X = 70;
const RAIL_LENGTH = 560;

function plate(s: Sheet): void {
  const { x, y, w, h } = PLATE;
  s.frame("MONTAGEPLATTE", x, y, w, h);
  const duct = (dx: number, dy: number, dw: number, dh: number): void => {
    s.frame("KANAL", x + dx, y + dy, dw, dh);
    // Its lid, and slots in its walls.
    s.frame("KANAL", x + dx + 2, y + dy + 2, dw - 4, dh - 4);
    const up = dh > dw;
    for (let at = 20; at < (up ? dh : dw) - 20; at += 40)
      if (up) s.line("SCHRAFFUR", x + dx, y + dy + at, x + dx + 8, y + dy + at);
      else s.line("SCHRAFFUR", x + dx + at, y + dy, x + dx + at, y + dy + 8);
  };
  duct(0, 0, 60, h);
  duct(w - 60, 0, 60, h);
  for (const dy of [840, 640, 440, 240]) duct(60, dy, w - 120, 60);
  s.text("BESCHRIFTUNG", "60x80", x + 300, y + 870, 8);
  const rail = (n: number, middle: number): void => {
    const draw = n === 2 ? s.lines.bind(s) : s.frame.bind(s);
    draw("TRAGSCHIENE", x + RAIL_X, y + middle - 17.5, RAIL_LENGTH, 35);
    s.line("HILFSLINIE", x + RAIL_X - 10, y + middle, x + RAIL_X + RAIL_LENGTH + 10, y + middle);
  };
  [770, 570, 370].forEach((middle, i) => rail(i + 1, middle));

  let at = RAIL_X + 5;
  /** Side by side on a rail. */
  const body = (
    tag: string,
    bw: number,
    bh: number,
    middle: number,
    how: "frame" | "lines" = "frame",
    turn = 0,
  ): void => {
    s[how]("GERAETE", x + at, y + middle - bh / 2, bw, bh);
    s.text("BESCHRIFTUNG", tag, x + at + bw / 2, y + middle + (turn === 0 ? bh / 4 : 0), bw < 20 ? 4 : 6, turn);
    at += bw;
  };
  body("-Q0", 105, 120, 770);
  body("Q1", 45, 105, 770);
  body("Q2", 45, 105, 770);
  body("-F1", 35, 90, 770);
  for (const tag of ["-F2", "-F3", "-F4"]) {
    s.block("LS1P", "GERAETE", x + at, y + 725, { BMK: tag, TYP: "OH-B1C6" });
    at += 17.5;
  }
  at += 20;
  s.frame("GERAETE", x + at, y + 770 - 62.5, 82, 125);
  s.put(
    "MTEXT",
    "BESCHRIFTUNG",
    ...([
      [10, x + at + 5],
      [20, y + 820],
      [40, 6],
      [71, 1],
      [1, "{\\fArial|b1|i0;-G1}\\PBL-S480\\P24 V"],
    ] as const),
  );

  at = RAIL_X + 5;
  for (const [tag, bh] of [
    ["-K1", 88],
    ["-K2", 88],
    ["-K3", 78],
    ["-K4", 78],
  ] as const)
    body(tag, 45, bh, 570, "lines");
  at += 10;
  // Drawn from the other side: its block is mirrored.
  s.block("SICHERHEIT", "GERAETE", x + at + 22.5, y + 520, { BMK: "-K5", TYP: "FW-SR2" }, [
    [41, -1],
    [42, 1],
  ]);
  at += 22.5 + 10;
  for (let n = 11; n <= 18; n++) body(`-K${n}`, 6.2, 86, 570, "frame", 90);
  at += 20;
  s.block("STEUERUNG", "GERAETE", x + at, y + 511, {});

  // Strips: a frame with the tag beside it, terminals drawn in it.
  at = RAIL_X + 15;
  const strip = (tag: string, pitches: readonly number[], bh: number): void => {
    const wide = pitches.reduce((sum, p) => sum + p, 0);
    s.frame("GERAETE", x + at, y + 370 - bh / 2, wide, bh);
    let px = at;
    for (const p of pitches) s.line("GERAETE", x + (px += p), y + 370 - bh / 2, x + px, y + 370 + bh / 2);
    s.text("BESCHRIFTUNG", tag, x + at + 12, y + 370 + bh / 2 + 6);
    at += wide;
  };
  strip("X1", Array<number>(11).fill(12), 60);
  at += 30;
  strip("X2", Array<number>(20).fill(5.2), 68);
  // On the plate itself.
  s.frame("GERAETE", x + 100, y + 80, 60, 70);
  s.text("BESCHRIFTUNG", "-E1", x + 130, y + 115);
  for (const [hx, hy] of [
    [30, 30],
    [670, 30],
    [30, 870],
    [670, 870],
  ] as const)
    s.circle("BOHRUNGEN", x + hx, y + hy, 5.5);
  s.put("SPLINE", "GERAETE", [70, 8], [71, 3], [10, x + 300], [20, y + 100], [10, x + 350], [20, y + 140]);
}

function door(s: Sheet): void {
  const { x, y, w, h } = DOOR;
  s.frame("SCHRANK", x, y, w, h);
  s.text("BESCHRIFTUNG", "T%%uuransicht %%c30", x + w / 2, y + h + 20, 10);
  for (let n = 1; n <= 4; n++) {
    s.circle("GERAETE", x + 140 + n * 90, y + 800, 15);
    s.text("BESCHRIFTUNG", `P${n}`, x + 140 + n * 90, y + 825);
  }
  s.circle("GERAETE", x + 590, y + 800, 15);
  s.text("BESCHRIFTUNG", "-P5", x + 590, y + 825);
  for (let n = 1; n <= 6; n++) s.block("TASTER", "GERAETE", x + 140 + n * 80, y + 700, { BMK: `-S${n}` });
  s.block("TASTER", "GERAETE", x + 220, y + 600, { BMK: "-S0" });
  s.frame("KANAL", x + 120, y + 520, 560, 40);
}

/** What a production engineer says of it: which frame is which face, what no drawing of faces says, which duct is how wide. */
export const LAYOUT_SAID: KeptDrawing = {
  name: "Aufbau.dxf",
  said: {
    layers: Object.fromEntries(["KANAL", "TRAGSCHIENE", "GERAETE", "BOHRUNGEN"].map((l) => [l, meaningOf(l)])),
    views: [
      { enclosure: "+A1", face: "plate", frame: PLATE, mm: 1 },
      { enclosure: "+A1", face: "door", frame: DOOR, mm: 1 },
    ],
    enclosures: [
      {
        tag: "+A1",
        d: 300,
        setback: 265,
        thickness: 3,
        material: "galvanised steel",
        sheet: { thickness: 1.5, material: "painted steel" },
        hinge: "left",
        crossings: [550],
      },
    ],
    bars: [
      { kind: "duct", across: 60, part: "FW-D60" },
      { kind: "duct", across: 40, part: "FW-D40" },
      { kind: "rail", across: 35, part: "FW-TS35" },
    ],
  },
};

/** @returns the file, in the code page that it names */
export function saltmereLayout(): Uint8Array {
  const s = new Sheet();
  s.frame("RAHMEN", 0, 0, 2000, 1300);
  s.frame("RAHMEN", 20, 20, 1960, 1260);
  s.frame("SCHRIFTFELD", 1480, 20, 500, 70);
  s.text("SCHRIFTFELD", "Stadtwerke Saltmere, Klappbrücke", 1730, 65, 12);
  s.text("SCHRIFTFELD", "Bedienkasten +A1, Aufbau", 1730, 40, 10);
  plate(s);
  door(s);
  s.put("DIMENSION", "BEMASSUNG", [10, 140], [20, 1090], [1, "700"]);
  const blocks = [
    ...block("LS1P", (b) => {
      b.frame("0", 0, 0, 17.5, 90);
      b.frame("0", 4, 30, 9.5, 25);
    }),
    ...block("SICHERHEIT", (b) => {
      b.lines("0", 0, 0, 22.5, 100);
      b.line("0", 0, 50, 22.5, 50);
    }),
    ...block("KOPF", (b) => b.frame("0", 0, 0, 62, 118)),
    ...block("MODUL", (b) => b.frame("0", 0, 0, 25, 118)),
    ...block("STEUERUNG", (b) => {
      b.block("KOPF", "0", 0, 0, { BMK: "-A1", TYP: "TT-C8" });
      b.block("MODUL", "0", 62, 0, { BMK: "-A2", TYP: "TT-DI8" });
      b.block("MODUL", "0", 87, 0, { BMK: "-A3", TYP: "TT-DO8" });
    }),
    ...block("TASTER", (b) => b.frame("0", -15, -15, 30, 30)),
  ];
  const layers = [
    "0",
    "RAHMEN",
    "SCHRIFTFELD",
    "MONTAGEPLATTE",
    "KANAL",
    "SCHRAFFUR",
    "TRAGSCHIENE",
    "HILFSLINIE",
    "GERAETE",
    "BESCHRIFTUNG",
    "BOHRUNGEN",
    "SCHRANK",
    "BEMASSUNG",
  ];
  const text = dxfText(s, {
    header: [
      [9, "$ACADVER"],
      [1, "AC1015"],
      [9, "$DWGCODEPAGE"],
      [3, "ANSI_1252"],
    ],
    layers: layers.flatMap((name) => layerOf(name)),
    blocks,
  });
  return Uint8Array.from(text, (c) => c.charCodeAt(0));
}
