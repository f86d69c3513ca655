import { readFileSync } from "node:fs";
import { join } from "node:path";
import { runStages } from "../run";
import { runs } from "../test/runs";
import type { Design } from "./model";
import { readDesign } from "./read";

// ---- mutated files: never a crash, never a hang, always reasons ------------------------------------

/** Seeded numbers for the mutations (mulberry32). */
function random(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const JUNK: unknown[] = [
  null,
  "",
  "x",
  -1,
  0,
  1e9,
  1e308,
  true,
  [],
  {},
  [[]],
  "__proto__",
  "=1+1",
  "\u0000",
  "-K1",
  { device: "-K1", pin: "A1" },
  "+A1/plate",
  "W1",
  99999.999,
];

/** Changes one to four places of a design: a value, a field gone, an item doubled, two items swapped. */
function mutate(design: unknown, next: () => number): unknown {
  const copy = JSON.parse(JSON.stringify(design)) as Record<string, unknown>;
  const changes = 1 + Math.floor(next() * 4);
  for (let i = 0; i < changes; i++) {
    let at: Record<string, unknown> | unknown[] = copy;
    for (;;) {
      const keys = Object.keys(at);
      if (keys.length === 0) break;
      const key = keys[Math.floor(next() * keys.length)]!;
      const value = (at as Record<string, unknown>)[key];
      if (typeof value === "object" && value !== null && next() < 0.85) {
        at = value as Record<string, unknown>;
        continue;
      }
      const what = next();
      if (Array.isArray(at) && what < 0.3) at.push(at[0]);
      else if (what < 0.5) delete (at as Record<string, unknown>)[key];
      else if (what < 0.6 && typeof value === "number") (at as Record<string, unknown>)[key] = value * (next() * 4 - 2);
      else (at as Record<string, unknown>)[key] = JUNK[Math.floor(next() * JUNK.length)];
      break;
    }
  }
  return copy;
}

test("2,000 mutated designs are refused with reasons or computed to the end", () => {
  const design = JSON.parse(
    readFileSync(join(__dirname, "../../../designs/whole/hillfold.bench.json"), "utf8"),
  ) as unknown;
  const next = random(4711);
  let refused = 0;
  let computed = 0;
  for (let i = 0; i < runs(2000); i++) {
    const result = readDesign(JSON.stringify(mutate(design, next)));
    if (!result.ok) {
      refused++;
      expect(result.faults.length).toBeGreaterThan(0);
      for (const f of result.faults) expect(f.path !== "" && f.found !== "" && f.expected !== "").toBe(true);
      continue;
    }
    computed++;
    const results = runStages(result.design);
    const text = JSON.stringify(results);
    expect(text).not.toMatch(/:null,"y":null/);
    for (const p of results.open) expect(p.text !== "" && p.remedy !== "").toBe(true);
  }
  // Both kinds must occur, or the mutations test nothing.
  expect(Math.min(refused, computed)).toBeGreaterThan(runs(200));
});

test("files cut or garbled at a random place are refused with one place, or taken as what they say", () => {
  const text = readFileSync(join(__dirname, "../../../designs/whole/hillfold.bench.json"), "utf8");
  const next = random(815);
  const seen = { cut: 0, garbled: 0, form: 0, taken: 0 };
  for (let i = 0; i < runs(600); i++) {
    const at = Math.floor(next() * text.trimEnd().length);
    const cut = next() < 0.5;
    const garbled = cut
      ? text.slice(0, at)
      : text.slice(0, at) + String.fromCharCode(33 + Math.floor(next() * 90)) + text.slice(at + 1);
    const result = readDesign(garbled);
    let parsed: unknown;
    try {
      parsed = JSON.parse(garbled);
    } catch {
      // Not JSON: one fault, which names a line and a column no later than the file is long.
      if (result.ok) throw new Error(`taken: ${garbled.slice(at - 20, at + 20)}`);
      expect([result.faults.length, result.count]).toEqual([1, 1]);
      const { path, found, expected } = result.faults[0]!;
      if (at === 0 && cut) expect(found).toBe("an empty file");
      else expect(path).toMatch(cut ? /^line \d+, column \d+$|^the end of the file$/ : /^line \d+, column \d+$/);
      expect([found.length > 0, expected.length > 0]).toEqual([true, true]);
      const line = Number(/\d+/.exec(path)?.[0] ?? garbled.split("\n").length);
      const broken = garbled.slice(0, at).split("\n").length;
      // Where a text was left open, the reader may notice at the end of that line; never before the break.
      // A bracket that was opened is missed only where its list ends.
      const opened = !cut && "[{".includes(garbled[at]!);
      expect([line >= broken - 1, opened || line <= broken + 1]).toEqual([true, true]);
      seen[cut ? "cut" : "garbled"]++;
      continue;
    }
    // Still JSON: a letter within a text or a digit of a number; taken as it stands or refused by its field.
    if (result.ok) {
      seen.taken++;
      expect(result.design.wires).toEqual((parsed as Design).wires);
    } else {
      seen.form++;
      for (const f of result.faults) expect(f.path).toMatch(/^[a-zA-Z]/);
    }
  }
  expect(Object.values(seen).map((n) => n >= runs(20))).toEqual([true, true, true, true]);
});
