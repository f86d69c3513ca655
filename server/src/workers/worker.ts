import { createHash } from "node:crypto";
import type { Entry } from "@gray-bench/core/design/find";
import { searchEntries } from "@gray-bench/core/design/find";
import { contentHash, canonicalJson } from "@gray-bench/core/design/hash";
import type { Unfitting } from "@gray-bench/core/design/edits";
import { EDITS } from "@gray-bench/core/edits";
import type { Design } from "@gray-bench/core/design/model";
import { countPoints, type OpenPoint } from "@gray-bench/core/design/open-points";
import { readDesign } from "@gray-bench/core/design/read";
import { allFiles, runStages, type JobResults } from "@gray-bench/core/run";
import { STAGES } from "@gray-bench/core/stages";
import { STAGE_NAMES } from "@gray-bench/core/stage-names";
import type { DesignHead, StageSummary } from "@gray-bench/contract/api";
import { figuresOf } from "./figures";
import type {
  ComputeAnswer,
  ComputeTask,
  FilesAnswer,
  FilesTask,
  LayAnswer,
  LayTask,
  NotLaid,
  ReadAnswer,
  ReadTask,
  StageMessage,
  StoredBytes,
  Summary,
  Task,
} from "./tasks";

/** Runs in a worker thread: everything that takes longer than a few milliseconds. */
export default function work(task: Task): unknown {
  switch (task.kind) {
    case "read":
      return read(task);
    case "compute":
      return compute(task);
    case "files":
      return files(task);
    case "lay":
      return lay(task);
  }
}

function read({ bytes }: ReadTask): ReadAnswer {
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return {
      ok: false,
      faults: [{ path: "the whole file", found: "bytes that are not UTF-8", expected: "a text file in UTF-8" }],
      count: 1,
    };
  }
  const result = readDesign(text);
  if (!result.ok) return result;
  const { job } = result.design;
  return {
    ok: true,
    hash: contentHash(result.design),
    json: new TextEncoder().encode(canonicalJson(result.design)),
    head: headOf(result.design),
    job: {
      code: job.code,
      title: job.title,
      customer: job.customer ?? null,
      due: job.due ?? null,
      revision: job.revision,
    },
  };
}

const headOf = ({ enclosures, options, rules }: Design): DesignHead => ({
  enclosures: enclosures.map(({ tag, text, w, h, d }) => ({ tag, text: text ?? "", w, h, d })),
  hinges: Object.fromEntries(enclosures.map((e) => [e.tag, e.hinge ?? "left"])),
  options,
  rules,
});

function lay({ received, log, add, turn }: LayTask): LayAnswer {
  const design = parse(received) as Design;
  let edits = log;
  if (turn) {
    const turned = EDITS.turn(design, log, turn.id, turn.back);
    if (!turned.ok) return { ok: false, standing: turned.standing.map(notLaid) };
    edits = turned.log;
  }
  const laid = EDITS.lay(design, edits);
  let current = laid.design;
  for (const [index, edit] of add.entries()) {
    const applied = EDITS.apply(current, edit);
    if (!applied.ok) return { ok: false, index, reason: applied.reason, remedy: applied.remedy };
    current = applied.design;
  }
  return {
    ok: true,
    hash: contentHash(current),
    json: new TextEncoder().encode(canonicalJson(current)),
    head: headOf(current),
    unfitting: laid.unfitting.map(notLaid),
  };
}

const notLaid = ({ edit, reason, remedy }: Unfitting): NotLaid => ({
  id: edit.id,
  sentence: EDITS.sentence(edit),
  reason,
  remedy,
});

const parse = (json: Uint8Array): unknown => JSON.parse(new TextDecoder().decode(json));

const SHARE_STEP = 0.02;

function compute({ json, port }: ComputeTask): ComputeAnswer {
  const design = parse(json) as Design;
  let told = { stage: "", share: -1 };
  const results = runStages(design, undefined, (stage, share) => {
    if (stage === told.stage && share < 1 && share - told.share < SHARE_STEP) return;
    told = { stage, share };
    port.postMessage({ stage, share } satisfies StageMessage);
  });
  port.close();
  const entries: Entry[] = searchEntries(design);
  return [
    ...STAGES.map((s) => stored(s.name, results.stages[s.name])),
    stored("open", { open: results.open }),
    stored("summary", summarise(design, results)),
    stored("search", entries),
  ];
}

function summarise(design: Design, results: JobResults): Summary {
  const stages = STAGE_NAMES.map((stage): StageSummary => {
    const result = results.stages[stage];
    // Counted from the marked list: what is accepted is not open.
    const open = countPoints(results.open.filter((p) => p.stage === stage));
    const any = open.stop + open.check + open.note > 0;
    return { stage, state: !result ? "not started" : any ? "open" : "ready", open };
  });
  return { stages, open: countPoints(results.open), figures: figuresOf(design, results) };
}

async function files({ stages, open }: FilesTask): Promise<FilesAnswer> {
  const results = Object.fromEntries(Object.entries(stages).map(([name, bytes]) => [name, parse(bytes)]));
  const out = await allFiles({
    stages: results as JobResults["stages"],
    open: (parse(open) as { open: OpenPoint[] }).open,
  });
  return out.map((f) => ({ name: `file:${f.name}`, type: f.type, etag: etagOf(f.bytes), bytes: f.bytes }));
}

function stored(name: string, value: unknown): StoredBytes {
  const bytes = new TextEncoder().encode(JSON.stringify(value));
  return { name, type: "application/json; charset=utf-8", etag: etagOf(bytes), bytes };
}

const etagOf = (bytes: Uint8Array): string => `"${createHash("sha256").update(bytes).digest("hex").slice(0, 32)}"`;
