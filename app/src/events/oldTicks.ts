import type { OldTicks } from "@gray-bench/contract/events";
import { jobPath, send } from "../kit/api";
import { refusedForGood, waitingOf } from "./waiting";

/** Ticks that a program before this one kept on the device. */
interface OldTick {
  id: string;
  job: string;
  list: string;
  who: string;
  item: string;
  done: boolean;
  /** By the clock of this device; the oldest do not say it. */
  madeMs?: number;
}

const old = waitingOf<OldTick>("gray-bench.ticks", (t) => t.id);
const MOST_AGO_MS = 90 * 24 * 3_600_000;

/** Sends them in their own form, which the server still understands; what cannot be sent waits on. Never throws. */
export async function sendOldTicks(): Promise<void> {
  await old.read;
  for (const { id, job, list, who, item, done, madeMs = Date.now() } of old.now()) {
    const agoMs = Math.max(0, Math.min(MOST_AGO_MS, Math.round(Date.now() - madeMs)));
    try {
      await send(`${jobPath(job)}/ticks`, { list, who, ticks: [{ id, item, done, agoMs }] } satisfies OldTicks);
    } catch (error) {
      if (!refusedForGood(error)) return;
    }
    old.drop((t) => t.id === id);
  }
}
