import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { runs } from "@gray-bench/core/test/runs";
import { serveStock, type Listening } from "../src/stock/serve";
import { StockStore } from "../src/stock/store";

const item = (part: string, level: number) => ({ part, text: `part ${part}`, place: `A-${part}`, pack: 5, level });

let folder: string;
let store: StockStore;
let line: Listening;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "stock-"));
  store = new StockStore(join(folder, "stock.db"));
  store.fill([item("P", 10), item("Q/2", 3)], [{ part: "P", quantity: 50, due: "2026-12-01" }]);
  line = await serveStock(store, { port: 0 });
});
afterAll(async () => {
  await line.close();
  store.close();
  rmSync(folder, { recursive: true, force: true });
});

const call = async (method: string, path: string, body?: unknown) => {
  const reply = await fetch(`http://127.0.0.1:${line.port}${path}`, {
    method,
    ...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
  });
  return { status: reply.status, body: (await reply.json()) as Record<string, unknown> };
};

test("items with what is reserved and free, deliveries, and what it says of itself", async () => {
  expect((await call("GET", "/items")).body.items).toMatchObject([
    { part: "P", free: 10 },
    { part: "Q/2", free: 3 },
  ]);
  expect((await call("GET", "/items?from=1&most=1")).body.items).toMatchObject([{ part: "Q/2" }]);
  expect((await call("GET", "/items/Q%2F2")).body).toMatchObject({ level: 3, place: "A-Q/2" });
  expect((await call("GET", "/items/none")).status).toBe(404);
  expect((await call("GET", "/deliveries")).body.deliveries).toEqual([{ part: "P", quantity: 50, due: "2026-12-01" }]);
  const { paths } = (await call("GET", "/openapi.json")).body as { paths: object };
  expect(Object.keys(paths)).toContain("/reservations");
});

test("all lines are reserved or none; sent again it counts once; released, it is free again", async () => {
  const one = {
    id: "r1",
    job: "LARK",
    lines: [
      { part: "P", quantity: 4 },
      { part: "P", quantity: 3 },
    ],
  };
  expect((await call("POST", "/reservations", one)).status).toBe(201);
  expect((await call("POST", "/reservations", one)).status).toBe(200);
  expect((await call("GET", "/items/P")).body).toMatchObject({ reserved: 7, free: 3 });
  const much = await call("POST", "/reservations", {
    id: "r2",
    job: "HILL",
    lines: [
      { part: "Q/2", quantity: 1 },
      { part: "P", quantity: 4 },
    ],
  });
  expect([much.status, much.body.missing]).toEqual([409, [{ part: "P", wanted: 4, free: 3 }]]);
  expect((await call("GET", "/items/Q%2F2")).body).toMatchObject({ reserved: 0 });
  expect((await call("GET", "/reservations/r1")).body).toEqual({
    id: "r1",
    job: "LARK",
    lines: [{ part: "P", quantity: 7 }],
  });
  expect((await call("DELETE", "/reservations/r1")).status).toBe(200);
  expect((await call("DELETE", "/reservations/r1")).status).toBe(404);
  expect((await call("GET", "/items/P")).body).toMatchObject({ reserved: 0, free: 10 });
});

test("what is taken, put back, taken twice by mistake of the line, and more than there is", async () => {
  const take = (id: string, quantity: number) => call("POST", "/moves", { id, part: "P", quantity });
  expect((await take("m1", 4)).body).toEqual({ level: 6, again: false });
  expect((await take("m1", 4)).body).toEqual({ level: 6, again: true });
  expect((await take("m2", -1)).body).toEqual({ level: 7, again: false });
  expect((await take("m3", 8)).status).toBe(409);
  expect((await call("POST", "/moves", { id: "m4", part: "none", quantity: 1 })).status).toBe(404);
});

test("bad bodies are refused; slow and refusing on demand", async () => {
  for (const body of [
    "{",
    "null",
    "{}",
    '{"id":"x","job":"y","lines":[{"part":"P"}]}',
    '{"id":"x","job":"y","lines":[{"part":"P","quantity":-1}]}',
  ])
    expect((await call("POST", "/reservations", body)).status).toBe(400);
  expect((await call("POST", "/moves", "7")).status).toBe(400);
  expect((await call("GET", "/nothing")).status).toBe(404);
  await call("POST", "/try/refuse/1");
  expect((await call("GET", "/items")).status).toBe(503);
  await call("POST", "/try/refuse/0");
  await call("POST", "/try/slow/30");
  const begun = performance.now();
  await call("GET", "/items");
  expect(performance.now() - begun).toBeGreaterThan(25);
  await call("POST", "/try/slow/0");
});

test("whatever is reserved, released and taken: nothing is reserved beyond what there is, and all is found again", () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          what: fc.constantFrom("reserve", "release", "take"),
          id: fc.integer({ min: 0, max: 5 }),
          part: fc.constantFrom("A", "B"),
          quantity: fc.integer({ min: 1, max: 6 }),
        }),
        { maxLength: 30 },
      ),
      (list) => {
        const own = new StockStore(":memory:");
        own.fill([item("A", 10), item("B", 6)]);
        const held = new Map<string, { part: string; quantity: number }>();
        const levels = new Map([
          ["A", 10],
          ["B", 6],
        ]);
        list.forEach(({ what, id, part, quantity }, i) => {
          const name = `r${id}`;
          if (what === "reserve") {
            const reservedNow = [...held.values()].filter((h) => h.part === part).reduce((n, h) => n + h.quantity, 0);
            const { ok } = own.reserve({ id: name, job: "J", lines: [{ part, quantity }] });
            if (held.has(name)) expect(ok).toBe(true);
            else {
              expect(ok).toBe(levels.get(part)! - reservedNow >= quantity);
              if (ok) held.set(name, { part, quantity });
            }
          } else if (what === "release") expect(own.release(name)).toBe(held.delete(name));
          else {
            const done = own.move(`m${i}`, { part, quantity });
            expect(done === "too little").toBe(levels.get(part)! < quantity);
            if (done !== "too little") levels.set(part, levels.get(part)! - quantity);
          }
        });
        for (const [part, level] of levels) {
          const reserved = [...held.values()].filter((h) => h.part === part).reduce((n, h) => n + h.quantity, 0);
          expect(own.item(part)).toMatchObject({ level, reserved, free: level - reserved });
        }
        own.close();
      },
    ),
    { seed: 91, numRuns: runs(100) },
  );
});
