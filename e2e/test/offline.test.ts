import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { PickReply } from "@gray-bench/contract/kits";
import type { WebDriver } from "selenium-webdriver";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";
import { click, find, gone, PHONE, says, startBrowser, WAIT_MS } from "../src/browser";

jest.setTimeout(240_000);

const HILL = readFileSync(join(__dirname, "../../designs/whole/hillfold.bench.json"), "utf8");
const PICK = `/jobs/HILL-2604/kits?${new URLSearchParams({ show: "pick", take: "HILL-2604 +A1 door" }).toString()}`;

describe("on a device that the server cannot reach any more", () => {
  let bench: BenchServer;
  let driver: WebDriver;

  beforeAll(async () => {
    bench = await startBench();
    await importDesign(bench, HILL);
    driver = await startBrowser(PHONE, { keeps: true });
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
  });

  const open = (path: string): Promise<void> => driver.get(`${bench.address}${path}`);
  /** Addresses of the answers that the device keeps. */
  const kept = (): Promise<string[]> =>
    driver.executeAsyncScript<string[]>(
      "const done = arguments[0]; caches.open('answers').then((c) => c.keys()).then((all) => done(all.map((r) => r.url)));",
    );

  test("the application opens and reloads, shows what it had with its hour, keeps what is done, and brings it when it is back", async () => {
    await open(PICK);
    await find(driver, "pick-card");
    // It is put on the device, and what is shown is kept there, without anybody asking for it.
    await driver.wait(
      async () => (await kept()).some((url) => url.includes("/stages/kits")),
      WAIT_MS,
      "the kits were not kept on the device",
    );
    await bench.leave();
    await open(PICK);
    await says(driver, "offline", /^The server does not answer\. What is shown is from \d+ \w+ 20\d\d/);
    await says(driver, "pick-sum", "0 of");
    await click(driver, "pick-done");
    await says(driver, "pick-sum", "1 of");
    await driver.navigate().refresh();
    await says(driver, "pick-sum", "1 of");
    // A view that was never opened stands all the same; only its numbers were never here.
    await open("/jobs/HILL-2604/heat");
    await says(driver, "failed", "The bench server does not answer.");
    await find(driver, "rule-kits");
    await bench.come();
    await gone(driver, "offline");
    await find(driver, "zone-+A1");
    await open(PICK);
    await says(driver, "pick-sum", "1 of");
    await driver.wait(
      async () => {
        const reply = await fetch(`${bench.address}/api/jobs/HILL-2604/picks`);
        return ((await reply.json()) as PickReply).events.length === 1;
      },
      WAIT_MS,
      "the piece that was picked did not come in once",
    );
  });
});
