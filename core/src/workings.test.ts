import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "./design/model";
import type { Working } from "./frame/working";
import { runStages } from "./run";
import { DEFAULT_SHOP } from "./shop/shop";
import { STAGES } from "./stages";
import { asked } from "./test/asked";
import { golden } from "./test/golden";

const whole = (name: string): Design =>
  JSON.parse(readFileSync(join(__dirname, `../../designs/whole/${name}.bench.json`), "utf8")) as Design;

/** A line with its figures and names left out: lines that say the same in other figures are kept once. */
const plain = (line: string): string =>
  line.replace(/[^\s(]*[\d+][^\s),;]*/g, "#").replace(/\b(up|down|left|right|into|out of|[A-Z]{2,4}|L|N)\b/g, "#");

const lineOf = ({ text, value, detail, source, fallback, link }: Working["terms"][number]): string =>
  `  ${text}${value === undefined ? "" : `: ${value}`}${detail ? ` — ${detail}` : ""}${source ? ` (${source})` : ""}${fallback ? " FALLBACK" : ""}${link ? ` → ${link.thing} ${link.of}` : ""}`;

test("every number of the demo jobs is explained by terms that add up to it", () => {
  const lines: string[] = [];
  const seen = new Set<string>();
  const wrong: string[] = [];
  for (const name of ["larkmoor", "hillfold"]) {
    const design = whole(name);
    const results = runStages(design).stages as unknown as Record<string, object>;
    for (const [stage, subject] of asked(results as Record<string, unknown>)) {
      const { explain } = STAGES.find((s) => s.name === stage)!;
      const faults = explain!.schema.validate(subject, { convert: false }).error;
      if (faults) throw new Error(`${stage} ${JSON.stringify(subject)}: ${faults.message}`);
      const working = explain!.working(
        { design, shop: DEFAULT_SHOP, results, result: results[stage] } as never,
        subject as never,
      );
      if (!working) {
        wrong.push(`${stage} ${JSON.stringify(subject)} is not explained`);
        continue;
      }
      const { terms, total } = working;
      const sum = terms.reduce((s, t) => s + (t.value ?? 0), 0);
      if (typeof total === "number" && terms.some((t) => t.value !== undefined) && Math.abs(sum - total) > 0.06)
        wrong.push(`${stage} ${JSON.stringify(subject)}: ${sum}, told ${total}`);
      const title = ` ${working.title}: ${total} ${working.unit}`;
      const fresh = [title, ...terms.map(lineOf)].filter((line) => !seen.has(`${stage}${plain(line)}`));
      if (fresh.length === 0) continue;
      for (const line of fresh) seen.add(`${stage}${plain(line)}`);
      lines.push(`${name} ${stage} ${JSON.stringify(subject)}`, title, ...fresh.filter((line) => line !== title));
    }
  }
  expect(wrong).toEqual([]);
  golden("workings.txt", `${lines.join("\n")}\n`);
});
