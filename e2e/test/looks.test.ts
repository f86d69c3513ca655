import { readFileSync } from "node:fs";
import { join } from "node:path";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";
import { faultsOf, LARGE_TEXT, openScreen, openView, PHONE_SCREEN, WIDE_SCREEN, type Screen } from "../src/looks";
import { VIEWS } from "../src/views";

jest.setTimeout(300_000);

const LARK = readFileSync(join(__dirname, "../../designs/larkmoor.bench.json"), "utf8");
const LIBRARY = readFileSync(join(__dirname, "../../designs/demo.library.json"));

describe("main views, measured", () => {
  let bench: BenchServer;
  beforeAll(async () => {
    bench = await startBench();
    const asked = new URLSearchParams({ on: "", who: "M. Orr", why: "parts of the demo" });
    const headers = { "content-type": "application/octet-stream" };
    await fetch(`${bench.address}/api/library?${asked}`, { method: "PUT", headers, body: LIBRARY });
    await importDesign(bench, LARK);
    const batch = { faces: ["+A1/plate"], panels: 1, machine: null, way: "least", fallbacks: null, who: "M. Orr" };
    await fetch(`${bench.address}/api/jobs/LARK-2601/batches`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(batch),
    });
  });
  afterAll(() => bench.stop());

  test.each<[string, Screen]>([
    ["a phone", PHONE_SCREEN],
    ["a wide screen", WIDE_SCREEN],
    ["a phone with its text at 200 %", LARGE_TEXT],
  ])("on %s no text is cut, covered or small, no target is small, nothing scrolls sideways", async (_name, screen) => {
    const driver = await openScreen(screen, bench.address);
    try {
      const faults: string[] = [];
      for (const view of VIEWS.filter((v) => v.main)) {
        await openView(driver, bench.address, view);
        faults.push(...(await faultsOf(driver, screen, screen !== PHONE_SCREEN)).map((f) => `${view.name}: ${f}`));
      }
      expect(faults).toEqual([]);
    } finally {
      await driver.quit();
    }
  });

  test("a program sees what is wrong: each kind put into the page once", async () => {
    const driver = await openScreen(PHONE_SCREEN, bench.address);
    try {
      await openView(driver, bench.address, VIEWS[0]!);
      await driver.executeScript(`
        document.body.insertAdjacentHTML("afterbegin", \`<div id="wrong" style="position:fixed;inset:0;z-index:99;background:white;font-size:16px">
          <p style="width:60px;overflow:hidden;white-space:nowrap">a text that is cut</p>
          <p style="font-size:9px">small</p>
          <button style="width:30px;height:30px">x</button>
          <p style="position:relative">under<span style="position:absolute;inset:0;background:grey">over</span></p>
          <p style="white-space:nowrap;width:900px">a line that runs out of the window, as it is too long for it and never ends</p>
          <svg width="100" height="40"><text x="2" y="20">-K1</text><text x="8" y="22">-K2</text></svg>
        </div>\`)`);
      const kinds = (await faultsOf(driver, PHONE_SCREEN, false)).map((f) => f.split(":")[0]);
      expect([...new Set(kinds)].sort()).toEqual([
        "covered",
        "cut",
        "overlap",
        "sideways",
        "small target",
        "small text",
      ]);
    } finally {
      await driver.quit();
    }
  });
});
