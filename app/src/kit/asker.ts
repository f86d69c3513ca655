/** What a worker answers: under the number of its question. */
type Answer = { id: number } | { id: number; failed: string };

/**
 * Asks a worker, one question at a time. Of questions under one name that wait, only the newest is asked: a thumb is faster
 * than any answer.
 */
export class Asker<Asked extends object, Answered extends Answer> {
  readonly #worker: Worker;
  readonly #waiting = new Map<
    string,
    { asked: Asked; take(answer: Answered | { id: number; failed: string }): void }
  >();
  #under: { id: number; take(answer: Answered | { id: number; failed: string }): void } | null = null;
  #next = 1;

  /** @param base told it first */
  constructor(worker: Worker, base: object) {
    this.#worker = worker;
    this.#worker.onmessage = ({ data }: MessageEvent<Answered>) => this.#answered(data);
    this.#worker.onerror = (e) =>
      this.#answered({ id: this.#under?.id ?? 0, failed: e.message || "the worker did not start" });
    this.#worker.postMessage(base);
  }

  ask(name: string, asked: Asked, take: (answer: Answered | { id: number; failed: string }) => void): void {
    this.#waiting.set(name, { asked, take });
    this.#go();
  }

  close(): void {
    this.#waiting.clear();
    this.#under = null;
    this.#worker.terminate();
  }

  #go(): void {
    if (this.#under) return;
    for (const [name, { asked, take }] of this.#waiting) {
      this.#waiting.delete(name);
      const id = this.#next++;
      this.#under = { id, take };
      this.#worker.postMessage({ ...asked, id });
      return;
    }
  }

  #answered(answer: Answered | { id: number; failed: string }): void {
    if (!this.#under || answer.id !== this.#under.id) return;
    const { take } = this.#under;
    this.#under = null;
    take(answer);
    this.#go();
  }
}
