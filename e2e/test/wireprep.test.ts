import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { BatchReply, WireMachineList } from "@gray-bench/contract/wireprep";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { EndPiece } from "@gray-bench/core/wireprep/rules";
import type { Shop } from "@gray-bench/core/shop/shop";
import { memoryJournal } from "@gray-bench/standins/src/wire/journal";
import { WireMachine } from "@gray-bench/standins/src/wire/machine";
import { serveWire, type Listening } from "@gray-bench/standins/src/wire/serve";
import { readWireTable } from "@gray-bench/standins/src/wire/table";
import { By, Key, type WebDriver } from "selenium-webdriver";
import { violations } from "../src/axe";
import { byId, click, find, gone, PHONE, says, startBrowser, WAIT_MS, WIDE, type Size } from "../src/browser";
import { importDesign, startBench, type BenchServer } from "../src/bench-server";

jest.setTimeout(240_000);

const root = join(__dirname, "../..");
const LARK = readFileSync(join(root, "designs/whole/larkmoor.bench.json"), "utf8");
const HILL = readFileSync(join(root, "designs/whole/hillfold.bench.json"), "utf8");
const TABLE = readWireTable(readFileSync(join(root, "standins/machines/brack-2.json"), "utf8"));
/** Leads are made in no time, so that nobody waits. */
const FACTOR = 3000;

describe.each<[string, Size]>([
  ["on a phone", PHONE],
  ["wide", WIDE],
])("wire prep %s", (_, size) => {
  let bench: BenchServer;
  let machine: WireMachine;
  let line: Listening;
  let driver: WebDriver;

  beforeAll(async () => {
    machine = new WireMachine(TABLE, memoryJournal(), { pull: 0, jam: 0, seed: 1, spoils: [3, 9] });
    line = await serveWire(machine, { tcp: 0, http: 0, factor: FACTOR });
    bench = await startBench(["--wire-machine", `Brack 2=127.0.0.1:${line.tcp},http://127.0.0.1:${line.http}`]);
    await importDesign(bench, LARK);
    await importDesign(bench, HILL);
    driver = await startBrowser(size);
  });
  afterEach(() => network(false));
  afterAll(async () => {
    await driver?.quit();
    await bench?.stop();
    await line?.close();
  });

  const open = async (path: string, wait: string): Promise<void> => {
    await driver.get(`${bench.address}${path}`);
    await find(driver, wait);
  };
  const type = async (id: string, text: string): Promise<void> => {
    const field = await find(driver, id);
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), text);
  };
  const network = async (offline: boolean): Promise<void> => {
    const tools = driver as unknown as { sendDevToolsCommand(c: string, p: object): Promise<void> };
    await tools.sendDevToolsCommand("Network.enable", {});
    await tools.sendDevToolsCommand("Network.emulateNetworkConditions", {
      offline,
      latency: 0,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
  };
  const get = async <T>(path: string): Promise<T> => (await (await fetch(`${bench.address}/api${path}`)).json()) as T;
  const batch = (name = "B1") => get<BatchReply>(`/jobs/HILL-2604/batches/${name}`);
  const wireprep = (query: Record<string, string> = {}, job = "HILL-2604"): string =>
    `/jobs/${job}/wireprep?${new URLSearchParams(query).toString()}`;
  const lacking = async (): Promise<number> => {
    const { open: points } = await get<{ open: OpenPoint[] }>("/jobs/LARK-2601/open-points");
    return points.filter((p) => p.kind === "nothing for an end").length;
  };

  test("a rule is added, and forty open points and more are gone", async () => {
    const { shop, hash } = await get<{ shop: Shop; hash: string }>("/shop");
    const pieces = shop.rules.wireprep.pieces.filter((p: EndPiece) => p.part !== "S-F1.5");
    expect(pieces).toHaveLength(shop.rules.wireprep.pieces.length - 1);
    const poorer = { ...shop, rules: { ...shop.rules, wireprep: { ...shop.rules.wireprep, pieces } } };
    await fetch(`${bench.address}/api/shop`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ on: hash, who: "A. Lund", shop: poorer }),
    });
    await open("/shop", "take-over");
    await click(driver, "take-over-LARK-2601");
    await driver.wait(async () => (await lacking()) >= 40, 20_000, "nothing lacks");
    await open(wireprep({ show: "leads" }, "LARK-2601"), size.phone ? "lead-list" : "leads");
    await says(driver, "rule-wireprep", /\d{2,3} open/);
    await open("/shop?section=wireprep", "add-wireprep.pieces");
    const row = pieces.length;
    await click(driver, "add-wireprep.pieces");
    const cell = (key: string): string => `cell-wireprep.pieces-${row}-${key}`;
    const choice = await find(driver, cell("end"));
    await choice.findElement(By.css('option[value="ferrule"]')).click();
    await type(cell("sizeMinMm2"), "1.01");
    await type(cell("sizeMaxMm2"), "1.5");
    await type(cell("part"), "S-F1.5");
    await type(cell("sleeve"), "black");
    await type(cell("stripMm"), "10");
    await says(driver, `row-wireprep.pieces-${row}`, /takes \d+ wires now/);
    await type("shop-who", "A. Lund");
    await click(driver, "save-shop");
    await gone(driver, "draft");
    await click(driver, "take-over-LARK-2601");
    await driver.wait(async () => (await lacking()) === 0, 20_000, "something still lacks");
  });

  test("a pattern is checked while it is typed, and shown on real wires", async () => {
    await open("/shop?rule=wireprep.labelTo", "rule-wireprep.labelTo");
    await type("rule-wireprep.labelTo", "{there");
    await says(driver, "rule-wrong-wireprep.labelTo", "At sign 1: this brace is not closed");
    expect(await (await find(driver, "save-shop")).getAttribute("aria-disabled")).toBe("true");
    await type("rule-wireprep.labelTo", "{wire}/{there}");
    await says(driver, "examples-wireprep.labelTo", /^\d+\/-\S+:\S+/);
    await click(driver, "discard");
  });

  test("leads are shown with both ends, where a strip length comes from, and what they are made of", async () => {
    const all = size.phone ? "lead-list" : "leads";
    await open(wireprep({ show: "leads", lead: "46", working: "from" }, "LARK-2601"), all);
    await says(driver, "lead-details", "twin ferrule S-T16");
    await says(driver, "working", "the longer one counts");
    await says(driver, "working-total", "16 mm");
    expect(await violations(driver)).toEqual([]);
    await open(wireprep({ show: "material" }, "LARK-2601"), "material");
    await click(driver, "reel-1");
    await says(driver, "reel-details", "waste on the machine");
    expect(await violations(driver)).toEqual([]);
    await open(wireprep({}, "LARK-2601"), "savings");
    await click(driver, "saved-hand");
    await says(driver, "working", "in money");
    expect(await violations(driver)).toEqual([]);
  });

  test("a batch runs with an empty reel and two failed crimps, and ends complete", async () => {
    await open(wireprep({ show: "new" }), "outlook");
    await says(driver, "outlook", /\d+ on Brack 2/);
    await type("batch-who", "M. Orr");
    expect(await violations(driver)).toEqual([]);
    await click(driver, "make-batch");
    await says(driver, "batch-count", /0 of \d+ made/);
    await click(driver, "send-batch");
    // A wrong reel is refused, the right one with hardly anything on it runs out.
    const wanted = await says(driver, "wanted-reel", /\S/);
    await type("reel-code", "some other reel");
    await click(driver, "reel-code-take");
    await says(driver, "wire-machine", "is the wrong reel");
    expect(await violations(driver)).toEqual([]);
    await type("reel-code", wanted.replace(/\u2060/g, ""));
    const { plan, leads: made } = (await batch()).batch;
    const first = plan.chains.flat().map((w) => made.find((l) => l.wire === w)!);
    const off = first.filter((l) => l.type === first[0]!.type).reduce((sum, l) => sum + l.lengthMm, 0);
    await type("reel-metres", (off / 2000).toFixed(1));
    await click(driver, "reel-code-take");
    let ranOut = false;
    const machines = async () => (await get<WireMachineList>("/wire-machines")).machines[0]!;
    const leads = (await batch()).batch.plan.chains.flat().length;
    await driver.wait(
      async () => {
        const { wait } = await machines();
        if (wait?.out && wait.kind === "reel") ranOut = true;
        const id = wait?.kind === "reel" ? "reel-mounted" : wait?.kind === "magazine" ? "magazine-filled" : null;
        if (id !== null)
          for (const button of await driver.findElements(byId(id))) await button.click().catch(() => undefined);
        return (await batch()).summary.made === leads;
      },
      120_000,
      "the batch does not end",
    );
    expect(ranOut).toBe(true);
    const done = await batch();
    const failed = done.events.filter((e) => e.what === "failed");
    expect(failed.map((e) => e.why)).toEqual(["pull force", "pull force"]);
    expect(done.runs.filter((r) => r.takes === "leads").length).toBeGreaterThan(1);
    await says(driver, "batch-count", new RegExp(`${leads} of ${done.summary.leads} made`));
    const good = machine.jobs().flatMap((j) => j.made.filter((m) => m.result === "good").map((m) => m.wire));
    expect(new Set(good)).toEqual(new Set(done.batch.plan.chains.flat()));
  });

  test("leads of another panel are made at the bench, ticked lead by lead, also without a network", async () => {
    const made = await fetch(`${bench.address}/api/jobs/HILL-2604/batches`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ faces: [], panels: 2, machine: null, way: "bundles", fallbacks: null, who: "M. Orr" }),
    });
    expect(made.ok).toBe(true);
    await open(wireprep({ batch: "B2", show: "card" }), "lead-card");
    expect(await violations(driver)).toEqual([]);
    const first = await says(driver, "card-wire", /\S/);
    await click(driver, "lead-done");
    await driver.wait(
      async () => (await (await find(driver, "card-wire")).getText()) !== first,
      WAIT_MS,
      "the next lead does not come",
    );
    await driver.wait(async () => (await batch("B2")).summary.made === 1, WAIT_MS, "it was not sent");
    await network(true);
    const second = await says(driver, "card-wire", /\S/);
    await click(driver, "lead-done");
    await says(driver, "batch-waiting", "1 entry waits to be sent");
    expect((await batch("B2")).summary.made).toBe(1);
    await network(false);
    await driver.wait(async () => (await batch("B2")).summary.made === 2, 20_000, "it was not sent later");
    await click(driver, "lead-undo");
    await driver.wait(async () => (await batch("B2")).summary.made === 1, WAIT_MS, "it was not undone");
    await says(driver, "card-wire", second);
  });

  test("a lead is made again", async () => {
    const leads = (await batch()).summary.made;
    const [lead] = (await batch()).batch.plan.chains.find((c) => c.length === 1)!;
    await open(wireprep({ batch: "B1", show: "card", of: "made", lead: lead! }), "lead-card");
    await says(driver, "card-state", /made by/);
    await click(driver, "lead-again");
    await click(driver, "why-crimp bad");
    await says(driver, "card-why", "crimp bad");
    await driver.wait(async () => (await batch()).summary.made === leads - 1, WAIT_MS, "it still counts as made");
    await click(driver, "to-batch");
    await says(driver, "batch-count", "1 being made again");
    await click(driver, "send-batch");
    await driver.wait(
      async () => {
        const { machines } = await get<WireMachineList>("/wire-machines");
        const wait = machines[0]!.wait;
        const id = wait?.kind === "reel" ? "reel-mounted" : wait?.kind === "magazine" ? "magazine-filled" : null;
        if (id !== null)
          for (const button of await driver.findElements(byId(id))) await button.click().catch(() => undefined);
        return (await batch()).summary.made === leads;
      },
      60_000,
      "it is not made again",
    );
    const times = machine.jobs().flatMap((j) => j.made.filter((m) => m.wire === lead && m.result === "good"));
    expect(times).toHaveLength(2);
  });
});
