import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { serve, type Listening } from "../src/drill/serve";
import { DrillingMachine, type Clock } from "../src/drill/shop";
import { readTable } from "../src/drill/table";

const TABLE = readTable(readFileSync(join(__dirname, "../machines/tallow-3.json"), "utf8"));
const good = (n: number, title = "sheet"): string =>
  [
    `(${title})`,
    "G21 G90",
    "T3 M6",
    "S2000 M3",
    "G0 Z3",
    ...Array.from({ length: n }, (_, i) => `G81 X${50 + i * 10} Y50 Z-3.5 R3 F280`),
    "G80",
    "G0 Z60",
    "M5",
    "M30",
    "",
  ].join("\r\n");

/** A clock that goes on only when it is told to. */
function handClock(): Clock & { on(ms: number): void } {
  let now = 0;
  let due: { at: number; run: () => void }[] = [];
  return {
    now: () => now,
    after: (ms, run) => void due.push({ at: now + ms, run }),
    on(ms) {
      const end = now + ms;
      for (;;) {
        const next = due.filter((d) => d.at <= end).sort((a, b) => a.at - b.at)[0];
        if (!next) break;
        due = due.filter((d) => d !== next);
        now = next.at;
        next.run();
      }
      now = end;
    },
  };
}

describe("the queue", () => {
  test("one after the other, at the stated pace; what is made so far is there while it runs", () => {
    const clock = handClock();
    const machine = new DrillingMachine(TABLE, 10, clock);
    const [a, b] = [machine.take("1.nc", good(40, "first")), machine.take("2.nc", good(2, "second"))];
    expect([a.ok, b.ok]).toEqual([true, true]);
    expect(machine.take("1.nc", good(1))).toMatchObject({
      ok: false,
      faults: [{ text: '"1.nc" was taken before, as program 1' }],
    });
    expect(machine.list().map((j) => [j.title, j.state])).toEqual([
      ["first", "running"],
      ["second", "waiting"],
    ]);
    clock.on(3000);
    const half = machine.job(1)!;
    expect(half.progress).toBeGreaterThan(0.1);
    expect(half.progress).toBeLessThan(1);
    expect(half.seconds).toBeGreaterThan(29);
    expect(half.seconds).toBeLessThan(33);
    expect(half.made.holes.length).toBeGreaterThan(0);
    clock.on(60_000);
    expect(machine.list().map((j) => j.state)).toEqual(["done", "done"]);
    expect([machine.job(1)!.made.holes.length, machine.job(2)!.made.holes.length]).toEqual([40, 2]);
    expect(machine.state()).toBe("idle");
  });

  test("stopped, taken out, broken off: the next one goes on", () => {
    const clock = handClock();
    const machine = new DrillingMachine(TABLE, 10, clock);
    for (const title of ["a", "b", "c"]) machine.take(title, good(30, title));
    clock.on(2000);
    expect([machine.stop(2), machine.stop(1), machine.stop(1), machine.stop(9)]).toEqual([true, true, false, false]);
    machine.breakAt(0.5);
    clock.on(60_000);
    expect(machine.list().map((j) => j.state)).toEqual(["stopped", "stopped", "fault"]);
    expect(machine.job(3)!.fault!.text).toBe("the tool broke");
    expect(machine.state()).toBe("fault");
    machine.take("d", good(1));
    clock.on(60_000);
    expect(machine.state()).toBe("idle");
  });

  test("a queue that is full says so", () => {
    const machine = new DrillingMachine(TABLE, 1, handClock());
    const said = Array.from({ length: 52 }, (_, i) => machine.take(`${i}`, good(1)).ok);
    expect(said.filter((ok) => ok)).toHaveLength(51);
  });
});

describe("on the network", () => {
  let line: Listening;
  let machine: DrillingMachine;
  let folder: string;
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), "drill-"));
    machine = new DrillingMachine(TABLE, 10_000);
    line = await serve(machine, { tcp: 0, http: 0, folder });
  });
  afterAll(async () => {
    await line.close();
    rmSync(folder, { recursive: true, force: true });
  });
  let sent = 0;
  const send = (text: string, name = `${++sent}.nc`): Promise<string> =>
    new Promise((resolve, reject) => {
      const socket = connect(line.tcp, "127.0.0.1", () => socket.end(`${name}\n${text}`));
      let said = "";
      socket.on("data", (d) => (said += String(d)));
      socket.on("error", reject);
      socket.on("close", () => resolve(said.trim()));
    });
  const get = async (path: string, method = "GET") => {
    const reply = await fetch(`http://127.0.0.1:${line.http}${path}`, { method });
    return { status: reply.status, body: (await reply.json()) as Record<string, unknown> };
  };
  const until = async (is: () => boolean | Promise<boolean>): Promise<void> => {
    for (let i = 0; i < 500 && !(await is()); i++) await new Promise((r) => setImmediate(r));
  };

  test("a program is taken, made, and told as holes; a bad one is refused with its line", async () => {
    expect(await send(good(3))).toBe("taken 1");
    expect(await send(good(3).replace("M30", "M77"))).toMatch(/^refused: line 12: unknown code M77 \(and 1 more\)$/);
    expect(await send("")).toMatch(/^refused: /);
    await until(async () => (await get("/jobs/1")).body.state === "done");
    const { body } = await get("/jobs/1");
    expect(body).toMatchObject({ id: 1, state: "done", progress: 1 });
    expect((body.made as { holes: object[] }).holes).toHaveLength(3);
    expect((await get("/")).body).toMatchObject({ name: "Tallow 3", state: "idle" });
    expect((await get("/jobs/77")).status).toBe(404);
    expect((await get("/nothing")).status).toBe(404);
    expect((await get("/jobs/1/stop", "POST")).status).toBe(409);
    expect((await get("/try/break/0.5", "POST")).body).toEqual({ breaksAt: 0.5 });
  });

  test("what is put into its folder is taken, and what became of it stands beside it", async () => {
    const before = machine.list().length;
    writeFileSync(join(folder, "a.nc"), good(1));
    writeFileSync(join(folder, "b.nc"), "G99\n");
    await until(() => existsSync(join(folder, "a.nc.taken")) && existsSync(join(folder, "b.nc.refused")));
    for (let i = 0; i < 200 && !existsSync(join(folder, "b.nc.refused")); i++) await get("/");
    expect(existsSync(join(folder, "a.nc.taken"))).toBe(true);
    expect(readFileSync(join(folder, "b.nc.refused"), "utf8")).toContain("unknown code G99");
    expect(machine.list().length).toBe(before + 1);
  });
});
