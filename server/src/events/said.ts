import type { EventKind } from "@gray-bench/core/frame/event-kind";
import type { Happened } from "@gray-bench/core/frame/events";
import type { Kysely } from "kysely";
import { tooManyEvents, type BenchError } from "../errors";
import type { Store } from "../store/database";
import { appendSaid, countEvents, lastSaid } from "../store/events";
import type { Schema } from "../store/schema";
import type { Live } from "./live";

/** A log longer than this is no person's. */
const MOST_EVENTS = 200_000;

/** What the room of a kind has to do with its events: all of it happens, or nothing is kept. */
export interface Hearing<E extends Happened> {
  /** More of a job than this are not kept. */
  most?: number;
  full?(job: string): BenchError;
  /** Before they are kept, within what keeps them. @throws what cannot be said */
  check?(db: Kysely<Schema>, job: string, thing: string | undefined, events: readonly E[]): Promise<void>;
  /** What is kept with them. */
  with?(db: Kysely<Schema>, job: string, events: readonly E[]): Promise<void>;
  /** Once they are kept. */
  then?(): void;
}

/** Where all that happens is said. Rooms say what they have to do with events of their kind. */
export class Said {
  readonly #store: Store;
  readonly #now: () => Date;
  readonly #live: Live;
  readonly #rooms = new Map<string, Hearing<never>>();

  constructor(store: Store, now: () => Date, live: Live) {
    this.#store = store;
    this.#now = now;
    this.#live = live;
  }

  /** Tells all who hear that something of a kind happened, or that somebody is at work with something else. */
  told<E extends Happened>(job: string, { kind, apart }: EventKind<E>, thing?: string, last?: number): void {
    this.#live.tell(job, "happened", {
      kind,
      ...(apart && thing !== undefined ? { thing } : {}),
      ...(last === undefined ? {} : { last }),
    });
  }

  hear<E extends Happened>({ kind }: EventKind<E>, room: Hearing<E>): void {
    this.#rooms.set(kind, room);
  }

  /**
   * Keeps events of one kind, all or nothing; what is there under its id is passed over.
   * @throws events.full, and what the room of the kind does not take
   */
  async say<E extends Happened>(
    job: string,
    kind: EventKind<E>,
    events: readonly E[],
    thing: string | undefined = undefined,
  ): Promise<void> {
    if (events.length === 0) return;
    const room = this.#rooms.get(kind.kind) as Hearing<E> | undefined;
    const last = await this.#store.db.transaction().execute(async (tx) => {
      const known = await countEvents(tx, job, kind.kind);
      if (known + events.length > (room?.most ?? MOST_EVENTS)) throw room?.full?.(job) ?? tooManyEvents(job);
      await room?.check?.(tx, job, thing, events);
      await appendSaid(tx, job, kind, events, this.#now());
      await room?.with?.(tx, job, events);
      return lastSaid(tx, job, kind, thing);
    });
    room?.then?.();
    this.told(job, kind, thing, last);
  }
}

/** Of what devices say by their own clocks: by the clock of the server, however far theirs are off, and none of it of tomorrow. */
export function byOurClock<E extends Happened>(events: readonly E[], theirs: string | undefined, now: Date): E[] {
  const off = theirs === undefined ? 0 : now.getTime() - Date.parse(theirs);
  return events.map((e) => {
    const at = Date.parse(e.at) + off;
    return { ...e, at: new Date(Math.max(0, Math.min(at, now.getTime()))).toISOString() };
  });
}
