import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { Arrival, ArrivalOutlook, SourceList, TableLook } from "@gray-bench/contract/intake";
import type { ImportReply, JobDetail } from "@gray-bench/contract/jobs";
import { contentHash } from "@gray-bench/core/design/hash";
import type { Design } from "@gray-bench/core/design/model";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import { assemble, type MatchedTable } from "@gray-bench/core/tables/assemble";
import { readKept, recognise } from "@gray-bench/core/tables/kept";
import { DESIGNS, MAIN, post, start, until, type Bench } from "./helper";

// A folder is read, drawn and written again: on a machine with much else to do that takes its time.
jest.setTimeout(120_000);

let bench: Bench;
beforeEach(async () => (bench = await start()));
afterEach(() => bench.close());

const get = async <T>(url: string): Promise<T> => (await bench.app.inject({ method: "GET", url })).json<T>();
const send = (method: "POST" | "PUT" | "DELETE", url: string, body?: unknown) =>
  bench.app.inject({
    method,
    url,
    ...(body === undefined ? {} : { headers: { "content-type": "application/json" }, payload: JSON.stringify(body) }),
  });
const add = (id: string, name: string, text: string | Buffer) =>
  bench.app.inject({
    method: "POST",
    url: `/api/arrivals/${id}/files?name=${encodeURIComponent(name)}`,
    headers: { "content-type": "application/octet-stream" },
    payload: Buffer.from(text),
  });
const begin = async (of: string | null = null): Promise<Arrival> =>
  (await send("POST", "/api/arrivals", { of })).json<Arrival>();
const put = (a: Arrival, change: Partial<Arrival>) => {
  const { job, tables, drawings, attachments } = { ...a, ...change };
  const some = tables.map(({ file, name, asked, matching, by }) => ({ file, name, asked, matching, by }));
  const drawn = drawings.map(({ file, name, said, by }) => ({ file, name, said, by }));
  const as = attachments.map(({ file, name }) => ({ file, name }));
  const body = { version: a.version, job, tables: some, drawings: drawn, attachments: as };
  return send("PUT", `/api/arrivals/${a.id}`, body);
};
const code = (reply: { json<T>(): T }): string => reply.json<ErrorBody>().code;
const filesKept = async (): Promise<number> =>
  (await bench.store.db.selectFrom("received").select("hash").execute()).length;

const DEVICES = "Tag;Part;Function\n-K1;RX-12;pump\n-K2;RX-12;\n-X1;T4;\n";
const WIRES = "No;A;B;mm2\n1;-K1:A1;-X1:1;1,5\n2;-K2:A1;-X1:2;0,75\n3;-K2:A2;-X1;0,75\n";
const JOB = { code: "SALT-1", title: "lift bridge", revision: "A", customer: "Saltmere", due: "" };

/** An arrival with devices and connections, of which the columns A and B were not known. */
async function arrived(job = JOB, wires = WIRES): Promise<Arrival> {
  const { id } = await begin();
  await add(id, "devices.csv", DEVICES);
  const a = (await add(id, "wires.csv", wires)).json<Arrival>();
  const [devices, connections] = a.tables;
  const columns = {
    number: { from: [{ heading: "No" }] },
    from: { from: [{ heading: "A" }] },
    to: { from: [{ heading: "B" }] },
    size: { from: [{ heading: "mm2" }], decimal: "," as const },
  };
  const tables = [devices!, { ...connections!, matching: { kind: "connections" as const, columns } }];
  return (await put(a, { job, tables })).json<Arrival>();
}

test("tables become a job: seen before, corrected, taken over, and their files stay with it", async () => {
  const { id } = await begin();
  await add(id, "devices.csv", DEVICES);
  const come = (await add(id, "wires.csv", WIRES)).json<Arrival>();
  expect(come.tables.map((t) => [t.name, t.matching?.kind ?? null, t.rows, t.form])).toEqual([
    ["devices.csv", "devices", 3, "UTF-8"],
    ["wires.csv", null, 3, "UTF-8"],
  ]);
  const a = await arrived();
  const look = await get<TableLook>(`/api/arrivals/${a.id}/tables/2`);
  expect(look).toMatchObject({ headings: ["No", "A", "B", "mm2"], headingLine: 1, separator: ";", rows: 3 });
  expect(look.preview!.rows[0]!.cells.size).toEqual({ text: "1,5", told: "1.5 mm²" });
  expect(look.preview!.fields.to).toMatchObject({ cells: 3, notRead: 1, first: { line: 4 } });
  expect(look.preview!.left).toBe(1);

  const outlook = await get<ArrivalOutlook>(`/api/arrivals/${a.id}/outlook`);
  expect(outlook.counts).toMatchObject({ devices: 3, wires: 2 });
  expect(outlook.notRead).toEqual([
    {
      table: "wires.csv",
      line: 4,
      heading: "B",
      found: "-X1",
      wanted: "a device and a pin, such as -K1:A1",
      row: true,
    },
  ]);
  expect(outlook.outlook).toMatchObject({ code: "SALT-1", replaces: null });
  expect(outlook.lacks[0]).toMatchObject({ severity: "stop", kind: "unknown part", count: 3 });
  expect((await bench.app.inject(`/api/arrivals/${a.id}/not-read.csv`)).body).toContain("wires.csv,4,B,'-X1");

  const taken = await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}&who=Lund`);
  expect(taken.statusCode).toBe(201);
  expect(taken.json<ImportReply>().job.code).toBe("SALT-1");
  const design = await get<Design>("/api/jobs/SALT-1/design");
  expect(design.wires.map((w) => w.number)).toEqual(["1", "2"]);
  expect(design.job).toEqual({ code: "SALT-1", title: "lift bridge", revision: "A", customer: "Saltmere" });
  expect((await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}`)).statusCode).toBe(404);

  const { sources } = await get<{ sources: SourceList[] }>("/api/jobs/SALT-1/sources");
  expect(sources.map((s) => [s.revision, s.files.map((f) => f.name)])).toEqual([["A", ["devices.csv", "wires.csv"]]]);
  const file = await bench.app.inject(`/api/jobs/SALT-1/sources/${sources[0]!.files[1]!.file}`);
  expect(file.body).toBe(WIRES);
  expect(file.headers["content-disposition"]).toContain('filename="wires.csv"');
});

test("a new revision of one table: what it changes is seen, edits stay on top, and the first can be put back", async () => {
  const a = await arrived();
  await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}`);
  const next = await begin("SALT-1");
  expect(next.job).toMatchObject({ code: "SALT-1", revision: "" });
  expect(next.tables.map((t) => [t.name, t.rows])).toEqual([
    ["devices.csv", 3],
    ["wires.csv", 3],
  ]);
  // Another size, and a connection more; its columns are known already.
  const come = (await add(next.id, "wires.csv", `${WIRES.replace("1,5", "2,5")}4;-K1:A2;-X1:4;1,5\n`)).json<Arrival>();
  expect(come.tables[1]!.matching!.columns.from!.from).toEqual([{ heading: "A" }]);
  const refused = await send("POST", `/api/arrivals/${next.id}/take?version=${come.version}`);
  expect([refused.statusCode, code(refused)]).toEqual([422, "design.refused"]);
  const named = (await put(come, { job: { ...come.job, revision: "B" } })).json<Arrival>();
  const { outlook } = await get<ArrivalOutlook>(`/api/arrivals/${next.id}/outlook`);
  expect(outlook).toMatchObject({ replaces: "A", already: false, taken: false });
  expect(JSON.stringify(outlook!.things)).toContain("wire");
  await send("POST", `/api/arrivals/${next.id}/take?version=${named.version}`);
  const design = await get<Design>("/api/jobs/SALT-1/design");
  expect(design.wires.map((w) => [w.number, w.sizeMm2])).toEqual([
    ["1", 2.5],
    ["2", 0.75],
    ["4", 1.5],
  ]);
  const { sources } = await get<{ sources: SourceList[] }>("/api/jobs/SALT-1/sources");
  expect(sources.map((s) => s.revision)).toEqual(["B", "A"]);
  // The devices are one file in both.
  expect(await filesKept()).toBe(3);
  await until(
    () => send("DELETE", "/api/jobs/SALT-1"),
    (r) => r.statusCode === 204,
  );
  expect(await filesKept()).toBe(0);
});

test("who changes what somebody else has changed is told; a table taken out lets its file go", async () => {
  const a = await arrived();
  const one = await put(a, { tables: [a.tables[0]!] });
  expect(one.json<Arrival>().tables).toHaveLength(1);
  expect(await filesKept()).toBe(1);
  const late = await put(a, { job: { ...JOB, title: "other" } });
  expect([late.statusCode, code(late)]).toEqual([409, "arrival.changed"]);
  expect(code(await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}`))).toBe("arrival.changed");
  const gone = await send("DELETE", `/api/arrivals/${a.id}?version=${one.json<Arrival>().version}`);
  expect([gone.statusCode, await filesKept()]).toEqual([204, 0]);
});

test("what is refused says why, and nothing of it stays", async () => {
  const a = await arrived();
  const count = await filesKept();
  const packed = await add(a.id, "plan.csv", Buffer.from("1f8b0800", "hex"));
  expect([packed.statusCode, packed.json<ErrorBody>().message]).toEqual([
    422,
    "plan.csv cannot be read as a table: a packed file.",
  ]);
  const pdf = await add(a.id, "plan.csv", "%PDF-1.7 …");
  expect([pdf.statusCode, code(pdf)]).toEqual([422, "attachment.refused"]);
  expect((await add(a.id, "empty.csv", "\n;;\n")).json<ErrorBody>().message).toContain("without anything in it");
  for (const name of ["../x.csv", "..", "a\nb"]) expect((await add(a.id, name, DEVICES)).statusCode).toBe(400);
  expect((await add("000000000000", "x.csv", DEVICES)).statusCode).toBe(404);
  expect(code(await send("GET" as "POST", `/api/arrivals/${a.id}/tables/9`))).toBe("table.unknown");
  const foreign = await put(a, { tables: [{ ...a.tables[0]!, file: "0".repeat(64) }] });
  expect(foreign.statusCode).toBe(404);
  const wrong = await put(a, {
    tables: [{ ...a.tables[0]!, matching: { kind: "devices", columns: { from: { from: [{ heading: "A" }] } } } }],
  });
  expect([wrong.statusCode, wrong.json<ErrorBody>().where]).toEqual([400, "tables.0.matching.columns.from"]);
  expect(await filesKept()).toBe(count);
  // Of another job, this revision is there already.
  await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}`);
  const b = await arrived(JOB, WIRES.replace("0,75", "1"));
  expect(code(await send("POST", `/api/arrivals/${b.id}/take?version=${b.version}`))).toBe("revision.taken");
  expect((await get<Arrival>(`/api/arrivals/${b.id}`)).version).toBe(b.version);
});

test("a matching that is kept is found again by its headings, and goes with its name", async () => {
  const a = await arrived();
  const tables = [{ headings: ["No", "A", "B", "mm2"], matching: a.tables[1]!.matching }];
  expect((await send("PUT", "/api/matchings/Saltmere", { tables })).statusCode).toBe(200);
  const { id } = await begin();
  const come = (await add(id, "list-7.csv", WIRES)).json<Arrival>();
  expect(come.tables[0]).toMatchObject({ by: "Saltmere", matching: tables[0]!.matching });
  const file = await bench.app.inject("/api/matchings/Saltmere/file");
  expect(file.json()).toMatchObject({ format: "gray-bench-matching", name: "Saltmere", tables });
  expect((await send("DELETE", "/api/matchings/Saltmere")).statusCode).toBe(204);
  expect(code(await send("DELETE", "/api/matchings/Saltmere"))).toBe("matching.unknown");
});

test("in whatever order the files come, they make what a folder of them makes", async () => {
  const folder = join(DESIGNS, "saltmere");
  // Two lists of one kind, one of them without numbers: what stands first decides.
  const files = new Map([
    ...readdirSync(folder)
      .filter((n) => /csv|xlsx$/.test(n))
      .map((n): [string, Buffer] => [n, readFileSync(join(folder, n))]),
    ["Anhang.csv", Buffer.from("From;To\n-K11:A1;-K12:A1\n-K1:A1;-K2:A1\n")],
  ]);
  const names = [...files.keys()].sort();
  const tables = names.flatMap((name): MatchedTable[] => {
    const read = recognise(files.get(name)!, []);
    if (!read.ok) throw new Error(read.found);
    return read.tables.flatMap(({ sheet, hidden, matching }) =>
      matching && !hidden ? [{ name, sheet, matching }] : [],
    );
  });
  const job = { code: "SALT-9", title: "lift bridge", revision: "A" };
  const made = assemble(job, tables);
  const { id } = await begin();
  for (const name of [...names].reverse()) await add(id, name, files.get(name)!);
  const a = await get<Arrival>(`/api/arrivals/${id}`);
  const { version } = (await put(a, { job: { ...job, customer: "", due: "" } })).json<Arrival>();
  await send("POST", `/api/arrivals/${id}/take?version=${version}`);
  const design = await get<Design>("/api/jobs/SALT-9/design");
  expect(made.ok && contentHash(made.design)).toBe(contentHash(design));
});

describe("drawings", () => {
  const folder = join(DESIGNS, "saltmere");
  const DXF = readFileSync(join(folder, "Aufbau.dxf"));
  const KEPT = readKept(readFileSync(join(folder, "Saltmere.matching.json"), "utf8"));
  const said = KEPT.ok ? KEPT.value.drawings![0]!.said : null!;
  const NAMES = ["Geraeteliste.csv", "Verbindungen.csv", "Klemmen und Kabel.xlsx", "Teile.csv"];

  /** The tables of Saltmere, and its drawing with what is said of it. */
  async function withLayout(): Promise<Arrival> {
    const { id } = await begin();
    for (const name of NAMES) await add(id, name, readFileSync(join(folder, name)));
    const a = (await add(id, "Aufbau.dxf", DXF)).json<Arrival>();
    const job = {
      code: "SALT-2701",
      title: "Saltmere lift bridge, control box",
      revision: "A",
      customer: "Town of Saltmere",
      due: "2027-04-30",
    };
    return (
      await put(a, { job, drawings: [{ ...a.drawings[0]!, said: { ...a.drawings[0]!.said, ...said } }] })
    ).json<Arrival>();
  }

  test("one comes with its layers by their names; what is said of it makes the design that the folder makes", async () => {
    const { id } = await begin();
    const come = (await add(id, "Aufbau.dxf", DXF)).json<Arrival>();
    expect(come.drawings).toMatchObject([
      {
        name: "Aufbau.dxf",
        version: "AC1015",
        by: null,
        said: { views: [], layers: { KANAL: "ducts", RAHMEN: "nothing" } },
      },
    ]);
    expect(code(await bench.app.inject(`/api/arrivals/${id}/outlook`))).toBe("arrival.incomplete");
    const a = await withLayout();
    const look = await get<DrawingLook>(`/api/arrivals/${a.id}/drawings/1`);
    expect(look.views.map((v) => [v.w, v.h, v.devices.length, v.bars.length])).toEqual([
      [700, 900, 27, 9],
      [800, 1000, 11, 1],
    ]);
    expect([look.unitMm, look.enclosures[0], look.notTaken.map((n) => n.found)]).toEqual([
      null,
      "+A1",
      ["-P5", "SPLINE"],
    ]);
    const outlook = await get<ArrivalOutlook>(`/api/arrivals/${a.id}/outlook`);
    expect(outlook.notRead.at(-2)).toEqual({
      table: "Aufbau.dxf",
      line: null,
      heading: "layer BESCHRIFTUNG, at 1640, 935",
      found: "-P5",
      wanted: "a tag that stands in the lists",
      row: true,
    });
    const taken = await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}`);
    expect(taken.statusCode).toBe(201);
    const design = await get<Design>("/api/jobs/SALT-2701/design");
    expect(design.devices.find((d) => d.tag === "-K1")).toMatchObject({ on: { rail: "R2", x: 5 } });

    const out = mkdtempSync(join(tmpdir(), "gray-bench-made-"));
    try {
      // What is not read ends it with 1, its files written.
      const made = spawnSync(process.execPath, [join(MAIN, "../cli.mjs"), folder, out], { encoding: "utf8" });
      expect([made.status, made.stderr.includes("at 1640, 935")]).toEqual([1, true]);
      await until(
        () => get<JobDetail>("/api/jobs/SALT-2701"),
        (j) => j.run === "done",
      );
      for (const name of ["wires.csv", "holes.csv", "bom.csv"]) {
        const file = await bench.app.inject(`/api/jobs/SALT-2701/files/${name}`);
        expect([name, file.body.length > 500, file.body === readFileSync(join(out, name), "utf8")]).toEqual([
          name,
          true,
          true,
        ]);
      }
    } finally {
      rmSync(out, { recursive: true });
    }
  });

  test("a new revision begins with it; one of the same name is taken as it was; kept by name it is found again", async () => {
    const a = await withLayout();
    await send("POST", `/api/arrivals/${a.id}/take?version=${a.version}`);
    const { sources } = await get<{ sources: SourceList[] }>("/api/jobs/SALT-2701/sources");
    expect(sources[0]!.files.find((f) => f.name === "Aufbau.dxf")!.said!.views).toHaveLength(2);
    const next = await begin("SALT-2701");
    expect(next.drawings).toMatchObject([
      { name: "Aufbau.dxf", things: a.drawings[0]!.things, said: { bars: said.bars } },
    ]);
    // -K1 has moved by 12 mm, on a layer of its own.
    const moved = DXF.toString("latin1").replace(
      "LINE\r\n8\r\nGERAETE\r\n10\r\n215\r\n",
      "LINE\r\n8\r\nNEU\r\n10\r\n215\r\n",
    );
    const come = (await add(next.id, "Aufbau.dxf", Buffer.from(moved, "latin1"))).json<Arrival>();
    expect([come.drawings.length, come.drawings[0]!.said.views.length, come.drawings[0]!.said.layers.NEU]).toEqual([
      1,
      2,
      "by shape",
    ]);
    const kept = { tables: [], drawings: [{ name: "Aufbau.dxf", said }] };
    expect((await send("PUT", "/api/matchings/Saltmere", kept)).statusCode).toBe(200);
    const { id } = await begin();
    expect((await add(id, "Aufbau.dxf", DXF)).json<Arrival>().drawings[0]).toMatchObject({
      by: "Saltmere",
      said: { enclosures: said.enclosures },
    });
    const file = await bench.app.inject("/api/matchings/Saltmere/file");
    expect(file.json()).toMatchObject(kept);
    expect((await send("PUT", "/api/matchings/None", { tables: [] })).statusCode).toBe(400);
  });

  test("what is none, what is not said rightly, what is not there is refused; nothing is half taken", async () => {
    const { id, version } = await begin();
    const bad = await add(id, "a.dxf", Buffer.from("AC1032\0\0\0"));
    expect([bad.statusCode, bad.json<ErrorBody>()]).toMatchObject([422, { code: "drawing.refused", where: "a.dxf" }]);
    expect(bad.json<ErrorBody>().message).toContain("a DWG");
    expect(code(await add(id, "a.dxf", DXF.subarray(0, 9000)))).toBe("drawing.refused");
    expect(await get<Arrival>(`/api/arrivals/${id}`)).toMatchObject({ version, drawings: [] });
    expect(await filesKept()).toBe(0);
    const a = (await add(id, "a.dxf", DXF)).json<Arrival>();
    const [d] = a.drawings;
    for (const wrong of [
      { views: [{ enclosure: "+A1", face: "lid", frame: { x: 0, y: 0, w: 1, h: 1 }, mm: 1 }] },
      { views: [{ enclosure: "+A1", face: "plate", frame: { x: 0, y: 0, w: 0, h: 1 }, mm: 1 }] },
      { layers: { "0": "walls" } },
      { enclosures: [{ tag: "+A1" }, { tag: "+A1" }] },
      { bars: [{ kind: "duct", across: 60.5, part: "P" }] },
    ])
      expect((await put(a, { drawings: [{ ...d!, said: { ...d!.said, ...(wrong as object) } }] })).statusCode).toBe(
        400,
      );
    expect(code(await put(a, { drawings: [{ ...d!, name: "b.dxf" }] }))).toBe("file.unknown");
    expect(code(await bench.app.inject(`/api/arrivals/${id}/drawings/2`))).toBe("arrival.drawing.unknown");
    expect((await bench.app.inject(`/api/arrivals/${id}/drawings/0`)).statusCode).toBe(400);
    // A table of its name takes its place.
    const table = (await add(id, "a.dxf", DEVICES)).json<Arrival>();
    expect([table.drawings, table.tables.length, await filesKept()]).toEqual([[], 1, 1]);
  });
});

test("a job taken away as tables is the very same job when it comes back", async () => {
  const design = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"));
  await post(bench.app, design);
  const packed = await bench.app.inject("/api/jobs/HILL-2604/design/tables");
  expect(packed.headers["content-disposition"]).toBe('attachment; filename="HILL-2604-A.tables.zip"');
  const again = await bench.app.inject({
    method: "POST",
    url: "/api/jobs",
    headers: { "content-type": "application/octet-stream" },
    payload: packed.rawPayload,
  });
  expect([again.statusCode, again.json<ImportReply>().already]).toEqual([200, true]);
  const broken = await bench.app.inject({
    method: "POST",
    url: "/api/jobs",
    headers: { "content-type": "application/octet-stream" },
    payload: packed.rawPayload.subarray(0, 500),
  });
  expect([broken.statusCode, broken.json<ErrorBody>().faults![0]!.found]).toEqual([
    422,
    "a package that ends too soon, or is broken",
  ]);
});
