import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { AttachedPage, Attachment, AttachmentList, JobFound } from "@gray-bench/contract/attachments";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { Arrival } from "@gray-bench/contract/intake";
import { assembled, lineOut, pdfOf, streamOf, textOut } from "@gray-bench/core/test/pdf-sheet";
import type { PageText } from "@gray-bench/core/attachments/pages";
import { sql } from "kysely";
import { mutated } from "../../designs/src/mutated";
import { seeded } from "../../designs/src/random";
import { startWorkers } from "../src/workers/pool";
import { DESIGNS, post, start, WORKER, type Bench } from "./helper";

/** Mutated documents; `npm run harden` draws more. */
const RUNS = Math.ceil(60 * Number(process.env.GRAY_BENCH_RUNS ?? 1));
jest.setTimeout(300_000);

let bench: Bench;
beforeEach(async () => (bench = await start()));
afterEach(() => bench.close());

const HILLFOLD = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"));
const jobOf = (): string => (JSON.parse(HILLFOLD.toString()) as { job: { code: string } }).job.code;

const get = (url: string, headers = {}) => bench.app.inject({ method: "GET", url, headers });
const attach = (name: string, bytes: Uint8Array, query = "") =>
  bench.app.inject({
    method: "POST",
    url: `/api/jobs/${jobOf()}/attachments?name=${encodeURIComponent(name)}${query}`,
    headers: { "content-type": "application/octet-stream" },
    payload: Buffer.from(bytes),
  });
const turn = (id: string, gone: boolean) =>
  bench.app.inject({
    method: "PUT",
    url: `/api/jobs/${jobOf()}/attachments/${id}`,
    headers: { "content-type": "application/json" },
    payload: JSON.stringify({ gone }),
  });
const list = async (): Promise<Attachment[]> =>
  (await get(`/api/jobs/${jobOf()}/attachments`)).json<AttachmentList>().attachments;
const found = async (): Promise<JobFound> => (await get(`/api/jobs/${jobOf()}/found`)).json<JobFound>();

const sheet = (...ops: string[]) => ({ w: 842, h: 595, ops });
const SCHEMATIC = pdfOf([
  sheet(textOut(100, 400, 10, "-K1"), textOut(300, 400, 10, "-Q99")),
  sheet(textOut(100, 300, 10, "-K1")),
  sheet(lineOut(10, 10, 500, 500)),
]);
const PNG = Buffer.from("89504e470d0a1a0a0000000d49484452", "hex");

test("a schematic is read once, and what of the design stands on its pages is found until the design changes", async () => {
  await post(bench.app, HILLFOLD);
  const made = await attach("schematic.pdf", SCHEMATIC, "&who=Ada");
  expect(made.statusCode).toBe(201);
  const { id, file: _, at: __, ...rest } = made.json<Attachment>();
  expect(rest).toEqual({
    ...{ name: "schematic.pdf", type: "application/pdf", bytes: SCHEMATIC.length },
    ...{ thing: null, of: null, who: "Ada", pages: 3, empty: 1, gone: null },
  });
  const all = await found();
  expect(all.documents).toEqual([
    {
      id,
      pages: [1, 1, 0].map((things, i) => ({
        ...{ sheet: String(i + 1), w: 842, h: 595, things },
        ...{ empty: i === 2, trouble: null },
      })),
    },
  ]);
  expect(all.things).toEqual([
    {
      kind: "device",
      of: "-K1",
      at: [
        { document: id, page: 1, times: 1, by: "tag" },
        { document: id, page: 2, times: 1, by: "tag" },
      ],
    },
  ]);
  expect(all.strange).toEqual([{ text: "-Q99", document: id, page: 1, times: 1 }]);
  const page = await get(`/api/jobs/${jobOf()}/attachments/${id}/pages/1`);
  // 10 points high, written 400 above the lower edge of 595: from 187.2, 7.8 above its base line, to 197.2.
  expect(page.json<AttachedPage>().found).toEqual([
    { kind: "device", of: "-K1", by: "tag", text: "-K1", box: { x: 100, y: 187.2, w: 15.6, h: 10 } },
  ]);
  const again = await get(`/api/jobs/${jobOf()}/found`, { "if-none-match": page.headers["etag"] as string });
  expect(again.statusCode).toBe(200);
  expect(
    (await get(`/api/jobs/${jobOf()}/found`, { "if-none-match": again.headers["etag"] as string })).statusCode,
  ).toBe(304);
});

test("what an older program read of a document is read anew", async () => {
  await post(bench.app, HILLFOLD);
  await attach("schematic.pdf", SCHEMATIC);
  await sql`UPDATE readings SET version = 0, gzip = x'00'`.execute(bench.store.db);
  expect((await found()).things).toHaveLength(1);
  expect(await bench.store.db.selectFrom("readings").select("version").execute()).toEqual([{ version: 1 }]);
});

test("taken off and put back; one of the same name takes the place of the one before; with the job all go", async () => {
  await post(bench.app, HILLFOLD);
  const one = (await attach("a.pdf", SCHEMATIC)).json<Attachment>();
  expect((await turn(one.id, true)).json<Attachment>().gone).not.toBeNull();
  expect((await found()).documents).toEqual([]);
  expect((await turn(one.id, false)).json<Attachment>().gone).toBeNull();
  expect((await found()).documents).toHaveLength(1);
  const next = (await attach("a.pdf", pdfOf([sheet(textOut(9, 9, 9, "-K1"))]))).json<Attachment>();
  expect((await list()).map((a) => [a.id, a.gone !== null]).sort()).toEqual(
    [
      [one.id, true],
      [next.id, false],
    ].sort(),
  );
  // Of a thing of its own it is another one.
  const photo = await attach("a.pdf", PNG, "&thing=device&of=-K1");
  expect(photo.json()).toMatchObject({ type: "image/png", thing: "device", of: "-K1", pages: null });
  expect((await found()).documents.map((d) => d.id)).toEqual([next.id]);
  await bench.app.inject({ method: "DELETE", url: `/api/jobs/${jobOf()}` });
  for (const table of ["attachments", "readings", "received"] as const)
    expect(await bench.store.db.selectFrom(table).selectAll().execute()).toEqual([]);
});

test("a file is given back as it came, and none of it is run", async () => {
  await post(bench.app, HILLFOLD);
  const { id } = (await attach("Plan (α).pdf", SCHEMATIC)).json<Attachment>();
  const file = await get(`/api/jobs/${jobOf()}/attachments/${id}/file`);
  expect(Buffer.compare(file.rawPayload, Buffer.from(SCHEMATIC))).toBe(0);
  expect(file.headers).toMatchObject({
    "content-type": "application/pdf",
    "content-disposition": `attachment; filename="Plan_.pdf"; filename*=UTF-8''Plan%20%28%CE%B1%29.pdf`,
    "content-security-policy": "default-src 'none'; sandbox",
    "x-content-type-options": "nosniff",
  });
  const picture = (await attach("k1.png", PNG)).json<Attachment>();
  const shown = await get(`/api/jobs/${jobOf()}/attachments/${picture.id}/file`);
  expect(shown.headers["content-disposition"]).toMatch(/^inline/);
});

test("what is neither document nor picture is refused by what it is; what is not there is said", async () => {
  await post(bench.app, HILLFOLD);
  const refused = async (name: string, bytes: Uint8Array) => {
    const reply = await attach(name, bytes);
    expect([reply.statusCode, reply.json<ErrorBody>().code]).toEqual([422, "attachment.refused"]);
    return reply.json<ErrorBody>().message;
  };
  expect(await refused("plan.pdf", Buffer.from("<html><script>alert(1)</script>"))).toBe(
    "plan.pdf cannot be attached: it is none of PDF, PNG, JPEG and WebP.",
  );
  expect(await refused("cut.pdf", SCHEMATIC.slice(0, 300))).toContain("a damaged PDF");
  // 200 MB of blanks, packed to 200 kB: far more than a page can hold.
  const bomb = assembled([
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [4 0 R] /Count 1 >>",
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] /Resources << /Font << /F 3 0 R >> >> /Contents 5 0 R >>",
    streamOf(new Uint8Array(200 * 1024 * 1024).fill(0x20), true),
  ]);
  expect(bomb.length).toBeLessThan(300_000);
  const bombed = await attach("bomb.pdf", bomb);
  expect([bombed.statusCode, bombed.json<ErrorBody>().message]).toEqual([
    422,
    "bomb.pdf cannot be attached: a part that unpacks to far more than a page can hold.",
  ]);
  expect(await list()).toEqual([]);
  const { id } = (await attach("a.pdf", SCHEMATIC)).json<Attachment>();
  const codes = async (url: string): Promise<string> => (await get(url)).json<ErrorBody>().code;
  expect(await codes(`/api/jobs/${jobOf()}/attachments/${id}/pages/4`)).toBe("attachment.page.unknown");
  expect(await codes(`/api/jobs/${jobOf()}/attachments/000000000000/pages/1`)).toBe("attachment.unknown");
  expect((await get(`/api/jobs/${jobOf()}/attachments/${id}/pages/0`)).statusCode).toBe(400);
  expect((await attach("x.pdf", SCHEMATIC, "&thing=device")).statusCode).toBe(400);
});

test("a schematic that arrives with the tables becomes an attachment of the job they make", async () => {
  const send = (method: "POST" | "PUT", url: string, body: unknown) =>
    bench.app.inject({
      method,
      url,
      headers: { "content-type": "application/json" },
      payload: JSON.stringify(body),
    });
  const add = (id: string, name: string, bytes: Uint8Array) =>
    bench.app.inject({
      method: "POST",
      url: `/api/arrivals/${id}/files?name=${name}`,
      headers: { "content-type": "application/octet-stream" },
      payload: Buffer.from(bytes),
    });
  const { id } = (await send("POST", "/api/arrivals", { of: null })).json<Arrival>();
  await add(id, "devices.csv", Buffer.from("Tag;Part\n-K1;R1\n"));
  const arrival = (await add(id, "plan.pdf", SCHEMATIC)).json<Arrival>();
  expect(arrival.attachments).toMatchObject([{ name: "plan.pdf", type: "application/pdf", pages: 3, empty: 1 }]);
  // A table of the name of a document takes its place, and the other way round.
  const tabled = (await add(id, "plan.pdf", Buffer.from("Tag;Part\n-K2;R1\n"))).json<Arrival>();
  expect([tabled.attachments.length, tabled.tables.length]).toEqual([0, 2]);
  const back = (await add(id, "plan.pdf", SCHEMATIC)).json<Arrival>();
  expect([back.attachments.length, back.tables.length]).toEqual([1, 1]);
  const { file, name, asked, matching, by } = back.tables[0]!;
  const put = (
    await send("PUT", `/api/arrivals/${id}`, {
      version: back.version,
      job: { code: "PDF-1", title: "t", revision: "A", customer: "", due: "" },
      tables: [{ file, name, asked, matching, by }],
      drawings: [],
      attachments: back.attachments.map((a) => ({ file: a.file, name: a.name })),
    })
  ).json<Arrival>();
  expect((await send("POST", `/api/arrivals/${id}/take?version=${put.version}`, undefined)).statusCode).toBe(201);
  const kept = (await get("/api/jobs/PDF-1/attachments")).json<AttachmentList>().attachments;
  expect(kept).toMatchObject([{ name: "plan.pdf", pages: 3, thing: null, gone: null }]);
  expect((await get("/api/jobs/PDF-1/found")).json<JobFound>().things.map((t) => t.of)).toEqual(["-K1"]);
});

test("a schematic, mutated, is read or refused, and the thread that reads it stays", async () => {
  const workers = startWorkers(WORKER, { threads: 1 });
  const packed = readFileSync(join(DESIGNS, "saltmere/Stromlaufplan.pdf"));
  const random = seeded(13);
  const met = { read: 0, refused: 0, empty: 0 };
  try {
    for (let i = 0; i < RUNS; i++) {
      const read = await workers.readDocument(mutated(i % 2 === 0 ? SCHEMATIC : packed, random));
      if (!read.ok) {
        expect(read.found.length + read.remedy.length).toBeGreaterThan(10);
        met.refused++;
        continue;
      }
      met.read++;
      const pages = JSON.parse(Buffer.from(read.json).toString()) as PageText[];
      expect(pages).toHaveLength(read.pages);
      if (pages.every((p) => p.words.length === 0)) met.empty++;
      for (const { words } of pages)
        for (const { x, y, w, h, size } of words) expect([x, y, w, h, size].every(Number.isFinite)).toBe(true);
    }
  } finally {
    await workers.close();
  }
  expect(met.read - met.empty).toBeGreaterThan(RUNS / 3);
  expect(met.read + met.refused).toBe(RUNS);
});
