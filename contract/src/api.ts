import Joi from "joi";
import type { DocumentsFound } from "@gray-bench/core/attachments/find";
import type { PageFound } from "@gray-bench/core/attachments/places";
import type { ThingChanges } from "@gray-bench/core/design/changes";
import type { LibraryChanges, LibraryPart } from "@gray-bench/core/library/library";
import { LIBRARY_WAYS, type LibraryTold, type LibraryWay } from "@gray-bench/core/tables/library-ways";
import type { Fault } from "@gray-bench/core/design/faults";
import type { RuleOverrides } from "@gray-bench/core/design/model";
import type { Entry } from "@gray-bench/core/design/find";
import type { PointCount, Thing } from "@gray-bench/core/design/open-points";
import type { Shop } from "@gray-bench/core/shop/shop";
import type { Figure, Told } from "@gray-bench/core/frame/stage";
import type { Need, StepStart } from "@gray-bench/core/kits/needs";
import { EVENT_KINDS } from "@gray-bench/core/event-kinds";
import { eventForm, MOMENT, type AnyEventKind } from "@gray-bench/core/frame/event-kind";
import type { Happened } from "@gray-bench/core/frame/events";
import { PICK } from "@gray-bench/core/kits/event-kind";
import type { PickEvent } from "@gray-bench/core/kits/events";
import { LEAD } from "@gray-bench/core/wireprep/event-kind";
import type { BillLine, Kit } from "@gray-bench/core/kits/result";
import type { LeadEvent } from "@gray-bench/core/wireprep/events";
import { MOST_PANELS, type BatchAsked, type MadeBatch } from "@gray-bench/core/wireprep/batch";
import { WAYS, type BatchPlan } from "@gray-bench/core/wireprep/result";
import { STAGE_NAMES, type StageName } from "@gray-bench/core/stage-names";
import type { NotRead } from "@gray-bench/core/tables/assemble";
import { drawingSchema, type DrawingSaid } from "@gray-bench/core/drawings/said";
import {
  askedSchema,
  keptDrawingsSchema,
  keptTablesSchema,
  matchingSchema,
  type KeptMatching,
} from "@gray-bench/core/tables/kept";
import type { TableKind } from "@gray-bench/core/tables/fields";
import type { Matching } from "@gray-bench/core/tables/matching";
import type { Preview } from "@gray-bench/core/tables/preview";
import type { ReadAsked } from "@gray-bench/core/tables/read";
import type { LeftOut } from "@gray-bench/core/tables/sheet";

/** What app and server say to each other. */

/** The one shape of every error. */
export interface ErrorBody {
  /** Stable, e.g. `design.refused` */
  code: string;
  message: string;
  /** Place: a path in the file, a parameter, a job. */
  where: string;
  /** What to do now. */
  remedy: string;
  /** Of a refused file, at most 500. */
  faults?: Fault[];
  /** How many faults there were in all. */
  faultCount?: number;
  /** What others did since, when somebody else was first. */
  changed?: string[];
  /** Edits that stand on the one that was to be taken back. */
  standing?: string[];
  /** Of a fault of the server: under this its log has the reason. */
  id?: string;
}

export type StageState = "ready" | "open" | "stale" | "not started";

export interface StageSummary {
  stage: StageName;
  state: StageState;
  open: PointCount;
}

export type RunState = "waiting" | "running" | "done" | "failed" | "cancelled";

/** One of the numbers a job is known by, with the stage that states it. */
export type JobFigure = Figure & {
  stage: StageName;
};

export interface JobSummary {
  code: string;
  title: string;
  customer: string | null;
  due: string | null;
  revision: string;
  importedAt: string;
  designHash: string;
  run: RunState;
  stages: StageSummary[];
  open: PointCount;
  /** Of the last computation; null before the first. */
  figures: JobFigure[] | null;
  /** Of the computation of this design with this shop, ended or not. */
  key: string;
  /** Key of each stage's result: equal keys, equal results. Null until the design that counts is computed. */
  keys: Record<string, string> | null;
  /** Hash of the shop the job is computed with. */
  shopHash: string;
  /** Whether the shop has changed since; the job keeps its own until somebody takes over the newer one. */
  shopNewer: boolean;
  /** The library that completes it; empty: none. */
  libraryHash: string;
  /** The library has another version that counts for jobs to come. */
  libraryNewer: boolean;
}

/** The small part of a design that every view of a job wants. */
export interface DesignHead {
  enclosures: { tag: string; text: string; w: number; h: number; d: number }[];
  /** Side of the door hinge by enclosure. */
  hinges: Record<string, "left" | "right">;
  /** The job's own rules, on top of the shop's. */
  rules: RuleOverrides;
  options: { key: string; text: string; chosen: string; choices: string[] }[];
}

/** An edit as the history shows it. */
export interface EditEntry {
  id: string;
  kind: string;
  payload: unknown;
  sentence: string;
  touches: { thing: Thing; of: string }[];
  who: string;
  when: string;
  why: string | null;
  back: { who: string; when: string } | null;
  /** Why it does not fit the design as received, when it does not. */
  unfitting: { reason: string; remedy: string } | null;
}

export interface EditLog {
  /** Of the design with its edits. */
  designHash: string;
  /** Of the design as received. */
  receivedHash: string;
  edits: EditEntry[];
}

export interface EditRequest {
  /** Hash of the design that was before whoever edits. */
  on: string;
  who: string;
  edits: { kind: string; payload: unknown; why?: string }[];
}

export interface EditReply {
  designHash: string;
  /** One for each edit. */
  ids: string[];
  sentences: string[];
}

export interface JobDetail extends JobSummary, DesignHead {
  revisions: { revision: string; designHash: string; importedAt: string }[];
  files: { name: string; text: string; stage: StageName | null }[];
}

/** One version of the shop's rules. */
export interface ShopVersion {
  number: number;
  hash: string;
  who: string;
  when: string;
  why: string | null;
  /** What it changed against the one before, in sentences. */
  changes: string[];
}

export interface ShopReply extends ShopVersion {
  shop: Shop;
}

export interface ShopRequest {
  /** Hash of the shop that was before whoever changes it. */
  on: string;
  who: string;
  why?: string;
  shop: unknown;
}

/** What a change would do to the numbers of a job. */
export interface Outlook {
  figures: { stage: StageName; id: string; label: string; unit: Figure["unit"]; before: number; after: number }[];
  open: { before: PointCount; after: PointCount };
  words: Told[];
}

/** What a changed shop would do to one job. */
export interface ShopEffect extends Outlook {
  code: string;
  title: string;
}

export interface ShopEffects {
  jobs: ShopEffect[];
  /** Jobs that could not be computed, with the reason: they do not keep the others from being told. */
  failed: { code: string; title: string; why: string }[];
  /** Of so many jobs in all. */
  total: number;
}

/** What edits, or a new revision, would do to a job: what comes, goes and changes, and its numbers. */
export interface DesignOutlook extends Outlook {
  things: ThingChanges[];
}

/** What a design file would do, before it is taken. */
export interface ImportOutlook {
  code: string;
  title: string;
  revision: string;
  /** The revision it would replace; null for a new job. */
  replaces: string | null;
  /** The very same design is there already. */
  already: boolean;
  /** Another design has this revision: it would be refused. */
  taken: boolean;
  things: ThingChanges[];
  /** Edits of the job that would not fit any more. */
  unfitting: { sentence: string; reason: string }[];
}

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

/** A file that goes with the job as it is. */
export type ArrivedAttachment = Pick<Attachment, "file" | "name" | "bytes" | "type" | "pages" | "empty">;

export const ATTACHMENT_TYPES = ["application/pdf", "image/png", "image/jpeg", "image/webp"] as const;
export type AttachmentType = (typeof ATTACHMENT_TYPES)[number];

export const ATTACHED_TO = ["device", "wire", "strip", "cable", "part"] as const;
export type AttachedTo = (typeof ATTACHED_TO)[number];

/** A file kept with a job, or with one of its things. */
export interface Attachment {
  id: string;
  /** As the file is called. */
  name: string;
  type: AttachmentType;
  bytes: number;
  /** Hash of the file as received. */
  file: string;
  /** The thing it is of; null: the whole job. */
  thing: AttachedTo | null;
  of: string | null;
  at: string;
  who: string | null;
  /** Of a document; null of a picture. */
  pages: number | null;
  /** Pages without any text: nothing can be found on them. */
  empty: number;
  /** When it was taken off; it can be put back for a while. */
  gone: string | null;
}

export interface AttachmentList {
  attachments: Attachment[];
}

/** What is found in the documents of a job. */
export type JobFound = DocumentsFound;

/** A page with what stands on it. */
export interface AttachedPage extends PageFound {
  page: number;
  sheet: string;
  w: number;
  h: number;
  trouble: string | null;
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

/** What a change came to, between two computations of a job. */
export interface Effect {
  words: Told[];
  /** Open points that are gone, and those that are new. */
  solved: number;
  raised: number;
}

export interface ImportReply {
  /** True when the very same design was there before; nothing was changed. */
  already: boolean;
  job: JobSummary;
}

/** Ticks in the form of before: `agoMs` says how long ago each was made, by the clock of whoever ticked. */
export interface OldTicks {
  /** `strip -X2` */
  list: string;
  who: string;
  ticks: { id: string; item: string; done: boolean; agoMs?: number }[];
}

/** A program in the queue of a machine. */
export interface MachineJob {
  /** Its number on the machine; they begin anew when it is started anew. */
  id: number;
  /** The name under which it was sent; null of one that went there another way. */
  name: string | null;
  title: string;
  state: "waiting" | "running" | "done" | "fault" | "stopped";
  /** 0 to 1. */
  progress: number;
  line: number;
  /** Machine time so far. */
  seconds: number;
  fault: { line: number; text: string } | null;
}

export interface MachineNow {
  name: string;
  state: "idle" | "running" | "fault" | "away";
  /** When it was last heard of; what stands of its queue is of then. */
  heardAt: string | null;
  jobs: MachineJob[];
  why?: string;
}

export interface MachineList {
  machines: MachineNow[];
}

export interface ProgramRequest {
  /** Given by whoever sends it: the same one asked twice is sent once. */
  id: string;
  machine: string;
  face: string;
  setUp: number;
  /** Number of the sheet it is for. */
  sheet: number;
}

export interface ProgramReply {
  machine: string;
  /** The name under which it went there: no other program ever has it. */
  program: string;
  /** Its number there; null where the machine left before it said one: it may have it all the same. */
  id: number | null;
}

/** What happened: of a kind, and of one thing where the things of a kind have logs of their own. */
export interface EventQuery {
  kind: string;
  /** Of ticks their list, of leads their batch. */
  thing?: string;
  /** Number of the last event that is known. */
  since: number;
}

/** Somebody at work with a thing just now, and with what part of it; empty between two. */
export interface Here {
  /** Of the device. */
  device: string;
  who: string;
  thing: string;
  part: string;
}

/** Told on the live line of a job: something of a kind happened, to this thing where things of the kind have logs of their own. */
export interface LiveEvent {
  kind: string;
  thing?: string;
  /** Number of the last event: who knows it need not ask. Absent where somebody is at work with something else. */
  last?: number;
}

/** What is told on the live line of a job, by the name of the event. */
export interface LiveWords {
  happened: LiveEvent;
  /** The job is another one now: its design, or the shop it is computed with. Who knows the key need not ask. */
  changed: { key: string };
  /** How far the computation under a key is. */
  progress: ProgressEvent & { key: string };
}

/** Somebody else at work, and whether they were there before the asker came to what it is at now. */
export type Beside = Here & { before: boolean };

/** Events that came after a number. */
export interface EventReply<E extends Happened = Happened> {
  events: E[];
  /** Number of the last one. */
  last: number;
  /** Who is at work now, the asker left out. */
  here: Beside[];
}

export interface EventRequest<E extends Happened = Happened> extends EventQuery {
  events: E[];
  /** What the clock of the device says as it sends. */
  clock?: string;
  here?: Here;
}

/** How the stock service is, as far as it was heard of. */
export interface StockNow {
  /** `none`: the server was started without one. */
  state: "none" | "here" | "away" | "refuses" | "unclear";
  /** When the levels are of, ISO; null while none were ever heard of. */
  at: string | null;
  why?: string;
  /** Picks it has not been told of yet, with what it said to the first of them last; and those it refused. */
  waiting: number;
  waitingWhy?: string | null;
  refused: { job: string; kit: string; line: string; why: string }[];
}

/** What is reserved for a job in the store. */
export interface ReservationNow {
  at: string;
  who: string;
  lines: { part: string; quantity: number }[];
  /** Given back, but the store has not been told yet. */
  releasing: boolean;
}

/** A job as it stands among others that want parts. */
export interface NeedingJob {
  job: string;
  title: string;
  due: string | null;
  /** When its kits are wanted: so many days before it is due. */
  wanted: string | null;
}

/** What one job needs against what is in the store. */
export interface JobNeedsReply {
  stock: StockNow;
  job: NeedingJob;
  needs: Need[];
  starts: StepStart[];
  reservation: ReservationNow | null;
}

export interface AllNeedsReply {
  stock: StockNow;
  jobs: NeedingJob[];
  needs: Need[];
  /** Jobs that are not among them: there are more than are looked at. */
  left: number;
}

/** Bill and kits of an earlier revision of a job. */
export interface BillOf {
  revision: string;
  /** Whether the edits made to it are in it: `none`, if there were none; `lost`, if they are not kept any more. */
  edits: "in" | "none" | "lost";
  bill: BillLine[];
  kits: Kit[];
}

/** Somebody with a kit in the hand. */
export interface Picker {
  /** Of the device. */
  device: string;
  who: string;
  kit: string;
  /** The line that is being fetched; empty between two. */
  line: string;
}

export interface PickReply {
  /** Those after the number that was asked for. */
  events: PickEvent[];
  /** Number of the last one. */
  last: number;
  /** Who is at work now, the asker left out. */
  pickers: Picker[];
}

export interface PickRequest {
  /** Number of the last event that is known. */
  since: number;
  events: PickEvent[];
  here?: Picker;
}

/** What a machine for leads, or a printer for labels, waits for. */
export interface WireWait {
  kind: "reel" | "magazine" | "jam" | "roll";
  /** Wire or piece that is wanted, or roll. */
  what: string;
  /** The one that was there has run out. */
  out: boolean;
}

export interface WireMachineNow {
  name: string;
  /** What it takes: leads, or labels. */
  takes: "leads" | "labels";
  state: "idle" | "running" | "waiting" | "away";
  /** When it was last heard of; what else is told is of then. */
  heardAt: string | null;
  why?: string;
  wait: WireWait | null;
  reel: { reel: string; metres: number } | null;
  /** Pieces left in each magazine. */
  magazines: { part: string; left: number }[];
  /** Seconds until it is through. */
  readyS: number;
  /** File it is at. */
  file: string | null;
}

export interface WireMachineList {
  machines: WireMachineNow[];
}

/** A file that went to a machine, or is on its way. */
export interface RunNow {
  name: string;
  takes: "leads" | "labels";
  machine: string;
  /** `sending`: it may be there or not, which is found out before it is sent again. */
  state: "sending" | "sent" | "ended" | "refused";
  why: string | null;
  at: string;
  /** Lead and attempt, in the order of the file. */
  leads: [lead: string, attempt: number][];
  /** Who had it sent; empty where that was not written down yet. */
  who: string;
}

/** What was done to the whole: it stays when a job goes. */
export interface AuditEntry {
  seq: number;
  at: string;
  what: "import" | "delete" | "matching" | "library" | "shop" | "stop" | "send" | "print" | "program" | "backup";
  job: string | null;
  /** As the name was given; null where none was. */
  who: string | null;
  /** Where it came from. */
  address: string;
  detail: string;
}

export interface AuditList {
  entries: AuditEntry[];
}

export interface BatchSummary {
  name: string;
  machine: string | null;
  panels: number;
  leads: number;
  bench: number;
  made: number;
  again: number;
  who: string;
  at: string;
  /** What was not made is free again. */
  endedAt: string | null;
}

export interface BatchList {
  batches: BatchSummary[];
  /** Leads of the job, and how many of them are in no batch. */
  leads: number;
  free: number;
}

export interface BatchReply {
  summary: BatchSummary;
  batch: MadeBatch;
  events: LeadEvent[];
  runs: RunNow[];
  /** Revision it was made at, and whether leads are made otherwise by now. */
  revision: string;
  changed: string[];
}

/** What a batch would be. */
export interface BatchOutlook {
  plan: BatchPlan;
}

export type BatchRequest = Omit<BatchAsked, "name"> & { who: string };

export interface LeadRequest {
  events: LeadEvent[];
}

/** Sent as server-sent events while a job is computed. */
export interface ProgressEvent {
  run: RunState;
  stage: StageName | null;
  /** 0 to 1, of this stage. */
  share: number;
  message?: string;
}

export interface SearchHit extends Entry {
  job: string;
}

export interface SearchReply {
  hits: SearchHit[];
  /** Jobs whose tags and numbers were looked through, of all. Names of jobs are always looked through. */
  looked: number;
  jobs: number;
}

/** A page of the jobs, the one due first at the top. */
export interface JobList {
  jobs: JobSummary[];
  /** How many there are in all that fit. */
  total: number;
}

export interface JobsQuery {
  q?: string;
  /** Only jobs that are computed with an older shop. */
  older: boolean;
  from: number;
  most: number;
}

const hash = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()
  .description("hash of the design it was made on");
const who = Joi.string().trim().min(1).max(120).required();

export const editRequest = Joi.object<EditRequest, true>({
  on: hash,
  who,
  edits: Joi.array()
    .items(
      Joi.object({
        kind: Joi.string().max(60).required(),
        payload: Joi.object().required(),
        why: Joi.string().max(500),
      }),
    )
    .min(1)
    .max(1000)
    .required(),
});

export const shopRequest = Joi.object<ShopRequest>({
  on: hash,
  who,
  why: Joi.string().max(500),
  shop: Joi.object().required(),
});

export const shopProposal = Joi.object<{ shop: unknown }>({ shop: Joi.object().required() });

/** `shop`: the version to compute the job with; the newest when absent. */
export const takeOverRequest = Joi.object<{ shop?: string; who: string }, true>({
  shop: Joi.string().pattern(/^[0-9a-f]{64}$/),
  who,
});

export const outlookRequest = Joi.object<Pick<EditRequest, "edits">>({
  edits: editRequest.extract("edits").required(),
});

export const turnRequest = Joi.object<{ on: string; who: string }, true>({ on: hash, who });

const code = Joi.string()
  .max(120)
  .pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/)
  .required()
  .description("job code");

export const jobParams = Joi.object<{ job: string }>({ job: code });

/** Of a version of the library: who, why, and on which one it was made. */
export interface LibraryQuery {
  how: LibraryWay;
  on: string;
  who: string;
  why?: string;
}

const libraryHash = Joi.string().pattern(/^[0-9a-f]{64}$/);

const libraryWay = Joi.string()
  .valid(...LIBRARY_WAYS)
  .default("whole")
  .description("whole: the file is the library; into: it is written into the one there is, field by field");

export const libraryLook = Joi.object<{ how: LibraryWay }>({ how: libraryWay });

export const libraryFile = Joi.object<{ as: "json" | "csv" | "xlsx" }>({
  as: Joi.string().valid("json", "csv", "xlsx").default("json"),
});

export const partUsesQuery = Joi.object<{ part: string }>({ part: Joi.string().min(1).max(120).required() });

export const libraryQuery = Joi.object<LibraryQuery>({
  how: libraryWay,
  on: libraryHash.allow("").required().description("hash of the version it was made on; empty where there was none"),
  who: Joi.string().trim().min(1).max(120).required(),
  why: Joi.string().trim().min(1).max(500),
});

export const MOST_PARTS_CHANGED = 1000;

/** Some parts of the library written anew, added, or taken out. Their form is looked at as that of a file. */
export interface LibraryChange {
  on: string;
  who: string;
  why?: string;
  parts: LibraryPart[];
  gone?: string[];
}

const partNumber = Joi.string().min(1).max(120);

export const libraryChange = Joi.object<LibraryChange, true>({
  on: libraryHash.allow("").required(),
  who: Joi.string().trim().min(1).max(120).required(),
  why: Joi.string().trim().min(1).max(500),
  parts: Joi.array()
    .items(Joi.object({ number: partNumber.required() }).unknown())
    .unique("number")
    .max(MOST_PARTS_CHANGED)
    .required(),
  gone: Joi.array().items(partNumber).max(MOST_PARTS_CHANGED),
});

export const libraryTakeOver = Joi.object<{ library?: string; who: string }, true>({ library: libraryHash, who });

const arrivalName = Joi.string()
  .pattern(/^[0-9a-f]{12}$/)
  .required()
  .description("name of what has arrived");

export const arrivalParams = Joi.object<{ arrival: string }>({ arrival: arrivalName });

export const arrivedTableParams = Joi.object<{ arrival: string; table: number }>({
  arrival: arrivalName,
  table: Joi.number().integer().min(1).max(200).required().description("number of a table in it, counted from 1"),
});

export const arrivedDrawingParams = Joi.object<{ arrival: string; drawing: number }>({
  arrival: arrivalName,
  drawing: Joi.number().integer().min(1).max(50).required().description("number of a drawing in it, counted from 1"),
});

export const sourceParams = Joi.object<{ job: string; file: string }>({
  job: code,
  file: Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .required()
    .description("hash of a file as received"),
});

const matchingName = Joi.string().trim().min(1).max(80).required();

export const matchingParams = Joi.object<{ name: string }>({ name: matchingName.description("name of a matching") });

const fileName = Joi.string()
  .trim()
  .min(1)
  .max(200)
  .pattern(/^(?!\.+$)[^\p{Cc}\/\\]+$/u)
  .required()
  .description("as the file is called");

export const arrivedFileQuery = Joi.object<{ name: string }>({ name: fileName });

export const versionQuery = Joi.object<{ version: number }>({
  version: Joi.number().integer().min(0).required().description("of the arrival, as it was seen"),
});

export const MOST_ATTACHMENTS = 200;

const attachmentName = Joi.string()
  .pattern(/^[0-9a-f]{12}$/)
  .required()
  .description("name of an attachment");

export const attachmentParams = Joi.object<{ job: string; attachment: string }>({
  job: code,
  attachment: attachmentName,
});

export const attachedPageParams = Joi.object<{ job: string; attachment: string; page: number }>({
  job: code,
  attachment: attachmentName,
  page: Joi.number().integer().min(1).max(2000).required().description("number of a page, counted from 1"),
});

export const attachQuery = Joi.object<{ name: string; thing?: AttachedTo; of?: string; who?: string }>({
  name: fileName,
  thing: Joi.string()
    .valid(...ATTACHED_TO)
    .description("kind of the thing it is of; the whole job where it is not said"),
  of: Joi.string().min(1).max(120).description("tag or number of that thing"),
  who: Joi.string().trim().min(1).max(120).description("name of whoever does it"),
}).and("thing", "of");

export const attachmentChange = Joi.object<{ gone: boolean }, true>({
  gone: Joi.boolean().required(),
});

export const takeQuery = Joi.object<{ version: number; who?: string }>({
  version: Joi.number().integer().min(0).required().description("of the arrival, as it was seen"),
  who: Joi.string().trim().min(1).max(120).description("name of whoever does it"),
});

export const MOST_ARRIVED_TABLES = 200;

export const newArrival = Joi.object<{ of: string | null }, true>({
  of: code.allow(null),
});

/** What of an arrival can be changed. */
export interface ArrivalChange {
  version: number;
  job: ArrivalJob;
  tables: Pick<ArrivedTable, "file" | "name" | "asked" | "matching" | "by">[];
  drawings: Pick<ArrivedDrawing, "file" | "name" | "said" | "by">[];
  attachments: Pick<ArrivedAttachment, "file" | "name">[];
}

const line = (most: number) => Joi.string().max(most).allow("").required();
const receivedFile = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required();
const receivedName = Joi.string().min(1).max(200).required();
const keptBy = Joi.string().max(80).allow(null).required();

export const MOST_ARRIVED_DRAWINGS = 20;
export const MOST_ARRIVED_ATTACHMENTS = 50;

export const arrivalChange = Joi.object<ArrivalChange, true>({
  version: Joi.number().integer().min(0).required(),
  job: Joi.object({
    code: line(120),
    title: line(400),
    revision: line(120),
    customer: line(400),
    due: line(40),
  }).required(),
  tables: Joi.array()
    .items(
      Joi.object({
        file: receivedFile,
        name: receivedName,
        asked: askedSchema.required(),
        matching: matchingSchema.allow(null).required(),
        by: keptBy,
      }),
    )
    .max(MOST_ARRIVED_TABLES)
    .required(),
  drawings: Joi.array()
    .items(Joi.object({ file: receivedFile, name: receivedName, said: drawingSchema.required(), by: keptBy }))
    .unique("name")
    .max(MOST_ARRIVED_DRAWINGS)
    .required(),
  attachments: Joi.array()
    .items(Joi.object({ file: receivedFile, name: receivedName }))
    .max(MOST_ARRIVED_ATTACHMENTS)
    .required(),
});

export const keepMatching = Joi.object<Pick<KeptMatching, "tables" | "drawings">>({
  tables: keptTablesSchema.required(),
  drawings: keptDrawingsSchema,
}).custom((kept: Pick<KeptMatching, "tables" | "drawings">, helpers) =>
  kept.tables.length + (kept.drawings?.length ?? 0) > 0 ? kept : helpers.error("any.required"),
);

export interface MatchingList {
  matchings: KeptMatching[];
}

export const stageParams = Joi.object<{ job: string; stage: StageName }>({
  job: code,
  stage: Joi.string()
    .valid(...STAGE_NAMES)
    .required(),
});

export const revisionParams = Joi.object<{ job: string; revision: string }>({
  job: code,
  revision: Joi.string().max(120).required().description("revision of a design that was imported"),
});

export const editParams = Joi.object<{ job: string; id: string }>({
  job: code,
  id: Joi.string().max(60).required(),
});

const resultKey = Joi.string().pattern(/^[0-9a-f]{64}$/);

export const effectQuery = Joi.object<{ since: string; to?: string }>({
  since: resultKey.required().description("key of the earlier computation"),
  to: resultKey.description("key of the later one; without it the one that counts now"),
});

export interface AuditQuery {
  most: number;
  before?: number;
  job?: string;
  as: "json" | "csv";
}

export const auditQuery = Joi.object<AuditQuery>({
  most: Joi.number().integer().min(1).max(1000).default(100).description("entries of one answer as JSON"),
  before: Joi.number().integer().min(1).max(Number.MAX_SAFE_INTEGER).description("number of an entry: those before it"),
  job: code.optional().description("what was done to this job alone"),
  as: Joi.string().valid("json", "csv").default("json"),
});

/** For acts that need nobody's name, and write it down where it is given. */
const doer = Joi.string().trim().min(1).max(120).description("name of whoever does it");
export const whoQuery = Joi.object<{ who?: string }>({ who: doer });

export const deleteQuery = Joi.object<{ anyway: boolean; who?: string }>({
  who: doer,
  anyway: Joi.boolean().default(false).description("true: though files of it are at machines"),
});

export const versionParams = Joi.object<{ number: number }>({ number: Joi.number().integer().min(1).required() });

export const fileParams = Joi.object<{ job: string; name: string }>({
  job: code,
  name: Joi.string().max(120).required(),
});

export const MOST_JOBS = 200;

export const jobsQuery = Joi.object<JobsQuery>({
  q: Joi.string().trim().max(120).allow("").description("text in code, title or customer; * and ? as in search"),
  older: Joi.boolean().default(false).description("only jobs computed with an older shop"),
  from: Joi.number().integer().min(0).max(1_000_000).default(0).description("jobs to pass over"),
  most: Joi.number().integer().min(1).max(MOST_JOBS).default(50),
});

/** Of how many jobs a changed shop is shown what it does to: the ones due first. */
export const effectsQuery = Joi.object<{ most: number }>({ most: Joi.number().integer().min(1).max(100).default(20) });

export const searchQuery = Joi.object<{ q: string; job?: string; most: number }>({
  q: Joi.string().trim().min(1).max(120).required().description("text, with * for any text and ? for one character"),
  job: Joi.string().max(120),
  most: Joi.number().integer().min(1).max(100).default(30),
});

export const errorBody = Joi.object({
  code: Joi.string().required(),
  message: Joi.string().required(),
  where: Joi.string().allow("").required(),
  remedy: Joi.string().required(),
  faults: Joi.array().items(Joi.object({ path: Joi.string(), found: Joi.string(), expected: Joi.string() })),
  faultCount: Joi.number().integer(),
  changed: Joi.array().items(Joi.string()),
  standing: Joi.array().items(Joi.string()),
});

const machine = Joi.string().min(1).max(60).required();

export const programRequest = Joi.object<ProgramRequest, true>({
  id: Joi.string().min(8).max(60).required(),
  sheet: Joi.number().integer().min(1).max(100_000).required(),
  machine,
  face: Joi.string().min(1).max(300).required(),
  setUp: Joi.number().integer().min(1).max(1000).required(),
});

const CODE = "[A-Za-z0-9][A-Za-z0-9._-]{0,119}";

/** `LARK-2601:2,HILL-2604`: jobs whose bars are cut together, and how many panels of each. */
export const cutsQuery = Joi.object<{ jobs: string; as: "json" | "csv" | "pdf" | "labels" }>({
  jobs: Joi.string()
    .pattern(
      new RegExp(`^${CODE}(:([1-9]\\d?|100))?(,${CODE}(:([1-9]\\d?|100))?){0,19}$`),
      "codes with counts, such as A:2,B",
    )
    .required(),
  as: Joi.string().valid("json", "csv", "pdf", "labels").default("json"),
});

export const machineJobParams = Joi.object({
  machine,
  id: Joi.string()
    .pattern(/^\d{1,9}$/, "a number")
    .required(),
});

const list = Joi.string().min(1).max(200).required().description("name of the list, such as strip -X2");

/** Nobody is without a network longer than a quarter of a year. */
const MOST_AGO_MS = 90 * 24 * 3_600_000;

export const tickRequest = Joi.object<OldTicks, true>({
  list,
  who,
  ticks: Joi.array()
    .items(
      Joi.object({
        id: Joi.string().min(8).max(60).required(),
        item: Joi.string().min(1).max(400).required(),
        done: Joi.boolean().required(),
        agoMs: Joi.number().integer().min(0).max(MOST_AGO_MS),
      }),
    )
    .min(1)
    .max(500)
    .required(),
});

const pickText = Joi.string().max(700);

const picker = Joi.object<Picker, true>({
  device: Joi.string().min(8).max(60).required(),
  who,
  kit: pickText.min(1).required(),
  line: pickText.allow("").required(),
});

export const pickRequest = Joi.object<PickRequest, true>({
  since: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
  events: Joi.array()
    .items(eventForm(PICK as AnyEventKind))
    .max(500)
    .required(),
  here: picker,
});

export const picksQuery = Joi.object<{ since: number }>({
  since: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).default(0),
});

const since = Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER);
const kind = Joi.string()
  .valid(...EVENT_KINDS.map((k) => k.kind))
  .required();
/** Of kinds whose things have logs of their own, and all of a request are of it. */
const thing = Joi.when("kind", {
  switch: EVENT_KINDS.filter((k) => k.apart).map((k) => ({ is: k.kind, then: k.thing.form.required() })),
  otherwise: Joi.forbidden(),
});

const here = Joi.object<Here, true>({
  device: Joi.string().min(8).max(60).required(),
  who,
  thing: pickText.min(1).required(),
  part: pickText.allow("").required(),
});

export const eventRequest = Joi.object<EventRequest>({
  kind,
  thing,
  since: since.required(),
  clock: MOMENT,
  events: Joi.array()
    .max(500)
    .required()
    .when("kind", {
      switch: EVENT_KINDS.map((k) => {
        const form = eventForm(k);
        const item = k.apart ? form.keys({ [k.thing.field]: Joi.valid(Joi.ref("....thing")).required() }) : form;
        return { is: k.kind, then: Joi.array().items(item) };
      }),
    }),
  here,
});

export const eventQuery = Joi.object<EventQuery>({ kind, thing, since: since.default(0) });

/** `partly`: where not all is there, what is there. */
export const reserveRequest = Joi.object<{ who: string; partly: boolean }, true>({
  who,
  partly: Joi.boolean().required(),
});

export const revisionQuery = Joi.object<{ revision: string }>({
  revision: Joi.string().min(1).max(120).required(),
});

/** So many jobs are looked at together. */
export const MOST_NEEDING = 50;

/** Named jobs, or the ones that are due first. */
export const needsQuery = Joi.object<{ jobs?: string; as: "json" | "csv" | "purchase" | "xlsx" }>({
  jobs: Joi.string().pattern(new RegExp(`^${CODE}(,${CODE}){0,${MOST_NEEDING - 1}}$`), "codes, such as A,B"),
  as: Joi.string().valid("json", "csv", "purchase", "xlsx").default("json"),
});

const words = Joi.string().trim().min(1).max(500);

const batchFields = {
  faces: Joi.array().items(Joi.string().max(300)).max(500).required(),
  panels: Joi.number().integer().min(1).max(MOST_PANELS).required(),
  machine: Joi.string().max(60).allow(null).required(),
  way: Joi.string()
    .valid(...WAYS)
    .required(),
  fallbacks: Joi.object({ who, why: words.required() }).allow(null).required(),
};

export const batchAsked = Joi.object<Omit<BatchAsked, "name">, true>(batchFields);
export const batchRequest = Joi.object<BatchRequest, true>({ ...batchFields, who });

const batch = Joi.string()
  .pattern(/^B[1-9]\d{0,5}$/, "a batch, such as B1")
  .required();

export const batchParams = Joi.object<{ job: string; batch: string }>({ job: code, batch });
export const batchFileParams = Joi.object<{ job: string; batch: string; name: string }>({
  job: code,
  batch,
  name: Joi.string().max(120).required(),
});

export const leadRequest = Joi.object<LeadRequest, true>({
  events: Joi.array()
    .items(eventForm(LEAD as AnyEventKind))
    .min(1)
    .max(500)
    .required(),
});

export const sendRequest = Joi.object<{ who: string }, true>({ who });
export const printRequest = Joi.object<{ who: string; printer: string }, true>({ who, printer: machine });

export const wireMachineParams = Joi.object<{ machine: string }>({ machine });
export const reelRequest = Joi.object<{ reel: string; metres: number }, true>({
  reel: Joi.string().trim().min(1).max(120).required(),
  metres: Joi.number().greater(0).max(100_000).required(),
});
export const magazineRequest = Joi.object<{ part: string }, true>({
  part: Joi.string().trim().min(1).max(120).required(),
});
