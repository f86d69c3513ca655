import { readFileSync } from "node:fs";
import { importDesign, startBench } from "../../e2e/src/bench-server";
import { find, PHONE, startBrowser } from "../../e2e/src/browser";
import { held, sized } from "./short";

/**
 * What if, in the browser: from a move of the thumb until the answer to it stands on the screen. The worker's first answer,
 * which fetches and reads it, does not count.
 */

const MOVES = sized(120, 6);
const MOST_MS = 50;
const WITHIN = 0.95;

/** Moves two sliders in turn; each move is answered before the next. Milliseconds of each. */
const MOVE = `
  const [moves, done] = arguments;
  const at = (id) => document.querySelector('[data-testid="' + id + '"]');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const times = [];
  let wanted = {};
  const move = () => {
    if (times.length >= moves) return done(times);
    const n = times.length;
    const [key, value] = n % 2 ? ["load", String(50 + 5 * (n % 9))] : ["out", String(20 + ((n * 7) % 16))];
    wanted = { ...wanted, [key]: value };
    const start = performance.now();
    const slider = at("slide-" + key);
    set.call(slider, value);
    slider.dispatchEvent(new Event("input", { bubbles: true }));
    const look = () => {
      const said = at("tried").dataset.for;
      const got = said ? JSON.parse(said) : {};
      if (Object.keys(wanted).every((k) => got[k] === wanted[k])) {
        times.push(performance.now() - start);
        setTimeout(move, 0);
      } else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  };
  move();
`;

const bench = await startBench();
await importDesign(bench, readFileSync("designs/whole/larkmoor.bench.json", "utf8"));
const driver = await startBrowser(PHONE);
try {
  await driver.manage().setTimeouts({ script: 120_000 });
  await driver.get(`${bench.address}/jobs/LARK-2601/heat?zone=%2BA2&show=try`);
  await find(driver, "slide-out");
  await driver.executeAsyncScript(MOVE, 6);
  const times = (await driver.executeAsyncScript<number[]>(MOVE, MOVES)).sort((a, b) => a - b);
  const at = (q: number): number => times[Math.min(times.length - 1, Math.floor(times.length * q))]!;
  const share = times.filter((t) => t < MOST_MS).length / times.length;
  console.log(
    `what if, from the thumb to the answer on the screen: ${times.length} moves, median ${at(0.5).toFixed(0)} ms, 95th ${at(0.95).toFixed(0)} ms, longest ${at(1).toFixed(0)} ms, under ${MOST_MS} ms: ${(100 * share).toFixed(1)} %   bound: ${100 * WITHIN} %`,
  );
  held(share >= WITHIN);
} finally {
  await driver.quit();
  await bench.stop();
}
