import type { Design } from "../design/model";
import { PREP_RULES, type PrepRules } from "./rules";
import { defaultsOf } from "../shop/rule-kinds";
import type { PlacedDevice } from "../panel/result";
import { runStages } from "../run";
import { DOT, tiny } from "../test/tiny";
import { panelLead } from "./batch";
import { countsOf } from "./counts";
import { makeBatch } from "./make";
import { machineFile } from "./profile";
import { workRank } from "./rank";
import { reelsFor } from "./reels";
import type { Lead, LeadEnd, WireprepResult } from "./result";
import { allLeadsTable } from "./tables";

/** Values worked out by hand, each where a rule and the one beside it differ. */

const RULES = defaultsOf(PREP_RULES) as unknown as PrepRules;

const end = (more: Partial<LeadEnd> = {}): LeadEnd => ({
  device: "-K1",
  pin: "A1",
  treatment: "ferrule",
  part: "F",
  sleeve: null,
  stripMm: 8,
  stripWhy: null,
  label: "",
  labelOn: "none",
  shared: null,
  ...more,
});
const lead = (wire: string, more: Partial<Lead> = {}): Lead => ({
  wire,
  net: "n",
  colour: "BU",
  sizeMm2: 1,
  strand: "fine",
  type: "W",
  lengthMm: 400,
  fallback: false,
  from: end(),
  to: end(),
  enclosure: "+A1",
  face: "+A1/plate",
  bundle: "-K1",
  ...more,
});

/** Four dots over a duct; every end gets a twin ferrule. 1, 2 and 3 land on -P1, 4 joins -P2 and -P3. */
function twins(): WireprepResult {
  const at = (tag: string, x: number) => ({ tag, on: { face: "+A1/plate", x, y: 80 } });
  const wire = (number: string, from: string, to: string) => ({
    number,
    net: "n",
    sizeMm2: 1,
    from: { device: from, pin: "p" },
    to: { device: to, pin: "p" },
  });
  const design: Design = {
    ...tiny({
      ducts: [{ length: 900 }],
      devices: [at("-P1", 100), at("-P2", 200), at("-P3", 300), at("-P4", 400)],
      wires: [wire("1", "-P1", "-P2"), wire("2", "-P1", "-P3"), wire("3", "-P1", "-P4"), wire("4", "-P2", "-P3")],
    }),
    rules: { ends: [{ end: "twin ferrule" }] },
  };
  return runStages(design).stages.wireprep as unknown as WireprepResult;
}

test("a clamp with one wire or with three makes no pair; with two it does", () => {
  const { leads, open } = twins();
  const at = leads.flatMap((l) =>
    [l.from, l.to].map((e) => `${l.wire} ${e.device}: ${e.shared ?? (e.later ? "later" : e.alone)}`),
  );
  // 1, 4 and 2 would hang on each other: of three leads two stay together, and the bench joins the third.
  expect(at.sort()).toEqual([
    "1 -P1: 3 wires land there",
    "1 -P2: later",
    "2 -P1: 3 wires land there",
    "2 -P3: -P3:p",
    "3 -P1: 3 wires land there",
    "3 -P4: nothing else lands there",
    "4 -P2: later",
    "4 -P3: -P3:p",
  ]);
  expect(open.filter((p) => p.kind === "twin ferrule without a pair").map((p) => p.of)).toEqual(["1", "2", "3", "3"]);
});

test("bundles are wired face by face, from the top down, from left to right", () => {
  const stands = (tag: string, face: string, x: number, y: number) =>
    ({ tag, face, centre: { x, y } }) as unknown as PlacedDevice;
  const rank = workRank({
    devices: [
      stands("-low", "+A1/plate", 10, 100),
      stands("-right", "+A1/plate", 300, 900),
      stands("-door", "+A1/door", 50, 10),
      stands("-left", "+A1/plate", 20, 900),
    ],
  });
  const order = ["-low", "-nowhere", "-right", "-door", "-left"].sort((a, b) => rank(a) - rank(b));
  expect(order).toEqual(["-door", "-left", "-right", "-low", "-nowhere"]);
});

test("of two codes for one thing the first row counts, each for its own kind", () => {
  const profile = { ...RULES.profiles[0]!, profile: "P", heads: false, as: "csv" as const };
  const column = (name: string, value: string) => ({ profile: "P", name, value, as: "text" as const });
  const code = (of: "colour" | "end" | "strand", ours: string, theirs: string) => ({ profile: "P", of, ours, theirs });
  const file = machineFile("P", "B", [{ leads: [lead("1")] }], {
    profiles: [profile],
    columns: [column("c", "{colour}"), column("e", "{from_end}"), column("s", "{strand}")],
    codes: [
      { ...code("colour", "BU", "other"), profile: "Q" },
      code("colour", "BU", "7"),
      code("colour", "BU", "8"),
      code("end", "ferrule", "F1"),
      code("end", "BU", "no colour"),
    ],
  });
  expect(file).toMatchObject({ ok: true });
  const text = file.ok ? new TextDecoder().decode(file.bytes).trim() : "";
  expect(text.split(/[;,\t]/)).toEqual(["7", "F1", "fine"]);
});

test("lengths in the unit of the file, with its decimal sign", () => {
  const written = (more: Partial<PrepRules["profiles"][number]>): string => {
    const profile = { ...RULES.profiles[0]!, profile: "P", heads: false, as: "csv" as const, separator: ";", ...more };
    const columns = [{ profile: "P", name: "l", value: "{length}", as: "number" as const }];
    const file = machineFile("P", "B", [{ leads: [lead("1", { lengthMm: 387.35 })] }], {
      profiles: [profile],
      columns,
      codes: [],
    });
    return file.ok ? new TextDecoder().decode(file.bytes).trim() : file.reasons.join();
  };
  // 387.35 mm are 15.25 inches.
  expect([
    written({ unit: "mm", decimal: "." }),
    written({ unit: "mm", decimal: "," }),
    written({ unit: "in", decimal: "." }),
    written({ unit: "0.1 mm" }),
  ]).toEqual(["387.35", "387,35", "15.25", "3874"]);
});

test("what is left on a rest and on a full reel is told of each by its own metres", () => {
  const rules = { reels: [{ reel: "R1", part: "W", metres: 12 }], reelEndM: 1, reelWastePercent: 10 };
  const { reels } = reelsFor([lead("1", { lengthMm: 10_000 }), lead("2", { lengthMm: 20_000 })], rules, () => 50);
  // 10 m and a tenth more of the 12 m that are there; 20 m and a tenth more of a new reel of 50 m.
  expect(reels.map((r) => [r.reel, r.leads.map((l) => l.wire), r.usedM, r.restM])).toEqual([
    ["R1", ["1"], 11, 1],
    [null, ["2"], 22, 28],
  ]);
});

test("of equal panels the same bundle is wired one panel after the other", () => {
  const leads = ["-A", "-B", "-C"].map((bundle, i) => lead(`${i + 1}`, { bundle }));
  const batch = makeBatch(
    { leads, bundles: ["-C", "-A", "-B"] },
    { name: "B", faces: [], panels: 2, machine: RULES.machines[0]!.name, way: "bundles", fallbacks: null },
    new Set(),
    { ...RULES, mixed: 1 },
  );
  if ("wrong" in batch) throw new Error(batch.wrong);
  const order = [...batch.plan.chains.flat(), ...batch.plan.bench.map((b) => b.wire)];
  expect(order).toEqual(["3", panelLead("3", 2), "1", panelLead("1", 2), "2", panelLead("2", 2)]);
});

test("the list of leads goes on counting at the bench, and numbers nothing that is left", () => {
  const leads = ["1", "2", "3", "4", "5"].map((wire) => lead(wire));
  const batch = {
    name: "B",
    chains: [["2", "1"]],
    bench: [
      { wire: "3", why: "" },
      { wire: "5", why: "" },
    ],
    left: [{ wire: "4", why: "" }],
  };
  const { head, rows } = allLeadsTable({ leads, batches: [batch as unknown as WireprepResult["batches"][number]] });
  const at = (name: string): number => head.indexOf(name);
  expect(rows.map((r) => [r[at("batch")], r[at("order")], r[at("wire")], r[at("marks")]])).toEqual([
    ["B", 1, "2", ""],
    ["B", 2, "1", ""],
    ["B", 3, "3", "bench"],
    ["B", 4, "5", "bench"],
    ["", null, "4", "left"],
  ]);
});

test("a crimp that the bench makes later is told at both ends and counted at the first wire alone", () => {
  const later = (other: string) => ({
    treatment: "bare" as const,
    part: null,
    later: { at: "-K1:A1", with: other, part: "T" },
  });
  const [two, ten] = [lead("2", { to: end(later("10")) }), lead("10", { from: end(later("2")), to: end(later("2")) })];
  expect(countsOf([two, ten])).toMatchObject({ n: 2, crimps: 1, later: 1 });
  const { head, rows } = allLeadsTable({
    leads: [two, ten],
    batches: [
      { name: "B", chains: [["2", "10"]], bench: [], left: [] } as unknown as WireprepResult["batches"][number],
    ],
  });
  expect(rows.map((r) => r[head.indexOf("later")])).toEqual([
    "T with 10 at -K1:A1",
    "T with 2 at -K1:A1; T with 2 at -K1:A1",
  ]);
});

test("where pin and ferrule want other lengths the longer one is stripped", () => {
  const strip = (pinMm: number) => {
    const design = tiny({
      ducts: [{ length: 900 }],
      parts: [{ ...DOT, number: "Q", pins: [{ ...DOT.pins![0]!, strip: pinMm }] }],
      devices: ["-Q1", "-Q2"].map((tag, i) => ({ tag, part: "Q", on: { face: "+A1/plate", x: 100 + 100 * i, y: 80 } })),
      wires: [
        { number: "1", net: "n", sizeMm2: 1, from: { device: "-Q1", pin: "p" }, to: { device: "-Q2", pin: "p" } },
      ],
    });
    const prep = runStages({ ...design, rules: { ends: [{ end: "ferrule" }] } }).stages
      .wireprep as unknown as WireprepResult;
    return prep.leads[0]!.from;
  };
  const own = RULES.pieces.find((p) => p.end === "ferrule" && (p.sizeMaxMm2 ?? 99) >= 1)!.stripMm!;
  expect([strip(own - 2).stripMm, strip(own + 2).stripMm, strip(own).stripMm]).toEqual([own, own + 2, own]);
  expect([strip(own + 2).stripWhy === null, strip(own).stripWhy]).toEqual([false, null]);
});
