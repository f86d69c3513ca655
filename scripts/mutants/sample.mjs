import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { PluginKind, declareClassPlugin } from "@stryker-mutator/api/plugin";

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

export const strykerPlugins = [declareClassPlugin(PluginKind.Checker, "sample", Sample)];
