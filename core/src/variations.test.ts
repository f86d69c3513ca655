import { readFileSync } from "node:fs";
import { join } from "node:path";
import { contentHash } from "./design/hash";
import type { Design } from "./design/model";
import { RULES } from "./rules";
import { runStage, runStages, stageKeys, type Results, type StageKeys } from "./run";
import type { StageResult } from "./frame/stage";
import type { StageName } from "./stage-names";
import { asked } from "./test/asked";
import { checkShop, DEFAULT_SHOP, type Shop } from "./shop/shop";
import { withRule } from "./shop/shop-changes";
import type { AnyRule, Column, Row } from "./shop/rule-kinds";
import { STAGES } from "./stages";
import { EVERYTHING } from "./test/everything";
import { golden } from "./test/golden";

/**
 * One thing changed at a time: a rule, a piece of the design. Kept is which results that reaches and what each
 * stage tells of it, so that a slip anywhere shows at the rule or the thing it concerns. A change that is meant
 * is read in the diff of the kept file: it names the lines that should move, and no others may.
 */

const HASH_SIGNS = 8;
const MOST_OF_A_LIST = 10;
const MOST_ROWS = 2;
/** What is packed is as long as the packing likes; its pages are read back where they are written. */
const PACKED = /\.(xlsx|zip)$/;

const whole = (name: string): Design =>
  JSON.parse(readFileSync(join(__dirname, `../../designs/whole/${name}.bench.json`), "utf8")) as Design;

const otherNumber = (v: number, { min = 0, max = Infinity }: { min?: number; max?: number }): number => {
  const more = v === 0 ? 1 : v * 2;
  return more <= max ? more : Math.max(min, v / 2);
};

function otherCell(cell: Row[string], column: Column): Row[string] {
  if (typeof cell === "number") return otherNumber(cell, column);
  if (typeof cell === "boolean") return !cell;
  if (column.choices) return column.choices.find((c) => c !== cell);
  return undefined;
}

/** Values a rule could have instead, each with words for it. */
function othersOf(rule: AnyRule): [words: string, value: unknown][] {
  if (rule.as === "number") return [otherNumber(rule.default, rule)].map((v) => [String(v), v]);
  if (rule.as === "text") return [["none", ""]];
  const rows = rule.rows(rule.default);
  const shown = rows.slice(0, MOST_ROWS);
  return [
    ["no rows", []] as [string, Row[]],
    ...shown.map((_, i): [string, Row[]] => [`without row ${i + 1}`, rows.filter((__, k) => k !== i)]),
    ...shown.flatMap((row, i) =>
      rule.columns.flatMap((column): [string, Row[]][] => {
        const other = otherCell(row[column.key], column);
        if (other === undefined) return [];
        const changed = rows.map((r, k) => (k === i ? { ...r, [column.key]: other } : r));
        return [[`row ${i + 1} ${column.key} ${other}`, changed]];
      }),
    ),
  ].flatMap(([words, said]): [string, unknown][] => {
    try {
      return [[words, rule.value(said)]];
    } catch {
      return [];
    }
  });
}

const shopsOf = (): [string, Shop][] =>
  RULES.flatMap(({ place, rule }) =>
    othersOf(rule).flatMap(([words, value]): [string, Shop][] => {
      const shop = withRule(DEFAULT_SHOP, place, value);
      return checkShop(shop).ok ? [[`${place}: ${words}`, shop]] : [];
    }),
  );

/** Per stage the shop in which each of its rules has another value. */
const shopsByStage = (): [string, Shop][] =>
  [...new Set(RULES.map((r) => r.stage))].map((stage) => [
    stage,
    RULES.filter((r) => r.stage === stage).reduce<Shop>((shop, { place, rule }) => {
      const other = othersOf(rule)
        .map(([, value]) => withRule(shop, place, value))
        .find((s) => checkShop(s).ok);
      return other ?? shop;
    }, DEFAULT_SHOP),
  ]);

/** The design with one thing left out, spread over every list it has. */
function withoutOne(design: Design): [string, Design][] {
  return Object.entries(design).flatMap(([list, things]) => {
    if (!Array.isArray(things)) return [];
    const every = Math.max(1, Math.ceil(things.length / MOST_OF_A_LIST));
    return things.flatMap((_, i): [string, Design][] =>
      i % every === 0 ? [[`without ${list} ${i + 1}`, { ...design, [list]: things.filter((__, k) => k !== i) }]] : [],
    );
  });
}

/** Runs stages, and none a second time on what it read before. */
function keeper(): (design: Design, shop: Shop) => { results: Results; keys: StageKeys } {
  const kept = new Map<string, StageResult>();
  return (design, shop) => {
    const keys = stageKeys(design, shop);
    const results: Results = {};
    for (const stage of STAGES) {
      const key = keys[stage.name]!;
      if (!kept.has(key)) kept.set(key, runStage(stage, design, shop, results));
      results[stage.name] = kept.get(key)!;
    }
    return { results, keys };
  };
}

const hashOf = (value: unknown): string => contentHash(value).slice(0, HASH_SIGNS);

/** Per design: what a change reaches, each stage with the hash of its new result, and what is told of it. */
function reachedIn(name: string, base: Design): (design: Design, shop: Shop) => string[] | null {
  const run = keeper();
  const hashes = new Map<StageResult, string>();
  const hash = (result: StageResult): string => {
    if (!hashes.has(result)) hashes.set(result, hashOf(result));
    return hashes.get(result)!;
  };
  const { results: before } = run(base, DEFAULT_SHOP);
  return (design, shop) => {
    const { results: after } = run(design, shop);
    const moved = STAGES.filter((s) => hash(before[s.name]!) !== hash(after[s.name]!));
    if (moved.length === 0) return null;
    const told = moved.flatMap((s) =>
      (s.compare?.(before[s.name] as never, after[s.name] as never) ?? []).map(
        ({ text, mm }) => `  ${s.name}: ${text}${mm === undefined ? "" : ` (${mm})`}`,
      ),
    );
    return [`  ${name}: ${moved.map((s) => `${s.name} ${hash(after[s.name]!)}`).join(", ")}`, ...told];
  };
}

const DESIGNS: [string, Design][] = [
  ["hillfold", whole("hillfold")],
  ["everything", EVERYTHING],
];

test("one rule changed at a time: the first of the designs it reaches, the results it changes there, and what is told", () => {
  const designs = DESIGNS.map(([name, design]) => ({
    design,
    reached: reachedIn(name, design),
  }));
  const lines: string[] = [];
  let reaching = 0;
  for (const [words, shop] of shopsOf()) {
    const met = designs.map(({ design, reached }) => reached(design, shop)).find((l) => l !== null);
    if (met) reaching++;
    lines.push(words, ...(met ?? ["  none"]));
  }
  expect(reaching).toBeGreaterThan(150);
  golden("variations-rules.txt", `${lines.join("\n")}\n`);
});

test("one thing left out of a design at a time: the results that changes, and what is told", () => {
  const lines = DESIGNS.flatMap(([name, design]) => {
    const reached = reachedIn(name, design);
    return withoutOne(design).flatMap(([words, other]) => [words, ...(reached(other, DEFAULT_SHOP) ?? ["  none"])]);
  });
  golden("variations-designs.txt", `${lines.join("\n")}\n`);
});

test("all rules of a stage changed at once: every sign of the files that reaches, and every number that may be asked for", async () => {
  const lines: string[] = [];
  for (const [name, design] of DESIGNS) {
    const before = runStages(design).stages;
    for (const [stage, shop] of shopsByStage()) {
      const { stages: results, open } = runStages(design, shop);
      lines.push(`${name}, rules of ${stage}: open ${hashOf(open)}`);
      for (const { name: made, makeFiles } of STAGES) {
        const result = results[made];
        if (!makeFiles || hashOf(result) === hashOf(before[made])) continue;
        for (const file of await makeFiles({ design, shop, result: result as never, results: results as never }))
          if (!PACKED.test(file.name))
            lines.push(`  ${file.name} ${hashOf(Buffer.from(file.bytes).toString("latin1"))}`);
      }
      const told = asked(results).map(([of, subject]) =>
        STAGES.find((s) => s.name === of)!.explain!.working(
          { design, shop, results, result: results[of as StageName] } as never,
          subject as never,
        ),
      );
      lines.push(`  ${told.length} numbers explained ${hashOf(told)}`);
    }
  }
  golden("variations-files.txt", `${lines.join("\n")}\n`);
}, 120_000);
