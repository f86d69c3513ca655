import { jobParams } from "@gray-bench/contract/common";
import type { JobSummary } from "@gray-bench/contract/jobs";
import {
  effectsQuery,
  shopProposal,
  shopRequest,
  takeOverRequest,
  versionParams,
  type ShopEffect,
  type ShopEffects,
  type ShopReply,
  type ShopRequest,
  type ShopVersion,
} from "@gray-bench/contract/shop";
import { canonicalJson } from "@gray-bench/core/design/canonical";
import { contentHash } from "@gray-bench/core/design/hash";
import { checkShop, type Shop } from "@gray-bench/core/shop/shop";
import { changedPlaces, shopChanges } from "@gray-bench/core/shop/shop-changes";
import { RULES } from "@gray-bench/core/rules";
import { BenchError } from "../errors";
import { noSuchVersion, shopRefused, shopStale } from "./errors";
import { describeJob } from "../jobs/describe";
import { readBody } from "../plugins/joi";
import { targetFor, targetOf } from "../results/target";
import type { Bench, Server } from "../server";
import { countJobs, findJob, listJobs, setShop, setShown } from "../store/jobs";
import { appendShop, currentShop, findShop, listShops, shopOf, shopVersion, type ShopRow } from "../store/shops";

/** The shop: its rules and their versions, what a change would do, and which jobs are computed with which. */
export function shopRoutes(app: Server, { store, runner, readJob, now, note, turns, changed }: Bench): void {
  const { db } = store;

  /** What a version changed against the one before it. */
  async function changesOf(row: ShopRow): Promise<Pick<ShopVersion, "changes" | "places">> {
    const before = await shopVersion(db, row.number - 1);
    if (!before) return { changes: [], places: [] };
    const [was, is] = [shopOf(before), shopOf(row)];
    return { changes: shopChanges(was, is, RULES), places: changedPlaces(was, is, RULES) };
  }
  const versionOf = async (row: ShopRow): Promise<ShopVersion> => ({
    number: row.number,
    hash: row.hash,
    who: row.who,
    when: row.at,
    why: row.why,
    ...(await changesOf(row)),
  });
  const replyOf = async (row: ShopRow): Promise<ShopReply> => ({ ...(await versionOf(row)), shop: shopOf(row) });

  app.get("/api/shop", { schema: { summary: "The shop as it is now" } }, async () => replyOf(await currentShop(db)));

  app.get("/api/shop/versions", { schema: { summary: "Versions of the shop, newest first" } }, async () => {
    const versions: ShopVersion[] = [];
    for (const { number } of await listShops(db)) versions.push(await versionOf((await shopVersion(db, number))!));
    return { versions };
  });

  app.get(
    "/api/shop/versions/:number",
    { schema: { summary: "One version of the shop", params: versionParams } },
    async (req) => {
      const { number } = req.params;
      const row = await shopVersion(db, number);
      if (!row) throw noSuchVersion(number);
      return replyOf(row);
    },
  );

  app.get("/api/shop/file", { schema: { summary: "The shop as a file" } }, async (_req, reply) => {
    const row = await currentShop(db);
    return reply
      .header("content-disposition", `attachment; filename="shop-${row.number}.shop.json"`)
      .type("application/json; charset=utf-8")
      .send(`${JSON.stringify(shopOf(row), null, 2)}\n`);
  });

  app.put(
    "/api/shop",
    {
      schema: {
        answer: "ShopReply",
        body: shopRequest,
        summary: "A new version of the shop; 409 when it was changed meanwhile",
      },
    },
    (req): Promise<ShopReply> => {
      const asked = readBody<ShopRequest>(req.body, shopRequest);
      const shop = checked(asked.shop);
      return turns.take("shop", async () => {
        const current = await currentShop(db);
        if (current.hash !== asked.on)
          throw shopStale([`${current.who}: ${(await changesOf(current)).changes.join("; ")}`]);
        if (contentHash(shop) !== current.hash) {
          await appendShop(db, shop, { who: asked.who, why: asked.why ?? null, at: now().toISOString() });
          const { number } = await currentShop(db);
          await note(req, { what: "shop", job: null, who: asked.who, detail: `version ${number}` });
        }
        return replyOf(await currentShop(db));
      });
    },
  );

  app.post(
    "/api/shop/effect",
    {
      schema: {
        answer: "ShopEffects",
        body: shopProposal,
        summary: "What a changed shop would do to the jobs that are due first; changes nothing",
        querystring: effectsQuery,
      },
    },
    async (req): Promise<ShopEffects> => {
      const { most } = req.query;
      const shop = checked(readBody<{ shop: unknown }>(req.body, shopProposal).shop);
      const hash = contentHash(shop);
      return runner.proposing(hash, canonicalJson(shop), async () => {
        const jobs: ShopEffect[] = [];
        const failed: ShopEffects["failed"] = [];
        for (const job of await listJobs(db, 0, most)) {
          const { job: code, title } = job;
          try {
            const outlook = await runner.outlook(targetOf(job), targetFor(code, job.hash, hash));
            jobs.push({ code, title, ...outlook });
          } catch (error) {
            // One job that cannot be computed is no reason to say nothing of the others.
            if (!(error instanceof BenchError)) throw error;
            failed.push({ code, title, why: error.message });
          }
        }
        return { jobs, failed, total: await countJobs(db) };
      });
    },
  );

  app.get(
    "/api/jobs/:job/shop",
    { schema: { summary: "The version of the shop a job is computed with", params: jobParams } },
    async (req) => replyOf((await findShop(db, (await readJob(req.params)).shop))!),
  );

  app.post(
    "/api/jobs/:job/shop",
    {
      schema: {
        answer: "JobSummary",
        body: takeOverRequest,
        summary: "Compute a job with the newest shop, or with the version named",
        params: jobParams,
      },
    },
    (req): Promise<JobSummary> => {
      const asked = readBody<{ shop?: string; who: string }>(req.body, takeOverRequest);
      return turns.take(req.params.job, async () => {
        const job = await readJob(req.params);
        const shop = asked.shop === undefined ? await currentShop(db) : await findShop(db, asked.shop);
        if (!shop) throw noSuchVersion(asked.shop!);
        if (shop.hash !== job.shop) {
          await setShop(db, job, shop.hash, { who: asked.who, at: now().toISOString() });
          const target = targetFor(job.job, job.hash, shop.hash);
          await runner.countsNow(target);
          if ((await runner.state(target)).run === "done") await setShown(db, target);
          changed(target);
        }
        return describeJob((await findJob(db, job.job))!, runner, store);
      });
    },
  );
}

function checked(raw: unknown): Shop {
  const read = checkShop(raw);
  if (!read.ok) throw shopRefused(read.faults);
  return read.value;
}
