import type { Beside, Here } from "@gray-bench/contract/events";

/** Whoever said nothing for so long is gone, or out of reach. */
const GONE_MS = 60_000;
/** Devices that are remembered at once. */
const MOST = 1000;

interface There {
  job: string;
  kind: string;
  here: Here;
  /** When it was heard of last, ms; in which place of all it came to what it is at. */
  at: number;
  came: number;
}

/** Who is at work with what just now, by job and kind: told by their devices, kept in memory only. */
export class AtWork {
  readonly #now: () => number;
  readonly #there = new Map<string, There>();
  #came = 0;

  constructor(now: () => number) {
    this.#now = now;
  }

  /** @returns whether others did not know it yet */
  tell(job: string, kind: string, here: Here): boolean {
    const before = this.#there.get(here.device);
    const same =
      before?.job === job &&
      before.kind === kind &&
      before.here.thing === here.thing &&
      before.here.part === here.part &&
      before.at >= this.#now() - GONE_MS;
    this.#there.delete(here.device);
    this.#there.set(here.device, { job, kind, here, at: this.#now(), came: same ? before.came : ++this.#came });
    if (this.#there.size > MOST) this.#there.delete(this.#there.keys().next().value!);
    return !same;
  }

  /** The others. */
  others(job: string, kind: string, device: string | undefined): Beside[] {
    const since = this.#now() - GONE_MS;
    const mine = device === undefined ? undefined : this.#there.get(device);
    return [...this.#there.values()]
      .filter((t) => t.job === job && t.kind === kind && t.at >= since && t.here.device !== device)
      .map(({ here, came }) => ({ ...here, before: came < (mine?.came ?? Infinity) }));
  }
}
