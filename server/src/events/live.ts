import type { ServerResponse } from "node:http";
import type { LiveWords } from "@gray-bench/contract/events";
import { serverBusy } from "../errors";

/** Windows that hear at once; more ask now and then, as those without a line do. */
const MOST = 200;
/** A line that says nothing for longer is cut by what lies between. */
const BEAT_MS = 20_000;
/** Who takes nothing off for so long is let go: it comes again when it can. */
const MOST_BYTES = 64 * 1024;

/** Lines to windows, on which they hear at once that something happened or changed, and how far a computation is; what it was they ask then. */
export class Live {
  readonly #lines = new Map<ServerResponse, string>();
  readonly #beat: NodeJS.Timeout;

  constructor() {
    this.#beat = setInterval(() => {
      for (const line of this.#lines.keys()) this.#write(line, ": \n\n");
    }, BEAT_MS).unref();
  }

  /** @throws server.busy when too many hear already */
  open(job: string, line: ServerResponse): void {
    if (this.#lines.size >= MOST) throw serverBusy();
    this.#lines.set(line, job);
    line.on("close", () => this.#lines.delete(line));
  }

  /** Begins a line that was opened. */
  begin(line: ServerResponse): void {
    line.writeHead(200, {
      "content-type": "text/event-stream; charset=utf-8",
      "cache-control": "no-store",
      "x-accel-buffering": "no",
    });
    this.#write(line, "retry: 5000\nevent: open\ndata: {}\n\n");
  }

  tell<W extends keyof LiveWords>(job: string, word: W, said: LiveWords[W]): void {
    for (const [line, of] of this.#lines)
      if (of === job) this.#write(line, `event: ${word}\ndata: ${JSON.stringify(said)}\n\n`);
  }

  #write(line: ServerResponse, text: string): void {
    if (line.writableLength > MOST_BYTES) line.destroy();
    else line.write(text);
  }

  close(): void {
    clearInterval(this.#beat);
    for (const line of this.#lines.keys()) line.end();
  }
}
