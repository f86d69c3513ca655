import type { ArrivalOutlook, ArrivedDrawing, TableLook } from "@gray-bench/contract/intake";
import type { DesignHead, JobFigure, StageSummary } from "@gray-bench/contract/jobs";
import type { Effect } from "@gray-bench/contract/results";
import type { ThingChanges } from "@gray-bench/core/design/changes";
import type { LoggedEdit } from "@gray-bench/core/frame/edits";
import type { Fault } from "@gray-bench/core/design/faults";
import type { Job } from "@gray-bench/core/design/model";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { Told } from "@gray-bench/core/frame/stage";
import type { StageKeys } from "@gray-bench/core/run";
import type { StageName } from "@gray-bench/core/stage-names";
import type { NotRead } from "@gray-bench/core/tables/assemble";
import type { LibraryChanges, LibraryPart } from "@gray-bench/core/library/library";
import type { PartOutline } from "@gray-bench/core/drawings/part-outline";
import type { LibraryTold } from "@gray-bench/core/tables/library-ways";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { DrawingSaid } from "@gray-bench/core/drawings/said";
import type { NoTable } from "@gray-bench/core/tables/bytes";
import type { KeptMatching, Recognised } from "@gray-bench/core/tables/kept";
import type { Matching } from "@gray-bench/core/tables/matching";
import type { ReadAsked } from "@gray-bench/core/tables/read";
import type { MessagePort } from "node:worker_threads";

export type ThreadKind = "computes" | "reads";
/** What a thread is told at its start. */
export interface ThreadData {
  kind: ThreadKind;
}

/** What the workers are asked and what they answer. */
export type ReadTask = { kind: "read"; bytes: Uint8Array };
export type ReadAnswer =
  | {
      ok: true;
      hash: string;
      json: Uint8Array;
      head: DesignHead;
      job: { code: string; title: string; customer: string | null; due: string | null; revision: string };
    }
  | { ok: false; faults: Fault[]; count: number };

/** A design with its hash, by which a worker may know it already. */
export interface DesignJson {
  hash: string;
  json: Uint8Array;
}

/** A design as it came of another one: a worker that knows that one has most of it already. */
export interface MadeFrom {
  /** Hash of the other. */
  on: string;
  edits: readonly Pick<LoggedEdit, "kind" | "payload">[];
}

export type ComputeTask = {
  kind: "compute";
  key: string;
  /** Of what was computed of the job before: the worker says what has changed since, if it knows that still. */
  before: string | null;
  design: DesignJson & { from?: MadeFrom };
  shop: string;
  port: MessagePort;
};

/** A result as a worker writes it. */
export interface WrittenBytes {
  key: string;
  name: string;
  type: string;
  etag: string;
  bytes: Uint8Array;
}

/** A result as it is kept. */
export interface StoredBytes extends Omit<WrittenBytes, "bytes"> {
  gzip: Uint8Array;
}

/** What is known of a job once it is computed. */
export interface Summary {
  keys: StageKeys;
  stages: StageSummary[];
  open: PointCount;
  figures: JobFigure[];
}

export type ComputeAnswer = WrittenBytes[];

/**
 * What a worker says while it computes: first the keys, and of which stages it has the results still; answered with what is
 * known of them. Then how far it is. Then all that is small, before the results are written out.
 */
export type ComputeMessage =
  | { keys: StageKeys; has: StageName[] }
  | { stage: StageName; share: number }
  | { summed: WrittenBytes[]; effect: Effect | null };

/** Results that need not be computed again, by stage: compressed where they are kept, plain where they are worked with. */
export interface Known {
  briefs: Record<string, Uint8Array>;
  results: Record<string, Uint8Array>;
}

/** Files are written from stored results, which are not computed again. */
export type FilesTask = {
  kind: "files";
  key: string;
  design: DesignJson;
  shop: string;
  results: Record<string, Uint8Array>;
};
export type FilesAnswer = WrittenBytes[];

/** One document as somebody wants it drawn. */
export type DrawTask = Omit<FilesTask, "kind" | "key"> & { kind: "draw"; stage: string; wanted: object };
export type DrawAnswer = { name: string; type: string; bytes: Uint8Array } | null;

/** What a stage is asked beside its result. */
export type AskTask = {
  kind: "ask";
  stage: StageName;
  question: string;
  asked: object;
  /** Of the stage. */
  results: Uint8Array[];
  shop: string;
};

/** An edit that does not fit the design as received. */
export interface NotLaid {
  id: string;
  sentence: string;
  reason: string;
  remedy: string;
}

/** Lays the edits of a job on a design as received and completed by the library, with one of them turned; or new ones on what it is now. */
export type Laying =
  | {
      received: DesignJson;
      library: DesignJson | null;
      log: LoggedEdit[];
      turn: { id: string; back: LoggedEdit["back"] } | null;
    }
  | { current: DesignJson; unfitting: NotLaid[]; add: LoggedEdit[] };
export type LayTask = { kind: "lay" } & Laying;
export type LayAnswer =
  /** `payloads`: of new edits, as they go into the log. */
  | { ok: true; hash: string; json: Uint8Array; head: DesignHead; unfitting: NotLaid[]; payloads: unknown[] }
  /** A new edit does not fit, or others stand on the one that is turned. */
  | { ok: false; index: number; reason: string; remedy: string }
  | { ok: false; standing: NotLaid[] };

/**
 * Says what differs between two computations, stage by stage, of those that do differ: keys of their results, and the results of
 * the keys that the worker has said it lacks.
 */
export type CompareTask = {
  kind: "compare";
  stages: Record<string, { before: string; after: string }>;
  results: Record<string, Uint8Array>;
};
export type CompareAnswer = { told: Told[] } | { lacks: string[] };

/** What differs between two designs. */
export type DifferTask = { kind: "differ"; before: DesignJson; after: DesignJson };
export type DifferAnswer = ThingChanges[];

/** What can be searched for in a design, kept under its hash. */
export type IndexTask = { kind: "index"; design: DesignJson };
export type IndexAnswer = WrittenBytes;

/** A library as somebody sends it; or what differs between two of them. */
export type LibraryTask = {
  kind: "library";
  what:
    /** `into`: it is written into that one, field by field. */
    | { do: "read"; bytes: Uint8Array; into: DesignJson | null }
    | { do: "file"; library: DesignJson; as: "csv" | "xlsx" }
    /** Outlines and circles of a drawing of a part. */
    | { do: "outline"; bytes: Uint8Array }
    /** What it says of one part, by its number or another one it comes under. */
    | { do: "part"; library: DesignJson; number: string }
    | { do: "differ"; before: DesignJson | null; after: DesignJson }
    /** Parts written anew, added, taken out. */
    | { do: "write"; before: DesignJson | null; parts: LibraryPart[]; gone: string[] };
};
export type LibraryAnswer =
  | { ok: true; hash: string; json: Uint8Array; parts: number; told?: LibraryTold }
  | { ok: false; faults: Fault[]; count: number };

/** `said`: all but its numbers, as a text that is equal for what is equal. Null: the library does not know it. */
export type PartAnswer = { said: string; alsoAs: string[] } | null;
export type OutlineAnswer = { ok: true; outline: PartOutline } | { ok: false; found: string; remedy: string };

/** What a document says; what of a design stands in documents. */
export type AttachmentsTask = {
  kind: "attachments";
  what: { do: "read"; bytes: Uint8Array } | ({ do: "find" } & FindAsked & { sent: FindSent | null });
};

export interface FindAsked {
  /** Hash of the design. */
  design: string;
  /** `file`: the hash of its file. */
  documents: { id: string; name: string; file: string }[];
  /** Null: all of them put together. */
  page: { id: string; page: number } | null;
}

/** What the thread may not have. */
export interface FindSent {
  design: Uint8Array;
  /** By the hashes of files. */
  readings: Record<string, Uint8Array>;
}

export type DocumentAnswer =
  { ok: true; json: Uint8Array; pages: number; empty: number } | { ok: false; found: string; remedy: string };
/** `lacks`: something was not sent that is needed; `json` null: there is no such page. */
export type FindAnswer = { lacks: true } | { json: Uint8Array | null };

/** A design as tables, packed together. */
export type PackTask = { kind: "pack"; design: DesignJson };

/** A file of tables as received. */
export interface ReceivedFile {
  hash: string;
  bytes: Uint8Array;
}

/** Tables of a drawing office: what a file holds, how one table would be read, what design they make together. */
export type TablesTask = {
  kind: "tables";
  what:
    | { do: "recognise"; file: ReceivedFile; kept: KeptMatching[] }
    | { do: "look"; file: ReceivedFile; asked: ReadAsked; matching: Matching | null }
    | ({
        do: "assemble";
        job: Job;
        /** As JSON: what the design lacks is seen with its rules, completed by the library. Null where nobody asks. */
        shop: string | null;
        library: DesignJson | null;
      } & ArrivedFiles)
    | { do: "recognise drawing"; file: ReceivedFile; name: string; kept: KeptMatching[] }
    /** How one of the drawings looks, and what it is taken for with the others. */
    | ({ do: "look at drawing"; drawing: number } & ArrivedFiles);
};

/** Tables and drawings of which it is known what they are. */
export interface ArrivedFiles {
  tables: { file: ReceivedFile; name: string; asked: ReadAsked; matching: Matching }[];
  drawings: { file: ReceivedFile; name: string; said: DrawingSaid }[];
}
/** Without the cells. */
export type RecognisedTable = Omit<Recognised, "sheet"> & { headings: string[]; rows: number };
export type RecogniseAnswer =
  { ok: true; form: string; separator: string | null; tables: RecognisedTable[] } | ({ ok: false } & NoTable);
export type LookAnswer = ({ ok: true; guess: Matching | null } & TableLook) | ({ ok: false } & NoTable);
export type AssembleAnswer = {
  read: ReadAnswer;
  notRead: NotRead[];
  counts: ArrivalOutlook["counts"];
  lacks: ArrivalOutlook["lacks"];
};
export type DrawingAnswer = ({ ok: true } & Pick<ArrivedDrawing, "version" | "things" | "said" | "by">) | NoDrawing;
export type DrawingLookAnswer = { ok: true; look: DrawingLook } | NoDrawing;
type NoDrawing = { ok: false } & NoTable;
export type TablesAnswerTo<T extends TablesTask["what"]> = T extends { do: "recognise" }
  ? RecogniseAnswer
  : T extends { do: "look" }
    ? LookAnswer
    : T extends { do: "recognise drawing" }
      ? DrawingAnswer
      : T extends { do: "look at drawing" }
        ? DrawingLookAnswer
        : AssembleAnswer;

export type Task =
  | TablesTask
  | AttachmentsTask
  | PackTask
  | LibraryTask
  | DrawTask
  | IndexTask
  | ReadTask
  | ComputeTask
  | FilesTask
  | LayTask
  | CompareTask
  | DifferTask
  | AskTask;

interface LibraryAnswers {
  read: LibraryAnswer;
  write: LibraryAnswer;
  file: Uint8Array;
  outline: OutlineAnswer;
  part: PartAnswer;
  differ: LibraryChanges;
}

interface Answers {
  pack: Uint8Array;
  draw: DrawAnswer;
  index: IndexAnswer;
  read: ReadAnswer;
  compute: ComputeAnswer;
  files: FilesAnswer;
  lay: LayAnswer;
  compare: CompareAnswer;
  differ: DifferAnswer;
  /** Whatever the question says. */
  ask: unknown;
}

/** What is answered to a task. */
export type AnswerTo<T extends Task> = T extends { kind: "tables"; what: infer W extends TablesTask["what"] }
  ? TablesAnswerTo<W>
  : T extends { kind: "library"; what: { do: infer D extends keyof LibraryAnswers } }
    ? LibraryAnswers[D]
    : T extends { kind: "attachments"; what: { do: infer D } }
      ? D extends "read"
        ? DocumentAnswer
        : FindAnswer
      : T extends { kind: infer K extends keyof Answers }
        ? Answers[K]
        : never;
