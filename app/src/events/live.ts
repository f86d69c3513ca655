import type { LiveEvent } from "@gray-bench/contract/api";
import { useEffect, useState } from "react";
import { jobPath } from "../kit/api";

type Hears = (event: LiveEvent | null) => void;

/** The line of a job: one for all that hear of it in this window. */
interface Line {
  hearers: Set<Hears>;
  source: EventSource | null;
  open: boolean;
}

const lines = new Map<string, Line>();

/** A window that nobody looks at holds no line: a browser has few of them for all its windows. */
const looked = (): boolean => document.visibilityState === "visible";

/** Null says that the line opened, or broke. */
function tell(line: Line, event: LiveEvent | null): void {
  for (const hear of line.hearers) hear(event);
}

function connect(job: string, line: Line): void {
  if (line.source !== null || !looked()) return;
  const source = new EventSource(`/api${jobPath(job)}/live`);
  line.source = source;
  const turn = (open: boolean): void => {
    if (line.open === open) return;
    line.open = open;
    tell(line, null);
  };
  source.addEventListener("open", () => turn(true));
  source.addEventListener("happened", (e) => tell(line, JSON.parse((e as MessageEvent<string>).data) as LiveEvent));
  source.addEventListener("error", () => turn(false));
}

function cut(line: Line): void {
  line.source?.close();
  line.source = null;
  line.open = false;
}

if (typeof document !== "undefined")
  document.addEventListener("visibilitychange", () => {
    for (const [job, line] of lines) {
      if (looked()) connect(job, line);
      else cut(line);
    }
  });

/**
 * Hears at once that something happened to a job, as long as somebody looks.
 * @param hear stays the same from one drawing to the next
 * @returns whether the line stands: without it who wants to know asks now and then
 */
export function useLive(job: string, hear: (event: LiveEvent) => void): boolean {
  const [open, setOpen] = useState(() => lines.get(job)?.open ?? false);
  useEffect(() => {
    if (typeof EventSource === "undefined") return;
    const line = lines.get(job) ?? { hearers: new Set(), source: null, open: false };
    lines.set(job, line);
    const mine: Hears = (event) => (event ? hear(event) : setOpen(line.open));
    line.hearers.add(mine);
    connect(job, line);
    setOpen(line.open);
    return () => {
      line.hearers.delete(mine);
      if (line.hearers.size > 0) return;
      cut(line);
      lines.delete(job);
    };
  }, [job, hear]);
  return open;
}
