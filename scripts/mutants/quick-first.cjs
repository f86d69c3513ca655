const { dirname } = require("node:path");
const Sequencer = require("@jest/test-sequencer").default;

/** Test files that walk thousands of drawn designs come last: most faults are noticed before them. */
const SLOW = ["formats", "schema", "reads", "edits", "sheet", "round", "run", "properties", "tape", "broken"];

/** Quick files first, and of these the ones that stand beside the file with the fault. */
module.exports = class QuickFirst extends Sequencer {
  constructor(options) {
    super(options);
    this.folder = dirname(options?.globalConfig?.nonFlagArgs?.[0] ?? "");
  }

  rank({ path }) {
    const slow = SLOW.findIndex((name) => path.endsWith(`/${name}.test.ts`));
    return slow >= 0 ? slow + 1 : dirname(path) === this.folder ? -1 : 0;
  }

  sort(tests) {
    return [...tests].sort((a, b) => this.rank(a) - this.rank(b) || (a.path < b.path ? -1 : 1));
  }
};
