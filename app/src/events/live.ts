import type { LiveWords } from "@gray-bench/contract/events";
import { useEffect, useState } from "react";
import { jobPath } from "../kit/api";
import { freshId } from "./waiting";

/** What is heard, by its name; names that nobody gave are told to nobody. */
export type Hearing = { readonly [W in keyof LiveWords]?: (said: LiveWords[W]) => void };
const WORDS = ["happened", "changed", "progress"] as const satisfies readonly (keyof LiveWords)[];

interface Hearer {
  hears: Hearing;
  /** The line opened, or broke. */
  turned(): void;
}

/** The line of a job: one for all that hear of it in this window. */
interface Line {
  hearers: Set<Hearer>;
  source: EventSource | null;
  open: boolean;
}

const lines = new Map<string, Line>();

/** Windows of one browser that hold a line; it has six to a server for all of them, whatever they are for. */
const MOST_HOLDING = 3;
/** Who holds one says so within this. */
const ANSWER_MS = 100;

type Word = { asks: string } | { holds: string };

const me = freshId();
const windows = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("gray-bench.live");
const holding = (): boolean => [...lines.values()].some((line) => line.source !== null);
windows?.addEventListener("message", ({ data }: MessageEvent<Word>) => {
  if ("asks" in data && holding()) windows.postMessage({ holds: me } satisfies Word);
});

/** Whether there is room for a line beside those that other windows hold. */
async function room(): Promise<boolean> {
  if (!windows) return true;
  const holders = new Set<string>();
  const count = ({ data }: MessageEvent<Word>): void => void ("holds" in data && holders.add(data.holds));
  windows.addEventListener("message", count);
  windows.postMessage({ asks: me } satisfies Word);
  await new Promise((go) => setTimeout(go, ANSWER_MS));
  windows.removeEventListener("message", count);
  return holders.size < MOST_HOLDING;
}

/** A window that nobody looks at holds no line. */
const looked = (): boolean => document.visibilityState === "visible";

const turned = (line: Line): void => {
  for (const hearer of line.hearers) hearer.turned();
};

function tell<W extends keyof LiveWords>(line: Line, word: W, text: string): void {
  const said = JSON.parse(text) as LiveWords[W];
  for (const { hears } of line.hearers) hears[word]?.(said);
}

/** One after the other: two lines of a window are one window that holds. */
let before = Promise.resolve();

function connect(job: string, line: Line): void {
  before = before.then(async () => {
    const wanted = (): boolean => line.source === null && looked() && lines.get(job) === line;
    if (wanted() && (holding() || (await room())) && wanted()) open(job, line);
  });
}

function open(job: string, line: Line): void {
  const source = new EventSource(`/api${jobPath(job)}/live`);
  line.source = source;
  const turn = (open: boolean): void => {
    if (line.open === open) return;
    line.open = open;
    turned(line);
  };
  source.addEventListener("open", () => turn(true));
  for (const word of WORDS) source.addEventListener(word, (e) => tell(line, word, (e as MessageEvent<string>).data));
  source.addEventListener("error", () => {
    turn(false);
    // Refused for good: it is tried again when somebody looks anew.
    if (source.readyState === EventSource.CLOSED) cut(line);
  });
}

function cut(line: Line): void {
  line.source?.close();
  line.source = null;
  if (!line.open) return;
  line.open = false;
  turned(line);
}

if (typeof document !== "undefined")
  document.addEventListener("visibilitychange", () => {
    for (const [job, line] of lines) {
      if (looked()) connect(job, line);
      else cut(line);
    }
  });

/**
 * Hears at once that something happened to a job, that it changed, or how far it is computed, as long as somebody looks.
 * @param hears stays the same from one drawing to the next
 * @returns whether the line stands: without it who wants to know asks now and then
 */
export function useLive(job: string, hears: Hearing): boolean {
  const [open, setOpen] = useState(() => lines.get(job)?.open ?? false);
  useEffect(() => {
    if (typeof EventSource === "undefined") return;
    const line = lines.get(job) ?? { hearers: new Set(), source: null, open: false };
    lines.set(job, line);
    const mine: Hearer = { hears, turned: () => setOpen(line.open) };
    line.hearers.add(mine);
    connect(job, line);
    setOpen(line.open);
    return () => {
      line.hearers.delete(mine);
      if (line.hearers.size > 0) return;
      cut(line);
      lines.delete(job);
    };
  }, [job, hears]);
  return open;
}
