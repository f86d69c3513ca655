import type { JobSummary } from "@gray-bench/contract/jobs";
import type { ShopEffects, ShopReply, ShopVersion } from "@gray-bench/contract/shop";
import type { Shop } from "@gray-bench/core/shop/shop";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, jobPath, send } from "../kit/api";

export const useShop = () => useQuery({ queryKey: ["shop"], queryFn: () => call<ShopReply>("/shop") });

export const useVersions = () =>
  useQuery({
    queryKey: ["shop", "versions"],
    queryFn: () => call<{ versions: ShopVersion[] }>("/shop/versions").then((r) => r.versions),
  });

export interface SaveShop {
  on: string;
  shop: Shop;
  who: string;
  why?: string;
}

/** Makes a new version of the shop. Jobs keep theirs until it is taken over. */
export function useSaveShop() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (asked: SaveShop) => send<ShopReply>("/shop", asked, "PUT"),
    onSettled: () =>
      Promise.all([["shop"], ["jobs"], ["job"]].map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}

/** What a changed shop would do to the jobs that are due first. */
export const useShopEffect = () =>
  useMutation({
    mutationFn: (shop: Shop) => send<ShopEffects>("/shop/effect", { shop }),
  });

/** Computes a job with the newest shop, or with the version named. */
export function useTakeOver() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ job, who, shop }: { job: string; who: string; shop?: string }) =>
      send<JobSummary>(`${jobPath(job)}/shop`, { who, ...(shop ? { shop } : {}) }),
    onSettled: () => Promise.all([["jobs"], ["job"]].map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}
