const path = require("node:path");
const { getDefaultConfig } = require("expo/metro-config");
const { withNativeWind } = require("nativewind/metro");

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push("woff2");
config.watchFolders = [path.resolve(__dirname, "..")];

module.exports = withNativeWind(config, { input: "./src/global.css", configPath: "./tailwind.config.ts" });
