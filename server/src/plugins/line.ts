import { connect } from "node:net";
import { machineAway } from "../errors";

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
const SEND_MS = 10_000;
const MOST_SAID = 10_000;
const MOST_ANSWER = 5_000_000;

/**
 * Sends a file over the line, and hears what the machine says to it.
 * @throws machine.away: it may have the file all the same
 */
export function exchange({ name, host, port }: MachineAddress, file: Buffer): Promise<string> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host, port });
    let said = "";
    socket.setTimeout(SEND_MS, () => socket.destroy(new Error("timeout")));
    socket.on("connect", () => socket.end(file));
    socket.on("data", (part) => {
      said += part.toString("latin1");
      if (said.length > MOST_SAID) socket.destroy();
    });
    socket.on("error", () => reject(machineAway(name)));
    socket.on("close", () => (said === "" ? reject(machineAway(name)) : resolve(said)));
  });
}

/** What stands at an address of a machine. @throws Error */
export async function heard(tells: string, path: string): Promise<unknown> {
  const reply = await fetch(`${tells}${path}`, { signal: AbortSignal.timeout(ASK_MS), redirect: "error" });
  const text = await reply.text();
  if (!reply.ok || text.length > MOST_ANSWER) throw new Error(`it answered with ${reply.status}`);
  return JSON.parse(text) as unknown;
}

/** Why a machine is away, in words. */
export const awayText = (error: unknown): string =>
  (error as Error).name === "TimeoutError" ? "it does not answer" : "it cannot be reached";
