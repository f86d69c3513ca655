import { readFileSync } from "node:fs";
import { createServer as listenHttp, type RequestListener, type Server as Http } from "node:http";
import { createServer as listenTcp, type AddressInfo, type Server as Tcp, type Socket } from "node:net";
import { join } from "node:path";
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { gzipSync } from "node:zlib";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { StockNow } from "@gray-bench/contract/kits";
import type { MachineList } from "@gray-bench/contract/metalwork";
import type { BatchReply, WireMachineList } from "@gray-bench/contract/wireprep";
import { memoryJournal } from "../../standins/src/wire/journal";
import { WireMachine } from "../../standins/src/wire/machine";
import { serveWire, type Listening } from "../../standins/src/wire/serve";
import { readWireTable } from "../../standins/src/wire/table";
import type { MachineAddress } from "../src/machines/line";
import type { BuildOptions } from "../src/app";
import { attendTo, DESIGNS, post, start, until, type Bench } from "./helper";

/** Machines and services that are broken or lie: what they say is never taken for more than it is, and holds up nobody else. */

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const TABLE = readWireTable(readFileSync(join(DESIGNS, "../standins/machines/brack-2.json"), "utf8"));
const JOB = "/api/jobs/HILL-2604";

setFlagsFromString("--expose-gc");
const clearMemory = runInNewContext("gc") as () => void;

const closing: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  while (closing.length > 0) await closing.pop()!();
});

const portOf = (server: Http | Tcp): number => (server.address() as AddressInfo).port;

/** An HTTP server that answers as it likes; its lines are cut at the end. */
async function http(answer: RequestListener): Promise<number> {
  const server = listenHttp(answer);
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  closing.push(() => {
    server.closeAllConnections();
    return new Promise((done) => server.close(done));
  });
  return portOf(server);
}

async function tcp(take: (socket: Socket) => void): Promise<number> {
  const open = new Set<Socket>();
  const server = listenTcp((socket) => {
    open.add(socket.on("error", () => undefined));
    take(socket);
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  closing.push(() => {
    for (const socket of open) socket.destroy();
    return new Promise((done) => server.close(done));
  });
  return portOf(server);
}

async function opened(options: Partial<BuildOptions>): Promise<Bench> {
  const bench = await start({
    now: (
      (n) => () =>
        new Date(Date.UTC(2026, 10, 26) + n++ * 1000)
    )(0),
    ...options,
  });
  closing.push(() => bench.close());
  await post(bench.app, HILL);
  return bench;
}

async function goodMachine(): Promise<{ machine: WireMachine; at: MachineAddress }> {
  const machine = new WireMachine(TABLE, memoryJournal(), { pull: 0, jam: 0, seed: 1 });
  const line: Listening = await serveWire(machine, { tcp: 0, http: 0, factor: 0 });
  closing.push(() => line.close());
  return {
    machine,
    at: { name: "Brack 2", host: "127.0.0.1", port: line.tcp, tells: `http://127.0.0.1:${line.http}` },
  };
}

const call =
  ({ app }: Bench) =>
  async <T>(method: "GET" | "POST" | "DELETE", url: string, body?: object): Promise<T> => {
    const headers = { "content-type": "application/json" };
    const reply = await app.inject({ method, url, ...(body ? { headers, payload: JSON.stringify(body) } : {}) });
    return reply.statusCode === 204 ? (undefined as T) : reply.json<T>();
  };
const ASKED = { faces: [], panels: 1, machine: "Brack 2", way: "least", fallbacks: null, who: "Ina" };
const INA = { who: "Ina" };

test("a job that is deleted and imported again has made nothing, whatever lies at the machine from before", async () => {
  const { machine, at } = await goodMachine();
  const ask = call(await opened({ wireMachines: [at] }));
  const sent = async (): Promise<BatchReply> => {
    await ask("POST", `${JOB}/batches`, ASKED);
    return ask<BatchReply>("POST", `${JOB}/batches/B1/send`, INA);
  };
  const first = (await sent()).runs[0]!.name;
  const refused = await ask<ErrorBody>("DELETE", JOB);
  expect([refused.code, refused.message]).toEqual([
    "job.at-machine",
    "Files of HILL-2604 are at Brack 2. Nothing was deleted.",
  ]);
  attendTo(machine);
  const ended = await until(
    () => ask<BatchReply>("GET", `${JOB}/batches/B1`),
    (b) => b.runs[0]!.state === "ended",
  );
  expect(ended.summary.made).toBe(ended.summary.leads);
  await ask("DELETE", JOB);
  await ask("POST", "/api/jobs", JSON.parse(HILL) as object);
  const second = (await sent()).runs[0]!.name;
  expect(second).not.toBe(first);
  expect([first, second].map((n) => n.replace(/[0-9a-f]{10}/, "…"))).toEqual(Array(2).fill("HILL-2604-B1-1-….xml"));
  // Asked after the old file would have been found.
  for (let i = 0; i < 3; i++) await ask("GET", "/api/wire-machines");
  const now = await until(
    () => ask<BatchReply>("GET", `${JOB}/batches/B1`),
    (b) => b.runs[0]!.state === "sent",
  );
  expect(now.summary.made).toBe(0);
  // Said twice, it goes all the same.
  expect(await ask<ErrorBody | undefined>("DELETE", `${JOB}?anyway=true`)).toBeUndefined();
  expect((await ask<ErrorBody>("GET", JOB)).code).toBe("job.unknown");
});

test("a result counts only for the lead that it names", async () => {
  let name = "";
  let leads: string[] = [];
  const told = await http((req, res) => {
    // The second of them is another wire; the third would be right again.
    const made = leads.slice(0, 3).map((wire, i) => ({ wire: i === 1 ? "another" : wire, result: "good" }));
    const file = { id: 1, name, state: "done", made };
    res.end(JSON.stringify(req.url === "/" ? { jobs: name === "" ? [] : [file] } : file));
  });
  const port = await tcp((socket) =>
    socket.on("data", (part) => {
      name ||= part.toString("utf8").split("\n")[0]!;
      socket.end("taken 1");
    }),
  );
  const at = { name: "Brack 2", host: "127.0.0.1", port, tells: `http://127.0.0.1:${told}` };
  const ask = call(await opened({ wireMachines: [at] }));
  const { batch } = await ask<BatchReply>("POST", `${JOB}/batches`, ASKED);
  leads = batch.plan.chains.flat();
  await ask("POST", `${JOB}/batches/B1/send`, INA);
  const { events, runs } = await until(
    () => ask<BatchReply>("GET", `${JOB}/batches/B1`),
    (b) => b.runs[0]!.state === "ended",
  );
  expect(events.filter((e) => e.what === "made").map((e) => e.lead)).toEqual([leads[0]]);
  const why = `the machine told of another where ${leads[1]} stood: look at what it made`;
  expect(events.slice(1).map((e) => [e.lead, e.what, e.why])).toEqual(leads.slice(1).map((l) => [l, "failed", why]));
  // And nothing is sent again by itself.
  expect([runs.length, runs[0]!.why]).toEqual([1, why]);
});

test("a printer that takes the line and drips holds up no machine", async () => {
  const LARK = "/api/jobs/LARK-2601";
  const { machine, at } = await goodMachine();
  const port = await tcp((socket) => {
    const drip = setInterval(() => socket.write("."), 50);
    socket.on("close", () => clearInterval(drip));
  });
  const tells = await http((_req, res) => void res.end(JSON.stringify({ jobs: [] })));
  const ask = call(
    await opened({
      wireMachines: [at],
      printers: [{ name: "Drip", host: "127.0.0.1", port, tells: `http://127.0.0.1:${tells}` }],
    }),
  );
  // The other demo job has labels from the printer.
  await ask(
    "POST",
    "/api/jobs",
    JSON.parse(readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8")) as object,
  );
  await ask("POST", `${LARK}/batches`, ASKED);
  const printing = ask<unknown>("POST", `${LARK}/batches/B1/print`, { ...INA, printer: "Drip" });
  await until(
    () => ask<BatchReply>("GET", `${LARK}/batches/B1`),
    (b) => b.runs.some((r) => r.takes === "labels"),
  );
  await ask("POST", `${LARK}/batches/B1/send`, INA);
  attendTo(machine);
  const { runs } = await until(
    () => ask<BatchReply>("GET", `${LARK}/batches/B1`),
    (b) => b.runs.some((r) => r.takes === "leads" && r.state === "ended"),
  );
  expect(runs.find((r) => r.takes === "labels")!.state).toBe("sending");
  // The exchange has an end of its own: however busily it drips it is given up.
  await printing;
}, 90_000);

test("an answer that drips has an end as a whole, whatever was cleared away meanwhile", async () => {
  const port = await http((_req, res) => {
    res.writeHead(200);
    const drip = setInterval(() => res.write(" "), 20);
    res.on("close", () => clearInterval(drip));
  });
  const bad = { name: "Bad", host: "127.0.0.1", port: 1, tells: `http://127.0.0.1:${port}` };
  const ask = call(await opened({ machines: [bad], wireMachines: [bad], stock: `http://127.0.0.1:${port}` }));
  const clearing = setInterval(clearMemory, 100);
  try {
    const [sheets, wires, stock] = await Promise.all([
      ask<MachineList>("GET", "/api/machines"),
      ask<WireMachineList>("GET", "/api/wire-machines"),
      ask<StockNow>("GET", "/api/stock"),
    ]);
    expect([sheets.machines[0], wires.machines[0], stock]).toEqual(
      Array(3).fill(expect.objectContaining({ state: "away", why: "it does not answer" })),
    );
  } finally {
    clearInterval(clearing);
  }
}, 20_000);

describe("an answer that never ends, or unpacks to more than anybody's", () => {
  const MB = 1_000_000;
  let written = 0;
  const blanks: RequestListener = (_req, res) => {
    const blank = Buffer.alloc(MB, " ");
    const more = (): void => {
      while (!res.destroyed && res.write(blank)) written += MB;
    };
    res.on("drain", more);
    more();
  };
  const bomb = gzipSync(Buffer.alloc(200 * MB, " "));
  const packed: RequestListener = (_req, res) => {
    res.writeHead(200, { "content-encoding": "gzip" });
    res.end(bomb);
  };

  test.each([
    ["blanks", blanks],
    ["packed", packed],
  ])(
    "%s: the machine is away, the store is not understood, and hardly more than the limit was read",
    async (_, how) => {
      written = 0;
      const port = await http(how);
      const bad = { name: "Bad", host: "127.0.0.1", port: 1, tells: `http://127.0.0.1:${port}` };
      const before = process.memoryUsage().rss;
      const ask = call(await opened({ machines: [bad], wireMachines: [bad], stock: `http://127.0.0.1:${port}` }));
      expect((await ask<MachineList>("GET", "/api/machines")).machines[0]!.state).toBe("away");
      expect((await ask<WireMachineList>("GET", "/api/wire-machines")).machines[0]!.state).toBe("away");
      expect(["unclear", "away"]).toContain((await ask<StockNow>("GET", "/api/stock")).state);
      // Three questions, of 5 and 20 MB at most, and what lay in the line.
      expect(written).toBeLessThan(60 * MB);
      expect(process.memoryUsage().rss - before).toBeLessThan(400 * MB);
    },
  );
});

test("a machine that was heard of before the clock was set back is asked again", async () => {
  let asked = 0;
  const port = await http((_req, res) => {
    asked++;
    res.end("{}");
  });
  let ms = Date.UTC(2026, 10, 26);
  const at = { name: "Tallow 3", host: "127.0.0.1", port: 1, tells: `http://127.0.0.1:${port}` };
  const ask = call(await opened({ machines: [at], now: () => new Date(ms) }));
  await ask("GET", "/api/machines");
  await ask("GET", "/api/machines");
  expect(asked).toBe(1);
  ms -= 3_600_000;
  await ask("GET", "/api/machines");
  expect(asked).toBe(2);
});

test.each([401, 408, 425, 429, 500, 503])(
  "a pick that the store answers with %i is told again, and said to be waiting",
  async (status) => {
    let moves = 0;
    const port = await http((req, res) => {
      if (req.url === "/moves") res.statusCode = moves++ === 0 ? status : 200;
      res.end(
        JSON.stringify(
          res.statusCode >= 400 ? { error: "not now" } : { items: [], deliveries: [], lines: [], done: true },
        ),
      );
    });
    const ask = call(await opened({ stock: `http://127.0.0.1:${port}` }));
    const event = {
      id: "event-0001",
      kit: "HILL-2604 +A1 door",
      line: "QM-PL (pcs)",
      what: "picked",
      quantity: 1,
      who: "Ida",
      at: "2026-11-26T10:00:00.000Z",
    };
    await ask("POST", `${JOB}/picks`, { since: 0, events: [event] });
    const waits = await until(
      () => ask<StockNow>("GET", "/api/stock"),
      (s) => s.waitingWhy !== null,
    );
    expect([waits.waiting, waits.waitingWhy, waits.refused]).toEqual([1, "not now", []]);
    const told = await ask<StockNow>("POST", "/api/stock/tell");
    expect([told.waiting, told.waitingWhy, told.refused, moves]).toEqual([0, null, [], 2]);
  },
);
