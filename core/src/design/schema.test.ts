import { golden } from "../test/golden";
import { CATEGORIES, CLAMPS, COLOURS, EXITS, FACE_KINDS, MATERIALS, NET_CLASSES, STRANDS } from "./model";
import { readDesign } from "./read";
import { END_TREATMENTS } from "./rules";

/** A design in which every field that the form knows is given once. */
const FULL = {
  format: "gray-bench-design",
  version: 1,
  job: { code: "J-1", title: "t", customer: "c", due: "2027-02-19", revision: "A", units: "mm" },
  enclosures: [
    {
      tag: "+A1",
      text: "t",
      w: 800,
      h: 2000,
      d: 500,
      plate: { w: 700, h: 1900, setback: 400, thickness: 3, material: "aluminium" },
      sheet: { thickness: 1.5, material: "painted steel" },
      hinge: "left",
      surfaces: { roof: "free", base: "covered", left: "neighbour", right: "free", front: "free", rear: "free" },
      neighbourRight: "+A2",
    },
  ],
  faces: [
    {
      enclosure: "+A1",
      kind: "door",
      w: 1,
      h: 1,
      keepOuts: [{ x: 0, y: 0, w: 1, h: 1, text: "t" }],
      holes: [
        { kind: "round", x: 1, y: 1, d: 22, notch: { to: 12, w: 3 } },
        { kind: "thread", x: 1, y: 1, thread: "M6" },
        { kind: "countersunk", x: 1, y: 1, d: 5, head: 9 },
        { kind: "slot", x: 1, y: 1, w: 10, h: 5, angle: 90 },
        { kind: "rect", x: 1, y: 1, w: 10, h: 5, r: 1 },
        {
          kind: "polygon",
          points: [
            { x: 0, y: 0 },
            { x: 1, y: 0 },
            { x: 1, y: 1 },
          ],
        },
        { kind: "knockout", x: 1, y: 1, d: 20 },
      ],
    },
  ],
  rails: [{ tag: "R1", face: "+A1/plate", x: 0, y: 0, run: "right", length: 100, part: "R" }],
  ducts: [{ tag: "W1", face: "+A1/plate", x: 0, y: 0, run: "up", length: 100, part: "D", classes: ["drive"] }],
  crossings: [
    {
      tag: "N1",
      kind: "hinge",
      from: { duct: "W1" },
      to: { face: "+A1/door" },
      enclosure: "+A1",
      points: [
        { x: 0, y: 0, z: 0 },
        { x: 1, y: 1, z: 1 },
      ],
      loop: 100,
    },
  ],
  parts: [
    {
      number: "P",
      maker: "m",
      text: "t",
      category: "other",
      w: 10,
      h: 10,
      d: 10,
      weightKg: 1,
      mounts: [{ kind: "rail", datumY: 5 }, { kind: "slot", datumX: 0, datumY: 0, datumZ: 0 }, { kind: "plate" }],
      pins: [
        {
          name: "1",
          x: 1,
          y: 1,
          z: 1,
          exit: "up",
          tail: 10,
          clamp: "screw",
          sizeMin: 0.5,
          sizeMax: 4,
          strip: 10,
          conductors: 2,
          channel: "a",
        },
      ],
      holes: [{ kind: "rect", x: 1, y: 1, w: 10, h: 5 }],
      slots: [{ name: "s", x: 0, y: 0, z: 0, accepts: ["M"] }],
      lossW: 1,
      maxAroundC: 40,
      clearances: { top: 1, bottom: 1, left: 1, right: 1, front: 1 },
      currentA: 1,
      stock: { place: "A", pack: 1 },
      directLeads: true,
      duct: { innerW: 36, innerH: 54 },
      terminal: { levels: 2, jumperRows: 1, openSide: "left", endPlate: "E" },
      cooling: { curve: [{ insideC: 35, outsideC: 35, capacityW: 500 }], airflowM3h: 1, powerW: 1 },
      gland: { thread: "M20", cableMin: 5, cableMax: 10 },
      wire: { sizeMm2: 1.5, outer: 3, colour: "BU", strand: "fine" },
      cable: { cores: 3, sizeMm2: 1.5, outer: 9, screened: true },
    },
  ],
  devices: [
    {
      tag: "-K1",
      part: "P",
      on: { face: "+A1/plate", rail: "R1", slot: "-K2", name: "s", x: 0, y: 0 },
      enclosure: "+A1",
      turn: 90,
      texts: ["a", "b"],
      sheet: "12.3",
      item: 1,
      loadShare: 1,
      when: { lift: "fitted", other: ["a", "b"] },
    },
  ],
  nets: [{ name: "n", class: "drive", voltage: { v: 24, kind: "dc" }, currentA: 1, colour: "BU", sizeMm2: 1.5 }],
  wires: [
    {
      number: "1",
      net: "n",
      from: { device: "-K1", pin: "1" },
      to: { device: "-K1", pin: "2" },
      colour: "BU",
      sizeMm2: 1.5,
      strand: "fine",
      type: "WT",
      core: { cable: "-W1", core: "1" },
      when: { lift: "fitted" },
    },
  ],
  cables: [
    {
      tag: "-W1",
      type: "CT",
      outer: 9,
      from: "a",
      to: "b",
      gland: "-G1",
      cores: [
        {
          core: "1",
          colour: "BU",
          sizeMm2: 1.5,
          from: { device: "-K1", pin: "1" },
          to: { device: "-K1", pin: "2" },
          far: "motor",
          net: "n",
        },
      ],
      when: { lift: "fitted" },
    },
  ],
  strips: [
    {
      tag: "-X1",
      rail: "R1",
      members: ["-K1", "-K2"],
      jumpers: [{ row: 1, members: ["-K1", "-K2"], part: "J" }],
      print: { "-K1": "L1" },
      splitAfter: ["-K1"],
    },
  ],
  options: [{ key: "lift", text: "t", choices: ["fitted", "none"], chosen: "fitted" }],
  rules: {
    routes: {
      slackMm: 30,
      slackDoorMm: 60,
      bendFromMm2: 10,
      bendDiameters: 4,
      crossingLoopMm: 0,
      loopHingeMm: 250,
      loopWallMm: 0,
      loopEdgeMm: 0,
      reservePercent: 0,
      stepMm: 5,
      shortestLeadMm: 120,
      reachMm: 400,
      corridorMm: 20,
      nearerMm: 100,
      crossingOffMm: 50,
      joinGapMm: 5,
      watchGapMm: 20,
      directReachMm: 150,
      fillWatchPercent: 55,
      fillLimitPercent: 70,
      detourMostMm: 2000,
      apartWeight: 10,
      apart: [["drive", "signal"]],
    },
    classes: { drive: { colour: "BK", sizeMm2: 4 } },
    ends: [{ clamp: "screw", strand: "fine", twin: true, sizeMinMm2: 0.5, sizeMaxMm2: 4, end: "ferrule" }],
  },
  attachments: [{ name: "a", kind: "manual", page: 3, for: "-K1" }],
};

type Key = string | number;

const clone = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

function placesOf(value: unknown, path: Key[] = []): Key[][] {
  if (typeof value !== "object" || value === null) return [path];
  const inner = Object.entries(value).flatMap(([k, v]) => placesOf(v, [...path, Array.isArray(value) ? Number(k) : k]));
  return path.length === 0 ? inner : [path, ...inner];
}

const pathText = (path: Key[]): string =>
  path
    .map((k) => (typeof k === "number" ? `[${k}]` : `.${k}`))
    .join("")
    .slice(1);

const { format, version, job } = FULL;
const BARE = { format, version, job, enclosures: [{ tag: "+A1", w: 800, h: 2000, d: 500 }] };

/** The faults of a design with one place changed; `undefined` takes it away. Only the list it lies in is kept. */
function faultsWith(path: Key[], value: unknown) {
  const whole: Record<Key, unknown> = FULL;
  const design: Record<Key, unknown> = clone({ ...BARE, [path[0]!]: whole[path[0]!] });
  let at = design;
  for (const k of path.slice(0, -1)) at = at[k] as Record<Key, unknown>;
  const last = path[path.length - 1]!;
  if (value !== undefined) at[last] = value;
  else if (Array.isArray(at)) at.splice(last as number, 1);
  else delete at[last];
  const result = readDesign(JSON.stringify(design));
  return result.ok ? [] : result.faults;
}

// Both sides of every bound in use.
const NUMBERS = [
  -100_000.1, -100_000, -360.1, -360, -273.2, -273.15, -0.1, 0, 0.05, 0.1, 0.5, 1, 2, 10, 11, 50, 90, 100, 101, 180,
  1000, 1001, 100_000, 100_001, 1_000_000, 1_000_001, 1e9, 1_000_000_001,
];
const X = (n: number): string => "x".repeat(n);
const TEXTS = ["", "x", X(120), X(121), X(500), X(501)];
test("a design with every field is taken", () => {
  expect(readDesign(JSON.stringify(FULL))).toMatchObject({ ok: true });
});

/** What a field takes and what is said of all else, in one line. */
function formOf(path: Key[], given: unknown): string {
  const own = pathText(path);
  const said = new Set<string>();
  const takes = (value: unknown): boolean => {
    const faults = faultsWith(path, value);
    for (const f of faults) said.add(f.path === own ? f.expected : `${f.path.replace(own, "…")}: ${f.expected}`);
    return faults.length === 0;
  };
  const kinds = {
    nothing: undefined,
    number: 1,
    text: "x",
    true: true,
    null: null,
    "empty list": [],
    "empty object": {},
  };
  const parts = [
    Object.entries(kinds)
      .filter(([, v]) => takes(v))
      .map(([k]) => k)
      .join(", "),
  ];
  if (typeof given === "number") parts.push(NUMBERS.filter(takes).join(" "));
  if (typeof given === "string")
    parts.push(
      TEXTS.filter(takes)
        .map((t) => t.length)
        .join(" ") + " letters",
    );
  return `${own} takes ${parts.join("; ")}. Else: ${[...said].join("; ")}`;
}

function valueAt(path: Key[]): unknown {
  return path.reduce<unknown>((at, k) => (at as Record<Key, unknown>)[k], FULL);
}

test("what every field takes and refuses, word for word", () => {
  golden(
    "form.txt",
    placesOf(FULL)
      .map((path) => formOf(path, valueAt(path)))
      .join("\n"),
  );
});

test.each<[string, readonly string[]]>([
  ["job.units", ["mm", "in"]],
  ["enclosures.0.plate.material", MATERIALS],
  ["enclosures.0.hinge", ["left", "right"]],
  ["enclosures.0.surfaces.rear", ["free", "covered", "neighbour"]],
  ["faces.0.kind", FACE_KINDS],
  ["rails.0.run", ["right", "up"]],
  ["ducts.0.classes.0", NET_CLASSES],
  ["crossings.0.kind", ["hinge", "wall", "edge"]],
  ["parts.0.category", CATEGORIES],
  ["parts.0.pins.0.exit", EXITS],
  ["parts.0.pins.0.clamp", CLAMPS],
  ["parts.0.terminal.openSide", ["left", "right", "none"]],
  ["nets.0.colour", COLOURS],
  ["nets.0.voltage.kind", ["ac", "dc"]],
  ["wires.0.strand", STRANDS],
  ["rules.ends.0.end", END_TREATMENTS],
])("%s takes each of its words and no other", (path, words) => {
  const keys = path.split(".").map((k) => (/^\d+$/.test(k) ? Number(k) : k));
  for (const word of words) expect(faultsWith(keys, word)).toEqual([]);
  const [fault, ...more] = faultsWith(keys, "nix");
  expect(more).toEqual([]);
  expect(fault).toEqual({ path: pathText(keys), found: 'text "nix"', expected: `one of: ${words.join(", ")}` });
});

test.each<[string, Record<string, unknown>, string | null]>([
  ["neither end of a crossing", {}, "crossings[0].from: found neither of them, expected one of: duct, face"],
  [
    "both ends of a crossing",
    { duct: "W1", face: "f" },
    "crossings[0].from: found duct and face together, expected only one of them",
  ],
])("%s", (_name, from, text) => {
  expect(
    faultsWith(["crossings", 0, "from"], from).map((f) => `${f.path}: found ${f.found}, expected ${f.expected}`),
  ).toEqual([text]);
});

test.each<[Key[], string[], string[]]>([
  [
    ["job", "code"],
    ["A", "0", "LARK-2601", "a.b_c-d"],
    ["-A", ".A", "A B", "Ä", "A/B"],
  ],
  [
    ["job", "due"],
    ["2027-02-19", "2027-12-31"],
    ["2027-13-01", "2027-00-10", "2027-02-32", "2027-02-00", "27-02-19", "2027-02-19T", "x2027-02-19"],
  ],
  [
    ["faces", 0, "holes", 1, "thread"],
    ["M6", "M2.5", "M6x0.75", "M12x1"],
    ["m6", "6", "M", "M6x", "M6 ", "XM6", "M6.", "M6x1."],
  ],
])("%j has its form", (path, good, bad) => {
  for (const text of good) expect([text, faultsWith(path, text)]).toEqual([text, []]);
  for (const text of bad) expect([text, faultsWith(path, text).length]).toEqual([text, 1]);
});

test("lists have a longest length, conditions a most, texts three lines", () => {
  expect(faultsWith(["devices", 0, "texts"], ["", "", "", ""])[0]!.expected).toBe("a list of at most 3");
  expect(faultsWith(["devices", 0, "texts"], ["", "", ""])).toEqual([]);
  const keys = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`k${i}`, "a"]));
  expect(faultsWith(["wires", 0, "when"], keys(50))).toEqual([]);
  expect(faultsWith(["wires", 0, "when"], keys(51))).toHaveLength(1);
  expect(faultsWith(["wires", 0, "when"], { [X(121)]: "a" })).toHaveLength(1);
  const net = { name: "n" };
  expect(
    faultsWith(
      ["nets"],
      Array.from({ length: 200_001 }, () => net),
    )[0]!.expected,
  ).toBe("a list of at most 200000");
});

test("classes that stay apart come in pairs", () => {
  const said = (pair: string[]) => faultsWith(["rules", "routes", "apart", 0], pair).map((f) => f.expected);
  expect(said(["drive"])).toEqual(["1 more in the list"]);
  expect(said(["drive", "signal", "earth"])).toEqual(["a list of at most 2"]);
});

test("absent lists and rules are filled in empty", () => {
  const result = readDesign(JSON.stringify(BARE));
  const empty = "faces rails ducts crossings parts devices nets wires cables strips options attachments".split(" ");
  expect(result).toEqual({
    ok: true,
    design: { ...BARE, ...Object.fromEntries(empty.map((k) => [k, []])), rules: {} },
  });
});
