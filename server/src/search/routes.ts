import { setImmediate } from "node:timers/promises";
import { searchQuery, type SearchHit, type SearchReply } from "@gray-bench/contract/search";
import { Finder, isGuess, isNamed } from "@gray-bench/core/search/find";
import { readEntries } from "../results/entries";
import type { Bench, Server } from "../server";
import { countJobs, findJob, listJobs, type JobRow } from "../store/jobs";

/** Jobs whose things are looked through, and how long it may take: whoever wants an older one opens it, or names it. */
const MOST_LOOKED = 40;
const MOST_MS = 1500;

/** What can be searched for is kept ready of this many designs. */
const KEPT = 40;
/** No more things than this of all of them. */
const KEPT_THINGS = 200_000;

/** Search for any tag, number or name over all jobs. */
export function searchRoutes(app: Server, { store, runner }: Bench): void {
  const kept = new Map<string, Finder>();
  let count = 0;
  /** None of a job that was deleted meanwhile. */
  const finderOf = async (job: JobRow): Promise<Finder | null> => {
    const { hash } = job;
    const known = kept.get(hash);
    if (known) return known;
    const row = await runner.entries(hash);
    if (!row) return null;
    const finder = new Finder(readEntries(row));
    kept.set(hash, finder);
    count += finder.size;
    for (const [oldest, some] of kept) {
      if (kept.size <= 1 || (kept.size <= KEPT && count <= KEPT_THINGS)) break;
      kept.delete(oldest);
      count -= some.size;
    }
    return finder;
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
      const all: { hit: SearchHit; rank: number; own: boolean }[] = [];
      const begun = performance.now();
      let looked = 0;
      for (const row of rows) {
        if (performance.now() - begun > MOST_MS) break;
        for (const { found, rank } of (await finderOf(row))?.find(q, most) ?? []) {
          all.push({ hit: { ...found, job: row.job }, rank, own: row.job === own?.job });
        }
        looked++;
        // Others have their turn between two jobs.
        await setImmediate();
      }
      // Whoever is in a job wants what is called so in it, then what is elsewhere, then what only speaks of it.
      const fits = hits.length > 0 || all.some((a) => !isGuess(a.rank));
      const place = ({ own: here, rank }: (typeof all)[number]): number => (isNamed(rank) ? 0 : 2) + (here ? 0 : 1);
      const of = (at: number): SearchHit[] =>
        all
          .filter((a) => place(a) === at && !(fits && isGuess(a.rank)))
          .sort((a, b) => a.rank - b.rank)
          .map((a) => a.hit);
      const found = [...of(0), ...hits, ...of(1), ...of(2), ...of(3)];
      return { hits: found.slice(0, most), looked, jobs };
    },
  );
}
