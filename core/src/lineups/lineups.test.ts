import readXlsx, { readSheetNames } from "read-excel-file/node";
import fc from "fast-check";
import type { Cable, Design, Device, Part, Strip, Wire } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import type { LineupRules } from "./rules";
import { ALL_DRAWN, runs } from "../test/runs";
import { tiny } from "../test/tiny";
import { compute } from "./compute";
import { coresTable, files } from "./files";
import type { Accessory, LineupsResult, Member, StripPlan } from "./result";

// Writing and reading PDF takes long on a busy machine.
jest.setTimeout(180_000);

const pin = (name: string, channel?: string, sizeMax = 2.5) => ({
  name,
  sizeMax,
  conductors: 2,
  ...(channel ? { channel } : {}),
});
const terminal = (number: string, more: Partial<Part>): Part => ({
  number,
  maker: "Oddmake",
  text: number,
  category: "terminal",
  w: 5,
  h: 60,
  d: 50,
  pins: [pin("a"), pin("b")],
  terminal: { levels: 1, jumperRows: 2, openSide: "right", endPlate: "EP" },
  ...more,
});
const accessory = (number: string, more: Partial<Part>): Part => ({
  number,
  maker: "Oddmake",
  text: number,
  category: "terminal accessory",
  w: 2,
  h: 60,
  d: 50,
  ...more,
});
const LIBRARY: Part[] = [
  terminal("T", {}),
  terminal("TP", { terminal: { levels: 1, jumperRows: 2, openSide: "none", passes: true } }),
  terminal("T2", {
    h: 70,
    pins: [pin("a", "1"), pin("c", "1"), pin("b", "2"), pin("d", "2")],
    terminal: { levels: 2, jumperRows: 2, openSide: "left", endPlate: "EP" },
  }),
  terminal("TF", { w: 8, terminal: { levels: 1, jumperRows: 1, openSide: "none", fuseMostA: 6.3 } }),
  accessory("EP", { w: 1.5 }),
  accessory("ES", { w: 8, accessory: "end stop" }),
  accessory("J3", { jumper: { teeth: 3, pitch: 5, currentA: 20 } }),
  accessory("J5", { jumper: { teeth: 5, pitch: 5, currentA: 20 } }),
];

interface Given {
  members: string[];
  wires?: Partial<Wire>[];
  cables?: Cable[];
  strip?: Partial<Strip>;
  devices?: Partial<Device>[];
  parts?: Part[];
  nets?: Design["nets"];
  /** Where the members and -K stand. */
  enclosure?: string;
}

/** A strip -X of terminals by their parts, on a rail of 500 mm, beside a device -K. */
function strip(g: Given): Design {
  const tags = g.members.map((_, i) => `-X.${i + 1}`);
  const here = g.enclosure === undefined ? {} : { enclosure: g.enclosure };
  return {
    ...tiny({
      devices: [
        ...g.members.map((part, i) => ({ tag: tags[i]!, part, ...here })),
        { tag: "-K", part: "T", ...here },
        ...(g.devices ?? []),
      ],
      parts: g.parts ?? LIBRARY,
      wires: g.wires ?? [],
      nets: g.nets ?? ["n", "m", "o"].map((name) => ({ name, class: "control" as const, sizeMm2: 1 })),
    }),
    rails: [{ tag: "R", face: "+A1/plate", x: 0, y: 0, run: "right", length: 500, part: "R" }],
    cables: g.cables ?? [],
    strips: [{ tag: "-X", rail: "R", members: tags, ...g.strip }],
  };
}
const done = (d: Design, own: Partial<LineupRules> = {}): LineupsResult =>
  compute(d, { ...SHOP_RULES, lineups: { ...SHOP_RULES.lineups, sparePercent: 0, ...own } });
const plan = (d: Design, own?: Partial<LineupRules>): StripPlan => done(d, own).strips[0]!;
const members = (p: StripPlan): Member[] => p.items.filter((i): i is Member => i.kind === "member");
const to = (member: number, pinName: string, net = "n", other = "-K"): Partial<Wire> => ({
  net,
  from: { device: `-X.${member}`, pin: pinName },
  to: { device: other, pin: "a" },
});
const core = (member: number, pinName: string, n: number, net = "n") => ({
  core: String(n),
  net,
  from: { device: `-X.${member}`, pin: pinName },
  far: `motor:${n}`,
});
const cable = (...cores: Cable["cores"]): Cable => ({ tag: "-W1", type: "none", cores });
const kinds = (r: LineupsResult): string[] => r.open.map((p) => p.kind);
const said = (r: LineupsResult, kind: string): string | undefined => r.open.find((p) => p.kind === kind)?.text;

// ---- random strips ---------------------------------------------------------------------------------

const PINS: Record<string, string[]> = { T: ["a", "b"], TP: ["a", "b"], TF: ["a", "b"], T2: ["a", "b", "c", "d"] };

const SIDES = ["inside", "outside"] as const;

const randomStrip = fc
  .array(fc.constantFrom("T", "TP", "T2", "TF"), { minLength: 1, maxLength: 12 })
  .chain((parts) => {
    const end = fc
      .nat(parts.length - 1)
      .chain((i) => fc.constantFrom(...PINS[parts[i]!]!).map((p) => ({ device: `-X.${i + 1}`, pin: p })));
    const net = fc.constantFrom("n", "m", "o");
    return fc.record({
      members: fc.constant(parts),
      wires: fc.array(
        fc.record({
          net,
          from: end,
          to: fc.oneof(
            end,
            fc.constantFrom("-K", "-K", "-B").map((device) => ({ device, pin: "a" })),
          ),
        }),
        { maxLength: 20 },
      ),
      cables: fc
        .array(fc.record({ net, from: end }), { maxLength: 10 })
        .map((list) => [cable(...list.map((c, i) => ({ ...c, core: String(i + 1), far: `motor:${i}` })))]),
      jumpers: fc.array(fc.tuple(fc.integer({ min: 1, max: 2 }), fc.nat(11), fc.nat(11)), { maxLength: 3 }),
      sides: fc.dictionary(fc.constantFrom("wire 1", "wire 2", "core 1 of -W1"), fc.constantFrom(...SIDES), {
        maxKeys: 2,
      }),
    });
  })
  .map(({ jumpers, sides, ...g }): Given => {
    const drawn = jumpers.flatMap(([row, a, b]) =>
      a === b || Math.max(a, b) >= g.members.length ? [] : [{ row, members: [a, b].map((i) => `-X.${i + 1}`) }],
    );
    const far = { tag: "-B", part: "T", enclosure: "+B1" };
    return { ...g, enclosure: "+A1", devices: [far], strip: { jumpers: drawn, sides } };
  });

/** Clamps of each level of a part, upper level first. */
const CLAMPS: Record<string, string[][]> = {
  T: [["a", "b"]],
  TP: [["a", "b"]],
  TF: [["a", "b"]],
  T2: [
    ["a", "c"],
    ["b", "d"],
  ],
};

/** What the document says of a strip, reckoned from what was drawn alone. */
function told(g: Given): { spare: [number, number]; undecided: (string | null)[]; outside: string[][] } {
  const lands = [
    ...(g.wires ?? []).flatMap((w, i) =>
      [
        [w.from!, w.to!],
        [w.to!, w.from!],
      ].map(([at, other]) => ({ name: `wire ${i + 1}`, at: at!, out: other!.device === "-B" })),
    ),
    ...g.cables![0]!.cores.map((c) => ({ name: `core ${c.core} of -W1`, at: c.from!, out: true })),
  ];
  const sides = g.strip?.sides ?? {};
  const levels = g.members.flatMap((part, m) =>
    CLAMPS[part]!.map((clamps, l) => {
      const here = lands.filter(({ at }) => at.device === `-X.${m + 1}` && clamps.includes(at.pin));
      const out = here.filter(({ name, out }) => (sides[name] === undefined ? out : sides[name] === "outside"));
      const joined = (g.strip?.jumpers ?? []).some(
        (j) => j.members.includes(`-X.${m + 1}`) && Math.min(j.row, CLAMPS[part]!.length) === l + 1,
      );
      return { clamps, here, out, inside: here.filter((h) => !out.includes(h)), joined };
    }),
  );
  const used = levels.filter((l) => l.here.length > 0);
  const field = used.filter((l) => l.out.length > 0).length > used.length / 2;
  const said = (list: { name: string }[]): boolean => list.some(({ name }) => sides[name] !== undefined);
  const all = levels.flatMap((l) => l.clamps);
  const free = levels.flatMap((l) => l.clamps.filter((c) => l.here.every(({ at }) => at.pin !== c)));
  return {
    spare: [all.length, free.length],
    undecided: levels.map(({ clamps, here, out, inside, joined }) => {
      if (clamps.some((c) => here.filter(({ at }) => at.pin === c).length > 2)) return "too many";
      if (out.length > 0 && inside.length === 0 && !joined && !said(out)) return "left open";
      const apart = inside.length === 2 && inside[0]!.at.pin !== inside[1]!.at.pin;
      return field && out.length === 0 && apart && !said(inside) && !joined ? "one of two" : null;
    }),
    outside: levels.map((l) => l.out.map((o) => o.name).sort()),
  };
}

describe("random strips", () => {
  test("what lies outside, what is asked and what is spare follow from what lands there", () => {
    const met: Record<string, number> = {};
    const count = (what: string, is: boolean): void => void (met[what] = (met[what] ?? 0) + Number(is));
    fc.assert(
      fc.property(randomStrip, (g) => {
        const p = plan(strip(g));
        const levels = members(p).flatMap((m) => m.levels);
        const wanted = told(g);
        expect(levels.map((l) => l.undecided)).toEqual(wanted.undecided);
        expect(levels.map((l) => l.outside.map((c) => c.conductor).sort())).toEqual(wanted.outside);
        const [clamps, free] = wanted.spare;
        expect(p.spares).toEqual([{ sizeMaxMm2: 2.5, clamps, free }]);
        for (const u of wanted.undecided) count(String(u), true);
        count("spare", free > 0);
        count("none spare", free === 0);
        count(
          "far wires",
          (g.wires ?? []).some((w) => w.to!.device === "-B"),
        );
        count("said", Object.keys(g.strip!.sides!).length > 0);
        const rows = g.strip!.jumpers!.map((j) => j.row);
        count("two jumpers in a row", new Set(rows).size < rows.length);
      }),
      { seed: 4110, numRuns: runs(300) },
    );
    if (ALL_DRAWN)
      for (const what of [
        "left open",
        "one of two",
        "too many",
        "spare",
        "none spare",
        "far wires",
        "said",
        "two jumpers in a row",
      ])
        expect([what, (met[what] ?? 0) > 10]).toEqual([what, true]);
  });

  test("every wire end and every core on the strip appears exactly once", () => {
    fc.assert(
      fc.property(randomStrip, (g) => {
        const seen = members(plan(strip(g))).flatMap((m) =>
          m.levels.flatMap((l) => [...l.inside, ...l.outside].map((c) => `${c.conductor} ${m.tag}:${c.pin}`)),
        );
        const wanted = [
          ...(g.wires ?? []).flatMap((w, i) =>
            [w.from!, w.to!].filter((e) => e.device.startsWith("-X")).map((e) => `wire ${i + 1} ${e.device}:${e.pin}`),
          ),
          ...g.cables![0]!.cores.map((c) => `core ${c.core} of -W1 ${c.from!.device}:${c.from!.pin}`),
        ];
        expect(seen.sort()).toEqual(wanted.sort());
      }),
      { seed: 4106 },
    );
  });

  test("members keep their order, open sides are closed, end stops stand at both ends", () => {
    fc.assert(
      fc.property(randomStrip, fc.integer({ min: 0, max: 5 }), (g, every) => {
        const { items, lengthMm } = plan(strip(g), { endStopEvery: every });
        const parts = new Map(LIBRARY.map((p) => [p.number, p]));
        expect(items.flatMap((i) => (i.kind === "member" ? [i.part] : []))).toEqual(g.members);
        expect([items[0]!.kind, items[items.length - 1]!.kind]).toEqual(["end stop", "end stop"]);
        items.forEach((item, i) => {
          if (item.kind !== "member") return;
          const side = parts.get(item.part!)!.terminal!.openSide;
          if (side === "none") return;
          const next = items[side === "right" ? i + 1 : i - 1]!;
          const flush = next.kind === "member" && parts.get(next.part!)!.h === parts.get(item.part!)!.h;
          expect(flush || (next.kind === "end plate" && next.part === "EP")).toBe(true);
        });
        const between = items.filter((i): i is Accessory => i.kind === "end stop").length - 2;
        expect(between).toBe(every === 0 ? 0 : Math.floor((g.members.length - 1) / every));
        expect(lengthMm).toBeCloseTo(
          items.reduce((sum, i) => sum + i.widthMm!, 0),
          6,
        );
      }),
      { seed: 4107 },
    );
  });

  test("proposed jumpers join one net each, in rows that are free, passing only where they may", () => {
    fc.assert(
      fc.property(randomStrip, (g) => {
        const p = plan(strip(g));
        const all = members(p);
        const place = new Map(all.map((m, i) => [m.tag, i]));
        const parts = new Map(LIBRARY.map((x) => [x.number, x]));
        const taken = new Map<number, [number, number][]>();
        for (const j of [...p.jumpers, ...p.proposed]) {
          const at = j.members.map((tag) => place.get(tag)!);
          const range: [number, number] = [at[0]!, at[at.length - 1]!];
          if (p.proposed.includes(j)) {
            expect(j.net).not.toBeNull();
            for (const tag of j.over) expect(parts.get(all[place.get(tag)!]!.part!)!.terminal!.passes).toBe(true);
            for (const [lo, hi] of taken.get(j.row) ?? []) expect(range[0] > hi || range[1] < lo).toBe(true);
            for (const i of at) expect(parts.get(all[i]!.part!)!.terminal!.jumperRows).toBeGreaterThanOrEqual(j.row);
          }
          taken.set(j.row, [...(taken.get(j.row) ?? []), range]);
        }
      }),
      { seed: 4108 },
    );
  });

  test("nothing hangs on the order of wires, parts and cores in the file", () => {
    fc.assert(
      fc.property(randomStrip, (g) => {
        const d = strip(g);
        const turned = {
          ...d,
          wires: [...d.wires].reverse(),
          parts: [...d.parts].reverse(),
          devices: [...d.devices].reverse(),
          cables: d.cables.map((c) => ({ ...c, cores: [...c.cores].reverse() })),
        };
        const text = (r: LineupsResult): string => JSON.stringify({ ...r, open: r.open.map((p) => p.text).sort() });
        expect(text(done(turned))).toBe(text(done(d)));
      }),
      { seed: 4109 },
    );
  });
});

// ---- jumpers ---------------------------------------------------------------------------------------

describe("jumpers", () => {
  const row = (n: number, part = "T"): Given => ({
    members: Array.from({ length: n }, () => part),
    wires: Array.from({ length: n }, (_, i) => to(i + 1, "a")),
  });

  test.each([2, 3, 4, 5, 6, 9, 10, 13])("%i neighbours of one net: the fewest pieces", (n) => {
    const { proposed } = plan(strip(row(n)));
    // The longest comb has five teeth; two that follow share a terminal.
    expect(proposed).toHaveLength(Math.ceil((n - 1) / 4));
    const joined = new Set<string>(["-X.1"]);
    for (const j of [...proposed].sort((a, b) => Number(a.members[0]!.slice(3)) - Number(b.members[0]!.slice(3)))) {
      expect(joined.has(j.members[0]!)).toBe(true);
      for (const tag of j.members) joined.add(tag);
    }
    expect(joined.size).toBe(n);
  });

  test("the shortest comb that is long enough is cut", () => {
    expect(plan(strip(row(2))).proposed).toMatchObject([{ part: "J3", teeth: 2, net: "n" }]);
    expect(plan(strip(row(4))).proposed).toMatchObject([{ part: "J5", teeth: 4 }]);
    // Of two of one length the one whose number comes first.
    const twins = ["J3B", "J3A"].map((part) => accessory(part, { jumper: { teeth: 3, pitch: 5, currentA: 20 } }));
    const d = strip(row(3));
    const parts = [...twins, ...d.parts.filter((p) => p.number !== "J3")];
    expect(plan({ ...d, parts }).proposed).toMatchObject([{ part: "J3A", teeth: 3 }]);
  });

  test("passes over another net where the part allows it, with a tooth broken off", () => {
    const wires = [to(1, "a"), to(2, "a", "m"), to(3, "a")];
    expect(plan(strip({ members: ["T", "TP", "T"], wires })).proposed).toMatchObject([
      { members: ["-X.1", "-X.3"], over: ["-X.2"], teeth: 3 },
    ]);
    expect(plan(strip({ members: ["T", "T", "T"], wires })).proposed).toEqual([]);
  });

  test("wires between what is joined are needless", () => {
    const wires = [to(1, "a"), { net: "n", from: { device: "-X.1", pin: "b" }, to: { device: "-X.2", pin: "b" } }];
    expect(plan(strip({ members: ["T", "T"], wires })).proposed).toMatchObject([{ needless: ["2"] }]);
    const jumpers = [{ row: 1, members: ["-X.1", "-X.2"], part: "J3" }];
    const drawn = plan(strip({ members: ["T", "T"], wires, strip: { jumpers } }));
    expect([drawn.jumpers[0]!.needless, drawn.proposed]).toEqual([["2"], []]);
  });

  test("what lands on one of them alone is not needless, whatever is passed over", () => {
    const wires = [to(1, "a"), to(2, "a", "m"), to(3, "a"), to(4, "a"), to(4, "b")];
    const { proposed } = plan(strip({ members: ["T", "TP", "T", "T"], wires }));
    expect(proposed).toMatchObject([{ members: ["-X.1", "-X.3", "-X.4"], over: ["-X.2"], needless: [] }]);
  });

  test("of a terminal with two levels each level has its row", () => {
    const wires = [to(1, "a"), to(2, "c"), to(1, "b", "m"), to(2, "d", "m")];
    expect(plan(strip({ members: ["T2", "T2"], wires })).proposed).toMatchObject([
      { row: 1, net: "n" },
      { row: 2, net: "m" },
    ]);
  });

  describe("combs are measured where they stand", () => {
    const drawn = (g: Given, members: string[], part?: string) => {
      const d = strip({ ...g, strip: { ...g.strip, jumpers: [{ row: 1, members, ...(part ? { part } : {}) }] } });
      return { jumper: plan(d).jumpers[0]!, words: said(done(d), "comb does not fit") };
    };
    const tags = (...n: number[]): string[] => n.map((k) => `-X.${k}`);

    test("one of three teeth over six members: as many as share members, or none where they have one row", () => {
      // Three combs of three teeth reach over 3 + 2 + 2 members; over six the third is cut to two.
      expect(drawn(row(6), tags(1, 2, 3, 4, 5, 6), "J3").jumper).toMatchObject({ part: "J3", combs: 3, teeth: 8 });
      expect(drawn(row(6), tags(1, 6), "J3")).toMatchObject({ jumper: { combs: 0, teeth: 0 } });
      const lone = drawn(row(6, "TF"), tags(1, 2, 3, 4, 5, 6));
      expect(lone.jumper.combs).toBe(0);
      expect(lone.words).toContain("the library has no comb for a pitch of 8 mm");
    });

    test("another pitch, members of mixed widths, what hangs between: each is told with its millimetres", () => {
      // The end plate of 1.5 mm and an end stop of 8 mm that a person hung behind the first.
      const stop = { pieces: [{ behind: "-X.1", kind: "end stop" as const, hung: true }] };
      expect(drawn({ ...row(2), strip: stop }, tags(1, 2)).words).toBe(
        "the jumper from -X.1 to -X.2 in row 1 of -X has no comb: -X.1 and -X.2 stand 0.5 mm off its pitch of 5 mm (end plate and end stop between them)",
      );
      const mixed = drawn({ members: ["T", "TF", "T"], wires: [to(1, "a"), to(3, "a")] }, tags(1, 3));
      expect(mixed.words).toContain("-X.1 and -X.3 stand");
      expect(mixed.jumper).toMatchObject({ part: null, combs: 0 });
      expect(drawn(row(3), tags(1, 2, 3)).words).toBeUndefined();
    });

    test("none is long enough, and none is proposed that would not fit", () => {
      const seven = drawn(row(7), tags(1, 2, 3, 4, 5, 6, 7)).jumper;
      // 5 teeth and 3, sharing one member.
      expect(seven).toMatchObject({ part: "J5", combs: 2, teeth: 8 });
      const stop = { pieces: [{ behind: "-X.2", kind: "end stop" as const, hung: true }] };
      expect(plan(strip({ ...row(4), strip: stop })).proposed.map((j) => j.members)).toEqual([tags(1, 2), tags(3, 4)]);
    });
  });

  test("a row beyond the levels joins the last of them, and a core is no wire that it makes needless", () => {
    const cables = [cable(core(1, "b", 1), core(2, "b", 2))];
    const wires = [to(1, "a"), to(2, "a"), { ...to(1, "a", "n", "-X.2"), core: { cable: "-W1", core: "3" } }];
    const g: Given = {
      members: ["T", "T"],
      wires,
      cables,
      strip: { jumpers: [{ row: 2, members: ["-X.1", "-X.2"] }] },
    };
    expect(plan(strip(g)).jumpers).toMatchObject([{ row: 2, net: "n", needless: [] }]);
    const led = { ...g, wires: [to(1, "a"), to(1, "b", "n", "-X.2")] };
    expect(plan(strip(led)).jumpers).toMatchObject([{ needless: ["2"] }]);
  });

  test("what is wrong with one is said", () => {
    const check = (g: Given, kind: string): string | undefined => said(done(strip(g)), kind);
    const jumper = (members: string[], row = 1, part?: string): Partial<Strip> => ({
      jumpers: [{ row, members, ...(part ? { part } : {}) }],
    });
    const two = ["T", "T"];
    expect(
      check(
        { members: two, wires: [to(1, "a"), to(2, "a", "m")], strip: jumper(["-X.1", "-X.2"]) },
        "jumper over two nets",
      ),
    ).toContain("joins m, n");
    expect(
      check({ members: two, wires: [to(1, "a")], strip: jumper(["-X.1", "-X.2"]) }, "jumper over two nets"),
    ).toBeUndefined();
    expect(check({ members: ["TF", "TF"], strip: jumper(["-X.1", "-X.2"], 2) }, "no such jumper row")).toContain(
      "-X.1, -X.2 do not have",
    );
    expect(check({ members: ["T", "T", "T"], strip: jumper(["-X.1", "-X.3"]) }, "jumper cannot pass")).toContain(
      "-X.2",
    );
    expect(check({ members: ["T", "TP", "T"], strip: jumper(["-X.1", "-X.3"]) }, "jumper cannot pass")).toBeUndefined();
    const strong = (currentA: number): Given => ({
      members: two,
      wires: [to(1, "a"), to(2, "a")],
      nets: [{ name: "n", currentA }],
      strip: jumper(["-X.1", "-X.2"], 1, "J3"),
    });
    expect(check(strong(21), "jumper too weak")).toContain("carries 20 A; net n has 21 A");
    expect(check(strong(20), "jumper too weak")).toBeUndefined();
    const both = {
      jumpers: [
        { row: 1, members: ["-X.1", "-X.2"] },
        { row: 1, members: ["-X.2", "-X.3"] },
      ],
    };
    expect(check({ members: ["T", "T", "T"], strip: both }, "jumpers in each other's way")).toContain(
      "from -X.2 to -X.3",
    );
  });
});

// ---- sides -----------------------------------------------------------------------------------------

describe("inside and outside", () => {
  test("a core is outside, a wire in the enclosure inside, a wire to another enclosure outside", () => {
    const g: Given = {
      members: ["T", "T"],
      devices: [{ tag: "-B", part: "T", enclosure: "+B1" }],
      wires: [to(1, "a"), to(2, "a", "n", "-B")],
      cables: [cable(core(1, "b", 1))],
    };
    const d = strip(g);
    const placed = { ...d, devices: d.devices.map((x) => (x.tag === "-B" ? x : { ...x, enclosure: "+A1" })) };
    const [one, two] = members(plan(placed)).map((m) => m.levels[0]!);
    expect([one!.inside.map((c) => c.conductor), one!.outside.map((c) => c.conductor)]).toEqual([
      ["wire 1"],
      ["core 1 of -W1"],
    ]);
    expect([two!.inside, two!.outside.map((c) => c.far)]).toEqual([[], ["-B:a"]]);
  });

  test("a field core that nothing leads on from is asked about, and settled by a wire, a jumper or a word", () => {
    const cables = [cable(core(1, "b", 1))];
    const open = done(strip({ members: ["T", "T"], cables }));
    const point = open.open.find((p) => p.kind === "side left open")!;
    expect(point).toMatchObject({
      of: "-X.1",
      mend: { kind: "side of conductor", payload: { strip: "-X", conductor: "core 1 of -W1", side: "inside" } },
    });
    expect(members(open.strips[0]!)[0]!.levels[0]!.undecided).toBe("left open");
    for (const more of [
      { wires: [to(1, "a")] },
      { strip: { jumpers: [{ row: 1, members: ["-X.1", "-X.2"] }] } },
      { strip: { sides: { "core 1 of -W1": "inside" as const } } },
    ])
      expect(kinds(done(strip({ members: ["T", "T"], cables, ...more })))).not.toContain("side left open");
  });

  test("two wires on a terminal of a field strip: the one question is which leads out", () => {
    const g: Given = {
      members: ["T", "T", "T"],
      wires: [to(1, "a"), to(2, "a"), to(3, "a"), to(3, "b")],
      cables: [cable(core(1, "b", 1), core(2, "b", 2))],
    };
    const r = done(strip(g));
    const point = r.open.find((p) => p.kind === "side not known")!;
    expect(point).toMatchObject({ of: "-X.3", mend: { payload: { strip: "-X", side: "outside" } } });
    expect(point.mend!.asks).toMatchObject([{ field: "conductor", choices: ["wire 3", "wire 4"] }]);
    const settled = plan(strip({ ...g, strip: { sides: { "wire 4": "outside" } } }));
    const level = members(settled)[2]!.levels[0]!;
    expect([level.undecided, level.outside[0]!.conductor, level.outside[0]!.decided]).toEqual([null, "wire 4", true]);
  });

  test("two wires under one clamp leave nothing to ask: neither leads out by itself", () => {
    const g: Given = {
      members: ["T", "T", "T"],
      wires: [to(1, "a"), to(2, "a"), to(3, "a"), to(3, "a")],
      cables: [cable(core(1, "b", 1), core(2, "b", 2))],
    };
    expect(kinds(done(strip(g)))).not.toContain("side not known");
  });

  test("a core that is a wire too lies there once, with its far end", () => {
    const wires = [{ net: "n", from: { device: "-X.1", pin: "b" }, core: { cable: "-W1", core: "1" } }, to(1, "a")];
    const r = done(strip({ members: ["T"], wires, cables: [cable(core(1, "b", 1))] }));
    expect(members(r.strips[0]!)[0]!.levels[0]!.outside.map((c) => c.conductor)).toEqual(["core 1 of -W1"]);
    expect(r.cables[0]!.cores).toMatchObject([{ core: "1", far: "motor:1", to: null }]);
    const alone = done(strip({ members: ["T"], wires: [to(1, "a")], cables: [cable(core(1, "b", 1))] }));
    expect(members(alone.strips[0]!)[0]!.levels[0]!.outside.map((c) => c.far)).toEqual(["motor:1"]);
  });

  test("more than a clamp takes is marked", () => {
    const wires = [1, 2, 3].map(() => to(1, "a"));
    expect(members(plan(strip({ members: ["T"], wires })))[0]!.levels[0]!.undecided).toBe("too many");
  });
});

// ---- fuses, lengths, spares, faults ----------------------------------------------------------------

describe("fuses", () => {
  const fused = (fuseA: number | undefined, sizeMm2 = 1): LineupsResult => {
    const d = strip({ members: ["TF"], wires: [{ ...to(1, "a"), sizeMm2 }] });
    return done({ ...d, devices: d.devices.map((x) => (x.tag === "-X.1" && fuseA ? { ...x, fuseA } : x)) });
  };
  test("none, too large for the terminal, above its wire", () => {
    expect(said(fused(undefined), "no fuse")).toContain("up to 6.3 A, and none");
    expect(said(fused(10), "fuse too large")).toContain("10 A in -X.1 is larger than the 6.3 A");
    expect(said(fused(10, 0.75), "fuse above its wire")).toContain("wire 1 of 0.75 mm², which carries 8.6 A");
    expect(said(fused(6.3, 0.5), "fuse not judged")).toContain("0.5 mm²; what it carries is told from 0.75 mm² on");
    expect(said(fused(10, 0.5), "fuse above its wire")).toContain("which carries less than 8.6 A");
    expect(said(fused(12, 1.2), "fuse above its wire")).toContain("1.2 mm², counted as 1 mm², which carries 10.3 A");
    expect(kinds(fused(6.3))).toEqual([]);
    // A core that leads into the field is protected as a wire is.
    const out = strip({
      members: ["TF"],
      wires: [{ ...to(1, "a"), sizeMm2: 2.5 }],
      cables: [cable({ ...core(1, "b", 1), sizeMm2: 0.75 })],
    });
    const field = done({ ...out, devices: out.devices.map((x) => (x.tag === "-X.1" ? { ...x, fuseA: 10 } : x)) });
    expect(said(field, "fuse above its wire")).toContain("core 1 of -W1 of 0.75 mm², which carries 8.6 A");
    expect(members(fused(6.3).strips[0]!)[0]!.fuseA).toBe(6.3);
  });
});

describe("strips", () => {
  test("length with accessories against the rail", () => {
    const long = done(strip({ members: Array.from({ length: 99 }, () => "T") }));
    // 99 × 5, three end stops of 8, end plates of 1.5 where an end stop stands behind.
    expect(long.strips[0]!.lengthMm).toBe(99 * 5 + 3 * 8 + 2 * 1.5);
    expect(said(long, "strip longer than its rail")).toContain("522 mm long with its accessories; rail R has 500 mm");
    expect(kinds(done(strip({ members: ["T"] })))).not.toContain("strip longer than its rail");
  });

  test("a width that is not known leaves the length open, everything else is drawn", () => {
    const r = done(strip({ members: ["T", "none"], wires: [to(1, "a")] }));
    expect([r.strips[0]!.lengthMm, members(r.strips[0]!).map((m) => m.tag)]).toEqual([null, ["-X.1", "-X.2"]]);
  });

  test("an end plate that the library does not have is asked for, and the length left open", () => {
    const lost = (endPlate: string | undefined): LineupsResult => {
      const bare = terminal("T", {
        terminal: { levels: 1, jumperRows: 2, openSide: "right", ...(endPlate ? { endPlate } : {}) },
      });
      return done(strip({ members: ["T", "T"], parts: [bare, ...LIBRARY.filter((p) => p.number !== "T")] }));
    };
    expect(said(lost("NIX"), "no end plate")).toContain("names end plate NIX, which is not in the library");
    expect(said(lost(undefined), "no end plate")).toContain("part T has an open side and names no end plate");
    expect([lost("NIX").strips[0]!.lengthMm, lost("EP").strips[0]!.lengthMm]).toEqual([null, 27.5]);
    expect(kinds(lost("EP"))).not.toContain("no end plate");
  });

  test("spare clamps by size", () => {
    const d = strip({ members: ["T", "T"], wires: [to(1, "a"), to(1, "b"), to(2, "a")] });
    expect(plan(d).spares).toEqual([{ sizeMaxMm2: 2.5, clamps: 4, free: 1 }]);
    expect(kinds(done(d, { sparePercent: 25 }))).not.toContain("few spare clamps");
    expect(said(done(d, { sparePercent: 26 }), "few spare clamps")).toContain("1 of 4 clamps free for up to 2.5 mm²");
  });

  test("a core takes its clamp as a wire does; spares are told size by size", () => {
    const thick = terminal("TK", { pins: [pin("a", undefined, 6), pin("b", undefined, 6)] });
    const parts = [...LIBRARY, thick];
    const d = strip({ members: ["T", "TK"], parts, wires: [to(1, "a")], cables: [cable(core(2, "b", 1))] });
    expect(plan(d).spares).toEqual([
      { sizeMaxMm2: 2.5, clamps: 2, free: 1 },
      { sizeMaxMm2: 6, clamps: 2, free: 1 },
    ]);
  });

  test("each accessory says behind which member it hangs", () => {
    const behind = plan(strip({ members: ["T", "T2"] })).items.map((i) =>
      i.kind === "member" ? i.tag : `${i.kind} ${i.behind}`,
    );
    expect(behind).toEqual(["end stop null", "-X.1", "end plate -X.1", "end plate -X.1", "-X.2", "end stop -X.2"]);
  });

  test("a member twice, levels not stated, another order on the rail, no end stop", () => {
    expect(said(done(strip({ members: ["T"], strip: { members: ["-X.1", "-X.1"] } })), "member twice")).toContain(
      "twice on strip -X",
    );
    const d = strip({ members: ["T"] });
    const two = done({ ...d, strips: [...d.strips, { tag: "-Y", rail: "R", members: ["-X.1"] }] });
    expect(said(two, "member twice")).toContain("on strip -X and on strip -Y");
    const flat = terminal("T2", { terminal: { levels: 2, jumperRows: 2 } });
    const parts = [flat, ...LIBRARY.filter((p) => p.number !== "T2" && p.accessory !== "end stop")];
    const unsaid = done(strip({ members: ["T2"], parts }));
    expect(kinds(unsaid).sort()).toEqual(["levels not known", "no end stop"]);
    const placed = strip({ members: ["T", "T"] });
    const x = new Map([
      ["-X.1", 100],
      ["-X.2", 40],
    ]);
    const r = done({
      ...placed,
      devices: placed.devices.map((v) => (x.has(v.tag) ? { ...v, on: { rail: "R", x: x.get(v.tag)! } } : v)),
    });
    expect(said(r, "order differs from the rail")).toContain("names -X.1 before -X.2, but on rail R -X.2 stands first");
  });

  test("of two strips that name a member the first by tag has it, in whatever order they stand in the file", () => {
    const d = strip({ members: ["T"] });
    const other = { tag: "-A", rail: "R", members: ["-X.1"] };
    for (const strips of [
      [...d.strips, other],
      [other, ...d.strips],
    ]) {
      const r = done({ ...d, strips });
      expect(r.strips.map((s) => [s.tag, members(s).length]).sort()).toEqual([
        ["-A", 1],
        ["-X", 0],
      ]);
      expect(said(r, "member twice")).toContain("on strip -A and on strip -X");
    }
  });

  test("cores of a cable that is left out are in no list", () => {
    const d = strip({ members: ["T"], cables: [{ ...cable(core(1, "b", 1)), when: { lift: "fitted" } }] });
    const options = [{ key: "lift", text: "lift", choices: ["fitted", "none"], chosen: "none" }];
    const rows = (x: Design): number => coresTable(done(x)).rows.length;
    expect([rows({ ...d, options }), rows({ ...d, options: [{ ...options[0]!, chosen: "fitted" }] })]).toEqual([0, 1]);
  });

  test("what is printed is the name without its strip, or what somebody wrote", () => {
    const p = plan(strip({ members: ["T", "T"], strip: { print: { "-X.2": "REL 1" } } }));
    expect(members(p).map((m) => m.print)).toEqual(["1", "REL 1"]);
  });

  test("tables, each as CSV and all in one file for spreadsheets", async () => {
    const d = strip({
      members: ["T", "T"],
      wires: [to(1, "a"), to(2, "a")],
      cables: [cable(core(1, "b", 1))],
      strip: { jumpers: [{ row: 1, members: ["-X.1", "-X.2"], part: "J3" }] },
    });
    const made = new Map((await files(d, done(d))).map((f) => [f.name, f.bytes]));
    const text = (name: string): string[] => new TextDecoder().decode(made.get(name)).split("\r\n");
    expect(text("terminals.csv").slice(0, 3)).toEqual([
      "strip,position,member,part,level,inside,outside,cable,core,jumper,fuse,print",
      "'-X,1,'-X.1,T,1,wire 1 to -K:a,core 1 of -W1 to motor:1,'-W1,1,row 1,,1",
      "'-X,2,'-X.2,T,1,wire 2 to -K:a,,,,row 1,,2",
    ]);
    expect(text("jumpers.csv")).toEqual([
      "strip,row,part,teeth,from,to,net,current_a,combs,without",
      "'-X,1,J3,2,'-X.1,'-X.2,n,,1,",
      "",
    ]);
    expect(text("markers.csv")[1]).toBe("'-X,1,1,5");
    expect(text("cores.csv")[1]).toBe("'-W1,1,,,'-X.1,b,motor:1,");
    const book = Buffer.from(made.get("lineups.xlsx")!);
    expect(await readSheetNames(book)).toEqual(["terminals", "jumpers", "markers", "cores"]);
    const [head, first] = await readXlsx(book, { sheet: "terminals" });
    expect(head!.join()).toBe(text("terminals.csv")[0]);
    expect(first!.slice(0, 6)).toEqual(["-X", 1, "-X.1", "T", 1, "wire 1 to -K:a"]);
  });
});
