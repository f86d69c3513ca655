import { readFileSync } from "node:fs";
import type { WebDriver } from "selenium-webdriver";

const AXE = readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");

interface Violation {
  id: string;
  nodes: { html: string; failureSummary: string }[];
}

/** Runs axe on the page as it stands. */
export async function violations(driver: WebDriver): Promise<string[]> {
  await driver.executeScript(AXE);
  const found = await driver.executeAsyncScript<Violation[]>(
    "const done = arguments[0]; axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'] }).then((r) => done(r.violations), (e) => done([{ id: String(e), nodes: [] }]));",
  );
  return found.map(
    (v) =>
      `${v.id}: ${v.nodes
        .slice(0, 3)
        .map((n) => `${n.html.slice(0, 200)} ${n.failureSummary}`)
        .join(" | ")}`,
  );
}
