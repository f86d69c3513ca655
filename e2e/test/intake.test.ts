import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { JobDetail } from "@gray-bench/contract/jobs";
import { By, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { startBench, type BenchServer } from "../src/bench-server";
import { byId, click, find, gone, PHONE, says, startBrowser, WIDE, type Size } from "../src/browser";

jest.setTimeout(240_000);

const SALTMERE = join(__dirname, "../../designs/saltmere");
const FILES = ["Geraeteliste.csv", "Verbindungen.csv", "Klemmen und Kabel.xlsx", "Teile.csv"];

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("tables of a drawing office on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let folder: string;
  let first: string;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), "gray-bench-tables-"));
    bench = await startBench();
    driver = await startBrowser(size);
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    rmSync(folder, { recursive: true });
  });

  const send = async (id: string, files: readonly string[]) =>
    (await driver.findElement(byId(id))).sendKeys(files.join("\n"));
  const show = async (what: string): Promise<void> => {
    if (size.phone) await click(driver, `show-${what}`);
  };
  const type = async (id: string, text: string) => {
    const field = await find(driver, id);
    await field.clear();
    await field.sendKeys(text);
  };
  const job = async (): Promise<JobDetail> =>
    (await (await fetch(`${bench.address}/api/jobs/SALT-2701`)).json()) as JobDetail;

  test("files are opened together, and each says what it tells", async () => {
    await driver.get(bench.address);
    await find(driver, "empty");
    await send(
      "file-input",
      FILES.map((f) => join(SALTMERE, f)),
    );
    await says(driver, "table-1", "37 rows of devices");
    await says(driver, "table-2", "127 rows of connections");
    await says(driver, "table-3", "31 rows of terminals");
    await says(driver, "table-4", "12 rows of cables");
    await says(driver, "table-5", "left out");
    await says(driver, "table-6", "14 rows of parts");
    expect(await violations(driver)).toEqual([]);
  });

  test("a wrong column is noticed, and taken back", async () => {
    await click(driver, "table-2");
    await says(driver, "field-size", "1 of 127 not understood, first in line 130");
    await says(driver, "row-4", "4 mm²");
    await click(driver, "field-size");
    await says(driver, "field-examples", "is read as 2.5 mm²");
    expect(await violations(driver)).toEqual([]);
    await driver.findElement(By.xpath("//*[starts-with(@data-testid,'column-')][contains(.,'Potential')]")).click();
    await says(driver, "field-examples", "is not a cross-section");
    await click(driver, "field-done");
    await gone(driver, "of-field");
    await says(driver, "field-size", "127 of 127 not understood");
    await click(driver, "arrival-undo");
    await says(driver, "field-size", "1 of 127 not understood");
    expect(await violations(driver)).toEqual([]);
  });

  test("a tag is put together of two columns, with what comes of it in sight", async () => {
    await show("tables");
    await click(driver, "table-1");
    await click(driver, "field-tag");
    await click(driver, "field-pieces");
    await type("piece-1-before", "-");
    await click(driver, "piece-add");
    await type("piece-2-before", " of ");
    await says(driver, "field-examples", "is read as -Q0 of =B1");
    // That was only to look: one column is enough here.
    await click(driver, "piece-2-out");
    await says(driver, "field-examples", /is read as -Q0(\n|$)/);
    await click(driver, "field-done");
    await gone(driver, "of-field");
  });

  if (!size.phone)
    test("a column is dragged onto a field", async () => {
      const [from, to] = [await find(driver, "heading-Anlage"), await find(driver, "field-text")];
      const end = await to.getRect();
      await driver
        .actions()
        .move({ origin: from })
        .press()
        .move({ x: Math.round(end.x + 60), y: Math.round(end.y + 20), duration: 200 })
        .move({ x: Math.round(end.x + 80), y: Math.round(end.y + 20), duration: 100 })
        .release()
        .perform();
      await says(driver, "field-text", "Anlage");
      await click(driver, "arrival-undo");
      await says(driver, "field-text", "Benennung");
    });

  test("what is not read and what is missing is seen before the job is made", async () => {
    await show("outcome");
    await says(driver, "counts", "67 devices, 126 wires, 2 strips, 4 cables");
    await says(driver, "not-read", "another tag than");
    await says(driver, "lacks", "such as: wire 65 goes to -\u2060K05");
    await type("job-code", "SALT-2701");
    await type("job-title", "Saltmere lift bridge, control box");
    await type("job-revision", "A");
    await says(driver, "arrival-take", "Make job SALT-2701");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "arrival-take");
    await says(driver, "figure-wires", "0 of 126");
    first = (await job()).designHash;
    await driver.get(`${bench.address}/jobs/SALT-2701/open-points`);
    await driver.wait(
      async () =>
        (
          await driver.findElements(
            By.xpath("//*[contains(text(),'120 wires have no length: there is no layout yet')]"),
          )
        ).length > 0,
      30_000,
      "the missing layout is not told",
    );
  });

  test("a new revision of one table shows what it changes; the first can be put back", async () => {
    const changed = join(folder, "Verbindungen.csv");
    const text = readFileSync(join(SALTMERE, "Verbindungen.csv"), "utf8");
    writeFileSync(changed, text.replace("1;L1;-X1:1;-Q0:1;4;sw", "1;L1;-X1:1;-Q0:1;6;sw").replaceAll("-K05:", "-K5:"));
    await driver.get(`${bench.address}/jobs/SALT-2701/intake`);
    await says(driver, "sources", "Geraeteliste.csv");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "sources-new");
    await find(driver, "arrival-add");
    await send("arrival-input", [changed]);
    await show("outcome");
    await type("job-revision", "B");
    await says(driver, "revision", "3 wires changed");
    await click(driver, "arrival-take");
    await says(driver, "to-desk", "SALT-2701");
    await driver.wait(async () => (await job()).revision === "B", 30_000, "revision B does not count");
    await driver.get(`${bench.address}/jobs/SALT-2701/intake`);
    await click(driver, "put-back-A");
    await click(driver, "put-back-A-now");
    await driver.wait(async () => (await job()).designHash === first, 30_000, "not the first design again");
  });

  test("the library of the shop is imported, looked through, and completes the job when it is taken over", async () => {
    await driver.get(`${bench.address}/library`);
    await find(driver, "library-open");
    expect(await violations(driver)).toEqual([]);
    await send("library-input", [join(SALTMERE, "../demo.library.json")]);
    await says(driver, "library-outlook", "89 new: BL-C12");
    await type("library-who", "Ina");
    await click(driver, "library-take");
    await says(driver, "library-count", "89 parts");
    await type("library-find", "contactor");
    await says(driver, "library-count", "2 parts");
    await click(driver, "part-OH-K9");
    await says(driver, "part-details", "45 mm × 78 mm × 90 mm");
    expect(await violations(driver)).toEqual([]);
    await driver.navigate().refresh();
    await says(driver, "part-details", "OH-K25");

    await driver.get(`${bench.address}/jobs/SALT-2701/intake`);
    await says(driver, "take-library", "does not complete them yet");
    await click(driver, "lacking-see");
    await says(driver, "lacking-stages", "14 parts without pins, 60 devices");
    await click(driver, "library-see");
    await says(driver, "library-effect", "14 parts changed");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "library-take-over");
    await gone(driver, "take-library");
    const { open } = (await (await fetch(`${bench.address}/api/jobs/SALT-2701/open-points`)).json()) as {
      open: { kind: string }[];
    };
    const kinds = new Set(open.map((p) => p.kind));
    expect([kinds.has("no pins"), kinds.has("unknown part"), kinds.has("no layout")]).toEqual([false, false, true]);
  });

  /** Taps the drawing at a share of its width and height. */
  const tap = async (x: number, y: number): Promise<void> => {
    const surface = await find(driver, "drawing");
    const { width, height } = await surface.getRect();
    const at = { x: Math.round(width * (x - 0.5)), y: Math.round(height * (y - 0.5)) };
    await driver
      .actions()
      .move({ origin: surface, ...at })
      .click()
      .perform();
  };

  test("the drawing comes later, with the schematic: its faces are tapped, what it does not say is written", async () => {
    await driver.get(`${bench.address}/jobs/SALT-2701/intake`);
    await click(driver, "sources-new");
    await find(driver, "arrival-add");
    await send(
      "arrival-input",
      ["Aufbau.dxf", "Stromlaufplan.pdf"].map((f) => join(SALTMERE, f)),
    );
    await says(driver, "arrived-Stromlaufplan.pdf", "16 pages, 1 without text; goes with the job as it is");
    await says(driver, "drawing-1", "say which faces it shows");
    await click(driver, "drawing-1");
    await says(driver, "no-views", "Tap the edge of a plate");
    expect(await violations(driver)).toEqual([]);
    await tap(0.29, 0.52);
    await says(driver, "face-form", "700 mm × 900 mm, 27 tags");
    await says(driver, "unit-unknown", "does not say its unit");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "face-take");
    await says(driver, "view-1", "25 devices, 2 strips, 6 ducts, 3 rails, 4 holes");
    await tap(0.68, 0.53);
    await says(driver, "face-take", "door of +A1");
    await click(driver, "face-take");
    await says(driver, "view-2", "11 devices, 1 duct");
    await says(driver, "enclosure-lacks", "its depth, how far its plate stands behind the door");
    await type("enclosure-d", "30 cm");
    await type("enclosure-setback", "265");
    await gone(driver, "enclosure-lacks");
    await type("enclosure-crossings", "550");
    for (const part of ["FW-D60", "FW-D40", "FW-TS35"]) {
      await click(driver, `bar-offer-${part}`);
      await gone(driver, `bar-offer-${part}`);
    }
    await says(driver, "not-taken", "2 not taken");
    expect(await violations(driver)).toEqual([]);
  });

  test("a layer taken for the wrong thing is noticed, and taken back", async () => {
    await (await find(driver, "layer-KANAL")).sendKeys("nothing");
    await says(driver, "view-1", "25 devices, 2 strips, 3 rails");
    await click(driver, "arrival-undo");
    await says(driver, "view-1", "6 ducts");
    await driver.navigate().refresh();
    await says(driver, "view-2", "11 devices, 1 duct");
  });

  test("the wires then have their lengths, and the files it was made of stay with it", async () => {
    await show("outcome");
    await type("job-revision", "C");
    await says(driver, "revision", "What revision C changes");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "arrival-take");
    // Revision B has mended two of the six that led to nobody.
    await says(driver, "figure-wires", "122 of 126");
    await driver.get(`${bench.address}/jobs/SALT-2701/routes?wire=2`);
    // As wire 1 (84.5, 39, 30, 400, 30, 32.5, 76.5, tails and slack: 805), by a terminal of 12 and a pin of 35 mm further.
    await driver.wait(
      async () => (await driver.findElements(By.xpath("//*[text()='850 mm']"))).length > 0,
      30_000,
      "wire 2 has not its length",
    );
    await driver.get(`${bench.address}/jobs/SALT-2701/intake`);
    await says(driver, "sources", "+A1 plate · +A1 door");
  });

  test("a device leads to its page of the schematic, and a tag on a page to its thing", async () => {
    await driver.get(`${bench.address}/jobs/SALT-2701/panel?device=-K13`);
    await says(driver, "on-pages", "sheet 8");
    await click(driver, "sheet-8");
    await says(driver, "chosen-thing", "-K13");
    await gone(driver, "page-drawing");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "on-page-device--K11");
    await says(driver, "chosen-thing", "-K11");
    // It stands in the middle of what is seen. Beside it nothing is chosen, and nothing moves.
    await tap(0.3, 0.5);
    await gone(driver, "chosen-thing");
    await tap(0.5, 0.5);
    await says(driver, "chosen-thing", "-K11");
    await click(driver, "page-next");
    await says(driver, "page-doubtful", "-K20 is nothing of the design");
    await driver.navigate().back();
    await says(driver, "chosen-thing", "-K11");
    await type("page-number", "14\n");
    await says(driver, "page-empty", "no text");
    await click(driver, "to-attachments");
    await says(driver, "findings", "K20, sheet 9");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "attachment-Stromlaufplan.pdf-off");
    await says(driver, "attachments-gone", "Stromlaufplan.pdf");
    await click(driver, "attach-undo");
    await gone(driver, "attachments-gone");
    await driver.get(`${bench.address}/jobs/SALT-2701/panel?device=-K13`);
    const photo = join(folder, "K13.png");
    writeFileSync(photo, Buffer.from(await driver.takeScreenshot(), "base64"));
    await find(driver, "attach");
    await send("attach-input", [photo]);
    await click(driver, "attached-K13.png");
    await says(driver, "page-things", "Attached to device");
  });

  test("a part that nobody describes is drawn: its body by numbers, its pins by tapping", async () => {
    await driver.get(`${bench.address}/jobs/SALT-2701/intake?parts=1`);
    await says(driver, "lacking", "Nothing: every part is described");
    expect(await violations(driver)).toEqual([]);
    await driver.get(`${bench.address}/library/SM-77`);
    await says(driver, "part-lacks", "without a size");
    await type("part-w", "45");
    await type("part-h", "3.5 in");
    await type("part-d", "70");
    await says(driver, "part-lacks", "without a kind, without pins");
    // Near the upper edge, in the middle of it.
    await tap(0.5, 0.24);
    await says(driver, "pin-landed", /At 22\.5 mm, \d/);
    await type("pin-name", "A1");
    await says(driver, "pin-form", "Pin A1");
    await click(driver, "pin-repeat");
    await says(driver, "pin-row", "2 more: A2, A3");
    await click(driver, "pin-row-add");
    await says(driver, "pins", "A3");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "part-undo");
    await driver.wait(async () => (await driver.findElements(byId("pin-A3"))).length === 0, 5000, "A3 is still there");
    await driver.navigate().refresh();
    await find(driver, "pin-A1");
    await type("part-who", "Ina");
    await click(driver, "part-save");
    await gone(driver, "part-save-tray");
    const library = async () =>
      ((await (await fetch(`${bench.address}/api/library`)).json()) as { parts: { number: string; lossW?: number }[] })
        .parts;
    const pin = { name: "A1", x: 22.5, exit: "up" };
    expect((await library()).at(-1)).toMatchObject({ number: "SM-77", w: 45, h: 88.9, d: 70, pins: [pin] });

    // Many at once: a single value for all that are listed.
    await driver.get(`${bench.address}/library?lacks=loss`);
    await says(driver, "library-count", "4 parts");
    await click(driver, "fill-open");
    await type("fill-text", "3,3 watts");
    await says(driver, "fill-told", "4 not taken");
    await type("fill-text", "3,3 W");
    await says(driver, "fill-told", "QM-HORN: nothing → 3.3");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "part-save");
    await gone(driver, "fill");
    expect((await library()).filter((p) => p.lossW === 3.3).map((p) => p.number)).toEqual([
      "TT-EF230",
      "TT-EF560",
      "QM-HORN",
      "SM-77",
    ]);
  });

  test("columns are kept under a name and found again; files that are not wanted go", async () => {
    await driver.get(bench.address);
    await find(driver, "open-file");
    await send("file-input", [join(SALTMERE, "Verbindungen.csv")]);
    await says(driver, "table-1", "connections");
    await show("outcome");
    await type("matching-name", "Saltmere");
    await click(driver, "matching-keep");
    await says(driver, "matching-kept", "Kept as Saltmere: 1 table");
    await click(driver, "arrival-delete");
    await click(driver, "arrival-delete-now");
    await find(driver, "open-file");
    await send("file-input", [join(SALTMERE, "Verbindungen.csv")]);
    await says(driver, "table-1", "read as for Saltmere");
    await driver.get(bench.address);
    await says(driver, "arrivals", "Verbindungen.csv");
    // What is no table is refused by name, and leaves nothing behind.
    const pdf = join(folder, "plan.csv");
    writeFileSync(pdf, "%PDF-1.7");
    await send("file-input", [pdf]);
    await says(driver, "failed", "plan.csv cannot be attached: a damaged PDF");
    expect(await driver.findElements(By.css('[data-testid="arrivals"] [role="listitem"]'))).toHaveLength(1);
  });
});
