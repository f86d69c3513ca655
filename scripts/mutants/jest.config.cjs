const { projects, testTimeout } = require("../../jest.config.cjs");

const { displayName: _name, rootDir: _root, ...core } = projects.find((p) => p.displayName === "core");

/** The tests of core alone, quick files first, ended at the first that fails. */
module.exports = {
  ...core,
  rootDir: `${__dirname}/../..`,
  testTimeout,
  setupFiles: [`${__dirname}/first-failure.cjs`],
  testSequencer: `${__dirname}/quick-first.cjs`,
  testRunner: `${__dirname}/jest-circus-until-noticed.cjs`,
};
