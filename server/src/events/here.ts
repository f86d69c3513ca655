import type { Here } from "@gray-bench/contract/api";

/** Whoever said nothing for so long is gone, or out of reach. */
const GONE_MS = 60_000;
/** Devices that are remembered at once. */
const MOST = 1000;

/** Who is at work with what just now, by job and kind: told by their devices, kept in memory only. */
export class AtWork {
  readonly #now: () => number;
  readonly #here = new Map<string, { job: string; kind: string; here: Here; at: number }>();

  constructor(now: () => number) {
    this.#now = now;
  }

  /** @returns whether others did not know it yet */
  tell(job: string, kind: string, here: Here): boolean {
    const before = this.#here.get(here.device);
    this.#here.delete(here.device);
    this.#here.set(here.device, { job, kind, here, at: this.#now() });
    if (this.#here.size > MOST) this.#here.delete(this.#here.keys().next().value!);
    const { thing, part } = before?.here ?? {};
    return before?.job !== job || before.kind !== kind || thing !== here.thing || part !== here.part;
  }

  /** The others. */
  others(job: string, kind: string, device: string | undefined): Here[] {
    const since = this.#now() - GONE_MS;
    return [...this.#here.values()]
      .filter((h) => h.job === job && h.kind === kind && h.at >= since && h.here.device !== device)
      .map((h) => h.here);
  }
}
