const { transformSync } = require("esbuild");

/** Turns TypeScript and ES modules into what Jest runs. */
module.exports = {
  process: (source, path) => ({
    code: transformSync(source, {
      loader: path.endsWith(".ts") ? "ts" : "js",
      format: "cjs",
      target: "node20",
      sourcemap: "inline",
      sourcefile: path,
    }).code,
  }),
};
