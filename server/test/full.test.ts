import { execFileSync } from "node:child_process";
import { closeSync, mkdtempSync, openSync, readdirSync, readFileSync, rmSync, statSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { EditLog } from "@gray-bench/contract/edits";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { JobDetail, JobList } from "@gray-bench/contract/jobs";
import type { AuditList } from "@gray-bench/contract/record";
import { Reserve } from "../src/store/reserve";
import { DESIGNS, post, start, until, type Bench } from "./helper";

const MB = 1 << 20;
const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const LARK = readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8");
const JOB = "/api/jobs/HILL-2604";

/** A disk of its own in memory; null where this user may not make one. */
function smallDisk(megabytes: number): string | null {
  const at = mkdtempSync(join(tmpdir(), "gray-bench-disk-"));
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", `size=${megabytes}m`, "tmpfs", at], { stdio: "ignore" });
    return at;
  } catch {
    rmSync(at, { recursive: true });
    return null;
  }
}

/** Fills a disk to the last byte. @returns the file that did it */
function fill(disk: string): string {
  const file = join(disk, "something-else");
  const to = openSync(file, "a");
  for (const bytes of [MB, 4096, 1])
    try {
      for (;;) writeSync(to, Buffer.alloc(bytes, 7));
    } catch {
      // Full, to this measure.
    }
  closeSync(to);
  return file;
}

const disk = smallDisk(24);
afterAll(() => {
  if (disk) execFileSync("umount", [disk]);
});
/** Where no disk can be made, that is told by the test being left out. */
const onDisk = disk ? test : test.skip;

const ask = (bench: Bench, url: string, body?: unknown, method: "GET" | "POST" | "PUT" | "DELETE" = "POST") =>
  bench.app.inject(
    body === undefined
      ? { method, url }
      : { method, url, headers: { "content-type": "application/json" }, payload: JSON.stringify(body) },
  );

onDisk("a full disk takes nothing more, says so, and still lets jobs be read and deleted", async () => {
  const reserve = new Reserve(disk!, 4 * MB);
  let bench = await start({ folder: disk! }, { there: { folder: disk!, reserve } });
  const get = async <T>(url: string) => (await ask(bench, url, undefined, "GET")).json<T>();
  try {
    expect(statSync(join(disk!, "kept-back")).size).toBe(4 * MB);
    await post(bench.app, HILL);
    await until(
      () => get<JobDetail>(JOB),
      (job) => job.run === "done",
    );
    // All of it is kept, not only what is told first.
    await ask(bench, `${JOB}/stages/routes`, undefined, "GET");
    const before = await get<JobDetail>(JOB);
    const filler = fill(disk!);

    const on = before.designHash;
    const edits = [{ kind: "set wires", payload: { wires: ["1"], colour: "RD" } }];
    const changes = [
      await post(bench.app, LARK),
      await ask(bench, `${JOB}/edits`, { on, who: "M. Orr", edits }),
      await ask(bench, "/api/backup"),
      await ask(bench, `${JOB}/files/wires.csv`, undefined, "GET"),
    ];
    for (const reply of changes)
      expect([reply.statusCode, reply.json<ErrorBody>().code, reply.json<ErrorBody>().where]).toEqual([
        507,
        "disk.full",
        "data folder",
      ]);
    // Nothing of it is there, and everything of before.
    expect((await get<JobList>("/api/jobs")).jobs.map((j) => j.code)).toEqual(["HILL-2604"]);
    expect(await get<JobDetail>(JOB)).toEqual(before);
    expect((await get<EditLog>(`${JOB}/edits`)).edits).toEqual([]);
    expect(readdirSync(disk!).filter((name) => name.startsWith("backup"))).toEqual([]);
    for (const url of [`${JOB}/stages/routes`, `${JOB}/open-points`, "/api/health"])
      expect((await ask(bench, url, undefined, "GET")).statusCode).toBe(200);

    // It starts on a full disk too, and a job goes.
    await bench.close();
    bench = await start({ folder: disk! }, { there: { folder: disk!, reserve } });
    expect(await get<JobDetail>(JOB)).toEqual(before);
    const size = (): number =>
      ["", "-wal"].reduce(
        (n, end) => n + (statSync(join(disk!, `test.db${end}`), { throwIfNoEntry: false })?.size ?? 0),
        0,
      );
    const full = size();
    expect((await ask(bench, `${JOB}?who=Ina`, undefined, "DELETE")).statusCode).toBe(204);
    expect((await ask(bench, JOB, undefined, "GET")).statusCode).toBe(404);
    expect(size()).toBeLessThan(full);
    expect((await get<AuditList>("/api/audit")).entries.map((e) => [e.what, e.job, e.who])).toEqual([
      ["delete", "HILL-2604", "Ina"],
      ["import", "HILL-2604", null],
    ]);
    // What was kept back is kept back again, and the room that the job had is there for another one.
    expect(statSync(join(disk!, "kept-back")).size).toBe(4 * MB);
    expect((await post(bench.app, HILL)).statusCode).toBe(201);
    rmSync(filler);
    expect((await post(bench.app, LARK)).statusCode).toBe(201);
  } finally {
    await bench.close();
  }
});
