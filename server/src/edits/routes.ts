import { randomUUID } from "node:crypto";
import { gunzipSync } from "node:zlib";
import { jobParams } from "@gray-bench/contract/common";
import {
  editParams,
  editRequest,
  outlookRequest,
  turnRequest,
  type DesignOutlook,
  type EditLog,
  type EditReply,
  type EditRequest,
} from "@gray-bench/contract/edits";
import { revisionParams } from "@gray-bench/contract/jobs";
import { EDITS } from "@gray-bench/core/edits";
import type { LoggedEdit } from "@gray-bench/core/frame/edits";
import type { Accepted } from "@gray-bench/core/design/model";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { EDITS_FORMAT, EDITS_VERSION, type EditsFile } from "@gray-bench/core/frame/edits-file";
import { bodyInvalid, noSuchRevision } from "../errors";
import { editRefused, editStands, editStale, editTurned, noSuchEdit, revisionCounts } from "./errors";
import { goneOf } from "../plugins/gone";
import { readBody } from "../plugins/joi";
import type { Bench, Server } from "../server";
import { targetFor, targetOf } from "../results/target";
import { fileStem, listRevisions, readDesignJson, setShown, type JobRow } from "../store/jobs";
import { readLibraryJson } from "../store/libraries";
import { appendLog, editsOf, readLog, type LogRow } from "../store/log";
import type { DesignJson, LayAnswer, MadeFrom, NotLaid } from "../workers/tasks";
import { asJson, fromJson } from "../store/json";

const ACCEPT = "accept";

/** Edits of a job: what was done, doing more, undoing. */
export function editRoutes(app: Server, { store, runner, workers, readJob, now, turns, changed }: Bench): void {
  app.get(
    "/api/jobs/:job/edits",
    {
      schema: {
        answer: "EditLog",
        summary: "The edits of a job in order, those undone included",
        params: jobParams,
      },
    },
    async (req): Promise<EditLog> => {
      const job = await readJob(req.params);
      const unfitting = new Map(fromJson(job.unfitting).map((u) => [u.id, u]));
      return {
        designHash: job.hash,
        receivedHash: job.received,
        edits: editsOf(await readLog(store.db, job.job)).map((e) => {
          const not = unfitting.get(e.id);
          return {
            ...e,
            why: e.why ?? null,
            sentence: EDITS.sentence(e),
            touches: EDITS.touches(e),
            unfitting: not ? { reason: not.reason, remedy: not.remedy } : null,
          };
        }),
      };
    },
  );

  app.get(
    "/api/jobs/:job/edits/file",
    { schema: { summary: "The edits of a job as a file, to be laid on the design as received", params: jobParams } },
    async (req, reply) => {
      const job = await readJob(req.params);
      const file: EditsFile = {
        format: EDITS_FORMAT,
        version: EDITS_VERSION,
        job: job.job,
        revision: job.revision,
        received: job.received,
        edits: editsOf(await readLog(store.db, job.job)),
      };
      return reply
        .header("content-disposition", `attachment; filename="${fileStem(job)}.edits.json"`)
        .type("application/json; charset=utf-8")
        .send(`${JSON.stringify(file, null, 2)}\n`);
    },
  );

  app.post(
    "/api/jobs/:job/edits",
    {
      schema: {
        answer: "EditReply",
        body: editRequest,
        summary: "Lay edits on the design, all or nothing; 409 when it is no longer the one they were made on",
        params: jobParams,
      },
    },
    (req, reply): Promise<EditReply> => {
      const asked = readBody<EditRequest>(req.body, editRequest);
      return turns.take(req.params.job, async () => {
        const job = await readJob(req.params);
        const rows = await readLog(store.db, job.job);
        notStale(job, rows, asked.on);
        ofKnownForm(asked.edits);
        const at = now().toISOString();
        const add = asked.edits.map((e): LoggedEdit => ({
          ...e,
          id: randomUUID(),
          who: asked.who,
          when: at,
          back: null,
        }));
        await ofKnownPoints(job, add);
        const laid = await workers.lay({ ...(await nowOf(job)), add });
        if (!laid.ok) {
          if ("standing" in laid) throw new Error("nothing was turned");
          throw editRefused(laid.index, EDITS.sentence(add[laid.index]!), laid.reason, laid.remedy);
        }
        const settled = add.map((e, i): LoggedEdit => ({ ...e, payload: laid.payloads[i] }));
        const lines = settled.map((e) => ({
          job: job.job,
          what: "edit" as const,
          id: e.id,
          kind: e.kind,
          payload: JSON.stringify(e.payload),
          why: e.why ?? null,
          who: e.who,
          at,
          hash: laid.hash,
        }));
        await keep(job, lines, laid, { on: job.hash, edits: settled });
        reply.code(201);
        return { designHash: laid.hash, ids: add.map((e) => e.id), sentences: settled.map((e) => EDITS.sentence(e)) };
      });
    },
  );

  app.post(
    "/api/jobs/:job/edits/outlook",
    {
      schema: {
        answer: "DesignOutlook",
        body: outlookRequest,
        summary: "What edits would do, all of them together; changes nothing",
        params: jobParams,
      },
    },
    async (req, reply): Promise<DesignOutlook> => {
      const gone = goneOf(reply);
      const { edits } = readBody<Pick<EditRequest, "edits">>(req.body, outlookRequest);
      const job = await readJob(req.params);
      ofKnownForm(edits);
      const add = edits.map((e, i): LoggedEdit => ({ ...e, id: `${i}`, who: "nobody", when: "", back: null }));
      const now = await nowOf(job);
      const laid = await workers.lay({ ...now, add }, gone);
      if (!laid.ok) {
        if ("standing" in laid) throw new Error("nothing was turned");
        throw editRefused(laid.index, EDITS.sentence(add[laid.index]!), laid.reason, laid.remedy);
      }
      return runner.proposing(laid.hash, laid.json, async () => ({
        things: await workers.differ({ before: now.current, after: laid }, gone),
        ...(await runner.outlook(targetOf(job), targetFor(job.job, laid.hash, job.shop))),
      }));
    },
  );

  app.post(
    "/api/jobs/:job/revisions/:revision/back",
    {
      schema: {
        answer: "EditReply",
        body: turnRequest,
        summary:
          "Let a design that was imported before count again, with the edits on top; what does not fit is told of",
        params: revisionParams,
      },
    },
    (req): Promise<EditReply> => {
      const asked = readBody<{ on: string; who: string }>(req.body, turnRequest);
      const { job: code, revision } = req.params;
      return turns.take(code, async () => {
        const job = await readJob(req.params);
        const rows = await readLog(store.db, job.job);
        notStale(job, rows, asked.on);
        const hash = (await listRevisions(store.db, job.job)).find((r) => r.revision === revision)?.hash;
        if (hash === undefined) throw noSuchRevision(code, revision);
        if (hash === job.received) throw revisionCounts(code, revision);
        const received = { hash, json: (await readDesignJson(store.db, hash))! };
        const library = await readLibraryJson(store.db, job.library);
        const laid = await workers.lay({ received, library, log: editsOf(rows), turn: null });
        if (!laid.ok) throw new Error("a revision refuses no edits");
        const sentence = `revision ${revision} put back`;
        const line = { what: "revision" as const, id: hash, kind: sentence, payload: "{}", why: null };
        const by = { job: job.job, who: asked.who, at: now().toISOString(), hash: laid.hash };
        await keep({ ...job, received: hash }, [{ ...line, ...by }], laid);
        return { designHash: laid.hash, ids: [], sentences: [sentence] };
      });
    },
  );

  for (const [what, summary] of [
    ["back", "Undo an edit; 409 with the edits that stand on it"],
    ["again", "Redo an edit that was undone"],
  ] as const) {
    app.post(
      `/api/jobs/:job/edits/:id/${what}`,
      { schema: { answer: "EditReply", body: turnRequest, summary, params: editParams } },
      (req): Promise<EditReply> => {
        const asked = readBody<{ on: string; who: string }>(req.body, turnRequest);
        const { job: code, id } = req.params;
        return turns.take(code, async () => {
          const job = await readJob(req.params);
          const rows = await readLog(store.db, job.job);
          notStale(job, rows, asked.on);
          const log = editsOf(rows);
          const edit = log.find((e) => e.id === id);
          if (!edit) throw noSuchEdit(id);
          const sentence = EDITS.sentence(edit);
          if ((edit.back !== null) === (what === "back")) throw editTurned(sentence, what);
          const at = now().toISOString();
          const laid = await workers.lay({
            received: { hash: job.received, json: (await readDesignJson(store.db, job.received))! },
            library: await readLibraryJson(store.db, job.library),
            log,
            turn: { id, back: what === "back" ? { who: asked.who, when: at } : null },
          });
          if (!laid.ok) {
            if (!("standing" in laid)) throw new Error("nothing was added");
            throw editStands(sentence, what, laid.standing);
          }
          const line = { job: job.job, what, id, kind: edit.kind, payload: "{}", why: null, who: asked.who, at };
          await keep(job, [{ ...line, hash: laid.hash }], laid);
          return { designHash: laid.hash, ids: [id], sentences: [sentence] };
        });
      },
    );
  }

  /** Refuses to accept what is no open point of the job: it would lie in wait for one that comes later. */
  async function ofKnownPoints(job: JobRow, edits: readonly LoggedEdit[]): Promise<void> {
    if (!edits.some((e) => e.kind === ACCEPT)) return;
    const row = await runner.joined(targetOf(job), "open");
    const { open } = JSON.parse(gunzipSync(row.gzip).toString("utf8")) as { open: OpenPoint[] };
    const known = new Set(open.map((p) => `${p.id}\u0000${p.text}`));
    edits.forEach((e, i) => {
      if (e.kind !== ACCEPT) return;
      const { point, text } = e.payload as Accepted;
      if (known.has(`${point}\u0000${text}`)) return;
      throw editRefused(
        i,
        EDITS.sentence(e),
        "there is no such open point in this job as it is now",
        "Look through the open points again: it may have been settled, or its text has changed.",
      );
    });
  }

  /** The design of a job as it is now: what is new is laid on top of it, whatever lies below. */
  async function nowOf({ hash, unfitting }: JobRow): Promise<{ current: DesignJson; unfitting: NotLaid[] }> {
    return {
      current: { hash, json: (await readDesignJson(store.db, hash))! },
      unfitting: fromJson(unfitting),
    };
  }

  /** Acknowledged only when on disk; the computation is begun and not waited for. */
  async function keep(
    job: JobRow,
    lines: readonly Omit<LogRow, "seq" | "received">[],
    laid: Extract<LayAnswer, { ok: true }>,
    from?: MadeFrom,
  ): Promise<void> {
    const target = targetFor(job.job, laid.hash, job.shop);
    // Computed while it is written: a result belongs to what it was computed from, whether that counts in the end or not.
    await runner.countsNow(target, { json: laid.json, ...(from && { from }) });
    await appendLog(store.db, job.job, job.received, lines, {
      hash: laid.hash,
      head: asJson(laid.head),
      json: Buffer.from(laid.json),
      unfitting: asJson(laid.unfitting),
    });
    if ((await runner.state(target)).run === "done") await setShown(store.db, target);
    changed(target);
  }
}

/** Refuses edits of a kind or a form that is not known, naming the place. */
function ofKnownForm(edits: EditRequest["edits"]): void {
  edits.forEach((edit, i) => {
    const [fault] = EDITS.faults(edit.kind, edit.payload);
    if (fault) throw bodyInvalid(`edits[${i}].${fault.path}`, `found ${fault.found}, expected ${fault.expected}`);
  });
}

/** Refuses what was made on another design than the one that counts, and tells what was done since. */
function notStale(job: JobRow, rows: readonly LogRow[], on: string): void {
  if (job.hash === on) return;
  const known = rows.map((r) => r.hash).lastIndexOf(on);
  const since = known >= 0 ? rows.slice(known + 1) : on === job.received ? rows : [];
  const edits = new Map(editsOf(rows).map((e) => [e.id, EDITS.sentence(e)]));
  const words = { edit: "", back: "undone: ", again: "redone: " };
  const changed = since.flatMap((r) =>
    r.what === "shop"
      ? []
      : [
          r.what === "revision" || r.what === "library"
            ? `${r.who}: ${r.kind}`
            : `${r.who}: ${words[r.what]}${edits.get(r.id)!}`,
        ],
  );
  throw editStale(job.job, changed.length > 0 ? changed : [`another revision is here: ${job.revision}`]);
}
