import type { Measured } from "./figure";
import type Joi from "joi";
import type { StageName } from "../stage-names";
import type { Face } from "./face";
import type { FileOut } from "./file-out";
import type { Design } from "../design/model";
import type { AnyQuestion } from "./question";
import type { OpenPoint, Thing } from "../design/open-points";
import type { StageReads } from "./reads";
import type { Shop } from "../shop/shop";
import type { Stock } from "../design/stock";
import type { Working } from "./working";

export interface StageResult {
  open: OpenPoint[];
}

/** One of the few numbers a job is known by. */
export type Figure = Measured & {
  /** Unique among the figures of its stage. */
  id: string;
  label: string;
  /** `510 of 512` */
  outOf?: number;
  /** As lists of jobs say it: `512 wires`. Only the figures that belong there have one. */
  short?: string;
  /** View of the stage where it is seen, with what is chosen there. */
  query: Record<string, string>;
};

/** Words with a length in them, which stands in the units of whoever reads: `3 wires longer by {mm} in all`. */
export interface Told {
  text: string;
  mm?: number;
}

/** What a stage is given: only what it reads of design and shop, and the results it needs. */
export interface StageInput<Needs> {
  design: Design;
  shop: Shop;
  results: Needs;
  /** Share done, 0 to 1. */
  progress?: (share: number) => void;
}

/** What files are written from: the whole design and shop, and the results of the stage and its needs. */
export type FilesInput<Result, Needs> = Omit<StageInput<Needs>, "progress"> & {
  result: Result;
  /** What the store says, where anybody has asked it. */
  stock?: Stock | null;
};

/** What a number may be asked for by, e.g. `{ of: "length", wire: "12" }`. */
export interface Explaining<Result, Needs, Subject> {
  schema: Joi.ObjectSchema;
  /** Null when the thing is not there. */
  working(input: FilesInput<Result, Needs>, subject: Subject): Working | null;
}

/** A document that is drawn as somebody asks for it, e.g. `{ strip: "-X2", as: "pdf", scale: 2 }`. */
export interface Drawing<Result, Needs, Wanted> {
  /** What is drawn, and the name of the field that names it. */
  of: Thing;
  schema: Joi.ObjectSchema;
  /** Null when the thing is not there. */
  draw(input: FilesInput<Result, Needs>, wanted: Wanted): Promise<FileOut | null>;
}

/** All that is to be known of a stage: how it is seen, and what computes, compares and writes. Whoever runs stages goes by these records and knows none by name. */
export interface Stage<
  Result extends StageResult = StageResult,
  Needs extends object = object,
  Subject = never,
  Wanted = never,
> extends Face {
  /** Raised whenever it computes something else from the same input: older results no longer count. */
  version: number;
  needs: readonly (keyof Needs & StageName)[];
  reads: StageReads;
  compute(input: StageInput<Needs>): Result;
  explain?: Explaining<Result, Needs, Subject>;
  drawing?: Drawing<Result, Needs, Wanted>;
  figures(result: Result): Figure[];
  /** What a change came to; empty when nothing worth saying differs. */
  compare?(before: Result, after: Result): Told[];
  makeFiles?(input: FilesInput<Result, Needs>): Promise<FileOut[]>;
  /** What it can be asked beside its result. */
  questions?: readonly AnyQuestion[];
}

/** A stage as those see it who run all of them. */
export interface AnyStage extends Omit<
  Stage,
  "needs" | "compute" | "compare" | "explain" | "drawing" | "makeFiles" | "figures"
> {
  needs: readonly StageName[];
  compute(input: StageInput<never>): StageResult;
  explain?: Explaining<never, never, never>;
  drawing?: Drawing<never, never, never>;
  figures(result: never): Figure[];
  compare?(before: never, after: never): Told[];
  makeFiles?(input: FilesInput<never, never>): Promise<FileOut[]>;
}
