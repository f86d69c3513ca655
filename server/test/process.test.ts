import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { EditLog, EditReply } from "@gray-bench/contract/edits";
import type { JobSummary } from "@gray-bench/contract/jobs";
import { contentHash } from "@gray-bench/core/design/hash";
import type { Design } from "@gray-bench/core/design/model";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
import { withRule } from "@gray-bench/core/shop/shop-changes";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { DESIGNS, MAIN } from "./helper";

const CLI = join(MAIN, "../cli.mjs");
const HILL = JSON.parse(readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8")) as {
  job: Record<string, string>;
};

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "gray-bench-"));
});
afterEach(() => rmSync(folder, { recursive: true }));

/** Starts a server on a free port; rejects with what it said when it ends instead. */
function serve(data: string): Promise<{ child: ChildProcess; address: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [MAIN, "--data", data, "--port", "0"]);
    let said = "";
    child.stderr.on("data", (d) => (said += d));
    child.stdout.on("data", (d) => {
      said += d;
      const address = /listens on (\S+)/.exec(said)?.[1];
      if (address) resolve({ child, address });
    });
    child.on("close", (code) => reject(new Error(`${code} ${said}`)));
  });
}

const ended = (child: ChildProcess) => new Promise((resolve) => child.on("close", resolve));

describe("the data file", () => {
  test("acknowledged imports survive a killed server, whole; others leave nothing", async () => {
    const acknowledged: string[] = [];
    for (let round = 0; round < 3; round++) {
      const { child, address } = await serve(folder);
      const killed = ended(child);
      const next = async (i: number): Promise<void> => {
        const code = `JOB-${round}-${i}`;
        const body = JSON.stringify({ ...HILL, job: { ...HILL.job, code } });
        const reply = await fetch(`${address}/api/jobs`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body,
        });
        if (reply.status === 201) acknowledged.push(code);
      };
      // Several imports are under way at the moment of the kill.
      const under = Array.from({ length: 12 }, (_, i) => next(i).catch(() => undefined));
      await Promise.race(under);
      child.kill("SIGKILL");
      await killed;
      await Promise.all(under);
    }
    expect(acknowledged.length).toBeGreaterThanOrEqual(3);
    const { child, address } = await serve(folder);
    const { jobs } = (await (await fetch(`${address}/api/jobs`)).json()) as { jobs: JobSummary[] };
    const codes = jobs.map((j) => j.code);
    for (const code of acknowledged) expect(codes).toContain(code);
    // Every job that is listed is whole: it can be read and computed.
    for (const code of codes) {
      const routes = (await (await fetch(`${address}/api/jobs/${code}/stages/routes`)).json()) as RoutesResult;
      expect(routes.wires).toHaveLength(35);
    }
    const done = ended(child);
    child.kill("SIGTERM");
    await done;
  }, 60_000);

  // `npm run harden` kills more often.
  const KILLS = Number(process.env.GRAY_BENCH_KILLS ?? 30);
  test(`of edits, what was acknowledged survives ${KILLS} kills, in order, and nothing half`, async () => {
    const wires = (HILL as unknown as { wires: { number: string }[] }).wires.map((w) => w.number);
    const acknowledged: string[] = [];
    let hash = "";
    const json = { "content-type": "application/json" };
    for (let round = 0; round <= KILLS; round++) {
      const { child, address } = await serve(folder);
      const job = `${address}/api/jobs/${HILL.job.code}`;
      const gone = ended(child);
      if (round === 0)
        await fetch(`${address}/api/jobs`, { method: "POST", headers: json, body: JSON.stringify(HILL) });
      const log = (await (await fetch(`${job}/edits`)).json()) as EditLog;
      // What was acknowledged is there; one more may be, whose acknowledgement was on its way.
      const ids = log.edits.map((e) => e.id);
      expect(ids.slice(0, acknowledged.length)).toEqual(acknowledged);
      expect(ids.length - acknowledged.length).toBeLessThanOrEqual(1);
      if (ids.length === acknowledged.length && hash !== "") expect(log.designHash).toBe(hash);
      const design = (await (await fetch(`${job}/design`)).json()) as Design;
      expect(contentHash(design)).toBe(log.designHash);
      acknowledged.splice(0, acknowledged.length, ...ids);
      hash = log.designHash;
      if (round === KILLS) {
        child.kill("SIGTERM");
        await gone;
        break;
      }
      let kill = (): void => undefined;
      const killed = new Promise<void>((go) => (kill = go));
      const edit = async (n: number): Promise<void> => {
        const payload = { wires: [wires[(round + n) % wires.length]], sizeMm2: 1 + ((round * 7 + n) % 40) / 10 };
        const body = JSON.stringify({ on: hash, who: "M. Orr", edits: [{ kind: "set wires", payload }] });
        const reply = await fetch(`${job}/edits`, { method: "POST", headers: json, body });
        const { ids: made, designHash } = (await reply.json()) as EditReply;
        acknowledged.push(...made);
        hash = designHash;
      };
      // Up to two are acknowledged; the kill comes while the next one is under way, at another moment each round.
      const work = (async () => {
        for (let n = 0; n < round % 3; n++) await edit(n);
        const next = edit(round % 3);
        setTimeout(kill, round % 13);
        await next;
      })().catch(() => undefined);
      await killed;
      child.kill("SIGKILL");
      await gone;
      await work;
    }
    // How many there are hangs on the machine; without some nothing was shown.
    expect(acknowledged.length).toBeGreaterThan(KILLS / 4);
  }, 1_200_000);

  test("a second server on the same data is refused and says what to do", async () => {
    const { child } = await serve(folder);
    await expect(serve(folder)).rejects.toThrow(/^3 The data file .* is in use by another Gray Bench\. Stop that one/);
    const done = ended(child);
    child.kill("SIGTERM");
    await done;
  }, 30_000);
});

describe("make", () => {
  const make = (...args: string[]) => {
    const run = spawnSync(process.execPath, [CLI, ...args], { encoding: "utf8" });
    // Where it is, it says only when that takes longer: here it depends on the machine.
    return { ...run, stderr: run.stderr.replace(/^(computing|writing files of) .*\n/gm, "") };
  };

  test("writes every file and ends with 0", () => {
    const run = make(join(DESIGNS, "whole/hillfold.bench.json"), join(folder, "out"));
    expect([run.status, run.stderr]).toEqual([0, ""]);
    for (const name of ["wires.csv", "wires.xlsx", "ducts.csv", "open-points.csv"])
      expect(existsSync(join(folder, "out", name))).toBe(true);
    expect(readFileSync(join(folder, "out/wires.csv"), "utf8")).toBe(
      readFileSync(join(DESIGNS, "golden/hillfold-wires.csv"), "utf8"),
    );
  });

  test("lays edits on the design and computes with another shop", () => {
    const lengths = (out: string): number[] =>
      readFileSync(join(folder, out, "wires.csv"), "utf8")
        .split("\r\n")
        .slice(1, -1)
        .map((line) => Number(/,(\d+),[^,]*,[^,]*,"/.exec(line)?.[1]));
    const write = (name: string, value: unknown): string => {
      writeFileSync(join(folder, name), JSON.stringify(value));
      return join(folder, name);
    };
    const shop = withRule(DEFAULT_SHOP, "routes.slackMm", 130);
    const edits = (payload: object) => ({
      format: "gray-bench-edits",
      version: 1,
      job: "HILL-2604",
      revision: "A",
      received: "any",
      edits: [{ id: "e1", kind: "remove wires", payload, who: "M. Orr", when: "2026-11-24T00:00:00.000Z", back: null }],
    });
    const hill = join(DESIGNS, "whole/hillfold.bench.json");
    expect(make(hill, join(folder, "plain")).status).toBe(0);
    const first = (HILL as unknown as { wires: { number: string }[] }).wires[0]!.number;
    const other = make(
      hill,
      join(folder, "other"),
      "--shop",
      write("a.shop.json", shop),
      "--edits",
      write("a.edits.json", edits({ wires: [first] })),
    );
    expect([other.status, other.stderr]).toEqual([0, ""]);
    const [plain, changed] = [lengths("plain"), lengths("other")];
    expect(changed).toHaveLength(plain.length - 1);
    // 100 mm more at each end, but on doors, where another slack counts, and for leads that were raised to the shortest.
    expect(changed.filter((mm, i) => mm === plain[i + 1]! + 200).length).toBeGreaterThan(3);
    expect(changed.some((mm, i) => mm < plain[i + 1]!)).toBe(false);
    const stocked = make(hill, join(folder, "stocked"), "--stock", join(DESIGNS, "demo.stock.json"));
    expect([stocked.status, stocked.stderr]).toEqual([0, ""]);
    const short = (out: string): string => readFileSync(join(folder, out, "shortages.csv"), "utf8");
    // Without levels every line stands there, with none; with them what is short.
    expect(short("stocked").split("\r\n").length).toBeLessThan(short("plain").split("\r\n").length);
    expect([short("plain").includes("OH-M25"), short("stocked").includes("OH-M25")]).toEqual([true, false]);
    expect(readFileSync(join(folder, "stocked/kits.pdf")).subarray(0, 5).toString()).toBe("%PDF-");
    for (const [flag, value, place] of [
      [
        "--stock",
        { format: "gray-bench-stock", version: 1, at: "2026-11-26", items: [{ part: "P" }] },
        "items[0].free",
      ],
      ["--edits", edits({ wires: ["nix"] }), "edit e1"],
      ["--edits", { ...edits({}), version: 2 }, "version"],
      ["--shop", { ...DEFAULT_SHOP, rules: {} }, "rules.classes"],
    ] as const) {
      const run = make(hill, join(folder, "none"), flag, write("bad.json", value));
      expect([run.status, (JSON.parse(run.stderr.split("\n")[0]!) as { path: string }).path]).toEqual([1, place]);
      expect(existsSync(join(folder, "none"))).toBe(false);
    }
  });

  test("the file of a machine that cannot be written: the others are there, why is said, 1", () => {
    const { wireprep } = DEFAULT_SHOP.rules;
    const columns = wireprep.columns.map((c) => (c.name === "mm" ? { ...c, value: "{length" } : c));
    const shop = { ...DEFAULT_SHOP, rules: { ...DEFAULT_SHOP.rules, wireprep: { ...wireprep, columns } } };
    writeFileSync(join(folder, "odd.shop.json"), JSON.stringify(shop));
    const out = join(folder, "odd");
    const run = make(join(DESIGNS, "whole/hillfold.bench.json"), out, "--shop", join(folder, "odd.shop.json"));
    expect(run.status).toBe(1);
    expect(JSON.parse(run.stderr)).toMatchObject({
      file: "file for Brack 2",
      found:
        'nothing can be written for Brack 2 as "Brack orders": column mm of Brack orders, sign 1: this brace is not closed',
    });
    expect([existsSync(join(out, "leads.csv")), existsSync(join(out, "machine-+A1.xml"))]).toEqual([true, false]);
  });

  test("tables in a folder come to all files; what was not read is listed, and ends with 1", () => {
    const tables = join(folder, "salt");
    mkdirSync(tables, { recursive: true });
    writeFileSync(
      join(tables, "devices.csv"),
      Buffer.from("Geräteliste;;\nBMK;Artikelnr;Ort\n-K1;RX-12;+S1\n", "latin1"),
    );
    const wires = "Nr;Von;Nach;Farbe\n1;-K1:A1;-X1:3;bl\n2;-K1:A2;-X1;sw\n";
    writeFileSync(join(tables, "wires.csv"), Buffer.from(`\uFEFF${wires}`, "utf16le"));
    const out = join(folder, "salt-out");
    const run = make(tables, out);
    expect([run.status, JSON.parse(run.stderr)]).toEqual([
      1,
      {
        file: join(tables, "wires.csv"),
        path: "line 3, Nach",
        found: "-X1",
        expected: "a device and a pin, such as -K1:A1",
        left: "the row",
      },
    ]);
    expect(readFileSync(join(out, "wires.csv"), "utf8").trim().split("\n")).toHaveLength(2);
    expect(readFileSync(join(out, "not-read.csv"), "utf8")).toContain("wires.csv,3,Nach");
    // What is nothing of ours is refused by name, and nothing is written.
    writeFileSync(join(tables, "phones.csv"), "Name,Phone\nIda,555-1\n");
    const refused = make(tables, join(folder, "salt-no"));
    expect([refused.status, existsSync(join(folder, "salt-no"))]).toEqual([1, false]);
    expect(JSON.parse(refused.stderr)).toMatchObject({ file: join(tables, "phones.csv"), found: "Name | Phone" });
  });

  test("enclosures whose names differ in signs alone write files of their own, and leave nothing half written", () => {
    const text = JSON.stringify(HILL).replace(/\+A1/g, "+A/1");
    const one = JSON.parse(text) as { enclosures: { tag: string }[]; faces: object[]; job: { code: string } };
    one.enclosures.push({ ...one.enclosures[0]!, tag: "+A-1" });
    const holes = [{ kind: "round", x: 100, y: 100, d: 5 }];
    one.faces = [...one.faces, { enclosure: "+A-1", kind: "plate", holes }];
    writeFileSync(join(folder, "like.bench.json"), JSON.stringify(one));
    const out = join(folder, "like");
    const run = make(join(folder, "like.bench.json"), out);
    expect([run.status, run.stderr]).toEqual([0, ""]);
    const names = readdirSync(out);
    expect(names.filter((n) => n.startsWith("holes-+A-1-plate") && n.endsWith(".nc")).sort()).toEqual([
      "holes-+A-1-plate.nc",
      "holes-+A-1-plate~2.nc",
    ]);
    expect(names.filter((n) => n.startsWith("."))).toEqual([]);
  });

  test("a refused design: reasons as JSON lines, nothing written, 1", () => {
    const file = join(folder, "bad.bench.json");
    writeFileSync(file, JSON.stringify({ ...HILL, wires: [{ number: 1 }], ducts: "none" }));
    const run = make(file, join(folder, "out"));
    expect(run.status).toBe(1);
    const reasons = run.stderr
      .trim()
      .split("\n")
      .map((l) => JSON.parse(l) as { path: string });
    expect(reasons.map((r) => r.path)).toEqual(["ducts", "wires[0].number"]);
    expect(existsSync(join(folder, "out/wires.csv"))).toBe(false);
  });

  test.each([[[]], [["one"]], [["nix.json", "out"]], [["a", "b", "c"]]])(
    "a wrong call %j ends with 2 and says how",
    (args) => {
      const run = spawnSync(process.execPath, [CLI, ...args], { encoding: "utf8", cwd: folder });
      expect([run.status, run.stderr.includes("usage: npm run make")]).toEqual([2, true]);
    },
  );
});
