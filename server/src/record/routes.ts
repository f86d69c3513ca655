import { randomUUID } from "node:crypto";
import { readdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { auditQuery, type AuditList } from "@gray-bench/contract/record";
import { toCsv } from "@gray-bench/core/formats/csv";
import type { Bench, Server } from "../server";
import { MOST_ENTRIES, readAudit } from "../store/record";

const BACKUP = /^backup-[\dTZ-]+-[0-9a-f]{8}\.db$/;
const MOST_BACKUPS = 10;

const HEAD = ["time", "what", "job", "who", "address", "detail"];

/** The record of what was done, and copies of the data. */
export function recordRoutes(app: Server, { store, now, note }: Bench, folder: string | undefined): void {
  app.get(
    "/api/audit",
    {
      schema: {
        summary: "What was done to the whole, the last first; it stays when a job goes. `as=csv`: all of it as a table",
        querystring: auditQuery,
      },
    },
    async (req, reply) => {
      const { most, as, ...wanted } = req.query;
      if (as === "json") return { entries: await readAudit(store.db, most, wanted) } satisfies AuditList;
      const entries = await readAudit(store.db, MOST_ENTRIES, wanted);
      const rows = entries.map((e) => [e.at, e.what, e.job, e.who, e.address, e.detail]);
      return reply
        .header("content-disposition", `attachment; filename="record.csv"`)
        .type("text/csv; charset=utf-8")
        .send(Buffer.from(toCsv(HEAD, rows)));
    },
  );

  if (folder === undefined) return;
  app.post(
    "/api/backup",
    { schema: { summary: "Copy the data into a file beside it, while work goes on; the last ten are kept" } },
    async (req) => {
      const file = `backup-${now().toISOString().replace(/[:.]/g, "-")}-${randomUUID().slice(0, 8)}.db`;
      await store.backup(join(folder, file));
      await note(req, { what: "backup", job: null, who: null, detail: file });
      const made = readdirSync(folder).filter((name) => BACKUP.test(name));
      // By their time, which their names begin with.
      for (const old of made.sort().slice(0, -MOST_BACKUPS)) rmSync(join(folder, old), { force: true });
      return { file };
    },
  );
}
