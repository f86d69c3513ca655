import { BenchError, machineDeclined, noSuchMachine } from "../errors";
import { Turns } from "../plugins/turns";
import {
  ask,
  ASK_MS,
  awayText,
  exchange,
  heard,
  MOST_ANSWER,
  NotReached,
  TooLong,
  type Answered,
  type MachineAddress,
} from "./line";

/** Whoever asks within this gets what was told before: many screens are one question. */
const FRESH_MS = 400;
/** Of why a machine does not do what somebody wants of it. */
const MOST_WHY = 200;

/** How what machines of one kind tell of themselves is read. */
export interface Telling<Now> {
  /** @param heardAt ISO date and time */
  now(name: string, heardAt: string, told: unknown): Now;
  /** One that does not answer, as it was last heard of. */
  away(name: string, before: Now | undefined, why: string): Now;
}

/** What a machine said to a file: its number there, or why it does not take it. */
export type Given = { taken: number } | { refused: string };

/**
 * Machines of one kind: each takes files under their names over a line of its own, a name once, and tells at its address what it does
 * and what became of each. What stands in a file, and how what is told is read, is given by the stage they work for.
 */
export class Machines<Now> {
  readonly #list: readonly MachineAddress[];
  readonly #telling: Telling<Now>;
  readonly #clock: () => number;
  readonly #known = new Map<string, { at: number; now: Now }>();
  readonly #asking = new Map<string, Promise<Now>>();
  readonly #turns = new Turns();
  readonly #leave = new AbortController();

  constructor(list: readonly MachineAddress[], telling: Telling<Now>, clock: () => number = Date.now) {
    this.#list = list;
    this.#telling = telling;
    this.#clock = clock;
  }

  get some(): boolean {
    return this.#list.length > 0;
  }

  /** Leaves lines that are open; resolves when nothing is under way. */
  async close(): Promise<void> {
    this.#leave.abort();
    await this.#turns.idle();
  }

  /** How each of them is. */
  states(): Promise<Now[]> {
    return Promise.all(this.#list.map((m) => this.state(m)));
  }

  /** Undefined where it is not (any more) among those the server was started with. */
  at(name: string): MachineAddress | undefined {
    return this.#list.find((m) => m.name === name);
  }

  /** @throws machine.unknown */
  find(name: string): MachineAddress {
    const found = this.at(name);
    if (!found) throw noSuchMachine(name);
    return found;
  }

  /** Of each machine one thing after the other: a file is never sent by two at once. */
  alone<T>({ name }: MachineAddress, work: () => Promise<T>): Promise<T> {
    return this.#turns.take(name, work);
  }

  state(machine: MachineAddress): Promise<Now> {
    const known = this.#known.get(machine.name);
    const sinceMs = known ? this.#clock() - known.at : -1;
    // A clock that was set back makes nothing fresh.
    if (known && sinceMs >= 0 && sinceMs < FRESH_MS) return Promise.resolve(known.now);
    let asking = this.#asking.get(machine.name);
    if (!asking) {
      asking = this.#ask(machine).finally(() => this.#asking.delete(machine.name));
      this.#asking.set(machine.name, asking);
    }
    return asking;
  }

  /** As `state`, asked anew. */
  fresh(machine: MachineAddress): Promise<Now> {
    this.#known.delete(machine.name);
    return this.state(machine);
  }

  async #ask(machine: MachineAddress): Promise<Now> {
    const before = this.#known.get(machine.name)?.now;
    const at = this.#clock();
    let now: Now;
    try {
      const told = await heard(machine.tells, "/");
      now = this.#telling.now(machine.name, new Date(at).toISOString(), told);
    } catch (error) {
      now = this.#telling.away(machine.name, before, awayText(error));
    }
    this.#known.set(machine.name, { at, now });
    return now;
  }

  /**
   * Hands a file over under its name.
   * @throws NotReached where it has nothing of it; machine.away where it was left before it said anything: it may have it all the same
   */
  async give(machine: MachineAddress, name: string, file: Uint8Array): Promise<Given> {
    try {
      const said = await exchange(machine, Buffer.concat([Buffer.from(`${name}\n`), file]), this.#leave.signal);
      const taken = /^taken (\d+)/.exec(said);
      return taken ? { taken: Number(taken[1]) } : { refused: said.replace(/^refused: /, "").trim() };
    } finally {
      this.#known.delete(machine.name);
    }
  }

  /** The number of a file at a machine, null where it does not know it. @throws what `isAway` knows */
  async numberOf(machine: MachineAddress, name: string): Promise<number | null> {
    const { jobs } = ((await heard(machine.tells, "/")) ?? {}) as { jobs?: unknown };
    if (!Array.isArray(jobs)) throw new SyntaxError("it tells of no files");
    for (const job of jobs as unknown[]) {
      const its = (job ?? {}) as { id?: unknown; name?: unknown };
      if (its.name === name && Number.isInteger(its.id)) return its.id as number;
    }
    return null;
  }

  /** What it tells of the file with a number; null where it knows none. @throws what `isAway` knows */
  told(machine: MachineAddress, id: number): Promise<unknown> {
    return heard(machine.tells, `/jobs/${id}`).catch((error: unknown) => {
      if (/answered with 404/.test((error as Error).message)) return null;
      throw error;
    });
  }

  /** Says something to it, as somebody who stands before it would. @throws an error of the line */
  tell(machine: MachineAddress, path: string, body?: object): Promise<Answered> {
    this.#known.delete(machine.name);
    return ask(`${machine.tells}${path}`, ASK_MS, MOST_ANSWER, {
      method: "POST",
      ...(body ? { headers: { "content-type": "application/json" }, body: JSON.stringify(body) } : {}),
    });
  }

  /** As `tell`. @throws machine.declined, with what it says where it says why */
  async act(machine: MachineAddress, path: string, body: object = {}): Promise<void> {
    const reply = await this.tell(machine, path, body).catch((error: unknown) => {
      throw machineDeclined(machine.name, awayText(error));
    });
    if (reply.ok) return;
    let said: { error?: unknown } | null = null;
    try {
      said = JSON.parse(reply.text) as { error?: unknown } | null;
    } catch {
      // It says no reason that could be told.
    }
    const why = typeof said?.error === "string" ? said.error.slice(0, MOST_WHY) : String(reply.status);
    throw machineDeclined(machine.name, why);
  }
}

/** A machine that is off, slow, or talks nonsense: asked again later. Its file may be there all the same, unless it was NotReached. */
export const isAway = (error: unknown): boolean => {
  if (error instanceof TooLong || error instanceof NotReached || error instanceof BenchError) return true;
  const { name, message } = error as Error;
  return ["TypeError", "SyntaxError", "TimeoutError", "AbortError"].includes(name) || /answered with/.test(message);
};
