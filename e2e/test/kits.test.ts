import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { PickReply } from "@gray-bench/contract/kits";
import type { Design } from "@gray-bench/core/design/model";
import { qrItems } from "@gray-bench/core/formats/qr";
import { lineKey, type KitsResult } from "@gray-bench/core/kits/result";
import { serveStock, type Listening } from "@gray-bench/standins/src/stock/serve";
import { StockStore, type Delivery, type Item } from "@gray-bench/standins/src/stock/store";
import { Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(240_000);

const root = join(__dirname, "../..");
const LARK = readFileSync(join(root, "designs/whole/larkmoor.bench.json"), "utf8");
const HILL = readFileSync(join(root, "designs/whole/hillfold.bench.json"), "utf8");
const STORE = JSON.parse(readFileSync(join(root, "designs/store.json"), "utf8")) as {
  items: Item[];
  deliveries: Delivery[];
};
const DOOR = "HILL-2604 +A1 door";

/** A film that shows a code, as a camera would give it: YUV4MPEG2, a frame of 640 x 480. */
function filmOf(code: string): Buffer {
  const [w, h, side] = [640, 480, 400];
  const luma = Buffer.alloc(w * h, 235);
  for (const item of qrItems(code, (w - side) / 2, (h - side) / 2, side))
    if (item.kind === "rect")
      for (let y = Math.round(item.y); y < Math.round(item.y + item.h); y++)
        luma.fill(16, y * w + Math.round(item.x), y * w + Math.round(item.x + item.w));
  return Buffer.concat([
    Buffer.from(`YUV4MPEG2 W${w} H${h} F5:1 Ip A1:1 C420jpeg\nFRAME\n`),
    luma,
    Buffer.alloc((w * h) / 2, 128),
  ]);
}

describe.each<[string, Size]>([
  ["on a phone", PHONE],
  ["wide", WIDE],
])("kits %s", (_, size) => {
  let bench: BenchServer;
  let store: StockStore;
  let line: Listening;
  let driver: WebDriver;

  beforeAll(async () => {
    store = new StockStore(":memory:");
    store.fill(STORE.items, STORE.deliveries);
    line = await serveStock(store, { port: 0 });
    bench = await startBench(["--stock", `http://127.0.0.1:${line.port}`]);
    await importDesign(bench, LARK);
    await importDesign(bench, HILL);
    driver = await startBrowser(size);
  });
  // A test that failed without a network does not take the others with it.
  afterEach(() => network(false));
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    await line?.close();
    store?.close();
  });

  const open = async (path: string, wait: string): Promise<void> => {
    await driver.get(`${bench.address}${path}`);
    await find(driver, wait);
  };
  const kits = (query = ""): string => `/jobs/HILL-2604/kits${query ? `?${query}` : ""}`;
  const pickDoor = kits(new URLSearchParams({ show: "pick", take: DOOR }).toString());
  const type = async (id: string, text: string): Promise<void> => {
    const field = await find(driver, id);
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), text);
  };
  const tell = (command: string, params: object): Promise<void> =>
    (driver as unknown as { sendDevToolsCommand(c: string, p: object): Promise<void> }).sendDevToolsCommand(
      command,
      params,
    );
  const network = async (offline: boolean): Promise<void> => {
    await tell("Network.enable", {});
    await tell("Network.emulateNetworkConditions", {
      offline,
      latency: 0,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
  };
  const log = async (job = "HILL-2604"): Promise<PickReply> =>
    (await (await fetch(`${bench.address}/api/jobs/${job}/picks`)).json()) as PickReply;

  test("a shortage leads to an alternate, which is taken, and the part is short no more", async () => {
    await open("/jobs/LARK-2601/kits?show=missing", "short-OH-K9");
    await says(driver, "share-OH-K9", "4 needed: 2 there, 2 missing.");
    await says(driver, "steps", /lacks 2 OH-.?K9/);
    await click(driver, "alternates-OH-K9");
    await says(driver, "alternate-OH-K25", "named by the library as an alternate");
    await says(driver, "alternate-OH-K25", "height 88 mm instead of 78 mm");
    await click(driver, "swap-OH-K25-swap-2");
    const name = await find(driver, "edit-who");
    await name.sendKeys("M. Orr");
    await click(driver, "edit-save");
    await says(driver, "missing-told", /is now part OH-.?K25/);
    await gone(driver, "short-OH-K9");
    await click(driver, "show-bill");
    if (size.phone) await find(driver, "bill-list");
    else await find(driver, "bill");
  });

  test("what is there is reserved and given back; not enough for all is said", async () => {
    await open("/jobs/LARK-2601/kits?show=missing", "reserve");
    await click(driver, "reserve");
    await says(driver, "failed", /There is not enough for LARK-2601.*FW-R6: 12 wanted, 10 free/);
    await click(driver, "reserve-partly");
    await says(driver, "reservation", /Reserved .* by M\. Orr/);
    expect(store.item("FW-R6")).toMatchObject({ level: 10, reserved: 10 });
    await click(driver, "release");
    await gone(driver, "reservation");
    expect(store.item("FW-R6")).toMatchObject({ reserved: 0 });
  });

  test("a kit is picked with the network cut in the middle: nothing is lost, nothing counts twice", async () => {
    await open(pickDoor, "pick-card");
    await says(driver, "pick-sum", "0 of");
    const total = Number(/of (\d+)/.exec(await says(driver, "pick-sum", "lines"))![1]);
    const { level } = store.item("QM-PB")!;
    await click(driver, "pick-done");
    await says(driver, "pick-sum", "1 of");
    await driver.wait(async () => (await log()).events.length === 1, WAIT_MS, "the first pick did not come");
    await network(true);
    await click(driver, "pick-done");
    await click(driver, "pick-done");
    await says(driver, "picks-waiting", "2 picks wait to be sent; nothing is lost");
    await says(driver, "pick-sum", "3 of");
    // One of them was wrong.
    await click(driver, "pick-undo");
    await says(driver, "pick-sum", "2 of");
    await click(driver, "pick-less");
    await click(driver, "why-bin empty");
    await click(driver, "fewer-done");
    await says(driver, "picks-waiting", "4 picks wait");
    await network(false);
    await gone(driver, "picks-waiting");
    for (let n = 3; n < total; n++) {
      await says(driver, "pick-sum", `${n} of`);
      await click(driver, "pick-done");
    }
    await find(driver, "pick-ready");
    const { events } = await log();
    expect(new Set(events.map((e) => e.id)).size).toBe(events.length);
    expect(events.filter((e) => e.what === "short")).toHaveLength(1);
    expect(events.filter((e) => e.what === "undone")).toHaveLength(1);
    // By the plan of the kit alone: the third line was undone and told short, all others are picked once and whole.
    const { kits: planned } = (await (
      await fetch(`${bench.address}/api/jobs/HILL-2604/stages/kits`)
    ).json()) as KitsResult;
    const { lines } = planned.find((k) => k.code === DOOR)!;
    const stands = events.filter((e) => !["undone"].includes(e.what) && !events.some((u) => u.of === e.id));
    expect(stands.map((e) => [e.line, e.what, e.what === "short" ? null : e.quantity])).toEqual(
      lines.map((l, i) => (i === 2 ? [lineKey(l), "short", null] : [lineKey(l), "picked", l.quantity])),
    );
    const buttons = lines.filter((l, i) => l.part === "QM-PB" && i !== 2).reduce((sum, l) => sum + l.quantity, 0);
    expect(buttons).toBeGreaterThan(0);
    await driver.wait(
      async () => ((await (await fetch(`${bench.address}/api/stock`)).json()) as { waiting: number }).waiting === 0,
      WAIT_MS,
    );
    expect(store.item("QM-PB")!.level).toBe(level - buttons);
    expect(await violations(driver)).toEqual([]);
    await click(driver, `ready-${DOOR}`);
    await says(driver, "ticket-state", /picked: \d+ of \d+ lines, 1 short/);
    await click(driver, "to-bench");
    await says(driver, "ticket-state", "at the bench");
    await click(driver, "used-up");
    await says(driver, "ticket-state", "used up");
    await click(driver, "take-back");
    await says(driver, "ticket-state", "at the bench");
    await click(driver, "to-board");
    await says(driver, "column-at the bench", "at the bench · 1");
    expect(await violations(driver)).toEqual([]);
  });

  test("a code is scanned: the right one picks, another line's shows it, a strange one is refused", async () => {
    const plate = "HILL-2604 +A1 plate";
    await open(kits(new URLSearchParams({ show: "pick", take: plate }).toString()), "pick-card");
    await type("pick-code", `NIX${Key.ENTER}`);
    await says(driver, "pick-wrong", "NIX is not wanted here.");
    const part = await says(driver, "pick-part", /./);
    await type("pick-code", `OH-M25${Key.ENTER}`);
    if (part !== "OH-M25") {
      await says(driver, "pick-part", "OH-M25");
      await says(driver, "pick-wrong", "another line of this walk");
      await type("pick-code", `oh-m25${Key.ENTER}`);
    }
    await says(driver, "pick-sum", "1 of");
    await driver.wait(async () => (await log()).events.some((e) => e.line === "OH-M25 (pcs)"), WAIT_MS);
  });

  if (size.phone)
    test("the camera reads the code of a bin label", async () => {
      const folder = mkdtempSync(join(tmpdir(), "camera-"));
      const film = join(folder, "code.y4m");
      writeFileSync(film, filmOf("OH-K9"));
      const seeing = await startBrowser(size, {
        more: [
          "--use-fake-ui-for-media-stream",
          "--use-fake-device-for-media-stream",
          `--use-file-for-fake-video-capture=${film}`,
        ],
      });
      try {
        const query = { show: "pick", take: "HILL-2604 +A1 plate", line: "HILL-2604 +A1 plate OH-K9 (pcs)" };
        await seeing.get(`${bench.address}${kits(new URLSearchParams(query).toString())}`);
        await says(seeing, "pick-part", "OH-K9");
        await click(seeing, "pick-camera");
        await gone(seeing, "camera");
        await seeing.wait(async () => (await log()).events.some((e) => e.line === "OH-K9 (pcs)"), WAIT_MS);
      } finally {
        await seeing.quit();
        rmSync(folder, { recursive: true, force: true });
      }
    });

  test("two on one kit: each sees what the other fetches, and fetches something else", async () => {
    const other = await startBrowser(size);
    try {
      const strips = kits(new URLSearchParams({ show: "pick", take: "HILL-2604 +A1 strips" }).toString());
      await open(strips, "pick-card");
      const mine = await says(driver, "pick-part", /./);
      await driver.wait(async () => (await log()).pickers.some((p) => p.kit === "HILL-2604 +A1 strips"), WAIT_MS);
      await other.get(`${bench.address}${strips}`);
      await says(other, "other-picker", /picks here too/);
      await other.wait(async () => (await says(other, "pick-part", /./)) !== mine, WAIT_MS, "both fetch the same");
      await click(driver, "pick-done");
      await says(other, "pick-sum", "1 of");
    } finally {
      await other.quit();
    }
  });

  test("several kits in one walk, into bins by number; the walk on the plan of the store", async () => {
    const take = ["LARK-2601 +A1 plate", "LARK-2601 +A2 plate"];
    await open("/jobs/LARK-2601/kits", `take-${take[0]!}`);
    for (const code of take) await click(driver, `take-${code}`);
    await says(driver, "take-walk", /one by one \d+ m/);
    await click(driver, "take-plan");
    await says(driver, "walk-sum", "one by one");
    await find(driver, "drawing");
    await click(driver, "stop-2");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "walk-pick");
    await says(driver, "pick-bin", /into the bin/);
  });

  test("after a new revision what was picked too much goes back to its place, and the bills stand side by side", async () => {
    const design = JSON.parse(HILL) as Design;
    const lamp = design.devices.find((d) => d.part === "QM-PL")!;
    const less = { ...design, devices: design.devices.filter((d) => d !== lamp) };
    const next = { ...less, job: { ...design.job, revision: "B" } };
    const kit = DOOR;
    await fetch(`${bench.address}/api/jobs/HILL-2604/picks`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({
        since: 0,
        events: [
          {
            id: "extra-lamp",
            kit,
            line: "QM-PL (pcs)",
            what: "picked",
            quantity: 1,
            who: "Ida",
            at: "2026-11-26T23:00:00.000Z",
          },
        ],
      }),
    });
    await importDesign(bench, JSON.stringify(next));
    await open(kits("show=back"), "put-backs");
    await says(driver, `back-${kit} QM-PL (pcs)`, /back to B-12-08/);
    expect(await violations(driver)).toEqual([]);
    await click(driver, `put-${kit} QM-PL (pcs)`);
    await gone(driver, `back-${kit} QM-PL (pcs)`);
    await driver.wait(async () => (await log()).events.some((e) => e.what === "put back"), WAIT_MS);
    await open(kits("show=revisions"), "bill-changes");
    await says(driver, "revision-sum", /less/);
    await says(driver, "change-+A1 door QM-PL (pcs)", "QM-PL");
    expect(await violations(driver)).toEqual([]);
  });

  test("the bill is grouped as wanted, and a line says what made it; the address keeps both", async () => {
    await open("/jobs/LARK-2601/kits?show=bill", size.phone ? "bill-list" : "bill");
    await click(driver, "group-maker");
    await says(driver, size.phone ? "bill-list" : "bill", /Brasslark · \d+/);
    const line = "+A1 plate BL-S480 (pcs)";
    await click(driver, `bill-${line}`);
    await says(driver, "working", "devices");
    await says(driver, "working-total", "2");
    const url = new URL(await driver.getCurrentUrl());
    expect([url.searchParams.get("group"), url.searchParams.get("line")]).toEqual(["maker", line]);
    expect(await violations(driver)).toEqual([]);
    await driver.navigate().back();
    await gone(driver, "working");
  });

  test("the stock service goes away: kits go on, and say how old the levels are", async () => {
    await fetch(`http://127.0.0.1:${line.port}/try/refuse/1`, { method: "POST" });
    try {
      await open("/jobs/LARK-2601/kits?show=missing", "stock");
      await says(
        driver,
        "stock-state",
        "The stock service refuses: the stock service is being serviced. Kits go on without it.",
      );
      await says(driver, "stock-age", "Levels are those of");
      await find(driver, "short-FW-R6");
      expect(await violations(driver)).toEqual([]);
    } finally {
      await fetch(`http://127.0.0.1:${line.port}/try/refuse/0`, { method: "POST" });
    }
    await open("/stock", "stock-sum");
    await says(driver, "stock-sum", /\d+ of \d+ parts are short over 2 jobs/);
    await click(driver, "need-FW-R6 pcs");
    await says(driver, "shares", "LARK-2601");
    expect(await violations(driver)).toEqual([]);
  });
});
