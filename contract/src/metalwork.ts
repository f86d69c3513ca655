import { filled, form, objectOf, oneOf, type ValueOf } from "@gray-bench/core/form/form";
import Joi from "joi";
import { machine } from "./common";

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

export interface ProgramReply {
  machine: string;
  /** The name under which it went there: no other program ever has it. */
  program: string;
  /** Its number there; null where the machine left before it said one: it may have it all the same. */
  id: number | null;
}

export const programRequest = objectOf({
  /** Given by whoever sends it: the same one asked twice is sent once. */
  id: form(Joi.string().min(8).max(60)),
  /** Number of the sheet it is for. */
  sheet: form(Joi.number().integer().min(1).max(100_000)),
  machine,
  face: form(Joi.string().min(1).max(300)),
  setUp: form(Joi.number().integer().min(1).max(1000)),
});
export interface ProgramRequest extends ValueOf<typeof programRequest> {}

export const CODE = "[A-Za-z0-9][A-Za-z0-9._-]{0,119}";

/** `LARK-2601:2,HILL-2604`: jobs whose bars are cut together, and how many panels of each. */
export const cutsQuery = objectOf({
  jobs: form(
    Joi.string().pattern(
      new RegExp(`^${CODE}(:([1-9]\\d?|100))?(,${CODE}(:([1-9]\\d?|100))?){0,19}$`),
      "codes with counts, such as A:2,B",
    ),
  ),
  as: filled(oneOf(["json", "csv", "pdf", "labels"]), "json"),
});

export const machineJobParams = objectOf({
  machine,
  id: form(Joi.string().pattern(/^\d{1,9}$/, "a number")),
});
