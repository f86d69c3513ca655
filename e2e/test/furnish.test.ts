import type { Design } from "@gray-bench/core/design/model";
import type { PanelResult, PlacedDevice } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { By, Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";
import { click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";

jest.setTimeout(240_000);

const HILL = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/hillfold.bench.json"), "utf8")) as Design;
const LOOSE = ["-F1", "-G1", "-K1", "-K2", "-K3", "-K4", "-Q1"];

/** The observatory as it arrives from many: what stands on the plate has no place, and there is no rail and no duct. */
const EMPTY: Design = {
  ...HILL,
  rails: [],
  ducts: HILL.ducts.filter((d) => d.face !== "+A1/plate"),
  crossings: [],
  strips: [],
  devices: HILL.devices
    .filter((d) => d.on?.rail === undefined || LOOSE.includes(d.tag))
    .map(({ on, ...d }) => (on?.rail === undefined ? { ...d, ...(on ? { on } : {}) } : d)),
  wires: HILL.wires.filter((w) => ![w.from?.device, w.to?.device].some((t) => t?.startsWith("-X1."))),
  cables: [],
  nets: HILL.nets,
};

describe.each<[string, Size]>([
  ["phone", PHONE],
  ["wide", WIDE],
])("an empty plate is furnished on a %s screen", (_name, size) => {
  let bench: BenchServer;
  let driver: WebDriver;
  const at = (query: string): string => `${bench.address}/jobs/HILL-2604/panel?${query}`;
  const panel = async (): Promise<PanelResult> =>
    (await (await fetch(`${bench.address}/api/jobs/HILL-2604/stages/panel`)).json()) as PanelResult;
  const device = async (tag: string): Promise<PlacedDevice | undefined> =>
    (await panel()).devices.find((d) => d.tag === tag);
  const becomes = (what: string, holds: () => Promise<boolean>): Promise<boolean> =>
    driver.wait(holds, WAIT_MS, `${what} did not come about`) as Promise<boolean>;

  beforeAll(async () => {
    bench = await startBench();
    await importDesign(bench, JSON.stringify(EMPTY));
    driver = await startBrowser(size);
    await driver.get(bench.address);
    await driver.executeScript(
      `localStorage.setItem("gray-bench.settings", JSON.stringify({ length: "mm", size: "mm2", light: "day", name: "M. Orr" }))`,
    );
  });
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
  });

  const fill = async (field: string, value: string): Promise<void> => {
    const input = await find(driver, `ask-${field}`);
    if ((await input.getTagName()) === "select")
      await (await input.findElement(By.xpath(`./option[starts-with(., "${value}")]`))).click();
    else await input.sendKeys(Key.chord(Key.CONTROL, "a"), value);
  };
  const save = async (): Promise<void> => {
    await click(driver, "edit-save");
    await gone(driver, "edit-save");
  };

  const chooseLoose = async (): Promise<void> => {
    await driver.get(at(""));
    if (size.phone) {
      await click(driver, "as-list");
      await driver.actions().move({ origin: await find(driver, `device-${LOOSE[0]}`) }).press().pause(800).release().perform(); // prettier-ignore
      for (const tag of LOOSE.slice(1)) await click(driver, `device-${tag}`);
    } else {
      await click(driver, `device-${LOOSE[0]}`);
      for (const tag of LOOSE.slice(1))
        await driver.actions().keyDown(Key.CONTROL).click(await find(driver, `device-${tag}`)).keyUp(Key.CONTROL).perform(); // prettier-ignore
    }
  };

  test("two rails and three ducts are added at a pitch; one that leaves the plate is refused in words", async () => {
    await driver.get(at(""));
    if (size.phone) await click(driver, "as-list");
    const add = size.phone ? "add-add-bar" : "faces-add-bar";
    const bars = [
      { part: "FW-TS35", x: "48", y: "482.5", length: "454", times: "2", pitch: "-240" },
      { part: "FW-D40", x: "40", y: "610", length: "470", times: "3", pitch: "-240" },
    ];
    for (const bar of bars) {
      await click(driver, add);
      for (const [field, value] of Object.entries(bar)) await fill(field, value);
      await save();
    }
    await becomes(
      "rails and ducts",
      async () => (await panel()).ducts.filter((d) => d.face === "+A1/plate").length === 3,
    );
    const { rails, ducts } = await panel();
    expect(rails.map((r) => [r.tag, r.outline.y])).toEqual([["R1", 482.5], ["R2", 242.5]]); // prettier-ignore
    expect(ducts.filter((d) => d.face === "+A1/plate").map((d) => d.outline.y)).toEqual([610, 370, 130]);
    await click(driver, add);
    for (const [field, value] of Object.entries({ x: "300", y: "20", length: "454" })) await fill(field, value);
    await says(driver, "edit", /./);
    await click(driver, "edit-save");
    await says(driver, "edit", /would reach 204 mm beyond \+A1\/plate/);
    expect(await violations(driver)).toEqual([]);
    await click(driver, "edit-leave");
  });

  test("all loose devices go onto the rails in one edit, and nothing clashes", async () => {
    await chooseLoose();
    await click(driver, "many-line-up");
    await save();
    await says(driver, "devices-told", /lined up on/);
    await becomes("a place for each", async () => (await panel()).loose.length === 0);
    const { devices, clashes, open } = await panel();
    expect(devices.filter((d) => d.carrier?.startsWith("R")).map((d) => d.tag).sort()).toEqual(LOOSE); // prettier-ignore
    expect(clashes.filter((c) => c.a.thing === "device" && LOOSE.includes(c.a.of) && c.b.thing === "device")).toEqual(
      [],
    );
    expect(open.filter((p) => p.kind === "off its rail")).toEqual([]);
  });

  test("a proposal for them is shown with what it is worth, laid by one edit, and taken back", async () => {
    const wire = async (): Promise<number> =>
      ((await (await fetch(`${bench.address}/api/jobs/HILL-2604/stages/routes`)).json()) as RoutesResult).totalMm;
    const [before, stood] = [await wire(), (await panel()).devices.map((d) => d.outline)];
    await chooseLoose();
    await click(driver, "many-furnish");
    await click(driver, "furnish-order-rows");
    await click(driver, "furnish-propose");
    await says(driver, "furnish-worth", /From pin to pin [\d,.]+ mm; in the order of the list/);
    await click(driver, "furnish-order-free");
    await gone(driver, "furnish-found");
    await click(driver, "furnish-propose");
    await says(driver, "furnish-worth", /none is shorter/);
    const said = await says(driver, "furnish-found", /mm less wire/);
    const less = Number(/([\d,.]+) mm less wire/.exec(said)![1]!.replace(/,/g, ""));
    expect(await violations(driver)).toEqual([]);
    await click(driver, "furnish-put");
    await gone(driver, "furnish-put");
    await says(driver, "devices-told", /placed on/);
    await becomes("shorter wires", async () => Math.abs(before - (await wire()) - less) < 1);
    const { loose, clashes } = await panel();
    expect([loose, clashes.filter((c) => c.kind === "bodies overlap")]).toEqual([[], []]);
    await click(driver, "undo");
    await becomes("the places of before", async () => JSON.stringify((await panel()).devices.map((d) => d.outline)) === JSON.stringify(stood)); // prettier-ignore
  });

  test("the chosen one is dragged: it takes hold on the other rail, others make way, one edit lays it, and it is taken back", async () => {
    const before = (await device("-K2"))!;
    expect(before.carrier).toBe("R1");
    await driver.get(at("device=-K2"));
    await find(driver, "device-details");
    const drawing = await find(driver, "drawing");
    const middle = async (): Promise<[x: number, y: number, w: number]> => {
      const [d, m] = [await drawing.getRect(), await (await find(driver, "chosen-mark")).getRect()];
      return [m.x + m.width / 2 - d.x - d.width / 2, m.y + m.height / 2 - d.y - d.height / 2, m.width];
    };
    const [x, y, w] = (await middle()).map(Math.round) as [number, number, number];
    const mm = w / before.outline.w;
    const from = { origin: drawing, x, y };
    // Down by the distance of the rails: it takes hold there, with its datum on the rail.
    await driver.actions().move(from).press().move({ ...from, x: x + 8 }).move({ ...from, y: y + Math.round(235 * mm) }).perform(); // prettier-ignore
    await says(driver, "drag-said", /Let go here: .*(on R2|behind|before)/);
    await says(driver, "drag-said", /nothing clashes|too near|bodies overlap/);
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    await gone(driver, "drag-said");
    await driver.actions().release().perform();
    expect((await device("-K2"))!.outline).toEqual(before.outline);
    await driver.actions().move(from).press().move({ ...from, x: x + 8 }).move({ ...from, y: y + Math.round(235 * mm) }).release().perform(); // prettier-ignore
    await says(driver, "drag-told", /placed|put/);
    await becomes("its place on R2", async () => (await device("-K2"))!.carrier === "R2");
    expect((await panel()).clashes.filter((c) => c.kind === "bodies overlap")).toEqual([]);
    expect(new URL(await driver.getCurrentUrl()).searchParams.get("device")).toBe("-K2");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "undo");
    await becomes("the place of before", async () => (await device("-K2"))!.carrier === "R1");
  });

  test("gaps are made even and closed, and a deleted rail leaves its devices loose", async () => {
    await driver.get(at("rail=R1"));
    await click(driver, "edit-close");
    await fill("gap", "10");
    await save();
    await says(driver, "edit-told", /10 mm apart/);
    const row = async (): Promise<PlacedDevice[]> =>
      (await panel()).devices.filter((d) => d.carrier === "R1").sort((a, b) => a.outline.x - b.outline.x);
    await becomes("gaps of 10 mm", async () => {
      const on = await row();
      return on.slice(1).every((d, i) => Math.abs(d.outline.x - on[i]!.outline.x - on[i]!.outline.w - 10) < 1e-6);
    });
    const count = (await row()).length;
    await click(driver, "edit-bar-remove");
    await save();
    await becomes("loose devices", async () => (await panel()).loose.length === count);
    await click(driver, "undo");
    await becomes("all in place", async () => (await panel()).loose.length === 0);
  });
});
