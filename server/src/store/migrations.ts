import { pushTo } from "@gray-bench/core/design/order";
import { eventsOfTicks, sheetTicked, type SheetTick } from "@gray-bench/core/metalwork/events";
import type Database from "better-sqlite3";

/** Numbered by place; never changed once released, only added to. */
const MIGRATIONS: readonly (string | ((db: Database.Database) => void))[] = [
  `CREATE TABLE jobs (
     code TEXT PRIMARY KEY,
     design_hash TEXT NOT NULL
   ) STRICT;
   CREATE TABLE designs (
     "order" INTEGER PRIMARY KEY,
     hash TEXT NOT NULL,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     revision TEXT NOT NULL,
     title TEXT NOT NULL,
     customer TEXT,
     due TEXT,
     imported_at TEXT NOT NULL,
     head TEXT NOT NULL,
     json BLOB NOT NULL,
     UNIQUE (job, revision),
     UNIQUE (job, hash)
   ) STRICT;
   CREATE TABLE results (
     design_hash TEXT NOT NULL,
     computed_by TEXT NOT NULL,
     name TEXT NOT NULL,
     etag TEXT NOT NULL,
     type TEXT NOT NULL,
     bytes BLOB NOT NULL,
     PRIMARY KEY (design_hash, computed_by, name)
   ) STRICT;`,
  // Edits are laid on the design as received; what comes out is the design that counts.
  `ALTER TABLE jobs ADD COLUMN received_hash TEXT NOT NULL DEFAULT '';
   ALTER TABLE jobs ADD COLUMN unfitting TEXT NOT NULL DEFAULT '[]';
   UPDATE jobs SET received_hash = design_hash;
   CREATE TABLE laid (
     hash TEXT PRIMARY KEY,
     head TEXT NOT NULL,
     json BLOB NOT NULL
   ) STRICT;
   CREATE TABLE log (
     seq INTEGER PRIMARY KEY,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     what TEXT NOT NULL,
     id TEXT NOT NULL,
     kind TEXT NOT NULL,
     payload TEXT NOT NULL,
     why TEXT,
     who TEXT NOT NULL,
     at TEXT NOT NULL,
     hash TEXT NOT NULL
   ) STRICT;
   CREATE INDEX log_by_job ON log (job, seq);`,
  // Results by what they were computed from, compressed; the shop as a value with its versions.
  `DROP TABLE results;
   CREATE TABLE results (
     key TEXT NOT NULL,
     name TEXT NOT NULL,
     etag TEXT NOT NULL,
     type TEXT NOT NULL,
     gzip BLOB NOT NULL,
     used_at INTEGER NOT NULL,
     PRIMARY KEY (key, name)
   ) STRICT;
   CREATE INDEX results_by_use ON results (used_at);
   CREATE TABLE shops (
     number INTEGER PRIMARY KEY,
     hash TEXT NOT NULL,
     json TEXT NOT NULL,
     who TEXT NOT NULL,
     why TEXT,
     at TEXT NOT NULL
   ) STRICT;
   ALTER TABLE jobs ADD COLUMN shop_hash TEXT NOT NULL DEFAULT '';
   ALTER TABLE jobs ADD COLUMN shown_key TEXT NOT NULL DEFAULT '';`,
  // What is done on the floor: ticked, and ticked off again.
  `CREATE TABLE ticks (
     seq INTEGER PRIMARY KEY,
     id TEXT NOT NULL,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     list TEXT NOT NULL,
     item TEXT NOT NULL,
     done INTEGER NOT NULL,
     who TEXT NOT NULL,
     at TEXT NOT NULL,
     UNIQUE (job, id)
   ) STRICT;
   CREATE INDEX ticks_by_item ON ticks (job, list, item, seq);`,
  // What is picked into kits, and what of it the store knows; what the store said last; what is reserved in it.
  `CREATE TABLE picks (
     seq INTEGER PRIMARY KEY AUTOINCREMENT,
     id TEXT NOT NULL,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     event TEXT NOT NULL,
     booked TEXT NOT NULL,
     undoes TEXT,
     UNIQUE (job, id)
   ) STRICT;
   CREATE INDEX picks_by_undoing ON picks (job, undoes);
   CREATE INDEX picks_by_job ON picks (job, seq);
   CREATE INDEX picks_by_booking ON picks (booked, seq);
   CREATE TABLE stock (
     one INTEGER PRIMARY KEY CHECK (one = 1),
     at TEXT NOT NULL,
     json TEXT NOT NULL
   ) STRICT;
   CREATE TABLE reservations (
     job TEXT PRIMARY KEY,
     id TEXT NOT NULL,
     lines TEXT NOT NULL,
     who TEXT NOT NULL,
     at TEXT NOT NULL,
     releasing INTEGER NOT NULL
   ) STRICT;`,
  // Batches of leads as they were made; which lead is in which; files that went to machines; what became of leads.
  `CREATE TABLE batches (
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     number INTEGER NOT NULL,
     revision TEXT NOT NULL,
     json BLOB NOT NULL,
     who TEXT NOT NULL,
     at TEXT NOT NULL,
     ended_at TEXT,
     PRIMARY KEY (job, number)
   ) STRICT;
   CREATE TABLE claims (
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     lead TEXT NOT NULL,
     batch INTEGER NOT NULL,
     PRIMARY KEY (job, lead)
   ) STRICT;
   CREATE INDEX claims_by_batch ON claims (job, batch);
   CREATE TABLE runs (
     seq INTEGER PRIMARY KEY AUTOINCREMENT,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     batch INTEGER NOT NULL,
     name TEXT NOT NULL UNIQUE,
     takes TEXT NOT NULL,
     machine TEXT NOT NULL,
     file BLOB NOT NULL,
     leads TEXT NOT NULL,
     state TEXT NOT NULL,
     machine_job INTEGER,
     why TEXT,
     at TEXT NOT NULL
   ) STRICT;
   CREATE INDEX runs_by_batch ON runs (job, batch, seq);
   CREATE INDEX runs_by_state ON runs (state, seq);
   CREATE TABLE run_leads (
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     batch INTEGER NOT NULL,
     lead TEXT NOT NULL,
     attempt INTEGER NOT NULL,
     run TEXT NOT NULL,
     PRIMARY KEY (job, batch, lead, attempt)
   ) STRICT;
   CREATE TABLE lead_events (
     seq INTEGER PRIMARY KEY AUTOINCREMENT,
     id TEXT NOT NULL,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     batch INTEGER NOT NULL,
     event TEXT NOT NULL,
     UNIQUE (job, id)
   ) STRICT;
   CREATE INDEX lead_events_by_batch ON lead_events (job, batch, seq);`,
  // Which revision each entry of a log was made on: until here it was the last that had come.
  `ALTER TABLE log ADD COLUMN received TEXT NOT NULL DEFAULT '';
   UPDATE log SET received = COALESCE(
     (SELECT hash FROM designs WHERE designs.job = log.job AND designs.imported_at <= log.at ORDER BY designs."order" DESC LIMIT 1),
     (SELECT received_hash FROM jobs WHERE jobs.code = log.job));`,
  // Who had a file sent; and what was done to the whole, which no deleted job takes with it.
  `ALTER TABLE runs ADD COLUMN who TEXT NOT NULL DEFAULT '';
   CREATE TABLE audit (
     seq INTEGER PRIMARY KEY AUTOINCREMENT,
     at TEXT NOT NULL,
     what TEXT NOT NULL,
     job TEXT,
     who TEXT,
     address TEXT NOT NULL,
     detail TEXT NOT NULL
   ) STRICT;`,
  // Files as they come, until they are a job, and with it.
  `CREATE TABLE received (
     hash TEXT PRIMARY KEY,
     gzip BLOB NOT NULL,
     size INTEGER NOT NULL
   ) STRICT;
   CREATE TABLE arrivals (
     id TEXT PRIMARY KEY,
     version INTEGER NOT NULL,
     "of" TEXT,
     job TEXT NOT NULL,
     tables TEXT NOT NULL,
     at TEXT NOT NULL
   ) STRICT;
   CREATE TABLE arrival_files (
     arrival TEXT NOT NULL REFERENCES arrivals (id) ON DELETE CASCADE,
     file TEXT NOT NULL REFERENCES received (hash),
     PRIMARY KEY (arrival, file)
   ) STRICT;
   CREATE INDEX arrival_files_by_file ON arrival_files (file);
   CREATE TABLE sources (
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     design TEXT NOT NULL,
     place INTEGER NOT NULL,
     name TEXT NOT NULL,
     file TEXT NOT NULL REFERENCES received (hash),
     read TEXT NOT NULL,
     PRIMARY KEY (job, design, place)
   ) STRICT;
   CREATE INDEX sources_by_file ON sources (file);
   CREATE TABLE matchings (
     name TEXT PRIMARY KEY,
     tables TEXT NOT NULL,
     at TEXT NOT NULL
   ) STRICT;`,
  // What is known of parts, for every job: versions, and with which a job is completed.
  `CREATE TABLE libraries (
     number INTEGER PRIMARY KEY AUTOINCREMENT,
     hash TEXT NOT NULL,
     gzip BLOB NOT NULL,
     parts INTEGER NOT NULL,
     who TEXT NOT NULL,
     why TEXT,
     at TEXT NOT NULL
   ) STRICT;
   CREATE INDEX libraries_by_hash ON libraries (hash);
   ALTER TABLE jobs ADD COLUMN library_hash TEXT NOT NULL DEFAULT '';`,
  // Drawings come with tables, and what they are taken for is kept with matchings.
  `ALTER TABLE arrivals ADD COLUMN drawings TEXT NOT NULL DEFAULT '[]';
   ALTER TABLE matchings ADD COLUMN drawings TEXT NOT NULL DEFAULT '[]';`,
  // Files that are kept with a job as they are, and what documents among them say.
  `CREATE TABLE attachments (
     id TEXT PRIMARY KEY,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     name TEXT NOT NULL,
     type TEXT NOT NULL,
     file TEXT NOT NULL REFERENCES received (hash),
     thing TEXT,
     of TEXT,
     at TEXT NOT NULL,
     who TEXT,
     gone TEXT
   ) STRICT;
   CREATE INDEX attachments_by_job ON attachments (job);
   CREATE INDEX attachments_by_file ON attachments (file);
   CREATE TABLE readings (
     file TEXT PRIMARY KEY REFERENCES received (hash) ON DELETE CASCADE,
     version INTEGER NOT NULL,
     pages INTEGER NOT NULL,
     empty INTEGER NOT NULL,
     gzip BLOB NOT NULL
   ) STRICT;
   ALTER TABLE arrivals ADD COLUMN attachments TEXT NOT NULL DEFAULT '[]';`,
  // One log of what happened, where ticks, picks and what became of leads had one each. Its numbers go on behind those of picks: a screen
  // that was left open asks for what came after the last one it knows.
  `CREATE TABLE events (
     seq INTEGER PRIMARY KEY AUTOINCREMENT,
     job TEXT NOT NULL REFERENCES jobs (code) ON DELETE CASCADE,
     kind TEXT NOT NULL,
     id TEXT NOT NULL,
     thing TEXT NOT NULL,
     payload TEXT NOT NULL,
     undoes TEXT,
     who TEXT NOT NULL,
     at TEXT NOT NULL,
     came TEXT NOT NULL,
     UNIQUE (job, kind, id)
   ) STRICT;
   CREATE INDEX events_by_thing ON events (job, kind, thing, seq);
   CREATE INDEX events_by_kind ON events (job, kind, seq);
   CREATE INDEX events_by_undoing ON events (job, kind, undoes) WHERE undoes IS NOT NULL;
   CREATE TABLE bookings (
     seq INTEGER PRIMARY KEY REFERENCES events (seq) ON DELETE CASCADE,
     booked TEXT NOT NULL
   ) STRICT;
   CREATE INDEX bookings_by_state ON bookings (booked, seq);
   INSERT INTO sqlite_sequence (name, seq)
     SELECT 'events', seq FROM sqlite_sequence WHERE name = 'picks';
   INSERT INTO events (job, kind, id, thing, payload, undoes, who, at, came)
     SELECT job, 'tick', id, list,
       json_object('item', item, 'done', json(CASE done WHEN 1 THEN 'true' ELSE 'false' END)), NULL, who, at, at
     FROM ticks ORDER BY seq;
   INSERT INTO events (job, kind, id, thing, payload, undoes, who, at, came)
     SELECT job, 'pick', id, event ->> '$.kit', json_remove(event, '$.id', '$.kit', '$.who', '$.at'), undoes,
       event ->> '$.who', event ->> '$.at', event ->> '$.at'
     FROM picks ORDER BY seq;
   INSERT INTO bookings (seq, booked)
     SELECT events.seq, picks.booked FROM picks
     JOIN events ON events.job = picks.job AND events.kind = 'pick' AND events.id = picks.id;
   INSERT INTO events (job, kind, id, thing, payload, undoes, who, at, came)
     SELECT job, 'lead', id, 'B' || batch, json_remove(event, '$.id', '$.batch', '$.who', '$.at'), event ->> '$.of',
       event ->> '$.who', event ->> '$.at', event ->> '$.at'
     FROM lead_events ORDER BY seq;
   DROP TABLE ticks;
   DROP TABLE picks;
   DROP TABLE lead_events;`,
  // What became of sheets was texts of ticks. Ticks that are no such text stay what they are.
  (db) => {
    const lists = new Map<string, (SheetTick & { seq: number; came: string })[]>();
    const rows = db
      .prepare(
        "SELECT seq, job, id, payload, who, at, came FROM events WHERE kind = 'tick' AND thing = 'sheets' ORDER BY at, seq",
      )
      .all() as { seq: number; job: string; id: string; payload: string; who: string; at: string; came: string }[];
    for (const { job, payload, ...row } of rows)
      pushTo(lists, job, { ...row, ...(JSON.parse(payload) as { item: string; done: boolean }) });
    const add = db.prepare(
      "INSERT INTO events (job, kind, id, thing, payload, undoes, who, at, came) VALUES (?, 'sheet', ?, ?, ?, ?, ?, ?, ?)",
    );
    const gone = db.prepare("DELETE FROM events WHERE seq = ?");
    for (const [job, ticks] of lists) {
      for (const { id, face, who, at, ...says } of eventsOfTicks(ticks))
        add.run(job, id, face, JSON.stringify(says), says.of ?? null, who, at, at);
      for (const { seq, item } of ticks) if (sheetTicked(item)) gone.run(seq);
    }
  },
];

/** @throws Error where a newer program wrote the data; nothing is changed */
export function refuseNewer(db: Database.Database): void {
  const done = db.pragma("user_version", { simple: true }) as number;
  if (done > MIGRATIONS.length) {
    throw new Error(
      `The data file was written by a newer Gray Bench (schema ${done}, this one knows ${MIGRATIONS.length}). Update the program.`,
    );
  }
}

/** Each migration and its number are written together, so a stop half-way leaves a whole state. */
export function migrate(db: Database.Database): void {
  refuseNewer(db);
  const done = db.pragma("user_version", { simple: true }) as number;
  MIGRATIONS.slice(done).forEach((step, i) => {
    db.transaction(() => {
      if (typeof step === "string") db.exec(step);
      else step(db);
      db.pragma(`user_version = ${done + i + 1}`);
    })();
  });
}
