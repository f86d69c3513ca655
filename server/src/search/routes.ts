import { setImmediate } from "node:timers/promises";
import { searchQuery, type SearchHit, type SearchReply } from "@gray-bench/contract/search";
import { findEntries, type Entry } from "@gray-bench/core/design/find";
import { readEntries } from "../results/entries";
import type { Bench, Server } from "../server";
import { countJobs, findJob, listJobs, type JobRow } from "../store/jobs";

/** Jobs whose things are looked through, and how long it may take: whoever wants an older one opens it, or names it. */
const MOST_LOOKED = 40;
const MOST_MS = 1500;

/** Entries of this many designs are kept parsed. */
const KEPT = 40;
/** No more entries than this of all of them. */
const KEPT_ENTRIES = 200_000;

/** Search for any tag, number or name over all jobs. */
export function searchRoutes(app: Server, { store, runner }: Bench): void {
  const kept = new Map<string, Entry[]>();
  let count = 0;
  /** None of a job that was deleted meanwhile. */
  const entriesOf = async (job: JobRow): Promise<Entry[]> => {
    const { hash } = job;
    const known = kept.get(hash);
    if (known) return known;
    const row = await runner.entries(hash);
    if (!row) return [];
    const entries = readEntries(row);
    kept.set(hash, entries);
    count += entries.length;
    for (const [oldest, some] of kept) {
      if (kept.size <= 1 || (kept.size <= KEPT && count <= KEPT_ENTRIES)) break;
      kept.delete(oldest);
      count -= some.length;
    }
    return entries;
  };

  app.get(
    "/api/search",
    {
      schema: {
        answer: "SearchReply",
        summary: "Find tags, wire numbers, nets, parts; * stands for any text, ? for one character",
        querystring: searchQuery,
      },
    },
    async (req): Promise<SearchReply> => {
      const { q, job, most } = req.query;
      const hits = (await listJobs(store.db, 0, most, { q })).map((r): SearchHit => ({
        thing: "job",
        of: r.job,
        text: [r.title, r.customer].filter(Boolean).join(", "),
        job: r.job,
      }));
      const own = job === undefined ? undefined : await findJob(store.db, job);
      const others = (await listJobs(store.db, 0, MOST_LOOKED)).filter((r) => r.job !== own?.job);
      const rows = (own ? [own, ...others] : others).slice(0, MOST_LOOKED);
      const jobs = await countJobs(store.db);
      const found: SearchHit[] = [];
      const begun = performance.now();
      let looked = 0;
      for (const row of rows) {
        if (found.length >= most || performance.now() - begun > MOST_MS) break;
        const here = (await entriesOf(row)).map((e) => ({ ...e, job: row.job }));
        found.push(...findEntries(here, q, most - found.length));
        looked++;
        // Others have their turn between two jobs.
        await setImmediate();
      }
      // Whoever is in a job wants what is in it first.
      const all = own ? [...found, ...hits] : [...hits, ...found];
      return { hits: all.slice(0, most), looked, jobs };
    },
  );
}
