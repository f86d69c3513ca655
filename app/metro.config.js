const path = require("node:path");
const { getDefaultConfig } = require("expo/metro-config");
const { withNativeWind } = require("nativewind/metro");

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push("woff2");
config.watchFolders = [path.resolve(__dirname, "..")];

/**
 * Whole stages are computed, compared, explained and written by the server alone. The app takes edits and rules of them: what does the
 * rest is no part of it, nor of what its views share and a phone fetches first.
 */
const STAGE = /core[\\/]src[\\/][a-z]+[\\/]stage\.ts$/;
const OF_THE_SERVER = new Set(["./files", "./compute", "./compare", "./explain"]);
config.resolver.resolveRequest = (context, name, platform) =>
  OF_THE_SERVER.has(name) && STAGE.test(context.originModulePath)
    ? { type: "empty" }
    : context.resolveRequest(context, name, platform);

module.exports = withNativeWind(config, { input: "./src/global.css", configPath: "./tailwind.config.ts" });
