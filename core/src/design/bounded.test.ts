import { readDesign } from "./read";

const job = { code: "J", title: "t", revision: "1" };
const enclosures = [{ tag: "+A1", w: 300, h: 300, d: 150 }];
const head = { format: "gray-bench-design", version: 1, job, enclosures };
const read = (more: object) => readDesign(JSON.stringify({ ...head, ...more }));
const faults = (more: object | string) => {
  const answer = typeof more === "string" ? readDesign(more) : read(more);
  if (answer.ok) throw new Error("taken");
  return answer;
};

test("a file full of faults is refused after the first five hundred, whatever its size", () => {
  const { faults: told, count } = faults({ wires: Array.from({ length: 150_000 }, (_, i) => ({ number: i })) });
  expect([told.length, count]).toEqual([500, 500]);
  expect(told[0]).toEqual({ path: "wires[0].number", found: "number 0", expected: "text" });
  expect(told[499]!.path).toBe("wires[499].number");
});

test("faults far behind in a list keep their place, in the order of the description", () => {
  const wires = Array.from({ length: 3000 }, (_, i) => ({ number: String(i) }) as object);
  wires[2999] = { number: "x", sizeMm2: "thick" };
  wires[700] = { nix: 1, number: "y" };
  const { faults: told } = faults({ wires, rails: [{ tag: 7 }], job: { ...job, revision: 3 } });
  expect(told.map((f) => f.path)).toEqual([
    "job.revision",
    "rails[0].tag",
    ...["face", "x", "y", "run", "length", "part"].map((f) => `rails[0].${f}`),
    "wires[700].nix",
    "wires[2999].sizeMm2",
  ]);
});

test("one item full of faults is told of by its first", () => {
  const { faults: told } = faults({ parts: [{ pins: Array.from({ length: 100_000 }, () => 1) }] });
  expect(told).toHaveLength(1);
  expect(told[0]!.path).toMatch(/^parts\[0\]/);
});

test("lists within lists, and fields without end, are told of by their first fault too", () => {
  const nested = {
    parts: [{ pins: Array.from({ length: 900 }, () => ({ nix: Array.from({ length: 900 }, () => 1) })) }],
  };
  expect(faults(nested).faults).toHaveLength(1);
  const fields = Object.fromEntries(Array.from({ length: 150_000 }, (_, i) => [`f${i}`, 1]));
  expect(faults(fields).faults).toHaveLength(1);
  expect(faults({ nets: [fields] }).faults).toHaveLength(1);
});

test("a list that is too long is refused before anything in it is looked at", () => {
  const { faults: told } = faults({ wires: Array.from({ length: 200_001 }, () => 0) });
  expect(told).toEqual([{ path: "wires", found: "a list of 200001 items", expected: "a list of at most 200000" }]);
});

test("brackets within brackets end no stack", () => {
  for (const n of [50, 5_000, 200_000]) {
    const deep = `${JSON.stringify(head).slice(0, -1)},"wires":${"[".repeat(n)}${"]".repeat(n)}}`;
    expect(faults(deep).faults.length).toBeGreaterThan(0);
    // Not even JSON.
    expect(faults(deep.slice(0, -1)).faults).toHaveLength(1);
  }
});

test.each(["__proto__", "constructor", "prototype"])(
  "a field named %s is refused with its place, not dropped",
  (key) => {
    const text = JSON.stringify({ ...head, devices: [{ tag: "-A", part: "p", when: { KEY: "x" } }] });
    expect(faults(text.replace('"KEY"', `"${key}"`)).faults).toEqual([
      { path: `devices[0].when.${key}`, found: "a name that belongs to the language", expected: "another name" },
    ]);
  },
);

test.each(["\u0000", "a\nb", "\u001b[31m", "\u0085", "\ud800", "\ufffe", "\ufdd0"])(
  "a name or text with %j is refused with its place",
  (text) => {
    const { faults: told } = faults({ nets: [{ name: text }], job: { ...job, customer: text } });
    expect(told.map((f) => [f.path, f.expected])).toEqual([
      ["job.customer", "text without control characters"],
      ["nets[0].name", "text without control characters"],
    ]);
  },
);

test("what people write is taken: umlauts, signs, other scripts, pictures", () => {
  expect(read({ nets: ["Lüfter ≥ 3 µm²", "станция", "盤", "🔧"].map((name) => ({ name })) }).ok).toBe(true);
});

test("places and what was found are told at a length that can be read", () => {
  const key = "k".repeat(2000);
  const { faults: told } = faults({ devices: [{ tag: "x".repeat(5000), part: "p", [key]: 1 }] });
  for (const f of told) expect([f.path.length <= 160, f.found.length <= 120]).toEqual([true, true]);
});
