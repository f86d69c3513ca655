import { parse } from "csv-parse/sync";
import DxfParser from "dxf-parser";
import type { Design, Device, Hole, Part } from "../design/model";
import { DEFAULT_SHOP } from "../shop/shop";
import { coreOf } from "../design/threads";
import { EDITS } from "../edits";
import { compute as computePanel } from "../panel/compute";
import { demo } from "../test/demo";
import { METALWORK } from "../test/metalwork";
import { DOT, tiny } from "../test/tiny";
import { mitreAct } from "./acts";
import { barSheets, pieceLabels } from "./bar-drawing";
import { compute } from "./compute";
import { faceSheets, fullSheets } from "./drawing";
import { spread } from "../formats/ordinates";
import { explain } from "./explain";
import { cutsTable, drawn, files, holesTable, programsOf } from "./files";
import type { MetalworkResult } from "./result";
import { cutTogether } from "./together";
import { middleOf, mirrored } from "./shapes";
import { metalwork } from "./stage";
import { textBox, type Scene } from "../formats/scene";

const HEADING = { job: "T", title: "test", revision: "A" };
const part = (number: string, more: Partial<Part>): Part => ({ ...DOT, number, category: "other", pins: [], ...more });
const PARTS = [
  part("CUT", { w: 100, h: 60, d: 40, holes: [{ kind: "rect", x: 5, y: 5, w: 90, h: 50, r: 2 }] }),
  part("WIDE", {
    w: 30,
    h: 30,
    d: 40,
    back: { w: 120, h: 80, d: 150 },
    holes: [{ kind: "round", x: 15, y: 15, d: 22.3 }],
  }),
  part("FOOT", {
    w: 100,
    h: 100,
    d: 80,
    holes: [
      { kind: "round", x: 10, y: 10, d: 5.5 },
      { kind: "thread", x: 90, y: 90, thread: "M6" },
    ],
  }),
  part("ODD", { w: 40, h: 40, d: 20, holes: [{ kind: "thread", x: 20, y: 20, thread: "M7" }] }),
  part("G16", {
    category: "gland",
    w: 22,
    h: 22,
    d: 20,
    holes: [{ kind: "round", x: 11, y: 11, d: 16.3 }],
    gland: { thread: "M16x1.5", cableMin: 5, cableMax: 10 },
  }),
  part("G25", {
    category: "gland",
    w: 32,
    h: 32,
    d: 28,
    holes: [{ kind: "round", x: 16, y: 16, d: 25.3 }],
    gland: { thread: "M25x1.5", cableMin: 9, cableMax: 17 },
  }),
];
const on = (tag: string, number: string, face: string, x: number, y: number, more: Partial<Device> = {}): Device => ({
  tag,
  part: number,
  on: { face: `+A1/${face}`, x, y },
  ...more,
});
const design = (devices: Device[], more: Partial<Design> = {}): Design => ({
  ...tiny({ parts: PARTS }),
  wires: [],
  devices,
  ...more,
});
const work = (d: Design, rules = METALWORK): MetalworkResult => compute(d, rules, computePanel(d));
const said = (d: Design, rules = METALWORK): string[] =>
  work(d, rules).open.map((p) => `${p.severity} ${p.kind} ${p.of}: ${p.text}`);
const faceOf = (r: MetalworkResult, face: string) => r.faces.find((f) => f.face === face)!;

describe("what is wrong is told with millimetres", () => {
  test("a keep-out, the edge of a door, a web, a sheet that ends", () => {
    const d = design(
      [on("-P1", "CUT", "door", 300, 300), on("-P2", "CUT", "door", 2098, 300), on("-P3", "CUT", "door", 0, 800)],
      {
        faces: [
          {
            enclosure: "+A1",
            kind: "door",
            keepOuts: [{ x: 350, y: 0, w: 20, h: 2000, text: "stiffener" }],
            holes: [
              { kind: "round", x: 500, y: 500, d: 20 },
              { kind: "round", x: 522, y: 500, d: 20 },
            ],
          },
        ],
      },
    );
    expect(said(d)).toEqual(
      expect.arrayContaining([
        "check hole in a keep-out -P1: hole 1 of -P1 lies in a keep-out of +A1/door (stiffener)",
        "check near the edge -P2: hole 1 of -P2 leaves 7 mm to the edge of +A1/door; 15 mm are to be kept",
        "check thin web +A1/door: own hole 1 and own hole 2 on +A1/door leave a web of 2 mm; 3 mm are to be kept",
        "check meets the frame -P2: -P2 comes behind +A1/door within 2 mm of its edge; the frame takes 25 mm, so that the door does not shut",
      ]),
    );
  });

  test("behind a door the back counts, wider than the front, against the frame", () => {
    const behind = (x: number): string[] =>
      said(
        design([on("-S1", "WIDE", "door", x, 500)], {
          parts: PARTS.map((p) => (p.number === "WIDE" ? { ...p, back: { w: 120, h: 80, d: 150 } } : p)),
        }),
      ).filter((t) => t.includes("frame"));
    expect(behind(1000)).toEqual([]);
    expect(behind(60)[0]).toMatch(/meets the frame -S1: .* within 15 mm/);
  });

  test("fixings step aside from what is in their way, no further than the rule lets them", () => {
    const duct = { tag: "W1", face: "+A1/plate", x: 200, y: 300, run: "right" as const, length: 600, part: "D" };
    // Its second fixing would lie at 500, 320.
    const own = (d: number) => ({
      faces: [{ enclosure: "+A1", kind: "plate" as const, holes: [{ kind: "round" as const, x: 500, y: 320, d }] }],
    });
    const at = (d: number) => {
      const r = work(design([], { ducts: [duct], ...own(d) }));
      return faceOf(r, "+A1/plate").holes.flatMap((h) =>
        h.from.filter((o) => o.thing === "duct").map((o) => [middleOf(h.cut).x, o.asideMm]),
      );
    };
    expect(at(10)).toEqual(
      [
        [230, undefined],
        [489, -11],
        [770, undefined],
      ].sort((a, b) => a[0]! - b[0]!),
    );
    expect(said(design([], { ducts: [duct], ...own(100) }))).toEqual(
      expect.arrayContaining([
        "check fixing in the way W1: fixing 2 of duct W1 on +A1/plate meets own hole 1, and within 40 mm along its bar there is no free place",
      ]),
    );
  });

  test("a thread without a known core stops; a bar that is too long; a face without its machine", () => {
    const rail = { tag: "R1", face: "+A1/plate", x: 100, y: 100, run: "right" as const, length: 1995, part: "R" };
    const d = design([on("-U1", "ODD", "plate", 300, 600)], { rails: [rail] });
    expect(said(d)).toEqual(
      expect.arrayContaining([
        "stop hole cannot be made -U1: hole 1 of -U1 is left out: no core hole is known for its thread M7",
        "check longer than its bar R1: R1 is 1995 mm long; a bar of R gives 1990 mm",
      ]),
    );
    expect(said(d, { ...METALWORK, machine: "Gone" }).some((t) => t.startsWith("check no machine +A1/plate"))).toBe(
      true,
    );
  });

  test("a sheet of which nothing is stated is told: its program is for a guess", () => {
    expect(said(design([on("-P1", "CUT", "door", 300, 300)]))).toContain(
      "check thickness not stated +A1/door: the sheet of +A1/door states no thickness; its program and its minutes are for 2 mm",
    );
  });

  test("hostile numbers in patterns are refused, hole by hole; the others are made", () => {
    const bad: Hole[] = [
      { kind: "round", x: 50, y: 50, d: 22.3, notch: { to: 20, w: 3 } },
      { kind: "round", x: 50, y: 50, d: 22.3, notch: { to: 24, w: 30 } },
      { kind: "countersunk", x: 50, y: 50, d: 5, head: 4 },
      { kind: "rect", x: 10, y: 10, w: 20, h: 10, r: 6 },
      {
        kind: "polygon",
        points: [
          { x: 0, y: 0 },
          { x: 40, y: 40 },
          { x: 40, y: 0 },
          { x: 0, y: 30 },
        ],
      },
      {
        kind: "polygon",
        points: [
          { x: 0, y: 0 },
          { x: 10, y: 10 },
          { x: 20, y: 20 },
        ],
      },
      { kind: "round", x: 60, y: 60, d: 5 },
    ];
    const d = design([on("-U1", "FOOT", "plate", 500, 500)], {
      parts: PARTS.map((p) => (p.number === "FOOT" ? { ...p, holes: bad } : p)),
      faces: [{ enclosure: "+A1", kind: "plate", holes: [bad[2]!] }],
    });
    const stops = said(d).filter((t) => t.startsWith("stop hole cannot be made"));
    expect(stops.map((t) => t.replace(/^.*left out: /, ""))).toEqual(
      expect.arrayContaining([
        "its key reaches to 20 mm, which is within its own 22.3 mm",
        "its key is 30 mm wide, as wide as the hole",
        "it is countersunk to 4 mm, within its own 5 mm",
        "its corners of R 6 are rounder than half of it",
        "its outline crosses itself, or has no area",
      ]),
    );
    expect(stops).toHaveLength(7);
    expect(faceOf(work(d), "+A1/plate").holes.map((h) => h.cut)).toEqual([{ kind: "round", x: 560, y: 560, d: 5 }]);
  });

  test("what is made is tapped, or for rivet nuts, or only marked, or not drilled, as a person says", () => {
    const cuts = (fixing?: Device["fixing"]) => {
      const r = work(design([on("-U1", "FOOT", "plate", 100, 100, fixing ? { fixing } : {})]));
      return faceOf(r, "+A1/plate").holes.map((h) => h.cut.kind + ("d" in h.cut ? ` ${h.cut.d}` : ""));
    };
    expect(cuts()).toEqual(["round 5.5", "thread 5"]);
    expect(cuts("tapped")).toEqual(["thread 4.2", "thread 5"]);
    expect(cuts("through")).toEqual(["round 5.5", "round 6.6"]);
    expect(cuts("rivet nut")).toEqual(["round 7", "round 9"]);
    expect(cuts("marked")).toEqual(["mark 1", "mark 1"]);
    const off = work(design([on("-U1", "FOOT", "plate", 100, 100, { fixing: "not drilled" })]));
    expect(faceOf(off, "+A1/plate")).toMatchObject({ holes: [], notDrilled: [{ of: "-U1", holes: 2 }] });
  });
});

describe("cables in", () => {
  const cable = (tag: string, outer: number, gland?: string) => ({
    tag,
    type: "C",
    outer,
    from: "+A1",
    cores: [],
    ...(gland === undefined ? {} : { gland }),
  });

  test("the smallest gland that grips, in the entry plate, with room for a spanner; spare ones by rule", () => {
    const entry = { x: 100, y: 100, w: 200, h: 120 };
    const d = design([], {
      faces: [{ enclosure: "+A1", kind: "base", entries: [entry] }],
      cables: [cable("-W1", 9.5), cable("-W2", 14), cable("-W3", 14), cable("-W4", 8), cable("-W5", 50)],
    });
    const [plan] = work(d).entries;
    expect(plan!.without).toEqual([{ cable: "-W5", why: "no gland of the library grips 50 mm" }]);
    // 10 % of five, rounded up.
    expect(plan!.proposed.filter((g) => g.cable === null)).toHaveLength(1);
    expect(Object.fromEntries(plan!.proposed.map((g) => [g.cable ?? "spare", g.part]))).toMatchObject({
      "-W1": "G16",
      "-W2": "G25",
      "-W3": "G25",
      "-W4": "G16",
    });
    const boxes = plan!.proposed.map((g) => ({ ...g, w: g.part === "G25" ? 32 : 22, h: g.part === "G25" ? 32 : 22 }));
    boxes.forEach((a, i) => {
      expect([
        a.x >= entry.x + 10,
        a.x + a.w <= entry.x + entry.w - 10,
        a.y >= entry.y + 10,
        a.y + a.h <= entry.y + entry.h - 10,
      ]).toEqual(Array(4).fill(true));
      for (const b of boxes.slice(i + 1))
        expect(Math.max(a.x - b.x - b.w, b.x - a.x - a.w, a.y - b.y - b.h, b.y - a.y - a.h)).toBeGreaterThanOrEqual(
          6 - 1e-9,
        );
    });
    expect(plan!.rows).toBe(1);
  });

  test("two cables through one gland, and one that stands nowhere", () => {
    const d = design([on("-XE1", "G16", "base", 100, 100)], {
      cables: [cable("-W1", 14, "-XE1"), cable("-W2", 8, "-XE1"), cable("-W3", 8, "-XE9")],
    });
    expect(said(d)).toEqual(
      expect.arrayContaining([
        "check cables share a gland -XE1: 2 cables come through -XE1, which takes one: -W1, -W2",
        "note cable without a gland -W3: -W3 comes into +A1 through -XE9, which stands on no face",
      ]),
    );
  });
});

describe("glands where they can stand", () => {
  const cable = (n: number, more: object = {}) => ({
    tag: `-W${n}`,
    type: "C",
    outer: 14,
    from: "+A1",
    cores: [],
    ...more,
  });
  const sizes: Record<string, number> = { G16: 22, G25: 32 };
  /** No proposal over another, over what is taken, or outside of its plates. */
  const clear = (
    d: Design,
    plates: readonly { x: number; y: number; w: number; h: number }[],
    taken: readonly { x: number; y: number; w: number; h: number }[],
  ) => {
    const [plan] = work(d).entries;
    const boxes = plan!.proposed.map((g) => ({ x: g.x, y: g.y, w: sizes[g.part]!, h: sizes[g.part]! }));
    const apart = (a: (typeof boxes)[number], b: (typeof boxes)[number]): number =>
      Math.max(a.x - b.x - b.w, b.x - a.x - a.w, a.y - b.y - b.h, b.y - a.y - a.h);
    boxes.forEach((a, i) => {
      expect(
        plates.some(
          (p) =>
            a.x >= p.x + 10 - 1e-6 &&
            a.y >= p.y + 10 - 1e-6 &&
            a.x + a.w <= p.x + p.w - 10 + 1e-6 &&
            a.y + a.h <= p.y + p.h - 10 + 1e-6,
        ),
      ).toBe(true);
      for (const b of [...boxes.slice(i + 1), ...taken]) expect(apart(a, b)).toBeGreaterThanOrEqual(6 - 1e-6);
    });
    return plan!;
  };
  const plates = [
    { x: 100, y: 100, w: 200, h: 60 },
    { x: 400, y: 100, w: 200, h: 60 },
  ];

  test("clear of keep-outs, own openings and devices; the second plate when the first is full; what finds no room is told", () => {
    const keepOut = { x: 110, y: 110, w: 40, h: 40 };
    const hole: Hole = { kind: "rect", x: 200, y: 120, w: 30, h: 20 };
    const d = design([on("-P1", "FOOT", "base", 480, 90)], {
      faces: [{ enclosure: "+A1", kind: "base", entries: plates, keepOuts: [keepOut], holes: [hole] }],
      cables: [1, 2, 3, 4, 5, 6].map((n) => cable(n)),
    });
    const plan = clear(d, plates, [keepOut, hole, { x: 480, y: 90, w: 100, h: 100 }]);
    // Between keep-out and opening one, behind it one more; in the second plate one before the device.
    expect(plan.proposed.map((g) => g.x)).toEqual([156, 236, 410]);
    expect(plan.without).toHaveLength(3);
    expect([plan.spareWithout, said(d).filter((t) => t.startsWith("note no room for spare"))]).toEqual([
      1,
      ["note no room for spare glands +A1: 1 spare gland finds no room on +A1/base of +A1"],
    ]);
  });

  test("a plate beyond its face counts as far as it lies on it, and is told", () => {
    // The base is 2200 × 500.
    const wide = { x: 2100, y: 100, w: 400, h: 60 };
    const d = design([], {
      faces: [{ enclosure: "+A1", kind: "base", entries: [wide] }],
      cables: [1, 2, 3].map((n) => cable(n)),
    });
    const plan = clear(d, [{ ...wide, w: 100 }], []);
    expect(plan.proposed).toHaveLength(2);
    expect(said(d).find((t) => t.includes("entry plate beyond"))).toContain("reaches beyond +A1/base of 2200 × 500 mm");
  });

  test("a cable between two enclosures has a gland at either end; one in a third is told; threads of any kind", () => {
    const two: Design = {
      ...design([on("-XE1", "G25", "base", 100, 100)]),
      enclosures: [
        ...design([]).enclosures,
        { ...design([]).enclosures[0]!, tag: "+A2" },
        { ...design([]).enclosures[0]!, tag: "+A3" },
      ],
      parts: PARTS.map((p) => (p.gland?.thread === "M16x1.5" ? { ...p, gland: { ...p.gland, thread: "PG13.5" } } : p)),
      cables: [
        cable(1, { to: "+A2", gland: "-XE1" }),
        cable(2, { from: "+A3", to: "outside", gland: "-XE1" }),
        cable(3, { outer: 8, from: "outside", to: "+A2" }),
      ],
    };
    const { entries } = work(two);
    const a2 = entries.find((e) => e.enclosure === "+A2")!;
    expect(a2.proposed.filter((g) => g.cable !== null).map((g) => [g.cable, g.part])).toEqual([
      ["-W1", "G25"],
      ["-W3", "G16"],
    ]);
    expect(entries.find((e) => e.enclosure === "+A1")!.proposed).toEqual([]);
    expect(said(two)).toContain(
      "check gland in another enclosure -W2: -W2 comes through -XE1, which stands on +A1/base; it leads to +A3",
    );
    // Laid, it is the gland of the other end.
    const laid = EDITS.apply(two, {
      kind: "lay glands",
      payload: { glands: [{ device: "-XE9", part: "G25", face: "+A2/base", x: 100, y: 100, cable: "-W1" }] },
    });
    expect(laid.ok && laid.design.cables[0]).toMatchObject({ gland: "-XE1", glandTo: "-XE9" });
  });
});

describe("screws, and what they hold", () => {
  const rail = (length: number, number = "R") => ({
    tag: "R1",
    face: "+A1/plate",
    x: 100,
    y: 100,
    run: "right" as const,
    length,
    part: number,
  });
  const SLOTTED = part("RS", {
    w: 2000,
    h: 35,
    d: 7.5,
    category: "rail",
    perforation: { first: 12.5, pitch: 25, slot: 15 },
  });
  const along = (d: Design) =>
    faceOf(work(d), "+A1/plate").holes.flatMap((h) => h.from.map((o) => [middleOf(h.cut).x - 100, o.slot, o.asideMm]));

  test("holes take to the slots of their bar, and are marked as free where it has none", () => {
    // 500 mm: the slots nearest to 25 and 475 of 12.5, 37.5 and on; of two equal ones that further in; 250 at most between.
    const slotted = design([], { rails: [rail(500, "RS")], parts: [...PARTS, SLOTTED, ...tiny({}).parts] });
    expect(along(slotted)).toEqual([
      [37.5, 2, undefined],
      [237.5, 10, undefined],
      [462.5, 19, undefined],
    ]);
    expect(along(design([], { rails: [rail(500)] }))).toEqual([
      [25, undefined, undefined],
      [250, undefined, undefined],
      [475, undefined, undefined],
    ]);
    // In its way at 237.5 a hole of 10 mm and a web of 3: within the play of that slot there is no room, in the next one there is.
    const own = {
      faces: [
        { enclosure: "+A1", kind: "plate" as const, holes: [{ kind: "round" as const, x: 337.5, y: 117.5, d: 10 }] },
      ],
    };
    const aside = along({ ...slotted, ...own }).filter(([, slot]) => slot !== undefined);
    expect(aside[1]![2]).not.toBeUndefined();
    // A screw of M5 goes through 5.5 mm: 4.75 mm of play to either side in a slot of 15.
    const off = (aside[1]![0]! - 12.5) % 25;
    expect(Math.min(off, 25 - off)).toBeLessThanOrEqual(4.75);
    expect(
      explain(
        work(slotted),
        { of: "x", face: "+A1/plate", hole: 1 },
        { design: slotted, rules: METALWORK, panel: computePanel(slotted) },
      )!
        .terms.map((t) => t.detail)
        .join(),
    ).toContain("at slot 2 of its part");
  });

  test("a thread that a thin sheet holds too little of is told, with what would do; a device without a pattern too", () => {
    const thin: Design = {
      ...design([on("-P1", "FOOT", "door", 300, 300), on("-P2", "BARE", "door", 600, 300)]),
      parts: [...PARTS, part("BARE", { w: 80, h: 80, d: 390 })],
      enclosures: design([]).enclosures.map((e) => ({
        ...e,
        sheet: { thickness: 1.5, material: "painted steel" as const },
      })),
    };
    const { open } = work(thin);
    // M6 has a pitch of 1 mm.
    expect(open.find((p) => p.kind === "short thread")).toMatchObject({
      of: "-P1",
      text: "1 × M6 of -P1 get 1.5 turns in 1.5 mm of +A1/door (painted steel); 2.5 are the least",
      mend: { kind: "set fixing", payload: { things: [{ thing: "device", of: "-P1" }] } },
    });
    expect(open.find((p) => p.kind === "no hole pattern")).toMatchObject({ severity: "check", of: "-P2" });
    const off = { ...thin, devices: thin.devices.map((v) => ({ ...v, fixing: "not drilled" as const })) };
    expect(said(off).some((t) => /short thread|no hole pattern/.test(t))).toBe(false);
  });

  test("turns by the first row of the material; holes of one thing and thread are told once, with their number", () => {
    const four = part("FOUR", {
      holes: [10, 30, 50, 70].map((x) => ({ kind: "thread" as const, x, y: 10, thread: "M5" })),
      w: 80,
      h: 80,
    });
    const told = (material: "aluminium" | "galvanised steel") => {
      const d: Design = {
        ...design([on("-P1", "FOUR", "plate", 300, 300)]),
        parts: [...PARTS, four],
        enclosures: design([]).enclosures.map((e) => ({ ...e, plate: { ...e.plate!, thickness: 3, material } })),
      };
      const turns = [
        { material: "aluminium" as const, turns: 4 },
        { turns: 2.5 },
        { material: "galvanised steel" as const, turns: 9 },
      ];
      return work(d, { ...METALWORK, turns }).open.flatMap((p) => (p.kind === "short thread" ? [p.text] : []));
    };
    // 3 mm hold 3.75 turns of a pitch of 0.8 mm.
    expect(told("aluminium")).toEqual([
      "4 × M5 of -P1 get 3.75 turns in 3 mm of +A1/plate (aluminium); 4 are the least",
    ]);
    expect(told("galvanised steel")).toEqual([]);
  });

  test("threads of the table from M2 to M20, fine and entry ones; an own row of the shop counts", () => {
    const threads = METALWORK.threads;
    const core = (t: string) => coreOf(t, threads);
    expect(["M2", "M2.5", "M12", "M16", "M20", "M10x1.25", "PG13.5", "NPT1/2", "M7x0.75"].map(core)).toEqual([
      1.6, 2.05, 10.2, 14, 17.5, 8.8, 19, 17.9, 6.25,
    ]);
    expect(coreOf("M12", [{ thread: "M12", use: "screw", core: 10.3, pitch: 1.75 }])).toBe(10.3);
  });

  test("texts of a DXF are read as they are; a milled round lies on the layer of the mill; files of like names are told apart", async () => {
    const d: Design = {
      ...design([]),
      job: { code: "T%%d", title: "test", revision: "\\P é" },
      faces: [
        {
          enclosure: "+A1",
          kind: "plate",
          holes: [
            { kind: "round", x: 500, y: 500, d: 80 },
            { kind: "round", x: 800, y: 500, d: 5 },
          ],
        },
      ],
    };
    const made = await files(d, METALWORK, work(d));
    const dxf = new DxfParser().parseSync(
      new TextDecoder().decode(made.find((f) => f.name.endsWith("plate.dxf"))!.bytes),
    )!;
    const notes = dxf.entities.filter((e) => e.layer === "NOTE").map((e) => (e as unknown as { text: string }).text);
    expect(notes).toContain("job T% %d, revision /P é");
    expect(notes.some((n) => n.startsWith("sheet 2000 x 2000 x 3 mm, aluminium"))).toBe(true);
    expect(
      dxf.entities
        .filter((e) => e.type === "CIRCLE")
        .map((e) => e.layer)
        .sort(),
    ).toEqual(["DRILL", "MILL"]);
    const like: Design = {
      ...d,
      enclosures: ["+A/1", "+A-1"].map((tag) => ({ ...d.enclosures[0]!, tag })),
      faces: ["+A/1", "+A-1"].map((enclosure) => ({ ...d.faces[0]!, enclosure })),
    };
    const names = (await files(like, METALWORK, work(like))).map((f) => f.name);
    expect(new Set(names.map((n) => n.toLowerCase())).size).toBe(names.length);
    expect(names).toEqual(expect.arrayContaining(["holes-+A-1-plate.nc", "holes-+A-1-plate~2.nc"]));
  });

  test("a face of 30 m is not drawn at 1:1, and that is told", () => {
    const d: Design = {
      ...design([]),
      enclosures: design([]).enclosures.map((e) => ({ ...e, w: 30_000, plate: { ...e.plate!, w: 29_000, h: 20_000 } })),
      faces: [{ enclosure: "+A1", kind: "plate", holes: [{ kind: "round", x: 500, y: 500, d: 5 }] }],
    };
    expect(fullSheets(faceOf(work(d), "+A1/plate"), HEADING)).toHaveLength(1);
    expect(said(d).find((t) => t.startsWith("note too large for 1:1"))).toContain("at 1:1 +A1/plate takes");
  });
});

describe("bars", () => {
  test("notches where others come in or cross, mitres, shorter covers, rests of the shelf first", () => {
    const duct = (tag: string, x: number, y: number, run: "right" | "up", length: number, more = {}) => ({
      tag,
      face: "+A1/plate",
      x,
      y,
      run,
      length,
      part: "D",
      ...more,
    });
    const d = design([], {
      ducts: [
        duct("W1", 100, 100, "up", 800),
        duct("W2", 140, 300, "right", 400, { mitre: ["end"] }),
        duct("W3", 60, 600, "right", 400),
      ],
    });
    const rules = {
      ...METALWORK,
      coverShorterMm: 4,
      offcuts: [{ kind: "duct" as const, part: "D", lengthMm: 820, count: 1 }],
    };
    const { bars } = work(d, rules);
    const [ducts, covers] = [bars.find((b) => b.kind === "duct")!, bars.find((b) => b.kind === "cover")!];
    const also = (list: typeof ducts, of: string) =>
      list.list.bars.flatMap((b) => b.pieces).find((p) => p.of === of)!.also;
    expect(also(ducts, "W1")).toEqual([
      "right side notched 40 mm at 200 mm for W2",
      "both sides notched 40 mm at 500 mm for W3",
    ]);
    expect(also(covers, "W1")).toEqual(["both sides notched 40 mm at 500 mm for W3"]);
    expect(also(ducts, "W2")).toEqual(["end cut at 45°"]);
    expect(covers.list.bars.flatMap((b) => b.pieces.map((p) => p.lengthMm)).sort()).toEqual([396, 396, 796]);
    expect(ducts.list.bars.map((b) => [b.kept, b.pieces.map((p) => p.of)])).toEqual([
      [true, ["W2", "W3"]],
      [false, ["W1"]],
    ]);
    expect([ducts.list.fresh, ducts.list.bound]).toEqual([1, 1]);
  });

  test("ducts are notched on the side where others come in; of equal rests on the shelf each is used", () => {
    const duct = (tag: string, x: number, y: number, run: "right" | "up", length: number) => ({
      ...{ tag, face: "+A1/plate", x, y, run, length, part: "D" },
    });
    // Four ducts of 40 mm run from both sides onto an upright one and onto one that lies.
    const d = design([], {
      ducts: [
        duct("UP", 300, 0, "up", 300),
        duct("L", 100, 50, "right", 200),
        duct("R", 340, 150, "right", 200),
        duct("LIES", 400, 500, "right", 300),
        duct("B", 450, 400, "up", 100),
        duct("T", 550, 540, "up", 100),
      ],
    });
    const offcuts = [{ kind: "duct" as const, part: "D", lengthMm: 330, count: 2 }];
    const { bars } = work(d, { ...METALWORK, trimMm: 5, kerfMm: 3, offcuts });
    const { list } = bars.find((b) => b.kind === "duct")!;
    const also = new Map(list.bars.flatMap((b) => b.pieces.map((p) => [p.of, p.also ?? []])));
    expect([also.get("UP"), also.get("LIES")]).toEqual([
      ["left side notched 40 mm at 50 mm for L", "right side notched 40 mm at 150 mm for R"],
      ["lower side notched 40 mm at 50 mm for B", "upper side notched 40 mm at 150 mm for T"],
    ]);
    // 330 mm less two trims give 320: fullest with 200 and 100 and the saw twice; both 300 come from a new bar.
    const kept = list.bars.filter((b) => b.kept).map((b) => b.pieces.map((p) => p.lengthMm));
    expect(kept).toEqual([
      [200, 100],
      [200, 100],
    ]);
    // 330 − 5 − (200 + 3) − (100 + 3): what lies behind the last cut.
    expect(list.bars.filter((b) => b.kept).map((b) => b.restMm)).toEqual([19, 19]);
    expect(list.fresh).toBe(1);
  });

  test("equal panels, and several jobs, are cut together: every piece of each, never more bars than apart", () => {
    const [lark, hill] = [work(demo("larkmoor")).bars, work(demo("hillfold")).bars];
    const apart = 2 * lark.reduce((n, b) => n + b.list.fresh, 0) + hill.reduce((n, b) => n + b.list.fresh, 0);
    const all = cutTogether(
      [
        { job: "LARK", panels: 2, bars: lark },
        { job: "HILL", panels: 1, bars: hill },
      ],
      METALWORK,
    );
    const names = all.flatMap((b) => b.list.bars.flatMap((x) => x.pieces.map((p) => `${b.kind} ${p.of}`)));
    const count = (bars: typeof lark) =>
      bars.reduce((n, b) => n + b.list.bars.reduce((m, x) => m + x.pieces.length, 0), 0);
    expect(new Set(names).size).toBe(names.length);
    expect(names).toHaveLength(2 * count(lark) + count(hill));
    expect(names).toEqual(expect.arrayContaining(["rail LARK R1 (1)", "rail LARK R1 (2)", "rail HILL R1"]));
    expect(all.reduce((n, b) => n + b.list.fresh, 0)).toBeLessThanOrEqual(apart);
  });

  test("nothing is lost: every rail, duct and cover of the theatre once", () => {
    const lark = demo("larkmoor");
    const { bars } = work(lark);
    const of = (kind: string) =>
      bars
        .filter((b) => b.kind === kind)
        .flatMap((b) => b.list.bars.flatMap((x) => x.pieces.map((p) => p.of)))
        .sort();
    expect(of("rail")).toEqual(lark.rails.map((r) => r.tag).sort());
    expect(of("duct")).toEqual(lark.ducts.map((r) => r.tag).sort());
    expect(of("cover")).toEqual(of("duct"));
  });
});

describe("of the theatre", () => {
  const lark = demo("larkmoor");
  const panel = computePanel(lark);
  const result = compute(lark, METALWORK, panel);
  const basis = { design: lark, rules: METALWORK, panel };

  test("every place explains itself: terms add up to it", () => {
    for (const face of result.faces)
      for (const hole of face.holes)
        for (const axis of ["x", "y"] as const) {
          const w = explain(result, { of: axis, face: face.face, hole: hole.number }, basis)!;
          const sum = w.terms.reduce((n, t) => n + (t.value ?? 0), 0);
          expect(Math.abs(sum - Number(w.total))).toBeLessThan(0.01);
          expect(Number(w.total)).toBeCloseTo(middleOf(hole.cut)[axis], 2);
        }
    for (const { face } of result.faces) {
      const w = explain(result, { of: "minutes", face }, basis)!;
      expect(Math.abs(w.terms.reduce((n, t) => n + (t.value ?? 0), 0) - Number(w.total))).toBeLessThan(0.03);
    }
    const rail = result.bars[0]!;
    expect(explain(result, { of: "bars", kind: rail.kind, part: rail.part }, basis)!.total).toBe(rail.list.bars.length);
    expect(explain(result, { of: "x", face: "+NO/door", hole: 1 }, basis)).toBeNull();
    expect(explain(result, { of: "x", face: "+A1/door", hole: 999 }, basis)).toBeNull();
  });

  test("the tables say what the plan says, as the sheet is seen; drawings and programs too", async () => {
    const inside = compute(lark, { ...METALWORK, doorInside: 1 }, panel);
    const { head, rows } = holesTable(inside.faces, METALWORK);
    expect(head.slice(0, 15).join()).toBe("enclosure,face,seen_from,number,kind,x,y,d,w,h,r,thread,tool,order,from");
    const column = (name: string): number => head.indexOf(name);
    let n = 0;
    for (const face of inside.faces) {
      expect(face.seen).toBe(face.kind === "door" ? "inside" : "outside");
      for (const hole of face.holes) {
        const row = rows[n++]!;
        const cut = face.seen === "inside" ? mirrored(hole.cut, face.w) : hole.cut;
        const wanted = cut.kind === "polygon" ? null : cut.x;
        expect(Number(row[column("x")])).toBeCloseTo(wanted!, 3);
        expect(row[column("seen_from")]).toBe(
          face.kind === "plate" ? "front" : face.kind === "door" ? "inside" : "outside",
        );
      }
      const orders = rows.filter((r) => r[0] === face.enclosure && r[1] === face.kind).map((r) => r[column("order")]);
      expect(new Set(orders).size).toBe(orders.length);
      for (const { text } of programsOf(face, { ...METALWORK, doorInside: 1 }, HEADING, "n"))
        expect(text).toContain(
          `seen from ${face.kind === "plate" ? "front" : face.kind === "door" ? "inside" : "outside"}`,
        );
      for (const scene of [
        ...faceSheets(face, METALWORK.tools as never, METALWORK.machines, HEADING),
        ...fullSheets(face, HEADING),
      ])
        expect(scene.items.some((i) => i.kind === "text" && /SEEN FROM (INSIDE|OUTSIDE|FRONT)/.test(i.text))).toBe(
          true,
        );
    }
    const cuts = cutsTable(result);
    expect(cuts.head.slice(0, 7).join()).toBe("kind,part,bar,stock_mm,piece,length_mm,for");
    const made = await files(lark, METALWORK, result);
    expect(new Set(made.map((f) => f.name)).size).toBe(made.length);
    const csv = parse(new TextDecoder().decode(made.find((f) => f.name === "holes.csv")!.bytes), {
      columns: true,
    }) as object[];
    expect(csv).toHaveLength(result.faces.reduce((sum, f) => sum + f.holes.length, 0));
    const dxf = new DxfParser().parseSync(
      new TextDecoder().decode(made.find((f) => f.name === "holes-+A2-plate.dxf")!.bytes),
    )!;
    const plate = faceOf(result, "+A2/plate").holes;
    expect(plate.every((h) => h.cut.kind === "thread")).toBe(true);
    expect(dxf.entities.filter((e) => e.type === "CIRCLE")).toHaveLength(plate.length);
  });

  test("one face as it is asked for", async () => {
    for (const as of ["pdf", "svg", "dxf", "nc"] as const) {
      const file = await drawn(lark, METALWORK, result, { face: "+A1/door", as, full: false, setUp: 1 });
      expect(file!.name).toBe(`holes-+A1-door.${as}`);
      expect(file!.bytes.length).toBeGreaterThan(500);
    }
    expect((await drawn(lark, METALWORK, result, { face: "+B1/door", as: "svg", full: true, setUp: 1 }))!.name).toBe(
      "holes-+B1-door-full.svg",
    );
    expect(await drawn(lark, METALWORK, result, { face: "+A1/door", as: "nc", full: false, setUp: 2 })).toBeNull();
    expect(await drawn(lark, METALWORK, result, { face: "+NO/door", as: "pdf", full: false, setUp: 1 })).toBeNull();
    expect(metalwork.drawing!.schema.validate({ face: "a", as: "png" }).error).toBeDefined();
  });

  test("on paper: no number covers another, dimensions keep apart, all of a face at 1:1", () => {
    for (const face of result.faces) {
      const [sheet] = faceSheets(face, METALWORK.tools as never, METALWORK.machines, HEADING);
      const texts = sheet!.items.filter((i) => i.kind === "text").map(textBox);
      texts.forEach((a, i) => {
        for (const b of texts.slice(i + 1))
          expect(
            a.x + 1e-6 >= b.x + b.w || b.x + 1e-6 >= a.x + a.w || a.y + 1e-6 >= b.y + b.h || b.y + 1e-6 >= a.y + a.h,
          ).toBe(true);
      });
      const full = fullSheets(face, HEADING);
      // Each middle has its cross on one sheet at least, at 1:1.
      const words = full.flatMap((s: Scene) =>
        s.items.flatMap((i) => (i.kind === "text" ? [i.text.split(":")[0]!] : [])),
      );
      for (const hole of face.holes) expect(words).toContain(String(hole.number));
    }
    expect(spread([1, 1.5, 9], 2, 0, 10)).toEqual([1, 3, 9]);
    expect(spread([9, 9.5, 9.6], 2, 0, 10)).toEqual([6, 8, 10]);
    expect(spread([1, 2, 3, 4], 4, 0, 10)).toBeNull();
  });

  test("bars and labels: a piece, a label", () => {
    const pieces = result.bars.flatMap((b) => b.list.bars.flatMap((x) => x.pieces));
    const labels = pieceLabels(result.bars, HEADING).flatMap((s) => s.items.filter((i) => i.kind === "rect"));
    expect(labels).toHaveLength(pieces.length);
    const drawnPieces = barSheets(result.bars, HEADING).flatMap((s) =>
      s.items.filter((i) => i.kind === "rect" && i.layer === "cut"),
    );
    expect(drawnPieces).toHaveLength(pieces.length);
  });

  test("what a change came to is said in words", () => {
    const more = compute(
      { ...lark, ducts: lark.ducts.slice(1) },
      METALWORK,
      computePanel({ ...lark, ducts: lark.ducts.slice(1) }),
    );
    expect(metalwork.compare!(result as never, more as never).map((t) => t.text)[0]).toMatch(/^\d+ holes fewer$/);
    expect(metalwork.compare!(result as never, result as never)).toEqual([]);
    expect(DEFAULT_SHOP.rules.metalwork).toEqual(METALWORK);
  });
});

test("how a bar is cut now is offered first, in whichever order its mitres are stated", () => {
  const bar = (mitre?: ("start" | "end")[]) => ({ tag: "W1", ...(mitre ? { mitre } : {}) });
  const now = (mitre?: ("start" | "end")[]): unknown =>
    mitreAct("duct", "W1", { ...tiny({}), ducts: [bar(mitre)] } as unknown as Design).asks![0]!.now;
  expect([now(), now(["start"]), now(["end"]), now(["end", "start"])]).toEqual([
    "square",
    "start at 45°",
    "end at 45°",
    "both at 45°",
  ]);
});
