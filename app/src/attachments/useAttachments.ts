import type { AttachedPage, AttachedTo, Attachment, AttachmentList, JobFound } from "@gray-bench/contract/attachments";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ofBefore, useJob } from "../queries/useJobs";
import { askedBy, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";

const path = (job: string): string => `${jobPath(job)}/attachments`;

/** An attachment as it was received. */
export const fileOf = (job: string, id: string): string => `/api${path(job)}/${id}/file`;

/** All that is attached to a job, also what was taken off of late. */
export const useAttachments = (job: string) =>
  useQuery({
    queryKey: ["attachments", job],
    queryFn: ({ signal }) => call<AttachmentList>(path(job), { signal }).then((r) => r.attachments),
  });

/** Where the things of the design stand in the documents of a job. */
export function useFound(job: string) {
  const { data } = useAttachments(job);
  const hash = useJob(job).data?.designHash;
  const documents = data?.filter((a) => a.gone === null && a.pages !== null).map((a) => a.id) ?? [];
  return useQuery({
    queryKey: ["found", job, hash, documents.join()],
    queryFn: ({ signal }) => call<JobFound>(`${jobPath(job)}/found`, { signal }),
    enabled: documents.length > 0 && hash !== undefined,
    staleTime: Infinity,
    placeholderData: ofBefore(job),
  });
}

/** A page, with what of the design stands on it. */
export function usePage(job: string, { id, pages }: Attachment, page: number) {
  const hash = useJob(job).data?.designHash;
  return useQuery({
    queryKey: ["page", job, id, page, hash],
    queryFn: ({ signal }) => call<AttachedPage>(`${path(job)}/${id}/pages/${page}`, { signal }),
    enabled: pages !== null && page >= 1 && page <= pages && hash !== undefined,
    staleTime: Infinity,
    placeholderData: (last, query) =>
      query?.queryKey[1] === job && query.queryKey[2] === id && query.queryKey[3] === page ? last : undefined,
  });
}

export interface AttachedThing {
  thing: AttachedTo;
  of: string;
}

/** Attaching, taking off and putting back. */
export function useAttach(job: string) {
  const client = useQueryClient();
  const { name: who } = useSettings();
  const onSettled = () => client.invalidateQueries({ queryKey: ["attachments", job] });
  const add = useMutation({
    mutationFn: async ({ files, to }: { files: readonly File[]; to: AttachedThing | null }) => {
      const added: Attachment[] = [];
      for (const file of files) {
        const query = askedBy(who, { name: file.name, ...to });
        added.push(
          await call<Attachment>(`${path(job)}${query}`, {
            method: "POST",
            headers: { "content-type": "application/octet-stream" },
            body: await file.arrayBuffer(),
          }),
        );
      }
      return added;
    },
    onSettled,
  });
  const turn = useMutation({
    mutationFn: ({ id, gone }: { id: string; gone: boolean }) =>
      send<Attachment>(`${path(job)}/${id}`, { gone }, "PUT"),
    onSettled,
  });
  return { add, turn };
}
