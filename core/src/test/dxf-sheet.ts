/** A line that says what follows, and the value. */
export type Group = readonly [number, string | number];

export const groups = (all: readonly Group[]): string => all.map(([code, value]) => `${code}\r\n${value}`).join("\r\n");

/** Draws a sheet of DXF, group by group. */
export class Sheet {
  readonly all: Group[] = [];

  put(kind: string, layer: string, ...more: Group[]): void {
    this.all.push([0, kind], [8, layer], ...more);
  }

  line(layer: string, x1: number, y1: number, x2: number, y2: number): void {
    this.put("LINE", layer, [10, x1], [20, y1], [11, x2], [21, y2]);
  }

  frame(layer: string, x: number, y: number, w: number, h: number): void {
    const corners = [x, y, x + w, y, x + w, y + h, x, y + h];
    const points = [0, 2, 4, 6].flatMap((i): Group[] => [
      [10, corners[i]!],
      [20, corners[i + 1]!],
    ]);
    this.put("LWPOLYLINE", layer, [90, 4], [70, 1], ...points);
  }

  /** A frame that has been broken up. */
  lines(layer: string, x: number, y: number, w: number, h: number): void {
    this.line(layer, x, y, x + w, y);
    this.line(layer, x + w, y + h, x + w, y);
    this.line(layer, x + w, y + h, x, y + h);
    this.line(layer, x, y + h, x, y);
  }

  /** In the middle of a place. */
  text(layer: string, text: string, x: number, y: number, h = 6, turn = 0): void {
    this.put(
      "TEXT",
      layer,
      ...([
        [10, x],
        [20, y],
        [40, h],
        [1, text],
        [50, turn],
        [72, 1],
        [11, x],
        [21, y],
        [73, 2],
      ] as const),
    );
  }

  circle(layer: string, x: number, y: number, r: number): void {
    this.put("CIRCLE", layer, [10, x], [20, y], [40, r]);
  }

  block(
    name: string,
    layer: string,
    x: number,
    y: number,
    attributes: Record<string, string>,
    more: Group[] = [],
  ): void {
    const told = Object.entries(attributes);
    this.put("INSERT", layer, [66, told.length > 0 ? 1 : 0], [2, name], [10, x], [20, y], ...more);
    for (const [tag, value] of told)
      this.put("ATTRIB", layer, [10, x], [20, y], [40, 4], [1, value], [2, tag], [70, 0]);
    if (told.length > 0) this.put("SEQEND", layer);
  }
}

/** The definition of a block. */
export const block = (name: string, draw: (sheet: Sheet) => void): Group[] => {
  const sheet = new Sheet();
  draw(sheet);
  return [
    [0, "BLOCK"],
    [8, "0"],
    [2, name],
    [70, 0],
    [10, 0],
    [20, 0],
    [3, name],
    ...sheet.all,
    [0, "ENDBLK"],
    [8, "0"],
  ];
};

const section = (name: string, all: readonly Group[]): Group[] => [[0, "SECTION"], [2, name], ...all, [0, "ENDSEC"]];

/** A whole file of a sheet. */
export function dxfText(
  sheet: Sheet,
  {
    blocks = [],
    header = [],
    layers = [],
  }: { blocks?: readonly Group[]; header?: readonly Group[]; layers?: readonly Group[] } = {},
): string {
  return `${groups([
    ...section("HEADER", header),
    ...section("TABLES", [[0, "TABLE"], [2, "LAYER"], [70, 1], ...layers, [0, "ENDTAB"]]),
    ...section("BLOCKS", blocks),
    ...section("ENTITIES", sheet.all),
    [0, "EOF"],
  ])}\r\n`;
}

/** A layer of the table of layers; a colour below nought says that it is off. */
export const layerOf = (name: string, colour = 7, flags = 0): Group[] => [
  [0, "LAYER"],
  [2, name],
  [70, flags],
  [62, colour],
  [6, "CONTINUOUS"],
];
