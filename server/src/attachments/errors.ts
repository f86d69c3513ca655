import { BenchError } from "../errors";

export const noSuchAttachment = (job: string, id: string): BenchError =>
  new BenchError(404, {
    code: "attachment.unknown",
    message: `There is no attachment ${id} of ${job}.`,
    where: id,
    remedy: "Open the list of attachments again.",
  });

export const noSuchPage = (name: string, page: number): BenchError =>
  new BenchError(404, {
    code: "attachment.page.unknown",
    message: `${name} has no page ${page}.`,
    where: String(page),
    remedy: "Open the document at its first page.",
  });

/** A file that is none of those that can be attached, or cannot be read as what it says it is. */
export const notAttachable = (name: string, found: string, remedy: string): BenchError =>
  new BenchError(422, {
    code: "attachment.refused",
    message: `${name} cannot be attached: ${found}.`,
    where: name,
    remedy,
  });

export const attachmentsFull = (job: string, message: string): BenchError =>
  new BenchError(409, {
    code: "attachments.full",
    message: `${message} Nothing was attached.`,
    where: job,
    remedy: "Delete one that is not needed any more.",
  });
