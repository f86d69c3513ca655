import { lookUp } from "@gray-bench/core/design/lookup";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { hungStrips } from "@gray-bench/core/design/hung";
import { cablesOf, landingsByStrip } from "@gray-bench/core/lineups/cables";
import { compute } from "@gray-bench/core/lineups/compute";
import { ordersOf, scoreOf } from "@gray-bench/core/lineups/orders";
import { membersOf, type Member } from "@gray-bench/core/lineups/result";
import { longStrip } from "@gray-bench/designs/long-strip";
import type { WebDriver } from "selenium-webdriver";
import { byId, find, startBrowser, WIDE } from "../../e2e/src/browser";
import { importDesign, startBench } from "../../e2e/src/bench-server";
import { RECORD, report } from "./frames";
import { held, sized } from "./short";

/** A strip of 400 members with 80 cables: the proposed order against sorting by the cores, and frames while dragging. */

const MEMBERS = sized(400, 40);
const CABLES = sized(80, 8);
const ROUNDS = sized(5, 1);
/** The proposal may take so many times as long as the stage that is computed without one, and stay so far above what no order can beat, per cent. */
const MOST_TIMES = 10;
const MOST_GAP = 10;

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

function timed<T>(work: () => T): { ms: number; result: T } {
  const all: number[] = [];
  let result!: T;
  for (let i = 0; i < ROUNDS; i++) {
    const start = performance.now();
    result = work();
    all.push(performance.now() - start);
  }
  return { ms: median(all), result };
}

const design = longStrip(MEMBERS, CABLES);
const look = lookUp(design);
const landings = landingsByStrip(cablesOf(look, hungStrips(look, SHOP_RULES.lineups))).get("-X1")!;
const [strip] = compute(design, SHOP_RULES).strips;
const members = membersOf(strip!);

// The rival: members in the order of the middles of their cores, as one sorts by hand.
const rival = timed(() => {
  const at = new Map<string, number[]>();
  landings.flatMap((l) => l.at).forEach((c, i) => at.set(c.device, [...(at.get(c.device) ?? []), i]));
  const middle = (m: Member): number => {
    const all = at.get(m.tag);
    return all ? all.reduce((a, b) => a + b, 0) / all.length : m.position;
  };
  return scoreOf(
    [...members].sort((a, b) => middle(a) - middle(b)),
    landings,
  );
});
const ours = timed(() => ordersOf(members, [], landings).any);
// Beside it, work of the same kind: the stage of the same strip.
const whole = timed(() => compute(design, SHOP_RULES));
const times = ours.ms / whole.ms;
const { now, then, least } = ours.result;
const gap = (v: number, bound: number): number =>
  bound === 0 ? (v === 0 ? 0 : Infinity) : (100 * (v - bound)) / bound;
const crossGap = gap(then.crossings, least.crossings);
const piecesGap = gap(then.pieces, least.pieces);
console.log(
  `order of ${MEMBERS} members, ${CABLES} cables: ${ours.ms.toFixed(0)} ms, ${times.toFixed(1)} times the whole stage (${whole.ms.toFixed(0)} ms)   bound: ${MOST_TIMES}; the rival ${rival.ms.toFixed(1)} ms`,
);
console.log(
  `  crossings: now ${now.crossings}, ours ${then.crossings}, the rival ${rival.result.crossings} (ratio ${(rival.result.crossings / Math.max(1, then.crossings)).toFixed(2)}), no order below ${least.crossings}: gap ${crossGap.toFixed(1)} %   bound: ${MOST_GAP} %`,
);
console.log(
  `  pieces that join nets: now ${now.pieces}, ours ${then.pieces}, the rival ${rival.result.pieces}, no order below ${least.pieces}: gap ${piecesGap.toFixed(0)} % (crossings come first)`,
);

interface Pointer {
  sendDevToolsCommand(command: string, params: object): Promise<void>;
}

async function record(driver: WebDriver, work: () => Promise<void>): Promise<number[]> {
  await driver.executeScript(RECORD);
  await work();
  return (await driver.executeScript<number[]>("cancelAnimationFrame(window.__raf); return window.__frames;")).slice(1);
}

const bench = await startBench();
const code = await importDesign(bench, JSON.stringify(design));
const driver = await startBrowser(WIDE);
let smooth = false;
try {
  await driver.get(bench.address);
  const start = Date.now();
  await driver.get(`${bench.address}/jobs/${code}/lineups?strip=-X1`);
  await find(driver, "strip-table");
  await driver.wait(async () => (await driver.findElements(byId("row--X1.1 1"))).length > 0, 15_000);
  console.log(`first drawing of the strip: ${Date.now() - start} ms`);
  const tools = driver as unknown as Pointer;
  const { x, y, width } = await (await find(driver, "strip-drawing")).getRect();
  const mouse = (type: string, px: number) =>
    tools.sendDevToolsCommand("Input.dispatchMouseEvent", {
      type,
      x: px,
      y: y + 100,
      button: "left",
      buttons: type === "mouseReleased" ? 0 : 1,
      clickCount: 1,
    });
  const frames = await record(driver, async () => {
    for (let sweep = 0; sweep < sized(4, 1); sweep++) {
      const from = x + (sweep % 2 ? width - 80 : 80);
      const by = (sweep % 2 ? -1 : 1) * ((width - 160) / 90);
      await mouse("mousePressed", from);
      for (let i = 1; i <= 90; i++) await mouse("mouseMoved", from + i * by);
      // Back to where it was taken up: nothing is laid.
      for (let i = 90; i >= 0; i -= 10) await mouse("mouseMoved", from + i * by);
      await mouse("mouseReleased", from);
    }
  });
  smooth = report(`dragging in a strip of ${MEMBERS} members`, frames);
} finally {
  await driver.quit();
  await bench.stop();
}
held(smooth && times <= MOST_TIMES && crossGap <= MOST_GAP);
