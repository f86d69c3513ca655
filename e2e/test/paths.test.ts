import type { KitsResult } from "@gray-bench/core/kits/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import type { WebDriver } from "selenium-webdriver";
import { startBench, type BenchServer } from "../src/bench-server";
import { click, find, PHONE, says, startBrowser } from "../src/browser";

jest.setTimeout(300_000);

// What a first-time user does on a phone, from the empty start, in the fewest taps there are. docs/figures.md has the numbers.
describe("three paths, tap by tap", () => {
  let bench: BenchServer;
  let driver: WebDriver;
  let taps = 0;
  const tap = async (id: string): Promise<void> => {
    await click(driver, id);
    taps++;
  };
  const result = async <T>(stage: string): Promise<T> =>
    (await (await fetch(`${bench.address}/api/jobs/HILL-2604/stages/${stage}`)).json()) as T;
  const address = async (): Promise<string> => decodeURIComponent(new URL(await driver.getCurrentUrl()).pathname);

  beforeAll(async () => {
    bench = await startBench();
    driver = await startBrowser(PHONE);
    await driver.get(bench.address);
  });
  afterAll(async () => {
    await driver.quit();
    await bench.stop();
  });

  test("to the length of a wire: 3 taps, the sample opened in the first", async () => {
    await tap("sample");
    await find(driver, "figures");
    expect(await address()).toBe("/jobs/HILL-2604");
    await tap("rule-routes");
    const { wires } = await result<RoutesResult>("routes");
    const first = wires.find((w) => w.lengthMm !== null)!;
    await tap(`wire-${first.id}`);
    await says(driver, "choice-head", `${first.lengthMm!.toLocaleString("en-US")} mm`);
    expect(taps).toBe(3);
  });

  test("to a picked kit: 3 taps, and one for each of its lines", async () => {
    taps = 0;
    const { kits } = await result<KitsResult>("kits");
    const kit = kits.reduce((a, b) => (b.lines.length < a.lines.length ? b : a));
    await tap("rule-kits");
    await tap(`kit-${kit.code}`);
    await tap("pick");
    for (let n = 0; n < kit.lines.length; n++) {
      await says(driver, "pick-sum", `${n} of ${kit.lines.length}`);
      await tap("pick-done");
    }
    await find(driver, "pick-ready");
    expect(kit.lines.length).toBeGreaterThan(1);
    expect(taps).toBe(3 + kit.lines.length);
  });

  test("to a finished batch: 4 taps and a name, and one for each lead", async () => {
    taps = 0;
    await tap("rule-wireprep");
    await tap("new-batch");
    await (await find(driver, "batch-who")).sendKeys("M. Orr");
    await tap("make-batch");
    const count = await says(driver, "batch-count", /0 of \d+ made/);
    const leads = Number(/of (\d+)/.exec(count)![1]);
    await tap("to-card");
    for (let n = 0; n < leads; n++) {
      await says(driver, "card-count", new RegExp(`\\b${n} of ${leads}\\b`));
      await tap("lead-done");
    }
    await says(driver, "card-count", `${leads} of ${leads} made`);
    expect(leads).toBeGreaterThan(20);
    expect(taps).toBe(4 + leads);
  });
});
