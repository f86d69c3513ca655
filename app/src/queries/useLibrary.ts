import type { JobSummary } from "@gray-bench/contract/jobs";
import type {
  LibraryChange,
  LibraryEffect,
  LibraryOutlook,
  LibraryVersion,
  LibraryVersions,
  PartUses,
} from "@gray-bench/contract/library";
import type { Library } from "@gray-bench/core/library/library";
import type { PartOutline } from "@gray-bench/core/drawings/part-outline";
import type { LibraryWay } from "@gray-bench/core/tables/library-ways";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, jobPath, send } from "../kit/api";

/** Versions of the library, newest first. */
export const useLibraryVersions = (enabled = true) =>
  useQuery({
    enabled,
    queryKey: ["library", "versions"],
    queryFn: ({ signal }) => call<LibraryVersions>("/library/versions", { signal }).then((r) => r.versions),
  });

/** The parts of the library as it is now. */
export const useLibrary = (hash: string | undefined) =>
  useQuery({
    queryKey: ["library", hash],
    queryFn: ({ signal }) => call<Library>("/library", { signal }),
    enabled: hash !== undefined,
    staleTime: Infinity,
  });

const asFile = async (file: File) => ({
  headers: { "content-type": "application/octet-stream" },
  body: await file.arrayBuffer(),
});

/** What a library file would change; stores nothing. */
export const useLibraryOutlook = () =>
  useMutation({
    mutationFn: async ({ file, how }: { file: File; how: LibraryWay }) =>
      call<LibraryOutlook>(`/library/outlook?how=${how}`, { method: "POST", ...(await asFile(file)) }),
  });

/** In which jobs a part is used. */
export const usePartUses = (part: string, enabled: boolean) =>
  useQuery({
    queryKey: ["library", "uses", part],
    queryFn: ({ signal }) => call<PartUses>(`/library/uses?part=${encodeURIComponent(part)}`, { signal }),
    enabled,
  });

/** What a drawing of a part offers. */
export const useOutline = () =>
  useMutation({
    mutationFn: async (file: File) =>
      call<PartOutline>("/library/outline", { method: "POST", ...(await asFile(file)) }),
  });

/** Makes a new version of the library. Jobs keep theirs until it is taken over. */
export function useSaveLibrary(kept: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ file, ...asked }: { file: File; how: LibraryWay; on: string; who: string; why?: string }) =>
      call<LibraryVersion>(`/library?${new URLSearchParams(asked).toString()}`, {
        method: "PUT",
        ...(await asFile(file)),
      }),
    // Here, not where it is asked for: by then that may be gone, as another version is read.
    onSuccess: kept,
    onSettled: () =>
      Promise.all([["library"], ["jobs"], ["job"]].map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}

/** Writes single parts anew: a new version of the library. */
export function useChangeParts(kept?: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: LibraryChange) => send<LibraryVersion>("/library", change, "PATCH"),
    // Here, not where it is asked for: by then that may be gone, as there is nothing left to be kept.
    onSuccess: () => kept?.(),
    onSettled: () =>
      Promise.all([["library"], ["jobs"], ["job"]].map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}

/** What the newest library would do to a job. */
export const useLibraryEffect = () =>
  useMutation({
    mutationFn: ({ job, who }: { job: string; who: string }) =>
      send<LibraryEffect>(`${jobPath(job)}/library/outlook`, { who }),
  });

/** Completes a job with the newest library. */
export function useTakeLibrary() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ job, who }: { job: string; who: string }) => send<JobSummary>(`${jobPath(job)}/library`, { who }),
    onSettled: () => client.invalidateQueries(),
  });
}
