import type { MachineList, MachineNow, ProgramReply, ProgramRequest } from "@gray-bench/contract/metalwork";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { eventsKey } from "../events/useEvents";
import { askedBy, call, jobPath, send } from "../kit/api";
import { useSettings } from "../kit/settings";

const RUNNING_MS = 700;
const IDLE_MS = 3000;

/** What the machines of the shop do, heard anew as long as somebody looks. */
export function useMachines() {
  const query = useQuery({
    queryKey: ["machines"],
    queryFn: () => call<MachineList>("/machines").then((r) => r.machines),
    refetchInterval: (s) => (s.state.data?.some((m) => m.state === "running") ? RUNNING_MS : IDLE_MS),
  });
  return query;
}

export const machineOf = (machines: readonly MachineNow[] | undefined, name: string | null): MachineNow | undefined =>
  machines?.find((m) => m.name === name);

/** Sends a program of a job to its machine. */
export function useSend(job: string) {
  const client = useQueryClient();
  const { name } = useSettings();
  return useMutation({
    mutationFn: (request: ProgramRequest) => send<ProgramReply>(`${jobPath(job)}/programs${askedBy(name)}`, request),
    // That it was sent the server has written down, also where no answer came back.
    onSettled: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ["machines"] }),
        client.invalidateQueries({ queryKey: eventsKey(job, "sheet") }),
      ]),
  });
}

/** Stops a program on its machine, or takes it out of the queue. */
export function useStop() {
  const client = useQueryClient();
  const { name } = useSettings();
  return useMutation({
    mutationFn: ({ machine, id }: { machine: string; id: number }) =>
      call<{ stopped: boolean }>(`/machines/${encodeURIComponent(machine)}/jobs/${id}${askedBy(name)}`, {
        method: "DELETE",
      }),
    onSettled: () => client.invalidateQueries({ queryKey: ["machines"] }),
  });
}
