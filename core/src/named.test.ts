import { EDITS } from "./edits";
import { designChanges } from "./design/changes";
import type { LoggedEdit } from "./frame/edits";
import type { Design, Hole, Part } from "./design/model";
import { markAccepted } from "./design/open-points";
import { readDesign } from "./design/read";
import { runStages } from "./run";
import { dot, tiny, wire } from "./test/tiny";

/** An edit means what it was made for: whatever others take back, name anew or bring with a new revision. */

const hole = (x: number, d = 8): Hole => ({ kind: "round", x, y: 50, d });

/** A log as it grows: each edit is settled on the design as it is then. */
class Log {
  edits: LoggedEdit[] = [];
  readonly received: Design;
  constructor(received: Design) {
    this.received = received;
  }
  get now(): Design {
    return EDITS.lay(this.received, this.edits).design;
  }
  do(kind: string, payload: object, who = "ida"): this {
    const id = `e${this.edits.length}`;
    const settled = EDITS.settled(this.now, { kind, payload }, who);
    const applied = EDITS.apply(this.now, settled);
    if (!applied.ok) throw new Error(applied.reason);
    this.edits = [...this.edits, { ...settled, id, who, when: "", back: null }];
    return this;
  }
  back(id: string): string[] {
    const turned = EDITS.turn(this.received, this.edits, id, { who: "ida", when: "" });
    if (!turned.ok) return turned.standing.map((s) => s.reason);
    this.edits = turned.log;
    return [];
  }
}
const holesOf = (d: Design): Hole[] => d.faces.find((f) => f.kind === "door")?.holes ?? [];

describe("own holes", () => {
  const two = () =>
    new Log(tiny({}))
      .do("add hole", { face: "+A1/door", hole: hole(10) })
      .do("add hole", { face: "+A1/door", hole: hole(20) })
      .do("change hole", { face: "+A1/door", nth: 2, hole: hole(21) });

  test("the second one changed stays the one that was meant when the first is taken back", () => {
    const log = two();
    expect(log.back("e0")).toEqual([]);
    expect(holesOf(log.now)).toEqual([hole(21)]);
    expect(log.back("e1")).toEqual(["+A1/door has no own hole like a round hole at 20, 50 mm"]);
  });

  test("a revision that brings a hole of its own leaves the edits on theirs; one that moves the hole is told", () => {
    const log = two().do("take hole away", { face: "+A1/door", nth: 1 });
    const door = { enclosure: "+A1", kind: "door" as const };
    const laid = EDITS.lay({ ...log.received, faces: [{ ...door, holes: [hole(1)] }] }, log.edits);
    expect([holesOf(laid.design), laid.unfitting]).toEqual([[hole(1), hole(21)], []]);
    const own = new Log({ ...tiny({}), faces: [{ ...door, holes: [hole(1), hole(2)] }] });
    own.do("change hole", { face: "+A1/door", nth: 1, hole: hole(1, 9) });
    const moved = EDITS.lay({ ...own.received, faces: [{ ...door, holes: [hole(3), hole(2)] }] }, own.edits);
    expect([holesOf(moved.design), moved.unfitting.map((u) => u.reason)]).toEqual([
      [hole(3), hole(2)],
      ["+A1/door has no own hole like a round hole at 1, 50 mm"],
    ]);
  });
});

test("areas are changed one by one: a keep-out that a revision adds stays, one that is gone is told", () => {
  const [a, b, c] = [1, 2, 3].map((x) => ({ x, y: 0, w: 10, h: 10 }));
  const door = (...keepOuts: object[]): Design => ({
    ...tiny({}),
    faces: [{ enclosure: "+A1", kind: "door", keepOuts: keepOuts as never }],
  });
  const areas = (d: Design): unknown => d.faces[0]?.keepOuts;
  // A whole list, as a caller may send it: B goes for C.
  const log = new Log(door(a!, b!)).do("set areas", { face: "+A1/door", keepOuts: [a, c] });
  expect(log.edits[0]!.payload).toEqual({ face: "+A1/door", keepOuts: [{ was: b, is: c }] });
  const fresh = { x: 9, y: 9, w: 5, h: 5 };
  const laid = EDITS.lay(door(fresh, a!, b!), log.edits);
  expect([areas(laid.design), laid.unfitting]).toEqual([[fresh, a, c], []]);
  expect(EDITS.lay(door(a!), log.edits).unfitting.map((u) => u.reason)).toEqual([
    "+A1/door has no keep-out of 10 × 10 mm at 2, 0 mm",
  ]);
  expect(areas(new Log(door(a!)).do("set areas", { face: "+A1/door", keepOuts: [] }).now)).toBeUndefined();
  expect(designChanges(door(a!), door(a!, c!))).toEqual([
    { thing: "face", added: [], gone: [], changed: ["+A1/door"] },
  ]);
});

const TERMINAL: Part = {
  number: "T",
  maker: "m",
  text: "terminal",
  category: "terminal",
  w: 5,
  h: 60,
  d: 40,
  stock: { place: "A", pack: 1 },
  pins: [],
};
const strip = (members: string[], more: Partial<Design["strips"][number]> = {}): Design => ({
  ...tiny({ parts: [TERMINAL], devices: members.map((tag) => ({ tag, part: "T" })) }),
  rails: [{ tag: "R", face: "+A1/plate", x: 0, y: 0, run: "right", length: 500, part: "R" }],
  strips: [{ tag: "-X", rail: "R", members, ...more }],
});

describe("names that pass to others", () => {
  const log = () =>
    new Log(strip(["-X.2", "-X.1"]))
      .do("renumber strip", { strip: "-X", from: 1, step: 1, by: "none", start: 1 })
      .do("print", { strip: "-X", member: "-X.1", text: "L1" });

  test("an order or a numbering is not taken back from under what was said of a terminal", () => {
    const l = log();
    // What was -X.2 is -X.1 now, and shows L1: without the numbering -X.1 is the other one.
    expect(l.back("e0")).toEqual(["device -X.1 would be another one than it was made for"]);
    expect(l.back("e1")).toEqual([]);
    expect(l.back("e0")).toEqual([]);
    expect(l.now.strips).toEqual(l.received.strips);
  });

  test("nor from under wires that were led to it, whatever the edit is called", () => {
    const l = log().do("add wire", { number: "9", from: { device: "-X.1", pin: "p" } });
    expect(l.back("e0")).toHaveLength(2);
    // A text that is somebody's name names nobody.
    const other = new Log(strip(["-X.2", "-X.1", "-P"]))
      .do("renumber strip", { strip: "-X", from: 1, step: 1, by: "none", start: 1 })
      .do("print", { strip: "-X", member: "-P", text: "-X.1" });
    expect(other.back("e0")).toEqual([]);
  });

  test("what others did to other things does not matter", () => {
    const l = new Log(strip(["-X.2", "-X.1"]))
      .do("rename", { thing: "device", from: "-X.2", to: "-X.9" })
      .do("print", { strip: "-X", member: "-X.1", text: "L1" });
    expect(l.back("e0")).toEqual([]);
  });
});

test("a strip is not split through what is kept together, and says so", () => {
  const d = strip(["-X.1", "-X.2", "-X.3"], { groups: [["-X.2", "-X.3"]] });
  const split = (after: string) => EDITS.apply(d, { kind: "split strip", payload: { strip: "-X", after, to: "-Y" } });
  expect(split("-X.2")).toMatchObject({ ok: false, reason: "-X.2, -X.3 are kept together across the place" });
  expect(split("-X.1")).toMatchObject({ ok: true });
});

describe("what people let stand", () => {
  const design = tiny({
    ducts: [{}],
    devices: [dot("-K1", 100, 20), dot("-K12", 300, 20)],
    wires: [wire("-K1", "-K12", { net: "gone" }), wire("-K1", "-K12", { number: "10" })],
  });
  const open = (d: Design) => markAccepted(runStages(d).open, d.accepted);
  const point = open(design).find((p) => p.stage === "routes" && p.kind === "no cross-section")!;
  const accept = { point: point.id, text: point.text, why: "as drawn", who: "somebody else" };
  const accepted = (d: Design) => open(d).filter((p) => p.accepted);

  test("is theirs who lays it, and goes with the thing when it is named anew", () => {
    const log = new Log(design).do("accept", accept);
    expect(accepted(log.now).map((p) => [p.of, p.accepted])).toEqual([["1", { who: "ida", why: "as drawn" }]]);
    log.do("rename", { thing: "wire", from: "1", to: "101" });
    expect(accepted(log.now).map((p) => [p.of, p.text])).toEqual([["101", "wire 101 has no cross-section"]]);
    log.do("rename", { thing: "wire", from: "101", to: "2" });
    expect(accepted(log.now).map((p) => p.of)).toEqual(["2"]);
    expect(log.back("e2")).toEqual([]);
    expect(accepted(log.now).map((p) => p.of)).toEqual(["101"]);
  });

  test("goes with a device that its text names, and no further than the cause", () => {
    const pin = open(design).find((p) => p.kind === "two wires on a pin") ?? null;
    expect(pin).toBeNull();
    const said = { id: "intake/k/device/-K1", stage: "intake", thing: "device" as const, of: "-K1", kind: "k" };
    const p = (of: string, text: string) => ({
      ...said,
      id: `intake/k/device/${of}`,
      of,
      text,
      severity: "check" as const,
      remedy: "",
    });
    const d = {
      ...design,
      accepted: [{ point: "intake/k/device/-K1", text: "-K1 of -K12 is 3 mm off", why: "w", who: "i" }],
    };
    const applied = EDITS.apply(d, { kind: "rename", payload: { thing: "device", from: "-K1", to: "-K3" } });
    const marks = (text: string): boolean =>
      !!markAccepted([p("-K3", text)], (applied as { design: Design }).design.accepted)[0]!.accepted;
    expect([
      marks("-K3 of -K12 is 3 mm off"),
      marks("-K3 of -K12 is 4 mm off"),
      marks("-K3 of -K32 is 3 mm off"),
    ]).toEqual([true, false, false]);
  });
});

describe("names that mean something to a program", () => {
  test("toString and the like are names as any other", () => {
    const names = ["toString", "hasOwnProperty", "valueOf"];
    const d = strip(names, { print: { valueOf: "V" } });
    const result = runStages({
      ...d,
      wires: names.map((tag) => ({ number: tag, net: tag, from: { device: tag, pin: tag } })),
      nets: names.map((name) => ({ name, sizeMm2: 1 })),
    });
    const { strips } = result.stages.lineups as unknown as { strips: { items: { kind: string; print?: string }[] }[] };
    expect(strips[0]!.items.flatMap((m) => (m.kind === "member" ? m.print : []))).toEqual([
      "toString",
      "hasOwnProperty",
      "V",
    ]);
    const log = new Log(d).do("print", { strip: "-X", member: "toString", text: "T" });
    expect(log.now.strips[0]!.print).toEqual({ valueOf: "V", toString: "T" });
  });

  test.each(["__proto__", "constructor", "prototype"])("%s is refused, with its place", (tag) => {
    const text = JSON.stringify({ ...tiny({}), devices: [{ tag, part: "P" }] });
    expect(readDesign(text)).toMatchObject({
      ok: false,
      faults: [{ path: "devices[0].tag", expected: "another name: this one belongs to the language" }],
    });
    expect(EDITS.faults("rename", { thing: "device", from: "-K1", to: tag })).toMatchObject([{ path: "payload.to" }]);
  });
});

describe("what is laid and taken back", () => {
  const point = { point: "intake/no stock place/part/P", text: "part P has no stock place", why: "later" };

  test("accepted twice stands once, with the last word; whoever lays it accepts it, whatever the payload says", () => {
    const log = new Log(tiny({}))
      .do("accept", { ...point, who: "bo" })
      .do("accept", { ...point, why: "seen", who: "bo" }, "cy");
    expect(log.now.accepted).toEqual([{ ...point, why: "seen", who: "cy" }]);
  });

  test("an edit that never fitted keeps nobody from taking back another one", () => {
    const log = new Log(tiny({ devices: [dot("-A", 10, 10), dot("-B", 50, 10)] }));
    log.do("rename", { thing: "device", from: "-A", to: "-C" }).do("rename", { thing: "device", from: "-B", to: "-D" });
    const lost = {
      kind: "rename",
      payload: { thing: "device", from: "-Z", to: "-Y" },
      id: "z",
      who: "bo",
      when: "",
      back: null,
    };
    log.edits = [lost, ...log.edits];
    expect(log.back("e1")).toEqual([]);
    expect(log.now.devices.map((d) => d.tag)).toEqual(["-C", "-B"]);
    expect(EDITS.lay(log.received, log.edits).unfitting.map((u) => [u.edit.id, u.reason])).toEqual([
      ["z", "there is no device -Z in the design"],
    ]);
  });

  test("a device under another name is named so by its modules, jumpers, glands and prints", () => {
    const design: Design = {
      ...tiny({ devices: [dot("-A", 10, 10), { tag: "-M", part: "P", on: { slot: "-A", name: "1" } }] }),
      cables: [{ tag: "-W1", type: "C", cores: [], gland: "-G", glandTo: "-A" }],
      strips: [
        {
          tag: "-X",
          rail: "R",
          members: ["-A"],
          jumpers: [{ row: 1, members: ["-A", "-B"] }],
          print: { "-A": "1" },
          splitAfter: ["-A"],
          groups: [["-A", "-B"]],
        },
      ],
    };
    const { now } = new Log(design).do("rename", { thing: "device", from: "-A", to: "-N" });
    expect(now.devices.map((d) => [d.tag, d.on?.slot])).toEqual([
      ["-N", undefined],
      ["-M", "-N"],
    ]);
    expect([now.cables[0]!.gland, now.cables[0]!.glandTo]).toEqual(["-G", "-N"]);
    expect(now.strips[0]).toEqual({
      tag: "-X",
      rail: "R",
      members: ["-N"],
      jumpers: [{ row: 1, members: ["-N", "-B"] }],
      print: { "-N": "1" },
      splitAfter: ["-N"],
      groups: [["-N", "-B"]],
    });
  });
});
