import { libraryText, type LibraryPart } from "@gray-bench/core/library/library";
import { CATEGORIES } from "@gray-bench/core/design/model";
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

/** Parts as a library of years has them. */
const manyParts = (count: number): LibraryPart[] =>
  Array.from({ length: count }, (_, i) => ({
    number: `P-${String(i + 1).padStart(5, "0")}`,
    maker: ["Oakhollow", "Fenwright", "Quillmere"][i % 3]!,
    text: `part ${i + 1} of ${count}, for ${i % 7} poles`,
    category: CATEGORIES[i % CATEGORIES.length]!,
    w: 10 + (i % 90),
    h: 60 + (i % 40),
    d: 50 + (i % 30),
    ...(i % 4 === 0 ? {} : { lossW: (i % 50) / 10 }),
    pins: Array.from({ length: i % 12 }, (_p, n) => ({ name: String(n + 1), x: n, y: n, z: n })),
    stock: { place: `B-${i % 99}`, pack: 1 + (i % 50) },
  }));

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
  const scrolled = async (id: string, name: string): Promise<boolean> => {
    const list = await (await find(driver, id)).getRect();
    const frames = await record(driver, async () => {
      for (let i = 0; i < sized(200, 20); i++) {
        await tools.sendDevToolsCommand("Input.dispatchMouseEvent", {
          type: "mouseWheel",
          x: list.x + 100,
          y: list.y + Math.min(200, list.height / 2),
          deltaX: 0,
          deltaY: i < 140 ? 120 : -400,
        });
      }
    });
    return report(name, frames);
  };
  const okScroll = await scrolled("wire-list", `scrolling the table of ${SIZE.wires} rows`);
  // A device that is chosen, dragged over its plate: what becomes of it is worked out beside the page.
  const dragged = large(1, SIZE).devices.find((d) => d.on?.rail)!;
  await driver.get(`${bench.address}/jobs/${code}/panel?device=${encodeURIComponent(dragged.tag)}`);
  const mark = await (await find(driver, "chosen-mark")).getRect();
  const [mx, my] = [mark.x + mark.width / 2, mark.y + mark.height / 2];
  const drag = await record(driver, async () => {
    await mouse("mousePressed", mx, my);
    for (let sweep = 0; sweep < sized(4, 1); sweep++)
      for (let i = 1; i <= 60; i++) {
        const by = sweep % 2 ? 60 - i : i;
        await mouse("mouseMoved", mx + 2 * by, my + by);
      }
  });
  await tools.sendDevToolsCommand("Input.dispatchKeyEvent", { type: "keyDown", key: "Escape", code: "Escape" });
  await mouse("mouseReleased", mx, my);
  const okDrag = report("dragging a device", drag);
  const parts = manyParts(sized(5000, 200));
  const put = await fetch(`${bench.address}/api/library?on=&who=bench`, {
    method: "PUT",
    headers: { "content-type": "application/octet-stream" },
    body: libraryText({ parts }),
  });
  if (!put.ok) throw new Error(await put.text());
  await driver.get(`${bench.address}/library`);
  await find(driver, `part-${parts[0]!.number}`);
  const okParts = await scrolled("library", `scrolling the table of ${parts.length} parts`);
  held(okPan && okScroll && okParts && okDrag);
} finally {
  await driver.quit();
  await bench.stop();
}
