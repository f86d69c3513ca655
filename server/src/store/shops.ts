import { canonicalJson } from "@gray-bench/core/design/canonical";
import { contentHash } from "@gray-bench/core/design/hash";
import { DEFAULT_SHOP, wholeShop, type Shop } from "@gray-bench/core/shop/shop";
import type { Kysely, Selectable } from "kysely";
import type { Schema, ShopsTable } from "./schema";

export type ShopRow = Selectable<ShopsTable>;

/** Versions of the shop, newest first. */
export const listShops = (db: Kysely<Schema>): Promise<Omit<ShopRow, "json">[]> =>
  db.selectFrom("shops").select(["number", "hash", "who", "why", "at"]).orderBy("number", "desc").execute();

/** The version that counts now. There always is one. */
export const currentShop = (db: Kysely<Schema>): Promise<ShopRow> =>
  db.selectFrom("shops").selectAll().orderBy("number", "desc").executeTakeFirstOrThrow();

/** The newest version with this content. */
export const findShop = (db: Kysely<Schema>, hash: string): Promise<ShopRow | undefined> =>
  db.selectFrom("shops").selectAll().where("hash", "=", hash).orderBy("number", "desc").executeTakeFirst();

/** The newest versions with these contents, by hash. */
export async function findShops(db: Kysely<Schema>, hashes: readonly string[]): Promise<Map<string, ShopRow>> {
  const rows = await db.selectFrom("shops").selectAll().where("hash", "in", hashes).orderBy("number").execute();
  return new Map(rows.map((r) => [r.hash, r]));
}

export const shopVersion = (db: Kysely<Schema>, number: number): Promise<ShopRow | undefined> =>
  db.selectFrom("shops").selectAll().where("number", "=", number).executeTakeFirst();

export const shopOf = (row: Pick<ShopRow, "json">): Shop => wholeShop(JSON.parse(row.json) as Shop);

/** Appends a version. An earlier one put back is a new version too: nothing is changed or deleted. */
export async function appendShop(
  db: Kysely<Schema>,
  shop: Shop,
  by: { who: string; why: string | null; at: string },
): Promise<void> {
  await db
    .insertInto("shops")
    .values({ hash: contentHash(shop), json: canonicalJson(shop), ...by })
    .execute();
}

/** A data file without a shop gets the one that ships with the product; jobs without one are given it. */
export async function ensureShop(db: Kysely<Schema>, at: string): Promise<void> {
  const any = await db.selectFrom("shops").select("number").executeTakeFirst();
  if (!any) await appendShop(db, DEFAULT_SHOP, { who: "Gray Bench", why: "shipped with the product", at });
  const { hash } = await currentShop(db);
  await db.updateTable("jobs").set({ shop_hash: hash }).where("shop_hash", "=", "").execute();
}
