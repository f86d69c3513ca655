import type { AuditList } from "@gray-bench/contract/record";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { call } from "../kit/api";

const PAGE = 200;

/** What was done to the whole, the last first, page by page; of one job where one is named. */
export function useRecord(job: string | undefined) {
  const query = useInfiniteQuery({
    queryKey: ["record", job ?? null],
    queryFn: ({ pageParam, signal }) => {
      const asked = {
        most: String(PAGE),
        ...(job ? { job } : {}),
        ...(pageParam ? { before: String(pageParam) } : {}),
      };
      return call<AuditList>(`/audit?${new URLSearchParams(asked).toString()}`, { signal });
    },
    initialPageParam: 0,
    getNextPageParam: ({ entries }) => (entries.length === PAGE ? entries[PAGE - 1]!.seq : undefined),
  });
  const { data } = query;
  return { ...query, entries: useMemo(() => data?.pages.flatMap((p) => p.entries), [data]) };
}
