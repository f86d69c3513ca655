const { createEmptyTestResult } = require("@jest/test-result");
const circus = require("jest-circus/runner");

let noticed = "";

/** Runs test files one after another until one fails: a fault that was noticed need not be noticed again. */
module.exports = async function untilNoticed(...args) {
  const fault = process.env.__STRYKER_ACTIVE_MUTANT__;
  if (fault && fault === noticed) return { ...createEmptyTestResult(), testFilePath: args[4] };
  const result = await circus(...args);
  if (fault && (result.numFailingTests > 0 || result.testExecError)) noticed = fault;
  return result;
};
