import type { ArrivedAttachment, AttachedTo, AttachmentType } from "@gray-bench/contract/attachments";
import type { ArrivalJob, ArrivedDrawing, ArrivedTable } from "@gray-bench/contract/intake";
import type { DesignHead } from "@gray-bench/contract/jobs";
import type { AuditEntry } from "@gray-bench/contract/record";
import type { RunNow } from "@gray-bench/contract/wireprep";
import type { Delivery, Level } from "@gray-bench/core/design/stock";
import type { KeptDrawing, KeptTable } from "@gray-bench/core/tables/kept";
import type { Generated } from "kysely";
import type { NotLaid } from "../workers/tasks";
import type { Json } from "./json";

/** Tables of the data file. */

export interface JobsTable {
  code: string;
  /** Hash of the design that counts now: the one received with its edits laid on top. */
  design_hash: string;
  /** Hash of the design as received that counts now. */
  received_hash: string;
  /** Hash of the library that completes it; empty: none. */
  library_hash: string;
  /** Edits that do not fit the design as received. */
  unfitting: Json<NotLaid[]>;
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
  /** Read often, while the design itself is large. */
  head: Json<DesignHead>;
  json: Buffer;
  order: Generated<number>;
}

/** Designs that came out of laying edits. A cache: the log and the designs as received make them anew. */
export interface LaidTable {
  hash: string;
  head: Json<DesignHead>;
  json: Buffer;
}

/** Append-only: what was done to a job, in order. */
export interface LogTable {
  seq: Generated<number>;
  job: string;
  /** `edit`, or `back` and `again` of an earlier one; `shop`: computed with that version from here on. */
  what: "edit" | "back" | "again" | "shop" | "revision" | "library";
  /** Of the edit, hash of the shop or of the library, or hash of the design as received that counts from here on. */
  id: string;
  kind: string;
  payload: string;
  why: string | null;
  who: string;
  at: string;
  /** Of the design after it. */
  hash: string;
  /** Of the design as received that lay below it. */
  received: string;
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

/** Append-only: what happened, of every stage. */
export interface EventsTable {
  seq: Generated<number>;
  job: string;
  /** As the stage calls it that understands it. */
  kind: string;
  /** Given by whoever says it: the same one sent twice counts once. */
  id: string;
  /** What it is about: list, kit, batch, sheet. */
  thing: string;
  /** What else it says, as JSON. */
  payload: string;
  /** Of an event that undoes another one, its id. */
  undoes: string | null;
  who: string;
  /** When it happened, by the clock of the device. */
  at: string;
  /** When it came in. */
  came: string;
}

/** What of picks the store was told. */
export interface BookingsTable {
  /** Of the event. */
  seq: number;
  /** Whether the store was told: `no`, `yes`, or why it refused. */
  booked: string;
}

/** What the store said last: one row. */
export interface StockTable {
  one: number;
  at: string;
  json: Json<{ items: Level[]; deliveries: Delivery[] }>;
}

/** What is reserved in the store for a job. It outlives the job until the store was told. */
export interface ReservationsTable {
  job: string;
  id: string;
  lines: Json<{ part: string; quantity: number }[]>;
  who: string;
  at: string;
  /** 1: given back, but the store does not know it yet. */
  releasing: number;
}

/** Batches of leads, as they were made. */
export interface BatchesTable {
  job: string;
  /** `B1` is 1. */
  number: number;
  /** Of the design it was made of. */
  revision: string;
  /** MadeBatch as JSON, compressed. */
  json: Buffer;
  who: string;
  at: string;
  ended_at: string | null;
}

/** Which lead of a job is in which batch: in one at most. */
export interface ClaimsTable {
  job: string;
  lead: string;
  batch: number;
}

/** Files that went to a machine, kept before they are sent. */
export interface RunsTable {
  seq: Generated<number>;
  job: string;
  batch: number;
  name: string;
  takes: "leads" | "labels";
  machine: string;
  /** As it is sent, and sent again. */
  file: Buffer;
  /** Lead and attempt, in the order of the file. */
  leads: Json<RunNow["leads"]>;
  state: "sending" | "sent" | "ended" | "refused";
  machine_job: number | null;
  why: string | null;
  at: string;
  /** Who had it sent, as the name was given. */
  who: string;
}

/** Append-only: what was done to the whole, kept whatever becomes of a job. */
export interface AuditTable {
  seq: Generated<number>;
  at: string;
  what: AuditEntry["what"];
  job: string | null;
  /** As the name was given; null where none was. */
  who: string | null;
  /** It came from. */
  address: string;
  detail: string;
}

/** Which attempt at a lead is in which file: in one at most, so that none is made twice. */
export interface RunLeadsTable {
  job: string;
  batch: number;
  lead: string;
  attempt: number;
  run: string;
}

/** Files as they were received, by hash: kept as long as an arrival or a job has them. */
export interface ReceivedTable {
  hash: string;
  /** Compressed. */
  gzip: Buffer;
  size: number;
}

/** Files that have come in and are not a job yet. */
export interface ArrivalsTable {
  id: string;
  version: number;
  of: string | null;
  job: Json<ArrivalJob>;
  tables: Json<ArrivedTable[]>;
  drawings: Generated<Json<ArrivedDrawing[]>>;
  attachments: Generated<Json<ArrivedAttachment[]>>;
  at: string;
}

/** Files kept with a job as they are. */
export interface AttachmentsTable {
  id: string;
  job: string;
  name: string;
  type: AttachmentType;
  file: string;
  /** Kind and name of the thing it is of; null: the whole job. */
  thing: AttachedTo | null;
  of: string | null;
  at: string;
  who: string | null;
  /** When it was taken off. */
  gone: string | null;
}

/** What documents say, page by page: read once. */
export interface ReadingsTable {
  file: string;
  /** Of what reads: by another one it is read anew. */
  version: number;
  pages: number;
  /** Pages without text. */
  empty: number;
  /** PageText[] as JSON, compressed. */
  gzip: Buffer;
}

export interface ArrivalFilesTable {
  arrival: string;
  file: string;
}

/** What a revision of a job was made of. */
export interface SourcesTable {
  job: string;
  design: string;
  place: number;
  name: string;
  file: string;
  /** Of a table, or of a drawing. */
  read: Json<Pick<ArrivedTable, "asked" | "matching"> | Pick<ArrivedDrawing, "said">>;
}

/** Versions of the library: only ever added to. */
export interface LibrariesTable {
  number: Generated<number>;
  hash: string;
  /** Library as JSON, compressed. */
  gzip: Buffer;
  parts: number;
  who: string;
  why: string | null;
  at: string;
}

/** Matchings, kept by name. */
export interface MatchingsTable {
  name: string;
  tables: Json<KeptTable[]>;
  drawings: Generated<Json<KeptDrawing[]>>;
  at: string;
}

export interface Schema {
  received: ReceivedTable;
  arrivals: ArrivalsTable;
  attachments: AttachmentsTable;
  readings: ReadingsTable;
  arrival_files: ArrivalFilesTable;
  sources: SourcesTable;
  matchings: MatchingsTable;
  libraries: LibrariesTable;
  audit: AuditTable;
  batches: BatchesTable;
  claims: ClaimsTable;
  runs: RunsTable;
  run_leads: RunLeadsTable;
  events: EventsTable;
  bookings: BookingsTable;
  stock: StockTable;
  reservations: ReservationsTable;
  jobs: JobsTable;
  designs: DesignsTable;
  results: ResultsTable;
  laid: LaidTable;
  log: LogTable;
  shops: ShopsTable;
}
