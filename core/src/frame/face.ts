import type { Design } from "../design/model";
import type { Rules } from "../shop/rules";
import type { StageName } from "../stage-names";
import type { AnyEditKind } from "./edits";
import type { AnyEventKind } from "./event-kind";

/**
 * What whoever looks at a stage needs of it: what may be changed, what its rules come to, what its files are. It computes no stage and
 * writes no file, so that an application may fetch it.
 */
export interface Face<Result = never> {
  name: StageName;
  /** What a person may change here. */
  edits: readonly AnyEditKind[];
  /** What may happen to its things. */
  events?: readonly AnyEventKind[];
  /** What its files are, in words, by name. */
  files: Readonly<Record<string, string>>;
  /** Names of files that a job has of one kind for each of its things, what they are in words by the form of their names. */
  filesEach?: readonly { like: RegExp; name: string; text: string }[];
  /** Which wires each row of an ordered table takes now, by the table's place in the shop's rules. */
  ruleUse?: Readonly<Record<string, (design: Design, shop: Rules) => string[][]>>;
  /** What a pattern of the shop comes to on real things of a job, by the pattern's place in the shop's rules. */
  examples?: Readonly<Record<string, (text: string, result: Result) => string[]>>;
}
