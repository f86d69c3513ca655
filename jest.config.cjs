/** Packages that ship ES modules only. */
const ESM =
  "cookie|flatqueue|flatbush|@noble|fflate|d3-[a-z-]+|read-excel-file|csv-parse|csv-stringify|unzipper-esm|pdfjs-dist|p-queue|p-timeout|eventemitter3|three|@gray-bench";

const node = (name, more = {}) => ({
  displayName: name,
  rootDir: __dirname,
  testEnvironment: "node",
  testMatch: [`<rootDir>/${name}/**/*.test.ts`],
  transform: { "\\.[mc]?[jt]s$": "<rootDir>/scripts/jest-transform.cjs" },
  transformIgnorePatterns: [`/node_modules/(?!(${ESM})/)`],
  testPathIgnorePatterns: ["/node_modules/", "<rootDir>/dist/"],
  modulePathIgnorePatterns: ["<rootDir>/dist/"],
  ...more,
});

const BUILT = { globalSetup: `${__dirname}/scripts/build-first.cjs` };

module.exports = {
  // Slow only where the disk is: every acknowledged write is synced.
  testTimeout: 30_000,
  projects: [
    node("core"),
    node("designs"),
    node("server", BUILT),
    node("standins"),
    {
      displayName: "app",
      rootDir: `${__dirname}/app`,
      preset: "jest-expo/web",
      testMatch: ["<rootDir>/src/**/*.test.{ts,tsx}"],
      setupFiles: [`${__dirname}/app/src/test/device.cjs`],
      transform: { "\\.mjs$": "babel-jest" },
      transformIgnorePatterns: [
        `/node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|react-navigation|@react-navigation/.*|react-native-svg|lucide-react-native|nativewind|react-native-css-interop|${ESM}))`,
      ],
    },
    node("e2e", BUILT),
  ],
};
