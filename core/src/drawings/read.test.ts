import { block, dxfText, layerOf, Sheet, type Group } from "../test/dxf-sheet";
import { isDrawing } from "./kind";
import { readDrawing, type Drawing } from "./read";

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

function read(draw: (s: Sheet) => void, more: Parameters<typeof dxfText>[1] = {}): Drawing {
  const sheet = new Sheet();
  draw(sheet);
  const got = readDrawing(bytes(dxfText(sheet, more)));
  if (!got.ok) throw new Error(got.found);
  return got.drawing;
}

const refused = (text: string | Uint8Array) => {
  const got = readDrawing(typeof text === "string" ? bytes(text) : text);
  return got.ok ? "read" : `${got.found} | ${got.remedy}`;
};

const boxes = (d: Drawing) =>
  d.outlines.filter((o) => !o.around).map((o) => [o.layer, o.box.x, o.box.y, o.box.w, o.box.h]);
const arounds = (d: Drawing) => d.outlines.filter((o) => o.around).map(({ box: b }) => [b.x, b.y, b.w, b.h]);

const BODY = block("BODY", (b) => {
  b.frame("0", 0, 0, 10, 20);
  b.text("0", "top", 5, 18, 2);
});

describe("blocks lie where they are inserted", () => {
  test("moved, scaled, turned, mirrored", () => {
    const d = read(
      (s) => {
        s.block("body", "G", 100, 50, {});
        s.block("BODY", "G", 200, 50, {}, [
          [41, 2],
          [42, 3],
        ]);
        // Turned by 90° its width goes up and its height to the left.
        s.block("BODY", "G", 300, 50, {}, [[50, 90]]);
        s.block("BODY", "G", 400, 50, {}, [[41, -1]]);
      },
      { blocks: BODY },
    );
    const want = [
      [100, 50, 10, 20],
      [200, 50, 20, 60],
      [280, 50, 20, 10],
      [390, 50, 10, 20],
    ];
    expect(boxes(d)).toEqual(want.map((b) => ["G", ...b]));
    expect(arounds(d)).toEqual(want);
    expect(d.texts.map((t) => [t.text, t.x, t.y, t.h])).toEqual([
      ["top", 105, 68, 2],
      ["top", 210, 104, 6],
      ["top", 282, 55, 2],
      ["top", 395, 68, 2],
    ]);
  });

  test("within one another, about their base points, in rows and columns", () => {
    const inner: Group[] = BODY.map((g) => (g[0] === 10 && BODY.indexOf(g) === 4 ? [10, 3] : g));
    const outer = block("OUTER", (b) =>
      b.block("BODY", "0", 3, 0, { TAG: "-K1" }, [
        [70, 2],
        [44, 12],
        [71, 2],
        [45, 30],
      ]),
    );
    const d = read(
      (s) =>
        s.block("OUTER", "G", 1000, 0, {}, [
          [41, 2],
          [42, 2],
        ]),
      { blocks: [...inner, ...outer] },
    );
    expect(boxes(d)).toEqual(
      [
        [1000, 0],
        [1024, 0],
        [1000, 60],
        [1024, 60],
      ].map(([x, y]) => ["G", x, y, 20, 40]),
    );
    expect(d.blocks.map((b) => [b.attributes, b.layer, b.box])).toHaveLength(4);
    expect(d.blocks[3]).toMatchObject({
      attributes: { TAG: "-K1" },
      layer: "G",
      box: { x: 1024, y: 60, w: 20, h: 40 },
    });
  });

  test("seen from behind they are mirrored; aslant they are told", () => {
    const d = read(
      (s) => {
        s.block("BODY", "G", 100, 50, {}, [
          [210, 0],
          [220, 0],
          [230, -1],
        ]);
        s.block("BODY", "G", 100, 50, {}, [
          [210, 0.5],
          [220, 0],
          [230, 0.5],
        ]);
        s.put("CIRCLE", "G", [10, 7], [20, 1], [40, 2], [230, -1]);
      },
      { blocks: BODY },
    );
    expect(boxes(d)).toEqual([["G", -110, 50, 10, 20]]);
    expect(d.circles).toEqual([{ layer: "G", x: -7, y: 1, r: 2 }]);
    expect(d.setAside).toMatchObject([{ what: "a block aslant", count: 1, matters: true }]);
  });

  test("one that holds itself, one that is missing, one from another file", () => {
    const loop = block("A", (b) => {
      b.frame("0", 0, 0, 1, 1);
      b.block("B", "0", 5, 0, {});
    });
    const back = block("B", (b) => b.block("A", "0", 5, 0, {}));
    const other = block("X", () => undefined).flatMap((g): Group[] => (g[0] === 3 ? [g, [1, "x.dwg"]] : [g]));
    const d = read(
      (s) => {
        s.block("A", "G", 0, 0, {});
        s.block("NONE", "G", 9, 9, {});
        s.block("X", "G", 0, 0, {});
      },
      { blocks: [...loop, ...back, ...other] },
    );
    expect(boxes(d)).toEqual([["G", 0, 0, 1, 1]]);
    expect(d.setAside.map((s) => s.what)).toEqual([
      "the block A in itself",
      "the block NONE, which is not in the file",
      "the block X, which is in another file",
    ]);
  });

  test("a bomb of blocks is refused before it is unfolded", () => {
    const blocks = Array.from({ length: 12 }, (_, i) =>
      block(`B${i}`, (b) => {
        if (i === 0) b.frame("0", 0, 0, 1, 1);
        else for (let k = 0; k < 10; k++) b.block(`B${i - 1}`, "0", k, 0, {});
      }),
    ).flat();
    const sheet = new Sheet();
    sheet.block("B11", "0", 0, 0, {});
    expect(refused(dxfText(sheet, { blocks }))).toMatch(/^more than 500000 things/);
    const rows = new Sheet();
    rows.block("NOTHING", "0", 0, 0, {}, [
      [70, 30000],
      [71, 30000],
    ]);
    expect(refused(dxfText(rows, { blocks: block("NOTHING", () => undefined) }))).toMatch(/^more than 500000 things/);
  });
});

test("frames: closed, come back to their beginning, of lines in any order, with arcs", () => {
  const d = read((s) => {
    s.frame("A", 0, 0, 4, 3);
    s.put(
      "LWPOLYLINE",
      "B",
      [90, 5],
      [70, 0],
      ...(
        [
          [0, 0],
          [4, 0],
          [4, 3],
          [0, 3],
          [0, 0],
        ] as const
      ).flatMap(([x, y]): Group[] => [
        [10, x],
        [20, y],
      ]),
    );
    s.lines("C", 10, 0, 4, 3);
    // Half circles at both ends: a slot 30 long over all, 10 high.
    s.put(
      "LWPOLYLINE",
      "D",
      [90, 4],
      [70, 1],
      [10, 5],
      [20, 0],
      [10, 25],
      [20, 0],
      [42, 1],
      [10, 25],
      [20, 10],
      [10, 5],
      [20, 10],
      [42, 1],
    );
    s.line("E", 0, 0, 5, 5);
    s.put("ARC", "F", [10, 0], [20, 0], [40, 10], [50, 90], [51, 0]);
  });
  expect(boxes(d).map((b) => [b[0], ...b.slice(1).map((v) => Math.round((v as number) * 100) / 100)])).toEqual([
    ["A", 0, 0, 4, 3],
    ["B", 0, 0, 4, 3],
    ["D", 0, 0, 30, 10],
    ["C", 10, 0, 4, 3],
  ]);
  expect(d.outlines.map((o) => o.rect)).toEqual([true, true, false, true]);
  expect(d.open.map((o) => o.layer)).toEqual(["E", "F"]);
  // Three quarters of a turn, from above over the left and below to the right.
  const arc = d.open[1]!.points;
  expect([arc[0], arc[1], arc.at(-2), arc.at(-1)].map((v) => Math.round(v! * 1e6) / 1e6 + 0)).toEqual([0, 10, 10, 0]);
  expect(Math.min(...arc)).toBeCloseTo(-10, 9);
});

test("texts: their middle from any alignment, long ones line by line without what they look like", () => {
  const d = read((s) => {
    s.put("TEXT", "T", [10, 0], [20, 0], [40, 10], [1, "abcde"]);
    s.put("TEXT", "T", [10, 0], [20, 0], [11, 100], [21, 50], [72, 2], [73, 3], [40, 10], [1, "%%c9 \\U+00B2"]);
    s.put("TEXT", "T", [10, 0], [20, 0], [40, 10], [50, 90], [1, "abcde"]);
    s.put(
      "MTEXT",
      "T",
      [10, 0],
      [20, 100],
      [40, 10],
      [71, 1],
      [1, "{\\fArial|b1;-K1}\\PA\\~B \\S1#2;\\P\\Lx\\l \\\\ \\{"],
    );
    s.put("MTEXT", "T", [10, 0], [20, 0], [40, 10], [71, 5], [50, 90], [1, "-K2"]);
  });
  // Letters count 0.8 of their height: five of them are 40 wide.
  const at = d.texts.map((t) => [t.text, Math.round(t.x * 10) / 10, Math.round(t.y * 10) / 10]);
  expect(at).toEqual([
    ["abcde", 20, 5],
    ["⌀9 ²", 84, 45],
    ["abcde", -5, 20],
    ["-K1", 12, 95],
    ["A B 1/2", 28, 79],
    ["x \\ {", 20, 63],
    ["-K2", 0, 0],
  ]);
});

test("old files: no marks, attributes with their names all the same", () => {
  const d = read((s) => s.block("BODY", "G", 0, 0, { BMK: "-K1", TYP: "OH-K25" }), { blocks: BODY });
  expect(d.blocks.map((b) => b.attributes)).toEqual([{ BMK: "-K1", TYP: "OH-K25" }]);
  expect(d.version).toBe("");
});

test("tables that nobody wants, and broken ones, keep nothing from being read", () => {
  const others: Group[] = [
    [0, "LTYPE"],
    [2, "DASH"],
    [46, 1],
    [44, 2],
    [9, "x"],
    [0, "STYLE"],
    [1, "BLOCK"],
    [0, "VPORT"],
    [73, NaN],
  ];
  const d = read((s) => s.frame("A", 0, 0, 4, 3), { layers: [...others, ...layerOf("A", -1)] });
  expect([boxes(d), d.layers]).toEqual([[["A", 0, 0, 4, 3]], [{ name: "A", count: 1, hidden: true }]]);
});

test("units, layers that are off, what lies on the paper, what is invisible", () => {
  const d = read(
    (s) => {
      s.frame("A", 0, 0, 4, 3);
      s.put("CIRCLE", "OFF", [10, 0], [20, 0], [40, 1]);
      s.put("CIRCLE", "P", [67, 1], [10, 0], [20, 0], [40, 1]);
      s.put("CIRCLE", "P", [60, 1], [10, 0], [20, 0], [40, 1]);
    },
    {
      header: [
        [9, "$ACADVER"],
        [1, "AC1027"],
        [9, "$INSUNITS"],
        [70, 1],
      ],
      layers: [...layerOf("OFF", -7), ...layerOf("A")],
    },
  );
  expect([d.unitMm, d.version]).toEqual([25.4, "AC1027"]);
  expect(d.layers).toEqual([
    { name: "A", count: 1, hidden: false },
    { name: "OFF", count: 1, hidden: true },
  ]);
});

test("what is not read is counted with its place, and keeps nothing else from being read", () => {
  const d = read((s) => {
    s.put("SPLINE", "S", [10, 5], [20, 6], [10, 7], [20, 8]);
    s.put("SPLINE", "S", [10, 9], [20, 9]);
    s.put("HATCH", "H", [2, "BLOCK"], [91, 1], [92, 2], [93, 4]);
    s.put("CIRCLE", "C", [10, 1e300], [20, 0], [40, 1]);
    s.put("LINE", "L", [10, 0], [20, 0]);
    s.put("TEXT", "T", [10, 0], [20, 0], [40, 1], [1, "ENDBLK"]);
    s.frame("A", 0, 0, 4, 3);
  });
  expect(d.setAside.map((s) => [s.what, s.layer, s.count, s.at, s.matters])).toEqual([
    ["SPLINE", "S", 2, { x: 5, y: 6 }, true],
    ["HATCH", "H", 1, null, false],
    ["a circle without a size or place", "C", 1, null, true],
    ["LINE: a point beyond 1000000000 units, or none", "L", 1, null, true],
  ]);
  expect([boxes(d), d.texts.map((t) => t.text)]).toEqual([[["A", 0, 0, 4, 3]], ["ENDBLK"]]);
});

test("what is no drawing is refused by its name, with the line", () => {
  const sheet = new Sheet();
  sheet.frame("A", 0, 0, 4, 3);
  const text = dxfText(sheet);
  expect(refused("Nr;Von;Nach\n1;a;b\n")).toMatch(/^"Nr;Von;Nach" on line 1, where a number is wanted \|/);
  expect(refused(new TextEncoder().encode("AutoDraw Binary DXF\r\n\x1a\0"))).toMatch(
    /^a binary DXF \| Save it as DXF in text form/,
  );
  expect(refused("AC1027\0\0\0\0")).toMatch(/^a DWG \|/);
  expect(refused(text.replace("LWPOLYLINE", "LWPOLYLINE\r\nX"))).toMatch(
    /^"\w+" on line \d+, where a number is wanted/,
  );
  expect(refused(text.slice(0, text.indexOf("LWPOLY")))).toMatch(/^an end after line|^an end in the section ENTITIES/);
  expect(refused("")).toMatch(/number is wanted|no section/);
  expect(
    ["  0\r\nSECTION\r\n", "999\nmade by hand\n0\nSECTION\n", "\uFEFF0\nSECTION\n", "Nr;A\n"].map((t) =>
      isDrawing(bytes(t)),
    ),
  ).toEqual([true, true, true, false]);
});

test("letters of the code page that the file names", () => {
  const sheet = new Sheet();
  sheet.put("TEXT", "L", [10, 0], [20, 0], [40, 1], [1, "Sch?tz"]);
  const text = dxfText(sheet, {
    header: [
      [9, "$DWGCODEPAGE"],
      [3, "ANSI_1250"],
    ],
  });
  const raw = Uint8Array.from(text, (c) => (c === "?" ? 0xf9 : c.charCodeAt(0)));
  const got = readDrawing(raw);
  expect(got.ok && got.drawing.texts[0]!.text).toBe("Schůtz");
});
