import { readFileSync } from "node:fs";
import { request, type Server } from "node:http";
import { join } from "node:path";
import fc from "fast-check";
import { serve } from "../src/drill/serve";
import { DrillingMachine } from "../src/drill/shop";
import { readTable } from "../src/drill/table";
import { answering } from "../src/http";
import { listen } from "../src/net";
import { serveStock } from "../src/stock/serve";
import { StockStore } from "../src/stock/store";
import { memoryJournal } from "../src/wire/journal";
import { WireMachine } from "../src/wire/machine";
import { serveWire } from "../src/wire/serve";
import { readWireTable } from "../src/wire/table";

/** Whatever is sent to these programs, they answer in one shape and go on. */

const machines = (name: string): string => readFileSync(join(__dirname, "../machines", name), "utf8");

/** A request on the bare line: addresses that no browser would send. */
const ask = (port: number, method: string, path: string, body = ""): Promise<[status: number, body: string]> =>
  new Promise((resolve, reject) => {
    const req = request({ port, host: "127.0.0.1", method, path, agent: false }, (res) => {
      let text = "";
      res.on("data", (part) => (text += String(part)));
      res.on("end", () => resolve([res.statusCode!, text]));
    });
    req.on("error", reject);
    // Others have none.
    req.end(method === "POST" || method === "PUT" ? body : undefined);
  });

const started: Record<string, () => Promise<{ port: number; close(): Promise<void> }>> = {
  "the machine for sheets": async () => {
    const line = await serve(new DrillingMachine(readTable(machines("tallow-3.json")), 1), { tcp: 0, http: 0 });
    return { port: line.http, close: () => line.close() };
  },
  "the machine for leads": async () => {
    const machine = new WireMachine(readWireTable(machines("brack-2.json")), memoryJournal(), {
      pull: 0,
      jam: 0,
      seed: 1,
    });
    const line = await serveWire(machine, { tcp: 0, http: 0, factor: 1 });
    return { port: line.http, close: () => line.close() };
  },
  "the stock service": () => serveStock(new StockStore(":memory:"), { port: 0 }),
};

const PATHS = [
  "/",
  "//",
  "/%",
  "/%zz",
  "/%00",
  "/jobs/",
  "/jobs/1",
  "/jobs/99999999999999999999",
  "/reel",
  "/magazine",
];
const MORE_PATHS = [
  "/items",
  "/items/%",
  "/items/x",
  "/reservations",
  "/reservations/%E0%A4%A",
  "/moves",
  "/try/slow/x",
  "/?q=%",
];
const BODIES = ["", "null", "[]", "7", '"x"', "{", '{"reel":null}', '{"reel":{},"metres":"x"}', '{"part":[]}'];
const MORE_BODIES = [
  '{"id":1}',
  '{"id":"a","part":"b","quantity":1e400}',
  '{"lines":[null]}',
  `{"__proto__":{"id":"x"}}`,
];

test.each(Object.keys(started))("%s answers whatever is asked, and goes on", async (name) => {
  const { port, close } = await started[name]!();
  const seen = new Set<number>();
  const asked = fc.record({
    method: fc.constantFrom("GET", "GET", "GET", "POST", "DELETE", "PUT"),
    path: fc.oneof(
      fc.constantFrom(...PATHS, ...MORE_PATHS),
      fc.string({ unit: fc.constantFrom("/", "%", "a", "2", "F", ".", "?", "#"), maxLength: 12 }).map((s) => `/${s}`),
    ),
    body: fc.oneof(fc.constantFrom(...BODIES, ...MORE_BODIES), fc.json()),
  });
  try {
    await fc.assert(
      fc.asyncProperty(asked, async ({ method, path, body }) => {
        const [status, text] = await ask(port, method, path, body);
        seen.add(status);
        expect([200, 201, 400, 404, 409]).toContain(status);
        if (status >= 400) expect(typeof (JSON.parse(text) as { error: unknown }).error).toBe("string");
      }),
      { seed: 5, numRuns: 400 },
    );
    const [status] = await ask(port, "POST", "/moves", `{"id":"${"x".repeat(3_000_000)}"}`);
    expect(status).toBe(413);
    expect((await ask(port, "GET", name === "the stock service" ? "/items" : "/"))[0]).toBe(200);
    expect([seen.has(200), seen.has(400), seen.has(404)]).toEqual([true, true, true]);
  } finally {
    await close();
  }
});

test("a fault of its own is told, and the next one is answered", async () => {
  let n = 0;
  const server: Server = answering(() => {
    if (n++ === 0) throw new Error("a wheel came off");
    return [200, {}];
  });
  const port = await listen(server, 0, "127.0.0.1");
  expect(await ask(port, "GET", "/")).toEqual([500, '{"error":"a wheel came off"}']);
  expect(await ask(port, "GET", "/")).toEqual([200, "{}"]);
  server.closeAllConnections();
  await new Promise((done) => server.close(done));
});
