import type { DesignOutlook, EditLog, EditReply, EditRequest } from "@gray-bench/contract/api";
import type { Design } from "@gray-bench/core/design/model";
import { useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { ApiError, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";
import { loadBench } from "../kit/useBench";

/** What was done to a job, those taken back included. */
export const useEditLog = (job: string) =>
  useQuery({ queryKey: ["edits", job], queryFn: () => call<EditLog>(`${jobPath(job)}/edits`) });

export type Doing = EditRequest["edits"][number];

/** Who takes back on a device where no name was given yet. */
const NAMELESS = "no name given";

/** What came of an edit: its sentences, and what others had done meanwhile. */
export interface Outcome {
  sentences: string[];
  meanwhile: string[];
}

/**
 * Changes a job. When somebody else was first, the same is done on top of theirs if it still fits, and what
 * they did is told.
 */
function useChange<T>(
  job: string,
  path: (asked: T) => string,
  body: (asked: T) => object,
  edits?: (asked: T) => Doing[],
) {
  const client = useQueryClient();
  const { name } = useSettings();
  return useMutation({
    async mutationFn(asked: T): Promise<Outcome> {
      const on = async (): Promise<string> =>
        (await client.fetchQuery({
          queryKey: ["edits", job],
          queryFn: () => call<EditLog>(`${jobPath(job)}/edits`),
          staleTime: 0,
        }))!.designHash;
      const known = client.getQueryData<EditLog>(["edits", job])?.designHash ?? (await on());
      const attempt = async (hash: string): Promise<EditReply> => {
        const reply = await send<EditReply>(path(asked), { on: hash, who: name || NAMELESS, ...body(asked) });
        // Otherwise it is fetched.
        await layHere(client, job, hash, reply.designHash, edits?.(asked) ?? []).catch(() => undefined);
        return reply;
      };
      try {
        return { sentences: (await attempt(known)).sentences, meanwhile: [] };
      } catch (error) {
        if (!(error instanceof ApiError) || error.body.code !== "edit.stale") throw error;
        const { changed } = error.body;
        try {
          const reply = await attempt(await on());
          return { sentences: reply.sentences, meanwhile: changed ?? [] };
        } catch (second) {
          // It does not fit on top of what the other did: both are shown.
          if (!(second instanceof ApiError) || !changed) throw second;
          throw new ApiError(second.status, { ...second.body, changed });
        }
      }
    },
    onSettled: () =>
      Promise.all([["edits", job], ["job", job], ["jobs"]].map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}

/** Lays edits on the design that is here too, so that it need not be fetched again: the same edits, the same design. */
async function layHere(client: QueryClient, job: string, on: string, hash: string, edits: Doing[]): Promise<void> {
  let design = client.getQueryData<Design>(["design", job, on]);
  if (!design || edits.length === 0 || client.getQueryData(["design", job, hash])) return;
  const { EDITS } = await loadBench();
  for (const edit of edits) {
    if (EDITS.faults(edit.kind, edit.payload).length > 0) return;
    const applied = EDITS.apply(design, edit);
    if (!applied.ok) return;
    design = applied.design;
  }
  client.setQueryData(["design", job, hash], design);
}

/** What edits would do; changes nothing. */
export const useOutlook = (job: string) =>
  useMutation({
    mutationFn: (edits: Doing[]) => send<DesignOutlook>(`${jobPath(job)}/edits/outlook`, { edits }),
  });

export const useEdit = (job: string) =>
  useChange<Doing[]>(
    job,
    () => `${jobPath(job)}/edits`,
    (edits) => ({ edits }),
    (edits) => edits,
  );

export interface Turn {
  id: string;
  what: "back" | "again";
}

export const useTurn = (job: string) =>
  useChange<Turn>(
    job,
    ({ id, what }) => `${jobPath(job)}/edits/${encodeURIComponent(id)}/${what}`,
    () => ({}),
  );

/** The edit that is taken back next, and the one that is laid again next: the last of each. */
export function nextTurns(log: EditLog | undefined): {
  back: EditLog["edits"][number] | null;
  again: EditLog["edits"][number] | null;
} {
  const laid = log?.edits.filter((e) => !e.back) ?? [];
  const back = laid[laid.length - 1] ?? null;
  // What was taken back last comes first; of several at one moment the earliest made.
  const again =
    log?.edits
      .filter((e) => e.back)
      .sort((a, b) => (a.back!.when < b.back!.when ? 1 : a.back!.when > b.back!.when ? -1 : 0))[0] ?? null;
  return { back, again };
}
