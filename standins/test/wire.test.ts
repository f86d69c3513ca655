import { appendFileSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { coloursOf } from "@gray-bench/core/wiring/landings";
import { lookUp } from "@gray-bench/core/design/lookup";
import { OpenPoints } from "@gray-bench/core/design/open-points";
import { PREP_RULES, type PrepRules } from "@gray-bench/core/wireprep/rules";
import { defaultsOf } from "@gray-bench/core/shop/rule-kinds";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { runStages } from "@gray-bench/core/run";
import { demo } from "@gray-bench/core/test/demo";
import { runs } from "@gray-bench/core/test/runs";
import { batchOf } from "@gray-bench/core/wireprep/batches";
import { chainsOf } from "@gray-bench/core/wireprep/chains";
import { leadsOf } from "@gray-bench/core/wireprep/leads";
import { leastChange } from "@gray-bench/core/wireprep/order";
import { machineFile } from "@gray-bench/core/wireprep/profile";
import type { Chain, Lead } from "@gray-bench/core/wireprep/result";
import { fileJournal, memoryJournal } from "../src/wire/journal";
import { resultFile, WireMachine, type Trouble } from "../src/wire/machine";
import { readOrders } from "../src/wire/read";
import { serveWire } from "../src/wire/serve";
import { readWireTable, type Made, type WireTable } from "../src/wire/table";

const RULES = defaultsOf(PREP_RULES) as unknown as PrepRules;
const table = (name: string): WireTable =>
  readWireTable(readFileSync(join(__dirname, `../machines/${name}.json`), "utf8"));
const MACHINES = [
  ["Sedgeley", "sedgeley"],
  ["Brack 2", "brack-2"],
] as const;

const chains = ((): Chain[] => {
  const design = demo("larkmoor");
  const { stages } = runStages(design);
  const { leads } = leadsOf(
    {
      look: lookUp(design),
      panel: stages.panel as PanelResult,
      routes: stages.routes as RoutesResult,
      colours: coloursOf(design, SHOP_RULES.classes),
    },
    RULES,
    new OpenPoints("wireprep"),
  );
  // A machine is told a wire of the library.
  return chainsOf(leads.filter((l) => l.type !== null));
})();

const planFor = (name: string): Chain[] => {
  const machine = RULES.machines.find((m) => m.name === name)!;
  return leastChange(batchOf(chains, {}, machine, RULES).machine, machine).chains;
};
const fileFor = (name: string, batch: string, plan: readonly Chain[]): Uint8Array => {
  const machine = RULES.machines.find((m) => m.name === name)!;
  const file = machineFile(machine.profile!, batch, plan, RULES);
  if (!file.ok) throw new Error(file.reasons.join("; "));
  return file.bytes;
};
const leadsIn = (plan: readonly Chain[]): Lead[] => plan.flatMap((c) => c.leads);

/** Whoever stands at the machine: gives it what it waits for, until it has nothing to do. */
function attend(machine: WireMachine, until = Infinity): void {
  for (let n = 0; n < until; n++) {
    machine.advance(5);
    const { state, wait } = machine.state();
    if (state === "idle") return;
    if (wait?.kind === "reel") {
      expect(machine.mount("some other reel", 100)).toContain("is the wrong reel");
      expect(machine.mount(wait.reel, 100)).toBeNull();
    } else if (wait?.kind === "magazine") machine.fill(wait.part);
    else if (wait?.kind === "jam") machine.clear();
  }
}

const good = (made: readonly Made[]): Made[] => made.filter((m) => m.result === "good");

describe.each(MACHINES)("the loop is closed on %s", (name, file) => {
  const plan = planFor(name);

  test("what it made is the plan, lead for lead, in its order", () => {
    expect(leadsIn(plan).length).toBeGreaterThan(100);
    const machine = new WireMachine(table(file), memoryJournal());
    const taken = machine.take("B1", fileFor(name, "B1", plan));
    if (!taken.ok) throw new Error(JSON.stringify(taken.faults));
    expect(taken.job.orders.map((o) => [o.wire, o.reel, o.size, o.a.text, o.b.text])).toEqual(
      leadsIn(plan).map((l) => [l.wire, l.type, l.sizeMm2, l.from.label, l.to.label]),
    );
    expect(taken.job.orders.map((o) => [o.a.part, o.b.part])).toEqual(
      leadsIn(plan).map((l) => [l.from.part ?? "", l.to.part ?? ""]),
    );
    attend(machine);
    expect(taken.job.made.map((m) => [m.wire, m.length, m.result])).toEqual(
      leadsIn(plan).map((l) => [l.wire, l.lengthMm, "good"]),
    );
    const rows = parse(resultFile(taken.job), { delimiter: ";", columns: true }) as Record<string, string>[];
    expect(rows.map((r) => [r.wire, Number(r.length_mm)])).toEqual(leadsIn(plan).map((l) => [l.wire, l.lengthMm]));
  });

  test("with jams and failed crimps what failed is made again, until all is there once", () => {
    const machine = new WireMachine(table(file), memoryJournal(), { pull: 60, jam: 15, seed: 4 });
    let left = plan;
    const made: Made[] = [];
    for (let round = 1; left.length > 0 && round < 12; round++) {
      const taken = machine.take(`B${round}`, fileFor(name, `B${round}`, left));
      if (!taken.ok) throw new Error(JSON.stringify(taken.faults));
      attend(machine);
      made.push(...taken.job.made);
      const bad = new Set(taken.job.made.filter((m) => m.result !== "good").map((m) => m.wire));
      if (round === 1) expect(bad.size).toBeGreaterThan(3);
      left = left.flatMap((c) => c.leads.filter((l) => bad.has(l.wire)).map((l) => ({ leads: [l] })));
    }
    expect(
      good(made)
        .map((m) => m.wire)
        .sort(),
    ).toEqual(
      leadsIn(plan)
        .map((l) => l.wire)
        .sort(),
    );
  });

  test("ended at any moment and started again, no good lead is lost or made twice", () => {
    const few = plan.slice(0, 12);
    const bytes = fileFor(name, "K", few);
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 1, max: 99 }),
        (stops, seed) => {
          const journal = memoryJournal();
          const trouble: Trouble = { pull: 100, jam: 30, seed };
          let machine = new WireMachine(table(file), journal, trouble);
          expect(machine.take("K", bytes).ok).toBe(true);
          // Whoever sent it does not know whether it arrived, and sends it again.
          expect(machine.take("K", bytes)).toMatchObject({
            ok: false,
            faults: [{ text: "K was taken before, as job 1" }],
          });
          for (const n of stops) {
            attend(machine, n);
            machine = new WireMachine(table(file), journal, trouble);
          }
          attend(machine);
          expect(machine.jobs()[0]!.made.map((m) => m.wire)).toEqual(leadsIn(few).map((l) => l.wire));
        },
      ),
      { seed: 13, numRuns: runs(30) },
    );
  });
});

test("a file with any fault is refused with its place, and nothing of it is made", () => {
  const plan = planFor("Sedgeley").slice(0, 3);
  const text = Buffer.from(fileFor("Sedgeley", "B", plan)).toString("latin1");
  const faults = (bytes: string): string => {
    const read = readOrders(Buffer.from(bytes, "latin1"), table("sedgeley"));
    return read.ok ? "" : read.faults.map((f) => `${f.at}: ${f.text}`).join("; ");
  };
  expect(faults(text)).toBe("");
  expect(faults(text.replace(/^No;/, "Nr;"))).toBe("1: there is no column No");
  expect(faults(text.slice(0, -2))).toBe("1: the last line does not end");
  expect(faults(text.replace(/\r\n1;/, "\r\n2;"))).toContain("2: No is 2; 1 comes here");
  expect(faults(text.split("\r\n").slice(0, 1).join("") + "\r\n")).toBe("1: there is nothing to make");
  const cells = text.split("\r\n")[1]!.split(";");
  const changed = (at: number, value: string): string =>
    text.replace(cells.join(";"), cells.map((c, i) => (i === at ? value : c)).join(";"));
  expect(faults(changed(5, "799"))).toContain("2: Length is 79.9; it takes 80 to 20000");
  expect(faults(changed(3, "1.5"))).toContain('2: Section is "1.5", which is no number');
  expect(faults(changed(7, "12"))).toContain('2: EndA is "12", which it does not know');
  expect(faults(changed(9, "x".repeat(25)))).toContain("2: TextA has more than 24 signs");
  const xml = Buffer.from(fileFor("Brack 2", "B", planFor("Brack 2").slice(0, 2))).toString("utf8");
  const orders = (changedXml: string) => readOrders(Buffer.from(changedXml), table("brack-2"));
  expect(orders(xml).ok).toBe(true);
  for (const bad of [xml.replace("</orders>", ""), xml.replaceAll("orders", "list"), "", xml.slice(0, 200)])
    expect(orders(bad).ok).toBe(false);
});

test("a journal on the disk is read back; a last line that was not finished never happened", () => {
  const folder = mkdtempSync(join(tmpdir(), "journal-"));
  try {
    const file = join(folder, "wire.jsonl");
    const one = fileJournal(file);
    one.write({ what: "filled", part: "F" });
    one.write({ what: "mounted", reel: "W", metres: 10 });
    appendFileSync(file, '{"what":"made","id":1');
    const again = fileJournal(file);
    expect(again.read()).toEqual([
      { what: "filled", part: "F" },
      { what: "mounted", reel: "W", metres: 10 },
    ]);
    again.write({ what: "filled", part: "G" });
    expect(again.read()).toHaveLength(3);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test("it stands still for what it lacks, and says so; time alone changes nothing", () => {
  const machine = new WireMachine(table("sedgeley"), memoryJournal());
  const plan = planFor("Sedgeley").slice(0, 5);
  machine.take("B", fileFor("Sedgeley", "B", plan));
  const wire = plan[0]!.leads[0]!;
  machine.advance(10_000);
  expect(machine.state()).toMatchObject({
    state: "waiting",
    wait: { kind: "reel", reel: wire.type, why: "not mounted" },
  });
  expect(machine.mount(wire.type!, 0)).toBe("a reel has metres");
  // Enough for no lead: it runs out at once.
  expect(machine.mount(wire.type!, 0.01)).toBeNull();
  machine.advance(10_000);
  expect(machine.state().wait).toEqual({ kind: "reel", reel: wire.type, why: "run out" });
  expect(machine.clear()).toBe(false);
  expect(machine.stop(1)).toBe(true);
  expect(machine.stop(1)).toBe(false);
  expect(machine.stop(9)).toBe(false);
});

describe("on the network", () => {
  const plan = planFor("Brack 2").slice(0, 20);
  const bytes = fileFor("Brack 2", "N", plan);

  const sendTcp = (port: number, content: Uint8Array): Promise<string> =>
    new Promise((resolve, reject) => {
      const socket = connect({ port, host: "127.0.0.1" });
      let told = "";
      socket.on("connect", () => socket.end(content));
      socket.on("data", (d) => (told += String(d)));
      socket.on("error", reject);
      socket.on("close", () => resolve(told.trim()));
    });
  const named = (name: string, content: Uint8Array): Uint8Array => Buffer.concat([Buffer.from(`${name}\n`), content]);

  test("a file is taken over TCP, attended over HTTP, and its result lies in the folder", async () => {
    const folder = mkdtempSync(join(tmpdir(), "wire-"));
    const machine = new WireMachine(table("brack-2"), memoryJournal());
    const line = await serveWire(machine, { tcp: 0, http: 0, folder, factor: 50_000 });
    try {
      const call = async (method: string, path: string, body?: unknown) => {
        const reply = await fetch(`http://127.0.0.1:${line.http}${path}`, {
          method,
          ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        });
        return { status: reply.status, body: (await reply.json()) as Record<string, unknown> };
      };
      expect(await sendTcp(line.tcp, named("N.xml", bytes))).toBe("taken 1");
      expect(await sendTcp(line.tcp, named("N.xml", bytes))).toMatch(/^refused: line 1: N.xml was taken before/);
      expect(await sendTcp(line.tcp, Buffer.from("no line"))).toBe("refused: the first line names the file");
      expect(await sendTcp(line.tcp, named("X.xml", Buffer.from("nonsense")))).toMatch(/^refused: line 1:/);
      expect((await call("POST", "/reel", { reel: "wrong", metres: 5 })).status).toBe(409);
      expect((await call("POST", "/magazine", {})).status).toBe(400);
      expect((await call("POST", "/clear")).status).toBe(409);
      expect((await call("GET", "/jobs/7")).status).toBe(404);
      for (;;) {
        const { wait, state } = (await call("GET", "/")).body as ReturnType<WireMachine["state"]>;
        if (state === "idle") break;
        if (wait?.kind === "reel")
          expect((await call("POST", "/reel", { reel: wait.reel, metres: 100 })).status).toBe(200);
        if (wait?.kind === "magazine") expect((await call("POST", "/magazine", { part: wait.part })).status).toBe(200);
      }
      const { made } = (await call("GET", "/jobs/1")).body as { made: Made[] };
      expect(made.map((m) => m.wire)).toEqual(leadsIn(plan).map((l) => l.wire));
      const result = join(folder, "N.result.csv");
      while (!existsSync(result)) await call("GET", "/");
      const rows = parse(readFileSync(result, "utf8"), { delimiter: ";", columns: true }) as Record<string, string>[];
      expect(rows.map((r) => [r.wire, r.result])).toEqual(leadsIn(plan).map((l) => [l.wire, "good"]));
    } finally {
      await line.close();
      rmSync(folder, { recursive: true, force: true });
    }
  });

  test("a file that is put into its folder is taken, and one with a fault is refused beside it", async () => {
    const folder = mkdtempSync(join(tmpdir(), "wire-"));
    writeFileSync(join(folder, "A.xml"), bytes);
    writeFileSync(join(folder, "B.xml"), "nonsense\n");
    const machine = new WireMachine(table("brack-2"), memoryJournal());
    const line = await serveWire(machine, { tcp: 0, http: 0, folder, factor: 1 });
    try {
      expect(machine.jobs().map((j) => j.name)).toEqual(["A.xml"]);
      expect(readFileSync(join(folder, "B.xml.refused"), "utf8")).toMatch(/^line 1:/);
      expect(existsSync(join(folder, "A.xml.taken"))).toBe(true);
    } finally {
      await line.close();
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
