import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { declareClassPlugin, PluginKind } from "@stryker-mutator/api/plugin";

/** What tells one fault from another: where it is and what stands there instead. */
export const keyOf = (m, from) =>
  [
    relative(from, m.fileName),
    m.location.start.line,
    m.location.start.column,
    m.location.end.line,
    m.location.end.column,
    m.replacement,
  ].join(":");

/** Lets only the faults of the sample be tried; a file beside it lists them. */
class Sample {
  async init() {
    this.chosen = new Set(JSON.parse(readFileSync(process.env.GRAY_BENCH_SAMPLE, "utf8")));
  }

  async check(mutants) {
    return Object.fromEntries(
      mutants.map((m) => [
        m.id,
        this.chosen.has(keyOf(m, process.cwd()))
          ? { status: "passed" }
          : { status: "compileError", reason: "not of the sample" },
      ]),
    );
  }

  async group(mutants) {
    return [mutants.map((m) => m.id)];
  }
}

const oneLine = (text) => text.trim().replace(/\s+/g, " ").slice(0, 110);

/** Place, kind and text of a fault, for a person who goes after it. */
function lineOf(m, from) {
  const { line } = m.location.start;
  const text = readFileSync(m.fileName, "utf8").split("\n")[line - 1] ?? "";
  return `${relative(from, m.fileName)}:${line} ${m.mutatorName} ${m.status}\n    ${oneLine(text)}\n    → ${oneLine(m.replacement ?? "")}`;
}

/** Tells of every fault that no test noticed as soon as it is known. */
class Unnoticed {
  onMutantTested(m) {
    if (m.status === "Survived" || m.status === "NoCoverage" || m.status === "Timeout")
      console.log(lineOf(m, process.cwd()));
  }
}

export const strykerPlugins = [
  declareClassPlugin(PluginKind.Checker, "sample", Sample),
  declareClassPlugin(PluginKind.Reporter, "unnoticed", Unnoticed),
];
