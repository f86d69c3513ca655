import type { Design } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { mkdtempSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";
import { byId, click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";

jest.setTimeout(240_000);

const HILL = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/hillfold.bench.json"), "utf8")) as Design;
const TAG = "-G1";

/** The observatory with a supply that is 15 mm too deep for its door. */
function tooDeep(): Design {
  const { part } = HILL.devices.find((d) => d.tag === TAG)!;
  const whole = HILL.parts.find((p) => p.number === part)!;
  const rail = HILL.rails.find((r) => r.tag === HILL.devices.find((d) => d.tag === TAG)!.on!.rail)!;
  const { d: high } = HILL.parts.find((p) => p.number === rail.part)!;
  const { setback } = HILL.enclosures[0]!.plate!;
  const deep = { ...whole, number: "DEEP", text: "deep supply", d: setback - high + 15 };
  return {
    ...HILL,
    parts: [...HILL.parts, deep],
    devices: HILL.devices.map((d) => (d.tag === TAG ? { ...d, part: "DEEP" } : d)),
  };
}

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("the panel on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  let downloads: string;
  const at = (query: string): string => `${bench.address}/jobs/HILL-2604/panel?${query}`;
  const panel = async (): Promise<PanelResult> =>
    (await (await fetch(`${bench.address}/api/jobs/HILL-2604/stages/panel`)).json()) as PanelResult;
  const chosen = async (name: string): Promise<string | null> =>
    new URL(await driver.getCurrentUrl()).searchParams.get(name);

  beforeAll(async () => {
    downloads = mkdtempSync(join(tmpdir(), "gray-bench-panel-"));
    bench = await startBench();
    await importDesign(bench, JSON.stringify(tooDeep()));
    driver = await startBrowser(size, { downloads });
    await driver.get(bench.address);
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ length: "mm", size: "mm2", light: "day", name: "M. Orr" }))`,
    );
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    rmSync(downloads, { recursive: true });
  });

  test("a supply too deep for the door is told with its millimetres, and looked at from all sides", async () => {
    await driver.get(at(""));
    await says(driver, "as-clashes", "Clashes (1)");
    await click(driver, "as-clashes");
    await says(driver, `clash-panel/too deep/device/${TAG}`, /15 mm too deep/);
    expect(await violations(driver)).toEqual([]);
    await click(driver, "as-depth");
    const canvas = await find(driver, "depth-canvas");
    expect(Number(await canvas.getAttribute("data-blocks"))).toBeGreaterThan((await panel()).devices.length);
    expect(await canvas.getAttribute("aria-label")).toContain("clashes of 1 marked");
    for (const side of ["front", "left", "above", "corner"]) await click(driver, `depth-${side}`);
    const open = await find(driver, "depth-open");
    await open.sendKeys(Key.END);
    await says(driver, "depth-open-said", /^by \d+°$/);
    expect(await violations(driver)).toEqual([]);
  });

  test("the model holds every device, duct and plate, in metres", async () => {
    await click(driver, "depth-model");
    const file = (): string | undefined => readdirSync(downloads).find((f) => f.endsWith(".glb"));
    await driver.wait(() => file() !== undefined, WAIT_MS, "no model came");
    const bytes = readFileSync(join(downloads, file()!));
    // Binary glTF 2.0: a head of 12 bytes, then a chunk of JSON with its length before it.
    expect([bytes.toString("latin1", 0, 4), bytes.readUInt32LE(4)]).toEqual(["glTF", 2]);
    const { nodes } = JSON.parse(bytes.toString("utf8", 20, 20 + bytes.readUInt32LE(12))) as {
      nodes: { name?: string; matrix?: number[]; extras?: { of?: string } }[];
    };
    const names = nodes.map((n) => n.extras?.of ?? n.name);
    const { devices, ducts } = await panel();
    expect(names).toEqual(expect.arrayContaining([...devices, ...ducts].map((d) => d.tag)));
    expect(names).toContain("+A1/plate");
    const { matrix } = nodes.find((n) => n.name === "cabinets")!;
    expect([0, 5, 10].map((i) => matrix![i])).toEqual([0.001, 0.001, 0.001]);
  });

  test("what is tapped in depth is chosen, as in the drawing", async () => {
    await click(driver, "depth-layer-door");
    await click(driver, "depth-front");
    let found: string | null = null;
    for (let n = 0; n < 81 && found === null; n++) {
      const canvas = await find(driver, "depth-canvas");
      const { width, height } = await canvas.getRect();
      const [x, y] = [(((n % 9) - 4) / 10) * width, ((Math.floor(n / 9) - 4) / 10) * height].map(Math.round);
      await driver.actions().move({ origin: canvas, x: x!, y: y! }).click().perform();
      found = await chosen("device");
      // A duct or rail was met: its details would lie in the way of the next tap.
      if (found === null) await driver.actions().sendKeys(Key.ESCAPE).perform();
    }
    expect((await panel()).devices.map((d) => d.tag)).toContain(found);
    await find(driver, "device-details");
    await click(driver, "as-drawing");
    expect(await chosen("device")).toBe(found);
  });

  test("another part mends it: nothing clashes any more", async () => {
    const { part } = HILL.devices.find((d) => d.tag === TAG)!;
    await driver.get(at(`device=${TAG}`));
    await says(driver, "device-details", /15 mm too deep/);
    await click(driver, "edit-swap");
    const input = await find(driver, "ask-part");
    if ((await input.getTagName()) === "select") await input.sendKeys(part);
    else await input.sendKeys(Key.chord(Key.CONTROL, "a"), part);
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
    await driver.get(at("show=clashes"));
    await says(driver, "clashes", /Nothing clashes/);
    expect((await panel()).clashes).toEqual([]);
  });

  test("a device is moved by steps: shown, let go, put there by one edit, and taken back", async () => {
    const outline = async () => (await panel()).devices.find((d) => d.tag === "-S1")!.outline;
    const before = await outline();
    await driver.get(at("device=-S1"));
    await click(driver, "nudge-step-10");
    await click(driver, "nudge-right");
    await click(driver, "nudge-right");
    await click(driver, "nudge-step-1");
    await click(driver, "nudge-up");
    await says(driver, "nudge-said", "20 mm to the right, 1 mm up");
    await click(driver, "nudge-cancel");
    await gone(driver, "nudge-said");
    expect(await outline()).toEqual(before);
    await click(driver, "nudge-left");
    await click(driver, "nudge-put");
    await says(driver, "nudge-told", /placed on/);
    await driver.wait(async () => (await outline()).x === before.x - 1, WAIT_MS, "it did not move");
    await click(driver, "undo");
    await driver.wait(async () => (await outline()).x === before.x, WAIT_MS, "it did not come back");
  });

  test("a layout sheet is downloaded, and its figures are those of the panel", async () => {
    await driver.get(at("show=sheet"));
    await find(driver, "layout-picture");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "layout-svg");
    const file = (): string | undefined => readdirSync(downloads).find((f) => f.endsWith(".svg"));
    await driver.wait(() => file() !== undefined, WAIT_MS, "no file came");
    const svg = readFileSync(join(downloads, file()!), "utf8");
    const words = [...svg.matchAll(/<text [^>]*>([^<]*)<\/text>/g)].map(([, t]) => t!);
    const { faces, rails } = await panel();
    const face = faces.find((f) => svg.includes(`<title>layout ${f.id}</title>`))!;
    const here = rails.filter((r) => r.face === face.id && r.run === "right");
    expect(here.length).toBeGreaterThan(0);
    for (const { outline: o } of here)
      for (const mm of [o.y + o.h / 2, o.x, o.x + o.w]) expect(words).toContain(String(Math.round(mm * 100) / 100));
    expect(words.some((w) => w.startsWith("1 : ") && w.endsWith("M. Orr"))).toBe(true);
    expect(await driver.findElements(byId("legend-1"))).toHaveLength(1);
  });
});
