import type { Question } from "../frame/question";
import type { BatchAsked, MadeBatch } from "./batch";
import type { BatchDocument } from "./documents";
import type { Written } from "./profile";
import type { WireprepResult } from "./result";

/** A batch of leads that are in none yet; or why there is none. */
export const BATCH: Question<
  { asked: BatchAsked; taken: readonly string[] },
  WireprepResult,
  MadeBatch | { wrong: string; remedy: string }
> = {
  stage: "wireprep",
  name: "batch",
  async answer({ asked, taken }, [result], { wireprep }) {
    return (await import("./make")).makeBatch(result!, asked, new Set(taken), wireprep);
  },
};

/** The file of some leads of a batch, for its machine. */
export const LEADS_FILE: Question<{ batch: MadeBatch; name: string; leads: string[] }, never, Written> = {
  stage: "wireprep",
  name: "file of leads",
  async answer({ batch, name, leads }, _, { wireprep }) {
    return (await import("./documents")).fileOfLeads(batch, name, leads, wireprep);
  },
};

/** A document of a batch. */
export const DOCUMENT: Question<{ batch: MadeBatch; job: string; as: BatchDocument }, never, Written> = {
  stage: "wireprep",
  name: "document",
  async answer({ batch, job, as }, _, { wireprep }) {
    return (await import("./documents")).documentOf(batch, job, as, wireprep);
  },
};
