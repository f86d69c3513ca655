import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { coloursOf } from "./wiring/landings";
import { lookUp } from "./design/lookup";
import type { Design } from "./design/model";
import { namedTwice } from "./design/names";
import { readDesign } from "./design/read";
import { readFor } from "./frame/reads";
import { DEFAULT_SHOP, type Shop } from "./shop/shop";
import type { AnyStage } from "./frame/stage";
import { runStage, runStages, stageKeys, type Results } from "./run";
import type { RoutesResult } from "./routes/result";
import { STAGES } from "./stages";
import { EVERYTHING } from "./test/everything";
import { randomDesigns } from "./test/random-design";
import { stripDesign } from "./test/strips";
import { ALL_DRAWN, runs } from "./test/runs";
import { DOT, dot, tiny, wire } from "./test/tiny";

/** Results are kept by what a stage reads: what it says it reads must be what it does read. */

type Tree = true | { readonly [field: string]: Tree };

/** Whether a field is among those a stage says it reads. */
function covered(path: readonly string[], tree: Tree | undefined): boolean {
  if (tree === undefined || tree === true) return tree === true;
  // Whether a thing is there at all may be asked of anything of which fields are read.
  return path.length === 0 || covered(path.slice(1), tree["*"] ?? tree[path[0]!]);
}

/** A value that tells which of its fields are looked at; items of lists have no name of their own. */
function watched<T extends object>(value: T, path: readonly string[], tell: (path: string[]) => void): T {
  const known = new WeakMap<object, object>();
  const watch = (v: unknown, at: readonly string[]): unknown => {
    if (typeof v !== "object" || v === null) return v;
    const there = known.get(v);
    if (there) return there;
    const proxy: object = new Proxy(v, {
      get(target, name, receiver) {
        const field = Reflect.get(target, name, receiver) as unknown;
        if (typeof name === "symbol") return field;
        if (Array.isArray(target)) {
          if (/^\d+$/.test(name) && typeof field !== "object") tell([...at]);
          return /^\d+$/.test(name) ? watch(field, at) : field;
        }
        const here = [...at, name];
        if (typeof field !== "object" && typeof field !== "function") tell(here);
        return watch(field, here);
      },
    });
    known.set(v, proxy);
    return proxy;
  };
  return watch(value, path) as T;
}

const larkmoor = (): Design => {
  const read = readDesign(readFileSync(join(__dirname, "../../designs/whole/larkmoor.bench.json"), "utf8"));
  if (!read.ok) throw new Error(read.faults[0]!.path);
  return read.design;
};

/** What is rarely met: a terminal for fuses, a face and an attachment of nothing, a jumper off its strip, a size that only the type knows. */
const ODDS: Design = {
  ...tiny({
    ducts: [{}],
    devices: [
      dot("-A", 100, 20),
      dot("-B", 500, 20),
      { tag: "-F", part: "FUSED" },
      { ...dot("-H", 300, 300), part: "HOT" },
    ],
    nets: [{ name: "n" }, { name: "m", class: "control" }],
    wires: [wire("-A", "-B", { net: "n", type: "T" }), wire("-A", "-B", { number: "2", net: "m" })],
    parts: [
      { ...DOT, number: "T", category: "wire", wire: { sizeMm2: 1, outer: 3 } },
      { ...DOT, number: "HOT", category: "drive", lossW: 5000 },
      {
        ...DOT,
        number: "COLD",
        mounts: [{ kind: "door" }],
        cooling: { curve: [{ insideC: 35, outsideC: 35, capacityW: 900 }] },
      },
      { ...DOT, number: "FUSED", terminal: { levels: 1, jumperRows: 1, fuseMostA: 10 } },
    ],
  }),
  faces: [{ enclosure: "+Z", kind: "door" }],
  strips: [{ tag: "-X", rail: "none", members: ["-A", "-F"], jumpers: [{ row: 1, members: ["-B"] }] }],
  attachments: [{ name: "sheet", kind: "pdf", for: "-Z9" }],
};

/** Designs whose names are each used once: what shares a name is compared as a whole. */
const SAMPLES: Design[] = [
  larkmoor(),
  EVERYTHING,
  ODDS,
  stripDesign({ pieces: [{ kind: "separator", behind: "-X1.4", hung: true }] }),
  ...fc.sample(randomDesigns, { numRuns: 25, seed: 41 }).map((d) => lookUp(d).design),
];

const shopOf = (design: Design): Shop => ({
  ...DEFAULT_SHOP,
  rules: {
    ...DEFAULT_SHOP.rules,
    lineups: {
      ...DEFAULT_SHOP.rules.lineups,
      separate: [["signal", "control"]],
      farSide: [{ class: "drive", side: "outside" }],
    },
    classes: { ...DEFAULT_SHOP.rules.classes, control: { sizeMm2: 1, colour: "BU" }, ...design.rules.classes },
  },
});

/** Fields that a stage looks at when it is given everything. */
function looksAt(stage: AnyStage, design: Design, results: Results): Set<string> {
  const seen = new Set<string>();
  const tell = (path: string[]): void => void seen.add(path.join("."));
  stage.compute({
    design: watched(design, ["design"], tell),
    shop: watched(shopOf(design), ["shop"], tell),
    results: results as never,
  });
  return seen;
}

const treeOf = ({ reads }: AnyStage): Tree => reads as unknown as Tree;

/** Ends of the tree: `design.wires.number`. */
const endsOf = (tree: Tree): string[][] =>
  tree === true ? [[]] : Object.entries(tree).flatMap(([name, sub]) => endsOf(sub).map((rest) => [name, ...rest]));

describe.each(STAGES.map((s) => [s.name, s] as const))("%s", (_, stage) => {
  const seen = new Set<string>();
  for (const design of SAMPLES) {
    const { stages } = runStages(design);
    for (const path of looksAt(stage, design, stages)) seen.add(path);
  }

  test("looks at nothing it does not say it reads", () => {
    const unsaid = [...seen].filter((path) => !covered(path.split("."), treeOf(stage)));
    expect(unsaid).toEqual([]);
  });

  test("says of nothing that it reads it and does not", () => {
    const fields = [...seen].map((path) => path.split("."));
    const read = (end: string[]): boolean =>
      fields.some((path) => end.every((name, i) => name === "*" || path[i] === name));
    const idle = endsOf(treeOf(stage)).filter((end) => !read(end));
    expect(idle.map((end) => end.join("."))).toEqual([]);
  });

  test("comes to the same on what it reads as on everything", () => {
    for (const design of SAMPLES) {
      const { stages } = runStages(design);
      const whole = stage.compute({ design, shop: DEFAULT_SHOP, results: stages as never });
      expect(runStage(stage, design, DEFAULT_SHOP, stages)).toEqual(whole);
    }
  });
});

/** Every place in a value where something else could stand. */
function leaves(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== "object" || value === null) return [path];
  return Object.entries(value).flatMap(([k, v]) => leaves(v, [...path, Array.isArray(value) ? Number(k) : k]));
}

function changedAt<T>(value: T, [head, ...rest]: (string | number)[]): T {
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<string | number, unknown>;
  const old = copy[head!];
  if (rest.length > 0) copy[head!] = changedAt(old, rest);
  else copy[head!] = typeof old === "number" ? old + 1 : typeof old === "boolean" ? !old : `${String(old)}*`;
  return copy as T;
}

test("a change of what a stage does not read leaves its key; a change of what it reads changes it", () => {
  let left = 0;
  let changes = 0;
  // Where fewer are drawn, leaves are passed over in even steps.
  const step = Math.ceil(100 / runs(100));
  for (const [nth, design] of [EVERYTHING, ODDS, ...SAMPLES.slice(3, 5)].entries()) {
    const shop = shopOf(design);
    const before = stageKeys(design, shop);
    const whole = { design, shop };
    // The shop's leaves are the same for every design.
    const changed = nth === 0 ? leaves(whole) : leaves({ design });
    for (const path of changed.filter((_, i) => i % step === 0)) {
      const next = changedAt(whole, path);
      const after = stageKeys(next.design, next.shop);
      const names = path.filter((p): p is string => typeof p === "string");
      const reading = new Set<string>();
      for (const stage of STAGES) {
        const own = covered(names, treeOf(stage));
        if (own || stage.needs.some((n) => reading.has(n))) reading.add(stage.name);
      }
      for (const { name } of STAGES) {
        if ((after[name] !== before[name]) !== reading.has(name))
          throw new Error(`${path.join(".")}: the key of ${name} ${reading.has(name) ? "stays" : "changes"}`);
        if (reading.has(name)) changes++;
        else left++;
      }
    }
  }
  expect([left > 1000, changes > 1000]).toEqual([ALL_DRAWN, ALL_DRAWN]);
});

test("a colour leaves the routes where they are", () => {
  const design = larkmoor();
  const painted = { ...design, wires: design.wires.map((w, i) => (i === 5 ? { ...w, colour: "PK" as const } : w)) };
  const [before, after] = [stageKeys(design, DEFAULT_SHOP), stageKeys(painted, DEFAULT_SHOP)];
  expect([after.panel === before.panel, after.routes === before.routes]).toEqual([true, true]);
  expect(after.intake).not.toBe(before.intake);
});

test("of two wires with one number every stage means the same one by each name", () => {
  const design = tiny({
    ducts: [{}],
    devices: [dot("-A", 100, 20), dot("-B", 500, 20), dot("-C", 800, 20)],
    nets: [{ name: "n", class: "control", sizeMm2: 1 }],
    // Their colours decide which comes first; without them their ends would, the other way round.
    wires: [
      wire("-A", "-B", { number: "1", net: "n", colour: "RD" }),
      wire("-A", "-C", { number: "1", net: "n", colour: "BU" }),
    ],
  });
  const routes = runStages(design).stages.routes as RoutesResult;
  const colours = coloursOf(design, DEFAULT_SHOP.rules.classes);
  expect(routes.wires.map((w) => [w.id, w.toRef!.device, colours.get(w.id)!.value]).sort()).toEqual([
    ["1 (2)", "-B", "RD"],
    ["1", "-C", "BU"],
  ]);
});

test("what has one name is read field by field, what shares its name as a whole", () => {
  const design = tiny({ devices: [dot("-A", 100, 20), dot("-B", 500, 20), dot("-B", 700, 20)] });
  const reads = { design: { devices: { tag: true as const }, rails: { "*": true } } };
  const seen = readFor(reads, design, DEFAULT_SHOP).design;
  expect(seen.devices).toEqual([{ tag: "-A" }, design.devices[1], design.devices[2]]);
  expect([seen.wires, seen.nets, seen.job.code]).toEqual([[], [], ""]);
});

test("names that stand twice are found whatever was gone through before", () => {
  let met = 0;
  fc.assert(
    fc.property(fc.array(fc.array(fc.nat(6), { minLength: 4, maxLength: 4 }), { minLength: 2 }), (steps) => {
      // Each list takes over items of the one before where the name is the same, as a design after an edit does.
      let list: { number: string }[] = [];
      for (const numbers of steps) {
        list = numbers.map((n, i) => (list[i]?.number === `${n}` ? list[i] : { number: `${n}` }));
        const brute = list.map((w) => w.number).filter((n, i, all) => all.indexOf(n) < i);
        if (brute.length > 0) met++;
        expect([...namedTwice(list)].sort()).toEqual([...new Set(brute)].sort());
      }
    }),
    { seed: 31, numRuns: runs(200) },
  );
  expect(met).toBeGreaterThanOrEqual(ALL_DRAWN ? 100 : 0);
});
