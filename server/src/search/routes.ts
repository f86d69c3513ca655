import { gunzipSync } from "node:zlib";
import { searchQuery, type SearchHit } from "@gray-bench/contract/api";
import { findEntries, type Entry } from "@gray-bench/core/design/find";
import type { Bench, Server } from "../server";
import { listJobs, type JobRow } from "../store/jobs";

/** Entries of this many designs are kept parsed. */
const KEPT = 8;

/** Search for any tag, number or name over all jobs. */
export function searchRoutes(app: Server, { store, runner }: Bench): void {
  const kept = new Map<string, Entry[]>();
  const entriesOf = async (job: JobRow): Promise<Entry[]> => {
    const { hash } = job;
    const known = kept.get(hash);
    if (known) return known;
    const row = await runner.entries(hash);
    const entries = JSON.parse(gunzipSync(row.gzip).toString("utf8")) as Entry[];
    if (kept.size >= KEPT) kept.delete(kept.keys().next().value!);
    kept.set(hash, entries);
    return entries;
  };

  app.get(
    "/api/search",
    {
      schema: {
        summary: "Find tags, wire numbers, nets, parts; * stands for any text, ? for one character",
        querystring: searchQuery,
      },
    },
    async (req) => {
      const { q, job, most } = req.query as { q: string; job?: string; most: number };
      const rows = (await listJobs(store.db)).sort((a, b) => Number(b.job === job) - Number(a.job === job));
      const hits: SearchHit[] = [];
      for (const row of rows) {
        if (hits.length >= most) break;
        const here: SearchHit[] = [{ thing: "job" as const, of: row.job, text: row.title, job: row.job }];
        here.push(...(await entriesOf(row)).map((e) => ({ ...e, job: row.job })));
        hits.push(...findEntries(here, q, most - hits.length));
      }
      return { hits };
    },
  );
}
