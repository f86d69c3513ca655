import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { EditLog } from "@gray-bench/contract/edits";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { EventReply } from "@gray-bench/contract/events";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { PickReply } from "@gray-bench/contract/kits";
import { ticksOf, type TickEvent } from "@gray-bench/core/frame/ticks";
import { sql } from "kysely";
import type { ServerResponse } from "node:http";
import { PassThrough } from "node:stream";
import { Live } from "../src/events/live";
import { DESIGNS, post as bring, start, type Bench } from "./helper";

const LARK = readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8");

let bench: Bench;
beforeAll(async () => {
  bench = await start();
  await bring(bench.app, LARK);
});
afterAll(() => bench.close());

const get = (url: string) => bench.app.inject({ method: "GET", url });
const post = (url: string, body: unknown) =>
  bench.app.inject({
    method: "POST",
    url: `/api/jobs/LARK-2601/${url}`,
    headers: { "content-type": "application/json" },
    payload: JSON.stringify(body),
  });
const LIST = "strip -X2";
/** What is said of a list, and how its items stand then. */
const tick = async (said: readonly (Partial<TickEvent> & { id: string })[], more: object = {}) => {
  const events = said.map((e) => ({ list: LIST, item: "a", what: "ticked", who: "B. Lund", at: HERE, ...e }));
  const reply = await post("events", { kind: "tick", thing: LIST, since: 0, clock: HERE, events, ...more });
  return ticksOf(LIST, reply.json<EventReply<TickEvent>>().events);
};
/** The clock of a phone that is two hours behind. */
const HERE = "2026-11-22T22:00:00.000Z";
const NOW = "2026-11-23T00:00:00.000Z";

describe("ticks", () => {
  test("are kept by the clock of the server, the last one of an item counts, and the same one sent twice counts once", async () => {
    const first = await tick([{ id: "tick-0001" }]);
    expect([...first]).toEqual([["a", { done: true, who: "B. Lund", at: NOW }]]);
    const off = { id: "tick-0002", what: "unticked", who: "A. Moor" } as const;
    expect((await tick([off])).get("a")).toMatchObject({ done: false, who: "A. Moor" });
    // Sent again after the other: it was there before, and does not count anew.
    expect((await tick([{ id: "tick-0001" }])).get("a")).toMatchObject({ done: false, who: "A. Moor" });
    expect([...(await tick([{ id: "tick-0003", item: "end stop" }])).keys()]).toEqual(["a", "end stop"]);
    const { last } = (await get("/api/jobs/LARK-2601/events?kind=tick&thing=strip%20-X2")).json<EventReply>();
    const since = await get(`/api/jobs/LARK-2601/events?kind=tick&thing=strip%20-X2&since=${last}`);
    expect(since.json<EventReply>()).toEqual({ events: [], last, here: [] });
    const other = await get("/api/jobs/LARK-2601/events?kind=tick&thing=strip%20-X9");
    expect(other.json<EventReply>().events).toEqual([]);
  });

  test("one made earlier and sent later does not win and keeps its own time, in the form of before too; none is of tomorrow", async () => {
    await tick([{ id: "late-0001", item: "l", what: "unticked" }]);
    const early = { id: "late-0002", item: "l", at: "2026-11-22T21:59:00.000Z" };
    expect((await tick([early])).get("l")).toMatchObject({ done: false });
    const old = { id: "late-0003", item: "l", done: true, agoMs: 60_000 };
    expect((await post("ticks", { list: LIST, who: "B. Lund", ticks: [old] })).json()).toEqual({ kept: 1 });
    expect((await tick([])).get("l")).toMatchObject({ done: false });
    await post("ticks", {
      list: LIST,
      who: "Old",
      ticks: [{ id: "late-0004", item: "m", done: true, agoMs: 3_600_000 }],
    });
    expect((await tick([])).get("m")).toEqual({ done: true, who: "Old", at: "2026-11-22T23:00:00.000Z" });
    expect((await tick([{ id: "late-0005", item: "n", at: "2099-01-01T00:00:00Z" }])).get("n")!.at).toBe(NOW);
  });

  const one = { id: "tick-0009", list: LIST, item: "a", what: "ticked", who: "Ida", at: HERE };
  const asked = { kind: "tick", thing: LIST, since: 0, events: [one] };
  test.each([
    [{ ...asked, kind: "edit" }, "kind"],
    [{ ...asked, thing: undefined }, "thing"],
    [{ ...asked, since: -1 }, "since"],
    [{ ...asked, events: [{ ...one, id: "short" }] }, "events.0.id"],
    [{ ...asked, events: [{ ...one, who: "" }] }, "events.0.who"],
    [{ ...asked, events: [{ ...one, what: "undone" }] }, "events.0.what"],
    [{ ...asked, events: [{ ...one, list: "strip -X1" }] }, "events.0.list"],
    [{ ...asked, events: Array(501).fill(one) }, "events"],
    [{ ...asked, kind: "sheet" }, "thing"],
    [{ ...asked, clock: "2026-W05" }, "clock"],
    [{ ...asked, events: [{ ...one, at: "2026-002" }] }, "events.0.at"],
    [{ ...asked, events: [{ ...one, at: "2026-13-40T00:00:00Z" }] }, "events.0.at"],
  ])("what has another form is refused, naming the place", async (body, where) => {
    const reply = await post("events", body);
    expect(reply.statusCode).toBe(400);
    expect(reply.json<ErrorBody>().where).toContain(where);
  });

  test("of a job that is not there there are none", async () => {
    expect((await get("/api/jobs/NIX/events?kind=tick&thing=a")).statusCode).toBe(404);
    expect((await get("/api/jobs/LARK-2601/events?kind=tick")).statusCode).toBe(400);
  });
});

test("picks are said there too: told to the store, heard at both addresses; others hear who is at work with what", async () => {
  const event = { id: "pick-0001", kit: "K", line: "a (pcs)", what: "picked", quantity: 2, who: "Ida", at: HERE };
  const here = { device: "phone-0001", who: "Ida", thing: "K", part: "a (pcs)" };
  const asked = { kind: "pick", since: 0, clock: HERE, events: [event], here };
  const said = [{ ...event, at: NOW }];
  expect((await post("events", asked)).json()).toMatchObject({ events: said, here: [] });
  expect((await post("events", asked)).json<EventReply>().events).toEqual(said);
  const booked = sql<{ n: number }>`SELECT count(*) AS n FROM bookings JOIN events USING (seq) WHERE id = 'pick-0001'`;
  expect((await booked.execute(bench.store.db)).rows).toEqual([{ n: 1 }]);
  const other = { ...asked, events: [], here: { ...here, device: "phone-0002", who: "Ann", part: "" } };
  expect((await post("events", other)).json<EventReply>().here).toEqual([{ ...here, before: true }]);
  // Who was there first stays there, and who came to it later knows.
  const same = { ...other, here: { ...other.here, part: here.part } };
  expect((await post("events", same)).json<EventReply>().here).toEqual([{ ...here, before: true }]);
  expect((await post("events", asked)).json<EventReply>().here).toEqual([{ ...same.here, before: false }]);
  const { device, who } = here;
  const before = (await get("/api/jobs/LARK-2601/picks")).json<PickReply>();
  expect(before.events).toEqual(said);
  expect(before.pickers).toContainEqual({ device, who, kit: "K", line: "a (pcs)" });
  // Of ticks nobody is at work there.
  const ticks = await get("/api/jobs/LARK-2601/events?kind=tick&thing=strip%20-X9");
  expect(ticks.json<EventReply>().here).toEqual([]);
  for (const [body, where] of [
    [{ ...asked, thing: "K" }, "thing"],
    [{ ...asked, here: { ...here, device: "x" } }, "here.device"],
    [{ ...asked, events: [{ ...event, id: "pick-0002", quantity: undefined }] }, "events.0.quantity"],
  ] as const)
    expect((await post("events", body)).json<ErrorBody>().where).toContain(where);
});

test("who holds a line hears at once of what happens to that job, and of who is at work with something else", async () => {
  const address = await bench.app.listen({ port: 0, host: "127.0.0.1" });
  const line = (await fetch(`${address}/api/jobs/LARK-2601/live`))
    .body!.pipeThrough(new TextDecoderStream())
    .getReader();
  let heard = "";
  const hears = async (text: string): Promise<void> => {
    while (!heard.includes(text)) heard += (await line.read()).value!;
    heard = heard.slice(heard.indexOf(text) + text.length);
  };
  await hears("event: open");
  await tick([{ id: "live-0001" }]);
  const { last } = (await get("/api/jobs/LARK-2601/events?kind=tick&thing=strip%20-X2")).json<EventReply>();
  await hears(`event: happened\ndata: {"kind":"tick","thing":"${LIST}","last":${last}}\n\n`);
  const here = { device: "phone-0009", who: "Ida", thing: "K", part: "" };
  const asked = { kind: "pick", since: 0, events: [], here };
  await post("events", asked);
  await post("events", asked);
  await post("events", { ...asked, here: { ...here, part: "b (pcs)" } });
  await hears('data: {"kind":"pick"}\n\nevent: happened\ndata: {"kind":"pick"}\n\n');
  expect(heard).not.toContain("happened");
  const { designHash: on } = (await get("/api/jobs/LARK-2601/edits")).json<EditLog>();
  const edits = [{ kind: "set wires", payload: { wires: ["1"], colour: "RD" } }];
  const made = await post("edits", { on, who: "Ida", edits });
  expect(made.statusCode).toBe(201);
  const { key } = (await get("/api/jobs/LARK-2601")).json<JobDetail>();
  const changed = `event: changed\ndata: {"key":"${key}"}\n\n`;
  const done = `event: progress\ndata: {"run":"done","stage":null,"share":1,"key":"${key}"}\n\n`;
  while (!heard.includes(changed) || !heard.includes(done)) heard += (await line.read()).value!;
  await line.cancel();
  expect((await fetch(`${address}/api/jobs/NIX/live`)).status).toBe(404);
  expect((await fetch(`${address}/api/jobs/LARK-2601/live`, { method: "HEAD" })).status).toBe(200);
});

test("so many lines and no more; one that takes nothing off is cut, and so are all when the server stops", () => {
  const live = new Live();
  const lineOf = () => {
    const raw = Object.assign(new PassThrough(), { writeHead: () => undefined });
    return raw as unknown as ServerResponse & PassThrough;
  };
  const lines = Array.from({ length: 200 }, lineOf);
  for (const raw of lines) live.open("J", raw);
  expect(() => live.open("J", lineOf())).toThrow("more to do");
  const [slow, quick] = [lines[0]!, lines[1]!];
  for (let i = 0; i < 3000; i++) {
    live.tell("J", "happened", { kind: "tick", thing: "l", last: i });
    quick.read();
  }
  expect([slow.destroyed, quick.destroyed]).toEqual([true, false]);
  live.close();
  expect(quick.writableEnded).toBe(true);
});

test("a log that no person can have written is full, each kind by itself", async () => {
  const fill = (kind: string, count: number) =>
    sql`INSERT INTO events (job, kind, id, thing, payload, who, at, came)
      WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${count})
      SELECT 'LARK-2601', ${kind}, 'filled ' || i, 'x', '{}', 'x', '2026-11-30', '2026-11-30' FROM n`.execute(
      bench.store.db,
    );
  const say = async (url: string, body: object): Promise<unknown> => {
    const reply = await post(url, body);
    return reply.statusCode === 200 ? 200 : reply.json<ErrorBody>().code;
  };
  const at = "2026-11-30T08:00:00Z";
  const pick = { id: "pick-full", kit: "K", line: "a (pcs)", what: "picked", quantity: 1, who: "Ida", at };
  const sheet = { id: "sheet-full", face: "+A1/plate", sheet: 1, what: "begun", who: "Ida", at };
  const one = { id: "tick-full", list: "l", item: "a", what: "ticked", who: "Ida", at };
  const ticked = { kind: "tick", thing: "l", since: 900_000, events: [one] };
  await fill("sheet", 200_000);
  expect(await say("events", { kind: "sheet", since: 300_000, events: [sheet] })).toBe("events.full");
  expect(await say("picks", { since: 300_000, events: [pick] })).toBe(200);
  await fill("pick", 199_998);
  for (const [url, more] of Object.entries({ picks: {}, events: { kind: "pick" } }))
    expect(await say(url, { ...more, since: 900_000, events: [{ ...pick, id: "pick-more" }] })).toBe("picks.full");
  expect(await say("events", ticked)).toBe(200);
  await fill("tick", 199_999);
  expect(await say("events", ticked)).toBe("events.full");
});

describe("a strip as somebody wants it drawn", () => {
  const drawing = (query: string) => get(`/api/jobs/LARK-2601/stages/lineups/drawing?${query}`);

  test("in three formats, at any scale, turned, upright", async () => {
    const pdf = await drawing("strip=-X2&stand=upright&scale=3&swap=true&turn=90");
    expect([pdf.statusCode, pdf.headers["content-type"]]).toEqual([200, "application/pdf"]);
    expect(pdf.rawPayload.subarray(0, 5).toString()).toBe("%PDF-");
    expect(pdf.headers["content-disposition"]).toContain("strip%20-X2.pdf");
    const svg = await drawing("strip=-X2&as=svg&scale=3&joined=true");
    expect(svg.body).toContain("scale 3:1");
    expect(svg.body).toContain("sheet 1 of 1");
    expect((await drawing("strip=-X2&as=dxf")).body).toContain("LWPOLYLINE");
  });

  test("what cannot be is refused, naming the place", async () => {
    const gone = await drawing("strip=-X99");
    expect([gone.statusCode, gone.json<ErrorBody>().code]).toEqual([404, "drawing.unknown"]);
    for (const query of ["", "strip=-X2&scale=99", "strip=-X2&turn=45", "strip=-X2&as=png"]) {
      const reply = await drawing(query);
      expect(reply.statusCode).toBe(400);
    }
  });
});
