import { readFileSync } from "node:fs";
import { createServer, type Server as Http } from "node:http";
import { join } from "node:path";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type {
  AllNeedsReply,
  BillOf,
  JobNeedsReply,
  PickReply,
  PickRequest,
  ReservationNow,
  StockNow,
} from "@gray-bench/contract/kits";
import { stateOf, type PickEvent } from "@gray-bench/core/kits/events";
import { stockKey, type KitsResult } from "@gray-bench/core/kits/result";
import { parse } from "csv-parse/sync";
import { serveStock, type Listening } from "../../standins/src/stock/serve";
import { StockStore } from "../../standins/src/stock/store";
import { readStockAddress } from "../src/kits/address";
import { DESIGNS, post, start, type Bench } from "./helper";

jest.setTimeout(120_000);

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const JOB = "/api/jobs/HILL-2604";

let bench: Bench;
let store: StockStore;
let line: Listening;
let result: KitsResult;
/** Every question is a new one: time goes on by ten seconds each. */
const clock = (
  (n) => () =>
    new Date(Date.UTC(2026, 10, 23) + n++ * 10_000)
)(0);

const get = async <T>(url: string): Promise<T> => {
  const reply = await bench.app.inject({ method: "GET", url });
  expect([url, reply.statusCode]).toEqual([url, 200]);
  return reply.json<T>();
};
const send = (method: "POST" | "DELETE", url: string, body?: unknown) =>
  bench.app.inject({
    method,
    url,
    ...(body === undefined ? {} : { headers: { "content-type": "application/json" }, payload: JSON.stringify(body) }),
  });
const picks = async (body: PickRequest): Promise<PickReply> => {
  const reply = await send("POST", `${JOB}/picks`, body);
  expect(reply.statusCode).toBe(200);
  return reply.json<PickReply>();
};
/** Until the store has been told of all picks: by asking, not by waiting. */
async function told(): Promise<void> {
  for (let n = 0; n < 200; n++) {
    if ((await get<StockNow>("/api/stock")).waiting === 0) return;
    await new Promise((done) => setImmediate(done));
  }
  throw new Error("the store was not told");
}
let nth = 0;
const event = (what: PickEvent["what"], more: Partial<PickEvent> = {}): PickEvent => ({
  id: `event-${String(++nth).padStart(4, "0")}`,
  kit: "HILL-2604 +A1 door",
  line: "QM-PL (pcs)",
  what,
  who: "Ida",
  at: "2026-11-26T10:00:00.000Z",
  ...(["picked", "short", "put back"].includes(what) ? { quantity: 1 } : {}),
  ...(what === "short" ? { reason: "bin empty" } : {}),
  ...more,
});

beforeAll(async () => {
  store = new StockStore(":memory:");
  line = await serveStock(store, { port: 0 });
  bench = await start({ now: clock, stock: `http://127.0.0.1:${line.port}` });
  await post(bench.app, HILL);
  result = await get<KitsResult>(`${JOB}/stages/kits`);
  const parts = [...new Set(result.bill.map(stockKey))];
  store.fill(
    parts.map((part) => ({ part, text: part, place: "A", pack: 1, level: part === "QM-PL" ? 0 : 1000 })),
    [{ part: "QM-PL", quantity: 5, due: "2099-01-01" }],
  );
});
afterAll(async () => {
  await bench.close();
  await line.close();
  store.close();
});

const mood = (what: "slow" | "refuse", value: number) =>
  fetch(`http://127.0.0.1:${line.port}/try/${what}/${value}`, { method: "POST" });

test("addresses are read, or refused with their form", () => {
  expect(readStockAddress("http://10.0.0.5:7031")).toBe("http://10.0.0.5:7031");
  for (const bad of ["10.0.0.5:7031", "http://a/b", "ftp://a:1", ""])
    expect(() => readStockAddress(bad)).toThrow(/--stock takes http:\/\/HOST:PORT/);
});

test("needs against the store: what is short, when it comes, which steps can start", async () => {
  const { stock, needs, starts, job } = await get<JobNeedsReply>(`${JOB}/needs`);
  expect(stock).toMatchObject({ state: "here", waiting: 0, refused: [] });
  expect(stock.at).not.toBeNull();
  const lamp = needs.find((n) => n.part === "QM-PL")!;
  expect(lamp).toMatchObject({ needed: 1, there: 0, missing: 0, onItsWay: 5 });
  expect(lamp.jobs[0]).toMatchObject({ job: "HILL-2604", wanted: job.wanted, late: 1, lateUntil: "2099-01-01" });
  expect(needs[0]!.part).toBe("QM-PL");
  expect(starts.filter((s) => s.lacks.length > 0).map((s) => s.step)).toEqual(["door"]);
  const all = await get<AllNeedsReply>("/api/needs");
  expect([all.jobs.map((j) => j.job), all.left]).toEqual([["HILL-2604"], 0]);
  expect(all.needs).toEqual(needs);
});

test("files say what the store says now", async () => {
  const short = await bench.app.inject(`${JOB}/files/shortages.csv`);
  const rows = parse(short.payload) as string[][];
  expect(rows.slice(1).map((r) => r[0])).toEqual(["QM-PL"]);
  expect(short.headers["content-disposition"]).toContain("HILL-2604-A-shortages.csv");
  const buy = parse((await bench.app.inject(`${JOB}/files/purchase.csv`)).payload) as string[][];
  expect(buy).toHaveLength(1);
  expect((await bench.app.inject(`${JOB}/files/shortages.xlsx`)).rawPayload.subarray(0, 2).toString()).toBe("PK");
  expect((await bench.app.inject(`${JOB}/files/bom.csv`)).payload).toMatch(/^enclosure,step,part/);
  expect((await bench.app.inject("/api/needs?as=csv&jobs=HILL-2604")).payload).toContain("QM-PL");
});

test("all is reserved or nothing; what is there can be; given back it is free again", async () => {
  const refused = await send("POST", `${JOB}/reservation`, { who: "Ida", partly: false });
  expect(refused.statusCode).toBe(409);
  expect(refused.json<ErrorBody>()).toMatchObject({ code: "stock.short" });
  expect(refused.json<ErrorBody>().message).toContain("QM-PL: 1 wanted, 0 free");
  expect((await get<JobNeedsReply>(`${JOB}/needs`)).reservation).toBeNull();
  const partly = (await send("POST", `${JOB}/reservation`, { who: "Ida", partly: true })).json<ReservationNow>();
  expect(partly.lines.map((l) => l.part)).not.toContain("QM-PL");
  const k9 = partly.lines.find((l) => l.part === "OH-K9")!;
  expect(store.item("OH-K9")).toMatchObject({ level: 1000, reserved: k9.quantity });
  // Its own reservation is no shortage of its own.
  const { needs, reservation } = await get<JobNeedsReply>(`${JOB}/needs`);
  expect(needs.find((n) => n.part === "OH-K9")).toMatchObject({ there: 1000, missing: 0 });
  expect(reservation).toMatchObject({ who: "Ida", releasing: false });
  // Reserved anew: in place of the old one.
  expect((await send("POST", `${JOB}/reservation`, { who: "Bo", partly: true })).statusCode).toBe(200);
  expect(store.item("OH-K9")).toMatchObject({ reserved: k9.quantity });
  const gone = await send("DELETE", `${JOB}/reservation`);
  expect(gone.json<{ reservation: null }>().reservation).toBeNull();
  expect(store.item("OH-K9")).toMatchObject({ reserved: 0 });
});

test("picks are a log: sent twice they count once, the store is told once, undone it comes back", async () => {
  await send("POST", `${JOB}/reservation`, { who: "Ida", partly: true });
  const before = store.item("OH-K9")!;
  const one = event("picked", { line: "OH-K9 (pcs)", kit: "HILL-2604 +A1 plate" });
  const first = await picks({ since: 0, events: [one] });
  expect(first.events).toEqual([one]);
  expect((await picks({ since: 0, events: [one, one] })).events).toEqual([one]);
  await told();
  const after = store.item("OH-K9")!;
  expect([after.level, after.reserved]).toEqual([before.level - 1, before.reserved - 1]);
  expect((await picks({ since: first.last, events: [] })).events).toEqual([]);
  const needs = (await get<JobNeedsReply>(`${JOB}/needs`)).needs.find((n) => n.part === "OH-K9");
  expect(needs?.needed).toBe(result.bill.filter((l) => l.part === "OH-K9").reduce((n, l) => n + l.quantity, 0) - 1);
  await picks({ since: 0, events: [event("undone", { of: one.id, line: one.line, kit: one.kit })] });
  await told();
  expect(store.item("OH-K9")!.level).toBe(before.level);
  await send("DELETE", `${JOB}/reservation`);
});

test("an undo that comes before what it undoes moves nothing; what the store refuses is told", async () => {
  const { level } = store.item("OH-K9")!;
  const late = event("picked", { line: "OH-K9 (pcs)" });
  await picks({ since: 0, events: [event("undone", { of: late.id, line: late.line })] });
  await picks({ since: 0, events: [late] });
  await told();
  expect(store.item("OH-K9")!.level).toBe(level);
  await picks({ since: 0, events: [event("picked"), event("picked", { line: "NIX (pcs)" })] });
  await told();
  const { refused } = await get<StockNow>("/api/stock");
  expect(refused.map((r) => [r.line, r.why])).toEqual([
    ["NIX (pcs)", "there is no part NIX"],
    ["QM-PL (pcs)", "there is too little of QM-PL"],
  ]);
});

test("more goes back to no store than was taken: it is said, and the kit counts none of it twice", async () => {
  const line = { line: "OH-K9 (pcs)", kit: "HILL-2604 +A1 plate" };
  const { level } = store.item("OH-K9")!;
  await picks({ since: 0, events: [event("picked", { ...line, quantity: 2 })] });
  await picks({ since: 0, events: [event("put back", line), event("put back", { ...line, quantity: 5 })] });
  await told();
  expect(store.item("OH-K9")!.level).toBe(level - 1);
  const { refused } = await get<StockNow>("/api/stock");
  expect(refused[0]).toMatchObject({
    line: "OH-K9 (pcs)",
    why: "more would go back than was taken; the store was not told",
  });
  const { events } = await picks({ since: 0, events: [] });
  expect(stateOf(line.kit, events).get(line.line)!.picked).toBe(0);
  await picks({ since: 0, events: [event("put back", line)] });
  await told();
  expect(store.item("OH-K9")!.level).toBe(level);
});

test("who picks is told to the others, not to the one who picks", async () => {
  const here = { device: "device-01", who: "Ida", kit: "HILL-2604 +A1 door", line: "QM-PB (pcs)" };
  expect((await picks({ since: 0, events: [], here })).pickers).toEqual([]);
  const bo = { ...here, device: "device-02", who: "Bo", line: "" };
  expect((await picks({ since: 0, events: [], here: bo })).pickers).toEqual([here]);
  expect((await get<PickReply>(`${JOB}/picks`)).pickers).toHaveLength(2);
});

test.each([
  [{ ...event("picked"), quantity: 0 }, "quantity"],
  [{ ...event("picked"), quantity: undefined }, "quantity"],
  [{ ...event("undone") }, "of"],
  [{ ...event("short"), reason: undefined }, "reason"],
  [{ ...event("picked"), what: "stolen" }, "what"],
  [{ ...event("picked"), at: "noon" }, "at"],
  [{ ...event("at the bench"), quantity: 3 }, "quantity"],
])("a pick of another form is refused, and nothing is kept", async (bad, where) => {
  const { last } = await get<PickReply>(`${JOB}/picks`);
  const reply = await send("POST", `${JOB}/picks`, { since: 0, events: [event("picked"), bad] });
  expect(reply.statusCode).toBe(400);
  expect(reply.json<ErrorBody>().where).toBe(`events.1.${where}`);
  expect((await get<PickReply>(`${JOB}/picks`)).last).toBe(last);
});

test("the store refuses, is slow, is away: the old levels stand with their age, and picks wait", async () => {
  const { at } = await get<StockNow>("/api/stock");
  await mood("refuse", 1);
  const refuses = await get<JobNeedsReply>(`${JOB}/needs`);
  expect(refuses.stock).toMatchObject({ state: "refuses", why: "the stock service is being serviced", at });
  expect(refuses.needs.find((n) => n.part === "OH-K9")!.there).toBeGreaterThan(0);
  const k9 = store.item("OH-K9")!.level;
  await picks({ since: 0, events: [event("picked", { line: "OH-K9 (pcs)" })] });
  expect((await get<StockNow>("/api/stock")).waiting).toBe(1);
  const held = await send("POST", `${JOB}/reservation`, { who: "Ida", partly: true });
  expect([held.statusCode, held.json<ErrorBody>().code]).toEqual([502, "stock.away"]);
  expect((await get<JobNeedsReply>(`${JOB}/needs`)).reservation).toMatchObject({ releasing: true });
  await mood("refuse", 0);
  await picks({ since: 0, events: [event("short")] });
  await told();
  expect(store.item("OH-K9")!.level).toBe(k9 - 1);
  expect((await get<JobNeedsReply>(`${JOB}/needs`)).reservation).toBeNull();
  await mood("slow", 3200);
  expect(await get<StockNow>("/api/stock")).toMatchObject({ state: "away", why: "it does not answer" });
  await mood("slow", 0);
  expect((await get<StockNow>("/api/stock")).state).toBe("here");
});

test("an earlier revision has its bill; a revision that is not there is refused with what to do", async () => {
  const design = JSON.parse(HILL) as { job: { revision: string }; devices: { part: string }[] };
  const gone = design.devices.findIndex((d) => d.part === "QM-PL");
  design.devices.splice(gone, 1);
  design.job.revision = "B";
  expect((await post(bench.app, JSON.stringify(design))).statusCode).toBe(201);
  const old = await get<BillOf>(`${JOB}/bill?revision=A`);
  expect(old).toMatchObject({ revision: "A", edits: "none" });
  expect(old.bill).toEqual(result.bill);
  const now = await get<BillOf>(`${JOB}/bill?revision=B`);
  expect(now.bill.some((l) => l.part === "QM-PL")).toBe(false);
  const none = await send("GET" as "POST", `${JOB}/bill?revision=Z`);
  expect([none.statusCode, none.json<ErrorBody>().code]).toEqual([404, "revision.unknown"]);
});

describe("a stock service that answers nonsense", () => {
  let odd: Http;
  const answer = { body: "{}", status: 200 };
  let other: Bench;
  beforeAll(async () => {
    odd = createServer((_req, res) => {
      res.writeHead(answer.status);
      res.end(answer.body);
    });
    await new Promise<void>((done) => odd.listen(0, "127.0.0.1", done));
    const { port } = odd.address() as { port: number };
    other = await start({ now: clock, stock: `http://127.0.0.1:${port}` });
  });
  afterAll(async () => {
    await other.close();
    await new Promise((done) => odd.close(done));
  });

  test.each([
    ["{}", 200, "unclear", "its answer has no list of items"],
    ["not JSON", 200, "unclear", "its answer is no JSON"],
    ['{"items":[{"part":"P"}]}', 200, "unclear", "it says no free quantity of P"],
    ['{"items":[{"free":1}]}', 200, "unclear", "it says no part"],
    ['{"items":[{"part":"P","free":"many"}]}', 200, "unclear", "it says no free quantity of P"],
    ['{"items":[{"part":"P","free":1e308}]}', 200, "unclear", "it says 1e+308 as free quantity of P, which cannot be"],
    ['{"items":[{"part":"P","free":-1}]}', 200, "unclear", "it says -1 as free quantity of P, which cannot be"],
    ["gone", 500, "refuses", "it answered with 500"],
    [
      '{"items":[{"part":"P","free":2}],"deliveries":[{"part":"P","quantity":1,"due":"soon"}]}',
      200,
      "unclear",
      "it says no day of a delivery of P",
    ],
  ])("%s with %d is said, and nothing of it is believed", async (body, status, state, why) => {
    Object.assign(answer, { body, status });
    expect((await other.app.inject("/api/stock")).json<StockNow>()).toMatchObject({ state, why, at: null });
  });
});

test("without a stock service kits work, and nothing is judged", async () => {
  const alone = await start();
  try {
    await post(alone.app, HILL);
    const needs = (await alone.app.inject(`${JOB}/needs`)).json<JobNeedsReply>();
    expect(needs.stock).toEqual({ state: "none", at: null, waiting: 0, waitingWhy: null, refused: [] });
    expect(needs.needs.every((n) => n.there === null && n.missing === null)).toBe(true);
    expect(needs.starts.every((s) => s.lacks.length === 0)).toBe(true);
    const held = await alone.app.inject({
      method: "POST",
      url: `${JOB}/reservation`,
      headers: { "content-type": "application/json" },
      payload: '{"who":"Ida","partly":false}',
    });
    expect(held.json<ErrorBody>().code).toBe("stock.nothing");
  } finally {
    await alone.close();
  }
});

test("what a deleted job has reserved is given back", async () => {
  await send("POST", `${JOB}/reservation`, { who: "Ida", partly: true });
  expect(store.item("OH-K9")!.reserved).toBeGreaterThan(0);
  expect((await send("DELETE", JOB)).statusCode).toBe(204);
  await post(bench.app, HILL);
  // Whatever is said next of picks gives it back too.
  await picks({ since: 0, events: [event("short")] });
  await told();
  expect(store.item("OH-K9")!.reserved).toBe(0);
});
