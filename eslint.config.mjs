import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["**/node_modules/**", "**/dist/**", "**/*.cjs", "**/*.mjs", "app/*.js", "out/**", "data/**"] },
  ...tseslint.configs.recommended,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/consistent-type-imports": ["error", { disallowTypeAnnotations: false }],
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/no-explicit-any": "error",
      // A type that is made of a form gets a name of its own by an interface: messages and hints then say the name.
      "@typescript-eslint/no-empty-object-type": ["error", { allowInterfaces: "with-single-extends" }],
      eqeqeq: "error",
      "no-console": "error",
    },
  },
  {
    files: ["app/src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  {
    files: ["app/src/**/*.tsx"],
    rules: {
      "no-restricted-syntax": [
        "error",
        ...["Literal[value=/-\\[[0-9]+px\\]/]", "TemplateElement[value.raw=/-\\[[0-9]+px\\]/]"].map((selector) => ({
          selector,
          message: "Sizes are tokens (app/src/kit/tokens.ts), so that they grow with the text a person has chosen.",
        })),
      ],
    },
  },
  {
    // The heart computes: no clock, no chance, no files, no network.
    files: ["core/src/**/*.ts"],
    ignores: ["**/*.test.ts", "core/src/test/**"],
    rules: {
      "no-restricted-globals": ["error", "fetch", "process", "Buffer", "window", "document", "setTimeout"],
      "no-restricted-properties": [
        "error",
        { object: "Math", property: "random" },
        { object: "Date", property: "now" },
      ],
      "no-restricted-imports": [
        "error",
        { patterns: ["node:*", "fs", "path", "react", "react-*", "fastify", "kysely"] },
      ],
    },
  },
  {
    files: [
      "server/src/main.ts",
      "server/src/cli.ts",
      "server/src/keep.ts",
      "bench/**",
      "e2e/**",
      "standins/src/*/main.ts",
    ],
    rules: { "no-console": "off" },
  },
);
