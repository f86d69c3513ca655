import { readFileSync } from "node:fs";
import { createServer as listenHttp, type RequestListener } from "node:http";
import { createServer as listenTcp, type AddressInfo, type Server, type Socket } from "node:net";
import { setTimeout } from "node:timers/promises";
import { Worker } from "node:worker_threads";
import { gzipSync } from "node:zlib";
import { block, dxfText, Sheet } from "@gray-bench/core/test/dxf-sheet";
import { assembled, pdfOf, textOut } from "@gray-bench/core/test/pdf-sheet";
import { zlibSync } from "fflate";
import { HOSTILE } from "@gray-bench/designs/hostile";
import { large, LARGE } from "@gray-bench/designs/large";
import { importDesign, startBench, type BenchServer } from "../../e2e/src/bench-server";
import { held, sized } from "./short";

/**
 * Each attack against a server of its own, from four clients at once; a fifth reads meanwhile as people do, in a thread of its own.
 * Says how long its reads and `/api/health` took, and what the process of the server held at most. On two cores the attackers, the
 * reader and the server share them. Ends with 1 when a bound was missed.
 */

const MOST_MS = 100;
const MOST_MB = 500;
const SECONDS = sized(15, 0.5);
const CLIENTS = 4;
const MB = 1 << 20;
const JSON_BODY = { "content-type": "application/json" };

const HILL = readFileSync("designs/whole/hillfold.bench.json", "utf8");
const JOB = "/api/jobs/HILL-2604";
const READS = [
  "/api/jobs",
  JOB,
  `${JOB}/stages/routes`,
  `${JOB}/open-points`,
  "/api/search?q=-K1&job=HILL-2604",
  "/api/shop",
];

interface Attack {
  name: string;
  /** Flags of the server that is attacked, and what must be closed after it. */
  before?(): Promise<{ flags: string[]; close(): Promise<void> }>;
  /** What stands in the server before it begins. */
  lay?(bench: BenchServer): Promise<void>;
  /** What the computations that it asks for take is their own affair, up to the limits of a task. */
  computes?: true;
  /** One blow; what is answered is up to the server, but it must be an answer. */
  blow(send: Send, n: number): Promise<number>;
}

type Send = (method: string, path: string, body?: string) => Promise<number>;

const listening = <T extends Server>(server: T): Promise<number> =>
  new Promise((done) => server.listen(0, "127.0.0.1", () => done((server.address() as AddressInfo).port)));

/** A machine, a printer and a stock service that all answer as one bad service does. */
async function badService(answer: RequestListener): Promise<{ flags: string[]; close(): Promise<void> }> {
  const tells = listenHttp(answer);
  const open = new Set<Socket>();
  const takes = listenTcp((socket) => {
    open.add(socket);
    const drip = setInterval(() => socket.write("."), 50);
    socket.on("error", () => undefined).on("close", () => clearInterval(drip));
  });
  const [http, tcp] = [await listening(tells), await listening(takes)];
  const at = `Bad=127.0.0.1:${tcp},http://127.0.0.1:${http}`;
  return {
    flags: ["--machine", at, "--wire-machine", at, "--printer", at, "--stock", `http://127.0.0.1:${http}`],
    close: () => {
      tells.closeAllConnections();
      for (const socket of open) socket.destroy();
      return new Promise((done) => tells.close(() => takes.close(() => done())));
    },
  };
}

const blanks: RequestListener = (_req, res) => {
  const blank = Buffer.alloc(MB, " ");
  const more = (): void => {
    while (!res.destroyed && res.write(blank)) continue;
  };
  res.on("drain", more);
  more();
};
const bomb = gzipSync(Buffer.alloc(200 * MB, " "));
const packed: RequestListener = (_req, res) => void res.writeHead(200, { "content-encoding": "gzip" }).end(bomb);
const drips: RequestListener = (_req, res) => {
  res.writeHead(200);
  const drip = setInterval(() => res.write(" "), 50);
  res.on("close", () => clearInterval(drip));
};

const lists = ["/api/machines", "/api/wire-machines", "/api/stock", "/api/jobs/HILL-2604/needs"];
const asking = (send: Send, n: number): Promise<number> => send("GET", lists[n % lists.length]!);

const many = (one: string, bytes: number): string =>
  Array(Math.floor(bytes / (one.length + 1)))
    .fill(one)
    .join(",");
const renamed = (code: string, design: object & { job: object } = JSON.parse(HILL) as { job: object }): string =>
  JSON.stringify({ ...design, job: { ...design.job, code } });
/** A design file near its limit. */
const WHOLE = sized(60, 4) * MB;
const LARGE_DESIGN = large(1, sized(LARGE, { enclosures: 2, rows: 3, perRow: 3, wires: 60 }));
const large10 = (code: string): string => renamed(code, LARGE_DESIGN);
const long = HOSTILE.find((h) => h.name.startsWith("ducts that lie on each other"))!;
const EVENT = '{"id":"aaaaaaaa","lead":"1","attempt":1,"what":"made","who":"Ina","agoMs":0}';
const EDIT = '{"kind":"set wires","payload":{"wires":["1"],"colour":"RD"}}';

async function makeBatch({ address }: BenchServer, job: string, panels: number): Promise<void> {
  const body = JSON.stringify({ faces: [], panels, machine: null, way: "least", fallbacks: null, who: "Ina" });
  const reply = await fetch(`${address}/api/jobs/${job}/batches`, { method: "POST", headers: JSON_BODY, body });
  if (!reply.ok) throw new Error(await reply.text());
}

let arrival = "";
const TABLE = `from;to;net;colour\n${Array.from({ length: sized(190_000, 1000) }, (_, i) => `-K1:${i};-X1:${i};${"net ".repeat(25)}${i % 900};BU`).join("\n")}`;

/** A sheet of lines that meet at every point of a grid, and one of blocks within blocks that would be a thousand million frames. */
const SHEET = (() => {
  const sheet = new Sheet();
  const n = sized(450, 40);
  for (let i = 0; i < n; i++)
    for (let k = 0; k < n; k++) {
      sheet.line("0", i * 10, k * 10, i * 10 + 10, k * 10);
      sheet.line("0", i * 10, k * 10, i * 10, k * 10 + 10);
    }
  return dxfText(sheet);
})();

/** A schematic of many pages, and a page of 200 MB of blanks; both written in letters only. */
const letters = (bytes: Uint8Array): string =>
  Buffer.from(bytes).toString("latin1").replace("%\u00c3\u00a2\u00c3\u00a3", "%");
const DOCUMENT = letters(
  pdfOf(
    Array.from({ length: sized(400, 4) }, (_, page) => ({
      w: 842,
      h: 595,
      ops: Array.from({ length: 150 }, (_, i) =>
        textOut(30 + (i % 10) * 80, 40 + Math.floor(i / 10) * 35, 8, `-K${page + i}`),
      ),
    })),
  ),
);
const UNPACKING = letters(
  assembled([
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] /Contents 4 0 R >>",
    (() => {
      const hex = Buffer.from(zlibSync(new Uint8Array(sized(200, 1) * MB).fill(32))).toString("hex");
      return `<< /Length ${hex.length + 1} /Filter [/ASCIIHexDecode /FlateDecode] >>\nstream\n${hex}>\nendstream`;
    })(),
  ]),
);

const BOMB = (() => {
  const sheet = new Sheet();
  sheet.block("B9", "0", 0, 0, {});
  const blocks = Array.from({ length: 10 }, (_, i) =>
    block(`B${i}`, (b) => {
      if (i === 0) b.frame("0", 0, 0, 1, 1);
      else for (let k = 0; k < 10; k++) b.block(`B${i - 1}`, "0", k, 0, {});
    }),
  );
  return dxfText(sheet, { blocks: blocks.flat() });
})();

const ATTACKS: Attack[] = [
  { name: "nothing, to compare", blow: () => setTimeout(50, 200) },
  {
    name: "a search with many stars",
    blow: (send, n) => send("GET", `/api/search?q=${"*a".repeat(20)}${n}&job=HILL-2604`),
  },
  {
    name: "two million ticks, cut at the limit of the body",
    blow: (send) => send("POST", `${JOB}/ticks`, `{"ticks":[${many("{}", MB - 100)}]}`),
  },
  {
    name: "edits without end, within the limit of the body",
    blow: (send) =>
      send("POST", `${JOB}/edits`, `{"on":"${"0".repeat(64)}","who":"Ina","edits":[${many(EDIT, 4 * MB - 200)}]}`),
  },
  {
    name: "events of leads, a thousand kB each",
    lay: (bench) => makeBatch(bench, "HILL-2604", 1),
    blow: (send) => send("POST", `${JOB}/batches/B1/leads`, `{"events":[${many(EVENT, MB - 100)}]}`),
  },
  {
    name: "design files of 60 MB that are none",
    computes: true,
    blow: (send, n) =>
      send("POST", "/api/jobs", n % 2 ? `{"devices":[${many('{"tag":1}', WHOLE)}]}` : "[".repeat(WHOLE)),
  },
  {
    name: "small designs without end",
    computes: true,
    blow: (send, n) => send("POST", "/api/jobs", renamed(`HILL-${n}`)),
  },
  {
    name: "large jobs imported and deleted",
    computes: true,
    blow: async (send, n) => {
      await send("POST", "/api/jobs", large10(`BIG-${n}`));
      return send("DELETE", `/api/jobs/BIG-${n}`);
    },
  },
  {
    name: "two computations that never end, looked at without end",
    computes: true,
    async lay({ address }) {
      for (const code of ["LONG-1", "LONG-2"])
        await fetch(`${address}/api/jobs`, {
          method: "POST",
          headers: JSON_BODY,
          body: renamed(code, long.make(sized(long.full, 100))),
        });
    },
    blow: (send, n) => send("GET", `/api/jobs/LONG-${(n % 2) + 1}`),
  },
  {
    name: "files of a large batch",
    computes: true,
    async lay(bench) {
      await importDesign(bench, large10("BIG"));
      await makeBatch(bench, "BIG", sized(2, 1));
    },
    blow: (send, n) =>
      send("GET", `/api/jobs/BIG/batches/B1/files/${["bench.pdf", "leads.csv", "bundles.pdf"][n % 3]}`),
  },
  {
    name: "tables of 30 MB, put in and looked at",
    computes: true,
    async lay({ address }) {
      const reply = await fetch(`${address}/api/arrivals`, { method: "POST", headers: JSON_BODY, body: '{"of":null}' });
      arrival = ((await reply.json()) as { id: string }).id;
    },
    blow: (send, n) =>
      n % 3 === 0
        ? send("POST", `/api/arrivals/${arrival}/files?name=wires.csv`, TABLE)
        : send("GET", `/api/arrivals/${arrival}/${n % 3 === 1 ? "tables/1" : "outlook"}`),
  },
  {
    name: "drawings of 400,000 lines and of blocks within blocks",
    computes: true,
    async lay({ address }) {
      const reply = await fetch(`${address}/api/arrivals`, { method: "POST", headers: JSON_BODY, body: '{"of":null}' });
      arrival = ((await reply.json()) as { id: string }).id;
      const put = { method: "POST", headers: { "content-type": "application/octet-stream" }, body: SHEET };
      await fetch(`${address}/api/arrivals/${arrival}/files?name=a.dxf`, put);
    },
    blow: (send, n) =>
      n % 3 === 0
        ? send("POST", `/api/arrivals/${arrival}/files?name=${n % 2 === 0 ? "a" : "b"}.dxf`, n % 2 === 0 ? SHEET : BOMB)
        : send("GET", `/api/arrivals/${arrival}/drawings/1`),
  },
  {
    name: "documents of 400 pages, and some that unpack without end",
    computes: true,
    blow: (send, n) =>
      n % 3 === 0
        ? send("POST", `${JOB}/attachments?name=${n % 2 === 0 ? "a" : "b"}.pdf`, n % 2 === 0 ? DOCUMENT : UNPACKING)
        : send("GET", `${JOB}/found`),
  },
  { name: "machines and services that answer with blanks without end", before: () => badService(blanks), blow: asking },
  { name: "machines and services that answer with 200 MB packed", before: () => badService(packed), blow: asking },
  { name: "machines and services that drip", before: () => badService(drips), blow: asking },
];

/** The reader: asks for one thing after the other until it is stopped, and says what each took, ms. */
const READER = `
const { parentPort, workerData: { address, paths } } = require("node:worker_threads");
const health = [], reads = [];
let going = true;
parentPort.once("message", () => { going = false; });
(async () => {
  for (let n = 0; going; n++) {
    for (const [into, path] of [[health, "/api/health"], [reads, paths[n % paths.length]]]) {
      const begun = performance.now();
      const reply = await fetch(address + path);
      await reply.arrayBuffer();
      if (reply.status !== 200) throw new Error(path + ": " + reply.status);
      into.push(performance.now() - begun);
    }
    await new Promise((next) => setTimeout(next, 5));
  }
  parentPort.postMessage({ health, reads });
})().catch((error) => parentPort.postMessage({ error: String(error) }));
`;

const at99 = (times: number[]): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * 0.99))] ?? NaN;

/** Most memory of a process since it began, MB. */
const peakOf = (pid: number): number =>
  Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))![1]) / 1024;

/** Status of an answer that was read to its end. */
async function answered(url: string, method: string, body: string | undefined): Promise<number> {
  const reply = await fetch(url, body === undefined ? { method } : { method, headers: JSON_BODY, body });
  await reply.arrayBuffer();
  return reply.status;
}

/** What is not answered by then counts as 0, and as missed. */
const LONGEST_MS = 60_000;

async function measure(attack: Attack): Promise<boolean> {
  const given = await attack.before?.();
  const bench = await startBench(given?.flags);
  try {
    await importDesign(bench, HILL);
    await attack.lay?.(bench);
    for (const path of READS) await (await fetch(bench.address + path)).arrayBuffer();
    const reader = new Worker(READER, { eval: true, workerData: { address: bench.address, paths: READS } });
    const said = new Promise<{ health: number[]; reads: number[]; error?: string }>((done) =>
      reader.once("message", done),
    );
    const statuses = new Map<number, number>();
    const send: Send = (method, path, body) =>
      Promise.race([answered(bench.address + path, method, body), setTimeout(LONGEST_MS, 0, { ref: false })]);
    const end = performance.now() + SECONDS * 1000;
    let n = 0;
    await Promise.all(
      Array.from({ length: CLIENTS }, async () => {
        while (performance.now() < end) {
          const status = await attack.blow(send, n++);
          statuses.set(status, (statuses.get(status) ?? 0) + 1);
        }
      }),
    );
    reader.postMessage("stop");
    const { health, reads, error } = await said;
    if (error !== undefined) throw new Error(`${attack.name}: the reader got ${error}`);
    const [h, r, mb] = [at99(health), at99(reads), peakOf(bench.pid)];
    const answers = [...statuses].map(([status, times]) => `${times} × ${status}`).join(", ");
    console.log(
      `| ${attack.name} | ${answers} | ${h.toFixed(0)} ms of ${health.length} | ${r.toFixed(0)} ms of ${reads.length} | ${attack.computes ? "~ " : ""}${mb.toFixed(0)} MB |`,
    );
    return !statuses.has(0) && h < MOST_MS && r < MOST_MS && (attack.computes === true || mb < MOST_MB);
  } finally {
    await bench.stop();
    await given?.close();
  }
}

console.log(
  `bound: health and reads 99 of 100 within ${MOST_MS} ms, memory of the server under ${MOST_MB} MB where nothing is computed (~ where something is)\n`,
);
console.log("| attack | answers | health, 99th percentile | reads, 99th percentile | peak memory |");
console.log("| --- | --- | --- | --- | --- |");
const missed: string[] = [];
const only = process.argv[2]?.split(",");
for (const attack of ATTACKS)
  if (only === undefined || only.some((o) => attack.name.includes(o)))
    if (!(await measure(attack))) missed.push(attack.name);
console.log(`\nover a bound: ${missed.join("; ") || "none"}`);
held(missed.length === 0);
