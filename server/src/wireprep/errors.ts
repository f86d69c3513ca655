import { BenchError } from "../errors";

export const noSuchBatch = (job: string, batch: string): BenchError =>
  new BenchError(404, {
    code: "batch.unknown",
    message: `Job ${job} has no batch ${batch}.`,
    where: "batch",
    remedy: "Open its list of batches.",
  });

export const noBatch = (wrong: string, remedy: string): BenchError =>
  new BenchError(409, { code: "batch.none", message: `No batch was made: ${wrong}.`, where: "batch", remedy });

export const leadsTaken = (): BenchError =>
  new BenchError(409, {
    code: "batch.taken",
    message: "Somebody else made a batch just now. Nothing was made.",
    where: "batch",
    remedy: "Look at what is left, and make the batch again.",
  });

export const batchEnded = (batch: string): BenchError =>
  new BenchError(409, {
    code: "batch.ended",
    message: `${batch} has ended. Nothing was changed.`,
    where: "batch",
    remedy: "Make a new batch of what it left.",
  });

export const nothingToSend = (batch: string, why: string): BenchError =>
  new BenchError(409, {
    code: "batch.nothing",
    message: `Nothing of ${batch} goes to a machine: ${why}.`,
    where: "batch",
    remedy: "See its leads: each says where it is.",
  });

export const noFileFor = (machine: string, why: string): BenchError =>
  new BenchError(409, {
    code: "batch.file",
    message: `There is no file for ${machine}: ${why}`,
    where: "files of machines",
    remedy: "Correct the profile in the rules of the shop.",
  });

export const atMachine = (lead: string): BenchError =>
  new BenchError(409, {
    code: "lead.at-machine",
    message: `${lead} is at the machine. Nothing was written down.`,
    where: lead,
    remedy: "Wait for what the machine says of it, or stop its file there.",
  });

export const noSuchLead = (lead: string): BenchError =>
  new BenchError(404, {
    code: "lead.unknown",
    message: `The batch has no lead ${lead}. Nothing was written down.`,
    where: "lead",
    remedy: "Open the batch anew.",
  });

export const laterAttempt = (lead: string): BenchError =>
  new BenchError(409, {
    code: "lead.later",
    message: `${lead} is being made again already. Nothing was undone.`,
    where: lead,
    remedy: "Say of the new one what is to be said.",
  });

export const tooManyLeadEvents = (job: string): BenchError =>
  new BenchError(409, {
    code: "leads.full",
    message: `The log of leads of ${job} is full. Nothing was written down.`,
    where: job,
    remedy: "Go on in a job of its own.",
  });

export const stillAtMachine = (batch: string): BenchError =>
  new BenchError(409, {
    code: "batch.at-machine",
    message: `Files of ${batch} are still at the machine. Nothing was ended.`,
    where: "batch",
    remedy: "Stop them at the machine first.",
  });
