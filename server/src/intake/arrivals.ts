import { randomBytes } from "node:crypto";
import type { ArrivedAttachment } from "@gray-bench/contract/attachments";
import { jobParams } from "@gray-bench/contract/common";
import {
  arrivalChange,
  arrivalParams,
  arrivedDrawingParams,
  arrivedFileQuery,
  arrivedTableParams,
  MOST_ARRIVED_ATTACHMENTS,
  MOST_ARRIVED_DRAWINGS,
  MOST_ARRIVED_TABLES,
  newArrival,
  sourceParams,
  takeQuery,
  versionQuery,
  type Arrival,
  type ArrivalOutlook,
  type ArrivedDrawing,
  type ArrivedTable,
  type SourceList,
  type TableLook,
} from "@gray-bench/contract/intake";
import type { ImportReply } from "@gray-bench/contract/jobs";
import type { Job } from "@gray-bench/core/design/model";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import { isDrawing } from "@gray-bench/core/drawings/kind";
import { tableName } from "@gray-bench/core/tables/names";
import { notReadFile } from "@gray-bench/core/tables/not-read";
import { keptFile, type KeptTable } from "@gray-bench/core/tables/kept";
import type { Matching } from "@gray-bench/core/tables/matching";
import { lookInto, typeOf } from "../attachments/read";
import { refused } from "../errors";
import {
  arrivalChanged,
  arrivalFull,
  noDrawing,
  noSuchArrival,
  noSuchArrivedDrawing,
  noSuchSource,
  noSuchTable,
  noTable,
  notMatched,
} from "./errors";
import { goneOf } from "../plugins/gone";
import { readBody, whoOf } from "../plugins/joi";
import { named } from "../plugins/named";
import type { Bench, Server } from "../server";
import {
  deleteArrival,
  findArrival,
  listArrivals,
  listMatchings,
  listSources,
  settleArrival,
  writeArrival,
} from "../store/arrivals";
import { findJob } from "../store/jobs";
import { currentLibrary, readLibraryJson, type LibraryJson } from "../store/libraries";
import { readReceived, receivedOf, type Reading, type Received } from "../store/received";
import { currentShop } from "../store/shops";
import type { ArrivedFiles, AssembleAnswer, ReceivedFile } from "../workers/tasks";
import { Importer } from "./import";

const MOST_ARRIVALS = 100;
const MOST_FILES = 50;
/** Of the files of one arrival together. */
const MOST_BYTES = 128 * 1024 * 1024;
const MOST_NOT_READ = 200;

/** Files that have come in and are not a job yet: tables, what their columns are, and what they would become. */
export function arrivalRoutes(app: Server, bench: Bench): void {
  const { store, workers, now, readJob } = bench;
  const importer = new Importer(bench);

  type Named = { arrival: string };
  const found = async ({ arrival: id }: Named): Promise<Arrival> => {
    const arrival = await findArrival(store.db, id);
    if (!arrival) throw noSuchArrival(id);
    return arrival;
  };
  /** Changes an arrival, unless it is another one by now. */
  const change = <T>(params: Named, version: number | null, work: (arrival: Arrival) => Promise<T>): Promise<T> =>
    bench.turns.take(`arrival ${params.arrival}`, async () => {
      const arrival = await found(params);
      if (version !== null && arrival.version !== version) throw arrivalChanged(arrival.id);
      return work(arrival);
    });
  const write = async (arrival: Arrival, come?: Received, reading?: Reading | null): Promise<Arrival> => {
    const next = { ...arrival, version: arrival.version + 1, at: now().toISOString() };
    await writeArrival(store.db, next, come, reading);
    return next;
  };
  const fileOf = async (hash: string) => ({ hash, bytes: (await readReceived(store.db, hash))! });

  /** A table whose file is to be read in another way has other rows, and perhaps other headings. */
  async function readAnew(table: ArrivedTable, before: ArrivedTable): Promise<ArrivedTable> {
    const { asked, matching } = table;
    if (JSON.stringify(asked) === JSON.stringify(before.asked)) return table;
    const look = await workers.tables({ do: "look", file: await fileOf(table.file), asked, matching: null });
    if (!look.ok) throw noTable(table.name, look.found, look.remedy);
    const fitting = matching && fits(matching, look.headings) ? { matching } : { matching: look.guess, by: null };
    return { ...table, ...fitting, rows: look.rows };
  }

  /** The tables and drawings of an arrival of which it is known what they are. */
  async function filesOf(arrival: Arrival): Promise<ArrivedFiles> {
    const files = new Map<string, ReceivedFile>();
    const bytesOf = async (hash: string): Promise<ReceivedFile> => {
      const read = files.get(hash) ?? (await fileOf(hash));
      files.set(hash, read);
      return read;
    };
    const tables: ArrivedFiles["tables"] = [];
    // In the order of their names, as a folder has them: however they came, they make the same design.
    for (const { file, name, asked, matching } of [...arrival.tables].sort(byName))
      if (matching) tables.push({ file: await bytesOf(file), name: tableName(name, asked.sheet), asked, matching });
    const drawings: ArrivedFiles["drawings"] = [];
    for (const { file, name, said } of [...arrival.drawings].sort(byName))
      drawings.push({ file: await bytesOf(file), name, said });
    return { tables, drawings };
  }

  /** The design that an arrival makes, with what of it was not read. */
  async function assembled(
    arrival: Arrival,
    job: Job,
    seen: { shop: string; library: LibraryJson | null } | null,
    gone?: AbortSignal,
  ): Promise<AssembleAnswer> {
    const files = await filesOf(arrival);
    if (files.tables.length === 0 && files.drawings.every((d) => d.said.views.length === 0))
      throw notMatched(
        arrival.id,
        "Nothing of its files is known yet.",
        "Say of one table at least what it is (devices, connections …), or of a drawing which face it shows.",
      );
    return workers.tables(
      { do: "assemble", job, ...files, shop: seen?.shop ?? null, library: seen?.library ?? null },
      gone,
    );
  }

  /** A drawing that has come: as the one of its name was taken, else as a kept matching says. */
  async function comeDrawing(
    arrival: Arrival,
    { hash, bytes, name }: ReceivedFile & { name: string },
    gone: AbortSignal,
  ): Promise<ArrivedDrawing> {
    const kept = await listMatchings(store.db);
    const before = arrival.drawings.find((d) => d.name === name);
    const first = before ? [{ name: "", tables: [], drawings: [{ name, said: before.said }] }] : [];
    const file = { hash, bytes };
    const read = await workers.tables({ do: "recognise drawing", file, name, kept: [...first, ...kept] }, gone);
    if (!read.ok) throw noDrawing(name, read.found, read.remedy);
    const { version, things, said, by } = read;
    return { file: hash, name, bytes: bytes.byteLength, version, things, said, by: before ? before.by : by };
  }

  app.get(
    "/api/arrivals",
    { schema: { summary: "What has arrived and is not a job yet, the one changed last first" } },
    async () => ({
      arrivals: await listArrivals(store.db),
    }),
  );

  app.post(
    "/api/arrivals",
    {
      schema: {
        answer: "Arrival",
        body: newArrival,
        summary:
          "Begin with files that have come in: for a new job, or for a new revision of one that was made of tables, with the files of its last one",
      },
    },
    async (req, reply): Promise<Arrival> => {
      const { of } = readBody(req.body, newArrival);
      const all = await listArrivals(store.db);
      if (all.length >= MOST_ARRIVALS)
        throw arrivalFull("arrivals", `There are ${MOST_ARRIVALS} already.`, "Delete one that is not needed any more.");
      const id = randomBytes(6).toString("hex");
      const fresh = { id, version: 0, of, tables: [], drawings: [], attachments: [] };
      reply.code(201);
      if (of === null)
        return write({
          ...fresh,
          job: { code: "", title: "", revision: "", customer: "", due: "" },
          at: "",
        });
      const { job: code, title, customer, due } = await readJob({ job: of });
      const [last] = await listSources(store.db, code);
      const tables: ArrivedTable[] = [];
      const drawings: ArrivedDrawing[] = [];
      for (const { file, name, bytes, tables: read, said } of last?.files ?? []) {
        if (said) {
          const kept = [{ name: "", tables: [], drawings: [{ name, said }] }];
          const look = await workers.tables({ do: "recognise drawing", file: await fileOf(file), name, kept });
          const seen = look.ok ? { version: look.version, things: look.things } : { version: "", things: 0 };
          drawings.push({ file, name, bytes, said, by: null, ...seen });
        }
        for (const { asked, matching } of read) {
          const look = await workers.tables({ do: "look", file: await fileOf(file), asked, matching: null });
          const seen = look.ok ? { form: look.form, rows: look.rows } : { form: "", rows: 0 };
          tables.push({ file, name, bytes, asked, matching, by: null, ...seen });
        }
      }
      return write({
        ...fresh,
        tables,
        drawings,
        job: { code, title, revision: "", customer: customer ?? "", due: due ?? "" },
        at: "",
      });
    },
  );

  app.get(
    "/api/arrivals/:arrival",
    { schema: { summary: "One arrival: its tables, and what their columns are", params: arrivalParams } },
    (req) => found(req.params),
  );

  app.delete(
    "/api/arrivals/:arrival",
    { schema: { summary: "Delete an arrival with its files", params: arrivalParams, querystring: versionQuery } },
    async (req, reply) => {
      const { version } = req.query;
      await change(req.params, version, (a) => deleteArrival(store.db, a.id));
      return reply.code(204).send();
    },
  );

  app.put(
    "/api/arrivals/:arrival",
    {
      schema: {
        body: arrivalChange,
        summary:
          "Change what is said of an arrival; tables and drawings that are not named any more are taken out of it",
        params: arrivalParams,
      },
    },
    (req) => {
      const { version, job, tables, drawings, attachments } = readBody(req.body, arrivalChange);
      return change(req.params, version, async (arrival) => {
        const known = new Map(arrival.tables.map((t) => [keyOf(t), t]));
        const next: ArrivedTable[] = [];
        for (const t of tables) {
          const there = known.get(keyOf(t)) ?? arrival.tables.find((one) => one.file === t.file);
          if (!there) throw noSuchSource(arrival.id, t.file);
          next.push(await readAnew({ ...there, ...t }, there));
        }
        const drawn = drawings.map((d): ArrivedDrawing => {
          const there = arrival.drawings.find((one) => one.file === d.file && one.name === d.name);
          if (!there) throw noSuchSource(arrival.id, d.file);
          return { ...there, ...d };
        });
        const attached = attachments.map((a): ArrivedAttachment => {
          const there = arrival.attachments.find((one) => one.file === a.file && one.name === a.name);
          if (!there) throw noSuchSource(arrival.id, a.file);
          return there;
        });
        return write({ ...arrival, job, tables: next, drawings: drawn, attachments: attached });
      });
    },
  );

  app.post(
    "/api/arrivals/:arrival/files",
    {
      schema: {
        answer: "Arrival",
        summary:
          "Add a file of tables, a drawing, or a file that goes with the job as it is (application/octet-stream: CSV, XLSX, DXF, PDF, PNG, JPEG or WebP, at most 64 MB). One of the same name takes the place of the one that is there",
        params: arrivalParams,
        querystring: arrivedFileQuery,
      },
    },
    async (req, reply): Promise<Arrival> => {
      const { name } = req.query;
      const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0);
      // Before it is read: who names no arrival, or a full one, need not wait.
      roomFor(await found(req.params), name, bytes.byteLength);
      const received = await receivedOf(bytes);
      const { hash } = received;
      if (typeOf(bytes)) {
        const { type, reading } = await lookInto(workers, { bytes, name }, goneOf(reply));
        const { pages, empty } = reading ?? { pages: null, empty: 0 };
        const come = { file: hash, name, bytes: bytes.byteLength, type, pages, empty };
        return change(req.params, null, async (arrival) => {
          roomFor(arrival, name, bytes.byteLength);
          const others = without(arrival, name);
          if (others.attachments.length >= MOST_ARRIVED_ATTACHMENTS)
            throw arrivalFull(
              name,
              `That would be more than ${MOST_ARRIVED_ATTACHMENTS} attachments.`,
              "Leave files out.",
            );
          return write({ ...others, attachments: [...others.attachments, come] }, received, reading);
        });
      }
      if (isDrawing(bytes)) {
        const gone = goneOf(reply);
        // Read before its turn: while a large one is read, others change what they have.
        await comeDrawing(await found(req.params), { hash, bytes, name }, gone);
        return change(req.params, null, async (arrival) => {
          roomFor(arrival, name, bytes.byteLength);
          const come = await comeDrawing(arrival, { hash, bytes, name }, gone);
          const at = arrival.drawings.findIndex((d) => d.name === name);
          const drawings = at < 0 ? [...arrival.drawings, come] : arrival.drawings.with(at, come);
          if (drawings.length > MOST_ARRIVED_DRAWINGS)
            throw arrivalFull(name, `That would be more than ${MOST_ARRIVED_DRAWINGS} drawings.`, "Leave files out.");
          // What was a table of that name before is one no more.
          return write({ ...without(arrival, name), drawings }, received);
        });
      }
      const read = await workers.tables(
        { do: "recognise", file: { hash, bytes }, kept: await listMatchings(store.db) },
        goneOf(reply),
      );
      if (!read.ok) throw noTable(name, read.found, read.remedy);
      return change(req.params, null, async (arrival) => {
        roomFor(arrival, name, bytes.byteLength);
        const before = arrival.tables.filter((t) => t.name === name);
        const come = read.tables.map(({ asked, matching, by, hidden, headings, rows }): ArrivedTable => {
          const same = before.find((t) => t.asked.sheet === asked.sheet && t.matching && fits(t.matching, headings));
          return {
            file: hash,
            name,
            bytes: bytes.byteLength,
            form: read.form,
            rows,
            ...(same
              ? { asked, matching: same.matching, by: same.by }
              : { asked, matching: hidden && by === null ? null : matching, by }),
          };
        });
        const at = arrival.tables.findIndex((t) => t.name === name);
        const others = arrival.tables.filter((t) => t.name !== name);
        const tables = at < 0 ? [...others, ...come] : [...others.slice(0, at), ...come, ...others.slice(at)];
        if (tables.length > MOST_ARRIVED_TABLES)
          throw arrivalFull(name, `That would be more than ${MOST_ARRIVED_TABLES} tables.`, "Leave files out.");
        return write({ ...without(arrival, name), tables }, received);
      });
    },
  );

  app.get(
    "/api/arrivals/:arrival/tables/:table",
    {
      schema: {
        answer: "TableLook",
        summary: "A table as it stands in its file, and its first rows as they would be read",
        params: arrivedTableParams,
      },
    },
    async (req, reply): Promise<TableLook> => {
      const arrival = await found(req.params);
      const { table: number } = req.params;
      const table = arrival.tables[number - 1];
      if (!table) throw noSuchTable(arrival.id, number);
      const { asked, matching } = table;
      const look = await workers.tables({ do: "look", file: await fileOf(table.file), asked, matching }, goneOf(reply));
      if (!look.ok) throw noTable(table.name, look.found, look.remedy);
      const { ok: _, guess: __, ...rest } = look;
      return rest;
    },
  );

  app.get(
    "/api/arrivals/:arrival/drawings/:drawing",
    {
      schema: {
        answer: "DrawingLook",
        summary: "A drawing to be looked at: what is drawn, by layers, and what it is taken for",
        params: arrivedDrawingParams,
      },
    },
    async (req, reply): Promise<DrawingLook> => {
      const arrival = await found(req.params);
      const { drawing: number } = req.params;
      const drawing = arrival.drawings[number - 1];
      if (!drawing) throw noSuchArrivedDrawing(arrival.id, number);
      const files = await filesOf(arrival);
      // Files go in the order of their names.
      const at = files.drawings.findIndex((d) => d.name === drawing.name);
      const answer = await workers.tables({ do: "look at drawing", drawing: at + 1, ...files }, goneOf(reply));
      if (!answer.ok) throw noDrawing(drawing.name, answer.found, answer.remedy);
      return answer.look;
    },
  );

  app.get(
    "/api/arrivals/:arrival/outlook",
    {
      schema: {
        answer: "ArrivalOutlook",
        summary: "What an arrival would become: what is not read, what the design would lack, what it changes",
        params: arrivalParams,
      },
    },
    async (req, reply): Promise<ArrivalOutlook> => {
      const arrival = await found(req.params);
      const gone = goneOf(reply);
      const job = jobOf(arrival);
      // What its tables hold is told before anybody has named it.
      const named = { ...job, ...Object.fromEntries(NAMES.map((n) => [n, job[n] || UNNAMED])) };
      const { json: shop } = await currentShop(store.db);
      // The one that will complete it: a job keeps its own.
      const own = arrival.of === null ? undefined : await findJob(store.db, arrival.of);
      const hash = own ? own.library : ((await currentLibrary(store.db))?.hash ?? "");
      const library = await readLibraryJson(store.db, hash);
      const { read, notRead, counts, lacks } = await assembled(arrival, named, { shop, library }, gone);
      return {
        counts,
        lacks,
        notRead: notRead.slice(0, MOST_NOT_READ),
        notReadCount: notRead.length,
        refused: read.ok ? null : { faults: read.faults, count: read.count },
        outlook: read.ok && NAMES.every((n) => job[n] !== "") ? await importer.outlook(read, gone) : null,
      };
    },
  );

  app.get(
    "/api/arrivals/:arrival/not-read.csv",
    { schema: { summary: "All that was not read of an arrival, for whoever made the tables", params: arrivalParams } },
    async (req, reply) => {
      const arrival = await found(req.params);
      const named = { code: UNNAMED, title: UNNAMED, revision: UNNAMED };
      const { notRead } = await assembled(arrival, named, null, goneOf(reply));
      const { name, type, bytes } = notReadFile(notRead);
      return reply
        .header("content-disposition", `attachment; filename="${name}"`)
        .type(`${type}; charset=utf-8`)
        .send(Buffer.from(bytes));
    },
  );

  app.get(
    "/api/arrivals/:arrival/matching.json",
    {
      schema: {
        summary: "What the columns of its tables are and what its drawings show, as a file that `make` takes",
        params: arrivalParams,
      },
    },
    async (req, reply) => {
      const arrival = await found(req.params);
      const tables: KeptTable[] = [];
      for (const { file, asked, matching } of arrival.tables) {
        const look = await workers.tables({ do: "look", file: await fileOf(file), asked, matching: null });
        const { sheet: _, ...how } = asked;
        if (look.ok)
          tables.push({ headings: look.headings, matching, ...(Object.keys(how).length > 0 ? { asked: how } : {}) });
      }
      const drawings = arrival.drawings.map(({ name: file, said }) => ({ name: file, said }));
      const name = arrival.job.customer || arrival.job.code || arrival.id;
      return reply
        .header("content-disposition", `attachment; filename="${name.replace(/[^\w.-]+/g, "_")}.matching.json"`)
        .type("application/json; charset=utf-8")
        .send(keptFile({ name: name.slice(0, 80), tables, drawings }));
    },
  );

  app.post(
    "/api/arrivals/:arrival/take",
    {
      schema: {
        answer: "ImportReply",
        summary: "Make a job, or a new revision of one, of an arrival. All or nothing; its files stay with it",
        params: arrivalParams,
        querystring: takeQuery,
      },
    },
    async (req, reply): Promise<ImportReply> => {
      const { version } = req.query;
      return change(req.params, version, async (arrival) => {
        const { read } = await assembled(arrival, jobOf(arrival), null, goneOf(reply));
        if (!read.ok) throw refused(read.faults, read.count);
        if (arrival.of !== null && read.job.code !== arrival.of)
          throw notMatched(
            arrival.id,
            `It is to be a new revision of ${arrival.of}, but its code is ${read.job.code}.`,
            `Write ${arrival.of}, or open the files for a new job.`,
          );
        const design = { job: read.job.code, design: read.hash, at: now().toISOString(), who: whoOf(req) };
        const taken = await importer.take(req, read, (tx) => settleArrival(tx, arrival, design));
        reply.code(taken.stored ? 201 : 200);
        return taken.reply;
      });
    },
  );

  app.get(
    "/api/jobs/:job/sources",
    { schema: { summary: "The files that revisions of a job were made of, the last first", params: jobParams } },
    async (req): Promise<{ sources: SourceList[] }> => {
      const { job } = await readJob(req.params);
      return { sources: await listSources(store.db, job) };
    },
  );

  app.get(
    "/api/jobs/:job/sources/:file",
    { schema: { summary: "A file as it was received", params: sourceParams } },
    async (req, reply) => {
      const { job } = await readJob(req.params);
      const { file } = req.params;
      const known = (await listSources(store.db, job)).flatMap((s) => s.files).find((f) => f.file === file);
      if (!known) throw noSuchSource(job, file);
      return reply
        .header("content-disposition", named("attachment", known.name))
        .type("application/octet-stream")
        .send((await readReceived(store.db, file))!);
    },
  );
}

/** An arrival without the file of a name, whatever it was. */
const without = (arrival: Arrival, name: string): Arrival => ({
  ...arrival,
  tables: arrival.tables.filter((t) => t.name !== name),
  drawings: arrival.drawings.filter((d) => d.name !== name),
  attachments: arrival.attachments.filter((a) => a.name !== name),
});

const NAMES = ["code", "title", "revision"] as const;
const UNNAMED = "unnamed";

const byName = (a: { name: string }, b: { name: string }): number => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0);

const keyOf = ({ file, name, asked }: Pick<ArrivedTable, "file" | "name" | "asked">): string =>
  JSON.stringify([file, name, asked.sheet ?? null]);

/** @throws arrival.full where a file finds no room; one of the same name makes room */
function roomFor(arrival: Arrival, name: string, bytes: number): void {
  const all = [...arrival.tables, ...arrival.drawings, ...arrival.attachments];
  const others = new Map(all.filter((f) => f.name !== name).map((f) => [f.name, f.bytes]));
  if (others.size >= MOST_FILES)
    throw arrivalFull(name, `There are ${MOST_FILES} files already.`, "Take one out that is not needed.");
  if ([...others.values()].reduce((sum, n) => sum + n, bytes) > MOST_BYTES)
    throw arrivalFull(
      name,
      `The files together would have more than ${MOST_BYTES / 1024 / 1024} MB.`,
      "Split the job.",
    );
}

/** Whether a matching finds all its columns. */
function fits(matching: Matching, headings: readonly string[]): boolean {
  const there = new Set(headings);
  return Object.values(matching.columns).every((m) => m.from.every((p) => there.has(p.heading)));
}

/** What is left empty is not said. */
function jobOf({ job }: Arrival): Job {
  const { code, title, revision, customer, due } = job;
  return { code, title, revision, ...(customer ? { customer } : {}), ...(due ? { due } : {}) };
}
