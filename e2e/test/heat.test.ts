import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { click, find, gone, PHONE, says, startBrowser, WIDE, type Size } from "../src/browser";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(120_000);

const LARK = readFileSync(join(__dirname, "../../designs/larkmoor.bench.json"), "utf8");

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("heat on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  const open = (query: string) => driver.get(`${bench.address}/jobs/LARK-2601/heat?${query}`);
  const table = async (): Promise<Record<string, string>[]> =>
    parse(await (await fetch(`${bench.address}/api/jobs/LARK-2601/files/heat.csv`)).text(), { columns: true });

  beforeAll(async () => {
    bench = await startBench();
    await importDesign(bench, LARK);
    driver = await startBrowser(size);
    await driver.get(bench.address);
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ length: "mm", size: "mm2", light: "day", name: "M. Orr" }))`,
    );
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
  });

  test("the cabinet that is too hot in August gets a unit that fits, which is taken back", async () => {
    await open("zone=%2BA2");
    await says(driver, "verdict", /^short by \d+ W$/);
    await says(driver, "thumb", "rule of thumb");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "unit-mount-1xTT-CU2500");
    await says(driver, "edit", "TT-CU2500 on +A2/right");
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
    await says(driver, "verdict", /^fits: \d+ % duty$/);
    const rows = await table();
    expect(rows.find((r) => r.zone === "'+A2" && r.figure === "unit")!.value).toBe("TT-CU2500");
    await click(driver, "undo");
    await says(driver, "verdict", /^short by/);
  });

  test("a figure says how it came to be, under an address of its own", async () => {
    await open("zone=%2BA1");
    await click(driver, "figure-cooling_needed");
    await says(driver, "working", "through the walls");
    await driver.navigate().refresh();
    await says(driver, "working", "through the walls");
  });

  test("stage left is wet in January; a mild winter typed in °F dries it, and is taken back", async () => {
    await open("zone=%2BB1");
    await says(driver, "verdict", "too cold by");
    await click(driver, "heat-around");
    await (await find(driver, "ask-outsideMinC")).sendKeys(Key.chord(Key.CONTROL, "a"), "-900");
    await click(driver, "edit-save");
    await says(driver, "edit", "Nothing is colder");
    await (await find(driver, "ask-outsideMinC")).sendKeys(Key.chord(Key.CONTROL, "a"), "68 °F");
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
    await says(driver, "verdict", "keeps itself");
    await click(driver, "undo");
    await says(driver, "verdict", "too cold by");
  });
});
