/** What tests start is built from the sources of now: what was built yesterday is another program. */
module.exports = async () => {
  const { buildStale } = await import("./lib.mjs");
  await buildStale();
};
