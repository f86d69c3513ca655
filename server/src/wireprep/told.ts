import type { WireMachineNow, WireWait } from "@gray-bench/contract/wireprep";
import type { Telling } from "../machines/machines";

/** A file at a machine, as far as it tells. */
export interface FileJob {
  id: number;
  name: string;
  state: "waiting" | "running" | "done" | "stopped";
  made: { wire: string; result: string }[];
}

const STATES = ["waiting", "running", "done", "stopped"] as const;
const MOST_MADE = 100_000;
const MOST_PIECES = 200;

type Raw = Record<string, unknown>;
const raw = (v: unknown): Raw => (typeof v === "object" && v !== null ? (v as Raw) : {});
const text = (v: unknown, most = 200): string => (typeof v === "string" ? v.slice(0, most) : "");
const number = (v: unknown): number => (typeof v === "number" && Number.isFinite(v) ? v : 0);

/** Null where it is none. */
export function jobOf(told: unknown): FileJob | null {
  const { id, name, state, made } = raw(told);
  const its = STATES.find((s) => s === state);
  if (its === undefined || !Number.isInteger(id)) return null;
  return {
    id: id as number,
    name: text(name, 400),
    state: its,
    made: (Array.isArray(made) ? made : []).slice(0, MOST_MADE).map((m) => {
      const { wire, result } = raw(m);
      return { wire: text(wire, 400), result: text(result, 60) };
    }),
  };
}

function waitOf(told: unknown): WireWait | null {
  const { kind, reel, part, media, why } = raw(told);
  const out = why === "run out";
  if (kind === "reel") return { kind, what: text(reel), out };
  if (kind === "magazine") return { kind, what: text(part), out: true };
  if (kind === "roll") return { kind, what: text(media), out };
  return kind === "jam" ? { kind, what: "", out: false } : null;
}

function stateOf(name: string, takes: WireMachineNow["takes"], heardAt: string | null, told: unknown): WireMachineNow {
  const { state, wait, reel, magazines, readyS, job, jobs } = raw(told);
  const mounted = raw(reel);
  const at = (Array.isArray(jobs) ? jobs : []).map(raw).find((j) => j.id === job);
  return {
    name,
    takes,
    state: state === "running" || state === "waiting" ? state : "idle",
    heardAt,
    wait: waitOf(wait),
    reel: reel ? { reel: text(mounted.reel), metres: number(mounted.metres) } : null,
    magazines: Object.entries(raw(magazines))
      .slice(0, MOST_PIECES)
      .map(([part, left]) => ({ part: part.slice(0, 200), left: number(left) })),
    readyS: number(readyS),
    file: at ? text(at.name, 400) : null,
  };
}

/** What machines for leads, and printers for their labels, tell of themselves. */
export const wireMachine = (takes: WireMachineNow["takes"]): Telling<WireMachineNow> => ({
  now: (name, heardAt, told) => stateOf(name, takes, heardAt, told),
  away: (name, before, why) => ({ ...(before ?? stateOf(name, takes, null, {})), state: "away", why }),
});
