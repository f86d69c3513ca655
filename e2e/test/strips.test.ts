import { ticksOf, type TickEvent } from "@gray-bench/core/frame/ticks";
import { mkdtempSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Key, Origin, type WebDriver, type WebElement } from "selenium-webdriver";
import { violations } from "../src/axe";
import { byId, click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(240_000);

const LARK = readFileSync(join(__dirname, "../../designs/whole/larkmoor.bench.json"), "utf8");

interface StripPlan {
  tag: string;
  at: number | null;
  items: { kind: string; tag?: string }[];
  jumpers: { members: string[] }[];
}

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("strips on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let downloads: string;
  const open = (query: string) => driver.get(`${bench.address}/jobs/LARK-2601/lineups?${query}`);
  const job = async () =>
    (await (await fetch(`${bench.address}/api/jobs/LARK-2601`)).json()) as { designHash: string; run: string };
  const strip = async (tag: string): Promise<StripPlan | undefined> => {
    const reply = await fetch(`${bench.address}/api/jobs/LARK-2601/stages/lineups`);
    return ((await reply.json()) as { strips: StripPlan[] }).strips.find((s) => s.tag === tag);
  };
  const members = async (tag: string): Promise<string[]> =>
    (await strip(tag))!.items.flatMap((i) => (i.kind === "member" ? [i.tag!] : []));
  const becomes = (what: () => Promise<boolean>, otherwise: string) => driver.wait(what, WAIT_MS, otherwise);
  /** Chooses of a list, types, gives a name when asked, and lays the edit. */
  const answer = async (answers: Record<string, string>): Promise<void> => {
    for (const [field, text] of Object.entries(answers)) {
      const input = await find(driver, `ask-${field}`);
      if ((await input.getTagName()) === "select") await input.sendKeys(text);
      else await input.sendKeys(Key.chord(Key.CONTROL, "a"), text);
    }
    const name = await driver.findElements(byId("edit-who"));
    if (name[0]) await name[0].sendKeys(Key.chord(Key.CONTROL, "a"), "M. Orr");
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
  };

  /** Where a member is drawn, from the middle of the drawing. */
  const placeIn = async (box: WebElement, tag: string) => {
    const rect = await (await find(driver, `drawn-${tag}`)).getRect();
    const { x, y, width, height } = await box.getRect();
    return { x: Math.round(rect.x + rect.width / 2 - x - width / 2), y: Math.round(rect.y + 60 - y - height / 2) };
  };

  beforeAll(async () => {
    downloads = mkdtempSync(join(tmpdir(), "gray-bench-strips-"));
    bench = await startBench();
    await importDesign(bench, LARK);
    driver = await startBrowser(size, { downloads });
    await driver.get(bench.address);
    // Who works at this device is known.
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ length: "mm", size: "mm2", light: "day", name: "M. Orr" }))`,
    );
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    rmSync(downloads, { recursive: true });
  });

  test("every part of a strip has an address of its own and no fault of access", async () => {
    for (const show of ["members", "strip", "jumpers", "cables", "assembly"]) {
      await open(`strip=-X5&show=${show}`);
      await find(driver, `show-${show}`);
      await find(
        driver,
        { members: "strip-line", strip: "strip-sheet", jumpers: "jumpers", cables: "cables", assembly: "assembly" }[
          show
        ]!,
      );
      expect([show, await violations(driver)]).toEqual([show, []]);
    }
    await open("strip=-X5&member=-X5.4");
    await says(driver, "member-details", "place 6 of 12");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "show-cables");
    await click(driver, "cable--W67");
    await says(driver, "cables", "work lights");
    await driver.navigate().refresh();
    await says(driver, "cables", "work lights");
  });

  test("a member is dragged to another place, wires follow, and it is taken back", async () => {
    const before = await members("-X5");
    const { designHash } = await job();
    await open("strip=-X5");
    if (size.phone) {
      const [from, to] = [await find(driver, "member--X5.1"), await find(driver, "member--X5.3")];
      // Held until it is lifted, then led below the third.
      await driver
        .actions()
        .move({ origin: from })
        .press()
        .pause(600)
        .move({ origin: Origin.POINTER, x: 0, y: 30, duration: 100 })
        .move({ origin: to, duration: 300 })
        .release()
        .perform();
    } else {
      const box = await find(driver, "strip-drawing");
      const [from, to] = [await placeIn(box, "-X5.1"), await placeIn(box, "-X5.3")];
      await driver
        .actions()
        .move({ origin: box, ...from })
        .press()
        .move({ origin: box, x: from.x + 20, y: from.y })
        .move({ origin: box, x: to.x + 12, y: to.y })
        .release()
        .perform();
    }
    await says(driver, "strip-told", "put into the order");
    const order = [before[1], before[2], before[0], ...before.slice(3)];
    await becomes(async () => (await members("-X5")).join() === order.join(), "the order did not change");
    await says(driver, "edit-said", /wire/);
    await click(driver, "undo");
    await becomes(async () => (await job()).designHash === designHash, "not taken back");
    await says(driver, "edit-bar", "0 edits");
  });

  if (!size.phone)
    test("several are chosen in the drawing and dragged together", async () => {
      const before = await members("-X5");
      const { designHash } = await job();
      await open("strip=-X5");
      const box = await find(driver, "strip-drawing");
      for (const tag of ["-X5.1", "-X5.2"])
        await driver
          .actions()
          .keyDown(Key.CONTROL)
          .move({ origin: box, ...(await placeIn(box, tag)) })
          .click()
          .keyUp(Key.CONTROL)
          .perform();
      await says(driver, "many", "2 members chosen");
      expect(await violations(driver)).toEqual([]);
      const [from, to] = [await placeIn(box, "-X5.1"), await placeIn(box, "-X5.3")];
      await driver
        .actions()
        .move({ origin: box, ...from })
        .press()
        .move({ origin: box, x: from.x + 20, y: from.y })
        .move({ origin: box, x: to.x + 12, y: to.y })
        .release()
        .perform();
      const order = [before[2], before[0], before[1], ...before.slice(3)];
      await becomes(async () => (await members("-X5")).join() === order.join(), "the order did not change");
      await click(driver, "undo");
      await becomes(async () => (await job()).designHash === designHash, "not taken back");
      await click(driver, "many-done");
      await gone(driver, "many-done");
    });

  test("members change places by keys", async () => {
    await open("strip=-X4");
    if (!size.phone) {
      await open("strip=-X4&member=-X4.2");
      await click(driver, "member-up");
    } else await (await find(driver, "member--X4.2")).sendKeys(Key.chord(Key.ALT, Key.ARROW_UP));
    await becomes(async () => (await members("-X4"))[0] === "-X4.2", "it did not go up");
    await says(driver, "edit-bar", "1 edit");
    await click(driver, "undo");
    await says(driver, "edit-bar", "0 edits");
  });

  test("a strip is numbered anew; the preview tells what goes with it", async () => {
    const { designHash } = await job();
    await open("strip=-X4&show=strip");
    await click(driver, "strip-renumber");
    await (await find(driver, "ask-by")).sendKeys("all in a row");
    await (await find(driver, "ask-from")).sendKeys(Key.chord(Key.CONTROL, "a"), "11");
    await says(driver, "edit-note", /-X4\.1 becomes -X4\.11, .*12 wires/);
    await click(driver, "edit-look");
    await says(driver, "outlook", /6 devices new/);
    await answer({});
    await becomes(async () => (await members("-X4"))[0] === "-X4.11", "not renumbered");
    await click(driver, "undo");
    await becomes(async () => (await job()).designHash === designHash, "not taken back");
  });

  test("neighbours are bridged, and a proposed jumper saves metres", async () => {
    await open("strip=-X4");
    if (size.phone) {
      await click(driver, "several");
      await click(driver, "member--X4.1");
      await click(driver, "member--X4.2");
      await says(driver, "many", "2 members chosen");
    } else {
      await click(driver, "row--X4.1 1");
      await driver.actions().keyDown(Key.SHIFT).perform();
      await click(driver, "row--X4.2 1");
      await driver.actions().keyUp(Key.SHIFT).perform();
    }
    await click(driver, "many-bridge");
    await answer({ row: "2" });
    await becomes(async () => (await strip("-X4"))!.jumpers.length === 1, "no jumper");
    await click(driver, "undo");
    await says(driver, "edit-bar", "0 edits");
    await open("strip=-X2&show=jumpers");
    await says(driver, "jumpers", /makes 9 wires needless, [\d.,]+ m/);
    await click(driver, "jumper-wires-1--X2.1");
    await answer({});
    await says(driver, "edit-said", /taken out|removed|wires/);
    await click(driver, "undo");
    await says(driver, "edit-bar", "0 edits");
  });

  test("a strip is split in two, and joined again", async () => {
    const before = await members("-X21");
    await open("strip=-X21&member=-X21.4");
    await click(driver, "edit-split");
    await answer({ to: "-X22" });
    await find(driver, "strip--X22");
    await becomes(async () => (await members("-X22")).length === 5, "not split");
    await open("strip=-X21&show=strip");
    await click(driver, "strip-join");
    await answer({ with: "-X22" });
    await gone(driver, "strip--X22");
    expect(await members("-X21")).toEqual(before);
    await click(driver, "undo");
    await click(driver, "undo");
    await says(driver, "edit-bar", "0 edits");
  });

  test("a whole strip is laid on a rail in one act, and its members stand there", async () => {
    await open("strip=-X21&show=strip");
    await says(driver, "strip-sum", "Not laid");
    await click(driver, "strip-lay");
    await answer({ at: "700" });
    await says(driver, "strip-sum", "Laid at 700 mm of R22");
    const panel = (await (await fetch(`${bench.address}/api/jobs/LARK-2601/stages/panel`)).json()) as {
      devices: { tag: string; outline: { x: number } }[];
      rails: { tag: string; outline: { x: number } }[];
      hung: { strip: string; kind: string }[];
    };
    const rail = panel.rails.find((r) => r.tag === "R22")!;
    // Behind an end stop of 8 mm.
    expect(panel.devices.find((d) => d.tag === "-X21.1")!.outline.x).toBeCloseTo(rail.outline.x + 708, 6);
    expect(panel.hung.filter((h) => h.strip === "-X21").map((h) => h.kind)).toContain("end stop");
    await click(driver, "undo");
    await says(driver, "strip-sum", "Not laid");
  });

  test("what is ticked on the assembly sheet stays, without a network too", async () => {
    await open("strip=-X5&show=assembly");
    await click(driver, "piece-1");
    await says(driver, "assembly-sum", "1 of 17 hung");
    await driver.navigate().refresh();
    await says(driver, "assembly-sum", "1 of 17 hung");
    const tools = driver as unknown as { sendDevToolsCommand(name: string, params: object): Promise<void> };
    const network = (offline: boolean) =>
      tools.sendDevToolsCommand("Network.emulateNetworkConditions", {
        offline,
        latency: 0,
        downloadThroughput: -1,
        uploadThroughput: -1,
      });
    await tools.sendDevToolsCommand("Network.enable", {});
    await network(true);
    await click(driver, "piece-2");
    await click(driver, "piece-3");
    await says(driver, "assembly-sum", "3 of 17 hung");
    await says(driver, "assembly-waiting", "2 ticks wait to be sent");
    await network(false);
    await gone(driver, "assembly-waiting");
    const kept = (await (
      await fetch(`${bench.address}/api/jobs/LARK-2601/events?kind=tick&thing=${encodeURIComponent("strip -X5")}`)
    ).json()) as { events: TickEvent[] };
    const hung = [...ticksOf("strip -X5", kept.events).values()];
    expect(hung.map((t) => [t.done, t.who])).toEqual(Array(3).fill([true, "M. Orr"]));
    await click(driver, "piece-3");
    await says(driver, "assembly-sum", "2 of 17 hung");
  });

  test("the drawing of a strip is taken away as it is wanted", async () => {
    await open("strip=-X5&show=strip");
    await click(driver, "stand-upright");
    await (await find(driver, "scale")).sendKeys("99");
    await says(driver, "drawings", "A number from 0.1 to 10");
    await (await find(driver, "scale")).sendKeys(Key.chord(Key.CONTROL, "a"), "2");
    await click(driver, "drawing-pdf");
    const file = (): string | undefined => readdirSync(downloads).find((f) => f.endsWith("-X5.pdf"));
    await becomes(async () => file() !== undefined, "no file came");
    expect(readFileSync(join(downloads, file()!)).subarray(0, 5).toString()).toBe("%PDF-");
  });
});
