import type { Picker } from "@gray-bench/contract/api";

/** Whoever said nothing for so long is gone, or out of reach. */
const GONE_MS = 60_000;
/** Devices that are remembered at once. */
const MOST = 1000;

/** Who picks what just now: told by their devices, kept in memory only. */
export class Pickers {
  readonly #now: () => number;
  readonly #here = new Map<string, { job: string; picker: Picker; at: number }>();

  constructor(now: () => number) {
    this.#now = now;
  }

  tell(job: string, picker: Picker): void {
    this.#here.delete(picker.device);
    this.#here.set(picker.device, { job, picker, at: this.#now() });
    if (this.#here.size > MOST) this.#here.delete(this.#here.keys().next().value!);
  }

  /** The others at work on a job. */
  others(job: string, device: string | undefined): Picker[] {
    const since = this.#now() - GONE_MS;
    return [...this.#here.values()]
      .filter((h) => h.job === job && h.at >= since && h.picker.device !== device)
      .map((h) => h.picker);
  }
}
