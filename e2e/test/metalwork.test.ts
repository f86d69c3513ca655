import { readFileSync } from "node:fs";
import { join } from "node:path";
import { serve, type Listening } from "@gray-bench/standins/src/drill/serve";
import { DrillingMachine } from "@gray-bench/standins/src/drill/shop";
import { readTable } from "@gray-bench/standins/src/drill/table";
import { Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(240_000);

const root = join(__dirname, "../..");
const LARK = readFileSync(join(root, "designs/whole/larkmoor.bench.json"), "utf8");
const TABLE = readTable(readFileSync(join(root, "standins/machines/tallow-3.json"), "utf8"));

/** One wall box: a panel meter whose cutout lies over a stiffener of the door, a drive with plain holes, a duct. */
function boxDesign(): string {
  const part = (number: string, category: string, more: object) => ({
    number,
    maker: "Oakhollow",
    text: number,
    category,
    d: 40,
    ...more,
  });
  return JSON.stringify({
    ...(JSON.parse(LARK) as object),
    job: { code: "BOX-1", title: "Wall box", revision: "A" },
    ...Object.fromEntries(["crossings", "nets", "wires", "strips", "options", "attachments"].map((k) => [k, []])),
    enclosures: [
      {
        tag: "+K1",
        w: 500,
        h: 500,
        d: 250,
        plate: { w: 450, h: 450, setback: 210, thickness: 2, material: "galvanised steel" },
        sheet: { thickness: 1.5, material: "painted steel" },
      },
    ],
    faces: [{ enclosure: "+K1", kind: "door", keepOuts: [{ x: 200, y: 0, w: 30, h: 500, text: "stiffener" }] }],
    parts: [
      part("M-1", "operator", {
        w: 100,
        h: 60,
        mounts: [{ kind: "door" }],
        holes: [{ kind: "rect", x: 5, y: 5, w: 90, h: 50, r: 2 }],
      }),
      part("D-1", "other", {
        w: 120,
        h: 120,
        mounts: [{ kind: "plate" }],
        holes: [
          { kind: "round", x: 10, y: 10, d: 5.5 },
          { kind: "round", x: 110, y: 110, d: 5.5 },
        ],
      }),
      part("G-25", "gland", {
        w: 32,
        h: 32,
        mounts: [{ kind: "plate" }],
        holes: [{ kind: "round", x: 16, y: 16, d: 25.3 }],
        gland: { thread: "M25x1.5", cableMin: 9, cableMax: 17 },
      }),
      part("W-40", "duct", { w: 2000, h: 40, d: 60, duct: { innerW: 36, innerH: 54 } }),
    ],
    rails: [],
    ducts: [{ tag: "W1", face: "+K1/plate", x: 20, y: 20, run: "right", length: 400, part: "W-40" }],
    devices: [
      { tag: "-P1", part: "M-1", on: { face: "+K1/door", x: 150, y: 300 } },
      { tag: "-U1", part: "D-1", on: { face: "+K1/plate", x: 100, y: 200 } },
    ],
    cables: [
      { tag: "-W1", type: "C", outer: 12, from: "+K1", cores: [] },
      { tag: "-W2", type: "C", outer: 14, from: "+K1", cores: [] },
      { tag: "-W3", type: "C", outer: 40, from: "+K1", cores: [] },
    ],
    rules: {},
  });
}

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("metalwork on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let machine: DrillingMachine;
  let line: Listening;
  const open = (query: string, job = "BOX-1") => driver.get(`${bench.address}/jobs/${job}/metalwork?${query}`);
  const kinds = async (): Promise<string[]> => {
    const reply = await fetch(`${bench.address}/api/jobs/BOX-1/open-points`);
    return ((await reply.json()) as { open: { stage: string; kind: string }[] }).open
      .filter((p) => p.stage === "metalwork")
      .map((p) => p.kind);
  };
  const type = async (id: string, text: string): Promise<void> => {
    const field = await find(driver, id);
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), text);
  };
  const lay = async (): Promise<void> => {
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
  };
  const params = async (): Promise<URLSearchParams> => new URL(await driver.getCurrentUrl()).searchParams;

  beforeAll(async () => {
    machine = new DrillingMachine(TABLE, 60);
    line = await serve(machine, { tcp: 0, http: 0 });
    bench = await startBench(["--machine", `Tallow 3=127.0.0.1:${line.tcp},http://127.0.0.1:${line.http}`]);
    await importDesign(bench, LARK);
    await importDesign(bench, boxDesign());
    driver = await startBrowser(size);
    await driver.get(bench.address);
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ length: "mm", size: "mm2", light: "day", name: "M. Orr" }))`,
    );
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    await line?.close();
  });

  test("a cutout over a stiffener is found, seen where it is, and moved", async () => {
    expect(await kinds()).toContain("hole in a keep-out");
    await driver.get(`${bench.address}/jobs/BOX-1/open-points`);
    await click(driver, "point-device--P1");
    await says(driver, "hole-head", "90 × 50");
    await says(driver, "seen-from", "+K1/door, seen from outside");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "hole-place");
    await type("ask-x", "280");
    await lay();
    await says(driver, "hole-x", "330 mm");
    await driver.wait(async () => !(await kinds()).includes("hole in a keep-out"), WAIT_MS, "it still lies there");
    await click(driver, "undo");
    await says(driver, "hole-x", "200 mm");
  });

  test("why a hole is just there; chosen in the list, seen in the drawing; Back lets go", async () => {
    await open("face=%2BK1/plate&show=holes");
    await click(driver, "hole-5");
    await says(driver, "hole-head", "Hole 5: Ø 5.5");
    await says(driver, "working", "hole 2 of the pattern of D-1");
    await says(driver, "working-total", "210 mm");
    await click(driver, "working-y");
    await says(driver, "working-total", "310 mm");
    expect((await params()).get("hole")).toBe("5");
    expect(await violations(driver)).toEqual([]);
    await driver.navigate().back();
  });

  test("a pattern is switched to tapped, and off, and what is not drilled is told", async () => {
    await open("face=%2BK1/plate&hole=5&show=holes");
    await click(driver, "hole-fixing--U1");
    await (await find(driver, "ask-fixing")).sendKeys("tapped");
    await lay();
    await says(driver, "hole-head", "M5, core Ø 4.2");
    await click(driver, "hole-fixing--U1");
    await (await find(driver, "ask-fixing")).sendKeys("not drilled");
    await lay();
    await open("face=%2BK1/plate&show=sheet");
    await says(driver, "not-drilled", "-U1: 2 holes");
    await says(driver, "sheet-seen", "Drilled as seen from front on Tallow 3");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "undo");
    await gone(driver, "not-drilled");
  });

  test("an own hole is added, moved and taken away", async () => {
    await open("face=%2BK1/door&show=sheet");
    await click(driver, "own-add-round");
    await type("ask-x", "400");
    await type("ask-y", "100");
    await type("ask-d", "22.3");
    await lay();
    await open("face=%2BK1/door&hole=1&show=holes");
    await says(driver, "hole-head", "Hole 1: Ø 22.3");
    await click(driver, "hole-change-hole");
    await type("ask-x", "420");
    await lay();
    await says(driver, "hole-x", "420 mm");
    await click(driver, "hole-drop-hole");
    await lay();
    await says(driver, "hole-head", "90 × 50");
  });

  test("the order is stepped through, with its time, its bound and what the list would take", async () => {
    await open("face=%2BA2/plate&show=order", "LARK-2601");
    await says(driver, "order-sum", /No order takes less than \d+ min \d+ s/);
    await click(driver, "order-next");
    await says(driver, "order-now", /^change to T3: drill Ø 4\.2, hole \d+/);
    await click(driver, "order-next");
    expect((await params()).get("at")).toBe("2");
    await click(driver, "order-working");
    await says(driver, "working", "one-trees");
    expect(await violations(driver)).toEqual([]);
  });

  test("a program goes to the machine and comes back done; the sheet is scrapped and made again", async () => {
    await open("face=%2BK1/plate&show=machine");
    await says(driver, "card-seen", "FRONT SIDE UP");
    await says(driver, "machine-state", "Tallow 3 is free");
    await find(driver, "lie");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "sheet-begin");
    await click(driver, "send-program");
    await says(driver, "program-state", /is made in \d+/);
    const [job] = machine.list().slice(-1);
    expect(machine.job(job!.id)!.made.holes.length).toBeGreaterThan(4);
    await click(driver, "sheet-done");
    await says(driver, "sheet-state", "Sheet 1: done, M. Orr");
    await click(driver, "sheet-scrap");
    await (await find(driver, "scrap-why")).sendKeys("lay wrong");
    await click(driver, "scrap-now");
    await says(driver, "scrapped", "Sheet 1 scrapped: lay wrong, M. Orr");
    await says(driver, "sheet-state", "Sheet 2: to be made");
    await click(driver, "sheet-begin");
    machine.breakAt(0.4);
    await click(driver, "send-program");
    await says(driver, "program-state", "broke off");
    await says(driver, "program-fault", "the tool broke");
    await says(driver, "machine-state", "stands still with a fault");
  });

  test("the machine goes away in the middle of a sheet: the card stays usable, and hears it again", async () => {
    await open("face=%2BA2/plate&show=machine", "LARK-2601");
    await click(driver, "send-program");
    await says(driver, "program-state", "is being made");
    const ports = { tcp: line.tcp, http: line.http };
    await line.close();
    await says(driver, "machine-state", /Tallow 3 is away: it (cannot be reached|does not answer), last heard/);
    await says(driver, "program-state", "when it was last heard of");
    await find(driver, "take-program");
    await click(driver, "sheet-begin");
    await says(driver, "sheet-state", "Sheet 1: begun");
    machine = new DrillingMachine(TABLE, 60);
    line = await serve(machine, ports);
    await says(driver, "program-gone", "does not know program");
    await says(driver, "machine-state", "Tallow 3 is free");
  });

  test("a cut is ticked off at the saw, and taken back", async () => {
    await open("page=saw");
    await says(driver, "saw-length", "400 mm");
    await says(driver, "saw-label", "W1");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "saw-done");
    await says(driver, "saw-sum", "1 of 2 cut");
    await says(driver, "saw-label", "W1 cover");
    await driver.wait(
      async () => {
        const reply = await fetch(`${bench.address}/api/jobs/BOX-1/events?kind=tick&thing=cuts`);
        return ((await reply.json()) as { events: { what: string }[] }).events.some((t) => t.what === "ticked");
      },
      WAIT_MS,
      "the cut was not kept",
    );
    await click(driver, "saw-back");
    await says(driver, "saw-sum", "0 of 2 cut");
    await open("page=bars", "LARK-2601");
    await says(driver, "bars-sum", "proved the fewest");
    await click(driver, "list-rail FW-TS35");
    await says(driver, "working", "Martello");
    expect(await violations(driver)).toEqual([]);
  });

  test("glands are proposed for cables without one, and laid; a cable that none grips is told", async () => {
    await open("cable=-W1");
    await says(driver, "entry-+K1", "2 cables have no gland yet");
    await says(driver, "entry-+K1", "no gland of the library grips 40 mm");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "entry-lay-glands");
    await lay();
    await says(driver, "plugs-+K1", "1 spare gland has a blind plug: -XE3");
    await open("face=%2BK1/base&show=holes");
    await find(driver, "hole-3");
    await click(driver, "undo");
    await open("page=entries", "LARK-2601");
    await find(driver, "entry-+A2");
  });
});
