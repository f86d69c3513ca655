import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { By, Key, type WebDriver } from "selenium-webdriver";
import { byId, click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";
import { violations } from "../src/axe";
import { startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(240_000);

const DESIGNS = join(__dirname, "../../designs");
describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let downloads: string;
  const open = (path: string) => driver.get(bench.address + path);
  const path = async () => new URL(await driver.getCurrentUrl());

  beforeAll(async () => {
    downloads = mkdtempSync(join(tmpdir(), "gray-bench-files-"));
    bench = await startBench();
    driver = await startBrowser(size, { downloads });
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    rmSync(downloads, { recursive: true });
  });

  afterEach(() => driver.executeScript("localStorage.clear()"));

  const pick = async (file: string) => (await driver.findElement(byId("file-input"))).sendKeys(file);

  test("the first start has no job and says what to do", async () => {
    await open("/");
    expect(await says(driver, "empty", "No job yet")).toContain(".bench.json");
    expect(await violations(driver)).toEqual([]);
  });

  test("a refused file tells every place; nothing is imported", async () => {
    const bad = join(downloads, "bad.bench.json");
    const text = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
    writeFileSync(bad, text.replace('"run":"right"', '"run":"sideways"').replace('"revision":"A"', '"revision":7'));
    await open("/");
    await find(driver, "empty");
    await pick(bad);
    const told = await says(driver, "refusal", "2 faults");
    expect(told).toContain("rails[0].run");
    expect(told).toContain("one of: right, up");
    expect(told).toContain("job.revision");
    expect(await violations(driver)).toEqual([]);
    // The faults go to the one who made the file, as text.
    await click(driver, "text-copy");
    await says(driver, "text-said", "Copied");
    await click(driver, "text-save");
    const saved = join(downloads, "bad-faults.txt");
    await driver.wait(() => existsSync(saved), 5000, "no file with the faults");
    expect(readFileSync(saved, "utf8")).toBe(
      [
        "bad.bench.json",
        "The design was refused: 2 faults. Nothing was imported.",
        (await says(driver, "refusal", "2 faults")).split("\n")[2],
        "",
        "1. job.revision",
        "   found number 7",
        "   expected text",
        "2. rails[0].run",
        '   found text "sideways"',
        "   expected one of: right, up",
        "",
      ].join("\n"),
    );
    await open("/");
    await says(driver, "empty", "No job yet");
  });

  test("import, look at the desk, find wire 214, understand its length", async () => {
    await open("/");
    await find(driver, "empty");
    await pick(join(DESIGNS, "whole/larkmoor.bench.json"));
    await says(driver, "figure-wires", "510 of 513");
    await says(driver, "next-step", /9 stops keep this job from being made whole/);
    await says(driver, "next-point", "First: wire 513 goes to pin 12 of");
    expect(await violations(driver)).toEqual([]);

    // From here a person counts taps: search, type, hit.
    await click(driver, "open-search");
    await (await find(driver, "search-text")).sendKeys("214");
    await says(driver, "search-hits", "-K13:13 to -K14:13");
    expect(await violations(driver)).toEqual([]);
    await (await driver.findElement(By.css('[data-testid="search-hits"] a'))).click();

    expect((await path()).search).toBe("?wire=214");
    const length = Number((await says(driver, "wire-length", /\d+ mm/)).replace(/[^\d.]/g, ""));
    await find(driver, "working");
    let sum = 0;
    // The terms in sight add up to the length in sight.
    const values = await driver.executeScript<string[]>(
      'return [...document.querySelectorAll(\'[data-testid="term"]\')].map((t) => [...t.querySelectorAll("*")].map((e) => e.textContent).find((x) => /^[\\d,.]+ mm$/.test(x)) ?? "0 mm")',
    );
    for (const v of values) sum += Number(v.replace(/[^\d.]/g, ""));
    expect(values.length).toBeGreaterThanOrEqual(8);
    expect(Math.round(sum * 1000) / 1000).toBe(length);
    expect(await says(driver, "working-total", "mm")).toBe(`${length} mm`);
    expect(await violations(driver)).toEqual([]);
  });

  test("the choice stands in the address: reload and back keep it", async () => {
    await open("/jobs/LARK-2601/routes?wire=214");
    await says(driver, "wire-length", "425 mm");
    await driver.navigate().refresh();
    await says(driver, "wire-length", "425 mm");
    await click(driver, "rule-panel");
    await find(driver, "scale-bar");
    expect((await path()).pathname).toBe("/jobs/LARK-2601/panel");
    await driver.navigate().back();
    await says(driver, "wire-length", "425 mm");
    expect((await path()).search).toBe("?wire=214");
  });

  test("narrow the list, choose a wire from it", async () => {
    await open("/jobs/LARK-2601/routes");
    await says(driver, "wire-count", "513 of 513");
    await (await find(driver, "wire-filter")).sendKeys("-K11");
    await says(driver, "wire-count", /^\d+ of 513/);
    await click(driver, "narrow");
    await click(driver, "colour-BU");
    await click(driver, "sort-length");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "filter-done");
    expect((await path()).search).toContain("colour=BU");
    await says(driver, "wire-count", "BU");
    const [first] = await driver.findElements(
      By.css(
        '[data-testid="wire-list"] :is([role="listitem"] [data-testid^="wire-"], [role="row"][data-testid^="wire-"])',
      ),
    );
    const id = (await first!.getAttribute("data-testid"))!.replace("wire-", "");
    await first!.click();
    await find(driver, "working");
    expect((await path()).searchParams.get("wire")).toBe(id);
    expect(await violations(driver)).toEqual([]);
  });

  test("a duct tells its fill and what lies in it", async () => {
    await open("/jobs/LARK-2601/routes?duct=W21");
    await says(driver, "choice-head", "60 %");
    const wires = await (await find(driver, "piece-wires")).findElements(By.css("a"));
    expect(wires.length).toBe(70);
    expect(await violations(driver)).toEqual([]);
  });

  test("tapping the drawing chooses the duct under the finger, or lets go", async () => {
    // The duct is chosen by its tag and brought to the middle; a tap there chooses the very piece.
    await open("/jobs/LARK-2601/routes?duct=W23");
    await find(driver, "piece-details");
    const drawing = await find(driver, "drawing");
    const box = await drawing.getRect();
    const tap = (x: number, y: number) => driver.actions().move({ origin: drawing, x, y }).click().perform();
    await tap(0, 0);
    await driver.wait(async () => (await path()).search === "?piece=W23.1", 5000, "the tap chose no piece");
    await tap(Math.round(-box.width / 2 + 12), Math.round(-box.height / 2 + 12));
    await gone(driver, "piece-details");
    expect((await path()).search).toBe("");
  });

  test("a device on the panel shows its part and its wires", async () => {
    await open("/jobs/LARK-2601/panel?device=-U13");
    const told = await says(driver, "device-details", "Wires (22)");
    expect(told).toContain("hoist drive 11 kW");
    expect(await violations(driver)).toEqual([]);
    await open("/jobs/LARK-2601/panel?device=-K41");
    await says(driver, "empty", "It is loose");
  });

  test("open points are grouped and lead to their place", async () => {
    await open("/jobs/LARK-2601/open-points");
    await says(driver, "group-no way", "wire 492 has no length: -\u2060K41 has no place");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "point-crossing-N3");
    expect((await path()).search).toBe("?crossing=N3");
    await open("/jobs/LARK-2601/intake");
    await says(driver, "options", "orchestra lift: not fitted");
    expect(await violations(driver)).toEqual([]);
  });

  test("take wires.csv away and read it", async () => {
    await open("/jobs/LARK-2601");
    await click(driver, "files-open");
    await click(driver, "file-wires.csv");
    const name = "LARK-2601-B-wires.csv";
    // All files of the job are written when the first of them is asked for.
    await driver.wait(() => readdirSync(downloads).includes(name), 3 * WAIT_MS, "no file came");
    const rows = parse(readFileSync(join(downloads, name)), { columns: true }) as Record<string, string>[];
    expect(rows).toHaveLength(513);
    expect(rows.find((r) => r.number === "214")).toMatchObject({
      from: "'-K13",
      from_pin: "13",
      to: "'-K14",
      length_mm: "425",
      way: "up into W4, right along W4, down to -K14",
    });
  });

  test("the same file again changes nothing and says so", async () => {
    await open("/");
    await find(driver, "job-LARK-2601");
    await pick(join(DESIGNS, "whole/larkmoor.bench.json"));
    await says(driver, "already", "LARK-2601 already has");
  });

  test("a design with nothing in it says so everywhere, and can be deleted", async () => {
    const bare = join(downloads, "bare.bench.json");
    const job = { code: "BARE", title: "bare box", revision: "1" };
    const enclosures = [{ tag: "+A1", w: 300, h: 300, d: 150 }];
    writeFileSync(bare, JSON.stringify({ format: "gray-bench-design", version: 1, job, enclosures }));
    await open("/");
    await find(driver, "job-LARK-2601");
    await pick(bare);
    await says(driver, "figure-wires", "0 of 0");
    await click(driver, "rule-panel");
    await says(driver, "empty", /No device|Nothing to draw/);
    expect(await violations(driver)).toEqual([]);
    await open("/jobs/BARE/routes");
    await says(driver, "empty", "No wires");
    expect(await violations(driver)).toEqual([]);
    await open("/jobs/BARE");
    await click(driver, "delete");
    await says(driver, "delete-asked", "its one revision");
    await click(driver, "delete-sure");
    await find(driver, "job-LARK-2601");
    await gone(driver, "job-BARE");
    // What was done to it stays on record.
    await click(driver, "to-record");
    await says(driver, "record", /deleted/);
    await open("/record?job=BARE");
    expect(await says(driver, "record", /imported/)).not.toContain("LARK-2601");
    await says(driver, "record-count", "2 entries");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "record-all");
    await says(driver, "record", /LARK-2601/);
  });

  test("inches, gauges and the night shift", async () => {
    await open("/jobs/LARK-2601/routes?wire=214");
    await says(driver, "wire-length", "425 mm");
    await click(driver, "open-settings");
    await click(driver, "unit-length-in");
    await click(driver, "unit-size-awg");
    await click(driver, "light-night");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "settings-close");
    expect(await says(driver, "wire-length", "in")).toBe("16.73 in");
    expect(await says(driver, "wire-details", "AWG")).toContain("≈ AWG 15");
    expect(await violations(driver)).toEqual([]);
  });

  test("keys: / searches, ? explains, Escape closes and lets go, arrows walk the list", async () => {
    await open("/jobs/LARK-2601/routes?wire=214");
    await says(driver, "wire-length", "425 mm");
    const press = (key: string) => driver.actions().sendKeys(key).perform();
    await press("?");
    await find(driver, "shortcuts");
    expect(await violations(driver)).toEqual([]);
    await press(Key.ESCAPE);
    await gone(driver, "shortcuts");
    const focus = async () => (await driver.switchTo().activeElement()).getAttribute("data-testid");
    await press("/");
    await find(driver, "search-text");
    expect(await focus()).toBe("search-text");
    await press(Key.ESCAPE);
    await gone(driver, "search");
    // Arrows walk the hits while one goes on typing, round from the last to the first; Enter opens one.
    const chosen = () =>
      driver.executeScript<string | null>(
        `return document.querySelector('[data-testid="search-hits"] [aria-selected="true"]')?.innerText.split("\\n")[0] ?? null`,
      );
    const onto = (name: string) =>
      driver.wait(async () => (await chosen()) === name, 5000, `${name} is not the chosen hit`);
    await press("/");
    await find(driver, "search-text");
    await press("-K1");
    await onto("-K1");
    await press(Key.ARROW_DOWN);
    await onto("-K11");
    await press(Key.ARROW_UP + Key.ARROW_UP);
    await driver.wait(async () => ![null, "-K1", "-K11"].includes(await chosen()), 5000, "no last hit");
    expect(await focus()).toBe("search-text");
    expect(await violations(driver)).toEqual([]);
    await press(Key.ARROW_DOWN + Key.ARROW_DOWN + "1");
    await onto("-K11");
    await press(Key.ENTER);
    await driver.wait(async () => (await path()).search === "?device=-K11", 5000, "Enter opened nothing");
    await driver.navigate().back();
    await says(driver, "wire-length", "425 mm");
    // Closing the search did not let go of the wire; the arrows move on from it, Escape lets go.
    await says(driver, "wire-length", "425 mm");
    await press(Key.ARROW_DOWN);
    await driver.wait(async () => (await path()).search === "?wire=215", 5000, "the arrow chose no other wire");
    await press(Key.ESCAPE);
    await gone(driver, "wire-details");
    // Every sheet has the focus where its work is.
    await open("/jobs/LARK-2601/routes");
    await find(driver, "rule");
    if ((await driver.findElements(byId("as-list"))).length > 0) await click(driver, "as-list");
    for (const opener of ["open-settings", "narrow"]) {
      await click(driver, opener);
      await driver.wait(async () => (await focus()) !== opener, 5000, `${opener} kept the focus`);
      const on = await driver.switchTo().activeElement();
      expect([opener, await on.getAttribute("aria-label")]).not.toEqual([opener, "Close"]);
      await press(Key.ESCAPE);
    }
  });

  test("open points are mended and accepted, the history tells, and all is taken back to the first design", async () => {
    const hash = async (): Promise<string> =>
      driver.executeAsyncScript(
        "const done = arguments[0]; fetch('/api/jobs/LARK-2601').then((r) => r.json()).then((j) => done(j.designHash));",
      );
    await open("/jobs/LARK-2601/open-points");
    await says(driver, "group-no cross-section", "wire 511");
    const first = await hash();
    await click(driver, "mend-routes/no cross-section/wire/511");
    // What cannot be is refused in the field, with the reason.
    await (await find(driver, "ask-sizeMm2")).sendKeys("thick");
    await click(driver, "edit-save");
    await says(driver, "edit", "Write a cross-section");
    await says(driver, "edit", "A name is needed");
    expect(await violations(driver)).toEqual([]);
    const field = await find(driver, "ask-sizeMm2");
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), "14 AWG");
    await (await find(driver, "edit-who")).sendKeys("M. Orr");
    await click(driver, "edit-save");
    await says(driver, "done", "wire 511: 2.081 mm²");
    await gone(driver, "group-no cross-section");
    await click(driver, "mend-routes/gap between ducts/duct/W11");
    await click(driver, "edit-save");
    await gone(driver, "group-gap between ducts");
    await click(driver, "accept-intake/no stock place/part/QM-HORN");
    await click(driver, "edit-save");
    await says(driver, "edit", "A reason is needed");
    await (await find(driver, "edit-why")).sendKeys("bought by the customer", Key.ENTER);
    await says(driver, "accepted-intake/no stock place/part/QM-HORN", "M. Orr: bought by the customer");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "to-history");
    const told = await says(driver, "history", "wire 511: 2.081 mm²");
    expect(told).toContain("duct W11");
    expect(told).toContain("bought by the customer");
    expect(await violations(driver)).toEqual([]);
    const press = (...keys: string[]) =>
      driver
        .actions()
        .sendKeys(...keys)
        .perform();
    const chord = async (shift: boolean) => {
      const a = driver.actions().keyDown(Key.CONTROL);
      if (shift) a.keyDown(Key.SHIFT);
      a.sendKeys(shift ? "Z" : "z");
      if (shift) a.keyUp(Key.SHIFT);
      await a.keyUp(Key.CONTROL).perform();
    };
    await chord(false);
    await says(driver, "edit-bar", "2 edits");
    await chord(true);
    await says(driver, "edit-bar", "3 edits");
    for (const left of ["2 edits", "1 edit", "0 edits"]) {
      await click(driver, "undo");
      await says(driver, "edit-bar", left);
    }
    await says(driver, "edit-said", "All edits are undone");
    expect(await hash()).toBe(first);
    await press(Key.ESCAPE);
  });

  const hashNow = (): Promise<string> =>
    driver.executeAsyncScript(
      "const done = arguments[0]; fetch('/api/jobs/LARK-2601').then((r) => r.json()).then((j) => done(j.designHash));",
    );
  /** Gives the name where it is asked for. */
  const signed = async (): Promise<void> => {
    const name = await driver.findElements(byId("edit-who"));
    if (name[0]) await name[0].sendKeys(Key.chord(Key.CONTROL, "a"), "M. Orr");
  };
  const takeAllBack = async (): Promise<void> => {
    for (;;) {
      const said = await says(driver, "edit-bar", /\d+ edits?/);
      const left = Number(/(\d+) edits?/.exec(said)![1]);
      if (left === 0) return;
      await click(driver, "undo");
      await says(driver, "edit-bar", left - 1 === 1 ? "1 edit" : `${left - 1} edits`);
    }
  };

  test("every open point of the theatre is settled: some mended, the rest accepted; and all is taken back", async () => {
    await open("/jobs/LARK-2601/open-points");
    await says(driver, "group-no cross-section", "wire 511");
    const first = await hashNow();
    // Mended where they are read.
    await click(driver, "mend-panel/loose device/device/-K41");
    await (await find(driver, "ask-on.rail")).sendKeys("R4");
    await signed();
    await click(driver, "edit-save");
    await gone(driver, "group-loose device");
    // The first of them on the desk, which then says what comes next.
    await open("/jobs/LARK-2601");
    await says(driver, "next-point", "wire 513");
    await click(driver, "mend-intake/unknown pin/wire/513");
    const pin = await driver.findElement(By.css('[data-testid="edit"] select'));
    await pin.sendKeys("14");
    await click(driver, "edit-save");
    await says(driver, "next-told", "wire 513");
    await says(driver, "next-point", "wire 514");
    expect(await violations(driver)).toEqual([]);
    await open("/jobs/LARK-2601/open-points");
    await gone(driver, "group-unknown pin");
    await click(driver, "mend-routes/no cross-section/wire/511");
    await (await find(driver, "ask-sizeMm2")).sendKeys("1.5 mm2");
    await click(driver, "edit-save");
    await gone(driver, "group-no cross-section");
    await click(driver, "mend-routes/gap between ducts/duct/W11");
    await click(driver, "edit-save");
    await gone(driver, "group-gap between ducts");
    // The rest stands, with one reason for all of it.
    if (size.phone) {
      const lines = await driver.findElements(By.css('[data-testid^="point-"]'));
      await driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", lines[0]);
      await driver.actions().move({ origin: lines[0]! }).press().pause(800).release().perform();
      await says(driver, "many", "1 open point chosen");
      for (const line of (await driver.findElements(By.css('[data-testid^="point-"]'))).slice(1)) await line.click();
      await says(driver, "many", `${lines.length} open points chosen`);
      expect(await violations(driver)).toEqual([]);
    } else {
      await click(driver, "as-table");
      const grid = await find(driver, "point-list");
      await grid.sendKeys(Key.HOME);
      await grid.sendKeys(Key.chord(Key.CONTROL, "a"));
      await says(driver, "point-list-count", /\d\d chosen/);
      expect(await violations(driver)).toEqual([]);
    }
    await click(driver, "many-accept");
    await (await find(driver, "edit-why")).sendKeys("settled with the customer");
    await click(driver, "edit-save");
    await gone(driver, "edit");
    await open("/jobs/LARK-2601");
    await says(driver, "rule-routes", "ready");
    await says(driver, "rule-intake", "ready");
    await says(driver, "next-step", "Nothing is open: the job can be made.");
    await says(driver, "rule-panel", "ready");
    await open("/jobs/LARK-2601/open-points");
    await says(driver, "empty", "Nothing open");
    expect(await hashNow()).not.toBe(first);
    await takeAllBack();
    expect(await hashNow()).toBe(first);
    await open("/jobs/LARK-2601/open-points");
    await find(driver, "group-loose device");
  });

  test("a loose device is placed by figures, moved, its part swapped; a wire is led elsewhere and named anew", async () => {
    const first = await hashNow();
    await open("/jobs/LARK-2601/panel?device=-K41");
    await find(driver, "device-absent");
    await click(driver, "edit-place");
    await (await find(driver, "ask-where")).sendKeys("face +A1/plate");
    await signed();
    await click(driver, "edit-save");
    await says(driver, "edit", "On a face x and y are needed");
    await (await find(driver, "ask-where")).sendKeys("rail R4");
    await click(driver, "edit-look");
    expect(await says(driver, "outlook", "open points")).toContain("1 wire with a length now");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "edit-save");
    await says(driver, "device-details", "carried by R4");
    // Figures take the units that are written.
    await click(driver, "edit-place");
    await (await find(driver, "ask-x")).sendKeys(Key.chord(Key.CONTROL, "a"), "12 in");
    await click(driver, "edit-save");
    await says(driver, "edit-told", "placed on R4 at 304.8 mm");
    await click(driver, "edit-swap");
    await (await find(driver, "ask-part")).sendKeys("OH-B1C6");
    expect(await says(driver, "edit-note", "Not on the new part")).toContain("A1");
    await click(driver, "edit-leave");
    await open("/jobs/LARK-2601/routes?wire=214");
    await click(driver, "edit-ends");
    const pin = await find(driver, "ask-to.pin");
    await pin.sendKeys(Key.chord(Key.CONTROL, "a"), "99");
    await click(driver, "edit-save");
    await says(driver, "edit", /-.?K14 has no pin 99. It has:/);
    await pin.sendKeys(Key.chord(Key.CONTROL, "a"), "23");
    await click(driver, "edit-save");
    await says(driver, "edit-told", /led to -.?K14:23/);
    await click(driver, "edit-rename-wire");
    await (await find(driver, "ask-to")).sendKeys(Key.chord(Key.CONTROL, "a"), "215");
    await click(driver, "edit-save");
    await says(driver, "failed", "The next free");
    await click(driver, "edit-leave");
    await takeAllBack();
    expect(await hashNow()).toBe(first);
  });

  test("Back undoes the last choice before it leaves the view, and Forward chooses again", async () => {
    await open("/jobs/LARK-2601");
    await click(driver, "rule-panel");
    await find(driver, "drawing");
    await click(driver, "face-+A1/plate");
    await driver.wait(async () => (await path()).searchParams.get("face") === "+A1/plate", 5000, "no face chosen");
    await click(driver, "face-+A1/door");
    await driver.wait(async () => (await path()).searchParams.get("face") === "+A1/door", 5000, "no face chosen");
    const at = (face: string | null) =>
      driver.wait(
        async () =>
          (await path()).pathname.endsWith("/panel") &&
          (await path()).searchParams.get("face") === face &&
          (face === null || (await (await find(driver, `face-${face}`)).getAttribute("aria-pressed")) === "true"),
        5000,
        `not at ${String(face)}`,
      );
    await driver.navigate().back();
    await at("+A1/plate");
    await driver.navigate().forward();
    await at("+A1/door");
    await driver.navigate().back();
    await at("+A1/plate");
    await driver.navigate().back();
    await at(null);
    await driver.navigate().back();
    await driver.wait(async () => (await path()).pathname === "/jobs/LARK-2601", 5000, "Back did not leave the view");
    await find(driver, "figures");
  });

  test("closer in a device shows its pins; a tapped pin shows its wires, and takes a new one", async () => {
    await open("/jobs/LARK-2601/panel?device=-U13&pin=STO1");
    const told = await says(driver, "pin-details", "Pin STO1");
    expect(told).toMatch(/push-in|screw|spring/);
    expect(await violations(driver)).toEqual([]);
    await click(driver, "pin-add-wire");
    await (await find(driver, "ask-to.device")).sendKeys("-K1");
    await (await find(driver, "ask-to.pin")).sendKeys("A1");
    await signed();
    await click(driver, "edit-save");
    await says(driver, "pin-told", /added from -.?U13:STO1 to -.?K1:A1/);
    await takeAllBack();
    // A tap on the drawing where the pin is.
    await open("/jobs/LARK-2601/panel?device=-K13&pin=13");
    await find(driver, "pin-details");
    // Closer and closer, until the pin that is tapped has its name beside it.
    const named = () =>
      driver.executeScript<[number, number, string] | null>(`
        const area = document.querySelector('[data-testid="drawing"]').getBoundingClientRect();
        const places = [...document.querySelectorAll('[data-testid="drawing"] text')]
          .filter((t) => /^(A1|A2|S[12][12]|[23][34])$/.test(t.textContent))
          .map((t) => [t.getBoundingClientRect(), t.textContent])
          .map(([b, name]) => [
            b.x + b.width / 2 - area.x - area.width / 2, b.y + b.height / 2 - area.y - area.height / 2, name,
          ])
          // In sight, and under none of the buttons at the right.
          .filter(([x, y]) => Math.abs(x) < area.width / 2 - 70 && Math.abs(y) < area.height / 2 - 30)
          .sort((a, b) => Math.hypot(a[0], a[1]) - Math.hypot(b[0], b[1]));
        return places[0] ?? null;
      `);
    await find(driver, "drawing");
    let place = await named();
    for (let i = 0; i < 8 && !place; i++) {
      await click(driver, "zoom-in");
      place = await named();
    }
    expect(place).not.toBeNull();
    const [x, y] = [Math.round(place![0]), Math.round(place![1])];
    await driver
      .actions()
      .move({ origin: await find(driver, "drawing"), x, y })
      .click()
      .perform();
    await says(driver, "pin-details", `Pin ${place![2]}`);
    expect((await path()).searchParams.get("pin")).toBe(place![2]);
  });

  test("faces as the cabinets stand, or a chosen few; ducts in a list; other wires of a net", async () => {
    await open("/jobs/LARK-2601/panel");
    await find(driver, "face-+A1/door");
    await click(driver, "arrange");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "lay-standing");
    await click(driver, "only-+B1/plate");
    await click(driver, "only-+B1/door");
    await click(driver, "arrange-done");
    await gone(driver, "face-+A1/door");
    await find(driver, "face-+B1/door");
    expect((await path()).searchParams.get("faces")).toBe("+B1/plate,+B1/door");
    await driver.navigate().refresh();
    await find(driver, "face-+B1/door");
    await gone(driver, "face-+A1/door");
    await open("/jobs/LARK-2601/routes?list=ducts");
    await click(driver, "as-ducts");
    await click(driver, "duct-W21");
    await says(driver, "choice-head", "60 %");
    expect(await violations(driver)).toEqual([]);
    await open("/jobs/LARK-2601/routes?wire=214");
    await says(driver, "wire-length", "425 mm");
    await click(driver, "others");
    await driver.wait(
      async () => ((await (await driver.findElement(byId("other-lines"))).getAttribute("d")) ?? "").length > 20,
      5000,
      "no other wire of the net is drawn",
    );
  });

  test("a rule of this job alone, and back to the shop's", async () => {
    const first = await hashNow();
    await open("/jobs/LARK-2601/rules");
    await says(driver, "job-rule-slackMm", "30 mm, as the shop has it");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "edit-set-slackMm");
    await (await find(driver, "ask-slackMm")).sendKeys(Key.chord(Key.CONTROL, "a"), "200 m");
    await signed();
    await click(driver, "edit-save");
    await says(driver, "edit", "This goes from 0 to 100,000 mm");
    await (await find(driver, "ask-slackMm")).sendKeys(Key.chord(Key.CONTROL, "a"), "4 cm");
    await click(driver, "edit-save");
    await says(driver, "job-rule-slackMm", "40 mm for this job; the shop has 30 mm");
    await says(driver, "edit-said", "wires longer by");
    await click(driver, "edit-back-slackMm");
    await click(driver, "edit-save");
    await says(driver, "job-rule-slackMm", "30 mm, as the shop has it");
    await takeAllBack();
    expect(await hashNow()).toBe(first);
  });

  test("an option is chosen, seen before and after, and taken back", async () => {
    await open("/jobs/LARK-2601/intake");
    await click(driver, "option-choose-orchestra-lift");
    const choices = await driver.findElements(By.css('[data-testid="ask-choice"] option'));
    const other = (await Promise.all(choices.map((c) => c.getAttribute("value")))).find((v) => v !== "")!;
    await (await find(driver, "ask-choice")).sendKeys(other);
    // It is shown without being asked for.
    const seen = await says(driver, "outlook", "wire to cut");
    expect(seen).toMatch(/\d+ devices new: /);
    expect(seen).toMatch(/\d+ wires new: /);
    expect(await violations(driver)).toEqual([]);
    if ((await driver.findElements(byId("edit-who"))).length > 0)
      await (await find(driver, "edit-who")).sendKeys(Key.chord(Key.CONTROL, "a"), "M. Orr");
    await click(driver, "edit-save");
    await says(driver, "option-told", other);
    // What it came to is what was said before.
    const more = /(\d+ wires more)/.exec(seen)![1]!;
    await says(driver, "edit-said", more);
    await click(driver, "undo");
    await says(driver, "edit-said", "All edits are undone");
    await says(driver, "edit-said", "wires gone");
  });

  test("a rule of the shop is changed, seen before, taken over, and put back", async () => {
    const total = async (): Promise<string> => {
      await open("/jobs/LARK-2601");
      return (await find(driver, "figure-total")).getText();
    };
    const first = await total();
    await open("/shop?section=routes");
    const slack = await find(driver, "rule-routes.slackMm");
    await slack.sendKeys(Key.chord(Key.CONTROL, "a"), "two");
    await says(driver, "rule-row-routes.slackMm", "Write a number");
    expect(await (await find(driver, "save-shop")).getAttribute("aria-disabled")).toBe("true");
    await slack.sendKeys(Key.chord(Key.CONTROL, "a"), "2 in");
    await says(driver, "draft", "slack at an end: 50.8 mm (was 30)");
    await click(driver, "see-effect");
    await says(driver, "effect-LARK-2601", "wires longer by");
    expect(await violations(driver)).toEqual([]);
    await (await find(driver, "shop-who")).sendKeys(Key.chord(Key.CONTROL, "a"), "A. Lund");
    await click(driver, "save-shop");
    await gone(driver, "draft");
    await says(driver, "shop-version", "version 2, A. Lund");
    await says(driver, "take-over", "LARK-2601");
    expect(await total()).toBe(first);
    await says(driver, "rule-routes", "stale");
    await click(driver, "take-over-LARK-2601");
    await gone(driver, "take-over");
    await driver.wait(async () => (await total()) !== first, WAIT_MS, "the slack changed no length");
    await open("/shop");
    await says(driver, "own-routes.slackMm", "50.8 mm (ships with 30)");
    await says(driver, "own-routes.slackMm", "Routes · changed in version 2, A. Lund");
    await click(driver, "own-routes.slackMm");
    await says(driver, "rule-own-routes.slackMm", "changed in version 2");
    if (size.phone) await click(driver, "all-sections");
    await click(driver, "section-versions");
    await click(driver, "put-back-1");
    await says(driver, "draft", "slack at an end: 30 mm (was 50.8)");
    await click(driver, "save-shop");
    await gone(driver, "draft");
    await click(driver, "take-over-LARK-2601");
    await driver.wait(async () => (await total()) === first, WAIT_MS, "the numbers did not come back");
  });

  test("the order of end treatments decides, by buttons and by dragging", async () => {
    await open("/shop?rule=ends");
    await says(driver, "row-ends-0", "takes");
    const treatment = async (row: number): Promise<string | null> =>
      (await find(driver, `cell-ends-${row}-clamp`)).getAttribute("value");
    const before = [await treatment(0), await treatment(1)];
    await click(driver, "down-ends-0");
    await driver.wait(async () => (await treatment(1)) === before[0], 5000, "the row did not go down");
    await says(driver, "draft", "end treatments: another order");
    // By keys, as whoever cannot drag does: take it up, move it, let it go.
    const grip = await driver.findElement(By.css('[aria-label="Drag row 2 of end treatments"]'));
    await grip.sendKeys(Key.SPACE);
    await driver.wait(async () => (await grip.getAttribute("aria-pressed")) === "true", 5000, "not taken up");
    await grip.sendKeys(Key.ARROW_UP);
    const live = () =>
      driver.executeScript<string>(
        "return [...document.querySelectorAll('[id^=DndLiveRegion]')].map((e) => e.textContent).join(' ');",
      );
    await driver.wait(
      async () => (await live()).includes("moved over droppable area 2"),
      5000,
      "the row was not moved",
    );
    await grip.sendKeys(Key.SPACE);
    await gone(driver, "draft");
    expect([await treatment(0), await treatment(1)]).toEqual(before);
    await click(driver, "add-ends");
    await says(driver, "draft", "needs: treatment");
    await click(driver, "discard");
    await gone(driver, "draft");
  });

  test("a new revision says what it brings before it is taken over", async () => {
    const design = JSON.parse(readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8")) as {
      job: { revision: string; code: string };
      wires: { number: string }[];
    };
    const write = (name: string, revision: string, wires: object[]): string => {
      const file = join(downloads, `${name}.bench.json`);
      writeFileSync(file, JSON.stringify({ ...design, job: { ...design.job, revision }, wires }));
      return file;
    };
    await open("/");
    await find(driver, "open-file");
    await pick(join(DESIGNS, "whole/hillfold.bench.json"));
    await says(driver, "to-desk", "HILL-2604");
    const wires = design.wires.slice(1).map((w, i) => (i === 0 ? { ...w, sizeMm2: 4 } : w));
    await open("/");
    await find(driver, "open-file");
    await pick(write("one", "R2", wires));
    const told = await says(driver, "revision", "revision R2 would replace");
    expect(told).toContain(`1 wire gone: ${design.wires[0]!.number}`);
    expect(told).toContain(`1 wire changed: ${design.wires[1]!.number}`);
    expect(await violations(driver)).toEqual([]);
    await click(driver, "revision-leave");
    await gone(driver, "revision");
    await pick(write("again", "R2", wires));
    await click(driver, "revision-take");
    await says(driver, "to-desk", "R2");
    await click(driver, "delete");
    await click(driver, "delete-sure");
    await gone(driver, "job-HILL-2604");
  });

  test("two people in one job: what the other did is told, and both edits stand", async () => {
    const other = await startBrowser(size);
    try {
      const paint = async (d: WebDriver, who: string, colour: string): Promise<void> => {
        await click(d, "edit-colour");
        await (await find(d, "ask-colour")).sendKeys(colour);
        const name = await d.findElements(byId("edit-who"));
        if (name[0]) await name[0].sendKeys(Key.chord(Key.CONTROL, "a"), who);
        await click(d, "edit-save");
      };
      await open("/jobs/LARK-2601/routes?wire=214");
      await other.get(`${bench.address}/jobs/LARK-2601/routes?wire=215`);
      await says(driver, "wire-details", "Ends and net");
      await says(other, "wire-details", "Ends and net");
      await paint(other, "T. Vane", "PK");
      await says(other, "edit-told", "wire 215: PK");
      await paint(driver, "M. Orr", "VT");
      const told = await says(driver, "edit-told", "wire 214: VT");
      expect(told).toContain("done meanwhile: T. Vane: wire 215: PK");
      await click(driver, "to-history");
      expect(await says(driver, "history", "wire 214: VT")).toContain("wire 215: PK");
      await click(driver, "undo");
      await says(driver, "edit-bar", "1 edit");
      // One's own are taken back unasked, another's not.
      await click(driver, "undo");
      await says(driver, "edit-asked", "by T. Vane: wire 215: PK");
      expect(await violations(driver)).toEqual([]);
      await click(driver, "turn-others");
      await says(driver, "edit-bar", "0 edits");
    } finally {
      await other.quit();
    }
  });

  test("presses of undo in a row: none is lost, also on top of one that is on its way", async () => {
    const api = `${bench.address}/api/jobs/LARK-2601`;
    for (const colour of ["RD", "VT", "PK", "OG", "GY"]) {
      const { designHash: on } = (await (await fetch(api)).json()) as { designHash: string };
      const edits = [{ kind: "set wires", payload: { wires: ["214"], colour } }];
      const reply = await fetch(`${api}/edits`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ on, who: "no name given", edits }),
      });
      expect(reply.status).toBe(201);
    }
    await open("/jobs/LARK-2601/routes?wire=214");
    await says(driver, "edit-bar", "5 edits");
    const press = async (times: number, ...keys: string[]): Promise<void> => {
      const a = driver.actions();
      for (let i = 0; i < times; i++) {
        for (const k of keys) a.keyDown(k);
        a.sendKeys("z");
        for (const k of [...keys].reverse()) a.keyUp(k);
      }
      await a.perform();
    };
    await press(5, Key.CONTROL);
    await says(driver, "edit-bar", "0 edits");
    await press(3, Key.CONTROL, Key.SHIFT);
    await says(driver, "edit-bar", "3 edits");
    const undo = await find(driver, "undo");
    for (let i = 0; i < 3; i++) await undo.click();
    await says(driver, "edit-bar", "0 edits");
  });

  if (size.phone) {
    test("a long press chooses many wires, which one edit changes", async () => {
      await open("/jobs/LARK-2601/routes?q=21*");
      if ((await driver.findElements(byId("as-list"))).length > 0) await click(driver, "as-list");
      const row = await find(driver, "wire-210");
      await driver.actions().move({ origin: row }).press().pause(800).release().perform();
      await says(driver, "many", "1 wire chosen");
      await click(driver, "wire-211");
      await says(driver, "many", "2 wires chosen");
      expect(await violations(driver)).toEqual([]);
      await click(driver, "many-colour");
      await (await find(driver, "ask-colour")).sendKeys("PK");
      const name = await driver.findElements(byId("edit-who"));
      if (name[0]) await name[0].sendKeys(Key.chord(Key.CONTROL, "a"), "M. Orr");
      await click(driver, "edit-save");
      await says(driver, "many-told", "wires 210, 211: PK");
      await says(driver, "wire-211", "PK");
      await click(driver, "undo");
      await says(driver, "edit-bar", "0 edits");
    });
  } else {
    test("a table of wires: sorted, filtered, many chosen by keys, copied, a column pasted back", async () => {
      await open("/jobs/LARK-2601/routes");
      await find(driver, "wire-list");
      await click(driver, "wire-list-filter");
      const filter = await find(driver, "wire-list-filter-number");
      await filter.sendKeys("21?");
      await says(driver, "wire-list-count", "10 of 513 fit");
      await click(driver, "wire-list-sort-length");
      const grid = await find(driver, "wire-list");
      await click(driver, "wire-214");
      await driver.wait(async () => (await path()).search.includes("wire=214"), 5000, "the row chose nothing");
      await grid.sendKeys(Key.HOME);
      await grid.sendKeys(Key.chord(Key.SHIFT, Key.ARROW_DOWN));
      await says(driver, "wire-list-count", "2 chosen");
      expect(await violations(driver)).toEqual([]);
      // What is copied is what a spreadsheet takes.
      const copied = await driver.executeScript<string>(`
        const data = new DataTransfer();
        document.querySelector('[data-testid="wire-list"]').dispatchEvent(
          new ClipboardEvent("copy", { clipboardData: data, bubbles: true, cancelable: true }));
        return data.getData("text/plain");
      `);
      const rows = copied.split("\n").map((l) => l.split("\t"));
      expect([rows.length, rows[0]!.slice(0, 4)]).toEqual([3, ["Wire", "From", "To", "Colour"]]);
      const [one, two] = [rows[1]![0]!, rows[2]![0]!];
      const cell = (id: string, column: number) =>
        driver.findElement(By.css(`[data-testid="wire-${id}"] [role=gridcell]:nth-child(${column})`));
      await cell(one, 4).click();
      await driver.actions().keyDown(Key.SHIFT).click(cell(two, 4)).keyUp(Key.SHIFT).perform();
      await says(driver, "wire-list-count", "2 chosen; what is pasted goes into Colour");
      const paste = (text: string) =>
        driver.executeScript(
          `
          const data = new DataTransfer();
          data.setData("text/plain", arguments[0]);
          document.querySelector('[data-testid="wire-list"]').dispatchEvent(
            new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
        `,
          text,
        );
      await paste("PK\npurple");
      await says(driver, "paste", '"purple" is none of');
      expect(await (await find(driver, "paste-save")).getAttribute("aria-disabled")).toBe("true");
      await click(driver, "paste-leave");
      await paste("PK\nTQ\n");
      await says(driver, "paste", "2 wires change");
      expect(await violations(driver)).toEqual([]);
      const name = await driver.findElements(byId("paste-who"));
      if (name[0]) await name[0].sendKeys(Key.chord(Key.CONTROL, "a"), "M. Orr");
      await click(driver, "paste-save");
      await says(driver, "table-told", `${one} PK; ${two} TQ`);
      await driver.wait(async () => (await cell(two, 4).getText()) === "TQ", 5000, "the colour is not there");
      await click(driver, "undo");
      await says(driver, "edit-bar", "0 edits");
      // Columns are chosen and remembered.
      await click(driver, "wire-list-columns");
      await click(driver, "column-net");
      await click(driver, "columns-close");
      await gone(driver, "wire-list-sort-net");
      await driver.navigate().refresh();
      await find(driver, "wire-list-sort-class");
      expect(await driver.findElements(byId("wire-list-sort-net"))).toHaveLength(0);
    });
  }

  test("an address that names what is not there says so above the view, and lets go of it", async () => {
    for (const [path, what] of [
      ["routes?wire=9999", "There is no wire 9999 here"],
      ["panel?duct=W99", "There is no duct W99 here"],
      ["lineups?cable=-W999", "There is no cable"],
      ["wireprep?show=leads&lead=9999", "There is no lead 9999 here"],
    ]) {
      await open(`/jobs/LARK-2601/${path}`);
      await says(driver, "not-here", what!);
      expect(await violations(driver)).toEqual([]);
      await click(driver, "not-here-close");
      await gone(driver, "not-here");
      expect(new URL(await driver.getCurrentUrl()).search).not.toContain("99");
    }
  });

  test("a server that is gone is named, and what was loaded stays", async () => {
    await open("/jobs/LARK-2601/routes?wire=214");
    await says(driver, "wire-length", "425 mm");
    await bench.stop();
    await click(driver, "open-search");
    await (await find(driver, "search-text")).sendKeys("-K1");
    await says(driver, "failed", "does not answer");
    await click(driver, "search-close");
    await says(driver, "wire-length", "425 mm");
    bench = await startBench();
    await open("/jobs/NIX");
    await says(driver, "failed", "There is no job NIX");
    expect(await violations(driver)).toEqual([]);
  });

  test("an address that leads nowhere says so", async () => {
    await open("/nix/nix");
    await says(driver, "empty", "There is no such view");
  });
});
