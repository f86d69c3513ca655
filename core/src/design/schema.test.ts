import { readFileSync } from "node:fs";
import { join } from "node:path";
import { golden } from "../test/golden";
import { CATEGORIES, CLAMPS, COLOURS, EXITS, FACE_KINDS, MATERIALS, NET_CLASSES, STRANDS } from "./model";
import { readDesign } from "./read";
import { END_TREATMENTS } from "./model";

/** A design in which every field that the form knows is given once. */
const FULL = JSON.parse(readFileSync(join(__dirname, "../test/golden/every-field.json"), "utf8")) as Record<
  string,
  unknown
>;

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
