import type { DesignOutlook, EditLog, EditReply, EditRequest } from "@gray-bench/contract/edits";
import type { Design } from "@gray-bench/core/design/model";
import { useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { NAMELESS } from "../events/waiting";
import { changeKey } from "./useJobs";
import { ApiError, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";
import { loadBench } from "../kit/useBench";

/** What was done to a job, those undone included. */
export const useEditLog = (job: string) =>
  useQuery({ queryKey: ["edits", job], queryFn: () => call<EditLog>(`${jobPath(job)}/edits`) });

/** Number of edits that touched what is called so, those undone included; of what is known here, without asking the server. */
export const useEditsOf = (job: string, of: string): number =>
  useQuery({
    queryKey: ["edits", job],
    queryFn: () => call<EditLog>(`${jobPath(job)}/edits`),
    enabled: false,
    select: (log) => editsOf(log, of).length,
  }).data ?? 0;

/** The edits of a log that touched what is called so. */
export const editsOf = ({ edits }: EditLog, of: string): EditLog["edits"] =>
  edits.filter(({ touches }) => touches.some((t) => t.of === of));

export type Doing = EditRequest["edits"][number];

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
  /** What is asked once its turn has come; null: nothing any more. */
  settle?: (asked: T, log: EditLog, who: string) => T | null,
) {
  const client = useQueryClient();
  const { name } = useSettings();
  return useMutation({
    // One change after another, whichever button or key they came from: none is lost, none overtakes.
    scope: { id: `change ${job}` },
    mutationKey: changeKey(job),
    async mutationFn(first: T): Promise<Outcome> {
      let asked = first;
      const fresh = (): Promise<EditLog> =>
        client.fetchQuery({
          queryKey: ["edits", job],
          queryFn: () => call<EditLog>(`${jobPath(job)}/edits`),
          staleTime: 0,
        });
      const on = async (): Promise<string> => (await fresh()).designHash;
      if (settle) {
        const log = await fresh();
        const settled = settle(first, log, name || NAMELESS);
        if (settled === null) return { sentences: [], meanwhile: [] };
        asked = settled;
      }
      const known = client.getQueryData<EditLog>(["edits", job])?.designHash ?? (await on());
      const attempt = async (hash: string): Promise<EditReply> => {
        const reply = await send<EditReply>(path(asked), { on: hash, who: name || NAMELESS, ...body(asked) });
        // Otherwise it is fetched.
        await layHere(client, job, hash, reply.designHash, edits?.(asked) ?? [], name || NAMELESS).catch(
          () => undefined,
        );
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
async function layHere(
  client: QueryClient,
  job: string,
  on: string,
  hash: string,
  edits: Doing[],
  who: string,
): Promise<void> {
  let design = client.getQueryData<Design>(["design", job, on]);
  if (!design || edits.length === 0 || client.getQueryData(["design", job, hash])) return;
  const { EDITS } = await loadBench();
  for (const edit of edits) {
    if (EDITS.faults(edit.kind, edit.payload).length > 0) return;
    const applied = EDITS.apply(design, EDITS.settled(design, edit, who));
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

type Entry = EditLog["edits"][number];

/** The edit that is taken back next, and the one that is laid again next, and whether each is one's own. */
export interface NextTurns {
  back: Entry | null;
  again: Entry | null;
  /** Somebody else's: it is asked before it is turned. */
  backAsks: boolean;
  againAsks: boolean;
}

/** One's own last comes first, whatever others did since; where none is left, the last of anybody. */
export function nextTurns(log: EditLog | undefined, who: string): NextTurns {
  const laid = log?.edits.filter((e) => !e.back) ?? [];
  // What was taken back last comes first; of several at one moment the earliest made.
  const gone =
    log?.edits
      .filter((e) => e.back)
      .sort((a, b) => (a.back!.when < b.back!.when ? 1 : a.back!.when > b.back!.when ? -1 : 0)) ?? [];
  const [mine, mineGone] = [laid.filter((e) => e.who === who), gone.find((e) => e.back!.who === who)];
  return {
    back: mine[mine.length - 1] ?? laid[laid.length - 1] ?? null,
    again: mineGone ?? gone[0] ?? null,
    backAsks: mine.length === 0,
    againAsks: mineGone === undefined,
  };
}

/** Under which name this device lays edits. */
export const useWho = (): string => useSettings().name || NAMELESS;

/**
 * Takes back or lays again what is next when its turn has come: presses wait for each other, and each means what is
 * next then. `others`: also somebody else's, once that was said.
 */
export const useNextTurn = (job: string) =>
  useChange<{ what: Turn["what"]; others: boolean; id?: string }>(
    job,
    ({ id, what }) => `${jobPath(job)}/edits/${encodeURIComponent(id!)}/${what}`,
    () => ({}),
    undefined,
    ({ what, others }, log, who) => {
      const { back, again, backAsks, againAsks } = nextTurns(log, who);
      const edit = what === "back" ? back : again;
      const asks = what === "back" ? backAsks : againAsks;
      return edit && (others || !asks) ? { what, others, id: edit.id } : null;
    },
  );

/** Lets a revision that was imported before count again. */
export const usePutBack = (job: string) =>
  useChange<string>(
    job,
    (revision) => `${jobPath(job)}/revisions/${encodeURIComponent(revision)}/back`,
    () => ({}),
  );
