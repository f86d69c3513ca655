import { form, listOf, maybe, objectOf, orNull, type ValueOf } from "@gray-bench/core/form/form";
import type { Fault } from "@gray-bench/core/design/faults";
import { type DrawingSaid, drawingSchema } from "@gray-bench/core/drawings/said";
import type { NotRead } from "@gray-bench/core/tables/assemble";
import type { TableKind } from "@gray-bench/core/tables/fields";
import {
  type KeptMatching,
  askedSchema,
  keptDrawingsSchema,
  keptTablesSchema,
  matchingSchema,
} from "@gray-bench/core/tables/kept";
import type { Matching } from "@gray-bench/core/tables/matching";
import type { Preview } from "@gray-bench/core/tables/preview";
import type { ReadAsked } from "@gray-bench/core/tables/read";
import type { LeftOut } from "@gray-bench/core/tables/sheet";
import Joi from "joi";
import type { ArrivedAttachment } from "./attachments";
import { code, line, fileName } from "./common";
import type { ImportOutlook } from "./jobs";

/** Files that have come in and are not a job yet, or a new revision of one: each table with what its columns are. */
export interface Arrival {
  id: string;
  /** Counts its changes: who changes it says which one was seen. */
  version: number;
  /** The job of which it is to be a new revision; null where it becomes a new one. */
  of: string | null;
  job: ArrivalJob;
  tables: ArrivedTable[];
  drawings: ArrivedDrawing[];
  /** The schematic and pictures: they are kept with the job as they are. */
  attachments: ArrivedAttachment[];
  at: string;
}

/** One drawing, and what it is taken for. */
export interface ArrivedDrawing {
  /** Hash of the file as received. */
  file: string;
  /** As the file is called. */
  name: string;
  bytes: number;
  /** Version of its form, as it names it. */
  version: string;
  /** Things drawn. */
  things: number;
  said: DrawingSaid;
  /** Name of the kept matching it was taken for what it is by; null where it was guessed, or said. */
  by: string | null;
}

/** What no table says. Empty until somebody has. */
export interface ArrivalJob {
  code: string;
  title: string;
  revision: string;
  customer: string;
  due: string;
}

/** One table: a file, or a sheet of one. */
export interface ArrivedTable {
  /** Hash of the file as received. */
  file: string;
  /** As the file is called. */
  name: string;
  bytes: number;
  asked: ReadAsked;
  /** Null: it is left out. */
  matching: Matching | null;
  /** Name of the kept matching it was found in; null where it was guessed. */
  by: string | null;
  /** How it was read, and how much of it there is. */
  form: string;
  rows: number;
}

/** A table as it stands in its file, and as it would be read. */
export interface TableLook {
  form: string;
  separator: string | null;
  headings: string[];
  headingLine: number | null;
  rows: number;
  /** The first rows as they stand there. */
  sample: { line: number; cells: string[] }[];
  /** Lines above the headings or around them, of the first ones of the file: one of them may be the headings. */
  leftOut: LeftOut[];
  leftOutCount: number;
  preview: Preview | null;
  /** Of each kind of table what its columns would be. */
  guesses: Record<TableKind, Matching["columns"]>;
}

/** What an arrival would become. */
export interface ArrivalOutlook {
  counts: { devices: number; wires: number; strips: number; cables: number; nets: number; parts: number };
  /** At most 200 of `notReadCount`. */
  notRead: NotRead[];
  notReadCount: number;
  /** Why it cannot become a job yet; null where it can. */
  refused: { faults: Fault[]; count: number } | null;
  /** What the design would lack, gathered: the worst first. */
  lacks: { severity: "stop" | "check" | "note"; kind: string; count: number; text: string; remedy: string }[];
  /** What it would change; null while it cannot become a job. */
  outlook: ImportOutlook | null;
}

/** The files that a revision was made of. */
export interface SourceList {
  revision: string;
  files: {
    file: string;
    name: string;
    bytes: number;
    tables: Pick<ArrivedTable, "asked" | "matching">[];
    /** Of a drawing what it is taken for. */
    said: DrawingSaid | null;
  }[];
}

const arrivalName = form(
  Joi.string()
    .pattern(/^[0-9a-f]{12}$/)
    .description("name of what has arrived"),
);

export const arrivalParams = objectOf({
  arrival: arrivalName,
});

export const arrivedTableParams = objectOf({
  arrival: arrivalName,
  table: form(Joi.number().integer().min(1).max(200).description("number of a table in it, counted from 1")),
});

export const arrivedDrawingParams = objectOf({
  arrival: arrivalName,
  drawing: form(Joi.number().integer().min(1).max(50).description("number of a drawing in it, counted from 1")),
});

export const sourceParams = objectOf({
  job: code,
  file: form(
    Joi.string()
      .pattern(/^[0-9a-f]{64}$/)
      .description("hash of a file as received"),
  ),
});

const matchingName = form(Joi.string().trim().min(1).max(80));

export const matchingParams = objectOf({
  name: matchingName.description("name of a matching"),
});

export const arrivedFileQuery = objectOf({
  name: fileName,
});

export const versionQuery = objectOf({
  version: form(Joi.number().integer().min(0).description("of the arrival, as it was seen")),
});

export const takeQuery = objectOf({
  version: form(Joi.number().integer().min(0).description("of the arrival, as it was seen")),
  who: maybe(form(Joi.string().trim().min(1).max(120).description("name of whoever does it"))),
});

export const MOST_ARRIVED_TABLES = 200;

export const newArrival = objectOf({
  of: orNull(code),
});

const receivedFile = form(Joi.string().pattern(/^[0-9a-f]{64}$/));

const receivedName = form(Joi.string().min(1).max(200));

const keptBy = orNull(form(Joi.string().max(80)));

export const MOST_ARRIVED_DRAWINGS = 20;

export const MOST_ARRIVED_ATTACHMENTS = 50;

export const arrivalChange = objectOf({
  version: form(Joi.number().integer().min(0)),
  job: objectOf({
    code: line(120),
    title: line(400),
    revision: line(120),
    customer: line(400),
    due: line(40),
  }),
  tables: listOf(
    objectOf({
      file: receivedFile,
      name: receivedName,
      asked: askedSchema,
      matching: orNull(matchingSchema),
      by: keptBy,
    }),
  ).max(MOST_ARRIVED_TABLES),
  drawings: listOf(
    objectOf({
      file: receivedFile,
      name: receivedName,
      said: drawingSchema,
      by: keptBy,
    }),
  )
    .unique("name")
    .max(MOST_ARRIVED_DRAWINGS),
  attachments: listOf(
    objectOf({
      file: receivedFile,
      name: receivedName,
    }),
  ).max(MOST_ARRIVED_ATTACHMENTS),
});
/** What of an arrival can be changed. */
export interface ArrivalChange extends ValueOf<typeof arrivalChange> {}

export const keepMatching = objectOf({
  tables: keptTablesSchema,
  drawings: maybe(keptDrawingsSchema),
}).custom((kept: Pick<KeptMatching, "tables" | "drawings">, helpers) =>
  kept.tables.length + (kept.drawings?.length ?? 0) > 0 ? kept : helpers.error("any.required"),
);

export interface MatchingList {
  matchings: KeptMatching[];
}
