import type { AllNeedsReply, JobNeedsReply, ReservationNow, StockNow } from "@gray-bench/contract/kits";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { NAMELESS } from "../events/waiting";
import { call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";

const AGAIN_MS = 15_000;

/** What a job still needs against the store. */
export const useJobNeeds = (job: string, key: string) =>
  useQuery({
    queryKey: ["needs", job, key],
    queryFn: ({ signal }) => call<JobNeedsReply>(`${jobPath(job)}/needs`, { signal }),
    refetchInterval: AGAIN_MS,
    placeholderData: keepPreviousData,
  });

/** What all jobs need together. */
export const useAllNeeds = () =>
  useQuery({
    queryKey: ["needs"],
    queryFn: ({ signal }) => call<AllNeedsReply>("/needs", { signal }),
    // All jobs are added up for it.
    refetchInterval: 4 * AGAIN_MS,
  });

/** Tells the store now what it does not know yet. */
export function useTellStock() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call<StockNow>("/stock/tell", { method: "POST" }),
    onSettled: () => client.invalidateQueries({ queryKey: ["needs"] }),
  });
}

/** Reserves what a job needs, all or what is there; gives it back. */
export function useReservation(job: string) {
  const client = useQueryClient();
  const { name } = useSettings();
  const onSettled = () => client.invalidateQueries({ queryKey: ["needs"] });
  const reserve = useMutation({
    mutationFn: (partly: boolean) =>
      send<ReservationNow>(`${jobPath(job)}/reservation`, { who: name || NAMELESS, partly }),
    onSettled,
  });
  const release = useMutation({
    mutationFn: () => call<unknown>(`${jobPath(job)}/reservation`, { method: "DELETE" }),
    onSettled,
  });
  return { reserve, release };
}
