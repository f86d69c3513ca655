import type { Generated } from "kysely";

/** Tables of the data file. */

export interface JobsTable {
  code: string;
  /** Hash of the design that counts now: the one received with its edits laid on top. */
  design_hash: string;
  /** Hash of the design as received that counts now. */
  received_hash: string;
  /** Edits that do not fit the design as received, as JSON: NotLaid[]. */
  unfitting: string;
  /** Hash of the shop it is computed with. */
  shop_hash: string;
  /** Key of the last computation that ended: its numbers are shown until there are newer ones. */
  shown_key: string;
}

/** Append-only: versions of the shop. The last one counts. */
export interface ShopsTable {
  number: Generated<number>;
  hash: string;
  json: string;
  who: string;
  why: string | null;
  at: string;
}

export interface DesignsTable {
  hash: string;
  job: string;
  revision: string;
  title: string;
  customer: string | null;
  due: string | null;
  imported_at: string;
  /** DesignHead as JSON: read often, while the design itself is large. */
  head: string;
  json: Buffer;
  order: Generated<number>;
}

/** Designs that came out of laying edits. A cache: the log and the designs as received make them anew. */
export interface LaidTable {
  hash: string;
  head: string;
  json: Buffer;
}

/** Append-only: what was done to a job, in order. */
export interface LogTable {
  seq: Generated<number>;
  job: string;
  /** `edit`, or `back` and `again` of an earlier one; `shop`: computed with that version from here on. */
  what: "edit" | "back" | "again" | "shop";
  /** Of the edit, or hash of the shop. */
  id: string;
  kind: string;
  payload: string;
  why: string | null;
  who: string;
  at: string;
  /** Of the design after it. */
  hash: string;
}

/**
 * A cache: rows may be thrown away at any time. Under the key of a stage: `result`, and `brief` with its
 * open points and figures. Under the key of a design with a shop: `summary`, `open`, `file:<name>`; under the hash of a design `search`.
 */
export interface ResultsTable {
  key: string;
  name: string;
  etag: string;
  type: string;
  gzip: Buffer;
  /** When it was last asked for, give or take an hour; ms since 1970. */
  used_at: number;
}

/** Append-only: what was ticked on the floor. Of each item of a list the last row counts. */
export interface TicksTable {
  seq: Generated<number>;
  /** Given by whoever ticked: the same one sent twice counts once. */
  id: string;
  job: string;
  /** `strip -X2` */
  list: string;
  item: string;
  done: number;
  who: string;
  at: string;
}

export interface Schema {
  ticks: TicksTable;
  jobs: JobsTable;
  designs: DesignsTable;
  results: ResultsTable;
  laid: LaidTable;
  log: LogTable;
  shops: ShopsTable;
}
