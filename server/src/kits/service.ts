import type { Delivery, Level } from "@gray-bench/core/design/stock";
import type { StockNow } from "@gray-bench/contract/kits";
import { ask, TooLong, type Answered } from "../machines/line";
import type { Held } from "../store/stock";

/** A service in a shop answers soon or is away. */
const ASK_MS = 3000;
const PAGE = 5000;
const MOST_ITEMS = 200_000;
/** As in a stock file: no store has more of a part. */
const MOST_QUANTITY = 1e9;
const MOST_ANSWER = 20_000_000;

/** It answered, but not as it says it does. */
class Unclear extends Error {}

/** Unauthorized, request timeout, too early, too many requests. */
const LATER: ReadonlySet<number> = new Set([401, 408, 425, 429]);

/** It answered that it does not want to. */
export class Refuses extends Error {
  readonly status: number;
  readonly body: unknown;

  constructor(status: number, body: unknown) {
    super(`it answered with ${status}`);
    this.status = status;
    this.body = body;
  }

  /** It may take the very same later: it is busy, wants to be asked anew or signed in to, or is at fault itself. */
  get later(): boolean {
    return this.status >= 500 || LATER.has(this.status);
  }

  /** In its own words, where it has any. */
  get said(): string {
    const said = (this.body as { error?: unknown } | null)?.error;
    return typeof said === "string" ? said.slice(0, 200) : this.message;
  }
}

/** What is asked of the stock service, and how its answers are read: what it says is looked at before it is believed. */
export class StockService {
  readonly #address: string;

  constructor(address: string) {
    this.#address = address;
  }

  async items(): Promise<Level[]> {
    const items: Level[] = [];
    while (items.length < MOST_ITEMS) {
      const page = listOf(await this.#call("GET", `/items?from=${items.length}&most=${PAGE}`), "items");
      for (const i of page) {
        const part = text(i.part, "part");
        items.push({ part, free: amount(i.free, `free quantity of ${part}`) });
      }
      if (page.length < PAGE) break;
    }
    return items;
  }

  async deliveries(): Promise<Delivery[]> {
    return listOf(await this.#call("GET", "/deliveries"), "deliveries").map((d) => {
      const part = text(d.part, "part of a delivery");
      const due = text(d.due, `day of a delivery of ${part}`);
      if (!/^\d{4}-\d{2}-\d{2}/.test(due) || Number.isNaN(Date.parse(due)))
        throw new Unclear(`it says no day of a delivery of ${part}`);
      return { part, quantity: amount(d.quantity, `quantity of a delivery of ${part}`), due: due.slice(0, 10) };
    });
  }

  /** What is still held; null where it knows of no such reservation. */
  async reserved(id: string): Promise<Held["lines"] | null> {
    try {
      return listOf(await this.#call("GET", `/reservations/${encodeURIComponent(id)}`), "lines").map((l) => {
        const part = text(l.part, "part of a reservation");
        return { part, quantity: amount(l.quantity, `quantity of ${part}`) };
      });
    } catch (error) {
      if (error instanceof Refuses && error.status === 404) return null;
      throw error;
    }
  }

  async reserve(id: string, job: string, lines: Held["lines"]): Promise<void> {
    await this.#call("POST", "/reservations", { id, job, lines });
  }

  /** One it does not know is given back already. */
  async release(id: string): Promise<void> {
    try {
      await this.#call("DELETE", `/reservations/${encodeURIComponent(id)}`);
    } catch (error) {
      if (!(error instanceof Refuses && error.status === 404)) throw error;
    }
  }

  async move(move: { id: string; part: string; quantity: number; reservation?: string }): Promise<void> {
    await this.#call("POST", "/moves", move);
  }

  async #call(method: string, path: string, body?: unknown): Promise<unknown> {
    const given =
      body === undefined ? {} : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) };
    let reply: Answered;
    try {
      reply = await ask(`${this.#address}${path}`, ASK_MS, MOST_ANSWER, { method, ...given });
    } catch (error) {
      throw error instanceof TooLong ? new Unclear(error.message) : error;
    }
    let said: unknown;
    try {
      said = JSON.parse(reply.text);
    } catch {
      if (reply.ok) throw new Unclear("its answer is no JSON");
    }
    if (!reply.ok) throw new Refuses(reply.status, said);
    return said;
  }
}

/** Why it did not do what was asked, in words. */
export function howOf(error: Error): Pick<StockNow, "state" | "why"> {
  if (error instanceof Unclear) return { state: "unclear", why: error.message };
  if (error instanceof Refuses) return { state: "refuses", why: error.said };
  return { state: "away", why: error.name === "TimeoutError" ? "it does not answer" : "it cannot be reached" };
}

/** What it said to be missing when it reserved nothing. */
export const missingIn = (body: unknown): string[] => {
  const missing = (body as { missing?: unknown } | null)?.missing;
  return (Array.isArray(missing) ? missing : []).flatMap((m: unknown) => {
    const { part, wanted, free } = (m ?? {}) as Record<string, unknown>;
    return typeof part === "string" ? [`${part}: ${Number(wanted)} wanted, ${Number(free)} free`] : [];
  });
};

const listOf = (raw: unknown, name: string): Record<string, unknown>[] => {
  const list = (raw as Record<string, unknown> | null)?.[name];
  if (!Array.isArray(list) || list.some((x) => typeof x !== "object" || x === null))
    throw new Unclear(`its answer has no list of ${name}`);
  return list as Record<string, unknown>[];
};

const text = (v: unknown, what: string): string => {
  if (typeof v !== "string" || v === "" || v.length > 200) throw new Unclear(`it says no ${what}`);
  return v;
};

const amount = (v: unknown, what: string): number => {
  if (typeof v !== "number" || !Number.isFinite(v)) throw new Unclear(`it says no ${what}`);
  if (v < 0 || v > MOST_QUANTITY) throw new Unclear(`it says ${v} as ${what}, which cannot be`);
  return v;
};
