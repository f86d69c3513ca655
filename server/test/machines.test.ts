import { readFileSync } from "node:fs";
import { createServer, type Server as Http } from "node:http";
import { join } from "node:path";
import { sheetsOf, type SheetEvent } from "@gray-bench/core/metalwork/events";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { EventReply } from "@gray-bench/contract/events";
import type { MachineList, ProgramReply } from "@gray-bench/contract/metalwork";
import type { AuditList } from "@gray-bench/contract/record";
import { serve, type Listening } from "../../standins/src/drill/serve";
import { DrillingMachine } from "../../standins/src/drill/shop";
import { readTable } from "../../standins/src/drill/table";
import { readAddress } from "../src/machines/line";
import { DESIGNS, post, start, type Bench } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const TABLE = readTable(readFileSync(join(DESIGNS, "../standins/machines/tallow-3.json"), "utf8"));

let bench: Bench;
let machine: DrillingMachine;
let line: Listening;
let odd: Http;
const answers: { body: string; status: number } = { body: "{}", status: 200 };

beforeAll(async () => {
  machine = new DrillingMachine(TABLE, 100_000);
  line = await serve(machine, { tcp: 0, http: 0 });
  odd = createServer((_req, res) => {
    res.writeHead(answers.status);
    res.end(answers.body);
  });
  await new Promise<void>((done) => odd.listen(0, "127.0.0.1", done));
  const port = (odd.address() as { port: number }).port;
  bench = await start({
    // Every question is a new one.
    now: (
      (n) => () =>
        new Date(Date.UTC(2026, 10, 23) + n++ * 1000)
    )(0),
    machines: [
      { name: "Tallow 3", host: "127.0.0.1", port: line.tcp, tells: `http://127.0.0.1:${line.http}` },
      { name: "Odd", host: "127.0.0.1", port: 1, tells: `http://127.0.0.1:${port}` },
    ],
  });
  await post(bench.app, HILL);
});
afterAll(async () => {
  await bench.close();
  await line.close();
  await new Promise((done) => odd.close(done));
});

const list = async () => (await bench.app.inject("/api/machines")).json<MachineList>().machines;
let nth = 0;
const send = (body: object) =>
  bench.app.inject({
    method: "POST",
    url: "/api/jobs/HILL-2604/programs",
    headers: { "content-type": "application/json" },
    payload: JSON.stringify({ id: `program-${nth++}`, sheet: 1, ...body }),
  });

test("addresses are read, or refused with their form", () => {
  expect(readAddress("machine", "Tallow 3=10.0.0.5:7011,http://10.0.0.5:7012")).toEqual({
    name: "Tallow 3",
    host: "10.0.0.5",
    port: 7011,
    tells: "http://10.0.0.5:7012",
  });
  for (const bad of [
    "Tallow",
    "T=host:99999,http://a:1",
    "T=host:1,ftp://a:1",
    "T=ho st:1,http://a:1",
    "=a:1,http://a:1",
  ])
    expect(() => readAddress("machine", bad)).toThrow("--machine takes NAME=HOST:PORT,http://HOST:PORT");
});

test("a program of the job is sent, made, and heard of", async () => {
  const reply = await send({ machine: "Tallow 3", face: "+A1/plate", setUp: 1 });
  const sent = reply.json<ProgramReply>();
  expect(sent).toMatchObject({ machine: "Tallow 3", id: 1 });
  expect(sent.program).toMatch(/^HILL-2604-[0-9a-f]{10}\.nc$/);
  // Asked once more under the same id it is not sent again.
  const again = { id: "program-0", machine: "Tallow 3", face: "+A1/plate", setUp: 1 };
  expect((await send(again)).json<ProgramReply>()).toEqual(sent);
  expect(machine.list().map((j) => j.name)).toEqual([sent.program]);
  for (let i = 0; i < 300 && machine.job(1)!.state !== "done"; i++) await list();
  const [first] = await list();
  expect(first).toMatchObject({ name: "Tallow 3", state: "idle", jobs: [{ id: 1, state: "done", progress: 1 }] });
  expect(first!.jobs[0]!.title).toBe("HILL-2604 +A1/plate, seen from front");
  expect(machine.job(1)!.made.holes.length).toBeGreaterThan(10);
  const stopped = await bench.app.inject({ method: "DELETE", url: "/api/machines/Tallow%203/jobs/1?who=Ines" });
  expect(stopped.json()).toEqual({ stopped: false });
  const { entries } = (await bench.app.inject("/api/audit?most=2")).json<AuditList>();
  expect(entries.map((e) => [e.what, e.job, e.who, e.detail])).toEqual([
    ["stop", null, "Ines", "program 1 at Tallow 3"],
    ["program", "HILL-2604", null, "+A1/plate, set-up 1, to Tallow 3"],
  ]);
});

test("what is not there, and what is refused, is told with its remedy", async () => {
  const code = async (body: object): Promise<string> => (await send(body)).json<ErrorBody>().code;
  expect(await code({ machine: "Nowhere", face: "+A1/plate", setUp: 1 })).toBe("machine.unknown");
  expect(await code({ machine: "Tallow 3", face: "+A1/plate", setUp: 7 })).toBe("program.unknown");
  expect(await code({ machine: "Tallow 3", face: "+NO/plate", setUp: 1 })).toBe("program.unknown");
  expect(await code({ machine: "Tallow 3", face: "+A1/plate" })).toBe("request.invalid");
  expect(await code({ machine: "Odd", face: "+A1/plate", setUp: 1 })).toBe("machine.away");
  const tools = TABLE.tools.splice(0, TABLE.tools.length);
  const refused = await send({ machine: "Tallow 3", face: "+A1/plate", setUp: 1 });
  TABLE.tools.push(...tools);
  expect(refused.statusCode).toBe(409);
  expect(refused.json<ErrorBody>()).toMatchObject({ code: "machine.refused", where: "Tallow 3" });
  expect(refused.json<ErrorBody>().message).toContain("there is no tool in place");
  const once = { id: "program-odd", machine: "Tallow 3", face: "+A1/plate", setUp: 1 };
  TABLE.tools.splice(0, TABLE.tools.length);
  expect(await code(once)).toBe("machine.refused");
  TABLE.tools.push(...tools);
  const anew = (await send(once)).json<ErrorBody>();
  expect([anew.code, anew.message]).toEqual(["machine.refused", expect.stringContaining("send it anew")]);
  // Asked for twice at one moment it goes once.
  const made = machine.list().length;
  const twice = { ...once, id: "program-two" };
  const [a, b] = (await Promise.all([send(twice), send(twice)])).map((r) => r.json<ProgramReply>());
  expect(a!.program).toBe(b!.program);
  expect(machine.list()).toHaveLength(made + 1);
  // What no machine has is no program of a sheet; what is said of sheets otherwise stands.
  const events = (body: object) =>
    bench.app.inject({
      method: "POST",
      url: "/api/jobs/HILL-2604/events",
      headers: { "content-type": "application/json" },
      payload: JSON.stringify({ kind: "sheet", since: 0, ...body }),
    });
  const begun = {
    id: "sheet-0001",
    face: "+A1/plate",
    sheet: 1,
    what: "begun",
    who: "Ina",
    at: "2026-11-22T08:00:00.000Z",
  };
  const { events: said, last } = (await events({ events: [begun, begun] })).json<EventReply<SheetEvent>>();
  const [sheet] = sheetsOf("+A1/plate", said);
  expect(sheet).toMatchObject({ state: "begun", who: "Ina", sent: [{ setUp: 1, program: a!.program }] });
  expect((await events({ since: last, events: [] })).json<EventReply<SheetEvent>>()).toEqual({
    events: [],
    last,
    here: [],
  });
  const forged = { ...begun, id: "sheet-0002", what: "sent" };
  expect((await events({ events: [forged] })).json<ErrorBody>().code).toBe("request.invalid");
  const get = await bench.app.inject(`/api/jobs/HILL-2604/events?kind=sheet&since=${last - 1}`);
  expect(get.json<EventReply<SheetEvent>>().events).toEqual([begun]);
});

test("a machine that tells nonsense, errors, or too much, is away or idle, and harms nobody", async () => {
  const state = async (body: string, status = 200) => {
    Object.assign(answers, { body, status });
    const { state: is, jobs } = (await list())[1]!;
    return [is, jobs.length];
  };
  expect(await state("{")).toEqual(["away", 0]);
  expect(await state("{}", 500)).toEqual(["away", 0]);
  expect(await state("null")).toEqual(["idle", 0]);
  expect(await state('{"state":"running","jobs":"many"}')).toEqual(["running", 0]);
  expect(
    await state('{"state":"odd","jobs":[null,{"id":1.5},{"id":2,"state":"running","progress":"all","fault":7}]}'),
  ).toEqual(["idle", 1]);
  expect(await state(`{"jobs":[${Array(200).fill('{"id":1,"state":"done","title":"x"}').join()}]}`)).toEqual([
    "idle",
    50,
  ]);
  expect(await state("x".repeat(3_000_000))).toEqual(["away", 50]);
});

test("bars of several jobs are cut together, as they are wanted", async () => {
  const cuts = (query: string) => bench.app.inject(`/api/cuts?${query}`);
  const { bars } = (await cuts("jobs=HILL-2604:3")).json<{
    bars: { list: { bars: { pieces: { of: string }[] }[] } }[];
  }>();
  expect(bars.flatMap((b) => b.list.bars.flatMap((x) => x.pieces.map((p) => p.of)))).toContain("HILL-2604 R1 (3)");
  expect((await cuts("jobs=HILL-2604:2&as=csv")).body).toMatch(/^kind,part,bar,stock_mm,piece,length_mm,for/);
  expect((await cuts("jobs=HILL-2604:2&as=labels")).rawPayload.subarray(0, 4).toString()).toBe("%PDF");
  expect((await cuts("jobs=NO-1")).statusCode).toBe(404);
  for (const bad of ["jobs=", "jobs=HILL-2604:0", "jobs=HILL-2604:101", "jobs=a b"])
    expect((await cuts(bad)).statusCode).toBe(400);
});
