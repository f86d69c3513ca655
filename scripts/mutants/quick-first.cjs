const Sequencer = require("@jest/test-sequencer").default;

/** Test files that walk thousands of drawn designs come last: most faults are noticed before them. */
const SLOW = ["schema", "reads", "edits", "sheet", "round", "run", "properties", "tape", "broken"];
const rank = (test) => SLOW.findIndex((name) => test.path.endsWith(`/${name}.test.ts`));

module.exports = class QuickFirst extends Sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => rank(a) - rank(b) || (a.path < b.path ? -1 : 1));
  }
};
