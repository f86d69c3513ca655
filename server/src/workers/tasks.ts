import type { DesignHead, JobFigures, StageSummary } from "@gray-bench/contract/api";
import type { LoggedEdit } from "@gray-bench/core/design/edits";
import type { Fault } from "@gray-bench/core/design/faults";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { StageName } from "@gray-bench/core/stage-names";
import type { MessagePort } from "node:worker_threads";

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

export type ComputeTask = { kind: "compute"; json: Uint8Array; port: MessagePort };
export interface StoredBytes {
  name: string;
  type: string;
  etag: string;
  bytes: Uint8Array;
}
export interface Summary {
  stages: StageSummary[];
  open: PointCount;
  figures: JobFigures;
}
export type ComputeAnswer = StoredBytes[];
export type StageMessage = { stage: StageName; share: number };

/** Files are written from stored results, which are not computed again. */
export type FilesTask = { kind: "files"; stages: Record<string, Uint8Array>; open: Uint8Array };
export type FilesAnswer = StoredBytes[];

/** An edit that does not fit the design as received. */
export interface NotLaid {
  id: string;
  sentence: string;
  reason: string;
  remedy: string;
}

/** Lays the edits of a job on a design as received, with new ones after them or one of them turned. */
export type LayTask = {
  kind: "lay";
  received: Uint8Array;
  log: LoggedEdit[];
  add: LoggedEdit[];
  turn: { id: string; back: LoggedEdit["back"] } | null;
};
export type LayAnswer =
  | { ok: true; hash: string; json: Uint8Array; head: DesignHead; unfitting: NotLaid[] }
  /** A new edit does not fit, or others stand on the one that is turned. */
  | { ok: false; index: number; reason: string; remedy: string }
  | { ok: false; standing: NotLaid[] };

export type Task = ReadTask | ComputeTask | FilesTask | LayTask;
