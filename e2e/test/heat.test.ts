import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { byId, click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(240_000);

const LARK = readFileSync(join(__dirname, "../../designs/whole/larkmoor.bench.json"), "utf8");

/** One cabinet with a cooling unit low in its door, two drives below and one under the roof. */
function hotDesign(): string {
  const { parts } = JSON.parse(LARK) as { parts: object[] };
  const on = (face: string, tag: string, part: string, x: number, y: number) => ({
    tag,
    part,
    on: { face: `+H1/${face}`, x, y },
  });
  return JSON.stringify({
    ...(JSON.parse(LARK) as object),
    job: { code: "HOT-1", title: "Hot drive", revision: "A" },
    enclosures: [
      {
        tag: "+H1",
        w: 800,
        h: 2000,
        d: 500,
        plate: { w: 700, h: 1900, setback: 440, thickness: 3, material: "galvanised steel" },
        sheet: { thickness: 1.5, material: "painted steel" },
      },
    ],
    ...Object.fromEntries(
      ["faces", "rails", "ducts", "crossings", "nets", "wires", "cables", "strips", "options", "attachments"].map(
        (k) => [k, []],
      ),
    ),
    parts,
    devices: [
      on("door", "-E1", "TT-CU1000", 235, 500),
      on("plate", "-U1", "OH-VD11", 60, 300),
      on("plate", "-U2", "OH-VD11", 260, 300),
      on("plate", "-U3", "OH-VD11", 260, 1500),
    ],
    rules: { heat: { outsideMaxC: 32, insideMaxC: 38 } },
  });
}

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("heat on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let downloads: string;
  const open = (query: string, job = "LARK-2601") => driver.get(`${bench.address}/jobs/${job}/heat?${query}`);
  const table = async (): Promise<Record<string, string>[]> =>
    parse(await (await fetch(`${bench.address}/api/jobs/LARK-2601/files/heat.csv`)).text(), { columns: true });
  const search = async (): Promise<URLSearchParams> => new URL(await driver.getCurrentUrl()).searchParams;
  /** Mounts a proposal: on a phone on its card, wide in its row. */
  const mount = async (key: string): Promise<void> => {
    if (!size.phone) await click(driver, `unit-${key}`);
    await click(driver, `unit-mount-${key}`);
  };
  const lay = async (): Promise<void> => {
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
  };
  /** Takes the last edit back; so many of the theatre are left. */
  const undone = async (left: number): Promise<void> => {
    await click(driver, "undo");
    await driver.wait(
      async () => {
        const reply = await fetch(`${bench.address}/api/jobs/LARK-2601/edits`);
        const { edits } = (await reply.json()) as { edits: { back?: object }[] };
        return edits.filter((e) => !e.back).length === left;
      },
      WAIT_MS,
      "an edit was not taken back",
    );
  };
  const downloaded = async (end: string): Promise<string> => {
    const file = (): string | undefined => readdirSync(downloads).find((f) => f.endsWith(end));
    await driver.wait(() => file() !== undefined, 60_000, `no ${end} came`);
    return join(downloads, file()!);
  };

  beforeAll(async () => {
    downloads = mkdtempSync(join(tmpdir(), "gray-bench-heat-"));
    bench = await startBench();
    await importDesign(bench, LARK);
    await importDesign(bench, hotDesign());
    driver = await startBrowser(size, { downloads });
    await driver.get(bench.address);
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ length: "mm", size: "mm2", light: "day", name: "M. Orr" }))`,
    );
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    rmSync(downloads, { recursive: true, force: true });
  });

  test("the cabinet that is too hot in August gets a unit that fits, which is taken back", async () => {
    await open("zone=%2BA2");
    await says(driver, "verdict", /^short by \d+ W$/);
    await find(driver, "map-+A2/plate");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "show-units");
    await says(driver, "thumb", "rule of thumb");
    await find(driver, "unit-chart");
    await find(driver, "unit-1xTT-CU2500");
    expect(await violations(driver)).toEqual([]);
    await mount("1xTT-CU2500");
    await says(driver, "edit", "TT-CU2500 on +A2/right");
    await lay();
    await says(driver, "verdict", /^fits: \d+ % duty$/);
    const rows = await table();
    expect(rows.find((r) => r.zone === "'+A2" && r.figure === "unit")!.value).toBe("TT-CU2500");
    await click(driver, "undo");
    await says(driver, "verdict", /^short by/);
  });

  test("a unit that is too large is replaced by one that fits, and what that saves is seen", async () => {
    await open("zone=%2BA1&show=units");
    await says(driver, "verdict", "fits: 20 % duty");
    await says(driver, "verdict-more", "short cycles");
    await says(driver, "standing", "116 kWh a year");
    if (size.phone) await says(driver, "unit-1xTT-FF560", "saves 86 kWh");
    else {
      await click(driver, "unit-1xTT-FF560");
      await says(driver, "units", "saves 86 kWh");
      expect((await search()).get("unit")).toBe("1xTT-FF560");
    }
    await mount("1xTT-FF560");
    await says(driver, "edit", "TT-FF560 on +A1/door");
    await lay();
    await says(driver, "verdict", "fits: 53 % duty");
    await says(driver, "standing", "31 kWh a year");
    const kept = (await table()).find((r) => r.zone === "'+A1" && r.figure === "duty")!;
    expect(Math.round(Number(kept.value))).toBe(53);
    // The fan and its outlet filter, one edit each.
    await undone(1);
    await undone(0);
    await says(driver, "verdict", "fits: 20 % duty");
  });

  test("a hot drive is found, and moved to where it is cool", async () => {
    await open("zone=%2BH1&show=devices", "HOT-1");
    if (size.phone) await click(driver, "device-order-trouble");
    await says(driver, "heat-row--U3", "may carry less");
    await click(driver, size.phone ? "heat-choose--U3" : "heat-row--U3");
    await says(driver, "heat-device", /may carry \d+ % of its rating/);
    expect(await violations(driver)).toEqual([]);
    await click(driver, "device-in-panel");
    await click(driver, "edit-place");
    for (const [field, value] of [
      ["x", "460"],
      ["y", "300"],
    ])
      await (await find(driver, `ask-${field}`)).sendKeys(Key.chord(Key.CONTROL, "a"), value!);
    await lay();
    await open("zone=%2BH1&show=devices&device=-U3", "HOT-1");
    await says(driver, "heat-device", "may carry 100 % of its rating");
    expect(await (await find(driver, "heat-row--U3")).getText()).not.toContain("may carry less");
    await click(driver, "undo");
    await says(driver, "heat-row--U3", "may carry less");
  });

  test("winter water is seen, and heaters are chosen", async () => {
    await open("zone=%2BB1&figure=dew_point");
    await says(driver, "verdict", "too cold by");
    await says(driver, "working", "water settles on the");
    await click(driver, "show-units");
    await says(driver, "unit-chart", "Coldest hour");
    await mount("2xTT-H60");
    await says(driver, "edit", "as -E1, -E2");
    await lay();
    await says(driver, "verdict", "keeps itself");
    await says(driver, "standing", "120 W put in");
    await undone(1);
    await undone(0);
    await says(driver, "verdict", "too cold by");
  });

  test("a figure says how it came to be, under an address of its own", async () => {
    await open("zone=%2BA1");
    await click(driver, "figure-cooling_needed");
    await says(driver, "working", "through the walls");
    await driver.navigate().refresh();
    await says(driver, "working", "through the walls");
  });

  test("a mild winter typed in °F dries stage left; shown in °F it is the same", async () => {
    await open("zone=%2BB1");
    await says(driver, "verdict", "too cold by");
    await click(driver, "heat-around");
    await (await find(driver, "ask-outsideMinC")).sendKeys(Key.chord(Key.CONTROL, "a"), "-900");
    await click(driver, "edit-save");
    await says(driver, "edit", "Nothing is colder");
    await (await find(driver, "ask-outsideMinC")).sendKeys(Key.chord(Key.CONTROL, "a"), "68 °F");
    await lay();
    await says(driver, "verdict", "keeps itself");
    await says(driver, "heat-head", "20 °C in the coldest");
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ temperature: "F", name: "M. Orr" }))`,
    );
    await driver.navigate().refresh();
    await says(driver, "heat-head", "68 °F in the coldest");
    await click(driver, "heat-around");
    expect(await (await find(driver, "ask-outsideMinC")).getAttribute("value")).toBe("68");
    await click(driver, "edit-leave");
    await driver.executeScript(`localStorage.setItem("gray-bench.settings", JSON.stringify({ name: "M. Orr" }))`);
    await click(driver, "undo");
    await says(driver, "verdict", "too cold by");
  });

  test("what if: the thumb, the address, Back, and taken over as edits", async () => {
    await open("zone=%2BA2&show=try");
    await says(driver, "tried-verdict", /^short by/);
    const slider = await find(driver, "slide-out");
    await slider.sendKeys(...Array.from({ length: 12 }, () => Key.ARROW_LEFT));
    await says(driver, "slide-out-said", "25 °C");
    await says(driver, "tried-verdict", /^fits: \d+ % duty$/);
    await driver.wait(async () => (await search()).get("out") === "25", WAIT_MS, "the address does not say it");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "try-door-open");
    await says(driver, "try", "An open door lets air in below");
    expect((await search()).get("door")).toBe("open");
    await driver.navigate().back();
    await driver.wait(async () => (await search()).get("door") === null, WAIT_MS, "Back left the door open");
    await click(driver, "try-unit--E20");
    await says(driver, "try-figures", "no unit blows");
    await (await find(driver, "try-more")).sendKeys("TT-CU2500");
    await click(driver, "try-add");
    await says(driver, "try-less-0", "TT-CU2500");
    await says(driver, "tried-verdict", /^fits: \d+ % duty$/);
    await driver.navigate().refresh();
    await says(driver, "tried-verdict", /^fits: \d+ % duty$/);
    await click(driver, "try-take-over");
    await says(driver, "edit", "3 edits are laid on the design");
    await lay();
    await open("zone=%2BA2&show=units");
    await says(driver, "standing", "TT-CU2500");
    for (let left = 2; left >= 0; left--) await undone(left);
    await says(driver, "standing", "TT-CU1500");
  });

  test("the way of the air: a deflector is tried, placed, and taken back", async () => {
    await open("zone=%2BA2&show=air");
    await find(driver, "air-map-+A2/plate");
    await says(driver, "air-+A2/plate", "40 % of the free +A2/plate");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "turn-left");
    await says(driver, "air-+A2/plate", "46 % of the free +A2/plate");
    await says(driver, "air-+A2/plate", "Without this change it is 40 %");
    await click(driver, "air-outlet-left");
    await lay();
    await driver.wait(
      async () =>
        /^46 %/.test(await (await find(driver, "air-+A2/plate")).getText()) &&
        (await driver.findElements(byId("air-outlet-left"))).length === 0,
      WAIT_MS,
      "the deflector is not there",
    );
    await click(driver, "undo");
    await open("zone=%2BA2&show=air");
    await says(driver, "air-+A2/plate", "40 % of the free +A2/plate");
  });

  test("the report is downloaded, and its figures are those of the table", async () => {
    await open("zone=%2BA2");
    await click(driver, "file-heat.pdf");
    const file = await downloaded("heat.pdf");
    const { pages } = JSON.parse(
      execFileSync(process.execPath, [join(__dirname, "../../core/src/test/read-pdf.mjs")], {
        input: readFileSync(file),
        maxBuffer: 1e8,
      }).toString(),
    ) as { pages: { texts: { str: string }[] }[] };
    const text = pages.flatMap((p) => p.texts.map((t) => t.str)).join(" ");
    const rows = (await table()).filter((r) => r.zone === "'+A2");
    const figure = (name: string): number => Number(rows.find((r) => r.figure === name)!.value);
    const rounded = (v: number, digits: number): number => Math.round(v * 10 ** digits) / 10 ** digits;
    for (const said of [
      `${rounded(figure("loss"), 2)} W`,
      `${rounded(figure("cooling_needed"), 2)} W`,
      `${rounded(figure("coefficient"), 3)} W/K`,
      `${rounded(figure("inside_without_cooling"), 2)} °C`,
      `${rounded(figure("duty"), 1)} %`,
    ])
      expect(text).toContain(said);
    expect(text).toContain("1 × TT-CU1500 over the temperature outside");
  });
});
