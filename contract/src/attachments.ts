import { flag, form, maybe, objectOf, oneOf } from "@gray-bench/core/form/form";
import type { DocumentsFound } from "@gray-bench/core/attachments/find";
import type { PageFound } from "@gray-bench/core/attachments/places";
import Joi from "joi";
import { code, fileName } from "./common";

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

export const MOST_ATTACHMENTS = 200;

const attachmentName = form(
  Joi.string()
    .pattern(/^[0-9a-f]{12}$/)
    .description("name of an attachment"),
);

export const attachmentParams = objectOf({
  job: code,
  attachment: attachmentName,
});

export const attachedPageParams = objectOf({
  job: code,
  attachment: attachmentName,
  page: form(Joi.number().integer().min(1).max(2000).description("number of a page, counted from 1")),
});

export const attachQuery = objectOf({
  name: fileName,
  thing: maybe(oneOf(ATTACHED_TO).description("kind of the thing it is of; the whole job where it is not said")),
  of: maybe(form(Joi.string().min(1).max(120).description("tag or number of that thing"))),
  who: maybe(form(Joi.string().trim().min(1).max(120).description("name of whoever does it"))),
}).and("thing", "of");

export const attachmentChange = objectOf({
  gone: flag,
});
