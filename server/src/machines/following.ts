/** How often machines are asked while something of ours is at them. */
const FOLLOW_MS = 400;

/**
 * Asks machines after what is at them, again and again: each is followed by itself, so that a slow one holds up no other, and never by two
 * at once.
 */
export class Following<T> {
  readonly #open: () => Promise<ReadonlyMap<string, readonly T[]>>;
  readonly #one: (machine: string, items: readonly T[]) => Promise<void>;
  readonly #trouble: (error: unknown) => void;
  readonly #under = new Set<string>();
  readonly #timer: NodeJS.Timeout;

  /**
   * @param open what is at machines, by machine
   * @param one asks one machine after what is at it
   */
  constructor(
    open: () => Promise<ReadonlyMap<string, readonly T[]>>,
    one: (machine: string, items: readonly T[]) => Promise<void>,
    trouble: (error: unknown) => void,
  ) {
    this.#open = open;
    this.#one = one;
    this.#trouble = trouble;
    this.#timer = setInterval(() => void this.#tick(), FOLLOW_MS);
    this.#timer.unref();
  }

  close(): void {
    clearInterval(this.#timer);
  }

  async #tick(): Promise<void> {
    try {
      for (const [machine, items] of await this.#open()) {
        if (this.#under.has(machine)) continue;
        this.#under.add(machine);
        void this.#one(machine, items)
          .catch(this.#trouble)
          .finally(() => this.#under.delete(machine));
      }
    } catch (error) {
      this.#trouble(error);
    }
  }
}
