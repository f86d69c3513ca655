import type { BillOf } from "@gray-bench/contract/kits";
import { useQuery } from "@tanstack/react-query";
import { call, jobPath } from "../kit/api";

/** Bill and kits of another revision of a job; nothing is asked where there is none. */
export const useBill = (job: string, revision: string | undefined) =>
  useQuery({
    queryKey: ["bill", job, revision],
    queryFn: ({ signal }) =>
      call<BillOf>(`${jobPath(job)}/bill?${new URLSearchParams({ revision: revision! }).toString()}`, { signal }),
    enabled: revision !== undefined,
    staleTime: 60_000,
  });
