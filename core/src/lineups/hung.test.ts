import fc from "fast-check";
import { lookUp } from "../design/lookup";
import { hungStrips, piecesAt, standOnStrips } from "../design/hung";
import type { Design, Strip } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import type { LineupRules } from "./rules";
import { compute as computePanel } from "../panel/compute";
import { compute as computeRoutes } from "../routes/compute";
import { STRIP_TAGS, stripDesign } from "../test/strips";
import { compare } from "./compare";
import { compute } from "./compute";

const RULES = SHOP_RULES.lineups;
const hang = (d: Design, rules: LineupRules = RULES) => hungStrips(lookUp(d), rules).get("-X1")!;
/** Pieces in order, `place name`. */
const drawn = (d: Design, rules?: LineupRules): string[] =>
  piecesAt(hang(d, rules)).map(({ piece, x }) => `${x} ${piece.tag ?? piece.kind}`);
const points = (d: Design): string[] => compute(d, SHOP_RULES).open.map((p) => `${p.kind}: ${p.text}`);

describe("a strip that is laid", () => {
  test("hangs with its accessories, each where the widths before it come to", () => {
    // 8 of the end stop, 5 a terminal, 2 of the separator between 230 V and 24 V, 1.5 of a plate, 12 of the relay.
    expect(drawn(stripDesign())).toEqual([
      "20 end stop",
      "28 -X1.1",
      "33 -X1.2",
      "38 separator",
      "40 -X1.3",
      "45 end plate",
      "46.5 -X1.K",
      "58.5 -X1.4",
      "63.5 -X1.5",
      "68.5 -X1.6",
      "73.5 end plate",
      "75 end stop",
    ]);
    expect(hang(stripDesign()).lengthMm).toBe(63);
  });

  test("its members stand on the plate where it says, whatever they say themselves", () => {
    const d = stripDesign();
    const own = {
      ...d,
      devices: d.devices.map((v) => (v.tag === "-X1.1" ? { ...v, on: { face: "+A1/door", x: 9, y: 9 } } : v)),
    };
    const panel = computePanel(own, RULES);
    const at = (tag: string) => panel.devices.find((p) => p.tag === tag)!;
    // The rail begins at 100; its middle is 200 + 35 / 2, and the datum of a terminal is its middle.
    expect([at("-X1.1").outline, at("-X1.1").face]).toEqual([{ x: 128, y: 187.5, w: 5, h: 60 }, "+A1/plate"]);
    expect(at("-X1.K").outline).toEqual({ x: 146.5, y: 177.5, w: 12, h: 80 });
    expect(panel.hung.map((p) => [p.kind, p.outline.x, p.outline.w])).toEqual([
      ["end stop", 120, 8],
      ["separator", 138, 2],
      ["end plate", 145, 1.5],
      ["end plate", 173.5, 1.5],
      ["end stop", 175, 8],
    ]);
    expect(panel.loose).toEqual([]);
  });

  test("taken off its rail, members stand where they say: nowhere here", () => {
    const { at: _, ...strip } = stripDesign().strips[0]!;
    const panel = computePanel({ ...stripDesign(), strips: [strip] }, RULES);
    expect([...panel.loose].sort()).toEqual([...STRIP_TAGS].sort());
    expect(panel.hung).toEqual([]);
  });

  test("on a rail that runs up it stands upright", () => {
    const d = stripDesign();
    const up: Design = { ...d, rails: [{ ...d.rails[0]!, run: "up" }] };
    const panel = computePanel(up, RULES);
    expect(panel.devices.find((p) => p.tag === "-X1.1")!.outline).toEqual({ x: 87.5, y: 228, w: 60, h: 5 });
    expect(panel.hung[0]!.outline).toEqual({ x: 97.5, y: 220, w: 40, h: 8 });
  });

  test("a terminal that is moved takes the lengths of its wires with it", () => {
    const length = (members: string[]): (number | null)[] => {
      const d = stripDesign({ members });
      return computeRoutes(d, SHOP_RULES, computePanel(d, RULES)).wires.map((w) => w.lengthMm);
    };
    const turned = [...STRIP_TAGS].reverse();
    const [before, after] = [length(STRIP_TAGS), length(turned)];
    // -X1.1 goes from 28 to 8 + 1.5 + ... on the far side: nearer to -F1, which stands at 300.
    expect(after[0]!).toBeLessThan(before[0]!);
    expect(after[4]!).toBeGreaterThan(before[4]!);
  });
});

describe("accessories", () => {
  test("separators between classes and between voltages, where the shop wants them", () => {
    const none = { ...RULES, separateVolts: 0 };
    expect(drawn(stripDesign(), none).filter((t) => t.includes("separator"))).toEqual([]);
    const classes: LineupRules = { ...none, separate: [["signal", "control"]] };
    expect(drawn(stripDesign(), classes).filter((t) => t.includes("separator"))).toEqual(["61.5 separator"]);
    // 206 V between the two: exactly that is not more.
    expect(drawn(stripDesign(), { ...RULES, separateVolts: 206 }).join()).not.toContain("separator");
    expect(drawn(stripDesign(), { ...RULES, separateVolts: 205 }).join()).toContain("separator");
  });

  test("an end stop parts the strip: no separator beside it, and the open side before it is closed", () => {
    const every: LineupRules = { ...RULES, endStopEvery: 2 };
    expect(drawn(stripDesign(), every).slice(0, 7)).toEqual([
      "20 end stop",
      "28 -X1.1",
      "33 -X1.2",
      "38 end plate",
      "39.5 end stop",
      "47.5 -X1.3",
      "52.5 end plate",
    ]);
  });

  test("a person hangs one or leaves one out, at one place", () => {
    const pieces: Strip["pieces"] = [
      { kind: "end stop", hung: false },
      { kind: "separator", behind: "-X1.2", hung: false },
      { kind: "separator", behind: "-X1.4", hung: true },
      { kind: "end plate", behind: "-X1.3", hung: false },
      { kind: "end plate", behind: "-X1.1", hung: true },
    ];
    const d = stripDesign({ pieces });
    expect(drawn(d)).toEqual([
      "20 -X1.1",
      "25 end plate",
      "26.5 -X1.2",
      "31.5 -X1.3",
      "36.5 -X1.K",
      "48.5 -X1.4",
      "53.5 separator",
      "55.5 -X1.5",
      "60.5 -X1.6",
      "65.5 end plate",
      "67 end stop",
    ]);
    expect(
      hang(d)
        .pieces.filter((p) => p.byHand)
        .map((p) => p.kind),
    ).toEqual(["end plate", "separator"]);
  });

  test("hanging them changes nothing that hangs: the same again", () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(STRIP_TAGS, { minLength: 1 }), fc.nat(4), (members, every) => {
        const rules = { ...RULES, endStopEvery: every };
        const d = stripDesign({ members });
        const once = hang(d, rules).pieces;
        const hand = once.flatMap((p, i) => {
          if (p.kind === "member") return [];
          const before = once
            .slice(0, i)
            .reverse()
            .find((q) => q.tag !== undefined)?.tag;
          return [{ kind: p.kind, ...(before === undefined ? {} : { behind: before }), hung: true }];
        });
        expect(hang(stripDesign({ members, pieces: hand }), rules).pieces).toEqual(once);
        expect(once.filter((p) => p.tag !== undefined).map((p) => p.tag)).toEqual(members);
        const sum = once.reduce((mm, p) => mm + p.widthMm!, 0);
        expect(hang(d, rules).lengthMm).toBeCloseTo(sum, 6);
      }),
      { seed: 8, numRuns: 200 },
    );
  });

  test("what the library lacks is said once", () => {
    const d = stripDesign();
    const bare = { ...d, parts: d.parts.filter((p) => p.accessory === undefined || p.accessory === "end plate") };
    expect(points(bare).filter((t) => t.startsWith("no "))).toEqual([
      "no end stop: the strip gets no end stops: the library has no part for them",
      "no separator: a place gets no separator between terminals: the library has no part for it",
    ]);
    // The end stop has no width, so nothing behind it has a place.
    expect([...standOnStrips(hungStrips(lookUp(bare), RULES)).keys()]).toEqual([]);
  });
});

describe("open points of a strip that is laid", () => {
  test("beyond its rail, by how much", () => {
    expect(points(stripDesign({ at: 340 }))).toContain("strip off its rail: strip -X1 reaches 3 mm beyond rail R1");
    expect(points(stripDesign({ at: -4 }))).toContain("strip off its rail: strip -X1 reaches 4 mm beyond rail R1");
    expect(points(stripDesign({ at: 337 })).join()).not.toContain("beyond rail");
  });

  test("in another strip, or where something else stands", () => {
    const d = stripDesign({ members: STRIP_TAGS.slice(0, 5) });
    const two = { ...d, strips: [...d.strips, { tag: "-X8", rail: "R1", members: ["-X1.5", "-X1.6"], at: 70 }] };
    // -X1 ends with the plate and the stop behind -X1.4: 20 + 8 + 15 + 2 + 1.5 + 12 + 5 + 1.5 + 8 = 73.
    expect(points(two)).toContain("strips in each other: strip -X8 and strip -X1 stand in each other on R1 by 3 mm");
    expect(points(stripDesign({ at: 250 }))).toContain("device in the strip: strip -X1 is laid on R1 where -F1 stands");
    expect(points(stripDesign({ at: 237 })).join()).not.toContain("device in the strip");
  });

  test("a member without a width: those behind it have no place, and it says so", () => {
    const d = stripDesign();
    const odd = { ...d, devices: d.devices.map((v) => (v.tag === "-X1.3" ? { ...v, part: "nix" } : v)) };
    expect(points(odd).join()).toContain(
      "-X1.3 has no part with a width: those behind it stand where they say themselves",
    );
    expect([...standOnStrips(hungStrips(lookUp(odd), RULES)).keys()]).toEqual(["-X1.1", "-X1.2", "-X1.3"]);
  });
});

test("what is free of a rail counts other strips and devices; what is missing is told", () => {
  const plan = (d: Design) => compute(d, SHOP_RULES).strips.map((s) => [s.tag, s.lengthMm, s.takenMm]);
  // -F1 takes 5 mm of the 400.
  expect(plan(stripDesign())).toEqual([["-X1", 63, 5]]);
  const d = stripDesign({ members: STRIP_TAGS.slice(0, 5) });
  const two = { ...d, strips: [...d.strips, { tag: "-X8", rail: "R1", members: ["-X1.5", "-X1.6"], at: 200 }] };
  expect(plan(two)).toEqual([
    ["-X1", 53, 32.5],
    ["-X8", 27.5, 58],
  ]);
  const short = { ...two, rails: [{ ...d.rails[0]!, length: 80 }] };
  expect(points(short)).toContain(
    "no room on the rail: strip -X1 is 53 mm long with its accessories; 5.5 mm are missing on rail R1, of which others take 32.5 of 80 mm",
  );
  expect(points(two).join()).not.toContain("no room");
});

describe("design and strip disagree until both agree", () => {
  const disagree = (d: Design): string[] => points(d).filter((t) => t.startsWith("design and strip disagree"));

  test("what was said of a core that moved, of a terminal that went, and a terminal that came", () => {
    const d = stripDesign({
      sides: { "core 9 of -W9": "inside", "core 1 of -W9": "outside" },
      print: { "-X1.9": "nine" },
      groups: [["-X1.9", "-X1.1"]],
      pieces: [{ kind: "separator", behind: "-X1.8", hung: true }],
      splitAfter: ["-X1.8"],
    });
    const came = { ...d, devices: [...d.devices, { tag: "-X1.7", part: "T" }, { tag: "-X9.7", part: "T" }] };
    expect(disagree(came)).toEqual([
      "design and strip disagree: core 9 of -W9 is said to lie inside on strip -X1, but does not land there",
      "design and strip disagree: strip -X1 says something of -X1.8, which does not stand on it: where the drawing is split, an accessory",
      "design and strip disagree: strip -X1 says something of -X1.9, which does not stand on it: what its marker shows, a group",
      "design and strip disagree: terminal -X1.7 is named after strip -X1, which does not name it",
    ]);
    expect(disagree(stripDesign())).toEqual([]);
  });

  test("a core that the list of its cable and its wire lead elsewhere", () => {
    const d = stripDesign();
    const wire = (pin: string, device: string) => ({
      ...d,
      wires: [
        ...d.wires,
        {
          number: "99",
          net: "s",
          core: { cable: "-W9", core: "1" },
          from: { device, pin },
          to: { device: "-F1", pin: "b" },
        },
      ],
    });
    const said = (x: Design): string[] => points(x).filter((t) => t.startsWith("core and wire"));
    expect(said(wire("b", "-X1.6"))).toEqual([
      "core and wire disagree: core 1 of -W9 lands on -X1.5:b by the list of the cable, and on -F1:b and -X1.6:b by its wire",
    ]);
    expect(said(wire("b", "-X1.5"))).toEqual([]);
  });

  test("a cable with more cores than its part", () => {
    const d = stripDesign();
    const [cable] = d.cables;
    const more = { ...d, cables: [{ ...cable!, cores: [...cable!.cores, { core: "5" }] }] };
    expect(points(more)).toContain("more cores than the cable has: cable -W9 names 5 cores; its part C has 4");
    expect(points(d).join()).not.toContain("more cores");
  });

  test("a marker with more than it holds", () => {
    expect(points(stripDesign({ print: { "-X1.1": "123456789" } }))).toContain(
      'marker text too long: the marker of -X1.1 shows "123456789": 9 characters, and a marker holds 8',
    );
    expect(points(stripDesign({ print: { "-X1.1": "12345678" } })).join()).not.toContain("marker text");
  });
});

test("what a change came to is counted in words", () => {
  const after = (d: Design): string[] =>
    compare(compute(stripDesign(), SHOP_RULES), compute(d, SHOP_RULES)).map((t) => t.text);
  const d = stripDesign();
  expect(after(d)).toEqual([]);
  expect(after(stripDesign({ members: [...STRIP_TAGS].reverse() }))).toContain("1 strip in another order");
  expect(after(stripDesign({ at: 25 }))).toEqual(["1 strip laid elsewhere"]);
  expect(after(stripDesign({ members: STRIP_TAGS.slice(1) }))).toContain("1 member no longer on a strip");
  expect(after(stripDesign({ jumpers: [{ row: 1, members: ["-X1.1", "-X1.2"] }] }))).toEqual(["1 jumper more"]);
  expect(after(stripDesign({ pieces: [{ kind: "end stop", hung: false }] }))).toEqual(["1 accessory fewer"]);
  expect(after({ ...d, strips: [...d.strips, { tag: "-Y", rail: "R1", members: ["-F1"] }] })).toEqual([
    "1 strip new",
    "1 member new on strips",
    "3 accessories more",
  ]);
  expect(after({ ...d, strips: [] })).toContain("1 strip gone");
});

describe("end plates", () => {
  const withDevice = (d: Design, tag: string, more: object): Design => ({
    ...d,
    devices: d.devices.map((v) => (v.tag === tag ? { ...v, ...more } : v)),
  });

  test("of a terminal turned end for end stand on its other side", () => {
    // Before the relay -X1.3 is open to its right; turned it is open to its left, which the separator covers.
    const turned = drawn(withDevice(stripDesign(), "-X1.3", { turn: 180 }));
    expect(turned.slice(3, 7)).toEqual(["38 separator", "40 -X1.3", "45 -X1.K", "57 -X1.4"]);
    // The last one, turned, is covered by its neighbour: no plate before the end stop.
    expect(drawn(withDevice(stripDesign(), "-X1.6", { turn: 180 })).slice(-2)).toEqual(["68.5 -X1.6", "73.5 end stop"]);
  });

  test("by hand on a part that names none: told, and what lies behind keeps its place and its length", () => {
    const d = stripDesign();
    const bare: Design = {
      ...d,
      parts: d.parts.map((p) =>
        p.number === "T" ? { ...p, terminal: { levels: 1, jumperRows: 2, openSide: "none" as const } } : p,
      ),
      strips: d.strips.map((s) => ({ ...s, pieces: [{ behind: "-X1.1", kind: "end plate" as const, hung: true }] })),
    };
    expect(hang(bare).lengthMm).toBe(60);
    expect(hang(bare).unplated).toEqual(["-X1.1"]);
    expect(points(bare).filter((t) => t.startsWith("end plate without"))).toEqual([
      "end plate without a part: -X1.1 on strip -X1 gets an end plate by hand, and its part names none of the library: it counts no width and is in no bill",
    ]);
  });
});
