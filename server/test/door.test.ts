import { spawn, spawnSync } from "node:child_process";
import {
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { AuditEntry, AuditList } from "@gray-bench/contract/record";
import { serverBusy, toReply } from "../src/errors";
import { hostName } from "../src/plugins/door";
import { isKnown } from "../src/results/etag";
import type { Workers } from "../src/workers/pool";
import { startWorkers } from "../src/workers/pool";
import { DESIGNS, MAIN, post, start, WORKER, type Bench } from "./helper";

jest.setTimeout(60_000);

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"));

describe("who may talk to the server", () => {
  let bench: Bench;
  beforeAll(async () => {
    bench = await start({ names: ["Bench.Shop.example"] });
    await post(bench.app, HILL);
  });
  afterAll(() => bench.close());

  const ask = (
    headers: Record<string, string>,
    method: "GET" | "POST" | "DELETE" | "PATCH" = "GET",
    url = "/api/jobs",
  ) => bench.app.inject({ method, url, headers });
  const told = async (...asked: Parameters<typeof ask>): Promise<[number, string | undefined]> => {
    const reply = await ask(...asked);
    return [reply.statusCode, reply.statusCode < 400 ? undefined : reply.json<ErrorBody>().code];
  };

  test.each([
    ["localhost", 200],
    ["localhost:4600", 200],
    ["127.0.0.1:4600", 200],
    ["[::1]:4600", 200],
    ["bench.shop.example:4600", 200],
    ["BENCH.shop.example", 200],
    ["elsewhere.example", 403],
    ["127.0.0.1.elsewhere.example", 403],
    ["localhost.elsewhere.example:4600", 403],
    ["localhost:4600@elsewhere.example", 403],
    ["localhost/elsewhere", 403],
    ["a b", 403],
  ])("called by the name %s: %i", async (host, status) => {
    expect((await ask({ host })).statusCode).toBe(status);
    // Pages and what is not there too.
    if (status === 403) {
      expect(await told({ host }, "GET", "/")).toEqual([403, "host.refused"]);
      expect(await told({ host }, "POST", "/api/jobs/HILL-2604/run")).toEqual([403, "host.refused"]);
    }
  });

  test("a page of another site changes nothing, whatever name it calls the server by", async () => {
    const run = "/api/jobs/HILL-2604/run";
    const host = "localhost:4600";
    for (const origin of ["http://elsewhere.example", "null", "file://", "http://localhost.elsewhere.example"])
      expect(await told({ host, origin }, "POST", run)).toEqual([403, "origin.refused"]);
    expect(await told({ host, "sec-fetch-site": "cross-site" }, "DELETE", "/api/jobs/HILL-2604")).toEqual([
      403,
      "origin.refused",
    ]);
    expect((await ask({ host, origin: "http://localhost:4600" }, "POST", run)).statusCode).toBe(202);
    expect((await ask({ host }, "POST", run)).statusCode).toBe(202);
    // Reading is no change; a page of another site may not ask for what costs something either.
    expect((await ask({ host, origin: "http://elsewhere.example" })).statusCode).toBe(200);
    for (const site of ["cross-site", "same-site"])
      for (const url of ["/api/search?q=x", "/api/jobs/HILL-2604/stages/routes"])
        expect(await told({ host, "sec-fetch-site": site }, "GET", url)).toEqual([403, "origin.refused"]);
    for (const site of ["same-origin", "none"])
      expect((await ask({ host, "sec-fetch-site": site }, "GET", "/api/search?q=x")).statusCode).toBe(200);
    // Whoever comes from a link elsewhere still sees the application.
    expect((await told({ host, "sec-fetch-site": "cross-site" }, "GET", "/"))[0]).not.toBe(403);
  });

  test("a page of another port of this machine is another site; the usual port goes without saying", async () => {
    const run = "/api/jobs/HILL-2604/run";
    for (const origin of ["http://localhost:4601", "http://localhost", "http://127.0.0.1:4600"])
      expect(await told({ host: "localhost:4600", origin }, "POST", run)).toEqual([403, "origin.refused"]);
    for (const host of ["localhost", "localhost:80"])
      expect((await ask({ host, origin: "http://localhost" }, "POST", run)).statusCode).toBe(202);
  });

  test("pages may load nothing of others, and want nothing of a device but its camera", async () => {
    const { headers } = await ask({ host: "localhost" });
    expect(String(headers["content-security-policy"])).toContain("font-src 'self';");
    expect(headers["permissions-policy"]).toMatch(/^camera=\(self\), microphone=\(\), geolocation=\(\)/);
  });

  test("what was done to the whole is written down, and stays when a job goes", async () => {
    const own = await start({ names: [], folder: mkdtempSync(join(tmpdir(), "gray-bench-")) });
    try {
      await post(own.app, HILL);
      await post(own.app, HILL);
      await own.app.inject({ method: "DELETE", url: "/api/jobs/HILL-2604?who=Ina" });
      await own.app.inject({ method: "DELETE", url: "/api/jobs/NIX" });
      await own.app.inject({ method: "POST", url: "/api/backup" });
      const list = async (more = ""): Promise<AuditEntry[]> =>
        (await own.app.inject(`/api/audit${more}`)).json<AuditList>().entries;
      const told = (e: AuditEntry) => [e.what, e.job, e.who, e.address];
      const all = await list();
      expect(all.map(told)).toEqual([
        ["backup", null, null, "127.0.0.1"],
        ["delete", "HILL-2604", "Ina", "127.0.0.1"],
        ["import", "HILL-2604", null, "127.0.0.1"],
      ]);
      expect((await list(`?before=${all[1]!.seq}&most=1`)).map(told)).toEqual([told(all[2]!)]);
      expect((await list("?job=HILL-2604")).map(told)).toEqual([told(all[1]!), told(all[2]!)]);
      const table = await own.app.inject("/api/audit?as=csv&job=HILL-2604");
      expect(table.headers["content-disposition"]).toBe('attachment; filename="record.csv"');
      const lines = table.body.trimEnd().split("\r\n");
      expect(lines.map((l) => l.split(",").slice(1, 5).join(","))).toEqual([
        "what,job,who,address",
        "delete,HILL-2604,Ina,127.0.0.1",
        "import,HILL-2604,,127.0.0.1",
      ]);
    } finally {
      await own.close();
    }
  });

  test("a wrong method is told from a wrong path, with what the path takes", async () => {
    const reply = await ask({ host: "localhost" }, "PATCH", "/api/jobs/HILL-2604");
    expect([reply.statusCode, reply.json<ErrorBody>().code, reply.headers.allow]).toEqual([
      405,
      "method.unknown",
      "DELETE, GET, HEAD",
    ]);
    expect(await told({ host: "localhost" }, "DELETE", "/api/nix")).toEqual([404, "path.unknown"]);
  });

  test("events asked for by their head alone end at once", async () => {
    const reply = await bench.app.inject({ method: "HEAD", url: "/api/jobs/HILL-2604/run" });
    expect([reply.statusCode, reply.headers["content-type"]]).toEqual([200, "text/event-stream; charset=utf-8"]);
  });

  test("an address that cannot be decoded is answered in the one shape", async () => {
    const reply = await bench.app.inject({ method: "GET", url: "/api/jobs/%E0%A4%A" });
    expect([reply.statusCode, reply.json<ErrorBody>().code]).toEqual([400, "request.invalid"]);
  });

  test("a job code as long as import takes is one that every address takes", async () => {
    const code = "J".repeat(120);
    const design = JSON.parse(HILL.toString()) as { job: { code: string } };
    const reply = await post(bench.app, JSON.stringify({ ...design, job: { ...design.job, code } }));
    expect(reply.statusCode).toBe(201);
    for (const path of ["", "/open-points", "/stages/routes", "/files/wires.csv", "/edits"])
      expect([path, (await ask({ host: "localhost" }, "GET", `/api/jobs/${code}${path}`)).statusCode]).toEqual([
        path,
        200,
      ]);
    expect((await ask({ host: "localhost" }, "DELETE", `/api/jobs/${code}`)).statusCode).toBe(204);
  });

  test("what changes is not kept by anybody on the way; results are asked for again by their tag", async () => {
    expect((await ask({ host: "localhost" })).headers["cache-control"]).toBe("no-store");
    expect((await ask({ host: "localhost" }, "GET", "/api/jobs/NIX")).headers["cache-control"]).toBe("no-store");
    const url = "/api/jobs/HILL-2604/stages/panel";
    const first = await bench.app.inject({ url });
    expect(first.headers["cache-control"]).toBe("no-cache");
    const etag = String(first.headers.etag);
    for (const given of [etag, `W/${etag}`, `"x", W/${etag}`, "*"])
      expect((await bench.app.inject({ url, headers: { "if-none-match": given } })).statusCode).toBe(304);
    expect((await bench.app.inject({ url, headers: { "if-none-match": '"x"' } })).statusCode).toBe(200);
  });

  test("a file of a name that no job has costs no computation", async () => {
    const bare = await start();
    try {
      await post(bare.app, HILL);
      await bare.app.inject({ method: "DELETE", url: "/api/jobs/HILL-2604/run" });
      const reply = await bare.app.inject({ url: "/api/jobs/HILL-2604/files/nix.csv" });
      expect([reply.statusCode, reply.json<ErrorBody>().code]).toEqual([404, "file.unknown"]);
    } finally {
      await bare.close();
    }
  });
});

test("requests for what is not there count too", async () => {
  const bench = await start({ requestsPerMinute: 5 });
  try {
    const codes: number[] = [];
    for (let i = 0; i < 7; i++) codes.push((await bench.app.inject({ url: "/api/nix" })).statusCode);
    expect(codes).toEqual([404, 404, 404, 404, 404, 429, 429]);
  } finally {
    await bench.close();
  }
});

test("a name is a host and a port, nothing more", () => {
  expect(["a:1", "a", "[::1]:80", "a:80"].map(hostName)).toEqual(["a", "a", "[::1]", "a"]);
  expect(["", "a b", "u@a", "a/b", "a?b", "a#b", "a:x"].map(hostName)).toEqual(Array(7).fill(null));
});

test("tags: one, several, weak, any", () => {
  expect(isKnown(undefined, '"a"')).toBe(false);
  expect(isKnown('"b"', '"a"')).toBe(false);
  expect(isKnown(['"b"', '"a"'], '"a"')).toBe(true);
});

test("a full disk is said as such; busy says when to come back", () => {
  for (const code of ["SQLITE_FULL", "ENOSPC"])
    expect(toReply(Object.assign(new Error("x"), { code }))).toMatchObject({
      status: 507,
      body: { code: "disk.full" },
    });
  expect(serverBusy().body.remedy).toContain("5 seconds");
});

describe("work is bounded", () => {
  const slowWorkers = (over: Partial<Workers>): Workers => {
    const never = (): Promise<never> => new Promise(() => undefined);
    return {
      read: never,
      compute: never,
      lay: never,
      files: never,
      draw: never,
      ask: never,
      compare: never,
      differ: never,
      index: never,
      tables: never,
      pack: never,
      readLibrary: never,
      readOutline: never,
      partOf: never,
      libraryFile: never,
      differLibraries: never,
      writeParts: never,
      readDocument: never,
      find: never,
      close: async () => undefined,
      ...over,
    };
  };

  test("no more than 32 files come in at once; one more hears when to try again", async () => {
    const bench = await start({ workers: slowWorkers({}) });
    try {
      await bench.app.listen({ port: 0, host: "127.0.0.1" });
      const { port } = bench.app.server.address() as { port: number };
      const stop = new AbortController();
      const send = (signal: AbortSignal) =>
        fetch(`http://127.0.0.1:${port}/api/jobs`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: "{}",
          signal,
        });
      // Whichever of the 33 comes last.
      const all = Array.from({ length: 33 }, () => send(stop.signal));
      const reply = await Promise.any(
        all.map((sent) => sent.then((r) => (r.status === 503 ? r : Promise.reject(new Error("taken"))))),
      );
      expect([reply.status, reply.headers.get("retry-after")]).toEqual([503, "5"]);
      expect(((await reply.json()) as ErrorBody).code).toBe("server.busy");
      stop.abort();
      await Promise.allSettled(all);
    } finally {
      await bench.close();
    }
  });

  test("each address takes what fits it, and lists are measured before they are looked through", async () => {
    const bench = await start();
    try {
      await post(bench.app, HILL);
      const send = (method: "POST" | "PUT", url: string, payload: string) =>
        bench.app.inject({ method, url, headers: { "content-type": "application/json" }, payload });
      const blank = " ".repeat(5 * 1024 * 1024);
      for (const [method, url, most] of [
        ["POST", "/api/jobs/HILL-2604/edits", "4 MB"],
        ["PUT", "/api/shop", "4 MB"],
        ["POST", "/api/jobs/HILL-2604/ticks", "1 MB"],
        ["POST", "/api/jobs/HILL-2604/picks", "1 MB"],
        ["POST", "/api/jobs/HILL-2604/batches/B1/send", "32 kB"],
        ["POST", "/api/jobs/HILL-2604/run", "32 kB"],
      ] as const) {
        const reply = await send(method, url, blank);
        expect([url, reply.statusCode, reply.json<ErrorBody>().message]).toEqual([
          url,
          413,
          `What was sent is larger than ${most}. Nothing was changed.`,
        ]);
      }
      const many = async (url: string, body: object): Promise<string> => {
        const reply = await send("POST", url, JSON.stringify(body));
        return `${reply.statusCode} ${reply.json<ErrorBody>().where}: ${reply.json<ErrorBody>().message}`;
      };
      const lots = Array.from({ length: 100_000 }, () => 0);
      const on = "0".repeat(64);
      expect(await many("/api/jobs/HILL-2604/edits", { on, who: "x", edits: lots })).toContain("1000 are the most");
      expect(await many("/api/jobs/HILL-2604/ticks", { list: "x", who: "x", ticks: lots })).toContain(
        "500 are the most",
      );
      expect(await many("/api/jobs/HILL-2604/picks", { since: 0, events: lots })).toMatch(
        /^400 events: .*it has 100000 entries; 500 are the most/,
      );
    } finally {
      await bench.close();
    }
  });

  test("a task that takes too long is ended and says so; so is the next, which does not wait for it", async () => {
    const workers = startWorkers(WORKER, { threads: 1, readSeconds: 0.001 });
    try {
      for (let i = 0; i < 2; i++)
        await expect(workers.read(new Uint8Array(HILL))).rejects.toMatchObject({
          status: 503,
          body: { code: "task.limit" },
        });
    } finally {
      await workers.close();
    }
  });

  test("more tasks than may wait are turned away", async () => {
    const workers = startWorkers(WORKER, { threads: 1, queue: 1 });
    try {
      const all = await Promise.all(
        Array.from({ length: 8 }, () =>
          workers.read(new Uint8Array(HILL)).then(
            () => "read",
            (error: { body?: ErrorBody }) => error.body?.code,
          ),
        ),
      );
      expect(new Set(all)).toEqual(new Set(["read", "server.busy"]));
    } finally {
      await workers.close();
    }
  });
});

describe("the server as a program", () => {
  const folders: string[] = [];
  const folder = (): string => {
    const made = mkdtempSync(join(tmpdir(), "gray-bench-"));
    folders.push(made);
    return made;
  };
  afterAll(() => folders.forEach((f) => rmSync(f, { recursive: true, force: true })));

  const serve = (data: string, ...args: string[]) => {
    const child = spawn(process.execPath, [MAIN, "--data", data, "--port", "0", ...args]);
    const ended = new Promise<number | null>((resolve) => child.on("close", resolve));
    const address = new Promise<string>((resolve, reject) => {
      let said = "";
      const hear = (d: Buffer): void => {
        said += d.toString();
        const at = /listens on (\S+)/.exec(said)?.[1];
        if (at) resolve(at);
      };
      child.stdout.on("data", hear);
      child.stderr.on("data", hear);
      void ended.then(() => reject(new Error(said)));
    });
    return { child, ended, address };
  };
  const KEEP = join(MAIN, "../keep.mjs");
  const keep = (...args: string[]) => spawnSync(process.execPath, [KEEP, ...args], { encoding: "utf8" });

  test.each([
    [["--port", "x"], "--port takes a whole number"],
    [["--port", "70000"], "--port takes a whole number"],
    [["--threads", "0"], "--threads takes"],
    [["--task-seconds", "0"], "--task-seconds takes"],
    [["--nix"], "nix"],
  ])("wrong flags %j end with 2 and say how", (args, told) => {
    const { status, stderr } = spawnSync(process.execPath, [MAIN, "--data", folder(), ...args], { encoding: "utf8" });
    expect(status).toBe(2);
    expect(stderr).toContain(told);
    expect(stderr).toContain("usage:");
  });

  test("stopping is obeyed though somebody listens to events; the data is private; no HTTP is answered in the one shape", async () => {
    const data = folder();
    const { child, ended, address } = serve(data);
    const at = await address;
    const port = Number(new URL(at).port);
    const said = await new Promise<string>((resolve) => {
      let text = "";
      const socket = connect(port, "127.0.0.1", () => socket.write("this is no HTTP\r\n\r\n"));
      socket.on("data", (d) => (text += d.toString()));
      socket.on("close", () => resolve(text));
    });
    expect(said).toMatch(/^HTTP\/1\.1 400 /);
    expect((JSON.parse(said.split("\r\n\r\n")[1]!) as ErrorBody).code).toBe("request.invalid");
    await fetch(`${at}/api/jobs`, { method: "POST", headers: { "content-type": "application/json" }, body: HILL });
    // A line that stays open.
    const hanging = connect(port, "127.0.0.1", () => hanging.write("POST /api/jobs HTTP/1.1\r\nhost: localhost\r\n"));
    hanging.on("error", () => undefined);
    expect(statSync(join(data, "gray-bench.db")).mode & 0o077).toBe(0);
    // The line is open still when the server has ended: it was not waited for.
    const closed = new Promise((done) => hanging.on("close", () => done("line")));
    child.kill("SIGTERM");
    expect(await ended).toBe(0);
    await closed;
  });

  test("a damaged data file is named at the start, with what to do", async () => {
    const data = folder();
    const { child, ended, address } = serve(data);
    const at = await address;
    await fetch(`${at}/api/jobs`, { method: "POST", headers: { "content-type": "application/json" }, body: HILL });
    child.kill("SIGTERM");
    await ended;
    const file = join(data, "gray-bench.db");
    const bytes = readFileSync(file);
    writeFileSync(file, Buffer.concat([bytes.subarray(0, 4096), Buffer.alloc(8192, 7), bytes.subarray(12_288)]));
    const damaged = readFileSync(file);
    const { status, stderr } = spawnSync(process.execPath, [MAIN, "--data", data, "--port", "0"], { encoding: "utf8" });
    expect(status).toBe(4);
    // Whoever mends it finds what there was.
    expect(readFileSync(file).equals(damaged)).toBe(true);
    expect(stderr).toContain("is damaged");
    expect(stderr).toContain("npm run restore");
    truncateSync(file, 10);
    expect(spawnSync(process.execPath, [MAIN, "--data", data, "--port", "0"]).status).toBe(4);
  });

  test("says how it is called; a folder that holds no application is refused, no link leads out of one, and whatever comes is answered in one shape", async () => {
    const help = spawnSync(process.execPath, [MAIN, "--help"], { encoding: "utf8" });
    expect([help.status, help.stdout]).toEqual([0, expect.stringContaining("--wire-machine")]);
    const made = spawnSync(process.execPath, [join(MAIN, "../cli.mjs"), "--help"], { encoding: "utf8" });
    expect([made.status, made.stdout]).toEqual([0, expect.stringContaining("--stock")]);
    const none = spawnSync(process.execPath, [MAIN, "--data", folder(), "--port", "0", "--app", folder()], {
      encoding: "utf8",
    });
    expect([none.status, none.stderr]).toEqual([2, expect.stringContaining("there is no index.html in")]);
    const app = folder();
    writeFileSync(join(app, "index.html"), "<title>there</title>");
    writeFileSync(join(app, "own.txt"), "own");
    const secret = join(folder(), "secret.txt");
    writeFileSync(secret, "secret");
    symlinkSync(secret, join(app, "link.txt"));
    const bench = await start({ appFolder: app });
    try {
      expect((await bench.app.inject("/own.txt")).payload).toBe("own");
      expect((await bench.app.inject("/link.txt")).payload).not.toContain("secret");
      await bench.app.listen({ port: 0, host: "127.0.0.1" });
      const { port } = bench.app.server.address() as { port: number };
      /** What is said to a request as it stands on the line. */
      const said = (lines: string[], body = ""): Promise<[status: string, code: string]> =>
        new Promise((resolve, reject) => {
          let text = "";
          const socket = connect(port, "127.0.0.1", () =>
            socket.write(`${[...lines, "connection: close"].join("\r\n")}\r\n\r\n${body}`),
          );
          socket.on("data", (d) => (text += d.toString()));
          socket.on("error", reject);
          socket.on("close", () => {
            const [head, json] = text.split("\r\n\r\n") as [string, string];
            resolve([head.split(" ")[1]!, (JSON.parse(json) as ErrorBody).code]);
          });
        });
      const HOST = "host: localhost";
      const sends = ["POST /api/jobs HTTP/1.1", HOST, "content-type: application/json", "content-length: 2"];
      for (const [lines, body, ...told] of [
        [["GET /api/jobs HTTP/1.1", HOST, "host: elsewhere"], "", "403", "host.refused"],
        [["GET /api/jobs HTTP/1.1"], "", "403", "host.refused"],
        [["GET /api/jobs HTTP/1.0"], "", "403", "host.refused"],
        [[...sends, "content-encoding: foo"], "{}", "415", "request.invalid"],
        [[...sends, "expect: nonsense"], "{}", "417", "request.invalid"],
        [["POST /api/jobs HTTP/1.1", HOST, "transfer-encoding: foo"], "{}", "400", "request.invalid"],
        [["CONNECT localhost:80 HTTP/1.1", HOST], "", "405", "method.unknown"],
        [["PROPFIND /api/jobs HTTP/1.1", HOST], "", "405", "method.unknown"],
        [["PUT / HTTP/1.1", HOST, "content-length: 0"], "", "405", "method.unknown"],
        [["POST /jobs/HILL-2604 HTTP/1.1", HOST, "content-length: 0"], "", "405", "method.unknown"],
      ] as [string[], string, string, string][])
        expect([lines, await said(lines, body)]).toEqual([lines, told]);
    } finally {
      await bench.close();
    }
  });

  test("what is backed up, by a running server or without one, comes back whole; deleted content is gone from the file", async () => {
    const data = folder();
    const out = folder();
    const { child, ended, address } = serve(data);
    const at = await address;
    const send = (body: Buffer | string) =>
      fetch(`${at}/api/jobs`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: new Uint8Array(Buffer.from(body)),
      });
    const design = JSON.parse(HILL.toString()) as { job: object };
    await send(HILL);
    await send(JSON.stringify({ ...design, job: { ...design.job, code: "GONE", title: "secret-customer-words" } }));
    expect(keep("backup", join(out, "live.db"), "--data", data)).toMatchObject({ status: 0 });
    expect(keep("backup", join(out, "live.db"), "--data", data)).toMatchObject({ status: 2 });
    await fetch(`${at}/api/jobs/GONE`, { method: "DELETE" });
    child.kill("SIGTERM");
    await ended;
    const file = join(data, "gray-bench.db");
    expect(readFileSync(file).includes("secret-customer-words")).toBe(false);
    expect(readFileSync(join(out, "live.db")).includes("secret-customer-words")).toBe(true);
    expect(keep("backup", join(out, "still.db"), "--data", data)).toMatchObject({ status: 0 });
    expect(statSync(join(out, "still.db")).mode & 0o077).toBe(0);
    writeFileSync(join(out, "bad.db"), "no data file");
    expect(keep("restore", join(out, "bad.db"), "--data", data)).toMatchObject({ status: 1 });
    const before = readFileSync(file);
    writeFileSync(join(out, "empty.db"), "");
    const empty = keep("restore", join(out, "empty.db"), "--data", data);
    expect([empty.status, empty.stderr]).toEqual([
      1,
      expect.stringContaining("is no data file of Gray Bench: it is empty"),
    ]);
    const foreign = new Database(join(out, "foreign.db"));
    foreign.exec("CREATE TABLE accounts (name TEXT)");
    foreign.close();
    const other = keep("restore", join(out, "foreign.db"), "--data", data);
    expect([other.status, other.stderr]).toEqual([1, expect.stringContaining("its tables are others")]);
    expect(readFileSync(file).equals(before)).toBe(true);
    writeFileSync(`${file}-wal`, "its log");
    truncateSync(file, 5000);
    expect(keep("restore", join(out, "live.db"), "--data", data)).toMatchObject({ status: 0 });
    const [aside] = readdirSync(data).filter((name) => /before-.*-wal$/.test(name));
    expect(readFileSync(join(data, aside!), "utf8")).toBe("its log");
    const again = serve(data);
    const jobs = (await (await fetch(`${await again.address}/api/jobs`)).json()) as { jobs: { code: string }[] };
    expect(jobs.jobs.map((j) => j.code).sort()).toEqual(["GONE", "HILL-2604"]);
    // Not while a server has it.
    expect(keep("restore", join(out, "live.db"), "--data", data)).toMatchObject({ status: 1 });
    again.child.kill("SIGTERM");
    await again.ended;
  });

  test("make: a name that is a link is not written through, and nothing else is replaced", () => {
    const out = folder();
    const elsewhere = join(folder(), "elsewhere.csv");
    writeFileSync(elsewhere, "mine");
    writeFileSync(join(out, "ducts.csv"), "before");
    symlinkSync(elsewhere, join(out, "wires.csv"));
    const cli = join(MAIN, "../cli.mjs");
    const { status, stderr } = spawnSync(process.execPath, [cli, join(DESIGNS, "whole/hillfold.bench.json"), out], {
      encoding: "utf8",
    });
    expect([status, stderr]).toEqual([2, expect.stringContaining("is no plain file")]);
    expect([readFileSync(elsewhere, "utf8"), readFileSync(join(out, "ducts.csv"), "utf8")]).toEqual(["mine", "before"]);
    expect(existsSync(join(out, "open-points.csv"))).toBe(false);
  });
});
