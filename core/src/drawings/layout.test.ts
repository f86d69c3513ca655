import type { Device, Part, Strip } from "../design/model";
import { block, dxfText, Sheet, type Group } from "../test/dxf-sheet";
import { knownFrom, layOut, type Laid, type Listed } from "./lay";
import { lookAtDrawing } from "./look";
import { readDrawing, type Drawing } from "./read";
import { saidFor } from "./recognise";
import { firstSaid, meaningOf, type DrawingSaid } from "./said";

const FRAME = { x: 100, y: 200, w: 600, h: 800 };

interface Drawn {
  laid: Laid;
  listed: Listed;
  drawing: Drawing;
  said: DrawingSaid;
}

function laidOut(
  draw: (s: Sheet) => void,
  {
    devices = [],
    strips = [],
    parts = [],
    whole = true,
    blocks = [],
    say = (s) => s,
  }: {
    devices?: string[];
    strips?: string[];
    parts?: Part[];
    whole?: boolean;
    blocks?: Group[];
    say?: (said: DrawingSaid) => DrawingSaid;
  } = {},
): Drawn {
  const sheet = new Sheet();
  draw(sheet);
  const read = readDrawing(new TextEncoder().encode(dxfText(sheet, { blocks })));
  if (!read.ok) throw new Error(read.found);
  const { drawing } = read;
  const said = say({
    ...firstSaid(drawing),
    views: [{ enclosure: "+A1", face: "plate", frame: FRAME, mm: 1 }],
    enclosures: [{ tag: "+A1", w: 700, h: 900, d: 300, setback: 260, thickness: 3, material: "galvanised steel" }],
  });
  const listed: Listed = {
    devices: new Map(devices.map((tag): [string, Device] => [tag, { tag, part: parts[0]?.number ?? "P" }])),
    strips: new Map(strips.map((tag): [string, Strip] => [tag, { tag, rail: "not told", members: [] }])),
    parts: new Map(parts.map((p) => [p.number, p])),
    whole,
  };
  return { laid: layOut([{ name: "a.dxf", drawing, said }], listed), listed, drawing, said };
}

const where = ({ listed }: Drawn, tag: string) => listed.devices.get(tag)!.on;
const missed = ({ laid }: Drawn) => laid.notTaken.map((n) => n.found);
const part = (w: number, h: number): Part => ({ number: "P", maker: "m", text: "t", category: "other", w, h, d: 50 });

/** A rail at (50, 400) on the face, 500 long. */
const rail = (s: Sheet): void => s.frame("RAILS", 150, 600, 500, 35);

describe("who stands where", () => {
  test("on the rail behind its middle, from its start; else on the face", () => {
    const d = laidOut(
      (s) => {
        rail(s);
        s.frame("DEVICES", 162.5, 572.5, 45, 90);
        s.text("TEXT", "K1", 185, 640);
        // Its lower edge touches the rail only.
        s.frame("DEVICES", 250, 634, 45, 90);
        s.text("TEXT", "-K2", 272, 680);
        // Most of it lies beyond the end of the rail.
        s.frame("DEVICES", 640, 580, 50, 80);
        s.text("TEXT", "-K3", 665, 640);
      },
      { devices: ["-K1", "-K2", "-K3"] },
    );
    expect(d.laid.rails).toMatchObject([{ tag: "R1", face: "+A1/plate", x: 50, y: 400, run: "right", length: 500 }]);
    expect(where(d, "-K1")).toEqual({ rail: "R1", x: 12.5 });
    expect(where(d, "-K2")).toEqual({ face: "+A1/plate", x: 150, y: 434 });
    expect(where(d, "-K3")).toEqual({ face: "+A1/plate", x: 540, y: 380 });
    expect(missed(d)).toEqual([]);
  });

  test("the largest frame that holds the tag and no other; a label in it is not the body", () => {
    const d = laidOut(
      (s) => {
        s.frame("DEVICES", 150, 300, 100, 100);
        s.frame("DEVICES", 160, 340, 40, 15);
        s.text("TEXT", "-K1", 180, 347);
        s.frame("DEVICES", 260, 300, 50, 100);
        s.text("TEXT", "-K2", 285, 350);
        // Around both.
        s.frame("DEVICES", 140, 290, 180, 120);
      },
      { devices: ["-K1", "-K2"] },
    );
    expect([where(d, "-K1"), where(d, "-K2")]).toEqual([
      { face: "+A1/plate", x: 50, y: 100 },
      { face: "+A1/plate", x: 160, y: 100 },
    ]);
  });

  test("a tag beside a frame means the nearest without one; too far off it is told", () => {
    const d = laidOut(
      (s) => {
        s.circle("DEVICES", 200, 300, 15);
        s.text("TEXT", "P1", 200, 324, 6);
        s.circle("DEVICES", 300, 300, 15);
        s.text("TEXT", "P2", 300, 345, 6);
      },
      { devices: ["-P1", "-P2"] },
    );
    expect([where(d, "-P1"), where(d, "-P2"), missed(d)]).toEqual([
      { face: "+A1/plate", x: 85, y: 85 },
      undefined,
      ["-P2 without a frame"],
    ]);
    expect(d.laid.notTaken[0]).toMatchObject({ x: 300, y: 345, layer: "TEXT" });
  });

  test("turned by its size, and told where it is drawn in another one", () => {
    const d = laidOut(
      (s) => {
        s.frame("DEVICES", 150, 300, 90, 45);
        s.text("TEXT", "-K1", 190, 320);
        s.frame("DEVICES", 150, 400, 50, 100);
        s.text("TEXT", "-K2", 175, 450);
      },
      { devices: ["-K1", "-K2"], parts: [part(45, 90)] },
    );
    expect([d.listed.devices.get("-K1")!.turn, d.listed.devices.get("-K2")!.turn]).toEqual([90, undefined]);
    expect(missed(d)).toEqual(["-K2: drawn 50 × 100 mm, its part P has 45 × 90"]);
    expect(where(d, "-K2")).toEqual({ face: "+A1/plate", x: 50, y: 200 });
  });

  test("a strip is laid on its rail, though its frame is as long as a rail", () => {
    const d = laidOut(
      (s) => {
        s.frame("0", 150, 600, 500, 35);
        s.frame("0", 180, 587, 250, 60);
        for (let i = 1; i < 20; i++) s.line("0", 180 + i * 12.5, 587, 180 + i * 12.5, 647);
        s.text("0", "-X1", 186, 617, 5);
      },
      { strips: ["-X1"] },
    );
    expect(d.listed.strips.get("-X1")).toMatchObject({ rail: "R1", at: 30 });
    expect([d.laid.ducts, missed(d)]).toEqual([[], []]);
  });

  test("drawn from behind, on a face of its own scale", () => {
    const d = laidOut(
      (s) => {
        s.frame("DEVICES", 110, 230, 4.5, 9);
        s.text("TEXT", "-K1", 112, 235, 1);
        s.circle("HOLES", 101, 201, 0.25);
      },
      {
        devices: ["-K1"],
        say: (said) => ({
          ...said,
          views: [{ ...said.views[0]!, frame: { x: 100, y: 200, w: 60, h: 80 }, mm: 10, mirrored: true }],
        }),
      },
    );
    // 600 wide: what begins 100 from the left of the sheet ends 100 from the right of the face.
    expect(where(d, "-K1")).toEqual({ face: "+A1/plate", x: 455, y: 300 });
    expect(d.laid.faces).toEqual([
      { enclosure: "+A1", kind: "plate", holes: [{ kind: "round", x: 590, y: 10, d: 5 }] },
    ]);
  });

  test("tags of another enclosure, of nobody, twice; of the lists only where these say all", () => {
    const draw = (s: Sheet): void => {
      for (const [i, text] of ["+A2-K1", "-Z9", "-K1", "-K1", "230 V", "=F1+A1-K2"].entries()) {
        s.frame("DEVICES", 150, 220 + i * 60, 45, 50);
        s.text("TEXT", text, 172, 245 + i * 60);
      }
    };
    const some = { devices: ["-K1", "-K2"] };
    const d = laidOut(draw, some);
    expect(missed(d)).toEqual(["+A2-K1", "-Z9", "-K1 again"]);
    expect([where(d, "-K1"), where(d, "-K2")]).toMatchObject([{ y: 140 }, { y: 320 }]);
    const open = laidOut(draw, { ...some, whole: false });
    expect([missed(open), open.laid.devices.map((x) => x.tag)]).toEqual([["+A2-K1", "-K1 again"], ["-Z9"]]);
  });

  test("blocks: attributes name tag and part, the box around what they draw is their frame", () => {
    const blocks = block("RELAY", (b) => {
      b.line("0", 0, 0, 45, 0);
      b.line("0", 0, 90, 45, 90);
    });
    const d = laidOut(
      (s) => {
        rail(s);
        s.block("RELAY", "DEVICES", 250, 570, { REF: "K1", TYPE: "OH-1" });
        s.block("RELAY", "DEVICES", 350, 570, { REF: "?", TYPE: "?" });
      },
      { blocks, whole: false, devices: ["-K1"], parts: [{ ...part(45, 90), number: "OH-1" }] },
    );
    expect(where(d, "-K1")).toEqual({ rail: "R1", x: 100 });
    expect(missed(d)).toEqual(["a block with REF ?, TYPE ?", "2 lines that close to no frame"]);
  });
});

describe("ducts, rails and holes", () => {
  test("the outer of frames in one another, named by what is written in them, numbered from the top", () => {
    const d = laidOut((s) => {
      s.frame("KANAL", 100, 200, 60, 800);
      s.frame("KANAL", 103, 203, 54, 794);
      s.frame("KANAL", 160, 900, 400, 40);
      s.text("KANAL", "W7", 300, 920);
      s.text("KANAL", "60x80", 130, 500);
      s.frame("KANAL", 160, 300, 400, 80);
    });
    expect(d.laid.ducts.map((x) => [x.tag, x.run, x.x, x.y, x.length])).toEqual([
      ["W7", "right", 60, 700, 400],
      ["D1", "right", 60, 100, 400],
      ["D2", "up", 0, 0, 800],
    ]);
  });

  test("ducts that have been broken up and share corners and edges are each one; the room between them is none", () => {
    const ducts: [number, number, number, number][] = [
      [110, 210, 60, 700],
      [610, 210, 60, 700],
      [170, 850, 440, 60],
      [170, 550, 440, 60],
      [170, 210, 440, 60],
    ];
    const drawn = laidOut((s) => ducts.forEach((d) => s.lines("KANAL", ...d)));
    const want = ducts.map(([x, y, w, h]) => [x - 100, y - 200, Math.max(w, h)]);
    const got = (d: Drawn) => d.laid.ducts.map((b) => [b.x, b.y, b.length]);
    expect(got(drawn).sort()).toEqual([...want].sort());
    // In no order, each line once: rooms of 240 and 280 mm between them are not taken for ducts.
    const once = laidOut((s) => {
      const lines = new Map<string, [number, number, number, number]>();
      for (const [x, y, w, h] of ducts)
        for (const l of [
          [x, y, x + w, y],
          [x, y + h, x + w, y + h],
          [x, y, x, y + h],
          [x + w, y, x + w, y + h],
        ] as const)
          lines.set(l.join(), [...l]);
      for (const l of [...lines.values()].sort((a, b) => ((a[0] * 7 + a[3] * 3) % 11) - ((b[0] * 7 + b[3] * 3) % 11)))
        s.line("KANAL", ...l);
    });
    expect(got(once).sort()).toEqual([...want].sort());
  });

  test("by shape: long ones by their width, short ones and wide ones not", () => {
    const d = laidOut((s) => {
      s.frame("0", 150, 300, 400, 35);
      s.frame("0", 150, 400, 400, 60);
      s.frame("0", 150, 500, 140, 30);
      s.frame("0", 150, 700, 400, 101);
      s.frame("0", 650, 300, 15, 400);
    });
    expect([d.laid.rails.map((r) => [r.run, r.length]), d.laid.ducts.map((x) => x.y)]).toEqual([
      [
        ["right", 400],
        ["up", 400],
      ],
      [200],
    ]);
  });

  test("one that is no rectangle, and lines that close to nothing, are told", () => {
    const d = laidOut((s) => {
      const l = [
        [150, 300],
        [350, 300],
        [350, 340],
        [190, 340],
        [190, 500],
        [150, 500],
      ] as const;
      s.put(
        "LWPOLYLINE",
        "DUCTS",
        [90, 6],
        [70, 1],
        ...l.flatMap(([x, y]): Group[] => [
          [10, x],
          [20, y],
        ]),
      );
      s.line("RAILS", 150, 600, 650, 600);
      s.line("RAILS", 150, 635, 650, 635);
    });
    expect(missed(d)).toEqual(["a duct that is no rectangle", "2 lines that close to no frame"]);
    expect(d.laid.ducts).toEqual([]);
  });

  test("holes: circles once, frames as cutouts, others by their corners", () => {
    const d = laidOut((s) => {
      s.circle("BOHRUNGEN", 110, 210, 4.5);
      s.circle("BOHRUNGEN", 110, 210, 4.5);
      s.frame("BOHRUNGEN", 200, 300, 92, 45);
      s.put(
        "LWPOLYLINE",
        "BOHRUNGEN",
        [90, 3],
        [70, 1],
        [10, 300],
        [20, 400],
        [10, 320],
        [20, 400],
        [10, 310],
        [20, 420],
      );
      s.circle("DEVICES", 400, 400, 4);
    });
    expect(d.laid.faces[0]!.holes).toEqual([
      { kind: "round", x: 10, y: 10, d: 9 },
      { kind: "rect", x: 100, y: 100, w: 92, h: 45 },
      {
        kind: "polygon",
        points: [
          { x: 200, y: 200 },
          { x: 220, y: 200 },
          { x: 210, y: 220 },
        ],
      },
    ]);
  });

  test("cutouts drawn side by side with one line between them are two", () => {
    const d = laidOut((s) => {
      for (const y of [300, 345]) for (const x of [200, 292]) s.line("BOHRUNGEN", x, y, x + 92, y);
      for (const x of [200, 292, 384]) s.line("BOHRUNGEN", x, 300, x, 345);
    });
    expect(d.laid.faces[0]!.holes).toEqual([
      { kind: "rect", x: 100, y: 100, w: 92, h: 45 },
      { kind: "rect", x: 192, y: 100, w: 92, h: 45 },
    ]);
  });
});

describe("faces and enclosures", () => {
  const door = { enclosure: "+A1", face: "door" as const, frame: { x: 1000, y: 200, w: 400, h: 500 }, mm: 2 };

  test("without its depth nothing of it is taken, and that is told", () => {
    const d = laidOut(rail, { say: (s) => ({ ...s, enclosures: [{ tag: "+A1" }] }) });
    expect([d.laid.enclosures, d.laid.rails]).toEqual([[], []]);
    expect(d.laid.notTaken).toMatchObject([
      { found: "+A1/plate", wanted: "of +A1 its width, height, depth", x: 100, y: 200 },
    ]);
    // A door says how wide and high it is: its depth is all that is missing then.
    const behind = laidOut(rail, { say: (s) => ({ ...s, views: [...s.views, door], enclosures: [{ tag: "+A1" }] }) });
    expect(behind.laid.notTaken.map((n) => n.wanted)).toEqual(["of +A1 its depth", "of +A1 its depth"]);
    const bare = laidOut(rail, { say: (s) => ({ ...s, enclosures: [{ tag: "+A1", w: 1, h: 1, d: 1 }] }) });
    expect(bare.laid.notTaken[0]!.wanted).toMatch(/^of \+A1 how far its plate stands/);
  });

  test("a door says width and height; wires cross beside the hinge", () => {
    const d = laidOut(rail, {
      say: (s) => ({
        ...s,
        views: [...s.views, door, door],
        enclosures: [
          {
            tag: "+A1",
            d: 300,
            setback: 260,
            thickness: 3,
            material: "galvanised steel",
            hinge: "right",
            crossings: [450],
          },
        ],
      }),
    });
    expect(d.laid.enclosures).toEqual([
      {
        tag: "+A1",
        w: 800,
        h: 1000,
        d: 300,
        hinge: "right",
        plate: { w: 600, h: 800, setback: 260, thickness: 3, material: "galvanised steel" },
      },
    ]);
    // 100 mm beside the plate on each side.
    expect(d.laid.crossings).toMatchObject([
      {
        tag: "+A1/hinge",
        kind: "hinge",
        from: { face: "+A1/door" },
        points: [
          { x: 770, y: 450, z: 25 },
          { x: 670, y: 450, z: 235 },
        ],
      },
    ]);
    expect(missed(d)).toEqual(["+A1/door again"]);
  });

  test("what is looked at: frames for faces with their tags, boxes on the sheet, enclosures of the lists", () => {
    const { laid, listed, drawing, said } = laidOut(
      (s) => {
        s.frame("0", 100, 200, 600, 800);
        s.frame("0", 100, 200, 600, 800);
        rail(s);
        s.frame("DEVICES", 150, 580, 100, 80);
        s.text("TEXT", "+A1-K1", 200, 640);
      },
      { devices: ["-K1", "-K2"] },
    );
    const look = lookAtDrawing(drawing, said, listed, { ...laid, named: ["+A1"] }, "a.dxf");
    expect(look.box).toEqual(FRAME);
    expect(look.frames.slice(0, 2)).toEqual([
      { box: FRAME, tags: 1 },
      { box: { x: 150, y: 600, w: 500, h: 35 }, tags: 0 },
    ]);
    expect(look.views).toMatchObject([
      {
        w: 600,
        h: 800,
        bars: [{ kind: "rail", across: 35, box: { x: 150, y: 600, w: 500, h: 35 } }],
        devices: [{ tag: "-K1", box: { x: 150, y: 580, w: 100, h: 80 } }],
      },
    ]);
    expect(look.enclosures).toEqual(["+A1"]);
    // 800 high is 30,000 steps; y goes down.
    expect(look.layers.find((l) => l.name === "RAILS")!.path).toBe("M1875 15000L20625 15000L20625 13688L1875 13688z");
  });
});

describe("what layers are", () => {
  test("by their names in the languages of tables", () => {
    const of = (...names: string[]) => names.map((n) => meaningOf(n));
    expect(of("KANAL", "Wire-Duct", "goulottes", "DIN_RAIL", "TRAGSCHIENE", "Geräte", "EQUIPMENT")).toEqual([
      "ducts",
      "ducts",
      "ducts",
      "rails",
      "rails",
      "devices",
      "devices",
    ]);
    expect(of("BOHRUNGEN", "cut-outs", "Rahmen", "DIM", "0", "TEXT")).toEqual([
      "holes",
      "holes",
      "nothing",
      "nothing",
      "by shape",
      "by shape",
    ]);
  });

  test("a drawing of the same name is taken whole, one with most of its layers by layers and parts", () => {
    const { drawing, said } = laidOut((s) => {
      rail(s);
      s.frame("X", 1, 1, 2, 2);
    });
    const mine: DrawingSaid = {
      ...said,
      layers: { RAILS: "ducts", X: "holes" },
      bars: [{ kind: "duct", across: 35, part: "P" }],
    };
    const kept = [{ name: "Saltmere", tables: [], drawings: [{ name: "A.DXF", said: mine }] }];
    expect(saidFor(drawing, "a.dxf", kept)).toEqual({ said: mine, by: "Saltmere" });
    expect(saidFor(drawing, "b.dxf", kept)).toEqual({ said: { ...mine, views: [], enclosures: [] }, by: "Saltmere" });
    const other = [
      {
        name: "s",
        tables: [],
        drawings: [{ name: "c", said: { ...mine, layers: { RAILS: "ducts" as const, M: "holes" as const } } }],
      },
    ];
    expect(saidFor(drawing, "b.dxf", other)).toEqual({ said: firstSaid(drawing), by: null });
  });
});

test("a text means the device of its enclosure where several go by one tag, and what is written in full is that one", () => {
  const tags = ["-K1", "+A2-K1", "=F1+A3-K1", "=F2+A3-K1", "+A2-X1"];
  const listed: Listed = {
    devices: new Map(tags.slice(0, 4).map((tag) => [tag, { tag, part: "P" }])),
    strips: new Map([["+A2-X1", { tag: "+A2-X1", rail: "R", members: [] }]]),
    parts: new Map(),
    whole: true,
  };
  const means = (text: string, enclosure: string) => knownFrom(listed, enclosure).thing(text)?.tag ?? null;
  expect([means("-K1", "+A1"), means("K1", "+A2"), means("+A2-K1", "+A2"), means("-X1", "+A2")]).toEqual([
    "-K1",
    "+A2-K1",
    "+A2-K1",
    "+A2-X1",
  ]);
  expect([means("=F2+A3-K1", "+A3"), means("+A2-K1", "+A1"), means("-X1", "+A1")]).toEqual(["=F2+A3-K1", null, null]);
});
