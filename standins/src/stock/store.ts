import Database from "better-sqlite3";

export interface Item {
  part: string;
  text: string;
  place: string;
  pack: number;
  level: number;
}

export interface Delivery {
  part: string;
  quantity: number;
  /** ISO date. */
  due: string;
}

export interface Line {
  part: string;
  quantity: number;
}

export interface Reservation {
  id: string;
  job: string;
  lines: Line[];
}

export type Reserved =
  { ok: true; again: boolean } | { ok: false; missing: { part: string; wanted: number; free: number }[] };

/** A store of its own, in its own file; `:memory:` for none. */
export class StockStore {
  readonly #db: Database.Database;

  constructor(file: string) {
    this.#db = new Database(file);
    this.#db.pragma("journal_mode = WAL");
    this.#db.exec(`
      create table if not exists items (part text primary key, text text not null, place text not null, pack real not null, level real not null check (level >= 0));
      create table if not exists deliveries (part text not null, quantity real not null, due text not null);
      create table if not exists reservations (id text primary key, job text not null);
      create table if not exists reserved (id text not null references reservations(id) on delete cascade, part text not null, quantity real not null);
      create table if not exists moves (id text primary key, part text not null, quantity real not null);
      create index if not exists reserved_part on reserved(part);
    `);
    this.#db.pragma("foreign_keys = on");
  }

  close(): void {
    this.#db.close();
  }

  /** What the store begins with: parts that are there keep their level, and deliveries come once. */
  fill(items: readonly Item[], deliveries: readonly Delivery[] = []): void {
    const put = this.#db.prepare(
      "insert into items values (@part, @text, @place, @pack, @level) on conflict do nothing",
    );
    const come = this.#db.prepare("insert into deliveries values (@part, @quantity, @due)");
    this.#db.transaction(() => {
      for (const item of items) put.run(item);
      const known = this.#db.prepare("select count(*) as n from deliveries").get() as { n: number };
      if (known.n === 0) for (const d of deliveries) come.run(d);
    })();
  }

  items(from = 0, most = 1000): (Item & { reserved: number; free: number })[] {
    const rows = this.#db
      .prepare(
        "select i.*, coalesce((select sum(quantity) from reserved r where r.part = i.part), 0) as reserved from items i order by part limit ? offset ?",
      )
      .all(most, from) as (Item & { reserved: number })[];
    return rows.map((r) => ({ ...r, free: even(r.level - r.reserved) }));
  }

  item(part: string): (Item & { reserved: number; free: number }) | undefined {
    const row = this.#db
      .prepare(
        "select i.*, coalesce((select sum(quantity) from reserved r where r.part = i.part), 0) as reserved from items i where part = ?",
      )
      .get(part) as (Item & { reserved: number }) | undefined;
    return row && { ...row, free: even(row.level - row.reserved) };
  }

  deliveries(): Delivery[] {
    return this.#db.prepare("select part, quantity, due from deliveries order by due, part").all() as Delivery[];
  }

  /** All lines or none; the same one again counts once. */
  reserve({ id, job, lines }: Reservation): Reserved {
    return this.#db.transaction((): Reserved => {
      if (this.#db.prepare("select 1 from reservations where id = ?").get(id)) return { ok: true, again: true };
      const wanted = new Map<string, number>();
      for (const l of lines) wanted.set(l.part, even((wanted.get(l.part) ?? 0) + l.quantity));
      const missing = [...wanted].flatMap(([part, quantity]) => {
        const free = this.item(part)?.free ?? 0;
        return free < quantity ? [{ part, wanted: quantity, free }] : [];
      });
      if (missing.length > 0) return { ok: false, missing };
      this.#db.prepare("insert into reservations values (?, ?)").run(id, job);
      const put = this.#db.prepare("insert into reserved values (?, ?, ?)");
      for (const [part, quantity] of wanted) put.run(id, part, quantity);
      return { ok: true, again: false };
    })();
  }

  release(id: string): boolean {
    return this.#db.prepare("delete from reservations where id = ?").run(id).changes > 0;
  }

  reservation(id: string): Reservation | undefined {
    const row = this.#db.prepare("select id, job from reservations where id = ?").get(id) as
      { id: string; job: string } | undefined;
    if (!row) return undefined;
    const lines = this.#db.prepare("select part, quantity from reserved where id = ? order by part").all(id) as Line[];
    return { ...row, lines };
  }

  /**
   * Out of the store, or back into it where the quantity is below 0; the same one again counts once. Null: no such part.
   * @param reservation what is taken out was reserved under it, and is so no more
   */
  move(
    id: string,
    { part, quantity }: Line,
    reservation?: string,
  ): { level: number; again: boolean } | "too little" | null {
    return this.#db.transaction(() => {
      const item = this.item(part);
      if (!item) return null;
      if (this.#db.prepare("select 1 from moves where id = ?").get(id)) return { level: item.level, again: true };
      if (item.level < quantity) return "too little" as const;
      if (reservation !== undefined && quantity > 0) {
        const at = { id: reservation, part };
        this.#db
          .prepare("update reserved set quantity = quantity - @quantity where id = @id and part = @part")
          .run({ ...at, quantity });
        this.#db.prepare("delete from reserved where id = @id and part = @part and quantity <= 0.00005").run(at);
      }
      const level = even(item.level - quantity);
      this.#db.prepare("update items set level = ? where part = ?").run(level, part);
      this.#db.prepare("insert into moves values (?, ?, ?)").run(id, part, quantity);
      return { level, again: false };
    })();
  }
}

const even = (v: number): number => Math.round(v * 10_000) / 10_000;
