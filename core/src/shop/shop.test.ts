import { contentHash } from "../design/hash";
import { CLASS_RULES } from "../intake/rules";
import { METALWORK_RULES } from "../metalwork/rules";
import { END_RULES, OUTER_RULES, ROUTE_RULES } from "../routes/rules";
import type { NumberRule, Row, TableRule } from "./rule-kinds";
import { checkShop, DEFAULT_SHOP, readShop, wholeShop, type Shop } from "./shop";
import { findRules } from "./find-rules";
import { changedPlaces, ownText, ruleValue, shopChanges, withRule } from "./shop-changes";
import { readEdits } from "../frame/edits-file";
import { RULES, RULE_USE } from "../rules";
import { runStages } from "../run";
import { compare } from "../routes/compare";
import type { RoutesResult } from "../routes/result";
import { staleStages } from "../stale";
import { BARE, dot, tiny, wire } from "../test/tiny";

const copy = (): Record<string, unknown> => JSON.parse(JSON.stringify(DEFAULT_SHOP)) as Record<string, unknown>;

describe("the shop as a file", () => {
  test("the one that ships reads back to itself", () => {
    const read = readShop(JSON.stringify(DEFAULT_SHOP, null, 2));
    expect(read.ok && contentHash(read.value)).toBe(contentHash(DEFAULT_SHOP));
  });

  test("a rule that a kept shop does not say is the one that ships, and one that counts no more is passed over", () => {
    const shop = copy() as { rules: Record<string, Record<string, unknown>> };
    for (const key of ["doorOpenDeg", "apart"]) delete shop.rules.routes![key];
    delete shop.rules.heat!.insideMaxC;
    shop.rules.routes!.apartWeight = 3;
    const read = checkShop(shop);
    expect(read.ok && read.value.rules).toEqual(DEFAULT_SHOP.rules);
    const { doorOpenDeg: _, ...routes } = DEFAULT_SHOP.rules.routes;
    const kept = { ...DEFAULT_SHOP, rules: { ...DEFAULT_SHOP.rules, routes } } as Shop;
    expect(wholeShop(kept).rules.routes.doorOpenDeg).toBe(120);
  });

  test("nothing may be missing, too large or unknown, and each place is named", () => {
    const shop = copy() as { rules: { routes: Record<string, unknown>; ends: unknown[]; outer: unknown[] } };
    delete (shop.rules as Record<string, unknown>).classes;
    Object.assign(shop.rules.routes, { stepMm: 0.01, slak: 3 });
    shop.rules.ends[0] = { clamp: "glue" };
    shop.rules.outer = [];
    const read = checkShop(shop);
    const said = read.ok ? [] : read.faults.map((f) => `${f.path}: ${f.found}; ${f.expected}`).sort();
    expect(said).toEqual([
      "rules.classes: nothing; a value: this field is needed",
      'rules.ends[0].clamp: text "glue"; one of: screw, push-in, spring, stud, plug',
      "rules.ends[0].end: nothing; a value: this field is needed",
      "rules.outer: a list of 0 items; a list of at least 1",
      "rules.routes.slak: a field this format does not know; one of the fields in the format's description",
      "rules.routes.stepMm: number 0.01; a number of at least 0.1",
    ]);
  });

  test.each([
    ["", "the whole file: an empty file, a shop: one JSON object"],
    ["[]", "the whole file: a list of 0 items, a shop: one JSON object"],
    ['{"format":"gray-bench-design"}', 'format: text "gray-bench-design", "gray-bench-shop"'],
    ['{"format":"gray-bench-shop","version":7}', "version: number 7, 1, the only version so far"],
  ])("%j is refused in one sentence", (text, said) => {
    const read = readShop(text);
    expect(read.ok || read.faults.map((f) => `${f.path}: ${f.found}, ${f.expected}`)).toEqual([said]);
  });
});

test("every rule of the shop is described once, and its default lies in its range", () => {
  const places = RULES.map((r) => r.place);
  const leaves = [
    ...Object.keys(DEFAULT_SHOP.rules.routes).map((k) => `routes.${k}`),
    ...Object.keys(DEFAULT_SHOP.rules.lineups).map((k) => `lineups.${k}`),
    ...Object.keys(DEFAULT_SHOP.rules.heat).map((k) => `heat.${k}`),
    ...Object.keys(DEFAULT_SHOP.rules.metalwork).map((k) => `metalwork.${k}`),
    ...Object.keys(DEFAULT_SHOP.rules.kits).map((k) => `kits.${k}`),
    ...Object.keys(DEFAULT_SHOP.rules.wireprep).map((k) => `wireprep.${k}`),
    ...Object.keys(DEFAULT_SHOP.rules).filter(
      (k) => !["routes", "lineups", "heat", "metalwork", "kits", "wireprep"].includes(k),
    ),
  ];
  expect([...places].sort()).toEqual(leaves.sort());
  for (const { place, rule } of RULES) {
    expect([rule.text, rule.why, rule.source].every((t) => t.length > 3)).toBe(true);
    expect(ruleValue(DEFAULT_SHOP, place)).toEqual(rule.default);
    if (rule.as === "number") expect(rule.default >= rule.min && rule.default <= rule.max).toBe(true);
    else if (rule.as === "text") expect(rule.default.length).toBeLessThanOrEqual(rule.most);
    else expect(rule.value(rule.rows(rule.default))).toEqual(rule.default);
  }
});

test("a number just beyond its range is refused, at its ends it is taken", () => {
  for (const [key, rule] of Object.entries(ROUTE_RULES) as [string, NumberRule][]) {
    if (rule.as !== "number") continue;
    const takes = (v: number): boolean => checkShop(withRule(DEFAULT_SHOP, `routes.${key}`, v)).ok;
    expect([takes(rule.min), takes(rule.max), takes(rule.min - 0.001), takes(rule.max + 0.001)]).toEqual([
      true,
      true,
      false,
      false,
    ]);
  }
});

test("what differs between two shops is said rule by rule", () => {
  let shop: Shop = withRule(DEFAULT_SHOP, "routes.slackMm", 50);
  shop = withRule(shop, "routes.apart", []);
  shop = withRule(shop, "classes", { earth: { colour: "GNYE" }, control: { colour: "BU", sizeMm2: 1 } });
  shop = withRule(shop, "ends", [...DEFAULT_SHOP.rules.ends].reverse());
  expect(shopChanges(DEFAULT_SHOP, { ...shop, name: "north hall" }, RULES)).toEqual([
    "name: north hall (was shop as shipped)",
    'colour and cross-section by class: "control, BU, size 1 mm²" added',
    "slack at an end: 50 mm (was 30)",
    'classes that do not share a duct: "drive, signal" deleted',
    "end treatments: another order",
  ]);
  expect(shopChanges(shop, shop, RULES)).toEqual([]);
  expect(changedPlaces(DEFAULT_SHOP, shop, RULES)).toEqual(["classes", "routes.slackMm", "routes.apart", "ends"]);
  const own = RULES.flatMap(({ place, rule }) => ownText(rule, ruleValue(shop, place)) ?? []);
  expect(own.slice(1, 3)).toEqual([
    "slack at an end: 50 mm (ships with 30)",
    'classes that do not share a duct: "drive, signal" deleted',
  ]);
  expect(own).toHaveLength(4);
});

test("a rule is found by what it is called, what it does, its columns and its stage; every word must fit", () => {
  const find = (text: string): string[] => findRules(RULES, ({ stage }) => stage, text).map((r) => r.place);
  for (const { place, rule } of RULES) expect(find(rule.text)).toContain(place);
  expect(find("slack at an end")[0]).toBe("routes.slackMm");
  // Signs and letter case of other programs do not matter, nor the order of words.
  expect(find("  SLACK\u00A0END ")).toEqual(find("end slack"));
  expect(find("slack")[0]).toBe("routes.slackMm");
  expect(find("routes slack").every((place) => place.startsWith("routes."))).toBe(true);
  expect(find("ferrule").length).toBeGreaterThan(1);
  expect(find("slack zebra")).toEqual([]);
  expect(find("  ")).toEqual([]);
});

test("in every table what ships says nothing against itself, and a row that stands twice is told", () => {
  const silent: string[] = [];
  let met = 0;
  for (const { place, rule } of RULES) {
    if (rule.as !== "table") continue;
    const rows = rule.rows(rule.default);
    expect([place, rule.check(rows)]).toEqual([place, []]);
    rows.forEach((row, i) => {
      met++;
      const told = rule.check([...rows, { ...row }]).find((n) => n.row === rows.length);
      if (told === undefined || told.by > i) silent.push(`${place} ${JSON.stringify(row)}`);
    });
  }
  expect(met).toBeGreaterThan(100);
  expect(silent).toEqual([]);
});

test("a tool says what it needs to work", () => {
  const tools = METALWORK_RULES.tools as TableRule;
  const of = (row: Row): string[] => tools.check([{ id: "T1", d: 5, ...row }]).map((n) => n.text);
  expect(of({ kind: "drill", speed: 3000, feed: 200 })).toEqual([]);
  expect(of({ kind: "drill", speed: 3000 })).toEqual(["a tool that turns needs its turns and its feed"]);
  expect(of({ kind: "drill", feed: 200 })).toEqual(["a tool that turns needs its turns and its feed"]);
  expect(of({ kind: "punch" })).toEqual([]);
  expect(of({ kind: "tap", speed: 300, feed: 200, thread: "M5" })).toEqual(["a tap needs its thread and its pitch"]);
  expect(of({ kind: "tap", speed: 300, feed: 200, thread: "M5", pitch: 0.8 })).toEqual([]);
});

describe("tables tell of rows that say nothing or contradict", () => {
  const TABLES: Record<"ends" | "apart" | "outer" | "classes", TableRule> = {
    ends: END_RULES as TableRule,
    apart: ROUTE_RULES.apart as TableRule,
    outer: OUTER_RULES as TableRule,
    classes: CLASS_RULES as TableRule,
  };
  const notes = (name: "ends" | "apart" | "outer" | "classes", rows: Row[]): string[] =>
    TABLES[name].check(rows).map((n) => `${n.row} by ${n.by}: ${n.text}`);

  test("end treatments", () => {
    const rows: Row[] = [
      { clamp: "screw", sizeMaxMm2: 16, end: "ferrule" },
      { clamp: "screw", strand: "fine", sizeMaxMm2: 10, end: "ferrule" },
      { clamp: "screw", sizeMinMm2: 2, sizeMaxMm2: 16, end: "bare" },
      { clamp: "screw", sizeMaxMm2: 25, end: "bare" },
      { strand: "fine", end: "bare" },
      { clamp: "stud", strand: "fine", twin: true, end: "ring" },
    ];
    expect(notes("ends", rows)).toEqual([
      "1 by 0: never reached: says what a row above says",
      "2 by 0: never reached, and contradicts a row above",
      "5 by 4: never reached, and contradicts a row above",
    ]);
    expect(END_RULES.check(END_RULES.rows(DEFAULT_SHOP.rules.ends))).toEqual([]);
  });

  test("classes apart", () => {
    const pair = (first: string, second?: string): Row => ({ first, ...(second ? { second } : {}) });
    expect(
      notes("apart", [
        pair("drive", "signal"),
        pair("signal", "drive"),
        pair("drive", "signal"),
        pair("earth", "earth"),
        pair("supply"),
      ]),
    ).toEqual([
      "1 by 0: contradicts a row above: there the other one chooses first",
      "2 by 0: says what a row above says",
      "3 by 3: a class cannot stay clear of itself",
    ]);
  });

  test("sizes and classes named again", () => {
    expect(
      notes("outer", [
        { sizeMm2: 1, outerMm: 2 },
        { sizeMm2: 1, outerMm: 3 },
      ]),
    ).toHaveLength(1);
    expect(notes("classes", [{ class: "earth" }, { class: "drive" }, {}, {}])).toEqual([]);
    expect(notes("classes", [{ class: "earth" }, { class: "earth" }])).toHaveLength(1);
  });
});

test("each row tells which wires it takes now; a job's own rows take theirs away", () => {
  const design = tiny({
    ducts: [{}],
    devices: [dot("-A", 100, 20), dot("-B", 500, 20)],
    nets: [
      { name: "d", class: "drive", sizeMm2: 4 },
      { name: "s", class: "signal", sizeMm2: 1 },
      { name: "x", class: "control" },
    ],
    wires: [
      wire("-A", "-B", { number: "1", net: "d" }),
      wire("-A", "-B", { number: "2", net: "s", strand: "solid" }),
      wire("-A", "-B", { number: "3", net: "x" }),
    ],
    rules: BARE,
  });
  const { rules } = DEFAULT_SHOP;
  expect(RULE_USE["routes.apart"]!(design, rules)).toEqual([["1", "2"]]);
  const ends = RULE_USE.ends!(design, rules);
  const row = (fits: (r: (typeof rules.ends)[number]) => boolean): string[] => ends[rules.ends.findIndex(fits)]!;
  expect(ends.flat().sort()).toEqual(["1", "2"]);
  expect(row((r) => r.strand === "solid")).toEqual(["2"]);
  const own = { ...design, rules: { ...BARE, ends: [{ strand: "solid" as const, end: "fork" as const }] } };
  expect(RULE_USE.ends!(own, rules).flat()).toEqual(["1"]);
});

test("a rule makes stale what reads it, and what needs that", () => {
  const stale = (place: string, value: unknown) => staleStages(DEFAULT_SHOP, withRule(DEFAULT_SHOP, place, value));
  expect(stale("routes.slackMm", 31)).toEqual(["routes", "heat", "kits", "wireprep"]);
  expect(stale("classes", { earth: { colour: "GN" } })).toEqual(["intake", "lineups", "kits", "wireprep"]);
  expect(stale("classes", { earth: { sizeMm2: 1 } })).toEqual([
    "intake",
    "routes",
    "lineups",
    "heat",
    "kits",
    "wireprep",
  ]);
  expect(stale("lineups.endStopEvery", 20)).toEqual([
    "panel",
    "routes",
    "lineups",
    "heat",
    "metalwork",
    "kits",
    "wireprep",
  ]);
  expect(stale("metalwork.edgeDoorMm", 20)).toEqual(["metalwork", "kits"]);
  expect(stale("lineups.sparePercent", 20)).toEqual(["lineups", "kits"]);
  expect(stale("kits.heavyKg", 20)).toEqual(["kits"]);
  expect(stale("wireprep.cutS", 20)).toEqual(["wireprep"]);
  expect(staleStages(DEFAULT_SHOP, { ...DEFAULT_SHOP, name: "other" })).toEqual([]);
});

describe("what a change came to", () => {
  const line = tiny({
    ducts: [{ length: 1000 }],
    devices: [dot("-A", 100, 20), dot("-B", 500, 20), dot("-C", 900, 20)],
    nets: [{ name: "n", class: "control", sizeMm2: 1 }],
    wires: [wire("-A", "-B", { number: "1", net: "n" }), wire("-A", "-C", { number: "2", net: "n" })],
    rules: BARE,
  });
  const routes = (d: typeof line): RoutesResult => runStages(d).stages.routes as RoutesResult;
  const said = (d: typeof line): string[] =>
    compare(routes(line), routes(d)).map(({ text, mm }) =>
      mm === undefined ? text : text.replace("{mm}", `${mm} mm`),
    );

  test("nothing", () => expect(said(line)).toEqual([]));

  test("wires longer and shorter, more and gone, found and lost", () => {
    const moved = line.devices.map((d) => (d.tag === "-C" ? { ...d, ...dot("-C", 800, 20) } : d));
    expect(said({ ...line, devices: moved })).toEqual(["1 wire shorter by 100 mm in all"]);
    const slack = { ...line, rules: { routes: { ...BARE.routes, slackMm: 10 } } };
    expect(said(slack)).toEqual(["2 wires longer by 40 mm in all"]);
    expect(said({ ...line, wires: line.wires.slice(1) })).toEqual(["1 wire gone"]);
    expect(said({ ...line, wires: [...line.wires, { ...line.wires[0]!, number: "3" }] })).toEqual(["1 wire more"]);
    expect(said({ ...line, devices: line.devices.slice(0, 2) })).toEqual(["1 wire without a length now"]);
  });

  test("ducts that are fuller", () => {
    const thick = { ...line, nets: [{ name: "n", class: "control" as const, sizeMm2: 16 }] };
    expect(said(thick).filter((s) => s.includes("full"))).toEqual([expect.stringMatching(/^W1\.1 now [\d.]+ % full$/)]);
  });
});

test("a file of edits names what is wrong with it", () => {
  const file = {
    format: "gray-bench-edits",
    version: 1,
    job: "J",
    revision: "A",
    received: "h",
    edits: [{ id: "1", kind: "choose", payload: {}, who: "A. Lund", when: "2026-11-24T00:00:00.000Z", back: null }],
  };
  const good = readEdits(JSON.stringify(file));
  expect(good.ok && good.value.edits[0]!.kind).toBe("choose");
  const bad = readEdits(JSON.stringify({ ...file, edits: [{ ...file.edits[0], when: "soon", payload: 3 }] }));
  expect(bad.ok || bad.faults.map((f) => f.path)).toEqual(["edits[0].payload", "edits[0].when"]);
});
