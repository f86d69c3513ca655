import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { EditLog } from "@gray-bench/contract/edits";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { JobSummary } from "@gray-bench/contract/jobs";
import type {
  LibraryEffect,
  LibraryOutlook,
  LibraryVersion,
  LibraryVersions,
  PartUses,
} from "@gray-bench/contract/library";
import { contentHash } from "@gray-bench/core/design/hash";
import { complete, libraryText, readLibrary, type Library } from "@gray-bench/core/library/library";
import type { Design } from "@gray-bench/core/design/model";
import { readDesign } from "@gray-bench/core/design/read";
import { EDITS } from "@gray-bench/core/edits";
import { lastOfRevision } from "../src/store/jobs";
import { DESIGNS, post, start, type Bench } from "./helper";

let bench: Bench;
beforeEach(async () => (bench = await start()));
afterEach(() => bench.close());

const JOB = "/api/jobs/HILL-2604";
const hill = readDesign(readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8")) as {
  ok: true;
  design: Design;
};
const demo = readLibrary(readFileSync(join(DESIGNS, "demo.library.json"), "utf8")) as { ok: true; value: Library };
/** What an office would send: parts without pins, losses and holes, some not described at all. */
const bare: Design = {
  ...hill.design,
  parts: hill.design.parts
    .slice(3)
    .map(({ number, maker, text, category, w, h, d }) => ({ number, maker, text, category, w, h, d })),
};

const get = async <T>(url: string): Promise<T> => (await bench.app.inject({ method: "GET", url })).json<T>();
const send = (method: "POST" | "PUT", url: string, body: unknown) =>
  bench.app.inject({ method, url, headers: { "content-type": "application/json" }, payload: JSON.stringify(body) });
const file = (method: "POST" | "PUT", url: string, payload: string) =>
  bench.app.inject({ method, url, headers: { "content-type": "application/octet-stream" }, payload });
const keep = (library: Library, on = "", who = "Ina") =>
  file("PUT", `/api/library?${new URLSearchParams({ on, who }).toString()}`, libraryText(library));
const hashOf = async (): Promise<string> => contentHash(await get<Design>(`${JOB}/design`));
const without = (number: string): Library => ({ parts: demo.value.parts.filter((p) => p.number !== number) });

test("versions are added to, told before, and refused when somebody else was first", async () => {
  expect((await bench.app.inject("/api/library")).statusCode).toBe(404);
  const outlook = (await file("POST", "/api/library/outlook", libraryText(demo.value))).json<LibraryOutlook>();
  expect([outlook.already, outlook.changes.added.length]).toEqual([false, demo.value.parts.length]);
  const one = (await keep(demo.value)).json<LibraryVersion>();
  expect(one).toMatchObject({ number: 1, who: "Ina", parts: demo.value.parts.length });
  expect((await get<Library>("/api/library")).parts).toHaveLength(demo.value.parts.length);
  const late = await keep(without("OH-K9"));
  expect([late.statusCode, late.json<ErrorBody>().code]).toEqual([409, "library.stale"]);
  const two = (await keep(without("OH-K9"), one.hash)).json<LibraryVersion>();
  expect(two.number).toBe(2);
  const back = (await file("POST", "/api/library/outlook", libraryText(demo.value))).json<LibraryOutlook>();
  expect(back.changes).toEqual({ added: ["OH-K9"], gone: [], changed: [] });
  expect((await get<LibraryVersions>("/api/library/versions")).versions.map((v) => v.number)).toEqual([2, 1]);
  expect((await get<Library>("/api/library/versions/1")).parts).toHaveLength(demo.value.parts.length);
  expect(readLibrary((await bench.app.inject("/api/library/file")).body)).toMatchObject({ ok: true });
  const wrong = await keep({ parts: [{ number: "X", w: -1 }] }, two.hash);
  expect([wrong.statusCode, wrong.json<ErrorBody>().faults![0]!.path]).toEqual([422, "parts[0].w"]);
  expect((await get<LibraryVersions>("/api/library/versions")).versions).toHaveLength(2);
});

test("the library as a table comes back; a maker's list is written into it, and what is used where is told", async () => {
  const one = (await keep(demo.value)).json<LibraryVersion>();
  for (const as of ["csv", "xlsx"]) {
    const answer = await bench.app.inject(`/api/library/file?as=${as}`);
    expect(answer.headers["content-disposition"]).toBe(`attachment; filename="library-1.${as}"`);
    const headers = { "content-type": "application/octet-stream" };
    const url = "/api/library/outlook?how=whole";
    const back = (
      await bench.app.inject({ method: "POST", url, headers, payload: answer.rawPayload })
    ).json<LibraryOutlook>();
    expect([back.already, back.told.form]).toEqual([true, "own table"]);
  }
  await post(bench.app, readFileSync(join(DESIGNS, "whole/hillfold.bench.json")));
  const list = "Artikel;Hersteller;Verlustleistung\r\nOH-K9;Oak;7,25\r\nNEU-1;Oak;x\r\n";
  const outlook = (await file("POST", "/api/library/outlook?how=into", list)).json<LibraryOutlook>();
  expect(outlook).toMatchObject({
    changes: { added: ["NEU-1"], gone: [], changed: ["OH-K9"] },
    told: { notReadCount: 1 },
  });
  const uses = () => get<PartUses>("/api/library/uses?part=OH-K9");
  const [use] = (await uses()).jobs;
  expect(use).toMatchObject({ job: "HILL-2604", version: 1, changes: false });
  const design = await get<Design>(`${JOB}/design`);
  expect(use!.uses).toBe(design.devices.filter((d) => d.part === "OH-K9").length);
  const put = await file(
    "PUT",
    `/api/library?${new URLSearchParams({ how: "into", on: one.hash, who: "Ina" }).toString()}`,
    list,
  );
  expect(put.json<LibraryVersion>()).toMatchObject({ number: 2, parts: demo.value.parts.length + 1 });
  const k9 = (await get<Library>("/api/library")).parts.find((p) => p.number === "OH-K9")!;
  expect(k9).toEqual({ ...demo.value.parts.find((p) => p.number === "OH-K9"), maker: "Oak", lossW: 7.25 });
  expect((await uses()).jobs[0]!.changes).toBe(true);
  expect((await get<PartUses>("/api/library/uses?part=NEU-1")).jobs).toEqual([]);
  // Under another number it is found where it is named so, and another number alone changes nothing.
  const { parts } = await get<Library>("/api/library");
  const merged = parts.flatMap((p) =>
    p.number === "OH-K9" ? [] : p.number === "NEU-1" ? [{ ...k9, number: "NEU-1", alsoAs: ["OH-K9"] }] : [p],
  );
  await keep({ parts: merged }, put.json<LibraryVersion>().hash);
  const under = (await get<PartUses>("/api/library/uses?part=NEU-1")).jobs[0]!;
  expect([under.job, under.as, under.uses, under.changes]).toEqual(["HILL-2604", "OH-K9", use!.uses, true]);
  await send("POST", `${JOB}/library`, { who: "Ina" });
  expect((await get<PartUses>("/api/library/uses?part=NEU-1")).jobs[0]!.changes).toBe(false);
  expect((await bench.app.inject("/api/library/uses")).statusCode).toBe(400);
  expect((await bench.app.inject("/api/library/file?as=exe")).statusCode).toBe(400);
});

test("a drawing of a part offers its outline and its circles; what is none is refused by name", async () => {
  const dxf = [
    [0, "SECTION"],
    [2, "HEADER"],
    [9, "$INSUNITS"],
    [70, 4],
    [0, "ENDSEC"],
    [0, "SECTION"],
    [2, "ENTITIES"],
    [0, "LWPOLYLINE"],
    [8, "0"],
    [90, 4],
    [70, 1],
    [10, 5],
    [20, 5],
    [10, 50],
    [20, 5],
    [10, 50],
    [20, 83],
    [10, 5],
    [20, 83],
    [0, "CIRCLE"],
    [8, "0"],
    [10, 10],
    [20, 0],
    [40, 2.25],
    [0, "ENDSEC"],
    [0, "EOF"],
  ]
    .map(([code, value]) => `${code}\n${value}\n`)
    .join("");
  expect((await file("POST", "/api/library/outline", dxf)).json()).toEqual({
    unitMm: 1,
    bodies: [{ x: 5, y: 5, w: 45, h: 78 }],
    circles: [{ x: 10, y: 0, r: 2.25 }],
    more: false,
  });
  for (const odd of ["", "%PDF-1.7", "0\nSECTION\n2\nENT"]) {
    const answer = await file("POST", "/api/library/outline", odd);
    expect([answer.statusCode, answer.json<ErrorBody>().code]).toEqual([422, "outline.refused"]);
  }
});

test("single parts are written anew, added and taken out; what is wrong is named by its part, and nothing is half kept", async () => {
  const patch = (body: object) =>
    bench.app.inject({
      method: "PATCH",
      url: "/api/library",
      headers: { "content-type": "application/json" },
      payload: JSON.stringify(body),
    });
  const pins = [{ name: "A1", x: 5, y: 80, z: 40, exit: "up" }];
  const first = (
    await patch({ on: "", who: "Ina", parts: [{ number: "N-1", w: 45, h: 90, d: 70, pins }] })
  ).json<LibraryVersion>();
  expect(first).toMatchObject({ number: 1, parts: 1, who: "Ina" });
  const one = (await keep(demo.value, first.hash)).json<LibraryVersion>();
  const k9 = demo.value.parts.find((p) => p.number === "OH-K9")!;
  const change = {
    on: one.hash,
    who: "Ole",
    why: "measured",
    parts: [
      { ...k9, lossW: 4.4 },
      { number: "N-2", pins },
    ],
    gone: ["FW-ES"],
  };
  const two = (await patch(change)).json<LibraryVersion>();
  expect(two).toMatchObject({ number: 3, parts: demo.value.parts.length, why: "measured" });
  const { parts } = await get<Library>("/api/library");
  expect([parts.findIndex((p) => p.number === "OH-K9"), parts.at(-1)]).toEqual([
    demo.value.parts.filter((p) => p.number !== "FW-ES").findIndex((p) => p.number === "OH-K9"),
    { number: "N-2", pins },
  ]);
  expect(parts.find((p) => p.number === "OH-K9")).toEqual({ ...k9, lossW: 4.4 });
  // The same once more is no version; on an old one it is refused.
  expect((await patch({ ...change, on: two.hash, gone: [] })).json<LibraryVersion>().number).toBe(3);
  expect((await patch(change)).statusCode).toBe(409);
  const wrong = await patch({
    on: two.hash,
    who: "Ole",
    parts: [{ number: "OH-K9", w: -1, pins: [{ name: "1", x: 3 }] }],
  });
  expect([wrong.statusCode, wrong.json<ErrorBody>().faults!.map((f) => f.path)[0]]).toEqual([422, "OH-K9, w"]);
  for (const bad of [
    { on: two.hash, who: "", parts: [] },
    { on: two.hash, who: "O", parts: [{ w: 4 }] },
    { on: two.hash, who: "O", parts: [{ number: "A" }, { number: "A" }] },
    { on: two.hash, who: "O", parts: Array.from({ length: 1001 }, (_, i) => ({ number: `P${i}` })) },
  ])
    expect((await patch(bad)).statusCode).toBe(400);
  expect((await get<LibraryVersions>("/api/library/versions")).versions).toHaveLength(3);
});

test("a job is completed with the version it began with until a newer one is taken over, with its edits on top", async () => {
  const first = (await keep(without("OH-K9"))).json<LibraryVersion>();
  await post(bench.app, JSON.stringify(bare));
  expect(await hashOf()).toBe(contentHash(complete(bare, without("OH-K9"))));
  const edit = { kind: "set wires", payload: { wires: ["1"], colour: "RD" } };
  const on = await hashOf();
  expect((await send("POST", `${JOB}/edits`, { on, who: "Ina", edits: [edit] })).statusCode).toBe(201);

  await keep(demo.value, first.hash);
  const job = await get<JobSummary>(JOB);
  expect([job.libraryHash, job.libraryNewer]).toEqual([first.hash, true]);
  const effect = (await send("POST", `${JOB}/library/outlook`, { who: "Ina" })).json<LibraryEffect>();
  // With it comes the one that may stand for it.
  const parts = { thing: "part", added: ["OH-K25"], gone: [], changed: ["OH-K9"] };
  expect(effect).toEqual({ things: [parts], unfitting: [] });
  const before = await hashOf();
  const taken = (await send("POST", `${JOB}/library`, { who: "Ina" })).json<JobSummary>();
  expect(taken.libraryNewer).toBe(false);
  const whole = complete(bare, demo.value);
  const edited = EDITS.apply(whole, edit);
  expect(await hashOf()).toBe(edited.ok && contentHash(edited.design));

  // What was made on the design before hears what was done since; the edit taken back leaves the completed design.
  const stale = await send("POST", `${JOB}/edits`, { on: before, who: "Jo", edits: [edit] });
  expect(stale.json<ErrorBody>().changed).toEqual(["Ina: library version 2"]);
  const { edits } = await get<EditLog>(`${JOB}/edits`);
  await send("POST", `${JOB}/edits/${edits[0]!.id}/back`, { on: await hashOf(), who: "Ina" });
  expect(await hashOf()).toBe(contentHash(whole));
  // An earlier version is taken by its hash: the first design of all again.
  await send("POST", `${JOB}/library`, { who: "Ina", library: first.hash });
  expect(await hashOf()).toBe(on);
});

test("a new revision is completed like the one before it; one put back too", async () => {
  await keep(demo.value);
  await post(bench.app, JSON.stringify(bare));
  const first = await hashOf();
  const next: Design = { ...bare, job: { ...bare.job, revision: "B" }, wires: bare.wires.slice(1) };
  await post(bench.app, JSON.stringify(next));
  expect(await hashOf()).toBe(contentHash(complete(next, demo.value)));
  const reply = await send("POST", `${JOB}/revisions/A/back`, { on: await hashOf(), who: "Ina" });
  expect(reply.statusCode).toBe(200);
  expect(await hashOf()).toBe(first);
});

test("what an earlier revision needed is told as it was completed then", async () => {
  await keep(demo.value);
  await post(bench.app, JSON.stringify(bare));
  await post(bench.app, JSON.stringify({ ...bare, job: { ...bare.job, revision: "B" } }));
  const row = { job: "HILL-2604", revision: "B", hash: await hashOf() };
  const before = await lastOfRevision(bench.store.db, row, "A");
  expect(before).toEqual({ hash: contentHash(complete(bare, demo.value)), edits: "none" });
  expect(await lastOfRevision(bench.store.db, row, "B")).toEqual({ hash: row.hash, edits: "none" });
});

test("a job that was there before the library stays as it is until it takes it", async () => {
  await post(bench.app, JSON.stringify(bare));
  expect(await get<JobSummary>(JOB)).toMatchObject({ libraryHash: "", libraryNewer: false });
  await keep(demo.value);
  expect(await hashOf()).toBe(contentHash(bare));
  expect(await get<JobSummary>(JOB)).toMatchObject({ libraryHash: "", libraryNewer: true });
  await send("POST", `${JOB}/library`, { who: "Ina" });
  expect(await hashOf()).toBe(contentHash(complete(bare, demo.value)));
  const unknown = await send("POST", `${JOB}/library`, { who: "Ina", library: "0".repeat(64) });
  expect([unknown.statusCode, unknown.json<ErrorBody>().code]).toEqual([404, "library.unknown"]);
});
