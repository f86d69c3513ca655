import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { ErrorBody, TickList } from "@gray-bench/contract/api";
import { DESIGNS, post, start, type Bench } from "./helper";

const LARK = readFileSync(join(DESIGNS, "larkmoor.bench.json"), "utf8");

let bench: Bench;
beforeAll(async () => {
  bench = await start();
  await post(bench.app, LARK);
});
afterAll(() => bench.close());

const get = (url: string) => bench.app.inject({ method: "GET", url });
const tick = (body: unknown) =>
  bench.app.inject({
    method: "POST",
    url: "/api/jobs/LARK-2601/ticks",
    headers: { "content-type": "application/json" },
    payload: JSON.stringify(body),
  });

describe("ticks", () => {
  const one = { list: "strip -X2", who: "B. Lund", ticks: [{ id: "tick-0001", item: "-X2.1 FW-T2", done: true }] };

  test("are kept, the last one of an item counts, and the same one sent twice counts once", async () => {
    expect((await get("/api/jobs/LARK-2601/ticks?list=strip%20-X2")).json<TickList>().ticks).toEqual([]);
    const first = (await tick(one)).json<TickList>();
    expect(first.ticks).toEqual([
      { item: "-X2.1 FW-T2", done: true, who: "B. Lund", at: expect.any(String) as string },
    ]);
    const off = { ...one, who: "A. Moor", ticks: [{ id: "tick-0002", item: "-X2.1 FW-T2", done: false }] };
    expect((await tick(off)).json<TickList>().ticks).toMatchObject([{ done: false, who: "A. Moor" }]);
    // Sent again after the other: it was there before, and does not count anew.
    expect((await tick(one)).json<TickList>().ticks).toMatchObject([{ done: false, who: "A. Moor" }]);
    const more = { ...one, ticks: [{ id: "tick-0003", item: "end stop", done: true }] };
    expect((await tick(more)).json<TickList>().ticks.map((t) => [t.item, t.done])).toEqual([
      ["-X2.1 FW-T2", false],
      ["end stop", true],
    ]);
    expect((await get("/api/jobs/LARK-2601/ticks?list=strip%20-X9")).json<TickList>().ticks).toEqual([]);
  });

  test("one made earlier and sent later does not win, and keeps its own time", async () => {
    const said = (id: string, done: boolean, agoMs?: number) => ({
      list: "late",
      who: "B. Lund",
      ticks: [{ id, item: "a", done, ...(agoMs === undefined ? {} : { agoMs }) }],
    });
    await tick(said("late-0001", false));
    const late = (await tick(said("late-0002", true, 60_000))).json<TickList>().ticks;
    expect(late).toMatchObject([{ done: false }]);
    // Of two made at one moment the one that came last.
    expect((await tick(said("late-0003", true))).json<TickList>().ticks).toMatchObject([{ done: true }]);
    const old = { ...said("late-0004", true, 3_600_000), list: "old" };
    const [kept] = (await tick(old)).json<TickList>().ticks;
    expect(Date.now() - Date.parse(kept!.at)).toBeGreaterThan(3_000_000);
    expect((await tick(said("late-0005", true, -1))).statusCode).toBe(400);
  });

  test.each([
    [{ ...one, who: "" }, "who"],
    [{ ...one, ticks: [] }, "ticks"],
    [{ ...one, ticks: [{ id: "short", item: "a", done: true }] }, "ticks.0.id"],
    [{ ...one, ticks: [{ id: "tick-0009", item: "a", done: 1 }] }, "ticks.0.done"],
    [{ ...one, list: undefined }, "list"],
  ])("what has another form is refused, naming the place", async (body, where) => {
    const reply = await tick(body);
    expect(reply.statusCode).toBe(400);
    expect(reply.json<ErrorBody>().where).toContain(where);
  });

  test("of a job that is not there there are none", async () => {
    expect((await get("/api/jobs/NIX/ticks?list=a")).statusCode).toBe(404);
    expect((await get("/api/jobs/LARK-2601/ticks")).statusCode).toBe(400);
  });
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
