const Sequencer = require("@jest/test-sequencer").default;

/** Test files that walk thousands of drawn designs come last: most faults are noticed before them. */
const SLOW = ["run.test.ts", "routes.test.ts", "tape.test.ts", "read.test.ts"];
const rank = (test) => SLOW.findIndex((name) => test.path.endsWith(`/${name}`));

module.exports = class QuickFirst extends Sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => rank(a) - rank(b) || (a.path < b.path ? -1 : 1));
  }
};
