import { LARGE, large } from "@gray-bench/designs/large";
import type { WebDriver } from "selenium-webdriver";
import { find, startBrowser, WIDE } from "../../e2e/src/browser";
import { importDesign, startBench } from "../../e2e/src/bench-server";
import { RECORD, report } from "./frames";
import { held, sized } from "./short";

/** Time to first drawing and frame times with the synthetic panel, in headless Chromium without a graphics card. */

interface Pointer {
  sendDevToolsCommand(command: string, params: object): Promise<void>;
}

async function record(driver: WebDriver, work: () => Promise<void>): Promise<number[]> {
  await driver.executeScript(RECORD);
  await work();
  const frames = await driver.executeScript<number[]>("cancelAnimationFrame(window.__raf); return window.__frames;");
  return frames.slice(1);
}

const SIZE = sized(LARGE, { ...LARGE, enclosures: 2, wires: 200 });
const bench = await startBench();
const code = await importDesign(bench, JSON.stringify(large(1, SIZE)));
const driver = await startBrowser(WIDE);
try {
  await driver.get(bench.address);
  const start = Date.now();
  await driver.get(`${bench.address}/jobs/${code}/routes`);
  await find(driver, "scale-bar");
  await driver.executeAsyncScript(
    "const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(done));",
  );
  console.log(`first drawing of ${SIZE.wires} wires, from an empty page: ${Date.now() - start} ms`);

  const tools = driver as unknown as Pointer;
  const surface = await (await find(driver, "drawing")).getRect();
  const [cx, cy] = [surface.x + surface.width / 2, surface.y + surface.height / 2];
  const mouse = (type: string, x: number, y: number) =>
    tools.sendDevToolsCommand("Input.dispatchMouseEvent", {
      type,
      x,
      y,
      button: "left",
      buttons: type === "mouseReleased" ? 0 : 1,
      clickCount: 1,
    });
  // Close enough that tags are drawn, then to and fro.
  for (let i = 0; i < 3; i++) await (await find(driver, "zoom-in")).click();
  const pan = await record(driver, async () => {
    for (let sweep = 0; sweep < sized(4, 1); sweep++) {
      await mouse("mousePressed", cx, cy);
      for (let i = 1; i <= 60; i++)
        await mouse("mouseMoved", cx + 3 * i * (sweep % 2 ? -1 : 1), cy + i * (sweep % 2 ? -1 : 1));
      await mouse("mouseReleased", cx, cy);
    }
  });
  const okPan = report("panning the panel", pan);
  const list = await (await find(driver, "wire-list")).getRect();
  const scroll = await record(driver, async () => {
    for (let i = 0; i < sized(200, 20); i++) {
      await tools.sendDevToolsCommand("Input.dispatchMouseEvent", {
        type: "mouseWheel",
        x: list.x + 100,
        y: list.y + 200,
        deltaX: 0,
        deltaY: i < 140 ? 120 : -400,
      });
    }
  });
  const okScroll = report(`scrolling the table of ${SIZE.wires} rows`, scroll);
  held(okPan && okScroll);
} finally {
  await driver.quit();
  await bench.stop();
}
