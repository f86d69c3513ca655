import type { LibraryPart } from "@gray-bench/core/design/schema";
import { filled, form, listOf, maybe, objectOf, oneOf, type ValueOf } from "@gray-bench/core/form/form";
import type { ThingChanges } from "@gray-bench/core/design/changes";
import type { LibraryChanges } from "@gray-bench/core/library/library";
import { LIBRARY_WAYS, type LibraryTold } from "@gray-bench/core/tables/library-ways";
import Joi from "joi";
import { libraryHash, who } from "./common";

/** A version of the library. */
export interface LibraryVersion {
  number: number;
  hash: string;
  parts: number;
  who: string;
  when: string;
  why: string | null;
}

export interface LibraryVersions {
  /** Newest first; empty as long as there is no library. */
  versions: LibraryVersion[];
}

/** What a library would change, before it becomes a version. */
export interface LibraryOutlook {
  parts: number;
  changes: LibraryChanges;
  /** It is the same as the one that counts. */
  already: boolean;
  /** How the file was read. */
  told: LibraryTold;
}

/** Jobs that a part is used in. */
export interface PartUses {
  jobs: PartUse[];
  /** So many jobs were looked through, the newest first, of all there are. */
  looked: number;
  all: number;
}

export interface PartUse {
  job: string;
  title: string;
  /** The number by which the job names it. */
  as: string;
  /** Devices, rails, ducts, wires and cables of it; 0: it is only among its parts. */
  uses: number;
  /** Version of the library that completes the job; null: none. */
  version: number | null;
  /** Its version says something else of the part than the newest one: what is computed of it changes when that is taken over. */
  changes: boolean;
}

/** What another version would do to a job. */
export interface LibraryEffect {
  things: ThingChanges[];
  /** Edits of the job that would not fit any more. */
  unfitting: { sentence: string; reason: string }[];
}

const libraryWay = oneOf(LIBRARY_WAYS).description(
  "whole: the file is the library; into: it is written into the one there is, field by field",
);

export const libraryLook = objectOf({
  how: maybe(libraryWay),
});

export const libraryFile = objectOf({
  as: filled(oneOf(["json", "csv", "xlsx"]), "json"),
});

export const partUsesQuery = objectOf({
  part: form(Joi.string().min(1).max(120)),
});

export const libraryQuery = objectOf({
  how: maybe(libraryWay),
  on: libraryHash.allow("").description("hash of the version it was made on; empty where there was none"),
  who: form(Joi.string().trim().min(1).max(120)),
  why: maybe(form(Joi.string().trim().min(1).max(500))),
});
/** Of a version of the library: who, why, and on which one it was made. */
export interface LibraryQuery extends ValueOf<typeof libraryQuery> {}

export const MOST_PARTS_CHANGED = 1000;

const partNumber = form(Joi.string().min(1).max(120));

export const libraryChange = objectOf({
  on: libraryHash.allow(""),
  who: form(Joi.string().trim().min(1).max(120)),
  why: maybe(form(Joi.string().trim().min(1).max(500))),
  parts: listOf<LibraryPart>(objectOf({ number: partNumber }).unknown())
    .unique("number")
    .max(MOST_PARTS_CHANGED),
  gone: maybe(listOf(partNumber).max(MOST_PARTS_CHANGED)),
});
/** Some parts of the library written anew, added, or taken out. Their form is looked at as that of a file. */
export interface LibraryChange extends ValueOf<typeof libraryChange> {}

export const libraryTakeOver = objectOf({
  library: maybe(libraryHash),
  who,
});
