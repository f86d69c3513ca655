import fc from "fast-check";
import { screwOf } from "./bill";
import { lookUp } from "../design/lookup";
import type { KitRules } from "./rules";
import { DEFAULT_SHOP, type Shop } from "../shop/shop";
import type { Design } from "../design/model";
import { KIT_RULES } from "./rules";
import { defaultsOf } from "../shop/rule-kinds";
import type { LineupsResult } from "../lineups/result";
import type { MetalworkResult } from "../metalwork/result";
import type { PanelResult } from "../panel/result";
import { isFallback, type RoutesResult } from "../routes/result";
import { runStages } from "../run";
import { demo } from "../test/demo";
import { randomDesigns } from "../test/random-design";
import { runs } from "../test/runs";
import { tiny } from "../test/tiny";
import { explain } from "./explain";
import { isOpenBin, kitsOf } from "./kits";
import { issued } from "./packs";
import { even, lineKey, type BillLine, type KitsResult } from "./result";
import { issueText, quantityText } from "./say";
import type { WireprepResult } from "../wireprep/result";
import { billChanges } from "./changes";
import { storeOf } from "./walk";

const RULES = defaultsOf(KIT_RULES) as unknown as KitRules;
const shopWith = (kits: Partial<KitRules>): Shop => ({
  ...DEFAULT_SHOP,
  rules: { ...DEFAULT_SHOP.rules, kits: { ...RULES, ...kits } },
});

const kitsFor = (design: Design, rules: Partial<KitRules> = {}) => {
  const { stages } = runStages(design, shopWith(rules));
  return {
    ...(stages.kits as KitsResult),
    panel: stages.panel as PanelResult,
    routes: stages.routes as RoutesResult,
    metalwork: stages.metalwork as MetalworkResult,
  };
};

type Counted = Pick<BillLine, "part" | "text" | "unit" | "quantity">;
const sums = (list: readonly Counted[]): Map<string, number> => {
  const all = new Map<string, number>();
  for (const l of list) all.set(lineKey(l), even((all.get(lineKey(l)) ?? 0) + l.quantity));
  return new Map([...all].sort());
};

/** Nothing is lost or double between the design, the bill, the kits and what is picked line by line. */
function sound(design: Design, { bill, kits, panel, routes }: ReturnType<typeof kitsFor>, rules: KitRules): void {
  const look = lookUp(design);
  const devices = bill.flatMap((l) => l.terms.filter((t) => t.text.startsWith("devices")).flatMap((t) => t.tags));
  expect([...devices].sort()).toEqual([...look.devices.keys()].sort());
  for (const l of bill) {
    const sum = l.terms.reduce((n, t) => n + t.quantity, 0);
    expect(l.quantity - sum).toBeGreaterThanOrEqual(-1e-6);
    expect(l.quantity - sum).toBeLessThan(l.unit === "pcs" ? 1 : 1e-3);
  }
  const metres = (why: RegExp) =>
    bill.flatMap((l) => l.terms.filter((t) => why.test(t.text))).reduce((n, t) => n + t.quantity, 0);
  expect(metres(/^rails/)).toBeCloseTo(panel.rails.reduce((n, r) => n + r.length, 0) / 1000, 3);
  expect(metres(/^ducts/)).toBeCloseTo(panel.ducts.reduce((n, r) => n + r.length, 0) / 1000, 3);
  const cut = routes.wires.filter((w) => !w.marks.includes("core")).reduce((n, w) => n + (w.lengthMm ?? 0), 0) / 1000;
  expect(metres(/^cut lengths/)).toBeCloseTo(cut, 1);
  expect(metres(/^waste/)).toBeCloseTo(cut * (rules.wireWastePercent / 100), 1);
  expect(sums(kits.flatMap((k) => k.lines))).toEqual(sums(bill.filter((l) => !isOpenBin(l, rules))));
  expect(new Set(kits.map((k) => k.code)).size).toBe(kits.length);
  for (const kit of kits) {
    expect(new Set(kit.lines.map(lineKey)).size).toBe(kit.lines.length);
    // A place is come to once.
    const places = kit.lines.map((l) => l.place).filter((p, i, all) => p !== all[i - 1]);
    expect(new Set(places).size).toBe(places.length);
  }
}

describe.each(["larkmoor", "hillfold"] as const)("the kits of %s", (name) => {
  const design = demo(name);
  const all = kitsFor(design);

  test("sums of design, bill and kits are equal; every device in the step of where it goes", () => {
    sound(design, all, RULES);
    const door = all.bill.filter((l) => l.step === "door").flatMap((l) => l.tags);
    for (const d of all.panel.devices.filter((x) => x.carrier === null && x.face.endsWith("/door")))
      expect(door).toContain(d.tag);
  });

  test("every figure has its working, which adds up", () => {
    for (const l of all.bill) {
      const working = explain(all, { of: "quantity", enclosure: l.enclosure, step: l.step, line: lineKey(l) })!;
      expect(working.terms.reduce((n, t) => n + (t.value ?? 0), 0)).toBeCloseTo(l.quantity, 3);
    }
    for (const { code } of all.kits) {
      const weight = explain(all, { of: "weight", kit: code })!;
      expect(weight.terms.reduce((n, t) => n + (t.value ?? 0), 0)).toBeCloseTo(Number(weight.total), 3);
      expect(explain(all, { of: "walk", kit: code })!.total).toBeGreaterThanOrEqual(0);
    }
    expect(explain(all, { of: "walk" })!.total).toBe(even(all.together.metres));
    expect(explain(all, { of: "walk", kit: "no such kit" })).toBeNull();
    expect(explain(all, { of: "quantity", enclosure: "+Z", step: "plate", line: "x" })).toBeNull();
  });

  test("one walk for all is no longer than all walks, and no walk is longer than the order of the bill", () => {
    expect(all.together.metres).toBeLessThanOrEqual(all.kits.reduce((n, k) => n + k.walk.metres, 0) + 1e-9);
    for (const { walk } of all.kits) {
      expect(walk.metres).toBeLessThanOrEqual(walk.listMetres + 1e-9);
      expect(walk.boundMetres!).toBeLessThanOrEqual(walk.metres + 1e-9);
    }
  });
});

test("sums are equal for random designs, options and ways of splitting", () => {
  const lark = demo("larkmoor");
  const rules = fc.record({
    apart: fc.constantFrom(0, 1),
    alike: fc.constantFrom(0, 1),
    heavyKg: fc.constantFrom(0.1, 3, 15),
    longMm: fc.constantFrom(100, 700, 5000),
    wireWastePercent: fc.constantFrom(0, 7),
    open: fc.constantFrom<KitRules["open"]>([], RULES.open),
    packs: fc.constantFrom<KitRules["packs"]>([], RULES.packs),
  });
  fc.assert(
    fc.property(randomDesigns, rules, (design, how) => sound(design, kitsFor(design, how), { ...RULES, ...how })),
    { seed: 7, numRuns: runs(25) },
  );
  fc.assert(
    fc.property(fc.tuple(fc.boolean(), fc.boolean()), rules, (fitted, how) => {
      const options = lark.options.map((o, i) => ({ ...o, chosen: fitted[i] ? "fitted" : "none" }));
      const design = { ...lark, options };
      sound(design, kitsFor(design, how), { ...RULES, ...how });
    }),
    { seed: 8, numRuns: runs(3) },
  );
});

test("a revision with one device less needs that much less, and nothing else", () => {
  const hill = demo("hillfold");
  const gone = hill.devices.find((d) => d.part === "QM-PL")!;
  const less = { ...hill, devices: hill.devices.filter((d) => d !== gone) };
  const changes = billChanges(kitsFor(hill).bill, kitsFor(less).bill);
  expect(changes).toContainEqual({
    enclosure: "+A1",
    step: "door",
    line: "QM-PL (pcs)",
    part: "QM-PL",
    text: "pilot lamp 24 V",
    unit: "pcs",
    before: 1,
    after: 0,
  });
  // Its label, its wires and what dresses them.
  for (const c of changes) expect(c.after).toBeLessThan(c.before);
  expect(billChanges(kitsFor(hill).bill, kitsFor(hill).bill)).toEqual([]);
});

test("options left out bring nothing; chosen, they do", () => {
  const lark = demo("larkmoor");
  const chosen = (all: string): Design => ({ ...lark, options: lark.options.map((o) => ({ ...o, chosen: all })) });
  const [fitted, none] = [kitsFor(chosen("fitted")), kitsFor(chosen("none"))];
  const left = [...lookUp(chosen("fitted")).devices.keys()].filter((t) => !lookUp(chosen("none")).devices.has(t));
  expect(left.length).toBeGreaterThan(0);
  const tags = (all: KitsResult): Set<string> => new Set(all.bill.flatMap((l) => l.tags));
  for (const tag of left) {
    expect(tags(fitted)).toContain(tag);
    expect(tags(none)).not.toContain(tag);
  }
});

test("a screw for each hole that is for one, by what fixes what", () => {
  const lark = demo("larkmoor");
  const { bill, metalwork } = kitsFor(lark);
  const threads = metalwork.faces
    .flatMap((f) => f.holes)
    .filter(
      (h) =>
        (h.cut.kind === "thread" || (h.cut.kind === "round" && h.from[0]!.fixing === "rivet nut")) &&
        h.from[0]!.thing !== "face",
    );
  const screws = bill.filter((l) => l.text.startsWith("screw M")).reduce((n, l) => n + l.quantity, 0);
  expect(screws).toBe(threads.length);
  const none = kitsFor(lark, { screws: [] });
  expect(none.bill.some((l) => l.text.startsWith("screw"))).toBe(false);
  expect(none.open.some((p) => p.kind === "no screw for a hole")).toBe(true);
});

test("long and heavy things are kits of their own, long pieces of bars apart from short ones", () => {
  const lark = demo("larkmoor");
  const { kits } = kitsFor(lark, { heavyKg: 9, longMm: 1000 });
  const heavy = kits.filter((k) => k.apart === "heavy").flatMap((k) => k.lines.map((l) => l.part));
  expect(heavy).toContain("OH-VD18");
  expect(heavy).not.toContain("OH-VD11");
  for (const kit of kits)
    for (const piece of kit.lines.flatMap((l) => l.pieces ?? [])) expect(piece.mm >= 1000).toBe(kit.apart === "long");
  const long = kits.filter((k) => k.apart === "long").flatMap((k) => k.lines);
  expect(long.some((l) => l.pieces)).toBe(true);
  expect(long.some((l) => l.text.startsWith("enclosure "))).toBe(true);
});

test("equal enclosures share a kit with both quantities; told apart they do not", () => {
  const [one] = tiny({}).enclosures;
  const two = tiny({
    enclosures: [
      { ...one!, tag: "+A1" },
      { ...one!, tag: "+A9" },
    ],
  });
  const of = (rules: Partial<KitRules>, design = two) => kitsFor(design, rules).kits;
  const together = of({ alike: 1 });
  expect(together.map((k) => k.enclosures)).toEqual([["+A1", "+A9"]]);
  expect(together[0]!.lines.map((l) => l.quantity)).toEqual(together[0]!.lines.map(() => 2));
  expect(of({ alike: 0 }).map((k) => k.enclosures)).toEqual([["+A1"], ["+A9"]]);
  expect(of({ alike: 0, apart: 0 }).map((k) => [k.code, k.enclosures])).toEqual([
    ["T enclosure work long", ["+A1", "+A9"]],
  ]);
  const unlike = { ...two, enclosures: two.enclosures.map((e, i) => ({ ...e, w: e.w + i })) };
  expect(of({ alike: 1 }, unlike).map((k) => k.enclosures)).toEqual([["+A1"], ["+A9"]]);
});

test("a shop names other steps: the first row that fits counts", () => {
  const steps = [{ category: "drive" as const, step: "drives" }, { begins: "pilot", step: "lamps" }, ...RULES.steps];
  const { bill } = kitsFor(demo("larkmoor"), { steps });
  expect(bill.filter((l) => l.step === "drives").every((l) => l.part?.startsWith("OH-VD"))).toBe(true);
  expect(bill.some((l) => l.part === "QM-PL" && l.step === "lamps")).toBe(true);
  expect(bill.some((l) => l.part === "QM-PL" && l.step === "door")).toBe(false);
  // A shop without any row calls steps as where things go.
  expect(new Set(kitsFor(demo("hillfold"), { steps: [] }).bill.map((l) => l.step))).toContain("other faces");
});

test("parts of pieces are rounded up in their sum, never each by itself and never down", () => {
  const wires = (n: number): Design => ({
    ...tiny({
      ducts: [{ length: 900 }],
      devices: Array.from({ length: n + 1 }, (_, i) => ({
        tag: `-P${i}`,
        on: { face: "+A1/plate", x: 20 + 30 * i, y: 80 },
      })),
      wires: Array.from({ length: n }, (_, i) => ({
        number: `${i + 1}`,
        sizeMm2: 1,
        from: { device: `-P${i}`, pin: "p" },
        to: { device: `-P${i + 1}`, pin: "p" },
      })),
    }),
  });
  const ties = (n: number): number[] =>
    kitsFor(wires(n), { along: [{ to: "wire", article: "TIE", each: 0.3 }] })
      .bill.filter((l) => l.text === "TIE")
      .map((l) => l.quantity);
  expect([1, 3, 4, 10].map(ties)).toEqual([[1], [1], [2], [3]]);
});

test("what rests on fallback lengths says so, in bill, kits and working", () => {
  const lark = demo("larkmoor");
  const { bill, kits, routes } = kitsFor(lark);
  const doubted = routes.wires.filter((w) => w.lengthMm !== null && w.marks.some(isFallback)).map((w) => w.id);
  const said = bill.flatMap((l) =>
    l.terms.filter((t) => t.fallback && t.text.startsWith("cut")).flatMap((t) => t.tags),
  );
  expect(said.sort()).toEqual(
    doubted.filter((id) => !routes.wires.find((w) => w.id === id)!.marks.includes("core")).sort(),
  );
  expect(kits.flatMap((k) => k.lines).some((l) => l.fallback)).toBe(doubted.length > 0);
});

test("articles of the shop have number, place and pack; whole packs are issued and the rest comes back", () => {
  const { kits, bill } = kitsFor(demo("larkmoor"));
  const markers = kits.flatMap((k) => k.lines).filter((l) => l.text === "marker");
  expect(markers.length).toBeGreaterThan(0);
  for (const l of markers) {
    expect([l.part, l.place]).toEqual(["S-MARK", "R-08-01"]);
    expect(l.pack!.packs * 100).toBe(l.pack!.quantity);
    expect(l.pack!.quantity - l.pack!.back).toBe(l.quantity);
    expect(issueText(l)).toMatch(/packs? of 100, \d+ come back/);
  }
  const reels = kits.flatMap((k) => k.lines).filter((l) => l.part?.startsWith("BL-W"));
  expect(new Set(reels.map(issueText))).toEqual(new Set(["off a reel of 100 m"]));
  // What goes on ends is numbered by the shop's own table; where it lies is said by its articles.
  const ferrules = [{ article: "ferrule 1 mm²", place: "R-09-01", pack: 500 }];
  const named = kitsFor(demo("larkmoor"), { articles: ferrules, open: [] });
  expect(named.bill.find((l) => l.text === "ferrule 1 mm²")).toMatchObject({ part: "S-F1", place: "R-09-01" });
  expect(bill.find((l) => l.text === "ferrule 1 mm²")).toMatchObject({ part: "S-F1", place: null });
});

test("packs: whole ones, and what comes back", () => {
  expect(issued(23, 10)).toEqual({ packs: 3, quantity: 30, back: 7 });
  expect(issued(30, 10)).toEqual({ packs: 3, quantity: 30, back: 0 });
  expect(issued(12.34, 100)).toEqual({ packs: 1, quantity: 100, back: 87.66 });
  for (const odd of [null, 0, -3, NaN]) expect(issued(4, odd)).toEqual({ packs: 4, quantity: 4, back: 0 });
  expect(issued(0, 10)).toEqual({ packs: 0, quantity: 0, back: 0 });
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 1, max: 500 }), (n, pack) => {
      const { packs, quantity, back } = issued(n, pack);
      expect([packs * pack, quantity - back]).toEqual([quantity, n]);
      expect(back).toBeLessThan(pack);
    }),
    { seed: 3, numRuns: runs(200) },
  );
});

test("metres are told a centimetre up, never down", () => {
  expect(quantityText(3.4501, "m")).toBe("3.46 m");
  expect(quantityText(3.45, "m")).toBe("3.45 m");
  expect(quantityText(12, "pcs")).toBe("12");
});

test("a kit named as another one gets a number", () => {
  const line = (enclosure: string, step: string): BillLine => ({
    enclosure,
    step,
    part: "P",
    maker: null,
    text: "p",
    quantity: 1,
    unit: "pcs",
    place: null,
    pack: null,
    weightKg: null,
    longestMm: null,
    tags: [],
    terms: [],
  });
  const bill = [line("+A", "B plate"), line("+A B", "plate")];
  const codes = kitsOf("J", bill, { ...RULES, alike: 0 }, storeOf(RULES)).map((k) => k.code);
  expect(codes).toEqual(["J +A B plate", "J +A B plate (2)"]);
});

describe("what a bill must not forget, or count twice", () => {
  const pieces = (bill: readonly BillLine[], why: RegExp) =>
    bill.flatMap((l) => l.terms.filter((t) => why.test(t.text)).map((t) => t.quantity)).reduce((n, q) => n + q, 0);

  test("accessories of strips are in it whether the strip is laid on its rail or not", () => {
    const lark = demo("larkmoor");
    const none: Design = { ...lark, strips: lark.strips.map(({ at: _, ...s }) => s) };
    const wanted = (d: Design): number => {
      const { strips } = runStages(d).stages.lineups as LineupsResult;
      return strips.flatMap((s) => s.items.filter((i) => i.kind !== "member" && i.part !== null)).length;
    };
    for (const d of [lark, none]) {
      expect(wanted(d)).toBeGreaterThan(14);
      expect(pieces(kitsFor(d).bill, /^(end stop|end plate|separator)s of strips/)).toBe(wanted(d));
    }
  });

  test("a twin ferrule is half only where two wires get one at a clamp; what is never made gets none", () => {
    const hill = demo("hillfold");
    const twins: Design = { ...hill, rules: { ...hill.rules, ends: [{ end: "twin ferrule" }] } };
    const { bill, routes } = kitsFor(twins);
    const at = new Map<string, number>();
    for (const w of routes.wires.filter((x) => x.lengthMm !== null || x.marks.includes("core")))
      for (const ref of [w.fromRef, w.toRef])
        at.set(`${ref!.device}:${ref!.pin}`, (at.get(`${ref!.device}:${ref!.pin}`) ?? 0) + 1);
    const counts = [...at.values()];
    expect(counts.filter((n) => n === 1).length * counts.filter((n) => n === 2).length).toBeGreaterThan(0);
    expect(pieces(bill, /^twin ferrules of wires/)).toBe(counts.reduce((sum, n) => sum + (n === 2 ? 1 : n), 0));
    const lark = kitsFor(demo("larkmoor"));
    const unmade = lark.routes.wires.filter((w) => w.lengthMm === null && !w.marks.includes("core")).map((w) => w.id);
    const dressed = new Set(
      lark.bill.flatMap((l) => l.terms.filter((t) => / of wires$/.test(t.text)).flatMap((t) => t.tags)),
    );
    expect(unmade.length).toBeGreaterThan(0);
    expect(unmade.filter((w) => dressed.has(w))).toEqual([]);
  });

  test("labels of wires of a loose device count in the enclosure that it names", () => {
    const lark = demo("larkmoor");
    const at = (d: Design) => kitsFor(d).bill.filter((l) => l.terms.some((t) => t.tags.includes("WIRE")));
    const d: Design = {
      ...lark,
      devices: [...lark.devices, { tag: "-LOOSE", part: "FW-R6", enclosure: "+B1" }],
      wires: [
        ...lark.wires,
        {
          number: "WIRE",
          from: { device: "-LOOSE", pin: "A1" },
          to: { device: "-K11", pin: "A1" },
          net: lark.nets[0]!.name,
          sizeMm2: 1,
          colour: "BU",
        },
      ],
    };
    const lines = at(d);
    expect(lines.length).toBeGreaterThan(0);
    expect([...new Set(lines.map((l) => l.enclosure))]).toEqual(["+B1"]);
  });

  test("bill, leads and reels name one wire type, also where a part is of another category or is not known", () => {
    const hill = demo("hillfold");
    const odd: Design = {
      ...hill,
      parts: hill.parts.map((p) => (p.wire ? { ...p, category: "other" as const } : p)),
      wires: hill.wires.map((w, i) => (i === 0 ? { ...w, type: "NO-SUCH" } : w)),
    };
    const { stages } = runStages(odd);
    const { leads } = stages.wireprep as WireprepResult;
    const { bill } = stages.kits as KitsResult;
    const named = new Map(
      bill.flatMap((l) =>
        l.terms.filter((t) => /^cut lengths/.test(t.text)).flatMap((t) => t.tags.map((w) => [w, l.part] as const)),
      ),
    );
    expect(leads.filter((l) => l.type !== null).length).toBeGreaterThan(5);
    expect(leads.filter((l) => l.wire === odd.wires[0]!.number).map((l) => l.type)).toEqual([null]);
    for (const l of leads) expect([l.wire, named.get(l.wire)]).toEqual([l.wire, l.type]);
  });
});

test("a screw goes through a round hole up to 13 mm; a notch makes it an opening", () => {
  const from = [{ thing: "rail" as const, of: "R1", nth: 1 }];
  const { threads } = DEFAULT_SHOP.rules.metalwork;
  const through = (d: number, more: object = {}) =>
    screwOf({ cut: { kind: "round", x: 0, y: 0, d, ...more }, from }, threads);
  expect(through(13)?.made).toBe("through");
  expect(through(13.01)).toBeNull();
  expect(through(6, { notch: { to: 7, w: 2, angle: 90 } })).toBeNull();
  // ISO 273, medium: an M5 goes through 5.5 mm.
  expect(through(5.5)).toEqual({ made: "through", thread: "M5" });
  expect(screwOf({ cut: { kind: "thread", x: 0, y: 0, d: 4.2, thread: "M5" }, from }, threads)).toEqual({
    made: "tapped",
    thread: "M5",
  });
  expect(screwOf({ cut: { kind: "mark", x: 0, y: 0, d: 2 }, from }, threads)).toEqual({ made: "marked", thread: null });
  expect(screwOf({ cut: { kind: "knockout", x: 0, y: 0, d: 9 }, from }, threads)).toBeNull();
});
