const { createHash } = require("node:crypto");
const { readFileSync } = require("node:fs");
const { transformSync } = require("esbuild");

const own = readFileSync(__filename);

/** Turns TypeScript and ES modules into what Jest runs. */
module.exports = {
  getCacheKey: (source, path) => createHash("sha1").update(own).update(path).update("\0").update(source).digest("hex"),
  process: (source, path) => ({
    code: transformSync(source, {
      loader: path.endsWith(".ts") ? "ts" : "js",
      format: "cjs",
      // What is imported when it is wanted is required then: there are no modules in here.
      supported: { "dynamic-import": false },
      target: "node20",
      sourcemap: "inline",
      sourcefile: path,
    }).code,
  }),
};
