import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { Design } from "@gray-bench/core/design/model";
import { By, Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";
import { byId, click, find, gone, PHONE, says, startBrowser, WIDE, type Size } from "../src/browser";

jest.setTimeout(240_000);

const DESIGNS = join(__dirname, "../../designs");

/** The fountain without one of its relays and one of its nets, as a list forgets them. */
function forgetful(): Design {
  const design = JSON.parse(readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8")) as Design;
  return {
    ...design,
    devices: design.devices.filter((d) => d.tag !== "-K2"),
    nets: design.nets.filter((n) => n.name !== "P24"),
  };
}

/** A part as its maker draws it, in inches: a body and two holes beside it. */
const PART_DXF = [
  [0, "SECTION", 2, "HEADER", 9, "$INSUNITS", 70, 1, 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES"],
  [0, "LWPOLYLINE", 8, "0", 90, 4, 70, 1, 10, 1, 20, 1, 10, 3, 20, 1, 10, 3, 20, 5, 10, 1, 20, 5],
  [0, "CIRCLE", 8, "0", 10, 2, 20, 0.75, 40, 0.1, 0, "CIRCLE", 8, "0", 10, 2, 20, 5.25, 40, 0.1],
  [0, "ENDSEC", 0, "EOF"],
]
  .flat()
  .join("\n");

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("setting right on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let folder: string;
  let first: string;

  const job = async (): Promise<JobDetail> =>
    (await (await fetch(`${bench.address}/api/jobs/HILL-2604`)).json()) as JobDetail;
  const design = async (): Promise<Design> =>
    (await (await fetch(`${bench.address}/api/jobs/HILL-2604/design`)).json()) as Design;
  const open = (path: string): Promise<void> => driver.get(`${bench.address}/jobs/HILL-2604/${path}`);
  const type = async (id: string, text: string): Promise<void> => {
    const field = await find(driver, id);
    await field.clear();
    await field.sendKeys(text);
  };
  const pick = async (id: string, text: string): Promise<void> => (await find(driver, id)).sendKeys(text);
  const lay = async (): Promise<void> => {
    if ((await driver.findElements(byId("edit-who"))).length > 0) await type("edit-who", "M. Orr");
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
  };
  const takeAllBack = async (): Promise<void> => {
    for (;;) {
      const [, count] = /(\d+) edits?/.exec(await says(driver, "edit-bar", /\d+ edits?/))!;
      if (Number(count) === 0) break;
      await click(driver, "undo");
      await says(driver, "edit-bar", `${Number(count) - 1} edit`);
    }
    expect((await job()).designHash).toBe(first);
  };

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), "gray-bench-right-"));
    bench = await startBench();
    await importDesign(bench, JSON.stringify(forgetful()));
    first = (await job()).designHash;
    driver = await startBrowser(size);
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    rmSync(folder, { recursive: true });
  });

  test("points of one cause are settled once: the device that lists forgot, the net that wires name", async () => {
    await open("open-points");
    await says(driver, "cause--K2 is not in the design", "8 of them come from one cause");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "cause-cause-0");
    await says(driver, "edit", "8 open points come from it");
    await pick("ask-part", "OH-K9");
    await lay();
    await gone(driver, "group-unknown device");
    await click(driver, "cause-cause-0");
    await pick("ask-class", "control");
    await lay();
    await gone(driver, "cause-net P24 is not in the design");
    const now = await design();
    expect([now.devices.at(-1), now.nets.at(-1)]).toEqual([
      { tag: "-K2", part: "OH-K9" },
      { name: "P24", class: "control" },
    ]);
    await takeAllBack();
  });

  test("an option comes, a device gets a condition, what that leaves behind is told, a choice shows what it takes", async () => {
    await open("intake");
    await click(driver, "option-add-option");
    await type("ask-key", "frost");
    await type("ask-text", "frost guard");
    await type("ask-choices", "fitted, none, later");
    await lay();
    await says(driver, "options", "frost guard: fitted of fitted, none, later");
    await open("panel?device=-K4");
    await click(driver, "edit-condition");
    await pick("ask-frost", "all but none");
    await says(driver, "outlook", /1 device changed: -\u2060?K4/);
    expect(await violations(driver)).toEqual([]);
    await lay();
    await open("open-points");
    const told = await says(driver, "group-conditions contradict", "with frost none");
    expect(told).toMatch(/Let them come and go with -\u2060?K4/);
    await open("intake");
    await click(driver, "option-choose-frost");
    await pick("ask-choice", "none");
    await says(driver, "outlook", /1 device gone: -\u2060?K4/);
    await click(driver, "edit-leave");
    await click(driver, "option-remove-frost");
    await click(driver, "edit-save");
    await says(driver, "edit", /device -\u2060?K4 hangs on option frost/);
    await click(driver, "edit-leave");
    await takeAllBack();
  });

  test("a cable comes with its cores, one of them is led, and it goes again; nets are joined", async () => {
    await open("intake?cable=");
    await click(driver, "cables-add-cable");
    await type("ask-tag", "-W99");
    const choice = await find(driver, "ask-type");
    if ((await choice.getTagName()) === "select") await choice.sendKeys(Key.ARROW_DOWN);
    else await choice.sendKeys("C-4");
    await type("ask-cores", "1-3, PE");
    await lay();
    await open("intake?cable=-W99");
    await says(driver, "cable", "PE");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "core-change-core-2");
    await type("ask-to.device", "-K4");
    await click(driver, "edit-save");
    await says(driver, "edit", "Device and pin, or neither.");
    await type("ask-to.pin", "A1");
    await lay();
    await says(driver, "cable", /to -\u2060?K4:A1/);
    await click(driver, "cable-remove-cable");
    await says(driver, "outlook", /1 cable gone: -\u2060?W99/);
    await lay();
    await says(driver, "network", /There is no cable -\u2060?W99/);
    await open("intake?net=");
    const net = (await design()).nets[0]!.name;
    await open(`intake?net=${encodeURIComponent(net)}`);
    await click(driver, "net-remove-net");
    await (await find(driver, "ask-into")).sendKeys(Key.ARROW_DOWN);
    await says(driver, "outlook", "1 net gone");
    await lay();
    expect((await design()).nets.some((n) => n.name === net)).toBe(false);
    await takeAllBack();
  });

  test("a maker's list is written into the library, doubled numbers become one part, and it is seen where it is used", async () => {
    await driver.get(`${bench.address}/library`);
    const send = async (id: string, file: string) => (await driver.findElement(byId(id))).sendKeys(file);
    await find(driver, "library-open");
    await send("library-input", join(DESIGNS, "demo.library.json"));
    await type("library-who", "Ina");
    await click(driver, "library-take");
    await says(driver, "library-count", "89 parts");
    const list = join(folder, "maker.csv");
    writeFileSync(
      list,
      "Preise 2026\r\n\r\nArtikel;Hersteller;Verlust;EAN\r\nOHK9;Oakhollow;3,4;1\r\nNEU;Oak;viel;2\r\n",
    );
    await click(driver, "library-files");
    await find(driver, "library-open");
    await send("library-input", list);
    const told = await says(driver, "library-outlook", "2 new: NEU, OHK9");
    expect(told).toContain("Verlust = Loss");
    expect(told).toContain("line 5, Verlust: viel; wanted a number");
    await click(driver, "library-whole");
    await says(driver, "library-outlook", "89 gone");
    await click(driver, "library-into");
    await says(driver, "library-outlook", "would have 91 parts");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "library-take");
    await says(driver, "library-count", "91 parts");
    await click(driver, "doubles-open");
    await click(driver, "merge-keep-OH-K9");
    await says(driver, "doubles", "They say different things of");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "part-save");
    await says(driver, "doubles", "No two numbers differ");
    await driver.get(`${bench.address}/library?part=OH-K9&uses=1`);
    await says(driver, "part-uses", "HILL-2604");
    await says(driver, "part-details", "OHK9");
  });

  test("holes are set by tapping, the outline comes from a drawing; on a wide screen many cells are written", async () => {
    await driver.get(`${bench.address}/library/OH-K9?set=holes`);
    const surface = await find(driver, "drawing");
    const { width, height } = await surface.getRect();
    await driver
      .actions()
      .move({ origin: surface, x: Math.round(width * -0.3), y: Math.round(height * 0.3) })
      .click()
      .perform();
    await says(driver, "hole-landed", "At -");
    await type("hole-x", "5");
    await type("hole-y", "-4");
    await click(driver, "hole-repeat");
    await type("hole-row-count", "2");
    await type("hole-row-pitch", "35");
    await click(driver, "hole-row-add");
    await says(driver, "part-holes", "Holes (2)");
    expect(await violations(driver)).toEqual([]);
    const drawing = join(folder, "part.dxf");
    writeFileSync(drawing, `${PART_DXF}\n`);
    await (await driver.findElement(byId("outline-input"))).sendKeys(drawing);
    await says(driver, "outline", "2 × ⌀ 5.08 mm");
    await click(driver, "outline-holes-0");
    await says(driver, "outline-take", "Take 50.8 mm × 101.6 mm and 2 holes");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "outline-take");
    await type("part-who", "Ina");
    await click(driver, "part-save");
    await gone(driver, "part-save-tray");
    const { parts } = (await (await fetch(`${bench.address}/api/library`)).json()) as {
      parts: { number: string; w?: number; holes?: unknown }[];
    };
    expect(parts.find((p) => p.number === "OH-K9")).toMatchObject({
      w: 50.8,
      h: 101.6,
      holes: [
        { kind: "round", x: 25.4, y: -6.35, d: 5.08 },
        { kind: "round", x: 25.4, y: 107.95, d: 5.08 },
      ],
    });
    await driver.get(`${bench.address}/library/TT-CU600?set=air`);
    await click(driver, "air-draws");
    await type("air-y", "100");
    await click(driver, "air-done");
    const unit = await find(driver, "drawing");
    await driver.actions().move({ origin: unit, x: 0, y: 0 }).click().perform();
    // Both are there: the nearer one comes to the middle of the body.
    expect(await says(driver, "air-landed", "in line with middle")).toContain("At 140 mm, 200 mm");
    await says(driver, "air-form", "Where it draws");
    await says(driver, "part-curves", "What it carries away, over the temperature outside");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "part-undo");
    await click(driver, "part-undo");
    await gone(driver, "part-save-tray");
    if (size.phone) return;
    await driver.get(`${bench.address}/library?q=breaker`);
    await find(driver, "part-OH-B1C6");
    const cell = (number: string) => driver.findElement(By.css(`[data-testid="part-${number}"] > :nth-child(8)`));
    await cell("OH-B1C6").click();
    await driver.actions().keyDown(Key.SHIFT).perform();
    await cell("OH-M25").click();
    await driver.actions().keyUp(Key.SHIFT).perform();
    await type("library-write", "viel");
    await click(driver, "library-write-now");
    await says(driver, "cells", "OH-B1C6: viel; wanted a number");
    await click(driver, "cells-undo");
    await gone(driver, "cells");
    await type("library-write", "2,5 W");
    await click(driver, "library-write-now");
    await says(driver, "cells", "3 parts were changed here");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "part-save");
    await gone(driver, "cells");
  });
});
