import { connect } from "node:net";
import { BenchError, machineAway } from "../errors";

/** A machine that was never reached: it has nothing of what was to be sent. */
export class NotReached extends BenchError {
  constructor(name: string) {
    const { status, body } = machineAway(name);
    super(status, body);
  }
}

/** Where a machine is reached: files go to its line, its state stands at its address. */
export interface MachineAddress {
  name: string;
  host: string;
  port: number;
  /** `http://127.0.0.1:7012` */
  tells: string;
}

const FORM = /^([^=]{1,40})=([A-Za-z0-9.:-]+):(\d{1,5}),(https?:\/\/[A-Za-z0-9.:-]+)$/;

/**
 * Reads `Tallow 3=127.0.0.1:7011,http://127.0.0.1:7012`.
 * @throws Error that says the form
 */
export function readAddress(flag: string, text: string): MachineAddress {
  const [, name, host, port, tells] = FORM.exec(text) ?? [];
  if (name === undefined || Number(port) > 65_535)
    throw new Error(`--${flag} takes NAME=HOST:PORT,http://HOST:PORT, not "${text}"`);
  return { name: name.trim(), host: host!, port: Number(port), tells: tells! };
}

/** A machine in a shop answers at once or is away. */
export const ASK_MS = 1500;
/** For a file as a whole, however busily the line drips. */
const SEND_MS = 10_000;
const MOST_SAID = 10_000;
/** Bytes of an answer, unpacked. */
export const MOST_ANSWER = 5_000_000;

/**
 * Sends a file over the line, and hears what the machine says to it, unless it is left before.
 * @throws NotReached where the machine was not reached at all; machine.away otherwise: it may have the file all the same
 */
export function exchange({ name, host, port }: MachineAddress, file: Buffer, stop?: AbortSignal): Promise<string> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host, port });
    let said = "";
    let reached = false;
    const away = (): BenchError => (reached ? machineAway(name) : new NotReached(name));
    const slow = setTimeout(() => socket.destroy(new Error("timeout")), SEND_MS);
    const leave = (): void => void socket.destroy();
    stop?.addEventListener("abort", leave);
    socket.on("connect", () => {
      reached = true;
      socket.end(file);
    });
    socket.on("data", (part) => {
      said += part.toString("latin1");
      if (said.length > MOST_SAID) socket.destroy();
    });
    socket.on("error", () => reject(away()));
    socket.on("close", () => {
      clearTimeout(slow);
      stop?.removeEventListener("abort", leave);
      if (said === "") reject(away());
      else resolve(said);
    });
  });
}

/** An answer was longer than anybody's is. */
export class TooLong extends Error {}

/** What was answered. */
export interface Answered {
  ok: boolean;
  status: number;
  text: string;
}

/**
 * Asks an address and reads its answer, piece by piece and no further than a limit, whatever its head says of its length; what comes
 * packed is counted unpacked. The time is that of the whole, however busily the answer drips: `fetch` hears no signal any more once
 * it has the head of an answer and its request is cleared away, so the reading is ended here.
 * @param ms how long it may take
 * @throws TooLong; an error named TimeoutError; whatever `fetch` throws
 */
export async function ask(url: string, ms: number, mostBytes: number, init: RequestInit = {}): Promise<Answered> {
  const ended = new AbortController();
  const slow = setTimeout(() => ended.abort(new DOMException("it took too long", "TimeoutError")), ms);
  try {
    const reply = await fetch(url, { ...init, signal: ended.signal, redirect: "error" });
    return { ok: reply.ok, status: reply.status, text: await textOf(reply, mostBytes, ended.signal) };
  } finally {
    clearTimeout(slow);
  }
}

async function textOf(reply: Response, mostBytes: number, ended: AbortSignal): Promise<string> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  const reader = reply.body?.getReader();
  const leave = (): void => void reader?.cancel().catch(() => undefined);
  ended.addEventListener("abort", leave);
  for (let read = await reader?.read(); read && !read.done; read = await reader!.read()) {
    bytes += read.value.byteLength;
    if (bytes > mostBytes) {
      leave();
      throw new TooLong("its answer is too long");
    }
    parts.push(read.value);
  }
  // What is left looks as if it were at its end.
  ended.throwIfAborted();
  return Buffer.concat(parts).toString("utf8");
}

/** What stands at an address of a machine. @throws Error */
export async function heard(tells: string, path: string): Promise<unknown> {
  const { ok, status, text } = await ask(`${tells}${path}`, ASK_MS, MOST_ANSWER);
  if (!ok) throw new Error(`it answered with ${status}`);
  return JSON.parse(text) as unknown;
}

/** Why a machine is away, in words. */
export const awayText = (error: unknown): string =>
  (error as Error).name === "TimeoutError" ? "it does not answer" : "it cannot be reached";
