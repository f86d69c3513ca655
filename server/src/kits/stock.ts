import type { ReservationNow, StockNow } from "@gray-bench/contract/kits";
import { STOCK_FORMAT, STOCK_VERSION, type Stock } from "@gray-bench/core/design/stock";
import type { PickEvent } from "@gray-bench/core/kits/events";
import { notEnough, stockAway, stockMissing } from "./errors";
import { Turns } from "../plugins/turns";
import type { Store } from "../store/database";
import {
  countUntold,
  findPick,
  isUndone,
  refusedPicks,
  setBooked,
  takenOf,
  TOLD,
  untoldPicks,
  type Untold,
} from "../store/picks";
import {
  dropHeld,
  findHeld,
  keepHeld,
  keepSeen,
  listHeld,
  readSeen,
  reservedOf,
  type Held,
  type Seen,
} from "../store/stock";
import { howOf, missingIn, Refuses, StockService } from "./service";

/** Whoever asks within this gets what was told before. */
const FRESH_MS = 2000;
const MOST_REFUSED = 50;
const LOT = 200;
const AGAIN_MS = 10_000;

/** The store as the server knows it: what the stock service said last, what is reserved in it, what it is told of picks. */
export class StockRoom {
  readonly #service: StockService | null;
  readonly #store: Store;
  readonly #now: () => Date;
  #seen: Seen | null | undefined;
  #how: Pick<StockNow, "state" | "why">;
  /** Why the last pick could not be told. */
  #waitingWhy: string | null = null;
  #askedMs = -Infinity;
  #asking: Promise<void> | null = null;
  #telling: Promise<void> | null = null;
  /** What changes reservations or tells of picks. */
  readonly #turns = new Turns();
  #again: NodeJS.Timeout | null = null;

  constructor(address: string | null, store: Store, now: () => Date) {
    this.#service = address === null ? null : new StockService(address);
    this.#store = store;
    this.#now = now;
    this.#how = address === null ? { state: "none" } : { state: "away", why: "it was not asked yet" };
    if (address === null) return;
    this.#again = setInterval(() => void this.tell(), AGAIN_MS);
    this.#again.unref();
  }

  async close(): Promise<void> {
    if (this.#again) clearInterval(this.#again);
    await Promise.allSettled([this.#asking, this.#turns.idle()]);
  }

  /** Where it stands, asked anew unless it was asked a moment ago. */
  async state(): Promise<StockNow> {
    await this.#ask();
    return {
      ...this.#how,
      at: this.#seen?.at ?? null,
      waiting: this.#service ? await countUntold(this.#store.db) : 0,
      waitingWhy: this.#waitingWhy,
      refused: await refusedPicks(this.#store.db, MOST_REFUSED),
    };
  }

  /** What needs are counted against: what it said last, however old; null while it never said anything. */
  async levels(): Promise<Stock | null> {
    await this.#ask();
    if (!this.#seen) return null;
    return {
      format: STOCK_FORMAT,
      version: STOCK_VERSION,
      ...this.#seen,
      reserved: reservedOf(await listHeld(this.#store.db)),
    };
  }

  async reservation(job: string): Promise<ReservationNow | null> {
    const held = await findHeld(this.#store.db, job);
    return held ? { at: held.at, who: held.who, lines: held.lines, releasing: held.releasing } : null;
  }

  /**
   * Reserves parts for a job, in place of what was reserved for it before: all of them or none.
   * @throws stock.none, stock.away, stock.short
   */
  reserve(job: string, who: string, lines: Held["lines"]): Promise<ReservationNow> {
    const service = this.#service;
    if (!service) throw stockMissing();
    return this.#turns.take("stock", () => this.#reserve(service, job, who, lines));
  }

  async #reserve(service: StockService, job: string, who: string, lines: Held["lines"]): Promise<ReservationNow> {
    const { db } = this.#store;
    await this.#release(job);
    if (await findHeld(db, job)) throw stockAway("what was reserved before is not given back yet");
    const at = this.#now().toISOString();
    const mine: Held = { job, id: `${job}/${at}`, lines, who, at, releasing: false };
    // Written down as to be given back until it is known to be reserved: whatever stops in between, nothing stays held.
    await keepHeld(db, { ...mine, releasing: true });
    try {
      await service.reserve(mine.id, job, lines);
    } catch (error) {
      if (!(error instanceof Refuses && error.status === 409)) throw stockAway(howOf(error as Error).why!);
      await dropHeld(db, job);
      throw notEnough(job, missingIn(error.body));
    }
    await keepHeld(db, mine);
    this.#askedMs = -Infinity;
    return { at, who, lines, releasing: false };
  }

  /** Gives back what is reserved for a job; where the service is away, as soon as it is there. */
  release(job: string): Promise<void> {
    return this.#turns.take("stock", () => this.#release(job));
  }

  async #release(job: string): Promise<void> {
    const held = await findHeld(this.#store.db, job);
    if (!held) return;
    await keepHeld(this.#store.db, { ...held, releasing: true });
    await this.#giveBack(held);
    this.#askedMs = -Infinity;
  }

  /** @returns whether it was told */
  async #giveBack({ job, id }: Held): Promise<boolean> {
    try {
      await this.#service?.release(id);
    } catch {
      return false;
    }
    await dropHeld(this.#store.db, job);
    return true;
  }

  /** Tells it of picks it does not know, in the order they came, and gives back what is to be given back. One at a time. */
  async tell(): Promise<void> {
    if (!this.#service) return;
    const service = this.#service;
    this.#telling ??= this.#turns.take("stock", () => this.#tellAll(service)).finally(() => (this.#telling = null));
    // What fails here is tried again in a while.
    await this.#telling.catch(() => undefined);
  }

  async #tellAll(service: StockService): Promise<void> {
    const { db } = this.#store;
    for (const held of await listHeld(db)) if (held.releasing && !(await this.#giveBack(held))) return;
    for (let lot = await untoldPicks(db, LOT); lot.length > 0; lot = await untoldPicks(db, LOT)) {
      for (const one of lot) {
        const booked = await this.#book(service, one);
        // Away: it is told later, and in this order.
        if (booked === null) return;
        await setBooked(db, one.seq, booked);
      }
      this.#askedMs = -Infinity;
    }
  }

  /** @returns what became of it; null where the service is away */
  async #book(service: StockService, { job, event }: Untold): Promise<string | null> {
    const move = await this.#moveOf(job, event);
    if (!move) return TOLD;
    if (event.what === "put back" && -move.quantity > (await takenOf(this.#store.db, job, event)) + 1e-9)
      return "more would go back than was taken; the store was not told";
    const held = await findHeld(this.#store.db, job);
    const reservation = held && !held.releasing ? { reservation: held.id } : {};
    try {
      await service.move({ id: `${job}/${event.id}`, ...move, ...reservation });
      this.#waitingWhy = null;
      return TOLD;
    } catch (error) {
      if (error instanceof Refuses && !error.later) return error.said;
      this.#waitingWhy = howOf(error as Error).why ?? null;
      return null;
    }
  }

  /** What of it changes the store: parts that go out, or come back. */
  async #moveOf(job: string, event: PickEvent): Promise<{ part: string; quantity: number } | null> {
    const { db } = this.#store;
    // Undone before it was told: nothing has moved.
    if (event.what === "picked" || event.what === "put back")
      return (await isUndone(db, job, event.id)) ? null : goes(event);
    const of = event.what === "undone" ? await findPick(db, job, event.of!) : undefined;
    if (of?.booked !== TOLD) return null;
    const back = goes(of.event);
    return back && { ...back, quantity: -back.quantity };
  }

  async #ask(): Promise<void> {
    this.#seen ??= await readSeen(this.#store.db);
    const sinceMs = this.#now().getTime() - this.#askedMs;
    // A clock that was set back makes nothing fresh.
    if (!this.#service || (sinceMs >= 0 && sinceMs < FRESH_MS)) return;
    this.#asking ??= this.#askAll(this.#service).finally(() => (this.#asking = null));
    await this.#asking;
  }

  async #askAll(service: StockService): Promise<void> {
    const at = this.#now();
    try {
      const [items, deliveries] = [await service.items(), await service.deliveries()];
      await this.#askHeld(service);
      const seen: Seen = { at: at.toISOString(), items, deliveries };
      await keepSeen(this.#store.db, seen, this.#seen ?? null);
      this.#seen = seen;
      this.#how = { state: "here" };
    } catch (error) {
      this.#how = howOf(error as Error);
    }
    this.#askedMs = at.getTime();
  }

  /** What of the reservations is still held: what is taken out is so no more. */
  async #askHeld(service: StockService): Promise<void> {
    const { db } = this.#store;
    for (const held of await listHeld(db)) {
      if (held.releasing) continue;
      const lines = await service.reserved(held.id);
      if (lines === null) await dropHeld(db, held.job);
      else if (JSON.stringify(lines) !== JSON.stringify(held.lines)) await keepHeld(db, { ...held, lines });
    }
  }
}

/** What a pick takes out of the store, and what is put back brings; null for what moves nothing. */
function goes({ what, line, quantity }: PickEvent): { part: string; quantity: number } | null {
  if ((what !== "picked" && what !== "put back") || quantity === undefined) return null;
  // `FW-T2 (pcs)` is a line of part FW-T2.
  return { part: line.replace(/ \((pcs|m)\)$/, ""), quantity: what === "picked" ? quantity : -quantity };
}
