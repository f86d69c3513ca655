import fc from "fast-check";
import { Edits } from "../frame/edits";
import { contentHash } from "../design/hash";
import type { Design, Part, Strip } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { tiny } from "../test/tiny";
import { manyActs } from "./acts";
import { compute } from "./compute";
import { INTAKE_EDITS } from "../intake/edits";
import { PANEL_EDITS } from "../panel/edits";
import { LINEUP_EDITS } from "./edits";
import { renumbering } from "./renumber";
import type { StripPlan } from "./result";

const EDITS = new Edits(LINEUP_EDITS);

const PARTS: Part[] = [
  {
    number: "T",
    maker: "Oddmake",
    text: "t",
    category: "terminal",
    w: 5,
    h: 60,
    d: 50,
    pins: [
      { name: "a", conductors: 2 },
      { name: "b", conductors: 2 },
    ],
    terminal: { levels: 1, jumperRows: 2, passes: true, fuseMostA: 10 },
  },
  {
    number: "J",
    maker: "Oddmake",
    text: "j",
    category: "terminal accessory",
    w: 5,
    h: 5,
    d: 5,
    jumper: { teeth: 5, pitch: 5, currentA: 9 },
  },
];
const TAGS = Array.from({ length: 6 }, (_, i) => `-X.${i + 1}`);

const design = (strip: Partial<Strip> = {}, more: Strip[] = []): Design => ({
  ...tiny({
    devices: [...TAGS, "-Y.1", "-Y.2", "-K"].map((tag) => ({ tag, part: "T" })),
    parts: PARTS,
    wires: TAGS.flatMap((device) =>
      ["a", "b"].map((pin) => ({ from: { device, pin }, to: { device: "-K", pin: "a" } })),
    ),
  }),
  strips: [{ tag: "-X", rail: "R", members: TAGS, ...strip }, ...more],
});

const lay = (d: Design, kind: string, payload: object): Design => {
  const faults = EDITS.faults(kind, payload);
  if (faults.length > 0) throw new Error(JSON.stringify(faults));
  const applied = EDITS.apply(d, { kind, payload });
  if (!applied.ok) throw new Error(applied.reason);
  return applied.design;
};
const refused = (d: Design, kind: string, payload: object): string => {
  const before = contentHash(d);
  const applied = EDITS.apply(d, { kind, payload });
  expect(contentHash(d)).toBe(before);
  return applied.ok ? "taken" : applied.reason;
};
/** Every conductor end with the clamp it lies on, whichever strip that stands on. */
const landed = (d: Design): string[] =>
  compute(d, SHOP_RULES)
    .strips.flatMap((s) =>
      s.items.flatMap((i) =>
        i.kind === "member"
          ? i.levels.flatMap((l) => [...l.inside, ...l.outside].map((c) => `${c.conductor} ${i.tag}:${c.pin}`))
          : [],
      ),
    )
    .sort();

const order = fc.shuffledSubarray(TAGS, { minLength: TAGS.length, maxLength: TAGS.length });

describe("edits of strips", () => {
  test("another order keeps all connections; the first order put back is the first design", () => {
    fc.assert(
      fc.property(order, (members) => {
        const first = design();
        const turned = lay(first, "order strip", { strip: "-X", members });
        expect(turned.strips[0]!.members).toEqual(members);
        expect(landed(turned)).toEqual(landed(first));
        expect(contentHash(lay(turned, "order strip", { strip: "-X", members: TAGS }))).toBe(contentHash(first));
      }),
      { seed: 4104 },
    );
  });

  test("split and joined again is the first design, with prints, jumpers and where the drawing is split", () => {
    const jumpers = [
      { row: 1, members: ["-X.1", "-X.2"] },
      { row: 1, members: ["-X.5", "-X.6"] },
    ];
    const first = design({
      jumpers,
      print: { "-X.1": "A", "-X.6": "F" },
      splitAfter: ["-X.2", "-X.5"],
      sides: { "wire 1": "outside" },
    });
    const two = lay(first, "split strip", { strip: "-X", after: "-X.3", to: "-Z" });
    expect(two.strips.map((s) => [s.tag, s.members, s.jumpers?.length, s.print, s.splitAfter])).toEqual([
      ["-X", TAGS.slice(0, 3), 1, { "-X.1": "A" }, ["-X.2"]],
      ["-Z", TAGS.slice(3), 1, { "-X.6": "F" }, ["-X.5"]],
    ]);
    expect(landed(two)).toEqual(landed(first));
    const disagree = (d: Design): string[] =>
      compute(d, SHOP_RULES).open.flatMap((p) => (p.kind === "design and strip disagree" ? [p.text] : []));
    expect(disagree(two)).toEqual([]);
    // Where neither part has it any more, it is said still.
    expect(disagree({ ...two, wires: [] })).toEqual([
      expect.stringContaining("wire 1 is said to lie outside on strip -X"),
      expect.stringContaining("wire 1 is said to lie outside on strip -Z"),
    ]);
    expect(contentHash(lay(two, "join strips", { strip: "-X", with: "-Z" }))).toBe(contentHash(first));
  });

  test("jumpers, sides, prints and fuses are set and taken away without a trace", () => {
    const first = design();
    const pairs: [string, object, object][] = [
      [
        "set jumper",
        { strip: "-X", row: 1, members: ["-X.1", "-X.3"], part: "J" },
        { strip: "-X", row: 1, member: "-X.3" },
      ],
      [
        "side of conductor",
        { strip: "-X", conductor: "wire 1", side: "outside" },
        { strip: "-X", conductor: "wire 1", side: null },
      ],
      ["print", { strip: "-X", member: "-X.1", text: "L1" }, { strip: "-X", member: "-X.1", text: null }],
      ["fuse", { device: "-X.1", fuseA: 4 }, { device: "-X.1", fuseA: null }],
    ];
    for (const [kind, there, back] of pairs) {
      const laid = lay(first, kind, there);
      expect(contentHash(laid)).not.toBe(contentHash(first));
      expect(contentHash(lay(laid, kind === "set jumper" ? "remove jumper" : kind, back))).toBe(contentHash(first));
    }
  });

  test("what does not fit is refused with the reason, and leaves no trace", () => {
    const jumpers = [{ row: 1, members: ["-X.2", "-X.4"] }];
    const d = design({ jumpers }, [{ tag: "-Y", rail: "R", members: ["-Y.1", "-Y.2"] }]);
    const cases: [string, object, string | RegExp][] = [
      ["order strip", { strip: "-X", members: ["-X.1", "-Y.1"] }, /-X\.2, .* would be lost, -Y\.1 would be new/],
      ["order strip", { strip: "-X", members: [...TAGS, "-X.1"] }, /each once$/],
      ["order strip", { strip: "-Q", members: TAGS }, "there is no strip -Q in the design"],
      ["split strip", { strip: "-X", after: "-X.3", to: "-Z" }, "the jumper from -X.2 to -X.4 lies across the place"],
      ["split strip", { strip: "-X", after: "-X.6", to: "-Z" }, "nothing stands behind -X.6 on -X"],
      ["split strip", { strip: "-X", after: "-X.1", to: "-Y" }, "there is a strip -Y already"],
      ["split strip", { strip: "-X", after: "-Y.1", to: "-Z" }, "-Y.1 does not stand on strip -X"],
      ["join strips", { strip: "-X", with: "-X" }, "a strip cannot be joined to itself"],
      ["join strips", { strip: "-X", with: "-Q" }, "there is no strip -Q in the design"],
      ["set jumper", { strip: "-X", row: 1, members: ["-X.3", "-X.5"] }, /from -X\.2 to -X\.4 already/],
      ["set jumper", { strip: "-X", row: 2, members: ["-X.3", "-Y.1"] }, "-Y.1 does not stand on strip -X"],
      ["set jumper", { strip: "-X", row: 2, members: ["-X.3", "-X.5"], part: "T" }, "T is no comb of the library"],
      ["set jumper", { strip: "-X", row: 2, members: ["-X.3", "-X.5"] }, "taken"],
      ["remove jumper", { strip: "-X", row: 2, member: "-X.2" }, "no jumper in row 2 joins -X.2"],
      ["side of conductor", { strip: "-Q", conductor: "wire 1", side: "inside" }, "there is no strip -Q in the design"],
      ["print", { strip: "-X", member: "-Y.1", text: "a" }, "-Y.1 does not stand on strip -X"],
      ["fuse", { device: "-Q", fuseA: 1 }, "there is no device -Q in the design"],
    ];
    for (const [kind, payload, reason] of cases)
      expect(refused(d, kind, payload)).toEqual(typeof reason === "string" ? reason : expect.stringMatching(reason));
    const plain = {
      ...d,
      parts: d.parts.map((p) => (p.number === "T" ? { ...p, terminal: { levels: 1, jumperRows: 2 } } : p)),
    };
    expect(refused(plain, "fuse", { device: "-X.1", fuseA: 1 })).toBe("-X.1 takes no fuse");
  });

  test("what somebody said of a side goes with the wire and the cable when they are named anew", () => {
    const d = design({ sides: { "wire 1": "outside", "core 3 of -W7": "inside", "wire 11": "inside" } });
    const whole: Design = {
      ...d,
      cables: [{ tag: "-W7", type: "none", cores: [{ core: "3", from: { device: "-X.1", pin: "a" }, far: "M" }] }],
    };
    const all = new Edits([...LINEUP_EDITS, ...INTAKE_EDITS]);
    const named = (thing: string, from: string, to: string): Strip["sides"] => {
      const applied = all.apply(whole, { kind: "rename", payload: { thing, from, to } });
      if (!applied.ok) throw new Error(applied.reason);
      return applied.design.strips[0]!.sides;
    };
    expect(named("wire", "1", "501")).toEqual({
      "wire 501": "outside",
      "core 3 of -W7": "inside",
      "wire 11": "inside",
    });
    expect(named("cable", "-W7", "-W8")).toEqual({
      "wire 1": "outside",
      "core 3 of -W8": "inside",
      "wire 11": "inside",
    });
  });

  test("sides that contradict each other keep strips apart", () => {
    const two = design({ sides: { "wire 1": "inside" } }, [
      { tag: "-Y", rail: "R", members: ["-Y.1"], sides: { "wire 1": "outside" } },
    ]);
    expect(refused(two, "join strips", { strip: "-X", with: "-Y" })).toContain("wire 1 lies inside on one strip");
  });

  test("laid, lifted, hung, kept together, split on sheets, swapped: each taken away without a trace", () => {
    const first = {
      ...design(),
      rails: [{ tag: "R", face: "+A1/plate", x: 0, y: 0, run: "right" as const, length: 500, part: "R" }],
    };
    const pairs: [string, object, string, object][] = [
      ["lay strip", { strip: "-X", rail: "R", at: 12.5 }, "lift strip", { strip: "-X" }],
      [
        "hang piece",
        { strip: "-X", piece: "separator", behind: "-X.2", hung: true },
        "hang piece",
        { strip: "-X", piece: "separator", behind: "-X.2", hung: null },
      ],
      [
        "hang piece",
        { strip: "-X", piece: "end stop", behind: null, hung: false },
        "hang piece",
        { strip: "-X", piece: "end stop", behind: null, hung: null },
      ],
      [
        "keep together",
        { strip: "-X", members: ["-X.2", "-X.3"] },
        "keep together",
        { strip: "-X", members: ["-X.3"] },
      ],
      [
        "split drawing",
        { strip: "-X", after: "-X.2", split: true },
        "split drawing",
        { strip: "-X", after: "-X.2", split: false },
      ],
      [
        "swap sides",
        { strip: "-X", sides: { "wire 1": "outside", "wire 2": "outside" } },
        "swap sides",
        { strip: "-X", sides: { "wire 1": null, "wire 2": null } },
      ],
      [
        "put on strip",
        { strip: "-X", members: ["-Y.1"], behind: "-X.2" },
        "take off strip",
        { strip: "-X", members: ["-Y.1"], gone: false },
      ],
      [
        "put on strip",
        { strip: "-X", members: ["-X.7", "-X.8"], part: "T" },
        "take off strip",
        { strip: "-X", members: ["-X.7", "-X.8"], gone: true },
      ],
      [
        "land",
        { wire: "1", from: { device: "-X.1", pin: "a" }, to: { device: "-X.4", pin: "b" } },
        "land",
        { wire: "1", from: { device: "-X.4", pin: "b" }, to: { device: "-X.1", pin: "a" } },
      ],
    ];
    for (const [kind, there, back, payload] of pairs) {
      const laid = lay(first, kind, there);
      expect([kind, contentHash(laid) === contentHash(first)]).toEqual([kind, false]);
      expect([kind, contentHash(lay(laid, back, payload))]).toEqual([kind, contentHash(first)]);
    }
  });

  test("numbers go with everything that names the members, and back again", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 1, max: 7 }),
        fc.constantFrom("none" as const, "part" as const, "group" as const),
        order,
        (from, step, by, members) => {
          const first = design({
            members,
            jumpers: [{ row: 1, members: members.slice(1, 3) }],
            print: { "-X.1": "A" },
            splitAfter: ["-X.2"],
            groups: [members.slice(2, 4)],
            pieces: [{ kind: "separator", behind: "-X.4", hung: true }],
          });
          const rule = { strip: "-X", from, step, by, start: 10 };
          const names = new Map(renumbering(first, rule));
          expect(new Set(names.values()).size).toBe(members.length);
          // Numbers ascend along the strip, group by group at multiples of ten.
          const numbers = members.map((m) => Number(names.get(m)!.slice(3)));
          expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
          expect(numbers[0]).toBe(from);
          if ([...names].every(([was, is]) => was === is)) return;
          const next = lay(first, "renumber strip", rule);
          const renamed = (t: string): string => t.replace(/-X\.\d+/g, (tag) => names.get(tag) ?? tag);
          expect(landed(next)).toEqual(landed(first).map(renamed).sort());
          expect(next.strips[0]).toEqual(JSON.parse(renamed(JSON.stringify(first.strips[0]))));
        },
      ),
      { seed: 4, numRuns: 100 },
    );
  });

  test("groups begin at the next multiple, those without a number keep their names", () => {
    const d = design({ members: ["-X.1", "-K", "-X.2", "-X.3", "-X.4"], groups: [["-X.2", "-X.3"]] });
    const rule = { strip: "-X", from: 1, step: 2, by: "group" as const, start: 10 };
    expect(renumbering(d, rule)).toEqual([
      ["-X.1", "-X.1"],
      ["-X.2", "-X.10"],
      ["-X.3", "-X.12"],
      ["-X.4", "-X.20"],
    ]);
    expect(refused(design(), "renumber strip", { ...rule, by: "none", step: 1 })).toContain(
      "have these numbers already",
    );
    const clash = { ...d, devices: [...d.devices, { tag: "-X.12", part: "T" }] };
    expect(refused(clash, "renumber strip", rule)).toBe("there is a device -X.12 already");
  });

  test("properties are copied to others; a core is landed like a wire", () => {
    const d = design();
    const one = { ...d, devices: d.devices.map((v) => (v.tag === "-X.1" ? { ...v, fuseA: 4, texts: ["feed"] } : v)) };
    const copied = lay(one, "copy to members", {
      strip: "-X",
      from: "-X.1",
      to: ["-X.2", "-X.3"],
      what: ["fuse", "texts"],
    });
    for (const tag of ["-X.2", "-X.3"])
      expect(copied.devices.find((v) => v.tag === tag)).toMatchObject({ fuseA: 4, texts: ["feed"] });
    const core: Design = {
      ...d,
      cables: [{ tag: "-W7", type: "none", cores: [{ core: "1", from: { device: "-X.1", pin: "a" }, far: "M" }] }],
    };
    const landed7 = lay(core, "land", {
      cable: "-W7",
      core: "1",
      from: { device: "-X.1", pin: "a" },
      to: { device: "-X.5", pin: "b" },
    });
    expect(landed7.cables[0]!.cores[0]!.from).toEqual({ device: "-X.5", pin: "b" });
  });

  test("what does not fit of these is refused with the reason, and leaves no trace", () => {
    const d = {
      ...design({ jumpers: [{ row: 1, members: ["-X.2", "-X.3"] }], at: 5 }, [
        { tag: "-Y", rail: "R", members: ["-Y.1"] },
      ]),
      rails: [{ tag: "R", face: "+A1/plate", x: 0, y: 0, run: "right" as const, length: 500, part: "R" }],
    };
    const cases: [string, object, string | RegExp][] = [
      ["lay strip", { strip: "-X", rail: "R9", at: 0 }, "there is no rail R9 in the design"],
      ["lay strip", { strip: "-X", rail: "R", at: 5 }, "strip -X is laid there already"],
      ["lift strip", { strip: "-Y" }, "strip -Y is not laid"],
      ["hang piece", { strip: "-X", piece: "end stop", behind: "-Y.1", hung: true }, "-Y.1 does not stand on strip -X"],
      ["keep together", { strip: "-X", members: ["-X.1", "-X.3"] }, "-X.3 does not stand right behind -X.1"],
      ["keep together", { strip: "-X", members: ["-X.1"] }, "-X.1 is kept together with nothing"],
      ["split drawing", { strip: "-X", after: "-X.1", split: false }, "the drawing is not split behind -X.1"],
      ["put on strip", { strip: "-X", members: ["-Y.1"] }, "-Y.1 stands on strip -Y already"],
      ["put on strip", { strip: "-X", members: ["-N"] }, "there is no device -N in the design"],
      ["put on strip", { strip: "-X", members: ["-K"], behind: "-Y.1" }, "-Y.1 does not stand on strip -X"],
      [
        "take off strip",
        { strip: "-X", members: ["-X.3"], gone: false },
        /jumper from -X\.2 to -X\.3 joins one of them/,
      ],
      ["take off strip", { strip: "-X", members: ["-X.1"], gone: true }, "wire 1 lands on -X.1"],
      ["make strip", { strip: "-X", rail: "R", members: ["-K"] }, "there is a strip -X already"],
      ["make strip", { strip: "-Z", rail: "R", members: ["-Y.1"] }, "-Y.1 stands on strip -Y already"],
      [
        "copy to members",
        { strip: "-X", from: "-X.1", to: ["-Y.1"], what: ["part"] },
        "-Y.1 does not stand on strip -X",
      ],
      [
        "land",
        { wire: "1", from: { device: "-X.2", pin: "a" }, to: { device: "-X.1", pin: "b" } },
        "wire 1 does not land on -X.2:a",
      ],
      [
        "land",
        { wire: "1", from: { device: "-X.1", pin: "a" }, to: { device: "-X.1", pin: "z" } },
        "-X.1 has no pin z",
      ],
      [
        "land",
        { wire: "1", from: { device: "-X.1", pin: "a" }, to: { device: "-X.1", pin: "a" } },
        "it lands there already",
      ],
      ["forget", { strip: "-X", of: "-X.1" }, "-X.1 stands on strip -X"],
      ["forget", { strip: "-X", of: "wire 99" }, "strip -X says nothing of wire 99"],
    ];
    for (const [kind, payload, reason] of cases)
      expect([kind, refused(d, kind, payload)]).toEqual([
        kind,
        typeof reason === "string" ? reason : expect.stringMatching(reason),
      ]);
  });

  test("a member of a strip that is laid is moved with it, not by itself", () => {
    const all = new Edits([...LINEUP_EDITS, ...PANEL_EDITS]);
    const d = design({ at: 5 });
    for (const [kind, payload] of [
      ["place", { device: "-X.1", on: { face: "+A1/plate", x: 0, y: 0 } }],
      ["lift", { device: "-X.1" }],
    ] as const) {
      const applied = all.apply(d, { kind, payload });
      expect(applied.ok ? "taken" : applied.reason).toBe("-X.1 stands on strip -X, which is laid on R");
    }
  });

  test("forms are checked, sentences name what changed", () => {
    const bad: [string, object][] = [
      ["set jumper", { strip: "-X", row: 0, members: ["-X.1", "-X.2"] }],
      ["set jumper", { strip: "-X", row: 1, members: ["-X.1"] }],
      ["set jumper", { strip: "-X", row: 1, members: ["-X.1", "-X.1"] }],
      ["side of conductor", { strip: "-X", conductor: "wire 1", side: "left" }],
      ["fuse", { device: "-X.1", fuseA: -1 }],
      ["order strip", { strip: "-X", members: [] }],
    ];
    for (const [kind, payload] of bad) expect(EDITS.faults(kind, payload)).not.toEqual([]);
    const said = (kind: string, payload: object): string => EDITS.sentence({ kind, payload });
    expect([
      said("order strip", { strip: "-X", members: ["-X.2", "-X.1"] }),
      said("split strip", { strip: "-X", after: "-X.1", to: "-Z" }),
      said("join strips", { strip: "-X", with: "-Z" }),
      said("set jumper", { strip: "-X", row: 1, members: ["-X.1", "-X.2"] }),
      said("remove jumper", { strip: "-X", row: 1, member: "-X.1" }),
      said("side of conductor", { strip: "-X", conductor: "wire 1", side: "outside" }),
      said("side of conductor", { strip: "-X", conductor: "wire 1", side: null }),
      said("print", { strip: "-X", member: "-X.1", text: "L1" }),
      said("print", { strip: "-X", member: "-X.1", text: null }),
      said("fuse", { device: "-X.1", fuseA: 4 }),
      said("fuse", { device: "-X.1", fuseA: null }),
    ]).toEqual([
      "strip -X put into the order -X.2, -X.1",
      "strip -X split behind -X.1; the rest is -Z",
      "strip -Z joined to the end of -X",
      "-X.1, -X.2 of -X bridged in row 1",
      "jumper at -X.1 of -X in row 1 deleted",
      "wire 1 lies outside on -X",
      "wire 1 on -X lies where it does by itself again",
      'the marker of -X.1 shows "L1"',
      "the marker of -X.1 shows its own name again",
      "a fuse of 4 A in -X.1",
      "no fuse in -X.1",
    ]);
  });
});

test("members are moved to a place of their strip; beyond it the places there are are named", () => {
  const strip = {
    tag: "-X1",
    items: ["a", "b", "c"].map((tag) => ({ kind: "member", tag, levels: [] })),
  } as unknown as StripPlan;
  const act = manyActs(strip, ["c"]).find((a) => a.id === "place-to")!;
  expect(act.about).toBe("c before the member at a place of -X1; 4 is the end.");
  expect(act.shape!({ values: { place: "1" } } as never)).toEqual({
    ok: true,
    payload: { strip: "-X1", members: ["c", "a", "b"] },
  });
  for (const place of ["0", "5", "1.5", "x"])
    expect(act.shape!({ values: { place } } as never)).toEqual({
      ok: false,
      field: "place",
      reason: "Places go from 1 to 4.",
    });
});
