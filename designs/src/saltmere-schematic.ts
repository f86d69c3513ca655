import { boxOut, lineOut, pdfOf, piecesOut, textOut, type SheetOut } from "@gray-bench/core/test/pdf-sheet";

/** A3 laid flat, in points. */
const W = 1190;
const H = 842;
const COLUMNS = 10;
const FRAME = { x: 30, y: 80, w: W - 60, h: H - 110 };
const SHEETS = 16;
/** The sheet that came as a picture, and the one that is stored standing and shown lying. */
const PICTURE = 14;
const TURNED = 4;

interface Wired {
  devices: readonly (readonly [tag: string, part: string, text: string, sheet: number])[];
  nets: readonly (readonly [name: string, size: string, colour: string, pins: readonly string[]])[];
  strips: readonly { tag: string; terminals: readonly string[] }[];
}

const TITLES: Readonly<Record<number, string>> = {
  1: "Deckblatt",
  2: "Einspeisung, Antrieb Klappe",
  3: "Antrieb Riegel",
  4: "Steuerspannung, Heizung",
  5: "Klappe auf/ab",
  6: "Riegel auf/zu",
  7: "Not-Halt",
  8: "Melderelais 1-4",
  9: "Melderelais 5-8",
  10: "Steuerung, Eingaenge",
  11: "Ausgaenge",
  12: "Bedienelemente",
  13: "Meldeleuchten",
  14: "Beleuchtung",
  15: "Klemmen X1",
  16: "Klemmen X2",
};

/**
 * The schematic of the lift-bridge control box, as an office prints it: tags mostly without the plant and the place that the frame names
 * once, some in two pieces, some in full; one sheet stored turned, one a picture; a device that no list has (-K20 on sheet 9).
 */
export function saltmereSchematic(wired: Wired): Uint8Array {
  const sheets = Array.from({ length: SHEETS }, (_, i) => sheetOf(i + 1, wired));
  return pdfOf(sheets, { packed: true });
}

function sheetOf(sheet: number, wired: Wired): SheetOut {
  const ops = ["0.7 w"];
  if (sheet === PICTURE) {
    // Drawn over by hand and scanned: lines, and not a letter of text.
    for (let i = 0; i < 14; i++) ops.push(lineOut(120 + 40 * i, 200, 140 + 40 * i, 600, 160 + 40 * i, 560));
    return { w: W, h: H, ops };
  }
  frame(ops, sheet);
  if (sheet === 1) cover(ops);
  const strip = wired.strips[sheet - 15];
  if (strip) terminals(ops, strip);
  const here = wired.devices.filter(([, , , on]) => on === sheet);
  here.forEach((device, i) => drawDevice(ops, device, i, here.length, wired));
  if (sheet === 9) ops.push(textOut(1080, 250, 12, "-K20"), boxOut(1110, 220, 40, 60));
  return sheet === TURNED ? turned(ops) : { w: W, h: H, ops };
}

/** Stored standing, with all that is drawn turned against how it is shown. */
const turned = (ops: readonly string[]): SheetOut => ({
  w: H,
  h: W,
  rotate: 90,
  // What is shown turned to the right is drawn turned to the left.
  ops: [`q 0 1 -1 0 ${H} 0 cm`, ...ops, "Q"],
});

function frame(ops: string[], sheet: number): void {
  const { x, y, w, h } = FRAME;
  ops.push(boxOut(x, y, w, h), boxOut(x, 20, w, y - 20));
  for (let c = 0; c < COLUMNS; c++) {
    const left = x + (c * w) / COLUMNS;
    ops.push(textOut(left + w / COLUMNS / 2, y + h + 6, 8, String(c)), lineOut(left, y + h, left, y + h + 16));
  }
  ops.push(
    textOut(x + 10, 60, 9, "Stadtwerke Saltmere"),
    textOut(x + 10, 40, 9, "Klappbr\u00fccke, Bedienkasten"),
    textOut(x + 300, 50, 12, TITLES[sheet]!),
    textOut(x + 720, 60, 9, "=B1"),
    textOut(x + 720, 40, 9, "+A1"),
    textOut(x + 820, 60, 9, "12.11.2026"),
    textOut(x + 960, 50, 9, "Blatt"),
    textOut(x + 990, 50, 9, `${sheet}`),
    textOut(x + 1030, 50, 9, `von ${SHEETS}`),
  );
}

function cover(ops: string[]): void {
  ops.push(
    textOut(120, 640, 26, "Klappbr\u00fccke Saltmere"),
    textOut(120, 600, 14, "Stromlaufplan, Stand 12.11.2026"),
  );
  Object.entries(TITLES).forEach(([sheet, title], i) =>
    ops.push(textOut(120, 540 - 20 * i, 10, sheet), textOut(170, 540 - 20 * i, 10, title)),
  );
}

/** A box with its pins above and below; what leads there is named along the wire. */
function drawDevice(
  ops: string[],
  [tag, , text, sheet]: Wired["devices"][number],
  index: number,
  count: number,
  { nets }: Wired,
): void {
  const pins = nets.flatMap(([net, , , all]) =>
    all.filter((p) => p.startsWith(`${tag}:`)).map((p) => ({ net, pin: p.slice(tag.length + 1) })),
  );
  const room = (FRAME.w - 60) / count;
  const [half, rest] = [pins.slice(0, Math.ceil(pins.length / 2)), pins.slice(Math.ceil(pins.length / 2))];
  const pitch = Math.min(40, (room - 70) / Math.max(half.length, 1));
  const wide = Math.max(50, pitch * half.length);
  const x = FRAME.x + 70 + index * room;
  const y = 420;
  ops.push(boxOut(x, y, wide, 90));
  for (const [row, up] of [
    [half, true],
    [rest, false],
  ] as const)
    row.forEach(({ net, pin }, i) => {
      const at = x + pitch / 2 + pitch * i;
      const [from, to] = up ? [y + 90, y + 200] : [y, y - 110];
      ops.push(
        lineOut(at, from, at, to),
        textOut(at + 2, up ? y + 94 : y - 11, 8, pin),
        textOut(at - 4, up ? y + 120 : y - 106, 10, net, 90),
      );
    });
  const number = Number(/\d+/.exec(tag)![0]);
  const size = 12;
  const left = x - 40;
  if (number % 5 === 3) ops.push(piecesOut(left, y + 40, size, [tag.slice(0, 2), tag.slice(2)], 60));
  else if (number % 5 === 4) ops.push(textOut(left - 22, y + 100, size, `=B1+A1${tag}`));
  else if (sheet === 6) ops.push(textOut(left, y + 40, size, tag.slice(1)));
  else ops.push(textOut(left, y + 40, size, tag));
  ops.push(textOut(x, y - 130, 10, text));
}

/** A row of terminals: the tag of the strip once, the numbers beside it. */
function terminals(ops: string[], { tag, terminals: all }: Wired["strips"][number]): void {
  ops.push(textOut(FRAME.x + 20, 440, 10, tag));
  all.forEach((t, i) => {
    const x = FRAME.x + 70 + i * 44;
    ops.push(boxOut(x, 420, 30, 60), lineOut(x + 15, 480, x + 15, 540), lineOut(x + 15, 420, x + 15, 360));
    ops.push(textOut(x + 8, 440, 10, t));
  });
}
