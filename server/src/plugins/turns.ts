import PQueue from "p-queue";

/** Work on one thing after another, in the order asked for; work on other things does not wait. What fails holds up nothing behind it. */
export class Turns {
  readonly #queues = new Map<string, PQueue>();

  take<T>(of: string, work: () => Promise<T>): Promise<T> {
    let queue = this.#queues.get(of);
    if (!queue) {
      queue = new PQueue({ concurrency: 1 });
      this.#queues.set(of, queue);
      // A thing nobody works on any more is forgotten.
      queue.on("idle", () => this.#queues.delete(of));
    }
    return queue.add(work);
  }

  /** Resolves when all that was asked for is done. */
  async idle(): Promise<void> {
    await Promise.all([...this.#queues.values()].map((q) => q.onIdle()));
  }
}
